// What moves in a project, worked out from its hard points: the freedoms, and the chain of motions of each body.
#pragma once

#include "kinematics/motion.h"
#include "model/project.h"

#include <map>
#include <memory>

namespace gabarit::fit {

/// What a freedom is of.
enum class FreedomOf { Travel, Roll, Steering, RockRoll, RockUp, RockAlong };

struct MovementFreedom {
    FreedomOf of = FreedomOf::Travel;
    std::string motion; ///< the motion's id; empty for steering and rocking
    std::string name;   ///< "Front axle", "Steering", "Engine"
    model::End end = model::End::NotSaid;
    /// Of rocking: left out while a row is held "with the engine at rest".
    bool rocks() const { return of >= FreedomOf::RockRoll; }
    bool degrees() const { return of == FreedomOf::Roll || of == FreedomOf::RockRoll; }
};

/// A motion that cannot be worked out: what it moves is taken as standing still, and its gaps are not believed.
struct BrokenMotion {
    std::string owner;
    std::string id;
    std::string name;
    Error error;
};

/// Freedoms and chains, vehicle frame. Rest is ride height, wheels straight ahead, the engine still.
struct Movement {
    std::vector<kinematics::Freedom> freedoms; ///< mm; degrees of roll; steering from −1 (full left) to 1 (full right)
    std::vector<MovementFreedom> of;           ///< of each, in the same order
    std::vector<kinematics::Stop> stops;
    std::vector<bool> without_rocking; ///< the freedoms that count with the engine at rest
    std::map<model::BodyRef, std::shared_ptr<const kinematics::Chain>> chains;
    std::vector<BrokenMotion> broken;
    std::string print; ///< the same for the same movement: what is kept from earlier runs goes by it

    bool any() const { return !freedoms.empty(); }
    /// Null: it does not move.
    const kinematics::Chain* chainOf(const model::BodyRef& ref) const;
    /// Where a body is moved at a state, from where it is at rest.
    Eigen::Isometry3d at(const model::BodyRef& ref, const kinematics::State& state) const;
};

/// Of the vehicle, and of the active placement's donor on its mounts.
Movement makeMovement(const model::Project& project);

/// "front axle at full bump, rolled 3.0° (driver's end up), full right lock"; "at rest" when nothing has moved.
std::string stateWords(const model::Project& project, const Movement& movement, const kinematics::State& state,
                       quantity::Shown shown);

/// How far the springs go down under what changed, mm (below zero: they rise); missing when the rate or the load is.
struct Sag {
    std::optional<double> front_mm;
    std::optional<double> rear_mm;
    bool any() const { return front_mm || rear_mm; }
};
/// ΔF / rate of each axle, ΔF = mass change · standard gravity (9.80665 m/s²).
Sag sagOf(const model::Vehicle& vehicle, std::optional<double> front_change_kg, std::optional<double> rear_change_kg);

/// Where the ground comes to, vehicle frame, when the front and the rear springs go in by so much: it rises under the
/// axles by that. Needs the wheelbase; without it only equal amounts tell the slope (none), and the front's is taken.
Eigen::Isometry3d groundMoved(const model::Vehicle& vehicle, double front_mm, double rear_mm);

/// How far the springs of one end can go in from ride height: the least bump of its axle or arms; nothing without one.
std::optional<double> bumpTravel_mm(const model::Vehicle& vehicle, model::End end);

} // namespace gabarit::fit
