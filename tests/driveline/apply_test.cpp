// What the reports advise does what they promise, once it is carried out.
#include "driveline/apply.h"
#include "store/rule_book.h"
#include "support/hung_unit.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::driveline;
using Eigen::Vector3d;

namespace {

constexpr double deg = M_PI / 180;

const model::RuleBook& book() { return store::defaultRuleBook(); }

/// A unit hung level, its flange 600 behind its origin; a leaf sprung axle 1300 further back.
model::Project hanging() {
    model::Project project = tests::hungUnit();
    model::ShaftLine line;
    line.id = "rear";
    line.name = "Rear shaft";
    line.from.owner = "unit";
    line.from.at_mm = {600, 0, 0};
    line.to.at_mm = {2200, 0, 500};
    line.joints = {{}, {}};
    model::Shaft shaft;
    shaft.closed_mm = 1180;
    shaft.spline_mm = 90;
    shaft.spline_diameter_mm = 35;
    line.shafts = {shaft};
    line.path.kind = model::PathKind::Axle;
    line.path.centre_mm = {2350, 0, 480};
    line.path.bump_mm = 100;
    line.path.droop_mm = 90;
    line.path.links = {{model::PathLinkKind::Leaf, {1700, 0, 430}, {2350, 0, 430}, {}}};
    project.driveline.emplace();
    project.driveline->lines = {line};
    return project;
}
model::ShaftLine& line(model::Project& project) { return project.driveline->lines[0]; }
LineReport judged(const model::Project& project) {
    return judgeLine(project, project.driveline->lines[0], book(), 3000);
}
const Cure* cureOf(const LineReport& report, Cure::Kind kind) {
    for (const Cure& cure : report.cures)
        if (cure.kind == kind) return &cure;
    return nullptr;
}
model::AngleReading reading(double shows_deg, bool far, std::optional<double> slope_deg) {
    model::AngleReading r;
    r.id = "gauge";
    r.place = far ? "pinion" : "output flange";
    r.line = "rear";
    r.at_far_end = far;
    r.reading_deg = shows_deg;
    r.slope_deg = slope_deg;
    return r;
}

} // namespace

class ApplyTest : public QObject {
    Q_OBJECT
private slots:
    void everyCureLeavesWhatItPromised_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<double>("pinion_deg");
        QTest::addColumn<double>("phase_deg");
        QTest::addColumn<double>("lower_mm");
        QTest::newRow("phase") << int(Cure::Kind::Phase) << 0.0 << 35.0 << 0.0;
        QTest::newRow("pinion's nose") << int(Cure::Kind::PinionNose) << -3.0 << 0.0 << 0.0;
        QTest::newRow("tail") << int(Cure::Kind::UnitTail) << 2.0 << 0.0 << 0.0;
        QTest::newRow("height") << int(Cure::Kind::UnitHeight) << 0.0 << 0.0 << -80.0;
    }
    void everyCureLeavesWhatItPromised() {
        QFETCH(int, kind);
        QFETCH(double, pinion_deg);
        QFETCH(double, phase_deg);
        QFETCH(double, lower_mm);
        model::Project project = hanging();
        line(project).to.down_deg = pinion_deg;
        line(project).shafts[0].phase_deg = phase_deg;
        project.placements[0].position_mm.z() -= lower_mm;
        const LineReport before = judged(project);
        const Cure* cure = cureOf(before, Cure::Kind(kind));
        QVERIFY(cure);
        const auto changed = withCure(project, "rear", *cure);
        QVERIFY2(changed.ok(), changed.ok() ? "" : changed.error().line().c_str());
        const LineReport after = judged(changed.value());
        QVERIFY(after.usable);
        QVERIFY(std::abs(std::sqrt(after.turn.residual_per_s2) / deg - cure->residual_deg) < 1e-6);
        double worst = 0, least = 90;
        for (const JointReport& joint : after.joints) {
            worst = std::max(worst, joint.angle_deg);
            least = std::min(least, joint.angle_deg);
        }
        QVERIFY(std::abs(worst - cure->worst_joint_deg) < 1e-6);
        QVERIFY(std::abs(least - cure->least_joint_deg) < 1e-6);
        // What was measured of the axle stays; only the plan changed.
        QCOMPARE(changed.value().driveline->lines[0].to.down_deg, pinion_deg);
        QCOMPARE(changed.value().driveline->lines[0].to.at_mm, line(project).to.at_mm);
    }
    // Wedged by 4° about the axle's centre: the flange, 150 ahead of it and 20 above, goes round with it.
    void aWedgeTurnsTheFlangeAboutTheAxle() {
        model::Project project = hanging();
        line(project).path.shim_deg = 4;
        const LineAt at = LineGeometry::make(project, line(project)).value().at({}).value();
        const Vector3d flange = at.joints_mm.back();
        QVERIFY(std::abs(flange.x() - (2350 - 150 * std::cos(4 * deg) + 20 * std::sin(4 * deg))) < 1e-9);
        QVERIFY(std::abs(flange.z() - (480 + 150 * std::sin(4 * deg) + 20 * std::cos(4 * deg))) < 1e-9);
        QVERIFY(std::abs(flangeFalls_deg(at, true) - 4) < 1e-9);
        // No axle, no wedges: the member is left alone.
        line(project).path.kind = model::PathKind::Fixed;
        line(project).path.links.clear();
        QVERIFY(std::abs(LineGeometry::make(project, line(project)).value().at({}).value().joints_mm.back().z() - 500) <
                1e-12);
    }
    void armsAreNotWedged() {
        model::Project project = hanging();
        model::ShaftLine& l = line(project);
        l.to.down_deg = -3;
        l.path.kind = model::PathKind::Arm;
        l.path.links.clear();
        l.path.axis_a_mm = {1800, -200, 450};
        l.path.axis_b_mm = {1800, 200, 450};
        const LineReport report = judged(project);
        QVERIFY2(report.usable, report.reason.c_str());
        QVERIFY(cureOf(report, Cure::Kind::UnitTail));
        QVERIFY(!cureOf(report, Cure::Kind::PinionNose));
    }
    void theKeptShaftFitsWhereItWasSent() {
        const model::Project project = hanging();
        const LineReport before = judged(project);
        QVERIFY(before.slips[0].moved_mm && *before.slips[0].moved_mm > 50);
        const auto moved = withUnitOnward(project, before, *before.slips[0].moved_mm);
        QVERIFY(moved.ok());
        QVERIFY(std::abs(moved.value().placements[0].position_mm.x() - 300 - *before.slips[0].moved_mm) < 1e-9);
        QVERIFY(std::abs(judged(moved.value()).slips[0].moved_mm.value_or(99)) < 0.1);
        // Forward running lines go the other way.
        LineReport front = before;
        front.runs = -Vector3d::UnitX();
        QVERIFY(std::abs(withUnitOnward(project, front, 10).value().placements[0].position_mm.x() - 290) < 1e-12);
    }
    void aReadingIsTaken_data() {
        QTest::addColumn<bool>("far");
        QTest::addColumn<bool>("forward");
        QTest::newRow("pinion") << true << false;
        QTest::newRow("the unit's flange") << false << false;
        QTest::newRow("front pinion") << true << true;
        QTest::newRow("the unit's front flange") << false << true;
    }
    void aReadingIsTaken() {
        QFETCH(bool, far);
        QFETCH(bool, forward);
        model::Project project = hanging();
        model::ShaftLine& l = line(project);
        if (forward) {
            l.run = model::Run::Forward;
            l.from.at_mm.x() = -300;
            l.to.at_mm.x() = -1300;
            l.path.kind = model::PathKind::Fixed;
            l.path.links.clear();
        } else {
            l.path.shim_deg = 1.5; // wedges that are in already count as part of what was read
        }
        project.placements[0].angles.yaw_deg = 2;
        // On a slope of 0.8° the gauge shows 3.3°: 2.5° in the vehicle.
        project.driveline->readings = {reading(3.3, far, 0.8)};
        const auto taken = withReadingTaken(project, "gauge");
        QVERIFY2(taken.ok(), taken.ok() ? "" : taken.error().line().c_str());
        const auto report = driveline::driveline(taken.value(), book());
        QVERIFY(std::abs(*report->angles[0].apart_deg) < 1e-5);
        QCOMPARE(report->angles[0].on_unit, !far);
        if (far) {
            QVERIFY(std::abs(taken.value().driveline->lines[0].to.down_deg - (forward ? -2.5 : 1.0)) < 1e-5);
            QCOMPARE(taken.value().placements[0].angles.pitch_deg, project.placements[0].angles.pitch_deg);
        } else {
            // The unit's tail hangs: its flange falls to the rear.
            QVERIFY(std::abs(taken.value().placements[0].angles.pitch_deg) > 2);
            QCOMPARE(taken.value().driveline->lines[0].from.down_deg, 0.0);
        }
    }
    void whatCannotBeDoneIsTold() {
        model::Project project = hanging();
        const auto told = [](const Result<model::Project>& result) {
            return result.ok() ? std::string("done") : result.error().line();
        };
        QVERIFY(told(withCure(project, "none", {})).find("no line") != std::string::npos);
        QVERIFY(told(withCure(project, "rear", {Cure::Kind::Phase, 7, 0, 0, 0, 0, 0})).find("shaft 8") !=
                std::string::npos);
        QVERIFY(told(withReadingTaken(project, "gauge")).find("no reading") != std::string::npos);
        project.driveline->readings = {reading(2, true, std::nullopt)};
        QVERIFY(told(withReadingTaken(project, "gauge")).find("slope") != std::string::npos);
        project.driveline->readings[0].slope_deg = 0;
        project.driveline->readings[0].line.clear();
        QVERIFY(told(withReadingTaken(project, "gauge")).find("line") != std::string::npos);
        project.driveline->readings[0].line = "rear";
        project.driveline->readings[0].at_far_end = false;
        line(project).run = model::Run::Right;
        QVERIFY(told(withReadingTaken(project, "gauge")).find("across") != std::string::npos);
        line(project).run = model::Run::Rearward;
        project.donors[0].reference_points.clear(); // no front mounts to turn about
        QVERIFY(!withCure(project, "rear", {Cure::Kind::UnitTail, 0, 1, 0, 0, 0, 0}).ok());
        project.placements.clear();
        QVERIFY(told(withCure(project, "rear", {Cure::Kind::UnitHeight, 0, 0, 5, 0, 0, 0})).find("placement") !=
                std::string::npos);
        QVERIFY(!withUnitOnward(project, {}, 5).ok());
    }
};

GABARIT_SUITE(ApplyTest)
#include "apply_test.moc"
