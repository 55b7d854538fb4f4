#include "driveline/line_geometry.h"

#include "model/owner_place.h"
#include "quantity/quantity.h"

#include <cmath>

namespace gabarit::driveline {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using model::EndPath;
using model::PathKind;
using model::PathLinkKind;
using quantity::deg_per_rad;

constexpr double nothing_mm = 1e-3;
constexpr double steepest_deg = 80;     // no joint works there, and ratios run away
constexpr double far_above_mm = 100000; // a torque arm's end on an arm so long that it only slides

Vector3d runDirection(model::Run run) {
    switch (run) {
    case model::Run::Rearward: return Vector3d::UnitX();
    case model::Run::Forward: return -Vector3d::UnitX();
    case model::Run::Left: return -Vector3d::UnitY();
    case model::Run::Right: break;
    }
    return Vector3d::UnitY();
}

/// The axis of a frame, horizontal in it, that lies nearest to a direction.
Vector3d nearestAxis(const Vector3d& direction) {
    if (std::abs(direction.x()) >= std::abs(direction.y()))
        return direction.x() < 0 ? -Vector3d::UnitX() : Vector3d(Vector3d::UnitX());
    return direction.y() < 0 ? -Vector3d::UnitY() : Vector3d(Vector3d::UnitY());
}

Isometry3d turnAbout(const Vector3d& at, const Vector3d& axis, double deg) {
    Isometry3d pose = Isometry3d::Identity();
    pose.linear() = Eigen::AngleAxisd(deg / deg_per_rad, axis).toRotationMatrix();
    pose.translation() = at - pose.linear() * at;
    return pose;
}

const model::HardPoint* pointOf(const std::vector<model::HardPoint>& points, const model::PointId& id) {
    for (const model::HardPoint& p : points)
        if (p.id == id) return &p;
    return nullptr;
}

struct Placed {
    Vector3d at_mm;
    Vector3d axis;
    bool on_donor = false;
};

/// The owner's axes that the two angles of a flange are told against: along the run, and aside of it.
std::pair<Vector3d, Vector3d> viewsOf(const Isometry3d& pose, const Vector3d& runs) {
    // In the vehicle: of a line along it the right, of one across it the rear.
    const Vector3d aside_vehicle = std::abs(runs.x()) > 0.5 ? Vector3d(Vector3d::UnitY()) : Vector3d(Vector3d::UnitX());
    return {nearestAxis(pose.linear().transpose() * runs), nearestAxis(pose.linear().transpose() * aside_vehicle)};
}

Result<Placed> placed(const model::Project& project, const model::FlangePlace& flange, const Vector3d& runs,
                      const std::string& where) {
    const auto its = model::ownerPlace(project, flange.owner, flange.point, flange.at_mm, where);
    if (!its) return its.error();
    const Isometry3d& pose = its.value().pose_vehicle_owner;
    Placed out;
    out.on_donor = its.value().on_donor;
    const auto [along, aside] = viewsOf(pose, runs);
    out.at_mm = its.value().vehicle_mm();
    out.axis = pose.linear() * flangeAxis(along, aside, flange.down_deg, flange.aside_deg);
    return out;
}

} // namespace

Vector3d flangeAxis(const Vector3d& along, const Vector3d& aside, double down_deg, double aside_deg) {
    return (along - Vector3d::UnitZ() * std::tan(down_deg / deg_per_rad) + aside * std::tan(aside_deg / deg_per_rad))
        .normalized();
}

Result<model::FlangePlace> onOwner(const model::Project& project, const model::FlangePlace& flange, model::Run run,
                                   const std::string& owner) {
    const Vector3d runs = runDirection(run);
    const auto stands = placed(project, flange, runs, flange.owner);
    if (!stands) return stands.error();
    const auto its = model::ownerPlace(project, owner, {}, Vector3d::Zero(), owner);
    if (!its) return its.error();
    const Isometry3d& pose = its.value().pose_vehicle_owner;
    const auto [along, aside] = viewsOf(pose, runs);
    const Vector3d axis = pose.linear().transpose() * stands.value().axis;
    model::FlangePlace out = flange;
    out.owner = owner;
    out.point = {};
    out.at_mm = pose.inverse() * stands.value().at_mm;
    out.down_deg = std::atan2(-axis.z(), axis.dot(along)) * deg_per_rad;
    out.aside_deg = std::atan2(axis.dot(aside), axis.dot(along)) * deg_per_rad;
    return out;
}

double flangeFalls_deg(const LineAt& line, bool far_end) {
    const auto& axes = line.chain.axes;
    const Vector3d& axis = far_end ? axes.back() : axes.front();
    const double falling = std::asin(std::clamp(-axis.z(), -1.0, 1.0)) * deg_per_rad; // unit axes
    return axes.front().x() < -0.5 ? -falling : falling;
}

Result<LineGeometry> LineGeometry::make(const model::Project& project, const model::ShaftLine& line) {
    const std::string where = "line \"" + line.name + "\"";
    const std::size_t n = line.joints.size();
    if (n < 2) return Error{"it needs two joints at least", where, "add its joints"};
    if (line.shafts.size() != n - 1)
        return Error{"it has " + std::to_string(n) + " joints and " + std::to_string(line.shafts.size()) + " shafts",
                     where, "give one shaft between each two joints"};
    if (line.bearings.size() != n - 2)
        return Error{"it has " + std::to_string(n - 1) + " shafts and " + std::to_string(line.bearings.size()) +
                         " centre bearings",
                     where, "give a centre bearing for each joint that is not at a flange"};
    LineGeometry out;
    out.name_ = where;
    out.runs_ = runDirection(line.run);
    const auto from = placed(project, line.from, out.runs_, where + ", the unit's flange");
    if (!from) return from.error();
    const auto to = placed(project, line.to, out.runs_, where + ", the far flange");
    if (!to) return to.error();
    out.from_mm_ = from.value().at_mm;
    out.from_axis_ = from.value().axis;
    out.from_joint_mm_ = line.from.joint_mm;
    out.on_donor_ = from.value().on_donor;
    out.to_mm_ = to.value().at_mm;
    out.to_axis_ = to.value().axis;
    out.to_joint_mm_ = line.to.joint_mm;
    out.joints_ = line.joints;
    // The chain turns the later fork right-handed about the axis as the line runs. Rearward, the later fork is the rear
    // one and that turn is anticlockwise seen from behind; forward, it is the front one and clockwise: either way the
    // rear fork stands the other way.
    for (const model::Shaft& shaft : line.shafts) out.phases_rad_.push_back(-shaft.phase_deg / deg_per_rad);
    const auto vehiclePoint = [&](const model::PointId& id) -> const model::HardPoint* {
        return project.vehicle ? pointOf(project.vehicle->hard_points, id) : nullptr;
    };
    for (const model::CentreBearing& bearing : line.bearings) {
        Vector3d at = bearing.at_mm;
        if (!bearing.point.text.empty()) {
            const model::HardPoint* point = vehiclePoint(bearing.point);
            if (!point)
                return Error{"there is no point \"" + bearing.point.text + "\" on the vehicle", where,
                             "name one of its points, or give the bearing's place"};
            at = point->at_mm;
        }
        out.bearings_.emplace_back(at, bearing.joint_mm);
    }

    const EndPath& path = line.path;
    out.windup_up_deg_ = path.windup_up_deg;
    out.windup_down_deg_ = path.windup_down_deg;
    out.shim_deg_ = path.shim_deg;
    kinematics::AxleMotion axle;
    PathKind kind = path.kind;
    kinematics::SwingMotion swing;
    out.bump_mm_ = path.bump_mm;
    out.droop_mm_ = path.droop_mm;
    if (!path.motion.empty()) {
        const model::MotionSpec* spec = nullptr;
        if (project.vehicle)
            for (const model::MotionSpec& m : project.vehicle->motions)
                if (m.id == path.motion && (m.kind == model::MotionKind::Axle || m.kind == model::MotionKind::Arm))
                    spec = &m;
        if (!spec)
            return Error{"\"" + path.motion + "\" is no axle or arm that moves", where,
                         "name one under what moves, or give its travel here"};
        out.bump_mm_ = spec->bump_mm;
        out.droop_mm_ = spec->droop_mm;
        kind = spec->kind == model::MotionKind::Axle ? PathKind::Axle : PathKind::Arm;
        std::optional<Error> wrong;
        const auto at = [&](const model::PointId& id) -> Vector3d {
            const model::HardPoint* point = vehiclePoint(id);
            if (!point)
                wrong = Error{"what moves it has no point \"" + id.text + "\"", where, "name one of the vehicle's"};
            return point ? point->at_mm : Vector3d(0, 0, 0);
        };
        axle.centre_mm = swing.tip_mm = at(spec->at);
        if (kind == PathKind::Arm) {
            swing.axis_a_mm = at(spec->axis_a);
            swing.axis_b_mm = at(spec->axis_b);
        }
        for (const model::MotionLink& link : spec->links) {
            const Vector3d fixed = at(link.fixed), moving = at(link.moving);
            axle.links.push_back(link.leaf ? kinematics::leafLink(fixed, moving) : kinematics::Link{fixed, moving});
        }
        if (wrong) return *wrong;
    } else {
        axle.centre_mm = swing.tip_mm = path.centre_mm;
        swing.axis_a_mm = path.axis_a_mm;
        swing.axis_b_mm = path.axis_b_mm;
        for (const model::PathLink& link : path.links) {
            if (link.kind == PathLinkKind::LadderBar) {
                if (path.links.size() > 1)
                    return Error{"a ladder bar leads the axle alone", where, "take out the other links"};
                // The axle turns about the bar's front end as one piece.
                swing.axis_a_mm = link.fixed_mm;
                swing.axis_b_mm = link.fixed_mm + Vector3d::UnitY();
                continue;
            }
            if (link.kind == PathLinkKind::Leaf)
                axle.links.push_back(kinematics::leafLink(link.fixed_mm, link.moving_mm));
            else if (link.kind == PathLinkKind::Torque)
                axle.links.push_back({link.moving_mm + Vector3d(0, 0, far_above_mm), link.moving_mm});
            else
                axle.links.push_back({link.fixed_mm, link.moving_mm});
        }
    }
    const bool bar = kind == PathKind::Axle && path.motion.empty() && !path.links.empty() &&
                     path.links.front().kind == PathLinkKind::LadderBar;
    if (kind == PathKind::Axle) out.axle_mm_ = axle.centre_mm;
    if (kind == PathKind::Axle && !bar) out.motion_ = axle;
    if (bar) out.motion_ = swing;
    if (kind == PathKind::Arm) out.motion_ = kinematics::CarriedMotion{swing};
    if (kind == PathKind::Fixed || kind == PathKind::NotSaid) out.bump_mm_ = out.droop_mm_ = 0;
    if (!out.axle_mm_) out.shim_deg_ = 0;
    if (out.motion_) {
        const std::vector<kinematics::Freedom> travel{{"travel", -out.droop_mm_, out.bump_mm_, "", ""}};
        if (const auto sound = kinematics::check({*out.motion_}, travel); !sound) {
            Error wrong = sound.error();
            wrong.where = where + (wrong.where.empty() ? "" : ", " + wrong.where);
            return wrong;
        }
    }
    if (const auto rest = out.at({}); !rest) return rest.error();
    return out;
}

double LineGeometry::noseSign() const {
    // The nose lies on the side the shaft comes from.
    return runs_.x() >= 0 ? 1 : -1;
}

Isometry3d LineGeometry::farEnd(const LineState& state) const {
    Isometry3d pose = motion_ ? kinematics::movedFromRest({*motion_}, {state.travel_mm}) : Isometry3d::Identity();
    const double turn_deg = (state.windup_deg + shim_deg_) * noseSign();
    // About +Y what lies forward rises.
    if (turn_deg != 0)
        pose = pose * turnAbout(axle_mm_.value_or(to_mm_ - to_axis_ * to_joint_mm_), Vector3d::UnitY(), turn_deg);
    return pose;
}

Result<LineAt> LineGeometry::at(const LineState& state) const {
    LineAt out;
    const Isometry3d moved = farEnd(state);
    const std::size_t n = joints_.size();
    out.joints_mm.push_back(from_mm_ + from_axis_ * from_joint_mm_);
    for (const auto& [bearing, onward_mm] : bearings_) {
        const Vector3d to_bearing = bearing - out.joints_mm.back();
        if (to_bearing.norm() < nothing_mm)
            return Error{"a centre bearing lies in the joint before it", name_, "check their places"};
        out.joints_mm.push_back(bearing + to_bearing.normalized() * onward_mm);
    }
    const Vector3d to_axis = moved.linear() * to_axis_;
    out.joints_mm.push_back(moved * (to_mm_ - to_axis_ * to_joint_mm_));
    out.chain.axes.push_back(from_axis_);
    for (std::size_t i = 0; i + 1 < n; ++i) {
        const Vector3d along = out.joints_mm[i + 1] - out.joints_mm[i];
        if (along.norm() < nothing_mm)
            return Error{"two of its joints lie in one place", name_, "check the flanges' places"};
        out.chain.axes.push_back(along.normalized());
    }
    out.chain.axes.push_back(to_axis);
    for (std::size_t i = 0; i < n; ++i) {
        out.chain.joints.push_back({joints_[i].kind == model::JointKind::Cardan, i + 1 < n ? phases_rad_[i] : 0});
        if (operatingAngle_rad(out.chain, i) * deg_per_rad > steepest_deg)
            return Error{"joint " + std::to_string(i + 1) + " would have to bend by more than " +
                             quantity::fixed(steepest_deg, 0) + "°",
                         name_, "check which way the line runs and the flanges' places and angles"};
    }
    return out;
}

LineGeometry LineGeometry::withFromMoved(const Isometry3d& move_vehicle) const {
    LineGeometry out = *this;
    out.from_mm_ = move_vehicle * from_mm_;
    out.from_axis_ = move_vehicle.linear() * from_axis_;
    return out;
}

LineGeometry LineGeometry::withToTurned(double nose_up_deg) const {
    LineGeometry out = *this;
    out.shim_deg_ += nose_up_deg;
    return out;
}

} // namespace gabarit::driveline
