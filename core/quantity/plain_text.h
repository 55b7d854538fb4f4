// What text may hold: UTF-8, and nothing that steers a terminal or turns a line about.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace gabarit::quantity {

/// Where the first byte stands that is not UTF-8 (RFC 3629: no overlong forms, no surrogates); nothing when all is.
std::optional<std::size_t> notUtf8At(std::string_view text);
/// The first character that text of ours never holds: a control character other than a line feed or a tab (C0, DEL,
/// C1), or one that turns the direction of a line (U+202A–202E, U+2066–2069). As "U+001B"; nothing when there is none.
std::optional<std::string> controlIn(std::string_view text);
/// The text with each such character, and each byte that is not UTF-8, replaced by U+FFFD: for a terminal or a sheet.
std::string printable(std::string_view text);
/// The text with the line ends of other systems (CR LF) as line feeds.
std::string lines(std::string_view text);
/// The text without such characters: what a person pasted.
std::string withoutControls(std::string_view text);

} // namespace gabarit::quantity
