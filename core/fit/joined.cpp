#include "fit/joined.h"

#include "proximity/gap.h"

namespace gabarit::fit {

std::vector<JoinedOverlap> joinedOverlaps(const model::Project& project, const placed::Scene& scene,
                                          const model::RuleBook& book, const StopToken& stop) {
    std::vector<JoinedOverlap> out;
    const double fit_mm = book.figure("joined_overlap_mm"), most_mm = book.figure("joined_overlap_most_mm");
    for (const model::Joined& pair : project.joined) {
        const placed::PlacedBody *a = scene.find(pair.a), *b = scene.find(pair.b);
        // What one owner is made of was measured as it is.
        if (!a || !b || a->in_donor == b->in_donor || !a->solid() || !b->solid()) continue;
        // A hose on its spigot, a loom or a line through its grommet.
        const auto passes = [&book](const placed::PlacedBody& body) {
            return model::isOfKind(book, "@soft", body.body.category) ||
                   model::isOfKind(book, "@line", body.body.category);
        };
        if (passes(*a) || passes(*b)) continue;
        proximity::GapRequest request;
        request.range_mm = 1;
        request.depth = true;
        request.deepest_mm = 2 * most_mm;
        request.stop = stop;
        const proximity::Gap gap =
            proximity::gap(*a->made->collider, a->pose_vehicle_body, *b->made->collider, b->pose_vehicle_body, request);
        if (stop.stopped()) return {};
        if (gap.contact != proximity::Contact::Overlap || (gap.depth_found && -gap.gap_mm <= fit_mm)) continue;
        JoinedOverlap found;
        found.a = pair.a;
        found.b = pair.b;
        found.name_a = a->body.name;
        found.name_b = b->body.name;
        found.reason = pair.reason;
        if (gap.depth_found) found.depth_mm = -gap.gap_mm;
        found.limit_mm = fit_mm;
        found.verdict = gap.depth_found && -gap.gap_mm <= most_mm ? model::Verdict::Close : model::Verdict::NoGo;
        found.at_vehicle_mm = gap.point_a;
        out.push_back(std::move(found));
    }
    return out;
}

} // namespace gabarit::fit
