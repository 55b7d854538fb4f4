#include "kinematics/motion.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace gabarit::kinematics {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector2d;
using Eigen::Vector3d;
using quantity::deg_per_rad;

constexpr double nothing_mm = 1e-6;
constexpr int link_samples = 64;
constexpr double newton_step_mm = 10; // of travel from one solution to the next: a fraction of any link's length
constexpr double fine_step_mm = 1;    // where that does not settle
constexpr int newton_rounds = 20;

Isometry3d shift(const Vector3d& by) {
    Isometry3d pose = Isometry3d::Identity();
    pose.translation() = by;
    return pose;
}

Isometry3d turnAbout(const Vector3d& a, const Vector3d& axis, double angle_rad) {
    Isometry3d pose = Isometry3d::Identity();
    pose.linear() = Eigen::AngleAxisd(angle_rad, axis).toRotationMatrix();
    pose.translation() = a - pose.linear() * a;
    return pose;
}

double distanceToAxis(const Vector3d& p, const Vector3d& a, const Vector3d& axis) { return (p - a).cross(axis).norm(); }

// A swing: the tip's height is a·cos φ + b·sin φ and a constant, φ the angle from rest.

struct Arc {
    Vector3d axis{0, 0, 1};
    Vector3d out{0, 0, 0};    ///< from the axis to the tip at rest
    Vector3d across{0, 0, 0}; ///< the way the tip goes first
    double swing() const { return std::hypot(out.z(), across.z()); }
    double phase() const { return std::atan2(across.z(), out.z()); }
    bool reaches(double travel_mm) const {
        return swing() > nothing_mm && std::abs(travel_mm + out.z()) < swing() - nothing_mm;
    }
    double angle_rad(double travel_mm) const {
        const double away = std::acos(std::clamp((travel_mm + out.z()) / swing(), -1.0, 1.0));
        const double one = std::remainder(phase() + away, 2 * M_PI), other = std::remainder(phase() - away, 2 * M_PI);
        return std::abs(one) < std::abs(other) ? one : other;
    }
    /// rad per mm of travel.
    double speed(double travel_mm) const { return 1 / std::abs(swing() * std::sin(angle_rad(travel_mm) - phase())); }
    Vector3d tipMoved(double travel_mm) const {
        const double angle = angle_rad(travel_mm);
        return out * (std::cos(angle) - 1) + across * std::sin(angle);
    }
};

Arc arcOf(const SwingMotion& m) {
    Arc arc;
    arc.axis = (m.axis_b_mm - m.axis_a_mm).normalized();
    const Vector3d r = m.tip_mm - m.axis_a_mm;
    arc.out = r - arc.axis * arc.axis.dot(r);
    arc.across = arc.axis.cross(arc.out);
    return arc;
}

// An axle in the side view: how far its centre goes back and how much it tips, for a rise of its centre.

struct SidePose {
    double back_mm = 0;
    double tipped_rad = 0; ///< about +Y
    bool found = true;
};

Vector2d side(const Vector3d& p) { return {p.x(), p.z()}; }
/// Turned about +Y: x towards −z.
Vector2d tipped(const Vector2d& p, double rad) {
    return {p.x() * std::cos(rad) + p.y() * std::sin(rad), -p.x() * std::sin(rad) + p.y() * std::cos(rad)};
}
Vector2d tippedFurther(const Vector2d& p, double rad) { // derivative of the above
    return {-p.x() * std::sin(rad) + p.y() * std::cos(rad), -p.x() * std::cos(rad) - p.y() * std::sin(rad)};
}

SidePose onOneLink(const Link& link, double rise_mm) {
    const Vector2d r = side(link.moving_mm - link.fixed_mm);
    const double rest = r.squaredNorm() - (r.y() + rise_mm) * (r.y() + rise_mm);
    if (rest <= nothing_mm) return {0, 0, false};
    return {(r.x() < 0 ? -1 : 1) * std::sqrt(rest) - r.x(), 0, true};
}

SidePose onTwoLinks(const AxleMotion& m, double rise_mm, double step_mm) {
    SidePose at;
    const int steps = std::max(1, static_cast<int>(std::ceil(std::abs(rise_mm) / step_mm)));
    const Vector2d centre = side(m.centre_mm);
    for (int step = 1; step <= steps; ++step) {
        const double rise = rise_mm * step / steps;
        double miss = 0;
        for (int round = 0; round < newton_rounds; ++round) {
            Eigen::Matrix2d slope;
            Vector2d off;
            for (int i = 0; i < 2; ++i) {
                const Link& link = m.links[static_cast<std::size_t>(i)];
                const Vector2d own = side(link.moving_mm) - centre;
                const Vector2d now =
                    centre + Vector2d(at.back_mm, rise) + tipped(own, at.tipped_rad) - side(link.fixed_mm);
                const Vector2d rest = side(link.moving_mm - link.fixed_mm);
                off[i] = (now.squaredNorm() - rest.squaredNorm()) / 2;
                slope(i, 0) = now.x();
                slope(i, 1) = now.dot(tippedFurther(own, at.tipped_rad));
            }
            miss = off.norm();
            if (miss < nothing_mm) break;
            if (std::abs(slope.determinant()) < nothing_mm) return {0, 0, false};
            const Vector2d by = slope.inverse() * off;
            at.back_mm -= by[0];
            at.tipped_rad -= by[1];
        }
        if (!(miss < 1e-3)) return {0, 0, false};
    }
    return at;
}

SidePose sidePose(const AxleMotion& m, double rise_mm) {
    if (m.links.size() == 1) return onOneLink(m.links[0], rise_mm);
    if (m.links.size() == 2) {
        const SidePose at = onTwoLinks(m, rise_mm, newton_step_mm);
        return at.found ? at : onTwoLinks(m, rise_mm, fine_step_mm);
    }
    return {};
}

struct Pose {
    const State& state;

    Isometry3d operator()(const AxleMotion& m) const {
        const double rise = state[m.travel];
        const SidePose at = sidePose(m, rise);
        const double roll_rad = m.roll ? state[*m.roll] / deg_per_rad : 0;
        return shift({at.back_mm, 0, rise}) * turnAbout(m.centre_mm, Vector3d::UnitX(), roll_rad) *
               turnAbout(m.centre_mm, Vector3d::UnitY(), at.tipped_rad);
    }
    Isometry3d operator()(const SwingMotion& m) const {
        const Arc arc = arcOf(m);
        return turnAbout(m.axis_a_mm, arc.axis, arc.angle_rad(state[m.travel]));
    }
    Isometry3d operator()(const CarriedMotion& m) const { return shift(arcOf(m.by).tipMoved(state[m.by.travel])); }
    Isometry3d operator()(const SlideMotion& m) const { return shift(m.per_unit_mm * state[m.freedom]); }
    Isometry3d operator()(const TurnMotion& m) const {
        return turnAbout(m.axis_a_mm, (m.axis_b_mm - m.axis_a_mm).normalized(),
                         m.degrees(state[m.freedom]) / deg_per_rad);
    }
};

struct Checker {
    const std::vector<Freedom>& freedoms;

    std::optional<Error> freedom(std::size_t i) const {
        if (i >= freedoms.size()) return Error{"it moves by a freedom that is not there", "", "name one that is"};
        const Freedom& f = freedoms[i];
        if (!(f.low <= 0 && f.high >= 0) || !std::isfinite(f.low) || !std::isfinite(f.high))
            return Error{"its ends do not lie on both sides of rest", f.id, "give droop below zero, bump above"};
        return std::nullopt;
    }
    static std::optional<Error> axis(const Vector3d& a, const Vector3d& b) {
        if ((b - a).norm() > nothing_mm) return std::nullopt;
        return Error{"its axis has no direction", "", "give two points that are apart"};
    }
    std::optional<Error> operator()(const AxleMotion& m) const {
        if (auto wrong = freedom(m.travel)) return wrong;
        if (m.roll)
            if (auto wrong = freedom(*m.roll)) return wrong;
        if (m.links.size() > 2) return Error{"an axle has more than two links in the side view", "", "give one or two"};
        const Freedom& f = freedoms[m.travel];
        for (const double end : {f.low, f.high})
            if (!sidePose(m, end).found)
                return Error{"its links do not reach the end of the travel", f.id, "check their points and the travel"};
        return std::nullopt;
    }
    std::optional<Error> operator()(const SwingMotion& m) const {
        if (auto wrong = freedom(m.travel)) return wrong;
        if (auto wrong = axis(m.axis_a_mm, m.axis_b_mm)) return wrong;
        const Freedom& f = freedoms[m.travel];
        const Arc arc = arcOf(m);
        if (!arc.reaches(f.low) || !arc.reaches(f.high))
            return Error{"the arm does not reach the end of the travel", f.id, "check its points and the travel"};
        return std::nullopt;
    }
    std::optional<Error> operator()(const CarriedMotion& m) const { return (*this)(m.by); }
    std::optional<Error> operator()(const SlideMotion& m) const { return freedom(m.freedom); }
    std::optional<Error> operator()(const TurnMotion& m) const {
        if (auto wrong = freedom(m.freedom)) return wrong;
        return axis(m.axis_a_mm, m.axis_b_mm);
    }
};

/// Adds what one motion does; `swelled_mm` is how far the motions inside of it displace any point at most.
struct Speeds {
    const std::vector<Freedom>& freedoms;
    const Eigen::AlignedBox3d& box;
    double swelled_mm;
    std::vector<double>& mm_per_unit;

    double radius(const Vector3d& a, const Vector3d& axis) const {
        double most = 0;
        for (int i = 0; i < 8; ++i)
            most = std::max(most, distanceToAxis(box.corner(static_cast<Eigen::AlignedBox3d::CornerType>(i)), a, axis));
        return most + swelled_mm;
    }
    /// The steepest of an arc over its travel: |sin| has no least value between the ends of a reach.
    double steepest(const Arc& arc, const Freedom& f) const { return std::max(arc.speed(f.low), arc.speed(f.high)); }

    void operator()(const AxleMotion& m) const {
        const Freedom& f = freedoms[m.travel];
        // From the centre, not from an axis through it: one turn changes how far a point is from the other's axis.
        double across = swelled_mm;
        for (int i = 0; i < 8; ++i) {
            const Vector3d corner = box.corner(static_cast<Eigen::AlignedBox3d::CornerType>(i));
            across = std::max(across, swelled_mm + (corner - m.centre_mm).norm());
        }
        double most = 1, step = 0, before = 0;
        if (!m.links.empty() && f.high > f.low) {
            const double by = (f.high - f.low) / link_samples;
            for (int i = 0; i < link_samples; ++i) {
                const SidePose a = sidePose(m, f.low + by * i), b = sidePose(m, f.low + by * (i + 1));
                const double speed =
                    std::hypot(1.0, (b.back_mm - a.back_mm) / by) + across * std::abs(b.tipped_rad - a.tipped_rad) / by;
                if (i > 0) step = std::max(step, std::abs(speed - before));
                before = speed;
                most = std::max(most, speed);
            }
        }
        mm_per_unit[m.travel] += most + step;
        if (m.roll) mm_per_unit[*m.roll] += across / deg_per_rad;
    }
    void operator()(const SwingMotion& m) const {
        const Arc arc = arcOf(m);
        mm_per_unit[m.travel] += radius(m.axis_a_mm, arc.axis) * steepest(arc, freedoms[m.travel]);
    }
    void operator()(const CarriedMotion& m) const {
        const Arc arc = arcOf(m.by);
        mm_per_unit[m.by.travel] += arc.out.norm() * steepest(arc, freedoms[m.by.travel]);
    }
    void operator()(const SlideMotion& m) const { mm_per_unit[m.freedom] += m.per_unit_mm.norm(); }
    void operator()(const TurnMotion& m) const {
        const Vector3d axis = (m.axis_b_mm - m.axis_a_mm).normalized();
        const double steepest_deg =
            std::max(std::abs(m.per_unit_deg), std::abs(m.per_unit_below_deg.value_or(m.per_unit_deg)));
        mm_per_unit[m.freedom] += radius(m.axis_a_mm, axis) * steepest_deg / deg_per_rad;
    }
};

/// How fast each freedom turns the body, rad per unit at most.
struct TurningRates {
    const std::vector<Freedom>& freedoms;
    std::vector<double>& rad_per_unit;

    void operator()(const AxleMotion& m) const {
        if (m.roll) rad_per_unit[*m.roll] += 1 / deg_per_rad;
        const Freedom& f = freedoms[m.travel];
        if (m.links.size() < 2 || f.high <= f.low) return;
        double most = 0, step = 0, before = 0;
        const double by = (f.high - f.low) / link_samples;
        for (int i = 0; i < link_samples; ++i) {
            const double rate =
                std::abs(sidePose(m, f.low + by * (i + 1)).tipped_rad - sidePose(m, f.low + by * i).tipped_rad) / by;
            if (i > 0) step = std::max(step, std::abs(rate - before));
            before = rate;
            most = std::max(most, rate);
        }
        rad_per_unit[m.travel] += most + step;
    }
    void operator()(const SwingMotion& m) const {
        const Arc arc = arcOf(m);
        const Freedom& f = freedoms[m.travel];
        rad_per_unit[m.travel] += std::max(arc.speed(f.low), arc.speed(f.high));
    }
    void operator()(const CarriedMotion&) const {}
    void operator()(const SlideMotion&) const {}
    void operator()(const TurnMotion& m) const {
        rad_per_unit[m.freedom] +=
            std::max(std::abs(m.per_unit_deg), std::abs(m.per_unit_below_deg.value_or(m.per_unit_deg))) / deg_per_rad;
    }
};

} // namespace

State atRest(const std::vector<Freedom>& freedoms) { return State(freedoms.size(), 0.0); }

Link leafLink(const Vector3d& fixed_eye_mm, const Vector3d& seat_mm) {
    constexpr double share = 0.25; // SAE HS-788: the equivalent link is three quarters of the half-spring
    return {fixed_eye_mm + share * (seat_mm - fixed_eye_mm), seat_mm};
}

Result<void> check(const Chain& chain, const std::vector<Freedom>& freedoms) {
    for (const Motion& motion : chain)
        if (const auto wrong = std::visit(Checker{freedoms}, motion)) return *wrong;
    return {};
}

bool anyAllowed(const std::vector<Stop>& stops, const State& middle, const State& half) {
    constexpr double dust = 1e-9;
    return std::all_of(stops.begin(), stops.end(), [&](const Stop& stop) {
        double least = 0; // each term is convex with its one kink at rest: the least is at an end or there
        for (std::size_t i = 0; i < middle.size(); ++i) {
            const auto term = [&](double s) { return stop.lean[i] * s + stop.weight[i] * std::abs(s); };
            const double low = middle[i] - half[i], high = middle[i] + half[i];
            double smallest = std::min(term(low), term(high));
            if (low < 0 && high > 0) smallest = std::min(smallest, 0.0);
            least += smallest;
        }
        return least <= stop.most + dust;
    });
}

bool allowed(const std::vector<Stop>& stops, const State& state) {
    return anyAllowed(stops, state, State(state.size(), 0.0));
}

Isometry3d movedFromRest(const Chain& chain, const State& state) {
    Isometry3d pose = Isometry3d::Identity();
    for (const Motion& motion : chain) pose = pose * std::visit(Pose{state}, motion);
    return pose;
}

std::vector<double> fastest(const Chain& chain, const std::vector<Freedom>& freedoms,
                            const Eigen::AlignedBox3d& box_at_rest_mm) {
    std::vector<double> all(freedoms.size(), 0.0);
    double swelled_mm = 0;
    for (auto motion = chain.rbegin(); motion != chain.rend(); ++motion) {
        std::vector<double> own(freedoms.size(), 0.0);
        std::visit(Speeds{freedoms, box_at_rest_mm, swelled_mm, own}, *motion);
        for (std::size_t i = 0; i < own.size(); ++i) {
            all[i] += own[i];
            swelled_mm += own[i] * std::max(-freedoms[i].low, freedoms[i].high);
        }
    }
    return all;
}

std::vector<double> fastestAlong(const Chain& chain, const std::vector<Freedom>& freedoms,
                                 const Eigen::AlignedBox3d& box, const std::vector<double>& full, const Vector3d& n,
                                 const State& middle, const State& half) {
    std::vector<double> rates(freedoms.size(), 0.0), own(freedoms.size(), 0.0);
    std::vector<bool> arcs(freedoms.size(), false);
    for (const Motion& motion : chain) std::visit(TurningRates{freedoms, rates}, motion);
    double turned_rad = 0, moved_mm = 0; // at most, from the middle
    for (std::size_t i = 0; i < freedoms.size(); ++i) turned_rad += rates[i] * half[i], moved_mm += full[i] * half[i];
    const Isometry3d whole = movedFromRest(chain, middle);
    std::array<Vector3d, 8> corners;
    for (int i = 0; i < 8; ++i)
        corners[static_cast<std::size_t>(i)] = whole * box.corner(static_cast<Eigen::AlignedBox3d::CornerType>(i));
    // Turning about an axis that stands at `a` now: linear in the point, so its most is at a corner. The axis itself
    // leans by no more than what turns, and comes no farther than what moves.
    const auto turning = [&](const Isometry3d& outer, const Vector3d& anchor, const Vector3d& axis, double rate) {
        const Vector3d a = outer * anchor, w = outer.linear() * axis;
        const Vector3d across = w.cross(n);
        double most = 0, arm = 0;
        for (const Vector3d& p : corners) {
            most = std::max(most, std::abs((p - a).dot(across)));
            arm = std::max(arm, (p - a).norm());
        }
        return rate * (most + arm * turned_rad + 2 * moved_mm);
    };
    Isometry3d outer = Isometry3d::Identity();
    for (const Motion& motion : chain) {
        if (const auto* slide = std::get_if<SlideMotion>(&motion)) {
            const Vector3d way = outer.linear() * slide->per_unit_mm;
            own[slide->freedom] += std::abs(n.dot(way)) + way.norm() * turned_rad;
        } else if (const auto* turn = std::get_if<TurnMotion>(&motion)) {
            const double rate =
                std::max(std::abs(turn->per_unit_deg), std::abs(turn->per_unit_below_deg.value_or(turn->per_unit_deg)));
            own[turn->freedom] +=
                turning(outer, turn->axis_a_mm, (turn->axis_b_mm - turn->axis_a_mm).normalized(), rate / deg_per_rad);
        } else if (const auto* axle = std::get_if<AxleMotion>(&motion)) {
            arcs[axle->travel] = true;
            if (axle->roll) {
                const SidePose at = sidePose(*axle, middle[axle->travel]);
                const Isometry3d risen = outer * shift({at.back_mm, 0, middle[axle->travel]});
                own[*axle->roll] += turning(risen, axle->centre_mm, Vector3d::UnitX(), 1 / deg_per_rad);
            }
        } else if (const auto* swing = std::get_if<SwingMotion>(&motion)) {
            arcs[swing->travel] = true;
        } else {
            arcs[std::get<CarriedMotion>(motion).by.travel] = true;
        }
        outer = outer * std::visit(Pose{middle}, motion);
    }
    for (std::size_t i = 0; i < own.size(); ++i) own[i] = arcs[i] ? full[i] : std::min(own[i], full[i]);
    return own;
}

} // namespace gabarit::kinematics
