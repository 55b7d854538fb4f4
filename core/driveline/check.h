// The driveline's figures are the model's checks.
#pragma once

#include "model/check.h"

namespace gabarit::driveline {

using model::Check;
using model::judge;
using model::ruleOf;
using model::Unit;

} // namespace gabarit::driveline
