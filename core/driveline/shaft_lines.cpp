#include "driveline/shaft_lines.h"

#include "driveline/golden.h"

#include "driveline/section/driveline.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace gabarit::driveline {

GABARIT_ONCE_DEFINED(LineReport);

namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using model::JointKind;
using model::Verdict;
using quantity::deg_per_rad;

constexpr int golden_rounds = 24;     // a hundred-thousandth of where it began
constexpr int turn_step_deg = 5;      // of what is told over a turn
constexpr double widest_shim_deg = 8; // farther than wedges and perches are turned
constexpr int shim_samples = 33;
constexpr double same_deg = 0.05;   // half of what is shown
constexpr double worth_share = 0.9; // a cure that leaves more than this of the shake is none
constexpr double shown_residual_deg = 0.1;
constexpr double farthest_lift_mm = 400;
constexpr double lift_step_mm = 2;
constexpr double farthest_height_mm = 200; // beyond it it is another swap

const char* ordinal(std::size_t i, std::size_t n) {
    static const char* const words[] = {"First", "Second", "Third", "Fourth", "Fifth"};
    if (i + 1 == n) return "Last";
    return words[std::min<std::size_t>(i, 4)];
}

bool isCv(JointKind kind) { return kind == JointKind::CvFixed || kind == JointKind::CvPlunging; }

const char* maxFigure(JointKind kind) {
    switch (kind) {
    case JointKind::Cardan: return "cardan_max_deg";
    case JointKind::DoubleCardan: return "double_cardan_max_deg";
    case JointKind::FlexibleDisc: return "disc_max_deg";
    case JointKind::CvFixed: return "cv_fixed_max_deg";
    case JointKind::CvPlunging: break;
    }
    return "cv_plunging_max_deg";
}

/// The angle between two axes seen along `view`, signed about it.
double seenAngle_deg(const Vector3d& a, const Vector3d& b, const Vector3d& view) {
    const Vector3d pa = a - view * view.dot(a), pb = b - view * view.dot(b);
    return std::atan2(view.dot(pa.cross(pb)), pa.dot(pb)) * deg_per_rad;
}

struct Extreme {
    double value = 0;
    LineState at;
};

/// The states a line is looked at in: along the travel, by each wind-up.
class Sweep {
public:
    Sweep(const LineGeometry& geometry, int travel_states) : geometry_(geometry) {
        const double low = -geometry.droop_mm(), high = geometry.bump_mm();
        const int n = high > low ? std::max(3, travel_states) : 1;
        step_mm_ = n > 1 ? (high - low) / (n - 1) : 0;
        windups_ = {0};
        if (geometry.windup_up_deg() > 0) windups_.push_back(geometry.windup_up_deg());
        if (geometry.windup_down_deg() > 0) windups_.push_back(-geometry.windup_down_deg());
        for (const double windup : windups_)
            for (int i = 0; i < n; ++i) states_.push_back({n > 1 ? low + step_mm_ * i : 0, windup});
        for (const LineState& state : states_) at_.push_back(geometry.at(state));
    }
    /// An error when the line does not close somewhere in its travel.
    const Error* broken() const {
        for (const auto& at : at_)
            if (!at) return &at.error();
        return nullptr;
    }
    std::size_t alongTravel() const { return states_.size() / windups_.size(); }
    const LineState& state(std::size_t i) const { return states_[i]; }
    const LineAt& at(std::size_t i) const { return at_[i].value(); }

    /// The largest (sign 1) or smallest (−1) of a figure, found at the states and drawn to its place between them:
    /// it need be neither at an end nor at a state, along the travel or the wind-up.
    template <class Figure>
    Extreme extreme(double sign, Figure figure) const {
        std::size_t best = 0;
        double most = -1e300;
        for (std::size_t i = 0; i < states_.size(); ++i)
            if (const double value = sign * figure(at(i)); value > most) {
                most = value;
                best = i;
            }
        Extreme out{sign * most, states_[best]};
        const auto take = [&](const LineState& state) {
            const auto there = geometry_.at(state);
            const double value = there ? sign * figure(there.value()) : -1e300;
            if (value > sign * out.value) out = {sign * value, state};
            return -value;
        };
        for (int round = 0; round < 2; ++round) {
            const LineState from = out.at;
            if (step_mm_ > 0)
                goldenLeast(std::max(from.travel_mm - step_mm_, -geometry_.droop_mm()),
                            std::min(from.travel_mm + step_mm_, geometry_.bump_mm()), golden_rounds,
                            [&](double travel) {
                                return take({travel, from.windup_deg});
                            });
            if (windups_.size() == 1) break;
            const double travel = out.at.travel_mm;
            goldenLeast(-geometry_.windup_down_deg(), geometry_.windup_up_deg(), golden_rounds, [&](double windup) {
                return take({travel, windup});
            });
        }
        return out;
    }

private:
    const LineGeometry& geometry_;
    double step_mm_ = 0;
    std::vector<double> windups_;
    std::vector<LineState> states_;
    std::vector<Result<LineAt>> at_;
};

class Judge {
public:
    Judge(const model::Project& project, const model::ShaftLine& line, const model::RuleBook& book,
          const LineOptions& options)
        : project_(project), line_(line), book_(book), options_(options) {}

    LineReport judged(std::optional<double> top_rpm) {
        out_.id = line_.id;
        out_.name = line_.name;
        const auto geometry = LineGeometry::make(project_, line_);
        if (!geometry) return refused(geometry.error());
        const Sweep sweep(geometry.value(), options_.travel_states);
        if (const Error* broken = sweep.broken()) return refused(*broken);
        out_.usable = true;
        out_.runs = geometry.value().runs();
        out_.ride = geometry.value().at({}).value();
        out_.turn = overATurn(out_.ride.chain);
        overTurn();
        speed(top_rpm);
        curve(sweep);
        angles(geometry.value(), sweep);
        shake();
        for (std::size_t s = 0; s < line_.shafts.size(); ++s) {
            slip(geometry.value(), sweep, s);
            critical(s);
        }
        if (options_.cures) cures(geometry.value());
        out_.verdict = Verdict::Go;
        for (const Check& check : out_.checks) out_.verdict = model::worse(out_.verdict, check.verdict);
        return std::move(out_);
    }

private:
    LineReport refused(const Error& error) {
        out_.reason = error.line();
        Check check;
        check.id = line_.id + "/line";
        check.what = line_.name;
        check.reason = out_.reason;
        out_.checks.push_back(check);
        return std::move(out_);
    }
    double figure(const char* id) const { return book_.figure(id); }

    Check& add(const std::string& id, const std::string& what, Unit unit, std::optional<double> value,
               const char* rule) {
        Check check;
        check.id = line_.id + "/" + id;
        check.what = what;
        check.unit = unit;
        check.value = value;
        if (*rule) check.rule = ruleOf(book_, rule);
        out_.checks.push_back(std::move(check));
        return out_.checks.back();
    }

    std::string jointName(std::size_t i) const {
        const model::Joint& joint = line_.joints[i];
        return joint.name.empty() ? std::string(ordinal(i, line_.joints.size())) + " joint" : joint.name;
    }
    std::string shaftName(std::size_t i) const {
        const model::Shaft& shaft = line_.shafts[i];
        if (!shaft.name.empty()) return shaft.name;
        return line_.shafts.size() == 1 ? std::string("Shaft")
                                        : std::string(ordinal(i, line_.shafts.size())) + " shaft";
    }

    /// Shake is told at the speed that was chosen, else at top speed; bending is always held at top speed.
    void speed(std::optional<double> by_gearing_rpm) {
        const auto own = model::told(line_.top_rpm); // one that does not turn says nothing
        top_rpm_ = own ? own : by_gearing_rpm;
        out_.speed_rpm = top_rpm_;
        out_.speed_source = own              ? "given for the line"
                            : by_gearing_rpm ? "highest engine speed in the longest gear"
                                             : "";
        const auto* driveline = project_.sections.get<model::Driveline>();
        if (line_.half_shaft || !driveline || !driveline->checked_rpm) return;
        out_.speed_rpm = driveline->checked_rpm;
        out_.speed_source = "chosen for the driveline";
    }

    void curve(const Sweep& sweep) {
        for (std::size_t i = 0; i < sweep.alongTravel(); ++i) {
            CurvePoint point;
            point.state = sweep.state(i);
            point.to_mm = sweep.at(i).joints_mm.back();
            point.to_falls_deg = flangeFalls_deg(sweep.at(i), true);
            for (std::size_t s = 0; s < line_.shafts.size(); ++s) point.length_mm.push_back(sweep.at(i).length_mm(s));
            for (std::size_t j = 0; j < line_.joints.size(); ++j)
                point.angle_deg.push_back(operatingAngle_rad(sweep.at(i).chain, j) * deg_per_rad);
            out_.curve.push_back(std::move(point));
        }
    }

    double placeAccuracy_mm(const model::FlangePlace& f) const {
        return model::told(f.accuracy_mm)
            .value_or(figure(isAssumed(f) ? "assumed_place_accuracy_mm" : "place_accuracy_mm"));
    }
    /// Of an operating angle: of the flange's angle, and of the places of its ends over the shaft's length.
    double angleAccuracy_deg(std::size_t joint) const {
        const auto of = [&](const model::FlangePlace& f) {
            return model::told(f.accuracy_deg)
                .value_or(figure(isAssumed(f) ? "assumed_angle_accuracy_deg" : "angle_accuracy_deg"));
        };
        const auto ends = [&](std::size_t shaft) {
            const double a = placeAccuracy_mm(line_.from), b = placeAccuracy_mm(line_.to);
            return std::hypot(a, b) / std::max(1.0, out_.ride.length_mm(shaft)) * deg_per_rad;
        };
        double sum = 0;
        if (joint == 0) sum += of(line_.from) * of(line_.from);
        if (joint + 1 == line_.joints.size()) sum += of(line_.to) * of(line_.to);
        if (joint > 0) sum += ends(joint - 1) * ends(joint - 1);
        if (joint < line_.shafts.size()) sum += ends(joint) * ends(joint);
        return std::sqrt(sum);
    }
    double lengthAccuracy_mm(const model::Shaft& shaft) const {
        const double a = placeAccuracy_mm(line_.from), b = placeAccuracy_mm(line_.to),
                     own = model::told(shaft.accuracy_mm).value_or(figure("shaft_accuracy_mm"));
        return std::sqrt(a * a + b * b + own * own);
    }

    std::string at(const LineGeometry& geometry, const LineState& state) const {
        return stateWords(state, geometry.droop_mm(), geometry.bump_mm());
    }

    /// Then the crosses at the other end aim at it.
    bool hasDouble() const {
        return std::any_of(line_.joints.begin(), line_.joints.end(),
                           [](const model::Joint& j) { return j.kind == JointKind::DoubleCardan; });
    }

    void angles(const LineGeometry& geometry, const Sweep& sweep) {
        const std::size_t n = line_.joints.size();
        const JointChain& chain = out_.ride.chain;
        const Vector3d across = Vector3d::UnitZ().cross(geometry.runs()); // seen from the side, falling above zero
        const bool aims = hasDouble();
        if (line_.path.motion.empty() && line_.path.kind == model::PathKind::NotSaid)
            out_.path_reason = "how its far end moves is not said";
        else if ((!line_.path.motion.empty() || line_.path.kind != model::PathKind::Fixed) &&
                 (geometry.bump_mm() <= 0 || geometry.droop_mm() <= 0))
            out_.path_reason = "how far its far end goes up and down is not given";
        else if (geometry.toOnAxle() && (geometry.windup_up_deg() <= 0 || geometry.windup_down_deg() <= 0))
            out_.path_reason = "how far torque winds the axle up, driving and braking, is not given";
        for (std::size_t i = 0; i < n; ++i) {
            const model::Joint& joint = line_.joints[i];
            JointReport r;
            r.name = jointName(i);
            r.kind = joint.kind;
            r.angle_deg = operatingAngle_rad(chain, i) * deg_per_rad;
            r.side_deg = seenAngle_deg(chain.axes[i], chain.axes[i + 1], across);
            r.plan_deg = seenAngle_deg(chain.axes[i], chain.axes[i + 1], Vector3d::UnitZ());
            const Extreme most =
                sweep.extreme(1, [i](const LineAt& there) { return operatingAngle_rad(there.chain, i) * deg_per_rad; });
            r.travel_deg = most.value;
            r.travel_at = most.at;
            r.max_deg = joint.max_deg.value_or(figure(maxFigure(joint.kind)));
            r.max_source = joint.max_deg ? (joint.max_source.empty() ? "its own" : joint.max_source)
                                         : ruleOf(book_, maxFigure(joint.kind));
            const std::string id = "joint-" + std::to_string(i + 1);
            const double accuracy = angleAccuracy_deg(i);
            if (joint.kind == JointKind::Cardan) {
                Check& c = add(id + "/running", r.name + " at ride height", Unit::Degrees, r.angle_deg,
                               aims ? "double_cardan_far_end_deg" : "cardan_most_deg");
                c.accuracy = accuracy;
                c.good_most = figure(aims ? "double_cardan_far_end_deg" : "cardan_most_deg");
                c.most = figure("cardan_most_deg");
                if (!aims) {
                    c.good_least = figure("cardan_least_deg");
                    c.least = 0;
                    c.accuracy = std::min(accuracy, r.angle_deg);
                    if (r.angle_deg < *c.good_least) {
                        c.rule = ruleOf(book_, "cardan_least_deg");
                        c.reason = "needles that never roll wear pits into their races";
                    }
                }
                judge(c);
            } else if (joint.kind == JointKind::FlexibleDisc) {
                Check& c =
                    add(id + "/running", r.name + " at ride height", Unit::Degrees, r.angle_deg, "disc_most_deg");
                c.accuracy = accuracy;
                c.good_most = figure("disc_wanted_deg");
                c.most = figure("disc_most_deg");
                judge(c);
            } else if (isCv(joint.kind) && line_.half_shaft) {
                Check& c = add(id + "/running", r.name + " at ride height", Unit::Degrees, r.angle_deg, "cv_ride_deg");
                c.accuracy = accuracy;
                c.good_most = figure("cv_ride_deg");
                c.most = r.max_deg;
                judge(c);
            }
            Check& c = add(id + "/travel", r.name + " over the travel", Unit::Degrees, r.travel_deg, "");
            c.accuracy = accuracy;
            c.good_most = r.max_deg;
            c.rule = r.max_source;
            c.at = at(geometry, r.travel_at);
            judge(c);
            if (!out_.path_reason.empty() && c.verdict == Verdict::Go) {
                c.verdict = Verdict::Unknown;
                c.reason = out_.path_reason;
            }
            out_.joints.push_back(std::move(r));
        }
        for (std::size_t s = 0; s + 1 < n; ++s) {
            if (line_.joints[s].kind != JointKind::Cardan || line_.joints[s + 1].kind != JointKind::Cardan) continue;
            Check& c = add("shaft-" + std::to_string(s + 1) + "/pair",
                           shaftName(s) + ": difference between its two joint angles", Unit::Degrees,
                           std::abs(out_.joints[s].angle_deg - out_.joints[s + 1].angle_deg), "pair_equal_deg");
            c.good_most = figure("pair_equal_deg");
            c.soft = true; // what is apart shakes, and is judged by how much
            judge(c);
        }
    }

    void overTurn() {
        const JointChain& chain = out_.ride.chain;
        for (std::size_t s = 0; s + 2 < chain.axes.size(); ++s) {
            const auto twist = planeTwist_rad(chain, s);
            out_.plane_twist_deg.push_back(twist ? std::optional(-*twist * deg_per_rad) : std::nullopt);
        }
        for (int deg = 0; deg <= 360; deg += turn_step_deg) {
            const Turning last = turningAt(chain, deg / deg_per_rad).back();
            out_.over_a_turn.push_back({static_cast<double>(deg), last.angle_rad * deg_per_rad - deg, last.speed});
        }
    }

    void shake() {
        const bool crosses = std::any_of(line_.joints.begin(), line_.joints.end(),
                                         [](const model::Joint& j) { return j.kind == JointKind::Cardan; });
        if (!crosses) return;
        std::optional<double> torsional, inertial;
        if (out_.speed_rpm) {
            const double omega = *out_.speed_rpm * M_PI / 30;
            torsional = out_.turn.residual_per_s2 * omega * omega;
            inertial = out_.turn.inertial_per_s2 * omega * omega;
        }
        const std::string no_speed =
            out_.speed_rpm ? "" : "no speed is known: give the gearing, or the shaft's top speed";
        Check& t = add("torsional", "Shake passed on to the axle", Unit::RadPerS2, torsional, "torsional_most_rad_s2");
        t.good_most = figure("torsional_wanted_rad_s2");
        t.most = figure("torsional_most_rad_s2");
        t.reason = no_speed;
        judge(t);
        Check& i = add("inertial", "Shake of the shaft itself", Unit::RadPerS2, inertial, "inertial_most_rad_s2");
        i.good_most = figure("inertial_most_rad_s2");
        i.reason = no_speed;
        judge(i);
    }

    void slip(const LineGeometry& geometry, const Sweep& sweep, std::size_t s) {
        const model::Shaft& shaft = line_.shafts[s];
        SlipReport r;
        r.shaft = s;
        r.name = shaftName(s);
        r.plunging = line_.joints[s].kind == JointKind::CvPlunging || line_.joints[s + 1].kind == JointKind::CvPlunging;
        r.ride_mm = out_.ride.length_mm(s);
        const auto length = [s](const LineAt& there) { return there.length_mm(s); };
        const Extreme shortest = sweep.extreme(-1, length), longest = sweep.extreme(1, length);
        r.shortest_mm = shortest.value;
        r.shortest_at = shortest.at;
        r.longest_mm = longest.value;
        r.longest_at = longest.at;
        const std::string id = "shaft-" + std::to_string(s + 1);
        const double accuracy = lengthAccuracy_mm(shaft);
        if (shaft.one_length) {
            fixedLength(geometry, r, shaft, id, accuracy);
            out_.slips.push_back(std::move(r));
            return;
        }
        const double reserve_wanted = figure(r.plunging ? "plunge_reserve_mm" : "slip_reserve_mm");
        const double engage_wanted = r.plunging
                                         ? figure("plunge_reserve_mm")
                                         : figure("engaged_wanted_diameters") * shaft.spline_diameter_mm.value_or(0);
        const bool engage_known = r.plunging || shaft.spline_diameter_mm;
        // A tenth is what is shown; rounded so that the shaft as ordered has its reserve.
        r.order_closed_mm = std::floor((r.shortest_mm - reserve_wanted - accuracy) * 10) / 10;
        if (engage_known)
            r.order_spline_mm = std::ceil((r.longest_mm - r.order_closed_mm + engage_wanted + accuracy) * 10) / 10;
        if (shaft.to_make) {
            Check& c = add(id + "/order", r.name + ": to order, closed length", Unit::Millimetres, r.order_closed_mm,
                           r.plunging ? "plunge_reserve_mm" : "slip_reserve_mm");
            c.verdict = Verdict::Go;
            if (!engage_known) {
                c.verdict = Verdict::Unknown;
                c.reason = "the splines' diameter is not given: how far they must engage is not known";
            }
            out_.slips.push_back(std::move(r));
            return;
        }
        if (shaft.closed_mm) r.reserve_mm = r.shortest_mm - *shaft.closed_mm;
        if (shaft.closed_mm && shaft.spline_mm) r.engaged_mm = *shaft.spline_mm - (r.longest_mm - *shaft.closed_mm);
        const char* const reserve_rule = r.plunging ? "plunge_reserve_mm" : "slip_reserve_mm";
        Check& reserve =
            add(id + "/reserve", r.name + (r.plunging ? ": plunge left inwards" : ": travel left before it bottoms"),
                Unit::Millimetres, r.reserve_mm, reserve_rule);
        reserve.good_least = reserve_wanted;
        reserve.accuracy = accuracy;
        reserve.at = at(geometry, r.shortest_at);
        if (!r.reserve_mm) reserve.reason = "its closed length is not given";
        judge(reserve);
        Check& engaged =
            add(id + "/engaged", r.name + (r.plunging ? ": plunge left before it comes apart" : ": splines engaged"),
                Unit::Millimetres, r.engaged_mm, r.plunging ? "plunge_reserve_mm" : "engaged_wanted_diameters");
        engaged.accuracy = accuracy;
        engaged.at = at(geometry, r.longest_at);
        engaged.good_least = engage_wanted;
        if (!r.plunging) engaged.least = figure("engaged_least_diameters") * shaft.spline_diameter_mm.value_or(0);
        if (!r.engaged_mm) engaged.reason = "its closed length or its splines' length is not given";
        if (!engage_known) {
            engaged.value.reset();
            engaged.reason = "the splines' diameter is not given";
        }
        judge(engaged);
        if (geometry.onDonor() && r.reserve_mm && r.engaged_mm && engage_known)
            stockWindow(geometry, r, s, reserve_wanted, engage_wanted);
        if (line_.half_shaft && geometry.onDonor()) lifting(geometry, r, shaft, s);
        out_.slips.push_back(std::move(r));
    }

    /// A shaft of one length: what stands between the joints must be that.
    void fixedLength(const LineGeometry& geometry, SlipReport& r, const model::Shaft& shaft, const std::string& id,
                     double accuracy) {
        if (shaft.to_make) {
            r.order_closed_mm = std::round(r.ride_mm * 10) / 10;
            add(id + "/order", r.name + ": to order, between joint centres", Unit::Millimetres, r.order_closed_mm, "")
                .verdict = Verdict::Go;
            return;
        }
        std::optional<double> off;
        if (shaft.length_mm)
            off = std::max(std::abs(r.longest_mm - *shaft.length_mm), std::abs(r.shortest_mm - *shaft.length_mm));
        Check& c =
            add(id + "/length", r.name + ": off its own length by", Unit::Millimetres, off, "fixed_shaft_off_mm");
        c.good_most = figure("fixed_shaft_off_mm");
        c.most = *c.good_most + accuracy;
        if (!off) c.reason = "its length is not given";
        judge(c);
        if (off && geometry.onDonor()) r.moved_mm = r.ride_mm - *shaft.length_mm;
    }

    /// How far the unit may stand along the run with the shaft as it is. Going onward shortens the shaft nearly one to
    /// one: a few rounds of Newton's.
    void stockWindow(const LineGeometry& geometry, SlipReport& r, std::size_t s, double reserve_wanted,
                     double engage_wanted) {
        const model::Shaft& shaft = line_.shafts[s];
        const auto length = [s](const LineAt& there) { return there.length_mm(s); };
        const auto found = [&](auto lack) -> std::optional<double> { // how much it must go onward to be just right
            double onward = 0;
            for (int round = 0; round < 4; ++round) {
                Isometry3d move = Isometry3d::Identity();
                move.translation() = geometry.runs() * onward;
                const LineGeometry moved = geometry.withFromMoved(move);
                const Sweep there(moved, 17);
                if (there.broken()) return std::nullopt;
                const double by = lack(there);
                onward += by;
                if (std::abs(by) < 0.05) break;
            }
            return onward;
        };
        const auto most = found(
            [&](const Sweep& there) { return there.extreme(-1, length).value - *shaft.closed_mm - reserve_wanted; });
        const auto least = found([&](const Sweep& there) {
            return engage_wanted - (*shaft.spline_mm - (there.extreme(1, length).value - *shaft.closed_mm));
        });
        if (!most || !least) return;
        r.move_least_mm = least;
        r.move_most_mm = most;
        if (*least <= *most) r.moved_mm = *least > 0 ? *least : *most < 0 ? *most : 0;
    }

    /// On stands the wheels hang: from there the unit's end is raised and lowered until the joint comes apart.
    void lifting(const LineGeometry& geometry, SlipReport& r, const model::Shaft& shaft, std::size_t s) {
        if (!shaft.closed_mm || !shaft.spline_mm) return;
        const double open_mm = *shaft.closed_mm + *shaft.spline_mm;
        const LineState hanging{-geometry.droop_mm(), 0};
        const auto holds = [&](double up_mm) {
            Isometry3d move = Isometry3d::Identity();
            move.translation() = Vector3d(0, 0, up_mm);
            const auto there = geometry.withFromMoved(move).at(hanging);
            if (!there || there.value().length_mm(s) > open_mm || there.value().length_mm(s) < *shaft.closed_mm)
                return false;
            for (const std::size_t joint : {s, s + 1})
                if (operatingAngle_rad(there.value().chain, joint) * deg_per_rad > out_.joints[joint].max_deg)
                    return false;
            return true;
        };
        const auto far = [&](double way) {
            double up = 0;
            while (up < farthest_lift_mm && holds(way * (up + lift_step_mm))) up += lift_step_mm;
            return up;
        };
        r.lift_mm = holds(0) ? far(1) : 0;
        r.drop_mm = holds(0) ? far(-1) : 0;
        Check& c = add("shaft-" + std::to_string(s + 1) + "/lift",
                       r.name + ": how far the unit may be raised or let down on its jack, wheels hanging",
                       Unit::Millimetres, std::min(*r.lift_mm, *r.drop_mm), "jack_reserve_mm");
        c.good_least = figure("jack_reserve_mm");
        c.least = 0;
        c.reason = "beyond that a joint comes apart or binds: take the shaft out first";
        judge(c);
    }

    void critical(std::size_t s) {
        const model::Shaft& shaft = line_.shafts[s];
        if (line_.half_shaft && !shaft.tube_mm) return; // short bars: asked only when they were measured
        CriticalReport r;
        r.shaft = s;
        r.name = shaftName(s);
        r.length_mm = out_.slips[s].longest_mm;
        const double e_gpa = figure("tube_e_gpa"), density = figure("tube_density_kg_m3");
        std::optional<double> share;
        if (shaft.tube_mm && shaft.wall_mm) {
            r.critical_rpm = criticalSpeed_rpm(r.length_mm, {*shaft.tube_mm, *shaft.wall_mm}, e_gpa, density);
            if (top_rpm_) share = *top_rpm_ / r.critical_rpm;
        }
        Check& c = add("shaft-" + std::to_string(s + 1) + "/critical", r.name + ": top speed of its critical speed",
                       Unit::Share, share, "critical_most");
        c.good_most = figure("critical_wanted");
        c.most = figure("critical_most");
        if (!shaft.tube_mm || !shaft.wall_mm)
            c.reason = "its tube's diameter or wall is not given";
        else if (!top_rpm_)
            c.reason = "no speed is known: give the gearing, or the shaft's top speed";
        judge(c);
        if (top_rpm_) {
            for (const TubeSize& tube : book_.tubes) {
                const double most = criticalSpeed_rpm(r.length_mm, tube, e_gpa, density);
                if (*top_rpm_ > *c.good_most * most) continue;
                if (!r.suggested || tube.outside_mm < r.suggested->outside_mm) r.suggested = tube;
            }
            r.two_piece = !r.suggested && !book_.tubes.empty();
        }
        out_.critical.push_back(std::move(r));
    }

    Cure told(const LineGeometry& cured, Cure cure) const {
        const LineAt there = cured.at({}).value();
        cure.residual_deg = std::sqrt(residual_per_s2(there.chain)) * deg_per_rad;
        cure.least_joint_deg = 90;
        for (std::size_t i = 0; i < line_.joints.size(); ++i) {
            if (line_.joints[i].kind != JointKind::Cardan) continue;
            const double angle = operatingAngle_rad(there.chain, i) * deg_per_rad;
            cure.worst_joint_deg = std::max(cure.worst_joint_deg, angle);
            cure.least_joint_deg = std::min(cure.least_joint_deg, angle);
        }
        return cure;
    }

    /// The turn within what is practical that leaves the least residual.
    template <class Turned>
    std::optional<double> bestTurn(Turned turned) const {
        const auto residual = [&](double deg) {
            const std::optional<LineGeometry> geometry = turned(deg);
            if (!geometry) return 1e9;
            const auto there = geometry->at({});
            return there ? residualVector(there.value().chain).norm() : 1e9;
        };
        const double step = 2 * widest_shim_deg / (shim_samples - 1);
        double best = 0, least = residual(0);
        for (int i = 0; i < shim_samples; ++i) {
            const double deg = -widest_shim_deg + step * i, value = residual(deg);
            if (value < least) {
                least = value;
                best = deg;
            }
        }
        const double found = goldenLeast(best - step, best + step, golden_rounds, [&](double deg) {
                                 return std::sqrt(residual(deg));
                             }).first;
        if (std::abs(found) < same_deg || std::abs(found) > widest_shim_deg) return std::nullopt;
        return found;
    }

    void cures(const LineGeometry& geometry) {
        const JointChain& chain = out_.ride.chain;
        const double now = std::sqrt(out_.turn.residual_per_s2) * deg_per_rad;
        if (line_.half_shaft) return;
        unitHeight(geometry);
        if (now < shown_residual_deg) return;
        const auto take = [&](const Cure& cure) {
            if (cure.residual_deg < worth_share * now) out_.cures.push_back(cure);
        };
        const std::vector<double> phases = bestPhases_rad(chain);
        JointChain phased = chain;
        for (std::size_t i = 0; i + 1 < phases.size(); ++i) phased.joints[i].phase_rad = phases[i];
        const double after = std::sqrt(residual_per_s2(phased)) * deg_per_rad;
        for (std::size_t i = 0; i + 1 < phases.size() && after < worth_share * now; ++i) {
            const double by = (phases[i] - chain.joints[i].phase_rad) * deg_per_rad;
            if (std::abs(by - 180 * std::round(by / 180)) < 0.5) continue;
            Cure cure = told(geometry, {Cure::Kind::Phase, i, -phases[i] * deg_per_rad, 0, 0, 0, 0});
            cure.residual_deg = after;
            out_.cures.push_back(cure);
        }
        if (geometry.toOnAxle())
            if (const auto deg = bestTurn([&](double by) { return std::optional(geometry.withToTurned(by)); }))
                take(told(geometry.withToTurned(*deg), {Cure::Kind::PinionNose, 0, *deg, 0, 0, 0, 0}));
        unitTail(geometry, take);
    }

    /// The least that the unit goes up or down until all crosses run within their limits.
    void unitHeight(const LineGeometry& geometry) {
        const bool aims = hasDouble();
        const double low = aims ? 0 : figure("cardan_least_deg");
        const double high = figure(aims ? "double_cardan_far_end_deg" : "cardan_most_deg");
        const auto worst = [&](const LineGeometry& there) { // how far the worst of them is out
            const auto at = there.at({});
            if (!at) return 1e9;
            double out = 0;
            for (std::size_t i = 0; i < line_.joints.size(); ++i) {
                if (line_.joints[i].kind != JointKind::Cardan) continue;
                const double angle = operatingAngle_rad(at.value().chain, i) * deg_per_rad;
                out = std::max({out, angle - high, low - angle});
            }
            return out;
        };
        if (!geometry.onDonor() || worst(geometry) <= 0) return;
        for (double by = 1; by <= farthest_height_mm; ++by)
            for (const double up : {-by, by}) {
                Isometry3d move = Isometry3d::Identity();
                move.translation() = Vector3d(0, 0, up);
                const LineGeometry moved = geometry.withFromMoved(move);
                if (worst(moved) > 0) continue;
                out_.cures.push_back(told(moved, {Cure::Kind::UnitHeight, 0, 0, up, 0, 0, 0}));
                return;
            }
    }

    template <class Take>
    void unitTail(const LineGeometry& geometry, Take take) {
        const model::Placement* placement = model::activePlacement(project_);
        const std::optional<model::Donor> donor = model::hangingDonor(project_);
        if (!geometry.onDonor() || !placement || !donor) return;
        const Isometry3d from = model::poseVehicleDonor(*placement, *donor);
        if (!model::pivotDonor_mm(*donor, model::Pivot::FrontMounts).ok()) return;
        model::Placement about = *placement;
        about.pivot = model::Pivot::FrontMounts; // the gearbox mount is what is shimmed
        const auto moved = [&](double tail_up) -> std::optional<LineGeometry> {
            const auto turned = model::turned(about, *donor, model::Turn::Tail, -tail_up);
            if (!turned) return std::nullopt;
            return geometry.withFromMoved(model::poseVehicleDonor(turned.value(), *donor) * from.inverse());
        };
        const auto deg = bestTurn(moved);
        if (!deg) return;
        Cure cure{Cure::Kind::UnitTail, 0, *deg, 0, 0, 0, 0};
        const auto front = model::meanPoint(*donor, "front_mount"), back = model::meanPoint(*donor, "gearbox_mount");
        if (front && back) {
            const Vector3d arm = from.linear() * (*back - *front);
            const double along = std::hypot(arm.x(), arm.y());
            cure.mount_mm = along * std::sin(*deg / deg_per_rad);
        }
        take(told(*moved(*deg), cure));
    }

    const model::Project& project_;
    const model::ShaftLine& line_;
    const model::RuleBook& book_;
    const LineOptions& options_;
    std::optional<double> top_rpm_;
    LineReport out_;
};

} // namespace

double criticalSpeed_rpm(double length_mm, const TubeSize& tube, double e_gpa, double density_kg_per_m3) {
    const double outside_m = tube.outside_mm / 1000;
    const double inside_m = std::max(0.0, outside_m - 2 * tube.wall_mm / 1000), length_m = length_mm / 1000;
    // I/A of a ring is (D² + d²)/16.
    const double radius2 = (outside_m * outside_m + inside_m * inside_m) / 16;
    const double per_s = M_PI / (2 * length_m * length_m) * std::sqrt(e_gpa * 1e9 / density_kg_per_m3 * radius2);
    return per_s * 60;
}

std::string stateWords(const LineState& state, double droop_mm, double bump_mm) {
    std::string out;
    const auto part = [&](double share, const char* what) {
        if (share > 0.995) return std::string("full ") + what;
        return quantity::fixed(share * 100, 0) + " % of the " + what;
    };
    if (state.travel_mm > 0.5 && bump_mm > 0)
        out = part(state.travel_mm / bump_mm, "bump");
    else if (state.travel_mm < -0.5 && droop_mm > 0)
        out = part(-state.travel_mm / droop_mm, "droop");
    else
        out = "ride height";
    if (std::abs(state.windup_deg) > 0.05)
        out += std::string(state.windup_deg > 0 ? ", nose up " : ", nose down ") +
               quantity::fixed(std::abs(state.windup_deg), 1) + "°";
    return out;
}

bool isAssumed(const model::FlangePlace& flange) { return flange.measured.method == model::Method::Assumed; }

LineReport judgeLine(const model::Project& project, const model::ShaftLine& line, const model::RuleBook& book,
                     std::optional<double> top_rpm, const LineOptions& options) {
    return Judge(project, line, book, options).judged(top_rpm);
}

} // namespace gabarit::driveline
