// The budget: the section "money" of a project.
#pragma once

#include "model/sections.h"

#include <optional>
#include <string>

namespace gabarit::ledger {

struct Money {
    std::string currency;
    std::optional<double> budget; ///< in that currency
    describe::Extras extras;
};
void describe(describe::Visitor& v, Money& money);

model::SectionKind section();

} // namespace gabarit::ledger
