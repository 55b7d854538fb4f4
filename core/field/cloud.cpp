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
    std::optional<Worst> found;

    double bound(const Node& node) const { return wanted.roomWithin_mm(pose * node.centre, node.radius_mm, best); }
    void visit(const Node& node) {
        if (node.count > 0) {
            for (int i = node.first; i < node.first + node.count; ++i) {
                const Vector3d& point = cloud.points_[static_cast<std::size_t>(i)];
                const Vector3d there = pose * point;
                const double least = wanted.roomWithin_mm(there, 0, best);
                if (least >= best) continue;
                const auto room = wanted.exact(there, best, least);
                if (!room) continue;
                best = room->room_mm;
                found = Worst{best, *room, point};
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
        if (room_a < best) visit(*a);
        if (room_b < best) visit(*b);
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
    Search search{*this, wanted, pose_vehicle_body, enough_mm, std::nullopt};
    if (search.bound(nodes_.front()) < enough_mm) search.visit(nodes_.front());
    swallowed(wanted, pose_vehicle_body, [&search](const Worst& its) {
        if (its.room_mm >= search.best) return;
        search.best = its.room_mm;
        search.found = its;
    });
    return search.found;
}

struct Cloud::SearchOfEach {
    const Cloud& cloud;
    const Wanted& wanted;
    const Isometry3d& pose;
    double enough;
    std::vector<Worst> found;
    int asked = 0;

    void take(const Worst& its) {
        const auto same = [&its](const Worst& other) { return other.at.obstacle == its.at.obstacle; };
        const auto there = std::find_if(found.begin(), found.end(), same);
        if (there == found.end())
            found.push_back(its);
        else if (its.room_mm < there->room_mm)
            *there = its;
    }
    void visit(const Node& node) {
        // Deep in something everything is short of room: then only what is worse is asked about.
        constexpr int most_asked = 600;
        if (asked > most_asked && !found.empty())
            enough = std::min_element(found.begin(), found.end(), [](const Worst& a, const Worst& b) {
                         return a.room_mm < b.room_mm;
                     })->room_mm;
        if (wanted.roomWithin_mm(pose * node.centre, node.radius_mm, enough) >= enough) return;
        if (node.count == 0) {
            visit(cloud.nodes_[static_cast<std::size_t>(node.first)]);
            return visit(cloud.nodes_[static_cast<std::size_t>(node.first) + 1]);
        }
        for (int i = node.first; i < node.first + node.count; ++i) {
            const Vector3d& point = cloud.points_[static_cast<std::size_t>(i)];
            const double least = wanted.roomWithin_mm(pose * point, 0, enough);
            if (least >= enough) continue;
            ++asked;
            if (const auto room = wanted.exact(pose * point, enough, least)) take({room->room_mm, *room, point});
        }
    }
};

std::vector<Cloud::Worst> Cloud::worstOfEach(const Wanted& wanted, const Isometry3d& pose_vehicle_body,
                                             double enough_mm) const {
    if (nodes_.empty()) return {};
    SearchOfEach search{*this, wanted, pose_vehicle_body, enough_mm, {}};
    search.visit(nodes_.front());
    swallowed(wanted, pose_vehicle_body, [&](const Worst& its) {
        if (its.room_mm < enough_mm) search.take(its);
    });
    std::sort(search.found.begin(), search.found.end(),
              [](const Worst& a, const Worst& b) { return a.room_mm < b.room_mm; });
    return std::move(search.found);
}

} // namespace gabarit::field
