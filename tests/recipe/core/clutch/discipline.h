// Whether the clutch holds the engine's torque.
#pragma once

#include "clutch/section/clutch.h"
#include "discipline/discipline.h"

namespace gabarit::clutch {

/// Torque in N·m that it holds before it slips, by uniform wear: faces · friction · clamp · (outer + inner) / 4
/// (Shigley, Mechanical Engineering Design, disc clutches: the lower of the two theories). Nothing while a figure is
/// missing or the lining's inside is not inside.
std::optional<double> holds_nm(const Clutch& clutch, double friction);

const discipline::Discipline& discipline();

} // namespace gabarit::clutch
