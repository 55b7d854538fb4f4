// The outgoing engine's reference dimensions against the one that goes in.
#pragma once

#include "placed/scene.h"

namespace gabarit::fit {

/// One dimension, old and new, along one of the vehicle's axes from what it was read from. Lengths in mm.
struct OutgoingLine {
    std::string id;
    std::string name;
    model::Axis along = model::Axis::Z;
    double old_mm = 0;
    std::optional<double> new_mm;      ///< nothing: see `reason`
    std::optional<double> accuracy_mm; ///< of the difference: both sides' added; nothing when one is not known
    std::string reason;
    std::optional<Eigen::Vector3d> place_vehicle_mm; ///< of the new mark

    /// New less old: positive is rearward, to the right or up.
    std::optional<double> difference_mm() const { return new_mm ? std::optional(*new_mm - old_mm) : std::nullopt; }
};

/// Every reference dimension of the vehicle, in the file's order. Crank, flange, mounts and lever are points of the
/// donor as it hangs; tops, front and bottom are the outermost of its bodies and only have that one direction.
std::vector<OutgoingLine> againstOutgoing(const model::Project& project, const placed::Scene& scene);

} // namespace gabarit::fit
