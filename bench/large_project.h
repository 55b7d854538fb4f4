// A project file of 2,000 bodies, made once in the folder for temporary files.
#pragma once

#include <string>

namespace gabarit::bench {

const std::string& largePath();

} // namespace gabarit::bench
