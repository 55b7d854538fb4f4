#include "quantity/tyre.h"

#include "quantity/number.h"
#include "quantity/quantity.h"

#include <optional>
#include <string>

namespace gabarit::quantity {
namespace {

/// Millimetres without an aspect ratio ("165R13", "195R14C"): the section is as high as that share of its width. Design
/// diameters of the ETRTO Standards Manual, 596 mm and 666 mm for those two, lie within 0.5 % of it.
constexpr double full_profile_share = 0.80;
/// Widths above this are millimetres: no tyre of a road vehicle is so many inches wide.
constexpr double widest_in = 50;

/// Takes what it is asked for from the front of a text.
class SizeReader {
public:
    explicit SizeReader(std::string text) : text_(std::move(text)) {}

    std::optional<double> number() {
        std::size_t end = at_;
        while (end < text_.size() && (isDigit(text_[end]) || text_[end] == '.')) ++end;
        if (end == at_ || end - at_ > 6) return std::nullopt;
        const std::string digits = text_.substr(at_, end - at_);
        if (digits.find('.') != digits.rfind('.') || digits == ".") return std::nullopt;
        at_ = end;
        return numberFrom(digits.front() == '.' ? "0" + digits : digits);
    }
    bool take(char c) {
        if (at_ >= text_.size() || text_[at_] != c) return false;
        ++at_;
        return true;
    }
    /// R, D, B or a dash: how the carcass is built; a letter for the speed may stand before the R ("VR", "ZR"). Nothing
    /// when none of them stands there.
    std::optional<bool> radial() {
        constexpr std::string_view speeds = "STUHVWYZ";
        if (at_ + 1 < text_.size() && text_[at_ + 1] == 'R' && speeds.find(text_[at_]) != std::string_view::npos) ++at_;
        if (take('R')) return true;
        if (take('D') || take('B') || take('-')) return false;
        return std::nullopt;
    }
    /// What may follow a size: "LT", load and speed marks ("109S", "C").
    bool onlyMarksLeft() const {
        for (std::size_t i = at_; i < text_.size(); ++i)
            if (!isLetter(text_[i]) && !isDigit(text_[i]) && text_[i] != '/') return false;
        return true;
    }

private:
    std::string text_;
    std::size_t at_ = 0;
};

} // namespace

Result<Tyre> parseTyre(std::string_view text) {
    const Error unknown{"\"" + std::string(text) + "\" is not a tyre size", "",
                        "write it as on the sidewall: 245/75R16, 31x10.50-15 or 7.50-16"};
    std::string plain;
    for (std::size_t i = 0; i < text.size(); ++i) {
        // A multiplication sign (U+00D7) is an x.
        if (i + 1 < text.size() && text[i] == '\xC3' && text[i + 1] == '\x97') {
            plain += 'X';
            ++i;
            continue;
        }
        if (isSpace(text[i])) continue;
        plain += upper(text[i]);
        if (text[i] == ',') plain.back() = '.';
    }
    for (const char* prefix : {"LT", "P"})
        if (plain.rfind(prefix, 0) == 0) {
            plain.erase(0, std::string(prefix).size());
            break;
        }
    SizeReader reader(plain);
    const auto first = reader.number();
    if (!first) return unknown;
    Tyre tyre;
    double rim_in = 0;
    const auto shortened = [](double value) { // "R16 109S" reads 16109: two digits are the rim, the rest is its load
        while (value >= 100) value = static_cast<double>(static_cast<long>(value / 10));
        return value;
    };
    if (reader.take('/')) {
        const auto aspect = reader.number();
        const auto radial = reader.radial();
        const auto size = reader.number();
        if (!aspect || !radial || !size || !reader.onlyMarksLeft()) return unknown;
        rim_in = shortened(*size);
        tyre.radial = *radial;
        tyre.width_mm = *first;
        tyre.diameter_mm = rim_in * mm_per_inch + 2 * *first * *aspect / 100;
        if (*aspect < 20 || *aspect > 100) return unknown;
    } else if (reader.take('X')) {
        const auto width = reader.number();
        const auto radial = reader.radial();
        const auto size = reader.number();
        if (!width || !radial || !size || !reader.onlyMarksLeft()) return unknown;
        rim_in = shortened(*size);
        tyre.radial = *radial;
        tyre.width_mm = *width * mm_per_inch;
        tyre.diameter_mm = *first * mm_per_inch;
    } else {
        const auto radial = reader.radial();
        const auto size = reader.number();
        if (!radial || !size || !reader.onlyMarksLeft()) return unknown;
        rim_in = shortened(*size);
        tyre.radial = *radial;
        const bool metric = *first > widest_in;
        tyre.width_mm = metric ? *first : *first * mm_per_inch;
        tyre.diameter_mm = rim_in * mm_per_inch + 2 * tyre.width_mm * (metric ? full_profile_share : 1);
    }
    tyre.rim_mm = rim_in * mm_per_inch;
    const bool possible = rim_in >= 4 && rim_in <= 60 && tyre.width_mm >= 40 && tyre.width_mm <= 1000 &&
                          tyre.diameter_mm > tyre.rim_mm && tyre.diameter_mm <= 3000;
    return possible ? Result<Tyre>(tyre) : Result<Tyre>(unknown);
}

} // namespace gabarit::quantity
