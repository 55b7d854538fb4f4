#include "fit/free_all.h"

#include "fit/elsewhere.h"
#include "quantity/on_threads.h"
#include "quantity/quantity.h"

#include <nlopt.hpp>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <mutex>

namespace gabarit::fit {

using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

using Vector6d = Eigen::Matrix<double, 6, 1>;

constexpr double spare_mm = 0.03;   // asked for beyond what is wanted, so that no rounding decides
constexpr double settled_mm = 0.02; // nearer to what is wanted than anybody can set it
constexpr int most_pushes = 40;     // from one start
constexpr int most_in_vain = 20;    // it gets worse before it gets better

Vector6d vectorOf(const Shift& shift) { return Eigen::Map<const Vector6d>(shift.data()); }
Shift shiftOf(const Vector6d& v) {
    Shift out;
    Eigen::Map<Vector6d>(out.data()) = v;
    return out;
}

/// Evenly over the unit cube, the same each time (Halton 1960).
double halton(unsigned index, unsigned base) {
    double share = 1, out = 0;
    for (unsigned i = index; i > 0; i /= base) {
        share /= base;
        out += share * (i % base);
    }
    return out;
}

/// Half-spaces that the change has to lie in, and the smallest change that does (Hildreth 1957).
class Demands {
public:
    Demands(Vector6d low, Vector6d high, Vector6d weight) : low_(low), high_(high), weight_(weight) {}

    void add(const Vector6d& along, double least) { rows_.push_back({along, least, 0}); }
    void forgetAllBut(std::size_t last) {
        if (rows_.size() > last) rows_.erase(rows_.begin(), rows_.end() - static_cast<std::ptrdiff_t>(last));
    }
    std::size_t size() const { return rows_.size(); }

    /// The nearest to `wish` in the weights; nothing when they contradict each other as far as can be told.
    std::optional<Vector6d> nearestTo(const Vector6d& wish) { return solved(wish, 0); }
    /// Where none can satisfy all: near to `wish` what lacks least of all of them alike.
    std::optional<Vector6d> leastLacking(const Vector6d& wish) {
        constexpr double give = 200; // what is lacking weighs as much more than going there
        return solved(wish, give);
    }

private:
    std::optional<Vector6d> solved(const Vector6d& wish, double give) {
        double lacking = 0;
        Vector6d x = wish, up = Vector6d::Zero(), down = Vector6d::Zero();
        for (Row& row : rows_) row.pull = 0;
        constexpr int rounds = 300;
        const Vector6d inverse = weight_.cwiseInverse();
        for (int round = 0; round < rounds; ++round) {
            double most = 0;
            for (Row& row : rows_) {
                const Vector6d way = inverse.cwiseProduct(row.along);
                const double shared = give > 0 ? 1 / give : 0;
                const double size = row.along.dot(way) + shared;
                if (size <= 0) continue;
                const double pull = std::max(-row.pull, (row.least - row.along.dot(x) - lacking) / size);
                row.pull += pull;
                x += pull * way;
                lacking += pull * shared;
                most = std::max(most, std::abs(pull) * std::sqrt(size));
            }
            for (int k = 0; k < 6; ++k) {
                const double lift = std::max(-up[k], low_[k] - x[k]);
                up[k] += lift, x[k] += lift;
                const double push = std::max(-down[k], x[k] - high_[k]);
                down[k] += push, x[k] -= push;
                most = std::max({most, std::abs(lift), std::abs(push)});
            }
            if (most < 1e-4) return x;
        }
        return give > 0 ? std::optional(x) : std::nullopt; // near enough where something lacks all the same
    }

    struct Row {
        Vector6d along;
        double least;
        double pull;
    };
    Vector6d low_, high_, weight_;
    std::vector<Row> rows_;
};

class Search {
public:
    Search(const Sieve& sieve, const model::Placement& placement, const model::Donor& donor, const FreeLimits& limits)
        : sieve_(sieve), placement_(placement), donor_(donor), low_(vectorOf(limits.low)), high_(vectorOf(limits.high)),
          pose_now_(model::poseVehicleDonor(placement, donor)) {
        const double lever_mm = std::max(sieve.unit_donor_mm().sizes().norm() / 2, 1.0);
        for (int k = 0; k < 6; ++k)
            weight_[k] = isTurn(static_cast<std::size_t>(k)) ? std::pow(lever_mm / quantity::deg_per_rad, 2) : 1;
    }

    Isometry3d poseAt(const Vector6d& by) const {
        const auto there = changed(placement_, donor_, shiftOf(by));
        return there.ok() ? model::poseVehicleDonor(there.value(), donor_) : pose_now_;
    }
    double farthest_mm(const Vector6d& by) const {
        const Isometry3d pose = poseAt(by);
        double out = 0;
        for (int i = 0; i < 8; ++i) {
            const Vector3d corner = sieve_.unit_donor_mm().corner(static_cast<Eigen::AlignedBox3d::CornerType>(i));
            out = std::max(out, (pose * corner - pose_now_ * corner).norm());
        }
        return out;
    }
    /// Straight from where it hangs.
    Going wayTo(const Vector6d& by) const {
        const double shift_mm = by.head<3>().norm(), turn_rad = by.tail<3>().cwiseAbs().sum() / quantity::deg_per_rad;
        const auto pivot = model::pivotVehicle_mm(placement_, donor_);
        const Vector3d about = pivot ? pivot.value() : Vector3d(pose_now_.translation());
        return {[this, by](double at) { return poseAt(at * by) * pose_now_.inverse(); },
                [shift_mm, turn_rad, about](const Eigen::AlignedBox3d& box) {
                    double lever_mm = 0;
                    for (int i = 0; i < 8; ++i)
                        lever_mm = std::max(
                            lever_mm, (box.corner(static_cast<Eigen::AlignedBox3d::CornerType>(i)) - about).norm());
                    return std::max(shift_mm + turn_rad * lever_mm, 1e-3);
                },
                1};
    }
    double mostShort_mm(const Vector6d& by, double look_mm = 0) const {
        ++poses_;
        return sieve_.mostShort_mm(poseAt(by), look_mm) + spare_mm;
    }
    long poses() const { return poses_; }

    struct Tried {
        Vector6d by = Vector6d::Zero();
        double short_mm = 1e9;
        double farthest_mm = 1e9;
        bool good() const { return short_mm <= settled_mm; }
        bool operator<(const Tried& other) const {
            if (good() != other.good()) return good();
            return good() ? farthest_mm < other.farthest_mm : short_mm < other.short_mm;
        }
    };
    Tried tried(const Vector6d& by) const {
        Tried out{by, mostShort_mm(by, 1), 0};
        out.farthest_mm = farthest_mm(by);
        return out;
    }

    /// Pushed by what is short from a start, as little away from it as can be.
    Tried pushed(const Vector6d& start, const StopToken& stop) const {
        Demands demands(low_, high_, weight_);
        Vector6d by = start;
        Tried best;
        int in_vain = 0; // pushes that brought nothing
        for (int push = 0; push < most_pushes && in_vain < most_in_vain && !stop.stopped(); ++push) {
            const Isometry3d pose = poseAt(by);
            ++poses_;
            const auto all = sieve_.shortAt(pose, -spare_mm);
            Tried here{by, all.empty() ? 0 : all.front().by_mm + spare_mm, farthest_mm(by)};
            in_vain = here.short_mm < best.short_mm - settled_mm ? 0 : in_vain + 1;
            if (here < best) best = here;
            if (all.empty()) return best;
            addDemands(demands, by, pose, all);
            auto next = demands.nearestTo(start);
            if (!next) { // what was met at other places does not hold here
                demands.forgetAllBut(all.size());
                next = demands.nearestTo(by);
            }
            // Nothing satisfies even what is met here: towards the best of it.
            by = next ? *next : Vector6d(by + 0.5 * towards(by, pose, all)).cwiseMax(low_).cwiseMin(high_);
            if (!next) demands.forgetAllBut(0);
        }
        return best;
    }

    /// From a place with something short: what is short as little as can be.
    Tried eased(const Tried& from, const StopToken& stop) const {
        constexpr int most_steps = 60;
        constexpr double look_mm = 4; // what is not short yet will be
        Tried best = from;
        Vector6d by = from.by;
        Demands demands(low_, high_, weight_); // of all places on the way: a body turns about what it met before
        int in_vain = 0;
        for (int step = 0; step < most_steps && in_vain < 8 && !stop.stopped(); ++step) {
            const Isometry3d pose = poseAt(by);
            ++poses_;
            const auto all = sieve_.shortAt(pose, -look_mm);
            Tried here{by, all.empty() ? -look_mm : all.front().by_mm + spare_mm, farthest_mm(by)};
            in_vain = here.short_mm < best.short_mm - settled_mm / 4 ? 0 : in_vain + 1;
            if (here < best) best = here;
            if (here.good()) return best;
            if (in_vain == 3) demands.forgetAllBut(0); // what was met at other places does not hold here
            addDemands(demands, by, pose, all);
            const auto next = demands.leastLacking(best.by);
            if (!next || (*next - by).norm() < 1e-6) break;
            by = *next;
        }
        return best;
    }

    /// As small as can be with nothing short; where something is, that as little as can be.
    Tried polished(const Tried& from, const StopToken& stop) const {
        std::vector<int> open;
        for (int k = 0; k < 6; ++k)
            if (high_[k] > low_[k]) open.push_back(k);
        if (open.empty()) return from;
        if (!from.good()) {
            const Tried out = eased(from, stop);
            return out.good() ? polished(out, stop) : out;
        }
        Tried best = from;
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
        struct Ask {
            const Search* search;
            const StopToken* stop;
            std::function<Vector6d(const std::vector<double>&)> byOf;
            Tried* best;
        } ask{this, &stop,
              [&](const std::vector<double>& v) {
                  Vector6d by = Vector6d::Zero();
                  for (std::size_t i = 0; i < open.size(); ++i)
                      by[open[i]] = std::clamp(v[i] / std::sqrt(weight_[open[i]]), low_[open[i]], high_[open[i]]);
                  return by;
              },
              &best};
        opt.set_lower_bounds(low);
        opt.set_upper_bounds(high);
        opt.set_initial_step(step);
        opt.set_min_objective(
            [](const std::vector<double>& v, std::vector<double>&, void* data) {
                const Ask& a = *static_cast<Ask*>(data);
                return a.search->farthest_mm(a.byOf(v));
            },
            &ask);
        opt.add_inequality_constraint(
            [](const std::vector<double>& v, std::vector<double>&, void* data) {
                const Ask& a = *static_cast<Ask*>(data);
                constexpr double look_mm = 20;
                if (a.stop->stopped()) return 0.0;
                const Vector6d by = a.byOf(v);
                const Tried here{by, a.search->mostShort_mm(by, look_mm), a.search->farthest_mm(by)};
                if (here < *a.best) *a.best = here;
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
        return tidied(best);
    }

    /// Without the freedoms that it does without.
    Tried tidied(Tried best) const {
        constexpr double worth_mm = 0.1; // of the move
        for (int k = 5; k >= 0; --k) {
            if (best.by[k] == 0) continue;
            Vector6d by = best.by;
            by[k] = 0;
            const Tried here = tried(by);
            if (here.good() && here.farthest_mm <= best.farthest_mm + worth_mm) best = here;
        }
        return best;
    }

private:
    /// How fast a point moves with each freedom, vehicle's frame, mm for each mm or degree.
    Eigen::Matrix<double, 3, 6> speeds(const Vector6d& by, const Isometry3d& pose, const Vector3d& at) const {
        Eigen::Matrix<double, 3, 6> out;
        const Vector3d of_unit = pose.inverse() * at;
        constexpr double step = 0.01;
        for (int k = 0; k < 6; ++k) {
            Vector6d there = by;
            there[k] += step;
            out.col(k) = (poseAt(there) * of_unit - at) / step;
        }
        return out;
    }
    void addDemands(Demands& demands, const Vector6d& by, const Isometry3d& pose, const std::vector<Short>& all) const {
        constexpr std::size_t most_rows = 120;
        demands.forgetAllBut(most_rows);
        for (const Short& its : all) {
            if (its.away.isZero()) continue;
            const Vector6d along = speeds(by, pose, its.at_vehicle_mm).transpose() * its.away;
            demands.add(along, along.dot(by) + its.by_mm + spare_mm);
        }
    }
    /// A step that mends the worst.
    Vector6d towards(const Vector6d& by, const Isometry3d& pose, const std::vector<Short>& all) const {
        const Vector6d along = speeds(by, pose, all.front().at_vehicle_mm).transpose() * all.front().away;
        const Vector6d way = along.cwiseQuotient(weight_);
        const double size = along.dot(way);
        return size > 0 ? Vector6d(way * (all.front().by_mm / size)) : Vector6d(Vector6d::Zero());
    }

    const Sieve& sieve_;
    const model::Placement& placement_;
    const model::Donor& donor_;
    Vector6d low_, high_, weight_;
    Isometry3d pose_now_;
    mutable std::atomic<long> poses_{0};
};

/// A place measured with all its movement, and what it showed to be missing.
class Measurer {
public:
    Measurer(const model::Project& project, const ClearanceReport& now, const model::RuleBook& book,
             proximity::ColliderCache& cache, const FreeOptions& options)
        : project_(project), now_(now), book_(book), cache_(cache), options_(options) {}

    struct Measured {
        FreePlace place;
        bool complete = false;
        std::map<std::pair<model::BodyRef, model::BodyRef>, double> short_mm; ///< of each pair with a limit
    };
    Measured at(const model::Placement& placement) const {
        Measured out;
        out.place.placement = placement;
        placed::Scene scene;
        MoveOptions ask;
        ask.threads = options_.threads;
        ask.limits = options_.limits_table;
        ask.stop = options_.stop;
        const ClearanceReport report = clearanceAt(project_, placement, now_, book_, cache_, discipline::Effort::Full,
                                                   scene, options_.threads, ask);
        out.complete = report.complete;
        if (!out.complete) return out;
        double worst = -1e9;
        std::vector<std::pair<double, const PairGap*>> pairs;
        for (const PairGap& pair : report.pairs) {
            if (isOfUnit(pair.a) == isOfUnit(pair.b)) continue; // no move of the unit changes it
            out.place.no_go += pair.verdict == model::Verdict::NoGo;
            out.place.close += pair.verdict == model::Verdict::Close;
            out.place.unknown += pair.verdict == model::Verdict::Unknown;
            if (!pair.limit && !pair.overlap()) continue;
            const double its = pair.limit ? shortOf(pair) : unruled_mm;
            worst = std::max(worst, its);
            pairs.emplace_back(its, &pair);
            out.short_mm[{pair.a, pair.b}] = its;
        }
        out.place.short_mm = worst;
        std::sort(pairs.begin(), pairs.end(), [](const auto& x, const auto& y) { return x.first > y.first; });
        constexpr double bound_within_mm = 1;
        constexpr std::size_t most_binding = 6;
        for (const auto& [its, pair] : pairs) {
            if (its < worst - bound_within_mm || out.place.binds.size() == most_binding) break;
            out.place.binds.push_back({pair->a, pair->b, pair->name_a, pair->name_b, its});
        }
        return out;
    }
    /// What a pair lacks of good: its margin has to be above its doubt.
    static double shortOf(const PairGap& pair) {
        const double doubt_mm = pair.accuracy_mm.value_or(0) + (pair.moment() ? pair.moment()->hidden_mm : 0);
        return doubt_mm - pair.decidingMargin_mm();
    }

private:
    static constexpr double unruled_mm =
        1; ///< of an overlap that no rule covers: it is short, nobody knows by how much
    static bool isOfUnit(const model::BodyRef& ref) { return ref.owner != model::vehicle_owner; }
    const model::Project& project_;
    const ClearanceReport& now_;
    const model::RuleBook& book_;
    proximity::ColliderCache& cache_;
    const FreeOptions& options_;
};

int noGoOf(const ClearanceReport& report) {
    return static_cast<int>(std::count_if(report.pairs.begin(), report.pairs.end(),
                                          [](const PairGap& pair) { return pair.verdict == model::Verdict::NoGo; }));
}

} // namespace

const char* word(Freedom freedom) {
    constexpr const char* words[] = {"along", "across", "up", "swing", "tail", "lean"};
    return words[static_cast<std::size_t>(freedom)];
}

Result<model::Placement> changed(const model::Placement& placement, const model::Donor& donor, const Shift& by) {
    const model::Placement moved = model::shifted(placement, {by[0], by[1], by[2]});
    if (by[3] == 0 && by[4] == 0 && by[5] == 0) return moved;
    model::Angles angles = placement.angles;
    angles.yaw_deg += by[3];
    angles.pitch_deg += by[4];
    angles.roll_deg += by[5];
    return model::withAngles(moved, donor, angles);
}

FreeReport freeAll(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
                   const model::RuleBook& book, proximity::ColliderCache& cache, const FreeOptions& options) {
    FreeReport report;
    report.no_go_now = noGoOf(now);
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor)
        report.reason = "no donor is placed";
    else if (!now.reason.empty())
        report.reason = now.reason;
    if (!report.reason.empty()) return report;
    FreeLimits limits = options.limits;
    const bool can_turn = model::pivotDonor_mm(*donor, placement->pivot).ok();
    for (std::size_t k = 0; k < freedoms; ++k) {
        if (isTurn(k) && !can_turn) limits.low[k] = limits.high[k] = 0;
        limits.low[k] = std::min(limits.low[k], 0.0); // where it hangs is one of the places
        limits.high[k] = std::max(limits.high[k], 0.0);
    }
    SieveOptions ask;
    ask.limits = options.limits_table;
    {
        double shift2 = 0;
        for (std::size_t k = 0; k < 3; ++k) shift2 += std::pow(std::max(-limits.low[k], limits.high[k]), 2);
        constexpr double turned_mm = 150; // of the end of a gearbox, at a few degrees
        ask.farthest_mm = std::sqrt(shift2) + turned_mm;
    }
    Sieve sieve(project, scene, now, book, ask);
    if (sieve.bodies().empty() || sieve.others().empty()) {
        report.reason = "nothing of the unit is held against anything of the vehicle";
        return report;
    }
    const Search search(sieve, *placement, *donor, limits);
    const Measurer measurer(project, now, book, cache, options);
    std::mutex mutex;
    int done = 0;
    constexpr int later_steps = 6; // polishing and measuring, of the progress that is told
    const int all_steps = options.starts + later_steps;
    const auto step = [&] {
        const std::lock_guard<std::mutex> lock(mutex);
        ++done;
        if (options.progress) options.progress(std::min(done, all_steps), all_steps);
    };

    std::vector<Search::Tried> tried(static_cast<std::size_t>(std::max(1, options.starts)));
    onThreads(options.threads, tried.size(), options.stop, [&](std::size_t i) {
        Vector6d start = Vector6d::Zero();
        constexpr unsigned bases[] = {2, 3, 5, 7, 11, 13};
        for (int k = 0; k < 6 && i > 0; ++k) {
            const double share = halton(static_cast<unsigned>(i) + 97 * options.seed, bases[k]);
            const auto at = static_cast<std::size_t>(k);
            start[k] = limits.low[at] + share * (limits.high[at] - limits.low[at]);
        }
        tried[i] = search.pushed(start, options.stop);
        step();
    });
    const auto apart = [&](const Vector6d& a, const Vector6d& b) {
        const Isometry3d pose_a = search.poseAt(a), pose_b = search.poseAt(b);
        double most = 0;
        for (int i = 0; i < 8; ++i) {
            const Vector3d corner = sieve.unit_donor_mm().corner(static_cast<Eigen::AlignedBox3d::CornerType>(i));
            most = std::max(most, (pose_a * corner - pose_b * corner).norm());
        }
        return most;
    };
    // The best that differ, made as small as they can be; where they meet then they are one.
    const auto best = [&](std::size_t most) {
        std::stable_sort(tried.begin(), tried.end());
        std::vector<Search::Tried> out;
        for (const auto& its : tried) {
            if (out.size() == most) break;
            const bool other = std::all_of(out.begin(), out.end(), [&](const Search::Tried& o) {
                return apart(its.by, o.by) >= options.differ_mm;
            });
            if (other) out.push_back(its);
        }
        return out;
    };
    std::vector<Search::Tried> chosen = best(2 * options.most_places);
    onThreads(options.threads, chosen.size(), options.stop,
              [&](std::size_t i) { chosen[i] = search.polished(chosen[i], options.stop); });
    tried.insert(tried.end(), chosen.begin(), chosen.end());
    step();
    chosen = best(options.most_places);

    // Measured. What the sieve took for more or for less than it is, there, is set right, and the search goes on from
    // there: as small as can be by exact figures.
    constexpr int most_rounds = 5;
    constexpr double worth_mm = 0.05; // a smaller gain is not worth a measurement
    for (const Search::Tried& first : chosen) {
        Search::Tried its = first;
        std::optional<FreePlace> good;
        for (int round = 0; round < most_rounds && !options.stop.stopped(); ++round) {
            const auto there = changed(*placement, *donor, shiftOf(its.by));
            if (!there.ok()) break;
            auto measured = measurer.at(there.value());
            if (!measured.complete) break;
            ++report.measured;
            FreePlace& place = measured.place;
            place.by = shiftOf(its.by);
            place.farthest_mm = its.farthest_mm;
            const bool is_good = place.short_mm <= 0 && place.no_go == 0 && place.close == 0;
            const bool wanted = is_good ? !good || place.farthest_mm < good->farthest_mm
                                        : !report.least_bad || place.short_mm < report.least_bad->short_mm;
            if (wanted && throughSheet(scene, Isometry3d::Identity(), search.wayTo(its.by), options.stop))
                ++report.behind_sheet;
            else if (wanted && is_good)
                good = place;
            else if (wanted)
                report.least_bad = place;
            sieve.setRight(search.poseAt(its.by), measured.short_mm);
            const Search::Tried next = search.polished(
                is_good ? search.tried(its.by) : search.polished(search.pushed(its.by, options.stop), options.stop),
                options.stop);
            const bool nearer = next.good() && (!good || next.farthest_mm < good->farthest_mm - worth_mm);
            const bool better = !next.good() && !good && next.short_mm < place.short_mm - worth_mm;
            if (!nearer && !better) break;
            its = next;
        }
        if (good) report.places.push_back(*good);
        step();
    }
    std::stable_sort(report.places.begin(), report.places.end(),
                     [](const FreePlace& a, const FreePlace& b) { return a.farthest_mm < b.farthest_mm; });
    // Made as small as they can be some have become one.
    std::vector<FreePlace> differ;
    for (FreePlace& place : report.places)
        if (std::all_of(differ.begin(), differ.end(), [&](const FreePlace& other) {
                return apart(vectorOf(place.by), vectorOf(other.by)) >= options.differ_mm;
            }))
            differ.push_back(std::move(place));
    report.places = std::move(differ);
    if (!report.places.empty()) report.least_bad.reset();
    report.poses = search.poses();
    report.open = sieve.open();
    report.complete = !options.stop.stopped();
    if (options.progress) options.progress(all_steps, all_steps);
    return report;
}

} // namespace gabarit::fit
