// What reports on the command line are made of: JSON (docs/reports.md), and tables for a terminal.
#pragma once

#include "discipline/discipline.h"
#include "discipline/table.h"

#include <nlohmann/json.hpp>

#include <cmath>

namespace gabarit::discipline {

using Json = nlohmann::ordered_json;

inline double tidy(double v) {
    constexpr double grain = 1e6; // a millionth of a millimetre: far below any accuracy
    return std::round(v * grain) / grain + 0.0;
}
inline Json number(const std::optional<double>& v) { return v ? Json(tidy(*v)) : Json(nullptr); }
inline Json point(const Eigen::Vector3d& v) { return Json::array({tidy(v.x()), tidy(v.y()), tidy(v.z())}); }

/// Checks of any discipline, as JSON and as a table.
Json checksJson(const std::vector<model::Check>& checks);
std::string checksText(const std::vector<model::Check>& checks, const quantity::Shown& shown);

} // namespace gabarit::discipline
