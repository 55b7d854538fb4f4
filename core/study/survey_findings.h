// Findings of the survey: what was found broken, what is not measured yet, what has no home. Internal to the room.
#pragma once

#include "study/study.h"

namespace gabarit::study {

/// What was found at a place stays open until it is mended.
void addConditions(std::vector<Finding>& out, const model::Project& project);
/// Sections of the file that are not known: kept, and nothing of them is judged.
void addUnknownSections(std::vector<Finding>& out, const model::Project& project);
/// Open areas hold up cutting; while nothing may be cut they hold up nothing.
void addSurvey(std::vector<Finding>& out, const Reports& reports);
/// Parts that do not go into the home that was chosen for them.
void addHomes(std::vector<Finding>& out, const fit::FreeRoomReport& report, quantity::Shown shown);

} // namespace gabarit::study
