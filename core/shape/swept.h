// What a body sweeps as it turns all the way round an axis.
#pragma once

#include "shape/mesh.h"

namespace gabarit::shape {

/// Closed solid of revolution about the axis through a and b that holds the mesh at every angle of turning. It is made
/// of slices along the axis, each as wide as what lies in it and beside it, so it is never too small; it is too large
/// by less than `slop_mm` round about (flats of its polygon) and by one slice's slope along the axis.
struct Swept {
    Mesh mesh;
    double slop_mm = 0;
};
Swept sweptRound(const Mesh& mesh, const Eigen::Vector3d& a, const Eigen::Vector3d& b);

} // namespace gabarit::shape
