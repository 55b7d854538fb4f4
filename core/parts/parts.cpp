#include "parts/parts.h"

#include "model/describe.h"
#include "model/reshape.h"

#include <algorithm>

namespace gabarit::model {

using describe::Gone;
using describe::Member;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(PartState) {
    static const Words all{"needed", "ordered", "here", {"test_fitted", "test-fitted"}, "fitted", "to_return", "sold"};
    return all;
}
const Words& words(OnCar) {
    static const Words all{{"no", "no weight"}, {"on", "put on"}, {"off", "taken off"}};
    return all;
}

void describe(Visitor& v, Part& part) {
    constexpr double most_cost = 1e12;
    v.type("part");
    v.text(Member("id").id(Target::Part), part.id.text);
    const bool sold = part.state == PartState::Sold, own_place = part.body.empty();
    v.text(Member("name").must().said("Name").order(-3), part.name);
    v.text(Member("why").said("What for").order(-1), part.why);
    v.text(Member("source").said("From").order(-1), part.source);
    v.choice(Member("state").said("State").order(-2), part.state);
    v.number(Member("cost", "in the project's currency; of a sold part: what it brings")
                 .ofMoney(0, most_cost)
                 .said(sold ? "Brought in" : "Cost")
                 .order(-2),
             part.cost);
    v.choice(Member("on_car", "does it change the weight").heading("What it weighs").said("It counts as"), part.on_car);
    v.number(Member("mass_kg").mass().said("Mass"), part.mass_kg);
    v.choice(Member("mass_from", "how the mass is known (not said: as estimated); its ± goes by it")
                 .leftOut(0)
                 .said(part.mass_kg ? "How known" : ""),
             part.mass_from);
    v.point(Member("at_mm", "centre of gravity")
                .place(part.rides_on_donor ? "" : vehicle_owner)
                .eachSaid(own_place ? "Rearward (x)" : "", "{to_right} (y)", "Up (z)")
                .order(1),
            part.at_mm);
    v.text(Member("body", "`owner/body-id`: it sits in the middle of that body and goes with it; `at_mm` is not asked "
                          "then")
               .names(Target::BodyPath, Gone::Empty)
               .mustBeThere()
               .said("Sits at")
               .none("a place of its own"),
           part.body);
    v.flag(Member("rides_on_donor", "then `at_mm` is in the donor's frame and follows the pose")
               .said(own_place ? "rides on the donor, measured from it" : "")
               .order(1),
           part.rides_on_donor);
    std::vector<std::string> was;
    for (const PartId& id : part.needs) was.push_back(id.text);
    std::vector<std::string> needs = was;
    v.texts(Member("needs", "ids of parts").names(Target::Part, Gone::Empty).mustBeThere(), needs);
    if (needs != was) {
        part.needs.clear();
        for (std::string& id : needs) part.needs.push_back(PartId{std::move(id)});
    }
    v.text(Member("option", "`owner/choice-id/option-id`: it counts only while that option is taken")
               .names(Target::OptionPath, Gone::Empty)
               .mustBeThere()
               .said("Comes with")
               .behind()
               .order(-1),
           part.option);
    v.point(Member("size_mm", "outside, in any order")
                .is(Vector::Size)
                .heading("Where it lives")
                .eachSaid("Size, longest", "Size, next", "Size, shortest")
                .order(2),
            part.size_mm);
    v.text(Member("home", "a free volume's id")
               .names(Target::FreeVolume, Gone::Empty)
               .mustBeThere()
               .said("Home")
               .none("no home yet")
               .tip("Free room that was found in the survey; each says whether the part goes in")
               .order(2),
           part.home);
    v.text(Member("note").note().said("Note").order(2), part.note);
    v.extras(part.extras);
}

const Parts& partsOf(const Project& project) {
    static const Parts none;
    const Parts* its = project.sections.get<Parts>();
    return its ? *its : none;
}

bool isTaken(const Project& project, const Part& part) { return isTaken(project, part.option); }

bool ridesOnDonor(const Part& part) {
    return part.body.empty() ? part.rides_on_donor : part.body.rfind(std::string(vehicle_owner) + "/", 0) != 0;
}

std::optional<Eigen::Vector3d> placeVehicle_mm(const Project& project, const Part& part) {
    std::optional<Eigen::Vector3d> at = part.at_mm;
    if (!part.body.empty()) {
        const std::size_t slash = part.body.find('/');
        const BodyRef ref{part.body.substr(0, slash), {part.body.substr(slash + 1)}};
        const Body* body = findBody(project, ref);
        if (!body) return std::nullopt;
        at = body->poseOwnerBody() * extents_mm(body->shape).center();
        const Placement* placement = activePlacement(project);
        if (!ref.inVehicle() && (!placement || placement->donor.text != ref.owner)) return std::nullopt;
    }
    if (!at || !ridesOnDonor(part)) return at;
    const Placement* placement = activePlacement(project);
    const Donor* donor = activeDonor(project);
    if (!placement || !donor) return std::nullopt;
    return Eigen::Vector3d(poseVehicleDonor(*placement, *donor) * *at);
}

} // namespace gabarit::model

namespace gabarit::parts {
namespace {

/// A part that sat at a body stays where that was.
void bodyGoes(model::Sections& sections, const model::BodyRef& body, const std::optional<Eigen::Vector3d>& at_mm) {
    const auto* parts = sections.get<model::Parts>();
    const auto sits = [&body](const model::Part& part) { return part.body == body.text(); };
    if (!parts || std::none_of(parts->begin(), parts->end(), sits)) return;
    for (model::Part& part : sections.edit<model::Parts>())
        if (sits(part)) {
            part.at_mm = at_mm;
            if (at_mm) part.rides_on_donor = !body.inVehicle();
        }
}

} // namespace

model::SectionKind section() {
    model::SectionKind kind = model::sectionList<model::Part>("parts", "", 65, "part");
    kind.bodyGoes = bodyGoes;
    return kind;
}

} // namespace gabarit::parts
