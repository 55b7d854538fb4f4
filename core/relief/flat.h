// Plates as they are cut: flat, with their bends marked.
#pragma once

#include "model/rules.h"
#include "quantity/result.h"
#include "relief/section/relief.h"
#include "shape/pocket.h"

namespace gabarit::relief {

/// A line to bend along, in the flat.
struct BendLine {
    Eigen::Vector2d from_mm{0, 0}, to_mm{0, 0}; ///< middle of the bend
    double width_mm = 0;                        ///< of the bend's zone in the flat: its allowance
    double angle_deg = 0;                       ///< from flat
    double inside_mm = 0;
};
struct FlatHole {
    std::string name;
    Eigen::Vector2d at_mm{0, 0};
    double diameter_mm = 0;
    bool tapped = false;
};
/// A line to scribe, not to cut, with what is written there.
struct MarkLine {
    Eigen::Vector2d from_mm{0, 0}, to_mm{0, 0};
    std::string words;
};

/// One piece to cut. Drawn with the side up that it is bent towards.
struct FlatPattern {
    std::string name; ///< "Front crossmember pocket: bottom and ends"
    std::string material;
    double thickness_mm = 0;
    int count = 1;
    std::string up;                      ///< which side is up: "inside of the pocket"
    std::vector<Eigen::Vector2d> cut_mm; ///< its outline, counter-clockwise
    std::vector<FlatHole> holes;
    std::vector<BendLine> bends;
    std::vector<MarkLine> marks;
    std::vector<std::string> notes;
    bool member = false; ///< no piece: what is cut out of the member, wrapped round it

    Eigen::AlignedBox2d bounds() const;
    double area_mm2() const;
};

/// Length of a bend in the flat: angle · (inside radius + k · thickness).
double bendAllowance_mm(double angle_rad, double inside_mm, double thickness_mm, double k_share);

/// The book's sheet of that id; the first for an empty one. Null when there is none.
const model::SheetStock* sheetOf(const model::RuleBook& book, const std::string& id);

/// What is cut out of the member, to lay on it or wrap round it: its outer faces laid flat side by side, the edges
/// between them marked; wider than the plates by the weld gap. Of a sheet the mouth. Seen from outside.
FlatPattern cutLineOf(const model::Pocket& pocket, const shape::PocketMade& made, const model::ShapeSpec& spec,
                      const model::RuleBook& book);

/// The patterns of a pocket's plates, in the order in which they are closed: bottom first, then cheeks, then straps. A
/// strip with more bends than the book allows in one piece, or with a flange too short for the tool, comes as flats to
/// be welded. Errors: no such sheet.
Result<std::vector<FlatPattern>> patternsOf(const model::Pocket& pocket, const shape::PocketMade& made,
                                            const std::vector<model::KeptHole>& holes, const model::RuleBook& book);

} // namespace gabarit::relief
