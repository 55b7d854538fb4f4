// Flat plates that take a hole pattern over: blanking plates and adapters.
#pragma once

#include "model/project.h"
#include "relief/flat.h"
#include "relief/section/relief.h"

namespace gabarit::relief {

struct PlateMade {
    FlatPattern pattern;
    std::optional<double> bolt_mm; ///< length of its bolts under the head, for the thickness it has now
    double mass_kg = 0;
};
/// Outline: the holes' convex hull with metal left round each. Errors: a pattern that is not there, a hole that cuts
/// into another, no hole at all, no such material.
Result<PlateMade> makePlate(const model::Project& project, const model::RuleBook& book,
                            const model::PatternPlate& plate);

} // namespace gabarit::relief
