// The fields of one part.
#pragma once

#include "forms/entry_form.h"
#include "model/project.h"

namespace gabarit::app {

class Session;

/// Each changes the session's project as one step. Empty when there is no such part.
std::vector<Field> partFields(Session& session, const model::PartId& id);

} // namespace gabarit::app
