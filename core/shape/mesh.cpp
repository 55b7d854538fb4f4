#include "shape/mesh.h"

#include <cmath>
#include <cstdint>
#include <numeric>
#include <set>
#include <unordered_map>

namespace gabarit::shape {

using Eigen::Vector3d;

Eigen::AlignedBox3d boundsOf(const Mesh& mesh) {
    Eigen::AlignedBox3d box;
    for (const Vector3d& p : mesh.points) box.extend(p);
    return box;
}

Eigen::AlignedBox3d moved(const Eigen::AlignedBox3d& box, const Eigen::Isometry3d& pose) {
    Eigen::AlignedBox3d out;
    if (box.isEmpty()) return out;
    const Vector3d centre = pose * box.center();
    const Vector3d half = pose.linear().cwiseAbs() * (box.sizes() / 2);
    out.extend(centre - half);
    out.extend(centre + half);
    return out;
}

double volume_mm3(const Mesh& mesh) {
    double six = 0;
    for (const Triangle& t : mesh.triangles)
        six += mesh.points[t.corner[0]].dot(mesh.points[t.corner[1]].cross(mesh.points[t.corner[2]]));
    return six / 6;
}

Mesh welded(const Mesh& mesh, double grain_mm) {
    struct Cell {
        std::int64_t x, y, z;
        bool operator==(const Cell& o) const { return x == o.x && y == o.y && z == o.z; }
    };
    struct Hash {
        std::size_t operator()(const Cell& c) const {
            return static_cast<std::size_t>(c.x * 73856093LL ^ c.y * 19349663LL ^ c.z * 83492791LL);
        }
    };
    std::unordered_map<Cell, int, Hash> first;
    first.reserve(mesh.points.size());
    Mesh out;
    std::vector<int> name(mesh.points.size());
    for (std::size_t i = 0; i < mesh.points.size(); ++i) {
        const Vector3d scaled = mesh.points[i] / grain_mm;
        const Cell cell{std::llround(scaled.x()), std::llround(scaled.y()), std::llround(scaled.z())};
        // A point near a cell's edge may have its twin in the next cell: look around.
        int found = -1;
        for (int dx = -1; dx <= 1 && found < 0; ++dx)
            for (int dy = -1; dy <= 1 && found < 0; ++dy)
                for (int dz = -1; dz <= 1 && found < 0; ++dz) {
                    const auto at = first.find(Cell{cell.x + dx, cell.y + dy, cell.z + dz});
                    if (at != first.end() && (out.points[at->second] - mesh.points[i]).norm() <= grain_mm)
                        found = at->second;
                }
        if (found < 0) {
            found = static_cast<int>(out.points.size());
            out.points.push_back(mesh.points[i]);
            first.emplace(cell, found);
        }
        name[i] = found;
    }
    for (const Triangle& t : mesh.triangles) {
        const Triangle n{{name[t.corner[0]], name[t.corner[1]], name[t.corner[2]]}};
        if (n.corner[0] != n.corner[1] && n.corner[1] != n.corner[2] && n.corner[2] != n.corner[0])
            out.triangles.push_back(n);
    }
    return out;
}

bool isClosed(const Mesh& mesh) {
    std::set<std::pair<int, int>> edges;
    for (const Triangle& t : mesh.triangles)
        for (int i = 0; i < 3; ++i)
            if (!edges.emplace(t.corner[i], t.corner[(i + 1) % 3]).second) return false;
    for (const auto& edge : edges)
        if (!edges.count({edge.second, edge.first})) return false;
    return !edges.empty();
}

std::vector<Vector3d> onePointPerPiece(const Mesh& mesh) {
    std::vector<int> parent(mesh.points.size());
    std::iota(parent.begin(), parent.end(), 0);
    const auto root = [&parent](int i) {
        while (parent[i] != i) i = parent[i] = parent[parent[i]];
        return i;
    };
    for (const Triangle& t : mesh.triangles) {
        parent[root(t.corner[1])] = root(t.corner[0]);
        parent[root(t.corner[2])] = root(t.corner[0]);
    }
    std::set<int> seen;
    std::vector<Vector3d> out;
    for (const Triangle& t : mesh.triangles)
        if (seen.insert(root(t.corner[0])).second) out.push_back(mesh.points[t.corner[0]]);
    return out;
}

bool contains(const Mesh& mesh, const Vector3d& point) {
    // Van Oosterom and Strackee 1983: the solid angle of a triangle.
    double half_angles = 0;
    for (const Triangle& t : mesh.triangles) {
        const Vector3d a = mesh.points[t.corner[0]] - point;
        const Vector3d b = mesh.points[t.corner[1]] - point;
        const Vector3d c = mesh.points[t.corner[2]] - point;
        const double la = a.norm(), lb = b.norm(), lc = c.norm();
        half_angles += std::atan2(a.dot(b.cross(c)), la * lb * lc + a.dot(b) * lc + b.dot(c) * la + c.dot(a) * lb);
    }
    return std::abs(half_angles) > 3.14159265358979; // inside sums to 2π in half angles, outside to 0
}

} // namespace gabarit::shape
