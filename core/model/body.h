// One thing that takes room: of the vehicle, or of the donor.
#pragma once

#include "model/id.h"
#include "model/shape_spec.h"
#include "quantity/once.h"

#include <Eigen/Geometry>

#include <optional>
#include <string>

namespace gabarit::model {

/// Turns applied in this order about the moving axes Z, Y, X, vehicle frame after ISO 4130.
/// Positive yaw swings the tail to the vehicle's right, positive pitch lowers the tail, positive roll leans
/// the top to the vehicle's left.
struct Angles {
    double yaw_deg = 0;
    double pitch_deg = 0;
    double roll_deg = 0;
};

/// Rotation matrix of Angles: Rz(yaw)·Ry(pitch)·Rx(roll).
Eigen::Matrix3d rotation(const Angles& angles);
/// The Angles of a rotation matrix; pitch within ±90°.
Angles anglesOf(const Eigen::Matrix3d& rotation);

/// How a body came to be where it is.
enum class Standing {
    Found,   ///< as the survey found it
    Added,   ///< made or bought for the swap
    Variant, ///< an alternative to another body
    Removed, ///< taken out: it fouls nothing and is not drawn in the bay
};

/// What may be done to a body to make room. Nothing ticked and not `never`: not decided yet.
struct May {
    bool be_cut = false;
    bool be_moved = false;
    bool be_removed = false;
    bool never = false; ///< decided: it stays as it is
};

/// How something came to be known.
enum class Method { NotSaid, Measured, Scanned, Assumed };
/// How the suspension stood while it was measured: what hangs on it moves with it.
enum class Suspension { NotSaid, RideHeight, BumpStop, Droop, OnStands };

/// How a mass is known: what it is off by at most goes by it.
enum class MassFrom { NotSaid, Weighed, Catalogue, Estimated };

/// What belongs to a measurement besides its figures.
struct Provenance {
    Method method = Method::NotSaid;
    Suspension suspension = Suspension::NotSaid;
    std::string blocks; ///< what stood under it: "50 mm under each spring"
    std::string date;   ///< ISO 8601
    std::string who;
    std::string picture;        ///< in the project's folder of files ("name.files/"), relative to it
    std::string picture_sha256; ///< of its content when it was taken in; empty: not known
};

/// One figure read off a tape, a square or a gauge.
struct Reading {
    std::string what; ///< which one, as its way of taking asks: "front", "top", "width"
    int station = 0;  ///< from 1; 0: of the whole
    /// A place along the owner's axis from where the tape is hooked, or a size.
    double mm = 0;
    std::optional<double> accuracy_mm;
    Provenance measured{};
    std::string note{};
    Extras extras{};
};

/// The readings that a body or a point is made from: it follows them (tape.h).
struct Tape {
    std::string way;   ///< one of tapeWays(); empty: not bound to readings
    PointId hook;      ///< the owner's point that places are read from; empty: its axes and its datum
    BodyId of;         ///< of the way "mirror": the other side
    std::string entry; ///< the first survey's thing that it answers; may be empty
    std::vector<Reading> readings;
    Extras extras;

    bool bound() const { return !way.empty(); }
};

struct Body {
    BodyId id;
    std::string name;
    std::string category; ///< one of the rule book's categories
    ShapeSpec shape;
    Eigen::Vector3d position_mm{0, 0, 0}; ///< of the shape's origin in the owner's frame
    Angles angles;
    Eigen::Vector3d shift_mm{0, 0, 0}; ///< how far it was moved from where it was found, owner's frame
    Standing standing = Standing::Found;
    May may;
    bool shielded = false;             ///< heat rows use their shielded figure
    bool closing = false;              ///< a panel that closes the bay: while it is off no gap is believed
    bool off = false;                  ///< taken off for the moment: it fouls nothing and is not drawn
    std::string option;                ///< "sump/rear": stands only while that option is taken; empty: always
    std::optional<double> accuracy_mm; ///< of its surfaces; missing = not known
    Provenance measured;
    std::optional<double> mass_kg;
    MassFrom mass_from = MassFrom::NotSaid;
    std::string note;
    Tape tape;
    Extras extras;

    /// True when it no longer stands where it was found.
    bool moved() const { return shift_mm.squaredNorm() > 0; }
    /// Moved, added or variant: checked against every other body, not only against the donor.
    bool loose() const { return moved() || standing == Standing::Added || standing == Standing::Variant; }
    bool present() const { return standing != Standing::Removed && !off; }
    /// Maps the body's own frame to its owner's.
    Eigen::Isometry3d poseOwnerBody() const;

    GABARIT_ONCE_DECLARED(Body);
};

/// A named point that disciplines hang on: tape hook, mount pad, flange, pick-up, sling eye.
/// What is there to know the vehicle by, and is drawn so that it hides nothing: wheels, bonnet, cab, bed, seats.
inline bool drawnQuietly(const std::string& category) {
    return category == "wheel" || category == "bonnet" || category == "outline";
}

struct HardPoint {
    PointId id;
    std::string name;
    std::string role; ///< "front_mount", "gearbox_mount", "output_flange", "sling", "shift_lever", … open list
    Eigen::Vector3d at_mm{0, 0, 0};
    std::optional<Eigen::Vector3d> size_mm; ///< of an opening, along the owner's axes
    std::optional<double> accuracy_mm;
    std::string option; ///< as Body::option
    Extras extras;
    Provenance measured{};
    Tape tape{};
};

/// A bolt, plug or filter that must be reached with a tool while the unit is in: a straight cylinder for socket and
/// extension stands on its head.
struct ServicedBolt {
    std::string id;
    std::string name;
    Eigen::Vector3d at_mm{0, 0, 0};    ///< the head's face, owner's frame
    Eigen::Vector3d along{0, 0, 1};    ///< out of the head, any length above zero
    std::optional<double> socket_mm;   ///< outside diameter of the socket
    std::optional<double> accuracy_mm; ///< of its place
    BodyId in;                         ///< the body it sits in, which cannot block it; empty: none
    Extras extras;
    /// How far `in` has to come along `along` until it is off: filter, dipstick, starter, a belt off its pulley.
    std::optional<double> pull_mm{};
    /// How much must be free before it, where that is not a usual tool's length: a long socket, a dipstick's blade.
    std::optional<double> length_mm{};
};

/// One form of something that can be had in several.
struct Option {
    std::string id;
    std::string name;
    std::string note;
    Extras extras;
};

/// Something that can be had in several forms: sump, manifold, pump, gearbox. The first is the one it came with.
struct Choice {
    std::string id;
    std::string name;
    std::vector<Option> options;
    Extras extras;
};

} // namespace gabarit::model
