#include "quantity/quantity.h"

#include "quantity/number.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <optional>
#include <vector>

namespace gabarit::quantity {
namespace {

struct Unit {
    const char* word;
    double factor;   // to mm, degrees, kg, N·m, kW, °C or km/h
    double zero = 0; // what the unit's zero is in the stored one
};

// The longer word first where one begins another.
const std::vector<Unit>& unitsOf(Dimension dimension) {
    static const std::vector<Unit> length{{"millimetres", 1},
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
                                          {"m", 1000}};
    static const std::vector<Unit> angle{{"degrees", 1},     {"degree", 1},        {"deg", 1},
                                         {"°", 1},           {"rad", deg_per_rad}, {"minutes", 1.0 / 60},
                                         {"min", 1.0 / 60},  {"′", 1.0 / 60},      {"'", 1.0 / 60},
                                         {"\"", 1.0 / 3600}, {"″", 1.0 / 3600}};
    static const std::vector<Unit> mass{
        {"kg", 1}, {"g", 0.001}, {"pounds", kg_per_pound}, {"lbs", kg_per_pound}, {"lb", kg_per_pound}, {"t", 1000}};
    constexpr double pound_foot = newton_metre_per_pound_foot, pound_inch = newton_metre_per_pound_foot / 12;
    static const std::vector<Unit> torque{{"N·m", 1},
                                          {"N.m", 1},
                                          {"Nm", 1},
                                          {"N m", 1},
                                          {"lbf·ft", pound_foot},
                                          {"lbf ft", pound_foot},
                                          {"lb·ft", pound_foot},
                                          {"lb-ft", pound_foot},
                                          {"lb ft", pound_foot},
                                          {"lbft", pound_foot},
                                          {"ft·lb", pound_foot},
                                          {"ft-lb", pound_foot},
                                          {"ft lb", pound_foot},
                                          {"lbf·in", pound_inch},
                                          {"lbf in", pound_inch},
                                          {"lb·in", pound_inch},
                                          {"lb-in", pound_inch},
                                          {"in-lb", pound_inch},
                                          {"in lb", pound_inch}};
    static const std::vector<Unit> power{
        {"kW", 1}, {"hp", kw_per_horsepower}, {"PS", kw_per_metric_horsepower}, {"W", 0.001}};
    constexpr double fahrenheit = 5.0 / 9;
    static const std::vector<Unit> temperature{{"°C", 1},
                                               {"deg C", 1},
                                               {"C", 1},
                                               {"°F", fahrenheit, -32 * fahrenheit},
                                               {"deg F", fahrenheit, -32 * fahrenheit},
                                               {"F", fahrenheit, -32 * fahrenheit}};
    static const std::vector<Unit> speed{{"km/h", 1},           {"kmh", 1},  {"kph", 1}, {"mph", km_per_mile},
                                         {"mi/h", km_per_mile}, {"m/s", 3.6}};
    switch (dimension) {
    case Dimension::Length: return length;
    case Dimension::Angle: return angle;
    case Dimension::Mass: return mass;
    case Dimension::Torque: return torque;
    case Dimension::Power: return power;
    case Dimension::Speed: return speed;
    case Dimension::Temperature: break;
    }
    return temperature;
}

/// The unit of a bare number.
Unit shownUnit(Dimension dimension, const Shown& shown) {
    switch (dimension) {
    case Dimension::Length: return {"", shown.inches() ? mm_per_inch : 1};
    case Dimension::Mass: return {"", shown.mass == MassUnit::Pounds ? kg_per_pound : 1};
    case Dimension::Torque: return {"", shown.torque == TorqueUnit::PoundFeet ? newton_metre_per_pound_foot : 1};
    case Dimension::Power: return {"", shown.power == PowerUnit::Horsepower ? kw_per_horsepower : 1};
    case Dimension::Speed: return {"", shown.speed == SpeedUnit::MilesPerHour ? km_per_mile : 1};
    case Dimension::Temperature:
        if (shown.temperature == TemperatureUnit::Fahrenheit) return unitsOf(dimension).back();
        return {"", 1};
    case Dimension::Angle: break;
    }
    return {"", 1};
}

struct Words {
    const char* name;
    const char* sample;
    const char* units;
};
Words wordsOf(Dimension dimension) {
    switch (dimension) {
    case Dimension::Length: return {"length", "82 mm", "mm, cm, m, in or ft"};
    case Dimension::Angle: return {"angle", "3.5°", "° or deg"};
    case Dimension::Mass: return {"mass", "250 kg", "kg or lb"};
    case Dimension::Torque: return {"torque", "180 N·m", "N·m, lbf·ft or lbf·in"};
    case Dimension::Power: return {"power", "110 kW", "kW, hp or PS"};
    case Dimension::Speed: return {"speed", "110 km/h", "km/h, mph or m/s"};
    case Dimension::Temperature: break;
    }
    return {"temperature", "90 °C", "°C or °F"};
}

/// True when `text` begins with `word`; the case of letters does not matter.
bool begins(std::string_view text, std::string_view word) {
    return text.size() >= word.size() &&
           std::equal(word.begin(), word.end(), text.begin(), [](char x, char y) { return lower(x) == lower(y); });
}

/// Of digits and a point; endless when they are too many.
double digitsOf(const std::string& text) {
    return numberFrom(text.front() == '.' ? "0" + text : text).value_or(std::numeric_limits<double>::infinity());
}

class Reader {
public:
    Reader(Dimension dimension, std::string_view text, const Shown& shown)
        : dimension_(dimension), rest_(text), shown_(shown), whole_(text) {}

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
        double sum = 0, lastFactor = 0, zero = 0;
        bool bare = false;
        for (int term = 0; !rest_.empty(); ++term, skipSpace()) {
            if (bare) return fail("two numbers stand side by side", "give each its unit, as in \"" + sample() + "\"");
            auto number = readNumber();
            if (!number) return number;
            skipSpace();
            const auto unit = readUnit();
            skipRemark();
            if (!unit && !rest_.empty() && isDigit(rest_.front()))
                return fail("two numbers stand side by side", "give each its unit, as in \"" + sample() + "\"");
            if (!unit && !rest_.empty())
                return fail("\"" + std::string(rest_) + "\" is not a unit of " + wordsOf(dimension_).name,
                            std::string("use ") + wordsOf(dimension_).units);
            // "1' 2 3/8": the unit after feet, or minutes after degrees, may be left out only in feet and inches.
            const Unit taken = unit ? *unit : shownUnit(dimension_, shown_);
            double scale = taken.factor;
            zero = taken.zero;
            if (!unit) {
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
        return sign * sum + zero;
    }

private:
    /// The rounding that lengthText shows in parentheses.
    void skipRemark() {
        skipSpace();
        if (!rest_.empty() && rest_.front() == '(' && rest_.back() == ')') rest_ = {};
    }
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
            return digitsOf(whole + "." + part);
        }
        if (whole.empty())
            return fail("no number at \"" + std::string(rest_) + "\"", "write it as in \"" + sample() + "\"");
        if (take("/")) return fraction(0, whole);
        // A mixed number: look ahead for "3 1/4" or "3-1/4".
        const std::string_view before = rest_;
        skipSpace();
        if (!take("-")) skipSpace();
        const std::string numerator = digits();
        if (!numerator.empty() && take("/")) return fraction(digitsOf(whole), numerator);
        rest_ = before;
        return digitsOf(whole);
    }
    Result<double> fraction(double whole, const std::string& numerator) {
        const std::string below = digits();
        const double denominator = below.empty() ? 0 : digitsOf(below);
        if (denominator == 0) return fail("the fraction has nothing under its bar", "write it as in \"3 1/4 in\"");
        return whole + digitsOf(numerator) / denominator;
    }
    std::optional<Unit> readUnit() {
        for (const Unit& unit : unitsOf(dimension_)) {
            const std::string_view word(unit.word);
            if (!begins(rest_, word)) continue;
            const std::string_view after = rest_.substr(word.size());
            const bool letters = isLetter(word.back());
            if (letters && !after.empty() && isLetter(after.front())) continue;
            rest_ = after;
            return unit;
        }
        return std::nullopt;
    }
    std::string sample() const { return wordsOf(dimension_).sample; }
    Error fail(std::string what, std::string mend) const {
        return Error{std::move(what), "\"" + whole_ + "\"", std::move(mend)};
    }

    Dimension dimension_;
    std::string_view rest_;
    Shown shown_;
    std::string whole_;
};

/// Nearest multiple of 1/parts inch as a mixed number, and what is left.
std::string fraction(double length_in, int parts, bool remark) {
    const long long all = std::llround(std::abs(length_in) * parts);
    const long long whole = all / parts, over = all % parts, shared = std::gcd(over, static_cast<long long>(parts));
    std::string text = length_in < 0 && all > 0 ? "−" : "";
    if (whole > 0 || over == 0) text += std::to_string(whole);
    if (over > 0) text += (whole > 0 ? " " : "") + std::to_string(over / shared) + "/" + std::to_string(parts / shared);
    const double left_in = length_in - (length_in < 0 ? -1 : 1) * static_cast<double>(all) / parts;
    constexpr double worth_saying_in = 0.0005;
    text += " in";
    if (remark && std::abs(left_in) >= worth_saying_in)
        text += " (" + std::string(left_in > 0 ? "+" : "") + fixed(left_in, 3) + ")";
    return text;
}

struct Term {
    bool minus = false; ///< it is taken away
    std::string text;
};

/// What stands between plus signs, or minus signs with blanks on both sides: "18-1/2" is one and a half, not a sum.
/// A sign at the front belongs to the number; what stands in parentheses is a remark.
std::vector<Term> termsOf(std::string_view text) {
    std::vector<Term> out(1);
    int remark = 0;
    bool number = false; // of this term there is one
    const auto blank = [&](std::size_t i) { return i < text.size() && text[i] == ' '; };
    for (std::size_t i = 0; i < text.size(); ++i) {
        remark += (text[i] == '(') - (text[i] == ')');
        std::size_t sign = 0; // its length
        bool minus = false;
        if (remark == 0 && number && text[i] == '+') sign = 1;
        for (const std::string_view word : {std::string_view("-"), std::string_view("\u2212")})
            if (remark == 0 && number && i > 0 && blank(i - 1) && text.substr(i, word.size()) == word &&
                blank(i + word.size()))
                sign = word.size(), minus = true;
        if (sign > 0) {
            out.push_back({minus, {}});
            number = false;
            i += sign - 1;
            continue;
        }
        number = number || isDigit(text[i]);
        out.back().text += text[i];
    }
    for (Term& term : out) term.text.erase(term.text.find_last_not_of(' ') + 1);
    return out;
}

/// What stands behind the last digit of a term: its unit; empty when it has none.
std::string unitIn(std::string term) {
    term = term.substr(0, term.find('(')); // without a remark
    const auto digit = std::find_if(term.rbegin(), term.rend(), [](char c) { return isDigit(c); });
    std::string out(digit.base(), term.end());
    out.erase(std::remove(out.begin(), out.end(), ' '), out.end());
    return out == "." || out == "," ? std::string() : out;
}

} // namespace

bool bareFraction(std::string_view text) {
    if (text.find('/') == std::string_view::npos) return false;
    const std::vector<Term> terms = termsOf(text);
    return std::all_of(terms.begin(), terms.end(), [](const Term& t) { return unitIn(t.text).empty(); });
}

Result<double> parse(Dimension dimension, std::string_view text, const Shown& shown) {
    const std::vector<Term> terms = termsOf(text);
    if (terms.size() == 1 || dimension == Dimension::Temperature) return Reader(dimension, text, shown).read();
    double sum = 0;
    // A term without a unit has that of the next one that has: "300 + 25 mm".
    std::string unit;
    const bool some = std::any_of(terms.begin(), terms.end(), [](const Term& t) { return !unitIn(t.text).empty(); });
    for (auto term = terms.rbegin(); term != terms.rend(); ++term) {
        const std::string own = unitIn(term->text);
        if (own.empty() && some && unit.empty())
            return Error{"the last of the sum has no unit, and others have", "\"" + std::string(text) + "\"",
                         "write the unit behind the last one, or behind each"};
        if (!own.empty()) unit = own;
        const auto value = Reader(dimension, own.empty() ? term->text + unit : term->text, shown).read();
        if (!value) return Error{value.error().what, "\"" + std::string(text) + "\"", value.error().mend};
        sum += (term->minus ? -1 : 1) * value.value();
    }
    return sum;
}

std::string fixed(double value, int decimals) {
    const std::string digits = fixedNumber(std::abs(value), decimals);
    const bool zero = digits.find_first_not_of("0.") == std::string::npos;
    return (value < 0 && !zero ? "−" : "") + digits;
}

const char* lengthUnit(const Shown& shown) { return shown.inches() ? "in" : "mm"; }

std::string lengthText(double length_mm, const Shown& shown, int decimals) {
    switch (shown.length) {
    case LengthStyle::Millimetres: return fixed(length_mm, decimals) + " mm";
    case LengthStyle::DecimalInches: return fixed(length_mm / mm_per_inch, decimals + 2) + " in";
    case LengthStyle::Sixteenths: return fraction(length_mm / mm_per_inch, 16, decimals > 0);
    case LengthStyle::ThirtySeconds: break;
    }
    return fraction(length_mm / mm_per_inch, 32, decimals > 0);
}

namespace {
constexpr double noise = 1e-9; // of a figure that is already whole

/// The smallest step that is shown.
double grain_mm(const Shown& shown, int decimals) {
    switch (shown.length) {
    case LengthStyle::Millimetres: return std::pow(10.0, -decimals);
    case LengthStyle::DecimalInches: return mm_per_inch * std::pow(10.0, -decimals - 2);
    case LengthStyle::Sixteenths: return mm_per_inch / 16;
    case LengthStyle::ThirtySeconds: break;
    }
    return mm_per_inch / 32;
}

std::string withoutRemainder(double length_mm, const Shown& shown, int decimals) {
    const bool fractions = shown.inches() && shown.length != LengthStyle::DecimalInches;
    return lengthText(length_mm, shown, fractions ? 0 : decimals);
}
} // namespace

std::string lengthTextUp(double length_mm, const Shown& shown, int decimals) {
    const double grain = grain_mm(shown, decimals);
    return withoutRemainder(std::ceil(length_mm / grain - noise) * grain, shown, decimals);
}

double shownDown_mm(double length_mm, const Shown& shown, int decimals) {
    const double grain = grain_mm(shown, decimals);
    return std::floor(length_mm / grain + noise) * grain;
}

std::string lengthTextDown(double length_mm, const Shown& shown, int decimals) {
    return withoutRemainder(shownDown_mm(length_mm, shown, decimals), shown, decimals);
}

std::string lengthNumber(double length_mm, const Shown& shown, int decimals) {
    std::string text = lengthText(length_mm, shown, decimals);
    const std::string unit = std::string(" ") + lengthUnit(shown);
    return text.erase(text.find(unit), unit.size());
}

std::string massText(double mass_kg, const Shown& shown, int decimals) {
    return shown.mass == MassUnit::Pounds ? fixed(mass_kg / kg_per_pound, decimals) + " lb"
                                          : fixed(mass_kg, decimals) + " kg";
}

std::string angleText(double angle_deg, int decimals) { return fixed(angle_deg, decimals) + "°"; }

std::string torqueText(double torque_nm, const Shown& shown, int decimals) {
    return shown.torque == TorqueUnit::PoundFeet ? fixed(torque_nm / newton_metre_per_pound_foot, decimals) + " lbf·ft"
                                                 : fixed(torque_nm, decimals) + " N·m";
}

std::string powerText(double power_kw, const Shown& shown, int decimals) {
    return shown.power == PowerUnit::Horsepower ? fixed(power_kw / kw_per_horsepower, decimals) + " hp"
                                                : fixed(power_kw, decimals) + " kW";
}

std::string temperatureText(double temperature_c, const Shown& shown, int decimals) {
    return shown.temperature == TemperatureUnit::Fahrenheit ? fixed(temperature_c * 9 / 5 + 32, decimals) + " °F"
                                                            : fixed(temperature_c, decimals) + " °C";
}

double shownSpeed(double speed_kmh, const Shown& shown) {
    return shown.speed == SpeedUnit::MilesPerHour ? speed_kmh / km_per_mile : speed_kmh;
}
const char* speedUnit(const Shown& shown) { return shown.speed == SpeedUnit::MilesPerHour ? "mph" : "km/h"; }
std::string speedText(double speed_kmh, const Shown& shown, int decimals) {
    return fixed(shownSpeed(speed_kmh, shown), decimals) + ' ' + speedUnit(shown);
}

std::string text(Dimension dimension, double value, const Shown& shown, int decimals) {
    switch (dimension) {
    case Dimension::Length: return lengthText(value, shown, decimals);
    case Dimension::Angle: return angleText(value, decimals);
    case Dimension::Mass: return massText(value, shown, decimals);
    case Dimension::Torque: return torqueText(value, shown, decimals);
    case Dimension::Power: return powerText(value, shown, decimals);
    case Dimension::Speed: return speedText(value, shown, decimals);
    case Dimension::Temperature: break;
    }
    return temperatureText(value, shown, decimals);
}

} // namespace gabarit::quantity
