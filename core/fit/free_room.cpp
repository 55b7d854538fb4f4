#include "fit/free_room.h"

#include "model/reshape.h"
#include "parts/parts.h"
#include "proximity/gap.h"

#include <algorithm>

namespace gabarit::fit {
namespace {

using Eigen::Vector3d;
using model::Verdict;

Vector3d smallestFirst(Vector3d v) {
    std::sort(v.data(), v.data() + 3);
    return v;
}

std::optional<Vector3d> sizeOf(const model::Project& project, const model::Part& part) {
    if (part.size_mm) return part.size_mm;
    const std::size_t slash = part.body.find('/');
    if (slash == std::string::npos) return std::nullopt;
    const model::Body* body = model::findBody(project, {part.body.substr(0, slash), {part.body.substr(slash + 1)}});
    if (!body) return std::nullopt;
    return Vector3d(model::extents_mm(body->shape).sizes());
}

/// The body of a part whose home it is.
bool livesThere(const model::Project& project, const std::string& volume, const model::BodyRef& body) {
    const model::Parts& parts = model::partsOf(project);
    return std::any_of(parts.begin(), parts.end(),
                       [&](const model::Part& part) { return part.home == volume && part.body == body.text(); });
}

HomeOffer offer(const model::FreeVolume& volume, const RoomLeft& room, const Vector3d& size_mm, double wanted_mm) {
    HomeOffer out{volume.id, volume.name, 0, Verdict::Unknown, ""};
    // Longest against longest: no other way of turning by quarters leaves more on the tightest side.
    out.spare_mm = (smallestFirst(volume.size_mm) - smallestFirst(size_mm)).minCoeff();
    out.verdict = model::judge(out.spare_mm - wanted_mm, volume.accuracy_mm);
    if (out.verdict == Verdict::Unknown)
        out.reason = "how accurately the room was measured is not known";
    else if (out.verdict == Verdict::Close)
        out.reason = "the room was not measured well enough";
    else if (out.verdict == Verdict::NoGo)
        out.reason = out.spare_mm < 0 ? "it is too large" : "it leaves too little beside it";
    if (!room.intruders.empty() && out.verdict != Verdict::NoGo) {
        out.verdict = Verdict::Close;
        out.reason = "something reaches into the room: " + room.intruders.front();
    }
    return out;
}

} // namespace

FreeRoomReport freeRoom(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                        proximity::ColliderCache& cache, const placed::SceneOptions& options) {
    FreeRoomReport report;
    const char* const figure = "home_margin_mm";
    report.wanted_mm = 2 * book.figure(figure);
    for (const model::Figure& each : book.figures)
        if (each.id == figure) report.source = each.source;
    if (!project.vehicle) return report;
    for (const model::FreeVolume& volume : project.vehicle->free_volumes) {
        RoomLeft room{volume.id, volume.name, {}, {}};
        const auto made = cache.get(model::BoxSpec{volume.size_mm});
        Eigen::Isometry3d pose = Eigen::Isometry3d::Identity();
        pose.translation() = volume.at_mm;
        for (const placed::PlacedBody& body : scene.bodies) {
            if (options.stop.stopped()) return report;
            if (livesThere(project, volume.id, body.ref)) continue;
            if (made->collider && body.solid() &&
                proximity::overlaps(*made->collider, pose, *body.made->collider, body.pose_vehicle_body))
                room.intruders.push_back(body.body.name);
        }
        report.rooms.push_back(std::move(room));
    }
    for (const model::Part& part : model::partsOf(project)) {
        const bool gone = part.state == model::PartState::Sold || part.state == model::PartState::ToReturn;
        if (gone || !model::isTaken(project, part)) continue;
        HomeSearch search{part.id, part.name, sizeOf(project, part), part.home, {}};
        const bool looks = part.home.empty() && part.size_mm && part.state != model::PartState::Fitted;
        if (part.home.empty() && !looks) continue;
        for (std::size_t i = 0; i < report.rooms.size(); ++i) {
            if (report.rooms[i].id == part.home) report.rooms[i].homes_of.push_back(part.name);
            if (search.size_mm)
                search.offers.push_back(
                    offer(project.vehicle->free_volumes[i], report.rooms[i], *search.size_mm, report.wanted_mm));
        }
        std::stable_sort(search.offers.begin(), search.offers.end(), [](const HomeOffer& a, const HomeOffer& b) {
            return a.verdict != b.verdict ? a.verdict < b.verdict : a.spare_mm < b.spare_mm;
        });
        report.searches.push_back(std::move(search));
    }
    return report;
}

} // namespace gabarit::fit
