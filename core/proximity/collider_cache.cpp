#include "proximity/collider_cache.h"

#include "shape/pocket.h"
#include "shape/swept.h"

namespace gabarit::proximity {
namespace {

MadeBody make(const Result<shape::Solid>& solid, double deflection_mm) {
    MadeBody made;
    if (!solid) {
        made.error = solid.error();
        return made;
    }
    auto mesh = shape::makeMesh(solid.value(), deflection_mm);
    if (!mesh) {
        made.error = mesh.error();
        return made;
    }
    made.solid = solid.value();
    made.collider = std::make_shared<const Collider>(std::move(mesh.value().mesh), mesh.value().deflection_mm);
    return made;
}

} // namespace

std::shared_ptr<const MadeBody> ColliderCache::get(const model::ShapeSpec& spec) {
    const std::string key = model::shapeKey(spec);
    if (const auto known = made_.find(key)) return *known;
    // Made outside the lock: two threads may make the same body, the first one in is kept.
    MadeBody made = make(shape::makeSolid(spec), deflection_mm_);
    made.key = key;
    return made_.keep(key, std::make_shared<const MadeBody>(std::move(made)));
}

std::shared_ptr<const MadeBody> ColliderCache::get(const model::ShapeSpec& spec,
                                                   const std::vector<model::Pocket>& pockets) {
    if (pockets.empty()) return get(spec);
    std::string key = model::shapeKey(spec);
    for (const model::Pocket& pocket : pockets) key += model::pocketKey(pocket);
    if (const auto known = made_.find(key)) return *known;
    MadeBody made = make(shape::pocketed(spec, pockets), deflection_mm_);
    made.key = key;
    return made_.keep(key, std::make_shared<const MadeBody>(std::move(made)));
}

std::shared_ptr<const MadeBody> ColliderCache::getSwept(const model::ShapeSpec& spec, const Eigen::Vector3d& a,
                                                        const Eigen::Vector3d& b) {
    std::string key = "swept " + model::shapeKey(spec);
    for (const Eigen::Vector3d& p : {a, b})
        for (int i = 0; i < 3; ++i) key += " " + std::to_string(p[i]);
    if (const auto known = made_.find(key)) return *known;
    MadeBody made;
    made.key = key;
    const auto still = get(spec);
    if (still->collider) {
        shape::Swept swept = shape::sweptRound(still->collider->mesh(), a, b);
        made.collider = std::make_shared<const Collider>(std::move(swept.mesh), still->collider->deflection_mm());
    } else {
        made.error = still->error;
    }
    return made_.keep(key, std::make_shared<const MadeBody>(std::move(made)));
}

} // namespace gabarit::proximity
