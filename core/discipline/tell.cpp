#include "discipline/check_words.h"
#include "discipline/discipline.h"

namespace gabarit::discipline {

GABARIT_ONCE_DEFINED(Finding);

void Discipline::tell(const Report& report, const Telling& telling, std::vector<Finding>& out) const {
    for (const model::Check& check : report.checks)
        if (check.verdict != model::Verdict::Go) out.push_back(checkFinding(check, card().id.c_str(), telling.shown));
}

const char* groupName(Group group) {
    switch (group) {
    case Group::Gaps: return "Gaps";
    case Group::HoldAndDrive: return "Hold and drive";
    case Group::Routes: return "Routes";
    case Group::Loads: return "Loads";
    case Group::Money: return "Money";
    case Group::Time: break;
    }
    return "Time";
}

void Discipline::list(const Report& report, const Telling& telling, std::vector<Finding>& out) const {
    for (const model::Check& check : report.checks)
        if (check.verdict == model::Verdict::Go) out.push_back(goodFinding(check, card().id.c_str(), telling.shown));
}

std::optional<Why> Discipline::why(const Report& report, const Telling& telling, const Finding& of) const {
    for (const model::Check& check : report.checks)
        if (of.id == card().id + ":" + check.id) return whyOf(check, telling.shown);
    return std::nullopt;
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
