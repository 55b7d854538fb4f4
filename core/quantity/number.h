// Numbers as text, the same under every locale: the C library's own functions read and write them as the locale says.
#pragma once

#include "quantity/result.h"

#include <optional>
#include <string>
#include <string_view>

namespace gabarit::quantity {

/// The number that the whole text is, with a point ("-12.5", "+3", "1e-3"); nothing when it is none, or not finite.
std::optional<double> numberFrom(std::string_view text);
/// What a person typed without a unit: point or comma, blanks around it, any of the minus signs. Errors: no number,
/// two decimal marks, an ambiguous comma ("1,234": one and a bit, or a thousand?).
Result<double> typedNumber(std::string_view text);
/// A sum of money as people write it: "12,50 €", "$1,234.50", "1.234,50", "1 250". A mark in front of three last digits
/// groups thousands, since money has no third decimal. Errors as of typedNumber.
Result<double> typedMoney(std::string_view text);
/// With so many decimals: "-12.50".
std::string fixedNumber(double value, int decimals);
/// With at most so many significant digits, no trailing zeros: "12.5", "1e-07".
std::string briefNumber(double value, int digits);
/// The fewest digits that read back to the same number: for keys.
std::string exactNumber(double value);

// Letters of ASCII: those of the locale are no business of ids, units and file names.
constexpr bool isDigit(char c) { return c >= '0' && c <= '9'; }
constexpr bool isUpper(char c) { return c >= 'A' && c <= 'Z'; }
constexpr bool isLower(char c) { return c >= 'a' && c <= 'z'; }
constexpr bool isLetter(char c) { return isUpper(c) || isLower(c); }
constexpr bool isSpace(char c) { return c == ' ' || (c >= '\t' && c <= '\r'); }
constexpr char lower(char c) { return isUpper(c) ? static_cast<char>(c - 'A' + 'a') : c; }
constexpr char upper(char c) { return isLower(c) ? static_cast<char>(c - 'a' + 'A') : c; }

} // namespace gabarit::quantity
