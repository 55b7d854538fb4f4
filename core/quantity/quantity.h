// What people write in a field, and what a screen shows, for each kind of quantity that has units.
#pragma once

#include "quantity/result.h"

#include <string>
#include <string_view>

namespace gabarit::quantity {

/// The kinds of quantity with units. Stored as mm, degrees, kg, N·m, kW, °C and km/h.
enum class Dimension { Length, Angle, Mass, Torque, Power, Temperature, Speed };

enum class LengthStyle { Millimetres, DecimalInches, Sixteenths, ThirtySeconds };
enum class MassUnit { Kilograms, Pounds };
enum class TorqueUnit { NewtonMetres, PoundFeet };
enum class PowerUnit { Kilowatts, Horsepower };
enum class TemperatureUnit { Celsius, Fahrenheit };
enum class SpeedUnit { KilometresPerHour, MilesPerHour };

/// What the user likes to see. A bare number in a field is read in the shown unit.
struct Shown {
    LengthStyle length = LengthStyle::Millimetres;
    MassUnit mass = MassUnit::Kilograms;
    TorqueUnit torque = TorqueUnit::NewtonMetres;
    PowerUnit power = PowerUnit::Kilowatts;
    TemperatureUnit temperature = TemperatureUnit::Celsius;
    SpeedUnit speed = SpeedUnit::KilometresPerHour;

    bool inches() const { return length != LengthStyle::Millimetres; }
    friend bool operator==(const Shown& a, const Shown& b) {
        return a.length == b.length && a.mass == b.mass && a.torque == b.torque && a.power == b.power &&
               a.temperature == b.temperature && a.speed == b.speed;
    }
    friend bool operator!=(const Shown& a, const Shown& b) { return !(a == b); }
    static const Shown Millimetres; ///< mm, kg, N·m, kW, °C, km/h
    static const Shown Inches;      ///< decimal inches, lb, lbf·ft, hp, °F, mph
};
inline const Shown Shown::Millimetres{};
inline const Shown Shown::Inches{LengthStyle::DecimalInches,  MassUnit::Pounds,
                                 TorqueUnit::PoundFeet,       PowerUnit::Horsepower,
                                 TemperatureUnit::Fahrenheit, SpeedUnit::MilesPerHour};

constexpr double mm_per_inch = 25.4;        // exact, international yard and pound agreement 1959
constexpr double km_per_mile = 1.609344;    // exact: 63360 in
constexpr double kg_per_pound = 0.45359237; // exact, the same
constexpr double mm3_per_m3 = 1e9;
constexpr double newton_per_pound_force = kg_per_pound * 9.80665; // standard gravity, CGPM 1901
constexpr double newton_metre_per_pound_foot = newton_per_pound_force * 0.3048;
constexpr double kw_per_horsepower = newton_metre_per_pound_foot * 550 / 1000; // 550 lbf·ft/s
constexpr double kw_per_metric_horsepower = 75 * 9.80665 / 1000;               // 75 kgf·m/s: PS
constexpr double deg_per_rad = 57.29577951308232;

/// Reads what a person wrote: "82", "82mm", "3 1/4 in", "1' 2 3/8\"", "0,5 mm", "10° 30'", "250 lb", "180 lbf·ft",
/// "150 PS", "195 °F",
/// "65 mph". A trailing remark in parentheses (the rounding that lengthText shows) is passed over.
///
/// Sums are added up, but for temperatures: "300+25", "18 1/2 + 3/8 in", "1' - 2 in"; a minus that takes away has a
/// blank on either side. What has no unit there takes that of the next one that has.
///
/// Returns mm, degrees, kg, N·m, kW, °C or km/h. A number without a unit takes the shown unit.
/// Errors: nothing there, an unknown unit, two units that do not go together, an ambiguous comma
/// ("1,234": one and a bit, or a thousand?), a zero under a fraction bar.
Result<double> parse(Dimension dimension, std::string_view text, const Shown& shown = Shown::Millimetres);

/// A fraction without a unit anywhere, "5 1/2": hardly meant in millimetres.
bool bareFraction(std::string_view text);

/// "612.4 mm", "24.110 in", or "24 1/8 in (−0.015)": the nearest fraction, and what the true value is more or less than
/// it, in inches. `decimals` counts for mm, decimal inches get two more (1 mm steps need 1/25 in).
std::string lengthText(double length_mm, const Shown& shown = Shown::Millimetres, int decimals = 1);
/// The same of a length that is asked for at least: where it has to be rounded, it is rounded up, so that what is built
/// to the figure shown is never short of it. Without the remainder.
std::string lengthTextUp(double length_mm, const Shown& shown = Shown::Millimetres, int decimals = 0);
/// The largest length that can be shown and is not above this one: of room that there is, so that who goes by the
/// figure shown never goes too far.
double shownDown_mm(double length_mm, const Shown& shown = Shown::Millimetres, int decimals = 1);
/// Written so, without the remainder.
std::string lengthTextDown(double length_mm, const Shown& shown = Shown::Millimetres, int decimals = 1);
/// The number of lengthText without the unit, for tables with the unit in the heading.
std::string lengthNumber(double length_mm, const Shown& shown = Shown::Millimetres, int decimals = 1);
/// "mm" or "in".
const char* lengthUnit(const Shown& shown);
/// "612 kg" or "1349 lb".
std::string massText(double mass_kg, const Shown& shown = Shown::Millimetres, int decimals = 0);
/// "3.0°".
std::string angleText(double angle_deg, int decimals = 1);
/// "320 N·m" or "236 lbf·ft".
std::string torqueText(double torque_nm, const Shown& shown = Shown::Millimetres, int decimals = 0);
/// "150 kW" or "201 hp".
std::string powerText(double power_kw, const Shown& shown = Shown::Millimetres, int decimals = 0);
/// "90 °C" or "194 °F".
std::string temperatureText(double temperature_c, const Shown& shown = Shown::Millimetres, int decimals = 0);
/// "110 km/h" or "68 mph".
std::string speedText(double speed_kmh, const Shown& shown = Shown::Millimetres, int decimals = 0);
/// The number of speedText without its unit, and the unit: "km/h" or "mph".
double shownSpeed(double speed_kmh, const Shown& shown);
const char* speedUnit(const Shown& shown);
/// Whichever of the above goes with the dimension.
std::string text(Dimension dimension, double value, const Shown& shown, int decimals);

/// A number with a fixed count of decimals, never "-0"; a true minus sign (U+2212) where it is negative.
std::string fixed(double value, int decimals);

} // namespace gabarit::quantity
