// The vehicle made to stand at ride height, on its bump stops, on blocks: what is then lowest, and what comes nearest.
#pragma once

#include "fit/clearance.h"

namespace gabarit::fit {

struct StanceLine {
    std::string id;      ///< "ride", "load", "bump", or the survey's own
    std::string name;    ///< "Ride height", "With the new load", "Bump stop"
    std::string blocks;  ///< what holds it there
    double front_mm = 0; ///< into the springs from ride height
    double rear_mm = 0;
    bool beyond_bump = false;        ///< farther than a bump stop lets it: blocks that cannot be
    std::optional<double> ground_mm; ///< from the lowest sprung part to the ground; below zero: it stands in it
    model::BodyRef lowest;
    std::string lowest_name;
    Eigen::Vector3d lowest_at_mm{0, 0, 0}; ///< vehicle frame
    double limit_mm = 0;
    std::string limit_source;
    std::optional<double> accuracy_mm;
    model::Verdict verdict = model::Verdict::Unknown; ///< of the ground
    std::string reason;                               ///< why it is unknown
    /// What of the donor and what moves with the springs come nearest to their limit, the engine at rest.
    std::optional<PairGap> tightest;
};

struct StanceReport {
    Sag sag;
    std::vector<std::string> sag_left_out; ///< why an end's sag under the new load is not reckoned with
    std::optional<double> front_bump_mm;   ///< from ride height
    std::optional<double> rear_bump_mm;
    std::vector<StanceLine> lines;
    model::Verdict verdict = model::Verdict::Go;
};

/// Nothing when nothing says how the springs move. The ground is the ground body's top, or the datum when that is the
/// ground; it tilts with the axles. Sprung is all but axles, suspension, wheels and what the axles carry.
/// `limits`: begun with the book; null: looked up anew.
std::optional<StanceReport> stances(const model::Project& project, const placed::Scene& scene,
                                    const model::RuleBook& book, const Movement& movement, const Sag& sag,
                                    LimitTable* limits = nullptr, const StopToken& stop = {});

} // namespace gabarit::fit
