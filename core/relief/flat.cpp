#include "relief/flat.h"

#include "quantity/quantity.h"
#include "shape/section.h"

#include <algorithm>
#include <cmath>

namespace gabarit::relief {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using quantity::deg_per_rad;
using shape::PlateStretch;
using shape::PocketPlate;
using Kind = shape::PocketPlate::Kind;

constexpr double nothing_mm = 1e-6;
constexpr double edge_step_mm = 1;       // round a body
constexpr double edge_over_mm = 15;      // an edge is marked a little beyond the cut
constexpr std::size_t edges_marked = 12; // a rounder body has none

/// The lower and upper edge of an outline that is one stretch long, both from its beginning.
void edges(const std::vector<Vector2d>& outline, std::vector<Vector2d>& low, std::vector<Vector2d>& high) {
    const auto before = [](const Vector2d& a, const Vector2d& b) {
        return std::abs(a.x() - b.x()) > nothing_mm ? a.x() < b.x() : a.y() < b.y();
    };
    std::size_t first = 0, last = 0;
    for (std::size_t i = 1; i < outline.size(); ++i) {
        if (before(outline[i], outline[first])) first = i;
        const bool farther = std::abs(outline[i].x() - outline[last].x()) > nothing_mm
                                 ? outline[i].x() > outline[last].x()
                                 : outline[i].y() < outline[last].y();
        if (farther) last = i;
    }
    low.clear();
    high.clear();
    for (std::size_t i = first; i != last; i = (i + 1) % outline.size()) low.push_back(outline[i]);
    low.push_back(outline[last]);
    for (std::size_t i = (last + 1) % outline.size(); i != first; i = (i + 1) % outline.size())
        high.push_back(outline[i]);
    if (high.empty() || high.back().x() > outline[first].x() + nothing_mm) high.push_back(outline[first]);
    std::reverse(high.begin(), high.end());
}

void append(std::vector<Vector2d>& to, const std::vector<Vector2d>& points) {
    for (const Vector2d& p : points)
        if (to.empty() || (to.back() - p).norm() > nothing_mm) to.push_back(p);
}

/// Points on straight lines taken out.
std::vector<Vector2d> straightened(const std::vector<Vector2d>& outline) {
    std::vector<Vector2d> out;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2d& p = outline[i];
        const Vector2d before = out.empty() ? outline.back() : out.back(), after = outline[(i + 1) % outline.size()];
        const Vector2d a = p - before, b = after - p;
        if (a.norm() < nothing_mm) continue;
        if (std::abs(a.x() * b.y() - a.y() * b.x()) < nothing_mm * (a.norm() + b.norm()) && a.dot(b) > 0) continue;
        out.push_back(p);
    }
    return out;
}

/// How long a stretch is in the flat.
double flatLength(const PlateStretch& s, double thickness, double k) {
    return s.bend ? bendAllowance_mm(s.turn_rad, s.inside_mm, thickness, k) : s.length_mm;
}

/// Stretches first … last laid flat one after the other.
FlatPattern laidFlat(const std::vector<PlateStretch>& stretches, double thickness, double k) {
    FlatPattern out;
    out.thickness_mm = thickness;
    std::vector<Vector2d> low, high;
    double at = 0;
    for (const PlateStretch& s : stretches) {
        const double length = flatLength(s, thickness, k), scale = s.bend ? length / s.turn_rad : 1;
        std::vector<Vector2d> here = s.outline, a, b;
        for (Vector2d& p : here) p.x() = at + p.x() * scale;
        edges(here, a, b);
        if (s.bend) {
            const auto [least, most] = std::minmax_element(
                here.begin(), here.end(), [](const Vector2d& p, const Vector2d& q) { return p.y() < q.y(); });
            const double x = at + length / 2;
            out.bends.push_back({{x, least->y()}, {x, most->y()}, length, s.turn_rad * deg_per_rad, s.inside_mm});
        }
        append(low, a);
        append(high, b);
        at += length;
    }
    out.cut_mm = low;
    std::reverse(high.begin(), high.end());
    append(out.cut_mm, high);
    out.cut_mm = straightened(out.cut_mm);
    return out;
}

PlateStretch part(const PlateStretch& s, double from, double to) {
    PlateStretch out = s;
    out.length_mm = to - from;
    out.outline.clear();
    std::vector<Vector2d> low, high;
    edges(s.outline, low, high);
    const auto at = [](const std::vector<Vector2d>& line, double x) {
        for (std::size_t i = 1; i < line.size(); ++i)
            if (line[i].x() >= x && line[i].x() > line[i - 1].x())
                return line[i - 1].y() +
                       (line[i].y() - line[i - 1].y()) * (x - line[i - 1].x()) / (line[i].x() - line[i - 1].x());
        return line.back().y();
    };
    const auto piece = [&](const std::vector<Vector2d>& line) {
        std::vector<Vector2d> points{{0, at(line, from)}};
        for (const Vector2d& p : line)
            if (p.x() > from && p.x() < to) points.emplace_back(p.x() - from, p.y());
        points.emplace_back(to - from, at(line, to));
        return points;
    };
    out.outline = piece(low);
    auto upper = piece(high);
    std::reverse(upper.begin(), upper.end());
    out.outline.insert(out.outline.end(), upper.begin(), upper.end());
    out.pose_body = s.pose_body * Eigen::Translation3d(from, 0, 0);
    return out;
}

/// Strips of at most so many bends each, parted in the middle of the flat between two of them.
std::vector<std::vector<PlateStretch>> parted(const std::vector<PlateStretch>& all, int most) {
    std::vector<std::vector<PlateStretch>> out(1);
    int bends = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const PlateStretch& s = all[i];
        const bool more = i + 1 < all.size() && all[i + 1].bend;
        if (!s.bend && bends >= most && more) {
            out.back().push_back(part(s, 0, s.length_mm / 2));
            out.push_back({part(s, s.length_mm / 2, s.length_mm)});
            bends = 0;
            continue;
        }
        bends += s.bend ? 1 : 0;
        out.back().push_back(s);
    }
    return out;
}

/// A tray's blank: its bottom in the middle, a wall bent up from each side. Where two bends would meet the corner is
/// cut out, `relief_mm` beyond where they begin.
FlatPattern trayInTheFlat(const PocketPlate& plate, double k, double relief_mm) {
    const PlateStretch& bottom = plate.stretches.front();
    Eigen::AlignedBox2d box;
    for (const Vector2d& p : bottom.outline) box.extend(p);
    const double r = bottom.inside_mm, wall = std::max(0.0, plate.depth_mm - r);
    const double bend = bendAllowance_mm(EIGEN_PI / 2, r, plate.thickness_mm, k);
    const Vector2d half = box.sizes() / 2, flat = half - Vector2d(r, r);
    const Vector2d notch = (flat - Vector2d(relief_mm, relief_mm)).cwiseMax(Vector2d(0, 0));
    FlatPattern out;
    out.thickness_mm = plate.thickness_mm;
    // One corner, from the wall beyond the end to the wall beyond the side; the others mirror it.
    const std::vector<Vector2d> corner{{flat.x() + bend + wall, half.y()}, {flat.x() + bend, half.y()},
                                       {flat.x() + bend, notch.y()},       {notch.x(), notch.y()},
                                       {notch.x(), flat.y() + bend},       {half.x(), flat.y() + bend},
                                       {half.x(), flat.y() + bend + wall}};
    for (int which = 0; which < 4; ++which) {
        const Vector2d sign(which == 0 || which == 3 ? 1 : -1, which < 2 ? 1 : -1);
        for (std::size_t i = 0; i < corner.size(); ++i) {
            const Vector2d& p = corner[which % 2 == 0 ? i : corner.size() - 1 - i];
            out.cut_mm.emplace_back(p.cwiseProduct(sign) + box.center());
        }
    }
    const double degrees = 90, across = flat.x() + bend / 2, along = flat.y() + bend / 2;
    for (const double side : {-1.0, 1.0}) {
        out.bends.push_back({box.center() + Vector2d(side * across, -notch.y()),
                             box.center() + Vector2d(side * across, notch.y()), bend, degrees, r});
        out.bends.push_back({box.center() + Vector2d(-notch.x(), side * along),
                             box.center() + Vector2d(notch.x(), side * along), bend, degrees, r});
    }
    return out;
}

std::string sized(double mm) { return quantity::fixed(mm, 1) + " mm"; }

} // namespace

Eigen::AlignedBox2d FlatPattern::bounds() const {
    Eigen::AlignedBox2d box;
    for (const Vector2d& p : cut_mm) box.extend(p);
    return box;
}

double FlatPattern::area_mm2() const {
    double twice = 0;
    for (std::size_t i = 0; i < cut_mm.size(); ++i) {
        const Vector2d &p = cut_mm[i], &q = cut_mm[(i + 1) % cut_mm.size()];
        twice += p.x() * q.y() - p.y() * q.x();
    }
    return twice / 2;
}

double bendAllowance_mm(double angle_rad, double inside_mm, double thickness_mm, double k_share) {
    return angle_rad * (inside_mm + k_share * thickness_mm);
}

const model::SheetStock* sheetOf(const model::RuleBook& book, const std::string& id) {
    if (id.empty()) return book.sheets.empty() ? nullptr : &book.sheets.front();
    const auto found = std::find_if(book.sheets.begin(), book.sheets.end(),
                                    [&id](const model::SheetStock& sheet) { return sheet.id == id; });
    return found == book.sheets.end() ? nullptr : &*found;
}

Result<std::vector<FlatPattern>> patternsOf(const model::Pocket& pocket, const shape::PocketMade& made,
                                            const std::vector<model::KeptHole>& holes, const model::RuleBook& book) {
    const model::SheetStock* sheet = sheetOf(book, pocket.material);
    if (!sheet)
        return Error{"the book has no sheet \"" + pocket.material + "\"", "pocket \"" + pocket.name + "\", material",
                     "choose one of the book's"};
    const int most = std::max(1, static_cast<int>(book.figure("bends_per_piece")));
    const double least_flange = book.figure("flange_least_thicknesses");
    std::vector<FlatPattern> out;
    int order = 0;
    const auto add = [&](FlatPattern pattern, const std::string& name, double thickness, const std::string& up) {
        pattern.name = pocket.name + ": " + name;
        pattern.material = sheet->name;
        pattern.thickness_mm = thickness;
        pattern.up = up;
        pattern.notes.insert(pattern.notes.begin(), "closed as number " + std::to_string(++order));
        out.push_back(std::move(pattern));
    };
    // A hole that was cut out comes again in the flat that lies below it.
    const auto keepHoles = [&](FlatPattern& pattern, const std::vector<PlateStretch>& stretches, double thickness) {
        for (const model::KeptHole& hole : holes) {
            if (hole.body != pocket.body || hole.kind == model::KeptKind::Seam || hole.diameter_mm <= 0) continue;
            double at = 0;
            for (const PlateStretch& s : stretches) {
                const double length = flatLength(s, thickness, sheet->k_share);
                const Vector3d local = s.pose_body.inverse() * hole.at_mm;
                Eigen::AlignedBox2d box;
                for (const Vector2d& p : s.outline) box.extend(p);
                const bool below = std::abs(s.pose_body.linear().col(2).dot(made.pose_body.linear().col(2))) > 0.9;
                if (!s.bend && below && local.z() < 0 && box.contains(Vector2d(local.x(), local.y()))) {
                    pattern.holes.push_back({hole.name, {at + local.x(), local.y()}, hole.diameter_mm, false});
                    pattern.notes.push_back(hole.name + " as it was: drill after bending");
                }
                at += length;
            }
        }
    };
    for (const PocketPlate& plate : made.plates) {
        const double t = plate.thickness_mm;
        switch (plate.kind) {
        case Kind::Strip: {
            const auto pieces = parted(plate.stretches, most);
            for (std::size_t i = 0; i < pieces.size(); ++i) {
                FlatPattern pattern = laidFlat(pieces[i], t, sheet->k_share);
                keepHoles(pattern, pieces[i], t);
                for (const PlateStretch& s : pieces[i]) {
                    if (s.bend && s.inside_mm < sheet->inside_thicknesses * t - nothing_mm)
                        pattern.notes.push_back("bent with " + sized(s.inside_mm) + " inside: the material wants " +
                                                sized(sheet->inside_thicknesses * t));
                    if (!s.bend && s.length_mm < least_flange * t && pieces[i].size() > 1)
                        pattern.notes.push_back("a flange of " + sized(s.length_mm) +
                                                " is too short for the tool: bend it longer (" +
                                                sized(least_flange * t) + ") and cut it back");
                    if (s.trimmed) pattern.notes.push_back("edges follow the body: trim to fit");
                }
                if (pieces.size() > 1) pattern.notes.push_back("seam across the middle of the bottom");
                add(std::move(pattern), plate.name + (pieces.size() > 1 ? ", piece " + std::to_string(i + 1) : ""), t,
                    "inside of the pocket");
            }
            break;
        }
        case Kind::HalfTube: {
            const PlateStretch& s = plate.stretches.front();
            PlateStretch outside = s; // wrapped round the outside: that is the neutral line at one thickness
            FlatPattern pattern = laidFlat({outside}, t, 1);
            pattern.bends.clear();
            const double middle = bendAllowance_mm(s.turn_rad, s.inside_mm, t, 1) / 2;
            const auto box = pattern.bounds();
            pattern.marks.push_back({{middle, box.min().y()}, {middle, box.max().y()}, "deepest line"});
            pattern.notes.push_back("wrapped round the outside of a tube of " + sized(2 * (s.inside_mm + t)) +
                                    ", wall " + sized(t));
            if (s.trimmed) pattern.notes.push_back("edges follow the body: trim to fit");
            add(std::move(pattern), plate.name, t, "outside of the tube");
            break;
        }
        case Kind::Cheek:
        case Kind::Strap: {
            PlateStretch flat = plate.stretches.front();
            FlatPattern pattern;
            pattern.cut_mm = flat.outline;
            add(std::move(pattern), plate.name, t,
                plate.kind == Kind::Cheek ? "away from the thickness: inside of the pocket" : "against the metal");
            break;
        }
        case Kind::Tray: {
            FlatPattern pattern = trayInTheFlat(plate, sheet->k_share, book.figure("corner_relief_thicknesses") * t);
            keepHoles(pattern, plate.stretches, t);
            if (static_cast<int>(pattern.bends.size()) > most)
                pattern.notes.push_back(std::to_string(pattern.bends.size()) + " bends in one piece, the book has " +
                                        std::to_string(most) + ": it wants a folder with fingers");
            const PlateStretch& bottom = plate.stretches.front();
            if (bottom.inside_mm < sheet->inside_thicknesses * t - nothing_mm)
                pattern.notes.push_back("bent with " + sized(bottom.inside_mm) + " inside: the material wants " +
                                        sized(sheet->inside_thicknesses * t));
            const double wall = plate.depth_mm - bottom.inside_mm;
            if (wall < least_flange * t)
                pattern.notes.push_back("walls of " + sized(wall) + " are too short for the tool: bend them longer (" +
                                        sized(least_flange * t) + ") and cut them back");
            pattern.notes.emplace_back("bend the ends first, then the sides; the walls meet with their inner edges: "
                                       "weld the corners from outside, close what was cut in them");
            pattern.notes.emplace_back("walls as high as the highest: scribe and trim at the mouth");
            add(std::move(pattern), plate.name, t, "inside of the pocket");
            break;
        }
        case Kind::Formed: {
            // Walls laid out all round, and what forming draws in.
            const PlateStretch& s = plate.stretches.front();
            Eigen::AlignedBox2d box;
            for (const Vector2d& p : s.outline) box.extend(p);
            const double wall = plate.depth_mm * (1 + sheet->formed_share);
            FlatPattern pattern;
            for (const Vector2d& p : s.outline) {
                const Vector2d corner((p.x() > 0 ? 1 : -1) * (box.max().x() - s.inside_mm),
                                      (p.y() > 0 ? 1 : -1) * (box.max().y() - s.inside_mm));
                const Vector2d out_of = p - corner;
                const double radius = out_of.norm();
                const Vector2d way = radius > nothing_mm ? Vector2d(out_of / radius) : Vector2d(p.normalized());
                pattern.cut_mm.push_back(p + way * wall);
            }
            for (std::size_t i = 0; i < s.outline.size(); ++i)
                pattern.marks.push_back({s.outline[i], s.outline[(i + 1) % s.outline.size()], i == 0 ? "bottom" : ""});
            pattern.notes.push_back("walls " + sized(plate.depth_mm) + " deep, cut " +
                                    quantity::fixed(sheet->formed_share * 100, 0) +
                                    " % longer: forming draws the sheet in. Scribe and trim at its mouth");
            add(std::move(pattern), plate.name, t, "inside of the recess");
            break;
        }
        }
    }
    return out;
}

namespace {

/// A closed outline with every edge moved outwards by so much, square to itself; corners stay corners.
std::vector<Vector2d> widened(const std::vector<Vector2d>& outline, double by_mm) {
    std::vector<Vector2d> ring;
    for (const Vector2d& p : outline)
        if (ring.empty() || (p - ring.back()).norm() > nothing_mm) ring.push_back(p);
    while (ring.size() > 1 && (ring.back() - ring.front()).norm() <= nothing_mm) ring.pop_back();
    const std::size_t n = ring.size();
    double area = 0;
    for (std::size_t i = 0; i < n; ++i) area += shape::cross(ring[i], ring[(i + 1) % n]);
    const auto outOf = [&](const Vector2d& a, const Vector2d& b) { // of the edge from a to b
        const Vector2d along = (b - a).normalized();
        return Vector2d(area > 0 ? Vector2d(along.y(), -along.x()) : Vector2d(-along.y(), along.x()));
    };
    std::vector<Vector2d> out;
    for (std::size_t i = 0; i < n; ++i) {
        const Vector2d before = outOf(ring[(i + n - 1) % n], ring[i]), after = outOf(ring[i], ring[(i + 1) % n]);
        out.push_back(ring[i] + (before + after) * (by_mm / (1 + before.dot(after))));
    }
    return out;
}

} // namespace

FlatPattern cutLineOf(const model::Pocket& pocket, const shape::PocketMade& made, const model::ShapeSpec& spec,
                      const model::RuleBook& book) {
    const double gap = pocket.open ? 0 : book.figure("weld_gap_mm");
    FlatPattern out;
    out.name = pocket.name + ": cut line on the body";
    out.member = true;
    out.up = "outside of the body";
    out.notes.push_back(gap > 0 ? sized(gap) + " wider than its plates all round, for the weld"
                                : "as planned, left open");
    const auto hull = shape::beamHull(spec, made.pose_body);
    if (shape::isSheet(spec) || !hull) {
        out.cut_mm = widened(made.cut_outline_mm, gap);
        return out;
    }
    // Round the section from its deepest place, so that the mouth comes in the middle.
    std::vector<Vector2d> ring = hull.value().outline;
    const auto deepest = std::max_element(ring.begin(), ring.end(), [](const Vector2d& a, const Vector2d& b) {
        return std::abs(a.y() - b.y()) > nothing_mm ? a.y() < b.y() : a.x() < b.x();
    });
    std::rotate(ring.begin(), deepest, ring.end());
    double bottom = 0;
    for (const Vector2d& p : made.cut_outline_mm) bottom = std::max(bottom, p.y());
    // How far the cut reaches along the body at a depth.
    const auto half = [&](double depth) -> double {
        if (depth > bottom + gap) return -1;
        double most = 0;
        const auto& line = made.cut_outline_mm;
        for (std::size_t i = 1; i < line.size(); ++i) {
            const Vector2d &a = line[i - 1], &b = line[i];
            const double at = std::clamp(depth, 0.0, bottom);
            if (std::min(a.y(), b.y()) > at + nothing_mm || std::max(a.y(), b.y()) < at - nothing_mm) continue;
            const double share = std::abs(b.y() - a.y()) < nothing_mm ? 1 : (at - a.y()) / (b.y() - a.y());
            most = std::max(
                {most, std::abs(a.x() + (b.x() - a.x()) * share), at >= bottom - nothing_mm ? std::abs(a.x()) : 0});
        }
        if (depth <= line.front().y()) most = std::abs(line.front().x()); // straight up from where its plate ends
        return most + gap;
    };
    std::vector<Vector2d> low, high;
    double at = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Vector2d &a = ring[i], &b = ring[(i + 1) % ring.size()];
        const double length = (b - a).norm();
        const int steps = std::max(1, static_cast<int>(std::ceil(length / edge_step_mm)));
        std::vector<double> shares;
        for (int k = 0; k <= steps; ++k) shares.push_back(static_cast<double>(k) / steps);
        // Where the cut begins and ends on this face.
        for (const double side : {made.cut_from_mm - gap, made.cut_to_mm + gap})
            if ((a.x() - side) * (b.x() - side) < 0) shares.push_back((side - a.x()) / (b.x() - a.x()));
        if ((a.y() - bottom - gap) * (b.y() - bottom - gap) < 0)
            shares.push_back((bottom + gap - a.y()) / (b.y() - a.y()));
        std::sort(shares.begin(), shares.end());
        for (const double share : shares) {
            const Vector2d q = a + (b - a) * share;
            const double reach = half(q.y());
            if (reach < 0 || q.x() < made.cut_from_mm - gap - nothing_mm || q.x() > made.cut_to_mm + gap + nothing_mm)
                continue;
            low.emplace_back(at + length * share, -reach);
            high.emplace_back(at + length * share, reach);
        }
        const double corner = at;
        at += length;
        if (ring.size() <= edges_marked && !low.empty() && i > 0)
            out.marks.push_back({{corner, 0}, {corner, 0}, "edge"});
    }
    if (low.empty()) return out;
    append(out.cut_mm, low);
    std::reverse(high.begin(), high.end());
    append(out.cut_mm, high);
    out.cut_mm = straightened(out.cut_mm);
    const Eigen::AlignedBox2d box = out.bounds();
    for (MarkLine& mark : out.marks)
        mark.from_mm.y() = box.min().y() - edge_over_mm, mark.to_mm.y() = box.max().y() + edge_over_mm;
    out.marks.erase(std::remove_if(out.marks.begin(), out.marks.end(),
                                   [&](const MarkLine& mark) {
                                       return mark.from_mm.x() < box.min().x() - edge_over_mm ||
                                              mark.from_mm.x() > box.max().x() + edge_over_mm;
                                   }),
                    out.marks.end());
    out.marks.push_back({{box.min().x(), 0}, {box.max().x(), 0}, "middle of the pocket"});
    return out;
}

} // namespace gabarit::relief
