// Solids from what a tape measured, by Open CASCADE; meshes from solids at a stated deflection.
#pragma once

#include "model/shape_spec.h"
#include "quantity/result.h"
#include "shape/mesh.h"

#include <memory>

namespace gabarit::shape {

/// Chordal deflection that meshes are made with unless asked otherwise, mm. Part of a gap's stated accuracy.
constexpr double default_deflection_mm = 0.1;

/// A closed solid in the body's own frame. Cheap to copy, shared read-only between threads.
class Solid {
public:
    struct Hidden;
    explicit Solid(std::shared_ptr<const Hidden> hidden) : hidden_(std::move(hidden)) {}
    const Hidden& hidden() const { return *hidden_; }

private:
    std::shared_ptr<const Hidden> hidden_;
};

/// Errors say which measurement makes the shape impossible: a bend radius that does not fit between two corners, an
/// outline that crosses itself, a sheet thicker than its folds allow.
Result<Solid> makeSolid(const model::ShapeSpec& spec);

struct MeshedSolid {
    Mesh mesh;                ///< closed, outward, body frame
    double deflection_mm = 0; ///< how far its curved faces may lie from the mesh; 0 when all faces are flat
};

/// Meshes within `deflection_mm`, or within 2e-5 of the body's size where that is more; the result says which.
Result<MeshedSolid> makeMesh(const Solid& solid, double deflection_mm = default_deflection_mm);

/// Volume by exact integration over the solid, mm³.
double volume_mm3(const Solid& solid);

/// The mesh of what two solids have in common, in the frame the poses lead to; empty when they have nothing.
Result<Mesh> commonMesh(const Solid& a, const Eigen::Isometry3d& pose_a, const Solid& b,
                        const Eigen::Isometry3d& pose_b);

} // namespace gabarit::shape
