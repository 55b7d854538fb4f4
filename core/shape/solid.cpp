#include "shape/solid.h"

#include "quantity/quantity.h"
#include "shape/occt.h"
#include "shape/section.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepOffsetAPI_MakePipe.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>

#include <cmath>

namespace gabarit::shape {

namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using quantity::deg_per_rad;

// The kernel's own confusion tolerance is 1e-7; welding at ten times the mesher's rounding keeps neighbours joined.
constexpr double weld_grain_mm = 1e-5;
// A body of five metres is meshed to a tenth of a millimetre; one of a kilometre, likely a slip of the keys, must not
// stop the program with millions of triangles.
constexpr double finest_share_of_size = 2e-5;
// Fine enough that a round part looks round on paper; the chord limit does the rest.
constexpr double angular_deflection_rad = 0.35;

template <class Lift>
std::vector<Vector3d> lifted(const std::vector<Vector2d>& points, Lift lift) {
    std::vector<Vector3d> out;
    out.reserve(points.size());
    for (const Vector2d& p : points) out.push_back(lift(p));
    return out;
}

template <class Lift>
Result<TopoDS_Shape> prism(const SectionOutline& section, Lift lift, const Vector3d& along) {
    if (!isSimple(section.outer))
        return impossible("the outline crosses itself", "put its points in order round the edge");
    BRepBuilderAPI_MakeFace face(polygonWire(lifted(section.outer, lift)), true);
    for (const auto& hole : section.holes) {
        TopoDS_Wire rim = polygonWire(lifted(hole, lift));
        rim.Reverse(); // the bore lies outside of the face
        face.Add(rim);
    }
    if (!face.IsDone()) return impossible("the outline makes no face", "check its points");
    return TopoDS_Shape(BRepPrimAPI_MakePrism(face.Face(), gp_Vec(along.x(), along.y(), along.z())).Shape());
}

struct Maker {
    Result<TopoDS_Shape> operator()(const model::BoxSpec& s) const {
        const Vector3d corner = -s.size_mm / 2;
        return TopoDS_Shape(BRepPrimAPI_MakeBox(pnt(corner), s.size_mm.x(), s.size_mm.y(), s.size_mm.z()).Shape());
    }
    Result<TopoDS_Shape> operator()(const model::CylinderSpec& s) const {
        const Vector3d axis = s.to_mm - s.from_mm;
        return TopoDS_Shape(
            BRepPrimAPI_MakeCylinder(gp_Ax2(pnt(s.from_mm), dir(axis)), s.diameter_mm / 2, axis.norm()).Shape());
    }
    Result<TopoDS_Shape> operator()(const model::SphereSpec& s) const {
        return TopoDS_Shape(BRepPrimAPI_MakeSphere(s.diameter_mm / 2).Shape());
    }
    Result<TopoDS_Shape> operator()(const model::TubeSpec& s) const {
        std::vector<Vector3d> path;
        for (const Vector3d& p : s.path_mm) { // drop repeated and collinear points
            if (!path.empty() && (p - path.back()).norm() < 1e-6) continue;
            if (path.size() >= 2) {
                const Vector3d before = (path.back() - path[path.size() - 2]).normalized();
                if (before.cross((p - path.back()).normalized()).norm() < 1e-6 && before.dot(p - path.back()) > 0)
                    path.pop_back();
            }
            path.push_back(p);
        }
        if (path.size() < 2) return impossible("the path has no length", "set its points apart");
        if (path.size() > 2 && s.bend_radius_mm <= s.diameter_mm / 2)
            return impossible("the bend radius is not above half the diameter",
                              "give the centreline radius of the bends");
        BRepBuilderAPI_MakeWire wire;
        Vector3d from = path.front();
        for (std::size_t i = 1; i < path.size(); ++i) {
            Vector3d to = path[i];
            if (i + 1 < path.size()) {
                const Vector3d in = (path[i] - path[i - 1]).normalized();
                const Vector3d out = (path[i + 1] - path[i]).normalized();
                const double bend_rad = std::acos(std::max(-1.0, std::min(1.0, in.dot(out))));
                if (bend_rad > 175 / deg_per_rad)
                    return impossible("the path turns back on itself at point " + std::to_string(i + 1),
                                      "make a U bend of two corners");
                const double setback = s.bend_radius_mm * std::tan(bend_rad / 2);
                to = path[i] - in * setback;
                const double straight = (to - from).dot(in);
                const double next = (path[i + 1] - path[i]).norm() - setback;
                if (straight < -1e-6 || next < -1e-6)
                    return impossible("the bend at point " + std::to_string(i + 1) +
                                          " does not fit between its neighbours",
                                      "use a smaller bend radius or move the points apart");
                if (straight > 1e-6) wire.Add(BRepBuilderAPI_MakeEdge(pnt(from), pnt(to)).Edge());
                const Vector3d end = path[i] + out * setback;
                const Vector3d inward = (out - in).normalized();
                const Vector3d mid = path[i] + inward * s.bend_radius_mm * (1 / std::cos(bend_rad / 2) - 1);
                wire.Add(BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(pnt(to), pnt(mid), pnt(end)).Value()).Edge());
                from = end;
            } else if ((to - from).norm() > 1e-6) {
                wire.Add(BRepBuilderAPI_MakeEdge(pnt(from), pnt(to)).Edge());
            }
        }
        const Vector3d start = (path[1] - path[0]).normalized();
        const gp_Circ circle(gp_Ax2(pnt(path.front()), dir(start)), s.diameter_mm / 2);
        const TopoDS_Wire ring = BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire();
        BRepOffsetAPI_MakePipe pipe(wire.Wire(), BRepBuilderAPI_MakeFace(ring, true).Face());
        return TopoDS_Shape(pipe.Shape());
    }
    Result<TopoDS_Shape> operator()(const model::ProfileSpec& s) const {
        const Vector3d along = s.to_mm - s.from_mm;
        Vector3d u, v;
        sectionAxes(along.normalized(), u, v);
        const Eigen::AngleAxisd roll(s.roll_deg / deg_per_rad, along.normalized());
        const Vector3d ru = roll * u, rv = roll * v;
        if (const auto* round = std::get_if<model::RoundTubeSection>(&s.section)) {
            const auto bar = [&](double radius) {
                return BRepPrimAPI_MakeCylinder(gp_Ax2(pnt(s.from_mm), dir(along)), radius, along.norm()).Shape();
            };
            return TopoDS_Shape(
                BRepAlgoAPI_Cut(bar(round->diameter_mm / 2), bar(round->diameter_mm / 2 - round->wall_mm)).Shape());
        }
        return prism(
            outlineOf(s.section), [&](const Vector2d& p) { return Vector3d(s.from_mm + p.x() * ru + p.y() * rv); },
            along);
    }
    Result<TopoDS_Shape> operator()(const model::PlateSpec& s) const {
        return prism(
            SectionOutline{s.outline_mm, {}}, [](const Vector2d& p) { return Vector3d(p.x(), p.y(), 0); },
            Vector3d(0, 0, s.thickness_mm));
    }
    Result<TopoDS_Shape> operator()(const model::SheetSpec& s) const {
        BRepOffsetAPI_ThruSections loft(true, true);
        loft.CheckCompatibility(false);
        for (const model::SheetStation& station : s.stations) {
            const std::vector<Vector2d> outline = thickened(station.points_mm, s.thickness_mm);
            if (!isSimple(outline))
                return impossible("the sheet crosses itself at the station " + quantity::fixed(station.at_mm, 1) +
                                      " mm",
                                  "check the order of its points and the thickness against its shortest side");
            loft.AddWire(polygonWire(lifted(outline, [&](const Vector2d& p) {
                switch (s.along) {
                case model::Axis::X: return Vector3d(station.at_mm, p.x(), p.y());
                case model::Axis::Y: return Vector3d(p.x(), station.at_mm, p.y());
                default: return Vector3d(p.x(), p.y(), station.at_mm);
                }
            })));
        }
        loft.Build();
        if (!loft.IsDone())
            return impossible("the stations cannot be joined", "check that their points run in the same order");
        return loft.Shape();
    }
};

bool isFlat(const model::ShapeSpec& spec) {
    // A sheet's sides between stations are ruled: flat only when their four corners are, which is not promised.
    if (const auto* profile = std::get_if<model::ProfileSpec>(&spec))
        return !std::holds_alternative<model::RoundTubeSection>(profile->section);
    return std::holds_alternative<model::BoxSpec>(spec) || std::holds_alternative<model::PlateSpec>(spec);
}

Mesh triangulation(const TopoDS_Shape& shape, double deflection_mm) {
    BRepMesh_IncrementalMesh mesher(shape, deflection_mm, false, angular_deflection_rad, false);
    Mesh raw;
    for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
        const TopoDS_Face face = TopoDS::Face(faces.Current());
        TopLoc_Location location;
        const Handle(Poly_Triangulation) patch = BRep_Tool::Triangulation(face, location);
        if (patch.IsNull()) continue;
        const int base = static_cast<int>(raw.points.size());
        for (int i = 1; i <= patch->NbNodes(); ++i) {
            const gp_Pnt p = patch->Node(i).Transformed(location.Transformation());
            raw.points.emplace_back(p.X(), p.Y(), p.Z());
        }
        for (int i = 1; i <= patch->NbTriangles(); ++i) {
            int a = 0, b = 0, c = 0;
            patch->Triangle(i).Get(a, b, c);
            if (face.Orientation() == TopAbs_REVERSED) std::swap(b, c);
            raw.triangles.push_back(Triangle{{base + a - 1, base + b - 1, base + c - 1}});
        }
    }
    return welded(raw, weld_grain_mm);
}

} // namespace

Result<Solid> makeSolid(const model::ShapeSpec& spec) {
    return guarded([&]() -> Result<Solid> {
        auto made = std::visit(Maker{}, spec);
        if (!made) return made.error();
        TopoDS_Shape shape = made.value();
        if (shape.IsNull() || !BRepCheck_Analyzer(shape).IsValid())
            return impossible("these measurements make no sound solid", "check that no surface crosses another");
        const double volume = volumeOf(shape);
        if (volume < 0) shape.Reverse();
        if (std::abs(volume) < 1e-6) return impossible("these measurements enclose nothing", "check the sizes");
        return Solid(std::make_shared<const Solid::Hidden>(Solid::Hidden{shape, isFlat(spec)}));
    });
}

Result<MeshedSolid> makeMesh(const Solid& solid, double deflection_mm) {
    return guarded([&]() -> Result<MeshedSolid> {
        Bnd_Box box;
        BRepBndLib::Add(solid.hidden().shape, box);
        deflection_mm *= std::max(1.0, finest_share_of_size * std::sqrt(box.SquareExtent()) / default_deflection_mm);
        MeshedSolid out{triangulation(solid.hidden().shape, deflection_mm), solid.hidden().flat ? 0.0 : deflection_mm};
        if (out.mesh.triangles.empty()) return impossible("the solid has no surface", "check its measurements");
        return out;
    });
}

double volume_mm3(const Solid& solid) { return std::abs(volumeOf(solid.hidden().shape)); }

Result<Mesh> commonMesh(const Solid& a, const Eigen::Isometry3d& pose_a, const Solid& b,
                        const Eigen::Isometry3d& pose_b) {
    return guarded([&]() -> Result<Mesh> {
        const TopoDS_Shape at = BRepBuilderAPI_Transform(a.hidden().shape, trsf(pose_a), true).Shape();
        const TopoDS_Shape bt = BRepBuilderAPI_Transform(b.hidden().shape, trsf(pose_b), true).Shape();
        BRepAlgoAPI_Common common(at, bt);
        if (!common.IsDone() || common.HasErrors()) return impossible("the overlap cannot be drawn", "");
        return triangulation(common.Shape(), default_deflection_mm);
    });
}

} // namespace gabarit::shape
