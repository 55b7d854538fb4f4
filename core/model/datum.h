// Everything referred to another datum plane.
#pragma once

#include "model/project.h"

namespace gabarit::model {

/// The project with heights taken from a plane `above_mm` above the present datum: every height in the vehicle's frame
/// becomes less by that; what is in a donor's frame stays. Gaps, turns and axle loads stay what they are. `name` is
/// what the plane is called; `kind` as Datum::kind.
Project withDatumMoved(const Project& project, double above_mm, const std::string& kind, const std::string& name);

/// A left and a right point of one role, compared.
struct SidePair {
    std::string role;
    std::string left; ///< names
    std::string right;
    double height_mm = 0;              ///< left less right: positive, the left one is higher
    double fore_aft_mm = 0;            ///< left less right: positive, the left one is farther rearward
    double offset_mm = 0;              ///< of the middle from the owner's centreline: positive, to the right
    std::optional<double> accuracy_mm; ///< of a difference: both points' added
};

/// Every role that has exactly one point left (y < 0) and one right of the owner's centreline.
std::vector<SidePair> sidePairs(const std::vector<HardPoint>& points);

/// Donor brackets against the seats that the chassis has for them. Lengths in mm.
struct SeatPair {
    SidePair brackets; ///< donor frame
    SidePair seats;    ///< vehicle frame
    /// Brackets less seats: how much higher the left seat must be packed than the right one (negative: lower).
    double height_mm = 0;
    double fore_aft_mm = 0;
    /// How far off the vehicle's centreline the donor hangs when both sides meet their seats: positive, to the right.
    double offset_mm = 0;
    std::optional<double> accuracy_mm;
};

/// Roles "front_mount" and "gearbox_mount" of the active donor against "engine_seat" and "gearbox_seat" of the vehicle,
/// for a donor that lies lengthways. Brackets are often not symmetrical where the chassis takes it that they are.
std::vector<SeatPair> seatPairs(const Project& project);

} // namespace gabarit::model
