// What the driveline's reports advise, as people read it.
#pragma once

#include "driveline/driveline.h"
#include "gearing/gearing.h"
#include "quantity/quantity.h"
#include "study/check_words.h"

namespace gabarit::study {

/// "turn the pinion's nose down 1.2° (shims between spring and axle): 0.1° of shake left".
std::string cureWords(const driveline::LineReport& line, const driveline::Cure& cure, const quantity::Shown& shown);
/// What would put a check right, in a sentence; empty when nothing is known to.
std::string helpWords(const driveline::LineReport& line, const driveline::Check& check, const quantity::Shown& shown);
/// What else there is to say of a line: "Its speed at the far end swings by 0.13 % over a turn. Plunge used 15.0 of
/// 44.0 mm."; empty when nothing is.
std::string turnWords(const model::ShaftLine& line, const driveline::LineReport& report, const quantity::Shown& shown);
/// "gearbox mount 4.2 mm down, 1.5 mm to the driver's side".
std::string moveWords(const model::Project& project, const char* mount, double up_mm, double right_mm,
                      const quantity::Shown& shown);
/// What the last readings of a coupling say to do; empty when they say nothing.
std::string couplingWords(const model::Project& project, const driveline::CouplingReport& coupling,
                          const quantity::Shown& shown);

/// "It mates.", "It mates with an adapter only."
const char* matingWords(driveline::Mating mating);
/// "pulls 8573 N, 7.03 N/kg" or "pulls 1927 lbf, 0.72 lbf/lb": at the tyre; a dash for what is not known.
std::string pullWords(const gearing::GearReport& gear, const quantity::Shown& shown);
/// Force for each unit of mass, and its unit: "N/kg" or "lbf/lb".
double shownPull(double force_n_per_kg, const quantity::Shown& shown);
const char* pullUnit(const quantity::Shown& shown);

/// "At 100 km/h shown it goes 91.4 km/h", of a report that has it; in miles at 60.
std::string speedoWords(const gearing::GearingReport& gearing, const quantity::Shown& shown);

} // namespace gabarit::study
