#include "mounts/tune.h"

#include "mounts/section/mounts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Vector3d;
using model::Verdict;

constexpr int lean_steps = 7;
constexpr int place_steps = 5;
constexpr double same_share = 1e-3;  // what is better by less is no better
constexpr double count_weight = 100; // one thing that is no-go outweighs any shake
constexpr double close_weight = 0.2;
constexpr double unknown_weight = 10;

/// A set of changes; an empty id and nothing else leave a group as it is.
struct Change {
    std::string engine, others;     ///< isolators
    std::optional<double> lean_deg; ///< of the engine's mounts, towards the middle
    std::optional<double> engine_up_mm, engine_back_mm;
};

bool isEngine(const model::Mount& mount) { return mount.at == model::MountAt::Engine; }

/// Leaning in: its top towards the middle of the vehicle.
Vector3d leaning(double deg, double side) {
    const double rad = deg / quantity::deg_per_rad;
    return {0, side > 0 ? -std::sin(rad) : std::sin(rad), std::cos(rad)};
}

class Tuner {
public:
    Tuner(const model::Project& project, const model::RuleBook& book, const Given& given, const TuneOptions& options)
        : project_(project), book_(book), given_(given), options_(options) {}

    Result<Tuning> tuned() {
        given_.metal = false; // it is made anew for what is proposed
        const MountsReport now = *judgeMounts(project_, book_, given_);
        if (!now.usable) return Error{now.reason, "mounts", "mend that first"};
        if (now.mounts.size() < 3) return Error{"fewer than three mounts cannot hold it", "mounts", "add one"};
        const bool chosen =
            std::all_of(now.mounts.begin(), now.mounts.end(), [](const MountReport& m) { return !m.isolator.empty(); });
        if (chosen && !now.modes) // a rubber would be chosen without knowing how it shakes
            return Error{"how it shakes is not known (" + now.modes_reason + ")", "mounts", "mend that first"};
        for (const MountReport& m : now.mounts) places_.push_back(m);
        Tuning out;
        out.now = standingOf(now, book_);
        std::vector<std::string> ids{""};
        for (const model::Isolator& isolator : project_.sections.get<model::Mounts>()->isolators)
            ids.push_back(isolator.id);
        for (const model::Isolator& isolator : book_.isolators) ids.push_back(isolator.id);
        const double most_lean = book_.figure("tune_lean_most_deg"), most_move = book_.figure("tune_move_most_mm");
        // First rubbers and lean together, then height and place along the vehicle of the best for each aim.
        std::vector<std::pair<Change, Standing>> tried;
        const int all = static_cast<int>(ids.size() * ids.size() * (lean_steps + 1));
        int done = 0;
        for (const std::string& engine : ids)
            for (const std::string& others : ids)
                for (int lean = -1; lean < lean_steps; ++lean) {
                    if (options_.stop.stopped()) return out;
                    if (options_.progress && done % 64 == 0) options_.progress(done, all);
                    ++done;
                    Change change{engine, others, {}, {}, {}};
                    if (lean >= 0) change.lean_deg = most_lean * lean / (lean_steps - 1);
                    tried.emplace_back(change, stands(change));
                }
        for (const Aim aim : {Aim::Calm, Aim::Balanced, Aim::Steady}) {
            const auto cost = [&](const Standing& s) { return costOf(s, aim); };
            const auto best = std::min_element(tried.begin(), tried.end(), [&](const auto& a, const auto& b) {
                return cost(a.second) < cost(b.second);
            });
            Change change = best->first;
            Standing after = best->second;
            for (std::optional<double> Change::*const along : {&Change::engine_up_mm, &Change::engine_back_mm})
                for (int step = 0; step < place_steps; ++step) {
                    Change there = change;
                    const double by = most_move * (2.0 * step / (place_steps - 1) - 1);
                    if (by == 0) continue;
                    there.*along = by;
                    const Standing stood = stands(there);
                    if (cost(stood) < cost(after) * (1 - same_share)) {
                        after = stood;
                        change.*along = by;
                    }
                }
            // What buys nothing is left as it is.
            const auto without = [&](auto reset) {
                Change less = change;
                reset(less);
                const Standing there = stands(less);
                if (cost(there) > cost(after) * (1 + same_share)) return;
                change = less;
                after = there;
            };
            without([](Change& c) { c.engine.clear(); });
            without([](Change& c) { c.others.clear(); });
            without([](Change& c) { c.lean_deg.reset(); });
            without([](Change& c) { c.engine_up_mm.reset(); });
            without([](Change& c) { c.engine_back_mm.reset(); });
            if (after.no_go > out.now.no_go || cost(after) >= cost(out.now) * (1 - same_share)) continue;
            Proposal proposal = told(change, after, aim);
            const bool known = std::any_of(out.proposals.begin(), out.proposals.end(),
                                           [&](const Proposal& p) { return p.what == proposal.what; });
            if (!known) out.proposals.push_back(std::move(proposal));
        }
        out.complete = true;
        return out;
    }

private:
    model::Mounts changed(const Change& change) const {
        model::Mounts out = *project_.sections.get<model::Mounts>();
        for (std::size_t i = 0; i < out.mounts.size(); ++i) {
            model::Mount& mount = out.mounts[i];
            const std::string& isolator = isEngine(mount) ? change.engine : change.others;
            // The rubber's middle stays where it is: a bracket is made to it.
            if (!isolator.empty()) {
                mount.isolator = isolator;
                mount.centre_mm = places_[i].at_mm;
            }
            if (!isEngine(mount)) continue;
            if (change.lean_deg) {
                mount.axis = leaning(*change.lean_deg, places_[i].at_mm.y());
                mount.centre_mm = places_[i].at_mm;
            }
            if (change.engine_up_mm || change.engine_back_mm)
                mount.centre_mm =
                    places_[i].at_mm + Vector3d(change.engine_back_mm.value_or(0), 0, change.engine_up_mm.value_or(0));
        }
        return out;
    }
    Standing stands(const Change& change) const {
        model::Project tried = project_;
        tried.sections.edit<model::Mounts>() = changed(change);
        return standingOf(*judgeMounts(tried, book_, given_), book_);
    }
    /// Weighed against what is wanted, so that shake and movement can be set off against one another.
    double costOf(const Standing& s, Aim aim) const {
        const double calm = aim == Aim::Calm ? 0.9 : aim == Aim::Steady ? 0.1 : 0.5;
        const double shake = s.passes_at_idle ? *s.passes_at_idle / book_.figure("tune_passes_wanted_share") : 0;
        const double decoupled = s.roll_decoupled ? 1 - *s.roll_decoupled : 1;
        const double moves = s.rolls_deg.value_or(10) / book_.figure("tune_roll_wanted_deg") +
                             s.goes_mm.value_or(50) / book_.figure("tune_goes_wanted_mm");
        return count_weight * s.no_go + unknown_weight * s.unknown + close_weight * s.close +
               calm * (shake + decoupled) + (1 - calm) * moves / 2;
    }
    std::string nameOf(const std::string& isolator) const {
        model::Mount mount;
        mount.isolator = isolator;
        const model::Isolator* found = isolatorOf(project_, book_, mount);
        return found ? found->name : isolator;
    }
    Proposal told(const Change& change, const Standing& after, Aim aim) const {
        Proposal out;
        out.aim = aim;
        out.mounts = changed(change);
        out.after = after;
        const auto step = [&](const std::string& what, const Change& alone) {
            out.what += (out.what.empty() ? "" : "; ") + what;
            out.steps.push_back({what, stands(alone)});
        };
        if (!change.engine.empty()) step("engine mounts: " + nameOf(change.engine), {change.engine, "", {}, {}, {}});
        if (!change.others.empty()) step("other mounts: " + nameOf(change.others), {"", change.others, {}, {}, {}});
        if (change.lean_deg)
            step(*change.lean_deg == 0 ? std::string("engine mounts upright")
                                       : "engine mounts leaning in by " + quantity::fixed(*change.lean_deg, 0) + "°",
                 {"", "", change.lean_deg, {}, {}});
        if (change.engine_up_mm)
            step("engine mounts " + quantity::fixed(std::abs(*change.engine_up_mm), 0) + " mm " +
                     (*change.engine_up_mm > 0 ? "higher" : "lower"),
                 {"", "", {}, change.engine_up_mm, {}});
        if (change.engine_back_mm)
            step("engine mounts " + quantity::fixed(std::abs(*change.engine_back_mm), 0) + " mm " +
                     (*change.engine_back_mm > 0 ? "rearward" : "forward"),
                 {"", "", {}, {}, change.engine_back_mm});
        return out;
    }

    const model::Project& project_;
    const model::RuleBook& book_;
    Given given_;
    const TuneOptions& options_;
    std::vector<MountReport> places_;
};

} // namespace

Standing standingOf(const MountsReport& report, const model::RuleBook& book) {
    Standing out;
    for (const model::Check& check : report.checks) {
        out.no_go += check.verdict == Verdict::NoGo;
        out.close += check.verdict == Verdict::Close;
        out.unknown += check.verdict == Verdict::Unknown;
    }
    if (report.modes)
        for (const Mode& mode : *report.modes) {
            out.highest_hz = std::max(out.highest_hz.value_or(0), mode.frequency_hz);
            if (mode.of == ModeOf::Roll) {
                out.roll_hz = mode.frequency_hz;
                out.roll_decoupled = mode.decoupled;
            }
            if (report.firing_hz)
                out.passes_at_idle =
                    std::max(out.passes_at_idle.value_or(0), transmissibility(*report.firing_hz, mode.frequency_hz,
                                                                              book.figure("rubber_damping_share")));
        }
    if (report.rocking) {
        out.rolls_deg = report.rocking->roll_deg;
        out.goes_mm = std::max({report.rocking->up_mm, report.rocking->down_mm, report.rocking->along_mm});
    }
    return out;
}

const char* word(Aim aim) { return aim == Aim::Calm ? "calmest" : aim == Aim::Steady ? "steadiest" : "balanced"; }

Result<Tuning> tune(const model::Project& project, const model::RuleBook& book, const Given& given,
                    const TuneOptions& options) {
    if (!project.sections.get<model::Mounts>()) return Error{"the project has no mounts", project.name, "give them"};
    return Tuner(project, book, given, options).tuned();
}

} // namespace gabarit::mounts
