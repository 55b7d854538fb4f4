// The three linked elevations, on screen and on paper.
#pragma once

#include "shape/outline.h"

#include <array>

namespace gabarit::shape {

enum class Elevation { Side, Plan, Front };
constexpr std::array<Elevation, 3> elevations{Elevation::Side, Elevation::Plan, Elevation::Front};

/// Side: front of the vehicle to the left, seen from the vehicle's left. Plan: from above, front to the left.
/// Front: seen from the front.
Viewpoint viewpoint(Elevation elevation);

} // namespace gabarit::shape
