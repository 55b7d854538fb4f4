#include "quantity/reading_line.h"

#include "quantity/number.h"
#include "quantity/quantity.h"

#include <cmath>
#include <vector>

namespace gabarit::quantity {

Result<std::optional<InstrumentReading>> parseReadingLine(std::string_view line) {
    constexpr std::size_t longest = 200; // no reading is longer: something else is on the line
    const Error wrong{"the instrument said \"" + std::string(line.substr(0, 40)) + "\", which is no reading", "",
                      "lines like \"angle 3.42 deg\" or \"length 14.26 mm\" are read; see docs/instruments.md"};
    if (line.size() > longest) return wrong;
    std::vector<std::string> parts;
    bool inside = false;
    for (const char c : line) {
        if (!isSpace(c) && !inside) parts.emplace_back();
        inside = !isSpace(c);
        if (inside) parts.back() += c;
    }
    if (parts.empty() || parts[0][0] == '#') return std::optional<InstrumentReading>();
    if (parts.size() != 3) return wrong;
    InstrumentReading reading;
    const std::string& unit = parts[2];
    double factor = 1;
    if (parts[0] == "angle" && unit == "deg")
        reading.kind = ReadingKind::Angle;
    else if (parts[0] == "length" && (unit == "mm" || unit == "in"))
        reading.kind = ReadingKind::Length, factor = unit == "in" ? mm_per_inch : 1;
    else
        return wrong;
    if (parts[1] == "-") return std::optional<InstrumentReading>();
    for (const char c : parts[1])
        if (!(isDigit(c) || c == '.' || c == '-' || c == '+')) return wrong;
    const auto value = numberFrom(parts[1]);
    constexpr double largest = 1e5;
    if (!value || std::abs(*value * factor) > largest) return wrong;
    reading.value = *value * factor;
    return std::optional(reading);
}

std::string readingLine(const InstrumentReading& reading) {
    const std::string value = fixedNumber(reading.value == 0 ? 0.0 : reading.value, 2);
    return reading.kind == ReadingKind::Angle ? "angle " + value + " deg" : "length " + value + " mm";
}

} // namespace gabarit::quantity
