#include "fit/tell.h"

#include "discipline/check_words.h"
#include "fit/words.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {
namespace {

using discipline::Gauge;
using discipline::pointerAt;
using model::Verdict;
using quantity::Shown;

Gauge pairGauge(const char* id, const char* name, const PairGap* pair, Shown shown) {
    Gauge gauge;
    gauge.id = id;
    gauge.name = name;
    if (!pair) {
        gauge.value = "not known";
        gauge.subject = "nothing to measure yet";
        return gauge;
    }
    gauge.verdict = pair->verdict;
    if (pair->verdict != Verdict::Go) gauge.finding = findingId(*pair);
    const discipline::Held held = heldOf(*pair, shown);
    gauge.value = held.value;
    if (!held.wanted.empty()) gauge.limit = "wanted " + held.wanted;
    if (held.margin) gauge.pointer = pointerAt(*held.margin, 1);
    const std::string of = pair->category_b == id ? pair->name_a : pair->name_a + ", " + pair->name_b;
    if (pair->measuredDecides()) {
        gauge.figure = pair->measured->gap_mm;
        gauge.subject = "measured: " + of;
    } else if (const Moment* moment = pair->moment()) {
        if (!moment->bound && moment->complete && !moment->beyond() && (!moment->overlap() || moment->gap.depth_found))
            gauge.figure = moment->gap.gap_mm - (moment->overlap() ? 0 : moment->growth_mm); // as its value says
        gauge.subject = (moment->sag ? "sagged: " : "moving: ") + of;
    } else {
        if (!pair->beyond() && (!pair->overlap() || pair->gap.depth_found)) gauge.figure = pair->gap.gap_mm;
        gauge.subject = pair->beyond() ? "nothing nearer" : of;
        if (pair->limit && pair->verdict == Verdict::Close)
            gauge.limit += " ±" + quantity::lengthNumber(*pair->accuracy_mm, shown, 0);
    }
    return gauge;
}

} // namespace

void showFit(const FitReport& report, Shown shown, std::vector<Gauge>& out) {
    if (report.clearance) {
        // The worst of the pairs that a predicate takes: overlaps first, then the least margin.
        const auto tightest = [&](auto take) {
            const PairGap* best = nullptr;
            for (const PairGap& pair : report.clearance->pairs) {
                if (!take(pair) || (!pair.limit && !pair.overlap())) continue;
                const bool worse = best && pair.overlap() != best->overlap()
                                       ? pair.overlap()
                                       : best && pair.decidingMargin_mm() < best->decidingMargin_mm();
                if (!best || worse) best = &pair;
            }
            return best;
        };
        const auto with = [](const char* category) {
            return
                [category](const PairGap& pair) { return pair.category_a == category || pair.category_b == category; };
        };
        out.push_back(pairGauge("tightest", "Tightest gap",
                                tightest([&](const PairGap& p) { return !with("ground")(p); }), shown));
        out.push_back(pairGauge("bonnet", "Bonnet", tightest(with("bonnet")), shown));
        out.push_back(pairGauge("ground", "Ground", tightest(with("ground")), shown));
    }
}

} // namespace gabarit::fit
