#include "study/driveline_findings.h"
#include "study/mounts_findings.h"
#include "study/relief_findings.h"

#include <algorithm>
#include <cmath>

namespace gabarit::study {
namespace {

using fit::PairGap;
using model::Verdict;
using quantity::Shown;

/// The pointer: the limit at one half, `span` on either side of it filling the scale.
double pointerAt(double margin, double span) { return std::clamp(0.5 + 0.5 * margin / span, 0.02, 0.98); }

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
    if (pair->measuredDecides()) {
        gauge.value = quantity::lengthText(pair->measured->gap_mm, shown, 1);
        gauge.figure = pair->measured->gap_mm;
        gauge.subject = "measured: " + (pair->category_b == id ? pair->name_a : pair->name_a + ", " + pair->name_b);
        gauge.limit = "wanted " + quantity::lengthText(pair->limit->gap_mm, shown, 0);
        gauge.pointer = pointerAt(pair->measured->margin_mm, std::max(pair->limit->gap_mm, 30.0));
        return gauge;
    }
    if (const fit::Moment* moment = pair->moment()) {
        gauge.value = gapWords(*moment, shown);
        if (!moment->bound && moment->complete && !moment->beyond() && (!moment->overlap() || moment->gap.depth_found))
            gauge.figure = moment->gap.gap_mm;
        gauge.subject = (moment->sag ? "sagged: " : "moving: ") +
                        (pair->category_b == id ? pair->name_a : pair->name_a + ", " + pair->name_b);
        gauge.limit = "wanted " + quantity::lengthText(moment->limit.gap_mm, shown, 0);
        gauge.pointer = pointerAt(moment->margin_mm, std::max(moment->limit.gap_mm, 30.0));
        return gauge;
    }
    gauge.value = gapWords(*pair, shown);
    if (!pair->beyond() && (!pair->overlap() || pair->gap.depth_found)) gauge.figure = pair->gap.gap_mm;
    gauge.subject = pair->beyond()           ? "nothing nearer"
                    : pair->category_b == id ? pair->name_a
                                             : pair->name_a + ", " + pair->name_b;
    if (pair->limit) {
        gauge.limit = "wanted " + quantity::lengthText(pair->limit->gap_mm, shown, 0);
        if (pair->verdict == Verdict::Close) gauge.limit += " ±" + quantity::lengthNumber(*pair->accuracy_mm, shown, 0);
        gauge.pointer = pointerAt(pair->margin_mm, std::max(pair->limit->gap_mm, 30.0)); // 30 mm: two fingers
    }
    return gauge;
}

Gauge axleGauge(const char* id, const char* name, const weights::AxleLoad& axle, Shown shown) {
    Gauge gauge;
    gauge.id = id;
    gauge.name = name;
    gauge.verdict = axle.verdict;
    gauge.figure = axle.load_kg;
    gauge.value = axle.load_kg ? quantity::massText(*axle.load_kg, shown) : "not known";
    gauge.limit = axle.limit_kg ? "limit " + quantity::massText(*axle.limit_kg, shown) : "no limit given";
    gauge.subject = axle.reason;
    if (axle.load_kg && axle.limit_kg && *axle.limit_kg > 0)
        gauge.pointer =
            pointerAt(*axle.limit_kg - *axle.load_kg, *axle.limit_kg / 4); // a quarter of the limit: the usual spread
    if (axle.verdict != Verdict::Go) gauge.finding = std::string("weights:") + id;
    return gauge;
}

} // namespace

std::vector<Gauge> collectGauges(const Reports& reports, Shown shown) {
    std::vector<Gauge> out;
    if (reports.clearance) {
        // The worst of the pairs that a predicate takes: overlaps first, then the least margin.
        const auto tightest = [&](auto take) {
            const PairGap* best = nullptr;
            for (const PairGap& pair : reports.clearance->pairs) {
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
    addDrivelineGauges(out, reports, shown);
    addMountsGauge(out, reports, shown);
    addReliefGauge(out, reports, shown);
    if (reports.weights) {
        out.push_back(axleGauge("front", "Front axle", reports.weights->front, shown));
        out.push_back(axleGauge("rear", "Rear axle", reports.weights->rear, shown));
    }
    if (reports.parts) {
        const ledger::PartsReport& parts = *reports.parts;
        Gauge gauge;
        gauge.id = "cost";
        gauge.name = "To finish";
        gauge.figure = parts.to_spend;
        gauge.value = quantity::fixed(parts.to_spend, 0) + (parts.currency.empty() ? "" : " " + parts.currency);
        gauge.verdict = parts.verdict.value_or(Verdict::Unknown);
        gauge.subject = std::to_string(parts.missing) + (parts.missing == 1 ? " part missing" : " parts missing");
        if (parts.budget) {
            gauge.limit = quantity::fixed(parts.total(), 0) + " of " + quantity::fixed(*parts.budget, 0);
            if (*parts.budget > 0) gauge.pointer = pointerAt(*parts.budget - parts.total(), *parts.budget / 2);
        } else {
            gauge.limit = "no budget given";
        }
        if (parts.verdict && *parts.verdict != Verdict::Go) gauge.finding = "parts:budget";
        out.push_back(std::move(gauge));
    }
    return out;
}

} // namespace gabarit::study
