// The smallest gap of two bodies over all states of what moves them.
#pragma once

#include "kinematics/motion.h"
#include "proximity/gap.h"

namespace gabarit::fit {

/// A body where it is at rest, and what moves it.
struct MovingBody {
    const proximity::Collider* collider = nullptr;
    Eigen::Isometry3d pose_rest = Eigen::Isometry3d::Identity(); ///< to the vehicle's frame
    const kinematics::Chain* chain = nullptr;                    ///< null: it does not move
};

struct WorstRequest {
    double range_mm = 60;       ///< gaps above it are not measured
    double tolerance_mm = 0.25; ///< how much smaller than what is found the gap may be
    int most_states = 4000;     ///< then it stops, and says what may still be hidden
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
