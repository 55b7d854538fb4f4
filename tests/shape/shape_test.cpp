#include "shape/outline.h"
#include "shape/section.h"
#include "shape/solid.h"
#include "shape/swept.h"
#include "support/suite.h"

#include <QtTest>

#include <random>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Isometry3d;
using Eigen::Vector2d;
using Eigen::Vector3d;

namespace {

constexpr double pi = 3.14159265358979323846;

shape::Mesh meshOf(const ShapeSpec& spec, double deflection = 0.1) {
    const auto solid = shape::makeSolid(spec);
    if (!solid) qFatal("%s", solid.error().line().c_str());
    return shape::makeMesh(solid.value(), deflection).value().mesh;
}

SheetSpec tunnel() {
    return SheetSpec{
        Axis::X,
        {{0, {{-200, 0}, {-150, 200}, {150, 200}, {200, 0}}}, {500, {{-150, 0}, {-100, 150}, {100, 150}, {150, 0}}}},
        1.2};
}

Isometry3d someTurn(int seed) {
    std::mt19937 random(static_cast<unsigned>(seed));
    std::uniform_real_distribution<double> d(-1, 1);
    Isometry3d pose = Isometry3d::Identity();
    pose.linear() = Eigen::Quaterniond(d(random), d(random), d(random), d(random)).normalized().toRotationMatrix();
    pose.translation() = 300 * Vector3d(d(random), d(random), d(random));
    return pose;
}

const shape::Viewpoint from_left{Vector3d::UnitX(), Vector3d::UnitZ()};

} // namespace

class ShapeTest : public QObject {
    Q_OBJECT
private slots:
    void sweptRoundHoldsTheBodyAtEveryAngle() {
        // A brick 60 × 100 × 20 beside the axis x: its far corner lies √(90² + 10²) from it.
        const auto solid = shape::makeSolid(model::BoxSpec{{60, 100, 20}});
        const auto made = shape::makeMesh(solid.value()).value();
        const Vector3d a(0, -40, 0), b(1, -40, 0);
        const shape::Swept swept = shape::sweptRound(made.mesh, a, b);
        QVERIFY(shape::isClosed(swept.mesh));
        const double radius = std::hypot(90.0, 10.0);
        QVERIFY(std::abs(shape::volume_mm3(swept.mesh) / (M_PI * radius * radius * 60) - 1) < 0.003);
        QVERIFY(swept.slop_mm > 0 && swept.slop_mm < 0.1);
        for (int degrees = 0; degrees < 360; degrees += 7) {
            const Eigen::Matrix3d turn = Eigen::AngleAxisd(degrees * M_PI / 180, Vector3d::UnitX()).toRotationMatrix();
            for (const Vector3d& p : made.mesh.points) {
                const Vector3d q = a + turn * (p - a);
                const Vector3d inward = q + (Vector3d(0, -40, 0) - q) * 1e-6; // off the surface itself
                QVERIFY(shape::contains(swept.mesh, inward));
            }
        }
        // A cone's slices follow it: no wider than one slice's slope.
        const auto cone = shape::makeMesh(shape::makeSolid(model::CylinderSpec{{0, 0, 0}, {100, 0, 50}, 20}).value());
        const shape::Swept slanted = shape::sweptRound(cone.value().mesh, Vector3d(0, 0, 0), Vector3d(1, 0, 0));
        const Eigen::AlignedBox3d box = shape::boundsOf(slanted.mesh);
        QVERIFY(box.max().z() < 50 + 10 + 2 && box.max().z() > 50 + 8);
        QVERIFY(std::abs(box.min().z() + box.max().z()) < 0.2); // round
    }

    // Volumes by hand: prisms, Pappus for the bend, the sheet as thickness times developed area.
    void volumes_data() {
        QTest::addColumn<int>("which");
        QTest::addColumn<double>("volume_mm3");
        QTest::newRow("box") << 0 << 100.0 * 50 * 20;
        QTest::newRow("cylinder") << 1 << pi * 400 * 300;
        QTest::newRow("sphere") << 2 << 4.0 / 3 * pi * 27000;
        QTest::newRow("bent tube") << 3 << pi * 225 * (140 + 140 + pi / 2 * 60);
        QTest::newRow("rectangular tube") << 4 << (60.0 * 40 - 54 * 34) * 500;
        QTest::newRow("C") << 5 << (65.0 * 130 - 61 * 122) * 1000;
        QTest::newRow("polygon") << 6 << 0.5 * 60 * 40 * 100;
        QTest::newRow("plate") << 7 << 200.0 * 100 * 3;
    }
    void volumes() {
        QFETCH(int, which);
        QFETCH(double, volume_mm3);
        const ShapeSpec specs[] = {BoxSpec{{100, 50, 20}},
                                   CylinderSpec{{1, 2, 3}, {1, 2, 303}, 40},
                                   SphereSpec{60},
                                   TubeSpec{{{0, 0, 0}, {200, 0, 0}, {200, 200, 0}}, 30, 60},
                                   ProfileSpec{RectTubeSection{60, 40, 3}, {0, 0, 0}, {0, 500, 0}, 0},
                                   ProfileSpec{CSection{65, 130, 4}, {0, 0, 0}, {1000, 0, 0}, 30},
                                   ProfileSpec{PolygonSection{{{0, 0}, {60, 0}, {0, 40}}}, {0, 0, 0}, {0, 0, 100}, 0},
                                   PlateSpec{{{0, 0}, {200, 0}, {200, 100}, {0, 100}}, 3}};
        const auto solid = shape::makeSolid(specs[which]);
        QVERIFY2(solid.ok(), solid.ok() ? "" : solid.error().line().c_str());
        QVERIFY(std::abs(shape::volume_mm3(solid.value()) - volume_mm3) < 1e-6 * volume_mm3);
        const shape::Mesh mesh = meshOf(specs[which]);
        QVERIFY(shape::isClosed(mesh));
        const double meshed = shape::volume_mm3(mesh); // positive: outward
        QVERIFY2(std::abs(meshed - volume_mm3) < 0.02 * volume_mm3, qPrintable(QString::number(meshed / volume_mm3)));
    }

    void meshKeepsItsDeflection() {
        for (const double deflection : {0.5, 0.1, 0.02}) {
            const shape::Mesh mesh = meshOf(CylinderSpec{{0, 0, 0}, {0, 0, 100}, 200}, deflection);
            double deepest = 0;
            for (const shape::Triangle& t : mesh.triangles)
                for (int i = 0; i < 3; ++i) {
                    const Vector3d middle = (mesh.points[t.corner[i]] + mesh.points[t.corner[(i + 1) % 3]]) / 2;
                    if (middle.z() > 1 && middle.z() < 99) deepest = std::max(deepest, 100 - middle.head<2>().norm());
                }
            QVERIFY2(deepest <= deflection * 1.01, qPrintable(QString::number(deepest)));
        }
        QCOMPARE(shape::makeMesh(shape::makeSolid(BoxSpec{{1, 1, 1}}).value()).value().deflection_mm, 0.0);
        QCOMPARE(shape::makeMesh(shape::makeSolid(SphereSpec{10}).value(), 0.2).value().deflection_mm, 0.2);
    }

    // The sheet is metal only: what lies under the tunnel is free, its roof is not.
    void tunnelIsNotFilled() {
        const shape::Mesh mesh = meshOf(tunnel());
        QVERIFY(shape::isClosed(mesh));
        QVERIFY(!shape::contains(mesh, {100, 0, 100}));
        QVERIFY(shape::contains(mesh, {0.5, 0, 200.5}));
        QVERIFY(!shape::contains(mesh, {0.5, 0, 202}));
        const double developed = 0.5 * ((300 + 2 * std::hypot(50, 200)) + (200 + 2 * std::hypot(50, 150))) * 500;
        const double volume = shape::volume_mm3(mesh);
        QVERIFY2(std::abs(volume / (developed * 1.2) - 1) < 0.03,
                 qPrintable(QString::number(volume / (developed * 1.2))));
    }

    void profileAxes() {
        Vector3d u, v;
        shape::sectionAxes(Vector3d::UnitX(), u, v); // rearward: u to the right, v up
        QVERIFY((u - Vector3d::UnitY()).norm() < 1e-12 && (v - Vector3d::UnitZ()).norm() < 1e-12);
        for (const Vector3d& d : {Vector3d(0, 0, 1), Vector3d(0, 0, -1), Vector3d(1, 2, 3).normalized()}) {
            shape::sectionAxes(d, u, v);
            QVERIFY(std::abs(u.dot(v)) < 1e-12 && std::abs(u.dot(d)) < 1e-12 && (u.cross(v) - d).norm() < 1e-12);
        }
        // A C-rail open to the right leaves the point in its mouth free and fills the web.
        const shape::Mesh rail = meshOf(ProfileSpec{CSection{65, 130, 4}, {0, 0, 0}, {1000, 0, 0}, 0});
        QVERIFY(!shape::contains(rail, {500, 10, 0}));
        QVERIFY(shape::contains(rail, {500, -30.5, 0}));
        const shape::Mesh turned = meshOf(ProfileSpec{CSection{65, 130, 4}, {0, 0, 0}, {1000, 0, 0}, 180});
        QVERIFY(shape::contains(turned, {500, 30.5, 0}));
    }

    void impossibleShapesSayWhy_data() {
        QTest::addColumn<int>("which");
        QTest::addColumn<QString>("says");
        QTest::newRow("bend too wide") << 0 << "does not fit between its neighbours";
        QTest::newRow("turns back") << 1 << "turns back on itself";
        QTest::newRow("bend tighter than the tube") << 2 << "not above half the diameter";
        QTest::newRow("outline crosses itself") << 3 << "crosses itself";
        QTest::newRow("sheet thicker than its folds") << 4 << "crosses itself";
    }
    void impossibleShapesSayWhy() {
        QFETCH(int, which);
        QFETCH(QString, says);
        const ShapeSpec specs[] = {
            TubeSpec{{{0, 0, 0}, {50, 0, 0}, {50, 50, 0}}, 30, 80},
            TubeSpec{{{0, 0, 0}, {500, 0, 0}, {0, 1, 0}}, 30, 50},
            TubeSpec{{{0, 0, 0}, {500, 0, 0}, {500, 500, 0}}, 30, 10},
            PlateSpec{{{0, 0}, {100, 100}, {100, 0}, {0, 100}}, 3},
            SheetSpec{
                Axis::X, {{0, {{0, 0}, {0, 10}, {5, 10}, {5, 0}}}, {100, {{0, 0}, {0, 10}, {5, 10}, {5, 0}}}}, -20}};
        auto spec = specs[which];
        if (which == 4)
            std::get<SheetSpec>(spec).thickness_mm = 20,
            std::get<SheetSpec>(spec).stations[0].points_mm = {{5, 0}, {5, 10}, {0, 10}, {0, 0}},
            std::get<SheetSpec>(spec).stations[1].points_mm = {{5, 0}, {5, 10}, {0, 10}, {0, 0}};
        const auto solid = shape::makeSolid(spec);
        QVERIFY(!solid.ok());
        QVERIFY2(QString::fromStdString(solid.error().what).contains(says), solid.error().what.c_str());
        QVERIFY(!solid.error().mend.empty());
    }

    // A sphere looks like a circle from everywhere, a box like Cauchy's projection: the sum of its faces' areas times
    // |cos|.
    void silhouetteAreas() {
        const shape::Mesh sphere = meshOf(SphereSpec{100}, 0.02), box = meshOf(BoxSpec{{100, 60, 40}});
        for (int seed = 0; seed < 20; ++seed) {
            const Isometry3d pose = someTurn(seed);
            const shape::Outline round = shape::silhouette(sphere, pose, from_left);
            QVERIFY(std::abs(round.area_mm2() - pi * 2500) < 0.01 * pi * 2500);
            const Vector3d towards = pose.linear().transpose() * from_left.towards_viewer();
            const double expected =
                60 * 40 * std::abs(towards.x()) + 100 * 40 * std::abs(towards.y()) + 100 * 60 * std::abs(towards.z());
            QVERIFY2(std::abs(shape::silhouette(box, pose, from_left).area_mm2() - expected) < 0.5,
                     qPrintable(QString::number(expected)));
        }
    }
    void silhouetteShowsTheHole() {
        // Looking along a rectangular tube: the wall only.
        const shape::Mesh tube = meshOf(ProfileSpec{RectTubeSection{60, 40, 3}, {0, 0, 0}, {0, 500, 0}, 0});
        const shape::Outline outline = shape::silhouette(tube, Isometry3d::Identity(), from_left);
        QCOMPARE(outline.rings.size(), std::size_t{2});
        QVERIFY(std::abs(outline.area_mm2() - (60 * 40 - 54 * 34)) < 0.5);
    }
    void sliceCutsAway() {
        // Seen from the left (−Y): a slice at the middle of a ball leaves the half circle's full disc, at 0.8 r a
        // smaller lid.
        const shape::Mesh ball = meshOf(SphereSpec{100}, 0.02);
        const auto lid = [&](double level) {
            return shape::cutFace(ball, Isometry3d::Identity(), from_left, level).area_mm2();
        };
        QVERIFY(std::abs(lid(0) - pi * 2500) < 0.01 * pi * 2500);
        QVERIFY(std::abs(lid(-40) - pi * 900) < 0.01 * pi * 900);
        QVERIFY(shape::cutFace(ball, Isometry3d::Identity(), from_left, 60).empty());
        QVERIFY(std::abs(shape::silhouette(ball, Isometry3d::Identity(), from_left, -40).area_mm2() - pi * 900) <
                0.01 * pi * 900);
        // A rectangular tube along X cut by a level plane shows its two walls.
        const shape::Mesh tube = meshOf(ProfileSpec{RectTubeSection{60, 40, 3}, {0, 0, 0}, {500, 0, 0}, 0});
        const shape::Viewpoint from_above{Vector3d::UnitX(), Vector3d::UnitY()};
        QVERIFY(std::abs(shape::cutFace(tube, Isometry3d::Identity(), from_above, 0).area_mm2() - 2 * 3 * 500) < 0.5);
    }

    void commonOfTwoBoxes() {
        const auto a = shape::makeSolid(BoxSpec{{100, 100, 100}}).value(),
                   b = shape::makeSolid(BoxSpec{{40, 40, 40}}).value();
        Isometry3d there = Isometry3d::Identity();
        there.translation() = Vector3d(60, 0, 0); // b's left 10 mm stand in a
        const auto mesh = shape::commonMesh(a, Isometry3d::Identity(), b, there);
        QVERIFY(mesh.ok());
        QVERIFY(std::abs(shape::volume_mm3(mesh.value()) - 10 * 40 * 40) < 1e-3);
    }

    void keysTellShapesApart() {
        QCOMPARE(shapeKey(BoxSpec{{1, 2, 3}}), shapeKey(BoxSpec{{1, 2, 3}}));
        QVERIFY(shapeKey(BoxSpec{{1, 2, 3}}) != shapeKey(BoxSpec{{1, 2, 3.0000001}}));
        QVERIFY(shapeKey(SphereSpec{1}) != shapeKey(CylinderSpec{{0, 0, 0}, {0, 0, 1}, 1}));
        QVERIFY(shapeKey(ProfileSpec{CSection{1, 2, 3}, {0, 0, 0}, {1, 0, 0}, 0}) !=
                shapeKey(ProfileSpec{RectTubeSection{1, 2, 3}, {0, 0, 0}, {1, 0, 0}, 0}));
    }
};

GABARIT_SUITE(ShapeTest)
#include "shape_test.moc"
