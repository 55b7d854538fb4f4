// What is made and decided about pockets, carried out on the project as one step; and their hold points.
#pragma once

#include "model/holds.h"
#include "relief/relief.h"
#include "relief/section/relief.h"

namespace gabarit::relief {

/// The pocket put in place of the one of its id, or added, with one entry in the list of parts where there is such a
/// list: what its plates weigh less what is cut out, at its place. A part that is there already keeps its state and
/// cost. `judged`: its report, where it was judged already.
model::Project withPocket(const model::Project& project, const model::RuleBook& book, const model::Pocket& pocket,
                          const PocketReport* judged = nullptr);
/// Without it and its part.
model::Project withoutPocket(const model::Project& project, const std::string& pocket);

/// What a step is signed for now: where the unit hangs, the body, the pocket; a fit also for what it is made for.
std::vector<model::HoldBasis> basisOf(const model::Project& project, const model::Pocket& pocket, model::Hold hold);
/// The same as far as the step's signature knew of it: older ones know nothing of the vehicle's other bodies.
std::vector<model::HoldBasis> basisKnownTo(const model::Project& project, const model::Pocket& pocket,
                                           model::Hold hold);
/// Signs a step with today's basis. Errors: no such pocket; the step before it does not hold; "fitted again" without a
/// gap to the body measured since the welding's date.
Result<model::Project> withSigned(const model::Project& project, const std::string& pocket, model::Hold hold,
                                  const std::string& date, const std::string& who, const std::string& note);
/// Takes a step's signature back, and of all that follow it.
model::Project withoutSigned(const model::Project& project, const std::string& pocket, model::Hold hold);

} // namespace gabarit::relief
