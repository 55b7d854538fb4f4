// What may be wrong with the values of the mounts. Internal to the room.
#pragma once

#include "model/project.h"
#include "model/value_checker.h"

namespace gabarit::model {

/// Ids used twice, rates and sizes that cannot be, directions without length. What refers to something that is not
/// there is left to the report.
void validateMounts(const Mounts& mounts, const Say& say);

} // namespace gabarit::model
