// The fields of one thing of the relief: a pocket, a tube cut to fit, a plate with a hole pattern, a hole to keep.
#pragma once

#include "forms/entry_form.h"

#include <QString>

#include <vector>

namespace gabarit::app {

class Session;

/// Keys: "pocket:ID", "tube:ID", "plate:ID", "hole:ID". Empty for one that is not there.
std::vector<Field> reliefFields(Session& session, const QString& key);

} // namespace gabarit::app
