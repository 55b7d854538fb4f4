#include "fit/words.h"

#include "discipline/wording.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {

using discipline::inSentence;
using quantity::lengthText;
using quantity::Shown;

std::string accessFindingId(const ToolAccess& access) { return "access:" + access.owner + "/" + access.id; }

std::string suspectWords(const model::Project& project, const MeasuredReport& measured, Shown shown) {
    if (measured.suspects.empty()) return {};
    const auto words = [&](const Suspect& suspect) {
        const std::string off = model::moveWords(project, suspect.off_vehicle_mm, shown);
        return (suspect.body ? "the " + inSentence(suspect.name) : "the whole " + suspect.name) +
               (off.empty() ? "" : ", about " + off + " of its planned place");
    };
    const Suspect& first = measured.suspects.front();
    std::string out = "It looks like " + words(first);
    const double best =
        std::min_element(measured.suspects.begin(), measured.suspects.end(), [](const auto& x, const auto& y) {
            return x.misfit < y.misfit;
        })->misfit;
    if (measured.suspects.size() > 1 && measured.suspects[1].misfit < best + as_likely_misfit)
        out += "; as likely " + words(measured.suspects[1]) + ". Another gap to either would tell";
    return out + ". Measure it again.";
}

std::string findingId(const PairGap& pair) { return "gap:" + pair.a.text() + ":" + pair.b.text(); }

namespace {
std::string along(const model::Project& project, Way way, const std::string& length, const std::string& turn) {
    switch (way) {
    case Way::Forward: return length + " forward";
    case Way::Rearward: return length + " rearward";
    case Way::Left: return length + " " + model::sideWord(project, false);
    case Way::Right: return length + " " + model::sideWord(project, true);
    case Way::Up: return length + " up";
    case Way::Down: return length + " down";
    case Way::TailUp: return "tail up " + turn;
    case Way::TailDown: break;
    }
    return "tail down " + turn;
}
} // namespace

std::string wayWords(const model::Project& project, Way way, double amount, const Shown& shown) {
    const bool whole_mm = !shown.inches() && amount == std::floor(amount);
    return along(project, way, quantity::lengthTextUp(amount, shown, whole_mm ? 0 : 1), // enough, not nearly enough
                 quantity::angleText(amount, 2));
}

double turnDown_deg(double turn_deg) {
    constexpr double finest_deg = 0.01;
    return std::floor(turn_deg / finest_deg + 1e-6) * finest_deg;
}

std::string roomWords(const model::Project& project, const Room& room, const Shown& shown) {
    return (room.beyond ? "over " : "") + along(project, room.way,
                                                quantity::lengthTextDown(room.amount, shown, room.beyond ? 0 : 1),
                                                quantity::angleText(turnDown_deg(room.amount), 2));
}

std::string wayWords(const model::Project& project, const WayOut& way, const Shown& shown) {
    const std::string first = wayWords(project, way.way, way.amount, shown);
    return way.then ? first + ", then " + wayWords(project, way.then->way, way.then->amount, shown) : first;
}

std::string gapWords(const PairGap& pair, Shown shown) {
    if (pair.beyond()) return "> " + lengthText(pair.range_mm, shown, 0);
    if (pair.overlap() && !pair.gap.depth_found)
        return pair.gap.gap_mm < 0 ? "deeper than " + lengthText(-pair.gap.gap_mm, shown, 0) : "overlaps";
    return lengthText(pair.gap.gap_mm, shown, 1);
}

std::string gapWords(const Moment& moment, Shown shown) {
    if (moment.overlap())
        return moment.gap.depth_found ? lengthText(moment.gap.gap_mm, shown, 1)
                                      : "overlaps"; // its depth was not searched, or is beyond the search
    if (moment.bound) return "at least " + lengthText(moment.gap.gap_mm, shown, 0);
    if (!moment.complete)
        return "at least " + lengthText(std::max(0.0, moment.gap.gap_mm - moment.hidden_mm), shown, 0);
    if (moment.beyond()) return "> " + lengthText(moment.range_mm, shown, 0);
    return lengthText(moment.gap.gap_mm, shown, 1);
}

std::string momentWords(const model::Project& project, const ClearanceReport& report, const Moment& moment,
                        Shown shown) {
    if (moment.sag) {
        const auto end = [&](const std::optional<double>& mm, const char* where) {
            return mm ? lengthText(std::abs(*mm), shown, 0) + (*mm < 0 ? " out at the " : " in at the ") + where
                      : std::string();
        };
        const std::string front = end(report.sag.front_mm, "front"), rear = end(report.sag.rear_mm, "rear");
        return "springs " + front + (front.empty() || rear.empty() ? "" : ", ") + rear;
    }
    if (moment.bound || !report.movement) return {};
    const auto away = [](double v) { return v != 0; };
    if (moment.growth_mm > 0 && std::none_of(moment.state.begin(), moment.state.end(), away)) return "grown hot";
    if (moment.state.empty()) return {};
    return stateWords(project, *report.movement, moment.state, shown);
}

} // namespace gabarit::fit
