// Is there a place at all? The smallest move after which every gap is good, or the least bad place and what binds
// there.
#pragma once

#include "fit/free_move.h"
#include "fit/sieve.h"

#include <functional>

namespace gabarit::fit {

/// What can be changed of how the unit hangs: shifts of its pivot along the vehicle's axes (mm, rearward, to the right,
/// up), then its turns about it (degrees; tail to the right, tail down, top to the left above zero).
enum class Freedom { Along, Across, Up, Swing, Tail, Lean };
constexpr std::size_t freedoms = 6;
using Shift = std::array<double, freedoms>;
constexpr bool isTurn(std::size_t freedom) { return freedom >= static_cast<std::size_t>(Freedom::Swing); }
/// "along", "across", "up", "swing", "tail", "lean".
const char* word(Freedom freedom);

/// Between what each may be changed; both zero: locked.
struct FreeLimits {
    Shift low{-150, -60, -100, -1, -4, -2};
    Shift high{150, 60, 100, 1, 4, 2};
};

/// With where it hangs among them, and without turns where the donor lacks the pivot that they need.
FreeLimits within(FreeLimits limits, const model::Placement& placement, const model::Donor& donor);
/// That any point of the unit is moved within them, about.
double farthest_mm(const FreeLimits& limits);

/// The placement after such a change. Error when the donor lacks the pivot that a turn needs.
Result<model::Placement> changed(const model::Placement& placement, const model::Donor& donor, const Shift& by);

/// A pair that holds a place up, or against it.
struct Binding {
    model::BodyRef a, b; ///< of the unit; of the vehicle
    std::string name_a, name_b;
    double short_mm = 0; ///< what it lacks of what is wanted with the doubt; below zero: what it has to spare
};

/// Something else that changes with where the unit hangs and is held against a limit: a joint's angle, an axle's load.
struct Beside {
    std::string id;
    std::string words; ///< "Rear shaft, front joint at ride height"
    double lacks = 0;  ///< of go, in any unit of its own; not above zero: nothing
    bool must = false; ///< a place where it lacks anything is none
};

/// Two of one bay: one to look about with, one to be sure with as far as it tells.
struct Sieves {
    Sieve coarse, fine;
    /// As `options` has it but for the grain.
    static Sieves of(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
                     const model::RuleBook& book, const SieveOptions& options);
    Sieves with(const std::function<bool(const model::BodyRef&)>& stands) const {
        return {coarse.with(stands), fine.with(stands)};
    }
};

struct FreePlace {
    Shift by{};
    model::Placement placement;
    double farthest_mm = 0; ///< that any point of the unit is moved
    double short_mm = 0;    ///< the most that any gap lacks of good, measured; below zero: the least to spare
    int no_go = 0;          ///< gaps of the unit, measured
    int close = 0;
    int unknown = 0;            ///< of them: not measured well enough to be told, or without a rule
    std::vector<Binding> binds; ///< those within a little of the worst, worst first
    std::vector<Beside> lacks;  ///< what else is not go there
};

struct FreeReport {
    bool complete = false; ///< false: stopped
    std::string reason;    ///< why nothing was looked for; empty otherwise
    /// Where every gap is good, smallest move first; each differs from the others. Where there are any that lack
    /// nothing besides, only those.
    std::vector<FreePlace> places;
    std::optional<FreePlace> least_bad; ///< where none was found: the place that lacks least
    int no_go_now = 0;                  ///< of all gaps
    int behind_sheet = 0; ///< places left out since a part would have to go through a panel on the way there
    long poses = 0;       ///< looked at by the sieve
    int measured = 0;     ///< measured by the exact engine
    bool open = false;    ///< a body has no inside: what lies wholly in it is not seen by the search
};

struct FreeOptions {
    FreeLimits limits;
    int starts = 48;          ///< places that the search begins from, ≥ 1; the same for the same seed
    std::vector<Shift> first; ///< places to begin from besides: where it fitted with another form
    /// What else a place is held against, and how much of go it lacks there; may be empty. Called from
    /// any thread.
    std::function<std::vector<Beside>(const model::Placement&)> besides;
    const Sieves* sieves = nullptr; ///< of this bay, those standing that do; null: made
    /// False: as the sieve has it. Quick, and nothing is proven: of each place only the move and what it is short by.
    bool measure = true;
    unsigned seed = 1;
    std::size_t most_places = 3;
    double differ_mm = 15;              ///< places whose points are nearer than that to one another are one
    int threads = 2;                    ///< > 0
    LimitTable* limits_table = nullptr; ///< begun with the book; null: its own
    StopToken stop;
    std::function<void(int done, int all)> progress; ///< may be empty; called from any thread
};

/// From the active placement. Thousands of poses are looked at by a sieve (sieve.h); from each start what is short
/// pushes the unit away (the smallest change that satisfies what was met so far, by Hildreth's method), then the move
/// is made as small as it can be while nothing is short (COBYLA, Powell 1994). The best are measured with all their
/// movement; what that shows to be missing is asked of the sieve too, and the search goes on from there. What else has
/// to be satisfied is held as it changes near the place that is looked at, and asked again there.
FreeReport freeAll(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
                   const model::RuleBook& book, proximity::ColliderCache& cache, const FreeOptions& options);

} // namespace gabarit::fit
