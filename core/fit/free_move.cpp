#include "fit/free_move.h"

#include "fit/on_threads.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using model::Verdict;
using quantity::deg_per_rad;

constexpr double near_enough_mm = 0.05;    // half of what is shown
constexpr double square_cos = 0.02;        // moving square to a gap leaves it as it is
constexpr double roughly_square_cos = 0.2; // the direction of an overlap is an estimate
constexpr double jack_grain_mm = 0.5;      // no jack is set finer
constexpr double jack_grain_deg = 0.05;    // half a millimetre at the end of a gearbox
// Room is rounded down to what is shown, so that what is read can be gone.
constexpr double shown_grain_mm = 0.1;
constexpr double shown_grain_deg = 0.01;
constexpr double least_step_mm = 0.25; // so that a search along a surface ends
constexpr int most_steps = 400;

/// The rigid motion of the donor as it goes one way, vehicle frame.
class Motion {
public:
    Motion(const model::Placement& placement, const model::Donor& donor, Way way) : way_(way) {
        if (isTurn(way)) {
            pivot_ = model::pivotVehicle_mm(placement, donor).value();
            // Pitch is the second of the moving turns: its axis is the vehicle's Y after the yaw.
            axis_ = model::rotation(model::Angles{placement.angles.yaw_deg, 0, 0}) * Vector3d::UnitY();
            if (way == Way::TailUp) axis_ = -axis_;
            return;
        }
        axis_ = direction(way);
    }

    Isometry3d at(double amount) const {
        Isometry3d move = Isometry3d::Identity();
        if (!isTurn(way_)) {
            move.translation() = axis_ * amount;
            return move;
        }
        move.linear() = Eigen::AngleAxisd(amount / deg_per_rad, axis_).toRotationMatrix();
        move.translation() = pivot_ - move.linear() * pivot_;
        return move;
    }
    /// Millimetres that no point of the box outruns for each unit of the amount.
    double speed(const Eigen::AlignedBox3d& box_vehicle) const {
        if (!isTurn(way_)) return 1;
        double farthest = 0;
        for (int i = 0; i < 8; ++i)
            farthest = std::max(farthest,
                                (box_vehicle.corner(static_cast<Eigen::AlignedBox3d::CornerType>(i)) - pivot_).norm());
        return std::max(farthest, 1.0) / deg_per_rad;
    }
    /// Direction and rate in which a point moves.
    Vector3d velocity(const Vector3d& point) const {
        return isTurn(way_) ? Vector3d(axis_.cross(point - pivot_) / deg_per_rad) : axis_;
    }

private:
    Way way_;
    Vector3d axis_{0, 0, 0};
    Vector3d pivot_{0, 0, 0};
};

struct MovingPair {
    const PairGap* pair;
    const PlacedBody* a;
    const PlacedBody* b;
};

/// The pairs that a move of the donor changes, least margin first.
std::vector<MovingPair> movingPairs(const Scene& scene, const ClearanceReport& clearance) {
    std::map<model::BodyRef, const PlacedBody*> bodies;
    for (const PlacedBody& body : scene.bodies) bodies[body.ref] = &body;
    std::vector<MovingPair> out;
    for (const PairGap& pair : clearance.pairs) {
        const PlacedBody *a = bodies[pair.a], *b = bodies[pair.b];
        if (a && b && a->in_donor && !b->in_donor && a->solid() && b->solid() && pair.limit)
            out.push_back({&pair, a, b});
    }
    std::sort(out.begin(), out.end(),
              [](const MovingPair& x, const MovingPair& y) { return x.pair->margin_mm < y.pair->margin_mm; });
    return out;
}

proximity::Gap gapAt(const MovingPair& moving, const Isometry3d& move, double range_mm, const StopToken& stop) {
    proximity::GapRequest request;
    request.range_mm = range_mm;
    request.depth = false;
    request.stop = stop;
    return proximity::gap(*moving.a->made->collider, move * moving.a->pose_vehicle_body, *moving.b->made->collider,
                          moving.b->pose_vehicle_body, request);
}

/// The smallest amount that leaves `wanted_mm` between the two.
std::optional<double> freeingAmount(const MovingPair& moving, const Motion& motion, Way way, double wanted_mm,
                                    const MoveOptions& options) {
    const double speed = motion.speed(shape::moved(moving.a->made->collider->bounds(), moving.a->pose_vehicle_body));
    const double range = isTurn(way) ? options.range_deg : options.range_mm;
    const double grain = isTurn(way) ? jack_grain_deg : jack_grain_mm;
    // An overlap's depth is an upper bound: it says nothing about how soon the pair comes free.
    double lacking_mm = wanted_mm - std::max(moving.pair->gap.gap_mm, 0.0), amount = 0;
    for (int step = 0; step < most_steps && !options.stop.stopped(); ++step) {
        amount += std::max(lacking_mm, least_step_mm) / speed; // it cannot be good before
        amount = std::ceil(amount / grain - 1e-9) * grain;
        if (amount > range) return std::nullopt;
        const proximity::Gap there = gapAt(moving, motion.at(amount), wanted_mm + 1, options.stop);
        lacking_mm = wanted_mm - there.gap_mm;
        if (lacking_mm <= 0 && there.contact != proximity::Contact::Overlap) return amount;
    }
    return std::nullopt;
}

/// Whether going that way makes a pair worse that is no-go already.
bool makesWorse(const MovingPair& moving, const Motion& motion, Way way, const MoveOptions& options) {
    const proximity::Gap& gap = moving.pair->gap;
    const Vector3d at = (gap.point_a + gap.point_b) / 2;
    const double along = gap.away.dot(motion.velocity(at).normalized());
    if (!moving.pair->overlap()) return along < -square_cos;
    // An overlap has several ways out, and the shortest need not be this one: what comes free by going on does not
    // bind.
    return along < -roughly_square_cos && !freeingAmount(moving, motion, way, 0, options);
}

/// How far up to `farthest` the pair stays above its limit.
double reach(const MovingPair& moving, const Motion& motion, Way way, double farthest, const MoveOptions& options) {
    const PairGap& pair = *moving.pair;
    const StopToken& stop = options.stop;
    if (pair.margin_mm < 0) return makesWorse(moving, motion, way, options) ? 0 : farthest;
    const double speed = motion.speed(shape::moved(moving.a->made->collider->bounds(), moving.a->pose_vehicle_body));
    double amount = 0, margin_mm = pair.margin_mm;
    for (int step = 0; step < most_steps && !stop.stopped(); ++step) {
        if (margin_mm <= near_enough_mm) return amount;
        amount += (margin_mm - near_enough_mm / 2) / speed; // never quite at the limit, where rounding decides
        if (amount >= farthest) return farthest;
        const double range_mm = pair.limit->gap_mm + (farthest - amount) * speed + 1;
        margin_mm = gapAt(moving, motion.at(amount), range_mm, stop).gap_mm - pair.limit->gap_mm;
    }
    return amount;
}

template <class Take>
Room room(const std::vector<MovingPair>& pairs, const Motion& motion, Way way, const MoveOptions& options, Take take) {
    Room out;
    out.way = way;
    out.amount = isTurn(way) ? options.range_deg : options.range_mm;
    out.beyond = true;
    for (const MovingPair& moving : pairs) {
        if (options.stop.stopped()) break;
        if (!take(*moving.pair)) continue;
        const double reached = reach(moving, motion, way, out.amount, options);
        if (reached >= out.amount) continue;
        out.amount = reached;
        out.beyond = false;
        out.a = moving.pair->a;
        out.b = moving.pair->b;
        out.name_a = moving.pair->name_a;
        out.name_b = moving.pair->name_b;
        out.rule = moving.pair->limit->text;
    }
    const double grain = isTurn(way) ? shown_grain_deg : shown_grain_mm;
    out.amount = std::floor(out.amount / grain + 1e-9) * grain;
    return out;
}

int countNoGo(const ClearanceReport& report) {
    return static_cast<int>(std::count_if(report.pairs.begin(), report.pairs.end(),
                                          [](const PairGap& p) { return p.verdict == Verdict::NoGo; }));
}

double marginOf(const std::optional<PairGap>& pair) { return pair ? pair->margin_mm : 1e9; }

} // namespace

Vector3d direction(Way way) {
    switch (way) {
    case Way::Forward: return -Vector3d::UnitX();
    case Way::Rearward: return Vector3d::UnitX();
    case Way::Left: return -Vector3d::UnitY();
    case Way::Right: return Vector3d::UnitY();
    case Way::Up: return Vector3d::UnitZ();
    case Way::Down: return -Vector3d::UnitZ();
    case Way::TailUp:
    case Way::TailDown: break;
    }
    return Vector3d::Zero();
}

const char* word(Way way) {
    switch (way) {
    case Way::Forward: return "forward";
    case Way::Rearward: return "rearward";
    case Way::Left: return "left";
    case Way::Right: return "right";
    case Way::Up: return "up";
    case Way::Down: return "down";
    case Way::TailUp: return "tail_up";
    case Way::TailDown: break;
    }
    return "tail_down";
}

Result<model::Placement> gone(const model::Placement& placement, const model::Donor& donor, Way way, double amount) {
    if (isTurn(way)) return model::turned(placement, donor, model::Turn::Tail, way == Way::TailDown ? amount : -amount);
    return model::shifted(placement, Motion(placement, donor, way).at(amount).translation());
}

RoomReport roomToMove(const model::Project& project, const Scene& scene, const ClearanceReport& clearance,
                      const MoveOptions& options) {
    RoomReport report;
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor) {
        report.reason = "no donor is placed";
        return report;
    }
    const std::vector<MovingPair> pairs = movingPairs(scene, clearance);
    const auto any = [](const PairGap&) { return true; };
    const auto gearbox = [](const PairGap& pair) { return pair.category_a == "gearbox"; };
    const bool canTurn = model::pivotDonor_mm(*donor, placement->pivot).ok();
    std::vector<Way> wanted;
    for (const Way way : all_ways)
        if (canTurn || !isTurn(way)) wanted.push_back(way);
    report.rooms.resize(wanted.size());
    onThreads(options.threads, wanted.size() + 2, options.stop, [&](std::size_t i) {
        if (i < wanted.size()) {
            report.rooms[i] = room(pairs, Motion(*placement, *donor, wanted[i]), wanted[i], options, any);
            return;
        }
        const Way way = i == wanted.size() ? Way::Up : Way::Down;
        const Room found = room(pairs, Motion(*placement, *donor, way), way, options, gearbox);
        (way == Way::Up ? report.gearbox_up : report.gearbox_down) = found;
    });
    if (std::none_of(pairs.begin(), pairs.end(), [&](const MovingPair& p) { return gearbox(*p.pair); })) {
        report.gearbox_up.reset();
        report.gearbox_down.reset();
    }
    report.complete = !options.stop.stopped();
    return report;
}

std::optional<WayOut> bestWayOut(const model::Project& project, const Scene& scene, const ClearanceReport& clearance,
                                 const PairGap& pair, const model::RuleBook& book, proximity::ColliderCache& cache,
                                 const MoveOptions& options) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    const PlacedBody *a = scene.find(pair.a), *b = scene.find(pair.b);
    if (!placement || !donor || !a || !b || !a->solid() || !b->solid() || !a->in_donor || b->in_donor || !pair.limit)
        return std::nullopt;
    const MovingPair moving{&pair, a, b};
    const double wanted_mm = pair.limit->gap_mm + pair.accuracy_mm.value_or(0);
    const bool canTurn = model::pivotDonor_mm(*donor, placement->pivot).ok();
    std::optional<WayOut> best;
    double bestLength = 0;
    for (const Way way : all_ways) {
        if ((isTurn(way) && !canTurn) || options.stop.stopped()) continue;
        const Motion motion(*placement, *donor, way);
        const auto amount = freeingAmount(moving, motion, way, wanted_mm, options);
        if (!amount) continue;
        WayOut out;
        out.way = way;
        out.amount = *amount;
        out.placement = gone(*placement, *donor, way, *amount).value();
        out.no_go_before = countNoGo(clearance);
        model::Project there = project;
        *model::activePlacement(there) = out.placement;
        ClearanceOptions ask;
        ask.depth = Depth::Skipped;
        ask.threads = options.threads;
        ask.stop = options.stop;
        const ClearanceReport after =
            fit::clearance(there, makeScene(there, cache, {options.threads, options.stop}), book, nullptr, ask);
        if (!after.complete) return std::nullopt;
        out.no_go_after = countNoGo(after);
        for (const PairGap& other : after.pairs)
            if (!(other.a == pair.a && other.b == pair.b) && other.limit && !other.beyond() &&
                (!out.worst_other || other.margin_mm < out.worst_other->margin_mm))
                out.worst_other = other;
        // A degree of tail is felt like so many millimetres at the body that has to move.
        const double length = *amount * motion.speed(shape::moved(a->made->collider->bounds(), a->pose_vehicle_body));
        const auto rank = [](const WayOut& w, double length_mm) {
            return std::make_tuple(w.no_go_after, -std::min(marginOf(w.worst_other), 0.0), length_mm);
        };
        if (!best || rank(out, length) < rank(*best, bestLength)) best = std::move(out), bestLength = length;
    }
    return best;
}

} // namespace gabarit::fit
