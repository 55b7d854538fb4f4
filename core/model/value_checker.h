// Ids, places and figures that cannot be, told to whoever asks. Internal to the room.
#pragma once

#include "quantity/number.h"

#include <Eigen/Core>

#include <cmath>
#include <functional>
#include <optional>
#include <set>
#include <string>

namespace gabarit::model {

using Say = std::function<void(std::string where, std::string what, std::string mend)>;

class ValueChecker {
public:
    static constexpr double most_mm = 1e6;
    static constexpr double no_length = 1e-9; ///< a direction shorter than this has none

    explicit ValueChecker(const Say& say) : say_(say) {}

    void id(const std::string& id, const std::string& where) {
        if (id.empty())
            say_(where, "its id is empty", "give it an id");
        else if (id.find('/') != std::string::npos)
            say_(where, "its id \"" + id + "\" holds a slash", "take the slash out");
        else if (!ids_.insert(id).second)
            say_(where, "the id \"" + id + "\" is used twice", "give one of them another id");
    }
    void place(const Eigen::Vector3d& at, const std::string& where) {
        for (int i = 0; i < 3; ++i)
            if (!std::isfinite(at[i]) || std::abs(at[i]) > most_mm)
                return say_(where, "a coordinate is not a length below 1 km", "check its digits and unit (mm)");
    }
    void within(std::optional<double> value, double low, double high, const std::string& where, const char* unit) {
        if (value && !(std::isfinite(*value) && *value >= low && *value <= high))
            say_(where, "it is not between " + text(low) + " and " + text(high) + " " + unit,
                 "check its digits and unit");
    }
    void size(std::optional<double> value, const std::string& where) {
        if (value && !(std::isfinite(*value) && *value > 0 && *value <= most_mm))
            say_(where, "it is not a length above zero", "check its digits and unit (mm), or leave it out");
    }
    void length(std::optional<double> value, const std::string& where) { within(value, 0, most_mm, where, "mm"); }
    void signedLength(std::optional<double> value, const std::string& where) {
        within(value, -most_mm, most_mm, where, "mm");
    }

protected:
    static std::string text(double value) {
        constexpr int decimals = 6;
        std::string out = quantity::fixedNumber(value, decimals);
        out.erase(out.find_last_not_of('0') + 1);
        if (out.back() == '.') out.pop_back();
        return out;
    }
    const Say& say_;

private:
    std::set<std::string> ids_;
};

} // namespace gabarit::model
