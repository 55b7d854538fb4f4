// Where the unit hangs, in figures a tape and a plumb bob can check on the real thing.
#pragma once

#include "model/project.h"
#include "placed/scene.h"

#include <optional>
#include <string>
#include <vector>

namespace gabarit::make {

/// A tape from a point of the vehicle, straight through the air.
struct HangingHook {
    std::string name;
    double straight_mm = 0;
};

struct HangingLine {
    std::string name;
    double behind_axle_mm = 0;          ///< rearward of the front axle's centreline
    double aside_mm = 0;                ///< to the vehicle's right of its centreline; below zero to its left
    double height_mm = 0;               ///< above the datum
    std::optional<double> off_floor_mm; ///< plumb, at ride height; nothing when the floor is not known
    std::vector<HangingHook> hooks;     ///< the two nearest hard points of the vehicle, nearest first
};

struct Hanging {
    std::optional<double> floor_mm; ///< height of the floor above the datum
    std::vector<HangingLine> lines; ///< the crank at the block's face, the unit's points, its lowest one
    model::Angles angles;
};

/// Of the active placement; no lines when nothing hangs. The floor is the ground body's top, else the datum where that
/// is the ground.
Hanging hanging(const model::Project& project, const placed::Scene& scene);

} // namespace gabarit::make
