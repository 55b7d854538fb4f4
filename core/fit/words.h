// Gaps, moments and moves as people read them.
#pragma once

#include "fit/free_move.h"
#include "fit/measured.h"
#include "fit/tool_access.h"
#include "quantity/quantity.h"

namespace gabarit::fit {

/// "31 mm up", "12 mm to the driver's side", "tail down 0.60°".
std::string wayWords(const model::Project& project, Way way, double amount, const quantity::Shown& shown);
/// "31.4 mm up", "over 200 mm forward": rounded down, so that who goes by it touches nothing.
std::string roomWords(const model::Project& project, const Room& room, const quantity::Shown& shown);
/// A turn's room to the hundredth of a degree, rounded down.
double turnDown_deg(double turn_deg);
/// "25 mm up, then 12 mm rearward".
std::string wayWords(const model::Project& project, const WayOut& way, const quantity::Shown& shown);
/// "−18.2 mm", "> 60 mm", "deeper than 400 mm": a pair's gap as people read it.
std::string gapWords(const PairGap& pair, quantity::Shown shown);
/// "4.2 mm", "at least 34 mm": the gap at a moment.
std::string gapWords(const Moment& moment, quantity::Shown shown);
/// When it happens: "front axle at full bump, full right lock", "springs 14 mm in at the front"; empty when that is not
/// known.
std::string momentWords(const model::Project& project, const ClearanceReport& report, const Moment& moment,
                        quantity::Shown shown);

/// What a pair's finding is known by.
std::string findingId(const PairGap& pair);
/// What a serviced bolt's finding is known by.
std::string accessFindingId(const ToolAccess& access);
/// Which body the differences suggest is wrong, in a sentence; empty while everything agrees.
std::string suspectWords(const model::Project& project, const MeasuredReport& measured, quantity::Shown shown);

} // namespace gabarit::fit
