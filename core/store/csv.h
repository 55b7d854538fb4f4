// Parts and loads as tables for a spreadsheet: RFC 4180, UTF-8, units in the column names.
#pragma once

#include "model/first_survey.h"

namespace gabarit::store {

/// Columns: id, name, why, source, state, cost, on_car, mass_kg, x_mm, y_mm, z_mm, body, rides_on_donor, needs (ids
/// with a space between), option, note. An empty cell is a missing value.
std::string partsCsv(const model::Project& project);
/// Columns: name, mass_kg, x_mm, y_mm, z_mm (vehicle frame).
std::string loadsCsv(const model::Project& project);

/// The project with the table worked in: a row whose id (loads: name) is known changes that one, others are added,
/// what the table does not name stays, and so does what a column that is not there would say. Fields may be separated
/// by commas, semicolons or tabs; with semicolons or tabs a decimal comma is read too. Errors name the file, line and
/// column. The result is checked as a file is.
Result<model::Project> withPartsCsv(const model::Project& project, const std::string& text, const std::string& file,
                                    const model::RuleBook& book);
Result<model::Project> withLoadsCsv(const model::Project& project, const std::string& text, const std::string& file,
                                    const model::RuleBook& book);

/// A sheet of first-survey readings worked into a project: columns `entry` and `value`, and `accuracy_mm`, `who`,
/// `note` where they are known. A value is a number in `shown`'s unit, or has its own ("21 1/4 in"). Errors name file,
/// line and column; nothing is taken then.
Result<model::Project> withAnswerSheet(const model::Project& project, const std::string& text, const std::string& file,
                                       const model::FirstSurvey& survey, const std::string& date,
                                       const quantity::Shown& shown);

} // namespace gabarit::store
