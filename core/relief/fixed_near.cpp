#include "relief/fixed_near.h"

#include "discipline/wording.h"
#include "proximity/gap.h"
#include "relief/section/relief.h"

namespace gabarit::relief {
namespace {

using discipline::inSentence;
using Eigen::AlignedBox3d;
using Eigen::Vector3d;
using model::Check;

/// What is cut out, in the pocket's frame.
AlignedBox3d boxOf(const shape::PocketMade& made) {
    AlignedBox3d box;
    for (const Eigen::Vector2d& p : made.cut_outline_mm)
        for (const double other : {made.cut_from_mm, made.cut_to_mm})
            box.extend(made.in_sheet ? Vector3d(p.x(), p.y(), other) : Vector3d(p.x(), other, p.y()));
    return box;
}

std::optional<double> apart_mm(const proximity::Collider& a, const Eigen::Isometry3d& pose_a,
                               const proximity::Collider& b, const Eigen::Isometry3d& pose_b, double within_mm) {
    proximity::GapRequest request;
    request.range_mm = within_mm;
    request.depth = false;
    const proximity::Gap gap = proximity::gap(a, pose_a, b, pose_b, request);
    if (gap.contact == proximity::Contact::Beyond) return std::nullopt;
    return gap.contact == proximity::Contact::Overlap ? 0 : gap.gap_mm;
}

} // namespace

void addFixedNear(ReliefReport& report, const model::Project& project, const placed::Scene& scene,
                  const model::RuleBook& book, proximity::ColliderCache& cache) {
    const double zone_mm = book.figure("cut_to_fixed_mm"), touching_mm = book.figure("fixed_touches_mm");
    const std::vector<model::Pocket>& all = project.sections.get<model::Relief>()->pockets;
    for (const PocketReport& pocket : report.pockets) {
        const auto asked =
            std::find_if(all.begin(), all.end(), [&pocket](const model::Pocket& p) { return p.id == pocket.id; });
        if (!pocket.made || asked == all.end() || asked->set_aside) continue;
        const model::BodyRef of{model::vehicle_owner, asked->body};
        const placed::PlacedBody* cut = scene.find(of);
        if (!cut || !cut->solid()) continue;
        const AlignedBox3d box = boxOf(*pocket.made);
        const auto room = cache.get(model::BoxSpec{box.sizes()});
        if (!room->collider) continue;
        Eigen::Isometry3d pose_vehicle_room = pocket.pose_vehicle_body * pocket.made->pose_body;
        AlignedBox3d near = shape::moved(box, pose_vehicle_room);
        near.min().array() -= zone_mm;
        near.max().array() += zone_mm;
        pose_vehicle_room.translate(box.center());
        for (const placed::PlacedBody& body : scene.bodies) {
            if (body.in_donor || body.ref == of || !body.solid()) continue;
            if (!near.intersects(shape::moved(body.made->collider->bounds(), body.pose_vehicle_body))) continue;
            const bool fixed = model::joinedPair(project, body.ref, of) ||
                               apart_mm(*body.made->collider, body.pose_vehicle_body, *cut->made->collider,
                                        cut->pose_vehicle_body, touching_mm);
            if (!fixed) continue;
            const auto away_mm =
                apart_mm(*body.made->collider, body.pose_vehicle_body, *room->collider, pose_vehicle_room, zone_mm);
            if (!away_mm) continue;
            Check check;
            check.id = pocket.id + "/fixed/" + body.ref.body.text;
            check.what = pocket.name + ": from the cut to the " + inSentence(body.body.name) + ", which is fixed there";
            check.unit = model::Unit::Millimetres;
            check.value = *away_mm;
            check.good_least = zone_mm;
            check.soft = *away_mm > 0;
            check.rule = model::ruleOf(book, "cut_to_fixed_mm");
            check.reason = *away_mm > 0 ? "take it off before that is welded" : "it is fixed to what is cut out";
            model::judge(check);
            report.verdict = model::worse(report.verdict, check.verdict);
            report.checks.push_back(std::move(check));
        }
    }
}

} // namespace gabarit::relief
