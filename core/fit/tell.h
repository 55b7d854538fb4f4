// What the clearances say to the build. Internal to the room.
#pragma once

#include "fit/fit_report.h"

namespace gabarit::fit {

/// `checks`: the report's plain ones.
void tellFit(const FitReport& report, const std::vector<model::Check>& checks, const model::Project& project,
             const discipline::Telling& telling, std::vector<discipline::Finding>& out);
void showFit(const FitReport& report, quantity::Shown shown, std::vector<discipline::Gauge>& out);

} // namespace gabarit::fit
