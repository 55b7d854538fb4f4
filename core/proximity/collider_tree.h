// Internal to the room: the only header that knows the distance library.
#pragma once

#include "proximity/collider.h"

#include <fcl/geometry/bvh/BVH_model.h>
#include <fcl/math/bv/OBBRSS.h>

namespace gabarit::proximity {

struct Collider::Tree {
    fcl::BVHModel<fcl::OBBRSSd> model; // only these trees answer distances
};

} // namespace gabarit::proximity
