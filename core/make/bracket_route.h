// A way for a bracket's arm from face to isolator that touches nothing but those two.
#pragma once

#include "mounts/bracket.h"
#include "mounts/section/mounts.h"
#include "placed/scene.h"

namespace gabarit::make {

/// What stands in a bracket's way as it is given.
struct InTheWay {
    model::BodyRef ref;
    std::string name;
    double gap_mm = 0; ///< below zero: it stands in it
    double wanted_mm = 0;
    bool moved = false; ///< not at rest: somewhere in its travel, at its ends and half-way
};
/// What comes nearer to the bracket's pieces than it may: bodies of the other owner by the clearance rules (with the
/// weld pull), of its own by route_margin_mm, moving ones by
/// the least gap at the worst moment wherever their travel takes them. The metal its face is on, what it was made as
/// before, and closing panels are not counted. Worst first.
std::vector<InTheWay> inTheWay(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                               const model::Mount& mount, const mounts::BracketMade& made,
                               proximity::ColliderCache& cache);

struct Routed {
    model::Bracket bracket; ///< with the corners it needs
    mounts::BracketMade made;
    std::vector<InTheWay> straight; ///< what stands in the straight way; empty: it goes straight
};
/// Straight if that is free; else with one or two corners, the shortest arm of those tried. Error, naming what is in
/// the way, when none is free.
Result<Routed> routed(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                      const model::Mount& mount, mounts::Which which, const model::Bracket& wanted,
                      proximity::ColliderCache& cache, const StopToken& stop = {});

/// Routed and made: see withBracket. `wanted` keeps its own corners when those are free as they are.
Result<model::Project> withBracketRouted(const model::Project& project, const placed::Scene& scene,
                                         const model::RuleBook& book, const std::string& mount, mounts::Which which,
                                         const model::Bracket& wanted, proximity::ColliderCache& cache,
                                         const StopToken& stop = {});

} // namespace gabarit::make
