#include "relief/section.h"

#include <algorithm>
#include <cmath>

namespace gabarit::relief {
namespace {

using Eigen::Vector2d;
using Ring = std::vector<Vector2d>;

constexpr double no_length_mm = 1e-6, least_across = 1e-9;
constexpr double wall_step_mm = 2;   // a wall's thickness is looked at so often
constexpr double sharpest_rad = 2.4; // a sharper corner's middle line is not followed to its tip

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

/// From a point on a ring into the metal: how far to the metal's other side. 0 when there is none.
double wallAt(const Vector2d& from, const Vector2d& way, const std::vector<const Ring*>& rings) {
    double nearest = 0;
    for (const Ring* ring : rings)
        for (std::size_t i = 0; i < ring->size(); ++i) {
            const Vector2d &a = (*ring)[i], run = (*ring)[(i + 1) % ring->size()] - a, to = a - from;
            const double across = way.x() * run.y() - way.y() * run.x();
            if (std::abs(across) < least_across) continue; // along it
            const double far = (to.x() * run.y() - to.y() * run.x()) / across;
            const double share = (to.x() * way.y() - to.y() * way.x()) / across;
            if (far > no_length_mm && share >= 0 && share <= 1 && (nearest == 0 || far < nearest)) nearest = far;
        }
    return nearest;
}

/// Bredt of one cell: 4·A²/∮ds/t along the middle of its walls, each wall as thick as it is there.
double cellTorsion(const Ring& hole, const std::vector<const Ring*>& rings) {
    struct Side {
        Vector2d along;
        double first_mm = 0, last_mm = 0; ///< wall at its ends
    };
    std::vector<Side> sides;
    double room = -area(hole), flow = 0; // A, ∮ds/t
    for (std::size_t i = 0; i < hole.size(); ++i) {
        const Vector2d &p = hole[i], run = hole[(i + 1) % hole.size()] - p;
        const double length = run.norm();
        if (length < no_length_mm) continue;
        Side side{run / length};
        const Vector2d into(-side.along.y(), side.along.x()); // holes run clockwise: the metal is on their left
        const int steps = std::max(1, static_cast<int>(std::ceil(length / wall_step_mm)));
        for (int k = 0; k < steps; ++k) {
            const double wall = wallAt(p + run * (k + 0.5) / steps, into, rings);
            if (wall <= 0) return 0;
            flow += length / steps / wall;
            room += length / steps * wall / 2;
            if (k == 0) side.first_mm = wall;
            side.last_mm = wall;
        }
        sides.push_back(side);
    }
    // Round a corner the middle of each wall reaches half the other wall farther.
    for (std::size_t i = 0; i < sides.size(); ++i) {
        const Side &one = sides[i], &next = sides[(i + 1) % sides.size()];
        const double turn =
            std::atan2(one.along.y() * next.along.x() - one.along.x() * next.along.y(), one.along.dot(next.along));
        const double tangent = std::tan(std::clamp(turn, -sharpest_rad, sharpest_rad) / 2);
        flow += tangent / 2 * (next.first_mm / one.last_mm + one.last_mm / next.first_mm);
        room += tangent / 4 * one.last_mm * next.first_mm;
    }
    return flow > 0 && room > 0 ? 4 * room * room / flow : 0;
}

/// What one piece with its holes resists twisting by.
double torsion(const Ring& outer, const std::vector<const Ring*>& holes) {
    double metal = area(outer), line = girth(outer);
    for (const Ring* hole : holes) metal += area(*hole), line += girth(*hole);
    if (metal <= 0 || line <= 0) return 0;
    if (holes.empty()) {
        const double wall = 2 * metal / line; // both faces of every wall are in `line`
        return metal * wall * wall / 3;
    }
    std::vector<const Ring*> rings = holes;
    rings.push_back(&outer);
    double sum = 0;
    for (const Ring* hole : holes) sum += cellTorsion(*hole, rings);
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
