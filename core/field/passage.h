// The widest way from one place to another past everything that stands still, and where it is narrowest.
#pragma once

#include "field/wanted.h"
#include "quantity/stop.h"

namespace gabarit::field {

struct Passage {
    /// The least room of the field along the way: with nothing wanted of the obstacles, of a round pipe that follows it
    /// the radius that passes. Below zero: it has to go through something.
    double radius_mm = 0;
    Eigen::Vector3d narrowest_vehicle_mm{0, 0, 0};
    int obstacle = -1;                           ///< of the field, at the narrowest place; −1: none within its range
    std::vector<Eigen::Vector3d> way_vehicle_mm; ///< from one place to the other
};

struct PassageOptions {
    double grain_mm = 12;               ///< of the first look, > 0
    double finest_mm = 1.5;             ///< of the last
    std::size_t most_nodes = 4'000'000; ///< of the first look: the grain is doubled until it has no more
    StopToken stop;
};

/// Of all ways inside a box the one whose narrowest place is widest, of those the shortest (Dijkstra 1959, by the least
/// room on the way instead of the length), on a grid; then again near it on finer ones. No way inside the box leaves
/// more than √3·finest beyond what is told, where the first look's grain lets it see the opening at all: one narrower
/// than that can be missed. The ends themselves count. Nothing when it was stopped, or an end lies outside the box.
std::optional<Passage> widestWay(const Wanted& field, const Eigen::Vector3d& from_vehicle_mm,
                                 const Eigen::Vector3d& to_vehicle_mm, const Eigen::AlignedBox3d& inside_vehicle_mm,
                                 const PassageOptions& options = {});

} // namespace gabarit::field
