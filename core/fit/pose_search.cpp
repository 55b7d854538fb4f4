#include "fit/pose_search.h"

#include "quantity/quantity.h"

#include <nlopt.hpp>

#include <algorithm>
#include <cmath>

namespace gabarit::fit {

using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

constexpr double spare_mm = 0.03;   // asked for beyond what is wanted, so that no rounding decides
constexpr double settled_mm = 0.02; // nearer to what is wanted than anybody can set it
constexpr int most_pushes = 40;     // from one start
constexpr int most_in_vain = 20;    // it gets worse before it gets better

Vector3d cornerOf(const AlignedBox3d& box, int i) { return box.corner(static_cast<AlignedBox3d::CornerType>(i)); }

} // namespace

PoseSearch::PoseSearch(const Sieve& sieve, const model::Placement& placement, const model::Donor& donor,
                       const FreeLimits& limits)
    : sieve_(sieve), placement_(placement), donor_(donor), low_(changeOf(limits.low)), high_(changeOf(limits.high)),
      pose_now_(model::poseVehicleDonor(placement, donor)) {
    const double lever_mm = std::max(sieve.unit_donor_mm().sizes().norm() / 2, 1.0);
    for (int k = 0; k < 6; ++k)
        weight_[k] = isTurn(static_cast<std::size_t>(k)) ? std::pow(lever_mm / quantity::deg_per_rad, 2) : 1;
}

Shift PoseSearch::shiftOf(const Change& change) {
    Shift out;
    Eigen::Map<Change>(out.data()) = change;
    return out;
}

bool PoseSearch::Tried::good() const { return short_mm <= settled_mm; }
bool PoseSearch::Tried::operator<(const Tried& other) const {
    if (good() != other.good()) return good();
    return good() ? farthest_mm < other.farthest_mm : short_mm < other.short_mm;
}

Isometry3d PoseSearch::poseAt(const Change& by) const {
    const auto there = changed(placement_, donor_, shiftOf(by));
    return there.ok() ? model::poseVehicleDonor(there.value(), donor_) : pose_now_;
}

double PoseSearch::apart_mm(const Change& a, const Change& b) const {
    const Isometry3d pose_a = poseAt(a), pose_b = poseAt(b);
    double most = 0;
    for (int i = 0; i < 8; ++i) {
        const Vector3d corner = cornerOf(sieve_.unit_donor_mm(), i);
        most = std::max(most, (pose_a * corner - pose_b * corner).norm());
    }
    return most;
}

Going PoseSearch::wayTo(const Change& by) const {
    const double shift_mm = by.head<3>().norm(), turn_rad = by.tail<3>().cwiseAbs().sum() / quantity::deg_per_rad;
    const auto pivot = model::pivotVehicle_mm(placement_, donor_);
    const Vector3d about = pivot ? pivot.value() : Vector3d(pose_now_.translation());
    return {[this, by](double at) { return poseAt(at * by) * pose_now_.inverse(); },
            [shift_mm, turn_rad, about](const AlignedBox3d& box) {
                double lever_mm = 0;
                for (int i = 0; i < 8; ++i) lever_mm = std::max(lever_mm, (cornerOf(box, i) - about).norm());
                return std::max(shift_mm + turn_rad * lever_mm, 1e-3);
            },
            1};
}

double PoseSearch::lacksBesides_mm(const Change& by) const {
    double out = -std::numeric_limits<double>::infinity();
    for (const Demand& demand : besides_) out = std::max(out, demand.least - demand.along.dot(by));
    return out;
}

double PoseSearch::mostShort_mm(const Change& by, double look_mm) const {
    ++poses_;
    return std::max(sieve_.mostShort_mm(poseAt(by), look_mm) + spare_mm, lacksBesides_mm(by));
}

PoseSearch::Tried PoseSearch::tried(const Change& by) const { return {by, mostShort_mm(by, 1), farthest_mm(by)}; }

PoseSearch::Tried PoseSearch::pushed(const Change& from, const Change& wish, const StopToken& stop) const {
    Demands demands(low_, high_, weight_, besides_);
    Change by = from;
    Tried best;
    int in_vain = 0; // pushes that brought nothing
    for (int push = 0; push < most_pushes && in_vain < most_in_vain && !stop.stopped(); ++push) {
        const Isometry3d pose = poseAt(by);
        ++poses_;
        const auto all = sieve_.shortAt(pose, -spare_mm);
        const double lacks_mm = lacksBesides_mm(by);
        const Tried here{by, std::max(all.empty() ? 0 : all.front().by_mm + spare_mm, lacks_mm), farthest_mm(by)};
        in_vain = here.short_mm < best.short_mm - settled_mm ? 0 : in_vain + 1;
        if (here < best) best = here;
        if (here.good()) return best;
        addDemands(demands, by, pose, all);
        auto next = demands.nearestTo(wish);
        if (!next) { // what was met at other places does not hold here
            demands.forgetAllBut(all.size());
            next = demands.nearestTo(by);
        }
        // Nothing satisfies even what is met here: towards the best of it.
        if (next)
            by = *next;
        else if (!all.empty())
            by = Change(by + 0.5 * towards(by, pose, all.front())).cwiseMax(low_).cwiseMin(high_);
        else
            return best;
        if (!next) demands.forgetAllBut(0);
    }
    return best;
}

/// From a place with something short: what is short as little as can be.
PoseSearch::Tried PoseSearch::eased(const Tried& from, const StopToken& stop) const {
    constexpr int most_steps = 60;
    constexpr double look_mm = 4; // what is not short yet will be
    Tried best = from;
    Change by = from.by;
    Demands demands(low_, high_, weight_, besides_); // of all places on the way: a body turns about what it met before
    int in_vain = 0;
    for (int step = 0; step < most_steps && in_vain < 8 && !stop.stopped(); ++step) {
        const Isometry3d pose = poseAt(by);
        ++poses_;
        const auto all = sieve_.shortAt(pose, -look_mm);
        const double room_mm = all.empty() ? -look_mm : all.front().by_mm + spare_mm;
        const Tried here{by, std::max(room_mm, lacksBesides_mm(by)), farthest_mm(by)};
        in_vain = here.short_mm < best.short_mm - settled_mm / 4 ? 0 : in_vain + 1;
        if (here < best) best = here;
        if (here.good()) return best;
        if (in_vain == 3) demands.forgetAllBut(0); // what was met at other places does not hold here
        addDemands(demands, by, pose, all);
        const Change next = demands.leastLacking(best.by);
        if ((next - by).norm() < 1e-6) break;
        by = next;
    }
    return best;
}

PoseSearch::Tried PoseSearch::polished(const Tried& from, const StopToken& stop) const {
    std::vector<int> open;
    for (int k = 0; k < 6; ++k)
        if (high_[k] > low_[k]) open.push_back(k);
    if (open.empty()) return from;
    if (from.good()) return tidied(shrunk(from, open, stop));
    const Tried out = eased(from, stop);
    return out.good() ? tidied(shrunk(out, open, stop)) : out;
}

/// The smallest move near a good one (COBYLA, Powell 1994), in freedoms scaled to mm of the unit's ends.
PoseSearch::Tried PoseSearch::shrunk(const Tried& from, const std::vector<int>& open, const StopToken& stop) const {
    struct Ask {
        const PoseSearch& search;
        const std::vector<int>& open;
        const StopToken& stop;
        Tried best;
        Change locked; ///< those that are not open stay as there
        Change byOf(const std::vector<double>& v) const {
            Change by = locked;
            for (std::size_t i = 0; i < open.size(); ++i) {
                const int k = open[i];
                by[k] = std::clamp(v[i] / std::sqrt(search.weight_[k]), search.low_[k], search.high_[k]);
            }
            return by;
        }
    } ask{*this, open, stop, from, from.by};
    nlopt::opt opt(nlopt::LN_COBYLA, static_cast<unsigned>(open.size()));
    std::vector<double> low, high, x, step;
    for (const int k : open) {
        const double scale = std::sqrt(weight_[k]);
        low.push_back(low_[k] * scale);
        high.push_back(high_[k] * scale);
        x.push_back(std::clamp(from.by[k], low_[k], high_[k]) * scale);
        constexpr double first_step_mm = 8;
        step.push_back(std::min(first_step_mm, (high_[k] - low_[k]) * scale / 4));
    }
    opt.set_lower_bounds(low);
    opt.set_upper_bounds(high);
    opt.set_initial_step(step);
    opt.set_min_objective(
        [](const std::vector<double>& v, std::vector<double>&, void* data) {
            const Ask& a = *static_cast<Ask*>(data);
            return a.search.farthest_mm(a.byOf(v));
        },
        &ask);
    opt.add_inequality_constraint(
        [](const std::vector<double>& v, std::vector<double>&, void* data) {
            Ask& a = *static_cast<Ask*>(data);
            constexpr double look_mm = 20;
            if (a.stop.stopped()) return 0.0;
            const Change by = a.byOf(v);
            const Tried here{by, a.search.mostShort_mm(by, look_mm), a.search.farthest_mm(by)};
            if (here < a.best) a.best = here;
            return here.short_mm;
        },
        &ask, settled_mm / 2);
    constexpr int most_poses = 400;
    opt.set_maxeval(most_poses);
    opt.set_xtol_abs(settled_mm / 2);
    try {
        double value = 0;
        opt.optimize(x, value);
    } catch (const std::exception&) { // out of room, or rounding: the best that was seen stands
    }
    return ask.best;
}

/// Without the freedoms that it does without.
PoseSearch::Tried PoseSearch::tidied(Tried best) const {
    constexpr double worth_mm = 0.1; // of the move
    for (int k = 5; k >= 0; --k) {
        if (best.by[k] == 0 || low_[k] > 0 || high_[k] < 0) continue;
        Change by = best.by;
        by[k] = 0;
        const Tried here = tried(by);
        if (here.good() && here.farthest_mm <= best.farthest_mm + worth_mm) best = here;
    }
    return best;
}

/// How fast a point moves with each freedom, vehicle's frame, mm for each mm or degree.
Eigen::Matrix<double, 3, 6> PoseSearch::speeds(const Change& by, const Isometry3d& pose, const Vector3d& at) const {
    Eigen::Matrix<double, 3, 6> out;
    const Vector3d of_unit = pose.inverse() * at;
    constexpr double step = 0.01;
    for (int k = 0; k < 6; ++k) {
        Change there = by;
        there[k] += step;
        out.col(k) = (poseAt(there) * of_unit - at) / step;
    }
    return out;
}

void PoseSearch::addDemands(Demands& demands, const Change& by, const Isometry3d& pose,
                            const std::vector<Short>& all) const {
    constexpr std::size_t most_rows = 120;
    demands.forgetAllBut(most_rows);
    for (const Short& its : all) {
        if (its.away.isZero()) continue;
        const Change along = speeds(by, pose, its.at_vehicle_mm).transpose() * its.away;
        demands.add({along, along.dot(by) + its.by_mm + spare_mm});
    }
}

/// A step that mends the worst.
Change PoseSearch::towards(const Change& by, const Isometry3d& pose, const Short& worst) const {
    const Change along = speeds(by, pose, worst.at_vehicle_mm).transpose() * worst.away;
    const Change way = along.cwiseQuotient(weight_);
    const double size = along.dot(way);
    return size > 0 ? Change(way * (worst.by_mm / size)) : Change(Change::Zero());
}

} // namespace gabarit::fit
