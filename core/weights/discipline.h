// Weights as a discipline.
#pragma once

#include "discipline/discipline.h"
#include "weights/axle_loads.h"
#include "weights/hoist.h"

namespace gabarit::weights {

/// Its report holds an AxleLoadReport when weights are asked, and a HoistReport when a donor hangs: for the lift, its
/// verdict is not the fit's.
const discipline::Discipline& discipline();

} // namespace gabarit::weights
