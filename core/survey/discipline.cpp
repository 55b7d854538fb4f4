#include "survey/discipline.h"

#include "discipline/wording.h"
#include "model/describe.h"

#include <algorithm>

namespace gabarit::survey {
namespace {

using discipline::Finding;
using discipline::inSentence;
using discipline::Report;
using discipline::upperFirst;
using model::Verdict;

/// What carries load or steers: frame and body structure, suspension, steering.
bool carries(const model::Body& body) {
    for (const char* category : {"frame", "crossmember", "suspension", "steering_linkage", "steering_shaft", "axle"})
        if (body.category == category) return true;
    return false;
}

bool mayBeCut(const model::Project& project) {
    const auto cut = [](const std::vector<model::Body>& bodies) {
        return std::any_of(bodies.begin(), bodies.end(), [](const model::Body& b) { return b.may.be_cut; });
    };
    const model::Donor* donor = model::activeDonor(project);
    return (project.vehicle && cut(project.vehicle->bodies)) || (donor && cut(donor->bodies));
}

/// What was found at a place stays open until it is mended.
void addConditions(std::vector<Finding>& out, const model::Project& project) {
    for (const model::Condition& condition : project.conditions) {
        if (condition.mended) continue;
        Finding f;
        f.id = "condition:" + condition.id;
        f.discipline = "survey";
        f.verdict = Verdict::Unknown;
        f.title = condition.name + ": " + describe::said(condition.kind);
        f.detail = condition.note.empty() ? "Found in the survey and not mended yet" : upperFirst(condition.note);
        f.help = "Mend it, then tick it off under Survey, Found.";
        const model::BodyRef on{condition.owner, condition.body};
        const model::Body* body = model::findBody(project, on);
        if (body) f.a = on;
        if (condition.kind != model::ConditionKind::Thread && (!body || carries(*body)))
            f.caution = "Where it carries load or steers, have it judged by whoever certifies the vehicle before it is "
                        "relied on.";
        f.label = inSentence(condition.name);
        const model::Placement* placement = model::activePlacement(project);
        const model::Donor* donor = model::activeDonor(project);
        if (condition.owner == model::vehicle_owner)
            f.place_vehicle_mm = condition.at_mm;
        else if (placement && donor && donor->id.text == condition.owner)
            f.place_vehicle_mm = model::poseVehicleDonor(*placement, *donor) * condition.at_mm;
        out.push_back(std::move(f));
    }
}

/// Sections of the file that are not known: kept, and nothing of them is judged.
void addUnknownSections(std::vector<Finding>& out, const model::Project& project) {
    constexpr const char* own = "x_"; // how a member of one's own begins (docs/format.md)
    for (const auto& [key, text] : project.extras) {
        if (key.rfind(own, 0) == 0 || key.find('/') != std::string::npos) continue;
        Finding f;
        f.id = "section:" + key;
        f.discipline = "survey";
        f.verdict = Verdict::Unknown;
        f.title = "The file has a section \"" + key + "\" that is not known";
        f.detail = "It is kept as it is, and nothing of it is judged";
        f.help = "Correct its name; if it is a note of your own, let its name begin with x_.";
        out.push_back(std::move(f));
    }
}

/// Open areas hold up cutting; while nothing may be cut they hold up nothing.
void addOpen(std::vector<Finding>& out, const SurveyState& state, const model::Project& project) {
    if (state.open == 0 || !mayBeCut(project)) return;
    Finding f;
    f.id = "survey:open";
    f.holds_cutting = true;
    f.discipline = "survey";
    f.verdict = Verdict::Unknown;
    f.title = "Do not cut yet: the survey is not complete";
    for (const AreaLine& area : state.areas)
        if (!area.complete()) f.detail += (f.detail.empty() ? "" : ", ") + inSentence(area.name);
    f.detail = "Open: " + f.detail;
    f.help = "Go through them under Survey, Areas. It holds up cutting, not looking.";
    f.rule = "every area measured before anything is cut (survey practice)";
    out.push_back(std::move(f));
}

class Survey : public discipline::Discipline {
public:
    Survey()
        : Discipline(discipline::Card("survey").at(20).reading(
              {"vehicle", "donors", "placement", "pose", "conditions", "unknown"})) {}

    Report judge(const discipline::Given& given) const override {
        Report report;
        report.parts.put(surveyState(*given.project, given.book));
        return report;
    }

    void tell(const Report& report, const discipline::Telling&, std::vector<Finding>& out) const override {
        const auto* state = report.parts.get<SurveyState>();
        if (!state) return;
        addUnknownSections(out, *report.project);
        addConditions(out, *report.project);
        addOpen(out, *state, *report.project);
    }
};

} // namespace

const discipline::Discipline& discipline() {
    static const Survey survey;
    return survey;
}

} // namespace gabarit::survey
