#include "model/body.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace gabarit::model {

GABARIT_ONCE_DEFINED(Body);

using Eigen::AngleAxisd;
using Eigen::Vector3d;
using quantity::deg_per_rad;

Eigen::Matrix3d rotation(const Angles& angles) {
    return (AngleAxisd(angles.yaw_deg / deg_per_rad, Vector3d::UnitZ()) *
            AngleAxisd(angles.pitch_deg / deg_per_rad, Vector3d::UnitY()) *
            AngleAxisd(angles.roll_deg / deg_per_rad, Vector3d::UnitX()))
        .toRotationMatrix();
}

Angles anglesOf(const Eigen::Matrix3d& r) {
    Angles angles;
    angles.pitch_deg = std::asin(std::clamp(-r(2, 0), -1.0, 1.0)) * deg_per_rad;
    angles.yaw_deg = std::atan2(r(1, 0), r(0, 0)) * deg_per_rad;
    angles.roll_deg = std::atan2(r(2, 1), r(2, 2)) * deg_per_rad;
    return angles;
}

Eigen::Isometry3d Body::poseOwnerBody() const {
    Eigen::Isometry3d pose = Eigen::Isometry3d::Identity();
    pose.linear() = rotation(angles);
    pose.translation() = position_mm + shift_mm;
    return pose;
}

} // namespace gabarit::model
