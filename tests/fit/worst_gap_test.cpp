// The worst moment of a pair: by hand, by brute force, and where a coarse look would miss it.
#include "fit/worst_gap.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::kinematics;
using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

std::unique_ptr<proximity::Collider> solid(const model::ShapeSpec& spec) {
    const auto made = shape::makeSolid(spec);
    auto mesh = shape::makeMesh(made.value()).value();
    return std::make_unique<proximity::Collider>(std::move(mesh.mesh), mesh.deflection_mm);
}
std::unique_ptr<proximity::Collider> box(const Vector3d& size) { return solid(model::BoxSpec{size}); }

Isometry3d at(const Vector3d& place) {
    Isometry3d pose = Isometry3d::Identity();
    pose.translation() = place;
    return pose;
}

} // namespace

class WorstGapTest : public QObject {
    Q_OBJECT
private slots:
    void axleUnderASump() {
        // An axle tube's box 80 high, its top at 390, 80 of bump; a sump's bottom at 500: 110 at ride, 30 at bump.
        const std::vector<Freedom> freedoms{{"travel", -100, 80, "full droop", "full bump"}};
        const auto axle = box({90, 1200, 80}), sump = box({300, 250, 120});
        const Chain up{AxleMotion{0, {}, {0, 0, 350}, {}}};
        const fit::WorstGap worst =
            fit::worstGap({sump.get(), at({0, 0, 560}), nullptr}, {axle.get(), at({0, 0, 350}), &up}, freedoms);
        QVERIFY(std::abs(worst.gap.gap_mm - 30) < 1e-6);
        QCOMPARE(worst.state[0], 80.0);
        QVERIFY(worst.complete && worst.hidden_mm <= 0.25);
        // Its travel shortened to 20 it never comes nearer than 90: beyond what is looked at.
        const std::vector<Freedom> shorter{{"travel", -100, 20, "", ""}};
        const fit::WorstGap go =
            fit::worstGap({sump.get(), at({0, 0, 560}), nullptr}, {axle.get(), at({0, 0, 350}), &up}, shorter);
        QCOMPARE(go.gap.contact, proximity::Contact::Beyond);
        QVERIFY(go.complete);
    }

    void rolledItComesNearerAtOneSide() {
        // The sump stands off to the right: articulation lifts the axle there by 400·sin 5°, and bump by 60 more.
        const std::vector<Freedom> freedoms{{"travel", -60, 60, "", ""}, {"roll", -5, 5, "", ""}};
        const auto axle = solid(model::CylinderSpec{{0, -600, 0}, {0, 600, 0}, 80});
        const auto sump = box({200, 4, 100});
        const Chain up{AxleMotion{0, 1, {0, 0, 350}, {}}};
        fit::WorstRequest ask;
        ask.range_mm = 200;
        const fit::WorstGap worst =
            fit::worstGap({sump.get(), at({0, 400, 600}), nullptr}, {axle.get(), at({0, 0, 350}), &up}, freedoms, ask);
        QCOMPARE(worst.state, (State{60, 5}));
        // Top of the tube over y = 402: its axis lies on a line through (0, 410) that rises by tan 5°, its surface
        // 40 / cos 5° above that; the sump's lower edge is at 550 there, nearest along the normal.
        const double t = std::tan(5 * M_PI / 180), c = std::cos(5 * M_PI / 180);
        const double gap = (550 - (410 + 402 * t)) * c - 40;
        QVERIFY2(std::abs(worst.gap.gap_mm - gap) < 0.15, qPrintable(QString::number(worst.gap.gap_mm - gap)));
    }

    void aContactBetweenTwoCoarseStatesIsFound() {
        // A thin blade turns past a pin: they touch within a third of a degree of 120°, and nowhere near any end, the
        // rest, or a coarse step.
        const std::vector<Freedom> freedoms{{"turn", -10.3, 171.1, "", ""}};
        const auto blade = box({200, 0.4, 20}), pin = solid(model::CylinderSpec{{0, 0, -20}, {0, 0, 20}, 1});
        const Chain turning{TurnMotion{0, {0, 0, 0}, {0, 0, 1}, 1}};
        const double where = 47.37 * M_PI / 180;
        const Isometry3d stands = at({95 * std::cos(where), 95 * std::sin(where), 0});
        const fit::MovingBody moving{blade.get(), Isometry3d::Identity(), &turning}, fixed{pin.get(), stands, nullptr};
        bool coarse = false;
        for (double state = -10; state <= 170; state += 5)
            coarse = coarse || proximity::overlaps(*blade, movedFromRest(turning, {state}), *pin, stands);
        QVERIFY(!coarse); // steps of five degrees see nothing
        const fit::WorstGap worst = fit::worstGap(moving, fixed, freedoms);
        QCOMPARE(worst.gap.contact, proximity::Contact::Overlap);
        QVERIFY2(std::abs(worst.state[0] - 47.37) < 0.5, qPrintable(QString::number(worst.state[0])));
        QVERIFY(worst.states < 2000);
    }

    void againstBruteForce() {
        // A wheel's block on an arm, steered, against a box beside it: the search is never above the brute force's
        // least, and not more than the tolerance below what it states.
        const std::vector<Freedom> freedoms{{"travel", -70, 60, "", ""}, {"steering", -30, 30, "", ""}};
        const auto wheel = box({600, 180, 600}), rail = box({900, 60, 120});
        const SwingMotion arm{0, {-100, 260, 320}, {100, 260, 320}, {0, 640, 300}};
        const Chain chain{CarriedMotion{arm}, TurnMotion{1, {0, 640, 200}, {0, 640, 400}, 1}};
        const Isometry3d there = at({150, 330, 480});
        double brute = 1e9;
        for (double travel = -70; travel <= 60; travel += 2)
            for (double lock = -30; lock <= 30; lock += 0.5) {
                proximity::GapRequest ask;
                ask.range_mm = 300;
                ask.depth = false;
                const auto gap =
                    proximity::gap(*rail, there, *wheel, movedFromRest(chain, {travel, lock}) * at({0, 760, 350}), ask);
                brute = std::min(brute, gap.gap_mm);
            }
        fit::WorstRequest ask;
        ask.range_mm = 300;
        const fit::WorstGap worst =
            fit::worstGap({rail.get(), there, nullptr}, {wheel.get(), at({0, 760, 350}), &chain}, freedoms, ask);
        QVERIFY(worst.complete);
        QVERIFY2(worst.gap.gap_mm <= brute + 0.25, qPrintable(QString::number(worst.gap.gap_mm - brute)));
        QVERIFY2(worst.gap.gap_mm - worst.hidden_mm >= brute - 2.5, qPrintable(QString::number(brute)));
    }

    void whatMovesTogetherStandsStill() {
        const std::vector<Freedom> freedoms{{"travel", -100, 80, "", ""}};
        const auto a = box({50, 50, 50}), b = box({50, 50, 50});
        const Chain up{AxleMotion{0, {}, {0, 0, 350}, {}}};
        const fit::WorstGap worst =
            fit::worstGap({a.get(), at({0, 0, 300}), &up}, {b.get(), at({0, 0, 370}), &up}, freedoms);
        QVERIFY(std::abs(worst.gap.gap_mm - 20) < 1e-6);
        QCOMPARE(worst.states, 1);
    }

    void stoppedItSaysWhatMayBeHidden() {
        const std::vector<Freedom> freedoms{{"turn", -179, 179, "", ""}};
        const auto blade = box({200, 0.4, 20}), pin = solid(model::CylinderSpec{{0, 0, -20}, {0, 0, 20}, 1});
        const Chain turning{TurnMotion{0, {0, 0, 0}, {0, 0, 1}, 1}};
        fit::WorstRequest ask;
        ask.most_states = 6;
        const fit::WorstGap worst = fit::worstGap({blade.get(), Isometry3d::Identity(), &turning},
                                                  {pin.get(), at({60, 60, 0}), nullptr}, freedoms, ask);
        QVERIFY(!worst.complete);
        QVERIFY(worst.hidden_mm > ask.tolerance_mm);
    }

    /// An axle that at full bump just meets the sump: met, with nothing hidden, and the search ends.
    void touchingAtTheEndOfItsTravel() {
        const std::vector<Freedom> freedoms{{"travel", -100, 110, "full droop", "full bump"}};
        const auto axle = box({90, 1200, 80}), sump = box({300, 250, 120});
        const Chain up{AxleMotion{0, {}, {0, 0, 350}, {}}};
        const fit::WorstGap worst =
            fit::worstGap({sump.get(), at({0, 0, 560}), nullptr}, {axle.get(), at({0, 0, 350}), &up}, freedoms);
        QVERIFY(worst.gap.gap_mm <= 0 && worst.gap.gap_mm > -0.05);
        QCOMPARE(worst.state[0], 110.0);
        QVERIFY(worst.complete && worst.hidden_mm <= 0.25);
    }
};

GABARIT_SUITE(WorstGapTest)
#include "worst_gap_test.moc"
