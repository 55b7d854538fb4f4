// What an instrument on a serial line says: one reading a line. docs/instruments.md.
#pragma once

#include "quantity/result.h"

#include <optional>
#include <string>
#include <string_view>

namespace gabarit::quantity {

enum class ReadingKind { Angle, Length };

struct InstrumentReading {
    ReadingKind kind = ReadingKind::Angle;
    double value = 0; ///< degrees or mm
};

/// "angle 3.42 deg", "length 14.26 mm", "length 0.561 in". Nothing for a remark ("# …"), an empty line, and a reading
/// the instrument says it has not got ("angle - deg"). Error for a line that is none of these: noise, or another
/// device.
Result<std::optional<InstrumentReading>> parseReadingLine(std::string_view line);

/// The line of a reading, as the stand-in sends it.
std::string readingLine(const InstrumentReading& reading);

} // namespace gabarit::quantity
