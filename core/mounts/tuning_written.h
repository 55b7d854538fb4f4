// What a search for better mounts found, in words, as JSON and as a table.
#pragma once

#include "discipline/search.h"
#include "mounts/tune.h"

namespace gabarit::mounts {

/// "12 % of the shake passes at idle, rolls 0.50°, goes 3.5 mm, roll at 8.4 Hz".
std::string standingWords(const Standing& standing, quantity::Shown shown);

/// An answer for each proposal.
discipline::Found found(const model::Project& project, const model::RuleBook& book, const Tuning& tuning,
                        quantity::Shown shown);

} // namespace gabarit::mounts
