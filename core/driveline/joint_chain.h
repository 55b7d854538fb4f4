// Exact turning of a chain of joints in space: no small angles, yokes where they stand.
#pragma once

#include <Eigen/Geometry>

#include <optional>
#include <vector>

namespace gabarit::driveline {

/// A joint between two axes.
struct ChainJoint {
    bool cardan = true; ///< one cross; false: passes its speed on unchanged (double-Cardan, disc, constant velocity)
    /// Of the fork on the shaft behind it, against the fork that this joint drives: right-handed about that shaft as
    /// the line runs, rad. Not asked of the last joint.
    double phase_rad = 0;
};

/// Axes are unit vectors as the line runs, one more than joints; neighbours lie less than 90° apart.
struct JointChain {
    std::vector<Eigen::Vector3d> axes;
    std::vector<ChainJoint> joints;
};

/// Angle between the two axes of a joint, rad.
double operatingAngle_rad(const JointChain& chain, std::size_t joint);

/// What a shaft does for an input that turns evenly at 1 rad/s.
struct Turning {
    double speed = 1;        ///< rad/s
    double acceleration = 0; ///< rad/s²
    double angle_rad = 0;    ///< of its fork, from where it was; follows the input without jumps
};

/// How each shaft turns (input first) when the input stands `input_rad` on from where its driving fork's pin lies in
/// the chain's reference direction. Of one cross: ω2/ω1 = cos β / (1 − (p·b)²) with p the driving pin and b the driven
/// axis, which is cos β / (1 − sin²β cos²θ); accelerations through the chain by r′ω² + r·α.
std::vector<Turning> turningAt(const JointChain& chain, double input_rad);

/// Over a turn of the input at 1 rad/s; times ω² for another speed.
struct TurnReport {
    double least_ratio = 1; ///< of the last shaft, to 1e-9
    double most_ratio = 1;
    double residual_per_s2 = 0; ///< largest acceleration of the last shaft: torsional
    double inertial_per_s2 = 0; ///< largest acceleration of a shaft between, driven from either end
    double equivalent_rad = 0;  ///< the one joint angle that would shake as much: √|Σβ²e^2iθ|
};
TurnReport overATurn(const JointChain& chain);

/// How the joint plane behind a shaft (of the joint at its end) stands against the one before it, right-handed about
/// the shaft as the line runs, rad within ±π/2: two crosses in phase cancel only when it is 0. Nothing when a joint is
/// straight: it has no plane.
std::optional<double> planeTwist_rad(const JointChain& chain, std::size_t shaft);

/// Σ of the crosses' β², each a vector at twice its pin's angle from its joint plane; its length is the residual
/// torsional acceleration for 1 rad/s to the second order of the angles.
Eigen::Vector2d residualVector(const JointChain& chain);

/// The largest acceleration of the last shaft at 1 rad/s; what best phases and angles are searched by.
double residual_per_s2(const JointChain& chain);

/// Phases of the shafts between the crosses that leave the least residual, rad, each within ±90°; as long as
/// chain.joints, the last one 0. Shafts without a cross at both ends keep theirs.
std::vector<double> bestPhases_rad(const JointChain& chain);

/// The same chain driven from its other end.
JointChain reversed(const JointChain& chain);

} // namespace gabarit::driveline
