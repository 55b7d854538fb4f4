#include "fit/stances.h"

#include "fit/limit_table.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {
namespace {

using Eigen::Vector3d;
using model::End;
using model::Verdict;

constexpr double farthest_mm = 300; // beyond it nothing is said to be near

bool travels(const model::RuleBook& book, const std::string& categoryId) {
    const model::Category* category = book.category(categoryId);
    return category && std::find(category->groups.begin(), category->groups.end(), "travels") != category->groups.end();
}

class Stands {
public:
    Stands(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
           const Movement& movement, LimitTable* limits, const StopToken& stop)
        : project_(project), scene_(scene), book_(book), movement_(movement), stop_(stop),
          limits_(limits ? *limits : own_limits_) {
        if (!limits) own_limits_.begin(book);
        for (const placed::PlacedBody& body : scene.bodies)
            if (body.in_donor && body.solid())
                unit_.emplace_back(&body, shape::moved(body.made->collider->bounds(), body.pose_vehicle_body));
        for (const placed::PlacedBody& body : scene.bodies)
            if (body.body.category == "ground" && body.solid()) {
                const double top = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body).max().z();
                if (!ground_z_mm_ || top > *ground_z_mm_)
                    ground_z_mm_ = top, ground_accuracy_mm_ = body.body.accuracy_mm;
            }
        if (!ground_z_mm_ && project.vehicle->datum.kind == "ground") ground_z_mm_ = 0, ground_accuracy_mm_ = 0;
    }

    void look(StanceLine& line, const model::Limit& limit) const {
        line.limit_mm = limit.gap_mm;
        line.limit_source = limit.source;
        lowest(line);
        tightest(line);
    }

private:
    bool sprung(const placed::PlacedBody& body) const {
        if (body.body.category == "ground" || !body.solid()) return false;
        if (body.in_donor) return true;
        return !travels(book_, body.body.category) && !movement_.chainOf(body.ref);
    }

    void lowest(StanceLine& line) const {
        if (!ground_z_mm_) {
            line.reason = "where the ground is, is not given";
            return;
        }
        const Eigen::Isometry3d moved = groundMoved(*project_.vehicle, line.front_mm, line.rear_mm);
        const Vector3d up = moved.linear() * Vector3d::UnitZ(), on = moved * Vector3d(0, 0, *ground_z_mm_);
        const placed::PlacedBody* lowest = nullptr;
        for (const placed::PlacedBody& body : scene_.bodies) {
            if (!sprung(body)) continue;
            for (const Vector3d& p : body.made->collider->mesh().points) {
                const Vector3d at = body.pose_vehicle_body * p;
                const double height = up.dot(at - on);
                if (line.ground_mm && height >= *line.ground_mm) continue;
                line.ground_mm = height;
                line.lowest_at_mm = at;
                lowest = &body;
            }
        }
        if (!lowest) {
            line.reason = "nothing stands on the springs";
            return;
        }
        line.lowest = lowest->ref;
        line.lowest_name = lowest->body.name;
        if (model::told(lowest->body.accuracy_mm) && ground_accuracy_mm_)
            line.accuracy_mm =
                *lowest->body.accuracy_mm + *ground_accuracy_mm_ + lowest->made->collider->deflection_mm();
        line.verdict = model::judge(*line.ground_mm - line.limit_mm, line.accuracy_mm);
        if (line.verdict == Verdict::Unknown)
            line.reason = "the accuracy of \"" + line.lowest_name + "\" or of the ground is not known";
    }

    void tightest(StanceLine& line) const {
        kinematics::State state = kinematics::atRest(movement_.freedoms);
        for (std::size_t i = 0; i < state.size(); ++i) {
            if (movement_.of[i].of != FreedomOf::Travel || movement_.of[i].end == End::NotSaid) continue;
            const double wanted = movement_.of[i].end == End::Front ? line.front_mm : line.rear_mm;
            state[i] = std::clamp(wanted, movement_.freedoms[i].low, movement_.freedoms[i].high);
        }
        // What is nearest by its box first: most of the rest cannot be tighter.
        struct Candidate {
            const placed::PlacedBody& a;
            const placed::PlacedBody& b;
            const model::Limit& limit;
            Eigen::Isometry3d pose_b;
            double apart_mm; ///< no gap is smaller
            double leastMargin_mm() const { return apart_mm - limit.gap_mm; }
        };
        std::vector<Candidate> candidates;
        for (const placed::PlacedBody& b : scene_.bodies) {
            if (b.in_donor || !b.solid() || !movement_.chainOf(b.ref)) continue;
            const Eigen::Isometry3d pose_b = movement_.at(b.ref, state) * b.pose_vehicle_body;
            const auto box_b = shape::moved(b.made->collider->bounds(), pose_b);
            for (const auto& [a, box_a] : unit_) {
                const double apart_mm = std::sqrt(box_a.squaredExteriorDistance(box_b));
                if (apart_mm > farthest_mm) continue;
                const model::MovingLimits& limits = limits_.of(book_, *a, b).moving;
                const auto& limit = limits.travel ? limits.travel : limits.worst;
                if (limit && !model::joinedPair(project_, a->ref, b.ref))
                    candidates.push_back({*a, b, *limit, pose_b, apart_mm});
            }
        }
        std::vector<const Candidate*> order;
        for (const Candidate& candidate : candidates) order.push_back(&candidate);
        std::stable_sort(order.begin(), order.end(), [](const Candidate* x, const Candidate* y) {
            return x->leastMargin_mm() < y->leastMargin_mm();
        });
        for (const Candidate* candidate : order) {
            if (stop_.stopped()) return;
            const placed::PlacedBody &a = candidate->a, &b = candidate->b;
            const bool mayOverlap = candidate->apart_mm == 0 && !(line.tightest && line.tightest->overlap());
            if (line.tightest && !mayOverlap && candidate->leastMargin_mm() >= line.tightest->margin_mm) continue;
            proximity::GapRequest request;
            request.range_mm =
                line.tightest ? std::max(line.tightest->margin_mm, 0.0) + candidate->limit.gap_mm + 1 : farthest_mm;
            request.depth = false;
            request.stop = stop_;
            PairGap pair;
            pair.gap =
                proximity::gap(*a.made->collider, a.pose_vehicle_body, *b.made->collider, candidate->pose_b, request);
            if (pair.beyond()) continue;
            pair.margin_mm = pair.gap.gap_mm - candidate->limit.gap_mm;
            const bool worse =
                !line.tightest || (pair.overlap() && !line.tightest->overlap()) ||
                (pair.overlap() == line.tightest->overlap() && pair.margin_mm < line.tightest->margin_mm);
            if (!worse) continue;
            pair.a = a.ref;
            pair.b = b.ref;
            pair.name_a = a.body.name;
            pair.name_b = b.body.name;
            pair.range_mm = request.range_mm;
            pair.limit = std::make_shared<const model::Limit>(candidate->limit);
            line.tightest = std::move(pair);
        }
    }

    const model::Project& project_;
    const placed::Scene& scene_;
    const model::RuleBook& book_;
    const Movement& movement_;
    StopToken stop_;
    LimitTable own_limits_;
    LimitTable& limits_;
    std::vector<std::pair<const placed::PlacedBody*, Eigen::AlignedBox3d>> unit_; ///< its solid bodies
    std::optional<double> ground_z_mm_;
    std::optional<double> ground_accuracy_mm_;
};

} // namespace

std::optional<StanceReport> stances(const model::Project& project, const placed::Scene& scene,
                                    const model::RuleBook& book, const Movement& movement, const Sag& sag,
                                    LimitTable* limits, const StopToken& stop) {
    if (!project.vehicle) return std::nullopt;
    const model::Vehicle& vehicle = *project.vehicle;
    StanceReport report;
    report.sag = sag;
    report.front_bump_mm = bumpTravel_mm(vehicle, End::Front);
    report.rear_bump_mm = bumpTravel_mm(vehicle, End::Rear);
    if (!report.front_bump_mm && !report.rear_bump_mm && vehicle.stances.empty() && !sag.any()) return std::nullopt;

    // The ride's figure is the ground row's, the other ends' the book's figure for the bump stop.
    model::Body anything, ground;
    anything.category = "engine";
    ground.category = "ground";
    model::Limit ride = model::limitFor(book, book.default_school, anything, ground).value_or(model::Limit{});
    model::Limit bump;
    for (const model::Figure& figure : book.figures)
        if (figure.id == "ground_at_bump_mm") bump = {figure.value, figure.id, figure.text, figure.source, true, 0};

    const Stands stands(project, scene, book, movement, limits, stop);
    const auto add = [&](const std::string& id, const std::string& name, const std::string& blocks, double front,
                         double rear, const model::Limit& limit) {
        StanceLine line;
        line.id = id;
        line.name = name;
        line.blocks = blocks;
        line.front_mm = front;
        line.rear_mm = rear;
        line.beyond_bump = (report.front_bump_mm && front > *report.front_bump_mm + 1e-9) ||
                           (report.rear_bump_mm && rear > *report.rear_bump_mm + 1e-9);
        stands.look(line, limit);
        if (line.ground_mm) report.verdict = model::worse(report.verdict, line.verdict); // else it is not asked
        report.lines.push_back(std::move(line));
    };
    add("ride", "Ride height", "", 0, 0, ride);
    if (sag.any()) add("load", "With the new load", "", sag.front_mm.value_or(0), sag.rear_mm.value_or(0), ride);
    if (report.front_bump_mm || report.rear_bump_mm)
        add("bump", "Bump stop", "", report.front_bump_mm.value_or(0), report.rear_bump_mm.value_or(0), bump);
    for (const model::Stance& stance : vehicle.stances)
        add(stance.id, stance.name, stance.blocks, stance.front_mm, stance.rear_mm, bump);
    return report;
}

} // namespace gabarit::fit
