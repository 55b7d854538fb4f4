#include "proximity/collider_cache.h"

#include "quantity/number.h"
#include "shape/pocket.h"
#include "shape/swept.h"

namespace gabarit::proximity {

const std::optional<shape::Solid>& LateSolid::get() {
    std::call_once(once_, [this] {
        if (!make_) return;
        if (auto made = make_()) solid_ = std::move(made).value();
        make_ = nullptr;
    });
    return solid_;
}

std::shared_ptr<const MadeBody> ColliderCache::made(const std::string& key, LateSolid::Make make) {
    if (const auto known = made_.find(key)) return *known;
    // Made outside the lock: two threads may make the same body, the first one in is kept.
    MadeBody made;
    made.key = key;
    const std::string name = key + " within " + quantity::exactNumber(deflection_mm_);
    const auto collider = [](shape::MeshedSolid its) {
        return std::make_shared<const Collider>(std::move(its.mesh), its.deflection_mm);
    };
    if (auto kept = keeper_ ? keeper_->find(name) : std::nullopt) {
        made.collider = collider(*std::move(kept));
        made.late = std::make_shared<LateSolid>(std::move(make));
    } else if (const auto solid = make(); !solid) {
        made.error = solid.error();
    } else if (auto mesh = shape::makeMesh(solid.value(), deflection_mm_); !mesh) {
        made.error = mesh.error();
    } else {
        if (keeper_) keeper_->keep(name, mesh.value());
        made.collider = collider(std::move(mesh).value());
        made.late = std::make_shared<LateSolid>(solid.value());
    }
    return made_.keep(key, std::make_shared<const MadeBody>(std::move(made)));
}

std::shared_ptr<const MadeBody> ColliderCache::get(const model::ShapeSpec& spec) {
    return made(model::shapeKey(spec), [spec] { return shape::makeSolid(spec); });
}

std::shared_ptr<const MadeBody> ColliderCache::get(const model::ShapeSpec& spec,
                                                   const std::vector<model::Pocket>& pockets) {
    if (pockets.empty()) return get(spec);
    std::string key = model::shapeKey(spec);
    for (const model::Pocket& pocket : pockets) key += model::pocketKey(pocket);
    return made(key, [spec, pockets] { return shape::pocketed(spec, pockets); });
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
