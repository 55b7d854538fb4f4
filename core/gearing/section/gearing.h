// The section "gearing": how the unit is geared to the wheels, and what it gives.
#pragma once

#include "model/project.h"

namespace gabarit::model {

struct Gear {
    std::string name; ///< "1", "reverse"
    double ratio = 1;
    bool reverse = false;
    Extras extras;
};
struct TorquePoint {
    double rpm = 0;
    double torque_nm = 0;
    Extras extras;
};
/// What the donor came out of, as a yardstick.
struct OriginalVehicle {
    std::string name;
    std::optional<double> mass_kg;
    std::string tyre;
    std::optional<double> final_drive;
    Extras extras;
};
struct Gearing {
    std::string donor; ///< whose it is; empty: of whichever hangs, while the project has one donor
    std::vector<Gear> gears;
    double transfer_high = 1;
    std::optional<double> transfer_low;
    std::optional<double> final_drive;
    std::string tyre;
    std::optional<double> max_rpm;
    std::optional<double> mass_kg; ///< of the vehicle; without it the sum of its axle loads
    std::vector<TorquePoint> torque;
    std::optional<double> loss; ///< crank to wheel, 0 to 1; without it the book's
    std::optional<double> cruise_kmh;
    std::optional<double> wanted_cruise_rpm; ///< in the longest gear at cruise
    std::optional<OriginalVehicle> original;
    /// What the speedometer's drive was made for; without them it is not asked.
    std::string speedo_tyre;
    std::optional<double> speedo_final_drive; ///< 1 when it is driven behind the final drive
    Extras extras;
};

/// The gearing of the donor that hangs; null when there is none, or it is another's.
const Gearing* gearingOf(const Project& project);

void describe(describe::Visitor& v, Gearing& gearing);

} // namespace gabarit::model

namespace gabarit::gearing {

model::SectionKind section();

} // namespace gabarit::gearing
