#include "fit/tool_access.h"

#include "fit/worst_gap.h"
#include "linear/linear.h"
#include "model/owner_place.h"
#include "mounts/section/mounts.h"
#include "proximity/gap.h"
#include "quantity/on_threads.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using model::Verdict;

constexpr double off_face_mm = 0.5;   // the tool stands on the bolt's head, not on the metal beneath
constexpr double beside_tool_mm = 10; // what stands farther off does not make a tool's way unsure

const model::Figure* figureOf(const model::RuleBook& book, const char* id) {
    for (const model::Figure& figure : book.figures)
        if (figure.id == id) return &figure;
    return nullptr;
}

void judge(ToolAccess& access, const model::ServicedBolt& bolt) {
    std::sort(access.blockers.begin(), access.blockers.end(),
              [](const Blocker& x, const Blocker& y) { return x.gap_mm < y.gap_mm; });
    const auto inside =
        std::find_if(access.blockers.begin(), access.blockers.end(), [](const Blocker& b) { return b.gap_mm > 0; });
    if (inside != access.blockers.begin()) {
        access.verdict = Verdict::NoGo;
        access.blockers.erase(inside, access.blockers.end());
        return;
    }
    access.verdict = Verdict::Go;
    std::vector<Blocker> unsure;
    for (const Blocker& blocker : access.blockers) {
        const std::optional<double> accuracy_mm = model::told(blocker.accuracy_mm) && model::told(bolt.accuracy_mm)
                                                      ? std::optional(*blocker.accuracy_mm + *bolt.accuracy_mm)
                                                      : std::nullopt;
        const Verdict verdict = model::judge(blocker.gap_mm, accuracy_mm);
        if (verdict == Verdict::Go) continue;
        access.verdict = model::worse(access.verdict, verdict);
        if (verdict == Verdict::Unknown)
            access.reason = "how accurately \"" + (model::told(bolt.accuracy_mm) ? blocker.name : bolt.name) +
                            "\" was measured is not known";
        unsure.push_back(blocker);
        break; // the nearest says it
    }
    access.blockers = std::move(unsure);
}

/// What meets a body on its straight way out.
void drawOut(ToolAccess& access, const placed::PlacedBody& off, const placed::Scene& scene, double pull_mm,
             const StopToken& stop) {
    constexpr double seat_mm = 1; // nearer than this to its owner's other bodies it sits on them
    if (!off.solid()) return;
    const std::vector<kinematics::Freedom> freedoms{{"out", 0, pull_mm, "", ""}};
    const kinematics::Chain way{kinematics::SlideMotion{0, (access.to_mm - access.from_mm).normalized()}};
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!body.solid() || body.ref == off.ref || body.body.closing || body.body.category == "ground") continue;
        proximity::GapRequest now;
        now.range_mm = seat_mm;
        now.depth = false;
        now.stop = stop;
        const bool seat =
            body.ref.owner == off.ref.owner && proximity::gap(*off.made->collider, off.pose_vehicle_body,
                                                              *body.made->collider, body.pose_vehicle_body, now)
                                                       .contact != proximity::Contact::Beyond;
        if (seat) continue;
        const auto bounds = [](const placed::PlacedBody& b) {
            return shape::moved(b.made->collider->bounds(), b.pose_vehicle_body);
        };
        if (std::sqrt(bounds(off).squaredExteriorDistance(bounds(body))) > pull_mm + beside_tool_mm) continue;
        WorstRequest ask;
        ask.range_mm = beside_tool_mm;
        ask.depth = false;
        ask.stop = stop;
        const WorstGap worst = worstGap({off.made->collider.get(), off.pose_vehicle_body, &way},
                                        {body.made->collider.get(), body.pose_vehicle_body, nullptr}, freedoms, ask);
        if (worst.gap.contact == proximity::Contact::Beyond) continue;
        access.blockers.push_back({body.ref, body.body.name,
                                   worst.gap.contact == proximity::Contact::Overlap ? 0 : worst.gap.gap_mm,
                                   body.body.accuracy_mm, true, false});
    }
}

/// A bolt to reach, and what of its owner does not stand in its way.
struct Task {
    model::ServicedBolt bolt;
    std::string owner;
    Isometry3d pose_vehicle_owner;
    std::vector<model::BodyRef> ignored;
    bool hand = false;
    std::string refused{}; ///< why nothing can be looked at
};

/// The bolts of the mounts' faces, each in its hole.
void addMountBolts(std::vector<Task>& tasks, const model::Project& project) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return;
    for (const model::Mount& mount : mounts->mounts) {
        std::vector<model::BodyRef> own;
        if (mount.bracket)
            for (const std::string& id : mount.bracket->bodies) own.push_back({mount.pad.owner, model::BodyId{id}});
        if (mount.tower && mount.stand)
            for (const std::string& id : mount.tower->bodies) own.push_back({mount.stand->owner, model::BodyId{id}});
        // The rubber is bolted on before the crossmember that carries it comes up under it.
        for (const model::Crossmember& under : mounts->crossmembers)
            if (under.mount == mount.id) own.push_back({model::vehicle_owner, under.body});
        const auto add = [&](const model::MountFace& face, const model::Bolting& bolting, const char* which) {
            const auto its = model::ownerPlace(project, face.owner, face.point, face.at_mm, mount.name);
            if (!its) return; // the report says so
            const Vector3d out = face.out.normalized();
            Eigen::Matrix3d axes;
            axes.col(0) = (face.mark - out * out.dot(face.mark)).normalized();
            axes.col(1) = out.cross(axes.col(0));
            axes.col(2) = out;
            // Seen from the head, and of a through bolt from its nut too: both need a tool, one of them a hand.
            const auto side = [&](const char* what, const std::optional<double>& socket_mm, double along_mm,
                                  const Vector3d& outward) {
                for (std::size_t hole = 0; hole < face.holes_mm.size(); ++hole) {
                    Task task;
                    task.owner = face.owner;
                    task.pose_vehicle_owner = its.value().pose_vehicle_owner;
                    task.ignored = own;
                    task.hand = true;
                    task.bolt.id = "mount:" + mount.id + ":" + which + ":" + std::to_string(hole + 1) +
                                   (std::string(what) == "nut" ? ":nut" : "");
                    task.bolt.name = mount.name + ", " + which + " " + what + " " + std::to_string(hole + 1);
                    task.bolt.at_mm =
                        its.value().at_mm + axes * Vector3d(face.holes_mm[hole].x(), face.holes_mm[hole].y(), along_mm);
                    task.bolt.along = outward;
                    task.bolt.socket_mm = socket_mm;
                    task.bolt.accuracy_mm = face.accuracy_mm;
                    tasks.push_back(std::move(task));
                }
            };
            side("bolt", bolting.socket_mm, bolting.clamped_mm.value_or(0) + off_face_mm, out);
            if (face.through)
                side("nut", bolting.nut_socket_mm ? bolting.nut_socket_mm : bolting.socket_mm,
                     -face.depth_mm.value_or(0) - off_face_mm, -out);
        };
        add(mount.pad, mount.pad_bolts, "pad");
        if (mount.stand) add(*mount.stand, mount.stand_bolts, "stand");
    }
}

/// The gearbox crossmembers, each drawn out downwards with the unit held.
void addCrossmembers(std::vector<Task>& tasks, const model::Project& project, const placed::Scene& scene,
                     double out_mm) {
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return;
    for (const model::Crossmember& its : mounts->crossmembers) {
        const placed::PlacedBody* body = scene.find({model::vehicle_owner, its.body});
        if (!body || !body->solid()) {
            if (!its.body.empty()) continue; // it is out of the bay
            Task task;
            task.bolt.id = "mount:" + its.id + ":out";
            task.bolt.name = its.name;
            task.refused = "which body it is, is not said: whether it comes out downwards is not known";
            tasks.push_back(std::move(task));
            continue;
        }
        Task task;
        task.owner = model::vehicle_owner;
        task.pose_vehicle_owner = Isometry3d::Identity();
        task.bolt.id = "mount:" + its.id + ":out";
        task.bolt.name = its.name;
        task.bolt.in = its.body;
        task.bolt.along = -Vector3d::UnitZ();
        task.bolt.pull_mm = out_mm;
        task.bolt.accuracy_mm = body->body.accuracy_mm;
        // Its middle; a moved body takes its places along.
        task.bolt.at_mm =
            shape::moved(body->made->collider->bounds(), body->pose_vehicle_body).center() - body->body.shift_mm;
        tasks.push_back(std::move(task));
    }
}

} // namespace

std::vector<ToolAccess> toolAccess(const model::Project& project, const placed::Scene& scene,
                                   const model::RuleBook& book, proximity::ColliderCache& cache,
                                   const placed::SceneOptions& options) {
    std::vector<Task> tasks;
    const auto list = [&](const std::vector<model::ServicedBolt>& bolts, const std::string& owner,
                          const Isometry3d& pose) {
        for (const model::ServicedBolt& bolt : bolts) {
            // What sits in a body that is out of the bay is out with it.
            if (!bolt.in.empty() && !scene.find({owner, bolt.in})) continue;
            tasks.push_back({bolt, owner, pose, {{owner, bolt.in}}, false});
        }
    };
    if (project.vehicle) list(project.vehicle->serviced, model::vehicle_owner, Isometry3d::Identity());
    const model::Placement* placement = model::activePlacement(project);
    const model::Donor* donor = model::activeDonor(project);
    if (placement && donor) list(donor->serviced, donor->id.text, model::poseVehicleDonor(*placement, *donor));

    addMountBolts(tasks, project);
    addCrossmembers(tasks, project, scene, book.figure("crossmember_drop_out_mm"));

    std::vector<ToolAccess> out(tasks.size());
    const double over_mm = book.figure("tool_over_socket_mm"), usual_mm = book.figure("tool_length_mm");
    onThreads(options.threads, tasks.size(), options.stop, [&](std::size_t i) {
        const model::ServicedBolt& bolt = tasks[i].bolt;
        ToolAccess& access = out[i];
        const double length_mm = bolt.length_mm.value_or(usual_mm);
        if (!tasks[i].refused.empty()) {
            access.owner = model::vehicle_owner;
            access.id = bolt.id;
            access.name = bolt.name;
            access.source = figureOf(book, "tool_length_mm")->source;
            access.reason = tasks[i].refused;
            return;
        }
        access.owner = tasks[i].owner;
        access.id = bolt.id;
        access.name = bolt.name;
        access.source = figureOf(book, "tool_length_mm")->source;
        // A moved body takes its bolts along.
        Vector3d at_mm = bolt.at_mm;
        if (const model::Body* in = model::findBody(project, {access.owner, bolt.in})) at_mm += in->shift_mm;
        access.from_mm = tasks[i].pose_vehicle_owner * at_mm;
        access.to_mm = access.from_mm + tasks[i].pose_vehicle_owner.linear() * bolt.along.normalized() * length_mm;
        access.pull_mm = bolt.pull_mm;
        if (const placed::PlacedBody* off = scene.find({access.owner, bolt.in}); off && bolt.pull_mm)
            drawOut(access, *off, scene, *bolt.pull_mm, options.stop);
        if (!bolt.socket_mm && bolt.pull_mm) { // it comes off by hand
            access.to_mm = access.from_mm + (access.to_mm - access.from_mm).normalized() * *bolt.pull_mm;
            return judge(access, bolt);
        }
        if (!bolt.socket_mm) {
            access.reason = "the socket's outside diameter is not given";
            return;
        }
        access.diameter_mm = *bolt.socket_mm + over_mm;
        // One shape for all of one size, so that the cache holds it: along z, then turned into place.
        const Vector3d way = (access.to_mm - access.from_mm).normalized();
        const auto stands = [&](const Vector3d& from_mm, double long_mm, double diameter_mm, bool hand) {
            const auto tool = cache.get(model::CylinderSpec{Vector3d::Zero(), Vector3d(0, 0, long_mm), diameter_mm});
            Isometry3d pose = Isometry3d::Identity();
            pose.linear() = linear::turnOnto(Vector3d::UnitZ(), way);
            pose.translation() = from_mm;
            for (const placed::PlacedBody& body : scene.bodies) {
                const auto& ignored = tasks[i].ignored;
                if (!body.solid() || std::find(ignored.begin(), ignored.end(), body.ref) != ignored.end()) continue;
                // It is served with the bonnet up and the vehicle on stands.
                if (body.body.closing || body.body.category == "ground") continue;
                proximity::GapRequest ask;
                ask.range_mm = beside_tool_mm;
                ask.depth = false;
                ask.stop = options.stop;
                const proximity::Gap gap =
                    proximity::gap(*tool->collider, pose, *body.made->collider, body.pose_vehicle_body, ask);
                if (gap.contact == proximity::Contact::Beyond) continue;
                // A hand squeezes past what it does not stand in.
                if (hand && gap.contact != proximity::Contact::Overlap) continue;
                const auto known = std::find_if(access.blockers.begin(), access.blockers.end(),
                                                [&body](const Blocker& b) { return b.ref == body.ref; });
                if (hand && known != access.blockers.end()) continue;
                access.blockers.push_back({body.ref, body.body.name,
                                           gap.contact == proximity::Contact::Overlap ? 0 : gap.gap_mm,
                                           body.body.accuracy_mm, false, hand});
            }
        };
        stands(access.from_mm, length_mm, access.diameter_mm, false);
        if (tasks[i].hand && book.figure("hand_mm") > access.diameter_mm)
            stands(access.to_mm - way * std::min(book.figure("hand_long_mm"), length_mm),
                   std::min(book.figure("hand_long_mm"), length_mm), book.figure("hand_mm"), true);
        judge(access, bolt);
    });
    if (options.stop.stopped()) out.clear();
    return out;
}

std::optional<LeverCheck> leverCheck(const model::Project& project, const model::RuleBook& book) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor || !project.vehicle) return std::nullopt;
    const auto lever = std::find_if(donor->reference_points.begin(), donor->reference_points.end(),
                                    [](const model::HardPoint& p) { return p.role == "shift_lever"; });
    if (lever == donor->reference_points.end()) return std::nullopt;
    const Vector3d at_mm = model::poseVehicleDonor(*placement, *donor) * lever->at_mm;
    const model::HardPoint *opening = nullptr, *unsized = nullptr;
    const auto off = [&](const model::HardPoint& p) { return (p.at_mm - at_mm).head<2>().norm(); };
    for (const model::HardPoint& p : project.vehicle->hard_points)
        if (p.role == "shift_lever_opening" && !p.size_mm)
            unsized = &p;
        else if (p.role == "shift_lever_opening" && (!opening || off(p) < off(*opening)))
            opening = &p;
    if (!opening && !unsized) return std::nullopt;

    LeverCheck check;
    check.lever = lever->name;
    if (!opening) {
        check.opening = unsized->name;
        check.lever_vehicle_mm = at_mm;
        check.opening_vehicle_mm = unsized->at_mm;
        check.limit_mm = book.figure("lever_margin_mm");
        check.source = figureOf(book, "lever_margin_mm")->source;
        check.reason = "the size of the " + unsized->name + " is not given";
        return check;
    }
    check.opening = opening->name;
    check.lever_vehicle_mm = at_mm;
    check.opening_vehicle_mm = opening->at_mm;
    check.limit_mm = book.figure("lever_margin_mm");
    check.source = figureOf(book, "lever_margin_mm")->source;
    if (model::told(lever->accuracy_mm) && model::told(opening->accuracy_mm))
        check.accuracy_mm = *lever->accuracy_mm + *opening->accuracy_mm;
    const Vector3d offset = at_mm - opening->at_mm, half = *opening->size_mm / 2;
    check.room_mm = std::min(half.x() - std::abs(offset.x()), half.y() - std::abs(offset.y()));
    Vector3d move = Vector3d::Zero();
    bool roomEnough = true;
    for (int i = 0; i < 2; ++i) {
        const double free_mm = half[i] - check.limit_mm;
        roomEnough = roomEnough && free_mm >= 0;
        move[i] = std::clamp(offset[i], -free_mm, std::max(free_mm, -free_mm)) - offset[i];
    }
    if (roomEnough) check.move_mm = move;
    check.verdict = model::judge(*check.room_mm - check.limit_mm, check.accuracy_mm);
    if (check.verdict == Verdict::Unknown)
        check.reason = "how accurately \"" + (model::told(lever->accuracy_mm) ? opening->name : lever->name) +
                       "\" was measured is not known";
    return check;
}

} // namespace gabarit::fit
