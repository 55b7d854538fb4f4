// The gaps with the unit somewhere else. Internal to the room.
#pragma once

#include "fit/free_move.h"

namespace gabarit::fit {

/// The clearance of the project with its donor at another placement; depths are not searched. `scene`: of that place.
ClearanceReport clearanceAt(const model::Project& project, const model::Placement& placement,
                            const ClearanceReport& now, const model::RuleBook& book, proximity::ColliderCache& cache,
                            discipline::Effort effort, placed::Scene& scene, int threads, const MoveOptions& options);

} // namespace gabarit::fit
