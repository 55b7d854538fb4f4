// How far two bodies' surfaces are apart, many triangles at a time.
#pragma once

#include "proximity/nearest_kernel.h"
#include "shape/mesh.h"

#include <limits>
#include <optional>
#include <vector>

namespace gabarit::proximity {

/// Triangles of a mesh, four by four, under oriented boxes. Read-only once built; shared between threads.
class TriangleTree {
public:
    explicit TriangleTree(const shape::Mesh& mesh);

    using Box = kernel::Box;
    using Node = kernel::Node;
    using Leaf = kernel::Leaf;

    kernel::Tree view() const { return {nodes_.data(), leaves_.data(), box_, root_}; }
    bool empty() const { return leaves_.empty(); }
    const shape::Mesh& mesh() const { return mesh_; }

private:
    int build(int first, int last, Box& box);
    Box boxAround(int first, int last) const;
    void split(int first, int last, const Box& box, int& middle);

    const shape::Mesh& mesh_;
    std::vector<Node> nodes_;
    std::vector<Leaf> leaves_;
    std::vector<int> order_; ///< of triangles while it is built
    std::vector<Eigen::Vector3d> middles_;
    Box box_{};
    int root_ = 0;
};

/// Two triangles that were nearest a moment ago.
struct Witness {
    int a = -1;
    int b = -1;
};

struct Nearest {
    bool meets = false; ///< the surfaces cut each other: nothing else is told
    double distance_mm = 0;
    Eigen::Vector3d point_a{0, 0, 0}; ///< in the frame both poses lead to
    Eigen::Vector3d point_b{0, 0, 0};
    Witness witness;
};

/// The least distance of two surfaces up to a range (exact in double precision), or that they cut. Nothing when they
/// are farther apart. A `seed` of a neighbouring pose makes it quicker and changes nothing.
///
/// A pair of oriented boxes is left out when it is farther apart than what was found: the larger of the distances that
/// one has in the other's axes bounds it from below. Of two triangles the distance is the least between their edges and
/// between corners and faces (Larsen, Gottschalk, Lin and Manocha 1999); a cut is an edge through a face.
std::optional<Nearest> nearest(const TriangleTree& a, const Eigen::Isometry3d& pose_a, const TriangleTree& b,
                               const Eigen::Isometry3d& pose_b, double range_mm, const Witness& seed = {});

/// Whether two surfaces cut each other: an edge of one goes through a face of the other, or ends in it. Faces that only
/// lie on each other do not.
bool cut(const TriangleTree& a, const Eigen::Isometry3d& pose_a, const TriangleTree& b,
         const Eigen::Isometry3d& pose_b);

} // namespace gabarit::proximity
