// The mounts as a discipline.
#pragma once

#include "discipline/discipline.h"
#include "mounts/mounts.h"

namespace gabarit::mounts {

/// Its report holds a MountsReport.
const discipline::Discipline& discipline();

} // namespace gabarit::mounts
