// What the clearances say to the build. Internal to the room.
#pragma once

#include "fit/fit_report.h"

namespace gabarit::fit {

/// The least that a scale of gaps shows beside what is wanted: two fingers.
constexpr double least_scale_mm = 30;

/// `checks`: the report's plain ones.
void tellFit(const FitReport& report, const std::vector<model::Check>& checks, const model::Project& project,
             const discipline::Telling& telling, std::vector<discipline::Finding>& out);
/// What is good: of each rule the tightest pair, where the vehicle stands, what is reached.
void listFit(const FitReport& report, const std::vector<model::Check>& checks, const discipline::Telling& telling,
             std::vector<discipline::Finding>& out);
/// The sum of a pair's gap; nothing when the finding is of no pair.
std::optional<discipline::Why> whyPair(const FitReport& report, const model::Project& project,
                                       const discipline::Telling& telling, const discipline::Finding& of);
/// A pair's gap and what it is held against, as a row shows it.
discipline::Held heldOf(const PairGap& pair, quantity::Shown shown);
void showFit(const FitReport& report, quantity::Shown shown, std::vector<discipline::Gauge>& out);

} // namespace gabarit::fit
