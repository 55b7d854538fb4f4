#include "fit/free_move.h"

#include "fit/elsewhere.h"
#include "model/leaning.h"
#include "quantity/on_threads.h"
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
constexpr int most_goings_on = 5; // of a way out that another moment makes longer

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

/// A pair at one moment: at rest, or at the state in which it comes nearest.
struct MovingPair {
    const PairGap* pair;
    const placed::PlacedBody* a;
    const placed::PlacedBody* b;
    Isometry3d pose_a; ///< at that moment, before the donor is moved
    Isometry3d pose_b;
    proximity::Gap gap;
    double limit_mm;
    double margin_mm;
    std::string rule;

    bool overlap() const { return gap.contact == proximity::Contact::Overlap; }
};

/// A pair at those of its moments that were measured. What grows is taken off the gap.
void addMoments(std::vector<MovingPair>& out, const PairGap& pair, const placed::PlacedBody& a,
                const placed::PlacedBody& b) {
    for (const auto* moment : {&pair.travel, &pair.worst}) {
        if (!*moment || (*moment)->bound) continue; // its state is empty where nothing moves and heat alone counts
        const Moment& m = **moment;
        out.push_back({&pair, &a, &b, m.moved_a * a.pose_vehicle_body, m.moved_b * b.pose_vehicle_body, m.gap,
                       m.limit.gap_mm + m.growth_mm, m.margin_mm, m.limit.text});
    }
}

/// Bodies of a scene by what they are called.
class Bodies {
public:
    explicit Bodies(const placed::Scene& scene) {
        for (const placed::PlacedBody& body : scene.bodies) bodies_[body.ref] = &body;
    }
    const placed::PlacedBody* find(const model::BodyRef& ref) const {
        const auto found = bodies_.find(ref);
        return found == bodies_.end() ? nullptr : found->second;
    }

private:
    std::map<model::BodyRef, const placed::PlacedBody*> bodies_;
};

/// The pairs that a move of the donor changes, least margin first.
std::vector<MovingPair> movingPairs(const Bodies& bodies, const ClearanceReport& clearance) {
    std::vector<MovingPair> out;
    for (const PairGap& pair : clearance.pairs) {
        const placed::PlacedBody *a = bodies.find(pair.a), *b = bodies.find(pair.b);
        if (!a || !b || !a->in_donor || b->in_donor || !a->solid() || !b->solid() || !pair.limit) continue;
        out.push_back({&pair, a, b, a->pose_vehicle_body, b->pose_vehicle_body, pair.gap, pair.limit->gap_mm,
                       pair.margin_mm, pair.limit->text});
        addMoments(out, pair, *a, *b);
    }
    std::sort(out.begin(), out.end(),
              [](const MovingPair& x, const MovingPair& y) { return x.margin_mm < y.margin_mm; });
    return out;
}

proximity::Gap gapAt(const MovingPair& moving, const Isometry3d& move, double range_mm, const StopToken& stop) {
    proximity::GapRequest request;
    request.range_mm = range_mm;
    request.depth = false;
    request.stop = stop;
    return proximity::gap(*moving.a->made->collider, move * moving.pose_a, *moving.b->made->collider, moving.pose_b,
                          request);
}

/// The smallest amount that leaves `wanted_mm` between the two.
std::optional<double> freeingAmount(const MovingPair& moving, const Motion& motion, Way way, double wanted_mm,
                                    const MoveOptions& options) {
    const double speed = motion.speed(shape::moved(moving.a->made->collider->bounds(), moving.pose_a));
    const double range = isTurn(way) ? options.range_deg : options.range_mm;
    const double grain = isTurn(way) ? jack_grain_deg : jack_grain_mm;
    // An overlap's depth is an upper bound: it says nothing about how soon the pair comes free.
    double lacking_mm = wanted_mm - std::max(moving.gap.gap_mm, 0.0), amount = 0;
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
    const proximity::Gap& gap = moving.gap;
    const Vector3d at = (gap.point_a + gap.point_b) / 2;
    const double along = gap.away.dot(motion.velocity(at).normalized());
    if (!moving.overlap()) return along < -square_cos;
    // An overlap has several ways out, and the shortest need not be this one: what comes free by going on does not
    // bind.
    return along < -roughly_square_cos && !freeingAmount(moving, motion, way, 0, options);
}

/// How far up to `farthest` the pair stays above its limit.
double reach(const MovingPair& moving, const Motion& motion, Way way, double farthest, const MoveOptions& options) {
    const StopToken& stop = options.stop;
    if (moving.margin_mm < 0) return makesWorse(moving, motion, way, options) ? 0 : farthest;
    const double speed = motion.speed(shape::moved(moving.a->made->collider->bounds(), moving.pose_a));
    double amount = 0, margin_mm = moving.margin_mm;
    for (int step = 0; step < most_steps && !stop.stopped(); ++step) {
        if (margin_mm <= near_enough_mm) return amount;
        amount += (margin_mm - near_enough_mm / 2) / speed; // never quite at the limit, where rounding decides
        if (amount >= farthest) return farthest;
        const double range_mm = moving.limit_mm + (farthest - amount) * speed + 1;
        margin_mm = gapAt(moving, motion.at(amount), range_mm, stop).gap_mm - moving.limit_mm;
    }
    return amount;
}

void roundDown(Room& room) {
    const double grain = isTurn(room.way) ? shown_grain_deg : shown_grain_mm;
    room.amount = std::floor(room.amount / grain + 1e-9) * grain;
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
        out.rule = moving.rule;
    }
    roundDown(out);
    return out;
}

int countNoGo(const ClearanceReport& report) {
    return static_cast<int>(std::count_if(report.pairs.begin(), report.pairs.end(),
                                          [](const PairGap& p) { return p.verdict == Verdict::NoGo; }));
}

double marginOf(const std::optional<PairGap>& pair) { return pair ? pair->decidingMargin_mm() : 1e9; }

} // namespace

ClearanceReport clearanceAt(const model::Project& project, const model::Placement& placement,
                            const ClearanceReport& now, const model::RuleBook& book, proximity::ColliderCache& cache,
                            discipline::Effort effort, placed::Scene& scene, int threads, const MoveOptions& options) {
    model::Project there = project;
    *model::activePlacement(there) = placement;
    ClearanceOptions ask;
    ask.depth = discipline::Depth::Skipped;
    ask.effort = now.effort == discipline::Effort::None ? discipline::Effort::None : effort;
    ask.sag = now.sag;
    ask.threads = threads;
    ask.limits = options.limits;
    ask.stop = options.stop;
    scene = placed::makeScene(there, cache, {threads, options.stop});
    return fit::clearance(there, scene, book, nullptr, ask);
}

namespace {

/// What was not near enough to be looked at closely here may meet something at the end of the room. Goes there, and
/// takes back what a moment that shows up there binds.
class RoomProver {
public:
    RoomProver(const model::Project& project, const ClearanceReport& now, const model::RuleBook& book,
               proximity::ColliderCache& cache, const MoveOptions& options)
        : project_(project), now_(now), book_(book), cache_(cache), options_(options) {}

    void prove(Room& room, const model::Placement& placement, const model::Donor& donor, const Bodies& bodies,
               const Motion& motion) {
        if (!now_.movement || !now_.movement->any()) return;
        constexpr int most_rounds = 12, patient_rounds = 5; // each takes back what binds; then by halves as well
        for (int round = 0; round < most_rounds && room.amount > 0 && !options_.stop.stopped(); ++round) {
            placed::Scene scene;
            const auto there = gone(placement, donor, room.way, room.amount);
            if (!there) return;
            const ClearanceReport after = clearanceAt(project_, there.value(), now_, book_, cache_,
                                                      discipline::Effort::Verdict, scene, 1, options_);
            if (!after.complete) return;
            const Isometry3d back = motion.at(room.amount).inverse();
            bool shorter = false;
            for (const PairGap& pair : after.pairs) {
                const Moment* moment = pair.moment();
                if (!moment || moment->margin_mm >= 0 || moment->bound || moment->state.empty()) continue;
                if (const PairGap* before = noGoBefore(pair)) {
                    // Bad already: the room is for what does not make it worse.
                    if (pair.decidingMargin_mm() > before->decidingMargin_mm() - near_enough_mm) continue;
                    bind(room, 0, pair, *moment);
                    break;
                }
                const placed::PlacedBody *a = bodies.find(pair.a), *b = bodies.find(pair.b);
                if (!a || !b || !a->in_donor || b->in_donor) continue;
                // As it stands there, brought back to where the room starts from.
                MovingPair moving{&pair,
                                  a,
                                  b,
                                  back * moment->moved_a * motion.at(room.amount) * a->pose_vehicle_body,
                                  moment->moved_b * b->pose_vehicle_body,
                                  moment->gap,
                                  moment->limit.gap_mm + moment->growth_mm,
                                  0,
                                  moment->limit.text};
                const double far_mm = moving.limit_mm + room.amount * motion.speed(boundsOf(moving)) + 1;
                moving.gap = gapAt(moving, Isometry3d::Identity(), far_mm, options_.stop);
                moving.margin_mm = moving.gap.gap_mm - moving.limit_mm;
                const double reached = reach(moving, motion, room.way, room.amount, options_);
                if (reached >= room.amount) continue;
                bind(room, reached, pair, *moment);
                shorter = true;
            }
            if (shorter && round >= patient_rounds) room.amount /= 2;
            if (shorter && round + 1 == most_rounds) room.amount = 0; // not proven
            roundDown(room);
            if (!shorter) return;
        }
    }

private:
    static Eigen::AlignedBox3d boundsOf(const MovingPair& moving) {
        return shape::moved(moving.a->made->collider->bounds(), moving.pose_a);
    }
    static void bind(Room& room, double amount, const PairGap& pair, const Moment& moment) {
        room.amount = amount;
        room.beyond = false;
        room.a = pair.a;
        room.b = pair.b;
        room.name_a = pair.name_a;
        room.name_b = pair.name_b;
        room.rule = moment.limit.text;
    }
    const PairGap* noGoBefore(const PairGap& pair) const {
        const auto same = [&](const PairGap& p) {
            return p.verdict == Verdict::NoGo && p.a == pair.a && p.b == pair.b;
        };
        const auto found = std::find_if(now_.pairs.begin(), now_.pairs.end(), same);
        return found == now_.pairs.end() ? nullptr : &*found;
    }

    const model::Project& project_;
    const ClearanceReport& now_;
    const model::RuleBook& book_;
    proximity::ColliderCache& cache_;
    const MoveOptions& options_;
};

/// Along which axis of the vehicle a way goes; the tail's turns are one of their own.
int lineOf(Way way) {
    if (isTurn(way)) return 3;
    int axis = 0;
    direction(way).cwiseAbs().maxCoeff(&axis);
    return axis;
}

Going goingOf(const Motion& motion, double amount) {
    return {[motion](double at) { return motion.at(at); },
            [motion](const Eigen::AlignedBox3d& box) { return motion.speed(box); }, amount};
}

} // namespace

Vector3d direction(Way way) {
    using model::Straight;
    static_assert(static_cast<int>(Way::Forward) == static_cast<int>(Straight::Forward) &&
                  static_cast<int>(Way::Down) == static_cast<int>(Straight::Down));
    return isTurn(way) ? Vector3d(Vector3d::Zero()) : model::along(static_cast<Straight>(way));
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

RoomReport roomToMove(const model::Project& project, const placed::Scene& scene, const ClearanceReport& clearance,
                      const model::RuleBook& book, proximity::ColliderCache& cache, const MoveOptions& options) {
    RoomReport report;
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor) {
        report.reason = "no donor is placed";
        return report;
    }
    const Bodies bodies(scene);
    const std::vector<MovingPair> pairs = movingPairs(bodies, clearance);
    RoomProver prover(project, clearance, book, cache, options);
    const auto any = [](const PairGap&) { return true; };
    const auto gearbox = [](const PairGap& pair) { return pair.category_a == "gearbox"; };
    const bool canTurn = model::pivotDonor_mm(*donor, placement->pivot).ok();
    std::vector<Way> wanted;
    for (const Way way : all_ways)
        if (canTurn || !isTurn(way)) wanted.push_back(way);
    report.rooms.resize(wanted.size());
    onThreads(options.threads, wanted.size() + 2, options.stop, [&](std::size_t i) {
        if (i < wanted.size()) {
            const Motion motion(*placement, *donor, wanted[i]);
            report.rooms[i] = room(pairs, motion, wanted[i], options, any);
            prover.prove(report.rooms[i], *placement, *donor, bodies, motion);
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

std::optional<WayOut> bestWayOut(const model::Project& project, const placed::Scene& scene,
                                 const ClearanceReport& clearance, const PairGap& pair, const model::RuleBook& book,
                                 proximity::ColliderCache& cache, const MoveOptions& options) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    const placed::PlacedBody *a = scene.find(pair.a), *b = scene.find(pair.b);
    if (!placement || !donor || !a || !b || !a->solid() || !b->solid() || !a->in_donor || b->in_donor || !pair.limit)
        return std::nullopt;
    const bool canTurn = model::pivotDonor_mm(*donor, placement->pivot).ok();
    const Moment* deciding = pair.moment();
    std::vector<MovingPair> first; // rest first, then the moment that decides
    first.push_back({&pair, a, b, a->pose_vehicle_body, b->pose_vehicle_body, pair.gap, pair.limit->gap_mm,
                     pair.margin_mm, pair.limit->text});
    if (deciding) addMoments(first, pair, *a, *b);
    const auto same = [&](const PairGap& p) { return p.a == pair.a && p.b == pair.b; };
    struct Candidate {
        WayOut way;
        double length_mm; ///< a degree of tail is felt like so many millimetres at the body that has to move
        auto rank() const {
            return std::make_tuple(way.no_go_after, -std::min(marginOf(way.worst_other), 0.0), length_mm);
        }
    };
    // What it brings, and whether the pair itself is then good.
    const auto lookAfter = [&](Candidate& c, discipline::Effort effort) {
        placed::Scene there;
        const ClearanceReport after =
            clearanceAt(project, c.way.placement, clearance, book, cache, effort, there, options.threads, options);
        c.way.no_go_after = countNoGo(after);
        c.way.worst_other.reset();
        for (const PairGap& other : after.pairs)
            if (!same(other) && other.limit && (!other.beyond() || other.moment()) &&
                (!c.way.worst_other || other.decidingMargin_mm() < c.way.worst_other->decidingMargin_mm()))
                c.way.worst_other = other;
        const auto itself = std::find_if(after.pairs.begin(), after.pairs.end(), same);
        // What the pair still lacks to be good: 0 when it is. Without a known accuracy it can only be not no-go.
        if (itself == after.pairs.end() || itself->verdict == Verdict::Go) return 0.0;
        if (itself->verdict == Verdict::Unknown) return 0.0;
        const double hidden_mm = itself->moment() ? itself->moment()->hidden_mm : 0;
        return std::max(least_step_mm, itself->accuracy_mm.value_or(0) + hidden_mm - itself->decidingMargin_mm());
    };
    constexpr std::size_t most_begun = 2; // of the moves that two may begin with
    std::vector<Candidate> candidates;
    for (const Way way : all_ways) {
        if ((isTurn(way) && !canTurn) || options.stop.stopped()) continue;
        const Motion motion(*placement, *donor, way);
        std::optional<double> enough = 0;
        for (const MovingPair& moving : first) {
            const auto amount =
                freeingAmount(moving, motion, way, moving.limit_mm + pair.accuracy_mm.value_or(0), options);
            enough = enough && amount ? std::optional(std::max(*enough, *amount)) : std::nullopt;
        }
        if (!enough || throughSheet(scene, Isometry3d::Identity(), goingOf(motion, *enough), options.stop)) continue;
        Candidate c;
        c.way.way = way;
        c.way.amount = *enough;
        c.way.placement = gone(*placement, *donor, way, *enough).value();
        c.way.no_go_before = countNoGo(clearance);
        c.length_mm = *enough * motion.speed(shape::moved(a->made->collider->bounds(), a->pose_vehicle_body));
        if (lookAfter(c, discipline::Effort::None) == 0) candidates.push_back(std::move(c));
    }
    // Movement makes nothing better: at rest each looks at least as good as it is. The best of those is looked at over
    // the movement too; once one holds its rank against what the next shows at rest, it is the best.
    std::sort(candidates.begin(), candidates.end(),
              [](const Candidate& x, const Candidate& y) { return x.rank() < y.rank(); });
    const std::vector<Candidate> begun(
        candidates.begin(),
        candidates.begin() + static_cast<std::ptrdiff_t>(std::min<std::size_t>(candidates.size(), most_begun)));
    std::optional<Candidate> best;
    for (Candidate& c : candidates) {
        if (options.stop.stopped()) return std::nullopt;
        if (best && best->rank() <= c.rank()) break;
        // At another place it may be another moment that is the worst: then it goes on by what lacks there.
        double lacking_mm =
            clearance.effort == discipline::Effort::None ? 0 : lookAfter(c, discipline::Effort::Verdict);
        for (int step = 0; step < most_goings_on && lacking_mm > 0; ++step) {
            const Way way = c.way.way;
            const Motion motion(*placement, *donor, way);
            const double speed = motion.speed(shape::moved(a->made->collider->bounds(), a->pose_vehicle_body));
            const double grain = isTurn(way) ? jack_grain_deg : jack_grain_mm;
            c.way.amount = std::ceil((c.way.amount + lacking_mm / speed) / grain - 1e-9) * grain;
            if (c.way.amount > (isTurn(way) ? options.range_deg : options.range_mm)) break;
            c.way.placement = gone(*placement, *donor, way, c.way.amount).value();
            c.length_mm = c.way.amount * speed;
            lacking_mm = lookAfter(c, discipline::Effort::Verdict);
        }
        if (lacking_mm > 0 || throughSheet(scene, Isometry3d::Identity(),
                                           goingOf(Motion(*placement, *donor, c.way.way), c.way.amount), options.stop))
            continue; // it may have gone on since
        if (!best || c.rank() < best->rank()) best = std::move(c);
    }
    if (options.stop.stopped()) return std::nullopt;
    // A move that only trades is the beginning of two: what it brings is freed by another that goes square to it.
    std::optional<Candidate> together;
    const int now = countNoGo(clearance);
    if (!best || best->way.no_go_after >= now) {
        for (const Candidate& c : begun) {
            if (!c.way.worst_other || c.way.worst_other->decidingMargin_mm() >= 0) continue;
            const PairGap& brought = *c.way.worst_other;
            const placed::PlacedBody *its_a = scene.find(brought.a), *its_b = scene.find(brought.b);
            if (!its_a || !its_b || !its_a->in_donor || its_b->in_donor || !its_a->solid() || !its_b->solid()) continue;
            const Isometry3d moved = Motion(*placement, *donor, c.way.way).at(c.way.amount);
            const MovingPair moving{&brought,
                                    its_a,
                                    its_b,
                                    moved * its_a->pose_vehicle_body,
                                    its_b->pose_vehicle_body,
                                    brought.gap,
                                    brought.limit->gap_mm,
                                    brought.margin_mm,
                                    brought.limit->text};
            // At rest it has to gain what it lacks at the moment that decides.
            const double wanted_mm =
                std::max(brought.gap.gap_mm, 0.0) - brought.decidingMargin_mm() + brought.accuracy_mm.value_or(0);
            for (const Way way : all_ways) {
                if ((isTurn(way) && !canTurn) || lineOf(way) == lineOf(c.way.way)) continue;
                if (options.stop.stopped()) return std::nullopt;
                const Motion motion(c.way.placement, *donor, way);
                const auto amount = freeingAmount(moving, motion, way, wanted_mm, options);
                if (!amount || throughSheet(scene, moved, goingOf(motion, *amount), options.stop)) continue;
                Candidate both = c;
                both.way.then = WayOut::Then{way, *amount};
                both.way.placement = gone(c.way.placement, *donor, way, *amount).value();
                both.length_mm +=
                    *amount * motion.speed(shape::moved(a->made->collider->bounds(), a->pose_vehicle_body));
                if (lookAfter(both, discipline::Effort::None) > 0 || both.way.no_go_after >= now) continue;
                if (!together || both.rank() < together->rank()) together = std::move(both);
            }
        }
        if (together && clearance.effort != discipline::Effort::None &&
            (lookAfter(*together, discipline::Effort::Verdict) > 0 || together->way.no_go_after >= now))
            together.reset();
        if (together && (!best || together->rank() < best->rank())) best = std::move(together);
    }
    if (!best || options.stop.stopped()) return std::nullopt;
    return std::move(best->way);
}

} // namespace gabarit::fit
