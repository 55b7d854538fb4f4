// What is only assumed, or of unknown accuracy, and how much margin that could eat.
#pragma once

#include "fit/clearance.h"
#include "model/project.h"

namespace gabarit::make {

/// One body whose place or size is not measured. Lengths in mm.
struct AssumedLine {
    model::BodyRef ref;
    std::string name;
    bool assumed = false;              ///< said to be; else its accuracy is not known
    std::optional<double> accuracy_mm; ///< how wrong it may be
    /// The least margin (gap less limit) among its pairs; nothing when none is within range.
    std::optional<double> margin_mm;
    std::string against;           ///< the other body of that pair
    std::optional<double> left_mm; ///< margin less its accuracy: below zero, the assumption decides the verdict
};

/// Bodies in the bay that are assumed or without an accuracy. Worst first: those whose accuracy is not known by their
/// margin, then by what would be left; those without a margin last.
std::vector<AssumedLine> assumed(const model::Project& project, const placed::Scene& scene,
                                 const fit::ClearanceReport& clearance);

} // namespace gabarit::make
