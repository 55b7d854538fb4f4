// Gaps and depths against closed formulas, for many random places. Each derivation stands with its case; gaps agree to
// 1e-6 mm between flat faces and within the meshes' deflection where a face is round.
#include "proximity/collider_cache.h"
#include "proximity/gap.h"
#include "quantity/quantity.h"
#include "support/suite.h"

#include <QtTest>

#include <random>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Isometry3d;
using Eigen::Vector3d;
using proximity::Contact;

namespace {

class Places {
public:
    double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(random_); }
    Vector3d point(double reach) { return {between(-reach, reach), between(-reach, reach), between(-reach, reach)}; }
    Vector3d direction() {
        for (;;) {
            const Vector3d p = point(1);
            if (p.norm() > 0.1 && p.norm() < 1) return p.normalized();
        }
    }
    Eigen::Matrix3d turn() { return Eigen::AngleAxisd(between(-3.14, 3.14), direction()).toRotationMatrix(); }

private:
    std::mt19937 random_{20240501};
};

Isometry3d at(const Vector3d& place, const Eigen::Matrix3d& turn = Eigen::Matrix3d::Identity()) {
    Isometry3d pose = Isometry3d::Identity();
    pose.linear() = turn;
    pose.translation() = place;
    return pose;
}

} // namespace

class GapReferenceTest : public QObject {
    Q_OBJECT

    proximity::ColliderCache cache_{0.05};

    proximity::Gap gap(const ShapeSpec& a, const Isometry3d& pose_a, const ShapeSpec& b, const Isometry3d& pose_b) {
        proximity::GapRequest request;
        request.range_mm = 2000;
        const auto made_a = cache_.get(a), made_b = cache_.get(b);
        if (!made_a->collider || !made_b->collider) qFatal("a reference shape is not solid");
        deflection_ = made_a->collider->deflection_mm() + made_b->collider->deflection_mm();
        return proximity::gap(*made_a->collider, pose_a, *made_b->collider, pose_b, request);
    }
    double deflection_ = 0;

private slots:
    /// The point of a box nearest to a ball's centre has each coordinate, in the box's frame, clamped to the box.
    void ballAndTurnedBox() {
        Places places;
        const Vector3d size(120, 70, 40);
        int apart = 0;
        for (int i = 0; i < 150; ++i) {
            const Isometry3d box = at(places.point(50), places.turn());
            const Vector3d centre = places.point(200), local = box.inverse() * centre;
            const Vector3d nearest = local.cwiseMax(-size / 2).cwiseMin(size / 2);
            const double expected = (local - nearest).norm() - 25;
            const proximity::Gap found = gap(SphereSpec{50}, at(centre), BoxSpec{size}, box);
            if (expected <= deflection_) continue;
            ++apart;
            QCOMPARE(found.contact, Contact::Apart);
            QVERIFY2(std::abs(found.gap_mm - expected) <= deflection_ + 1e-6,
                     qPrintable(QString::number(found.gap_mm - expected)));
        }
        QVERIFY(apart > 100);
    }

    /// Boxes with parallel edges: along each axis the gap is |d| − (a + b)/2 where that is positive; the distance is
    /// the length of the vector of these. Where all three are negative the shortest way out is the smallest of them.
    void parallelBoxes() {
        Places places;
        const Vector3d a(80, 60, 100), b(120, 40, 50);
        int apart = 0, overlapping = 0;
        for (int i = 0; i < 150; ++i) {
            const Eigen::Matrix3d turn = places.turn();
            const Vector3d off = places.point(110);
            const Vector3d lacking = off.cwiseAbs() - (a + b) / 2;
            const proximity::Gap found = gap(BoxSpec{a}, at(turn * off, turn), BoxSpec{b}, at({0, 0, 0}, turn));
            if (lacking.maxCoeff() > 0.01) {
                ++apart;
                QCOMPARE(found.contact, Contact::Apart);
                QVERIFY(std::abs(found.gap_mm - lacking.cwiseMax(0).norm()) < 1e-6);
            } else if (lacking.maxCoeff() < -0.5) {
                ++overlapping;
                QCOMPARE(found.contact, Contact::Overlap);
                const double depth = -lacking.maxCoeff();
                QVERIFY(found.depth_found);
                // An upper bound, found to two hundredths.
                QVERIFY2(-found.gap_mm > depth - 1e-6 && -found.gap_mm < 1.03 * depth + 0.1,
                         qPrintable(QString("%1 for %2").arg(found.gap_mm).arg(depth)));
            }
        }
        QVERIFY(apart > 50 && overlapping > 10);
    }

    /// Two long round bars on skew axes: |(p2 − p1)·(u × v)| / |u × v| less both radii, where the feet of the common
    /// normal lie on both bars.
    void skewBars() {
        Places places;
        constexpr double half = 400;
        int checked = 0;
        for (int i = 0; i < 200 && checked < 60; ++i) {
            const Vector3d p1 = places.point(60), p2 = p1 + places.direction() * places.between(60, 150);
            const Vector3d u = places.direction(), v = places.direction(), n = u.cross(v);
            if (n.norm() < 0.3) continue;
            // Feet of the common normal: p1 + s·u and p2 + t·v.
            const Vector3d w = p2 - p1;
            const double s = w.cross(v).dot(n) / n.squaredNorm(), t = w.cross(u).dot(n) / n.squaredNorm();
            if (std::abs(s) > half - 60 || std::abs(t) > half - 60) continue;
            const double expected = std::abs(w.dot(n)) / n.norm() - 15 - 10;
            if (expected < 1) continue;
            ++checked;
            const proximity::Gap found = gap(CylinderSpec{p1 - half * u, p1 + half * u, 30}, at({0, 0, 0}),
                                             CylinderSpec{p2 - half * v, p2 + half * v, 20}, at({0, 0, 0}));
            QVERIFY2(std::abs(found.gap_mm - expected) <= deflection_ + 1e-6,
                     qPrintable(QString("%1 for %2").arg(found.gap_mm).arg(expected)));
        }
        QVERIFY(checked >= 40);
    }

    /// A flat-ended bar leaning over a plane touches with the rim of its lower end: its lowest point lies L/2·|cos| +
    /// r·sin below its middle, with the angle between axis and normal. (A round-ended one would give L/2·|cos| + r.)
    void leaningBarOverAPlate() {
        const ShapeSpec plate = BoxSpec{{2000, 2000, 20}};
        for (double angle_deg = 0; angle_deg <= 90; angle_deg += 7.5) {
            const double a = angle_deg / quantity::deg_per_rad;
            const Vector3d axis(std::sin(a), 0, std::cos(a));
            const double lowest = 150 * std::abs(std::cos(a)) + 30 * std::sin(a), height = 300;
            const proximity::Gap found =
                gap(CylinderSpec{Vector3d(0, 0, height) - 150 * axis, Vector3d(0, 0, height) + 150 * axis, 60},
                    at({0, 0, 0}), plate, at({0, 0, -10}));
            QVERIFY2(std::abs(found.gap_mm - (height - lowest)) <= deflection_ + 1e-6,
                     qPrintable(QString::number(angle_deg)));
        }
    }

    /// Balls: the distance of the centres less both radii; inside each other that is minus the shortest way out.
    void balls() {
        Places places;
        for (int i = 0; i < 40; ++i) {
            const double d = places.between(8, 120), expected = d - 30 - 20;
            const proximity::Gap found = gap(SphereSpec{60}, at(places.direction() * d), SphereSpec{40}, at({0, 0, 0}));
            if (std::abs(expected) < 0.5) continue;
            QCOMPARE(found.contact, expected > 0 ? Contact::Apart : Contact::Overlap);
            const double tolerance = expected > 0 ? deflection_ + 1e-6 : 0.03 * -expected + deflection_ + 0.1;
            QVERIFY2(std::abs(found.gap_mm - expected) <= tolerance,
                     qPrintable(QString("%1 for %2").arg(found.gap_mm).arg(expected)));
            // The way out runs along the line of the centres, as near as the search looks (10° between its directions,
            // then refined).
            QVERIFY(std::abs(found.away.norm() - 1) < 1e-9);
        }
    }

    /// A pipe bend over a plane square to the bend's plane: the outer wall stands R + d/2 from the bend's centre.
    void bendBesideAWall() {
        const TubeSpec bend{{{0, 0, 0}, {300, 0, 0}, {300, 300, 0}}, 40, 100}; // centre of the bend: (200, 100)
        for (const double turn_deg : {10.0, 30.0, 45.0, 60.0, 80.0}) {
            const double a = -turn_deg / quantity::deg_per_rad;
            const Vector3d outward(std::cos(a), std::sin(a), 0);
            const Eigen::Matrix3d square =
                (Eigen::Matrix3d() << outward, Vector3d(-outward.y(), outward.x(), 0), Vector3d::UnitZ()).finished();
            const Vector3d wall = Vector3d(200, 100, 0) + outward * (100 + 20 + 33 + 5);
            const proximity::Gap found = gap(bend, at({0, 0, 0}), BoxSpec{{10, 60, 60}}, at(wall, square));
            QVERIFY2(std::abs(found.gap_mm - 33) <= deflection_ + 1e-6, qPrintable(QString::number(found.gap_mm)));
        }
    }

    /// Moving both bodies and the question together changes nothing; nor does asking from the other side.
    void framesAndOrderDoNotMatter() {
        Places places;
        const ShapeSpec rail = ProfileSpec{CSection{65, 130, 4}, {-300, 0, 0}, {300, 0, 0}, 20};
        const ShapeSpec pipe = TubeSpec{{{-200, 0, 0}, {0, 0, 0}, {120, 160, 40}}, 42, 80};
        for (int i = 0; i < 20; ++i) {
            const Isometry3d a = at(places.point(200), places.turn()), b = at(places.point(200), places.turn());
            const Isometry3d frame = at(places.point(1000), places.turn());
            const proximity::Gap here = gap(rail, a, pipe, b), there = gap(rail, frame * a, pipe, frame * b),
                                 back = gap(pipe, b, rail, a);
            QCOMPARE(here.contact, there.contact);
            QCOMPARE(here.contact, back.contact);
            if (here.contact != Contact::Apart) continue;
            QVERIFY(std::abs(here.gap_mm - there.gap_mm) < 1e-6 && std::abs(here.gap_mm - back.gap_mm) < 1e-6);
            // The nearest points need not be the only ones, but they are as far apart as is said, along what is said.
            for (const proximity::Gap& g : {here, there, back}) {
                QVERIFY(std::abs((g.point_a - g.point_b).norm() - g.gap_mm) < 1e-6);
                QVERIFY((g.point_b + g.away * g.gap_mm - g.point_a).norm() < 1e-6);
            }
        }
    }
};

GABARIT_SUITE(GapReferenceTest)
#include "gap_reference_test.moc"
