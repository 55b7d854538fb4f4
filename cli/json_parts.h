// What reports as JSON are made of. Internal to the program.
#pragma once

#include "discipline/written.h"
#include "make/relief_ways.h"
#include "mounts/tune.h"

namespace gabarit::cli {

using discipline::checksJson;
using discipline::checksText;
using discipline::Json;
using discipline::not_asked;
using discipline::number;
using discipline::point;
using discipline::Table;
using discipline::tidy;

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

Json tuningJson(const model::Project& project, const mounts::Tuning& tuning, const std::string& file);
std::string tuningText(const mounts::Tuning& tuning, const quantity::Shown& shown);

Json waysJson(const study::Reports& reports, const make::ReliefWays& ways, const std::string& file);
std::string waysText(const make::ReliefWays& ways);

/// Of a report that is there.
Json reliefPart(const study::Reports& reports);

} // namespace gabarit::cli
