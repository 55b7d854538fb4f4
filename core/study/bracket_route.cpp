#include "study/bracket_route.h"

#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "proximity/gap.h"

#include <algorithm>
#include <cmath>

namespace gabarit::study {
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
bool plainlyBlocked(const fit::Scene& scene, const mounts::BracketEnds& ends, const std::vector<Vector3d>& path,
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
            for (const fit::PlacedBody& body : scene.bodies) {
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

std::vector<InTheWay> inTheWay(const fit::Scene& scene, const model::RuleBook& book, const model::Mount& mount,
                               const mounts::BracketMade& made, proximity::ColliderCache& cache) {
    std::vector<InTheWay> out;
    std::vector<model::BodyRef> own;
    const auto list = [&own](const std::optional<model::Bracket>& bracket, const std::string& owner) {
        if (bracket)
            for (const std::string& id : bracket->bodies) own.push_back({owner, model::BodyId{id}});
    };
    list(mount.bracket, mount.pad.owner);
    if (mount.stand) list(mount.tower, mount.stand->owner);
    const Isometry3d pose_owner = made.ends.pose_vehicle_owner;
    const bool on_unit = made.ends.owner != model::vehicle_owner;
    model::Body like;
    like.category = on_unit ? "accessory" : "bracket";
    const Vector3d face_mm = pose_owner * made.ends.face_mm;
    const auto point = cache.get(model::SphereSpec{2 * on_face_mm});
    Isometry3d at_face = Isometry3d::Identity();
    at_face.translation() = face_mm;
    for (const fit::PlacedBody& body : scene.bodies) {
        if (!body.solid() || body.body.closing || body.body.category == "ground") continue;
        if (std::find(own.begin(), own.end(), body.ref) != own.end()) continue;
        const bool same_owner = body.ref.owner == made.ends.owner;
        if (same_owner && proximity::overlaps(*point->collider, at_face, *body.made->collider, body.pose_vehicle_body))
            continue;
        double wanted = book.figure("route_margin_mm");
        if (!same_owner) {
            const auto limit = model::limitFor(book, book.default_school, like, body.body);
            if (!limit) continue;
            wanted = model::withWeldPull(*limit, book).gap_mm;
        }
        std::optional<double> least;
        for (const mounts::Piece& piece : made.pieces) {
            const auto shape = cache.get(piece.shape);
            if (!shape->collider) continue;
            const Isometry3d pose = pose_owner * piece.pose_owner;
            const auto box = shape::moved(shape->collider->bounds(), pose);
            const auto other = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
            if (box.squaredExteriorDistance(other) > wanted * wanted) continue;
            proximity::GapRequest ask;
            ask.range_mm = wanted;
            ask.depth = false;
            const proximity::Gap gap =
                proximity::gap(*shape->collider, pose, *body.made->collider, body.pose_vehicle_body, ask);
            if (gap.contact == proximity::Contact::Beyond) continue;
            const double its = gap.contact == proximity::Contact::Overlap ? -1 : gap.gap_mm;
            least = std::min(least.value_or(its), its);
        }
        if (least && *least < wanted) out.push_back({body.ref, body.body.name, *least, wanted});
    }
    std::sort(out.begin(), out.end(),
              [](const InTheWay& a, const InTheWay& b) { return a.gap_mm - a.wanted_mm < b.gap_mm - b.wanted_mm; });
    return out;
}

Result<Routed> routed(const model::Project& project, const fit::Scene& scene, const model::RuleBook& book,
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
    out.straight = inTheWay(scene, book, mount, out.made, cache);
    if (out.straight.empty()) return out;
    std::string names;
    for (const InTheWay& way : out.straight) names += (names.empty() ? "" : ", ") + way.name;
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
        if (!solid || !inTheWay(scene, book, mount, made.value(), cache).empty()) continue;
        out.bracket = std::move(bent);
        out.made = made.value();
        return out;
    }
    return Error{"no way from face to isolator is free; in the straight way: " + names, where,
                 "move the isolator or the stand, take a thinner tube, or make room there"};
}

Result<model::Project> withBracketRouted(const model::Project& project, const fit::Scene& scene,
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
        if (made && inTheWay(scene, book, *mount, made.value(), cache).empty())
            return mounts::withBracket(project, book, id, which, wanted);
    }
    const auto found = routed(project, scene, book, *mount, which, wanted, cache, stop);
    if (!found) return found.error();
    return mounts::withBracket(project, book, id, which, found.value().bracket);
}

} // namespace gabarit::study
