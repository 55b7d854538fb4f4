#include "proximity/collider_cache.h"

namespace gabarit::proximity {
namespace {

MadeBody make(const model::ShapeSpec& spec, double deflection_mm) {
    MadeBody made;
    const auto solid = shape::makeSolid(spec);
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
    return made_.keep(key, std::make_shared<const MadeBody>(make(spec, deflection_mm_)));
}

} // namespace gabarit::proximity
