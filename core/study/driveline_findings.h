// What the driveline says to the build. Internal to the room, but for the caution.
#pragma once

#include "study/study.h"

namespace gabarit::study {

void addDriveline(std::vector<Finding>& out, const Reports& reports, const model::RuleBook& book,
                  quantity::Shown shown);
void addDrivelineGauges(std::vector<Gauge>& out, const Reports& reports, quantity::Shown shown);
/// What to mind at a figure of a line of shafts.
std::string drivelineCaution(const model::Project& project, const model::RuleBook& book, const driveline::Check& check);

} // namespace gabarit::study
