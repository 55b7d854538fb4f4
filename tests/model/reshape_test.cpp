// Dragged faces and mirror images, held against the solids themselves.
#include "model/edit.h"
#include "model/reshape.h"
#include "shape/solid.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <algorithm>
#include <array>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::AlignedBox3d;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

Body made(const char* name, ShapeSpec shape, const Vector3d& at = Vector3d::Zero(), Angles angles = {}) {
    Body body;
    body.id.text = name;
    body.name = name;
    body.category = "frame";
    body.shape = std::move(shape);
    body.position_mm = at;
    body.angles = angles;
    return body;
}

/// One of each shape, none symmetrical, none at the origin.
std::vector<Body> zoo() {
    const Angles turned{20, -10, 35};
    const std::vector<Vector2d> wedge{{-10, -20}, {40, -20}, {25, 30}};
    SheetSpec sheetX{Axis::X, {{0, {{-60, 0}, {0, 40}, {70, 10}}}, {200, {{-50, 5}, {0, 60}, {80, 0}}}}, 3};
    SheetSpec sheetY = sheetX, sheetZ = sheetX;
    sheetY.along = Axis::Y;
    sheetZ.along = Axis::Z;
    return {made("box", BoxSpec{{100, 60, 40}}, {300, 80, 20}, turned),
            made("cylinder", CylinderSpec{{10, 20, 5}, {210, 20, 5}, 50}, {0, 90, 0}, turned),
            made("slanted", CylinderSpec{{0, 0, 0}, {120, 80, 60}, 30}, {5, 60, 7}),
            made("sphere", SphereSpec{80}, {10, 20, 30}),
            made("tube", TubeSpec{{{0, 0, 0}, {150, 0, 0}, {150, 120, 60}}, 20, 30}, {0, 40, 0}, turned),
            made("c", ProfileSpec{CSection{50, 100, 5}, {0, 10, 0}, {300, 10, 0}, 0}, {0, 70, 0}, turned),
            made("rolled c", ProfileSpec{CSection{50, 100, 5}, {0, 10, 0}, {300, 60, 40}, 25}, {0, 70, 0}),
            made("post", ProfileSpec{CSection{50, 100, 5}, {0, 10, 0}, {0, 10, 250}, 0}, {0, 70, 0}),
            made("tube profile", ProfileSpec{RectTubeSection{60, 40, 3}, {0, 0, 0}, {0, 200, 0}, 15}, {9, 8, 7}),
            made("wedge", ProfileSpec{PolygonSection{wedge}, {0, 0, 0}, {150, 0, 0}, 0}, {3, 90, 5}, turned),
            made("plate", PlateSpec{{{0, 0}, {100, 10}, {70, 90}}, 6}, {20, 40, 60}, turned),
            made("sheet x", sheetX, {0, 50, 0}, turned),
            made("sheet y", sheetY, {0, 50, 0}),
            made("sheet z", sheetZ, {0, 50, 0}, turned)};
}

shape::Mesh meshOf(const Body& body) {
    const auto solid = shape::makeSolid(body.shape);
    if (!solid.ok()) qFatal("%s: %s", body.name.c_str(), solid.error().line().c_str());
    return shape::makeMesh(solid.value()).value().mesh;
}

/// Bounds of the solid in the body's own frame.
AlignedBox3d boundsOf(const Body& body) { return shape::boundsOf(meshOf(body)); }

/// Volume, centre and extents of a body in its owner's frame: enough to tell a shape from its mirror image.
struct Sum {
    double volume = 0;
    Vector3d centre = Vector3d::Zero();
    AlignedBox3d box;
    double skew = 0; ///< third moment ∫xyz about the centre: changes its sign in a mirror
};
Sum sumOf(const Body& body) {
    shape::Mesh mesh = meshOf(body);
    const Eigen::Isometry3d pose = body.poseOwnerBody();
    Sum sum;
    for (Vector3d& v : mesh.points) v = pose * v, sum.box.extend(v);
    sum.volume = shape::volume_mm3(mesh);
    const auto at = [&](const shape::Triangle& t, std::size_t i) -> const Vector3d& {
        return mesh.points[static_cast<std::size_t>(t.corner[i])];
    };
    for (const auto& t : mesh.triangles) {
        const Vector3d &a = at(t, 0), &b = at(t, 1), &c = at(t, 2);
        sum.centre += a.dot(b.cross(c)) / 6 * (a + b + c) / 4;
    }
    sum.centre /= sum.volume;
    for (const auto& t : mesh.triangles) {
        const Vector3d a = at(t, 0) - sum.centre, b = at(t, 1) - sum.centre, c = at(t, 2) - sum.centre;
        const double v = a.dot(b.cross(c)) / 6;
        // Mean of products of barycentric coordinates over a tetrahedron: 3!·α!/6!.
        const std::array<const Vector3d*, 3> p{&a, &b, &c};
        for (std::size_t i = 0; i < 3; ++i)
            for (std::size_t j = 0; j < 3; ++j)
                for (std::size_t k = 0; k < 3; ++k) {
                    const double weight = i == j && j == k ? 36 : i == j || j == k || i == k ? 12 : 6;
                    sum.skew += v * weight / 720 * p[i]->x() * p[j]->y() * p[k]->z();
                }
    }
    return sum;
}

} // namespace

class ReshapeTest : public QObject {
    Q_OBJECT
private slots:
    void extentsAreThoseOfTheSolid() {
        for (const Body& body : zoo()) {
            const AlignedBox3d said = extents_mm(body.shape), is = boundsOf(body);
            const bool loose = body.name == "rolled c" || body.name.rfind("sheet", 0) == 0 || body.name == "tube";
            const double slack = loose ? 35 : 0.2; // the mesh's own deflection
            QVERIFY2((said.min() - is.min()).cwiseAbs().maxCoeff() <= slack, body.name.c_str());
            QVERIFY2((said.max() - is.max()).cwiseAbs().maxCoeff() <= slack, body.name.c_str());
        }
    }

    /// Law: the face that is dragged goes where it is dragged, the opposite one stays.
    void theDraggedFaceMovesAndTheOtherStays() {
        int dragged = 0;
        for (const Body& body : zoo())
            for (const Axis axis : {Axis::X, Axis::Y, Axis::Z})
                for (const bool high : {false, true})
                    for (const double by_mm : {17.0, -9.0}) {
                        const auto moved = withFaceMoved(body, axis, high, by_mm);
                        if (!moved) continue;
                        ++dragged;
                        const int i = static_cast<int>(axis);
                        // Faces of the solids in the old body's frame.
                        const auto faces = [&](const Body& b) {
                            AlignedBox3d box;
                            const Eigen::Isometry3d back = body.poseOwnerBody().inverse() * b.poseOwnerBody();
                            for (const Vector3d& v : meshOf(b).points) box.extend(back * v);
                            return box;
                        };
                        const AlignedBox3d before = faces(body), after = faces(moved.value());
                        // A slanted or bent body keeps its section: its faces follow its ends nearly.
                        const bool bent = body.name == "slanted" || body.name == "tube" || body.name == "rolled c" ||
                                          body.name.rfind("sheet", 0) == 0;
                        const double slack = bent ? 4.0 : 0.3;
                        const double low = after.min()[i] - before.min()[i], top = after.max()[i] - before.max()[i];
                        QVERIFY2(
                            std::abs(low - (high ? 0 : by_mm)) < slack,
                            qPrintable(QString::fromStdString(body.name) + QString(" axis %1 low %2").arg(i).arg(low)));
                        QVERIFY2(
                            std::abs(top - (high ? by_mm : 0)) < slack,
                            qPrintable(QString::fromStdString(body.name) + QString(" axis %1 top %2").arg(i).arg(top)));
                    }
        QVERIFY2(dragged > 100, qPrintable(QString::number(dragged)));
    }
    void noFaceIsDraggedThroughTheOther() {
        QVERIFY(!withFaceMoved(made("box", BoxSpec{{100, 60, 40}}), Axis::Z, true, -39.5));
        QVERIFY(!withFaceMoved(made("rod", CylinderSpec{{0, 0, 0}, {100, 0, 0}, 20}), Axis::X, false, 99.5));
        const auto thin = withFaceMoved(made("box", BoxSpec{{100, 60, 40}}, {0, 0, 10}), Axis::Z, true, -30);
        QVERIFY(thin.ok());
        // By hand: 40 high about 10, the top comes down by 30: 10 high about −5.
        QCOMPARE(std::get<BoxSpec>(thin.value().shape).size_mm.z(), 10.0);
        QCOMPARE(thin.value().position_mm.z(), -5.0);
    }

    /// Law: a mirror image has the same volume, its centre and extents across the plane, and the other hand.
    void mirrorImages() {
        int handed = 0;
        for (const Body& body : zoo()) {
            const Body image = mirrored(body);
            const Sum is = sumOf(body), im = sumOf(image);
            // A sheet's warped faces are split along either diagonal.
            const bool warped = body.name.rfind("sheet", 0) == 0;
            QVERIFY2(std::abs(im.volume / is.volume - 1) < (warped ? 1e-2 : 2e-3), body.name.c_str());
            const Vector3d across(is.centre.x(), -is.centre.y(), is.centre.z());
            QVERIFY2((im.centre - across).norm() < (warped ? 1.0 : 0.2), body.name.c_str());
            QVERIFY2(std::abs(im.box.min().y() + is.box.max().y()) < 0.3, body.name.c_str());
            QVERIFY2(std::abs(im.box.max().x() - is.box.max().x()) < 0.3, body.name.c_str());
            QVERIFY2(std::abs(im.box.min().z() - is.box.min().z()) < 0.3, body.name.c_str());
            // Bodies with a centre of symmetry have no hand: of those only the mesh's grain is left.
            const double grain = 1e-4 * is.volume * std::pow(is.box.diagonal().norm() / 2, 3);
            handed += std::abs(is.skew) > 20 * grain;
            QVERIFY2(std::abs(im.skew + is.skew) <= 0.02 * std::abs(is.skew) + grain, body.name.c_str());
            const Sum back = sumOf(mirrored(image));
            QVERIFY((back.centre - is.centre).norm() < (warped ? 1.0 : 0.05) &&
                    std::abs(back.skew - is.skew) <= 0.02 * std::abs(is.skew) + grain);
        }
        QVERIFY2(handed >= 3, qPrintable(QString::number(handed)));
    }
    /// A box measured as anything else fills the same room, but for what is round.
    void anotherKindFillsTheSameRoom() {
        const Body from = made("block", BoxSpec{{300, 80, 120}}, {40, 50, 60}, {0, 0, 0});
        const AlignedBox3d room(Vector3d(-110, 10, 0), Vector3d(190, 90, 120)); // by hand
        for (const ShapeKind kind : {ShapeKind::Box, ShapeKind::Cylinder, ShapeKind::Sphere, ShapeKind::Tube,
                                     ShapeKind::RectTube, ShapeKind::RoundTube, ShapeKind::CProfile,
                                     ShapeKind::PolygonProfile, ShapeKind::Plate, ShapeKind::Sheet}) {
            const Body body = withKind(from, kind);
            QCOMPARE(kindOf(body.shape), kind);
            const AlignedBox3d is = sumOf(body).box;
            QVERIFY((is.center() - room.center()).norm() < 0.5);
            QVERIFY(std::abs(is.sizes().x() - 300) < 0.5);
            const bool round = kind == ShapeKind::Cylinder || kind == ShapeKind::Sphere || kind == ShapeKind::Tube ||
                               kind == ShapeKind::RoundTube;
            if (!round) QVERIFY((is.min() - room.min()).norm() < 0.01 && (is.max() - room.max()).norm() < 0.01);
            QVERIFY((sumOf(withKind(body, ShapeKind::Box)).box.center() - room.center()).norm() < 1.0);
        }
    }
    void mirroredNames() {
        QCOMPARE(mirroredName("Left frame rail"), std::string("Right frame rail"));
        QCOMPARE(mirroredName("Spring, right"), std::string("Spring, left"));
        QCOMPARE(mirroredName("Upright"), std::string("Upright (mirrored)"));
    }
};

GABARIT_SUITE(ReshapeTest)
#include "reshape_test.moc"
