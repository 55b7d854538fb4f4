// What stands on each axle, in sentences: the same on the terminal and in the window.
#pragma once

#include "quantity/quantity.h"
#include "weights/axle_loads.h"

#include <string>
#include <vector>

namespace gabarit::weights {

/// "Front axle: 611.0 kg before, +43.0 kg, 654.0 kg now (±8 kg), limit 690.0 kg: go"; then limits' source, centre of
/// gravity before and now, wheels where each was weighed, what is left out.
std::vector<std::string> weightsWords(const model::Project& project, const AxleLoadReport& report,
                                      quantity::Shown shown);

} // namespace gabarit::weights
