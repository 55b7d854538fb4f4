// Parts and money as a discipline.
#pragma once

#include "discipline/discipline.h"
#include "ledger/parts.h"

namespace gabarit::ledger {

/// Its report holds a PartsReport.
const discipline::Discipline& discipline();

} // namespace gabarit::ledger
