// What else a place is held against besides room, for the search of one: quick enough to be asked a hundred times.
#pragma once

#include "fit/free_all.h"
#include "study/study.h"

namespace gabarit::make {

/// What comes before the smallest move: a shaft that is kept, joints that run at equal angles.
enum class First { Room, StockShaft, EqualAngles };
/// "", "shaft", "angles". Error: another word.
Result<First> firstOf(const std::string& word);

/// Asks every discipline that follows the unit's place and needs no body's shape (shafts, mounts, loads) what its
/// checks lack of go with the active placement changed to another. What has no figure there is left out. What comes
/// first must be. `study`
/// outlives it and is used by nobody else meanwhile; may be called from any thread.
std::function<std::vector<fit::Beside>(const model::Placement&)>
besidesOf(study::Study& study, const model::Project& project, First first = First::Room,
          const discipline::Board& board = disciplines::all());

/// How far a check's value is from go, in its unit; not above zero: it is go. Nothing when it has no value.
std::optional<double> lacks(const model::Check& check);

} // namespace gabarit::make
