// What the gearing's report says, as people read it.
#pragma once

#include "gearing/gearing.h"
#include "quantity/quantity.h"

namespace gabarit::gearing {

/// "pulls 8573 N, 7.03 N/kg" or "pulls 1927 lbf, 0.72 lbf/lb": at the tyre; a dash for what is not known.
std::string pullWords(const GearReport& gear, const quantity::Shown& shown);
/// Force for each unit of mass, and its unit: "N/kg" or "lbf/lb".
double shownPull(double force_n_per_kg, const quantity::Shown& shown);
const char* pullUnit(const quantity::Shown& shown);

/// "At 100 km/h shown it goes 91.4 km/h", of a report that has it; in miles at 60.
std::string speedoWords(const GearingReport& report, const quantity::Shown& shown);

} // namespace gabarit::gearing
