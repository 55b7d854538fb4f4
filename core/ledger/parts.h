// Parts, their states, and the money.
#pragma once

#include "model/project.h"
#include "model/verdict.h"
#include "parts/parts.h"

namespace gabarit::ledger {

struct PartLine {
    model::PartId id;
    std::string name;
    model::PartState state = model::PartState::Needed;
    std::optional<double> cost;
    std::optional<double> mass_kg;
    model::OnCar on_car = model::OnCar::No;
    std::vector<std::string> missing_companions; ///< names of parts it needs that are not here yet
};

/// Sums in the project's currency.
struct PartsReport {
    std::string currency;
    std::vector<PartLine> lines;
    double spent = 0;                   ///< ordered, here, test-fitted, fitted, to return
    double to_spend = 0;                ///< needed: the cost to finish
    double income = 0;                  ///< sold
    double to_get_back = 0;             ///< to return: counted in `spent` until the money is back
    double mass_on_kg = 0;              ///< of parts put on, as far as they are weighed
    double mass_off_kg = 0;             ///< of parts taken off, the same
    int missing = 0;                    ///< parts still needed or on order
    std::vector<std::string> not_taken; ///< parts of options that are not taken: nothing of them is counted
    std::vector<std::string> unpriced;  ///< parts without a cost that the sums need
    /// Which of the sums lack something: a cost, or a mass.
    bool lacks_spent = false, lacks_to_spend = false, lacks_income = false, lacks_to_get_back = false;
    bool lacks_on = false, lacks_off = false;
    std::optional<double> budget;
    std::optional<model::Verdict> verdict; ///< against the budget; none when no money section asks for it
    std::string reason;

    /// What the whole swap comes to.
    double total() const { return spent + to_spend - income; }
};

/// Adds up project.parts, as far as the options they belong to are taken. A part without a cost is named in `unpriced`
/// and makes the verdict unknown unless the budget is already overrun.
PartsReport parts(const model::Project& project);

} // namespace gabarit::ledger
