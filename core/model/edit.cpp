#include "model/edit.h"

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
    // It stays bound: the other side read again moves this one too.
    twin.tape = {};
    if (body->tape.bound() && body->tape.way != "mirror") {
        twin.tape.way = "mirror";
        twin.tape.of = body->id;
    }
    return withCopy(project, ref, std::move(twin), image);
}

namespace {

/// What the mounts know an owner's bodies by; an emptied id goes.
template <class Follow>
void mountBodies(Project& project, const std::string& owner, Follow follow) {
    if (!project.mounts) return;
    const auto list = [&](std::vector<std::string>& ids) {
        for (std::string& id : ids) follow(id);
        drop(ids, [](const std::string& id) { return id.empty(); });
    };
    for (Mount& mount : project.mounts->mounts) {
        if (mount.bracket && mount.pad.owner == owner) list(mount.bracket->bodies);
        if (mount.tower && mount.stand && mount.stand->owner == owner) list(mount.tower->bodies);
    }
    if (owner != vehicle_owner) return;
    for (SeatFrame& frame : project.mounts->frames) list(frame.bodies);
    for (Crossmember& crossmember : project.mounts->crossmembers) follow(crossmember.body.text);
    for (OldMount& old : project.mounts->old_mounts) follow(old.body.text);
}

} // namespace

Project withoutBody(const Project& project, const BodyRef& ref) {
    Project out = project;
    if (std::vector<Body>* bodies = bodiesOf(out, ref.owner))
        drop(*bodies, [&](const Body& b) { return b.id == ref.body; });
    const auto speaks = [&](const auto& pair) { return pair.a == ref || pair.b == ref; };
    drop(out.joined, speaks);
    drop(out.measured, speaks);
    if (out.parts)
        for (Part& part : *out.parts)
            if (part.body == ref.text()) {
                part.at_mm = placeOf(project, ref); // it stays where it was
                part.rides_on_donor = !ref.inVehicle();
                part.body.clear();
            }
    if (std::vector<Body>* bodies = bodiesOf(out, ref.owner))
        for (Body& b : *bodies)
            if (b.tape.of == ref.body) b.tape = {}; // the image stays where it is
    for (Condition& condition : out.conditions)
        if (condition.owner == ref.owner && condition.body == ref.body) condition.body.text.clear();
    movedBodies(out, ref.owner,
                [&](std::vector<BodyId>& ids) { drop(ids, [&](const BodyId& moved) { return moved == ref.body; }); });
    mountBodies(out, ref.owner, [&](std::string& id) {
        if (id == ref.body.text) id.clear();
    });
    if (out.relief) {
        if (ref.inVehicle()) {
            drop(out.relief->pockets, [&](const Pocket& pocket) { return pocket.body == ref.body; });
            drop(out.relief->holes, [&](const KeptHole& hole) { return hole.body == ref.body; });
        }
        for (Pocket& pocket : out.relief->pockets)
            drop(pocket.intruders, [&](const BodyRef& intruder) { return intruder == ref; });
    }
    const auto forget = [&](std::vector<ServicedBolt>& bolts) {
        for (ServicedBolt& bolt : bolts)
            if (bolt.in == ref.body) bolt.in.text.clear();
    };
    if (ref.inVehicle() && out.vehicle) forget(out.vehicle->serviced);
    if (Donor* donor = findDonor(out, DonorId{ref.owner})) forget(donor->serviced);
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
    const auto follow = [&](BodyRef& r) {
        if (r == ref) r.body = id;
    };
    for (Joined& pair : out.joined) follow(pair.a), follow(pair.b);
    for (MeasuredGap& gap : out.measured) follow(gap.a), follow(gap.b);
    if (out.parts)
        for (Part& part : *out.parts)
            if (part.body == ref.text()) part.body = BodyRef{ref.owner, id}.text();
    for (Body& b : *bodies)
        if (b.tape.of == ref.body) b.tape.of = id;
    for (Condition& condition : out.conditions)
        if (condition.owner == ref.owner && condition.body == ref.body) condition.body = id;
    movedBodies(out, ref.owner, [&](std::vector<BodyId>& ids) { std::replace(ids.begin(), ids.end(), ref.body, id); });
    mountBodies(out, ref.owner, [&](std::string& its) {
        if (its == ref.body.text) its = id.text;
    });
    if (out.mounts)
        for (Mount& mount : out.mounts->mounts)
            for (HoldSigned& hold : mount.holds)
                for (HoldBasis& basis : hold.basis)
                    if (basis.item == ref.text()) basis.item = BodyRef{ref.owner, id}.text();
    if (out.relief) {
        for (Pocket& pocket : out.relief->pockets) {
            if (ref.inVehicle() && pocket.body == ref.body) pocket.body = id;
            for (BodyRef& intruder : pocket.intruders) follow(intruder);
            for (HoldSigned& hold : pocket.holds)
                for (HoldBasis& basis : hold.basis)
                    if (basis.item == ref.text()) basis.item = BodyRef{ref.owner, id}.text();
        }
        for (KeptHole& hole : out.relief->holes)
            if (ref.inVehicle() && hole.body == ref.body) hole.body = id;
    }
    std::vector<ServicedBolt>* bolts = ref.inVehicle() ? &out.vehicle->serviced : nullptr;
    if (Donor* donor = findDonor(out, DonorId{ref.owner})) bolts = &donor->serviced;
    if (bolts)
        for (ServicedBolt& bolt : *bolts)
            if (bolt.in == ref.body) bolt.in = id;
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
    const auto follow = [&](BodyRef& r) {
        if (r.owner == ref.text) r.owner = id.text;
    };
    for (Joined& pair : out.joined) follow(pair.a), follow(pair.b);
    for (MeasuredGap& gap : out.measured) follow(gap.a), follow(gap.b);
    for (Condition& condition : out.conditions)
        if (condition.owner == ref.text) condition.owner = id.text;
    const auto followText = [&](std::string& text) { // "donor/choice…"
        if (text.rfind(ref.text + "/", 0) == 0) text = id.text + text.substr(ref.text.size());
    };
    for (Placement& placement : out.placements) {
        if (placement.donor == ref) placement.donor = id;
        for (Taken& taken : placement.taken) followText(taken.choice);
    }
    if (out.parts)
        for (Part& part : *out.parts) followText(part.option), followText(part.body);
    if (out.driveline)
        for (ShaftLine& line : out.driveline->lines) {
            followText(line.option);
            for (FlangePlace* flange : {&line.from, &line.to})
                if (flange->owner == ref.text) flange->owner = id.text;
        }
    if (out.mounts)
        for (Mount& mount : out.mounts->mounts) {
            if (mount.pad.owner == ref.text) mount.pad.owner = id.text;
            if (mount.stand && mount.stand->owner == ref.text) mount.stand->owner = id.text;
            for (HoldSigned& hold : mount.holds)
                for (HoldBasis& basis : hold.basis) followText(basis.item);
        }
    if (out.relief)
        for (Pocket& pocket : out.relief->pockets) {
            for (BodyRef& intruder : pocket.intruders) follow(intruder);
            for (HoldSigned& hold : pocket.holds)
                for (HoldBasis& basis : hold.basis) followText(basis.item);
        }
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
    drop(out.donors, [&](const Donor& d) { return d.id == id; });
    std::vector<PlacementId> gone;
    for (const Placement& p : out.placements)
        if (p.donor == id) gone.push_back(p.id);
    for (const PlacementId& placement : gone) out = withoutPlacement(out, placement);
    const auto speaks = [&](const auto& pair) { return pair.a.owner == id.text || pair.b.owner == id.text; };
    drop(out.joined, speaks);
    drop(out.measured, speaks);
    drop(out.conditions, [&](const Condition& c) { return c.owner == id.text; });
    if (out.parts)
        for (Part& part : *out.parts) {
            if (part.option.rfind(id.text + "/", 0) == 0) part.option.clear();
            if (part.body.rfind(id.text + "/", 0) == 0) part.body.clear(), part.at_mm.reset();
        }
    if (out.driveline)
        for (ShaftLine& line : out.driveline->lines)
            if (line.option.rfind(id.text + "/", 0) == 0) line.option.clear();
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
