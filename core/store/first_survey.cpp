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

void describeTerms(ReadIo& io, std::vector<SurveyTerm>& terms) {
    io.list("of", terms, [](ReadIo& inner, SurveyTerm& term) {
        inner.text("entry", term.entry, true);
        inner.number("times", term.times);
    });
}

void describeWhole(ReadIo& io, const char* key, int& value) {
    double number = value;
    io.number(key, number);
    value = static_cast<int>(number);
}

void describeThing(ReadIo& io, SurveyThing& thing) {
    io.text("id", thing.id, true);
    io.text("name", thing.name, true);
    io.flag("donors", thing.donors);
    io.text("category", thing.category);
    io.text("role", thing.role);
    io.text("way", thing.way, true);
    io.text("of", thing.of);
    io.text("with", thing.with);
    io.flag("closing", thing.closing);
    io.list("readings", thing.readings, [](ReadIo& inner, SurveyReading& reading) {
        inner.text("what", reading.what, true);
        describeWhole(inner, "station", reading.station);
        inner.number("plus_mm", reading.plus_mm);
        describeTerms(inner, reading.of);
    });
}

void describeEntry(ReadIo& io, SurveyEntryRule& entry) {
    io.text("id", entry.id, true);
    io.text("label", entry.label, true);
    io.flag("is_mass", entry.is_mass);
    io.flag("needed", entry.needed);
    io.number("assumed", entry.assumed);
    describeTerms(io, entry.of);
    io.text("thing", entry.thing, true);
    io.text("what", entry.what);
    describeWhole(io, "station", entry.station);
    io.number("times", entry.times);
    if (io.has("arrow")) io.points("arrow", entry.arrow);
}

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
    for (const SurveyQuestion& question : survey.questions)
        for (const SurveyEntryRule& entry : question.entries) {
            if (auto error = terms(entry.of, "entry " + entry.id)) return error;
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
    io.number("tape_accuracy_mm", survey.tape_accuracy_mm, true);
    io.number("assumed_accuracy_mm", survey.assumed_accuracy_mm, true);
    io.text("source", survey.source, true);
    io.list("things", survey.things, describeThing);
    io.list("questions", survey.questions, [](ReadIo& inner, SurveyQuestion& question) {
        inner.text("id", question.id, true);
        inner.text("title", question.title, true);
        inner.text("hook", question.hook, true);
        inner.text("drawing", question.drawing, true);
        inner.text("caution", question.caution);
        inner.list("entries", question.entries, describeEntry);
    });
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
