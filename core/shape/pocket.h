// A body with pockets cut into it and closed again, and the plates that close them.
#pragma once

#include "relief/section/relief.h"
#include "shape/solid.h"

namespace gabarit::shape {

/// One stretch of a plate along its length: flat, or bent about a line across it.
struct PlateStretch {
    bool bend = false;
    double length_mm = 0; ///< flat: along it
    double turn_rad = 0;  ///< bent: by so much, towards the free room
    double inside_mm = 0; ///< bent: radius of its inner face
    /// Of the inner face: along it (flat: mm; bent: radians of the turn) and across. Counter-clockwise.
    std::vector<Eigen::Vector2d> outline;
    /// Of its beginning, body frame: origin on the inner face, columns along, across, and through the thickness.
    Eigen::Isometry3d pose_body = Eigen::Isometry3d::Identity();
    bool trimmed = false; ///< its edges lean: cut a little long and trimmed to fit
};
/// One piece of plate, or a length of tube split lengthways.
struct PocketPlate {
    enum class Kind { Strip, Cheek, HalfTube, Strap, Formed, Tray };
    Kind kind = Kind::Strip;
    std::string name; ///< "bottom and ends", "cheek", "half tube", "recess", "folded tray"
    double thickness_mm = 0;
    std::vector<PlateStretch> stretches; ///< of a recess or tray one: its bottom, with the free room's outline
    double depth_mm = 0;                 ///< of a recess; of a tray from its bottom to the end of its highest wall
};

/// A body in which a pocket was made.
struct PocketMade {
    Solid cut;    ///< without what was taken out, not closed
    Solid closed; ///< with its plates
    std::vector<PocketPlate> plates;
    /// Columns: its length, across, into; origin in the middle of its mouth. Body frame.
    Eigen::Isometry3d pose_body = Eigen::Isometry3d::Identity();
    double cut_volume_mm3 = 0;   ///< of metal taken out
    double plate_volume_mm3 = 0; ///< of metal put in
    /// Of what is cut out, seen across: (along, into), from one end of its mouth over the bottom to the other. In a
    /// sheet: (along, across), round its outline.
    std::vector<Eigen::Vector2d> cut_outline_mm;
    double cut_from_mm = 0, cut_to_mm = 0; ///< across; in a sheet 0 and its depth
    bool in_sheet = false;
};

/// What `body`, made from `spec`, becomes with one pocket more. Errors say what makes it impossible, and the mend: the
/// body is not hollow as modelled, the pocket does not meet it, runs beyond its end, lies inside the metal, its bends
/// do not fit, or it would cut the body in two.
Result<PocketMade> pocketed(const model::ShapeSpec& spec, const Solid& body, const model::Pocket& pocket);
/// With all pockets, in their order. An impossible one is an error that names it.
Result<Solid> pocketed(const model::ShapeSpec& spec, const std::vector<model::Pocket>& pockets);

/// The convex outline of a body that is one section drawn out, in a pocket's frame (across, into), and where the body
/// begins and ends along it.
struct BeamHull {
    std::vector<Eigen::Vector2d> outline; ///< counter-clockwise
    double from_mm = 0, to_mm = 0;
};
/// Error when the body is no profile, or does not run along the pocket's length.
Result<BeamHull> beamHull(const model::ShapeSpec& spec, const Eigen::Isometry3d& pose_body_pocket);
/// Whether pockets in this shape are recesses of a sheet.
bool isSheet(const model::ShapeSpec& spec);

/// A pocket's frame from its place and directions: columns its length, across, into.
Eigen::Isometry3d pocketPose(const model::Pocket& pocket);

} // namespace gabarit::shape
