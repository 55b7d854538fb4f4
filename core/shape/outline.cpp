#include "shape/outline.h"

#include <polyclipping/clipper.hpp>

#include <cmath>
#include <cstdint>
#include <unordered_map>

namespace gabarit::shape {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

constexpr double clipper_scale = 1e4;      // integer grain of 0.1 µm
constexpr double clean_distance_mm = 2e-3; // far below a line's width on any paper
constexpr double touching_mm = 2e-3;       // pieces that lie on one another leave grains between them
constexpr double sharpest_mitre = 10;

ClipperLib::IntPoint toInt(const Vector2d& p) {
    return {static_cast<ClipperLib::cInt>(std::llround(p.x() * clipper_scale)),
            static_cast<ClipperLib::cInt>(std::llround(p.y() * clipper_scale))};
}

Outline fromPaths(ClipperLib::Paths paths) {
    ClipperLib::CleanPolygons(paths, clean_distance_mm * clipper_scale);
    Outline out;
    for (const ClipperLib::Path& path : paths) {
        if (path.size() < 3) continue;
        std::vector<Vector2d> ring;
        ring.reserve(path.size());
        for (const ClipperLib::IntPoint& p : path)
            ring.emplace_back(static_cast<double>(p.X) / clipper_scale, static_cast<double>(p.Y) / clipper_scale);
        out.rings.push_back(std::move(ring));
    }
    return out;
}

/// Directed edges; one and its opposite cancel.
class EdgeSum {
public:
    void add(int from, int to) {
        if (from == to) return;
        const bool forward = from < to;
        const std::uint64_t key =
            (static_cast<std::uint64_t>(forward ? from : to) << 32) | static_cast<std::uint32_t>(forward ? to : from);
        count_[key] += forward ? 1 : -1;
    }

    /// Closed loops through the edges that are left.
    std::vector<std::vector<int>> loops() const {
        std::unordered_multimap<int, int> next;
        for (const auto& [key, count] : count_) {
            const int low = static_cast<int>(key >> 32), high = static_cast<int>(key & 0xffffffffu);
            for (int i = 0; i < count; ++i) next.emplace(low, high);
            for (int i = 0; i < -count; ++i) next.emplace(high, low);
        }
        std::vector<std::vector<int>> out;
        while (!next.empty()) {
            std::vector<int> loop;
            const int start = next.begin()->first;
            int at = start;
            for (;;) {
                const auto step = next.find(at);
                if (step == next.end()) break; // an open mesh: the loop closes straight
                loop.push_back(at);
                at = step->second;
                next.erase(step);
                if (at == start) break;
            }
            if (loop.size() >= 3) out.push_back(std::move(loop));
        }
        return out;
    }

private:
    std::unordered_map<std::uint64_t, int> count_;
};

/// Slits no wider than twice what counts as touching are closed; corners stay where they are.
ClipperLib::Paths withoutSlits(const ClipperLib::Paths& paths) {
    const auto grown = [](const ClipperLib::Paths& from, double by_mm) {
        ClipperLib::ClipperOffset offset(sharpest_mitre);
        offset.AddPaths(from, ClipperLib::jtMiter, ClipperLib::etClosedPolygon);
        ClipperLib::Paths to;
        offset.Execute(to, by_mm * clipper_scale);
        return to;
    };
    return grown(grown(paths, touching_mm), -touching_mm);
}

class Projector {
public:
    Projector(const Mesh& mesh, const Eigen::Isometry3d& pose, const Viewpoint& view) : mesh_(mesh) {
        Eigen::Matrix3d axes;
        axes.row(0) = view.right;
        axes.row(1) = view.up;
        axes.row(2) = view.towards_viewer();
        const Eigen::Matrix3d turn = axes * pose.linear();
        const Vector3d shift = axes * pose.translation();
        seen_.reserve(mesh.points.size());
        for (const Vector3d& p : mesh.points) seen_.push_back(turn * p + shift);
    }

    Outline outline(std::optional<double> level, bool withFronts, bool withCut) {
        for (const Triangle& t : mesh_.triangles) {
            polygon_.assign(t.corner.begin(), t.corner.end());
            int cutFrom = -1, cutTo = -1;
            if (level && !clip(*level, cutFrom, cutTo)) continue;
            if (withCut && cutFrom >= 0) edges_.add(cutTo, cutFrom); // the lid faces the viewer
            if (withFronts && facesViewer()) {
                for (std::size_t i = 0; i < polygon_.size(); ++i)
                    edges_.add(polygon_[i], polygon_[(i + 1) % polygon_.size()]);
            }
        }
        ClipperLib::Paths paths;
        for (const auto& loop : edges_.loops()) {
            ClipperLib::Path path;
            for (const int i : loop) path.push_back(toInt(seen_[static_cast<std::size_t>(i)].head<2>()));
            paths.push_back(std::move(path));
        }
        ClipperLib::Clipper clipper;
        clipper.AddPaths(paths, ClipperLib::ptSubject, true);
        ClipperLib::Paths united;
        clipper.Execute(ClipperLib::ctUnion, united, ClipperLib::pftPositive, ClipperLib::pftPositive);
        return fromPaths(withFronts ? std::move(united) : withoutSlits(united));
    }

private:
    const Vector3d& at(int i) const { return seen_[static_cast<std::size_t>(i)]; }

    bool facesViewer() const {
        double twice = 0;
        for (std::size_t i = 0; i < polygon_.size(); ++i) {
            const Vector3d& p = at(polygon_[i]);
            const Vector3d& q = at(polygon_[(i + 1) % polygon_.size()]);
            twice += p.x() * q.y() - p.y() * q.x();
        }
        return twice > 0;
    }

    /// Keeps what lies at or behind the level; says where the cut runs (in the triangle's sense). False: nothing left.
    bool clip(double level, int& cutFrom, int& cutTo) {
        kept_.clear();
        int leave = -1, enter = -1;
        for (std::size_t i = 0; i < polygon_.size(); ++i) {
            const int a = polygon_[i], b = polygon_[(i + 1) % polygon_.size()];
            const bool aIn = at(a).z() <= level, bIn = at(b).z() <= level;
            if (aIn) kept_.push_back(a);
            if (aIn == bIn) continue;
            const int c = crossing(a, b, level);
            kept_.push_back(c);
            (aIn ? leave : enter) = c;
        }
        if (kept_.empty()) return false;
        if (leave >= 0 && enter >= 0) cutFrom = leave, cutTo = enter;
        polygon_ = kept_;
        return true;
    }

    int crossing(int a, int b, double level) {
        if (a > b) std::swap(a, b);
        const std::uint64_t key = (static_cast<std::uint64_t>(a) << 32) | static_cast<std::uint32_t>(b);
        const auto found = crossings_.find(key);
        if (found != crossings_.end()) return found->second;
        const Vector3d p = at(a), q = at(b);
        seen_.push_back(p + (q - p) * ((level - p.z()) / (q.z() - p.z())));
        const int made = static_cast<int>(seen_.size()) - 1;
        crossings_.emplace(key, made);
        return made;
    }

    const Mesh& mesh_;
    std::vector<Vector3d> seen_; // right, up, towards the viewer
    std::vector<int> polygon_, kept_;
    std::unordered_map<std::uint64_t, int> crossings_;
    EdgeSum edges_;
};

} // namespace

double Outline::area_mm2() const {
    double twice = 0;
    for (const auto& ring : rings)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vector2d& p = ring[i];
            const Vector2d& q = ring[(i + 1) % ring.size()];
            twice += p.x() * q.y() - p.y() * q.x();
        }
    return twice / 2;
}

Eigen::AlignedBox2d Outline::bounds() const {
    Eigen::AlignedBox2d box;
    for (const auto& ring : rings)
        for (const Vector2d& p : ring) box.extend(p);
    return box;
}

Outline silhouette(const Mesh& mesh, const Eigen::Isometry3d& pose, const Viewpoint& view,
                   std::optional<double> slice_level_mm) {
    return Projector(mesh, pose, view).outline(slice_level_mm, true, true);
}

Outline cutFace(const Mesh& mesh, const Eigen::Isometry3d& pose, const Viewpoint& view, double slice_level_mm) {
    return Projector(mesh, pose, view).outline(slice_level_mm, false, true);
}

} // namespace gabarit::shape
