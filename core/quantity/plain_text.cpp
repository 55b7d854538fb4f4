#include "quantity/plain_text.h"

#include <array>
#include <cstdint>

namespace gabarit::quantity {
namespace {

struct Character {
    std::uint32_t code = 0;
    std::size_t length = 0; ///< in bytes; 0: not UTF-8
};

Character characterAt(std::string_view text, std::size_t at) {
    const auto byte = [&text](std::size_t i) { return static_cast<unsigned char>(text[i]); };
    const unsigned char first = byte(at);
    if (first < 0x80) return {first, 1};
    const std::size_t length = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : 2;
    if (first < 0xC2 || first > 0xF4 || at + length > text.size()) return {};
    std::uint32_t code = first & (0xFFU >> (length + 1));
    for (std::size_t i = 1; i < length; ++i) {
        if ((byte(at + i) & 0xC0U) != 0x80) return {};
        code = code << 6U | (byte(at + i) & 0x3FU);
    }
    constexpr std::array<std::uint32_t, 5> least{0, 0, 0x80, 0x800, 0x10000}; // by length: shorter forms are others
    if (code < least[length] || code > 0x10FFFF || (code >= 0xD800 && code <= 0xDFFF)) return {};
    return {code, length};
}

bool steers(std::uint32_t code) {
    return (code < 0x20 && code != '\n' && code != '\t') || (code >= 0x7F && code < 0xA0) ||
           (code >= 0x202A && code <= 0x202E) || (code >= 0x2066 && code <= 0x2069);
}

std::string without(std::string_view text, std::string_view instead) {
    std::string out;
    out.reserve(text.size());
    for (std::size_t at = 0; at < text.size();) {
        const Character c = characterAt(text, at);
        if (c.length == 0 || steers(c.code))
            out += instead;
        else
            out += text.substr(at, c.length);
        at += c.length == 0 ? 1 : c.length;
    }
    return out;
}

} // namespace

std::optional<std::size_t> notUtf8At(std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
        const Character c = characterAt(text, at);
        if (c.length == 0) return at;
        at += c.length;
    }
    return std::nullopt;
}

std::optional<std::string> controlIn(std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
        const Character c = characterAt(text, at);
        if (c.length > 0 && steers(c.code)) {
            std::string out = "U+0000";
            for (std::uint32_t rest = c.code, digit = 0; digit < 4; ++digit, rest >>= 4U)
                out[out.size() - 1 - digit] = "0123456789ABCDEF"[rest & 0xFU];
            return out;
        }
        at += c.length == 0 ? 1 : c.length;
    }
    return std::nullopt;
}

std::string lines(std::string_view text) {
    std::string out;
    out.reserve(text.size());
    for (std::size_t i = 0; i < text.size(); ++i)
        if (text[i] != '\r' || i + 1 == text.size() || text[i + 1] != '\n') out += text[i];
    return out;
}
std::string printable(std::string_view text) { return without(text, "\uFFFD"); }
std::string withoutControls(std::string_view text) { return without(text, ""); }

} // namespace gabarit::quantity
