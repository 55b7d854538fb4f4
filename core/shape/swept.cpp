#include "shape/swept.h"

#include "linear/linear.h"

#include <algorithm>
#include <cmath>

namespace gabarit::shape {
namespace {

using Eigen::Vector3d;

constexpr int around = 72;           // flats: a quarter of a millimetre at 250 mm
constexpr double slice_mm = 2;       // along the axis
constexpr int most_slices = 400;     // of something long
constexpr double thinnest_mm = 0.05; // where there is nothing: the solid stays in one piece

/// The part of a polygon with x not below (above) a bound; x is along the axis.
std::vector<Vector3d> clippedRing(const std::vector<Vector3d>& in, double bound, bool keep_above) {
    std::vector<Vector3d> out;
    const auto inside = [&](const Vector3d& p) { return keep_above ? p.x() >= bound : p.x() <= bound; };
    for (std::size_t i = 0; i < in.size(); ++i) {
        const Vector3d &p = in[i], &q = in[(i + 1) % in.size()];
        if (inside(p)) out.push_back(p);
        if (inside(p) != inside(q)) out.push_back(p + (q - p) * ((bound - p.x()) / (q.x() - p.x())));
    }
    return out;
}

} // namespace

Swept sweptRound(const Mesh& mesh, const Vector3d& a, const Vector3d& b) {
    const Eigen::Matrix3d turn = linear::turnOnto(b - a, Vector3d::UnitX());
    std::vector<Vector3d> points; // x along the axis
    points.reserve(mesh.points.size());
    double low = 0, high = 0;
    for (const Vector3d& p : mesh.points) {
        points.push_back(turn * (p - a));
        low = points.size() == 1 ? points.back().x() : std::min(low, points.back().x());
        high = points.size() == 1 ? points.back().x() : std::max(high, points.back().x());
    }
    Swept out;
    if (points.empty()) return out;
    const int slices = std::clamp(static_cast<int>(std::ceil((high - low) / slice_mm)), 1, most_slices);
    const double step = std::max((high - low) / slices, 1e-6);
    std::vector<double> radius(static_cast<std::size_t>(slices), thinnest_mm);
    for (const Triangle& triangle : mesh.triangles) {
        std::vector<Vector3d> corners;
        for (const int corner : triangle.corner) corners.push_back(points[static_cast<std::size_t>(corner)]);
        const auto along = [](const Vector3d& p, const Vector3d& q) { return p.x() < q.x(); };
        const auto ends = std::minmax_element(corners.begin(), corners.end(), along);
        const int first = std::clamp(static_cast<int>((ends.first->x() - low) / step) - 1, 0, slices - 1);
        const int last = std::clamp(static_cast<int>((ends.second->x() - low) / step) + 1, 0, slices - 1);
        for (int slice = first; slice <= last; ++slice) {
            // The distance from the axis is convex: of a flat piece it is largest at a corner.
            const double from = low + slice * step;
            for (const Vector3d& p : clippedRing(clippedRing(corners, from, true), from + step, false)) {
                double& widest = radius[static_cast<std::size_t>(slice)];
                widest = std::max(widest, std::hypot(p.y(), p.z()));
            }
        }
    }
    const double circumscribed = 1 / std::cos(M_PI / around);
    const double largest = *std::max_element(radius.begin(), radius.end());
    out.slop_mm = largest * (circumscribed - 1);
    const auto back = [&](const Vector3d& p) { return Vector3d(turn.conjugate() * p + a); };
    const int rings = slices + 1;
    for (int ring = 0; ring < rings; ++ring) {
        const double before = ring == 0 ? 0 : radius[static_cast<std::size_t>(ring - 1)];
        const double after = ring == slices ? 0 : radius[static_cast<std::size_t>(ring)];
        const double r = std::max(before, after) * circumscribed;
        for (int i = 0; i < around; ++i) {
            const double angle = 2 * M_PI * i / around;
            out.mesh.points.push_back(back({low + ring * step, r * std::cos(angle), r * std::sin(angle)}));
        }
    }
    const int first_end = static_cast<int>(out.mesh.points.size());
    out.mesh.points.push_back(back({low, 0, 0}));
    out.mesh.points.push_back(back({low + slices * step, 0, 0}));
    const auto at = [](int ring, int i) { return ring * around + i % around; };
    for (int i = 0; i < around; ++i) {
        for (int ring = 0; ring < slices; ++ring) {
            out.mesh.triangles.push_back({{at(ring, i), at(ring + 1, i + 1), at(ring + 1, i)}});
            out.mesh.triangles.push_back({{at(ring, i), at(ring, i + 1), at(ring + 1, i + 1)}});
        }
        out.mesh.triangles.push_back({{first_end, at(0, i + 1), at(0, i)}});
        out.mesh.triangles.push_back({{first_end + 1, at(slices, i), at(slices, i + 1)}});
    }
    return out;
}

} // namespace gabarit::shape
