// The clutch: the section "clutch" of a project.
#pragma once

#include "model/sections.h"

#include <optional>
#include <string>

namespace gabarit::clutch {

struct Clutch {
    std::optional<double> outer_mm, inner_mm; ///< diameters of its lining
    std::optional<double> clamp_n;            ///< with which the cover presses
    double faces = 2;                         ///< linings that rub
    std::optional<double> friction;           ///< of its lining; without it the rule book's
    std::optional<double> torque_nm;          ///< the engine's most; without it the highest of the gearing
    std::string source;                       ///< where the figures are from
    describe::Extras extras;
};
void describe(describe::Visitor& v, Clutch& clutch);

model::SectionKind section();

} // namespace gabarit::clutch
