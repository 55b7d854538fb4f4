// Arcs of leaves, links and arms against circles on paper; speeds against brute force.
#include "kinematics/motion.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>
#include <random>

using namespace gabarit;
using namespace gabarit::kinematics;
using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

constexpr double same_mm = 1e-6;

const std::vector<Freedom>& freedoms() {
    static const std::vector<Freedom> all{{"travel", -90, 80, "full droop", "full bump"},
                                          {"roll", -6, 6, "left up", "right up"},
                                          {"steering", -35, 35, "left lock", "right lock"}};
    return all;
}

AxleMotion axle(std::vector<Link> links) {
    AxleMotion out;
    out.travel = 0;
    out.roll = 1;
    out.centre_mm = {0, 0, 350};
    out.links = std::move(links);
    return out;
}
/// A trailing pair: lower link straight back, upper one shorter and sloping.
AxleMotion linked() { return axle({{{-700, 0, 330}, {0, 0, 300}}, {{-450, 0, 480}, {-20, 0, 430}}}); }
SwingMotion arm() { return {0, {-120, 250, 330}, {140, 260, 320}, {5, 620, 300}}; }

/// Every kind once, and a wheel's chain.
std::vector<std::pair<const char*, Chain>> chains() {
    return {{"straight axle", {axle({})}},
            {"leaf", {axle({leafLink({-650, 0, 380}, {0, 0, 350})})}},
            {"links", {linked()}},
            {"arm", {arm()}},
            {"knuckle", {CarriedMotion{arm()}}},
            {"rack", {SlideMotion{2, {0, 2.1, 0}}}},
            {"wheel", {CarriedMotion{arm()}, TurnMotion{2, {10, 600, 200}, {-10, 580, 420}, 1, {}}}},
            {"axle's wheel", {linked(), TurnMotion{2, {0, 700, 250}, {-30, 690, 450}, 1, {}}}}};
}

} // namespace

class MotionTest : public QObject {
    Q_OBJECT
private slots:
    void atRestNothingMoves() {
        for (const auto& [name, chain] : chains()) {
            QVERIFY2(check(chain, freedoms()).ok(), name);
            QVERIFY2(movedFromRest(chain, atRest(freedoms())).isApprox(Isometry3d::Identity(), 1e-12), name);
        }
    }

    void leafsSeatRunsOnItsCircle() {
        // Eye 650 ahead of the axle and 30 above: the link is three quarters of that, about a point a quarter back.
        const Vector3d eye(-650, 0, 380), seat(0, 0, 350);
        const Vector3d about = eye + (seat - eye) / 4;
        const double radius = (seat - eye).norm() * 3 / 4;
        for (const double travel : {-90.0, -40.0, 15.0, 80.0}) {
            const Isometry3d pose = movedFromRest({axle({leafLink(eye, seat)})}, {travel, 0, 0});
            const Vector3d now = pose * seat;
            QVERIFY(std::abs(now.z() - (seat.z() + travel)) < same_mm);
            QVERIFY(std::abs((now - about).norm() - radius) < same_mm);
            QVERIFY(pose.linear().isApprox(Eigen::Matrix3d::Identity(), 1e-12)); // it stays upright
        }
        // By hand, 80 up: the link's rise at rest is 350 − 372.5 = −22.5 over 487.5, then 57.5 over √(R² − 57.5²).
        const double r2 = 487.5 * 487.5 + 22.5 * 22.5;
        const double back = std::sqrt(r2 - 57.5 * 57.5) - 487.5;
        QVERIFY(std::abs((movedFromRest({axle({leafLink(eye, seat)})}, {80, 0, 0}) * seat).x() - back) < same_mm);
    }

    void twoLinksKeepTheirLengths() {
        const AxleMotion m = linked();
        for (double travel = -90; travel <= 80; travel += 10) {
            const Isometry3d pose = movedFromRest({m}, {travel, 0, 0});
            QVERIFY(std::abs((pose * m.centre_mm).z() - (m.centre_mm.z() + travel)) < 1e-4);
            for (const Link& link : m.links)
                QVERIFY(std::abs((pose * link.moving_mm - link.fixed_mm).norm() -
                                 (link.moving_mm - link.fixed_mm).norm()) < 1e-4);
        }
    }

    void parallelEqualLinksDoNotTipTheAxle() {
        const AxleMotion m = axle({{{-600, 0, 300}, {0, 0, 280}}, {{-600, 0, 450}, {0, 0, 430}}});
        for (const double travel : {-80.0, 70.0}) {
            const Isometry3d pose = movedFromRest({m}, {travel, 0, 0});
            QVERIFY(pose.linear().isApprox(Eigen::Matrix3d::Identity(), 1e-7));
            // Each runs on a circle of its own: 20 down over 600 at rest.
            const double x = std::sqrt(600.0 * 600 + 20 * 20 - std::pow(travel - 20, 2)) - 600;
            QVERIFY(std::abs(pose.translation().x() - x) < 1e-4);
        }
    }

    void rolledTheAxlesRightEndRises() {
        const Isometry3d pose = movedFromRest({axle({})}, {20, 6, 0});
        const Vector3d end = pose * Vector3d(0, 700, 350);
        QVERIFY(std::abs(end.z() - (370 + 700 * std::sin(6 * M_PI / 180))) < same_mm);
        QVERIFY(std::abs(end.y() - 700 * std::cos(6 * M_PI / 180)) < same_mm);
    }

    void armsTipRisesByTheTravelOnItsCircle() {
        const SwingMotion m = arm();
        const Vector3d axis = (m.axis_b_mm - m.axis_a_mm).normalized();
        const auto fromAxis = [&](const Vector3d& p) { return (p - m.axis_a_mm).cross(axis).norm(); };
        for (const double travel : {-90.0, -1.0, 30.0, 80.0}) {
            const Vector3d tip = movedFromRest({m}, {travel, 0, 0}) * m.tip_mm;
            QVERIFY(std::abs(tip.z() - m.tip_mm.z() - travel) < same_mm);
            QVERIFY(std::abs(fromAxis(tip) - fromAxis(m.tip_mm)) < same_mm);
            // What it carries goes along and keeps its attitude.
            const Isometry3d knuckle = movedFromRest({CarriedMotion{m}}, {travel, 0, 0});
            QVERIFY((knuckle * m.tip_mm - tip).norm() < same_mm);
            QVERIFY(knuckle.linear().isApprox(Eigen::Matrix3d::Identity(), 1e-12));
        }
    }

    void aWheelTurnsAboutItsKingpinWhereverThatIs() {
        const TurnMotion kingpin{2, {0, 600, 200}, {0, 600, 500}, 1, {}};
        const Isometry3d pose = movedFromRest({SlideMotion{0, {0, 0, 1}}, kingpin}, {50, 0, 35});
        QVERIFY((pose * Vector3d(0, 600, 300) - Vector3d(0, 600, 350)).norm() < same_mm); // on the pin: only up
        const double c = std::cos(35 * M_PI / 180), s = std::sin(35 * M_PI / 180);
        QVERIFY((pose * Vector3d(100, 600, 300) - Vector3d(100 * c, 600 + 100 * s, 350)).norm() < same_mm);
    }

    void noPointGoesFasterThanItSays_data() {
        QTest::addColumn<int>("which");
        const auto all = chains();
        for (std::size_t i = 0; i < all.size(); ++i) QTest::newRow(all[i].first) << static_cast<int>(i);
    }
    void noPointGoesFasterThanItSays() {
        QFETCH(int, which);
        const Chain chain = chains()[static_cast<std::size_t>(which)].second;
        const AlignedBox3d box(Vector3d(-200, 500, 100), Vector3d(150, 760, 480));
        const std::vector<double> speed = fastest(chain, freedoms(), box);
        // By brute force: steps of 0.1 along each freedom, from states all over the range.
        std::mt19937 seeded(7);
        double closest = 0;
        for (int round = 0; round < 3000; ++round) {
            State a(3), b;
            for (std::size_t i = 0; i < 3; ++i)
                a[i] = std::uniform_real_distribution<double>(freedoms()[i].low, freedoms()[i].high - 0.1)(seeded);
            const std::size_t along = static_cast<std::size_t>(round) % 3;
            b = a;
            b[along] += 0.1;
            double most = 0;
            for (int corner = 0; corner < 8; ++corner) {
                const Vector3d p = box.corner(static_cast<AlignedBox3d::CornerType>(corner));
                most = std::max(most, (movedFromRest(chain, a) * p - movedFromRest(chain, b) * p).norm() / 0.1);
            }
            QVERIFY2(most <= speed[along] + 1e-6, qPrintable(QStringLiteral("%1 > %2").arg(most).arg(speed[along])));
            if (speed[along] > 0) closest = std::max(closest, most / speed[along]);
        }
        QVERIFY2(closest > 0.3, qPrintable(QString::number(closest))); // and it is no idle bound
    }

    void noPointGoesFasterAlongADirection_data() { noPointGoesFasterThanItSays_data(); }
    void noPointGoesFasterAlongADirection() {
        QFETCH(int, which);
        const Chain chain = chains()[static_cast<std::size_t>(which)].second;
        const AlignedBox3d box(Vector3d(-200, 500, 100), Vector3d(150, 760, 480));
        const std::vector<double> full = fastest(chain, freedoms(), box);
        std::mt19937 seeded(11);
        const auto between = [&](double low, double high) {
            return std::uniform_real_distribution<double>(low, high)(seeded);
        };
        for (int round = 0; round < 600; ++round) {
            State middle(3), half(3), there(3);
            for (std::size_t i = 0; i < 3; ++i) {
                const double reach = freedoms()[i].high - freedoms()[i].low;
                half[i] = between(0, reach / 4);
                middle[i] = between(freedoms()[i].low + half[i], freedoms()[i].high - half[i]);
                there[i] = middle[i] + between(-half[i], half[i]);
            }
            const Vector3d n = Vector3d(between(-1, 1), between(-1, 1), between(-1, 1) + 1e-9).normalized();
            const std::vector<double> speed = fastestAlong(chain, freedoms(), box, full, n, middle, half);
            double most = 0;
            for (std::size_t i = 0; i < 3; ++i) {
                QVERIFY(speed[i] <= full[i] + 1e-9);
                most += speed[i] * std::abs(there[i] - middle[i]);
            }
            for (int corner = 0; corner < 8; ++corner) {
                const Vector3d p = box.corner(static_cast<AlignedBox3d::CornerType>(corner));
                const double went = std::abs(n.dot(movedFromRest(chain, there) * p - movedFromRest(chain, middle) * p));
                QVERIFY2(went <= most + 1e-6, qPrintable(QStringLiteral("%1 > %2").arg(went).arg(most)));
            }
        }
    }

    void slidingAcrossDoesNotCount() {
        const Chain slides{SlideMotion{0, {0, 0, 1}}, SlideMotion{1, {1, 0, 0}}};
        const AlignedBox3d box(Vector3d(-1, -1, -1), Vector3d(1, 1, 1));
        const auto speed = fastestAlong(slides, freedoms(), box, fastest(slides, freedoms(), box), Vector3d::UnitZ(),
                                        {0, 0, 0}, {5, 5, 5});
        QCOMPARE(speed, (std::vector<double>{1, 0, 0}));
    }

    void stopsHoldFreedomsTogether() {
        // Travel and roll under bump stops: t + 7·|r| ≤ 80.
        const std::vector<Stop> stops{{{1, 0, 0}, {0, 7, 0}, 80}};
        QVERIFY(allowed(stops, {80, 0, 0}));
        QVERIFY(!allowed(stops, {80, 0.5, 0}));
        QVERIFY(allowed(stops, {45, 5, 35}) && allowed(stops, {45, -5, 0}) && !allowed(stops, {46, -5, 0}));
        QVERIFY(anyAllowed(stops, {80, 0, 0}, {10, 1, 0}));  // its corner at 70 and 0
        QVERIFY(!anyAllowed(stops, {79, 5, 0}, {5, 1, 0}));  // 74 + 28
        QVERIFY(anyAllowed(stops, {60, 3, 0}, {5, 3.5, 0})); // rest of the roll lies inside
        QVERIFY(allowed({}, {1e9, 1e9, 1e9}));
    }

    void locksOfTwoSizes() {
        TurnMotion kingpin{2, {0, 0, 0}, {0, 0, 1}, 1, {}};
        kingpin.per_unit_below_deg = 0.5;
        QCOMPARE(kingpin.degrees(30), 30.0);
        QCOMPARE(kingpin.degrees(-30), -15.0);
    }

    void whatCannotBeIsNamed() {
        const auto says = [](const Chain& chain) {
            const auto checked = check(chain, freedoms());
            return checked.ok() ? QString() : QString::fromStdString(checked.error().line());
        };
        SwingMotion low = arm();
        low.tip_mm = low.axis_a_mm + Vector3d(0, 60, 0); // 60 long, 90 of droop
        QVERIFY(says({low}).contains("does not reach"));
        QVERIFY(says({axle({leafLink({-80, 0, 350}, {0, 0, 350})})}).contains("do not reach"));
        QVERIFY(says({TurnMotion{2, {1, 1, 1}, {1, 1, 1}, 1, {}}}).contains("no direction"));
        QVERIFY(says({SlideMotion{9, {1, 0, 0}}}).contains("not there"));
        std::vector<Freedom> lopsided{{"travel", 10, 80, "", ""}};
        QVERIFY(!check({SlideMotion{0, {0, 0, 1}}}, lopsided).ok());
    }
};

GABARIT_SUITE(MotionTest)
#include "motion_test.moc"
