// The first survey that ships with the program.
#pragma once

#include "model/first_survey.h"

namespace gabarit::store {

/// data/survey/first-survey.json as compiled into the program: questions, what they make, what is assumed meanwhile.
const model::FirstSurvey& firstSurvey();

/// A survey from text, for tests and for one's own. Errors name the member; also what an entry or reading names must
/// be there.
Result<model::FirstSurvey> firstSurveyFromText(const std::string& text, const std::string& file);

} // namespace gabarit::store
