// The worst moments of pairs. Internal to the room.
#pragma once

#include "fit/clearance.h"

namespace gabarit::fit {

/// Looks at pairs over their movement. Thread-safe once made.
class MomentLooker {
public:
    MomentLooker(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                 const Movement& movement, GapMemo* memo, const ClearanceOptions& options);

    /// Fills `pair.travel` and `pair.worst`. Its gap at rest, limit and accuracy are there; neither overlaps.
    void look(PairGap& pair, const placed::PlacedBody& a, const placed::PlacedBody& b,
              const model::MovingLimits& limits, const Eigen::AlignedBox3d& bounds_a,
              const Eigen::AlignedBox3d& bounds_b) const;
    /// Whether `body` is of a kind that travels, and nothing says how far.
    bool travelUnknown(const placed::PlacedBody& body) const;
    /// How far such a body is expected to come at most.
    double expectedTravel_mm() const { return expected_travel_mm_; }
    /// A move of `a` that makes its moment good too: tested over the movement. `from_mm` is tried first.
    std::optional<Eigen::Vector3d> clearingMove(const PairGap& pair, const placed::PlacedBody& a,
                                                const placed::PlacedBody& b) const;

private:
    struct Speeds {
        std::vector<double> mm_per_unit;
        double all_mm = 0;             ///< over the whole movement
        double without_rocking_mm = 0; ///< with the engine at rest
    };
    /// What is asked of a body for each of its pairs.
    struct Known {
        const kinematics::Chain* chain = nullptr;
        std::optional<Speeds> speeds; ///< of what moves
        bool hot = false;
        bool travels = false; ///< it is of a kind that does
    };
    /// `body` is one of the scene's.
    const Known& known(const placed::PlacedBody& body) const;
    const kinematics::Chain* chainOf(const placed::PlacedBody& body) const { return known(body).chain; }
    const Speeds* speedsOf(const placed::PlacedBody& body) const;
    Moment moment(const PairGap& pair, const placed::PlacedBody& a, const placed::PlacedBody& b,
                  const model::Limit& limit, bool rocking, double apart_mm, const Eigen::Vector3d& shift_a_mm) const;
    /// The moment as an earlier search of the same pair tells it, if that is enough for a verdict. Only what was
    /// shifted since counts: at the state that was worst the gap is measured, of all others it is known how much nearer
    /// they can be.
    std::optional<WorstGap> carried(const EarlierMoment& earlier, const std::string& still, const MovingBody& a,
                                    const MovingBody& b, const WorstRequest& request) const;
    std::optional<Moment> groundMoment(const PairGap& pair, const placed::PlacedBody& a,
                                       const placed::PlacedBody& b) const;
    void judge(Moment& moment, const PairGap& pair) const;
    double growth_mm(const placed::PlacedBody& a, const placed::PlacedBody& b) const;

    const model::Project& project_;
    const model::RuleBook& book_;
    const placed::PlacedBody* first_ = nullptr;
    std::vector<Known> known_; ///< in the scene's order
    const Movement& movement_;
    GapMemo* memo_;
    const ClearanceOptions& options_;
    double growth_mm_per_m_ = 0;
    double expected_travel_mm_ = 0;
};

} // namespace gabarit::fit
