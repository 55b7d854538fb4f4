#include "fit/free_all.h"

#include "fit/pose_search.h"
#include "quantity/on_threads.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <mutex>

namespace gabarit::fit {

using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

/// Evenly over the unit cube, the same each time (Halton 1960).
double halton(unsigned index, unsigned base) {
    double share = 1, out = 0;
    for (unsigned i = index; i > 0; i /= base) {
        share /= base;
        out += share * (i % base);
    }
    return out;
}

/// A place measured with all its movement, and what it showed to be missing.
class Measurer {
public:
    Measurer(const model::Project& project, const ClearanceReport& now, const model::RuleBook& book,
             proximity::ColliderCache& cache, const FreeOptions& options)
        : project_(project), now_(now), book_(book), cache_(cache), options_(options) {}

    struct Measured {
        FreePlace place;
        bool complete = false;
        /// Of each pair with a limit that does not overlap: how deep one does was not looked for.
        std::map<std::pair<model::BodyRef, model::BodyRef>, double> short_mm;
        std::vector<Binding> held; ///< all pairs, worst first; an overlap as if it just touched
    };
    Measured at(const model::Placement& placement) const {
        Measured out;
        out.place.placement = placement;
        placed::Scene scene;
        MoveOptions ask;
        ask.threads = 1; // the places are shared out
        ask.limits = options_.limits_table;
        ask.stop = options_.stop;
        const ClearanceReport report =
            clearanceAt(project_, placement, now_, book_, cache_, discipline::Effort::Full, scene, 1, ask);
        out.complete = report.complete;
        if (!out.complete) return out;
        for (const PairGap& pair : report.pairs) {
            if (isOfUnit(pair.a) == isOfUnit(pair.b)) continue; // no move of the unit changes it
            out.place.no_go += pair.verdict == model::Verdict::NoGo;
            out.place.close += pair.verdict == model::Verdict::Close;
            out.place.unknown += pair.verdict == model::Verdict::Unknown;
            if (!pair.limit && !pair.overlap()) continue;
            const double its = pair.limit ? shortOf(pair) : unruled_mm;
            out.held.push_back({pair.a, pair.b, pair.name_a, pair.name_b, its});
            if (!pair.overlap()) out.short_mm[{pair.a, pair.b}] = its;
        }
        return out;
    }
    /// The worst of what is held, as a place has them.
    static void bind(std::vector<Binding> held, FreePlace& place) {
        std::stable_sort(held.begin(), held.end(),
                         [](const Binding& x, const Binding& y) { return x.short_mm > y.short_mm; });
        constexpr double bound_within_mm = 1;
        constexpr std::size_t most_binding = 6;
        place.short_mm = held.empty() ? -1e9 : held.front().short_mm;
        for (const Binding& its : held) {
            if (its.short_mm < place.short_mm - bound_within_mm || place.binds.size() == most_binding) break;
            place.binds.push_back(its);
        }
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

/// What else has to be satisfied, as it changes near a place: in mm of the unit's move, so that it can be weighed
/// against room. What no move within the limits mends is to get no worse than it is now, unless it must be; what no
/// move changes is left. `all`: also what is only wished.
std::vector<Demand> besidesNear(const PoseSearch& search, const Change& at,
                                const std::function<std::vector<Beside>(const Change&)>& besides, bool all) {
    std::vector<Beside> here = besides(at);
    if (!all) here.erase(std::remove_if(here.begin(), here.end(), [](const Beside& b) { return !b.must; }), here.end());
    if (here.empty()) return {};
    std::vector<std::optional<Change>> slopes(here.size(), Change(Change::Zero())); // of one that is gone: nothing
    for (int k = 0; k < 6; ++k) {
        if (search.high()[k] <= search.low()[k]) continue;
        const double step = (at[k] < search.high()[k] ? 1 : -1) / std::sqrt(search.weight()[k]); // 1 mm of an end
        Change there = at;
        there[k] += step;
        const std::vector<Beside> moved = besides(there);
        for (std::size_t i = 0; i < here.size(); ++i) {
            const auto its =
                std::find_if(moved.begin(), moved.end(), [&](const Beside& b) { return b.id == here[i].id; });
            if (its == moved.end())
                slopes[i].reset();
            else if (slopes[i])
                (*slopes[i])[k] = (its->lacks - here[i].lacks) / step;
        }
    }
    std::vector<Demand> out;
    for (std::size_t i = 0; i < here.size(); ++i) {
        if (!slopes[i] || !std::isfinite(here[i].lacks)) continue;
        const double slope = std::sqrt(slopes[i]->cwiseAbs2().cwiseQuotient(search.weight()).sum()); // for each mm
        constexpr double least_slope = 1e-6;
        if (!(slope > least_slope)) continue;
        const Change along = -*slopes[i] / slope;
        constexpr double spare_mm = 0.05; // nearer than anybody can set it
        double least = along.dot(at) + here[i].lacks / slope + spare_mm;
        const double most = along.cwiseProduct(search.low()).cwiseMax(along.cwiseProduct(search.high())).sum();
        if (most < least && !here[i].must) least = std::min(least, 0.0); // where it hangs now lies at zero
        out.push_back({along, least});
    }
    return out;
}

/// One search, from the starts to what is reported.
class FreeSearch {
public:
    FreeSearch(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
               const model::RuleBook& book, proximity::ColliderCache& cache, const FreeOptions& options,
               const Sieves& sieves, const model::Donor& donor, const FreeLimits& limits)
        : scene_(scene), options_(options), placement_(*model::activePlacement(project)), donor_(donor),
          limits_(limits), coarse_(sieves.coarse), fine_(sieves.fine), rough_(coarse_, placement_, donor_, limits),
          search_(fine_, placement_, donor_, limits), measurer_(project, now, book, cache, options) {}

    void run(FreeReport& report) {
        hold(Change::Zero()); // what must be, from the beginning
        tried_ = fromStarts();
        look(report);
        // Again with what else there is, where the smallest move lacks any of it.
        const bool lacks = !report.places.empty() && !report.places.front().lacks.empty();
        if (lacks && !options_.stop.stopped()) {
            FreeReport with = report;
            with.places.clear();
            with_wishes_ = true;
            hold(PoseSearch::changeOf(report.places.front().by));
            std::vector<PoseSearch::Tried> before = std::move(tried_);
            tried_ = fromStarts();
            for (const auto& its : before) tried_.push_back(search_.tried(its.by));
            look(with);
            report.places.insert(report.places.begin(), with.places.begin(), with.places.end());
            report.poses = with.poses;
            report.measured = with.measured;
            report.behind_sheet = with.behind_sheet;
        }
        keepThoseThatLackNothing(report.places);
        keepThoseThatDiffer(report.places);
        if (!report.places.empty()) report.least_bad.reset();
        report.poses += search_.poses() + rough_.poses();
        report.open = fine_.open();
        report.complete = !options_.stop.stopped();
        if (options_.progress) options_.progress(allSteps(), allSteps());
    }

private:
    static constexpr int later_steps = 6; // polishing and measuring, of the progress that is told
    int allSteps() const { return options_.starts + later_steps; }
    void step() {
        const std::lock_guard<std::mutex> lock(mutex_);
        ++done_;
        if (options_.progress) options_.progress(std::min(done_, allSteps()), allSteps());
    }
    std::function<std::vector<Beside>(const Change&)> besides() const {
        return [this](const Change& by) {
            const auto there = changed(placement_, donor_, PoseSearch::shiftOf(by));
            return there.ok() && options_.besides ? options_.besides(there.value()) : std::vector<Beside>();
        };
    }
    /// What else there is, as it changes near a place.
    void hold(const Change& at) {
        const std::vector<Demand> rows = besidesNear(search_, at, besides(), with_wishes_);
        rough_.setBesides(rows);
        search_.setBesides(rows);
    }
    std::vector<Change> starts() const {
        std::vector<Change> out{Change::Zero()};
        for (const Shift& first : options_.first)
            out.push_back(PoseSearch::changeOf(first).cwiseMax(search_.low()).cwiseMin(search_.high()));
        constexpr unsigned bases[] = {2, 3, 5, 7, 11, 13};
        for (int i = 1; i < options_.starts; ++i) {
            Change start;
            for (int k = 0; k < 6; ++k) {
                const double share = halton(static_cast<unsigned>(i) + 97 * options_.seed, bases[k]);
                start[k] = search_.low()[k] + share * (search_.high()[k] - search_.low()[k]);
            }
            out.push_back(start);
        }
        return out;
    }
    /// Where each start is pushed to: roughly first, and where that leads near to a place, as it is.
    std::vector<PoseSearch::Tried> fromStarts() {
        constexpr double hopeful_mm = 8; // what the rough look may be off by
        const std::vector<Change> from = starts();
        std::vector<PoseSearch::Tried> rough(from.size());
        std::vector<char> near(from.size());
        onThreads(options_.threads, from.size(), options_.stop, [&](std::size_t i) {
            rough[i] = rough_.pushed(from[i], from[i], options_.stop);
            near[i] = rough[i].short_mm <= hopeful_mm;
            if (near[i]) rough[i] = search_.pushed(rough[i].by, from[i], options_.stop);
            step();
        });
        std::vector<PoseSearch::Tried> out, far;
        for (std::size_t i = 0; i < from.size(); ++i) (near[i] ? out : far).push_back(rough[i]);
        far = best(far, out.empty() ? 2 * options_.most_places : options_.most_places);
        onThreads(options_.threads, far.size(), options_.stop,
                  [&](std::size_t i) { far[i] = search_.tried(rough_.polished(far[i], options_.stop).by); });
        out.insert(out.end(), far.begin(), far.end());
        return out;
    }
    /// The best that differ.
    std::vector<PoseSearch::Tried> best(std::vector<PoseSearch::Tried> of, std::size_t most) const {
        std::stable_sort(of.begin(), of.end());
        std::vector<PoseSearch::Tried> out;
        for (const auto& its : of) {
            if (out.size() == most) break;
            const bool other = std::all_of(out.begin(), out.end(), [&](const PoseSearch::Tried& o) {
                return search_.apart_mm(its.by, o.by) >= options_.differ_mm;
            });
            if (other) out.push_back(its);
        }
        return out;
    }
    /// The best of what was tried, made small and measured.
    void look(FreeReport& report) {
        std::vector<PoseSearch::Tried> chosen = best(tried_, 2 * options_.most_places);
        onThreads(options_.threads, chosen.size(), options_.stop,
                  [&](std::size_t i) { chosen[i] = search_.polished(chosen[i], options_.stop); });
        tried_.insert(tried_.end(), chosen.begin(), chosen.end());
        step();
        if (options_.measure)
            settle(best(tried_, 3 * options_.most_places), report);
        else
            for (const PoseSearch::Tried& its : best(tried_, options_.most_places)) takeUnproven(its, report);
        keepThoseThatDiffer(report.places);
    }
    /// As the sieve has it: the pairs that are short by about as much as the worst.
    std::vector<Binding> bindingAt(const PoseSearch::Tried& its) const {
        constexpr double bound_within_mm = 2;
        std::vector<Binding> out;
        for (const Short& lacking : fine_.shortAt(search_.poseAt(its.by), its.short_mm - bound_within_mm)) {
            const Sieve::Member &a = fine_.bodies()[lacking.body], &b = fine_.others()[lacking.other];
            if (std::none_of(out.begin(), out.end(), [&](const Binding& o) { return o.a == a.ref && o.b == b.ref; }))
                out.push_back({a.ref, b.ref, a.name, b.name, lacking.by_mm});
        }
        return out;
    }
    void takeUnproven(const PoseSearch::Tried& its, FreeReport& report) const {
        FreePlace place;
        place.by = PoseSearch::shiftOf(its.by);
        const auto there = changed(placement_, donor_, place.by);
        if (!there.ok()) return;
        place.placement = there.value();
        place.farthest_mm = its.farthest_mm;
        place.short_mm = its.short_mm;
        place.binds = bindingAt(its);
        if (its.good())
            report.places.push_back(std::move(place));
        else if (!report.least_bad || place.short_mm < report.least_bad->short_mm)
            report.least_bad = std::move(place);
    }
    /// Measured, the most promising first, two at a time. What the sieve took for more or for less than it is, there,
    /// is set right, and the search goes on from there: as small as can be by exact figures.
    void settle(std::vector<PoseSearch::Tried> pool, FreeReport& report) {
        constexpr std::size_t at_a_time = 2;
        constexpr double worth_mm = 0.05; // a smaller gain is not worth a measurement
        const int most_measured = report.measured + 6 * static_cast<int>(options_.most_places);
        constexpr int most_idle = 3;      // rounds in which the least bad got no better
        constexpr double better_mm = 0.3; // that is worth another
        std::vector<Change> measured;
        int idle = 0;
        while (report.measured < most_measured && !pool.empty() && idle < most_idle && !options_.stop.stopped()) {
            const double before_mm = report.least_bad ? report.least_bad->short_mm : 1e9;
            for (PoseSearch::Tried& its : pool) its = search_.tried(its.by);
            std::vector<PoseSearch::Tried> next = best(pool, at_a_time);
            onThreads(options_.threads, next.size(), options_.stop, [&](std::size_t i) {
                const PoseSearch::Tried from = next[i];
                next[i] = search_.polished(from.good() ? from : search_.pushed(from.by, from.by, options_.stop),
                                           options_.stop);
                if (from < next[i]) next[i] = from;
            });
            // Those that they began from are done with; so is what leads to where it was measured already, or to no
            // better than what is known.
            const auto begun = best(pool, at_a_time);
            pool.erase(std::remove_if(pool.begin(), pool.end(),
                                      [&](const PoseSearch::Tried& its) {
                                          return std::any_of(begun.begin(), begun.end(), [&](const auto& b) {
                                              return search_.apart_mm(its.by, b.by) < worth_mm;
                                          });
                                      }),
                       pool.end());
            next.erase(std::remove_if(next.begin(), next.end(),
                                      [&](const PoseSearch::Tried& its) {
                                          return !worthMeasuring(its, report, worth_mm) ||
                                                 std::any_of(measured.begin(), measured.end(), [&](const Change& m) {
                                                     return search_.apart_mm(its.by, m) < worth_mm;
                                                 });
                                      }),
                       next.end());
            if (next.size() == 2 && search_.apart_mm(next[0].by, next[1].by) < options_.differ_mm) next.pop_back();
            std::vector<Measurer::Measured> found(next.size());
            onThreads(options_.threads, next.size(), options_.stop,
                      [&](std::size_t i) { found[i] = measureAt(next[i]); });
            for (std::size_t i = 0; i < next.size() && !options_.stop.stopped(); ++i) {
                if (!found[i].complete) continue;
                ++report.measured;
                measured.push_back(next[i].by);
                fine_.setRight(search_.poseAt(next[i].by), found[i].short_mm);
                take(std::move(found[i].place), next[i], report);
                pool.push_back(next[i]);
            }
            const bool no_better = report.least_bad && report.least_bad->short_mm > before_mm - better_mm;
            idle = report.places.empty() && no_better ? idle + 1 : 0;
            if (!search_.besides().empty() && !next.empty()) hold(next.front().by);
            step();
        }
    }
    Measurer::Measured measureAt(const PoseSearch::Tried& its) const {
        const auto there = changed(placement_, donor_, PoseSearch::shiftOf(its.by));
        if (!there.ok()) return {};
        auto out = measurer_.at(there.value());
        // How deep an overlap is, the sieve knows.
        for (const Short& lacking : fine_.shortAt(search_.poseAt(its.by)))
            for (Binding& held : out.held)
                if (held.a == fine_.bodies()[lacking.body].ref && held.b == fine_.others()[lacking.other].ref &&
                    out.short_mm.count({held.a, held.b}) == 0)
                    held.short_mm = std::max(held.short_mm, lacking.by_mm);
        Measurer::bind(std::move(out.held), out.place);
        out.place.by = PoseSearch::shiftOf(its.by);
        out.place.farthest_mm = its.farthest_mm;
        if (out.complete)
            for (Beside& beside : besides()(its.by))
                if (beside.lacks > 0) out.place.lacks.push_back(std::move(beside));
        return out;
    }
    void take(FreePlace place, const PoseSearch::Tried& its, FreeReport& report) const {
        const bool lacks = std::any_of(place.lacks.begin(), place.lacks.end(), [](const Beside& b) { return b.must; });
        if (lacks) place.short_mm = std::max(place.short_mm, its.short_mm);
        const bool good = place.short_mm <= 0 && place.no_go == 0 && place.close == 0 && !lacks;
        if (!good && (!report.places.empty() || (report.least_bad && place.short_mm >= report.least_bad->short_mm)))
            return;
        if (throughSheet(scene_, Isometry3d::Identity(), search_.wayTo(its.by), options_.stop))
            ++report.behind_sheet;
        else if (good)
            report.places.push_back(std::move(place));
        else
            report.least_bad = std::move(place);
    }
    /// As the sieve has it: whether a place may be better than those that are known.
    bool worthMeasuring(const PoseSearch::Tried& its, const FreeReport& report, double worth_mm) const {
        if (!its.good()) // what lacks least is found without what else there is
            return !with_wishes_ && report.places.empty() &&
                   (!report.least_bad || its.short_mm < report.least_bad->short_mm - worth_mm);
        std::vector<const FreePlace*> nearer; // that differ: enough of them are known
        for (const FreePlace& place : report.places) {
            const auto isApart = [&](const FreePlace* other) {
                return search_.apart_mm(PoseSearch::changeOf(place.by), PoseSearch::changeOf(other->by)) >=
                       options_.differ_mm;
            };
            if (place.farthest_mm < its.farthest_mm && (place.lacks.empty() || !with_wishes_) &&
                std::all_of(nearer.begin(), nearer.end(), isApart))
                nearer.push_back(&place);
        }
        if (nearer.size() >= options_.most_places) return false;
        return std::none_of(report.places.begin(), report.places.end(), [&](const FreePlace& place) {
            return (place.lacks.empty() || !with_wishes_) && its.farthest_mm >= place.farthest_mm - worth_mm &&
                   search_.apart_mm(its.by, PoseSearch::changeOf(place.by)) < options_.differ_mm;
        });
    }
    /// The smallest moves of those that differ: made as small as they can be, some have become one.
    void keepThoseThatDiffer(std::vector<FreePlace>& places) const {
        std::stable_sort(places.begin(), places.end(),
                         [](const FreePlace& a, const FreePlace& b) { return a.farthest_mm < b.farthest_mm; });
        std::vector<FreePlace> differ;
        for (FreePlace& place : places) {
            const bool other = std::all_of(differ.begin(), differ.end(), [&](const FreePlace& o) {
                return search_.apart_mm(PoseSearch::changeOf(place.by), PoseSearch::changeOf(o.by)) >=
                       options_.differ_mm;
            });
            if (other && differ.size() < options_.most_places) differ.push_back(std::move(place));
        }
        places = std::move(differ);
    }
    static void keepThoseThatLackNothing(std::vector<FreePlace>& places) {
        const auto lacks = [](const FreePlace& place) { return !place.lacks.empty(); };
        if (std::all_of(places.begin(), places.end(), lacks)) return;
        places.erase(std::remove_if(places.begin(), places.end(), lacks), places.end());
    }

    const placed::Scene& scene_;
    const FreeOptions& options_;
    const model::Placement placement_;
    const model::Donor donor_;
    const FreeLimits limits_;
    Sieve coarse_, fine_;
    PoseSearch rough_, search_;
    const Measurer measurer_;
    std::vector<PoseSearch::Tried> tried_;
    bool with_wishes_ = false; ///< the search is done again with all that a place is held against
    std::mutex mutex_;
    int done_ = 0;
};

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

Sieves Sieves::of(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
                  const model::RuleBook& book, const SieveOptions& options) {
    constexpr double rough_grain_mm = 12;
    SieveOptions rough = options;
    rough.spread_mm = rough.fields.grain_mm = rough_grain_mm;
    rough.cautious_share = 0.5; // a finer look follows
    return {Sieve(project, scene, now, book, rough), Sieve(project, scene, now, book, options)};
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
    const FreeLimits limits = within(options.limits, *placement, *donor);
    std::optional<Sieves> own;
    if (!options.sieves) {
        SieveOptions ask;
        ask.limits = options.limits_table;
        ask.farthest_mm = farthest_mm(limits);
        own = Sieves::of(project, scene, now, book, ask);
    }
    const Sieves& sieves = options.sieves ? *options.sieves : *own;
    if (!sieves.fine.any()) {
        report.reason = "nothing of the unit is held against anything of the vehicle";
        return report;
    }
    FreeSearch(project, scene, now, book, cache, options, sieves, *donor, limits).run(report);
    return report;
}

FreeLimits within(FreeLimits limits, const model::Placement& placement, const model::Donor& donor) {
    const bool can_turn = model::pivotDonor_mm(donor, placement.pivot).ok();
    for (std::size_t k = 0; k < freedoms; ++k) {
        if (isTurn(k) && !can_turn) limits.low[k] = limits.high[k] = 0;
        limits.low[k] = std::min(limits.low[k], 0.0);
        limits.high[k] = std::max(limits.high[k], 0.0);
    }
    return limits;
}

double farthest_mm(const FreeLimits& limits) {
    double shift2 = 0;
    for (std::size_t k = 0; k < 3; ++k) shift2 += std::pow(std::max(-limits.low[k], limits.high[k]), 2);
    constexpr double turned_mm = 150; // of the end of a gearbox, at a few degrees
    return std::sqrt(shift2) + turned_mm;
}

} // namespace gabarit::fit
