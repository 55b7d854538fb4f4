// What is fixed to a body that is cut, near the cut.
#pragma once

#include "placed/scene.h"
#include "relief/relief.h"

namespace gabarit::relief {

/// For each pocket that counts: the vehicle's bodies that are joined to the body it is cut in, or touch it, and reach
/// into what is cut out (no-go) or into the zone that is welded beside it (close), as checks "pocket/fixed/body". What
/// is cut out counts as the box round it. Worsens the report's verdict.
void addFixedNear(ReliefReport& report, const model::Project& project, const placed::Scene& scene,
                  const model::RuleBook& book, proximity::ColliderCache& cache);

} // namespace gabarit::relief
