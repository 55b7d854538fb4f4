#include "fit/measured.h"

#include "linear/linear.h"
#include "model/holds.h"
#include "proximity/gap.h"
#include "relief/section/relief.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace gabarit::fit {
namespace {

using Eigen::Vector3d;

/// Looked that much farther than the reading: a plan that is farther off than that is another plan.
constexpr double farther_mm = 300;
constexpr double same_way = 0.2; // readings along nearly the same line say nothing of what is across it

struct Reading {
    const MeasuredLine* line;
    const placed::PlacedBody* a;
    const placed::PlacedBody* b;
    Vector3d away; ///< along which A moves away from B
    double reading_accuracy_mm;
};

double accuracyOrElse(const placed::PlacedBody& body, double otherwise_mm) {
    return body.body.accuracy_mm.value_or(otherwise_mm) + (body.solid() ? body.made->collider->deflection_mm() : 0);
}

/// Which way, and how much, the candidate opens the gap: the sum over its sides.
Vector3d opens(const Reading& reading, const std::optional<model::BodyRef>& candidate) {
    const auto moves = [&](const placed::PlacedBody& body) {
        return candidate ? body.ref == *candidate : body.in_donor;
    };
    return (moves(*reading.a) ? reading.away : Vector3d::Zero().eval()) -
           (moves(*reading.b) ? reading.away : Vector3d::Zero().eval());
}

/// Against the rule that the planned gap is held against.
void judgeMeasured(MeasuredLine& line, const model::Project& project, const model::MeasuredGap& gap,
                   const placed::PlacedBody& a, const placed::PlacedBody& b, const model::RuleBook& book) {
    if (!canMoveAgainst(a, b) || model::joinedPair(project, gap.a, gap.b)) return;
    auto limit = model::limitFor(book, book.default_school, a.body, b.body);
    if (!limit) return;
    if (a.in_donor != b.in_donor) limit = model::withWeldPull(*limit, book);
    line.limit_mm = limit->gap_mm;
    line.rule = limit->text + " (" + limit->source + ")";
    line.margin_mm = gap.gap_mm - limit->gap_mm;
    line.verdict = model::judge(*line.margin_mm, gap.accuracy_mm);
}

Suspect weighed(const std::vector<Reading>& readings, const std::optional<model::BodyRef>& candidate,
                const std::string& name, double own_mm, double hanging_mm) {
    Suspect suspect;
    suspect.body = candidate;
    suspect.name = name;
    suspect.accuracy_mm = own_mm;
    const auto sigma = [&](const Reading& r) {
        double square = r.reading_accuracy_mm * r.reading_accuracy_mm;
        if (candidate && r.a->in_donor != r.b->in_donor) square += hanging_mm * hanging_mm;
        for (const placed::PlacedBody* body : {r.a, r.b})
            if (!candidate || body->ref != *candidate) square += std::pow(accuracyOrElse(*body, hanging_mm), 2);
        return std::max(std::sqrt(square), 1e-3);
    };
    Eigen::MatrixX3d read(static_cast<Eigen::Index>(readings.size()), 3);
    Eigen::VectorXd wanted(read.rows());
    Eigen::Index row = 0;
    for (const Reading& r : readings) {
        read.row(row) = opens(r, candidate) / sigma(r);
        wanted[row++] = *r.line->difference_mm / sigma(r);
    }
    suspect.off_vehicle_mm = linear::leastSquares(read, wanted, same_way);
    suspect.misfit = (wanted - read * suspect.off_vehicle_mm).squaredNorm();
    for (const Reading& r : readings) {
        const double left = *r.line->difference_mm - opens(r, candidate).dot(suspect.off_vehicle_mm);
        if (r.line->agreement == Agreement::Differs && std::abs(left) <= *r.line->accuracy_mm) ++suspect.explains;
    }
    return suspect;
}

} // namespace

std::string gapMark(const model::Project& project, const model::BodyRef& a, const model::BodyRef& b) {
    const model::Placement* placement = model::activePlacement(project);
    const model::Donor* donor = model::activeDonor(project);
    const auto poseOf = [&](const model::BodyRef& ref) -> std::optional<Eigen::Isometry3d> {
        const model::Body* body = model::findBody(project, ref);
        if (!body) return std::nullopt;
        if (ref.owner == model::vehicle_owner) return body->poseOwnerBody();
        if (!placement || !donor || donor->id.text != ref.owner) return std::nullopt;
        return model::poseVehicleDonor(*placement, *donor) * body->poseOwnerBody();
    };
    // Either order gives one mark.
    const auto [first, second] = std::minmax(a, b);
    const auto pose_first = poseOf(first), pose_second = poseOf(second);
    if (!pose_first || !pose_second) return {};
    const Eigen::Isometry3d between = pose_first->inverse() * *pose_second;
    model::Marker mark;
    mark << model::shapeKey(model::findBody(project, first)->shape)
         << model::shapeKey(model::findBody(project, second)->shape);
    if (const auto* relief = project.sections.get<model::Relief>()) // a cut changes what was measured
        for (const model::Pocket& pocket : relief->pockets)
            for (const model::BodyRef& ref : {first, second})
                if (!pocket.set_aside && ref.owner == model::vehicle_owner && pocket.body == ref.body)
                    mark << pocket.at_mm << pocket.into << pocket.along << pocket.length_mm << pocket.width_mm
                         << pocket.depth_mm << pocket.flank_deg << pocket.plate_mm << pocket.doubler_mm;
    for (int column = 0; column < 4; ++column) mark << Eigen::Vector3d(between.matrix().block<3, 1>(0, column));
    return mark.text();
}

MeasuredReport measuredAgainstPlanned(const model::Project& project, const placed::Scene& scene,
                                      const model::RuleBook& book) {
    MeasuredReport report;
    const model::Placement* active = model::activePlacement(project);
    const double hanging_mm = std::max(book.figure("hanging_accuracy_mm"), 1e-3);
    report.lines.reserve(project.measured.size()); // readings point into it
    std::vector<Reading> readings;
    for (std::size_t i = 0; i < project.measured.size(); ++i) {
        const model::MeasuredGap& gap = project.measured[i];
        const placed::PlacedBody *a = scene.find(gap.a), *b = scene.find(gap.b);
        const auto nameOf = [&](const model::BodyRef& ref) {
            const model::Body* body = model::findBody(project, ref);
            return body ? body->name : ref.text();
        };
        report.lines.push_back({i, nameOf(gap.a), nameOf(gap.b), gap.gap_mm, {}, {}, {}, Agreement::Unknown, {}});
        MeasuredLine& line = report.lines.back();
        if (!gap.placement.empty() && active && gap.placement != active->id) {
            line.agreement = Agreement::Elsewhere;
            line.reason = "it was measured at another placement";
            continue;
        }
        line.out_of_date = !gap.mark.empty() && gap.mark != gapMark(project, gap.a, gap.b);
        if (line.out_of_date) {
            line.agreement = Agreement::OutOfDate;
            line.reason = "one of the two, or the placement, has changed since it was measured";
            continue;
        }
        if (a && b) judgeMeasured(line, project, gap, *a, *b, book);
        if (!a || !b || !a->solid() || !b->solid()) {
            line.reason = "\"" + (a && a->solid() ? line.name_b : line.name_a) + "\" is not in the bay";
            continue;
        }
        proximity::GapRequest ask;
        ask.range_mm = std::max(gap.gap_mm, 0.0) + farther_mm;
        const proximity::Gap planned =
            proximity::gap(*a->made->collider, a->pose_vehicle_body, *b->made->collider, b->pose_vehicle_body, ask);
        if (planned.contact == proximity::Contact::Beyond) {
            line.reason = "in the plan they are farther apart than was looked";
            continue;
        }
        line.planned_mm = planned.gap_mm;
        line.difference_mm = gap.gap_mm - planned.gap_mm;
        if (!gap.accuracy_mm || !a->body.accuracy_mm || !b->body.accuracy_mm) {
            line.reason = "how accurately " +
                          (!gap.accuracy_mm ? std::string("the gap")
                                            : "\"" + (a->body.accuracy_mm ? line.name_b : line.name_a) + "\"") +
                          " was measured is not known";
            continue;
        }
        line.accuracy_mm = *gap.accuracy_mm + accuracyOrElse(*a, 0) + accuracyOrElse(*b, 0);
        line.agreement = std::abs(*line.difference_mm) <= *line.accuracy_mm ? Agreement::Agrees : Agreement::Differs;
        if (line.agreement == Agreement::Differs) ++report.differing;
        readings.push_back({&line, a, b, planned.away, *gap.accuracy_mm});
    }
    if (report.differing == 0) return report;

    std::set<model::BodyRef> seen;
    bool across = false;
    for (const Reading& reading : readings) {
        across = across || reading.a->in_donor != reading.b->in_donor;
        for (const placed::PlacedBody* body : {reading.a, reading.b})
            if (seen.insert(body->ref).second)
                report.suspects.push_back(
                    weighed(readings, body->ref, body->body.name, accuracyOrElse(*body, hanging_mm), hanging_mm));
    }
    if (const model::Donor* donor = across ? model::activeDonor(project) : nullptr)
        report.suspects.push_back(weighed(readings, std::nullopt, donor->name, hanging_mm, hanging_mm));
    // Among those that fit about as well, what was measured worst comes first.
    double best = std::numeric_limits<double>::infinity();
    for (const Suspect& suspect : report.suspects) best = std::min(best, suspect.misfit);
    const auto rank = [best](const Suspect& suspect) {
        return std::pair(std::max(suspect.misfit, best + as_likely_misfit), -suspect.accuracy_mm);
    };
    std::stable_sort(report.suspects.begin(), report.suspects.end(),
                     [&](const Suspect& x, const Suspect& y) { return rank(x) < rank(y); });
    return report;
}

void hold(ClearanceReport& report, const model::Project& project, const MeasuredReport& measured) {
    bool changed = false;
    for (const MeasuredLine& line : measured.lines) {
        if (!line.verdict) continue;
        const model::MeasuredGap& gap = project.measured[line.index];
        for (PairGap& pair : report.pairs) {
            const bool its = (pair.a == gap.a && pair.b == gap.b) || (pair.a == gap.b && pair.b == gap.a);
            if (!its) continue;
            // Of several readings of one pair the worst counts.
            const bool worse = !pair.measured || *line.verdict > pair.measured->verdict ||
                               (*line.verdict == pair.measured->verdict && *line.margin_mm < pair.measured->margin_mm);
            if (worse) pair.measured = MeasuredPair{gap.gap_mm, gap.accuracy_mm, *line.margin_mm, *line.verdict};
            if (!pair.measuredDecides()) continue;
            pair.verdict = pair.measured->verdict;
            changed = true;
        }
        report.verdict = model::worse(report.verdict, *line.verdict);
    }
    if (changed) sortWorstFirst(report);
}

} // namespace gabarit::fit
