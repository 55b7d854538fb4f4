// What reports as JSON are made of. Internal to the program.
#pragma once

#include "mounts/tune.h"
#include "study/relief_ways.h"

#include <nlohmann/json.hpp>

#include <cmath>

namespace gabarit::cli {

using Json = nlohmann::ordered_json;

inline double tidy(double v) {
    constexpr double grain = 1e6; // a millionth of a millimetre: far below any accuracy
    return std::round(v * grain) / grain + 0.0;
}
inline Json number(const std::optional<double>& v) { return v ? Json(tidy(*v)) : Json(nullptr); }
inline Json point(const Eigen::Vector3d& v) { return Json::array({tidy(v.x()), tidy(v.y()), tidy(v.z())}); }

/// What every report begins with.
inline Json head(const char* report, const study::Reports& reports, const std::string& file) {
    Json json;
    json["format"] = "gabarit-report";
    json["version"] = 1;
    json["report"] = report;
    json["file"] = file;
    json["project"] = reports.project->name;
    const model::Placement* placement = model::activePlacement(*reports.project);
    json["placement"] = placement ? Json(placement->id.text) : Json(nullptr);
    return json;
}

Json checksJson(const std::vector<model::Check>& checks);
std::string checksText(const std::vector<model::Check>& checks, const quantity::Shown& shown);

Json tuningJson(const model::Project& project, const mounts::Tuning& tuning, const std::string& file);
std::string tuningText(const mounts::Tuning& tuning, const quantity::Shown& shown);

Json waysJson(const study::Reports& reports, const study::ReliefWays& ways, const std::string& file);
std::string waysText(const study::ReliefWays& ways);

/// Of reports that are there.
Json drivelinePart(const study::Reports& reports);
Json gearingPart(const study::Reports& reports);
Json mountsPart(const study::Reports& reports);
Json reliefPart(const study::Reports& reports);

} // namespace gabarit::cli
