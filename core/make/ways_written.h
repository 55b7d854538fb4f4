// Ways out side by side, in words, as JSON and as a table.
#pragma once

#include "discipline/search.h"
#include "make/relief_ways.h"

namespace gabarit::make {

/// "2 gaps no-go, 1 close, driveline go".
std::string standingWords(const StandingCount& standing);
/// An answer for each way; `of` names the two that are too near.
discipline::Found found(const ReliefWays& ways, const std::string& of);

} // namespace gabarit::make
