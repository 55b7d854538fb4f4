// The members of the first survey's questions.
#include "model/describe.h"
#include "model/first_survey.h"

namespace gabarit::model {

using describe::Member;
using describe::Visitor;

void describe(Visitor& v, SurveyTerm& term) {
    v.text(Member("entry").must(), term.entry);
    v.number(Member("times"), term.times);
}

void describe(Visitor& v, SurveySum& sum) {
    v.number(Member("plus_mm"), sum.plus_mm);
    v.list(Member("of"), sum.of);
}

void describe(Visitor& v, SurveyReading& reading) {
    v.text(Member("what").must(), reading.what);
    v.number(Member("station").length(), reading.station);
    describe(v, static_cast<SurveySum&>(reading));
}

void describe(Visitor& v, SurveyThing& thing) {
    v.text(Member("id").must(), thing.id);
    v.text(Member("name").must(), thing.name);
    v.flag(Member("donors"), thing.donors);
    v.text(Member("category"), thing.category);
    v.text(Member("role"), thing.role);
    v.text(Member("way").must(), thing.way);
    v.text(Member("of"), thing.of);
    v.text(Member("with"), thing.with);
    v.flag(Member("closing"), thing.closing);
    v.list(Member("readings"), thing.readings);
}

void describe(Visitor& v, SurveyEntryRule& entry) {
    v.text(Member("id").must(), entry.id);
    v.text(Member("label").must(), entry.label);
    v.text(Member("ask"), entry.ask);
    v.text(Member("how"), entry.how);
    v.number(Member("usual_least"), entry.usual_least);
    v.number(Member("usual_most"), entry.usual_most);
    v.flag(Member("from_floor"), entry.from_floor);
    v.flag(Member("is_mass"), entry.is_mass);
    v.flag(Member("needed"), entry.needed);
    v.number(Member("assumed"), entry.assumed);
    v.list(Member("of"), entry.of);
    v.text(Member("thing").must(), entry.thing);
    v.text(Member("what"), entry.what);
    v.number(Member("station").length(), entry.station);
    v.number(Member("times"), entry.times);
    v.text(Member("drawing"), entry.drawing);
    v.points(Member("arrow"), entry.arrow);
}

void describe(Visitor& v, SurveyAnchor& anchor) {
    v.number(Member("at").must(), anchor.at);
    describe(v, static_cast<SurveySum&>(anchor));
}

void describe(Visitor& v, SurveyScale& scale) {
    v.text(Member("id").must(), scale.id);
    v.list(Member("across"), scale.across);
    v.list(Member("down"), scale.down);
}

void describe(Visitor& v, SurveyQuestion& question) {
    v.text(Member("id").must(), question.id);
    v.text(Member("title").must(), question.title);
    v.text(Member("hook").must(), question.hook);
    v.text(Member("drawing").must(), question.drawing);
    v.text(Member("caution"), question.caution);
    v.list(Member("entries"), question.entries);
}

void describe(Visitor& v, StarterShape& starter) {
    v.text(Member("id").must(), starter.id);
    v.text(Member("name").must(), starter.name);
    v.flag(Member("donors"), starter.donors);
    v.text(Member("category").must(), starter.category);
    v.point(Member("size_mm").must(), starter.size_mm);
    v.texts(Member("asks"), starter.asks);
    v.text(Member("ask"), starter.ask);
    v.object(Member("x").must(), starter.x);
    v.object(Member("y").must(), starter.y);
    v.object(Member("z").must(), starter.z);
}

void describe(Visitor& v, TapeAccuracy& accuracy) { v.number(Member("mm").must(), accuracy.mm); }

void describe(Visitor& v, FirstSurvey& survey) {
    v.number(Member("tape_accuracy_mm").must(), survey.tape_accuracy_mm);
    v.number(Member("assumed_accuracy_mm").must(), survey.assumed_accuracy_mm);
    v.list(Member("tape_accuracies"), survey.tape_accuracies);
    v.text(Member("source").must(), survey.source);
    v.list(Member("things"), survey.things);
    v.list(Member("drawings"), survey.drawings);
    v.list(Member("starters"), survey.starters);
    v.list(Member("questions"), survey.questions);
}

} // namespace gabarit::model
