#include "fit/scene.h"

#include "fit/movement.h"
#include "fit/on_threads.h"

#include <algorithm>

namespace gabarit::fit {

const PlacedBody* Scene::find(const model::BodyRef& ref) const {
    const auto found = std::find_if(bodies.begin(), bodies.end(), [&ref](const PlacedBody& b) { return b.ref == ref; });
    return found == bodies.end() ? nullptr : &*found;
}

Scene makeScene(const model::Project& project, proximity::ColliderCache& cache, const SceneOptions& options) {
    Scene scene;
    const auto place = [&scene, &project](const std::vector<model::Body>& bodies, const std::string& owner,
                                          const Eigen::Isometry3d& pose_vehicle_owner) {
        for (const model::Body& body : bodies)
            if (model::stands(project, owner, body))
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
    onThreads(options.threads, scene.bodies.size(), options.stop, [&](std::size_t i) {
        PlacedBody& placed = scene.bodies[i];
        const auto axis = spinAxis(project, placed.ref.owner, placed.body);
        placed.made = axis && *axis ? cache.getSwept(placed.body.shape, axis->value().first, axis->value().second)
                      : project.relief && placed.ref.inVehicle() && !placed.body.may.never
                          ? cache.get(placed.body.shape, model::pocketsOf(*project.relief, placed.ref.body))
                          : cache.get(placed.body.shape);
    });
    if (options.stop.stopped()) scene.bodies.clear(); // half a scene would look like a vehicle with room to spare
    return scene;
}

} // namespace gabarit::fit
