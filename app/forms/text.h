// Short words for long ones: the core's text in the window, sentences to translate, the axes by name.
#pragma once

#include "quantity/plain_text.h"

#include <QObject>
#include <QString>

#include <string>
#include <utility>
#include <vector>

namespace gabarit::app {

/// Id and words of what can be chosen.
using Choices = std::vector<std::pair<QString, QString>>;

inline QString q(const std::string& text) { return QString::fromStdString(text); }
/// What a person typed or pasted: without blanks around it, on one line, without control characters.
inline std::string typedWords(const QString& text) {
    return quantity::withoutControls(text.trimmed().replace(QLatin1Char('\n'), QLatin1Char(' ')).toStdString());
}
/// For functions that are no QObject's.
inline QString tr(const char* text) { return QObject::tr(text); }

constexpr const char* axis_names[] = {"x", "y", "z"};

} // namespace gabarit::app
