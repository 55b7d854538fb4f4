// The core's text as the painter takes it. Internal to the room.
#pragma once

#include <QString>

namespace gabarit::print {

inline QString words(const std::string& text) { return QString::fromStdString(text); }

} // namespace gabarit::print
