#include "fit/fit_map.h"

#include "fit/pose_search.h"
#include "quantity/on_threads.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <mutex>

namespace gabarit::fit {
namespace {

double between(const MapAxis& axis, int i, int count) {
    return axis.low + (axis.high - axis.low) * i / std::max(1, count - 1);
}
int nearestOf(const MapAxis& axis, double value, int count) {
    const double share = (value - axis.low) / (axis.high - axis.low);
    return std::clamp(static_cast<int>(std::lround(share * (count - 1))), 0, count - 1);
}

class Mapper {
public:
    Mapper(const Sieves& sieves, const model::Placement& placement, const model::Donor& donor,
           const MapOptions& options, const FreeLimits& limits, FitMap& map)
        : sieves_(sieves), placement_(placement), donor_(donor), options_(options), limits_(limits), map_(map) {}

    void run() {
        constexpr int coarsest = 8;
        for (int stride = coarsest; stride >= 1 && !options_.stop.stopped(); stride /= 2) {
            std::vector<std::pair<int, int>> next;
            for (int row = 0; row < map_.rows; ++row)
                for (int column = 0; column < map_.columns; ++column)
                    if (isOf(column, stride, map_.columns) && isOf(row, stride, map_.rows) &&
                        !map_.at(column, row).told)
                        next.emplace_back(column, row);
            known_ = map_.points; // the same whichever thread is quicker
            const bool ask_besides = stride > 1 || map_.columns <= coarsest;
            onThreads(options_.threads, next.size(), options_.stop,
                      [&](std::size_t i) { tell(next[i].first, next[i].second, ask_besides); });
            show();
        }
        map_.complete = !options_.stop.stopped();
    }

private:
    /// The last column is looked at from the beginning.
    static bool isOf(int i, int stride, int count) { return i % stride == 0 || i == count - 1; }
    void tell(int column, int row, bool ask_besides) {
        Change by = Change::Zero();
        by[static_cast<int>(map_.across.of)] = map_.acrossOf(column);
        by[static_cast<int>(map_.up.of)] = map_.upOf(row);
        const PoseSearch held(sieves_.fine, placement_, donor_, limits_);
        if (options_.freed) by = freed(by, column, row);
        const Eigen::Isometry3d pose = held.poseAt(by);
        MapPoint point;
        point.told = true;
        point.by = PoseSearch::shiftOf(by);
        point.short_mm = sieves_.fine.mostShort_mm(pose, options_.spare_mm);
        constexpr double about_mm = 0.05;
        std::optional<Short> worst;
        if (point.short_mm > -options_.spare_mm)
            for (const Short& its : sieves_.fine.shortAt(pose, point.short_mm - about_mm)) {
                worst = its;
                break;
            }
        if (ask_besides && options_.besides) {
            const auto there = changed(placement_, donor_, point.by);
            if (there.ok()) {
                const auto besides = options_.besides(there.value());
                point.besides =
                    std::all_of(besides.begin(), besides.end(), [](const Beside& b) { return b.lacks <= 0; });
            }
        }
        const std::lock_guard<std::mutex> lock(mutex_);
        if (worst) point.binding = pairOf(*worst);
        map_.points[static_cast<std::size_t>(row * map_.columns + column)] = point;
        constexpr int shown_each = 24;
        if (options_.show && ++since_shown_ >= shown_each) {
            since_shown_ = 0;
            options_.show(map_);
        }
    }
    /// The others as they are best there: beginning from where they were best at the nearest point that is known.
    Change freed(Change by, int column, int row) const {
        FreeLimits limits = limits_;
        for (const MapAxis* axis : {&map_.across, &map_.up}) {
            const auto k = static_cast<std::size_t>(axis->of);
            limits.low[k] = limits.high[k] = by[static_cast<int>(k)];
        }
        const PoseSearch rough(sieves_.coarse, placement_, donor_, limits);
        const PoseSearch fine(sieves_.fine, placement_, donor_, limits);
        Change from = by;
        int nearest = std::numeric_limits<int>::max();
        for (int r = 0; r < map_.rows; ++r)
            for (int c = 0; c < map_.columns; ++c) {
                const MapPoint& point = known_[static_cast<std::size_t>(r * map_.columns + c)];
                const int away = (r - row) * (r - row) + (c - column) * (c - column);
                if (!point.told || away >= nearest) continue;
                nearest = away;
                from = PoseSearch::changeOf(point.by);
            }
        for (const MapAxis* axis : {&map_.across, &map_.up})
            from[static_cast<int>(axis->of)] = by[static_cast<int>(axis->of)];
        const auto pushed = rough.pushed(from, by, options_.stop);
        const auto eased = pushed.good() ? pushed : rough.polished(pushed, options_.stop);
        const auto here = fine.pushed(eased.by, by, options_.stop);
        const auto there = fine.tried(eased.by);
        return here < there ? here.by : there.by;
    }
    int pairOf(const Short& its) {
        const Sieve::Member &a = sieves_.fine.bodies()[its.body], &b = sieves_.fine.others()[its.other];
        for (std::size_t i = 0; i < map_.pairs.size(); ++i)
            if (map_.pairs[i].a == a.ref && map_.pairs[i].b == b.ref) return static_cast<int>(i);
        map_.pairs.push_back({a.ref, b.ref, a.name, b.name, 0});
        return static_cast<int>(map_.pairs.size()) - 1;
    }
    void show() {
        const std::lock_guard<std::mutex> lock(mutex_);
        if (options_.show) options_.show(map_);
    }

    const Sieves& sieves_;
    const model::Placement& placement_;
    const model::Donor& donor_;
    const MapOptions& options_;
    const FreeLimits limits_;
    FitMap& map_;
    std::vector<MapPoint> known_; ///< of the coarser points
    std::mutex mutex_;
    int since_shown_ = 0;
};

} // namespace

double FitMap::acrossOf(int column) const { return between(across, column, columns); }
double FitMap::upOf(int row) const { return between(up, row, rows); }
std::pair<int, int> FitMap::nearest(double its_across, double its_up) const {
    return {nearestOf(across, its_across, columns), nearestOf(up, its_up, rows)};
}

FitMap fitMap(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
              const model::RuleBook& book, const MapOptions& options) {
    FitMap map;
    map.across = options.across;
    map.up = options.up;
    map.columns = std::max(2, options.columns);
    map.rows = std::max(2, options.rows);
    map.freed = options.freed;
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor)
        map.reason = "no donor is placed";
    else if (!now.reason.empty())
        map.reason = now.reason;
    else if (map.across.of == map.up.of)
        map.reason = "a map goes over two different freedoms";
    else if (!(map.across.high > map.across.low) || !(map.up.high > map.up.low))
        map.reason = "a map goes from a lower to a higher figure";
    else if ((isTurn(static_cast<std::size_t>(map.across.of)) || isTurn(static_cast<std::size_t>(map.up.of))) &&
             !model::pivotDonor_mm(*donor, placement->pivot).ok())
        map.reason = "the donor has no pivot to turn about";
    if (!map.reason.empty()) return map;
    map.points.resize(static_cast<std::size_t>(map.columns * map.rows));
    const FreeLimits limits = within(options.limits, *placement, *donor);
    std::optional<Sieves> own;
    if (!options.sieves) {
        SieveOptions ask;
        FreeLimits widest = limits;
        for (const MapAxis* axis : {&map.across, &map.up}) {
            const auto k = static_cast<std::size_t>(axis->of);
            widest.low[k] = std::min(widest.low[k], axis->low);
            widest.high[k] = std::max(widest.high[k], axis->high);
        }
        ask.farthest_mm = farthest_mm(widest);
        own = Sieves::of(project, scene, now, book, ask);
    }
    const Sieves& sieves = options.sieves ? *options.sieves : *own;
    if (!sieves.fine.any()) {
        map.reason = "nothing of the unit is held against anything of the vehicle";
        return map;
    }
    map.open = sieves.fine.open();
    Mapper(sieves, *placement, *donor, options, limits, map).run();
    return map;
}

} // namespace gabarit::fit
