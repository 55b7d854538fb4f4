#include "mounts/apply.h"

#include "model/edit.h"
#include "model/owner_place.h"
#include "model/reshape.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using model::Bracket;
using model::Mount;
using model::Project;

Error noMount(const std::string& id) { return {"there is no mount \"" + id + "\"", "mounts", "choose one of them"}; }

std::optional<Bracket>& bracketIn(Mount& mount, Which which) {
    return which == Which::Bracket ? mount.bracket : mount.tower;
}
std::string ownerOf(const Mount& mount, Which which) {
    return which == Which::Bracket ? mount.pad.owner : mount.stand ? mount.stand->owner : model::vehicle_owner;
}

std::vector<std::string> partIds(const Project& project) {
    std::vector<std::string> out;
    for (const model::Part& part : model::partsOf(project)) out.push_back(part.id.text);
    return out;
}
model::Part* partIn(Project& project, const std::string& id) {
    auto* parts = id.empty() ? nullptr : project.sections.own<model::Parts>();
    if (!parts) return nullptr;
    for (model::Part& part : *parts)
        if (part.id.text == id) return &part;
    return nullptr;
}
/// The part of that id, or a new one; its id goes back there.
model::Part& partFor(Project& project, std::string& id, const std::string& name) {
    if (model::Part* part = partIn(project, id)) return *part;
    id = model::freshId(name, partIds(project));
    model::Part part;
    part.id.text = id;
    part.name = name;
    part.on_car = model::OnCar::On;
    model::Parts& parts = project.sections.edit<model::Parts>();
    parts.push_back(std::move(part));
    return parts.back();
}

void removeBodies(Project& project, const std::string& owner, const std::vector<std::string>& ids) {
    for (const std::string& id : ids) {
        const model::BodyRef ref{owner, model::BodyId{id}};
        // Its part is told anew where it is, or goes too.
        if (auto* parts = project.sections.own<model::Parts>())
            for (model::Part& part : *parts)
                if (part.body == ref.text()) part.body.clear();
        project = model::withoutBody(project, ref);
    }
}

void join(Project& project, const model::BodyRef& a, const model::BodyRef& b, const std::string& reason) {
    if (!model::joinedPair(project, a, b)) project.joined.push_back({a, b, reason, {}});
}

/// Whether a place lies in or on a body, near enough for the face to be a part of it: by its extents.
bool carries(const model::Body& body, const Vector3d& at_owner_mm) {
    constexpr double near_mm = 3;
    // Hoses and sheets carry nothing, and their extents are mostly air.
    if (std::holds_alternative<model::TubeSpec>(body.shape) || std::holds_alternative<model::SheetSpec>(body.shape))
        return false;
    const Eigen::AlignedBox3d box = model::extents_mm(body.shape);
    return box.exteriorDistance(Vector3d(body.poseOwnerBody().inverse() * at_owner_mm)) < near_mm;
}

std::string sideSwapped(std::string name) {
    for (const auto& [a, b] : {std::pair("Left", "Right"), std::pair("left", "right")}) {
        if (const auto at = name.find(a); at != std::string::npos) return name.replace(at, std::string(a).size(), b);
        if (const auto at = name.find(b); at != std::string::npos) return name.replace(at, std::string(b).size(), a);
    }
    return name + ", other side";
}

} // namespace

Mount* mountIn(Project& project, const std::string& id) {
    if (auto* mounts = project.sections.own<model::Mounts>())
        for (Mount& mount : mounts->mounts)
            if (mount.id == id) return &mount;
    return nullptr;
}

Result<Project> withBracket(const Project& project, const model::RuleBook& book, const std::string& id, Which which,
                            const Bracket& bracket) {
    Project out = project;
    Mount* mount = mountIn(out, id);
    if (!mount) return noMount(id);
    const auto ends = bracketEnds(out, book, *mount, which);
    if (!ends) return ends.error();
    const auto made = makeBracket(ends.value(), bracket, book);
    if (!made) return made.error();
    std::string part_id = bracket.part;
    if (const auto& before = bracketIn(*mount, which)) {
        if (part_id.empty()) part_id = before->part;
        const std::vector<std::string> bodies = before->bodies;
        removeBodies(out, ends.value().owner, bodies);
        mount = mountIn(out, id);
    }
    Bracket its = bracket;
    its.bodies.clear();
    const std::string name = mount->name + " " + word(which);
    const std::string owner = ends.value().owner;
    // What carries the face is looked up before the pieces come.
    std::vector<model::BodyRef> carriers;
    if (const auto* bodies = model::bodiesOf(out, owner))
        for (const model::Body& body : *bodies)
            if (carries(body, ends.value().face_mm)) carriers.push_back({owner, body.id});
    for (const Piece& piece : made.value().pieces) {
        model::Body body;
        body.name = made.value().pieces.size() == 1 ? name : name + ", " + piece.name;
        body.category = owner == model::vehicle_owner ? "bracket" : "accessory";
        body.shape = piece.shape;
        body.position_mm = piece.pose_owner.translation();
        body.angles = model::anglesOf(piece.pose_owner.linear());
        body.standing = model::Standing::Added;
        body.accuracy_mm = book.figure("bracket_off_mm");
        body.mass_kg = piece.mass_kg;
        body.note = "made by the mount; make it again there";
        auto added = model::withBody(out, owner, body);
        if (!added) return added.error();
        out = std::move(added).value();
        its.bodies.push_back(body.id.text);
    }
    for (std::size_t i = 0; i < its.bodies.size(); ++i) {
        const model::BodyRef ref{owner, model::BodyId{its.bodies[i]}};
        for (std::size_t k = i + 1; k < its.bodies.size(); ++k)
            join(out, ref, {owner, model::BodyId{its.bodies[k]}}, "welded to one another");
        for (const model::BodyRef& carrier : carriers) join(out, ref, carrier, "bolted or welded on");
    }
    model::Part& part = partFor(out, part_id, name);
    mount = mountIn(out, id);
    part.mass_kg = made.value().mass_kg;
    part.on_car = model::OnCar::On;
    part.at_mm.reset();
    part.rides_on_donor = false;
    part.body = model::BodyRef{owner, model::BodyId{its.bodies[its.bodies.size() > 1 ? 1 : 0]}}.text();
    if (part.source.empty()) part.source = "made";
    if (part.why.empty()) part.why = "holds the unit";
    // The mount's cost is of all its metal: a tower beside a bracket is priced with that.
    if (!part.cost) part.cost = which == Which::Tower && mount->bracket ? std::optional(0.0) : mount->cost;
    its.part = part_id;
    bracketIn(*mount, which) = std::move(its);
    return out;
}

Result<Project> withoutBracket(const Project& project, const std::string& id, Which which) {
    Project out = project;
    Mount* mount = mountIn(out, id);
    if (!mount) return noMount(id);
    const auto before = bracketIn(*mount, which);
    if (!before) return out;
    removeBodies(out, ownerOf(*mount, which), before->bodies);
    if (auto* parts = before->part.empty() ? nullptr : out.sections.own<model::Parts>())
        parts->erase(std::remove_if(parts->begin(), parts->end(),
                                    [&](const model::Part& part) { return part.id.text == before->part; }),
                     parts->end());
    bracketIn(*mountIn(out, id), which).reset();
    return out;
}

Project withBracketsAgain(const Project& project, const model::RuleBook& book) {
    Project out = project;
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return out;
    for (const Mount& mount : mounts->mounts)
        for (const Which which : {Which::Bracket, Which::Tower}) {
            const Bracket* bracket = bracketOf(mount, which);
            if (!bracket || bracket->bodies.empty()) continue;
            if (auto again = withBracket(out, book, mount.id, which, *bracket); again) out = std::move(again).value();
        }
    return out;
}

Project withProposal(const Project& project, const model::RuleBook& book, const Proposal& proposal) {
    Project out = project;
    out.sections.edit<model::Mounts>() = proposal.mounts;
    return withBracketsAgain(out, book);
}

Result<Project> withIsolator(const Project& project, const model::RuleBook& book,
                             const std::vector<std::string>& mounts, const std::string& isolator) {
    Project out = project;
    for (const std::string& id : mounts) {
        Mount* mount = mountIn(out, id);
        if (!mount) return noMount(id);
        mount->isolator = isolator;
    }
    return withBracketsAgain(out, book);
}

Project withIsolatorsListed(const Project& project, const model::RuleBook& book) {
    Project out = project;
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return out;
    for (const Mount& mount : mounts->mounts) {
        const model::Isolator* isolator = isolatorOf(project, book, mount);
        const auto placed = placedMount(project, book, mount);
        if (!isolator || !placed) continue;
        std::string id = model::freshId("Isolator of " + mount.name, {});
        model::Part& part = partFor(out, id, "Isolator of " + mount.name);
        part.why = isolator->name;
        part.mass_kg = isolator->mass_kg;
        if (!part.cost) part.cost = isolator->cost;
        part.on_car = isolator->mass_kg ? model::OnCar::On : model::OnCar::No;
        part.at_mm = placed.value().at_mm;
        if (part.source.empty()) part.source = "shop";
    }
    return out;
}

Result<model::MountFace> onOwner(const model::Project& project, const model::MountFace& face,
                                 const std::string& owner) {
    const auto stands = model::ownerPlace(project, face.owner, face.point, face.at_mm, face.owner);
    if (!stands) return stands.error();
    const auto its = model::ownerPlace(project, owner, {}, Eigen::Vector3d::Zero(), owner);
    if (!its) return its.error();
    const Eigen::Isometry3d to = its.value().pose_vehicle_owner.inverse();
    const Eigen::Matrix3d turn = to.linear() * stands.value().pose_vehicle_owner.linear();
    model::MountFace out = face;
    out.owner = owner;
    out.point = {};
    out.at_mm = to * stands.value().vehicle_mm();
    out.out = turn * face.out;
    out.mark = turn * face.mark;
    return out;
}

Result<Project> withMountMirrored(const Project& project, const std::string& id, std::string& image) {
    Project out = project;
    const Mount* first = mountIn(out, id);
    if (!first) return noMount(id);
    Mount twin = *first;
    const auto mirror = [](const Vector3d& v) { return Vector3d(v.x(), -v.y(), v.z()); };
    const auto mirrorFace = [&](model::MountFace& face) -> Result<void> {
        const auto its = model::ownerPlace(project, face.owner, face.point, face.at_mm, first->name);
        if (!its) return its.error();
        const Isometry3d pose = its.value().pose_vehicle_owner;
        face.at_mm = pose.inverse() * mirror(its.value().vehicle_mm());
        face.point.text.clear();
        const auto turn = [&](const Vector3d& v) {
            return Vector3d(pose.linear().transpose() * mirror(pose.linear() * v));
        };
        face.out = turn(face.out);
        face.mark = turn(face.mark);
        for (Eigen::Vector2d& hole : face.holes_mm) hole.y() = -hole.y(); // what was to the left of the mark
        return {};
    };
    if (const auto there = mirrorFace(twin.pad); !there) return there.error();
    if (twin.stand)
        if (const auto there = mirrorFace(*twin.stand); !there) return there.error();
    if (twin.centre_mm) twin.centre_mm = mirror(*twin.centre_mm);
    if (twin.axis) twin.axis = mirror(*twin.axis);
    for (std::optional<Bracket>* bracket : {&twin.bracket, &twin.tower})
        if (*bracket) {
            const std::string& owner = bracket == &twin.bracket ? twin.pad.owner : twin.stand->owner;
            const auto its = model::ownerPlace(project, owner, {}, Vector3d::Zero(), first->name);
            const Isometry3d pose = its ? its.value().pose_vehicle_owner : Isometry3d::Identity();
            (*bracket)->bodies.clear();
            (*bracket)->part.clear();
            for (Vector3d& via : (*bracket)->via_mm) via = pose.inverse() * mirror(pose * via);
        }
    twin.holds.clear();
    twin.name = sideSwapped(first->name);
    std::vector<std::string> ids;
    std::vector<Mount>& all = out.sections.edit<model::Mounts>().mounts;
    for (const Mount& mount : all) ids.push_back(mount.id);
    image = twin.id = model::freshId(twin.name, ids);
    all.push_back(std::move(twin));
    return out;
}

Result<Project> withOption(const Project& project, const std::string& id, std::size_t option) {
    Project out = project;
    Mount* mount = mountIn(out, id);
    if (!mount) return noMount(id);
    if (option >= mount->options.size())
        return Error{"it has no such option", "mount \"" + mount->name + "\"", "choose one of its options"};
    const auto nameOf = [](model::MountMade made) {
        switch (made) {
        case model::MountMade::OwnBracket: return "Own bracket";
        case model::MountMade::Adapter: return "Adapter to buy";
        case model::MountMade::SisterPart: return "Sister model's part";
        case model::MountMade::Kept: return "Kept as it is";
        }
        return "Own bracket";
    };
    model::MountOption& taken = mount->options[option];
    model::MountOption before{mount->made, nameOf(mount->made), mount->cost, mount->note, {}};
    mount->made = taken.made;
    mount->cost = taken.cost;
    mount->note = taken.note;
    taken = std::move(before);
    for (const Which which : {Which::Bracket, Which::Tower})
        if (const Bracket* bracket = bracketOf(*mount, which))
            if (model::Part* part = partIn(out, bracket->part); part && which == Which::Bracket)
                part->cost = mount->cost;
    return out;
}

Result<Project> withCrossmemberThere(const Project& project, const model::RuleBook& book, const std::string& id) {
    const auto report = judgeMounts(project, book, {});
    if (!report || !report->usable)
        return Error{report ? report->reason : "there are no mounts", "mounts", "mend that first"};
    const CrossmemberReport* there = nullptr;
    for (const CrossmemberReport& c : report->crossmembers)
        if (c.id == id) there = &c;
    if (!there) return Error{"there is no crossmember \"" + id + "\"", "mounts", "choose one of them"};
    if (!there->reason.empty()) return Error{there->reason, there->name, "mend that first"};
    Project out = project;
    for (const model::Crossmember& its : project.sections.get<model::Mounts>()->crossmembers) {
        if (its.id != id) continue;
        Mount* mount = mountIn(out, its.mount);
        model::MountFace stand = mount->stand.value_or(model::MountFace{});
        stand.owner = model::vehicle_owner;
        stand.point.text.clear();
        stand.at_mm = there->seat_mm;
        mount->stand = stand;
        if (model::Body* body = model::findBody(out, {model::vehicle_owner, its.body})) {
            const double middle_x = (body->poseOwnerBody() * model::extents_mm(body->shape).center()).x();
            const double holes_x = (there->left_mm.x() + there->right_mm.x()) / 2 + there->slid_mm;
            body->shift_mm.x() += holes_x - middle_x;
        }
    }
    return withBracketsAgain(out, book);
}

Result<Project> withFrameMade(const Project& project, const model::RuleBook& book, const std::string& id) {
    Project out = project;
    auto* mounts = out.sections.own<model::Mounts>();
    if (!mounts) return Error{"there are no mounts", "mounts", "add them first"};
    const auto frame = std::find_if(mounts->frames.begin(), mounts->frames.end(),
                                    [&id](const model::SeatFrame& f) { return f.id == id; });
    if (frame == mounts->frames.end()) return Error{"there is no frame \"" + id + "\"", "mounts", "choose one of them"};
    const std::size_t at = static_cast<std::size_t>(std::distance(mounts->frames.begin(), frame));
    if (!out.vehicle) return Error{"there is no vehicle", frame->name, "survey it first"};
    if (frame->members_mm.empty()) {
        std::vector<Vector3d> seats;
        for (const std::string& name : frame->seats) {
            const auto seat = std::find_if(mounts->seats.begin(), mounts->seats.end(),
                                           [&name](const model::OldSeat& s) { return s.id == name; });
            if (seat == mounts->seats.end())
                return Error{"there is no seat \"" + name + "\"", frame->name, "choose one of them"};
            const auto its = model::ownerPlace(out, seat->face.owner, seat->face.point, seat->face.at_mm, seat->name);
            if (!its) return its.error();
            seats.push_back(its.value().vehicle_mm());
        }
        if (seats.size() < 2) return Error{"fewer than two seats", frame->name, "choose the seats that it spans"};
        for (std::size_t i = 0; i < seats.size(); ++i)
            if (seats.size() > 2 || i == 0) frame->members_mm.push_back({seats[i], seats[(i + 1) % seats.size()]});
    }
    const std::vector<std::string> before = frame->bodies;
    removeBodies(out, model::vehicle_owner, before); // `mounts` and `frame` are no more
    const model::SeatFrame its = out.sections.get<model::Mounts>()->frames[at];
    const double width = its.width_mm.value_or(book.figure("frame_width_mm")),
                 height = its.height_mm.value_or(book.figure("frame_height_mm")),
                 wall = its.wall_mm.value_or(book.figure("frame_wall_mm"));
    const double area = width * height - (width - 2 * wall) * (height - 2 * wall);
    std::vector<std::string> made;
    double mass = 0;
    Vector3d middle = Vector3d::Zero();
    for (const auto& member : its.members_mm)
        for (std::size_t k = 1; k < member.size(); ++k) {
            model::Body body;
            body.name = its.name + ", tube " + std::to_string(made.size() + 1);
            body.category = "bracket";
            body.position_mm = member[k - 1];
            body.shape = model::ProfileSpec{model::RectTubeSection{width, height, wall}, Vector3d::Zero(),
                                            Vector3d(member[k] - member[k - 1]), 0};
            body.standing = model::Standing::Added;
            body.accuracy_mm = book.figure("bracket_off_mm");
            const double kg = area * (member[k] - member[k - 1]).norm() * book.figure("steel_density_kg_m3") / 1e9;
            body.mass_kg = kg;
            mass += kg;
            middle += kg * (member[k] + member[k - 1]) / 2;
            auto added = model::withBody(out, model::vehicle_owner, body);
            if (!added) return added.error();
            out = std::move(added).value();
            made.push_back(body.id.text);
        }
    for (std::size_t i = 0; i < made.size(); ++i) {
        const model::BodyRef ref{model::vehicle_owner, model::BodyId{made[i]}};
        for (std::size_t k = i + 1; k < made.size(); ++k)
            join(out, ref, {model::vehicle_owner, model::BodyId{made[k]}}, "welded to one another");
        // The seats themselves, and nothing else of the vehicle.
        for (const std::string& name : its.seats)
            for (const model::OldSeat& seat : out.sections.get<model::Mounts>()->seats) {
                if (seat.id != name) continue;
                const auto place = model::ownerPlace(out, seat.face.owner, seat.face.point, seat.face.at_mm, seat.name);
                if (!place) continue;
                const std::vector<model::Body> bodies = out.vehicle->bodies;
                for (const model::Body& body : bodies)
                    if (std::find(made.begin(), made.end(), body.id.text) == made.end() &&
                        carries(body, place.value().at_mm))
                        join(out, ref, {model::vehicle_owner, body.id}, "stands on its seat");
            }
    }
    std::string part_id = model::freshId(its.name, {});
    model::Part& part = partFor(out, part_id, its.name);
    part.mass_kg = mass;
    part.on_car = model::OnCar::On;
    if (mass > 0) part.at_mm = middle / mass;
    if (part.source.empty()) part.source = "made";
    if (part.why.empty()) part.why = "spans the seats";
    out.sections.edit<model::Mounts>().frames[at].bodies = made;
    return out;
}

Result<Project> withOldMount(const Project& project, const std::string& id, model::OldState state,
                             const std::string& date, const std::string& who) {
    Project out = project;
    if (auto* mounts = out.sections.own<model::Mounts>())
        for (model::OldMount& old : mounts->old_mounts) {
            if (old.id != id) continue;
            const std::string where = "old mount \"" + old.name + "\"";
            if (old.state == model::OldState::Gone && state != model::OldState::Gone)
                return Error{"it is cut off already", where, "survey what stands there now"};
            if (state == model::OldState::Gone && old.state == model::OldState::Stays)
                return Error{"it is not planned to go yet", where, "plan it first and see what that changes"};
            old.state = state;
            old.date = state == model::OldState::Gone ? date : std::string();
            old.who = state == model::OldState::Gone ? who : std::string();
            if (model::Body* body = model::findBody(out, {model::vehicle_owner, old.body}))
                body->standing = state == model::OldState::Stays ? model::Standing::Found : model::Standing::Removed;
            return out;
        }
    return Error{"there is no old mount \"" + id + "\"", "mounts", "choose one of them"};
}

} // namespace gabarit::mounts
