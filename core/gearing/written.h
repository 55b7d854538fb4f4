// The gearing's report on the command line. Internal to the room.
#pragma once

#include "gearing/discipline.h"

namespace gabarit::gearing {

void write(const discipline::Report& whole, const discipline::Telling& telling, nlohmann::ordered_json& into);
std::string text(const discipline::Report& whole, const discipline::Telling& telling);

} // namespace gabarit::gearing
