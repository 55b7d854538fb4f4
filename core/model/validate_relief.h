// What may be wrong with the values of the relief. Internal to the room.
#pragma once

#include "model/project.h"
#include "model/value_checker.h"

namespace gabarit::model {

/// Ids used twice, sizes that cannot be, directions without length. What refers to something that is not there is left
/// to the report.
void validateRelief(const Relief& relief, const Say& say);

} // namespace gabarit::model
