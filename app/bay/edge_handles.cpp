#include "bay/edge_handles.h"

#include "model/reshape.h"

#include <cmath>

namespace gabarit::app {
namespace {
constexpr double in_plane_least = 0.7; // of the axis' length: flatter ones would run away from the hand
}

std::optional<Eigen::Isometry3d> poseVehicleBody(const model::Project& project, const model::BodyRef& ref) {
    const model::Body* body = model::findBody(project, ref);
    if (!body) return std::nullopt;
    if (ref.inVehicle()) return body->poseOwnerBody();
    const model::Donor* donor = model::activeDonor(project);
    const model::Placement* placement = model::activePlacement(project);
    if (!donor || !placement || donor->id.text != ref.owner) return std::nullopt;
    return model::poseVehicleDonor(*placement, *donor) * body->poseOwnerBody();
}

std::vector<EdgeHandle> edgeHandles(const model::Project& project, const model::BodyRef& ref,
                                    const shape::Viewpoint& view) {
    std::vector<EdgeHandle> handles;
    const auto pose = poseVehicleBody(project, ref);
    if (!pose) return handles;
    const model::Body& body = *model::findBody(project, ref);
    const Eigen::AlignedBox3d box = model::extents_mm(body.shape);
    for (const model::Axis axis : {model::Axis::X, model::Axis::Y, model::Axis::Z}) {
        const int i = static_cast<int>(axis);
        const Eigen::Vector3d along = pose->linear().col(i);
        if (std::hypot(along.dot(view.right), along.dot(view.up)) < in_plane_least) continue;
        Eigen::Vector3d across = Eigen::Vector3d::Zero();
        double best = 0;
        for (int j = 0; j < 3; ++j) {
            const Eigen::Vector3d other = pose->linear().col(j);
            const double seen = j == i ? 0 : std::hypot(other.dot(view.right), other.dot(view.up));
            if (seen > best) best = seen, across = other * box.sizes()[j] / 2;
        }
        for (const bool high : {false, true}) {
            // A measure that cannot be dragged has no handle.
            if (!model::withFaceMoved(body, axis, high, high ? 1 : -1)) continue;
            Eigen::Vector3d face = box.center();
            face[i] = high ? box.max()[i] : box.min()[i];
            handles.push_back({axis, high, *pose * face, along, across});
        }
    }
    return handles;
}

} // namespace gabarit::app
