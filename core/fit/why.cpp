// Why a gap is what it is, as a sum.
#include "fit/tell.h"

#include "discipline/wording.h"
#include "fit/words.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {
namespace {

using discipline::inSentence;
using discipline::upperFirst;
using discipline::Why;
using discipline::WhyLine;
using model::Verdict;
using quantity::lengthText;
using quantity::Shown;
using Kind = WhyLine::Kind;

/// "front sump ±1.0 mm, crossmember ±3.0 mm".
std::string doubtWords(const model::Project& project, const PairGap& pair, Shown shown) {
    std::string out;
    for (const auto& [ref, name] : {std::pair(pair.a, pair.name_a), std::pair(pair.b, pair.name_b)}) {
        const model::Body* body = model::findBody(project, ref);
        if (!body) continue;
        out += (out.empty() ? "" : ", ") + inSentence(name) +
               (body->accuracy_mm ? " ±" + lengthText(*body->accuracy_mm, shown, 1) : std::string(" not known"));
    }
    return out;
}

/// Which of what takes from the gap is the most, and what can be done about it.
std::string most(const model::Project& project, const PairGap& pair, const discipline::Finding& of, double moved_mm,
                 double growth_mm, double doubt_mm) {
    if (pair.verdict == Verdict::Go) return {};
    if (of.way_out) return of.help;
    const double taken_mm = std::max({moved_mm, growth_mm, doubt_mm});
    if (taken_mm <= 0) return {};
    if (pair.verdict != Verdict::NoGo || taken_mm == doubt_mm) {
        const model::Body* a = model::findBody(project, pair.a);
        const model::Body* b = model::findBody(project, pair.b);
        const bool first = a && b && a->accuracy_mm.value_or(0) > b->accuracy_mm.value_or(0);
        return "Measure the " + inSentence(first ? pair.name_a : pair.name_b) + " again.";
    }
    if (taken_mm == growth_mm)
        return "Growing hot takes the most of it: anchor the pipe nearer, or fit a flexible piece.";
    return "Movement takes the most of it: see what moves under Movement.";
}

} // namespace

std::optional<Why> whyPair(const FitReport& report, const model::Project& project, const discipline::Telling& telling,
                           const discipline::Finding& of) {
    if (!report.clearance || !of.a) return std::nullopt;
    const auto& pairs = report.clearance->pairs;
    const auto found =
        std::find_if(pairs.begin(), pairs.end(), [&](const PairGap& pair) { return findingId(pair) == of.id; });
    if (found == pairs.end()) return std::nullopt;
    const PairGap& pair = *found;
    const Shown shown = telling.shown;
    const auto say = [&](double mm) { return lengthText(mm, shown, 1); };
    const auto take = [&](const char* words, double mm, const std::string& source) {
        return WhyLine{Kind::Takes, words, (mm > 0 ? "+" : "") + say(mm), source, mm};
    };
    Why why;
    const Moment* moment = pair.moment();
    const bool measured = pair.measuredDecides();
    const model::Limit* limit = moment && !measured ? &moment->limit : pair.limit.get();
    const double gap_mm = measured ? pair.measured->gap_mm : moment ? moment->gap.gap_mm : pair.gap.gap_mm;
    const bool no_figure = !measured && (moment ? moment->beyond() || (moment->overlap() && !moment->gap.depth_found)
                                                : pair.beyond() || (pair.overlap() && !pair.gap.depth_found));
    if (no_figure || !limit) {
        why.so =
            moment && !measured ? upperFirst(gapWords(*moment, shown)) + "." : upperFirst(gapWords(pair, shown)) + ".";
        if (!pair.reason.empty()) why.so += " " + upperFirst(pair.reason) + ".";
        return why;
    }
    double moved_mm = 0, growth_mm = 0;
    std::optional<double> doubt_mm = measured ? pair.measured->accuracy_mm : pair.accuracy_mm;
    if (measured) {
        why.lines.push_back({Kind::Is, "Measured", say(gap_mm), "on the real thing, as it stands now", gap_mm});
    } else if (moment) {
        // What lies beyond the range at rest has no figure there: the sum then begins in the movement.
        const bool from_rest = !pair.beyond() && (!pair.overlap() || pair.gap.depth_found);
        const std::string when = momentWords(project, *report.clearance, *moment, shown);
        if (from_rest) {
            why.lines.push_back({Kind::Is, "At rest", say(pair.gap.gap_mm), "", pair.gap.gap_mm});
            moved_mm = pair.gap.gap_mm - gap_mm;
            why.lines.push_back(
                take(moment->sag ? "Springs sag" : "Movement", -moved_mm, when.empty() ? "no more than this" : when));
        } else {
            why.lines.push_back({Kind::Is, "In movement", say(gap_mm), when, gap_mm});
        }
        growth_mm = moment->growth_mm;
        if (growth_mm > 0) why.lines.push_back(take("Heat growth", -growth_mm, "the exhaust, grown hot"));
        if (doubt_mm) doubt_mm = *doubt_mm + moment->hidden_mm;
    } else {
        why.lines.push_back({Kind::Is, "At rest", say(gap_mm), "", gap_mm});
    }
    if (doubt_mm && *doubt_mm > 0)
        why.lines.push_back({Kind::Doubt, "Doubt of the tape", "±" + say(*doubt_mm),
                             measured ? "of the measured gap" : doubtWords(project, pair, shown), *doubt_mm});
    const double left_mm = gap_mm - growth_mm;
    const bool least = moment && !measured && (moment->bound || !moment->complete);
    why.lines.push_back({Kind::Left, "Left", (least ? "at least " : "") + say(left_mm), "", left_mm});
    why.lines.push_back(
        {Kind::Wanted, "Wanted", say(limit->gap_mm), limit->text + " (" + limit->source + ")", limit->gap_mm});
    const double margin_mm = left_mm - limit->gap_mm;
    why.so = margin_mm < 0 ? "Short by " + say(-margin_mm) : say(margin_mm) + " to spare";
    if (!doubt_mm)
        why.so += ", to an accuracy nobody gave";
    else if (margin_mm >= 0 && margin_mm < *doubt_mm)
        why.so += ", less than the doubt";
    why.so += std::string(": ") + model::word(pair.verdict) + ".";
    why.most = most(project, pair, of, moved_mm, growth_mm, doubt_mm.value_or(0));
    return why;
}

discipline::Held heldOf(const PairGap& pair, Shown shown) {
    discipline::Held held;
    const Moment* moment = pair.moment();
    const bool measured = pair.measuredDecides();
    // What is held against the limit, grown hot.
    const bool grown = moment && moment->growth_mm > 0 && !moment->bound && moment->complete && !moment->beyond() &&
                       !moment->overlap();
    held.value = measured ? lengthText(pair.measured->gap_mm, shown, 1)
                 : grown  ? lengthText(moment->gap.gap_mm - moment->growth_mm, shown, 1)
                 : moment ? gapWords(*moment, shown)
                          : gapWords(pair, shown);
    const model::Limit* limit = moment && !measured ? &moment->limit : pair.limit.get();
    if (!limit) return held;
    held.wanted = quantity::lengthTextUp(limit->gap_mm, shown);
    const double scale_mm = std::max(limit->gap_mm, least_scale_mm);
    held.margin = pair.decidingMargin_mm() / scale_mm;
    // What touches comes before what is only too near.
    if (moment && !measured ? moment->overlap() : !measured && pair.overlap()) *held.margin -= 1;
    const auto doubt_mm = measured ? pair.measured->accuracy_mm : pair.accuracy_mm;
    held.doubt = doubt_mm.value_or(0) / scale_mm;
    return held;
}

} // namespace gabarit::fit
