// The bay as a unit meets it that is tried in many places: what is short of room there, thousands of times a second.
#pragma once

#include "field/cloud.h"
#include "fit/clearance.h"

#include <functional>
#include <map>
#include <memory>

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
    double spread_mm = 4; ///< of the points on the unit's surfaces, > 0
    /// Of what the points may miss between them, so much is asked for: 1 never takes a place for good that is not; less
    /// for a coarse look that is followed by a finer one.
    double cautious_share = 1;
    double farthest_mm = 400; ///< how far any point of the unit is moved at most
    field::WantedOptions fields;
    LimitTable* limits = nullptr; ///< begun with the book; null: its own
    bool by_option = false;       ///< what stands by an option has fields of its own, so that with() can leave it out
};

/// Holds each pair of the unit and what stands still against the larger of its limit at rest and what its worst moment
/// asks for, both with the tape's doubt: what the movement takes from a pair is what it took where the unit hangs now.
/// Of one that was not looked at it is how far that body moves on the mounts, or how far the other one comes by itself
/// (an axle). So a place with nothing short is good as far as that holds; it is measured again before it is believed.
/// Bodies of one kind share the larger demand. Pairs joined on purpose, and bodies that could not be made solid, are
/// left out.
class Sieve {
public:
    Sieve(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
          const model::RuleBook& book, const SieveOptions& options = {});
    /// The same fields, of which only some bodies stand. What stands still is left out by whole options: the sieve was
    /// made by option. What was set right is not carried over.
    Sieve with(const std::function<bool(const model::BodyRef&)>& stands) const;

    /// What is short by more than `from_mm` with the unit at a pose, worst first: of each region of each body's surface
    /// the worst, or one that lacks nearly as much. A pair may stand there several times.
    std::vector<Short> shortAt(const Eigen::Isometry3d& pose_vehicle_donor, double from_mm = 0) const;
    /// The most that anything is short by; below zero: how much all have to spare, as far as `spare_mm`.
    double mostShort_mm(const Eigen::Isometry3d& pose_vehicle_donor, double spare_mm = 0) const;

    /// What was measured at a pose: how much each pair of the unit and another lacks (below zero: has to spare). From
    /// now on the sieve says the same there, and round it the more of it the nearer (Shepard 1968).
    void setRight(const Eigen::Isometry3d& pose_vehicle_donor,
                  const std::map<std::pair<model::BodyRef, model::BodyRef>, double>& short_mm);

    struct Member {
        model::BodyRef ref;
        std::string name;
        std::string option; ///< "owner/choice/option" by which it stands; empty: always
    };
    /// Of the whole sieve, whether they stand or not.
    const std::vector<Member>& bodies() const;
    const std::vector<Member>& others() const;
    /// Whether there is anything to be held against anything.
    bool any() const;
    /// Round every point of the unit that stands, donor's frame.
    const Eigen::AlignedBox3d& unit_donor_mm() const { return unit_donor_mm_; }
    /// What the fields hold now.
    std::size_t bytes() const;
    bool open() const; ///< a body has no inside: what lies wholly in it is not seen

private:
    class Maker;
    struct Made;
    explicit Sieve(std::shared_ptr<const Made> made);
    void standAll(const std::function<bool(const model::BodyRef&)>& stands);
    using Pairs = std::map<std::pair<std::size_t, std::size_t>, double>; ///< body, other
    /// What a pair lacks beyond what the fields say, at a pose.
    struct More {
        Pairs of;
        std::map<std::size_t, double> most; ///< of a body's pairs, above zero
        double its(std::size_t body, std::size_t other) const;
        double mostOf(std::size_t body) const;
    };
    std::vector<Short> shortAt(const Eigen::Isometry3d& pose_vehicle_donor, double from_mm, double slack_share) const;
    More moreAt(const Eigen::Isometry3d& pose_vehicle_donor) const;

    std::shared_ptr<const Made> made_;
    std::vector<std::size_t> on_;        ///< bodies that stand
    std::vector<std::size_t> groups_on_; ///< of what stands still
    Eigen::AlignedBox3d unit_donor_mm_;
    struct Right {
        Eigen::Isometry3d pose_vehicle_donor;
        Pairs more_mm;
    };
    std::vector<Right> rights_;
};

} // namespace gabarit::fit
