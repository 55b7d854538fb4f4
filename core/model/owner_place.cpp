#include "model/owner_place.h"

#include <algorithm>

namespace gabarit::model {

Result<OwnerPlace> ownerPlace(const Project& project, const std::string& owner, const PointId& point,
                              const Eigen::Vector3d& at_mm, const std::string& where) {
    OwnerPlace out;
    out.at_mm = at_mm;
    const std::vector<HardPoint>* points = project.vehicle ? &project.vehicle->hard_points : nullptr;
    std::optional<Donor> donor;
    if (owner != vehicle_owner) {
        const Placement* placement = activePlacement(project);
        donor = hangingDonor(project);
        if (!placement || !donor || donor->id.text != owner)
            return Error{"it is on \"" + owner + "\", which does not hang in the active placement", where,
                         "choose a placement of that donor, or give it in the vehicle"};
        out.pose_vehicle_owner = poseVehicleDonor(*placement, *donor);
        points = &donor->reference_points;
        out.on_donor = true;
    }
    if (point.empty()) return out;
    if (points)
        for (const HardPoint& p : *points)
            if (p.id == point) {
                out.at_mm = p.at_mm;
                return out;
            }
    return Error{"there is no point \"" + point.text + "\" on \"" + owner + "\"", where,
                 "name one of its points, or give the place"};
}

} // namespace gabarit::model
