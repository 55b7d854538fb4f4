// "Free it all" as a search: the places that were found, each run as a project of its own.
#pragma once

#include "fit/free_all.h"
#include "make/search.h"

namespace gabarit::make {

/// An answer for each place where every gap is good, the smallest move first, with what all disciplines say there; else
/// the least bad place and what binds. `about`: what stays as it is, of along, across, up, swing, tail, lean, with
/// commas between; what comes first (besides.h). Error: another word; nothing hangs.
Result<discipline::Found> freePlaces(const Searching& with, const discipline::SearchGiven& given);

} // namespace gabarit::make
