// What the reports advise does what they promise, once it is carried out.
#include "driveline/apply.h"
#include "driveline/line_geometry.h"
#include "driveline/section/driveline.h"
#include "driveline/shaft_lines.h"
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
    project.sections.edit<model::Driveline>();
    project.sections.edit<model::Driveline>().lines = {line};
    return project;
}
model::ShaftLine& line(model::Project& project) { return project.sections.edit<model::Driveline>().lines[0]; }
LineReport judged(const model::Project& project) {
    return judgeLine(project, project.sections.get<model::Driveline>()->lines[0], book(), 3000);
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

namespace {

/// A shaft with a cross at either end, put together by hand: forks as directions in the vehicle, no chain, no signs but
/// those of the printed sentence. Axes point away from the unit.
struct ByHand {
    Vector3d unit, shaft, pinion;
    bool forward = false; ///< the line runs forward: its unit end is the rear one
    double rear_clockwise_deg = 0;

    static Vector3d turnedClockwiseFromBehind(const Vector3d& fork, Vector3d axis, double by_deg) {
        if (axis.x() > 0) axis = -axis; // who looks from behind looks forward: clockwise is right-handed about that
        return Eigen::AngleAxisd(by_deg * deg, axis) * fork;
    }
    /// Where the pinion's fork stands for an angle of the unit's, both about their axes.
    double turnedBy(double input_rad) const {
        const Vector3d first = unit.cross(Vector3d::UnitZ()).normalized();
        const Vector3d given = Eigen::AngleAxisd(input_rad, unit) * first;
        const Vector3d near = shaft.cross(given).normalized(); // a cross's pins are square
        // The rear fork stands clockwise of the front one; which of them is the near one depends on the line.
        const Vector3d far = turnedClockwiseFromBehind(near, shaft, forward ? -rear_clockwise_deg : rear_clockwise_deg);
        const Vector3d taken = pinion.cross(far).normalized();
        const Vector3d zero = pinion.cross(Vector3d::UnitZ()).normalized();
        return std::atan2(pinion.dot(zero.cross(taken)), zero.dot(taken));
    }
    /// The largest angular acceleration of the pinion at an even speed of the unit, rad/s².
    double shake(double rpm) const {
        const double omega = rpm * 2 * M_PI / 60, step = 1e-3;
        double most = 0;
        for (int i = 0; i < 720; ++i) {
            const double at = i * M_PI / 360;
            const auto rest = [&](double input) { return std::remainder(turnedBy(input) - input, 2 * M_PI); };
            const double a = rest(at - step), b = rest(at), c = rest(at + step);
            const double bend = std::remainder(a - b, 2 * M_PI) + std::remainder(c - b, 2 * M_PI);
            most = std::max(most, std::abs(bend / (step * step)) * omega * omega);
        }
        return most;
    }
};

/// Two joints of 5°, the second's plane turned 40° about the shaft from the first's.
model::Project twisted(bool forward, double twist_deg) {
    model::Project project = hanging();
    model::ShaftLine& its = line(project);
    const double run = forward ? -1 : 1;
    its.run = forward ? model::Run::Forward : model::Run::Rearward;
    its.from.owner = "vehicle";
    its.from.at_mm = {0, 0, 500};
    its.to.at_mm = {run * 1200, 0, 500};
    its.path = {};
    its.path.kind = model::PathKind::Fixed;
    // Small tilts of both flanges against a level shaft, by 5° in planes 40° apart.
    its.from.down_deg = 5;
    const double aside = std::atan(std::tan(5 * deg) * std::sin(twist_deg * deg)) / deg;
    const double down = std::atan(std::tan(5 * deg) * std::cos(twist_deg * deg)) / deg;
    its.to.down_deg = -down;
    its.to.aside_deg = aside;
    return project;
}
Vector3d axisOf(double down_deg, double aside_deg, double run) {
    return Vector3d(run, std::tan(aside_deg * deg), -std::tan(down_deg * deg)).normalized();
}

} // namespace

class ApplyTest : public QObject {
    Q_OBJECT
private slots:
    // "Turn the rear fork … clockwise of its front fork, seen from behind", done to forks by hand, takes the shake
    // away; the other way round it would make it worse.
    void theForkTurnedAsTheSentenceSaysRunsEvenly_data() {
        QTest::addColumn<bool>("forward");
        QTest::addColumn<double>("twist_deg");
        QTest::newRow("rearward") << false << 40.0;
        QTest::newRow("rearward, the other hand") << false << -40.0;
        QTest::newRow("forward") << true << 40.0;
        QTest::newRow("forward, the other hand") << true << -40.0;
    }
    void theForkTurnedAsTheSentenceSaysRunsEvenly() {
        QFETCH(bool, forward);
        QFETCH(double, twist_deg);
        const model::Project project = twisted(forward, twist_deg);
        const LineReport now = judged(project);
        const model::ShaftLine& its = project.sections.get<model::Driveline>()->lines[0];
        const double run = forward ? -1 : 1;
        ByHand forks{axisOf(its.from.down_deg, its.from.aside_deg, run), Vector3d(run, 0, 0),
                     axisOf(its.to.down_deg, its.to.aside_deg, run), forward, 0};
        // β² |1 − e^(2i·40°)| ω² = (5°)² · 2 sin 40° · (314.16 /s)² = 966 rad/s² to the second order of the angles.
        QVERIFY(std::abs(forks.shake(3000) - 966) < 15);
        QVERIFY(std::abs(now.turn.residual_per_s2 * 314.159 * 314.159 - forks.shake(3000)) < 2);
        const Cure* cure = cureOf(now, Cure::Kind::Phase);
        QVERIFY(cure && std::abs(std::abs(cure->amount_deg) - 40) < 0.5);
        forks.rear_clockwise_deg = cure->amount_deg;
        QVERIFY2(forks.shake(3000) < 20, qPrintable(QString::number(forks.shake(3000))));
        forks.rear_clockwise_deg = -cure->amount_deg;
        QVERIFY(std::abs(forks.shake(3000) - 1480) < 25); // β² · 2 sin 80° · ω²
        // What the file holds as turned already is read in the same sense.
        model::Project turned = project;
        line(turned).shafts[0].phase_deg = cure->amount_deg;
        QVERIFY(judged(turned).turn.residual_per_s2 * 314.159 * 314.159 < 20);
    }
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
        QCOMPARE(changed.value().sections.get<model::Driveline>()->lines[0].to.down_deg, pinion_deg);
        QCOMPARE(changed.value().sections.get<model::Driveline>()->lines[0].to.at_mm, line(project).to.at_mm);
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
        project.sections.edit<model::Driveline>().readings = {reading(3.3, far, 0.8)};
        const auto taken = withReadingTaken(project, "gauge");
        QVERIFY2(taken.ok(), taken.ok() ? "" : taken.error().line().c_str());
        const auto report = driveline::driveline(taken.value(), book());
        QVERIFY(std::abs(*report->angles[0].apart_deg) < 1e-5);
        QCOMPARE(report->angles[0].on_unit, !far);
        if (far) {
            QVERIFY(std::abs(taken.value().sections.get<model::Driveline>()->lines[0].to.down_deg -
                             (forward ? -2.5 : 1.0)) < 1e-5);
            QCOMPARE(taken.value().placements[0].angles.pitch_deg, project.placements[0].angles.pitch_deg);
        } else {
            // The unit's tail hangs: its flange falls to the rear.
            QVERIFY(std::abs(taken.value().placements[0].angles.pitch_deg) > 2);
            QCOMPARE(taken.value().sections.get<model::Driveline>()->lines[0].from.down_deg, 0.0);
        }
    }
    /// Law: told in another owner's frame, a flange stands where it stood; every figure of its line is the same.
    void aFlangePutOnAnotherOwnerStaysWhereItIs() {
        model::Project project = hanging();
        model::Placement& placement = project.placements.front();
        placement.angles = {2.0, 3.5, -1.5};
        line(project).from.down_deg = 1.2;
        line(project).from.aside_deg = -0.7;
        const LineReport before = judged(project);
        model::Project moved = project;
        const auto on = driveline::onOwner(project, line(project).from, line(project).run, model::vehicle_owner);
        QVERIFY(on.ok());
        QCOMPARE(on.value().owner, std::string("vehicle"));
        line(moved).from = on.value();
        const LineReport after = judged(moved);
        QVERIFY(before.usable && after.usable);
        for (std::size_t i = 0; i < before.ride.joints_mm.size(); ++i)
            QVERIFY((before.ride.joints_mm[i] - after.ride.joints_mm[i]).norm() < 1e-6);
        for (std::size_t i = 0; i < before.joints.size(); ++i)
            QVERIFY(std::abs(before.joints[i].angle_deg - after.joints[i].angle_deg) < 1e-6);
        // And back again.
        const auto back = driveline::onOwner(moved, line(moved).from, line(moved).run, "unit");
        QVERIFY(back.ok());
        QVERIFY((back.value().at_mm - line(project).from.at_mm).norm() < 1e-9);
        QVERIFY(std::abs(back.value().down_deg - 1.2) < 1e-9 && std::abs(back.value().aside_deg + 0.7) < 1e-9);
        QVERIFY(!driveline::onOwner(project, line(project).from, line(project).run, "nobody").ok());
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
        project.sections.edit<model::Driveline>().readings = {reading(2, true, std::nullopt)};
        QVERIFY(told(withReadingTaken(project, "gauge")).find("slope") != std::string::npos);
        project.sections.edit<model::Driveline>().readings[0].slope_deg = 0;
        project.sections.edit<model::Driveline>().readings[0].line.clear();
        QVERIFY(told(withReadingTaken(project, "gauge")).find("line") != std::string::npos);
        project.sections.edit<model::Driveline>().readings[0].line = "rear";
        project.sections.edit<model::Driveline>().readings[0].at_far_end = false;
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
