// The gearing as a discipline.
#pragma once

#include "discipline/discipline.h"
#include "gearing/gearing.h"

namespace gabarit::gearing {

/// Its report holds a GearingReport.
const discipline::Discipline& discipline();

} // namespace gabarit::gearing
