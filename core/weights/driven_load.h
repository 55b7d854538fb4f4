// What the wheels that the unit drives carry.
#pragma once

#include "weights/axle_loads.h"

namespace gabarit::weights {

/// Load on the wheels that the unit drives, kg, by the axle loads as they will be: the rear axle's, the front's, or
/// both, by the lines of shafts that there are. Nothing when that is not known.
std::optional<double> drivenLoad_kg(const model::Project& project, const AxleLoadReport& loads);
/// The same, the loads reckoned too.
std::optional<double> drivenLoad_kg(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::weights
