#include "field/wanted.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace gabarit::field {

using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;
using Eigen::Vector3i;

namespace {
constexpr int cells = 8, nodes = cells + 1; // of a brick along each axis
constexpr float not_asked = std::numeric_limits<float>::quiet_NaN();
constexpr double float_grain_mm = 1e-3; // of what a float keeps of a few hundred millimetres, with room to spare
} // namespace

struct Wanted::Brick {
    std::array<float, nodes * nodes * nodes> room_mm;
    std::vector<int> near; ///< the obstacles that can be the worst anywhere in it
};

struct Wanted::Placed {
    Isometry3d pose_body_vehicle;
    AlignedBox3d bounds_vehicle_mm;
};

Wanted::Wanted(std::vector<Obstacle> obstacles, const AlignedBox3d& region_vehicle_mm, const WantedOptions& options)
    : obstacles_(std::move(obstacles)), grain_mm_(options.grain_mm), range_mm_(options.range_mm) {
    for (const Obstacle& obstacle : obstacles_) {
        const AlignedBox3d& its = obstacle.surface->bounds();
        placed_.push_back({obstacle.pose_vehicle_body.inverse(),
                           its.isEmpty() ? its : shape::moved(its, obstacle.pose_vehicle_body)});
    }
    const AlignedBox3d region =
        region_vehicle_mm.isEmpty() ? AlignedBox3d(Vector3d::Zero(), Vector3d::Zero()) : region_vehicle_mm;
    origin_ = region.min();
    const auto countFor = [&](double grain) -> Vector3i {
        return (region.sizes() / (grain * cells)).array().ceil().max(1).cast<int>();
    };
    // A region as large as a street is asked on a coarser grid.
    const auto bytesFor = [&](double grain) {
        const Vector3d n = countFor(grain).cast<double>();
        return n.prod() * (sizeof(Brick) * 0.25 + sizeof(void*) + sizeof(float)); // most of it is never asked for
    };
    while (bytesFor(grain_mm_) > static_cast<double>(options.most_bytes)) grain_mm_ *= 2;
    count_ = countFor(grain_mm_);
    const auto all = static_cast<std::size_t>(count_.x()) * static_cast<std::size_t>(count_.y()) *
                     static_cast<std::size_t>(count_.z());
    middles_ = std::vector<std::atomic<float>>(all);
    bricks_ = std::vector<std::atomic<const Brick*>>(all);
    for (std::size_t i = 0; i < all; ++i) {
        middles_[i].store(not_asked, std::memory_order_relaxed);
        bricks_[i].store(nullptr, std::memory_order_relaxed);
    }
}

Wanted::~Wanted() {
    for (auto& brick : bricks_) delete brick.load();
}

std::size_t Wanted::bytes() const {
    return static_cast<std::size_t>(bricks()) * sizeof(Brick) + middles_.size() * (sizeof(void*) + sizeof(float));
}

/// `known`: between what it lies, at_most at most. `of`: nothing else can be nearer.
double Wanted::exactRoom(const Vector3d& point, Between known, const std::vector<int>* of) const {
    double best = known.at_most;
    const auto ask = [&](std::size_t i) {
        const Obstacle& obstacle = obstacles_[i];
        const Placed& placed = placed_[i];
        const double range = best + obstacle.wanted_mm;
        // Inside of it there is less room than nothing: the surface may be far away then.
        const bool may_hold = obstacle.surface->closed() && known.at_least <= -obstacle.wanted_mm &&
                              placed.bounds_vehicle_mm.contains(point);
        if (!may_hold && (range < 0 || placed.bounds_vehicle_mm.squaredExteriorDistance(point) > range * range)) return;
        const double deepest = -known.at_least - obstacle.wanted_mm; // that the point can lie inside
        const auto away = obstacle.surface->distance_mm(placed.pose_body_vehicle * point,
                                                        may_hold ? std::max(range, deepest) : range);
        if (away) best = std::min(best, *away - obstacle.wanted_mm);
    };
    if (of)
        for (const int i : *of) ask(static_cast<std::size_t>(i));
    else
        for (std::size_t i = 0; i < obstacles_.size(); ++i) ask(i);
    return best;
}

double Wanted::middleOf(std::size_t brick, const Vector3d& middle) const {
    float kept = middles_[brick].load(std::memory_order_relaxed);
    if (!std::isnan(kept)) return kept;
    kept =
        static_cast<float>(exactRoom(middle, {-std::numeric_limits<double>::infinity(), range_mm_}) - float_grain_mm);
    middles_[brick].store(kept, std::memory_order_relaxed);
    return kept;
}

const Wanted::Brick& Wanted::brickAt(std::size_t index) const {
    if (const Brick* there = bricks_[index].load(std::memory_order_acquire)) return *there;
    const double side = grain_mm_ * cells;
    const auto nx = static_cast<std::size_t>(count_.x()), ny = static_cast<std::size_t>(count_.y());
    const Vector3d low =
        origin_ + side * Vector3d(static_cast<double>(index % nx), static_cast<double>(index / nx % ny),
                                  static_cast<double>(index / (nx * ny)));
    const AlignedBox3d box(low, low + Vector3d::Constant(side));
    const double half = side * std::sqrt(3.0) / 2;
    const double middle = middleOf(index, box.center());
    const double most = middle + half + 2 * float_grain_mm; // anywhere in it
    auto made = std::make_unique<Brick>();
    std::vector<int>& near = made->near;
    for (std::size_t i = 0; i < obstacles_.size(); ++i) {
        const AlignedBox3d& its = placed_[i].bounds_vehicle_mm;
        const bool apart = !its.intersects(box);
        if (!apart || std::sqrt(its.squaredExteriorDistance(box)) - obstacles_[i].wanted_mm <= most)
            near.push_back(static_cast<int>(i));
    }
    std::size_t at = 0;
    for (int z = 0; z < nodes; ++z)
        for (int y = 0; y < nodes; ++y)
            for (int x = 0; x < nodes; ++x, ++at) {
                // No more, and no less, than a neighbour's and the way from there.
                const Vector3d node = low + grain_mm_ * Vector3d(x, y, z);
                Between known{middle - half - float_grain_mm, std::min(range_mm_, most)};
                const auto narrow = [&](bool there, std::size_t back) {
                    if (!there) return;
                    const double its = made->room_mm[at - back];
                    known.at_least = std::max(known.at_least, its - grain_mm_ - float_grain_mm);
                    known.at_most = std::min(known.at_most, its + grain_mm_ + float_grain_mm);
                };
                narrow(x > 0, 1);
                narrow(y > 0, nodes);
                narrow(z > 0, nodes * nodes);
                made->room_mm[at] = static_cast<float>(exactRoom(node, known, &near));
            }
    const Brick* none = nullptr;
    const Brick* mine = made.get();
    if (bricks_[index].compare_exchange_strong(none, mine, std::memory_order_acq_rel)) {
        made.release();
        made_.fetch_add(1, std::memory_order_relaxed);
        return *mine;
    }
    return *none; // another thread was quicker
}

std::optional<std::size_t> Wanted::indexOf(const Vector3d& in_bricks) const {
    const Vector3i brick = in_bricks.array().floor().cast<int>();
    if ((brick.array() < 0).any() || (brick.array() >= count_.array()).any()) return std::nullopt;
    const auto at = [](int i) { return static_cast<std::size_t>(i); };
    return at(brick.x()) + at(count_.x()) * (at(brick.y()) + at(count_.y()) * at(brick.z()));
}

double Wanted::roomWithin_mm(const Vector3d& point, double within_mm, double enough_mm) const {
    const double side = grain_mm_ * cells;
    const Vector3d in = (point - origin_) / side;
    const auto index = indexOf(in);
    const double wanted = enough_mm + within_mm;
    if (!index)
        return exactRoom(point, {-std::numeric_limits<double>::infinity(), std::max(range_mm_, wanted)}) - within_mm;
    const Vector3d brick = in.array().floor();
    const Vector3d middle = origin_ + side * (brick + Vector3d::Constant(0.5));
    const double coarse = middleOf(*index, middle) - (point - middle).norm();
    if (coarse >= wanted) return coarse - within_mm;
    const Brick& fine = brickAt(*index);
    const Vector3d at = (in - brick) * cells;
    const Vector3i cell = at.array().floor().cast<int>().max(0).min(cells - 1);
    const Vector3d share = at - cell.cast<double>();
    double room = 0;
    for (int corner = 0; corner < 8; ++corner) {
        const Vector3i step(corner & 1, corner >> 1 & 1, corner >> 2 & 1);
        double weight = 1;
        for (int k = 0; k < 3; ++k) weight *= step[k] ? share[k] : 1 - share[k];
        const Vector3i node = cell + step;
        room += weight * static_cast<double>(
                             fine.room_mm[static_cast<std::size_t>(node.x() + nodes * (node.y() + nodes * node.z()))]);
    }
    // The corners' mean way off is no more than the root of the mean square (Jensen).
    const double off = std::sqrt(share.dot(Vector3d::Ones() - share));
    return room - off * grain_mm_ - 3 * float_grain_mm - within_mm;
}

std::optional<Wanted::Room> Wanted::exact(const Vector3d& point, double enough_mm, double at_least_mm) const {
    double best = enough_mm;
    Room out;
    const auto ask = [&](std::size_t i) {
        const Obstacle& obstacle = obstacles_[i];
        const double range = best + obstacle.wanted_mm;
        const bool may_hold = obstacle.surface->closed() && at_least_mm <= -obstacle.wanted_mm &&
                              placed_[i].bounds_vehicle_mm.contains(point);
        if (!may_hold && (range < 0 || placed_[i].bounds_vehicle_mm.squaredExteriorDistance(point) > range * range))
            return;
        const Vector3d there = placed_[i].pose_body_vehicle * point;
        const double deepest = -at_least_mm - obstacle.wanted_mm; // that the point can lie inside
        const auto foot = obstacle.surface->nearest(there, may_hold ? std::max(range, deepest) : range);
        if (!foot) return;
        const bool inside = obstacle.surface->closed() && (there - foot->point).dot(foot->normal) < 0;
        const double room = (inside ? -foot->distance_mm : foot->distance_mm) - obstacle.wanted_mm;
        if (room >= best) return;
        best = room;
        Vector3d away = there - foot->point;
        if (inside) away = -away;
        if (away.norm() < 1e-9) away = foot->normal; // on the surface itself
        out = {room, static_cast<int>(i), (obstacle.pose_vehicle_body.linear() * away).normalized()};
    };
    const auto index = indexOf((point - origin_) / (grain_mm_ * cells));
    const Brick* brick = index ? bricks_[*index].load(std::memory_order_acquire) : nullptr;
    if (brick)
        for (const int i : brick->near) ask(static_cast<std::size_t>(i));
    else
        for (std::size_t i = 0; i < obstacles_.size(); ++i) ask(i);
    if (out.obstacle < 0) return std::nullopt;
    return out;
}

} // namespace gabarit::field
