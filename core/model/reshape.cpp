#include "model/reshape.h"

#include "quantity/number.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cctype>

namespace gabarit::model {
namespace {

using Eigen::AlignedBox3d;
using Eigen::Vector2d;
using Eigen::Vector3d;

constexpr double thinnest_mm = 1;      // thinner is a slip of the hand
constexpr double straight_cos = 0.999; // an axis along a shape's own
constexpr double square_cos = 0.05;    // or square to it
constexpr double flat_mm = 1e-6;
constexpr double first_wall_mm = 3;
constexpr double first_sheet_mm = 1.5;
constexpr double usual_bend = 1.5; // centreline radius over diameter

struct Span {
    double low = 0, high = 0;
    double size() const { return high - low; }
};

/// Where a coordinate goes when a span becomes another.
double remapped(double x, const Span& from, const Span& to) {
    return from.size() < flat_mm ? x + to.low - from.low : to.low + (x - from.low) * to.size() / from.size();
}

template <class Points>
Span spanOf(const Points& points, int axis) {
    Span span{points.front()[axis], points.front()[axis]};
    for (const auto& p : points) span.low = std::min(span.low, p[axis]), span.high = std::max(span.high, p[axis]);
    return span;
}

/// Which coordinate of a sheet's points lies along an axis of the body; −1: the stations do.
int pointAxis(Axis along, int axis) {
    const int stations = static_cast<int>(along);
    if (axis == stations) return -1;
    const int first = stations == 0 ? 1 : 0;
    return axis == first ? 0 : 1;
}

void axesOf(const ProfileSpec& s, Vector3d& along, Vector3d& u, Vector3d& v) {
    along = (s.to_mm - s.from_mm).normalized();
    sectionAxes(along, u, v);
    const Eigen::AngleAxisd roll(s.roll_deg / quantity::deg_per_rad, along);
    u = roll * u;
    v = roll * v;
}

/// Outer box of a section in (u, v).
void sectionSpans(const Section& section, Span& u, Span& v) {
    if (const auto* polygon = std::get_if<PolygonSection>(&section)) {
        u = spanOf(polygon->points_mm, 0);
        v = spanOf(polygon->points_mm, 1);
        return;
    }
    const auto walled = [&](const auto& s) {
        u = {-s.width_mm / 2, s.width_mm / 2};
        v = {-s.height_mm / 2, s.height_mm / 2};
    };
    if (const auto* tube = std::get_if<RectTubeSection>(&section))
        walled(*tube);
    else if (const auto* round = std::get_if<RoundTubeSection>(&section))
        u = v = {-round->diameter_mm / 2, round->diameter_mm / 2};
    else
        walled(std::get<CSection>(section));
}

struct Extents {
    AlignedBox3d operator()(const BoxSpec& s) const { return {-s.size_mm / 2, s.size_mm / 2}; }
    AlignedBox3d operator()(const SphereSpec& s) const {
        return {Vector3d::Constant(-s.diameter_mm / 2), Vector3d::Constant(s.diameter_mm / 2)};
    }
    AlignedBox3d operator()(const CylinderSpec& s) const {
        const Vector3d d = (s.to_mm - s.from_mm).normalized();
        const Vector3d round = s.diameter_mm / 2 * (Vector3d::Ones() - d.cwiseAbs2()).cwiseMax(0).cwiseSqrt();
        return {s.from_mm.cwiseMin(s.to_mm) - round, s.from_mm.cwiseMax(s.to_mm) + round};
    }
    AlignedBox3d operator()(const TubeSpec& s) const {
        AlignedBox3d box;
        for (std::size_t i = 1; i < s.path_mm.size(); ++i)
            if (s.path_mm[i] != s.path_mm[i - 1])
                box.extend((*this)(CylinderSpec{s.path_mm[i - 1], s.path_mm[i], s.diameter_mm}));
        return box;
    }
    AlignedBox3d operator()(const ProfileSpec& s) const {
        Vector3d along, u, v;
        axesOf(s, along, u, v);
        Span su, sv;
        sectionSpans(s.section, su, sv);
        AlignedBox3d box;
        for (const Vector3d& end : {s.from_mm, s.to_mm})
            for (const double a : {su.low, su.high})
                for (const double b : {sv.low, sv.high}) box.extend(Vector3d(end + a * u + b * v));
        return box;
    }
    AlignedBox3d operator()(const PlateSpec& s) const {
        const Span x = spanOf(s.outline_mm, 0), y = spanOf(s.outline_mm, 1);
        return {Vector3d(x.low, y.low, 0), Vector3d(x.high, y.high, s.thickness_mm)};
    }
    AlignedBox3d operator()(const SheetSpec& s) const {
        Vector3d low = Vector3d::Zero(), high = Vector3d::Zero();
        for (int axis = 0; axis < 3; ++axis) {
            const int at = pointAxis(s.along, axis);
            Span span{s.stations.front().at_mm, s.stations.back().at_mm};
            if (at >= 0) {
                span = spanOf(s.stations.front().points_mm, at);
                for (const SheetStation& station : s.stations) {
                    const Span here = spanOf(station.points_mm, at);
                    span = {std::min(span.low, here.low), std::max(span.high, here.high)};
                }
            }
            low[axis] = span.low;
            high[axis] = span.high;
        }
        return {low, high};
    }
};

Error fixedFace() { return Error{"this edge has no measure of its own", "", "type the body's measures instead"}; }

/// Moves the face of a shape; what cannot be said in the shape's own measures goes into `origin_mm`, body frame.
class FaceMover {
public:
    FaceMover(int axis, const Span& from, const Span& to, Vector3d& origin_mm)
        : axis_(axis), from_(from), to_(to), by_mm_(to.low - from.low + to.high - from.high), origin_mm_(origin_mm) {}

    Result<void> operator()(BoxSpec& s) {
        s.size_mm[axis_] = to_.size();
        return centre();
    }
    Result<void> operator()(SphereSpec& s) {
        s.diameter_mm = to_.size();
        return centre();
    }
    Result<void> operator()(CylinderSpec& s) {
        std::vector<Vector3d> ends{s.from_mm, s.to_mm};
        const auto done = bar(ends, s.diameter_mm);
        s.from_mm = ends[0], s.to_mm = ends[1];
        return done;
    }
    Result<void> operator()(TubeSpec& s) { return bar(s.path_mm, s.diameter_mm); }
    Result<void> operator()(ProfileSpec& s) {
        Vector3d along, u, v;
        axesOf(s, along, u, v);
        if (std::abs(along[axis_]) > straight_cos) {
            for (Vector3d* end : {&s.from_mm, &s.to_mm}) (*end)[axis_] = remapped((*end)[axis_], from_, to_);
            return {};
        }
        const bool acrossU = std::abs(u[axis_]) > straight_cos, acrossV = std::abs(v[axis_]) > straight_cos;
        if (!acrossU && !acrossV) return fixedFace();
        if (auto* polygon = std::get_if<PolygonSection>(&s.section)) {
            const double sign = (acrossU ? u : v)[axis_] > 0 ? 1 : -1;
            const double base = s.from_mm[axis_]; // square to the axis: both ends share it
            for (Vector2d& p : polygon->points_mm) {
                double& c = p[acrossU ? 0 : 1];
                c = sign * (remapped(base + sign * c, from_, to_) - base);
            }
            return {};
        }
        const auto size = [&](auto& section) { (acrossU ? section.width_mm : section.height_mm) = to_.size(); };
        if (auto* tube = std::get_if<RectTubeSection>(&s.section))
            size(*tube);
        else if (auto* round = std::get_if<RoundTubeSection>(&s.section))
            round->diameter_mm = to_.size();
        else
            size(std::get<CSection>(s.section));
        for (Vector3d* end : {&s.from_mm, &s.to_mm}) (*end)[axis_] += by_mm_ / 2;
        return {};
    }
    Result<void> operator()(PlateSpec& s) {
        if (axis_ == 2) {
            s.thickness_mm = to_.size();
            origin_mm_[2] += to_.low - from_.low;
            return {};
        }
        for (Vector2d& p : s.outline_mm) p[axis_] = remapped(p[axis_], from_, to_);
        return {};
    }
    Result<void> operator()(SheetSpec& s) {
        const int at = pointAxis(s.along, axis_);
        if (from_.size() < flat_mm) return fixedFace();
        for (SheetStation& station : s.stations) {
            if (at < 0)
                station.at_mm = remapped(station.at_mm, from_, to_);
            else
                for (Vector2d& p : station.points_mm) p[at] = remapped(p[at], from_, to_);
        }
        return {};
    }

private:
    Result<void> centre() {
        origin_mm_[axis_] += by_mm_ / 2;
        return {};
    }
    /// Round bar along a path: its ends where the path runs along the axis, its diameter where it runs square to it.
    Result<void> bar(std::vector<Vector3d>& path, double& diameter_mm) {
        const Span points = spanOf(path, axis_);
        if (points.size() < square_cos * (path.back() - path.front()).norm() || points.size() < flat_mm) {
            diameter_mm = std::max(to_.size() - points.size(), thinnest_mm);
            for (Vector3d& p : path) p[axis_] += by_mm_ / 2;
            return {};
        }
        const Span wanted{points.low + to_.low - from_.low, points.high + to_.high - from_.high};
        if (wanted.size() < thinnest_mm) return Error{"the ends would meet", "", "drag less far"};
        for (Vector3d& p : path) p[axis_] = remapped(p[axis_], points, wanted);
        return {};
    }

    int axis_;
    Span from_, to_;
    double by_mm_; ///< by how much one of the two faces moved
    Vector3d& origin_mm_;
};

Vector3d mirroredPoint(Vector3d p) {
    p.y() = -p.y();
    return p;
}

struct Mirror {
    void operator()(BoxSpec&) const {}
    void operator()(SphereSpec&) const {}
    void operator()(CylinderSpec& s) const { s.from_mm = mirroredPoint(s.from_mm), s.to_mm = mirroredPoint(s.to_mm); }
    void operator()(TubeSpec& s) const {
        for (Vector3d& p : s.path_mm) p = mirroredPoint(p);
    }
    void operator()(ProfileSpec& s) const {
        s.from_mm = mirroredPoint(s.from_mm);
        s.to_mm = mirroredPoint(s.to_mm);
        s.roll_deg = -s.roll_deg; // a mirror turns the sense of turning about
        // u = v × direction changes its sign in a mirror: what opened towards u opens away from it.
        if (auto* polygon = std::get_if<PolygonSection>(&s.section)) {
            for (Vector2d& p : polygon->points_mm) p.x() = -p.x();
            std::reverse(polygon->points_mm.begin(), polygon->points_mm.end());
        } else if (std::holds_alternative<CSection>(s.section)) {
            s.roll_deg += s.roll_deg > 0 ? -180 : 180;
        }
    }
    void operator()(PlateSpec& s) const {
        for (Vector2d& p : s.outline_mm) p.y() = -p.y();
        std::reverse(s.outline_mm.begin(), s.outline_mm.end());
    }
    void operator()(SheetSpec& s) const {
        if (s.along == Axis::Y) {
            for (SheetStation& station : s.stations) station.at_mm = -station.at_mm;
            std::reverse(s.stations.begin(), s.stations.end());
            return;
        }
        // Walked the other way round, so that the metal stays on the same side.
        for (SheetStation& station : s.stations) {
            for (Vector2d& p : station.points_mm) p[s.along == Axis::X ? 0 : 1] *= -1;
            std::reverse(station.points_mm.begin(), station.points_mm.end());
        }
    }
};

} // namespace

AlignedBox3d extents_mm(const ShapeSpec& shape) { return std::visit(Extents(), shape); }

Result<Body> withFaceMoved(const Body& body, Axis axis, bool high, double by_mm) {
    const AlignedBox3d box = extents_mm(body.shape);
    const int i = static_cast<int>(axis);
    const Span from{box.min()[i], box.max()[i]};
    const Span to{from.low + (high ? 0 : by_mm), from.high + (high ? by_mm : 0)};
    if (to.size() < thinnest_mm) return Error{"it would have no thickness left", body.name, "drag less far"};
    Body out = body;
    Vector3d origin_mm = Vector3d::Zero();
    FaceMover mover(i, from, to, origin_mm);
    const auto done = std::visit([&mover](auto& spec) { return mover(spec); }, out.shape);
    if (!done) {
        Error error = done.error();
        error.where = body.name;
        return error;
    }
    out.position_mm += body.poseOwnerBody().linear() * origin_mm;
    return out;
}

ShapeKind kindOf(const ShapeSpec& shape) {
    if (const auto* profile = std::get_if<ProfileSpec>(&shape))
        return std::holds_alternative<RectTubeSection>(profile->section)    ? ShapeKind::RectTube
               : std::holds_alternative<RoundTubeSection>(profile->section) ? ShapeKind::RoundTube
               : std::holds_alternative<CSection>(profile->section)         ? ShapeKind::CProfile
                                                                            : ShapeKind::PolygonProfile;
    constexpr ShapeKind kinds[] = {ShapeKind::Box,      ShapeKind::Cylinder, ShapeKind::Sphere, ShapeKind::Tube,
                                   ShapeKind::RectTube, ShapeKind::Plate,    ShapeKind::Sheet};
    return kinds[shape.index()];
}

Body withKind(const Body& body, ShapeKind kind) {
    if (kindOf(body.shape) == kind) return body;
    const AlignedBox3d box = extents_mm(body.shape);
    const Vector3d size = box.sizes().cwiseMax(thinnest_mm), middle = box.center();
    int longest = 0;
    size.maxCoeff(&longest);
    const int one = longest == 0 ? 1 : 0, other = longest == 2 ? 1 : 2;
    const double girth = std::min(size[one], size[other]);
    Vector3d from = middle, to = middle;
    from[longest] -= size[longest] / 2;
    to[longest] += size[longest] / 2;
    Vector3d u, v;
    const Vector3d along = (to - from).normalized();
    sectionAxes(along, u, v);
    const double wide = size.dot(u.cwiseAbs()), high = size.dot(v.cwiseAbs());
    const double wall = std::min(first_wall_mm, std::min(wide, high) / 4);
    Body out = body;
    const auto recentred = [&](const Vector3d& at) { out.position_mm += body.poseOwnerBody().linear() * at; };
    const auto profile = [&](Section section) { out.shape = ProfileSpec{std::move(section), from, to, 0}; };
    switch (kind) {
    case ShapeKind::Box: out.shape = BoxSpec{size}, recentred(middle); break;
    case ShapeKind::Sphere: out.shape = SphereSpec{size.maxCoeff()}, recentred(middle); break;
    case ShapeKind::Cylinder: out.shape = CylinderSpec{from, to, girth}; break;
    case ShapeKind::Tube: out.shape = TubeSpec{{from, to}, girth, girth * usual_bend}; break;
    case ShapeKind::RectTube: profile(RectTubeSection{wide, high, wall}); break;
    case ShapeKind::RoundTube: profile(RoundTubeSection{std::min(wide, high), wall}); break;
    case ShapeKind::CProfile: profile(CSection{wide, high, wall}); break;
    case ShapeKind::PolygonProfile: {
        const Vector2d h(wide / 2, high / 2);
        profile(PolygonSection{{-h, {h.x(), -h.y()}, h, {-h.x(), h.y()}}});
        break;
    }
    case ShapeKind::Plate: {
        const Vector3d a = box.min(), b = a + size;
        out.shape = PlateSpec{{{a.x(), a.y()}, {b.x(), a.y()}, {b.x(), b.y()}, {a.x(), b.y()}}, size.z()};
        recentred({0, 0, a.z()});
        break;
    }
    case ShapeKind::Sheet: {
        const double t = std::min(first_sheet_mm, std::min(size.y() / 4, size.z() / 2));
        const Vector3d a = box.min(), b = a + size;
        const std::vector<Vector2d> arch{
            {a.y() + t, a.z()}, {a.y() + t, b.z() - t}, {b.y() - t, b.z() - t}, {b.y() - t, a.z()}};
        out.shape = SheetSpec{Axis::X, {{a.x(), arch}, {b.x(), arch}}, t};
        break;
    }
    }
    return out;
}

Body mirrored(const Body& body) {
    // With M the mirror: M·R·s + M·t = (M·R·M)·(M·s) + M·t, and M·R·M turns by −yaw, pitch, −roll.
    Body out = body;
    std::visit(Mirror(), out.shape);
    out.position_mm = mirroredPoint(body.position_mm);
    out.shift_mm = mirroredPoint(body.shift_mm);
    out.angles.yaw_deg = -body.angles.yaw_deg;
    out.angles.roll_deg = -body.angles.roll_deg;
    return out;
}

std::string mirroredName(const std::string& name) {
    const std::pair<const char*, const char*> words[] = {
        {"left", "right"}, {"right", "left"}, {"Left", "Right"}, {"Right", "Left"}};
    for (const auto& word : words) {
        const std::string from = word.first;
        for (std::size_t at = name.find(from); at != std::string::npos; at = name.find(from, at + 1)) {
            const auto letter = [&name](std::size_t i) { return i < name.size() && quantity::isLetter(name[i]); };
            if ((at > 0 && letter(at - 1)) || letter(at + from.size())) continue; // "upright"
            return name.substr(0, at) + word.second + name.substr(at + from.size());
        }
    }
    return name + " (mirrored)";
}

} // namespace gabarit::model
