#include "proximity/gap.h"

#include "proximity/collider_tree.h"

#include <fcl/narrowphase/collision.h>
#include <fcl/narrowphase/distance.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace gabarit::proximity {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;

constexpr double first_step_mm = 0.1;     // no tape reads finer
constexpr double step_growth = 1.35;      // each shell of the search is that much wider than the last
constexpr double depth_resolution = 0.02; // of the depth, and never below the next line
constexpr double depth_grain_mm = 0.02;
constexpr double same_direction_cos = 0.985;          // directions within 10° count once
constexpr double hint_reach[] = {1.0, 1.3, 1.8, 2.5}; // an overlap grows little between two frames of a drag
constexpr int most_tests = 20000;                     // of one way out; a hard one takes some hundred
constexpr std::size_t most_contacts = 60;
constexpr std::size_t most_directions = 60;

double boxDistance(const Eigen::AlignedBox3d& a, const Eigen::AlignedBox3d& b) {
    return std::sqrt(a.squaredExteriorDistance(b));
}

bool inside(const Collider& inner, const Isometry3d& pose_inner, const Collider& outer, const Isometry3d& pose_outer) {
    const Isometry3d pose_outer_inner = pose_outer.inverse() * pose_inner;
    return std::any_of(inner.pieces().begin(), inner.pieces().end(), [&](const Vector3d& point) {
        const Vector3d there = pose_outer_inner * point;
        return outer.bounds().contains(there) && shape::contains(outer.mesh(), there);
    });
}

using Corners = std::array<Vector3d, 3>;

Corners cornersOf(const Collider& c, const Isometry3d& pose, long id) {
    const shape::Triangle& t = c.mesh().triangles[static_cast<std::size_t>(id)];
    Corners out;
    for (std::size_t i = 0; i < 3; ++i) out[i] = pose * c.mesh().points[static_cast<std::size_t>(t.corner[i])];
    return out;
}

/// Where the sides of triangle `a` pierce triangle `b` (Möller and Trumbore 1997), added to a sum of points.
void addPiercings(const Corners& a, const Corners& b, Vector3d& sum, int& count) {
    const Vector3d side1 = b[1] - b[0], side2 = b[2] - b[0];
    for (std::size_t i = 0; i < 3; ++i) {
        const Vector3d along = a[(i + 1) % 3] - a[i], p = along.cross(side2), from = a[i] - b[0];
        const double det = side1.dot(p);
        if (std::abs(det) < 1e-12) continue; // the side runs along the triangle
        const double u = from.dot(p) / det, v = along.dot(from.cross(side1)) / det;
        const double t = side2.dot(from.cross(side1)) / det;
        if (u < 0 || v < 0 || u + v > 1 || t < 0 || t > 1) continue;
        sum += a[i] + t * along;
        ++count;
    }
}

/// Contacts of the two surfaces: middle of the places where they cut each other, and the normals of the triangles that
/// do (frame of the poses).
bool surfacesMeet(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b,
                  Vector3d& middle, std::vector<Vector3d>& normals) {
    fcl::CollisionRequestd request;
    request.num_max_contacts = most_contacts;
    request.enable_contact = true;
    fcl::CollisionResultd result;
    fcl::collide(&a.tree().contacts(), pose_a, &b.tree().contacts(), pose_b, request, result);
    if (!result.isCollision()) return false;
    // The library's own contact places may lie off both bodies by millimetres: the cuts themselves are computed.
    Vector3d cuts = Vector3d::Zero(), corners = Vector3d::Zero();
    int cut_count = 0;
    for (std::size_t i = 0; i < result.numContacts(); ++i) {
        const auto& contact = result.getContact(i);
        const Corners in_a = cornersOf(a, pose_a, contact.b1), in_b = cornersOf(b, pose_b, contact.b2);
        addPiercings(in_a, in_b, cuts, cut_count);
        addPiercings(in_b, in_a, cuts, cut_count);
        corners += (in_a[0] + in_a[1] + in_a[2] + in_b[0] + in_b[1] + in_b[2]) / 6;
        normals.push_back(-(in_a[1] - in_a[0]).cross(in_a[2] - in_a[0]).normalized());
        normals.push_back((in_b[1] - in_b[0]).cross(in_b[2] - in_b[0]).normalized());
    }
    // Faces that lie in one plane pierce nowhere: their middle must do.
    middle = cut_count > 0 ? Vector3d(cuts / cut_count) : Vector3d(corners / static_cast<double>(result.numContacts()));
    return true;
}

/// How far the surfaces are apart, up to a range; nothing beyond it.
std::optional<fcl::DistanceResultd> distance(const Collider& a, const Isometry3d& pose_a, const Collider& b,
                                             const Isometry3d& pose_b, double range_mm) {
    fcl::DistanceRequestd ask;
    ask.enable_nearest_points = true;
    fcl::DistanceResultd result;
    result.min_distance = std::nextafter(range_mm, std::numeric_limits<double>::infinity()); // prunes what lies beyond
    fcl::distance(&a.tree().contacts(), pose_a, &b.tree().contacts(), pose_b, ask, result);
    if (result.o1 == nullptr || result.min_distance > range_mm) return std::nullopt;
    return result;
}

/// Which way A comes away from B that it touches: the one of some ways that opens the widest gap. Zero when none does.
Vector3d opensMost(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b,
                   const std::vector<Vector3d>& ways) {
    Vector3d best = Vector3d::Zero();
    double widest_mm = depth_grain_mm; // along a face nothing opens
    for (const Vector3d& way : ways) {
        if (!way.allFinite()) continue; // the normal of a triangle without an area
        Isometry3d pose = pose_a;
        pose.pretranslate(first_step_mm * way);
        if (overlaps(a, pose, b, pose_b)) continue;
        const auto there = distance(a, pose, b, pose_b, 2 * first_step_mm);
        if (!there || there->min_distance <= widest_mm) continue;
        widest_mm = there->min_distance;
        best = way;
    }
    return best;
}

/// Searches the shortest translation of A that frees the pair.
class WayOut {
public:
    WayOut(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b,
           const GapRequest& request)
        : a_(a), b_(b), pose_a_(pose_a), pose_b_(pose_b), request_(request), box_a_(shape::moved(a.bounds(), pose_a)),
          box_b_(shape::moved(b.bounds(), pose_b)) {}

    /// The move, or nothing when no exit was found within the deepest depth.
    std::optional<Vector3d> search(const std::vector<Vector3d>& normals) {
        if (request_.hint)
            for (const double longer : hint_reach)
                if (isFree(*request_.hint * longer)) return refined(shrink(*request_.hint * longer, 0));
        const std::vector<Vector3d> directions = candidates(normals);
        double blocked = 0;
        for (double t = first_step_mm; t <= request_.deepest_mm && !ended(); t *= step_growth) {
            std::optional<Vector3d> best;
            for (const Vector3d& d : directions) {
                if (!isFree(d * t)) continue;
                const Vector3d shrunk = shrink(d * t, blocked / t);
                if (!best || shrunk.squaredNorm() < best->squaredNorm()) best = shrunk;
            }
            if (best) return refined(*best);
            blocked = t;
        }
        return std::nullopt;
    }

private:
    bool ended() const { return request_.stop.stopped() || tests_ >= most_tests; }
    bool isFree(const Vector3d& move) const {
        ++tests_;
        Eigen::AlignedBox3d box = box_a_;
        box.translate(move);
        if (!box.intersects(box_b_)) return true;
        Isometry3d pose = pose_a_;
        pose.pretranslate(move);
        return !overlaps(a_, pose, b_, pose_b_);
    }

    /// Bisects a free move towards the part of it that is known to be blocked.
    Vector3d shrink(const Vector3d& move, double blockedShare) const {
        double low = blockedShare, high = 1;
        const double grain = std::max(depth_grain_mm, depth_resolution * 0.25 * move.norm()) / move.norm();
        while (high - low > grain && !ended()) {
            const double middle = (low + high) / 2;
            (isFree(move * middle) ? high : low) = middle;
        }
        return move * high;
    }

    /// Leans the move sideways while that makes it shorter. Below the grain there is nothing left to shorten: the two
    /// touch.
    Vector3d refined(Vector3d move) const {
        for (double lean = 0.4; lean > depth_resolution && move.norm() > depth_grain_mm && !ended();) {
            const double length = move.norm();
            const Vector3d d = move / length;
            const Vector3d side = d.unitOrthogonal();
            const Vector3d other = d.cross(side);
            bool shorter = false;
            for (int k = 0; k < 8 && !shorter; ++k) {
                const double turn = k * 0.78539816339745;
                const Vector3d leaned =
                    (d + lean * (std::cos(turn) * side + std::sin(turn) * other)).normalized() * (length * 0.99);
                if (!isFree(leaned)) continue;
                move = shrink(leaned, 0);
                shorter = true;
            }
            if (!shorter) lean /= 2;
        }
        return move;
    }

    static std::vector<Vector3d> candidates(const std::vector<Vector3d>& normals) {
        std::vector<Vector3d> out;
        const auto add = [&out](const Vector3d& d) {
            if (out.size() >= most_directions || !(d.squaredNorm() > 0.5)) return;
            for (const Vector3d& known : out)
                if (known.dot(d) > same_direction_cos) return;
            out.push_back(d);
        };
        for (int axis = 0; axis < 3; ++axis)
            for (const double sign : {1.0, -1.0}) add(sign * Vector3d::Unit(axis));
        for (const Vector3d& n : normals) add(n);
        for (int x = -1; x <= 1; ++x)
            for (int y = -1; y <= 1; ++y)
                for (int z = -1; z <= 1; ++z)
                    if (x != 0 || y != 0 || z != 0) add(Vector3d(x, y, z).normalized());
        return out;
    }

    const Collider& a_;
    const Collider& b_;
    const Isometry3d& pose_a_;
    const Isometry3d& pose_b_;
    const GapRequest& request_;
    Eigen::AlignedBox3d box_a_, box_b_;
    mutable int tests_ = 0;
};

Gap overlapGap(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b,
               const Vector3d& middle, const std::vector<Vector3d>& normals, const GapRequest& request) {
    Gap out;
    out.contact = Contact::Overlap;
    out.point_a = out.point_b = middle;
    if (!request.depth) return out;
    if (const auto move = WayOut(a, pose_a, b, pose_b, request).search(normals)) {
        out.depth_found = true;
        out.gap_mm = -move->norm();
        out.away = move->normalized();
        if (move->norm() <= depth_grain_mm) { // faces that lie on each other
            out.contact = Contact::Apart;
            out.gap_mm = 0;
            std::vector<Vector3d> ways = normals;
            ways.push_back(out.away);
            out.away = opensMost(a, pose_a, b, pose_b, ways);
        }
    } else {
        out.gap_mm = -request.deepest_mm;
    }
    return out;
}

} // namespace

bool overlaps(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b) {
    // Where faces lie on each other either of the two may miss it by rounding: what one of them sees is there.
    if (cut(a.tree().triangles, pose_a, b.tree().triangles, pose_b)) return true;
    fcl::CollisionRequestd request;
    fcl::CollisionResultd result;
    fcl::collide(&a.tree().contacts(), pose_a, &b.tree().contacts(), pose_b, request, result);
    return result.isCollision() || inside(a, pose_a, b, pose_b) || inside(b, pose_b, a, pose_a);
}

Gap gap(const Collider& a, const Isometry3d& pose_a, const Collider& b, const Isometry3d& pose_b,
        const GapRequest& request) {
    Gap out;
    out.gap_mm = request.range_mm;
    const Eigen::AlignedBox3d box_a = shape::moved(a.bounds(), pose_a), box_b = shape::moved(b.bounds(), pose_b);
    if (boxDistance(box_a, box_b) > request.range_mm) return out;

    constexpr double touching_mm = 1e-9;
    const Witness seed = request.witness ? *request.witness : Witness{};
    const auto near = nearest(a.tree().triangles, pose_a, b.tree().triangles, pose_b, request.range_mm, seed);
    if (!near || (!near->meets && near->distance_mm > touching_mm)) { // no surface cuts another
        if (box_a.intersects(box_b)) {
            const bool aInB = inside(a, pose_a, b, pose_b);
            if (aInB || inside(b, pose_b, a, pose_a))
                return overlapGap(a, pose_a, b, pose_b, (aInB ? box_a : box_b).center(), {}, request);
        }
        if (!near) return out;
        if (request.witness) *request.witness = near->witness;
        out.contact = Contact::Apart;
        out.gap_mm = near->distance_mm;
        out.point_a = near->point_a;
        out.point_b = near->point_b;
        out.away = (out.point_a - out.point_b).normalized();
        return out;
    }

    // They cut, or touch: where and which way is told by the library.
    if (box_a.intersects(box_b)) {
        Vector3d middle = Vector3d::Zero();
        std::vector<Vector3d> normals;
        if (surfacesMeet(a, pose_a, b, pose_b, middle, normals))
            return overlapGap(a, pose_a, b, pose_b, middle, normals, request);
        const bool aInB = inside(a, pose_a, b, pose_b);
        if (aInB || inside(b, pose_b, a, pose_a))
            return overlapGap(a, pose_a, b, pose_b, (aInB ? box_a : box_b).center(), {}, request);
    }

    const auto result = distance(a, pose_a, b, pose_b, request.range_mm);
    if (!result) return out;
    out.contact = Contact::Apart;
    out.gap_mm = result->min_distance;
    out.point_a = result->nearest_points[0];
    out.point_b = result->nearest_points[1];
    if (out.gap_mm > touching_mm) {
        out.away = (out.point_a - out.point_b).normalized();
        return out;
    }
    // Where triangles meet, the library's nearest points may lie anywhere on them.
    out.gap_mm = 0;
    if ((out.point_a - out.point_b).norm() > touching_mm)
        out.point_a = out.point_b = box_a.intersection(box_b).center();
    if (request.depth) {
        const auto normal = [](const Corners& c) -> Vector3d { return (c[1] - c[0]).cross(c[2] - c[0]).normalized(); };
        out.away = opensMost(a, pose_a, b, pose_b,
                             {-normal(cornersOf(a, pose_a, result->b1)), normal(cornersOf(b, pose_b, result->b2))});
    }
    return out;
}

std::optional<Vector3d> clearingMove(const Collider& a, const Isometry3d& pose_a, const Collider& b,
                                     const Isometry3d& pose_b, const Gap& found, double wanted_mm,
                                     const StopToken& stop) {
    constexpr int most_corrections = 8;
    constexpr double overshoot_mm = 0.05; // so that the last correction does not end a hair short
    if (found.away.norm() < 0.5 || (found.contact == Contact::Overlap && !found.depth_found)) return std::nullopt;
    Vector3d move = found.away * std::max(0.0, wanted_mm - found.gap_mm + overshoot_mm);
    for (int i = 0; i < most_corrections && !stop.stopped(); ++i) {
        Isometry3d pose = pose_a;
        pose.pretranslate(move);
        GapRequest request;
        request.range_mm = wanted_mm + 1;
        request.stop = stop;
        const Gap there = gap(a, pose, b, pose_b, request);
        if (there.gap_mm >= wanted_mm) return move;
        if (there.away.norm() < 0.5) return std::nullopt;
        move += there.away * (wanted_mm - there.gap_mm + overshoot_mm);
    }
    return std::nullopt;
}

} // namespace gabarit::proximity
