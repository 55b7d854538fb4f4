#include "fit/elsewhere.h"

#include <algorithm>

namespace gabarit::fit {

using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {
constexpr double least_gap_mm = 0.25; // so that a search along a surface ends
constexpr int most_gap_steps = 400;
} // namespace

bool throughSheet(const placed::Scene& scene, const Isometry3d& moved, const Going& motion, const StopToken& stop) {
    const double amount = motion.amount;
    for (const placed::PlacedBody& panel : scene.bodies) {
        const bool closes = panel.body.closing || panel.body.category == "bonnet";
        if (panel.in_donor || !panel.solid() || (!closes && panel.body.category != "body")) continue;
        const Eigen::AlignedBox3d lid = shape::moved(panel.made->collider->bounds(), panel.pose_vehicle_body);
        for (const placed::PlacedBody& part : scene.bodies) {
            if (!part.in_donor || !part.solid() || stop.stopped()) continue;
            const Eigen::AlignedBox3d before =
                shape::moved(part.made->collider->bounds(), moved * part.pose_vehicle_body);
            Eigen::AlignedBox3d swept = before;
            swept.extend(
                shape::moved(part.made->collider->bounds(), motion.at(amount) * moved * part.pose_vehicle_body));
            if (!swept.intersects(lid)) continue;
            const double speed = motion.speed(before), far_mm = amount * speed + 1;
            const auto gapThere = [&](double at, double range_mm) {
                proximity::GapRequest request;
                request.range_mm = range_mm;
                request.depth = false;
                request.stop = stop;
                return proximity::gap(*part.made->collider, motion.at(at) * moved * part.pose_vehicle_body,
                                      *panel.made->collider, panel.pose_vehicle_body, request);
            };
            double at = 0;
            proximity::Gap gap = gapThere(0, far_mm);
            const bool began_in_it = gap.contact == proximity::Contact::Overlap;
            if (began_in_it && !closes) continue; // whichever way it goes, it comes out of it
            for (int step = 0; !began_in_it && step < most_gap_steps && at < amount && gap.gap_mm > least_gap_mm;
                 ++step) {
                at += gap.gap_mm / speed;
                if (at < amount) gap = gapThere(at, far_mm);
            }
            if (!began_in_it && at >= amount) continue; // nothing was met
            const proximity::Gap there = gapThere(amount, swept.diagonal().norm() + lid.diagonal().norm());
            if (there.contact == proximity::Contact::Overlap) continue; // it ends in it: that is a no-go of its own
            if (!began_in_it || (before.center() - there.point_b).dot(there.away) < 0) return true;
        }
    }
    return false;
}

} // namespace gabarit::fit
