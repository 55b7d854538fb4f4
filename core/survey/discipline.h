// The survey as a discipline: it judges no gap; what it found holds up the build, what is open holds up cutting.
#pragma once

#include "discipline/discipline.h"
#include "survey/survey.h"

namespace gabarit::survey {

/// Its report holds a SurveyState.
const discipline::Discipline& discipline();

} // namespace gabarit::survey
