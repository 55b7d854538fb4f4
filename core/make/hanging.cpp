#include "make/hanging.h"

#include "model/donor.h"
#include "model/placement.h"
#include "shape/mesh.h"

#include <algorithm>

namespace gabarit::make {
namespace {

using Eigen::Vector3d;

std::optional<double> floorOf(const model::Project& project, const placed::Scene& scene) {
    std::optional<double> top;
    for (const placed::PlacedBody& body : scene.bodies)
        if (body.body.category == "ground" && body.solid())
            top = std::max(top.value_or(-1e9),
                           shape::moved(body.made->collider->bounds(), body.pose_vehicle_body).max().z());
    if (!top && project.vehicle && project.vehicle->datum.kind == "ground") top = 0;
    return top;
}

std::vector<HangingHook> hooksTo(const model::Project& project, const Vector3d& at_vehicle_mm) {
    constexpr std::size_t most = 2;
    std::vector<HangingHook> out;
    for (const model::HardPoint& point : project.vehicle->hard_points)
        out.push_back({point.name, (point.at_mm - at_vehicle_mm).norm()});
    std::stable_sort(out.begin(), out.end(),
                     [](const HangingHook& a, const HangingHook& b) { return a.straight_mm < b.straight_mm; });
    if (out.size() > most) out.resize(most);
    return out;
}

/// The lowest vertex of the unit, and what it belongs to.
std::optional<std::pair<std::string, Vector3d>> lowestOf(const placed::Scene& scene) {
    std::optional<std::pair<std::string, Vector3d>> out;
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!body.in_donor || !body.solid()) continue;
        for (const Vector3d& vertex : body.made->collider->mesh().points) {
            const Vector3d at = body.pose_vehicle_body * vertex;
            if (!out || at.z() < out->second.z()) out = std::pair(body.body.name, at);
        }
    }
    return out;
}

} // namespace

Hanging hanging(const model::Project& project, const placed::Scene& scene) {
    Hanging out;
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!project.vehicle || !placement || !donor) return out;
    out.floor_mm = floorOf(project, scene);
    out.angles = placement->angles;
    const Eigen::Isometry3d pose = model::poseVehicleDonor(*placement, *donor);
    const auto add = [&](const std::string& name, const Vector3d& at) {
        HangingLine line;
        line.name = name;
        line.behind_axle_mm = at.x();
        line.aside_mm = at.y();
        line.height_mm = at.z();
        if (out.floor_mm) line.off_floor_mm = at.z() - *out.floor_mm;
        line.hooks = hooksTo(project, at);
        out.lines.push_back(std::move(line));
    };
    add("Crank's centre at the block's rear face", pose * Vector3d::Zero());
    for (const model::HardPoint& point : donor->reference_points) add(point.name, pose * point.at_mm);
    if (const auto lowest = lowestOf(scene)) add("Lowest point: " + lowest->first, lowest->second);
    return out;
}

} // namespace gabarit::make
