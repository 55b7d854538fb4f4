// Bodies as a tape measure gives them: a few lengths each, in the body's own frame.
#pragma once

#include <Eigen/Core>

#include <string>
#include <variant>
#include <vector>

namespace gabarit::model {

/// Centred on the body's origin; sizes along x, y, z.
struct BoxSpec {
    Eigen::Vector3d size_mm{0, 0, 0};
};

/// Round bar between two points, flat ends square to its axis.
struct CylinderSpec {
    Eigen::Vector3d from_mm{0, 0, 0};
    Eigen::Vector3d to_mm{0, 0, 0};
    double diameter_mm = 0;
};

/// Centred on the body's origin.
struct SphereSpec {
    double diameter_mm = 0;
};

/// Pipe, hose or bent tube: outside diameter along a polyline whose inner corners are rounded with the
/// centreline radius `bend_radius_mm`. The bore is not modelled.
struct TubeSpec {
    std::vector<Eigen::Vector3d> path_mm;
    double diameter_mm = 0;
    double bend_radius_mm = 0;
};

/// Rectangular tube: outside width (u) and height (v), wall.
struct RectTubeSection {
    double width_mm = 0;
    double height_mm = 0;
    double wall_mm = 0;
};

/// C-section: web `height_mm` high, flanges `width_mm` wide, open towards +u, centred on its outer rectangle.
struct CSection {
    double width_mm = 0;
    double height_mm = 0;
    double wall_mm = 0;
};

/// Round tube: outside diameter, wall.
struct RoundTubeSection {
    double diameter_mm = 0;
    double wall_mm = 0;
};

/// Any closed polygon in (u, v), filled.
struct PolygonSection {
    std::vector<Eigen::Vector2d> points_mm;
};

using Section = std::variant<RectTubeSection, CSection, PolygonSection, RoundTubeSection>;

/// A section drawn out from one point to another. v points as near to +Z as the direction allows (to +X for a
/// vertical one), u = v × direction (so a profile running rearward has u to the right); `roll_deg` turns the
/// section about its direction.
struct ProfileSpec {
    Section section;
    Eigen::Vector3d from_mm{0, 0, 0};
    Eigen::Vector3d to_mm{0, 0, 0};
    double roll_deg = 0;
};

/// Flat plate: outline in the body's x-y plane, thickness from z = 0 upwards.
struct PlateSpec {
    std::vector<Eigen::Vector2d> outline_mm;
    double thickness_mm = 0;
};

enum class Axis { X, Y, Z };

/// One cross-section of a sheet: an open line in the two other axes (y-z, x-z or x-y).
struct SheetStation {
    double at_mm = 0;
    std::vector<Eigen::Vector2d> points_mm;
};

/// Tunnel, firewall, wheel arch: open sections at stations along an axis, joined by straight lines, with the
/// metal laid on the left of the line's direction (first axis to the right, second up) as `thickness_mm`.
/// Every station has the same number of points. Never a filled block: what lies under a tunnel is free.
struct SheetSpec {
    Axis along = Axis::X;
    std::vector<SheetStation> stations;
    double thickness_mm = 0;
};

using ShapeSpec = std::variant<BoxSpec, CylinderSpec, SphereSpec, TubeSpec, ProfileSpec, PlateSpec, SheetSpec>;

/// The axes u and v of a profile drawn along `direction` (unit), after ProfileSpec's rule, before its roll.
void sectionAxes(const Eigen::Vector3d& direction, Eigen::Vector3d& u, Eigen::Vector3d& v);

/// Equal for equal shapes and different for different ones: what shape caches are keyed by.
std::string shapeKey(const ShapeSpec& shape);

} // namespace gabarit::model
