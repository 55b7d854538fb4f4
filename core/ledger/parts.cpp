#include "ledger/parts.h"

#include "ledger/section/money.h"

#include <algorithm>

namespace gabarit::ledger {

using model::Part;
using model::PartState;
using model::Verdict;

PartsReport parts(const model::Project& project) {
    PartsReport report;
    const std::vector<Part>& all = model::partsOf(project);
    const auto waiting = [](PartState state) { return state == PartState::Needed || state == PartState::Ordered; };
    for (const Part& part : all) {
        if (!model::isTaken(project, part)) {
            report.not_taken.push_back(part.name);
            continue;
        }
        PartLine line{part.id, part.name, part.state, part.cost, part.mass_kg, part.on_car, {}};
        if (part.on_car == model::OnCar::On) report.mass_on_kg += part.mass_kg.value_or(0);
        if (part.on_car == model::OnCar::Off) report.mass_off_kg += part.mass_kg.value_or(0);
        report.lacks_on = report.lacks_on || (part.on_car == model::OnCar::On && !part.mass_kg);
        report.lacks_off = report.lacks_off || (part.on_car == model::OnCar::Off && !part.mass_kg);
        if (waiting(part.state)) ++report.missing;
        // A companion of a part that is sold or going back is nobody's worry.
        if (part.state != PartState::Sold && part.state != PartState::ToReturn)
            for (const model::PartId& needed : part.needs) {
                const auto found =
                    std::find_if(all.begin(), all.end(), [&needed](const Part& p) { return p.id == needed; });
                if (found != all.end() &&
                    (waiting(found->state) || found->state == PartState::Sold || found->state == PartState::ToReturn))
                    line.missing_companions.push_back(found->name);
            }
        if (!part.cost) {
            report.unpriced.push_back(part.name);
            const bool sold = part.state == PartState::Sold, needed = part.state == PartState::Needed;
            (sold ? report.lacks_income : needed ? report.lacks_to_spend : report.lacks_spent) = true;
            if (part.state == PartState::ToReturn) report.lacks_to_get_back = true;
        }
        const double cost = part.cost.value_or(0);
        switch (part.state) {
        case PartState::Needed: report.to_spend += cost; break;
        case PartState::Sold: report.income += cost; break;
        case PartState::ToReturn: report.to_get_back += cost; [[fallthrough]];
        default: report.spent += cost;
        }
        report.lines.push_back(std::move(line));
    }
    const Money* money = project.sections.get<Money>();
    if (!money) return report;
    report.currency = money->currency;
    report.budget = money->budget;
    if (!report.budget) {
        report.verdict = Verdict::Unknown;
        report.reason = "no budget is given";
        return report;
    }
    report.verdict = report.total() > *report.budget ? Verdict::NoGo
                     : report.unpriced.empty()       ? Verdict::Go
                                                     : Verdict::Unknown;
    if (report.verdict == Verdict::Unknown)
        report.reason = std::to_string(report.unpriced.size()) +
                        (report.unpriced.size() == 1 ? " part has" : " parts have") + " no price";
    return report;
}

} // namespace gabarit::ledger
