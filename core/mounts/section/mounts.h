// The section "mounts": what the unit hangs on: pads, stands, isolators between them, and what they are bolted with.
#pragma once

#include "model/holds.h"
#include "model/isolator.h"
#include "model/sections.h"
#include "quantity/once.h"

namespace gabarit::model {

enum class Metal { NotSaid, Steel, CastIron, Aluminium };

/// A face that is bolted to: a pad of the unit, a stand or rail of the vehicle.
struct MountFace {
    std::string owner = "vehicle"; ///< or a donor's id: whose frame it is in, and with whom it moves
    PointId point;                 ///< of the owner; empty: at_mm
    Eigen::Vector3d at_mm{0, 0, 0};
    Eigen::Vector3d out{0, 0, 1};  ///< away from the metal, any length above zero
    Eigen::Vector3d mark{1, 0, 0}; ///< which way across it is marked on the part: "forward" or "up"
    std::string mark_words;        ///< what is written there
    /// From its point: along the mark, and to the left of it seen from outside.
    std::vector<Eigen::Vector2d> holes_mm;
    std::optional<double> thread_mm; ///< nominal diameter of its bolts
    bool through = false;            ///< plain holes with nuts behind; else tapped
    std::optional<double> depth_mm;  ///< of usable thread
    Metal metal = Metal::NotSaid;    ///< held as the softest
    std::optional<double> accuracy_mm;
    Provenance measured;
    std::string note;
    Extras extras;
};

enum class Treatment { Dry, Oiled, Locker, AntiSeize };
/// How a face is bolted.
struct Bolting {
    std::optional<double> used;        ///< bolts; not given: one in each hole
    std::optional<double> length_mm;   ///< under the head
    std::optional<double> clamped_mm;  ///< what lies between head and face: washers, plate, spacer
    std::optional<double> threaded_mm; ///< of its length; not given: as ISO 4014 makes them
    std::string grade;                 ///< property class after ISO 898-1: "8.8"
    Treatment treatment = Treatment::Dry;
    std::string why;                     ///< of the treatment
    std::optional<double> torque_nm;     ///< as tightened; not given: as reckoned
    std::optional<double> socket_mm;     ///< outside diameter of the socket on its heads
    std::optional<double> nut_socket_mm; ///< through bolts: of the socket on its nuts; not given: the same
    std::string who;
    std::string date; ///< ISO 8601
    Extras extras;
};

enum class MountAt { Engine, Gearbox, Other };
enum class MountMade { OwnBracket, Adapter, SisterPart, Kept };

enum class BracketForm { Tube, Folded, Flat };
/// What reaches from a face to the isolator: a plate on the face, an arm, a plate under the isolator. Sizes that are
/// not given are the book's.
struct Bracket {
    BracketForm form = BracketForm::Tube; ///< a tube tower, a folded channel, one flat adapter plate
    std::optional<double> tube_mm;        ///< outside diameter of the tube; height of the channel
    std::optional<double> wall_mm;        ///< of the tube; thickness of the folded plate
    std::optional<double> plate_mm;       ///< thickness of the plates at its ends, or of the adapter
    std::optional<double> gusset_mm;      ///< leg of the gussets at its root; 0: none
    std::optional<double> throat_mm;      ///< of its welds
    std::optional<double> slot_mm;        ///< the isolator's hole is that much longer each way
    std::optional<double> dowel_mm;       ///< beside the isolator's hole; 0: none
    std::optional<double> yield_mpa;      ///< of its steel
    /// Corners between its ends, frame of the face's owner.
    std::vector<Eigen::Vector3d> via_mm;
    std::vector<std::string> bodies; ///< ids of the owner's, that it was made as
    std::string part;                ///< its id in the list of parts
    std::string note;
    Extras extras;
};

/// Another way of making a mount.
struct MountOption {
    MountMade made = MountMade::OwnBracket;
    std::string name;
    std::optional<double> cost;
    std::string note; ///< what choosing it brings with it
    Extras extras;
};

/// From the unit's pad over a bracket to an isolator on a stand of the vehicle.
struct Mount {
    std::string id;
    std::string name;
    MountAt at = MountAt::Engine;
    MountFace pad;
    std::optional<MountFace> stand;
    std::string isolator; ///< of the project's own, else of the catalogue
    /// Middle of the isolator, vehicle frame. Without it half its height out of the stand; without a stand at the pad.
    std::optional<Eigen::Vector3d> centre_mm;
    std::optional<Eigen::Vector3d>
        axis; ///< of the isolator, towards the unit, vehicle frame; without it the stand's out
    Bolting pad_bolts;
    Bolting stand_bolts;
    std::optional<Bracket> bracket; ///< from the pad to the isolator
    std::optional<Bracket> tower;   ///< from the stand to the isolator, where it does not sit on the stand itself
    std::string frame;              ///< the frame its stand is on; empty: none
    MountMade made = MountMade::OwnBracket;
    std::optional<double> cost;       ///< of bracket, adapter or part
    std::string note;                 ///< what choosing it brings with it
    std::vector<MountOption> options; ///< that it could be made as instead
    std::vector<HoldSigned> holds;
    Extras extras;

    GABARIT_ONCE_DECLARED(Mount);
};

/// A row of holes along a rail that a crossmember bolts to. Vehicle frame.
struct HoleRow {
    std::string id;
    std::string name;
    Eigen::Vector3d at_mm{0, 0, 0};    ///< middle of its first hole
    Eigen::Vector3d step_mm{50, 0, 0}; ///< to the next
    double count = 1;
    std::optional<double> hole_mm; ///< diameter, or width of its slots
    std::optional<double> slot_mm; ///< its slots are that much longer than wide; not given: round holes
    std::optional<double> accuracy_mm;
    Provenance measured;
    std::string note;
    Extras extras;
};

/// A way through under the gearbox that has to stay free: for an exhaust, a line. Seen along the vehicle.
struct Passage {
    std::string name;
    Eigen::Vector2d at_mm{0, 0}; ///< y and z of its middle, vehicle frame
    double diameter_mm = 0;
    Extras extras;
};

/// The crossmember that a gearbox mount sits on, between two rows of holes.
struct Crossmember {
    std::string id;
    std::string name;
    std::string mount;               ///< that sits on it
    std::string left_row, right_row; ///< of holes
    /// Its seat from the middle between the two holes its ends are bolted at, vehicle axes.
    Eigen::Vector3d seat_mm{0, 0, 0};
    std::optional<double> slot_mm;  ///< its own holes are slots that let it go so far each way
    std::optional<double> depth_mm; ///< height of its bar
    bool own = false;               ///< made for the swap: offset and drop are as they come out
    BodyId body;                    ///< of the vehicle; may be empty
    std::vector<Passage> passages;
    std::string note;
    Extras extras;
};

/// A seat or bracket of the engine that was in it.
struct OldSeat {
    std::string id;
    std::string name;
    MountFace face;
    Extras extras;
};

/// A frame made for the swap that spans seats the vehicle has, and nothing else of it.
struct SeatFrame {
    std::string id;
    std::string name;
    std::vector<std::string> seats; ///< that carry it
    /// Corners of its members, vehicle frame, each member by itself.
    std::vector<std::vector<Eigen::Vector3d>> members_mm;
    std::optional<double> width_mm, height_mm, wall_mm; ///< of its rectangular tube
    std::vector<std::string> bodies;                    ///< ids of the vehicle's, that it was made as
    std::string note;
    Extras extras;
};

enum class OldState { Stays, Planned, Gone };
/// A mount of the engine that was in it: planned to go can be taken back, gone cannot.
struct OldMount {
    std::string id;
    std::string name;
    BodyId body;      ///< the vehicle's
    std::string seat; ///< that goes with it; empty: none
    OldState state = OldState::Stays;
    std::string date; ///< ISO 8601, when it was cut off
    std::string who;
    std::string note;
    Extras extras;
};

/// How the unit's inertia is known better than from its masses: about its centre of gravity, donor axes.
struct Inertia {
    Eigen::Vector3d moments_kg_m2{0, 0, 0};  ///< about x', y', z'
    Eigen::Vector3d products_kg_m2{0, 0, 0}; ///< Σm·y'z', Σm·x'z', Σm·x'y'
    std::string source;
    Extras extras;
};

enum class Cylinders { Inline, Vee, Flat, None };
/// What shakes it.
struct Running {
    Cylinders layout = Cylinders::Inline; ///< None: an electric unit
    std::optional<double> cylinders;
    bool two_stroke = false;
    bool balance_shafts = false;
    std::optional<double> idle_rpm;
    std::optional<double> reciprocating_kg; ///< piston, pin and the small end's share, of one cylinder
    std::optional<double> stroke_mm;
    std::optional<double> rod_mm;
    Extras extras;
};

struct Mounts {
    std::vector<Mount> mounts;
    std::vector<Isolator> isolators; ///< of the project's own
    std::vector<HoleRow> rows;
    std::vector<Crossmember> crossmembers;
    std::vector<OldSeat> seats;
    std::vector<SeatFrame> frames;
    std::vector<OldMount> old_mounts;
    std::optional<Inertia> inertia;
    std::optional<Running> running;
    std::optional<double> torque_nm;      ///< of the engine, at most; without it the gearing's
    bool reacts_axle_torque = false;      ///< final drive in the unit: transverse and electric units
    bool transfer_on_unit = false;        ///< the transfer case hangs on the gearbox: low range counts
    std::optional<double> driven_axle_kg; ///< load on the driven wheels; without it the axle loads'
    Extras extras;
};

const describe::Words& words(Metal);
const describe::Words& words(Treatment);
const describe::Words& words(MountAt);
const describe::Words& words(MountMade);
const describe::Words& words(BracketForm);
const describe::Words& words(OldState);
const describe::Words& words(Cylinders);

void describe(describe::Visitor& v, Mounts& mounts);
/// What is wrong with several of its members together.
void refuse(const Mounts& mounts, Refusals& found);
void describe(describe::Visitor& v, Mount& mount);
void describe(describe::Visitor& v, HoleRow& row);
void describe(describe::Visitor& v, Crossmember& crossmember);
void describe(describe::Visitor& v, OldSeat& seat);
void describe(describe::Visitor& v, SeatFrame& frame);
void describe(describe::Visitor& v, OldMount& old);

} // namespace gabarit::model

namespace gabarit::mounts {

model::SectionKind section();

} // namespace gabarit::mounts
