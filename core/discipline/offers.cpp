#include "discipline/offers.h"

#include "model/describe.h"

namespace gabarit::discipline {

using describe::Member;
using describe::Visitor;

void describe(Visitor& v, AxleChange& change) {
    v.type("axle_change");
    v.number(Member("front_kg"), change.front_kg);
    v.number(Member("rear_kg"), change.rear_kg);
    v.texts(Member("left_out"), change.left_out);
}
void describe(Visitor& v, DrivenLoad& load) {
    v.type("driven_load");
    v.number(Member("load_kg").must(), load.load_kg);
}
void describe(Visitor& v, UnitRocking& rocking) {
    v.type("unit_rocking");
    v.object(Member("rocking").must(), rocking.rocking);
}
void describe(Visitor& v, WeldPull& pull) {
    v.type("weld_pull");
    v.number(Member("pull_mm").must(), pull.pull_mm);
}

void Offers::take(std::type_index type, const Offers& from) {
    const auto found = from.marks_.find(type);
    if (found == from.marks_.end()) return;
    marks_[type] = found->second;
    values_.take(type, from.values_);
}

void Offers::takeAll(const Offers& from) {
    for (const auto& [type, mark] : from.marks_) take(type, from);
}

std::shared_ptr<const model::Project> moving(std::shared_ptr<const model::Project> project,
                                             const UnitRocking* offered) {
    const model::Placement* placement = model::activePlacement(*project);
    if (!offered || !placement || placement->rocking.any()) return project;
    auto rocked = std::make_shared<model::Project>(*project);
    model::activePlacement(*rocked)->rocking = offered->rocking;
    return rocked;
}

model::RuleBook pulled(model::RuleBook book, const WeldPull* offered) {
    if (offered) book.weld_pull_mm = offered->pull_mm;
    return book;
}

} // namespace gabarit::discipline
