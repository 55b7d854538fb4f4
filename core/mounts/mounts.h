// The unit on its mounts, judged: loads, deflections, modes, movement while driving, bolts.
#pragma once

#include "model/check.h"
#include "mounts/bracket.h"
#include "mounts/crossmember.h"
#include "mounts/holds.h"
#include "mounts/mass.h"
#include "mounts/seat_frame.h"
#include "mounts/section/mounts.h"
#include "quantity/once.h"

namespace gabarit::mounts {

/// What other disciplines know.
struct Given {
    std::optional<double> driven_axle_kg; ///< load on the driven wheels
    bool metal = true;                    ///< brackets, crossmembers, frames and hold points are looked at too
};

enum class CaseKind { Rest, Driving, Strength };
/// The unit under one set of loads.
struct LoadCase {
    std::string id; ///< "torque-forward", "bump"
    std::string name;
    CaseKind kind = CaseKind::Strength;
    Load load;                              ///< about the centre of gravity
    std::string how;                        ///< what it is made of: "4 g down"
    std::string reason;                     ///< why it is not known; empty: it is
    std::vector<Eigen::Vector3d> on_unit_n; ///< of each mount's seat on the unit, vehicle frame
    std::vector<bool> pulled;               ///< whether a mount is pulled apart along its axis
    Move from_rest;                         ///< of the centre; driving cases
    std::vector<Eigen::Vector3d> mount_mm;  ///< each mount from rest, its own axes (shear, shear, axial)
    std::vector<bool> at_stop;
};

struct MountReport {
    std::string id;
    std::string name;
    Eigen::Vector3d at_mm{0, 0, 0}; ///< middle of its isolator, vehicle frame
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();
    std::string isolator;                ///< its name; empty: none chosen
    std::optional<double> rest_n;        ///< at rest, pressed along its axis
    std::optional<double> rest_shear_n;  ///< at rest, across it
    std::optional<double> rest_mm;       ///< pressed together by
    std::optional<double> rest_shear_mm; ///< gone across its axis by
    bool torn_holds = false;             ///< the unit stays where it is with this one's rubber torn
    std::optional<double> torn_mm;       ///< how far its place goes then
};

/// One face's bolts.
struct BoltReport {
    std::string mount;
    std::string face;                                      ///< "pad" or "stand"
    std::optional<double> grip_mm;                         ///< through bolts: all that lies between head and nut
    std::optional<double> engaged_mm;                      ///< in the thread; through bolts: beyond the grip
    std::optional<double> least_length_mm, most_length_mm; ///< under the head: what would do
    std::optional<double> preload_n;                       ///< of each
    std::optional<double> torque_nm;                       ///< for it, with the thread treated as it is
};

struct MountsReport {

    bool usable = false; ///< false: of all below only the places of `mounts` and the checks are known
    std::string reason;
    UnitMass unit;
    bool determinate = false; ///< three mounts: loads by statics, not by rates
    std::vector<MountReport> mounts;
    std::vector<LoadCase> cases;
    std::optional<std::array<Mode, 6>> modes;
    std::string modes_reason; ///< why there are none
    std::optional<double> firing_hz;
    std::optional<double> second_order_hz; ///< at idle, of an engine that shakes so
    std::optional<double> second_order_n;  ///< its force at idle
    std::vector<BoltReport> bolts;
    std::vector<BracketReport> brackets;
    std::vector<CrossmemberReport> crossmembers;
    std::vector<FrameReport> frames;
    std::vector<HoldReport> holds; ///< of every mount, in the order of work
    std::vector<HandedPair> handed;
    double weld_pull_mm = 0;               ///< wanted on top of each gap until all are fitted again after welding
    std::optional<model::Rocking> rocking; ///< what the driving cases come to, for the clearances
    std::vector<model::Check> checks;
    model::Verdict verdict = model::Verdict::Unknown;

    GABARIT_ONCE_DECLARED(MountsReport);
};

/// The isolator of a mount: the project's own of that id, else the catalogue's; null when there is none.
const model::Isolator* isolatorOf(const model::Project& project, const model::RuleBook& book,
                                  const model::Mount& mount);

/// How a rubber's axis (towards the unit) stands: from upright, first outward from the vehicle's middle (its top goes
/// to the side it sits on; 90: it lies across the vehicle), then forward. On the centreline outward is to the right.
struct Lean {
    double outward_deg = 0;
    double forward_deg = 0;
};
Lean leanOf(const Eigen::Vector3d& axis, double at_y_mm);
Eigen::Vector3d axisOf(const Lean& lean, double at_y_mm);
/// "upright", "leaning 35° inward", "leaning 90° outward and 10° forward".
std::string leanWords(const Lean& lean);

/// Where a mount's isolator is and how it lies. Errors: a point, donor or isolator that is not there, an axis without
/// direction.
Result<MountReport> placedMount(const model::Project& project, const model::RuleBook& book, const model::Mount& mount);

/// Nothing when the project has no mounts.
std::optional<MountsReport> judgeMounts(const model::Project& project, const model::RuleBook& book, const Given& given);

} // namespace gabarit::mounts
