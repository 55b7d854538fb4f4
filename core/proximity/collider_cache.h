// Solids and colliders by shape, made once.
#pragma once

#include "relief/section/relief.h"
#include "proximity/collider.h"
#include "quantity/recent_cache.h"

namespace gabarit::proximity {

/// What a shape became, or why it could not.
struct MadeBody {
    std::string key;                          ///< what it was made from: the same for the same solid
    std::shared_ptr<const Collider> collider; ///< null when `error` says why
    std::optional<shape::Solid> solid;
    std::optional<Error> error;
};

/// Thread-safe. Bodies of one shape share one entry; entries that no run has asked for are dropped by `forgetUnused`.
class ColliderCache {
public:
    explicit ColliderCache(double deflection_mm = shape::default_deflection_mm) : deflection_mm_(deflection_mm) {}

    double deflection_mm() const { return deflection_mm_; }
    std::shared_ptr<const MadeBody> get(const model::ShapeSpec& spec);
    /// The same with pockets cut into it.
    std::shared_ptr<const MadeBody> get(const model::ShapeSpec& spec, const std::vector<model::Pocket>& pockets);
    /// The room that a body of this shape takes as it turns about an axis (its own frame).
    std::shared_ptr<const MadeBody> getSwept(const model::ShapeSpec& spec, const Eigen::Vector3d& axis_a_mm,
                                             const Eigen::Vector3d& axis_b_mm);
    /// Drops what was not asked for since the last call.
    void forgetUnused() { made_.forgetUnused(); }

private:
    double deflection_mm_;
    RecentCache<std::shared_ptr<const MadeBody>> made_;
};

} // namespace gabarit::proximity
