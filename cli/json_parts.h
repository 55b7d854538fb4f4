// What reports as JSON are made of. Internal to the program.
#pragma once

#include "discipline/written.h"
#include "study/study.h"

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

/// Of a report that is there.
Json reliefPart(const study::Reports& reports);

} // namespace gabarit::cli
