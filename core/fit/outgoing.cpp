#include "fit/outgoing.h"
#include "model/describe.h"

#include <algorithm>

namespace gabarit::fit {
namespace {

using Eigen::Vector3d;
using model::Axis;
using model::OutgoingMark;

struct Found {
    std::optional<Vector3d> at_vehicle_mm;
    std::optional<double> accuracy_mm;
    std::string reason;
};

Found atPoint(const model::Donor& donor, const Eigen::Isometry3d& pose, const char* role, const char* word) {
    const auto at = model::meanPoint(donor, role);
    if (!at) return {std::nullopt, std::nullopt, std::string("the donor has no point that is its ") + word};
    std::optional<double> worst = 0;
    for (const model::HardPoint& point : donor.reference_points)
        if (point.role == role)
            worst = worst && point.accuracy_mm ? std::optional(std::max(*worst, *point.accuracy_mm)) : std::nullopt;
    return {pose * *at, worst, ""};
}

/// The outermost corner of the donor's bodies of some categories along an axis.
Found outermost(const placed::Scene& scene, Axis axis, double sign, const std::vector<std::string>& categories,
                const char* word) {
    Found found;
    double most = 0;
    const int i = static_cast<int>(axis);
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!body.in_donor || !body.solid()) continue;
        bool wanted = categories.empty();
        for (const std::string& category : categories) wanted = wanted || body.body.category == category;
        if (!wanted) continue;
        for (const Vector3d& corner : body.made->collider->mesh().points) {
            const Vector3d at = body.pose_vehicle_body * corner;
            if (found.at_vehicle_mm && sign * at[i] <= most) continue;
            most = sign * at[i];
            found.at_vehicle_mm = at;
            found.accuracy_mm = body.body.accuracy_mm;
        }
    }
    if (!found.at_vehicle_mm) found.reason = std::string("the donor has no ") + word;
    return found;
}

/// The only direction that a mark of the bodies has; nothing for points.
std::optional<Axis> onlyAlong(OutgoingMark mark) {
    switch (mark) {
    case OutgoingMark::GearboxTop:
    case OutgoingMark::EngineTop:
    case OutgoingMark::SumpBottom: return Axis::Z;
    case OutgoingMark::EngineFront: return Axis::X;
    default: return std::nullopt;
    }
}

Found find(const model::Donor& donor, const Eigen::Isometry3d& pose, const placed::Scene& scene, OutgoingMark mark) {
    switch (mark) {
    case OutgoingMark::Crank: return {Vector3d(pose.translation()), 0.0, ""};
    case OutgoingMark::OutputFlange: return atPoint(donor, pose, "output_flange", "output flange");
    case OutgoingMark::GearboxMount: return atPoint(donor, pose, "gearbox_mount", "gearbox mount");
    case OutgoingMark::FrontMounts: return atPoint(donor, pose, "front_mount", "front mount");
    case OutgoingMark::ShiftLever: return atPoint(donor, pose, "shift_lever", "shift lever");
    case OutgoingMark::GearboxTop: return outermost(scene, Axis::Z, 1, {"gearbox"}, "gearbox");
    case OutgoingMark::EngineTop: return outermost(scene, Axis::Z, 1, {}, "bodies");
    case OutgoingMark::EngineFront: return outermost(scene, Axis::X, -1, {}, "bodies");
    case OutgoingMark::SumpBottom: break;
    }
    return outermost(scene, Axis::Z, -1, {"sump"}, "sump");
}

} // namespace

std::vector<OutgoingLine> againstOutgoing(const model::Project& project, const placed::Scene& scene) {
    std::vector<OutgoingLine> out;
    if (!project.vehicle) return out;
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    for (const model::OutgoingDimension& dimension : project.vehicle->outgoing) {
        OutgoingLine line{dimension.id, dimension.name, dimension.along, dimension.mm, {}, {}, "", {}};
        const auto only = onlyAlong(dimension.of);
        if (!placement || !donor) {
            line.reason = "no donor hangs";
        } else if (only && *only != dimension.along) {
            line.reason = std::string("the ") + describe::said(dimension.of) + " is read along " +
                          (*only == Axis::Z ? "the height (z)" : "the length (x)") + " only";
        } else {
            const Found found = find(*donor, model::poseVehicleDonor(*placement, *donor), scene, dimension.of);
            line.reason = found.reason;
            line.place_vehicle_mm = found.at_vehicle_mm;
            const auto& points = project.vehicle->hard_points;
            const auto from = std::find_if(points.begin(), points.end(),
                                           [&](const model::HardPoint& p) { return p.id == dimension.from; });
            const bool axes = dimension.from.empty();
            if (found.at_vehicle_mm && (axes || from != points.end())) {
                const int i = static_cast<int>(dimension.along);
                line.new_mm = (*found.at_vehicle_mm)[i] - (axes ? 0 : from->at_mm[i]);
                const std::optional<double> other = axes ? std::optional<double>(0) : from->accuracy_mm;
                if (found.accuracy_mm && other && dimension.accuracy_mm)
                    line.accuracy_mm = *found.accuracy_mm + *other + *dimension.accuracy_mm;
            }
        }
        out.push_back(std::move(line));
    }
    return out;
}

} // namespace gabarit::fit
