// Mass, centre and inertia of the hanging unit, from its masses and the bodies they are in.
#pragma once

#include "model/project.h"
#include "mounts/elastic.h"

namespace gabarit::mounts {

/// Inertia of one kilogram of a shape, filled evenly, about its own centre along its own axes, kg·m²: exact for boxes,
/// round bars and balls; any other as the box round it. `centre_mm` receives that centre.
Eigen::Matrix3d unitInertia_kg_m2(const model::ShapeSpec& shape, Eigen::Vector3d& centre_mm);

struct UnitMass {
    RigidBody body;                       ///< vehicle frame
    std::vector<std::string> spread_over; ///< of each mass counted: the body it was spread over; empty: a point
    std::vector<std::string> names;       ///< of the masses
    bool inertia_given = false;
    std::string source; ///< of the inertia
};

/// The hanging donor's masses at its pose. A mass is spread over the smallest of the donor's bodies that it lies in
/// (its shape filled evenly), else it is a point; the project's own inertia replaces the sum. Error when no donor hangs
/// or a mass is missing.
Result<UnitMass> unitMass(const model::Project& project);

} // namespace gabarit::mounts
