#include "study/relief_findings.h"

#include "study/check_words.h"
#include "study/wording.h"

namespace gabarit::study {

using model::Check;
using model::Verdict;
using quantity::Shown;

void addRelief(std::vector<Finding>& out, const Reports& reports, const model::RuleBook& book, Shown shown) {
    if (!reports.relief) return;
    for (const Check& check : reports.relief->checks) {
        if (check.verdict == Verdict::Go) continue;
        Finding f = checkFinding(check, "relief", shown);
        f.caution = model::cautionAbout(book, "relief/cut");
        for (const relief::PocketReport& pocket : reports.relief->pockets)
            if (check.id.rfind(pocket.id + "/", 0) == 0 && pocket.made)
                f.place_vehicle_mm = pocket.pose_vehicle_body * pocket.made->pose_body.translation();
        out.push_back(std::move(f));
    }
}

void addReliefGauge(std::vector<Gauge>& out, const Reports& reports, Shown shown) {
    if (!reports.relief || reports.relief->pockets.empty()) return;
    const Check* worst = nullptr;
    for (const Check& check : reports.relief->checks)
        if (!worst || check.verdict > worst->verdict ||
            (check.verdict == worst->verdict && tightness(check) > tightness(*worst)))
            worst = &check;
    if (worst) out.push_back(checkGauge("relief", "relief", "Section left", worst, inSentence(worst->what), shown));
}

} // namespace gabarit::study
