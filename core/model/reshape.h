// Changing a body by hand: its extents, one face of them moved, and its mirror image.
#pragma once

#include "model/body.h"
#include "quantity/result.h"

namespace gabarit::model {

/// The box round a shape, along the body's own axes, mm. Tight but for slanted profiles and sheets, where it may be
/// larger by their section or thickness.
Eigen::AlignedBox3d extents_mm(const ShapeSpec& shape);

/// The body with one face of its extents moved along its own axis by `by_mm` (positive: along the axis) while the
/// opposite face stays: as when an edge is dragged in an elevation. Round bodies change their diameter. Error when the
/// shape has no such measure (a slanted section), or would become thinner than a millimetre.
Result<Body> withFaceMoved(const Body& body, Axis axis, bool high, double by_mm);

/// What a body is measured as.
enum class ShapeKind { Box, Cylinder, Sphere, Tube, RectTube, RoundTube, CProfile, PolygonProfile, Plate, Sheet };

ShapeKind kindOf(const ShapeSpec& shape);
/// The body measured as something else that fills the same extents as far as it can: long things lie along the longest
/// of them, a sheet becomes a tunnel open downwards.
Body withKind(const Body& body, ShapeKind kind);

/// The body's mirror image in its owner's plane y = 0, with the same id and name.
Body mirrored(const Body& body);

/// The name of a mirrored body: left for right and right for left where the word stands in it, else " (mirrored)".
std::string mirroredName(const std::string& name);

} // namespace gabarit::model
