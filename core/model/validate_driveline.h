// What may be wrong with the values of a driveline. Internal to the room.
#pragma once

#include "model/project.h"
#include "model/value_checker.h"

namespace gabarit::model {

/// Ids used twice, lengths and angles that cannot be. What refers to something that is not there is left to the report:
/// it says what it waits for.
void validateDriveline(const Driveline& driveline, const Say& say);
void validateGearing(const Gearing& gearing, const Say& say);

} // namespace gabarit::model
