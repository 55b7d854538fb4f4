// The fields of one thing of the mounts: a mount, an isolator, a crossmember, rows, seats, frames, old mounts, the
// unit.
#pragma once

#include "forms/entry_form.h"

#include <QString>

#include <vector>

namespace gabarit::app {

class Session;

/// Keys: "unit", "mount:ID", "isolator:ID", "row:ID", "crossmember:ID", "seat:ID", "frame:ID", "old:ID". Empty for one
/// that is not there.
std::vector<Field> mountsFields(Session& session, const QString& key);

} // namespace gabarit::app
