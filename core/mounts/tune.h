// Looks for rubbers, their lean and their place that hold the unit better, and says what each buys.
#pragma once

#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "quantity/stop.h"

#include <functional>

namespace gabarit::mounts {

/// What a set of mounts comes to, in a few figures.
struct Standing {
    int no_go = 0, close = 0, unknown = 0;
    std::optional<double> roll_hz; ///< of the mode named roll
    std::optional<double> roll_decoupled;
    std::optional<double> highest_hz;     ///< of the six
    std::optional<double> passes_at_idle; ///< most of any mode's shake that reaches the frame at the firing frequency
    std::optional<double> rolls_deg;      ///< while driving
    std::optional<double> goes_mm;        ///< up, down or along while driving, at most
};
Standing standingOf(const MountsReport& report, const model::RuleBook& book);

enum class Aim { Calm, Balanced, Steady };
const char* word(Aim aim);

/// One thing changed, or all of them together.
struct Proposal {
    Aim aim = Aim::Balanced;
    std::string what; ///< "Engine mounts: Captive wedge, firm; leaning in by 30°"
    model::Mounts mounts;
    Standing after;
    struct Step {
        std::string what;
        Standing after; ///< with only this changed
    };
    std::vector<Step> steps; ///< what each of its changes buys by itself
};

struct TuneOptions {
    StopToken stop;
    std::function<void(int done, int all)> progress; ///< may be empty
};
struct Tuning {
    Standing now;
    std::vector<Proposal> proposals; ///< one for each aim that can be bettered; equal ones once
    bool complete = false;           ///< false: stopped half-way
};

/// Tries each isolator of the catalogue and of the project for the engine's mounts and for the others, the engine's
/// mounts leaning in from upright to the book's most, and the engine's higher, lower, forward or rearward within the
/// book's most. Keeps
/// left and right alike. A proposal never has more no-go than now. Calm lets least shake through at idle, Steady moves
/// least while driving, Balanced weighs both alike. Error when the mounts cannot be judged.
Result<Tuning> tune(const model::Project& project, const model::RuleBook& book, const Given& given,
                    const TuneOptions& options = {});

} // namespace gabarit::mounts
