// The fields of one thing of the driveline: a line of shafts, a coupling, an interface, the bellhousing, the gearing.
#pragma once

#include "forms/entry_form.h"

#include <QString>

#include <vector>

namespace gabarit::app {

class Session;

/// Keys: "line:ID", "coupling:ID", "interface:ID", "reading:ID", "bell", "gearing". Empty for one that is not there.
std::vector<Field> drivelineFields(Session& session, const QString& key);

} // namespace gabarit::app
