// What moves, as the survey gives it: which bodies, about or along which hard points, and how far.
#pragma once

#include "model/body.h"
#include "quantity/once.h"

namespace gabarit::model {

enum class MotionKind {
    Axle,    ///< a rigid axle: rises, rolls, is led by leaf springs or links
    Arm,     ///< swings about two points; what it carries keeps its attitude
    Steered, ///< turns about a steering axis, lock to lock
    Linkage, ///< slides with the steering, lock to lock
    Spin,    ///< turns all the way round: takes the room of its swept cylinder
};

/// Which springs it stands on.
enum class End { NotSaid, Front, Rear };

/// What leads an axle in the side view, on one side of the vehicle.
struct MotionLink {
    PointId fixed;     ///< on the frame; of a leaf spring its fixed eye
    PointId moving;    ///< on the axle; of a leaf spring its seat
    bool leaf = false; ///< a leaf spring, not an arm
    Extras extras;
};

/// One thing that moves. Points are its owner's; lengths of travel are counted from ride height, never below zero.
struct MotionSpec {
    std::string id;
    std::string name;
    MotionKind kind = MotionKind::Axle;
    End end = End::NotSaid;
    double bump_mm = 0;  ///< axle: of its centre; arm: of its tip
    double droop_mm = 0; ///< the same, downwards
    double roll_deg = 0; ///< axle: to each side
    /// Axle: sideways between its two bump stops. With it roll takes from the travel; without, both go to their ends.
    std::optional<double> stops_apart_mm;
    PointId at;                    ///< axle: its centre; arm: its tip (the lower ball joint)
    PointId axis_a;                ///< arm, steered, spin
    PointId axis_b;                ///< arm, steered, spin
    std::vector<MotionLink> links; ///< axle: none (straight up), one, or two (the pinion tips with the travel)
    double left_deg = 0;           ///< steered: at full left lock, above zero
    double right_deg = 0;
    Eigen::Vector3d slide_mm{0, 0, 0}; ///< linkage: from straight ahead to full right lock; to the left as far
    std::string with;                  ///< arm: another arm of the same side, whose travel it shares
    std::string on;                    ///< steered, linkage: the axle or arm that carries it; empty: the frame
    std::vector<BodyId> bodies;
    std::vector<BodyId> carried; ///< arm: bodies that ride on its tip and keep their attitude
    Provenance measured;
    std::string note;
    Extras extras;

    GABARIT_ONCE_DECLARED(MotionSpec);
};

/// Springs, both of an axle together, at the wheels.
struct Springs {
    std::optional<double> front_n_per_mm;
    std::optional<double> rear_n_per_mm;
    std::string source;
    Extras extras;
};

/// How the vehicle is made to stand to be looked at: each axle so far up (into the springs) from ride height.
struct Stance {
    std::string id;
    std::string name;
    double front_mm = 0;
    double rear_mm = 0;
    std::string blocks; ///< what holds it there
    Extras extras;
};

/// How far the unit moves on its mounts, given by hand. Pivots lie in the donor's front and gearbox mounts.
struct Rocking {
    double roll_deg = 0;           ///< under torque, to each side
    double up_mm = 0;              ///< of the whole unit
    double down_mm = 0;            ///< the same
    double along_mm = 0;           ///< forward when braking, as far rearward
    std::optional<double> stop_mm; ///< the mounts' stops: no front mount goes farther than this up or down
    std::string source;
    Extras extras;

    bool any() const { return roll_deg > 0 || up_mm > 0 || down_mm > 0 || along_mm > 0; }
};

} // namespace gabarit::model
