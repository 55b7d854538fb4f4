#include "proximity/collider_tree.h"

namespace gabarit::proximity {

Collider::Collider(shape::Mesh mesh, double deflection_mm)
    : mesh_(std::move(mesh)), deflection_mm_(deflection_mm), bounds_(shape::boundsOf(mesh_)),
      pieces_(shape::onePointPerPiece(mesh_)), tree_(std::make_unique<Tree>(mesh_)) {}

const ContactModel& Collider::Tree::contacts() const {
    std::call_once(made_, [this] {
        std::vector<fcl::Triangle> all;
        all.reserve(mesh.triangles.size());
        for (const shape::Triangle& t : mesh.triangles)
            all.emplace_back(static_cast<std::size_t>(t.corner[0]), static_cast<std::size_t>(t.corner[1]),
                             static_cast<std::size_t>(t.corner[2]));
        model_.beginModel(static_cast<int>(all.size()), static_cast<int>(mesh.points.size()));
        model_.addSubModel(mesh.points, all);
        model_.endModel();
        model_.computeLocalAABB();
    });
    return model_;
}

Collider::~Collider() = default;

} // namespace gabarit::proximity
