#include "field/surface.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace gabarit::field {

using Eigen::AlignedBox3d;
using Eigen::Vector3d;

/// Where on a triangle a point is nearest: on its face, an edge (from corner i to the next) or corner i.
struct OnTriangle {
    Vector3d point{0, 0, 0};
    enum { Face, Edge, Corner } part = Face;
    std::size_t i = 0;
};

namespace {

constexpr int faces_of_a_leaf = 4;

/// By the regions round it (Ericson 2004, 5.1.5).
OnTriangle onTriangle(const std::array<Vector3d, 3>& corner, const Vector3d& p) {
    const Vector3d &a = corner[0], &b = corner[1], &c = corner[2];
    const Vector3d ab = b - a, ac = c - a, ap = p - a;
    const double d1 = ab.dot(ap), d2 = ac.dot(ap);
    if (d1 <= 0 && d2 <= 0) return {a, OnTriangle::Corner, 0};
    const Vector3d bp = p - b;
    const double d3 = ab.dot(bp), d4 = ac.dot(bp);
    if (d3 >= 0 && d4 <= d3) return {b, OnTriangle::Corner, 1};
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) return {a + d1 / (d1 - d3) * ab, OnTriangle::Edge, 0};
    const Vector3d cp = p - c;
    const double d5 = ab.dot(cp), d6 = ac.dot(cp);
    if (d6 >= 0 && d5 <= d6) return {c, OnTriangle::Corner, 2};
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) return {a + d2 / (d2 - d6) * ac, OnTriangle::Edge, 2};
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0)
        return {b + (d4 - d3) / ((d4 - d3) + (d5 - d6)) * (c - b), OnTriangle::Edge, 1};
    const double all = va + vb + vc;
    return {a + vb / all * ab + vc / all * ac, OnTriangle::Face, 0};
}

} // namespace

struct Surface::Found {
    double best2;
    const Face* face = nullptr;
    OnTriangle at{};
};

Surface::Surface(std::shared_ptr<const proximity::Collider> body)
    : body_(std::move(body)), closed_(shape::isClosed(body_->mesh())) {
    const shape::Mesh& mesh = body_->mesh();
    std::vector<Vector3d> corner_normals(mesh.points.size(), Vector3d::Zero());
    std::map<std::pair<int, int>, Vector3d> edge_normals;
    const auto between = [](int a, int b) { return std::make_pair(std::min(a, b), std::max(a, b)); };
    faces_.reserve(mesh.triangles.size());
    for (const shape::Triangle& triangle : mesh.triangles) {
        Face face{};
        for (std::size_t i = 0; i < 3; ++i) face.corner[i] = mesh.points[static_cast<std::size_t>(triangle.corner[i])];
        const Vector3d across = (face.corner[1] - face.corner[0]).cross(face.corner[2] - face.corner[0]);
        face.normal = across.norm() > 0 ? Vector3d(across.normalized()) : Vector3d(Vector3d::Zero());
        for (std::size_t i = 0; i < 3; ++i) {
            const Vector3d on = face.corner[(i + 1) % 3] - face.corner[i],
                           back = face.corner[(i + 2) % 3] - face.corner[i];
            const double angle_rad = std::atan2(on.cross(back).norm(), on.dot(back));
            corner_normals[static_cast<std::size_t>(triangle.corner[i])] += angle_rad * face.normal;
            auto& edge =
                edge_normals.emplace(between(triangle.corner[i], triangle.corner[(i + 1) % 3]), Vector3d::Zero())
                    .first->second;
            edge += face.normal;
        }
        faces_.push_back(face);
    }
    for (std::size_t t = 0; t < faces_.size(); ++t)
        for (std::size_t i = 0; i < 3; ++i) {
            const auto& corner = mesh.triangles[t].corner;
            faces_[t].corner_normal[i] = corner_normals[static_cast<std::size_t>(corner[i])];
            faces_[t].edge_normal[i] = edge_normals[between(corner[i], corner[(i + 1) % 3])];
        }
    nodes_.reserve(faces_.size());
    nodes_.emplace_back();
    if (!faces_.empty()) build(0, 0, static_cast<int>(faces_.size()));
}

/// In two halves along the longest side of the box round their middles.
void Surface::build(std::size_t node, int first, int last) {
    AlignedBox3d box, middles;
    const auto middleOf = [](const Face& face) -> Vector3d {
        return (face.corner[0] + face.corner[1] + face.corner[2]) / 3;
    };
    for (int i = first; i < last; ++i) {
        for (const Vector3d& corner : faces_[static_cast<std::size_t>(i)].corner) box.extend(corner);
        middles.extend(middleOf(faces_[static_cast<std::size_t>(i)]));
    }
    nodes_[node].box = box;
    if (last - first <= faces_of_a_leaf) {
        nodes_[node].first = first;
        nodes_[node].count = last - first;
        return;
    }
    int longest = 0;
    middles.sizes().maxCoeff(&longest);
    const int middle = first + (last - first) / 2;
    std::nth_element(faces_.begin() + first, faces_.begin() + middle, faces_.begin() + last,
                     [&](const Face& a, const Face& b) { return middleOf(a)[longest] < middleOf(b)[longest]; });
    const std::size_t child = nodes_.size();
    nodes_[node].first = static_cast<int>(child);
    nodes_.emplace_back();
    nodes_.emplace_back();
    build(child, first, middle);
    build(child + 1, middle, last);
}

void Surface::search(const Node& node, const Vector3d& point, Found& found) const {
    if (node.count > 0) {
        for (int i = node.first; i < node.first + node.count; ++i) {
            const Face& face = faces_[static_cast<std::size_t>(i)];
            const OnTriangle at = onTriangle(face.corner, point);
            const double away2 = (point - at.point).squaredNorm();
            if (away2 > found.best2 || (found.face && away2 == found.best2)) continue;
            found = {away2, &face, at};
        }
        return;
    }
    const Node* near = &nodes_[static_cast<std::size_t>(node.first)];
    const Node* far = near + 1;
    double near2 = near->box.squaredExteriorDistance(point), far2 = far->box.squaredExteriorDistance(point);
    if (far2 < near2) {
        std::swap(near, far);
        std::swap(near2, far2);
    }
    if (near2 <= found.best2) search(*near, point, found);
    if (far2 <= found.best2) search(*far, point, found);
}

std::optional<Surface::Foot> Surface::nearest(const Vector3d& point_mm, double range_mm) const {
    if (faces_.empty() || range_mm < 0) return std::nullopt;
    Found found{range_mm * range_mm};
    if (nodes_.front().box.squaredExteriorDistance(point_mm) <= found.best2) search(nodes_.front(), point_mm, found);
    if (!found.face) return std::nullopt;
    const Vector3d& normal = found.at.part == OnTriangle::Face   ? found.face->normal
                             : found.at.part == OnTriangle::Edge ? found.face->edge_normal[found.at.i]
                                                                 : found.face->corner_normal[found.at.i];
    return Foot{std::sqrt(found.best2), found.at.point, normal};
}

std::optional<double> Surface::distance_mm(const Vector3d& point_mm, double range_mm) const {
    const auto foot = nearest(point_mm, range_mm);
    if (!foot) return std::nullopt;
    return closed_ && (point_mm - foot->point).dot(foot->normal) < 0 ? -foot->distance_mm : foot->distance_mm;
}

} // namespace gabarit::field
