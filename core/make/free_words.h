// What the searches for a place have in common: how far they look, and how they tell of one.
#pragma once

#include "discipline/written.h"
#include "fit/free_all.h"
#include "quantity/quantity.h"
#include "study/study.h"

namespace gabarit::make {

/// How far the book has the unit moved. `held`: what stays as it is, of along, across, up, swing, tail, lean, with
/// commas between. Error: another word.
Result<fit::FreeLimits> freeLimits(const model::RuleBook& book, const std::string& held);

/// The freedom of that word ("along", "across", "up", "swing", "tail", "lean"). Error: another one.
Result<fit::Freedom> freedomOf(const std::string& word);
/// What it is called: "fore and aft", "height".
const char* freedomName(fit::Freedom freedom);

/// "8.0 mm to the driver's side, tail down 0.40°"; "where it hangs" when nothing is changed that can be shown.
std::string shiftWords(const model::Project& project, const fit::Shift& by, const quantity::Shown& shown);
/// "Front sump to front crossmember, 15.0 mm short; …": the worst three; those that lack nothing without a figure.
std::string bindingWords(const fit::FreePlace& place, const quantity::Shown& shown);
/// "Not yet: 2 no-go, 1 close".
std::string totalOf(const study::Reports& reports);
discipline::Json jsonOf(const fit::FreePlace& place);

} // namespace gabarit::make
