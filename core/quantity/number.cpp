#include "quantity/number.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace gabarit::quantity {
namespace {

constexpr std::size_t longest = 400; // a double has at most 309 digits before its point

template <class... How>
std::string written(double value, How... how) {
    std::array<char, longest> text{};
    const auto done = std::to_chars(text.data(), text.data() + text.size(), value, how...);
    return {text.data(), done.ptr};
}

} // namespace

std::optional<double> numberFrom(std::string_view text) {
    if (!text.empty() && text.front() == '+') {
        text.remove_prefix(1);
        if (!text.empty() && text.front() == '-') return std::nullopt;
    }
    double value = 0;
    const char* end = text.data() + text.size();
    const auto done = std::from_chars(text.data(), end, value);
    if (text.empty() || done.ec != std::errc() || done.ptr != end || !std::isfinite(value)) return std::nullopt;
    return value;
}

Result<double> typedNumber(std::string_view given) {
    std::string text(given);
    for (const std::string_view minus : {"−", "–"})
        if (const auto at = text.find(minus); at != std::string::npos) text.replace(at, minus.size(), "-");
    while (!text.empty() && isSpace(text.front())) text.erase(0, 1);
    while (!text.empty() && isSpace(text.back())) text.pop_back();
    const Error none{"\"" + std::string(given) + "\" is not a number", "", "write it like 120 or 120.50"};
    const auto comma = text.find(',');
    if (comma != std::string::npos) {
        if (text.find_first_of(",.", comma + 1) != std::string::npos || text.find('.') < comma)
            return Error{"two decimal marks stand in \"" + std::string(given) + "\"", "", "write one, as in 120.50"};
        const std::string whole = text.substr(0, comma), part = text.substr(comma + 1);
        const bool led = std::any_of(whole.begin(), whole.end(), [](char c) { return c >= '1' && c <= '9'; });
        if (led && part.size() == 3 && std::all_of(part.begin(), part.end(), isDigit))
            return Error{"the comma in \"" + std::string(given) + "\" can be read two ways", "",
                         "write " + whole + part + " or " + whole + "." + part};
        text[comma] = '.';
    }
    const auto value = numberFrom(text);
    return value ? Result<double>(*value) : none;
}

Result<double> typedMoney(std::string_view given) {
    std::string text(given);
    const auto cut = [&text](std::string_view what) {
        for (auto at = text.find(what); at != std::string::npos; at = text.find(what)) text.erase(at, what.size());
    };
    for (const std::string_view mark : {"€", "$", "£", "EUR", "USD", "GBP", "CHF"}) cut(mark);
    for (const std::string_view blank : {"\u00A0", "\u202F", "\u2009", "'", "’"}) cut(blank);
    // Blanks between digits group; others go with the number's ends.
    for (std::size_t i = 1; i + 1 < text.size(); ++i)
        if (text[i] == ' ' && isDigit(text[i - 1]) && isDigit(text[i + 1])) text.erase(i--, 1);
    // The last mark is the decimal one, unless three digits stand behind it.
    const auto last = text.find_last_of(",.");
    if (last != std::string::npos) {
        std::size_t digits = 0;
        while (last + 1 + digits < text.size() && isDigit(text[last + 1 + digits])) ++digits;
        std::string out;
        std::size_t run = 0; // digits since the last mark
        bool grouped = true, marked = false;
        for (std::size_t i = 0; i < text.size(); ++i) {
            const bool mark = text[i] == ',' || text[i] == '.';
            if (!mark) {
                out += text[i];
                run += isDigit(text[i]);
                continue;
            }
            grouped = grouped && run > 0 && (marked ? run == 3 : run <= 3);
            marked = true;
            run = 0;
            if (i == last && digits != 3) out += '.';
        }
        const bool one = text.find_first_of(",.") == last;
        // One mark is a decimal one or groups; where there are more, all but a decimal one have to group in threes.
        if (one ? digits == 3 && grouped : grouped) text = out;
    }
    return typedNumber(text);
}

std::string fixedNumber(double value, int decimals) { return written(value, std::chars_format::fixed, decimals); }
std::string briefNumber(double value, int digits) { return written(value, std::chars_format::general, digits); }
std::string exactNumber(double value) { return written(value); }

} // namespace gabarit::quantity
