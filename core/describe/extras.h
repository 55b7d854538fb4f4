// What a file holds that this version does not know.
#pragma once

#include <map>
#include <string>

namespace gabarit::describe {

/// Members of a file's object that this version does not know: name and JSON text, written back as they came. A key
/// that starts with a slash is a JSON pointer into an inner object (a body's "/shape/colour").
using Extras = std::map<std::string, std::string>;

} // namespace gabarit::describe
