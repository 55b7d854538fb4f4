#include "quantity/reading_line.h"

#include "quantity/quantity.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <sstream>
#include <vector>

namespace gabarit::quantity {

Result<std::optional<InstrumentReading>> parseReadingLine(std::string_view line) {
    constexpr std::size_t longest = 200; // no reading is longer: something else is on the line
    const Error wrong{"the instrument said \"" + std::string(line.substr(0, 40)) + "\", which is no reading", "",
                      "lines like \"angle 3.42 deg\" or \"length 14.26 mm\" are read; see docs/instruments.md"};
    if (line.size() > longest) return wrong;
    std::istringstream words{std::string(line)};
    std::vector<std::string> parts;
    for (std::string word; words >> word;) parts.push_back(word);
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
        if (!((c >= '0' && c <= '9') || c == '.' || c == '-' || c == '+')) return wrong;
    char* end = nullptr;
    reading.value = std::strtod(parts[1].c_str(), &end) * factor;
    constexpr double largest = 1e5;
    if (end == parts[1].c_str() || *end != 0 || !std::isfinite(reading.value) || std::abs(reading.value) > largest)
        return wrong;
    return std::optional(reading);
}

std::string readingLine(const InstrumentReading& reading) {
    char text[64];
    std::snprintf(text, sizeof text, reading.kind == ReadingKind::Angle ? "angle %.2f deg" : "length %.2f mm",
                  reading.value == 0 ? 0.0 : reading.value);
    return text;
}

} // namespace gabarit::quantity
