// Internal to the room: the only header that knows the library which tells where surfaces cut each other.
#pragma once

#include "proximity/collider.h"
#include "proximity/nearest.h"

#include <fcl/geometry/bvh/BVH_model.h>
#include <fcl/math/bv/OBBRSS.h>

#include <mutex>

namespace gabarit::proximity {

using ContactModel = fcl::BVHModel<fcl::OBBRSSd>; ///< only these trees answer contacts and distances

struct Collider::Tree {
    explicit Tree(const shape::Mesh& its_mesh) : triangles(its_mesh), mesh(its_mesh) {}
    TriangleTree triangles;

    /// For contacts, and the distance of what touches. Made when it is first asked for: of most bodies nobody does.
    const ContactModel& contacts() const;

private:
    const shape::Mesh& mesh;
    mutable std::once_flag made_;
    mutable ContactModel model_;
};

} // namespace gabarit::proximity
