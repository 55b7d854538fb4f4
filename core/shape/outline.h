// True outlines of meshes seen from a side: what an elevation draws.
#pragma once

#include "shape/mesh.h"

#include <optional>

namespace gabarit::shape {

/// Two unit axes of the drawing, vehicle frame; the viewer looks against right × up.
struct Viewpoint {
    Eigen::Vector3d right;
    Eigen::Vector3d up;
    Eigen::Vector3d towards_viewer() const { return right.cross(up); }
};

/// Rings in drawing coordinates (right, up), mm. Outer rings run counter-clockwise, holes clockwise.
struct Outline {
    std::vector<std::vector<Eigen::Vector2d>> rings;

    bool empty() const { return rings.empty(); }
    double area_mm2() const;
    Eigen::AlignedBox2d bounds() const;
};

/// The region that the mesh covers in the drawing. With `slice_level_mm`, what stands nearer to the viewer than that
/// level (along right × up) is cut away first, and the cut faces count.
///
/// The boundary of all triangles that face the viewer is a set of closed loops whose winding number is the number of
/// such triangles over each point: the region is where it is positive. Holds for any closed mesh.
Outline silhouette(const Mesh& mesh, const Eigen::Isometry3d& pose, const Viewpoint& view,
                   std::optional<double> slice_level_mm = std::nullopt);

/// The faces that the slice cuts open; empty when the plane misses the mesh.
Outline cutFace(const Mesh& mesh, const Eigen::Isometry3d& pose, const Viewpoint& view, double slice_level_mm);

} // namespace gabarit::shape
