#include "describe/visitor.h"

#include "quantity/number.h"

#include <algorithm>
#include <cmath>

namespace gabarit::describe {
namespace {

/// "100000", "0.05": what a person would write.
std::string plain(double value) {
    constexpr int decimals = 6;
    std::string out = quantity::fixedNumber(value, decimals);
    out.erase(out.find_last_not_of('0') + 1);
    if (out.back() == '.') out.pop_back();
    return out;
}

} // namespace

void Visitor::number(const Member& m, int& value) {
    double number = value;
    onNumber(m, number);
    if (number == value) return;
    if (number != std::floor(number) || outOfRange(m, number))
        refuse(m.key, "it is not a whole number from " + plain(m.low.value_or(0)), "number from 1");
    else
        value = static_cast<int>(number);
}

std::string Word::said() const {
    std::string out = said_ ? said_ : file;
    if (!said_) std::replace(out.begin(), out.end(), '_', ' ');
    return out;
}

std::string unitOf(const std::string& key) {
    static const std::pair<const char*, const char*> units[] = {
        {"n_per_mm", "N/mm"}, {"kg_m2", "kg·m²"}, {"kg_m3", "kg/m³"}, {"mpa", "N/mm²"}, {"mm", "mm"}, {"kg", "kg"},
        {"deg", "°"},         {"nm", "N·m"},      {"rpm", "rpm"},     {"kmh", "km/h"},  {"n", "N"}};
    for (const auto& [end, unit] : units) {
        const std::string tail = std::string("_") + end;
        if (key == end || (key.size() > tail.size() && key.compare(key.size() - tail.size(), tail.size(), tail) == 0))
            return unit;
    }
    return {};
}

std::optional<std::string> outOfRange(const Member& m, double value) {
    if (std::isfinite(value) && (!m.low || (m.above ? value > *m.low : value >= *m.low)) &&
        (!m.high || value <= *m.high))
        return std::nullopt;
    const std::string key = m.key;
    if (!std::isfinite(value) || !m.low || !m.high) return key + " is not a number";
    if (*m.high == longest_mm && (*m.low < 0 || std::abs(value) > longest_mm))
        return key + " is not a length below 1 km";
    if (m.above || *m.low == thinnest_mm) {
        if (value <= *m.low) return key + " is not above zero";
    } else if (*m.high == longest_mm) {
        return key + " is below zero";
    }
    const std::string unit = unitOf(key);
    return key + " is not between " + plain(*m.low) + " and " + plain(*m.high) + (unit.empty() ? "" : " " + unit);
}

std::string rangeMend(const Member& m) {
    const std::string unit = unitOf(m.key);
    return unit.empty() ? "check it" : "check its digits and unit (" + unit + ")";
}

} // namespace gabarit::describe
