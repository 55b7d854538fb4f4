// Solids and colliders by shape, made once.
#pragma once

#include "proximity/collider.h"
#include "quantity/recent_cache.h"
#include "relief/section/relief.h"

#include <functional>
#include <memory>
#include <mutex>

namespace gabarit::proximity {

/// Where meshes are kept between runs. Thread-safe.
class MeshKeeper {
public:
    virtual ~MeshKeeper() = default;
    /// The mesh that was kept under this key; nothing when there is none, or none that can be trusted.
    virtual std::optional<shape::MeshedSolid> find(const std::string& key) = 0;
    virtual void keep(const std::string& key, const shape::MeshedSolid& mesh) = 0;
};

/// A solid that is made when it is first asked for, by whichever thread.
class LateSolid {
public:
    using Make = std::function<Result<shape::Solid>()>;
    explicit LateSolid(Make make) : make_(std::move(make)) {}
    /// One that is there.
    explicit LateSolid(shape::Solid solid) : solid_(std::move(solid)) {}
    const std::optional<shape::Solid>& get();

private:
    std::once_flag once_;
    Make make_;
    std::optional<shape::Solid> solid_;
};

/// What a shape became, or why it could not.
struct MadeBody {
    std::string key;                          ///< what it was made from: the same for the same solid
    std::shared_ptr<const Collider> collider; ///< null when `error` says why
    std::shared_ptr<LateSolid> late;          ///< null where there is none: what a body sweeps as it turns, `error`
    std::optional<Error> error;

    /// The solid itself, which a body of a kept mesh makes when it is asked for.
    std::optional<shape::Solid> solid() const { return late ? late->get() : std::nullopt; }
};

/// Thread-safe. Bodies of one shape share one entry; entries that no run has asked for are dropped by `forgetUnused`.
class ColliderCache {
public:
    explicit ColliderCache(double deflection_mm = shape::default_deflection_mm) : deflection_mm_(deflection_mm) {}

    double deflection_mm() const { return deflection_mm_; }
    /// Meshes are looked for there before a solid is made, and kept there. Before the first is asked for.
    void keepWith(std::shared_ptr<MeshKeeper> keeper) { keeper_ = std::move(keeper); }
    std::shared_ptr<const MadeBody> get(const model::ShapeSpec& spec);
    /// The same with pockets cut into it.
    std::shared_ptr<const MadeBody> get(const model::ShapeSpec& spec, const std::vector<model::Pocket>& pockets);
    /// The room that a body of this shape takes as it turns about an axis (its own frame).
    std::shared_ptr<const MadeBody> getSwept(const model::ShapeSpec& spec, const Eigen::Vector3d& axis_a_mm,
                                             const Eigen::Vector3d& axis_b_mm);
    /// Drops what was not asked for since the last call.
    void forgetUnused() { made_.forgetUnused(); }

private:
    std::shared_ptr<const MadeBody> made(const std::string& key, LateSolid::Make make);

    double deflection_mm_;
    std::shared_ptr<MeshKeeper> keeper_;
    RecentCache<std::shared_ptr<const MadeBody>> made_;
};

} // namespace gabarit::proximity
