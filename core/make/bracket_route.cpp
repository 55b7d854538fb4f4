#include "make/bracket_route.h"

#include "fit/movement.h"
#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "proximity/gap.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace gabarit::make {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;

constexpr double on_face_mm = 3; // a body that comes this near to the face's point carries it
constexpr int ways_round = 8;

/// Ways round: out of the face and the isolator first, then past what is between, to each side.
std::vector<std::vector<Vector3d>> detours(const mounts::BracketMade& straight) {
    std::vector<std::vector<Vector3d>> out;
    const Vector3d from = straight.path_mm.front(), to = straight.path_mm.back();
    const Vector3d along = to - from;
    const double length = along.norm();
    const Vector3d face_out = straight.ends.face_axes.col(2), seat_out = straight.ends.seat_out;
    const double least = straight.ends.isolator_mm.value_or(40) / 2;
    for (const double a : {0.0, 0.5, 1.0, 1.5, 2.0, 3.0})
        for (const double b : {0.0, 0.5, 1.0, 1.5, 2.0, 3.0}) {
            std::vector<Vector3d> via;
            if (a > 0) via.push_back(from + face_out * least * 2 * a);
            if (b > 0) via.push_back(to + seat_out * least * 2 * b);
            if (!via.empty()) out.push_back(std::move(via));
        }
    Vector3d u =
        along.normalized().cross(std::abs(along.normalized().z()) < 0.9 ? Vector3d::UnitZ() : Vector3d::UnitX());
    u.normalize();
    const Vector3d v = along.normalized().cross(u);
    for (const double share : {0.35, 0.5, 0.65})
        for (const double aside : {0.15, 0.3, 0.5, 0.75})
            for (int k = 0; k < ways_round; ++k) {
                const double angle = 2 * M_PI * k / ways_round;
                out.push_back({from + along * share + (u * std::cos(angle) + v * std::sin(angle)) * aside * length});
            }
    return out;
}

/// Whether balls as wide as the arm, along its straight stretches, stand in a body of the other owner: then its whole
/// shape need not be made to know that this is no way.
bool plainlyBlocked(const placed::Scene& scene, const mounts::BracketEnds& ends, const std::vector<Vector3d>& path,
                    double tube_mm, proximity::ColliderCache& cache) {
    const auto ball = cache.get(model::SphereSpec{tube_mm});
    for (std::size_t i = 1; i < path.size(); ++i) {
        const Vector3d leg = path[i] - path[i - 1];
        const double length = leg.norm();
        // Bends cut the corners off: only what lies between them is certain.
        const double from = i == 1 ? tube_mm / 2 : std::min(length / 2, 2 * tube_mm);
        const double to = i + 1 == path.size() ? length - tube_mm / 2 : length - std::min(length / 2, 2 * tube_mm);
        for (double at = from; at <= to; at += tube_mm / 2) {
            Isometry3d pose = Isometry3d::Identity();
            pose.translation() = ends.pose_vehicle_owner * Vector3d(path[i - 1] + leg * (at / length));
            for (const placed::PlacedBody& body : scene.bodies) {
                if (!body.solid() || body.ref.owner == ends.owner || body.body.closing ||
                    body.body.category == "ground")
                    continue;
                const auto box = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
                if (box.squaredExteriorDistance(Vector3d(pose.translation())) > tube_mm * tube_mm / 4) continue;
                if (proximity::overlaps(*ball->collider, pose, *body.made->collider, body.pose_vehicle_body))
                    return true;
            }
        }
    }
    return false;
}

double lengthOf(const std::vector<Vector3d>& path) {
    double sum = 0;
    for (std::size_t i = 1; i < path.size(); ++i) sum += (path[i] - path[i - 1]).norm();
    return sum;
}

} // namespace

namespace {

/// What a bracket may not come near to, where it stands at rest and wherever its movement takes it.
struct Obstacle {
    const placed::PlacedBody* body;
    double wanted_mm;              ///< at rest
    double moved_mm;               ///< at any of the others
    std::vector<Isometry3d> poses; ///< vehicle frame, rest first
};

constexpr std::array<double, 3> along_travel{0.0, 0.5, 1.0}; // of each freedom that moves a body, from low to high
constexpr double stands_still_mm = 0.1;

/// Where a body is taken by the freedoms that move it, the engine at rest.
std::vector<Isometry3d> posesOf(const placed::PlacedBody& body, const fit::Movement& movement) {
    std::vector<Isometry3d> out{body.pose_vehicle_body};
    if (!movement.chainOf(body.ref)) return out;
    const Vector3d middle = body.pose_vehicle_body * body.made->collider->bounds().center();
    const kinematics::State rest(movement.freedoms.size(), 0.0);
    std::vector<std::size_t> moving;
    for (std::size_t i = 0; i < movement.freedoms.size(); ++i) {
        if (movement.of[i].rocks()) continue;
        double far_mm = 0;
        for (const double end : {movement.freedoms[i].low, movement.freedoms[i].high}) {
            kinematics::State state = rest;
            state[i] = end;
            const Isometry3d moved = movement.at(body.ref, state);
            far_mm = std::max(
                {far_mm, (moved * middle - middle).norm(),
                 (moved.linear() - Eigen::Matrix3d::Identity()).norm() * body.made->collider->bounds().sizes().norm()});
        }
        if (far_mm > stands_still_mm) moving.push_back(i);
    }
    std::vector<kinematics::State> states{rest};
    for (const std::size_t i : moving) {
        std::vector<kinematics::State> more;
        for (const kinematics::State& state : states)
            for (const double share : along_travel) {
                more.push_back(state);
                more.back()[i] =
                    movement.freedoms[i].low + share * (movement.freedoms[i].high - movement.freedoms[i].low);
            }
        states = std::move(more);
    }
    for (const kinematics::State& state : states) out.push_back(movement.at(body.ref, state) * body.pose_vehicle_body);
    return out;
}

std::vector<Obstacle> obstaclesOf(const model::Project& project, const placed::Scene& scene,
                                  const model::RuleBook& book, const model::Mount& mount,
                                  const mounts::BracketEnds& ends, proximity::ColliderCache& cache) {
    std::vector<Obstacle> out;
    std::vector<model::BodyRef> own;
    const auto list = [&own](const std::optional<model::Bracket>& bracket, const std::string& owner) {
        if (bracket)
            for (const std::string& id : bracket->bodies) own.push_back({owner, model::BodyId{id}});
    };
    list(mount.bracket, mount.pad.owner);
    if (mount.stand) list(mount.tower, mount.stand->owner);
    model::Body like;
    like.category = ends.owner != model::vehicle_owner ? "accessory" : "bracket";
    const auto point = cache.get(model::SphereSpec{2 * on_face_mm});
    Isometry3d at_face = Isometry3d::Identity();
    at_face.translation() = ends.pose_vehicle_owner * ends.face_mm;
    const fit::Movement movement = fit::makeMovement(project);
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!body.solid() || body.body.closing || body.body.category == "ground") continue;
        if (std::find(own.begin(), own.end(), body.ref) != own.end()) continue;
        const bool same_owner = body.ref.owner == ends.owner;
        if (same_owner && proximity::overlaps(*point->collider, at_face, *body.made->collider, body.pose_vehicle_body))
            continue; // it carries the face
        const auto limit = model::limitFor(book, book.default_school, like, body.body);
        if (!limit && !same_owner) continue;
        model::MovingLimits moving = model::movingLimitsFor(book, book.default_school, like, body.body);
        if (!same_owner) moving = model::withWeldPull(moving, book);
        Obstacle obstacle;
        obstacle.body = &body;
        // What hangs on the same side does not pull with the welds, and may stand as near as a jig allows.
        obstacle.wanted_mm = same_owner ? book.figure("route_margin_mm") : model::withWeldPull(*limit, book).gap_mm;
        obstacle.moved_mm = moving.worst ? moving.worst->gap_mm : 0;
        if (same_owner && model::isOfMovingKind(book, body.body.category))
            obstacle.wanted_mm = std::max(obstacle.wanted_mm, obstacle.moved_mm);
        obstacle.poses = posesOf(body, movement);
        out.push_back(std::move(obstacle));
    }
    return out;
}

std::vector<InTheWay> inTheWay(const std::vector<Obstacle>& obstacles, const mounts::BracketMade& made,
                               proximity::ColliderCache& cache) {
    std::vector<InTheWay> out;
    const Isometry3d pose_owner = made.ends.pose_vehicle_owner;
    for (const Obstacle& obstacle : obstacles) {
        std::optional<InTheWay> worst;
        for (const mounts::Piece& piece : made.pieces) {
            const auto shape = cache.get(piece.shape);
            if (!shape->collider) continue;
            const Isometry3d pose = pose_owner * piece.pose_owner;
            const auto box = shape::moved(shape->collider->bounds(), pose);
            for (std::size_t i = 0; i < obstacle.poses.size(); ++i) {
                const double wanted = i == 0 ? obstacle.wanted_mm : obstacle.moved_mm;
                const auto other = shape::moved(obstacle.body->made->collider->bounds(), obstacle.poses[i]);
                if (box.squaredExteriorDistance(other) > wanted * wanted) continue;
                proximity::GapRequest ask;
                ask.range_mm = std::max(wanted, 1e-3);
                ask.depth = false;
                const proximity::Gap gap =
                    proximity::gap(*shape->collider, pose, *obstacle.body->made->collider, obstacle.poses[i], ask);
                if (gap.contact == proximity::Contact::Beyond) continue;
                const double its = gap.contact == proximity::Contact::Overlap ? -1 : gap.gap_mm;
                if (its < wanted && (!worst || its - wanted < worst->gap_mm - worst->wanted_mm))
                    worst = InTheWay{obstacle.body->ref, obstacle.body->body.name, its, wanted, i > 0};
            }
        }
        if (worst) out.push_back(*worst);
    }
    std::sort(out.begin(), out.end(),
              [](const InTheWay& a, const InTheWay& b) { return a.gap_mm - a.wanted_mm < b.gap_mm - b.wanted_mm; });
    return out;
}

} // namespace

std::vector<InTheWay> inTheWay(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                               const model::Mount& mount, const mounts::BracketMade& made,
                               proximity::ColliderCache& cache) {
    return inTheWay(obstaclesOf(project, scene, book, mount, made.ends, cache), made, cache);
}

Result<Routed> routed(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                      const model::Mount& mount, mounts::Which which, const model::Bracket& wanted,
                      proximity::ColliderCache& cache, const StopToken& stop) {
    const auto ends = mounts::bracketEnds(project, book, mount, which);
    if (!ends) return ends.error();
    Routed out;
    out.bracket = wanted;
    out.bracket.via_mm.clear();
    auto straight = mounts::makeBracket(ends.value(), out.bracket, book);
    if (!straight) return straight.error();
    out.made = straight.value();
    const std::vector<Obstacle> obstacles = obstaclesOf(project, scene, book, mount, ends.value(), cache);
    out.straight = inTheWay(obstacles, out.made, cache);
    if (out.straight.empty()) return out;
    std::string names;
    for (const InTheWay& way : out.straight)
        names += (names.empty() ? "" : ", ") + way.name + (way.moved ? " as it moves" : "");
    const std::string where = "mount \"" + mount.name + "\", its " + mounts::word(which);
    if (out.bracket.form == model::BracketForm::Flat)
        return Error{"a flat plate there comes too near to: " + names, where, "move the isolator, or take a tube"};
    std::vector<std::pair<double, std::vector<Vector3d>>> tries;
    for (std::vector<Vector3d>& via : detours(out.made)) {
        std::vector<Vector3d> path{out.made.path_mm.front()};
        path.insert(path.end(), via.begin(), via.end());
        path.push_back(out.made.path_mm.back());
        tries.emplace_back(lengthOf(path), std::move(via));
    }
    std::stable_sort(tries.begin(), tries.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (auto& [length, via] : tries) {
        if (stop.stopped()) break;
        if (out.bracket.form == model::BracketForm::Tube) {
            std::vector<Vector3d> path{out.made.path_mm.front()};
            path.insert(path.end(), via.begin(), via.end());
            path.push_back(out.made.path_mm.back());
            const double tube_mm = out.bracket.tube_mm.value_or(book.figure("bracket_tube_mm"));
            if (plainlyBlocked(scene, ends.value(), path, tube_mm, cache)) continue;
        }
        model::Bracket bent = out.bracket;
        bent.via_mm = via;
        const auto made = mounts::makeBracket(ends.value(), bent, book);
        if (!made) continue;
        // A bend that cannot be made is no way.
        const bool solid =
            std::all_of(made.value().pieces.begin(), made.value().pieces.end(),
                        [&cache](const mounts::Piece& piece) { return cache.get(piece.shape)->collider != nullptr; });
        if (!solid || !inTheWay(obstacles, made.value(), cache).empty()) continue;
        out.bracket = std::move(bent);
        out.made = made.value();
        return out;
    }
    return Error{"no way from face to isolator is free; in the straight way: " + names, where,
                 "move the isolator or the stand, take a thinner tube, or make room there"};
}

Result<model::Project> withBracketRouted(const model::Project& project, const placed::Scene& scene,
                                         const model::RuleBook& book, const std::string& id, mounts::Which which,
                                         const model::Bracket& wanted, proximity::ColliderCache& cache,
                                         const StopToken& stop) {
    model::Project copy = project;
    const model::Mount* mount = mounts::mountIn(copy, id);
    if (!mount) return Error{"there is no mount \"" + id + "\"", "mounts", "choose one of them"};
    if (!wanted.via_mm.empty()) {
        const auto ends = mounts::bracketEnds(project, book, *mount, which);
        if (!ends) return ends.error();
        const auto made = mounts::makeBracket(ends.value(), wanted, book);
        if (made && inTheWay(project, scene, book, *mount, made.value(), cache).empty())
            return mounts::withBracket(project, book, id, which, wanted);
    }
    const auto found = routed(project, scene, book, *mount, which, wanted, cache, stop);
    if (!found) return found.error();
    return mounts::withBracket(project, book, id, which, found.value().bracket);
}

} // namespace gabarit::make
