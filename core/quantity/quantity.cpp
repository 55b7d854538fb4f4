#include "quantity/quantity.h"

#include <array>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <optional>

namespace gabarit::quantity {
namespace {

struct Unit {
    const char* word;
    double factor; // to mm, degrees or kg
};

constexpr std::array<Unit, 16> length_units{{{"millimetres", 1},
                                             {"millimeters", 1},
                                             {"mm", 1},
                                             {"cm", 10},
                                             {"inches", mm_per_inch},
                                             {"inch", mm_per_inch},
                                             {"in", mm_per_inch},
                                             {"\"", mm_per_inch},
                                             {"″", mm_per_inch},
                                             {"''", mm_per_inch},
                                             {"feet", 12 * mm_per_inch},
                                             {"foot", 12 * mm_per_inch},
                                             {"ft", 12 * mm_per_inch},
                                             {"'", 12 * mm_per_inch},
                                             {"′", 12 * mm_per_inch},
                                             {"m", 1000}}};
constexpr std::array<Unit, 9> angle_units{{{"degrees", 1},
                                           {"degree", 1},
                                           {"deg", 1},
                                           {"°", 1},
                                           {"rad", deg_per_rad},
                                           {"minutes", 1.0 / 60},
                                           {"min", 1.0 / 60},
                                           {"′", 1.0 / 60},
                                           {"'", 1.0 / 60}}};
constexpr std::array<Unit, 6> mass_units{
    {{"kg", 1}, {"g", 0.001}, {"pounds", kg_per_pound}, {"lbs", kg_per_pound}, {"lb", kg_per_pound}, {"t", 1000}}};

bool isDigit(char c) { return c >= '0' && c <= '9'; }

class Reader {
public:
    Reader(Dimension dimension, std::string_view text, Shown shown)
        : dimension_(dimension), rest_(text), shown_(shown) {
        whole_ = std::string(text);
    }

    Result<double> read() {
        skipSpace();
        if (rest_.empty())
            return fail("nothing is written here", "write a number with its unit, as in \"" + sample() + "\"");
        double sign = 1;
        if (take("-") || take("−") || take("–"))
            sign = -1;
        else
            take("+");
        skipSpace();
        if (rest_.empty()) return fail("a sign without a number", "write it as in \"" + sample() + "\"");
        double sum = 0, lastFactor = 0;
        bool bare = false;
        for (int term = 0; !rest_.empty(); ++term, skipSpace()) {
            if (bare) return fail("two numbers stand side by side", "give each its unit, as in \"" + sample() + "\"");
            const auto number = readNumber();
            if (!number) return number;
            skipSpace();
            const auto factor = readUnit();
            if (!factor && !rest_.empty() && isDigit(rest_.front()))
                return fail("two numbers stand side by side", "give each its unit, as in \"" + sample() + "\"");
            if (!factor && !rest_.empty())
                return fail("\"" + std::string(rest_) + "\" is not a unit of " + name(), "use " + unitsHint());
            // "1' 2 3/8": the unit after feet, or minutes after degrees, may be left out only in feet and inches.
            double scale = factor ? *factor : defaultFactor();
            if (!factor) {
                bare = true;
                if (term > 0 && lastFactor == 12 * mm_per_inch)
                    scale = mm_per_inch;
                else if (term > 0)
                    return fail("the last number has no unit", "write the unit after it");
            }
            if (term > 0 && scale >= lastFactor)
                return fail("the units run from small to large", "write the larger unit first, once");
            sum += number.value() * scale;
            lastFactor = scale;
        }
        if (!std::isfinite(sum)) return fail("the number is too large", "check its digits");
        return sign * sum;
    }

private:
    void skipSpace() {
        for (;;) {
            if (!rest_.empty() && (rest_.front() == ' ' || rest_.front() == '\t'))
                rest_.remove_prefix(1);
            else if (rest_.substr(0, 2) == "\u00a0")
                rest_.remove_prefix(2);
            else
                return;
        }
    }
    bool take(std::string_view word) {
        if (rest_.substr(0, word.size()) != word) return false;
        rest_.remove_prefix(word.size());
        return true;
    }
    std::string digits() {
        std::string text;
        while (!rest_.empty() && isDigit(rest_.front())) {
            text += rest_.front();
            rest_.remove_prefix(1);
        }
        return text;
    }
    /// n, n.n, n,n, n/n, n n/n, n-n/n
    Result<double> readNumber() {
        std::string whole = digits();
        if (!rest_.empty() && (rest_.front() == '.' || rest_.front() == ',')) {
            const bool comma = rest_.front() == ',';
            rest_.remove_prefix(1);
            const std::string part = digits();
            if (comma && part.size() == 3 && !whole.empty() && whole != "0")
                return fail("the comma in \"" + whole + "," + part + "\" can be read two ways",
                            "write " + whole + part + " or " + whole + "." + part);
            if (whole.empty() && part.empty()) return fail("no number found", "write it as in \"" + sample() + "\"");
            if (!rest_.empty() && (rest_.front() == '.' || rest_.front() == ','))
                return fail("two decimal marks in one number", "write one, as in \"" + sample() + "\"");
            return std::strtod((whole + "." + part).c_str(), nullptr);
        }
        if (whole.empty())
            return fail("no number at \"" + std::string(rest_) + "\"", "write it as in \"" + sample() + "\"");
        if (take("/")) return fraction(0, whole);
        // A mixed number: look ahead for "3 1/4" or "3-1/4".
        const std::string_view before = rest_;
        skipSpace();
        if (!take("-")) skipSpace();
        const std::string numerator = digits();
        if (!numerator.empty() && take("/")) return fraction(std::strtod(whole.c_str(), nullptr), numerator);
        rest_ = before;
        return std::strtod(whole.c_str(), nullptr);
    }
    Result<double> fraction(double whole, const std::string& numerator) {
        const std::string below = digits();
        const double denominator = below.empty() ? 0 : std::strtod(below.c_str(), nullptr);
        if (denominator == 0) return fail("the fraction has nothing under its bar", "write it as in \"3 1/4 in\"");
        return whole + std::strtod(numerator.c_str(), nullptr) / denominator;
    }
    std::optional<double> readUnit() {
        const auto among = [this](const auto& units) -> std::optional<double> {
            for (const Unit& unit : units) {
                const std::string_view word(unit.word);
                if (rest_.substr(0, word.size()) != word) continue;
                const std::string_view after = rest_.substr(word.size());
                const bool letters = std::isalpha(static_cast<unsigned char>(word.front())) != 0;
                if (letters && !after.empty() && std::isalpha(static_cast<unsigned char>(after.front()))) continue;
                rest_ = after;
                return unit.factor;
            }
            return std::nullopt;
        };
        switch (dimension_) {
        case Dimension::Length: return among(length_units);
        case Dimension::Angle: return among(angle_units);
        case Dimension::Mass: return among(mass_units);
        }
        return std::nullopt;
    }
    double defaultFactor() const {
        if (dimension_ == Dimension::Angle || shown_ == Shown::Millimetres) return 1;
        return dimension_ == Dimension::Length ? mm_per_inch : kg_per_pound;
    }
    std::string name() const {
        return dimension_ == Dimension::Length ? "length" : dimension_ == Dimension::Angle ? "angle" : "mass";
    }
    std::string sample() const {
        return dimension_ == Dimension::Length ? "82 mm" : dimension_ == Dimension::Angle ? "3.5°" : "250 kg";
    }
    std::string unitsHint() const {
        return dimension_ == Dimension::Length  ? "mm, cm, m, in or ft"
               : dimension_ == Dimension::Angle ? "° or deg"
                                                : "kg or lb";
    }
    Error fail(std::string what, std::string mend) const {
        return Error{std::move(what), "\"" + whole_ + "\"", std::move(mend)};
    }

    Dimension dimension_;
    std::string_view rest_;
    std::string whole_;
    Shown shown_;
};

} // namespace

Result<double> parse(Dimension dimension, std::string_view text, Shown shown) {
    return Reader(dimension, text, shown).read();
}

std::string fixed(double value, int decimals) {
    char buffer[64];
    std::snprintf(buffer, sizeof buffer, "%.*f", decimals, std::abs(value));
    const bool zero = std::strtod(buffer, nullptr) == 0;
    return (value < 0 && !zero ? "−" : "") + std::string(buffer);
}

const char* lengthUnit(Shown shown) { return shown == Shown::Millimetres ? "mm" : "in"; }

std::string lengthNumber(double length_mm, Shown shown, int decimals) {
    return shown == Shown::Millimetres ? fixed(length_mm, decimals) : fixed(length_mm / mm_per_inch, decimals + 2);
}

std::string lengthText(double length_mm, Shown shown, int decimals) {
    return lengthNumber(length_mm, shown, decimals) + " " + lengthUnit(shown);
}

std::string massText(double mass_kg, Shown shown, int decimals) {
    return shown == Shown::Millimetres ? fixed(mass_kg, decimals) + " kg"
                                       : fixed(mass_kg / kg_per_pound, decimals) + " lb";
}

std::string angleText(double angle_deg, int decimals) { return fixed(angle_deg, decimals) + "°"; }

} // namespace gabarit::quantity
