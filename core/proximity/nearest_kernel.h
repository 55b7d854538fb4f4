// What the search for the nearest triangles works on: plain numbers side by side. Internal to the room. It is compiled
// twice, for processors with 256-bit vectors and for all others: no code of any library may come in here.
#pragma once

namespace gabarit::proximity::kernel {

constexpr int width = 4; ///< triangles of a leaf, children of a node

/// A box with its axes; in the mesh's frame.
struct Box {
    double axis[9]; ///< by columns: the box's x, y, z
    double centre[3];
    double half[3];
};
/// Up to four boxes side by side, each with what it holds.
struct alignas(32) Node {
    double axis[9][width];
    double centre[3][width];
    double half[3][width];
    int child[width]; ///< a node; below zero a leaf, ~child
    int count;
};
/// Up to four triangles side by side; what is missing repeats the last.
struct alignas(32) Leaf {
    double corner[9][width]; ///< x, y, z of the first corner, then of the second, the third
    int triangle[width];     ///< in the mesh
    int count;
};
struct Tree {
    const Node* nodes;
    const Leaf* leaves;
    Box box;
    int root; ///< a node, or ~leaf when there are four triangles or fewer
};
/// From one frame to another: columns of the turn, and the way.
struct Pose {
    double turn[9];
    double way[3];
};
/// The best so far, and what beat it.
struct Found {
    double best2; ///< squared distance
    int a;        ///< triangles; −1: none was nearer
    int b;
    bool meets;      ///< the surfaces cut each other
    bool only_meets; ///< nothing else is asked
};

/// Finds a nearer pair of triangles than `found` has, if there is one, or that the surfaces cut each other.
void searchPlain(const Tree& a, const Tree& b, const Pose& pose_a_b, Found& found);
/// The same for processors with AVX2 and FMA.
void searchWide(const Tree& a, const Tree& b, const Pose& pose_a_b, Found& found);

} // namespace gabarit::proximity::kernel
