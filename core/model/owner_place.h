// Where a place of an owner is: the vehicle's, or of a donor as it hangs.
#pragma once

#include "model/project.h"

namespace gabarit::model {

struct OwnerPlace {
    Eigen::Isometry3d pose_vehicle_owner = Eigen::Isometry3d::Identity();
    Eigen::Vector3d at_mm{0, 0, 0}; ///< owner's frame
    bool on_donor = false;

    Eigen::Vector3d vehicle_mm() const { return pose_vehicle_owner * at_mm; }
};

/// The owner's point of that id (of a donor only those of the options that are taken), or `at_mm` when none is named.
/// Errors, which name `where`: a donor that does not hang in the active placement; a point that is not there.
Result<OwnerPlace> ownerPlace(const Project& project, const std::string& owner, const PointId& point,
                              const Eigen::Vector3d& at_mm, const std::string& where);

} // namespace gabarit::model
