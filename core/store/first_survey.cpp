#include "store/first_survey.h"

#include "store/json_io.h"

#include <cstdio>
#include <cstdlib>

namespace gabarit::embedded {
extern const char* const first_survey;
}

namespace gabarit::store {
namespace {

using namespace model;

/// Every name that is used is there.
std::optional<Error> dangling(const FirstSurvey& survey) {
    const auto missing = [&](const std::string& what, const std::string& where) {
        return Error{"there is no \"" + what + "\"", where, "correct the name"};
    };
    const auto terms = [&](const std::vector<SurveyTerm>& all, const std::string& where) -> std::optional<Error> {
        for (const SurveyTerm& term : all)
            if (!survey.entry(term.entry)) return missing(term.entry, where);
        return std::nullopt;
    };
    for (const SurveyThing& thing : survey.things) {
        if (!tapeWay(thing.way)) return missing(thing.way, "thing " + thing.id);
        for (const std::string& other : {thing.of, thing.with})
            if (!other.empty() && !survey.thing(other)) return missing(other, "thing " + thing.id);
        for (const SurveyReading& reading : thing.readings)
            if (auto error = terms(reading.of, "thing " + thing.id)) return error;
    }
    for (const StarterShape& starter : survey.starters)
        for (const SurveySum* sum : {&starter.x, &starter.y, &starter.z})
            if (auto error = terms(sum->of, "starter " + starter.id)) return error;
    for (const SurveyScale& scale : survey.drawings)
        for (const auto* anchors : {&scale.across, &scale.down})
            for (const SurveyAnchor& anchor : *anchors)
                if (auto error = terms(anchor.of, "drawing " + scale.id)) return error;
    for (const SurveyQuestion& question : survey.questions)
        for (const SurveyEntryRule& entry : question.entries) {
            if (auto error = terms(entry.of, "entry " + entry.id)) return error;
            if (entry.usual_least > entry.usual_most)
                return Error{"the usual sizes are the wrong way round", "entry " + entry.id,
                             "put the smaller one first"};
            if (entry.thing.empty() || (entry.thing[0] != '@' && !survey.thing(entry.thing)))
                return missing(entry.thing, "entry " + entry.id);
            if (entry.times == 0) return Error{"times is zero", "entry " + entry.id, "give another factor"};
        }
    return std::nullopt;
}

} // namespace

Result<FirstSurvey> firstSurveyFromText(const std::string& text, const std::string& file) {
    const auto json = parseJson(text, file);
    if (!json) return json.error();
    FirstSurvey survey;
    std::optional<Error> error;
    ReadIo io(json.value(), "", error);
    describe::visit(io, survey);
    if (!error) error = dangling(survey);
    if (error) {
        error->where = file + ", " + error->where;
        return *error;
    }
    return survey;
}

const FirstSurvey& firstSurvey() {
    static const FirstSurvey survey = [] {
        auto read = firstSurveyFromText(embedded::first_survey, "data/survey/first-survey.json");
        if (!read) { // the program was built with a broken survey: a programmer's error, not a user's
            std::fprintf(stderr, "gabarit: %s\n", read.error().line().c_str());
            std::abort();
        }
        return std::move(read).value();
    }();
    return survey;
}

} // namespace gabarit::store
