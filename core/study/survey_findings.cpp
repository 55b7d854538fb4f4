#include "study/survey_findings.h"

#include "study/wording.h"

#include <algorithm>

namespace gabarit::study {
namespace {

using model::Verdict;
using quantity::lengthText;

const char* conditionWord(model::ConditionKind kind) {
    switch (kind) {
    case model::ConditionKind::Crack: return "crack";
    case model::ConditionKind::Rust: return "rust";
    case model::ConditionKind::Thread: return "damaged thread";
    case model::ConditionKind::Weld: return "bad weld";
    case model::ConditionKind::Bent: return "bent";
    case model::ConditionKind::Other: break;
    }
    return "to be seen to";
}

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

} // namespace

void addConditions(std::vector<Finding>& out, const model::Project& project) {
    for (const model::Condition& condition : project.conditions) {
        if (condition.mended) continue;
        Finding f;
        f.id = "condition:" + condition.id;
        f.discipline = "survey";
        f.verdict = Verdict::Unknown;
        f.title = condition.name + ": " + conditionWord(condition.kind);
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

void addSurvey(std::vector<Finding>& out, const Reports& reports) {
    if (reports.survey.open == 0 || !mayBeCut(*reports.project)) return;
    Finding f;
    f.id = "survey:open";
    f.holds_cutting = true;
    f.discipline = "survey";
    f.verdict = Verdict::Unknown;
    f.title = "Do not cut yet: the survey is not complete";
    for (const AreaLine& area : reports.survey.areas)
        if (!area.complete()) f.detail += (f.detail.empty() ? "" : ", ") + inSentence(area.name);
    f.detail = "Open: " + f.detail;
    f.help = "Go through them under Survey, Areas. It holds up cutting, not looking.";
    f.rule = "every area measured before anything is cut (survey practice)";
    out.push_back(std::move(f));
}

void addHomes(std::vector<Finding>& out, const fit::FreeRoomReport& report, quantity::Shown shown) {
    for (const fit::HomeSearch& search : report.searches) {
        if (!search.chosen.empty() && !search.size_mm) {
            Finding f;
            f.id = "home:" + search.part.text;
            f.discipline = "parts";
            f.verdict = Verdict::Unknown;
            f.title = "Whether " + inSentence(search.name) + " goes into its home is not known";
            f.detail = "Its outside size is not given";
            f.help = "Enter its size under Parts.";
            out.push_back(std::move(f));
            continue;
        }
        const auto chosen = std::find_if(search.offers.begin(), search.offers.end(),
                                         [&](const fit::HomeOffer& offer) { return offer.volume == search.chosen; });
        if (chosen == search.offers.end() || chosen->verdict == Verdict::Go) continue;
        Finding f;
        f.id = "home:" + search.part.text;
        f.discipline = "parts";
        f.verdict = chosen->verdict;
        f.title = search.name +
                  (chosen->verdict == Verdict::NoGo ? " does not go into its home: " : " may not go into its home: ") +
                  inSentence(chosen->name);
        f.detail = upperFirst(chosen->reason) + "; " +
                   (chosen->spare_mm < 0 ? lengthText(-chosen->spare_mm, shown, 0) + " too large"
                                         : lengthText(chosen->spare_mm, shown, 0) + " left over") +
                   ", " + lengthText(report.wanted_mm, shown, 0) + " wanted";
        f.rule = "room beside a part in its new home (" + report.source + ")";
        const fit::HomeOffer& best = search.offers.front();
        if (best.verdict == Verdict::Go) f.help = "It goes into another one: " + inSentence(best.name) + ".";
        out.push_back(std::move(f));
    }
}

} // namespace gabarit::study
