#include "proximity/nearest.h"

#include "linear/linear.h"

#include <algorithm>

namespace gabarit::proximity {

using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

/// Triangles that lie about in one face make a leaf; the box of those round an edge would hold what is far from them.
bool isFlat(const TriangleTree::Box& box) {
    constexpr double flat = 0.25; // thickness to width
    double sides[] = {box.half[0], box.half[1], box.half[2]};
    std::sort(std::begin(sides), std::end(sides));
    return sides[0] <= flat * sides[1];
}

} // namespace
using kernel::width;

TriangleTree::TriangleTree(const shape::Mesh& mesh) : mesh_(mesh) {
    const int count = static_cast<int>(mesh.triangles.size());
    order_.resize(mesh.triangles.size());
    middles_.reserve(mesh.triangles.size());
    for (int i = 0; i < count; ++i) {
        order_[static_cast<std::size_t>(i)] = i;
        const shape::Triangle& t = mesh.triangles[static_cast<std::size_t>(i)];
        Vector3d sum = Vector3d::Zero();
        for (const int corner : t.corner) sum += mesh.points[static_cast<std::size_t>(corner)];
        middles_.push_back(sum / 3);
    }
    if (count > 0) root_ = build(0, count, box_);
    order_ = {};
    middles_ = {};
}

TriangleTree::Box TriangleTree::boxAround(int first, int last) const {
    Vector3d mean = Vector3d::Zero();
    Matrix3d spread = Matrix3d::Zero();
    double weight = 0;
    const auto each = [&](auto use) {
        for (int i = first; i < last; ++i)
            for (const int corner :
                 mesh_.triangles[static_cast<std::size_t>(order_[static_cast<std::size_t>(i)])].corner)
                use(mesh_.points[static_cast<std::size_t>(corner)]);
    };
    each([&](const Vector3d& p) { mean += p, weight += 1; });
    mean /= weight;
    each([&](const Vector3d& p) { spread += (p - mean) * (p - mean).transpose(); });
    // Of the spread's axes and the mesh's own those that make the smaller box.
    const auto around = [&](const Matrix3d& axes) {
        Eigen::AlignedBox3d box;
        each([&](const Vector3d& p) { box.extend(Vector3d(axes.transpose() * p)); });
        return box;
    };
    Matrix3d axes = linear::eigenpairs(linear::Small(spread)).vectors;
    Eigen::AlignedBox3d box = around(axes);
    const auto size = [](const Eigen::AlignedBox3d& b) {
        const Vector3d s = b.sizes();
        return s.x() * s.y() + s.y() * s.z() + s.z() * s.x();
    };
    if (const Eigen::AlignedBox3d plain = around(Matrix3d::Identity()); !axes.allFinite() || size(plain) <= size(box)) {
        axes = Matrix3d::Identity();
        box = plain;
    }
    Box out;
    const Vector3d centre = axes * box.center();
    for (int i = 0; i < 9; ++i) out.axis[i] = axes(i % 3, i / 3);
    for (int i = 0; i < 3; ++i) {
        out.centre[i] = centre[i];
        constexpr double rounding = 1e-12; // of the turned coordinates
        out.half[i] = box.sizes()[i] / 2 + rounding * (1 + box.sizes()[i] + mean.norm());
    }
    return out;
}

/// In two halves along the box's longest side.
void TriangleTree::split(int first, int last, const Box& box, int& middle) {
    const int longest = static_cast<int>(std::max_element(box.half, box.half + 3) - box.half);
    const Vector3d along(box.axis[3 * longest], box.axis[3 * longest + 1], box.axis[3 * longest + 2]);
    middle = first + (last - first + 1) / 2;
    std::nth_element(order_.begin() + first, order_.begin() + middle, order_.begin() + last, [&](int i, int j) {
        return along.dot(middles_[static_cast<std::size_t>(i)]) < along.dot(middles_[static_cast<std::size_t>(j)]);
    });
}

int TriangleTree::build(int first, int last, Box& box) {
    box = boxAround(first, last);
    const int count = last - first;
    if (count == 1 || (count <= width && isFlat(box))) {
        Leaf leaf{};
        leaf.count = count;
        for (int k = 0; k < width; ++k) {
            const int id = order_[static_cast<std::size_t>(first + std::min(k, count - 1))];
            leaf.triangle[k] = id;
            for (int c = 0; c < 3; ++c)
                for (int x = 0; x < 3; ++x)
                    leaf.corner[3 * c + x][k] = mesh_.points[static_cast<std::size_t>(
                        mesh_.triangles[static_cast<std::size_t>(id)].corner[static_cast<std::size_t>(c)])][x];
        }
        leaves_.push_back(leaf);
        return ~static_cast<int>(leaves_.size() - 1);
    }
    int bounds[width + 1] = {first, 0, 0, 0, last};
    split(first, last, box, bounds[2]);
    int parts = 0;
    int starts[width + 1];
    for (int half = 0; half < 2; ++half) {
        const int from = bounds[2 * half], to = bounds[2 * half + 2];
        starts[parts++] = from;
        if (to - from <= width) continue;
        int middle = 0;
        split(from, to, boxAround(from, to), middle);
        starts[parts++] = middle;
    }
    starts[parts] = last;
    const int index = static_cast<int>(nodes_.size());
    nodes_.push_back(Node{});
    for (int k = 0; k < parts; ++k) {
        Box child;
        const int what = build(starts[k], starts[k + 1], child); // nodes_ may move
        Node& node = nodes_[static_cast<std::size_t>(index)];
        node.child[k] = what;
        node.count = parts;
        for (int i = 0; i < 9; ++i) node.axis[i][k] = child.axis[i];
        for (int i = 0; i < 3; ++i) node.centre[i][k] = child.centre[i], node.half[i][k] = child.half[i];
    }
    Node& node = nodes_[static_cast<std::size_t>(index)];
    for (int k = parts; k < width; ++k) { // never looked at, but read
        node.child[k] = 0;
        for (int i = 0; i < 9; ++i) node.axis[i][k] = node.axis[i][0];
        for (int i = 0; i < 3; ++i) node.centre[i][k] = node.centre[i][0], node.half[i][k] = node.half[i][0];
    }
    return index;
}

} // namespace gabarit::proximity
