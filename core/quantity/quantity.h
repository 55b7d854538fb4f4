// What people write in a field, and what a screen shows, for lengths, angles and masses.
#pragma once

#include "quantity/result.h"

#include <string>
#include <string_view>

namespace gabarit::quantity {

/// The kinds of quantity this slice reads. Stored as mm, degrees and kg.
enum class Dimension { Length, Angle, Mass };

/// What the user likes to see. A bare number in a field is read in the shown unit.
enum class Shown { Millimetres, Inches };

constexpr double mm_per_inch = 25.4;        // exact, international yard and pound agreement 1959
constexpr double kg_per_pound = 0.45359237; // exact, the same
constexpr double deg_per_rad = 57.29577951308232;

/// Reads what a person wrote: "82", "82mm", "3 1/4 in", "1' 2 3/8\"", "0,5 mm", "10° 30'", "250 lb".
///
/// Returns mm, degrees or kg. A number without a unit takes the shown unit (mm or in; kg or lb; degrees).
/// Errors: nothing there, an unknown unit, two units that do not go together, an ambiguous comma
/// ("1,234": one and a bit, or a thousand?), a zero under a fraction bar.
Result<double> parse(Dimension dimension, std::string_view text, Shown shown = Shown::Millimetres);

/// "612.4 mm" or "24.11 in"; `decimals` counts for mm, inches get two more (1 mm steps need 1/25 in).
std::string lengthText(double length_mm, Shown shown = Shown::Millimetres, int decimals = 1);
/// The number of lengthText without the unit, for tables with the unit in the heading.
std::string lengthNumber(double length_mm, Shown shown = Shown::Millimetres, int decimals = 1);
/// "mm" or "in".
const char* lengthUnit(Shown shown);
/// "612 kg" or "1349 lb".
std::string massText(double mass_kg, Shown shown = Shown::Millimetres, int decimals = 0);
/// "3.0°".
std::string angleText(double angle_deg, int decimals = 1);

/// A number with a fixed count of decimals, never "-0"; a true minus sign (U+2212) where it is negative.
std::string fixed(double value, int decimals);

} // namespace gabarit::quantity
