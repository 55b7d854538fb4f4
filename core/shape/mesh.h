// Triangles with shared corners.
#pragma once

#include <Eigen/Geometry>

#include <array>
#include <vector>

namespace gabarit::shape {

struct Triangle {
    std::array<int, 3> corner{0, 0, 0};
};

/// Closed, outward-facing (counter-clockwise seen from outside) unless said otherwise. Coordinates in mm, in the frame
/// its holder says.
struct Mesh {
    std::vector<Eigen::Vector3d> points;
    std::vector<Triangle> triangles;
};

Eigen::AlignedBox3d boundsOf(const Mesh& mesh);
/// Bounds of a box after a move, around its eight corners.
Eigen::AlignedBox3d moved(const Eigen::AlignedBox3d& box, const Eigen::Isometry3d& pose);

/// Enclosed volume (mm³) by the divergence theorem; negative when turned inside out.
double volume_mm3(const Mesh& mesh);

/// Joins corners that lie within `grain_mm` of each other and drops triangles that thereby lose their area.
Mesh welded(const Mesh& mesh, double grain_mm);

/// Every edge is used once in each direction: no hole, no flap.
bool isClosed(const Mesh& mesh);

/// One corner of each connected piece.
std::vector<Eigen::Vector3d> onePointPerPiece(const Mesh& mesh);

/// True when the point lies inside the closed mesh, by the generalised winding number (sum of solid angles > 2π).
bool contains(const Mesh& mesh, const Eigen::Vector3d& point);

} // namespace gabarit::shape
