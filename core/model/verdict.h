// Go, close, no-go, unknown: how every figure is judged.
#pragma once

#include <optional>

namespace gabarit::model {

/// In the order of how much they hold up a build.
enum class Verdict { Go, Unknown, Close, NoGo };

/// "go", "unknown", "close", "no-go".
const char* word(Verdict verdict);

/// Margin below zero is no-go; above it but below the accuracy of the measurements behind it is
/// close; no accuracy known, or one of 0, is unknown; else go. `margin` and `accuracy` in one unit.
Verdict judge(double margin, std::optional<double> accuracy);

/// A figure that says something: an accuracy, a torque or a speed of 0 is as good as none.
inline std::optional<double> told(std::optional<double> figure) {
    return figure && *figure > 0 ? figure : std::nullopt;
}

/// The one that holds up more.
inline Verdict worse(Verdict a, Verdict b) { return a < b ? b : a; }

} // namespace gabarit::model
