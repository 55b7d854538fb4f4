// The smallest gap of two bodies over all states of what moves them.
#pragma once

#include "kinematics/motion.h"
#include "proximity/gap.h"

#include <limits>

namespace gabarit::fit {

/// A body where it is at rest, and what moves it.
struct MovingBody {
    const proximity::Collider* collider = nullptr;
    Eigen::Isometry3d pose_rest = Eigen::Isometry3d::Identity(); ///< to the vehicle's frame
    const kinematics::Chain* chain = nullptr;                    ///< null: it does not move
    /// kinematics::fastest of it, where known; null: worked out anew.
    const std::vector<double>* speed = nullptr;
};

struct WorstRequest {
    double range_mm = 60;       ///< gaps above it are not measured
    double tolerance_mm = 0.25; ///< how much smaller than what is found the gap may be
    /// Where the verdict is settled more may stay hidden: below `settled_below_mm` (no-go) the one, when no state can
    /// be below `settled_above_mm` (go) the other. Of large gaps at least a hundredth may.
    double no_go_tolerance_mm = std::numeric_limits<double>::infinity();
    double settled_tolerance_mm = 0.25;
    double settled_below_mm = 0;
    double settled_above_mm = std::numeric_limits<double>::infinity();
    int most_states = 4000; ///< then it stops, and says what may still be hidden
    bool depth = true;      ///< of an overlap; else it is 0 and not searched
    bool polish = true;     ///< look for the plainest state that is as bad: ends of the travel, the rest at rest
    /// The gap at rest within the range, where it is known already; null: measured.
    const proximity::Gap* rest = nullptr;
    /// What holds freedoms together; states beyond are not reached.
    const std::vector<kinematics::Stop>* stops = nullptr;
    /// The freedoms that count; the others stay at rest. Null: all.
    const std::vector<bool>* free = nullptr;
    StopToken stop;
};

/// The worst moment of a pair.
struct WorstGap {
    proximity::Gap gap;      ///< at `state`; an overlap's depth is searched there
    kinematics::State state; ///< of all freedoms; those that move neither body are at rest
    /// No state has a gap smaller than `gap.gap_mm` less this; of an overlap: deeper places may exist between the
    /// states that were looked at.
    double hidden_mm = 0;
    int states = 0;       ///< at how many the gap was measured
    bool complete = true; ///< false: stopped by the token or by `most_states` before the tolerance was reached
};

/// Branch and bound over the freedoms that move the two against each other. Between the states that are measured
/// nothing is taken for granted: no point goes faster than kinematics::fastest says, so a box of states can be left
/// only when its middle's gap less what both bodies can move within it is not smaller than the best so far.
WorstGap worstGap(const MovingBody& a, const MovingBody& b, const std::vector<kinematics::Freedom>& freedoms,
                  const WorstRequest& request = {});

} // namespace gabarit::fit
