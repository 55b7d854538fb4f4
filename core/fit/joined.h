// Bodies that are joined on purpose, held to the little that a joint may reach into.
#pragma once

#include "model/verdict.h"
#include "placed/scene.h"
#include "quantity/stop.h"

namespace gabarit::fit {

/// A joined pair of the unit and the vehicle that reaches into one another.
struct JoinedOverlap {
    model::BodyRef a, b;
    std::string name_a, name_b, reason;
    std::optional<double> depth_mm; ///< nothing: deeper than is looked for
    double limit_mm = 0;
    model::Verdict verdict = model::Verdict::Close;
    Eigen::Vector3d at_vehicle_mm{0, 0, 0};
};

/// Those that reach deeper into one another than a fit does (the book's joined_overlap_mm): what is joined is not held
/// against a gap, but metal does not go into metal (hoses, looms and lines go through it). Close; no-go beyond
/// joined_overlap_most_mm. Stopped: empty.
std::vector<JoinedOverlap> joinedOverlaps(const model::Project& project, const placed::Scene& scene,
                                          const model::RuleBook& book, const StopToken& stop = {});

} // namespace gabarit::fit
