#include "proximity/collider_tree.h"

namespace gabarit::proximity {

Collider::Collider(shape::Mesh mesh, double deflection_mm)
    : mesh_(std::move(mesh)), deflection_mm_(deflection_mm), bounds_(shape::boundsOf(mesh_)),
      pieces_(shape::onePointPerPiece(mesh_)), tree_(std::make_unique<Tree>()) {
    std::vector<fcl::Triangle> triangles;
    triangles.reserve(mesh_.triangles.size());
    for (const shape::Triangle& t : mesh_.triangles)
        triangles.emplace_back(static_cast<std::size_t>(t.corner[0]), static_cast<std::size_t>(t.corner[1]),
                               static_cast<std::size_t>(t.corner[2]));
    tree_->model.beginModel(static_cast<int>(triangles.size()), static_cast<int>(mesh_.points.size()));
    tree_->model.addSubModel(mesh_.points, triangles);
    tree_->model.endModel();
    tree_->model.computeLocalAABB();
}

Collider::~Collider() = default;

} // namespace gabarit::proximity
