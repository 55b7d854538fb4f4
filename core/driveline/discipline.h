// The driveline as a discipline.
#pragma once

#include "discipline/discipline.h"
#include "driveline/driveline.h"

namespace gabarit::driveline {

/// What to mind at a figure of a line of shafts.
std::string cautionOf(const model::Project& project, const model::RuleBook& book, const Check& check);

/// Its report holds a DrivelineReport.
const discipline::Discipline& discipline();

} // namespace gabarit::driveline
