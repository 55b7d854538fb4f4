// One figure of a discipline held against its limit.
#pragma once

#include "model/rules.h"
#include "model/verdict.h"
#include "quantity/once.h"
#include "quantity/quantity.h"

#include <Eigen/Core>

#include <functional>
#include <optional>
#include <string>

namespace gabarit::model {

enum class Unit { Degrees, Millimetres, RadPerS2, Rpm, Share, Kilograms, Hertz, Newtons, NewtonMetres, Count, Factor };

/// What is said in the units that are shown.
using Sentence = std::function<std::string(const quantity::Shown&)>;

struct Check {
    std::string id;   ///< "rear/joint-1/running"
    std::string what; ///< "Front joint at ride height"
    Unit unit = Unit::Degrees;
    std::optional<double> value;
    std::optional<double> good_least, good_most; ///< go between them
    std::optional<double> least, most;           ///< no-go outside of them; without: as the good ones
    std::optional<double> accuracy;              ///< of the value
    bool soft = false;                           ///< outside of the good ones it is close, never no-go
    Verdict verdict = Verdict::Unknown;
    std::string rule;   ///< what it is held against, with its source
    std::string at;     ///< where in the travel: "full bump, nose up 2.0°"; empty at ride height
    std::string reason; ///< why it is unknown, or what to mind

    // What a finding that is made of it says besides.
    std::string of;      ///< leads its title where the figure alone does not tell what it is of; may be empty
    std::string caution; ///< what can hurt someone there; may be empty
    Sentence help;       ///< what would help; may be none
    Sentence label;      ///< a few words for the callout at its place; may be none
    std::optional<Eigen::Vector3d> place_vehicle_mm;

    GABARIT_ONCE_DECLARED(Check);
};

/// Fills in the verdict: unknown without a value, no-go outside the outer limits, close outside the good ones or when
/// what is left to the outer limit is less than the accuracy.
void judge(Check& check);

/// "text: source" of a figure.
std::string ruleOf(const RuleBook& book, const std::string& figure);

} // namespace gabarit::model
