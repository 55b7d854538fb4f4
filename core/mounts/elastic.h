// A rigid body on springs with stops: stiffness, equilibrium, rigid-body modes. Vehicle frame.
#pragma once

#include "quantity/result.h"

#include <Eigen/Geometry>

#include <array>
#include <vector>

namespace gabarit::mounts {

using Vector6d = Eigen::Matrix<double, 6, 1>;
using Matrix6d = Eigen::Matrix<double, 6, 6>;

struct RigidBody {
    double mass_kg = 0;
    Eigen::Vector3d centre_mm{0, 0, 0};
    Eigen::Matrix3d inertia_kg_m2 = Eigen::Matrix3d::Zero(); ///< about its centre, vehicle axes
};

/// One isolator, linear along each of its own axes up to its stops.
struct Spring {
    Eigen::Vector3d at_mm{0, 0, 0};                      ///< its elastic centre
    Eigen::Matrix3d axes = Eigen::Matrix3d::Identity();  ///< columns: shear, shear, axial (out of its seat)
    Eigen::Vector3d rate_n_per_mm{0, 0, 0};              ///< along them
    std::array<double, 3> stop_low_mm{-1e9, -1e9, -1e9}; ///< how far it goes, from unloaded, against each axis…
    std::array<double, 3> stop_high_mm{1e9, 1e9, 1e9};   ///< …and along it
    double stop_rate_n_per_mm = 0;                       ///< beyond a stop, on top of its rate

    /// Force of the seat on the unit for a displacement of the unit there, along its own axes.
    Eigen::Vector3d force_n(const Eigen::Vector3d& own_mm) const;
    /// What its axes gain for each mm there.
    Eigen::Vector3d tangent_n_per_mm(const Eigen::Vector3d& own_mm) const;
    double energy_nmm(const Eigen::Vector3d& own_mm) const;
};

/// Force (N) and moment about the body's centre (N·mm).
struct Load {
    Eigen::Vector3d force_n{0, 0, 0};
    Eigen::Vector3d moment_nmm{0, 0, 0};
};
/// Displacement of the body's centre (mm) and turning (rad, about the vehicle's axes); small: turns add up.
struct Move {
    Eigen::Vector3d by_mm{0, 0, 0};
    Eigen::Vector3d turn_rad{0, 0, 0};
    /// At a place of the body.
    Eigen::Vector3d at(const Eigen::Vector3d& place_mm, const Eigen::Vector3d& centre_mm) const {
        return by_mm + turn_rad.cross(place_mm - centre_mm);
    }
};

/// Of the springs without their stops, about a place: N/mm, N, N·mm.
Matrix6d stiffness(const std::vector<Spring>& springs, const Eigen::Vector3d& about_mm);

/// Where the body comes to rest under a load, counted from unloaded springs, stops included. Least of the energy, by
/// Newton's method with a halved step where it overshoots; the energy is convex, so there is one. Error when nothing
/// holds it along some direction.
Result<Move> equilibrium(const RigidBody& body, const std::vector<Spring>& springs, const Load& load);
/// The springs' forces on the body there, N, vehicle frame.
std::vector<Eigen::Vector3d> forces_n(const RigidBody& body, const std::vector<Spring>& springs, const Move& move);

enum class ModeOf { ForeAft, Sideways, Bounce, Roll, Pitch, Yaw };
const char* word(ModeOf of);

struct Mode {
    double frequency_hz = 0;
    Vector6d shape = Vector6d::Zero(); ///< m and rad, of unit modal mass
    std::array<double, 6> share{};     ///< of its kinetic energy, in ModeOf's order; sums to 1
    ModeOf of = ModeOf::Bounce;        ///< the largest share, each name once
    double decoupled = 0;              ///< that share
};
/// The six rigid-body modes, lowest first: K·φ = ω²·M·φ about the centre of gravity. Error for a body without mass or
/// inertia.
Result<std::array<Mode, 6>> modes(const RigidBody& body, const std::vector<Spring>& springs);

/// How much of a shaking force at a frequency reaches the seat of an undamped or lightly damped mode: √((1+(2ζr)²) /
/// ((1−r²)²+(2ζr)²)), r = frequency over natural frequency.
double transmissibility(double frequency_hz, double natural_hz, double damping);

/// Reactions of three supports that carry weight and the moments about x and y by their upward forces alone, and share
/// the rest by their rates along x and y; nothing when the three lie on a line in plan.
std::vector<Eigen::Vector3d> threeReactions_n(const RigidBody& body, const std::vector<Spring>& springs,
                                              const Load& load);

} // namespace gabarit::mounts
