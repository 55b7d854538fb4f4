#include "make/compare.h"
#include "fit/fit_report.h"
#include "fit/words.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace gabarit::make {
namespace {

using quantity::Shown;

using Write = std::function<std::string(double)>;
constexpr double least_mm = 0.05, least_deg = 0.005, least_whole = 0.5;

/// A figure that may be known, and how it is written.
struct Figure {
    std::string name;
    std::optional<double> value;
    std::string text; ///< of the value as its report says it; empty: written from the value
    Write write;
    int more_is = 0;  ///< +1: more is better, −1: less is, 0: neither
    double least = 0; ///< smaller differences are not seen in what is written
    /// Of a gauge that shows whichever check stands worst: two of them may be of different things and units, so that
    /// verdicts are compared, not figures.
    std::optional<model::Verdict> verdict{};
    std::optional<model::Verdict> state{}; ///< of a gauge, whether figures or verdicts are compared
    bool counts_no_go = false;

    std::string words() const { return !text.empty() ? text : value ? write(*value) : "not known"; }
};

std::vector<Figure> figuresOf(const study::Reports& reports, Shown shown) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    std::vector<Figure> out;
    const Write length = [shown](double mm) { return quantity::lengthText(mm, shown, 1); };
    const Write angle = [](double deg) { return quantity::angleText(deg, 2); };
    const Write mass = [shown](double kg) { return quantity::massText(kg, shown, 0); };
    const Write count = [](double n) { return quantity::fixed(n, 0); };
    if (fitted.clearance) {
        int bad = 0, overlaps = 0;
        for (const fit::PairGap& pair : fitted.clearance->pairs) {
            bad += pair.verdict == model::Verdict::NoGo;
            overlaps += pair.overlap();
        }
        for (const auto& [name, n] : {std::pair("Gaps too small", bad), std::pair("of them overlaps", overlaps)}) {
            out.push_back({name, n, "", count, -1, least_whole});
            out.back().counts_no_go = true;
        }
    }
    for (const study::Gauge& gauge : reports.gauges) {
        const bool axle = gauge.id == "front" || gauge.id == "rear", cost = gauge.id == "cost";
        if (!axle && !cost && gauge.id != "tightest" && gauge.id != "bonnet" && gauge.id != "ground") {
            out.push_back({gauge.name, std::nullopt, gauge.value, length, 0, 0, gauge.verdict});
            out.back().state = gauge.verdict;
            continue;
        }
        out.push_back({gauge.name, gauge.figure, gauge.value,
                       axle   ? mass
                       : cost ? count
                              : length,
                       axle || cost ? -1 : 1, axle || cost ? least_whole : least_mm});
        out.back().state = gauge.verdict;
    }
    if (fitted.room)
        for (const fit::Room& room : fitted.room->rooms) {
            const bool turn = fit::isTurn(room.way);
            const Write& write = turn ? angle : length;
            std::string name = room.way == fit::Way::Left    ? model::sideWord(*reports.project, false)
                               : room.way == fit::Way::Right ? model::sideWord(*reports.project, true)
                                                             : fit::word(room.way);
            std::replace(name.begin(), name.end(), '_', ' ');
            const double amount = turn ? fit::turnDown_deg(room.amount) : quantity::shownDown_mm(room.amount, shown, 1);
            out.push_back({"Room " + name, room.beyond ? std::nullopt : std::optional(amount),
                           (room.beyond ? "> " : "") + write(amount), write, 1, turn ? least_deg : least_mm});
        }
    if (const model::Placement* p = model::activePlacement(*reports.project)) {
        const auto sided = [&reports](const char* words) { return model::sided(*reports.project, words); };
        out.push_back({"Behind axle", p->position_mm.x(), "", length, 0, least_mm});
        out.push_back({sided("Off centre, {to_right}"), p->position_mm.y(), "", length, 0, least_mm});
        out.push_back({"Above datum", p->position_mm.z(), "", length, 0, least_mm});
        out.push_back({"Tail down", p->angles.pitch_deg, "", angle, 0, least_deg});
        out.push_back({sided("Tail {to_right}"), p->angles.yaw_deg, "", angle, 0, least_deg});
        out.push_back({sided("Top {to_left}"), p->angles.roll_deg, "", angle, 0, least_deg});
    }
    return out;
}

} // namespace

Comparison compared(const study::Reports& pinned, const study::Reports& now, Shown shown) {
    Comparison out;
    const std::vector<Figure> before = figuresOf(pinned, shown);
    for (const Figure& b : figuresOf(now, shown)) {
        const auto a = std::find_if(before.begin(), before.end(), [&](const Figure& f) { return f.name == b.name; });
        if (a == before.end()) continue;
        ComparedFigure line{b.name, a->words(), b.words(), "", 0, false};
        if (a->verdict && b.verdict) {
            line.difference = *a->verdict == *b.verdict && a->words() == b.words() ? "same" : "";
            if (*a->verdict != *b.verdict) {
                line.difference = std::string(model::word(*a->verdict)) + " → " + model::word(*b.verdict);
                line.better = model::worse(*a->verdict, *b.verdict) == *a->verdict ? 1 : -1;
            }
        } else if (a->value && b.value) {
            const double change = *b.value - *a->value;
            if (std::abs(change) < b.least) {
                line.difference = "same";
            } else {
                line.difference = (change > 0 ? "+" : "") + b.write(change); // a negative one carries its sign
                line.better = b.more_is * (change > 0 ? 1 : -1);
            }
        }
        line.became_no_go = b.counts_no_go ? line.better < 0
                                           : a->state && b.state && *b.state == model::Verdict::NoGo &&
                                                 *a->state != model::Verdict::NoGo;
        out.figures.push_back(std::move(line));
    }
    const auto missingIn = [](const std::vector<study::Finding>& these, const std::vector<study::Finding>& those) {
        std::vector<std::string> titles;
        for (const study::Finding& f : these)
            if (std::none_of(those.begin(), those.end(), [&](const study::Finding& g) { return g.id == f.id; }))
                titles.push_back(f.title);
        return titles;
    };
    out.came = missingIn(now.findings, pinned.findings);
    out.went = missingIn(pinned.findings, now.findings);
    return out;
}

} // namespace gabarit::make
