#include "placed/scene.h"

#include "quantity/on_threads.h"
#include "relief/section/relief.h"

#include <algorithm>

namespace gabarit::placed {

const PlacedBody* Scene::find(const model::BodyRef& ref) const {
    const auto found = std::find_if(bodies.begin(), bodies.end(), [&ref](const PlacedBody& b) { return b.ref == ref; });
    return found == bodies.end() ? nullptr : &*found;
}

Scene makeScene(const model::Project& project, proximity::ColliderCache& cache, const SceneOptions& options) {
    Scene scene;
    const auto place = [&scene, &project, &options](const std::vector<model::Body>& bodies, const std::string& owner,
                                                    const Eigen::Isometry3d& pose_vehicle_owner) {
        for (const model::Body& body : bodies)
            if (model::stands(project, owner, body) || (options.every_option && body.present()))
                scene.bodies.push_back(PlacedBody{{owner, body.id},
                                                  body,
                                                  pose_vehicle_owner * body.poseOwnerBody(),
                                                  nullptr,
                                                  owner != model::vehicle_owner,
                                                  model::isAlternative(project, owner, body)});
    };
    if (project.vehicle) place(project.vehicle->bodies, model::vehicle_owner, Eigen::Isometry3d::Identity());
    const model::Placement* placement = model::activePlacement(project);
    const model::Donor* donor = model::activeDonor(project);
    if (placement && donor) place(donor->bodies, donor->id.text, model::poseVehicleDonor(*placement, *donor));
    const auto* relief = project.sections.get<model::Relief>();
    onThreads(options.threads, scene.bodies.size(), options.stop, [&](std::size_t i) {
        PlacedBody& placed = scene.bodies[i];
        const auto axis = spinAxis(project, placed.ref.owner, placed.body);
        placed.made = axis && *axis ? cache.getSwept(placed.body.shape, axis->value().first, axis->value().second)
                      : relief && placed.ref.inVehicle() && !placed.body.may.never
                          ? cache.get(placed.body.shape, model::pocketsOf(*relief, placed.ref.body))
                          : cache.get(placed.body.shape);
    });
    if (options.stop.stopped()) scene.bodies.clear(); // half a scene would look like a vehicle with room to spare
    return scene;
}

std::optional<Result<std::pair<Eigen::Vector3d, Eigen::Vector3d>>>
spinAxis(const model::Project& project, const std::string& owner, const model::Body& body) {
    const model::Donor* donor = owner == model::vehicle_owner ? nullptr : model::findDonor(project, {owner});
    if (!donor && !project.vehicle) return std::nullopt;
    const auto& motions = donor ? donor->motions : project.vehicle->motions;
    const auto& points = donor ? donor->reference_points : project.vehicle->hard_points;
    for (const model::MotionSpec& spec : motions) {
        if (spec.kind != model::MotionKind::Spin ||
            std::find(spec.bodies.begin(), spec.bodies.end(), body.id) == spec.bodies.end())
            continue;
        using Axis = std::pair<Eigen::Vector3d, Eigen::Vector3d>;
        if (spec.axis_a.empty()) {
            if (const auto* cylinder = std::get_if<model::CylinderSpec>(&body.shape))
                return Result<Axis>(Axis{cylinder->from_mm, cylinder->to_mm});
            return Result<Axis>(Error{"\"" + body.name + "\" spins about an axis that is not given", spec.name,
                                      "name two points of its axis, or measure it as a cylinder"});
        }
        const Eigen::Isometry3d to_body = body.poseOwnerBody().inverse();
        std::optional<Eigen::Vector3d> a, b;
        for (const model::HardPoint& p : points) {
            if (p.id == spec.axis_a) a = to_body * p.at_mm;
            if (p.id == spec.axis_b) b = to_body * p.at_mm;
        }
        if (!a || !b || (*a - *b).norm() < 1e-3)
            return Result<Axis>(
                Error{"the axis of \"" + body.name + "\" has no direction", spec.name, "name two points apart"});
        return Result<Axis>(Axis{*a, *b});
    }
    return std::nullopt;
}

} // namespace gabarit::placed
