// The section "driveline": what turns between the gearbox and the wheels, as it was measured.
#pragma once

#include "model/motion.h"
#include "model/sections.h"
#include "quantity/once.h"

namespace gabarit::model {

/// Which way a line of shafts runs from the unit.
enum class Run { Rearward, Forward, Left, Right };

/// A flange (or yoke, or stub) and the axis it turns about, as a gauge and a tape give them.
struct FlangePlace {
    std::string owner = "vehicle"; ///< or a donor's id: whose frame it is in, and with whom it moves
    PointId point;                 ///< of the owner; empty: at_mm
    Eigen::Vector3d at_mm{0, 0, 0};
    double joint_mm = 0; ///< from there to the joint's centre, along the axis towards the shaft
    /// The axis against the owner's axis that lies along the run, in two views: in the side view how much it falls as
    /// the line runs; in plan how much it goes to the owner's right (of a line that runs sideways: rearward).
    double down_deg = 0;
    double aside_deg = 0;
    std::optional<double> accuracy_mm;
    std::optional<double> accuracy_deg;
    Provenance measured;
    std::string note;
    Extras extras;
};

enum class PathKind { NotSaid, Fixed, Axle, Arm };
enum class PathLinkKind {
    Arm,      ///< keeps its length between its two ends
    Leaf,     ///< a leaf spring, from its fixed eye to its seat
    Torque,   ///< a torque arm fast on the axle: its front end keeps its height and slides
    LadderBar ///< an arm fast on the axle that turns about its front end
};
struct PathLink {
    PathLinkKind kind = PathLinkKind::Arm;
    Eigen::Vector3d fixed_mm{0, 0, 0};  ///< on the frame; of a torque arm not asked
    Eigen::Vector3d moving_mm{0, 0, 0}; ///< on the axle; of a torque arm its front end; of a ladder bar not asked
    Extras extras;
};

/// How the far flange moves with the suspension. Points are the vehicle's.
struct EndPath {
    std::string motion; ///< a motion of the vehicle (axle or arm) that carries it; empty: as given here
    PathKind kind = PathKind::NotSaid;
    double bump_mm = 0;                 ///< of an axle's centre or an arm's tip, from ride height
    double droop_mm = 0;                ///< the same, downwards
    Eigen::Vector3d centre_mm{0, 0, 0}; ///< axle: its centre; arm: its tip
    Eigen::Vector3d axis_a_mm{0, 0, 0}; ///< arm
    Eigen::Vector3d axis_b_mm{0, 0, 0}; ///< arm
    std::vector<PathLink> links;        ///< axle: what leads it in the side view: none, one or two
    double windup_up_deg = 0;           ///< driving: the pinion's nose rises by
    double windup_down_deg = 0;         ///< braking and backing up: it falls by
    std::string windup_source;
    /// Axle: wedges or longer links that are planned to turn it about its centre, the nose up above zero. What is
    /// measured stays as it was without them.
    double shim_deg = 0;
    Extras extras;
};

enum class JointKind { Cardan, DoubleCardan, FlexibleDisc, CvFixed, CvPlunging };
struct Joint {
    std::string name;
    JointKind kind = JointKind::Cardan;
    std::optional<double> max_deg; ///< its maker's; without it the book's for its kind
    std::string max_source;
    Extras extras;
};

/// A shaft between two joints. Lengths are between joint centres.
struct Shaft {
    std::string name;
    /// Of its rear fork against its front fork, clockwise seen from behind the vehicle, whichever way the line runs; of
    /// a line that runs sideways of its outer fork against its inner one, seen from the wheel. 0: in phase.
    double phase_deg = 0;
    std::optional<double> tube_mm;            ///< outside diameter
    std::optional<double> wall_mm;            ///< of the tube; as thick as the bar when solid
    bool one_length = false;                  ///< it does not slip: its joints or a bearing take the travel
    std::optional<double> closed_mm;          ///< pushed together as far as it goes
    std::optional<double> spline_mm;          ///< engaged when closed; of a plunging joint its whole plunge
    std::optional<double> spline_diameter_mm; ///< of a splined slip
    std::optional<double> length_mm;          ///< of one that does not slip
    std::optional<double> accuracy_mm;
    bool to_make = false; ///< its lengths are to be found; else it is kept as it is
    std::string note;
    Extras extras;
};

/// Holds a shaft of several pieces: the joint behind it sits so far along the line from the joint before it.
struct CentreBearing {
    std::string name;
    PointId point; ///< of the vehicle; empty: at_mm
    Eigen::Vector3d at_mm{0, 0, 0};
    double joint_mm = 0; ///< from the bearing to the joint's centre, onward
    Extras extras;
};

/// A chain from an output of the unit to what it drives.
struct ShaftLine {
    std::string id;
    std::string name;
    Run run = Run::Rearward;
    FlangePlace from;
    FlangePlace to;
    EndPath path;
    std::vector<Joint> joints;           ///< two or more, as the line runs
    std::vector<Shaft> shafts;           ///< one fewer
    std::vector<CentreBearing> bearings; ///< two fewer than joints
    std::string option;            ///< "owner/choice/option": judged only while that option is taken; empty: always
    bool half_shaft = false;       ///< turns with the wheel, behind the final drive
    std::optional<double> top_rpm; ///< at top speed; without it from the gearing
    std::string note;
    Extras extras;

    GABARIT_ONCE_DECLARED(ShaftLine);
};

/// One figure off an angle gauge. Gauges read against level: the slope the vehicle stood at is taken off.
struct AngleReading {
    std::string id;
    std::string place;               ///< on what: "output flange", "pinion", "shaft"
    std::string line;                ///< the line whose flange it tells; may be empty
    bool at_far_end = false;         ///< of the line: the far flange, not the unit's
    double reading_deg = 0;          ///< falls to the rear (of a line that runs sideways: outward): above zero
    std::optional<double> slope_deg; ///< of the vehicle's datum at that time, falling to the rear above zero
    std::optional<double> accuracy_deg;
    std::string device;
    std::string time; ///< ISO 8601
    std::string note;
    Extras extras;
};

/// A gap between the two flanges of a flexible disc, or an indicator on a rim (it grows as its plunger is pressed in),
/// at one clock place.
struct CouplingReading {
    bool rim = false;     ///< false: between the faces
    double clock_deg = 0; ///< place: clockwise from the top, seen from behind
    double turn_deg = 0;  ///< how far the shaft was turned, the same way
    double mm = 0;
    std::optional<double> accuracy_mm;
    std::string device;
    std::string time; ///< ISO 8601
    std::string note;
    Extras extras;
};
/// Readings taken at one place of the engine.
struct CouplingTry {
    std::string id;
    std::string name;
    std::string date; ///< ISO 8601
    std::string who;
    std::optional<double> slope_deg; ///< of the vehicle at that time
    std::vector<CouplingReading> readings;
    std::string note;
    Extras extras;
};
struct CouplingCheck {
    std::string id;
    std::string name;
    std::string line;            ///< the line whose first joint it is; may be empty
    double radius_mm = 0;        ///< at which the faces are measured
    bool rim_from_shaft = false; ///< the indicator rides on the shaft and reads the gearbox flange's rim
    /// From the flange forward to the mounts, along the vehicle. Without them the line's donor tells.
    std::optional<double> to_gearbox_mount_mm;
    std::optional<double> to_front_mounts_mm;
    std::vector<CouplingTry> tries; ///< the last is how it stands
    Extras extras;
};

enum class InterfaceKind { Spline, Flange, Joint, Bore };
/// One side of an interface.
struct InterfaceSide {
    std::string name;                  ///< "gearbox output", "pinion yoke"
    std::optional<double> count;       ///< teeth of a spline, bolts of a flange
    std::optional<double> diameter_mm; ///< major diameter of a spline; bolt circle; joint's cap; bore or spigot
    std::optional<double> pilot_mm;    ///< flange: its spigot or its bore
    std::optional<double> bolt_mm;     ///< flange: thread diameter or hole
    std::optional<double> span_mm;     ///< joint: over the caps
    std::optional<double> length_mm;   ///< spline
    std::string note;
    Extras extras;
};
struct Interface {
    std::string id;
    std::string name;
    InterfaceKind kind = InterfaceKind::Spline;
    InterfaceSide a;
    InterfaceSide b;
    std::string adapter; ///< what joins the two although they do not mate; empty: none
    std::string donor;   ///< whose it is; empty: of whichever hangs, while the project has one donor
    Extras extras;
};

/// A length with its tolerance, each way.
struct Sized {
    std::optional<double> mm;
    double tolerance_mm = 0;
};
/// The stack from the block's rear face rearward. Places count from the face they name, rearward above zero.
struct BellStack {
    std::string donor;                ///< as Interface::donor
    Sized adapter_plate;              ///< between block and bellhousing; 0: none
    Sized crank_flange;               ///< its face behind the block's
    Sized flywheel;                   ///< from the crank flange to the friction face
    Sized clutch;                     ///< from the friction face to the tips of the fingers
    Sized bell_depth;                 ///< from its front face to the gearbox's
    Sized release_at_rest;            ///< bearing's face, in front of the gearbox's face, pushed right back
    Sized release_travel;             ///< how far it can come forward
    Sized finger_travel;              ///< how far the fingers must go to free the clutch
    Sized shaft_tip;                  ///< input shaft's tip in front of the gearbox's face
    Sized shaft_shoulder;             ///< length of the tip that fits the pilot
    Sized pilot_mouth;                ///< of the pilot bearing behind the crank flange's face (inside: below zero)
    Sized pilot_bottom;               ///< depth of the hole below its mouth
    Sized spline_from;                ///< splines begin in front of the gearbox's face…
    Sized spline_to;                  ///< …and end
    Sized hub_from;                   ///< disc hub's front end behind the friction face (before it: below zero)
    Sized hub_to;                     ///< its rear end
    Sized starter_rest;               ///< pinion's tip at rest, behind its mounting face towards the ring gear
    Sized starter_out;                ///< thrown out
    Sized starter_face;               ///< starter's mounting face behind the block's face
    bool starter_from_behind = false; ///< it sits in the bellhousing and throws its pinion forward
    Sized ring_from;                  ///< ring gear's front face behind the crank flange
    Sized ring_width;
    std::optional<double> overhung_kg; ///< what hangs on the crank flange besides flywheel and clutch: an adapter
    Extras extras;
};

struct Driveline {
    std::vector<ShaftLine> lines;
    std::vector<CouplingCheck> couplings;
    std::vector<AngleReading> readings;
    std::vector<Interface> interfaces;
    std::optional<BellStack> bell;
    std::optional<double> checked_rpm; ///< shaft speed that accelerations are told at; without it the top speed's
    Extras extras;
};

const describe::Words& words(Run);
const describe::Words& words(PathKind);
const describe::Words& words(PathLinkKind);
const describe::Words& words(JointKind);
const describe::Words& words(InterfaceKind);

void describe(describe::Visitor& v, Driveline& driveline);
void describe(describe::Visitor& v, ShaftLine& line);
void describe(describe::Visitor& v, EndPath& path);
void describe(describe::Visitor& v, Joint& joint);
void describe(describe::Visitor& v, Shaft& shaft);
void describe(describe::Visitor& v, CentreBearing& bearing);
void describe(describe::Visitor& v, CouplingCheck& coupling);
void describe(describe::Visitor& v, CouplingTry& its_try);
void describe(describe::Visitor& v, AngleReading& reading);
void describe(describe::Visitor& v, Interface& interface);
void describe(describe::Visitor& v, BellStack& bell);

} // namespace gabarit::model

namespace gabarit::driveline {

model::SectionKind section();

} // namespace gabarit::driveline
