// Reliefs as a discipline.
#pragma once

#include "discipline/discipline.h"
#include "relief/relief.h"

namespace gabarit::relief {

/// Its report holds a ReliefReport.
const discipline::Discipline& discipline();

} // namespace gabarit::relief
