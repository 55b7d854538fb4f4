// The worst moments of pairs. Internal to the room.
#pragma once

#include "fit/clearance.h"
#include "fit/moving_limits.h"

namespace gabarit::fit {

/// Looks at pairs over their movement. Thread-safe once made.
class MomentLooker {
public:
    MomentLooker(const model::Project& project, const Scene& scene, const model::RuleBook& book,
                 const Movement& movement, GapMemo* memo, const ClearanceOptions& options);

    /// Fills `pair.travel` and `pair.worst`. Its gap at rest, limit and accuracy are there; neither overlaps.
    void look(PairGap& pair, const PlacedBody& a, const PlacedBody& b, const Eigen::AlignedBox3d& bounds_a,
              const Eigen::AlignedBox3d& bounds_b) const;
    /// Whether `body` is of a kind that travels, and nothing says how far.
    bool travelUnknown(const PlacedBody& body) const;
    /// How far such a body is expected to come at most.
    double expectedTravel_mm() const { return expected_travel_mm_; }
    /// A move of `a` that makes its moment good too: tested over the movement. `from_mm` is tried first.
    std::optional<Eigen::Vector3d> clearingMove(const PairGap& pair, const PlacedBody& a, const PlacedBody& b) const;

private:
    struct Speeds {
        std::vector<double> mm_per_unit;
        double all_mm = 0;             ///< over the whole movement
        double without_rocking_mm = 0; ///< with the engine at rest
    };
    const Speeds* speedsOf(const PlacedBody& body) const;
    Moment moment(const PairGap& pair, const PlacedBody& a, const PlacedBody& b, const model::Limit& limit,
                  bool rocking, double apart_mm, const Eigen::Vector3d& shift_a_mm) const;
    std::optional<Moment> groundMoment(const PairGap& pair, const PlacedBody& a, const PlacedBody& b) const;
    void judge(Moment& moment, const PairGap& pair) const;
    double growth_mm(const PlacedBody& a, const PlacedBody& b) const;

    const model::Project& project_;
    const model::RuleBook& book_;
    MovingLimitTable limits_;
    const Movement& movement_;
    GapMemo* memo_;
    const ClearanceOptions& options_;
    std::map<model::BodyRef, Speeds> speeds_;
    double growth_mm_per_m_ = 0;
    double expected_travel_mm_ = 0;
};

} // namespace gabarit::fit
