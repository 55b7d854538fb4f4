#include "model/mirror_motion.h"

#include "model/edit.h"
#include "model/reshape.h"

#include <algorithm>

namespace gabarit::model {
namespace {

using Eigen::Vector3d;

constexpr double on_centreline_mm = 0.5; // a point there is its own mirror image
constexpr double mirror_place_mm = 5;    // left and right of a real vehicle are seldom nearer to each other

Vector3d across(const Vector3d& at) { return {at.x(), -at.y(), at.z()}; }

template <class List>
std::vector<std::string> textsOf(const List& list) {
    std::vector<std::string> out;
    for (const auto& item : list) out.push_back(item.id.text);
    return out;
}

PointId otherPoint(std::vector<HardPoint>& points, const PointId& id) {
    const auto one = std::find_if(points.begin(), points.end(), [&](const HardPoint& p) { return p.id == id; });
    if (one == points.end() || std::abs(one->at_mm.y()) < on_centreline_mm) return id;
    const Vector3d there = across(one->at_mm);
    const std::string name = mirroredName(one->name);
    const HardPoint* found = nullptr;
    for (const HardPoint& p : points) {
        if (p.option != one->option || p.at_mm.y() * one->at_mm.y() > 0) continue;
        if (p.name == name || (!found && (p.at_mm - there).norm() < mirror_place_mm)) found = &p;
    }
    if (found) return found->id;
    HardPoint twin = *one;
    twin.at_mm = there;
    twin.name = name;
    twin.id.text = freshId(name, textsOf(points));
    twin.tape = {};
    points.push_back(twin);
    return twin.id;
}

Result<BodyId> otherBody(Project& project, const std::string& owner, const BodyId& id) {
    const Body* body = findBody(project, {owner, id});
    if (!body) return id;
    const auto middle = [](const Body& b) { return Vector3d(b.poseOwnerBody() * extents_mm(b.shape).center()); };
    const Vector3d at = middle(*body), there = across(at);
    const std::string name = mirroredName(body->name);
    const Body* found = nullptr;
    for (const Body& b : *bodiesOf(project, owner)) {
        if (b.option != body->option || b.category != body->category) continue;
        const Vector3d other = middle(b);
        if (other.y() * at.y() > 0 && std::abs(at.y()) > on_centreline_mm) continue;
        if (b.name == name || (!found && (other - there).norm() < mirror_place_mm)) found = &b;
    }
    if (found) return found->id;
    BodyId image;
    auto made = withBodyMirrored(project, {owner, id}, image);
    if (!made) return made.error();
    project = std::move(made.value());
    return image;
}

} // namespace

Result<Project> withMotionMirrored(const Project& original, const std::string& owner, const std::string& id,
                                   std::string& image) {
    Project project = original;
    std::vector<MotionSpec>* motions = motionsOf(project, owner);
    const auto at = [&](const std::string& wanted) {
        return std::find_if(motions->begin(), motions->end(), [&](const MotionSpec& m) { return m.id == wanted; });
    };
    if (!motions || at(id) == motions->end())
        return Error{"there is nothing that moves by the name \"" + id + "\"", owner, "choose one in the list"};
    MotionSpec twin = *at(id);
    if (twin.kind == MotionKind::Axle)
        return Error{"an axle has both sides already", "what moves \"" + twin.name + "\"",
                     "mirror arms, steered wheels, linkages and shafts"};
    const auto twinOf = [&](const std::string& of) -> std::string {
        const auto one = at(of);
        if (one == motions->end() || one->kind == MotionKind::Axle) return of;
        for (const MotionSpec& m : *motions)
            if (m.name == mirroredName(one->name)) return m.id;
        return {}; // its own twin is not made yet
    };
    twin.with = twinOf(twin.with);
    twin.on = twinOf(twin.on);
    std::vector<std::string> taken;
    for (const MotionSpec& m : *motions) taken.push_back(m.id);
    twin.name = mirroredName(twin.name);
    twin.id = image = freshId(twin.name, taken);
    std::swap(twin.left_deg, twin.right_deg);
    twin.slide_mm = -across(twin.slide_mm);
    std::vector<HardPoint>* points =
        owner == vehicle_owner ? &project.vehicle->hard_points : &findDonor(project, DonorId{owner})->reference_points;
    for (PointId* point : {&twin.at, &twin.axis_a, &twin.axis_b}) *point = otherPoint(*points, *point);
    for (MotionLink& link : twin.links)
        for (PointId* point : {&link.fixed, &link.moving}) *point = otherPoint(*points, *point);
    for (std::vector<BodyId>* list : {&twin.bodies, &twin.carried})
        for (BodyId& body : *list) {
            auto other = otherBody(project, owner, body);
            if (!other) return other.error();
            body = other.value();
        }
    motionsOf(project, owner)->push_back(std::move(twin));
    return project;
}

} // namespace gabarit::model
