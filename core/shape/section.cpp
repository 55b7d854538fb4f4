#include "shape/section.h"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>

namespace gabarit::shape {

using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

std::vector<Vector2d> rectangle(double width, double height) {
    const double u = width / 2, v = height / 2;
    return {{-u, -v}, {u, -v}, {u, v}, {-u, v}};
}

constexpr int circle_sides = 360; // 0.002 mm off on a tube of 100 mm

std::vector<Vector2d> circle(double radius) {
    std::vector<Vector2d> points;
    for (int i = 0; i < circle_sides; ++i) {
        const double turn = 2 * EIGEN_PI * i / circle_sides;
        points.emplace_back(radius * std::cos(turn), radius * std::sin(turn));
    }
    return points;
}

struct Outliner {
    SectionOutline operator()(const model::RectTubeSection& s) const {
        return {rectangle(s.width_mm, s.height_mm),
                {rectangle(s.width_mm - 2 * s.wall_mm, s.height_mm - 2 * s.wall_mm)}};
    }
    SectionOutline operator()(const model::CSection& s) const {
        const double u = s.width_mm / 2, v = s.height_mm / 2, t = s.wall_mm;
        return {{{-u, -v}, {u, -v}, {u, -v + t}, {-u + t, -v + t}, {-u + t, v - t}, {u, v - t}, {u, v}, {-u, v}}, {}};
    }
    SectionOutline operator()(const model::RoundTubeSection& s) const {
        return {circle(s.diameter_mm / 2), {circle(s.diameter_mm / 2 - s.wall_mm)}};
    }
    SectionOutline operator()(const model::PolygonSection& s) const { return {s.points_mm, {}}; }
};

} // namespace

SectionOutline outlineOf(const model::Section& section) { return std::visit(Outliner{}, section); }

std::vector<Vector2d> thickened(const std::vector<Vector2d>& line, double thickness_mm) {
    std::vector<Vector2d> normals;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Vector2d along = (line[i + 1] - line[i]).normalized();
        normals.emplace_back(-along.y(), along.x());
    }
    std::vector<Vector2d> outline = line;
    for (std::size_t k = line.size(); k-- > 0;) {
        Vector2d offset;
        if (k == 0)
            offset = normals.front();
        else if (k + 1 == line.size())
            offset = normals.back();
        else {
            // The mitre: the point at one thickness from both sides.
            const Vector2d sum = normals[k - 1] + normals[k];
            offset = sum * (2 / std::max(sum.squaredNorm(), 1e-9));
        }
        outline.push_back(line[k] + thickness_mm * offset);
    }
    return outline;
}

bool isSimple(const std::vector<Vector2d>& outline) {
    const std::size_t n = outline.size();
    const auto side = [](const Vector2d& a, const Vector2d& b, const Vector2d& p) { return cross(b - a, p - a); };
    for (std::size_t i = 0; i < n; ++i) {
        const Vector2d& a = outline[i];
        const Vector2d& b = outline[(i + 1) % n];
        if ((b - a).norm() < 1e-9) return false;
        for (std::size_t j = i + 1; j < n; ++j) {
            if (j == i || (j + 1) % n == i || j == (i + 1) % n) continue;
            const Vector2d& c = outline[j];
            const Vector2d& d = outline[(j + 1) % n];
            const double s1 = side(a, b, c), s2 = side(a, b, d), s3 = side(c, d, a), s4 = side(c, d, b);
            if (((s1 > 0) != (s2 > 0)) && ((s3 > 0) != (s4 > 0))) return false;
        }
    }
    return n >= 3;
}

} // namespace gabarit::shape
