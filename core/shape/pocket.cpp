#include "shape/pocket.h"

#include "quantity/quantity.h"
#include "shape/occt.h"
#include "shape/section.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>

#include <algorithm>
#include <cmath>

namespace gabarit::shape {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using model::Pocket;
using model::PocketForm;
using quantity::deg_per_rad;

constexpr double nothing_mm = 1e-6;
constexpr double grain_mm = 0.01;    // what a mouth may lie inside the metal by
constexpr double above_mouth_mm = 1; // the cut starts there, to leave no skin
constexpr double along_cos = 0.9999; // 0.8°: the pocket's length runs along the body
constexpr double step_mm = 2;        // along a plate whose edges follow a round body
constexpr double arc_step_rad = 2 / deg_per_rad;
constexpr double least_cut_mm3 = 1;

std::vector<Vector2d> convexHull(std::vector<Vector2d> points) {
    std::sort(points.begin(), points.end(),
              [](const Vector2d& a, const Vector2d& b) { return a.x() != b.x() ? a.x() < b.x() : a.y() < b.y(); });
    std::vector<Vector2d> hull;
    for (int pass = 0; pass < 2; ++pass) {
        const std::size_t base = hull.size();
        for (const Vector2d& p : points) {
            while (hull.size() >= base + 2 &&
                   cross(hull.back() - hull[hull.size() - 2], p - hull[hull.size() - 2]) <= 0)
                hull.pop_back();
            hull.push_back(p);
        }
        hull.pop_back();
        std::reverse(points.begin(), points.end());
    }
    return hull;
}

struct Interval {
    double low = 0, high = 0;
    bool empty() const { return high - low < nothing_mm; }
    Interval with(const Interval& other) const { return {std::max(low, other.low), std::min(high, other.high)}; }
};

/// Where the line `axis` = at crosses a convex outline: from … to along the other axis.
Interval chord(const std::vector<Vector2d>& hull, int axis, double at) {
    Interval out{1, 0};
    bool any = false;
    const auto take = [&](double v) {
        out = any ? Interval{std::min(out.low, v), std::max(out.high, v)} : Interval{v, v};
        any = true;
    };
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Vector2d &a = hull[i], &b = hull[(i + 1) % hull.size()];
        const double da = a[axis] - at, db = b[axis] - at;
        if (std::abs(da) <= nothing_mm) take(a[1 - axis]);
        if (da * db < 0) take(a[1 - axis] + (b[1 - axis] - a[1 - axis]) * da / (da - db));
    }
    return any ? out : Interval{1, 0};
}

/// A convex outline cut off where `axis` goes beyond a limit.
std::vector<Vector2d> clipped(const std::vector<Vector2d>& outline, int axis, double limit, bool keepBelow) {
    std::vector<Vector2d> out;
    const auto inside = [&](const Vector2d& p) { return keepBelow ? p[axis] <= limit : p[axis] >= limit; };
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2d &a = outline[i], &b = outline[(i + 1) % outline.size()];
        if (inside(a)) out.push_back(a);
        if (inside(a) != inside(b)) out.push_back(a + (b - a) * ((limit - a[axis]) / (b[axis] - a[axis])));
    }
    return out;
}

/// Points that lie on a straight line between their neighbours taken out.
std::vector<Vector2d> tidied(const std::vector<Vector2d>& outline) {
    std::vector<Vector2d> out;
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Vector2d& p = outline[i];
        const Vector2d& before = out.empty() ? outline.back() : out.back();
        const Vector2d& after = outline[(i + 1) % outline.size()];
        if ((p - before).norm() < nothing_mm) continue;
        const double off = std::abs(cross(p - before, after - before)) / std::max((after - before).norm(), nothing_mm);
        if (off < nothing_mm && (p - before).dot(after - p) > 0) continue;
        out.push_back(p);
    }
    return out;
}

/// A stretch of the free room's wall, seen across: (along, into).
struct Stretch {
    bool bend = false;
    double length_mm = 0, turn_rad = 0, radius_mm = 0;
    Vector2d at{0, 0}, heading{1, 0};

    Vector2d outwards() const { return {-heading.y(), heading.x()}; }
    /// Inner face at s (mm, or radians in a bend), and `out_mm` outside of it.
    Vector2d point(double s, double out_mm) const {
        if (!bend) return at + heading * s + outwards() * out_mm;
        const Vector2d n = outwards() * std::cos(s) + heading * std::sin(s);
        return at - outwards() * radius_mm + n * (radius_mm + out_mm);
    }
    double end() const { return bend ? turn_rad : length_mm; }
    Vector2d headingAtEnd() const {
        return bend ? Vector2d(heading * std::cos(turn_rad) - outwards() * std::sin(turn_rad)) : heading;
    }
};

Result<std::vector<Stretch>> wallOf(const Pocket& p) {
    std::vector<Stretch> wall;
    const auto add = [&wall](bool bend, double amount, double radius) {
        if (amount < 1e-9) return;
        Stretch next;
        next.bend = bend;
        (bend ? next.turn_rad : next.length_mm) = amount;
        next.radius_mm = radius;
        next.at = wall.back().point(wall.back().end(), 0);
        next.heading = wall.back().headingAtEnd();
        wall.push_back(next);
    };
    if (p.form == PocketForm::HalfRound) {
        const double radius = p.length_mm / 2;
        if (p.depth_mm > radius + nothing_mm)
            return impossible("it is deeper than half its tube", "take a larger tube, or a box of plate");
        const double half = std::acos(std::clamp(1 - p.depth_mm / radius, -1.0, 1.0));
        Stretch only;
        only.bend = true;
        only.turn_rad = 2 * half;
        only.radius_mm = radius;
        only.at = {-radius * std::sin(half), 0};
        only.heading = {std::cos(half), std::sin(half)};
        wall.push_back(only);
        return wall;
    }
    const double lean = p.flank_deg / deg_per_rad, turn = EIGEN_PI / 2 - lean;
    const double tangent = p.corner_mm * std::tan(turn / 2);
    const double flank = p.depth_mm / std::cos(lean) - tangent, bottom = p.length_mm - 2 * tangent;
    if (flank < 0)
        return impossible("its corners are larger than its depth", "give a smaller corner radius or go deeper");
    if (bottom < 0)
        return impossible("its corners are larger than half its length", "give a smaller corner radius or more length");
    Stretch first;
    first.at = {-p.length_mm / 2 - p.depth_mm * std::tan(lean), 0};
    first.heading = {std::sin(lean), std::cos(lean)};
    first.length_mm = flank;
    wall.push_back(first);
    add(true, turn, p.corner_mm);
    add(false, bottom, 0);
    add(true, turn, p.corner_mm);
    add(false, flank, 0);
    return wall;
}

/// The wall's line `out_mm` outside of the free room, with its arcs in short steps.
std::vector<Vector2d> lineOf(const std::vector<Stretch>& wall, double out_mm) {
    std::vector<Vector2d> line;
    for (const Stretch& s : wall) {
        // An even count: the middle of an arc, where a half-round is deepest, is a point of the line.
        const int steps = s.bend ? 2 * std::max(1, static_cast<int>(std::ceil(s.turn_rad / arc_step_rad / 2))) : 1;
        for (int i = line.empty() ? 0 : 1; i <= steps; ++i) line.push_back(s.point(s.end() * i / steps, out_mm));
    }
    return line;
}

Vector3d lift(const Vector2d& p, double across) { return {p.x(), across, p.y()}; }

/// The room within the wall and above it, from one side to the other: what the cut takes.
TopoDS_Shape roomSolid(const std::vector<Stretch>& wall, double out_mm, double from, double to,
                       double above_mm = above_mouth_mm) {
    BRepBuilderAPI_MakeWire wire;
    const auto edge = [&](const Vector2d& a, const Vector2d& b) {
        if ((a - b).norm() > nothing_mm)
            wire.Add(BRepBuilderAPI_MakeEdge(pnt(lift(a, from)), pnt(lift(b, from))).Edge());
    };
    Vector2d first(0, 0), last(0, 0);
    for (std::size_t i = 0; i < wall.size(); ++i) {
        const Stretch& s = wall[i];
        const Vector2d a = s.point(0, out_mm), b = s.point(s.end(), out_mm);
        if (i == 0) first = a;
        last = b;
        if (!s.bend || s.radius_mm + out_mm < nothing_mm)
            edge(a, b);
        else
            wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(pnt(lift(a, from)),
                                                                pnt(lift(s.point(s.end() / 2, out_mm), from)),
                                                                pnt(lift(b, from)))
                                                 .Value())
                         .Edge());
    }
    const Vector2d up(last.x(), -above_mm), over(first.x(), -above_mm);
    edge(last, up);
    edge(up, over);
    edge(over, first);
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(), gp_Vec(0, to - from, 0)).Shape();
}

TopoDS_Shape prismOf(const std::vector<Vector3d>& outline, const Vector3d& by) {
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(polygonWire(outline), true).Face(),
                                 gp_Vec(by.x(), by.y(), by.z()))
        .Shape();
}

/// A ring's sector between two faces of a bend.
TopoDS_Shape sectorSolid(const Stretch& s, double from_rad, double to_rad, double thickness, const Interval& across) {
    const double middle = (from_rad + to_rad) / 2;
    const auto at = [&](double turn, double out) { return pnt(lift(s.point(turn, out), across.low)); };
    BRepBuilderAPI_MakeWire wire;
    if (s.radius_mm > nothing_mm)
        wire.Add(
            BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(at(from_rad, 0), at(middle, 0), at(to_rad, 0)).Value()).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(at(to_rad, 0), at(to_rad, thickness)).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(
                 GC_MakeArcOfCircle(at(to_rad, thickness), at(middle, thickness), at(from_rad, thickness)).Value())
                 .Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(at(from_rad, thickness), at(from_rad, 0)).Edge());
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(),
                                 gp_Vec(0, across.high - across.low, 0))
        .Shape();
}

TopoDS_Shape placed(const TopoDS_Shape& shape, const Eigen::Isometry3d& pose) {
    return BRepBuilderAPI_Transform(shape, trsf(pose), true).Shape();
}

std::vector<TopoDS_Shape> solidsOf(const TopoDS_Shape& shape) {
    std::vector<TopoDS_Shape> out;
    for (TopExp_Explorer it(shape, TopAbs_SOLID); it.More(); it.Next()) out.push_back(it.Current());
    return out;
}

TopoDS_Shape together(const std::vector<TopoDS_Shape>& solids) {
    if (solids.size() == 1) return solids.front();
    BRep_Builder builder;
    TopoDS_Compound compound;
    builder.MakeCompound(compound);
    for (const TopoDS_Shape& solid : solids) builder.Add(compound, solid);
    return compound;
}

/// What a boolean leaves of each of some solids; they may touch one another.
template <class Op>
Result<std::vector<TopoDS_Shape>> eachBy(const std::vector<TopoDS_Shape>& solids, const TopoDS_Shape& tool) {
    std::vector<TopoDS_Shape> out;
    for (const TopoDS_Shape& solid : solids) {
        Op op(solid, tool);
        if (!op.IsDone() || op.HasErrors())
            return impossible("the cut cannot be worked out", "move it by a millimetre, or change its size a little");
        const auto pieces = solidsOf(op.Shape());
        out.insert(out.end(), pieces.begin(), pieces.end());
    }
    return out;
}

Solid solidFrom(const TopoDS_Shape& shape, bool flat) {
    return Solid(std::make_shared<const Solid::Hidden>(Solid::Hidden{shape, flat}));
}

double volumeOfAll(const std::vector<TopoDS_Shape>& solids) {
    double sum = 0;
    for (const TopoDS_Shape& solid : solids) sum += std::abs(volumeOf(solid));
    return sum;
}

/// A plate's stretch with its edges where the body's outline is, cut square: neither of its faces stands out.
class StretchMaker {
public:
    StretchMaker(const BeamHull& hull, const Interval& across, double thickness, const Eigen::Isometry3d& pose)
        : hull_(hull), across_(across), thickness_(thickness), pose_(pose) {}

    Interval at(const Stretch& s, double along) const {
        return chord(hull_.outline, 1, s.point(along, 0).y())
            .with(chord(hull_.outline, 1, s.point(along, thickness_).y()))
            .with(across_);
    }
    /// Nothing when no metal is there to be closed.
    std::optional<PlateStretch> operator()(const Stretch& s, std::vector<TopoDS_Shape>& solids) const {
        const double unit = s.bend ? 1 / std::max(s.radius_mm + thickness_, 1.0) : 1;
        const int steps = std::max(2, static_cast<int>(std::ceil(s.end() / (step_mm * unit))));
        std::vector<double> stops;
        for (int i = 0; i <= steps; ++i) stops.push_back(s.end() * i / steps);
        // Where the outline begins or ends between two stops, to within a hair.
        std::vector<double> kept;
        for (std::size_t i = 0; i < stops.size(); ++i) {
            const bool here = !at(s, stops[i]).empty();
            if (i > 0 && here != !at(s, stops[i - 1]).empty()) {
                double in = here ? stops[i] : stops[i - 1], out = here ? stops[i - 1] : stops[i];
                while (std::abs(in - out) > nothing_mm * unit) {
                    const double middle = (in + out) / 2;
                    if (middle == in || middle == out) break; // as near as numbers lie
                    (at(s, middle).empty() ? out : in) = middle;
                }
                kept.push_back(in);
            }
            if (here) kept.push_back(stops[i]);
        }
        std::sort(kept.begin(), kept.end());
        if (kept.size() < 2 || kept.back() - kept.front() < nothing_mm) return std::nullopt;
        Interval least = at(s, kept.front()), most = least;
        for (const double along : kept) {
            const Interval here = at(s, along);
            least = least.with(here);
            most = {std::min(most.low, here.low), std::max(most.high, here.high)};
        }
        PlateStretch out;
        out.bend = s.bend;
        out.length_mm = s.length_mm;
        out.turn_rad = s.turn_rad;
        out.inside_mm = s.radius_mm;
        out.trimmed = most.high - most.low - (least.high - least.low) > grain_mm;
        Eigen::Isometry3d pose = Eigen::Isometry3d::Identity();
        pose.linear().col(0) = lift(s.heading, 0);
        pose.linear().col(1) = Vector3d::UnitY();
        pose.linear().col(2) = lift(s.outwards(), 0);
        pose.translation() = lift(s.at, 0);
        out.pose_body = pose_ * pose;
        for (const double along : kept) out.outline.emplace_back(along, at(s, along).low);
        for (auto it = kept.rbegin(); it != kept.rend(); ++it) out.outline.emplace_back(*it, at(s, *it).high);
        out.outline = tidied(out.outline);
        if (s.bend) {
            TopoDS_Shape sector = sectorSolid(s, kept.front(), kept.back(), thickness_, most);
            if (out.trimmed) {
                std::vector<Vector3d> outline;
                for (const Vector2d& p : hull_.outline) outline.emplace_back(hull_.from_mm, p.x(), p.y());
                BRepAlgoAPI_Common common(sector, prismOf(outline, {hull_.to_mm - hull_.from_mm, 0, 0}));
                if (!common.IsDone() || common.HasErrors()) return std::nullopt;
                sector = common.Shape();
            }
            for (const TopoDS_Shape& solid : solidsOf(placed(sector, pose_))) solids.push_back(solid);
        } else {
            std::vector<Vector3d> outline;
            for (const Vector2d& p : out.outline) outline.push_back(pose * Vector3d(p.x(), p.y(), 0));
            solids.push_back(placed(prismOf(outline, pose.linear().col(2) * thickness_), pose_));
        }
        return out;
    }

private:
    const BeamHull& hull_;
    Interval across_;
    double thickness_;
    Eigen::Isometry3d pose_;
};

Result<PocketMade> inBeam(const model::ShapeSpec& spec, const Solid& body, const Pocket& p) {
    PocketMade made{body, body, {}, pocketPose(p), 0, 0, {}, 0, 0, false};
    const auto hull = beamHull(spec, made.pose_body);
    if (!hull) return hull.error();
    const auto wall = wallOf(p);
    if (!wall) return wall.error();
    const double t = p.open ? 0 : p.plate_mm;
    Interval depth{hull.value().outline.front().y(), hull.value().outline.front().y()};
    Interval width{hull.value().outline.front().x(), hull.value().outline.front().x()};
    for (const Vector2d& q : hull.value().outline) {
        depth = {std::min(depth.low, q.y()), std::max(depth.high, q.y())};
        width = {std::min(width.low, q.x()), std::max(width.high, q.x())};
    }
    if (depth.low < -grain_mm)
        return impossible("its mouth lies " + quantity::fixed(-depth.low, 1) + " mm inside the metal",
                          "set its place on the face that it is cut from");
    const bool step = p.form == PocketForm::Step;
    const Interval across{step ? width.low : -p.width_mm / 2, step ? width.high : p.width_mm / 2};
    if (across.with(width).empty() || p.depth_mm <= depth.low)
        return impossible("it does not meet the metal", "set its place on the body, and its direction into it");
    made.cut_outline_mm = lineOf(wall.value(), t);
    for (const Vector2d& q : made.cut_outline_mm)
        if (q.x() < hull.value().from_mm || q.x() > hull.value().to_mm)
            return impossible(
                "it runs " + quantity::fixed(std::max(hull.value().from_mm - q.x(), q.x() - hull.value().to_mm), 1) +
                    " mm beyond the end of the body",
                "make it shorter or move it along");
    // A side that lies inside the metal needs a cheek; one that lies outside is open.
    const bool cheeks[2] = {across.low > width.low + nothing_mm, across.high < width.high - nothing_mm};
    for (int side = 0; side < 2; ++side) {
        const double land = side == 0 ? across.low - width.low : width.high - across.high;
        if (!p.open && cheeks[side] && land < t)
            return impossible("it leaves " + quantity::fixed(land, 1) + " mm beside it, less than its plate",
                              "make it wider, to run out of the side, or narrower");
    }
    made.cut_from_mm = cheeks[0] ? across.low - t : width.low - above_mouth_mm;
    made.cut_to_mm = cheeks[1] ? across.high + t : width.high + above_mouth_mm;
    const TopoDS_Shape tool = placed(roomSolid(wall.value(), t, made.cut_from_mm, made.cut_to_mm), made.pose_body);
    const auto before = solidsOf(body.hidden().shape);
    auto after = eachBy<BRepAlgoAPI_Cut>(before, tool);
    if (!after) return after.error();
    made.cut_volume_mm3 = volumeOfAll(before) - volumeOfAll(after.value());
    if (made.cut_volume_mm3 < least_cut_mm3)
        return impossible("it does not meet the metal", "set its place on the body, and its direction into it");
    if (after.value().size() > before.size())
        return impossible("it would cut the body in two", "make it less deep, or narrower");
    made.cut = solidFrom(together(after.value()),
                         body.hidden().flat && p.corner_mm < nothing_mm && p.form != PocketForm::HalfRound);
    made.closed = made.cut;
    if (p.open) return made;

    std::vector<TopoDS_Shape> plates;
    PocketPlate strip;
    strip.kind = p.form == PocketForm::HalfRound ? PocketPlate::Kind::HalfTube : PocketPlate::Kind::Strip;
    strip.name = p.form == PocketForm::HalfRound ? "half tube" : "bottom and ends";
    strip.thickness_mm = t;
    const StretchMaker maker(hull.value(), across, t, made.pose_body);
    for (const Stretch& s : wall.value())
        if (auto stretch = maker(s, plates)) strip.stretches.push_back(std::move(*stretch));
    if (strip.stretches.empty())
        return impossible("there is no metal for its plates to close", "check its depth and place");
    made.plates.push_back(std::move(strip));
    for (int side = 0; side < 2; ++side) {
        if (!cheeks[side]) continue;
        const double inner = side == 0 ? across.low : across.high, outer = side == 0 ? inner - t : inner + t;
        const Interval deep = chord(hull.value().outline, 0, inner).with(chord(hull.value().outline, 0, outer));
        if (deep.empty()) continue;
        std::vector<Vector2d> outline = clipped(made.cut_outline_mm, 1, deep.low, false);
        outline = tidied(clipped(outline, 1, deep.high, true));
        if (outline.size() < 3) continue;
        PocketPlate cheek;
        cheek.kind = PocketPlate::Kind::Cheek;
        cheek.name = "cheek";
        cheek.thickness_mm = t;
        PlateStretch flat;
        // Columns so that the thickness points away from the room on either side.
        Eigen::Isometry3d pose = Eigen::Isometry3d::Identity();
        pose.linear() << (side == 0 ? Eigen::Matrix3d((Eigen::Matrix3d() << 1, 0, 0, 0, 0, -1, 0, 1, 0).finished())
                                    : Eigen::Matrix3d((Eigen::Matrix3d() << 0, 1, 0, 0, 0, 1, 1, 0, 0).finished()));
        pose.translation() = Vector3d(0, inner, 0);
        std::vector<Vector3d> corners;
        double area = 0;
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const Vector2d& q = outline[i];
            flat.outline.push_back(side == 0 ? q : Vector2d(q.y(), q.x()));
            corners.push_back(pose * Vector3d(flat.outline.back().x(), flat.outline.back().y(), 0));
        }
        for (std::size_t i = 0; i < flat.outline.size(); ++i)
            area += cross(flat.outline[i], flat.outline[(i + 1) % flat.outline.size()]);
        if (area < 0) std::reverse(flat.outline.begin(), flat.outline.end());
        flat.pose_body = made.pose_body * pose;
        plates.push_back(placed(prismOf(corners, pose.linear().col(2) * t), made.pose_body));
        cheek.stretches.push_back(std::move(flat));
        made.plates.push_back(std::move(cheek));
    }
    if (p.doubler_mm > nothing_mm) {
        const Interval face = chord(hull.value().outline, 1, depth.high);
        const double half = made.cut_outline_mm.back().x() + p.doubler_over_mm;
        if (face.empty()) return impossible("the far side is no flat face: a strap does not lie on it", "leave it out");
        if (-half < hull.value().from_mm || half > hull.value().to_mm)
            return impossible("its strap runs beyond the end of the body", "let it reach less far");
        PocketPlate strap;
        strap.kind = PocketPlate::Kind::Strap;
        strap.name = "strap";
        strap.thickness_mm = p.doubler_mm;
        PlateStretch flat;
        flat.outline = {{-half, face.low}, {half, face.low}, {half, face.high}, {-half, face.high}};
        flat.length_mm = 2 * half;
        flat.pose_body = made.pose_body * Eigen::Translation3d(0, 0, depth.high);
        std::vector<Vector3d> corners;
        for (const Vector2d& q : flat.outline) corners.emplace_back(q.x(), q.y(), depth.high);
        plates.push_back(placed(prismOf(corners, {0, 0, p.doubler_mm}), made.pose_body));
        strap.stretches.push_back(std::move(flat));
        made.plates.push_back(std::move(strap));
    }
    made.plate_volume_mm3 = volumeOfAll(plates);
    std::vector<TopoDS_Shape> all = after.value();
    all.insert(all.end(), plates.begin(), plates.end());
    made.closed = solidFrom(together(all), made.cut.hidden().flat);
    return made;
}

/// A rectangle with rounded corners, counter-clockwise.
std::vector<Vector2d> rounded(double length, double width, double radius) {
    std::vector<Vector2d> out;
    const int steps = std::max(1, static_cast<int>(std::ceil(EIGEN_PI / 2 / arc_step_rad)));
    for (int corner = 0; corner < 4; ++corner) {
        const double x = (corner == 0 || corner == 3 ? 1 : -1) * (length / 2 - radius);
        const double y = (corner < 2 ? 1 : -1) * (width / 2 - radius);
        for (int i = 0; i <= (radius > nothing_mm ? steps : 0); ++i) {
            const double turn = EIGEN_PI / 2 * (corner + static_cast<double>(i) / steps);
            out.emplace_back(x + radius * std::cos(turn), y + radius * std::sin(turn));
        }
    }
    return out;
}

/// The same, drawn out, with true arcs: facets would cost the booleans a hundredfold.
TopoDS_Shape dish(double length, double width, double radius, double from, double to) {
    BRepBuilderAPI_MakeWire wire;
    const auto corner = [&](int which, double turn) {
        const double x = (which == 0 || which == 3 ? 1 : -1) * (length / 2 - radius);
        const double y = (which < 2 ? 1 : -1) * (width / 2 - radius);
        const double at = EIGEN_PI / 2 * (which + turn);
        return pnt(Vector3d(x + radius * std::cos(at), y + radius * std::sin(at), from));
    };
    for (int which = 0; which < 4; ++which) {
        if (radius > nothing_mm)
            wire.Add(BRepBuilderAPI_MakeEdge(
                         GC_MakeArcOfCircle(corner(which, 0), corner(which, 0.5), corner(which, 1)).Value())
                         .Edge());
        const gp_Pnt a = corner(which, 1), b = corner((which + 1) % 4, 0);
        if (a.Distance(b) > nothing_mm) wire.Add(BRepBuilderAPI_MakeEdge(a, b).Edge());
    }
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(), gp_Vec(0, 0, to - from)).Shape();
}

/// The room of a tray folded from one piece: bends where its walls leave the bottom, its corners upright and sharp. It
/// is where the rooms of its two pairs of walls meet.
Result<TopoDS_Shape> trayRoom(const Pocket& p, double out_mm, double above_mm) {
    Pocket turned = p;
    std::swap(turned.length_mm, turned.width_mm);
    const auto ends = wallOf(p), sides = wallOf(turned);
    if (!ends) return ends.error();
    if (!sides) return sides.error();
    const double half_along = p.length_mm / 2 + out_mm + above_mouth_mm,
                 half_across = p.width_mm / 2 + out_mm + above_mouth_mm;
    const TopoDS_Shape one = roomSolid(ends.value(), out_mm, -half_across, half_across, above_mm);
    const Eigen::Isometry3d quarter(Eigen::AngleAxisd(EIGEN_PI / 2, Vector3d::UnitZ()));
    const TopoDS_Shape other = placed(roomSolid(sides.value(), out_mm, -half_along, half_along, above_mm), quarter);
    const auto both = eachBy<BRepAlgoAPI_Common>(solidsOf(one), other);
    if (!both) return both.error();
    return together(both.value());
}

Result<PocketMade> inSheet(const Solid& body, const Pocket& p) {
    PocketMade made{body, body, {}, pocketPose(p), 0, 0, {}, 0, 0, true};
    const bool tray = p.form == PocketForm::Box;
    if (!tray && p.form != PocketForm::Recess)
        return impossible("a sheet takes a formed recess or a box, no other pocket", "choose one of the two");
    if (tray && std::abs(p.flank_deg) > nothing_mm)
        return impossible("the walls of a box in a sheet stand square", "set how far its ends lean to 0");
    if (2 * p.corner_mm > std::min(p.length_mm, p.width_mm))
        return impossible("its corners are larger than half its side", "give a smaller corner radius");
    const double t = p.open ? 0 : p.plate_mm;
    const double before_mm = std::max(p.length_mm, p.width_mm) / 2 + p.depth_mm; // the sheet may lean by 45°
    const auto roomOf = [&](double out_mm, double above_mm) -> Result<TopoDS_Shape> {
        if (tray) return trayRoom(p, out_mm, above_mm);
        return dish(p.length_mm + 2 * out_mm, p.width_mm + 2 * out_mm, p.corner_mm + out_mm, -above_mm,
                    p.depth_mm + out_mm);
    };
    const auto outer_room = roomOf(t, before_mm);
    if (!outer_room) return outer_room.error();
    const TopoDS_Shape outer = placed(outer_room.value(), made.pose_body);
    const auto before = solidsOf(body.hidden().shape);
    auto after = eachBy<BRepAlgoAPI_Cut>(before, outer);
    if (!after) return after.error();
    made.cut_volume_mm3 = volumeOfAll(before) - volumeOfAll(after.value());
    if (made.cut_volume_mm3 < least_cut_mm3)
        return impossible("it does not meet the sheet", "set its place on the sheet, and its direction into it");
    if (after.value().size() > before.size()) return impossible("it would cut the sheet in two", "make it smaller");
    made.cut = solidFrom(together(after.value()), false);
    made.closed = made.cut;
    made.cut_outline_mm = rounded(p.length_mm + 2 * t, p.width_mm + 2 * t, tray ? 0 : p.corner_mm + t);
    made.cut_to_mm = p.depth_mm + t;
    if (p.open) return made;
    const auto inner_room = roomOf(0, before_mm + above_mouth_mm);
    if (!inner_room) return inner_room.error();
    const TopoDS_Shape inner = placed(inner_room.value(), made.pose_body);
    const auto shell = eachBy<BRepAlgoAPI_Cut>(solidsOf(outer), inner);
    if (!shell) return shell.error();
    const auto pieces = eachBy<BRepAlgoAPI_Cut>(shell.value(), body.hidden().shape);
    if (!pieces) return pieces.error();
    // The dish is the piece with the bottom; what stands before the sheet is left out.
    const Vector3d into = made.pose_body.linear().col(2);
    const auto reach = [&](const TopoDS_Shape& piece, bool far) {
        double least = 0, most = 0;
        bool any = false;
        for (TopExp_Explorer it(piece, TopAbs_VERTEX); it.More(); it.Next()) {
            const gp_Pnt q = BRep_Tool::Pnt(TopoDS::Vertex(it.Current()));
            const double z = (Vector3d(q.X(), q.Y(), q.Z()) - made.pose_body.translation()).dot(into);
            least = any ? std::min(least, z) : z;
            most = any ? std::max(most, z) : z;
            any = true;
        }
        return far ? most : least;
    };
    std::vector<TopoDS_Shape> plates;
    for (const TopoDS_Shape& piece : pieces.value())
        if (reach(piece, true) > p.depth_mm + t / 2) plates.push_back(piece);
    if (plates.size() != 1 || reach(plates.front(), false) < -before_mm + grain_mm)
        return impossible("its mouth does not lie on the sheet all round",
                          "move it inwards, make it smaller, or go deeper than the sheet leans");
    made.plate_volume_mm3 = volumeOfAll(plates);
    PocketPlate recess;
    recess.kind = tray ? PocketPlate::Kind::Tray : PocketPlate::Kind::Formed;
    recess.name = tray ? "folded tray" : "recess";
    recess.thickness_mm = t;
    recess.depth_mm = p.depth_mm;
    if (tray) { // up to where the sheet's front is farthest off, to be trimmed
        const auto taken = eachBy<BRepAlgoAPI_Common>(before, outer);
        if (!taken) return taken.error();
        for (const TopoDS_Shape& piece : taken.value())
            recess.depth_mm = std::max(recess.depth_mm, p.depth_mm - reach(piece, false));
    }
    PlateStretch bottom;
    bottom.outline = rounded(p.length_mm, p.width_mm, tray ? 0 : p.corner_mm);
    bottom.inside_mm = p.corner_mm;
    bottom.pose_body = made.pose_body;
    if (tray) bottom.pose_body = bottom.pose_body * Eigen::Translation3d(0, 0, p.depth_mm);
    bottom.trimmed = true;
    recess.stretches.push_back(std::move(bottom));
    made.plates.push_back(std::move(recess));
    std::vector<TopoDS_Shape> all = after.value();
    all.push_back(plates.front());
    made.closed = solidFrom(together(all), false);
    return made;
}

} // namespace

Eigen::Isometry3d pocketPose(const Pocket& p) {
    Eigen::Isometry3d pose = Eigen::Isometry3d::Identity();
    const Vector3d into = p.into.normalized();
    const Vector3d along = (p.along - into * into.dot(p.along)).normalized();
    pose.linear().col(0) = along;
    pose.linear().col(1) = into.cross(along);
    pose.linear().col(2) = into;
    pose.translation() = p.at_mm;
    return pose;
}

bool isSheet(const model::ShapeSpec& spec) {
    return std::holds_alternative<model::SheetSpec>(spec) || std::holds_alternative<model::PlateSpec>(spec);
}

Result<BeamHull> beamHull(const model::ShapeSpec& spec, const Eigen::Isometry3d& pose_body_pocket) {
    const auto* profile = std::get_if<model::ProfileSpec>(&spec);
    if (!profile)
        return impossible("it is modelled as a filled body, not with its walls",
                          "enter the body as a profile with its wall: then it is known what is left of it");
    const Vector3d run = profile->to_mm - profile->from_mm, along = run.normalized();
    const Eigen::Isometry3d pose_pocket_body = pose_body_pocket.inverse();
    if (std::abs((pose_pocket_body.linear() * along).x()) < along_cos)
        return impossible("its length does not run along the body", "turn it: the length goes along the profile");
    Vector3d u, v;
    sectionAxes(along, u, v);
    const Eigen::AngleAxisd roll(profile->roll_deg / deg_per_rad, along);
    const Vector3d ru = roll * u, rv = roll * v;
    BeamHull out;
    std::vector<Vector2d> points;
    for (const Vector2d& p : outlineOf(profile->section).outer) {
        const Vector3d at = pose_pocket_body * Vector3d(profile->from_mm + p.x() * ru + p.y() * rv);
        points.emplace_back(at.y(), at.z());
    }
    out.outline = convexHull(std::move(points));
    const double a = (pose_pocket_body * profile->from_mm).x(), b = (pose_pocket_body * profile->to_mm).x();
    out.from_mm = std::min(a, b);
    out.to_mm = std::max(a, b);
    return out;
}

Result<PocketMade> pocketed(const model::ShapeSpec& spec, const Solid& body, const Pocket& pocket) {
    return guarded(
        [&]() -> Result<PocketMade> { return isSheet(spec) ? inSheet(body, pocket) : inBeam(spec, body, pocket); });
}

Result<Solid> pocketed(const model::ShapeSpec& spec, const std::vector<Pocket>& pockets) {
    const auto plain = makeSolid(spec);
    if (!plain) return plain.error();
    Solid solid = plain.value();
    for (const Pocket& pocket : pockets) {
        const auto made = pocketed(spec, solid, pocket);
        if (!made) {
            Error error = made.error();
            error.where = "pocket \"" + pocket.name + "\"" + (error.where.empty() ? "" : ", " + error.where);
            return error;
        }
        solid = made.value().closed;
    }
    return solid;
}

} // namespace gabarit::shape
