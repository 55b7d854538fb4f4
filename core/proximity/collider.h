// A body made ready for distance questions.
#pragma once

#include "shape/solid.h"

#include <memory>
#include <vector>

namespace gabarit::proximity {

/// The mesh of one body with its tree of boxes. Built once per shape, shared read-only between threads.
class Collider {
public:
    /// `deflection_mm`: how far the true surface may lie from the mesh. The mesh is in the body's frame.
    Collider(shape::Mesh mesh, double deflection_mm);
    ~Collider();
    Collider(const Collider&) = delete;
    Collider& operator=(const Collider&) = delete;

    const shape::Mesh& mesh() const { return mesh_; }
    double deflection_mm() const { return deflection_mm_; }
    const Eigen::AlignedBox3d& bounds() const { return bounds_; }
    /// One surface point of each connected piece, for finding one body wholly inside another.
    const std::vector<Eigen::Vector3d>& pieces() const { return pieces_; }

    struct Tree;
    const Tree& tree() const { return *tree_; }

private:
    shape::Mesh mesh_;
    double deflection_mm_;
    Eigen::AlignedBox3d bounds_;
    std::vector<Eigen::Vector3d> pieces_;
    std::unique_ptr<Tree> tree_;
};

} // namespace gabarit::proximity
