// "Every choice tried" as a search.
#pragma once

#include "make/search.h"

namespace gabarit::make {

/// An answer for each combination that is not folded away, least cut first, with what it buys; else the least bad.
/// `about`: what stays as it is and what comes first, as of freePlaces(); for how many seconds it may begin something
/// new (empty: the book's). Errors: a word that is none; no number of seconds above zero; nothing hangs.
Result<discipline::Found> choicesTried(const Searching& with, const discipline::SearchGiven& given);

} // namespace gabarit::make
