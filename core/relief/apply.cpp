#include "relief/apply.h"
#include "model/describe.h"
#include "parts/parts.h"
#include "relief/section/relief.h"

#include <algorithm>
#include <cmath>

namespace gabarit::relief {
namespace {

using model::Hold;
using model::Marker;
using model::Pocket;

const Pocket* pocketOf(const model::Project& project, const std::string& id) {
    const auto* relief = project.sections.get<model::Relief>();
    if (!relief) return nullptr;
    for (const Pocket& pocket : relief->pockets)
        if (pocket.id == id) return &pocket;
    return nullptr;
}

std::string freeId(const std::string& wish, const std::vector<model::Part>& parts) {
    for (int i = 1;; ++i) {
        const std::string id = wish + (i > 1 ? "-" + std::to_string(i) : "");
        if (std::none_of(parts.begin(), parts.end(), [&id](const model::Part& part) { return part.id.text == id; }))
            return id;
    }
}

} // namespace

model::Project withPocket(const model::Project& project, const model::RuleBook& book, const Pocket& pocket,
                          const PocketReport* judged) {
    model::Project out = project;
    auto& pockets = out.sections.edit<model::Relief>().pockets;
    auto mine = std::find_if(pockets.begin(), pockets.end(), [&pocket](const Pocket& p) { return p.id == pocket.id; });
    if (mine == pockets.end()) mine = pockets.insert(pockets.end(), pocket);
    *mine = pocket;
    if (!out.sections.get<model::Parts>()) return out;
    Look quickly;
    quickly.restoring = false;
    const PocketReport report = judged ? *judged : judgePocket(out, book, pocket, quickly);
    auto& parts = out.sections.edit<model::Parts>();
    auto part = std::find_if(parts.begin(), parts.end(), [&pocket](const model::Part& p) {
        return !pocket.part.empty() && p.id.text == pocket.part;
    });
    if (part == parts.end()) {
        model::Part made;
        made.id.text = freeId(pocket.id, parts);
        made.source = "made";
        const model::Body* body = model::findBody(out, {model::vehicle_owner, pocket.body});
        if (body && !body->option.empty()) made.option = std::string(model::vehicle_owner) + "/" + body->option;
        part = parts.insert(parts.end(), made);
        mine->part = part->id.text;
    }
    part->name = pocket.name + ", plates";
    if (part->why.empty()) part->why = "closes what is cut out";
    const double net_kg = report.plates_kg - report.cut_kg;
    part->on_car = net_kg >= 0 ? model::OnCar::On : model::OnCar::Off;
    part->mass_kg.reset();
    part->at_mm.reset();
    if (report.made) {
        part->mass_kg = std::abs(net_kg);
        part->at_mm = report.pose_vehicle_body * report.made->pose_body.translation();
    }
    return out;
}

model::Project withoutPocket(const model::Project& project, const std::string& id) {
    model::Project out = project;
    const Pocket* pocket = pocketOf(project, id);
    if (!pocket) return out;
    if (auto* parts = pocket->part.empty() ? nullptr : out.sections.own<model::Parts>())
        parts->erase(std::remove_if(parts->begin(), parts->end(),
                                    [&](const model::Part& part) { return part.id.text == pocket->part; }),
                     parts->end());
    auto& pockets = out.sections.edit<model::Relief>().pockets;
    pockets.erase(std::remove_if(pockets.begin(), pockets.end(), [&id](const Pocket& p) { return p.id == id; }),
                  pockets.end());
    return out;
}

std::vector<model::HoldBasis> basisOf(const model::Project& project, const Pocket& pocket, Hold hold) {
    std::vector<model::HoldBasis> out;
    if (const model::Placement* placement = model::activePlacement(project)) {
        Marker m;
        m << placement->donor.text << placement->position_mm << placement->angles.yaw_deg << placement->angles.pitch_deg
          << placement->angles.roll_deg;
        out.push_back(model::basis("placement", "where the unit hangs", m));
    }
    const model::BodyRef ref{model::vehicle_owner, pocket.body};
    if (const model::Body* body = model::findBody(project, ref)) out.push_back(model::basisOf(ref, *body));
    Marker m;
    m << model::pocketKey(pocket);
    out.push_back(model::basis("pocket", "the pocket", m));
    if (hold != Hold::TestFitted && hold != Hold::FittedAgain) return out;
    for (const model::BodyRef& intruder : pocket.intruders)
        if (const model::Body* body = model::findBody(project, intruder); body && !intruder.inVehicle())
            out.push_back(model::basisOf(intruder, *body));
    // A fit is made with everything on: what else of the vehicle moves opens it too.
    if (project.vehicle)
        for (const model::Body& body : project.vehicle->bodies)
            if (body.id != pocket.body && body.category != "ground" &&
                model::stands(project, model::vehicle_owner, body))
                out.push_back(model::basisOf({model::vehicle_owner, body.id}, body));
    return out;
}

std::vector<model::HoldBasis> basisKnownTo(const model::Project& project, const Pocket& pocket, Hold hold) {
    std::vector<model::HoldBasis> out = basisOf(project, pocket, hold);
    const model::HoldSigned* its = model::signedOf(pocket.holds, hold);
    if (!its) return out;
    const std::string own = model::BodyRef{model::vehicle_owner, pocket.body}.text();
    const auto others = [&own](const model::HoldBasis& basis) {
        return basis.item != own && basis.item.rfind(std::string(model::vehicle_owner) + "/", 0) == 0;
    };
    const auto named = [its](const model::HoldBasis& basis) {
        return std::any_of(its->basis.begin(), its->basis.end(),
                           [&](const model::HoldBasis& known) { return known.item == basis.item; });
    };
    // Older signatures know of no others than what the pocket was made for.
    const bool older = std::none_of(its->basis.begin(), its->basis.end(), [&](const model::HoldBasis& basis) {
        return others(basis) && std::none_of(pocket.intruders.begin(), pocket.intruders.end(),
                                             [&](const model::BodyRef& ref) { return ref.text() == basis.item; });
    });
    if (older)
        out.erase(std::remove_if(out.begin(), out.end(),
                                 [&](const model::HoldBasis& basis) { return others(basis) && !named(basis); }),
                  out.end());
    return out;
}

Result<model::Project> withSigned(const model::Project& project, const std::string& id, Hold hold,
                                  const std::string& date, const std::string& who, const std::string& note) {
    const Pocket* pocket = pocketOf(project, id);
    if (!pocket) return Error{"there is no pocket \"" + id + "\"", "relief", "choose one of them"};
    const std::string where = "pocket \"" + pocket->name + "\", " + describe::said(hold);
    const auto now = [&](Hold step) { return basisOf(project, *pocket, step); };
    const auto known = [&](Hold step) { return basisKnownTo(project, *pocket, step); };
    for (const model::HoldState& state : model::holdStates(pocket->holds, known))
        if (state.hold < hold && !state.holds)
            return Error{std::string("it is not ") + describe::said(state.hold) +
                             (state.signed_off ? " as it is now" : " yet"),
                         where, "sign the steps in their order"};
    if (hold == Hold::FittedAgain) {
        const model::HoldSigned* welded = model::signedOf(pocket->holds, Hold::Welded);
        const model::BodyRef body{model::vehicle_owner, pocket->body};
        const bool measured =
            std::any_of(project.measured.begin(), project.measured.end(), [&](const model::MeasuredGap& gap) {
                return !gap.date.empty() && gap.date >= welded->date && (gap.a == body || gap.b == body);
            });
        if (!measured)
            return Error{"no gap to the body was measured since it was welded", where,
                         "measure the gap in the pocket (Place, Measured) and enter it with its date"};
    }
    model::Project out = project;
    for (Pocket& p : out.sections.edit<model::Relief>().pockets)
        if (p.id == id) model::sign(p.holds, {hold, date, who, note, now(hold), {}});
    return out;
}

model::Project withoutSigned(const model::Project& project, const std::string& id, Hold hold) {
    model::Project out = project;
    auto* relief = out.sections.own<model::Relief>();
    if (!relief) return out;
    for (Pocket& p : relief->pockets)
        if (p.id == id) model::unsign(p.holds, hold);
    return out;
}

} // namespace gabarit::relief
