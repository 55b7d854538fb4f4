// A unit hung level: its front mounts 300 before its origin, its gearbox mount 400 behind it and 40 lower.
#pragma once

#include "model/project.h"

namespace gabarit::tests {

inline model::Project hungUnit() {
    model::Project project;
    project.vehicle.emplace();
    model::Donor donor;
    donor.id.text = "unit";
    model::HardPoint front, back;
    front.id.text = front.role = "front_mount";
    front.at_mm = {-300, 0, 0};
    back.id.text = back.role = "gearbox_mount";
    back.at_mm = {400, 0, -40};
    donor.reference_points = {front, back};
    project.donors = {donor};
    model::Placement placement;
    placement.id.text = "p";
    placement.donor.text = "unit";
    placement.position_mm = {300, 0, 560};
    project.placements = {placement};
    return project;
}

} // namespace gabarit::tests
