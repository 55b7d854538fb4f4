// The bay as a unit meets it that is tried in many places: what is short of room there, thousands of times a second.
#pragma once

#include "field/cloud.h"
#include "fit/clearance.h"

#include <atomic>

namespace gabarit::fit {

/// A body of the unit that has less room from one of the vehicle than it should have.
struct Short {
    std::size_t body = 0;  ///< of Sieve::bodies()
    std::size_t other = 0; ///< of Sieve::others()
    double by_mm = 0;      ///< what is missing
    Eigen::Vector3d at_vehicle_mm{0, 0, 0};
    Eigen::Vector3d away{0, 0, 0}; ///< of length 1: that way the body gets room
};

struct SieveOptions {
    double spread_mm = 4;     ///< of the points on the unit's surfaces, > 0
    double farthest_mm = 400; ///< how far any point of the unit is moved at most
    field::WantedOptions fields;
    LimitTable* limits = nullptr; ///< begun with the book; null: its own
};

/// Holds each pair of the unit and what stands still against the larger of its limit at rest and what its worst moment
/// asks for, both with the tape's doubt: what the movement takes from a pair is what it took where the unit hangs now
/// (of one that was not looked at: the most that it took from any pair of that body). So a place with nothing short is
/// good as far as that holds; it is measured again before it is believed. Bodies of one kind share the larger demand.
/// Pairs joined on purpose, and bodies that could not be made solid, are left out.
class Sieve {
public:
    Sieve(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
          const model::RuleBook& book, const SieveOptions& options = {});

    /// What is short by more than `from_mm` with the unit at a pose, worst first: of each region of each body's surface
    /// the worst, or one that lacks nearly as much. A pair may stand there several times.
    std::vector<Short> shortAt(const Eigen::Isometry3d& pose_vehicle_donor, double from_mm = 0) const;
    /// The most that anything is short by; below zero: how much all have to spare, as far as `spare_mm`.
    double mostShort_mm(const Eigen::Isometry3d& pose_vehicle_donor, double spare_mm = 0) const;

    /// What was measured at a pose: how much each pair of the unit and another lacks (below zero: has to spare). From
    /// now on the sieve says the same there.
    void setRight(const Eigen::Isometry3d& pose_vehicle_donor,
                  const std::map<std::pair<model::BodyRef, model::BodyRef>, double>& short_mm);

    struct Member {
        model::BodyRef ref;
        std::string name;
    };
    const std::vector<Member>& bodies() const { return bodies_; }
    const std::vector<Member>& others() const { return others_; }
    /// Round every point of the unit, donor's frame.
    const Eigen::AlignedBox3d& unit_donor_mm() const { return unit_donor_mm_; }
    /// What the fields hold now.
    std::size_t bytes() const;
    bool open() const { return open_; } ///< a body has no inside: what lies wholly in it is not seen

private:
    struct Moving {
        std::unique_ptr<field::Cloud> cloud;
        Eigen::Isometry3d pose_donor_body;
        std::size_t field = 0;
        double own_mm = 0; ///< what it wants beyond what its kind wants
    };
    struct Kind;
    double more(std::size_t body, std::size_t other) const;

    std::vector<Member> bodies_, others_;
    std::vector<Moving> moving_;
    std::vector<std::unique_ptr<const field::Wanted>> fields_;
    std::map<std::pair<std::size_t, std::size_t>, double> more_mm_; ///< body, other
    Eigen::AlignedBox3d unit_donor_mm_;
    double most_more_mm_ = 0;
    mutable std::atomic<std::size_t> worst_{0}; ///< of the bodies, at the last pose
    bool open_ = false;
};

} // namespace gabarit::fit
