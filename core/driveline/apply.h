// What the reports advise, carried out on the project as one step.
#pragma once

#include "driveline/driveline.h"

namespace gabarit::driveline {

/// A cure of a line: a fork's phase set, the axle wedged by so much more (what was measured of it stays as it was), or
/// the unit turned about its front mounts or raised in the active placement. Errors: no such line or shaft; no
/// placement or donor to move; a turn about front mounts that are not given.
Result<model::Project> withCure(const model::Project& project, const std::string& line, const Cure& cure);

/// The unit moved along the way the line runs in the active placement: what a kept shaft asks of it.
Result<model::Project> withUnitOnward(const model::Project& project, const LineReport& line, double onward_mm);

/// A gauge's reading taken as how it is: a flange of the vehicle gets that angle in the side view; a unit is turned
/// about the pivot of its active placement until its flange has it. Errors: the reading has no slope or speaks of no
/// line; the flange is across the vehicle and on a unit, which no turn of its tail would change.
Result<model::Project> withReadingTaken(const model::Project& project, const std::string& reading);

} // namespace gabarit::driveline
