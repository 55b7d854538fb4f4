#include "model/edit.h"

#include "describe/walks.h"
#include "model/describe.h"
#include "model/reshape.h"
#include "quantity/number.h"

#include <algorithm>
#include <cctype>

namespace gabarit::model {
namespace {

template <class Items>
std::vector<std::string> idsOf(const Items& items) {
    std::vector<std::string> ids;
    for (const auto& item : items) ids.push_back(item.id.text);
    return ids;
}

template <class Items, class Gone>
void drop(Items& items, Gone gone) {
    items.erase(std::remove_if(items.begin(), items.end(), gone), items.end());
}

Error noOwner(const std::string& owner) {
    return Error{"there is no \"" + owner + "\" to put it in", owner, "make the vehicle or the donor first"};
}
Error noBody(const BodyRef& ref) { return Error{"there is no such body", ref.text(), "choose another"}; }

/// Every pair that names `from` is made for `to` too.
void joinAlike(Project& project, const BodyRef& from, const BodyRef& to) {
    const std::vector<Joined> before = project.joined;
    for (Joined pair : before) {
        if (pair.a != from && pair.b != from) continue;
        (pair.a == from ? pair.a : pair.b) = to;
        if (pair.a != pair.b) project.joined.push_back(std::move(pair));
    }
}

std::string freshName(const std::string& wish, const std::vector<Body>& bodies) {
    std::string name = wish;
    const auto taken = [&](const Body& b) { return b.name == name; };
    for (int n = 2; std::any_of(bodies.begin(), bodies.end(), taken); ++n) name = wish + " " + std::to_string(n);
    return name;
}

/// Calls `each` with every list of bodies that a motion of the owner moves.
template <class Each>
void movedBodies(Project& project, const std::string& owner, Each each) {
    if (std::vector<MotionSpec>* motions = motionsOf(project, owner))
        for (MotionSpec& motion : *motions) each(motion.bodies), each(motion.carried);
}

/// What moves `from` moves `to` too.
void moveAlike(Project& project, const BodyRef& from, const BodyId& to) {
    movedBodies(project, from.owner, [&](std::vector<BodyId>& ids) {
        if (std::find(ids.begin(), ids.end(), from.body) != ids.end()) ids.push_back(to);
    });
}

/// The middle of a body's extents, in its owner's frame.
std::optional<Eigen::Vector3d> placeOf(const Project& project, const BodyRef& ref) {
    const Body* body = findBody(project, ref);
    if (!body) return std::nullopt;
    return Eigen::Vector3d(body->poseOwnerBody() * extents_mm(body->shape).center());
}

void bodyGoes(Project& project, const BodyRef& ref, const std::optional<Eigen::Vector3d>& at_mm) {
    for (const SectionKind& kind : sectionKinds())
        if (kind.bodyGoes) kind.bodyGoes(project.sections, ref, at_mm);
}

Result<Project> withCopy(const Project& project, const BodyRef& ref, Body copy, BodyId& id) {
    Project out = project;
    std::vector<Body>& bodies = *bodiesOf(out, ref.owner);
    copy.name = freshName(copy.name, bodies);
    copy.tape.entry.clear(); // the first one answers the survey
    copy.id.text = freshId(copy.name, idsOf(bodies));
    id = copy.id;
    const auto at = std::find_if(bodies.begin(), bodies.end(), [&](const Body& b) { return b.id == ref.body; });
    bodies.insert(at + 1, std::move(copy));
    return out;
}

} // namespace

std::string freshId(const std::string& name, const std::vector<std::string>& taken) {
    int last = 1;
    return freshId(
        name, [&taken](const std::string& id) { return std::find(taken.begin(), taken.end(), id) != taken.end(); },
        &last);
}

std::string freshId(const std::string& name, const std::function<bool(const std::string&)>& is_taken, int* last) {
    std::string slug;
    for (const char c : name) {
        if (quantity::isLetter(c) || quantity::isDigit(c))
            slug += quantity::lower(c);
        else if (!slug.empty() && slug.back() != '-')
            slug += '-';
    }
    while (!slug.empty() && slug.back() == '-') slug.pop_back();
    if (slug.empty() || slug == vehicle_owner) slug = "item";
    std::string id = slug;
    while (is_taken(id)) id = slug + "-" + std::to_string(++*last);
    return id;
}

Donor* findDonor(Project& project, const DonorId& id) {
    const auto found =
        std::find_if(project.donors.begin(), project.donors.end(), [&id](const Donor& d) { return d.id == id; });
    return found == project.donors.end() ? nullptr : &*found;
}

std::vector<Body>* bodiesOf(Project& project, const std::string& owner) {
    if (owner == vehicle_owner) return project.vehicle ? &project.vehicle->bodies : nullptr;
    Donor* donor = findDonor(project, DonorId{owner});
    return donor ? &donor->bodies : nullptr;
}
const std::vector<Body>* bodiesOf(const Project& project, const std::string& owner) {
    if (owner == vehicle_owner) return project.vehicle ? &project.vehicle->bodies : nullptr;
    const Donor* donor = findDonor(project, DonorId{owner});
    return donor ? &donor->bodies : nullptr;
}

std::vector<MotionSpec>* motionsOf(Project& project, const std::string& owner) {
    if (owner == vehicle_owner) return project.vehicle ? &project.vehicle->motions : nullptr;
    Donor* donor = findDonor(project, DonorId{owner});
    return donor ? &donor->motions : nullptr;
}

Result<Project> withBody(const Project& project, const std::string& owner, Body& body) {
    Project out = project;
    std::vector<Body>* bodies = bodiesOf(out, owner);
    if (!bodies) return noOwner(owner);
    body.name = freshName(body.name, *bodies);
    body.id.text = freshId(body.name, idsOf(*bodies));
    bodies->push_back(body);
    return out;
}

Result<Project> withBodyCopied(const Project& project, const BodyRef& ref, BodyId& copy) {
    const Body* body = findBody(project, ref);
    if (!body) return noBody(ref);
    Body twin = *body;
    twin.name += " copy";
    auto out = withCopy(project, ref, std::move(twin), copy);
    if (out) joinAlike(out.value(), ref, {ref.owner, copy}), moveAlike(out.value(), ref, copy);
    return out;
}

Result<Project> withBodyMirrored(const Project& project, const BodyRef& ref, BodyId& image) {
    const Body* body = findBody(project, ref);
    if (!body) return noBody(ref);
    Body twin = mirrored(*body);
    twin.name = mirroredName(body->name);
    // It stays bound: the other side read again or changed changes this one too.
    twin.tape = {};
    if (body->tape.way != "mirror") {
        twin.tape.way = "mirror";
        twin.tape.of = body->id;
    }
    return withCopy(project, ref, std::move(twin), image);
}

namespace {

/// Whether a text names a body.
bool names(const describe::Member& m, const std::string& text, const BodyRef& ref) {
    return m.target == describe::Target::Body ? m.owner == ref.owner && text == ref.body.text
                                              : m.target == describe::Target::BodyPath && text == ref.text();
}

bool isDonor(const describe::Member& m) {
    return m.target == describe::Target::Donor || m.target == describe::Target::Owner;
}
/// Whether it names something of an owner, "owner/…".
bool isOf(const describe::Member& m, const std::string& text, const std::string& owner) {
    using describe::Target;
    const bool path = m.target == Target::BodyPath || m.target == Target::ChoicePath ||
                      m.target == Target::OptionPath || m.target == Target::ItemPath;
    return path && text.compare(0, owner.size() + 1, owner + "/") == 0;
}

} // namespace

Project withoutBody(const Project& project, const BodyRef& ref) {
    Project out = project;
    if (std::vector<Body>* bodies = bodiesOf(out, ref.owner)) {
        drop(*bodies, [&](const Body& b) { return b.id == ref.body; });
        for (Body& b : *bodies)
            if (b.tape.of == ref.body) b.tape = {}; // the image stays where it is
    }
    bodyGoes(out, ref, placeOf(project, ref));
    describe::Forgetter forget(
        [&ref](const describe::Member& m, const std::string& text) { return names(m, text, ref); });
    describe(forget, out);
    return out;
}

Project withBodyNamed(const Project& project, BodyRef ref, const std::string& name, BodyId& id) {
    Project out = project;
    id = ref.body;
    std::vector<Body>* bodies = bodiesOf(out, ref.owner);
    Body* body = findBody(out, ref);
    if (!bodies || !body) return out;
    std::vector<std::string> others = idsOf(*bodies);
    others.erase(std::find(others.begin(), others.end(), ref.body.text));
    const bool made = ref.body.text == freshId(body->name, others);
    body->name = name;
    if (!made) return out;
    id.text = body->id.text = freshId(name, others);
    describe::References follow([&ref, &id](const describe::Reference& one) {
        const bool path = one.member.target != describe::Target::Body;
        if (names(one.member, one.text, ref) ||
            (one.member.target == describe::Target::ItemPath && one.text == ref.text()))
            one.text = path ? BodyRef{ref.owner, id}.text() : id.text;
    });
    describe(follow, out);
    return out;
}

Project withDonorNamed(const Project& project, DonorId ref, const std::string& name, DonorId& id) {
    Project out = project;
    id = ref;
    Donor* donor = findDonor(out, ref);
    if (!donor) return out;
    std::vector<std::string> others = idsOf(out.donors);
    others.erase(std::find(others.begin(), others.end(), ref.text));
    const bool made = ref.text == freshId(donor->name, others);
    donor->name = name;
    if (!made) return out;
    id.text = donor->id.text = freshId(name, others);
    describe::References follow([&ref, &id](const describe::Reference& one) {
        if (isDonor(one.member) && one.text == ref.text)
            one.text = id.text;
        else if (isOf(one.member, one.text, ref.text))
            one.text = id.text + one.text.substr(ref.text.size());
    });
    describe(follow, out);
    return out;
}

Project withDonor(const Project& project, Donor donor) {
    Project out = project;
    donor.id.text = freshId(donor.name, idsOf(out.donors));
    Placement placement;
    placement.donor = donor.id;
    placement.name = donor.name + ", first try";
    placement.id.text = freshId(placement.name, idsOf(out.placements));
    placement.pivot = Pivot::BlockFace; // the only one that needs nothing measured
    if (const Placement* active = activePlacement(project)) {
        placement.position_mm = active->position_mm;
        placement.angles = active->angles;
    }
    out.active_placement = placement.id;
    out.donors.push_back(std::move(donor));
    out.placements.push_back(std::move(placement));
    return out;
}

Project withoutDonor(const Project& project, const DonorId& id) {
    Project out = project;
    if (const Donor* donor = findDonor(project, id))
        for (const Body& body : donor->bodies) bodyGoes(out, {id.text, body.id}, std::nullopt);
    drop(out.donors, [&](const Donor& d) { return d.id == id; });
    std::vector<PlacementId> gone;
    for (const Placement& p : out.placements)
        if (p.donor == id) gone.push_back(p.id);
    for (const PlacementId& placement : gone) out = withoutPlacement(out, placement);
    describe::Forgetter forget([&id](const describe::Member& m, const std::string& text) {
        return (isDonor(m) && text == id.text) || isOf(m, text, id.text);
    });
    describe(forget, out);
    return out;
}

Result<Project> withPlacementCopied(const Project& project, const std::string& name) {
    const Placement* active = activePlacement(project);
    if (!active) return Error{"there is no placement to copy", project.name, "hang a donor first"};
    Project out = project;
    Placement copy = *active;
    copy.name = name;
    copy.id.text = freshId(name, idsOf(out.placements));
    out.active_placement = copy.id;
    out.placements.push_back(std::move(copy));
    return out;
}

Project withoutPlacement(const Project& project, const PlacementId& id) {
    Project out = project;
    drop(out.placements, [&](const Placement& p) { return p.id == id; });
    drop(out.measured, [&](const MeasuredGap& m) { return m.placement == id; });
    if (out.active_placement == id)
        out.active_placement = out.placements.empty() ? PlacementId{} : out.placements.front().id;
    return out;
}

Project withOption(const Project& project, const std::string& choice, const std::string& option) {
    Project out = project;
    Placement* placement = activePlacement(out);
    if (!placement) return out;
    for (Taken& taken : placement->taken)
        if (taken.choice == choice) {
            taken.option = option;
            return out;
        }
    placement->taken.push_back({choice, option, {}});
    return out;
}

Result<Project> withVariant(const Project& project, const BodyRef& ref, const std::string& name, BodyId& copy) {
    const Body* body = findBody(project, ref);
    if (!body) return noBody(ref);
    const std::string old = body->option;
    auto made = withBodyCopied(project, ref, copy);
    if (!made) return made.error();
    Project out = std::move(made).value();
    Donor* donor = findDonor(out, DonorId{ref.owner});
    std::vector<Choice>& choices = ref.inVehicle() ? out.vehicle->choices : donor->choices;
    const std::string choiceId = old.substr(0, old.find('/'));
    auto choice = std::find_if(choices.begin(), choices.end(), [&](const Choice& c) { return c.id == choiceId; });
    const auto optionIds = [](const Choice& c) {
        std::vector<std::string> ids;
        for (const Option& option : c.options) ids.push_back(option.id);
        return ids;
    };
    if (old.empty() || choice == choices.end()) {
        std::vector<std::string> taken;
        for (const Choice& c : choices) taken.push_back(c.id);
        Choice fresh;
        fresh.name = body->name;
        fresh.id = freshId(fresh.name, taken);
        fresh.options.push_back({"as-it-came", "as it came", "", {}});
        findBody(out, ref)->option = fresh.id + "/as-it-came";
        choices.push_back(std::move(fresh));
        choice = choices.end() - 1;
    }
    Option option;
    option.name = name;
    option.id = freshId(name, optionIds(*choice));
    Body* twin = findBody(out, {ref.owner, copy});
    twin->option = choice->id + "/" + option.id;
    std::string wish = body->name + ", " + name;
    std::vector<Body> others = *bodiesOf(out, ref.owner);
    drop(others, [&](const Body& b) { return b.id == copy; });
    twin->name = freshName(wish, others);
    choice->options.push_back(std::move(option));
    return withOption(out, ref.owner + "/" + choice->id, choice->options.back().id);
}

} // namespace gabarit::model
