// Tube ends cut to fit what they sit on, and the templates that wrap round them.
#pragma once

#include "relief/flat.h"
#include "relief/section/relief.h"

namespace gabarit::relief {

/// The cut round one end of a tube.
struct EndCut {
    /// By turn round the tube's axis (equal steps, the first at its mark): how far the metal reaches along the axis,
    /// from the end's middle (the other tube's axis, the plate's face); negative: it stops before.
    std::vector<double> reach_mm;
    double longest_mm = 0, shortest_mm = 0;
};

/// A tube's end on another tube, a plate or cut square. The cut is where the wall first meets the other surface: on a
/// round tube its inner edge, which leaves a groove for the weld outside. Frame: the tube's axis z towards what it is
/// cut to, x to its mark on top; the other tube's axis leans from x by `angle_deg`, and passes at `offset_mm` along y.
/// Errors: the offset leaves part of the wall beside the other tube.
Result<EndCut> endCut(double diameter_mm, double wall_mm, const model::TubeEnd& end, int steps = 360);

/// A tube with both its ends cut.
struct TubeMade {
    EndCut first, second;
    double long_points_mm = 0; ///< from one end's outermost point to the other's: what is sawn off the bar
    double short_points_mm = 0;
    double turn_deg = 0;                 ///< second end against the first, about the axis
    FlatPattern first_wrap, second_wrap; ///< templates wrapped round its outside
    double mass_kg = 0;                  ///< of the length between the points where the axis meets
};
Result<TubeMade> makeTube(const model::CutTube& tube, const model::RuleBook& book);

/// Lengths sawn from bars: first the longest, each into the first bar it fits in.
struct Bar {
    std::vector<std::pair<std::string, double>> pieces; ///< name and length
    double left_mm = 0;
    double diameter_mm = 0, wall_mm = 0; ///< of the tube, where that is known; of a rectangular one its width
    double height_mm = 0;                ///< of a rectangular tube; 0: it is round
};
/// Errors: a piece longer than a bar.
Result<std::vector<Bar>> nested(std::vector<std::pair<std::string, double>> pieces, double bar_mm, double kerf_mm);

} // namespace gabarit::relief
