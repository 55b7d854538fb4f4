#include "fit/movement.h"

#include "placed/scene.h"

#include "quantity/number.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <utility>

namespace gabarit::fit {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using kinematics::Chain;
using kinematics::State;
using model::MotionKind;
using model::MotionSpec;
using quantity::deg_per_rad;

const char* const steering_id = "steering";

std::string lowerFirst(std::string name) {
    if (name.size() >= 2 && quantity::isLower(name[1])) name[0] = quantity::lower(name[0]);
    return name;
}

class Builder {
public:
    explicit Builder(const model::Project& project) : project_(project) {}

    /// A motion that goes nowhere was not measured: it says nothing of what comes near. Null when its travel is given.
    static const char* travelMissing(const MotionSpec& spec) {
        switch (spec.kind) {
        case MotionKind::Axle:
        case MotionKind::Arm:
            if (!spec.with.empty()) return nullptr; // shares the other arm's
            if (spec.bump_mm <= 0) return "how far it goes up to its bump stop is not given";
            if (spec.droop_mm <= 0) return "how far it hangs down to full droop is not given";
            if (spec.kind == MotionKind::Axle && spec.roll_deg <= 0)
                return "how far it rolls to each side is not given";
            return spec.end == model::End::NotSaid ? "whether it is the front or the rear one is not said" : nullptr;
        case MotionKind::Steered:
            if (spec.left_deg <= 0 || spec.right_deg <= 0) return "how far it turns to full lock is not given";
            return spec.on.empty() ? "which axle or arm carries it is not said" : nullptr;
        case MotionKind::Linkage:
            return spec.slide_mm.norm() > 0 ? nullptr : "how far it slides to full lock is not given";
        case MotionKind::Spin: break;
        }
        return nullptr;
    }

    Movement make() {
        if (!project_.vehicle) return {};
        for (const MotionSpec& spec : vehicle().motions) {
            freedomsOf(spec);
            if (const char* missing = travelMissing(spec))
                out_.broken.push_back({model::vehicle_owner, spec.id, spec.name,
                                       Error{missing, spec.name, "fill it in under Survey, Moving"}});
        }
        for (const MotionSpec& spec : vehicle().motions)
            if (const auto chain = chainsOf(spec); !chain)
                out_.broken.push_back({model::vehicle_owner, spec.id, spec.name, chain.error()});
        rocking();
        out_.without_rocking.resize(out_.freedoms.size());
        for (std::size_t i = 0; i < out_.freedoms.size(); ++i) out_.without_rocking[i] = !out_.of[i].rocks();
        for (kinematics::Stop& stop : out_.stops) { // made before all freedoms were known
            stop.lean.resize(out_.freedoms.size(), 0);
            stop.weight.resize(out_.freedoms.size(), 0);
        }
        spinning();
        print();
        return std::move(out_);
    }

private:
    const model::Vehicle& vehicle() const { return *project_.vehicle; }

    std::size_t add(FreedomOf of, const std::string& motion, const std::string& name, model::End end, double low,
                    double high, const char* low_words, const char* high_words) {
        out_.freedoms.push_back({motion, low, high, low_words, high_words});
        out_.of.push_back({of, motion, name, end});
        return out_.freedoms.size() - 1;
    }

    void freedomsOf(const MotionSpec& spec) {
        const bool travels = spec.kind == MotionKind::Axle || (spec.kind == MotionKind::Arm && spec.with.empty());
        if (travels)
            travel_[spec.id] = add(FreedomOf::Travel, spec.id, spec.name, spec.end, -spec.droop_mm, spec.bump_mm,
                                   "full droop", "full bump");
        if (spec.kind == MotionKind::Axle && spec.roll_deg > 0) {
            roll_[spec.id] =
                add(FreedomOf::Roll, spec.id, spec.name, spec.end, -spec.roll_deg, spec.roll_deg, "rolled", "rolled");
            if (spec.stops_apart_mm) axleStops(spec);
        }
        if ((spec.kind == MotionKind::Steered || spec.kind == MotionKind::Linkage) && !steering_)
            steering_ = add(FreedomOf::Steering, steering_id, "Steering", model::End::Front, -1, 1, "full left lock",
                            "full right lock");
    }

    /// Neither bump stop is pressed further than the stop, nor does either side hang lower than droop.
    void axleStops(const MotionSpec& spec) {
        const std::size_t travel = travel_[spec.id], roll = roll_[spec.id];
        // A chord: a little less than the sine, so that no reachable state is left out.
        const double per_deg = *spec.stops_apart_mm / 2 * std::sin(spec.roll_deg / deg_per_rad) / spec.roll_deg;
        for (const double way : {1.0, -1.0}) {
            kinematics::Stop stop;
            stop.lean.assign(roll + 1, 0);
            stop.weight.assign(roll + 1, 0);
            stop.lean[travel] = way;
            stop.weight[roll] = per_deg;
            stop.most = way > 0 ? spec.bump_mm : spec.droop_mm;
            out_.stops.push_back(std::move(stop));
        }
    }

    Result<Vector3d> point(const model::PointId& id) const {
        for (const model::HardPoint& p : vehicle().hard_points)
            if (p.id == id) return p.at_mm;
        return Error{"there is no point \"" + id.text + "\"", "vehicle", "name one of its hard points"};
    }

    Result<kinematics::Motion> swing(const MotionSpec& spec, std::size_t travel) const {
        const auto a = point(spec.axis_a), b = point(spec.axis_b), tip = point(spec.at);
        for (const auto* p : {&a, &b, &tip})
            if (!*p) return p->error();
        return kinematics::Motion(kinematics::SwingMotion{travel, a.value(), b.value(), tip.value()});
    }

    Result<kinematics::Motion> axle(const MotionSpec& spec) const {
        const auto centre = point(spec.at);
        if (!centre) return centre.error();
        kinematics::AxleMotion motion;
        motion.travel = travel_.at(spec.id);
        if (const auto roll = roll_.find(spec.id); roll != roll_.end()) motion.roll = roll->second;
        motion.centre_mm = centre.value();
        for (const model::MotionLink& link : spec.links) {
            const auto fixed = point(link.fixed), moving = point(link.moving);
            if (!fixed) return fixed.error();
            if (!moving) return moving.error();
            motion.links.push_back(link.leaf ? kinematics::leafLink(fixed.value(), moving.value())
                                             : kinematics::Link{fixed.value(), moving.value()});
        }
        return kinematics::Motion(motion);
    }

    /// What carries a steered part: an axle as it is, an arm by its tip.
    Result<Chain> carrier(const std::string& id) const {
        if (id.empty()) return Chain{};
        for (const MotionSpec& spec : vehicle().motions) {
            if (spec.id != id) continue;
            const auto travel = travel_.find(id);
            if (travel == travel_.end()) break;
            const auto motion = spec.kind == MotionKind::Axle ? axle(spec) : swing(spec, travel->second);
            if (!motion) return motion.error();
            if (spec.kind == MotionKind::Axle) return Chain{motion.value()};
            return Chain{kinematics::CarriedMotion{std::get<kinematics::SwingMotion>(motion.value())}};
        }
        return Error{"\"" + id + "\" is not there or has no travel of its own", "vehicle", "name an axle or an arm"};
    }

    Result<void> give(Chain chain, const std::vector<model::BodyId>& bodies) {
        if (auto sound = kinematics::check(chain, out_.freedoms); !sound) return sound;
        const auto shared = std::make_shared<const Chain>(std::move(chain));
        for (const model::BodyId& body : bodies) out_.chains[{model::vehicle_owner, body}] = shared;
        return {};
    }

    Result<void> chainsOf(const MotionSpec& spec) {
        switch (spec.kind) {
        case MotionKind::Axle: {
            const auto motion = axle(spec);
            if (!motion) return motion.error();
            return give({motion.value()}, spec.bodies);
        }
        case MotionKind::Arm: {
            const auto travel = travel_.find(spec.with.empty() ? spec.id : spec.with);
            if (travel == travel_.end())
                return Error{"\"" + spec.with + "\" is not there or has no travel of its own", "vehicle",
                             "name an arm of the same side"};
            const auto motion = swing(spec, travel->second);
            if (!motion) return motion.error();
            if (auto given = give({motion.value()}, spec.bodies); !given) return given;
            return give({kinematics::CarriedMotion{std::get<kinematics::SwingMotion>(motion.value())}}, spec.carried);
        }
        case MotionKind::Steered: {
            auto chain = carrier(spec.on);
            const auto a = point(spec.axis_a), b = point(spec.axis_b);
            if (!chain) return chain.error();
            if (!a) return a.error();
            if (!b) return b.error();
            // To the right is clockwise from above: against the right hand about an axis that points up.
            const bool up = b.value().z() >= a.value().z();
            kinematics::TurnMotion turn{*steering_, up ? a.value() : b.value(), up ? b.value() : a.value(),
                                        -spec.right_deg, -spec.left_deg};
            Chain whole = std::move(chain).value();
            whole.push_back(turn);
            return give(std::move(whole), spec.bodies);
        }
        case MotionKind::Linkage: {
            auto chain = carrier(spec.on);
            if (!chain) return chain.error();
            Chain whole = std::move(chain).value();
            whole.push_back(kinematics::SlideMotion{*steering_, spec.slide_mm});
            return give(std::move(whole), spec.bodies);
        }
        case MotionKind::Spin: break;
        }
        return {};
    }

    /// The unit on its mounts: up and along the vehicle, and rolling about the line from its front mounts to its
    /// gearbox mount.
    void rocking() {
        const model::Placement* placement = model::activePlacement(project_);
        const std::optional<model::Donor> donor = model::hangingDonor(project_);
        if (!placement || !donor || !placement->rocking.any()) return;
        const model::Rocking& r = placement->rocking;
        const Isometry3d pose = model::poseVehicleDonor(*placement, *donor);
        Chain chain;
        const double most_mm = r.stop_mm.value_or(1e9);
        if (r.up_mm > 0 || r.down_mm > 0) {
            const std::size_t up = add(FreedomOf::RockUp, "", "Engine", model::End::NotSaid,
                                       -std::min(r.down_mm, most_mm), std::min(r.up_mm, most_mm), "down", "up");
            chain.push_back(kinematics::SlideMotion{up, Vector3d::UnitZ()});
        }
        if (r.along_mm > 0) {
            const std::size_t along = add(FreedomOf::RockAlong, "", "Engine", model::End::NotSaid, -r.along_mm,
                                          r.along_mm, "forward", "rearward");
            chain.push_back(kinematics::SlideMotion{along, Vector3d::UnitX()});
        }
        if (r.roll_deg > 0) {
            const auto front = model::meanPoint(*donor, "front_mount"),
                       back = model::meanPoint(*donor, "gearbox_mount");
            if (front && back && (*back - *front).norm() >= 1)
                roll(chain, r, *donor, pose, *front, *back);
            else // up, down and along it still goes
                out_.broken.push_back({donor->id.text, "rocking", donor->name + " on its mounts",
                                       Error{"its rolling needs front mounts and a gearbox mount to turn about", "",
                                             "add reference points with the roles front_mount and gearbox_mount"}});
        }
        const auto shared = std::make_shared<const Chain>(std::move(chain));
        for (const model::Body& body : donor->bodies) out_.chains[{donor->id.text, body.id}] = shared;
    }

    /// Points in the donor's frame.
    void roll(Chain& chain, const model::Rocking& r, const model::Donor& donor, const Isometry3d& pose,
              const Vector3d& front, const Vector3d& back) {
        const Vector3d axis = (back - front).normalized();
        double reach_mm = 0;
        for (const model::HardPoint& p : donor.reference_points)
            if (p.role == "front_mount") reach_mm = std::max(reach_mm, (p.at_mm - front).cross(axis).norm());
        double most_deg = r.roll_deg;
        if (r.stop_mm && reach_mm > 0)
            most_deg = std::min(most_deg, std::asin(std::min(1.0, *r.stop_mm / reach_mm)) * deg_per_rad);
        if (most_deg <= 0) return;
        const std::size_t freedom =
            add(FreedomOf::RockRoll, "", "Engine", model::End::NotSaid, -most_deg, most_deg, "", "");
        chain.push_back(kinematics::TurnMotion{freedom, pose * front, pose * back, 1, {}});
        if (r.stop_mm) mountStop(freedom, reach_mm, most_deg, *r.stop_mm);
    }

    /// A mount that is pressed as far as its stop has nothing left to roll with.
    void mountStop(std::size_t roll, double reach_mm, double most_deg, double stop_mm) {
        kinematics::Stop stop;
        stop.lean.assign(roll + 1, 0);
        stop.weight.assign(roll + 1, 0);
        stop.most = stop_mm;
        stop.weight[roll] = reach_mm * std::sin(most_deg / deg_per_rad) / most_deg; // a chord: no more than the sine
        for (std::size_t i = 0; i < roll; ++i)
            if (out_.of[i].of == FreedomOf::RockUp) stop.weight[i] = 1;
        out_.stops.push_back(std::move(stop));
    }

    void spinning() {
        const auto of = [&](const std::string& owner, const std::vector<model::Body>& bodies,
                            const std::vector<MotionSpec>& motions) {
            for (const MotionSpec& spec : motions)
                for (const model::Body& body : bodies)
                    if (spec.kind == MotionKind::Spin &&
                        std::find(spec.bodies.begin(), spec.bodies.end(), body.id) != spec.bodies.end())
                        if (const auto axis = placed::spinAxis(project_, owner, body); axis && !*axis)
                            out_.broken.push_back({owner, spec.id, spec.name, axis->error()});
        };
        of(model::vehicle_owner, vehicle().bodies, vehicle().motions);
        if (const model::Donor* donor = model::activeDonor(project_)) of(donor->id.text, donor->bodies, donor->motions);
    }

    void print() {
        std::string& text = out_.print;
        const auto put = [&text](double v) { text += quantity::exactNumber(v) + " "; };
        for (const auto& f : out_.freedoms) text += f.id + " ", put(f.low), put(f.high);
        for (const auto& stop : out_.stops) {
            for (const double v : stop.lean) put(v);
            for (const double v : stop.weight) put(v);
            put(stop.most);
        }
    }

    const model::Project& project_;
    Movement out_;
    std::map<std::string, std::size_t> travel_, roll_; ///< by motion
    std::optional<std::size_t> steering_;
};

} // namespace

const Chain* Movement::chainOf(const model::BodyRef& ref) const {
    const auto found = chains.find(ref);
    return found == chains.end() || found->second->empty() ? nullptr : found->second.get();
}

Isometry3d Movement::at(const model::BodyRef& ref, const State& state) const {
    const Chain* chain = chainOf(ref);
    return chain ? kinematics::movedFromRest(*chain, state) : Isometry3d::Identity();
}

Movement makeMovement(const model::Project& project) { return Builder(project).make(); }

std::string stateWords(const model::Project& project, const Movement& movement, const State& state,
                       quantity::Shown shown) {
    constexpr double still = 1e-6, unseen_mm = 0.51; // less is shown as nothing
    std::string out;
    const auto say = [&out](const std::string& words) { out += (out.empty() ? "" : ", ") + words; };
    bool rocks = false;
    const auto engine = [&rocks] { return std::string(std::exchange(rocks, true) ? "" : "engine "); };
    std::string last; // "front axle at full bump, rolled …": named once
    for (std::size_t i = 0; i < state.size() && i < movement.of.size(); ++i) {
        const double v = state[i];
        if (std::abs(v) < still) continue;
        if (movement.of[i].of >= FreedomOf::RockUp && std::abs(v) < unseen_mm) continue;
        const kinematics::Freedom& freedom = movement.freedoms[i];
        const MovementFreedom& of = movement.of[i];
        const bool low = v <= freedom.low + still, high = v >= freedom.high - still;
        const std::string name = of.motion == last && !last.empty() ? "" : lowerFirst(of.name) + " ";
        switch (of.of) {
        case FreedomOf::Travel:
            say(name + (high  ? "at full bump"
                        : low ? "at full droop"
                              : quantity::lengthText(std::abs(v), shown, 0) + (v > 0 ? " into bump" : " into droop")));
            break;
        case FreedomOf::Roll: {
            // Positive: its right end rises.
            const bool driver = (v > 0) == (project.vehicle && project.vehicle->drive_side == model::DriveSide::Right);
            say(name + "rolled " + quantity::angleText(std::abs(v), 1) +
                (driver ? " (driver's end up)" : " (passenger's end up)"));
            break;
        }
        case FreedomOf::Steering:
            say(high  ? "full right lock"
                : low ? "full left lock"
                      : quantity::fixed(std::abs(v) * 100, 0) + " % of " + (v > 0 ? "right" : "left") + " lock");
            break;
        case FreedomOf::RockRoll:
            // Right-handed about an axis that leads rearward: the right side rises, the top goes to the left.
            say(engine() + "rocked " + quantity::angleText(std::abs(v), 1) + " " + model::sideWord(project, v < 0));
            break;
        case FreedomOf::RockUp:
            say(engine() + quantity::lengthText(std::abs(v), shown, 0) + (v > 0 ? " up" : " down"));
            break;
        case FreedomOf::RockAlong:
            say(engine() + quantity::lengthText(std::abs(v), shown, 0) + (v > 0 ? " rearward" : " forward"));
            break;
        }
        last = of.motion;
    }
    return out.empty() ? "at rest" : out;
}

Sag sagOf(const model::Vehicle& vehicle, std::optional<double> front_change_kg, std::optional<double> rear_change_kg) {
    constexpr double gravity_m_per_s2 = 9.80665;
    Sag sag;
    if (front_change_kg && vehicle.springs.front_n_per_mm)
        sag.front_mm = *front_change_kg * gravity_m_per_s2 / *vehicle.springs.front_n_per_mm;
    if (rear_change_kg && vehicle.springs.rear_n_per_mm)
        sag.rear_mm = *rear_change_kg * gravity_m_per_s2 / *vehicle.springs.rear_n_per_mm;
    return sag;
}

Isometry3d groundMoved(const model::Vehicle& vehicle, double front_mm, double rear_mm) {
    Isometry3d pose = Isometry3d::Identity();
    pose.translation().z() = front_mm;
    if (!vehicle.wheelbase_mm || *vehicle.wheelbase_mm <= 0) return pose;
    const double slope_rad = std::atan2(front_mm - rear_mm, *vehicle.wheelbase_mm);
    pose.linear() = Eigen::AngleAxisd(slope_rad, Vector3d::UnitY()).toRotationMatrix(); // rear end down
    return pose;
}

std::optional<double> bumpTravel_mm(const model::Vehicle& vehicle, model::End end) {
    std::optional<double> least;
    for (const MotionSpec& spec : vehicle.motions) {
        const bool travels = spec.kind == MotionKind::Axle || (spec.kind == MotionKind::Arm && spec.with.empty());
        if (travels && spec.end == end && spec.bump_mm > 0)
            least = std::min(least.value_or(spec.bump_mm), spec.bump_mm);
    }
    return least;
}

} // namespace gabarit::fit
