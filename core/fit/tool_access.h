// Whether a tool reaches what must be served with the unit in, and whether the lever comes up where the floor is open.
#pragma once

#include "model/rules.h"
#include "model/verdict.h"
#include "placed/scene.h"

namespace gabarit::fit {

/// One body in the way of a tool.
struct Blocker {
    model::BodyRef ref;
    std::string name;
    double gap_mm = 0; ///< to the tool's cylinder; 0: it stands inside it
    std::optional<double> accuracy_mm;
    bool coming_off = false; ///< not the tool meets it, but what comes off
    bool hand = false;       ///< not the tool meets it, but the hand round its end
};

/// The straight cylinder for socket and extension on one serviced bolt. Vehicle frame, mm.
struct ToolAccess {
    std::string owner;
    std::string id;
    std::string name;
    Eigen::Vector3d from_mm{0, 0, 0};
    Eigen::Vector3d to_mm{0, 0, 0};
    double diameter_mm = 0;        ///< 0 while the socket is not known
    std::optional<double> pull_mm; ///< how far what it sits in has to come out that way
    std::vector<Blocker> blockers; ///< inside the cylinder, then the nearest beside it when that is too near to be sure
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason; ///< why it is unknown
    std::string source; ///< of the cylinder's allowances
};

/// Every serviced bolt of the vehicle and the active donor against every body in the bay but the one it sits in,
/// closing panels (which are open then) and the ground. Allowances: the book's figures tool_over_socket_mm and
/// tool_length_mm. What has to come off is drawn that way out, the unit at rest; what it touches while it is on is its
/// seat and does not block it. Bolts of the mounts' faces whose socket is given are looked at too, each hole by itself,
/// with room for a hand at the tool's end (hand_mm, hand_long_mm); what the mount's own bracket is made of does not
/// block them. Their ids read "mount:ID:pad:1". Empty when nothing is listed or stopped.
std::vector<ToolAccess> toolAccess(const model::Project& project, const placed::Scene& scene,
                                   const model::RuleBook& book, proximity::ColliderCache& cache,
                                   const placed::SceneOptions& options);

/// The shift lever's point against the floor opening it has to come through, seen from above.
struct LeverCheck {
    std::string lever;
    std::string opening;
    Eigen::Vector3d lever_vehicle_mm{0, 0, 0};
    Eigen::Vector3d opening_vehicle_mm{0, 0, 0};
    std::optional<double> room_mm; ///< to the nearest edge of the opening; negative: outside it
    double limit_mm = 0;
    std::optional<double> accuracy_mm;
    /// The smallest move of the lever that leaves the limit all round, vehicle frame; nothing when the opening is too
    /// small for that, zero when it does already.
    std::optional<Eigen::Vector3d> move_mm;
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason;
    std::string source;
};

/// The donor's first point with the role shift_lever against the vehicle's nearest with the role shift_lever_opening
/// and a size; unknown when that has none. Nothing when either is missing. Straight up only: the lever's throw is not
/// counted.
std::optional<LeverCheck> leverCheck(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::fit
