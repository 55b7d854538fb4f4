// Bolts of a mount's face: how deep they engage, how tight they may be.
#pragma once

#include "model/check.h"
#include "model/project.h"

namespace gabarit::mounts {

/// Pitch of the coarse metric thread (ISO 261) of a nominal diameter; nothing for one that is none.
std::optional<double> coarsePitch_mm(double thread_mm);
/// Stress area π/4·(d − 0.9382·P)² (ISO 898-1), mm².
double stressArea_mm2(double thread_mm, double pitch_mm);
/// Proof stress of a property class (ISO 898-1), N/mm²; nothing for one that is not known.
std::optional<double> proofStress_mpa(const std::string& grade, double thread_mm);

/// Height of a regular hexagon nut, style 1 (ISO 4032), at most; nothing for a diameter that is none of its.
std::optional<double> nutHeight_mm(double thread_mm);
/// Threaded length of a hexagon head bolt with shank (ISO 4014): 2d + 6 up to 125 mm, 2d + 12 up to 200 mm, then 2d +
/// 25, at most its whole length.
double threadedLength_mm(double thread_mm, double length_mm);

} // namespace gabarit::mounts
