// Copes against the surfaces themselves, met line by line.
#include "quantity/quantity.h"
#include "relief/cope.h"
#include "relief/section/relief.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using Eigen::Vector3d;

namespace {

/// Along a line of the wall: the first place where it is within the other tube, by small steps and halving.
double firstWithin(const Vector3d& at, const model::TubeEnd& end) {
    const double lean = end.angle_deg / quantity::deg_per_rad;
    const Vector3d axis(std::sin(lean), 0, std::cos(lean)), on(0, end.offset_mm, 0);
    const auto within = [&](double z) {
        const Vector3d p = at + Vector3d(0, 0, z) - on;
        return (p - axis * p.dot(axis)).norm() < end.diameter_mm / 2;
    };
    double z = -1000;
    while (z < 1000 && !within(z)) z += 0.05;
    double out = z - 0.05, in = z;
    for (int i = 0; i < 40; ++i) (within((out + in) / 2) ? in : out) = (out + in) / 2;
    return in;
}

model::TubeEnd onTube(double diameter, double angle, double offset) {
    model::TubeEnd end;
    end.onto = model::EndOnto::Tube;
    end.diameter_mm = diameter;
    end.angle_deg = angle;
    end.offset_mm = offset;
    return end;
}

} // namespace

class CopeTest : public QObject {
    Q_OBJECT
private slots:
    void againstTheSurface_data() {
        QTest::addColumn<double>("angle");
        QTest::addColumn<double>("offset");
        QTest::addColumn<double>("wall");
        QTest::newRow("square") << 90.0 << 0.0 << 3.0;
        QTest::newRow("leaning") << 55.0 << 0.0 << 3.0;
        QTest::newRow("leaning the other way, beside") << 130.0 << 9.0 << 2.0;
        QTest::newRow("beside") << 90.0 << -12.0 << 6.0;
    }
    void againstTheSurface() {
        QFETCH(double, angle);
        QFETCH(double, offset);
        QFETCH(double, wall);
        const model::TubeEnd end = onTube(76, angle, offset);
        const auto cut = relief::endCut(42, wall, end, 36);
        QVERIFY(cut.ok());
        for (int i = 0; i < 36; ++i) {
            const double turn = 2 * EIGEN_PI * i / 36;
            double first = 1e9; // through the wall, in eleven lines
            for (int k = 0; k <= 10; ++k) {
                const double r = 21 - wall * k / 10;
                first = std::min(first, firstWithin({r * std::cos(turn), r * std::sin(turn), 0}, end));
            }
            QVERIFY2(std::abs(cut.value().reach_mm[static_cast<std::size_t>(i)] - first) < 0.02,
                     qPrintable(QString("%1°: %2, by lines %3")
                                    .arg(i * 10)
                                    .arg(cut.value().reach_mm[static_cast<std::size_t>(i)])
                                    .arg(first)));
        }
    }

    void squareOnEqualTubesByHand() {
        // A tube of 50 with a thin wall square on one of 50: along the other's axis it stops at its surface, 25 before
        // the middle; a quarter round, beside it, it reaches to the middle.
        const auto cut = relief::endCut(50, 0.001, onTube(50, 90, 0));
        QVERIFY(cut.ok());
        QVERIFY(std::abs(cut.value().reach_mm[0] + 25) < 1e-3);
        QVERIFY(std::abs(cut.value().longest_mm) < 0.3);
        for (std::size_t i = 0; i < 360; ++i) // the same after half a turn
            QVERIFY(std::abs(cut.value().reach_mm[i] - cut.value().reach_mm[(i + 180) % 360]) < 1e-6);
    }

    void onAPlateByHand() {
        model::TubeEnd end;
        end.onto = model::EndOnto::Plate;
        end.angle_deg = 60;
        const auto cut = relief::endCut(40, 4, end);
        QVERIFY(cut.ok());
        // Long side along the mark: its inner edge meets first there, its outer edge opposite.
        QVERIFY(std::abs(cut.value().longest_mm - 16 / std::tan(60 / quantity::deg_per_rad)) < 1e-6);
        QVERIFY(std::abs(cut.value().shortest_mm + 20 / std::tan(60 / quantity::deg_per_rad)) < 1e-6);
    }

    void besideIsRefused() {
        const auto cut = relief::endCut(50, 3, onTube(60, 90, 8));
        QVERIFY(!cut.ok());
        QVERIFY(cut.error().mend.find("30.0") != std::string::npos);
    }

    void withoutTheOthersDiameter() {
        const auto cut = relief::endCut(50, 3, onTube(0, 90, 0));
        QVERIFY(!cut.ok() && cut.error().what.find("diameter") != std::string::npos);
    }

    void tubeByItsLongPoints() {
        model::CutTube tube;
        tube.name = "Brace";
        tube.diameter_mm = 40;
        tube.wall_mm = 3;
        tube.length_mm = 500;
        tube.first.onto = tube.second.onto = model::EndOnto::Plate;
        tube.first.angle_deg = tube.second.angle_deg = 45;
        const auto made = relief::makeTube(tube, store::defaultRuleBook());
        QVERIFY(made.ok());
        // Both ends at 45°: the long side is 17 longer at each end (inner edge), wherever the ends are turned.
        QVERIFY(std::abs(made.value().long_points_mm - 534) < 1e-3);
        QVERIFY(std::abs(made.value().short_points_mm - 460) < 1e-3);
        const double area = EIGEN_PI * 37 * 3; // mean circumference times wall
        QVERIFY(std::abs(made.value().mass_kg / (area * 500 * 7850e-9) - 1) < 0.02);

        // Turned by half against one another they are parallel, and the same place of the first end is long where the
        // second is short.
        tube.second.turn_deg = 180;
        const auto turned = relief::makeTube(tube, store::defaultRuleBook());
        QVERIFY(turned.ok());
        const auto& a = turned.value();
        QCOMPARE(a.turn_deg, 180.0);
        QVERIFY(std::abs(a.first.reach_mm[0] - a.first.longest_mm) < 1e-6);
        QVERIFY(std::abs(a.second.reach_mm[0] - a.second.shortest_mm) < 0.01);

        const auto box = a.first_wrap.bounds();
        QVERIFY(std::abs(box.sizes().x() - EIGEN_PI * 40.1) < 1e-9); // round it, with the paper
        QCOMPARE(a.first_wrap.marks.size(), std::size_t(4));
    }

    void endsThatCutIntoOneAnother() {
        model::CutTube tube;
        tube.name = "Stub";
        tube.diameter_mm = 40;
        tube.wall_mm = 3;
        tube.length_mm = 30;
        tube.first = tube.second = onTube(60, 90, 0);
        const auto made = relief::makeTube(tube, store::defaultRuleBook());
        QVERIFY(!made.ok());
        QVERIFY(made.error().where.find("Stub") != std::string::npos);
    }

    void barsAreFilled() {
        const auto bars = relief::nested({{"a", 2500}, {"b", 1000}, {"c", 3400}, {"d", 2500}, {"e", 90}}, 6000, 2);
        QVERIFY(bars.ok());
        QCOMPARE(bars.value().size(), std::size_t(2)); // 3400 + 2500 + 90, 2500 + 1000
        QVERIFY(std::abs(bars.value()[0].left_mm - (6000 - 3400 - 2500 - 90 - 6)) < 1e-9);
        QVERIFY(std::abs(bars.value()[1].left_mm - (6000 - 2500 - 1000 - 4)) < 1e-9);
        const auto long_one = relief::nested({{"too long", 6001}}, 6000, 2);
        QVERIFY(!long_one.ok());
        QCOMPARE(long_one.error().where, std::string("too long"));
    }
};

GABARIT_SUITE(CopeTest)
#include "cope_test.moc"
