// Where a line of shafts runs in the vehicle, at any place of its suspension.
#pragma once

#include "driveline/joint_chain.h"
#include "driveline/section/driveline.h"
#include "kinematics/motion.h"
#include "model/project.h"

#include <optional>

namespace gabarit::driveline {

/// How far the suspension is from ride height, and how far the axle is wound up about its centre.
struct LineState {
    double travel_mm = 0;  ///< bump above zero
    double windup_deg = 0; ///< nose up above zero
};

/// Joint centres and axes in the vehicle frame; axes are unit vectors as the line runs, one more than joints.
struct LineAt {
    std::vector<Eigen::Vector3d> joints_mm;
    JointChain chain;
    double length_mm(std::size_t shaft) const { return (joints_mm[shaft + 1] - joints_mm[shaft]).norm(); }
};

/// The axis of a flange in its owner's frame: along `along` (a unit vector), in the side view falling by `down_deg`,
/// in plan going by `aside_deg` towards `aside`. Both are angles seen in their view, as a gauge reads them.
Eigen::Vector3d flangeAxis(const Eigen::Vector3d& along, const Eigen::Vector3d& aside, double down_deg,
                           double aside_deg);

/// The flange on another owner, where and as it stands: its place and angles as told in that one's frame; the point it
/// was at is the former owner's, and is left. Error: one of the two does not hang.
Result<model::FlangePlace> onOwner(const model::Project& project, const model::FlangePlace& flange, model::Run run,
                                   const std::string& owner);

/// How much an end's flange falls to the rear (of a line across the vehicle: outward) against level, as a gauge laid
/// along its axis reads it, whichever way the line runs and however far it goes aside.
double flangeFalls_deg(const LineAt& line, bool far_end);

/// A line with its ends resolved. Built once, asked at many states.
class LineGeometry {
public:
    /// Errors name the line and what is missing: too few joints, a point or donor that is not there, a donor that does
    /// not hang, links that do not reach the ends of the travel.
    static Result<LineGeometry> make(const model::Project& project, const model::ShaftLine& line);

    /// Error when two joints fall together or an angle passes 80° there.
    Result<LineAt> at(const LineState& state) const;
    /// The unit's end moved, vehicle frame: what a nudge does.
    LineGeometry withFromMoved(const Eigen::Isometry3d& move_vehicle) const;
    /// The far flange turned about the axle's centre (without one about its joint), nose up above zero: a shim.
    LineGeometry withToTurned(double nose_up_deg) const;

    double bump_mm() const { return bump_mm_; }
    double droop_mm() const { return droop_mm_; }
    double windup_up_deg() const { return windup_up_deg_; }
    double windup_down_deg() const { return windup_down_deg_; }
    /// Along the vehicle, as the line runs.
    const Eigen::Vector3d& runs() const { return runs_; }
    bool onDonor() const { return on_donor_; }
    /// A solid axle carries the far flange: it can be wedged, and torque winds it up.
    bool toOnAxle() const { return axle_mm_.has_value(); }
    const Eigen::Vector3d& from_mm() const { return from_mm_; } ///< the flange, vehicle frame

private:
    Eigen::Isometry3d farEnd(const LineState& state) const;
    double noseSign() const;

    std::string name_;
    Eigen::Vector3d runs_{1, 0, 0};
    Eigen::Vector3d from_mm_{0, 0, 0};
    Eigen::Vector3d from_axis_{1, 0, 0};
    double from_joint_mm_ = 0;
    Eigen::Vector3d to_mm_{0, 0, 0};
    Eigen::Vector3d to_axis_{1, 0, 0};
    double to_joint_mm_ = 0;
    bool on_donor_ = false;
    std::optional<kinematics::Motion> motion_; ///< by freedom 0, the travel
    std::optional<Eigen::Vector3d> axle_mm_;   ///< what wind-up and a shim turn about
    double bump_mm_ = 0, droop_mm_ = 0, windup_up_deg_ = 0, windup_down_deg_ = 0;
    double shim_deg_ = 0;
    std::vector<model::Joint> joints_;
    std::vector<double> phases_rad_;
    std::vector<std::pair<Eigen::Vector3d, double>> bearings_;
};

} // namespace gabarit::driveline
