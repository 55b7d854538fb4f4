#include "proximity/nearest.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace gabarit::proximity {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using kernel::Pose;

constexpr double nothing = 1e-300; // keeps a division by a length of zero finite
constexpr double parallel = 1e-14; // of the squared sine: nearer to it the crossing's place is noise
constexpr double far_off = 1e300;

/// The nearest points of two triangles.
struct Ends {
    double distance2 = far_off;
    Vector3d a, b;
};
using Corners = std::array<Vector3d, 3>;

Corners cornersOf(const TriangleTree& tree, int id) {
    Corners out;
    for (std::size_t i = 0; i < 3; ++i)
        out[i] =
            tree.mesh().points[static_cast<std::size_t>(tree.mesh().triangles[static_cast<std::size_t>(id)].corner[i])];
    return out;
}

void take(Ends& best, const Vector3d& a, const Vector3d& b) {
    const double distance2 = (a - b).squaredNorm();
    if (distance2 < best.distance2) best = {distance2, a, b};
}

double unitShare(double v) { return std::min(std::max(v, 0.0), 1.0); }

void takeSegments(Ends& best, const Vector3d& p, const Vector3d& d, const Vector3d& q, const Vector3d& e) {
    const Vector3d r = p - q;
    const double dd = d.squaredNorm(), ee = e.squaredNorm(), de = d.dot(e), dr = d.dot(r), er = e.dot(r);
    const double square = dd * ee - de * de;
    const double s0 = square > parallel * dd * ee ? unitShare((de * er - dr * ee) / square) : 0;
    const double t = unitShare((de * s0 + er) / std::max(ee, nothing));
    const double s = unitShare((de * t - dr) / std::max(dd, nothing));
    take(best, p + s * d, q + t * e);
}

/// The foot of a corner on a face it lies over.
std::optional<Vector3d> footOn(const Corners& face, const Vector3d& p) {
    const Vector3d normal = (face[1] - face[0]).cross(face[2] - face[1]);
    if (!(normal.squaredNorm() > nothing)) return std::nullopt;
    for (std::size_t i = 0; i < 3; ++i)
        if (normal.dot((face[(i + 1) % 3] - face[i]).cross(p - face[i])) < 0) return std::nullopt;
    return Vector3d(p - normal * (normal.dot(p - face[0]) / normal.squaredNorm()));
}

Ends endsOf(const Corners& a, const Corners& b) {
    Ends best;
    for (std::size_t i = 0; i < 3; ++i) {
        for (std::size_t j = 0; j < 3; ++j)
            takeSegments(best, a[i], a[(i + 1) % 3] - a[i], b[j], b[(j + 1) % 3] - b[j]);
        if (const auto foot = footOn(b, a[i])) take(best, a[i], *foot);
        if (const auto foot = footOn(a, b[i])) take(best, *foot, b[i]);
    }
    return best;
}

void search(const TriangleTree& a, const TriangleTree& b, const Pose& pose_a_b, kernel::Found& found) {
#if defined(__x86_64__)
    static const bool wide = __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma");
    if (wide) return kernel::searchWide(a.view(), b.view(), pose_a_b, found);
#endif
    kernel::searchPlain(a.view(), b.view(), pose_a_b, found);
}

Pose plain(const Isometry3d& pose) {
    Pose out;
    for (int i = 0; i < 9; ++i) out.turn[i] = pose.linear()(i % 3, i / 3);
    for (int i = 0; i < 3; ++i) out.way[i] = pose.translation()[i];
    return out;
}

} // namespace

bool cut(const TriangleTree& a, const Isometry3d& pose_a, const TriangleTree& b, const Isometry3d& pose_b) {
    if (a.empty() || b.empty()) return false;
    kernel::Found found{0, -1, -1, false, true};
    search(a, b, plain(pose_a.inverse(Eigen::Isometry) * pose_b), found);
    return found.meets;
}

std::optional<Nearest> nearest(const TriangleTree& a, const Isometry3d& pose_a, const TriangleTree& b,
                               const Isometry3d& pose_b, double range_mm, const Witness& seed) {
    if (a.empty() || b.empty()) return std::nullopt;
    const Isometry3d pose_a_b = pose_a.inverse(Eigen::Isometry) * pose_b;
    const Pose pose = plain(pose_a_b);
    const auto inA = [&pose_a_b](Corners corners) {
        for (Vector3d& p : corners) p = pose_a_b * p;
        return corners;
    };
    kernel::Found found{std::nextafter(range_mm * range_mm, far_off), -1, -1, false, false};
    const bool seeded = seed.a >= 0 && seed.b >= 0 && seed.a < static_cast<int>(a.mesh().triangles.size()) &&
                        seed.b < static_cast<int>(b.mesh().triangles.size());
    if (seeded) {
        const Ends ends = endsOf(cornersOf(a, seed.a), inA(cornersOf(b, seed.b)));
        if (ends.distance2 < found.best2) {
            found.best2 = ends.distance2;
            found.a = seed.a;
            found.b = seed.b;
        }
    }
    search(a, b, pose, found);
    Nearest out;
    if (found.meets) {
        out.meets = true;
        return out;
    }
    if (found.a < 0) return std::nullopt;
    const Ends ends = endsOf(cornersOf(a, found.a), inA(cornersOf(b, found.b)));
    out.distance_mm = std::sqrt(ends.distance2);
    if (out.distance_mm > range_mm) return std::nullopt;
    out.point_a = pose_a * ends.a;
    out.point_b = pose_a * ends.b;
    out.witness = {found.a, found.b};
    return out;
}

} // namespace gabarit::proximity
