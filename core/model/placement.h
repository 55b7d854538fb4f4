// Where the donor stands in the vehicle, and how it is nudged.
#pragma once

#include "model/donor.h"
#include "quantity/once.h"

namespace gabarit::model {

/// An option that a placement takes: `choice` as "owner/choice".
struct Taken {
    std::string choice;
    std::string option;
    Extras extras;
};

struct Placement {
    PlacementId id;
    std::string name;
    DonorId donor;
    std::optional<Orientation> orientation; ///< the donor's own when not given
    Eigen::Vector3d position_mm{0, 0, 0};   ///< of the donor's origin, vehicle frame
    Angles angles;
    Pivot pivot = Pivot::FrontMounts;
    std::vector<Taken> taken; ///< of a choice that is not named here the first option
    Rocking rocking;
    std::string note;
    Extras extras;

    GABARIT_ONCE_DECLARED(Placement);
};

/// Maps the donor frame to the vehicle frame.
Eigen::Isometry3d poseVehicleDonor(const Placement& placement, const Donor& donor);

/// The three ways of turning on a jack; each changes one of the pose's angles.
enum class Turn { Tail, Swing, Lean };

/// Moves the donor along the vehicle's axes.
Placement shifted(const Placement& placement, const Eigen::Vector3d& by_vehicle_mm);

/// Turns the donor by `by_deg` (positive: tail down, tail to the vehicle's right, top to the vehicle's left) and
/// leaves its pivot where it is. Error when the donor has no such pivot.
Result<Placement> turned(const Placement& placement, const Donor& donor, Turn turn, double by_deg);

/// Sets all three angles and leaves the pivot where it is.
Result<Placement> withAngles(const Placement& placement, const Donor& donor, const Angles& angles);

/// The pivot's place, vehicle frame.
Result<Eigen::Vector3d> pivotVehicle_mm(const Placement& placement, const Donor& donor);

} // namespace gabarit::model
