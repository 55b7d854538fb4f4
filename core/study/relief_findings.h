// What pockets, tubes and plates say to the build. Internal to the room.
#pragma once

#include "study/study.h"

namespace gabarit::study {

void addRelief(std::vector<Finding>& out, const Reports& reports, const model::RuleBook& book, quantity::Shown shown);
/// Only where there is a pocket: nothing is judged of a tube or plate that can be made.
void addReliefGauge(std::vector<Gauge>& out, const Reports& reports, quantity::Shown shown);

} // namespace gabarit::study
