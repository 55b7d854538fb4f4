// Tyre sizes as they stand on the sidewall.
#pragma once

#include "quantity/result.h"

#include <string_view>

namespace gabarit::quantity {

struct Tyre {
    double width_mm = 0;    ///< section width as marked
    double diameter_mm = 0; ///< overall, new, without load
    double rim_mm = 0;      ///< rim diameter
    bool radial = true;
};

/// Reads "245/75R16" (also "P245/75 R 16 109S", "LT245/75R16"), "31x10.50-15" and "31X10.50R15LT" (overall diameter and
/// width in inches), "7.50-16" and "7.00R16C" (width in inches; the section then is as high as wide), "165R13" and
/// "195R14C" (width in mm, full profile: as high as 80 % of the width), "185/65VR15" (a speed letter before the R).
/// Metric: diameter = rim · 25.4 + 2 · width · aspect / 100 (ISO 4000-1). Error when it is none of these, or of a size
/// no wheel has.
Result<Tyre> parseTyre(std::string_view text);

} // namespace gabarit::quantity
