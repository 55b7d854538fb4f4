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
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        const auto found = entries_.find(key);
        if (found != entries_.end()) {
            found->second.used = true;
            return found->second.made;
        }
    }
    // Made outside the lock: two threads may make the same body, the first one in is kept.
    auto made = std::make_shared<const MadeBody>(make(spec, deflection_mm_));
    const std::lock_guard<std::mutex> lock(mutex_);
    return entries_.emplace(key, Entry{std::move(made)}).first->second.made;
}

void ColliderCache::forgetUnused() {
    const std::lock_guard<std::mutex> lock(mutex_);
    for (auto it = entries_.begin(); it != entries_.end();) {
        if (it->second.used)
            (it++)->second.used = false;
        else
            it = entries_.erase(it);
    }
}

} // namespace gabarit::proximity
