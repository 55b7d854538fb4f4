// Areas and moments of sections against closed formulas and against fine strips.
#include "relief/section.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using Eigen::Vector2d;
using Ring = std::vector<Vector2d>;

namespace {

Ring box(double low_x, double low_y, double high_x, double high_y) {
    return {{low_x, low_y}, {high_x, low_y}, {high_x, high_y}, {low_x, high_y}};
}
Ring hole(Ring ring) {
    std::reverse(ring.begin(), ring.end());
    return ring;
}
bool near(double a, double b, double share = 1e-9) { return std::abs(a - b) <= share * std::max(1.0, std::abs(b)); }

} // namespace

class SectionTest : public QObject {
    Q_OBJECT
private slots:
    void rectangleByHand() {
        const auto s = relief::sectionOf({{box(10, 20, 50, 80)}}); // 40 wide, 60 high
        QVERIFY(near(s.area_mm2, 2400));
        QVERIFY((s.centre_mm - Vector2d(30, 50)).norm() < 1e-9);
        QVERIFY(near(s.upright_mm4, 40.0 * 60 * 60 * 60 / 12));
        QVERIFY(near(s.sideways_mm4, 60.0 * 40 * 40 * 40 / 12));
        QVERIFY(std::abs(s.product_mm4) < 1e-6);
        QVERIFY(near(s.top_mm3, 40.0 * 60 * 60 / 6) && near(s.bottom_mm3, s.top_mm3));
        QVERIFY(near(s.left_mm3, 60.0 * 40 * 40 / 6) && near(s.right_mm3, s.left_mm3));
        QVERIFY(!s.closed);
        QCOMPARE(s.pieces, 1);
    }

    void tubeByHand() {
        const auto s = relief::sectionOf({{box(-50, -40, 50, 40), hole(box(-45, -35, 45, 35))}});
        QVERIFY(near(s.area_mm2, 100 * 80 - 90 * 70));
        QVERIFY(near(s.upright_mm4, (100.0 * 80 * 80 * 80 - 90.0 * 70 * 70 * 70) / 12));
        QVERIFY(s.closed);
        // Bredt along the middle of the wall: A = 95·75, s = 2·(95 + 75), t = 5.
        const double bredt = 4 * std::pow(95.0 * 75, 2) * 5 / (2 * (95 + 75));
        QVERIFY2(near(s.torsion_mm4, bredt, 1e-9), qPrintable(QString::number(s.torsion_mm4 / bredt)));
    }

    /// Walls of their own thickness: a thick plate helps only where it is.
    void twistingOfUnequalWalls() {
        // Outside 100 × 70; walls 4, below 10, above 10. Middle lines 96 × 60.
        const auto s = relief::sectionOf({{box(-50, 0, 50, 70), hole(box(-46, 10, 46, 60))}});
        const double bredt = 4 * std::pow(96.0 * 60, 2) / (2 * 96.0 / 10 + 2 * 60.0 / 4);
        QVERIFY2(near(s.torsion_mm4, bredt, 1e-9), qPrintable(QString::number(s.torsion_mm4 / bredt)));
        // A round tube of 40 × 3: 2·π·r³·t.
        Ring outer, inner;
        for (int i = 0; i < 360; ++i) {
            const double turn = 2 * M_PI * i / 360;
            outer.emplace_back(20 * std::cos(turn), 20 * std::sin(turn));
            inner.emplace_back(17 * std::cos(turn), 17 * std::sin(turn));
        }
        const auto tube = relief::sectionOf({{outer, hole(inner)}});
        QVERIFY2(near(tube.torsion_mm4, 2 * M_PI * std::pow(18.5, 3) * 3, 1e-3),
                 qPrintable(QString::number(tube.torsion_mm4)));
        // A lip that stands beside the cell adds nothing to it.
        const auto lipped = relief::sectionOf(
            {{Ring{{-50, 0}, {90, 0}, {90, 4}, {50, 4}, {50, 70}, {-50, 70}}, hole(box(-46, 10, 46, 60))}});
        QVERIFY2(std::abs(lipped.torsion_mm4 / bredt - 1) < 0.01,
                 qPrintable(QString::number(lipped.torsion_mm4 / bredt)));
    }

    void channelIsOpenAndHasAProduct() {
        // An angle of 60 × 40 × 5, corner at the origin.
        const auto s = relief::sectionOf({{Ring{{0, 0}, {60, 0}, {60, 5}, {5, 5}, {5, 40}, {0, 40}}}});
        const double a1 = 60 * 5, a2 = 35 * 5;
        const double x = (a1 * 30 + a2 * 2.5) / (a1 + a2), y = (a1 * 2.5 + a2 * 22.5) / (a1 + a2);
        QVERIFY((s.centre_mm - Vector2d(x, y)).norm() < 1e-9);
        QVERIFY(near(s.product_mm4, a1 * (30 - x) * (2.5 - y) + a2 * (2.5 - x) * (22.5 - y)));
        QVERIFY(!s.closed);
        QVERIFY2(near(s.torsion_mm4, (60 + 35) * 125.0 / 3, 0.15), "Σ s·t³/3 of thin strips");
    }

    void againstFineStrips() {
        // A trapezium with a leaning hole, cut into 20,000 strips.
        const Ring outer{{0, 0}, {120, 0}, {90, 70}, {20, 70}};
        const Ring inner{{40, 20}, {80, 25}, {75, 50}, {45, 45}};
        const auto s = relief::sectionOf({{outer, hole(inner)}});
        const auto width = [](const Ring& ring, double y, double& low, double& high) {
            low = 1e9, high = -1e9;
            for (std::size_t i = 0; i < ring.size(); ++i) {
                const Vector2d &a = ring[i], &b = ring[(i + 1) % ring.size()];
                if ((a.y() > y) == (b.y() > y)) continue;
                const double x = a.x() + (b.x() - a.x()) * (y - a.y()) / (b.y() - a.y());
                low = std::min(low, x), high = std::max(high, x);
            }
            return high > low;
        };
        const int n = 20000;
        double area = 0, sy = 0, syy = 0, sx = 0, sxx = 0, sxy = 0;
        for (int i = 0; i < n; ++i) {
            const double h = 70.0 / n, y = h * (i + 0.5);
            double low = 0, high = 0;
            for (const auto& [ring, sign] : {std::pair(&outer, 1.0), std::pair(&inner, -1.0)}) {
                if (!width(*ring, y, low, high)) continue;
                const double w = high - low, m = (low + high) / 2;
                area += sign * w * h, sy += sign * w * h * y, syy += sign * w * h * y * y;
                sx += sign * w * h * m, sxx += sign * h * (w * m * m + w * w * w / 12), sxy += sign * w * h * m * y;
            }
        }
        QVERIFY(near(s.area_mm2, area, 1e-6));
        QVERIFY(near(s.upright_mm4, syy - sy * sy / area, 1e-5));
        QVERIFY(near(s.sideways_mm4, sxx - sx * sx / area, 1e-5));
        QVERIFY(near(s.product_mm4, sxy - sx * sy / area, 1e-4));
    }

    void nothingIsNothing() {
        QVERIFY(relief::sectionOf({}).empty());
        QCOMPARE(relief::sectionOf({{box(0, 0, 5, 5), box(20, 0, 25, 5)}}).pieces, 2);
    }
};

GABARIT_SUITE(SectionTest)
#include "section_test.moc"
