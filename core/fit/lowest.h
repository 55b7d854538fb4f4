// Whether the unit hangs below what should meet a stone before it does: crossmembers and axles.
#pragma once

#include "model/check.h"
#include "placed/scene.h"

namespace gabarit::fit {

/// The lowest of the active donor but its exhaust against the lowest crossmember that it passes over (of all, where it
/// passes over none) and the lowest axle, at ride height along the vehicle's up. Checks "lowest/crossmember" and
/// "lowest/axle": how far the unit hangs below, above zero: below; soft, since what hangs there may be guarded. Unknown
/// when the accuracy of one of the two is not. Empty without a donor that hangs, or without either of them.
struct LowestReport {
    std::string lowest; ///< the unit's lowest body, its name
    Eigen::Vector3d at_mm{0, 0, 0};
    std::vector<model::Check> checks;
    model::Verdict verdict = model::Verdict::Go;
};
LowestReport lowestPart(const placed::Scene& scene, const model::RuleBook& book);

} // namespace gabarit::fit
