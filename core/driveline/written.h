// The driveline's report on the command line. Internal to the room.
#pragma once

#include "driveline/discipline.h"

namespace gabarit::driveline {

void write(const discipline::Report& whole, const discipline::Telling& telling, nlohmann::ordered_json& into);
std::string text(const discipline::Report& whole, const discipline::Telling& telling);

} // namespace gabarit::driveline
