#include "discipline/check_words.h"
#include "discipline/discipline.h"

namespace gabarit::discipline {

GABARIT_ONCE_DEFINED(Finding);

void Discipline::tell(const Report& report, const Telling& telling, std::vector<Finding>& out) const {
    for (const model::Check& check : report.checks)
        if (check.verdict != model::Verdict::Go) out.push_back(checkFinding(check, card().id.c_str(), telling.shown));
}

void Discipline::show(const Report& report, const Telling& telling, std::vector<Gauge>& out) const {
    for (const Dial& dial : report.dials)
        out.push_back(checkGauge(card().id.c_str(), dial.id.c_str(), dial.name.c_str(),
                                 dial.check ? &report.checks[*dial.check] : nullptr, dial.subject, telling.shown));
}

std::optional<std::size_t> worstOf(const std::vector<model::Check>& checks,
                                   const std::function<bool(const model::Check&)>& takes) {
    std::optional<std::size_t> worst;
    for (std::size_t i = 0; i < checks.size(); ++i) {
        if (!takes(checks[i])) continue;
        const bool worse =
            !worst || checks[i].verdict > checks[*worst].verdict ||
            (checks[i].verdict == checks[*worst].verdict && tightness(checks[i]) > tightness(checks[*worst]));
        if (worse) worst = i;
    }
    return worst;
}

} // namespace gabarit::discipline
