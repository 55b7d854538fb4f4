#include "mounts/holds.h"

#include "model/describe.h"
#include "model/owner_place.h"
#include "mounts/section/mounts.h"

#include <algorithm>
#include <cmath>

namespace gabarit::mounts {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Hold;
using model::HoldBasis;
using model::HoldSigned;
using model::Marker;
using model::Mount;

Marker& mark(Marker& m, const model::MountFace& face) {
    m << face.owner << face.point.text << face.at_mm << face.out << face.mark << face.thread_mm;
    for (const Vector2d& hole : face.holes_mm) m << hole;
    return m;
}
Marker& mark(Marker& m, const model::Bracket& b) {
    m << static_cast<double>(b.form) << b.tube_mm << b.wall_mm << b.plate_mm << b.gusset_mm << b.slot_mm;
    for (const Vector3d& via : b.via_mm) m << via;
    return m;
}
/// Where a named point is now: a face that hangs on it changes with it.
Marker& markPlace(Marker& m, const model::Project& project, const model::MountFace& face) {
    if (const auto its = model::ownerPlace(project, face.owner, face.point, face.at_mm, ""); its)
        m << its.value().at_mm;
    return m;
}

const Mount* mountOf(const model::Project& project, const std::string& id) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return nullptr;
    for (const Mount& mount : mounts->mounts)
        if (mount.id == id) return &mount;
    return nullptr;
}
} // namespace

std::vector<HoldBasis> basisOf(const model::Project& project, const Mount& mount, Hold hold) {
    std::vector<HoldBasis> out;
    const auto add = [&out](const std::string& item, const std::string& name, const Marker& m) {
        out.push_back(model::basis(item, name, m));
    };
    const model::Placement* placement = model::activePlacement(project);
    if (placement) {
        Marker m;
        m << placement->donor.text << placement->position_mm << placement->angles.yaw_deg << placement->angles.pitch_deg
          << placement->angles.roll_deg;
        add("placement", "where the unit hangs", m);
    }
    {
        Marker m;
        markPlace(mark(m, mount.pad), project, mount.pad);
        add("pad", "the pad on the unit", m);
    }
    if (mount.stand) {
        Marker m;
        markPlace(mark(m, *mount.stand), project, *mount.stand);
        add("stand", "the stand on the vehicle", m);
    }
    {
        Marker m;
        m << mount.isolator;
        for (const auto& place : {mount.centre_mm, mount.axis})
            if (place) m << *place;
        add("isolator", "the rubber or its place", m);
    }
    for (const auto& [bracket, item, name] :
         {std::tuple(&mount.bracket, "bracket", "the bracket"), std::tuple(&mount.tower, "tower", "the tower")})
        if (*bracket) {
            Marker m;
            add(item, name, mark(m, **bracket));
        }
    const model::Donor* donor = model::activeDonor(project);
    // Metal is tacked and welded to what carries it; a fit is made with everything on.
    if (!donor || hold == Hold::Tacked || hold == Hold::Welded || hold == Hold::Painted) return out;
    const auto addBodies = [&](const std::string& owner, const std::vector<model::Body>& bodies) {
        for (const model::Body& body : bodies) {
            if (!model::stands(project, owner, body) || body.category == "ground") continue;
            const auto own = [&](const std::optional<model::Bracket>& b) {
                return b && std::find(b->bodies.begin(), b->bodies.end(), body.id.text) != b->bodies.end();
            };
            if (own(mount.bracket) || own(mount.tower)) continue; // told by its own item
            out.push_back(model::basisOf({owner, body.id}, body));
        }
    };
    addBodies(donor->id.text, donor->bodies);
    if (project.vehicle) addBodies(model::vehicle_owner, project.vehicle->bodies);
    return out;
}

namespace {

bool ofVehicle(const HoldBasis& basis) { return basis.item.rfind(std::string(model::vehicle_owner) + "/", 0) == 0; }

/// What a step would be signed for now, as far as its signature knew of it: older ones know nothing
/// of the vehicle's bodies.
std::vector<HoldBasis> basisKnownTo(const model::Project& project, const Mount& mount, Hold hold) {
    std::vector<HoldBasis> out = basisOf(project, mount, hold);
    const HoldSigned* its = model::signedOf(mount.holds, hold);
    if (its && std::none_of(its->basis.begin(), its->basis.end(), ofVehicle))
        out.erase(std::remove_if(out.begin(), out.end(), ofVehicle), out.end());
    return out;
}

} // namespace

std::vector<HoldReport> holdsOf(const model::Project& project) {
    std::vector<HoldReport> out;
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return out;
    for (const Mount& mount : mounts->mounts)
        for (model::HoldState& state :
             model::holdStates(mount.holds, [&](Hold hold) { return basisKnownTo(project, mount, hold); })) {
            HoldReport r;
            static_cast<model::HoldState&>(r) = std::move(state);
            r.mount = mount.id;
            out.push_back(std::move(r));
        }
    return out;
}

double weldPull_mm(const model::Project& project, const model::RuleBook& book) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return 0;
    const std::vector<HoldReport> holds = holdsOf(project);
    for (const Mount& mount : mounts->mounts) {
        if (mount.made != model::MountMade::OwnBracket || (!mount.bracket && !mount.tower)) continue;
        const bool done = std::any_of(holds.begin(), holds.end(), [&mount](const HoldReport& r) {
            return r.mount == mount.id && r.hold == Hold::FittedAgain && r.holds;
        });
        if (!done) return book.figure("weld_pull_mm");
    }
    return 0;
}

Result<model::Project> withSigned(const model::Project& project, const std::string& id, Hold hold,
                                  const std::string& date, const std::string& who, const std::string& note) {
    const Mount* mount = mountOf(project, id);
    if (!mount) return Error{"there is no mount \"" + id + "\"", "mounts", "choose one of them"};
    const std::string where = "mount \"" + mount->name + "\", " + describe::said(hold);
    for (const HoldReport& r : holdsOf(project))
        if (r.mount == id && r.hold < hold && !r.holds)
            return Error{std::string("it is not ") + describe::said(r.hold) + (r.signed_off ? " as it is now" : " yet"),
                         where, "sign the steps in their order"};
    if (hold == Hold::FittedAgain) {
        const HoldSigned* welded = model::signedOf(mount->holds, Hold::Welded);
        const model::Placement* placement = model::activePlacement(project);
        const bool measured =
            placement &&
            std::any_of(project.measured.begin(), project.measured.end(), [&](const model::MeasuredGap& g) {
                return g.placement == placement->id && !g.date.empty() && g.date >= welded->date &&
                       (g.a.owner == placement->donor.text || g.b.owner == placement->donor.text);
            });
        if (!measured)
            return Error{"no gap of the unit was measured since it was welded", where,
                         "measure the tightest gaps (Place, Measured) and enter them with their date"};
    }
    model::Project out = project;
    for (Mount& m : out.sections.edit<model::Mounts>().mounts) {
        if (m.id != id) continue;
        model::sign(m.holds, {hold, date, who, note, basisOf(project, *mount, hold), {}});
    }
    return out;
}

model::Project withoutSigned(const model::Project& project, const std::string& id, Hold hold) {
    model::Project out = project;
    auto* mounts = out.sections.own<model::Mounts>();
    if (!mounts) return out;
    for (Mount& m : mounts->mounts)
        if (m.id == id) model::unsign(m.holds, hold);
    return out;
}

namespace {

/// Whether a pattern is its own image when its left becomes its right.
bool isOwnMirror(const std::vector<Vector2d>& holes, double within_mm) {
    return std::all_of(holes.begin(), holes.end(), [&](const Vector2d& hole) {
        return std::any_of(holes.begin(), holes.end(), [&](const Vector2d& other) {
            return (Vector2d(hole.x(), -hole.y()) - other).norm() <= within_mm;
        });
    });
}
Vector3d mirrored(const Vector3d& v) { return {v.x(), -v.y(), v.z()}; }

} // namespace

std::vector<HandedPair> handedOf(const model::Project& project, const model::RuleBook& book) {
    std::vector<HandedPair> out;
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return out;
    const double pair_mm = book.figure("handed_within_mm"), same_mm = book.figure("handed_same_mm");
    struct Placed {
        const Mount* mount;
        Vector3d pad_mm, pad_out, seat_mm;
    };
    std::vector<Placed> placed;
    for (const Mount& mount : mounts->mounts) {
        const auto pad = model::ownerPlace(project, mount.pad.owner, mount.pad.point, mount.pad.at_mm, "");
        if (!pad) continue;
        Placed p{&mount, pad.value().vehicle_mm(), pad.value().pose_vehicle_owner.linear() * mount.pad.out.normalized(),
                 pad.value().vehicle_mm()};
        if (mount.centre_mm)
            p.seat_mm = *mount.centre_mm;
        else if (mount.stand)
            if (const auto stand =
                    model::ownerPlace(project, mount.stand->owner, mount.stand->point, mount.stand->at_mm, "");
                stand)
                p.seat_mm = stand.value().vehicle_mm();
        placed.push_back(p);
    }
    for (const Placed& left : placed) {
        if (left.pad_mm.y() >= -pair_mm) continue;
        for (const Placed& right : placed) {
            if ((mirrored(left.pad_mm) - right.pad_mm).norm() > pair_mm) continue;
            HandedPair pair{left.mount->id, right.mount->id, false, {}};
            // From pad to seat, and the pattern: the same seen from each side's own front?
            const Vector3d reach_left = left.seat_mm - left.pad_mm, reach_right = right.seat_mm - right.pad_mm;
            const auto& holes = left.mount->pad.holes_mm;
            if ((mirrored(reach_left) - reach_right).norm() > same_mm)
                pair.why =
                    "they reach differently: " + quantity::fixed((mirrored(reach_left) - reach_right).norm(), 1) +
                    " mm apart when mirrored";
            else if ((mirrored(left.pad_out) - right.pad_out).norm() > 0.02)
                pair.why = "their pads do not lie alike";
            else if (holes.size() != right.mount->pad.holes_mm.size() || !isOwnMirror(holes, same_mm))
                pair.why = "the hole pattern is not its own mirror image: make a left and a right one";
            else if (std::abs(reach_left.x()) > same_mm)
                pair.why = "it reaches " + std::string(reach_left.x() > 0 ? "rearward" : "forward") +
                           " from its pad: make a left and a right one";
            else
                pair.same_part = true;
            out.push_back(std::move(pair));
        }
    }
    return out;
}

} // namespace gabarit::mounts
