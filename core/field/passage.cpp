#include "field/passage.h"

#include <algorithm>
#include <cmath>
#include <queue>

namespace gabarit::field {

using Eigen::AlignedBox3d;
using Eigen::Vector3d;
using Eigen::Vector3i;

namespace {

/// A grid in a box; its rooms are asked for once. Nodes that are not open are not gone to.
class Grid {
public:
    Grid(const Wanted& field, const AlignedBox3d& box, double grain_mm, const Vector3d& from, const Vector3d& to)
        : field_(field), grain_mm_(grain_mm), low_(box.min()), from_(from), to_(to) {
        count_ = (box.sizes() / grain_mm).array().floor().cast<int>() + 1;
        rooms_.assign(size(), std::numeric_limits<float>::quiet_NaN());
        begin_ = nearestTo(from);
        end_ = nearestTo(to);
    }
    std::size_t size() const {
        return static_cast<std::size_t>(count_.x()) * static_cast<std::size_t>(count_.y()) *
               static_cast<std::size_t>(count_.z());
    }
    /// Only what is within `reach_mm` of a way is open from now on.
    void openNear(const std::vector<Vector3d>& way, double reach_mm) {
        open_.assign(size(), false);
        for (std::size_t i = 0; i + 1 < way.size(); ++i) {
            const int steps = std::max(1, static_cast<int>(std::ceil((way[i + 1] - way[i]).norm() / grain_mm_)));
            for (int s = 0; s <= steps; ++s) openRound(way[i] + (way[i + 1] - way[i]) * s / steps, reach_mm);
        }
        for (const std::size_t end : {begin_, end_}) open_[end] = true;
    }

    struct Ways {
        std::vector<Vector3d> widest;   ///< as wide as can be all along: its narrowest place is the bottleneck
        std::vector<Vector3d> shortest; ///< of those that leave as much there
    };
    /// Empty when it was stopped or there is none.
    Ways ways(const StopToken& stop) {
        const std::vector<Reached> by_room = search(stop);
        if (by_room.empty()) return {};
        constexpr double same_mm = 1e-6;
        return {wayTo([&by_room](std::size_t node) { return by_room[node].before; }),
                shortest(stop, by_room[end_].worst - same_mm)};
    }

private:
    struct Reached {
        double worst = -std::numeric_limits<double>::infinity();
        std::size_t before = 0;
        bool done = false;
    };
    Vector3i cellOf(std::size_t node) const {
        const auto nx = static_cast<std::size_t>(count_.x()), ny = static_cast<std::size_t>(count_.y());
        return {static_cast<int>(node % nx), static_cast<int>(node / nx % ny), static_cast<int>(node / (nx * ny))};
    }
    std::size_t nodeOf(const Vector3i& cell) const {
        return static_cast<std::size_t>(cell.x()) +
               static_cast<std::size_t>(count_.x()) *
                   (static_cast<std::size_t>(cell.y()) +
                    static_cast<std::size_t>(count_.y()) * static_cast<std::size_t>(cell.z()));
    }
    Vector3d placeOf(std::size_t node) const { return low_ + grain_mm_ * cellOf(node).cast<double>(); }
    std::size_t nearestTo(const Vector3d& place) const {
        const Vector3i cell = ((place - low_) / grain_mm_).array().round().cast<int>();
        return nodeOf(cell.cwiseMax(0).cwiseMin(count_ - Vector3i::Ones()));
    }
    void openRound(const Vector3d& place, double reach_mm) {
        const Vector3i low = ((place - low_).array() / grain_mm_ - reach_mm / grain_mm_).floor().cast<int>().max(0);
        const Vector3i high =
            ((place - low_).array() / grain_mm_ + reach_mm / grain_mm_).ceil().cast<int>().min(count_.array() - 1);
        for (int z = low.z(); z <= high.z(); ++z)
            for (int y = low.y(); y <= high.y(); ++y)
                for (int x = low.x(); x <= high.x(); ++x) open_[nodeOf({x, y, z})] = true;
    }
    double roomAt(std::size_t node) {
        float& room = rooms_[node];
        if (std::isnan(room)) {
            constexpr double enough_mm = 400;
            const auto its = field_.exact(placeOf(node), enough_mm);
            room = static_cast<float>(its ? its->room_mm : enough_mm);
        }
        return static_cast<double>(room);
    }
    /// Of an edge: what every point of it has at least, since room changes by no more than the way. So nothing is gone
    /// through, however thin.
    double between(std::size_t a, std::size_t b) {
        return (roomAt(a) + roomAt(b) - (placeOf(a) - placeOf(b)).norm()) / 2;
    }
    template <class Visit>
    void neighbours(std::size_t node, Visit visit) const {
        const Vector3i cell = cellOf(node);
        for (int dz = -1; dz <= 1; ++dz)
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const Vector3i next = cell + Vector3i(dx, dy, dz);
                    if ((dx == 0 && dy == 0 && dz == 0) || (next.array() < 0).any() ||
                        (next.array() >= count_.array()).any())
                        continue;
                    const std::size_t other = nodeOf(next);
                    if (open_.empty() || open_[other])
                        visit(other, grain_mm_ * std::sqrt(static_cast<double>(dx * dx + dy * dy + dz * dz)));
                }
    }
    template <class Before>
    std::vector<Vector3d> wayTo(Before before) const {
        std::vector<Vector3d> out{to_};
        for (std::size_t node = end_; node != begin_; node = before(node)) out.push_back(placeOf(node));
        out.push_back(placeOf(begin_));
        out.push_back(from_);
        std::reverse(out.begin(), out.end());
        return out;
    }
    std::vector<Reached> search(const StopToken& stop) {
        std::vector<Reached> reached(size());
        std::priority_queue<std::pair<double, std::size_t>> queue; // the widest first
        reached[begin_].worst = roomAt(begin_);
        queue.emplace(reached[begin_].worst, begin_);
        while (!queue.empty() && !stop.stopped()) {
            const std::size_t node = queue.top().second;
            queue.pop();
            if (reached[node].done) continue;
            reached[node].done = true;
            if (node == end_) return reached;
            neighbours(node, [&](std::size_t other, double) {
                if (reached[other].done) return;
                const double worst = std::min(reached[node].worst, between(node, other));
                if (worst <= reached[other].worst) return;
                reached[other].worst = worst;
                reached[other].before = node;
                queue.emplace(worst, other);
            });
        }
        return {};
    }
    std::vector<Vector3d> shortest(const StopToken& stop, double least_mm) {
        constexpr double far = std::numeric_limits<double>::infinity();
        std::vector<double> length(size(), far);
        std::vector<std::uint32_t> before(size(), 0);
        std::priority_queue<std::pair<double, std::size_t>, std::vector<std::pair<double, std::size_t>>, std::greater<>>
            queue;
        length[begin_] = 0;
        queue.emplace(0, begin_);
        while (!queue.empty() && !stop.stopped()) {
            const auto [gone, node] = queue.top();
            queue.pop();
            if (gone > length[node]) continue;
            if (node == end_) break;
            neighbours(node, [&, at = node, so_far = gone](std::size_t other, double step) {
                if (so_far + step >= length[other] || between(at, other) < least_mm) return;
                length[other] = so_far + step;
                before[other] = static_cast<std::uint32_t>(at);
                queue.emplace(length[other], other);
            });
        }
        if (length[end_] == far || stop.stopped()) return {};
        return wayTo([&before](std::size_t node) { return static_cast<std::size_t>(before[node]); });
    }

    const Wanted& field_;
    double grain_mm_;
    Vector3d low_;
    Vector3d from_, to_;
    Vector3i count_;
    std::vector<float> rooms_;
    std::vector<bool> open_; ///< empty: all
    std::size_t begin_ = 0, end_ = 0;
};

/// What a way leaves, looked at every so often.
Passage along(const Wanted& field, std::vector<Vector3d> way, double each_mm) {
    Passage out;
    out.radius_mm = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i + 1 < way.size(); ++i) {
        const int steps = std::max(1, static_cast<int>(std::ceil((way[i + 1] - way[i]).norm() / each_mm)));
        for (int s = 0; s <= steps; ++s) {
            const Vector3d at = way[i] + (way[i + 1] - way[i]) * s / steps;
            constexpr double enough_mm = 400;
            const double most = std::min(out.radius_mm, enough_mm);
            const auto room = field.exact(at, most);
            if (!room) {
                if (std::isinf(out.radius_mm)) out.radius_mm = enough_mm, out.narrowest_vehicle_mm = at;
                continue;
            }
            out.radius_mm = room->room_mm;
            out.narrowest_vehicle_mm = at;
            out.obstacle = room->obstacle;
        }
    }
    out.way_vehicle_mm = std::move(way);
    return out;
}

} // namespace

std::optional<Passage> widestWay(const Wanted& field, const Vector3d& from, const Vector3d& to,
                                 const AlignedBox3d& inside, const PassageOptions& options) {
    if (!inside.contains(from) || !inside.contains(to)) return std::nullopt;
    double grain_mm = options.grain_mm;
    const auto nodes = [&] { return (inside.sizes() / grain_mm).array().floor().prod(); };
    while (nodes() > static_cast<double>(options.most_nodes)) grain_mm *= 2;
    Grid::Ways ways = Grid(field, inside, grain_mm, from, to).ways(options.stop);
    while (grain_mm > options.finest_mm && !ways.shortest.empty() && !options.stop.stopped()) {
        const double reach_mm = 2 * grain_mm;
        grain_mm = std::max(options.finest_mm, grain_mm / 3);
        AlignedBox3d near;
        for (const Vector3d& at : ways.widest) near.extend(at);
        near.min().array() -= reach_mm;
        near.max().array() += reach_mm;
        Grid fine(field, near.intersection(inside), grain_mm, from, to);
        if (fine.size() > options.most_nodes) break;
        fine.openNear(ways.widest, reach_mm);
        Grid::Ways finer = fine.ways(options.stop);
        if (finer.shortest.empty()) break;
        ways = std::move(finer);
    }
    if (ways.shortest.empty() || options.stop.stopped()) return std::nullopt;
    constexpr double each_mm = 0.5;
    const Passage bottleneck = along(field, std::move(ways.widest), each_mm);
    Passage out = along(field, std::move(ways.shortest), each_mm);
    out.narrowest_vehicle_mm = bottleneck.narrowest_vehicle_mm;
    out.obstacle = bottleneck.obstacle;
    return out;
}

} // namespace gabarit::field
