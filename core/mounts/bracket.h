// Brackets and towers: metal between a face and an isolator, what it weighs and what it bears.
#pragma once

#include "model/project.h"
#include "model/rules.h"
#include "mounts/section/mounts.h"
#include "quantity/result.h"

namespace gabarit::mounts {

struct MountsReport;

enum class Which { Bracket, Tower };
/// "bracket" (from the pad on the unit) or "tower" (from the stand on the vehicle).
const char* word(Which which);
/// The mount's own; null when it has none.
const model::Bracket* bracketOf(const model::Mount& mount, Which which);

/// Between what it reaches, in the frame of the face's owner.
struct BracketEnds {
    std::string owner;
    Eigen::Isometry3d pose_vehicle_owner = Eigen::Isometry3d::Identity();
    Eigen::Vector3d face_mm{0, 0, 0};                        ///< the face's point
    Eigen::Matrix3d face_axes = Eigen::Matrix3d::Identity(); ///< columns: its mark, to the left of it, out of the metal
    std::vector<Eigen::Vector2d> holes_mm;
    std::optional<double> thread_mm;
    Eigen::Vector3d seat_mm{0, 0, 0};  ///< middle of the isolator's end
    Eigen::Vector3d seat_out{0, 0, 1}; ///< away from the isolator
    std::optional<double> isolator_mm; ///< its diameter
};
/// Errors: no isolator of a known height is chosen, no stand for a tower, a point or donor that is not there.
Result<BracketEnds> bracketEnds(const model::Project& project, const model::RuleBook& book, const model::Mount& mount,
                                Which which);

/// One piece as it is cut, owner's frame.
struct Piece {
    std::string name; ///< "face plate", "arm", "seat plate", "gusset"
    model::ShapeSpec shape;
    Eigen::Isometry3d pose_owner = Eigen::Isometry3d::Identity();
    double mass_kg = 0; ///< with the bore of a tube left out of it
    double cut_mm = 0;  ///< length to cut, along its middle; of a plate its longer side
};
/// Thin-walled section of the arm: what bends and twists it is the least favourable way round.
struct ArmSection {
    double area_mm2 = 0;
    double bending_mm3 = 0; ///< section modulus
    double torsion_mm3 = 0; ///< torque over shear stress
    double wall_mm = 0;
};
struct BracketMade {
    BracketEnds ends;
    std::vector<Piece> pieces;
    std::vector<Eigen::Vector3d> path_mm; ///< of the arm's middle, owner's frame, its root first
    ArmSection section;
    bool welded = true; ///< a flat plate is not
    double gusset_mm = 0;
    double throat_mm = 0;
    double yield_mpa = 0;
    double mass_kg = 0;
};
/// Errors: a flat plate whose isolator does not sit on its upper side, pieces that cannot be made.
Result<BracketMade> makeBracket(const BracketEnds& ends, const model::Bracket& bracket, const model::RuleBook& book);

struct BracketStress {
    double axial_mpa = 0;
    double bending_mpa = 0;
    double shear_mpa = 0;           ///< across and twisting
    double together_mpa = 0;        ///< √((σ_axial + σ_bending)² + 3τ²), von Mises
    double weld_mpa = 0;            ///< resultant in its throat, EN 1993-1-8, 4.5.3.3
    Eigen::Vector3d at_mm{0, 0, 0}; ///< where the arm bears most, owner's frame
};
/// Elastic, thin-walled: a cantilever from its face with the force at the isolator's end (owner's frame, N). The arm is
/// looked at where its gussets end and at each corner, the weld at the face. Left out: buckling, fatigue, the plates'
/// own bending, what the metal beneath bears, help of the gussets to the weld.
BracketStress stressOf(const BracketMade& made, const Eigen::Vector3d& force_n);

/// What a bracket comes to on the vehicle.
struct BracketReport {
    std::string mount;
    Which which = Which::Bracket;
    std::string reason; ///< why it cannot be made; empty: it can
    std::optional<BracketMade> made;
    std::optional<double> off_mm; ///< of its bodies, how far they are from where they would be made now
    std::optional<double> factor; ///< yield over stress, at the worst load
    std::optional<double> weld_factor;
    std::string worst_case;
    BracketStress stress; ///< then
};
/// Adds the brackets and their checks to a report that has its mounts and cases.
void judgeBrackets(const model::Project& project, const model::RuleBook& book, MountsReport& report);

} // namespace gabarit::mounts
