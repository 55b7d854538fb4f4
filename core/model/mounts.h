// What the unit hangs on: pads, stands, isolators between them, and what they are bolted with.
#pragma once

#include "model/body.h"

namespace gabarit::model {

enum class Metal { Steel, CastIron, Aluminium };

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
    Metal metal = Metal::Steel;
    std::optional<double> accuracy_mm;
    Provenance measured;
    std::string note;
    Extras extras;
};

enum class Treatment { Dry, Oiled, Locker, AntiSeize };
/// How a face is bolted.
struct Bolting {
    std::optional<double> used;       ///< bolts; not given: one in each hole
    std::optional<double> length_mm;  ///< under the head
    std::optional<double> clamped_mm; ///< what lies between head and face: washers, plate, spacer
    std::string grade;                ///< property class after ISO 898-1: "8.8"
    Treatment treatment = Treatment::Dry;
    std::string why;                 ///< of the treatment
    std::optional<double> torque_nm; ///< as tightened; not given: as reckoned
    std::string who;
    std::string date; ///< ISO 8601
    Extras extras;
};

/// A mount's rubber, or what stands for it. Rates are along its own axes, stops count from unloaded.
struct Isolator {
    std::string id;
    std::string name;
    std::string material; ///< "rubber", "polyurethane", "solid"
    double axial_n_per_mm = 0;
    double shear_n_per_mm = 0;
    std::optional<double> shear2_n_per_mm; ///< across the other way, when it is not the same
    std::optional<double> rating_n;        ///< axial load at rest, at most
    std::optional<double> stop_in_mm;      ///< pressed together; not given: nothing stops it
    std::optional<double> stop_out_mm;     ///< pulled apart
    std::optional<double> stop_side_mm;
    bool captive = false;            ///< its halves hold one another when the rubber is torn
    std::optional<double> damping;   ///< share of critical
    std::optional<double> height_mm; ///< between its two faces, unloaded
    std::optional<double> diameter_mm;
    std::optional<double> mass_kg;
    std::optional<double> cost;
    std::string source;
    std::string note;
    Extras extras;
};

enum class MountAt { Engine, Gearbox, Other };
enum class MountMade { OwnBracket, Adapter, SisterPart, Kept };

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
    MountMade made = MountMade::OwnBracket;
    std::optional<double> cost; ///< of bracket, adapter or part
    std::string note;           ///< what choosing it brings with it
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
    std::optional<Inertia> inertia;
    std::optional<Running> running;
    std::optional<double> torque_nm;      ///< of the engine, at most; without it the gearing's
    bool reacts_axle_torque = false;      ///< final drive in the unit: transverse and electric units
    bool transfer_on_unit = false;        ///< the transfer case hangs on the gearbox: low range counts
    std::optional<double> driven_axle_kg; ///< load on the driven wheels; without it the axle loads'
    Extras extras;
};

} // namespace gabarit::model
