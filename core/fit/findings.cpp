#include "fit/tell.h"

#include "discipline/check_words.h"
#include "discipline/wording.h"
#include "fit/words.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {
namespace {

using discipline::Finding;
using discipline::inSentence;
using discipline::upperFirst;
using model::Verdict;
using quantity::fixed;
using quantity::lengthText;
using quantity::Shown;

std::string lengthShort(double mm, Shown shown) { return lengthText(mm, shown, 0); }
/// Of a limit.
std::string lengthAsked(double mm, Shown shown) { return quantity::lengthTextUp(mm, shown); }

/// Some other room held against what is wanted.
discipline::Held heldOf(const std::optional<double>& room_mm, double limit_mm, const std::optional<double>& accuracy_mm,
                        Shown shown) {
    discipline::Held held;
    held.value = room_mm ? lengthText(*room_mm, shown, 1) : "not known";
    held.wanted = "at least " + lengthAsked(limit_mm, shown);
    if (!room_mm) return held;
    const double scale_mm = std::max(limit_mm, least_scale_mm);
    held.margin = (*room_mm - limit_mm) / scale_mm;
    held.doubt = accuracy_mm.value_or(0) / scale_mm;
    return held;
}

std::string groundWords(const StanceLine& line) {
    return line.lowest_name + " to the ground, " + inSentence(line.name);
}

class PairWriter {
public:
    PairWriter(const FitReport& report, const model::Project& project, const model::RuleBook& book, Shown shown)
        : report_(report), project_(project), book_(book), shown_(shown) {}

    Finding write(const PairGap& pair) const {
        Finding f;
        f.id = findingId(pair);
        f.discipline = "clearance";
        f.verdict = pair.verdict;
        f.a = pair.a;
        f.b = pair.b;
        f.what = pair.name_a + " to " + inSentence(pair.name_b);
        f.held = heldOf(pair, shown_);
        if (pair.gap.contact != proximity::Contact::Beyond)
            f.place_vehicle_mm = (pair.gap.point_a + pair.gap.point_b) / 2;
        const std::string other = inSentence(pair.name_b);
        if (pair.measuredDecides()) {
            writeMeasured(f, pair);
            return f;
        }
        if (const Moment* moment = pair.moment()) {
            writeMoment(f, pair, *moment);
            return f;
        }
        const std::string wanted = pair.limit ? lengthAsked(pair.limit->gap_mm, shown_) + " wanted" : std::string();
        if (pair.limit) f.rule = pair.limit->text + " (" + pair.limit->source + ")";
        if (pair.overlap()) {
            f.title = pair.name_a + " fouls the " + other;
            f.detail = upperFirst(overlapWords(pair)) + (wanted.empty() ? "" : "; " + wanted);
            f.label = inSentence(pair.name_a) + " " + lengthShort(pair.gap.gap_mm, shown_);
        } else if (pair.verdict == Verdict::Unknown) {
            f.title = pair.name_a + " to the " + other + ": not known";
            f.detail = upperFirst(pair.reason) + "; measured " + gapWords(pair, shown_);
            f.help = "Enter how accurately it was measured.";
            f.label = inSentence(pair.name_a) + " " + lengthShort(pair.gap.gap_mm, shown_) + " ?";
        } else {
            const bool touches = pair.gap.gap_mm == 0 && !pair.beyond();
            f.title = pair.name_a +
                      (touches                          ? " touches the "
                       : pair.verdict == Verdict::Close ? " is close to the "
                                                        : " is too near the ") +
                      other;
            f.detail = gapWords(pair, shown_) + "; " + wanted;
            if (pair.verdict == Verdict::Close)
                f.detail += ", measured to ±" + lengthText(*pair.accuracy_mm, shown_, 1);
            f.label = inSentence(pair.name_a) + " " + lengthShort(pair.gap.gap_mm, shown_);
        }
        const model::Body* a = model::findBody(project_, pair.a);
        const model::Body* b = model::findBody(project_, pair.b);
        if (a && b && pair.verdict != Verdict::Unknown) f.caution = model::cautionFor(book_, *a, *b);
        if (pair.verdict == Verdict::NoGo) addMove(f, pair);
        if (pair.verdict == Verdict::Close) f.help = "Measure the " + lessSure(pair) + " again.";
        return f;
    }

private:
    /// What decides is what was measured on the real thing.
    void writeMeasured(Finding& f, const PairGap& pair) const {
        const MeasuredPair& measured = *pair.measured;
        const std::string other = inSentence(pair.name_b);
        const std::string gap = lengthText(measured.gap_mm, shown_, 1);
        f.rule = pair.limit->text + " (" + pair.limit->source + ")";
        f.label = inSentence(pair.name_a) + " measured " + lengthShort(measured.gap_mm, shown_);
        f.title =
            pair.name_a + (measured.verdict == Verdict::Unknown ? " to the " + other + ": what was measured is not sure"
                           : measured.verdict == Verdict::Close ? " was measured close to the " + other
                                                                : " was measured too near the " + other);
        f.detail = "Measured " + gap +
                   (measured.accuracy_mm ? " ±" + lengthText(*measured.accuracy_mm, shown_, 1) : std::string()) + "; " +
                   lengthAsked(pair.limit->gap_mm, shown_) + " wanted; planned " + gapWords(pair, shown_);
        f.help =
            measured.verdict == Verdict::Unknown
                ? "Enter how accurately it was measured."
                : "What stands there counts, not the plan: make room, or measure it again and strike this one out.";
        const model::Body* a = model::findBody(project_, pair.a);
        const model::Body* b = model::findBody(project_, pair.b);
        if (a && b) f.caution = model::cautionFor(book_, *a, *b);
    }

    /// What decides is not the gap at rest but one on the way.
    void writeMoment(Finding& f, const PairGap& pair, const Moment& moment) const {
        const std::string other = inSentence(pair.name_b);
        f.place_vehicle_mm.reset();
        if (!moment.bound && !moment.beyond()) f.place_vehicle_mm = (moment.gap.point_a + moment.gap.point_b) / 2;
        if (!moment.state.empty()) f.state = moment.state;
        f.rule = moment.limit.text + " (" + moment.limit.source + ")";
        const std::string when = momentWords(project_, *report_.clearance, moment, shown_);
        const std::string wanted = lengthAsked(moment.limit.gap_mm, shown_) + " wanted";
        const std::string in_words = when.empty() ? "" : when + ": ";
        const std::string at_rest = "; " + gapWords(pair, shown_) + " at rest";
        f.label =
            inSentence(pair.name_a) + " " +
            (moment.overlap() && !moment.gap.depth_found ? std::string("meets it")
                                                         : lengthShort(moment.gap.gap_mm - moment.growth_mm, shown_)) +
            (moment.sag ? " sagged" : " moving");
        if (moment.verdict == Verdict::Unknown) {
            f.title = pair.name_a + " to the " + other + " in movement: not known";
            f.detail = upperFirst(moment.reason) + at_rest;
            f.help = "Fill it in under Survey.";
            return;
        }
        f.title = pair.name_a +
                  (moment.overlap()                   ? " meets the "
                   : moment.verdict == Verdict::Close ? " comes close to the "
                                                      : " comes too near the ") +
                  other;
        f.detail = upperFirst(in_words) + (moment.overlap() ? "they touch" : gapWords(moment, shown_));
        if (moment.growth_mm > 0) f.detail += ", less " + lengthText(moment.growth_mm, shown_, 1) + " heat growth";
        f.detail += "; " + wanted;
        if (moment.verdict == Verdict::Close && pair.accuracy_mm)
            f.detail += ", known to ±" + lengthText(*pair.accuracy_mm + moment.hidden_mm, shown_, 1);
        else if (!moment.complete)
            f.detail += ", not looked at to the end";
        f.detail += at_rest;
        const model::Body* a = model::findBody(project_, pair.a);
        const model::Body* b = model::findBody(project_, pair.b);
        if (a && b) f.caution = model::cautionFor(book_, *a, *b);
        if (moment.verdict == Verdict::NoGo) addMove(f, pair);
        if (moment.verdict == Verdict::Close)
            f.help = moment.complete ? "Measure the " + lessSure(pair) + " and its travel again."
                                     : "Wait until the gaps are measured to the end.";
    }

    std::string overlapWords(const PairGap& pair) const {
        if (pair.gap.depth_found) return "≈ " + lengthText(-pair.gap.gap_mm, shown_, 0) + " into it";
        return pair.gap.gap_mm < 0 ? "more than " + lengthText(-pair.gap.gap_mm, shown_, 0) + " into it"
                                   : "it overlaps";
    }

    std::string lessSure(const PairGap& pair) const {
        const model::Body* a = model::findBody(project_, pair.a);
        const model::Body* b = model::findBody(project_, pair.b);
        return inSentence(a && b && a->accuracy_mm.value_or(0) > b->accuracy_mm.value_or(0) ? pair.name_a
                                                                                            : pair.name_b);
    }

    /// What else is then so.
    std::string consequence(const WayOut& way) const {
        std::string out = way.no_go_after == 0
                              ? "nothing else is then no-go"
                              : std::to_string(way.no_go_after) + (way.no_go_after == 1 ? " gap" : " gaps") +
                                    " no-go then, " + std::to_string(way.no_go_before) + " now";
        if (!way.worst_other || way.worst_other->verdict == Verdict::Go) return out;
        const PairGap& other = *way.worst_other;
        const std::string second = inSentence(other.name_b);
        if (other.overlap() || (other.moment() && other.moment()->overlap()))
            return out + "; the " + inSentence(other.name_a) + " fouls the " + second;
        out += "; the " + inSentence(other.name_a) + " to the " + second + " ";
        const double margin_mm = other.decidingMargin_mm();
        return out + (margin_mm < 0 ? lengthText(-margin_mm, shown_, 0) + " short"
                                    : lengthText(margin_mm, shown_, 0) + " to spare");
    }

    /// The tested way out, far enough that the margin beats the accuracy.
    void addMove(Finding& f, const PairGap& pair) const {
        f.move_vehicle_mm = pair.clearing_move_mm;
        // What has to be gained: what is short of the limit, and the tape's doubt on top.
        const double short_mm = -pair.decidingMargin_mm();
        if (short_mm > 0 && (!pair.overlap() || pair.gap.depth_found) &&
            !(pair.moment() && pair.moment()->overlap() && !pair.moment()->gap.depth_found)) {
            std::string sum = ": short by " + lengthShort(short_mm, shown_);
            if (pair.accuracy_mm.value_or(0) > 0)
                sum += ", with the tape's doubt " + lengthShort(short_mm + *pair.accuracy_mm, shown_);
            // Behind what is wanted: what comes after it may be of another moment.
            const std::string_view wanted = " wanted";
            const auto at = f.detail.find(wanted);
            f.detail.insert(at == std::string::npos ? f.detail.size() : at + wanted.size(), sum);
        }
        const auto way = report_.ways_out.find(f.id);
        if (way != report_.ways_out.end()) {
            f.way_out = discipline::WayOut{wayWords(project_, way->second, shown_), way->second.placement,
                                           way->second.no_go_before, way->second.no_go_after};
            f.help = upperFirst(f.way_out->words) +
                     (way->second.no_go_after >= way->second.no_go_before ? " frees it but only trades it for another: "
                      : way->second.then                                  ? " free it: "
                                                                          : " frees it: ") +
                     consequence(way->second);
        } else {
            const std::string words =
                f.move_vehicle_mm ? model::moveWords(project_, *f.move_vehicle_mm, shown_) : std::string();
            const std::string whose = pair.a.inVehicle() ? " for the " + inSentence(pair.name_a) : "";
            f.help = words.empty() ? "No straight move frees it" : "About " + words + whose + " frees it";
        }
        const model::Body* b = model::findBody(project_, pair.b);
        std::vector<std::string> ways;
        if (b && b->may.be_cut) ways.emplace_back("be cut");
        if (b && b->may.be_moved) ways.emplace_back("be moved");
        if (b && b->may.be_removed) ways.emplace_back("come out");
        if (!ways.empty()) {
            f.help += "; the " + inSentence(pair.name_b) + " may ";
            for (std::size_t i = 0; i < ways.size(); ++i) f.help += (i == 0 ? "" : " or ") + ways[i];
        }
        f.help += ".";
    }

    const FitReport& report_;
    const model::Project& project_;
    const model::RuleBook& book_;
    Shown shown_;
};

Finding accessFinding(const ToolAccess& access, Shown shown) {
    Finding f;
    f.id = accessFindingId(access);
    f.discipline = "clearance";
    f.verdict = access.verdict;
    f.place_vehicle_mm = access.from_mm;
    f.rule = "tool access: a straight cylinder " + lengthText(access.diameter_mm, shown, 0) + " wide (" +
             access.source + ")";
    f.what = access.name + ", in reach";
    f.held.value = access.verdict == Verdict::NoGo    ? "out of reach"
                   : access.verdict == Verdict::Close ? "just in reach"
                   : access.verdict == Verdict::Go    ? "in reach"
                                                      : "not known";
    std::string names;
    for (std::size_t i = 0; i < access.blockers.size(); ++i)
        names += (i == 0                            ? "the "
                  : i + 1 == access.blockers.size() ? " and the "
                                                    : ", the ") +
                 inSentence(access.blockers[i].name);
    if (!access.blockers.empty()) f.a = access.blockers.front().ref;
    f.label = inSentence(access.name) + " out of reach";
    if (access.pull_mm)
        f.rule += "; off, it comes " + lengthText(*access.pull_mm, shown, 0) + " that way, the unit at rest";
    if (access.diameter_mm <= 0)
        f.rule = "it comes off by hand, " + lengthText(*access.pull_mm, shown, 0) + " straight out";
    if (access.verdict == Verdict::NoGo) {
        const bool off = access.blockers.front().coming_off;
        const bool hand = access.blockers.front().hand;
        f.title = access.name + (off    ? " cannot be taken off"
                                 : hand ? " leaves no room for a hand"
                                        : " cannot be reached with a tool");
        if (off) f.label = inSentence(access.name) + " stays on";
        f.detail = upperFirst(names) + (access.blockers.size() == 1 ? " stands" : " stand") +
                   (hand ? " where the hand goes round the ratchet" : " in the way of the socket");
        f.help = "Move the unit or what blocks it, turn the fitting, or plan to serve it another way.";
        return f;
    }
    f.title = "Tool access to " + inSentence(access.name) + ": not sure";
    f.detail =
        access.verdict == Verdict::Unknown
            ? upperFirst(access.reason)
            : upperFirst(names) + ": " + lengthText(access.blockers.front().gap_mm, shown, 1) + " beside the tool";
    f.help = access.verdict == Verdict::Unknown ? "Fill it in under Survey."
                                                : "Measure the " + inSentence(access.blockers.front().name) + " again.";
    f.label = inSentence(access.name) + " in reach?";
    return f;
}

Finding leverFinding(const model::Project& project, const LeverCheck& lever, Shown shown) {
    Finding f;
    f.id = "lever";
    f.discipline = "clearance";
    f.verdict = lever.verdict;
    f.place_vehicle_mm = lever.lever_vehicle_mm;
    f.rule = "shift lever in its floor opening: " + lengthAsked(lever.limit_mm, shown) + " to the edge (" +
             lever.source + "); its throw is not counted";
    const std::string hole = inSentence(lever.opening);
    f.what = lever.lever + " in the " + hole;
    f.held = heldOf(lever.room_mm, lever.limit_mm, lever.accuracy_mm, shown);
    if (lever.verdict == Verdict::Unknown) {
        f.title = "Whether the lever comes up in the " + hole + " is not sure";
        f.detail = upperFirst(lever.reason);
        f.help = lever.room_mm ? "Enter how accurately it was measured." : "Measure the opening.";
    } else if (lever.verdict == Verdict::Close) {
        f.title = lever.lever + " is close to the edge of the " + hole;
        f.detail = lengthText(*lever.room_mm, shown, 1) + "; " + lengthAsked(lever.limit_mm, shown) +
                   " wanted, measured to ±" + lengthText(*lever.accuracy_mm, shown, 1);
        f.help = "Measure the " + hole + " again.";
    } else {
        f.title = lever.lever + (lever.room_mm < 0 ? " misses the " : " is too near the edge of the ") + hole;
        f.detail = lever.room_mm < 0 ? lengthText(-*lever.room_mm, shown, 1) + " outside it"
                                     : lengthText(*lever.room_mm, shown, 1) + " to the edge; " +
                                           lengthAsked(lever.limit_mm, shown) + " wanted";
        f.help = lever.move_mm ? "It must come " + model::moveWords(project, *lever.move_mm, shown) +
                                     ", or the opening be moved, or the lever be cranked."
                               : "The opening is too small for the lever wherever it stands.";
    }
    f.label = "lever " + (lever.room_mm ? quantity::lengthNumber(*lever.room_mm, shown, 0) : std::string("?"));
    return f;
}

Finding measuredFinding(const model::Project& project, const MeasuredReport& measured, Shown shown) {
    Finding f;
    f.id = "measured";
    f.discipline = "clearance";
    f.verdict = Verdict::Close;
    f.what = "Measured gaps against the plan";
    f.held.value = std::to_string(measured.differing) + (measured.differing == 1 ? " differs" : " differ");
    f.held.wanted = "none";
    f.title = measured.differing == 1 ? "A measured gap is not the planned one"
                                      : std::to_string(measured.differing) + " measured gaps are not the planned ones";
    for (const MeasuredLine& line : measured.lines)
        if (line.agreement == Agreement::Differs) {
            f.detail = line.name_a + " to " + inSentence(line.name_b) + ": measured " +
                       lengthText(line.measured_mm, shown, 1) + ", planned " + lengthText(*line.planned_mm, shown, 1) +
                       " ±" + lengthText(*line.accuracy_mm, shown, 1);
            break;
        }
    f.help = suspectWords(project, measured, shown);
    return f;
}

void addMovement(std::vector<Finding>& out, const ClearanceReport& report, Shown shown) {
    for (const BrokenMotion& motion : report.movement ? report.movement->broken : std::vector<BrokenMotion>{}) {
        Finding f;
        f.id = "motion:" + motion.owner + "/" + motion.id;
        f.discipline = "clearance";
        f.verdict = Verdict::Unknown;
        f.title = "How the " + inSentence(motion.name) + " moves cannot be worked out";
        f.detail = upperFirst(motion.error.what) + "; it is taken as standing still";
        f.help = upperFirst(motion.error.mend) + ".";
        out.push_back(std::move(f));
    }
    for (const UnknownTravel& travel : report.unknown_travel) {
        Finding f;
        f.id = "travel:" + travel.ref.text();
        f.discipline = "clearance";
        f.verdict = Verdict::Unknown;
        f.a = travel.ref;
        f.title = "How far the " + inSentence(travel.name) + " moves is not given";
        f.detail = lengthText(travel.gap_mm, shown, 0) + " to the " + inSentence(travel.other) +
                   " at rest says nothing about bump, droop and lock";
        f.help = "Add what moves it under Survey, Moving.";
        out.push_back(std::move(f));
    }
}

void addStances(std::vector<Finding>& out, const StanceReport& report, bool sag_is_asked, Shown shown) {
    const auto solid = [&](const std::optional<double>& sag, const std::optional<double>& bump, const char* end) {
        if (!sag || !bump || *sag < *bump) return;
        Finding f;
        f.id = std::string("stance:solid-") + end;
        f.discipline = "clearance";
        f.verdict = Verdict::NoGo;
        f.title = std::string("The ") + end + " springs stand on their bump stops under the new load";
        f.detail = "They go down " + lengthText(*sag, shown, 0) + "; " + lengthText(*bump, shown, 0) + " of travel";
        f.help = "Stiffer or taller springs, or less weight there.";
        f.caution = "Springs and axle are what the vehicle steers and stops on: have them chosen and inspected.";
        out.push_back(std::move(f));
    };
    if (sag_is_asked && !report.sag_left_out.empty()) {
        Finding f;
        f.id = "stance:sag";
        f.discipline = "clearance";
        f.verdict = Verdict::Unknown;
        f.title = "How far the springs go down under the new load is not known";
        for (const std::string& what : report.sag_left_out) f.detail += (f.detail.empty() ? "" : "; ") + what;
        f.detail = upperFirst(f.detail);
        f.help = "Enter the spring rates under Survey, and what is missing under Weights.";
        out.push_back(std::move(f));
    }
    solid(report.sag.front_mm, report.front_bump_mm, "front");
    solid(report.sag.rear_mm, report.rear_bump_mm, "rear");
    for (const StanceLine& line : report.lines) {
        if (!line.ground_mm || line.verdict == Verdict::Go) continue;
        Finding f;
        f.id = "stance:" + line.id;
        f.discipline = "clearance";
        f.verdict = line.verdict;
        f.a = line.lowest;
        f.place_vehicle_mm = line.lowest_at_mm;
        f.rule = lengthAsked(line.limit_mm, shown) + " to the ground (" + line.limit_source + ")";
        f.what = groundWords(line);
        f.held = heldOf(line.ground_mm, line.limit_mm, line.accuracy_mm, shown);
        f.title =
            line.verdict == Verdict::Unknown
                ? "How far the lowest part is from the ground is not sure"
                : line.lowest_name +
                      (line.verdict == Verdict::Close ? " is close to the ground: " : " is too near the ground: ") +
                      inSentence(line.name);
        f.detail = lengthText(*line.ground_mm, shown, 0) + "; " + lengthAsked(line.limit_mm, shown) + " wanted" +
                   (line.reason.empty() ? "" : "; " + line.reason);
        f.label = inSentence(line.lowest_name) + " to ground " + quantity::lengthNumber(*line.ground_mm, shown, 0);
        out.push_back(std::move(f));
    }
}

void addHomes(std::vector<Finding>& out, const FreeRoomReport& report, quantity::Shown shown) {
    for (const HomeSearch& search : report.searches) {
        if (!search.chosen.empty() && !search.size_mm) {
            Finding f;
            f.id = "home:" + search.part.text;
            f.discipline = "parts";
            f.verdict = Verdict::Unknown;
            f.title = "Whether " + inSentence(search.name) + " goes into its home is not known";
            f.detail = "Its outside size is not given";
            f.help = "Enter its size under Parts.";
            out.push_back(std::move(f));
            continue;
        }
        const auto chosen = std::find_if(search.offers.begin(), search.offers.end(),
                                         [&](const HomeOffer& offer) { return offer.volume == search.chosen; });
        if (chosen == search.offers.end() || chosen->verdict == Verdict::Go) continue;
        Finding f;
        f.id = "home:" + search.part.text;
        f.discipline = "parts";
        f.verdict = chosen->verdict;
        f.title = search.name +
                  (chosen->verdict == Verdict::NoGo ? " does not go into its home: " : " may not go into its home: ") +
                  inSentence(chosen->name);
        f.detail = upperFirst(chosen->reason) + "; " +
                   (chosen->spare_mm < 0 ? lengthText(-chosen->spare_mm, shown, 0) + " too large"
                                         : lengthText(chosen->spare_mm, shown, 0) + " left over") +
                   ", " + lengthAsked(report.wanted_mm, shown) + " wanted";
        f.rule = "room beside a part in its new home (" + report.source + ")";
        const HomeOffer& best = search.offers.front();
        if (best.verdict == Verdict::Go) f.help = "It goes into another one: " + inSentence(best.name) + ".";
        out.push_back(std::move(f));
    }
}

} // namespace

void tellFit(const FitReport& report, const std::vector<model::Check>& checks, const model::Project& project,
             const discipline::Telling& telling, std::vector<Finding>& out) {
    const Shown shown = telling.shown;
    if (report.clearance) {
        if (!report.clearance->reason.empty()) {
            Finding f;
            f.id = "clearance:asked";
            f.discipline = "clearance";
            f.verdict = Verdict::Unknown;
            f.title = "Whether the donor fits is not known";
            f.detail = upperFirst(report.clearance->reason);
            f.help = report.clearance->mend;
            out.push_back(std::move(f));
        }
        const PairWriter writer(report, project, telling.book, shown);
        for (const BrokenBody& broken : report.clearance->broken) {
            Finding f;
            f.id = "body:" + broken.ref.text();
            f.discipline = "clearance";
            f.verdict = Verdict::Unknown;
            f.title = broken.name + " could not be made solid";
            f.detail = broken.error.what;
            f.help = broken.error.mend;
            f.a = broken.ref;
            out.push_back(std::move(f));
        }
        for (const PairGap& pair : report.clearance->pairs) {
            if (pair.verdict == Verdict::Go) continue;
            // A body that is not solid is one finding, not one for each of its neighbours.
            const auto broken = [&](const model::BodyRef& ref) {
                return std::any_of(report.clearance->broken.begin(), report.clearance->broken.end(),
                                   [&ref](const BrokenBody& body) { return body.ref == ref; });
            };
            if (pair.verdict == Verdict::Unknown && (broken(pair.a) || broken(pair.b))) continue;
            // The same for a part whose travel is not given.
            const auto untold = [&](const UnknownTravel& t) { return t.ref == pair.a || t.ref == pair.b; };
            if (pair.verdict == Verdict::Unknown && pair.rest_verdict != Verdict::Unknown &&
                std::any_of(report.clearance->unknown_travel.begin(), report.clearance->unknown_travel.end(), untold))
                continue;
            out.push_back(writer.write(pair));
        }
    }
    if (report.clearance)
        for (const OffPanel& panel : report.clearance->closing_off) {
            Finding f;
            f.id = "off:" + panel.ref.text();
            f.discipline = "clearance";
            f.verdict = Verdict::Unknown;
            f.title = panel.name + " is off";
            f.detail = "It closes the bay: no gap is believed while it is off";
            f.help = "Put it back under Bodies.";
            f.a = panel.ref;
            out.push_back(std::move(f));
        }
    if (report.clearance) addMovement(out, *report.clearance, shown);
    for (const JoinedOverlap& pair : report.joined) {
        Finding f;
        f.id = "joined:" + pair.a.text() + ":" + pair.b.text();
        f.discipline = "clearance";
        f.verdict = pair.verdict;
        f.a = pair.a;
        f.b = pair.b;
        f.place_vehicle_mm = pair.at_vehicle_mm;
        f.title = pair.name_a + " reaches into " + inSentence(pair.name_b) + ", which it is joined to";
        f.detail = (pair.depth_mm ? lengthText(*pair.depth_mm, shown, 1) + " deep"
                                  : std::string("Deeper than is looked for")) +
                   "; a fit is at most " + lengthShort(pair.limit_mm, shown) + "; joined because: " + pair.reason;
        f.help = "Move one of them, or take the pair out under Bodies: then it is held against its limit.";
        f.label = inSentence(pair.name_a) + " in " + inSentence(pair.name_b);
        out.push_back(std::move(f));
    }
    for (const model::Check& check : checks)
        if (check.verdict != Verdict::Go) out.push_back(discipline::checkFinding(check, "clearance", shown));
    if (report.stances) addStances(out, *report.stances, report.sag_asked, shown);
    for (const ToolAccess& access : report.access)
        if (access.verdict != Verdict::Go) out.push_back(accessFinding(access, shown));
    if (report.lever && report.lever->verdict != Verdict::Go)
        out.push_back(leverFinding(project, *report.lever, shown));
    addHomes(out, report.free_room, shown);
    if (report.measured.differing > 0) out.push_back(measuredFinding(project, report.measured, shown));
}

void listFit(const FitReport& report, const std::vector<model::Check>& checks, const discipline::Telling& telling,
             std::vector<Finding>& out) {
    const Shown shown = telling.shown;
    const auto add = [&](std::string id) -> Finding& {
        Finding f;
        f.id = std::move(id);
        f.discipline = "clearance";
        f.verdict = Verdict::Go;
        out.push_back(std::move(f));
        return out.back();
    };
    if (report.clearance) {
        // Nobody reads two thousand pairs: of each rule the tightest.
        std::map<std::string, const PairGap*> tightest;
        for (const PairGap& pair : report.clearance->pairs) {
            const Moment* moment = pair.moment();
            if (pair.verdict != Verdict::Go || !pair.limit || (moment ? moment->beyond() : pair.beyond())) continue;
            const PairGap*& best = tightest[moment ? moment->limit.row : pair.limit->row];
            if (!best || pair.decidingMargin_mm() < best->decidingMargin_mm()) best = &pair;
        }
        for (const auto& [row, pair] : tightest) {
            Finding& f = add(findingId(*pair));
            f.what = pair->name_a + " to " + inSentence(pair->name_b);
            f.held = heldOf(*pair, shown);
            f.a = pair->a;
            f.b = pair->b;
            const Moment* moment = pair->moment();
            const model::Limit& limit = moment ? moment->limit : *pair->limit;
            f.rule = limit.text + " (" + limit.source + ")";
            if (!moment) f.place_vehicle_mm = (pair->gap.point_a + pair->gap.point_b) / 2;
        }
    }
    for (const model::Check& check : checks)
        if (check.verdict == Verdict::Go) out.push_back(discipline::goodFinding(check, "clearance", shown));
    if (report.stances)
        for (const StanceLine& line : report.stances->lines) {
            if (line.verdict != Verdict::Go || !line.ground_mm) continue;
            Finding& f = add("stance:" + line.id);
            f.what = groundWords(line);
            f.held = heldOf(line.ground_mm, line.limit_mm, line.accuracy_mm, shown);
            f.rule = lengthAsked(line.limit_mm, shown) + " to the ground (" + line.limit_source + ")";
            f.a = line.lowest;
            f.place_vehicle_mm = line.lowest_at_mm;
        }
    for (const ToolAccess& access : report.access)
        if (access.verdict == Verdict::Go) {
            Finding& f = add(accessFindingId(access));
            f.what = access.name + ", in reach";
            f.held.value = "in reach";
            f.place_vehicle_mm = access.from_mm;
        }
    if (report.lever && report.lever->verdict == Verdict::Go) {
        Finding& f = add("lever");
        f.what = report.lever->lever + " in the " + inSentence(report.lever->opening);
        f.held = heldOf(report.lever->room_mm, report.lever->limit_mm, report.lever->accuracy_mm, shown);
        f.place_vehicle_mm = report.lever->lever_vehicle_mm;
    }
}

} // namespace gabarit::fit
