#include "field/cloud.h"

#include <algorithm>
#include <cmath>
#include <unordered_set>

namespace gabarit::field {

using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

constexpr int points_of_a_leaf = 8;

/// The corners of a triangle cut in two at its longest edge until no edge is longer than that.
class Sprinkler {
public:
    Sprinkler(double longest_mm, std::vector<Vector3d>& out) : longest2_(longest_mm * longest_mm), out_(out) {}

    void triangle(const Vector3d& a, const Vector3d& b, const Vector3d& c) {
        for (const Vector3d* corner : {&a, &b, &c}) add(*corner);
        const double ab = (b - a).squaredNorm(), bc = (c - b).squaredNorm(), ca = (a - c).squaredNorm();
        const double most = std::max({ab, bc, ca});
        if (most <= longest2_) return;
        if (most == ab) return halves(a, b, c);
        if (most == bc) return halves(b, c, a);
        halves(c, a, b);
    }

private:
    void halves(const Vector3d& from, const Vector3d& to, const Vector3d& other) {
        // The same to the last bit from either side: the edge's two triangles share the point.
        const Vector3d middle = 0.5 * (from + to);
        triangle(from, middle, other);
        triangle(middle, to, other);
    }
    void add(const Vector3d& point) {
        if (seen_.insert(point).second) out_.push_back(point);
    }
    struct Hash {
        std::size_t operator()(const Vector3d& p) const {
            std::size_t h = 0;
            for (int i = 0; i < 3; ++i) h = h * 1000003u ^ std::hash<double>{}(p[i] + 0.0);
            return h;
        }
    };
    double longest2_;
    std::vector<Vector3d>& out_;
    std::unordered_set<Vector3d, Hash> seen_;
};

} // namespace

double wantedOfPoints_mm(double wanted_mm, double spread_mm) { return std::hypot(wanted_mm, spread_mm); }

Cloud::Cloud(std::shared_ptr<const Surface> surface, double spread_mm)
    : surface_(std::move(surface)), spread_mm_(spread_mm) {
    // Of a triangle with edges no longer than e every point is within e/√3 of a corner, of an edge within e/2.
    Sprinkler sprinkler(spread_mm * std::sqrt(3.0), points_);
    const shape::Mesh& mesh = surface_->body().mesh();
    const auto corner = [&mesh](int i) -> const Vector3d& { return mesh.points[static_cast<std::size_t>(i)]; };
    for (const shape::Triangle& t : mesh.triangles)
        sprinkler.triangle(corner(t.corner[0]), corner(t.corner[1]), corner(t.corner[2]));
    if (points_.empty()) return;
    nodes_.emplace_back();
    build(0, 0, static_cast<int>(points_.size()));
    // What meets another thing there is worth a look of its own.
    constexpr double least_region_mm = 90, spreads = 14;
    const double region_mm = std::max(least_region_mm, spreads * spread_mm);
    std::vector<std::size_t> open{0};
    while (!open.empty()) {
        const std::size_t node = open.back();
        open.pop_back();
        const bool small = nodes_[node].radius_mm <= region_mm || nodes_[node].count > 0;
        if (small) {
            regions_.push_back(node);
            continue;
        }
        for (const std::size_t child : {0, 1}) open.push_back(static_cast<std::size_t>(nodes_[node].first) + child);
    }
}

void Cloud::build(std::size_t node, int first, int last) {
    AlignedBox3d box;
    for (int i = first; i < last; ++i) box.extend(points_[static_cast<std::size_t>(i)]);
    double radius2 = 0;
    for (int i = first; i < last; ++i)
        radius2 = std::max(radius2, (points_[static_cast<std::size_t>(i)] - box.center()).squaredNorm());
    nodes_[node].centre = box.center();
    nodes_[node].radius_mm = std::sqrt(radius2);
    if (last - first <= points_of_a_leaf) {
        nodes_[node].first = first;
        nodes_[node].count = last - first;
        return;
    }
    int longest = 0;
    box.sizes().maxCoeff(&longest);
    const int middle = first + (last - first) / 2;
    std::nth_element(points_.begin() + first, points_.begin() + middle, points_.begin() + last,
                     [longest](const Vector3d& a, const Vector3d& b) { return a[longest] < b[longest]; });
    const std::size_t child = nodes_.size();
    nodes_[node].first = static_cast<std::int32_t>(child);
    nodes_.emplace_back();
    nodes_.emplace_back();
    build(child, first, middle);
    build(child + 1, middle, last);
}

struct Cloud::Search {
    const Cloud& cloud;
    const Wanted& wanted;
    const Isometry3d& pose;
    double best;
    double slack_share;
    std::optional<Worst> found;
    double first_mm = best;
    std::size_t found_at = 0; ///< of the points

    double enough() const { return best - slack_share * (first_mm - best); }
    double bound(const Node& node) const { return wanted.roomWithin_mm(pose * node.centre, node.radius_mm, enough()); }
    void visit(const Node& node) {
        if (node.count > 0) {
            for (int i = node.first; i < node.first + node.count; ++i) {
                const Vector3d& point = cloud.points_[static_cast<std::size_t>(i)];
                const Vector3d there = pose * point;
                const double least = wanted.roomWithin_mm(there, 0, enough());
                if (least >= enough()) continue;
                const auto room = wanted.exact(there, best, least);
                if (!room) continue;
                best = room->room_mm;
                found = Worst{best, *room, point};
                found_at = static_cast<std::size_t>(i);
            }
            return;
        }
        const Node* a = &cloud.nodes_[static_cast<std::size_t>(node.first)];
        const Node* b = a + 1;
        double room_a = bound(*a), room_b = bound(*b);
        if (room_b < room_a) {
            std::swap(a, b);
            std::swap(room_a, room_b);
        }
        if (room_a < enough()) visit(*a);
        if (room_b < enough()) visit(*b);
    }
};

/// What lies wholly inside is far from every point of the surface.
template <class Take>
void Cloud::swallowed(const Wanted& wanted, const Isometry3d& pose_vehicle_body, Take take) const {
    if (!surface_->closed()) return;
    const Isometry3d pose_body_vehicle = pose_vehicle_body.inverse();
    for (std::size_t i = 0; i < wanted.obstacles().size(); ++i) {
        const Obstacle& obstacle = wanted.obstacles()[i];
        for (const Vector3d& piece : obstacle.surface->body().pieces()) {
            const Vector3d there = pose_body_vehicle * (obstacle.pose_vehicle_body * piece);
            if (!surface_->bounds().contains(there)) continue;
            const auto foot = surface_->nearest(there);
            if (!foot || (there - foot->point).dot(foot->normal) >= 0) continue;
            const double room = -foot->distance_mm - obstacle.wanted_mm;
            const Vector3d out = pose_vehicle_body.linear() * (there - foot->point).normalized();
            take(Worst{room, {room, static_cast<int>(i), out}, foot->point});
        }
    }
}

std::optional<Cloud::Worst> Cloud::worst(const Wanted& wanted, const Isometry3d& pose_vehicle_body,
                                         double enough_mm) const {
    if (nodes_.empty()) return std::nullopt;
    Search search{*this, wanted, pose_vehicle_body, enough_mm, 0, std::nullopt};
    if (search.bound(nodes_.front()) < enough_mm) search.visit(nodes_.front());
    swallowed(wanted, pose_vehicle_body, [&search](const Worst& its) {
        if (its.room_mm >= search.best) return;
        search.best = its.room_mm;
        search.found = its;
    });
    return search.found;
}

double Cloud::leastRoom_mm(const Wanted& wanted, const Isometry3d& pose_vehicle_body, double enough_mm) const {
    if (nodes_.empty()) return enough_mm;
    Search search{*this, wanted, pose_vehicle_body, enough_mm, 0, std::nullopt};
    // Where it was worst a moment ago it is about as bad: little else has to be looked at.
    const std::size_t before = worst_at_.load(std::memory_order_relaxed);
    const Vector3d there = pose_vehicle_body * points_[before];
    if (const auto room = wanted.exact(there, enough_mm, wanted.roomWithin_mm(there, 0, enough_mm)))
        search.best = room->room_mm;
    if (search.bound(nodes_.front()) < search.best) search.visit(nodes_.front());
    if (search.found) worst_at_.store(search.found_at, std::memory_order_relaxed);
    swallowed(wanted, pose_vehicle_body,
              [&search](const Worst& its) { search.best = std::min(search.best, its.room_mm); });
    return search.best;
}

std::vector<Cloud::Worst> Cloud::worstOfRegions(const Wanted& wanted, const Isometry3d& pose_vehicle_body,
                                                double enough_mm, double slack_share) const {
    std::vector<Worst> out;
    for (const std::size_t region : regions_) {
        Search search{*this, wanted, pose_vehicle_body, enough_mm, slack_share, std::nullopt};
        if (search.bound(nodes_[region]) < enough_mm) search.visit(nodes_[region]);
        if (search.found) out.push_back(*search.found);
    }
    swallowed(wanted, pose_vehicle_body, [&](const Worst& its) {
        if (its.room_mm < enough_mm) out.push_back(its);
    });
    std::sort(out.begin(), out.end(), [](const Worst& a, const Worst& b) { return a.room_mm < b.room_mm; });
    return out;
}

} // namespace gabarit::field
