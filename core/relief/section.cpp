#include "relief/section.h"

#include <algorithm>
#include <cmath>

namespace gabarit::relief {
namespace {

using Eigen::Vector2d;
using Ring = std::vector<Vector2d>;

double area(const Ring& ring) {
    double twice = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vector2d &p = ring[i], &q = ring[(i + 1) % ring.size()];
        twice += p.x() * q.y() - q.x() * p.y();
    }
    return twice / 2;
}

double girth(const Ring& ring) {
    double sum = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) sum += (ring[(i + 1) % ring.size()] - ring[i]).norm();
    return sum;
}

bool inside(const Ring& ring, const Vector2d& p) {
    bool in = false;
    for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
        if ((ring[i].y() > p.y()) != (ring[j].y() > p.y()) &&
            p.x() < (ring[j].x() - ring[i].x()) * (p.y() - ring[i].y()) / (ring[j].y() - ring[i].y()) + ring[i].x())
            in = !in;
    return in;
}

/// What one piece with its holes resists twisting by.
double torsion(const Ring& outer, const std::vector<const Ring*>& holes) {
    double metal = area(outer), line = girth(outer);
    for (const Ring* hole : holes) metal += area(*hole), line += girth(*hole);
    if (metal <= 0 || line <= 0) return 0;
    const double wall = 2 * metal / line; // both faces of every wall are in `line`
    if (holes.empty()) return metal * wall * wall / 3;
    double sum = 0;
    for (const Ring* hole : holes) {
        const double round = girth(*hole) + 4 * wall;                        // along the middle of the wall
        const double cell = -area(*hole) + (girth(*hole) / 2 + wall) * wall; // within it
        sum += 4 * cell * cell * wall / round;
    }
    return sum;
}

} // namespace

Section sectionOf(const shape::Outline& outline) {
    Section out;
    Vector2d first = Vector2d::Zero();
    double xx = 0, yy = 0, xy = 0;
    Eigen::AlignedBox2d box;
    for (const Ring& ring : outline.rings)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vector2d &p = ring[i], &q = ring[(i + 1) % ring.size()];
            const double c = p.x() * q.y() - q.x() * p.y();
            out.area_mm2 += c / 2;
            first += (p + q) * c / 6;
            xx += (p.x() * p.x() + p.x() * q.x() + q.x() * q.x()) * c / 12;
            yy += (p.y() * p.y() + p.y() * q.y() + q.y() * q.y()) * c / 12;
            xy += (2 * p.x() * p.y() + p.x() * q.y() + q.x() * p.y() + 2 * q.x() * q.y()) * c / 24;
            box.extend(p);
        }
    if (!(out.area_mm2 > 0)) return Section();
    out.centre_mm = first / out.area_mm2;
    const Vector2d& m = out.centre_mm;
    out.upright_mm4 = yy - out.area_mm2 * m.y() * m.y();
    out.sideways_mm4 = xx - out.area_mm2 * m.x() * m.x();
    out.product_mm4 = xy - out.area_mm2 * m.x() * m.y();
    out.top_mm3 = out.upright_mm4 / (box.max().y() - m.y());
    out.bottom_mm3 = out.upright_mm4 / (m.y() - box.min().y());
    out.right_mm3 = out.sideways_mm4 / (box.max().x() - m.x());
    out.left_mm3 = out.sideways_mm4 / (m.x() - box.min().x());
    for (const Ring& ring : outline.rings) {
        if (area(ring) <= 0) continue;
        ++out.pieces;
        std::vector<const Ring*> holes;
        for (const Ring& hole : outline.rings)
            if (area(hole) < 0 && inside(ring, hole.front())) holes.push_back(&hole);
        if (!holes.empty()) out.closed = true;
        out.torsion_mm4 += torsion(ring, holes);
    }
    return out;
}

} // namespace gabarit::relief
