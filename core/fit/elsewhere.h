// The gaps with the unit somewhere else. Internal to the room.
#pragma once

#include "fit/free_move.h"

#include <functional>

namespace gabarit::fit {

/// The clearance of the project with its donor at another placement; depths are not searched. `scene`: of that place.
ClearanceReport clearanceAt(const model::Project& project, const model::Placement& placement,
                            const ClearanceReport& now, const model::RuleBook& book, proximity::ColliderCache& cache,
                            discipline::Effort effort, placed::Scene& scene, int threads, const MoveOptions& options);

/// A way that the unit is moved, from where a scene has it.
struct Going {
    std::function<Eigen::Isometry3d(double at)> at; ///< the move so far, vehicle frame
    /// Millimetres that no point of a box outruns for each unit of the amount.
    std::function<double(const Eigen::AlignedBox3d& box_vehicle)> speed;
    double amount = 1;
};

/// Whether a body of the donor would go through sheet metal that is there (bonnet, lid, firewall, wing) and come out
/// behind it: no jack does that. By steps that the gap cannot outrun: what was apart, touches on the way and is apart
/// at the end has gone through. What stands in a closed panel has, where its middle changes sides of the plane across
/// the nearest points. `moved`: from where the scene has it to where the move begins.
bool throughSheet(const placed::Scene& scene, const Eigen::Isometry3d& moved, const Going& motion,
                  const StopToken& stop);

} // namespace gabarit::fit
