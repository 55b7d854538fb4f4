#include "fit/lowest.h"

#include "discipline/wording.h"

#include <limits>

namespace gabarit::fit {
namespace {

using Eigen::Vector3d;

struct Low {
    const placed::PlacedBody* body = nullptr;
    Vector3d at_mm{0, 0, std::numeric_limits<double>::max()};

    void take(const placed::PlacedBody& other) {
        for (const Vector3d& p : other.made->collider->mesh().points)
            if (const Vector3d at = other.pose_vehicle_body * p; at.z() < at_mm.z()) at_mm = at, body = &other;
    }
};

} // namespace

LowestReport lowestPart(const placed::Scene& scene, const model::RuleBook& book) {
    LowestReport report;
    Low unit;
    Eigen::AlignedBox3d reach;
    for (const placed::PlacedBody& body : scene.bodies)
        if (body.in_donor && body.solid()) {
            // An exhaust hangs under the car by its nature, on rubbers.
            if (!model::isOfKind(book, "@hot", body.body.category)) unit.take(body);
            reach.extend(shape::moved(body.made->collider->bounds(), body.pose_vehicle_body));
        }
    if (!unit.body) return report;
    report.lowest = unit.body->body.name;
    report.at_mm = unit.at_mm;
    for (const char* kind : {"crossmember", "axle"}) {
        Low over, any;
        for (const placed::PlacedBody& body : scene.bodies) {
            if (body.in_donor || !body.solid() || body.body.category != kind) continue;
            any.take(body);
            const auto box = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
            if (box.max().x() >= reach.min().x() && box.min().x() <= reach.max().x()) over.take(body);
        }
        const Low& other = over.body && std::string(kind) == "crossmember" ? over : any;
        if (!other.body) continue;
        model::Check check;
        const std::string figure = std::string("below_") + kind + "_mm";
        check.id = std::string("lowest/") + kind;
        check.what = unit.body->body.name + " below the " + discipline::inSentence(other.body->body.name);
        check.unit = model::Unit::Millimetres;
        check.value = other.at_mm.z() - unit.at_mm.z();
        check.good_most = book.figure(figure);
        check.soft = true;
        check.rule = model::ruleOf(book, figure);
        const auto a = model::told(unit.body->body.accuracy_mm), b = model::told(other.body->body.accuracy_mm);
        if (a && b)
            check.accuracy =
                *a + *b + unit.body->made->collider->deflection_mm() + other.body->made->collider->deflection_mm();
        model::judge(check);
        if (!check.accuracy && check.verdict == model::Verdict::Go) {
            check.verdict = model::Verdict::Unknown;
            check.reason = "the accuracy of one of the two is not known";
        } else if (*check.value > *check.good_most) {
            check.reason = "it meets a stone or a kerb first: raise it, another sump, or a guard under it";
        }
        report.verdict = model::worse(report.verdict, check.verdict);
        report.checks.push_back(std::move(check));
    }
    return report;
}

} // namespace gabarit::fit
