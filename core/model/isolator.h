// A mount's rubber: the rule book lists some, a project has its own.
#pragma once

#include "model/id.h"

#include <optional>
#include <string>

namespace gabarit::model {

/// A mount's rubber, or what stands for it. Rates are along its own axes, stops count from unloaded.
struct Isolator {
    std::string id;
    std::string name;
    std::string material; ///< "rubber", "polyurethane", "solid"
    double axial_n_per_mm = 0;
    double shear_n_per_mm = 0;
    std::optional<double> shear2_n_per_mm; ///< across its second way (shearWays), when it is not the same
    std::optional<double> rating_n;        ///< load at rest along its axis, at most
    std::optional<double> shear_rating_n;  ///< load at rest across it, at most
    std::optional<double> stop_in_mm;      ///< pressed together; not given: nothing stops it
    std::optional<double> stop_out_mm;     ///< pulled apart
    std::optional<double> stop_side_mm;
    bool captive = false;            ///< its halves hold one another when the rubber is torn
    std::optional<double> damping;   ///< share of critical
    std::optional<double> height_mm; ///< between its two faces, unloaded
    std::optional<double> diameter_mm;
    std::optional<double> mass_kg;
    std::optional<double> cost;
    std::string source;
    std::string note;
    Extras extras;
};

} // namespace gabarit::model
