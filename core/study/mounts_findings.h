// What the mounts say to the build. Internal to the room, but for what others need to know.
#pragma once

#include "study/study.h"

namespace gabarit::study {

void addMounts(std::vector<Finding>& out, const Reports& reports, const model::RuleBook& book, quantity::Shown shown);
void addMountsGauge(std::vector<Gauge>& out, const Reports& reports, quantity::Shown shown);

/// Load on the wheels that the unit drives, kg, by the axle loads as they will be: the rear axle's, the front's, or
/// both, by the lines of shafts that there are. Nothing when that is not known.
std::optional<double> drivenLoad_kg(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::study
