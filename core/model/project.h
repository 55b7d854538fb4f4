// A swap in plain values. Copying it is how undo works; views hold no other truth.
#pragma once

#include "model/placement.h"
#include "model/rules.h"
#include "model/sections.h"
#include "quantity/once.h"
#include "quantity/quantity.h"

namespace gabarit::model {

/// The plane that heights are taken from.
struct Datum {
    std::string kind = "ground"; ///< "ground", "frame_rail_top" or "other"
    std::string name;
    Extras extras;
};

enum class DriveSide { Left, Right };

/// How far the survey of an area has come. The areas are the rule book's, or one's own when they have a name.
enum class AreaState { Open, Done, NotHere };
struct AreaMark {
    std::string id;
    std::string name; ///< of an area of one's own
    AreaState state = AreaState::Open;
    std::string date; ///< ISO 8601
    std::string who;
    std::string note;
    Extras extras;
};

/// What the engine that comes out is remembered by, to hold the new one against.
enum class OutgoingMark {
    Crank,
    OutputFlange,
    GearboxMount,
    FrontMounts,
    GearboxTop,
    EngineTop,
    EngineFront,
    SumpBottom,
    ShiftLever
};
/// A reference dimension, taken before the old engine comes out: where a mark of it is along one axis.
struct OutgoingDimension {
    std::string id;
    std::string name;
    OutgoingMark of = OutgoingMark::Crank;
    Axis along = Axis::Z;
    PointId from;  ///< the vehicle's point it was read from; empty: axle, centreline or datum
    double mm = 0; ///< along the vehicle's axis, from there
    std::optional<double> accuracy_mm;
    Provenance measured;
    std::string note;
    Extras extras;
};

/// Room that is left over (tunnel, wing, behind a lamp): a home for what has to move.
struct FreeVolume {
    std::string id;
    std::string name;
    Eigen::Vector3d at_mm{0, 0, 0};   ///< its middle, vehicle frame
    Eigen::Vector3d size_mm{0, 0, 0}; ///< along the vehicle's axes
    std::optional<double> accuracy_mm;
    Provenance measured;
    std::string note;
    Extras extras;
};

/// Vehicle frame after ISO 4130: X rearward from the front axle's centreline, Y to the vehicle's right from its
/// centreline, Z up from the datum plane.
struct Vehicle {
    std::string name;
    std::string note;
    Datum datum;
    DriveSide drive_side = DriveSide::Left;
    std::optional<double> wheelbase_mm;
    std::optional<double> front_track_mm; ///< between the middles of the tyres of an axle
    std::optional<double> rear_track_mm;
    std::vector<Body> bodies;
    std::vector<HardPoint> hard_points;
    std::vector<ServicedBolt> serviced;
    std::vector<Choice> choices;
    std::vector<AreaMark> areas;
    std::vector<OutgoingDimension> outgoing;
    std::vector<FreeVolume> free_volumes;
    std::vector<MotionSpec> motions;
    Springs springs;
    std::vector<Stance> stances;
    Extras extras;

    GABARIT_ONCE_DECLARED(Vehicle);
};

enum class ConditionKind { Crack, Rust, Thread, Weld, Bent, Other };
/// Something found at a place that has to be seen to. Open until it is mended.
struct Condition {
    std::string id;
    std::string name;
    ConditionKind kind = ConditionKind::Crack;
    std::string owner;              ///< "vehicle" or a donor's id: whose frame its place is in
    Eigen::Vector3d at_mm{0, 0, 0}; ///< owner's frame
    BodyId body;                    ///< the owner's body it is on; may be empty
    bool mended = false;
    Provenance measured; ///< date, who, picture
    std::string note;
    Extras extras;
};

/// Two bodies that are meant to touch; not held against a rule.
struct Joined {
    BodyRef a;
    BodyRef b;
    std::string reason;
    Extras extras;
};

/// A gap taken with a feeler, calliper or tape on the real thing, to be held against the planned one.
struct MeasuredGap {
    BodyRef a;
    BodyRef b;
    PlacementId placement; ///< where the donor hung
    double gap_mm = 0;
    std::optional<double> accuracy_mm;
    std::string date; ///< ISO 8601, "2026-05-17"
    std::string who;
    std::string note;
    std::string mark; ///< gapMark() when it was taken: another one now, and it is out of date; empty: not known
    Extras extras;
};

/// Every section may be missing: a section the file does not have is not asked.
struct Project {
    std::string name;
    std::string note;
    std::optional<Vehicle> vehicle;
    std::vector<Donor> donors;
    std::vector<Placement> placements;
    PlacementId active_placement;
    std::vector<Joined> joined;
    std::vector<MeasuredGap> measured;
    std::vector<Condition> conditions;
    RuleChoice rules;
    Sections sections; ///< what the disciplines hold of it: mounts, driveline, weights, parts…
    Extras extras;

    GABARIT_ONCE_DECLARED(Project);
};

/// The placement in use (the first when none is named) and its donor; null when there is none.
const Placement* activePlacement(const Project& project);
Placement* activePlacement(Project& project);
const Donor* activeDonor(const Project& project);
const Donor* findDonor(const Project& project, const DonorId& id);
const Body* findBody(const Project& project, const BodyRef& ref);
Body* findBody(Project& project, const BodyRef& ref);

/// Whether what belongs to a donor (empty: the only one) is of the one that hangs.
enum class Whose { Hangs, Another, NotSaid };
Whose whose(const Project& project, const std::string& donor);

/// The choices of an owner (the vehicle, or a donor by id); null when there is no such owner.
const std::vector<Choice>* choicesOf(const Project& project, const std::string& owner);
/// The option of "owner/choice" that the placement takes: the one it names, else the first; empty when there is none.
std::string takenOption(const Project& project, const Placement* placement, const std::string& owner,
                        const std::string& choice);
/// Whether `option` ("choice/option", of this owner) is the one taken by the active placement. True for an empty one.
bool isTaken(const Project& project, const std::string& owner, const std::string& option);
/// The same for an "owner/choice/option".
bool isTaken(const Project& project, const std::string& owner_choice_option);
/// Whether a body is in the bay: present, and of an option that is taken.
bool stands(const Project& project, const std::string& owner, const Body& body);
/// Whether a body comes with an option that is not the one its owner came with: it is then checked against everything.
bool isAlternative(const Project& project, const std::string& owner, const Body& body);
/// The active donor with only the masses and reference points of the options that its placement takes, and without
/// the masses that are off: what pivots and its centre of gravity go by.
std::optional<Donor> hangingDonor(const Project& project);

/// Turn from an owner's frame (the vehicle's, or the active donor's as it hangs) to the vehicle's.
Eigen::Matrix3d rotationVehicleOwner(const Project& project, const std::string& owner);

/// The project with one body moved along the vehicle's axes, whoever owns it. Error when there is no such body or it
/// is not marked as one that may be moved.
Result<Project> withBodyMoved(const Project& project, const BodyRef& ref, const Eigen::Vector3d& by_vehicle_mm);

/// The pair's entry when the two were joined on purpose, with the reason; null when not.
const Joined* joinedPair(const Project& project, const BodyRef& a, const BodyRef& b);

/// The project with another donor hung in it: the donor under a free id, and a placement of its own, made active, at
/// the active placement's pose (or at the vehicle's origin when there is none). Error when no vehicle is there.
Result<Project> hung(const Project& project, Donor donor);

/// "to the driver's side" and "to the passenger's side" for +Y and −Y.
const char* sideWord(const Project& project, bool towardsPositiveY);
/// Words for this vehicle: "{left}" becomes "driver's" or "passenger's", "{to_left}" "to the driver's side" or "to the
/// passenger's side", as the driver sits; of a thing by itself (`owner` a donor) "left" and "to its left". The right so
/// too. They begin as large as the words did.
std::string sided(const Project& project, std::string words, const std::string& owner = vehicle_owner);

/// A move in words a person at the jack uses, largest part first: "12 mm up and 3 mm rearward". Rounded up to whole
/// millimetres (or hundredths of an inch), so that it is enough; parts below a quarter of a millimetre are left out.
std::string moveWords(const Project& project, const Eigen::Vector3d& move_vehicle_mm,
                      quantity::Shown shown = quantity::Shown::Millimetres);

/// All that is wrong with the values: duplicate ids, dangling references, impossible sizes. Empty when sound.
std::vector<Error> validate(const Project& project, const RuleBook& book);
/// The same for one donor, as in a donor file.
std::vector<Error> validate(const Donor& donor, const RuleBook& book);

} // namespace gabarit::model
