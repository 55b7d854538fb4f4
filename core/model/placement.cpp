#include "model/placement.h"

namespace gabarit::model {

GABARIT_ONCE_DEFINED(Placement);

namespace {

Eigen::Matrix3d rotationVehicleDonor(const Placement& placement, const Donor& donor) {
    return rotation(placement.angles) * rotation(placement.orientation.value_or(donor.orientation));
}

} // namespace

Eigen::Isometry3d poseVehicleDonor(const Placement& placement, const Donor& donor) {
    Eigen::Isometry3d pose = Eigen::Isometry3d::Identity();
    pose.linear() = rotationVehicleDonor(placement, donor);
    pose.translation() = placement.position_mm;
    return pose;
}

Placement shifted(const Placement& placement, const Eigen::Vector3d& by_vehicle_mm) {
    Placement moved = placement;
    moved.position_mm += by_vehicle_mm;
    return moved;
}

Result<Placement> withAngles(const Placement& placement, const Donor& donor, const Angles& angles) {
    const auto pivot_donor_mm = pivotDonor_mm(donor, placement.pivot);
    if (!pivot_donor_mm) return pivot_donor_mm.error();
    const Eigen::Vector3d pivot_vehicle_mm = poseVehicleDonor(placement, donor) * pivot_donor_mm.value();
    Placement moved = placement;
    moved.angles = angles;
    moved.position_mm = pivot_vehicle_mm - rotationVehicleDonor(moved, donor) * pivot_donor_mm.value();
    return moved;
}

Result<Placement> turned(const Placement& placement, const Donor& donor, Turn turn, double by_deg) {
    Angles angles = placement.angles;
    switch (turn) {
    case Turn::Tail: angles.pitch_deg += by_deg; break;
    case Turn::Swing: angles.yaw_deg += by_deg; break;
    case Turn::Lean: angles.roll_deg += by_deg; break;
    }
    return withAngles(placement, donor, angles);
}

Result<Eigen::Vector3d> pivotVehicle_mm(const Placement& placement, const Donor& donor) {
    const auto pivot_donor_mm = pivotDonor_mm(donor, placement.pivot);
    if (!pivot_donor_mm) return pivot_donor_mm.error();
    return Eigen::Vector3d(poseVehicleDonor(placement, donor) * pivot_donor_mm.value());
}

} // namespace gabarit::model
