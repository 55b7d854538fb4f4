// All stages there are, gathered by the build (cmake/GabaritRoom.cmake).
#pragma once

#include "kit/stage.h"

namespace gabarit::app {

/// In the order of the work, as on the rail.
const std::vector<const StagePlug*>& allStages();

} // namespace gabarit::app
