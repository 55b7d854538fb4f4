// Free volumes: what stands in them, and which parts without a home would go in.
#pragma once

#include "model/verdict.h"
#include "placed/scene.h"

namespace gabarit::fit {

/// One free volume as it is with the donor hung.
struct RoomLeft {
    std::string id;
    std::string name;
    std::vector<std::string> intruders; ///< names of bodies that reach into it
    std::vector<std::string> homes_of;  ///< names of parts that have it as their home
};

/// One part held against one free volume.
struct HomeOffer {
    std::string volume;
    std::string name;
    /// The least that is left over beside the part, of its three sides, turned the best way by quarter turns; mm in
    /// all, not at each end. Negative: so much too large.
    double spare_mm = 0;
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason; ///< why it is not a go, in words
};

struct HomeSearch {
    model::PartId part;
    std::string name;
    std::optional<Eigen::Vector3d> size_mm; ///< its own, or its body's extents
    std::string chosen;                     ///< a free volume's id; may be empty
    std::vector<HomeOffer> offers;          ///< best first
};

struct FreeRoomReport {
    double wanted_mm = 0; ///< to be left over across each side
    std::string source;
    std::vector<RoomLeft> rooms;
    std::vector<HomeSearch> searches; ///< of parts that have a home, or a size and none
};

/// Parts that are sold, going back or not taken need no home; fitted ones only keep theirs. Several parts in one room
/// are each held against it alone.
FreeRoomReport freeRoom(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                        proximity::ColliderCache& cache, const placed::SceneOptions& options = {});

} // namespace gabarit::fit
