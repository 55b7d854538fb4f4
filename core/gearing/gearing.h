// Road speed, revs and pull by gear; what final drive would give what is wanted; what the speedometer shows.
#pragma once

#include "model/project.h"
#include "model/verdict.h"
#include "quantity/tyre.h"

#include <optional>
#include <string>
#include <vector>

namespace gabarit::gearing {

struct GearReport {
    std::string name;
    double ratio = 1;
    bool low_range = false;
    bool reverse = false;
    std::optional<double> kmh_per_1000; ///< road speed for a thousand revs
    std::optional<double> top_kmh;      ///< at the engine's highest speed
    std::optional<double> cruise_rpm;   ///< at the wanted cruise speed
    std::optional<double> force_n;      ///< at the tyre, at the most torque, losses taken off
    std::optional<double> force_n_per_kg;
    std::optional<double> after_shift_rpm; ///< when changed up into it at the highest speed
};

struct GearingReport {
    std::vector<std::string> missing; ///< what is not given, and what waits for it
    std::optional<quantity::Tyre> tyre;
    std::optional<double> rolling_mm;  ///< circumference
    std::optional<double> revs_per_km; ///< of the wheel
    double loss = 0;
    std::string loss_source;
    std::vector<GearReport> gears; ///< high range, then low
    std::optional<double> mass_kg;
    std::string mass_source;
    std::optional<double> most_torque_nm;
    std::optional<double> cruise_rpm;       ///< in the longest gear
    std::optional<double> drive_for_cruise; ///< final drive that gives the wanted revs at cruise
    /// The donor's original vehicle: revs for a km of road in the longest gear, and pull for each kg, there and here.
    std::optional<double> original_cruise_rpm;
    std::optional<double> original_force_n_per_kg;
    std::optional<double> drive_for_original_cruise;
    std::optional<double> drive_for_original_force;
    /// True speed when the speedometer shows 100, and what it is off by.
    std::optional<double> speedo_true_kmh;
    std::optional<double> speedo_error; ///< shown / true − 1
    std::string speedo_rule;
    model::Verdict speedo_verdict = model::Verdict::Unknown; ///< only when asked
    bool speedo_asked = false;
    model::Verdict verdict = model::Verdict::Go; ///< unknown when what it needs is missing
};

/// Nothing when the project has no gearing. Rolling circumference is the tyre's overall diameter times the book's
/// factor (ETRTO: 3.05 for radial, 2.99 for cross-ply tyres). Force = torque · gear · transfer · final drive ·
/// (1 − loss) · 2π / circumference.
std::optional<GearingReport> gearing(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::gearing
