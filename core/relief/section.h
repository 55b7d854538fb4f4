// What a cross-section bears with: areas and moments of an outline.
#pragma once

#include "shape/outline.h"

namespace gabarit::relief {

/// Of one cross-section, axes (side, up) of its drawing, about its own centre of area.
struct Section {
    double area_mm2 = 0;
    Eigen::Vector2d centre_mm{0, 0};
    double upright_mm4 = 0;  ///< second moment against bending up and down: ∫(up − centre)²
    double sideways_mm4 = 0; ///< ∫(side − centre)²
    double product_mm4 = 0;  ///< ∫(side − centre)(up − centre)
    double top_mm3 = 0;      ///< section moduli: second moment over the distance of the outermost metal
    double bottom_mm3 = 0;
    double left_mm3 = 0;
    double right_mm3 = 0;
    bool closed = false; ///< it has a cell: it resists twisting as a tube does
    /// Against twisting. Closed: Bredt's 4·A²/∮ds/t of each cell; open: Σ A·t²/3 of thin strips, mean wall.
    double torsion_mm4 = 0;
    int pieces = 0; ///< that do not hang together in this section

    bool empty() const { return !(area_mm2 > 0); }
};

/// By Green's theorem over the rings (outer ones counter-clockwise, holes clockwise): exact for polygons.
Section sectionOf(const shape::Outline& outline);

} // namespace gabarit::relief
