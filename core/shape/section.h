// Plane sections as closed outlines.
#pragma once

#include "model/shape_spec.h"

#include <vector>

namespace gabarit::shape {

/// Outer outline and holes of a section in (u, v), mm, without repeating the first point.
struct SectionOutline {
    std::vector<Eigen::Vector2d> outer;
    std::vector<std::vector<Eigen::Vector2d>> holes;
};

/// z of a × b.
inline double cross(const Eigen::Vector2d& a, const Eigen::Vector2d& b) { return a.x() * b.y() - a.y() * b.x(); }

SectionOutline outlineOf(const model::Section& section);

using model::sectionAxes;

/// An open line thickened on the left of its direction: the closed outline, line first, offset line back.
std::vector<Eigen::Vector2d> thickened(const std::vector<Eigen::Vector2d>& line_mm, double thickness_mm);

/// True when no two sides of the closed outline cross or touch but at shared corners.
bool isSimple(const std::vector<Eigen::Vector2d>& outline);

} // namespace gabarit::shape
