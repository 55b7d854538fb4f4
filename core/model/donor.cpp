#include "model/donor.h"

namespace gabarit::model {

GABARIT_ONCE_DEFINED(Donor);
GABARIT_ONCE_DEFINED(MotionSpec);

using Eigen::Vector3d;

Result<CentreOfMass> centreOfMass(const Donor& donor) {
    CentreOfMass sum;
    Vector3d moment = Vector3d::Zero();
    for (const Mass& mass : donor.masses) {
        if (!mass.mass_kg || *mass.mass_kg <= 0)
            return Error{"the mass of \"" + mass.name + "\" is missing", "donor " + donor.name, "weigh or estimate it"};
        sum.mass_kg += *mass.mass_kg;
        moment += *mass.mass_kg * mass.at_mm;
    }
    if (sum.mass_kg <= 0) return Error{"no masses are given", "donor " + donor.name, "add its masses and their places"};
    sum.at_mm = moment / sum.mass_kg;
    return sum;
}

std::optional<Vector3d> meanPoint(const Donor& donor, const std::string& role) {
    Vector3d sum = Vector3d::Zero();
    int count = 0;
    for (const HardPoint& point : donor.reference_points) {
        if (point.role != role) continue;
        sum += point.at_mm;
        ++count;
    }
    if (count == 0) return std::nullopt;
    return Vector3d(sum / count);
}

Result<Vector3d> pivotDonor_mm(const Donor& donor, Pivot pivot) {
    const auto fromRole = [&donor](const char* role, const char* words) -> Result<Vector3d> {
        if (const auto point = meanPoint(donor, role)) return *point;
        return Error{std::string("no ") + words + " is marked", "donor " + donor.name,
                     std::string("add a reference point with the role ") + role};
    };
    switch (pivot) {
    case Pivot::FrontMounts: return fromRole("front_mount", "front mount");
    case Pivot::GearboxMount: return fromRole("gearbox_mount", "gearbox mount");
    case Pivot::BlockFace: return Vector3d(Vector3d::Zero());
    case Pivot::CentreOfGravity: {
        const auto centre = centreOfMass(donor);
        if (!centre) return centre.error();
        return centre.value().at_mm;
    }
    }
    return Error{"unknown pivot", "donor " + donor.name, ""};
}

Eigen::Matrix3d rotation(Orientation orientation) {
    switch (orientation) {
    case Orientation::Lengthways: return rotation(Angles{0, 0, 0});
    case Orientation::Turned: return rotation(Angles{180, 0, 0});
    case Orientation::TransverseLeft: return rotation(Angles{-90, 0, 0});
    case Orientation::TransverseRight: return rotation(Angles{90, 0, 0});
    }
    return Eigen::Matrix3d::Identity();
}

} // namespace gabarit::model
