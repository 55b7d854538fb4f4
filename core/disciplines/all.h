// All disciplines there are, gathered by the build (cmake/rooms.cmake).
#pragma once

#include "discipline/board.h"

namespace gabarit::disciplines {

/// Made once. Cards that do not go together are a programming error and throw, with what is wrong.
const discipline::Board& all();

} // namespace gabarit::disciplines
