// Whether two ends of the driveline go together, and what the stack between block and gearbox adds up to.
#pragma once

#include "driveline/check.h"
#include "driveline/section/driveline.h"
#include "model/project.h"

#include <vector>

namespace gabarit::driveline {

enum class Mating { Mates, Adapter, DoesNot, Unknown };
const char* word(Mating mating); ///< "mates", "with an adapter", "does not", "not known"

struct InterfaceReport {
    std::string id;
    std::string name;
    Mating mating = Mating::Unknown;
    std::vector<std::string> reasons; ///< what does not agree, or is not known; in whole sentences
    model::Verdict verdict = model::Verdict::Unknown;
};

/// Splines by count, major diameter and length; flanges by bolts, bolt circle, spigot and thread; joints by cap and
/// span; bores by diameter. What differs is told with both figures. An adapter makes it close, not go.
InterfaceReport judgeInterface(const model::Interface& interface, const model::RuleBook& book);

/// Sums along the shaft with their tolerances added up (the worst case) as accuracy. Only what has a figure of its own
/// is asked.
std::vector<Check> judgeBell(const model::BellStack& stack, const model::RuleBook& book);

} // namespace gabarit::driveline
