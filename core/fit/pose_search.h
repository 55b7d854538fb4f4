// From one change of how the unit hangs to a better one, on a sieve. Internal to the room.
#pragma once

#include "fit/demands.h"
#include "fit/elsewhere.h"
#include "fit/free_all.h"

#include <atomic>

namespace gabarit::fit {

/// Keeps to limits, and to what else a place has to satisfy besides room. Any number of threads may ask at once.
class PoseSearch {
public:
    /// `sieve`, `placement` and `donor` outlive it.
    PoseSearch(const Sieve& sieve, const model::Placement& placement, const model::Donor& donor,
               const FreeLimits& limits);

    static Change changeOf(const Shift& shift) { return Eigen::Map<const Change>(shift.data()); }
    static Shift shiftOf(const Change& change);

    struct Tried {
        Change by = Change::Zero();
        double short_mm = 1e9;
        double farthest_mm = 1e9;
        bool good() const;
        /// Good ones first, of them the smallest move; of others what lacks least.
        bool operator<(const Tried& other) const;
    };

    Eigen::Isometry3d poseAt(const Change& by) const;
    /// That any corner of the box round the unit is moved.
    double farthest_mm(const Change& by) const { return apart_mm(Change::Zero(), by); }
    /// Between the same corners at two places, the most.
    double apart_mm(const Change& a, const Change& b) const;
    /// Straight from where it hangs.
    Going wayTo(const Change& by) const;
    const Change& low() const { return low_; }
    const Change& high() const { return high_; }
    const Change& weight() const { return weight_; }
    long poses() const { return poses_; }

    /// What a place has to satisfy besides: each lacks (least − along · change) there, in mm of the unit's move.
    void setBesides(std::vector<Demand> besides) { besides_ = std::move(besides); }
    const std::vector<Demand>& besides() const { return besides_; }
    double lacksBesides_mm(const Change& by) const;

    Tried tried(const Change& by) const;
    /// Pushed by what is short, beginning at a place, until nothing is: as near to `wish` as can be.
    Tried pushed(const Change& from, const Change& wish, const StopToken& stop) const;
    /// As small as can be with nothing short; where something is, that as little as can be.
    Tried polished(const Tried& from, const StopToken& stop) const;

private:
    double mostShort_mm(const Change& by, double look_mm) const;
    Tried eased(const Tried& from, const StopToken& stop) const;
    Tried shrunk(const Tried& from, const std::vector<int>& open, const StopToken& stop) const;
    Tried tidied(Tried best) const;
    Eigen::Matrix<double, 3, 6> speeds(const Change& by, const Eigen::Isometry3d& pose,
                                       const Eigen::Vector3d& at) const;
    void addDemands(Demands& demands, const Change& by, const Eigen::Isometry3d& pose,
                    const std::vector<Short>& all) const;
    Change towards(const Change& by, const Eigen::Isometry3d& pose, const Short& worst) const;

    const Sieve& sieve_;
    const model::Placement& placement_;
    const model::Donor& donor_;
    Change low_, high_, weight_;
    Eigen::Isometry3d pose_now_;
    std::vector<Demand> besides_;
    mutable std::atomic<long> poses_{0};
};

} // namespace gabarit::fit
