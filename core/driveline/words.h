// What the driveline's reports advise, as people read it.
#pragma once

#include "discipline/check_words.h"
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "quantity/quantity.h"

namespace gabarit::driveline {

/// "turn the pinion's nose down 1.2° (shims between spring and axle): 0.1° of shake left".
std::string cureWords(const LineReport& line, const Cure& cure, const quantity::Shown& shown);
/// What would put a check right, in a sentence; empty when nothing is known to.
std::string helpWords(const LineReport& line, const Check& check, const quantity::Shown& shown);
/// What else there is to say of a line: "Its speed at the far end swings by 0.13 % over a turn. Plunge used 15.0 of
/// 44.0 mm."; empty when nothing is.
std::string turnWords(const model::ShaftLine& line, const LineReport& report, const quantity::Shown& shown);
/// "gearbox mount 4.2 mm down, 1.5 mm to the driver's side".
std::string moveWords(const model::Project& project, const char* mount, double up_mm, double right_mm,
                      const quantity::Shown& shown);
/// What the last readings of a coupling say to do; empty when they say nothing.
std::string couplingWords(const model::Project& project, const CouplingReport& coupling, const quantity::Shown& shown);

/// "It mates.", "It mates with an adapter only."
const char* matingWords(Mating mating);

} // namespace gabarit::driveline
