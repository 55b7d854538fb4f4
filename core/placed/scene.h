// All bodies of a project where they stand, ready for distance questions.
#pragma once

#include "model/project.h"
#include "proximity/collider_cache.h"
#include "quantity/stop.h"

namespace gabarit::placed {

/// One present body in the vehicle frame.
struct PlacedBody {
    model::BodyRef ref;
    model::Body body;
    Eigen::Isometry3d pose_vehicle_body = Eigen::Isometry3d::Identity();
    std::shared_ptr<const proximity::MadeBody> made;
    bool in_donor = false;
    bool alternative = false; ///< of an option other than the one its owner came with

    /// Checked against every other body, not only against the donor.
    bool loose() const { return alternative || body.loose(); }
    bool solid() const { return made && made->collider != nullptr; }
};

struct Scene {
    std::vector<PlacedBody>
        bodies; ///< the vehicle's, then the active donor's; removed, taken off and not taken ones are left out

    const PlacedBody* find(const model::BodyRef& ref) const;
};

struct SceneOptions {
    int threads = 2;           ///< > 0
    StopToken stop;            ///< a stopped scene is empty
    bool every_option = false; ///< bodies of options that are not taken stand too
};

/// A body that spins stands as the round room it sweeps.
/// Places the vehicle's bodies and, when there is an active placement, its donor's; makes solids of those that are new.
Scene makeScene(const model::Project& project, proximity::ColliderCache& cache, const SceneOptions& options = {});

/// The axis a spinning body turns about, in its own frame: by two points of its owner, or of a cylinder its own. Error
/// when it has neither. Nothing when no motion spins it.
std::optional<Result<std::pair<Eigen::Vector3d, Eigen::Vector3d>>>
spinAxis(const model::Project& project, const std::string& owner, const model::Body& body);

} // namespace gabarit::placed
