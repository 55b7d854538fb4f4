#include "survey/survey.h"

#include <algorithm>

namespace gabarit::survey {
namespace {

void count(AreaLine& line, const model::Project& project, const std::string& owner,
           const std::vector<model::Body>& bodies, const std::vector<std::string>& categories) {
    for (const model::Body& body : bodies) {
        if (std::find(categories.begin(), categories.end(), body.category) == categories.end()) continue;
        if (!model::stands(project, owner, body)) continue;
        ++line.bodies;
        if (!body.accuracy_mm || body.measured.method == model::Method::Assumed) line.not_measured.push_back(body.name);
    }
}

} // namespace

SurveyState surveyState(const model::Project& project, const model::RuleBook& book) {
    SurveyState out;
    if (!project.vehicle) return out;
    const auto marked = [](AreaLine& line, const model::AreaMark& mark) {
        line.state = mark.state;
        line.date = mark.date;
        line.who = mark.who;
        line.note = mark.note;
    };
    const std::vector<model::AreaMark>& marks = project.vehicle->areas;
    const auto markOf = [&](const std::string& id) {
        return std::find_if(marks.begin(), marks.end(), [&](const model::AreaMark& m) { return m.id == id; });
    };
    for (const model::AreaRule& area : book.areas) {
        AreaLine line;
        line.id = area.id;
        line.name = area.name;
        line.text = area.text;
        line.source = area.source;
        if (const auto mark = markOf(area.id); mark != marks.end()) marked(line, *mark);
        count(line, project, model::vehicle_owner, project.vehicle->bodies, area.categories);
        if (const model::Donor* donor = model::activeDonor(project))
            count(line, project, donor->id.text, donor->bodies, area.categories);
        out.areas.push_back(std::move(line));
    }
    for (const model::AreaMark& mark : marks) {
        const auto known = [&](const model::AreaRule& area) { return area.id == mark.id; };
        if (std::any_of(book.areas.begin(), book.areas.end(), known)) continue;
        AreaLine line;
        line.id = mark.id;
        line.name = mark.name.empty() ? mark.id : mark.name;
        marked(line, mark);
        out.areas.push_back(std::move(line));
    }
    out.open = static_cast<int>(
        std::count_if(out.areas.begin(), out.areas.end(), [](const AreaLine& line) { return !line.complete(); }));
    out.ready_to_cut = out.open == 0;
    return out;
}

} // namespace gabarit::survey
