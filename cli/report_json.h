// Reports as JSON, documented in docs/reports.md. Always in mm, kg and degrees: units stand in the keys.
#pragma once

#include "study/study.h"

#include <nlohmann/json_fwd.hpp>

#include <string>

namespace gabarit::cli {

/// What `check --json` prints, and its text.
nlohmann::ordered_json checkTree(const study::Reports& reports, const std::string& file);
std::string checkJson(const study::Reports& reports, const std::string& file);
/// Of one discipline that prints by itself.
std::string printedJson(const study::Reports& reports, const std::string& discipline,
                        const discipline::Printed& printed, const std::string& file);
std::string clearanceJson(const study::Reports& reports, const std::string& file);
std::string fitJson(const study::Reports& reports, const std::string& file);
std::string surveyJson(const study::Reports& reports, const std::string& file);
std::string reliefJson(const study::Reports& reports, const std::string& file);

} // namespace gabarit::cli
