// Directions as a gauge gives them, against what a square and a table of tangents say.
#include "model/leaning.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit::model;
using Eigen::Vector3d;

class LeaningTest : public QObject {
    Q_OBJECT
private slots:
    /// Straight ways are exact, so that what is chosen writes whole numbers.
    void straightWaysAreExact() {
        for (const Straight way : all_straight) {
            QCOMPARE(directionOf({way, {0, 0}}), along(way));
            const Leaning back = leaningOf(3 * along(way));
            QCOMPARE(static_cast<int>(back.way), static_cast<int>(way));
            QCOMPARE(back.lean_deg[0], 0.0);
            QCOMPARE(back.lean_deg[1], 0.0);
        }
        QCOMPARE(along(Straight::Rearward), Vector3d(1, 0, 0)); // ISO 4130
        QCOMPARE(along(Straight::Right), Vector3d(0, 1, 0));
        QCOMPARE(along(Straight::Up), Vector3d(0, 0, 1));
    }
    /// A seat 35° outward to the right and 10° forward: by tangents, rise 1, run 0.70021 and 0.17633.
    void twoLeansAreTwoTangents() {
        const Vector3d seat = directionOf({Straight::Up, {10, 35}});
        QVERIFY(std::abs(-seat.x() / seat.z() - 0.176327) < 1e-6);
        QVERIFY(std::abs(seat.y() / seat.z() - 0.700208) < 1e-6);
        QVERIFY(std::abs(seat.norm() - 1) < 1e-12);
        // A shaft 3:4 up and forward: mostly forward, leaning up by atan(3/4).
        const Leaning shaft = leaningOf({-4, 0, 3});
        QCOMPARE(static_cast<int>(shaft.way), static_cast<int>(Straight::Forward));
        QVERIFY(std::abs(shaft.lean_deg[0] - 36.869898) < 1e-6);
        QVERIFY(std::abs(shaft.lean_deg[1]) < 1e-12);
    }
    /// Whatever direction goes in comes out, and no lean of it is above 45°.
    void everyDirectionComesBack() {
        for (int i = 0; i < 2000; ++i) {
            const double turn = 2.39996 * i, height = 1 - (2 * i + 1) / 2000.0; // evenly over the sphere
            const double across = std::sqrt(1 - height * height);
            const Vector3d given(across * std::cos(turn), across * std::sin(turn), height);
            const Leaning leaning = leaningOf(given);
            QVERIFY((directionOf(leaning) - given).norm() < 1e-12);
            for (const double lean_deg : leaning.lean_deg) QVERIFY(std::abs(lean_deg) <= 45 + 1e-9);
        }
    }
    /// What is typed beyond a right angle is where the gauge would point, not thrown back.
    void beyondARightAngle() {
        QVERIFY((directionOf({Straight::Up, {90, 0}}) - along(Straight::Forward)).norm() < 1e-12);
        const Vector3d over = directionOf({Straight::Up, {120, 0}});
        QVERIFY(std::abs(over.x() + std::sqrt(0.75)) < 1e-12 && std::abs(over.z() + 0.5) < 1e-12);
        QVERIFY((directionOf({Straight::Left, {0, 180}}) - along(Straight::Right)).norm() < 1e-12);
    }
    /// A mirrored direction leans the other way to the sides and the same way otherwise.
    void mirrored() {
        const Vector3d seat = directionOf({Straight::Up, {10, 35}});
        const Leaning other = leaningOf({seat.x(), -seat.y(), seat.z()});
        QVERIFY(std::abs(other.lean_deg[0] - 10) < 1e-9 && std::abs(other.lean_deg[1] + 35) < 1e-9);
    }
};

GABARIT_SUITE(LeaningTest)
#include "leaning_test.moc"
