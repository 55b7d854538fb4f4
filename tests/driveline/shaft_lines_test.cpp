// Lines of shafts over their travel, against geometry drawn by hand.
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "gearing/section/gearing.h"
#include "store/rule_book.h"
#include "support/hung_unit.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::driveline;
using Eigen::Vector3d;
using model::JointKind;
using model::Verdict;

namespace {

constexpr double deg = M_PI / 180;

const model::RuleBook& book() { return store::defaultRuleBook(); }

/// Output flange at the origin of heights 560, pinion 1300 behind and 60 lower, both axes level.
model::ShaftLine simple() {
    model::ShaftLine line;
    line.id = "rear";
    line.name = "Rear shaft";
    line.from.at_mm = {900, 0, 560};
    line.to.at_mm = {2200, 0, 500};
    line.joints = {{}, {}};
    model::Shaft shaft;
    shaft.tube_mm = 76.2;
    shaft.wall_mm = 2.1;
    shaft.closed_mm = 1270;
    shaft.spline_mm = 90;
    shaft.spline_diameter_mm = 35;
    line.shafts = {shaft};
    line.path.kind = model::PathKind::Axle;
    line.path.centre_mm = {2350, 0, 480};
    line.path.bump_mm = 100;
    line.path.droop_mm = 90;
    return line;
}
LineReport judged(const model::ShaftLine& line, std::optional<double> rpm = 3000) {
    model::Project project;
    project.sections.edit<model::Driveline>();
    return judgeLine(project, line, book(), rpm);
}
const Check& check(const LineReport& report, const std::string& id) {
    for (const Check& c : report.checks)
        if (c.id == report.id + "/" + id) return c;
    static const Check none;
    qWarning("no check %s", id.c_str());
    return none;
}
LineGeometry geometry(const model::ShaftLine& line) { return LineGeometry::make({}, line).value(); }
Vector3d pinionAt(const LineGeometry& g, double travel, double windup = 0) {
    return g.at({travel, windup}).value().joints_mm.back();
}

/// Where circles about a and b meet, the meeting nearest to `near`; x and z.
Vector3d meeting(const Vector3d& a, double ra, const Vector3d& b, double rb, const Vector3d& near) {
    const Vector3d ab = b - a;
    const double d = std::hypot(ab.x(), ab.z()), x = (d * d + ra * ra - rb * rb) / (2 * d),
                 y = std::sqrt(ra * ra - x * x);
    const Vector3d along = ab / d, up(-along.z(), 0, along.x());
    const Vector3d p = a + along * x + up * y, q = a + along * x - up * y;
    return (p - near).norm() < (q - near).norm() ? p : q;
}

} // namespace

class ShaftLinesTest : public QObject {
    Q_OBJECT
private slots:
    void anglesInSpaceAndInViews() {
        model::ShaftLine line = simple();
        line.from.down_deg = 2;
        line.to.at_mm.y() = 40;
        const LineReport report = judged(line);
        QVERIFY2(report.usable, report.reason.c_str());
        // The shaft falls by atan(60/1300) in the side view, goes right by atan(40/1300) in plan.
        const double falls = std::atan2(60, 1300) / deg, aside = std::atan2(40, 1300) / deg;
        QVERIFY(std::abs(report.joints[0].side_deg - (falls - 2)) < 1e-9);
        QVERIFY(std::abs(report.joints[0].plan_deg - aside) < 1e-9);
        const Vector3d flange(std::cos(2 * deg), 0, -std::sin(2 * deg)), shaft = Vector3d(1300, 40, -60).normalized();
        QVERIFY(std::abs(report.joints[0].angle_deg - std::acos(flange.dot(shaft)) / deg) < 1e-9);
        // In space it is neither their sum nor exactly their square root.
        QVERIFY(report.joints[0].angle_deg < std::abs(report.joints[0].side_deg) + report.joints[0].plan_deg);
    }
    void aPinionThatOnlyRoseStraightUpWouldBeWrong() {
        model::ShaftLine line = simple();
        const Vector3d eye(1700, 0, 430), seat(2350, 0, 430);
        line.path.links = {{model::PathLinkKind::Leaf, eye, seat, {}}};
        const LineGeometry g = geometry(line);
        // Three quarters of 650 about the point a quarter behind the eye: at 100 mm up the seat comes forward by
        // 487.5 − √(487.5² − 100²) = 10.37.
        const double forward = 487.5 - std::sqrt(487.5 * 487.5 - 100 * 100);
        QVERIFY(std::abs(pinionAt(g, 100).x() - (2200 - forward)) < 1e-6);
        QVERIFY(std::abs(pinionAt(g, 100).z() - 600) < 1e-9);
        model::ShaftLine straight = simple();
        QVERIFY(std::abs(pinionAt(geometry(straight), 100).x() - 2200) < 1e-9);
        QVERIFY(judged(line).slips[0].shortest_mm < judged(straight).slips[0].shortest_mm - 5);
    }
    void linksTipThePinionByTheirGeometry() {
        model::ShaftLine line = simple();
        const Vector3d low_fixed(1750, 300, 380), low(2330, 300, 400), top_fixed(1950, 200, 650), top(2360, 200, 620);
        line.path.links = {{model::PathLinkKind::Arm, low_fixed, low, {}},
                           {model::PathLinkKind::Arm, top_fixed, top, {}}};
        const LineGeometry g = geometry(line);
        const auto flat = [](Vector3d v) { return Vector3d(v.x(), 0, v.z()); };
        // The lower arm is turned by hand; the top joint is where two circles meet; the rest follows as one piece.
        for (const double swing : {-6.0, -2.0, 3.0, 7.0}) {
            const Vector3d lower =
                flat(low_fixed) + Eigen::AngleAxisd(swing * deg, Vector3d::UnitY()) * flat(low - low_fixed);
            const Vector3d upper =
                meeting(lower, flat(top - low).norm(), flat(top_fixed), flat(top - top_fixed).norm(), flat(top));
            const Vector3d before = flat(top - low), now = upper - lower;
            const double tip = std::atan2(before.z() * now.x() - before.x() * now.z(), before.dot(now)); // about +Y
            const Eigen::AngleAxisd turn(tip, Vector3d::UnitY());
            const Vector3d centre = lower + turn * (flat(line.path.centre_mm) - flat(low));
            const Vector3d pinion = lower + turn * (flat(line.to.at_mm) - flat(low));
            const double travel = centre.z() - line.path.centre_mm.z();
            QVERIFY(std::abs(travel) < 100);
            QVERIFY2((flat(pinionAt(g, travel)) - pinion).norm() < 1e-3,
                     qPrintable(QString::number((flat(pinionAt(g, travel)) - pinion).norm())));
            const Vector3d axis = g.at({travel, 0}).value().chain.axes.back();
            QVERIFY((axis - turn * Vector3d::UnitX()).norm() < 1e-6);
        }
    }
    void torqueArmAndLadderBar() {
        model::ShaftLine bar = simple();
        const Vector3d front(1500, 0, 450);
        bar.path.links = {{model::PathLinkKind::LadderBar, front, {0, 0, 0}, {}}};
        const LineGeometry g = geometry(bar);
        // As one piece about its front end: the centre, 850 behind and 30 up, rises by 80.
        const double r = std::hypot(850, 30), at = std::asin((30 + 80) / r) - std::asin(30 / r);
        const Vector3d pinion = front + Eigen::AngleAxisd(-at, Vector3d::UnitY()) * (bar.to.at_mm - front);
        QVERIFY((pinionAt(g, 80) - pinion).norm() < 1e-6);
        // The front end of a torque arm keeps its height; a lower arm leads the axle.
        model::ShaftLine torque = simple();
        const Vector3d end(1650, 0, 520), fixed(1800, 0, 400), low(2340, 0, 400);
        torque.path.links = {{model::PathLinkKind::Torque, {0, 0, 0}, end, {}},
                             {model::PathLinkKind::Arm, fixed, low, {}}};
        const LineGeometry t = geometry(torque);
        for (const double travel : {-80.0, 60.0}) {
            const LineAt there = t.at({travel, 0}).value();
            const Vector3d axis = there.chain.axes.back();
            const double tip = std::atan2(-axis.z(), axis.x());
            const Eigen::AngleAxisd turn(tip, Vector3d::UnitY());
            const Vector3d arm_end = there.joints_mm.back() + turn * (end - torque.to.at_mm);
            const Vector3d arm_low = there.joints_mm.back() + turn * (low - torque.to.at_mm);
            QVERIFY(std::abs(arm_end.z() - end.z()) < 0.02);
            QVERIFY(std::abs((arm_low - fixed).norm() - (low - fixed).norm()) < 1e-3);
        }
        bar.path.links.push_back(torque.path.links[1]);
        QVERIFY(!LineGeometry::make({}, bar).ok()); // a ladder bar leads alone
    }
    void windUpTurnsTheNoseUp() {
        model::ShaftLine line = simple();
        line.path.windup_up_deg = 4;
        line.path.windup_down_deg = 2;
        const Vector3d at_rest = pinionAt(geometry(line), 0), wound = pinionAt(geometry(line), 0, 4);
        // 150 ahead of the axle's centre and 20 above it.
        QVERIFY(std::abs(wound.z() - (480 + 150 * std::sin(4 * deg) + 20 * std::cos(4 * deg))) < 1e-9);
        QVERIFY(wound.x() < 2350 - 140 && wound.z() > at_rest.z());
        // To the front the nose is the other way round.
        model::ShaftLine front = line;
        front.run = model::Run::Forward;
        front.to.at_mm = {150, 0, 500};
        front.path.centre_mm = {0, 0, 480};
        QVERIFY(pinionAt(geometry(front), 0, 4).z() > 500 + 9);
        QCOMPARE(QString::fromStdString(stateWords({100, 4}, 90, 100)), QStringLiteral("full bump, nose up 4.0°"));
    }
    // A pinion that rises past the output's height: the shortest is in between, at neither end.
    void theShortestNeedNotBeAnEnd() {
        const LineReport report = judged(simple());
        QVERIFY(std::abs(report.slips[0].shortest_mm - 1300) < 1e-6);
        QVERIFY(std::abs(report.slips[0].shortest_at.travel_mm - 60) < 0.5);
        QVERIFY(std::abs(report.slips[0].longest_mm - std::hypot(1300, 150)) < 1e-9); // full droop
        QCOMPARE(report.slips[0].longest_at.travel_mm, -90.0);
        QVERIFY(std::abs(*report.slips[0].reserve_mm - 30) < 1e-6);
        QVERIFY(std::abs(*report.slips[0].engaged_mm - (90 - (std::hypot(1300, 150) - 1270))) < 1e-6);
        // With wind-up found by brute force over both.
        model::ShaftLine line = simple();
        line.path.links = {{model::PathLinkKind::Leaf, {1700, 0, 430}, {2350, 0, 430}, {}}};
        line.path.windup_up_deg = 5;
        line.path.windup_down_deg = 3;
        const LineGeometry g = geometry(line);
        double shortest = 1e9, longest = 0;
        for (double travel = -90; travel <= 100; travel += 0.25)
            for (double windup = -3; windup <= 5; windup += 0.1) {
                const double length = g.at({travel, windup}).value().length_mm(0);
                shortest = std::min(shortest, length);
                longest = std::max(longest, length);
            }
        const SlipReport slip = judged(line).slips[0];
        QVERIFY2(std::abs(slip.shortest_mm - shortest) < 0.01,
                 qPrintable(QString::number(slip.shortest_mm - shortest)));
        QVERIFY2(std::abs(slip.longest_mm - longest) < 0.01, qPrintable(QString::number(slip.longest_mm - longest)));
    }
    void slipIsHeldAgainstItsRows() {
        model::ShaftLine line = simple();
        LineReport report = judged(line);
        QCOMPARE(check(report, "shaft-1/reserve").verdict, Verdict::Go);    // 30 of 20, ±3
        QCOMPARE(check(report, "shaft-1/engaged").verdict, Verdict::Close); // 51.4 of 52.5
        line.shafts[0].closed_mm = 1285;
        report = judged(line);
        QCOMPARE(check(report, "shaft-1/reserve").verdict, Verdict::NoGo);
        line.shafts[0].closed_mm = 1200;
        QCOMPARE(check(judged(line), "shaft-1/engaged").verdict, Verdict::NoGo); // 90 − 108
        line.shafts[0].closed_mm.reset();
        QCOMPARE(check(judged(line), "shaft-1/reserve").verdict, Verdict::Unknown);
        // To order: closes 20 short of the shortest, less the accuracy; engages one and a half diameters at the
        // longest.
        line.shafts[0].to_make = true;
        report = judged(line);
        QVERIFY(std::abs(report.slips[0].order_closed_mm - (1300 - 20 - 3)) < 0.11);
        QVERIFY(std::abs(*report.slips[0].order_spline_mm -
                         (std::hypot(1300, 150) - report.slips[0].order_closed_mm + 1.5 * 35 + 3)) < 0.11);
        // What is ordered suits, even when the tape was off by what it may be.
        line.shafts[0].to_make = false;
        line.shafts[0].closed_mm = report.slips[0].order_closed_mm;
        line.shafts[0].spline_mm = report.slips[0].order_spline_mm;
        QCOMPARE(check(judged(line), "shaft-1/reserve").verdict, Verdict::Go);
        QCOMPARE(check(judged(line), "shaft-1/engaged").verdict, Verdict::Go);
    }
    void runningAnglesAndNeedles() {
        model::ShaftLine line = simple(); // both joints atan(60/1300) = 2.64°
        QCOMPARE(check(judged(line), "joint-1/running").verdict, Verdict::Go);
        QCOMPARE(check(judged(line), "torsional").verdict, Verdict::Go); // parallel flanges in phase
        line.to.down_deg = 2.64;
        const LineReport lazy = judged(line); // the last joint straight: its needles do not roll, the first is alone
        QCOMPARE(check(lazy, "joint-2/running").verdict, Verdict::Close);
        QCOMPARE(check(lazy, "shaft-1/pair").verdict, Verdict::Close);
        // 2.64° at 3000 rpm: (0.0461 · 314.2)² = 210 rad/s²
        QVERIFY(std::abs(*check(lazy, "torsional").value - 210) < 2);
        line.to.down_deg = 8;
        QCOMPARE(check(judged(line), "joint-2/running").verdict, Verdict::NoGo);
        QCOMPARE(check(judged(line), "torsional").verdict, Verdict::NoGo);
        QCOMPARE(check(judged(line, std::nullopt), "torsional").verdict, Verdict::Unknown);
        line.to.at_mm.z() = 0;
        QCOMPARE(check(judged(line), "joint-1/travel").verdict, Verdict::NoGo); // 23° of 15
    }
    void curesCancel() {
        model::ShaftLine line = simple();
        line.to.down_deg = -3;
        line.path.links = {{model::PathLinkKind::Leaf, {1700, 0, 430}, {2350, 0, 430}, {}}};
        const LineReport report = judged(line);
        const auto nose = std::find_if(report.cures.begin(), report.cures.end(),
                                       [](const Cure& c) { return c.kind == Cure::Kind::PinionNose; });
        QVERIFY(nose != report.cures.end());
        QVERIFY2(nose->residual_deg < 0.05, qPrintable(QString::number(nose->residual_deg)));
        // Flanges parallel again, or broken as much the other way.
        const LineAt cured = geometry(line).withToTurned(nose->amount_deg).at({}).value();
        QVERIFY(std::abs(operatingAngle_rad(cured.chain, 0) - operatingAngle_rad(cured.chain, 1)) < 0.02 * deg);
        // Forks put on wrong: the phase is found.
        model::ShaftLine wrong = simple();
        wrong.shafts[0].phase_deg = 35;
        const LineReport phased = judged(wrong);
        QCOMPARE(phased.cures.front().kind, Cure::Kind::Phase);
        QVERIFY(std::abs(phased.cures.front().amount_deg) < 0.1);
        QVERIFY(phased.cures.front().residual_deg < 0.05);
        QVERIFY(judged(simple()).cures.empty()); // nothing to cure
    }
    void twoPiecesTurnAtTheirBearing() {
        model::ShaftLine line = simple();
        line.joints = {{}, {}, {}};
        line.bearings = {{"Centre bearing", {}, {1500, 10, 540}, 60, {}}};
        model::Shaft first = line.shafts[0];
        first.one_length = true;
        first.length_mm.reset();
        line.shafts = {first, line.shafts[0]};
        const LineReport report = judged(line);
        QVERIFY2(report.usable, report.reason.c_str());
        const Vector3d from(900, 0, 560), bearing(1500, 10, 540);
        const Vector3d middle = bearing + (bearing - from).normalized() * 60;
        QVERIFY((report.ride.joints_mm[1] - middle).norm() < 1e-9);
        QCOMPARE(report.joints.size(), std::size_t(3));
        QCOMPARE(report.critical.size(), std::size_t(2));
        QVERIFY(report.critical[1].critical_rpm > report.critical[0].critical_rpm); // 640 against 660: the shorter one
        line.bearings.clear();
        QVERIFY(!judged(line).usable);
        QVERIFY(judged(line).reason.find("centre bearing") != std::string::npos);
    }
    void aTubeIsFoundForTheSpeed() {
        model::ShaftLine line = simple();
        line.shafts[0].tube_mm = 50.8;
        line.shafts[0].wall_mm = 1.65;
        line.to.at_mm.x() = 2700;
        line.path.centre_mm.x() = 2850;
        const LineReport slow = judged(line, 1500), fast = judged(line, 4200), wild = judged(line, 9000);
        QCOMPARE(check(slow, "shaft-1/critical").verdict, Verdict::Go);
        QCOMPARE(check(fast, "shaft-1/critical").verdict, Verdict::NoGo);
        QVERIFY(fast.critical[0].suggested && fast.critical[0].suggested->outside_mm > 50.8);
        QVERIFY(4200 <= 0.65 * criticalSpeed_rpm(fast.critical[0].length_mm, *fast.critical[0].suggested, 207, 7850));
        QVERIFY(!wild.critical[0].suggested && wild.critical[0].two_piece);
    }
    void aDoubleJointIsAimedAt() {
        model::ShaftLine line = simple();
        line.joints[0].kind = JointKind::DoubleCardan;
        line.to.down_deg = 2.2;
        QCOMPARE(check(judged(line), "joint-2/running").verdict, Verdict::Go); // 0.44° of 1
        line.to.down_deg = 0;
        QCOMPARE(check(judged(line), "joint-2/running").verdict, Verdict::Close); // 2.64°
        const LineReport report = judged(line);
        QCOMPARE(report.cures.front().kind, Cure::Kind::PinionNose);
        QVERIFY(report.cures.front().residual_deg < 0.05);
    }
    /// What belongs to one donor says nothing of another that is hung in its place.
    void anotherDonorHasALineOfItsOwn() {
        model::Project project = tests::hungUnit();
        model::ShaftLine line = simple();
        line.from.owner = "unit";
        line.from.at_mm = {600, 0, 0};
        project.sections.edit<model::Driveline>();
        project.sections.edit<model::Driveline>().lines = {line};
        project.sections.edit<model::Driveline>().bell = model::BellStack{};
        project.sections.edit<model::Driveline>().bell->overhung_kg = 1;
        model::Interface mates;
        mates.id = mates.name = "output";
        mates.kind = model::InterfaceKind::Bore;
        mates.a.diameter_mm = mates.b.diameter_mm = 15;
        project.sections.edit<model::Driveline>().interfaces = {mates};
        project.sections.edit<model::Gearing>();
        project.sections.edit<model::Gearing>().max_rpm = 6000;
        project.sections.edit<model::Gearing>().gears = {{"1", 1, false, {}}};
        const auto own = driveline::driveline(project, book());
        QVERIFY(own->missing.empty() && own->lines.size() == 1 && own->interfaces.size() == 1 && own->bell.size() == 1);
        QVERIFY(driveline::topSpeed_rpm(project, line).has_value());
        // Hung beside it: what the file had stays the first one's, and the second one's is not known.
        model::Donor other;
        other.id.text = other.name = "other";
        auto both = model::hung(project, other);
        QVERIFY(both.ok());
        QCOMPARE(both.value().sections.get<model::Gearing>()->donor, std::string("unit"));
        QCOMPARE(both.value().sections.get<model::Driveline>()->bell->donor, std::string("unit"));
        auto second = driveline::driveline(both.value(), book());
        QCOMPARE(second->verdict, Verdict::Unknown);
        QCOMPARE(second->missing.size(), std::size_t(3));
        QVERIFY(second->lines.empty() && second->interfaces.empty() && second->bell.empty());
        QVERIFY(!driveline::topSpeed_rpm(both.value(), line));
        QVERIFY(!model::gearingOf(both.value()));
        model::Project back = both.value();
        back.active_placement = project.placements[0].id;
        QVERIFY(driveline::driveline(back, book())->missing.empty());
        // Whose it is is not said, and there are two: not known.
        back.sections.edit<model::Driveline>().interfaces[0].donor.clear();
        back.sections.edit<model::Driveline>().bell->donor.clear();
        const auto unsaid = driveline::driveline(back, book());
        QCOMPARE(unsaid->interfaces[0].verdict, Verdict::Unknown);
        QCOMPARE(unsaid->missing.size(), std::size_t(1));
        back.sections.edit<model::Driveline>().bell->donor = "nobody";
        const auto errors = model::validate(back, book());
        QVERIFY(std::any_of(errors.begin(), errors.end(), [](const Error& e) {
            return e.line().find("there is no donor \"nobody\"") != std::string::npos;
        }));
    }
    void theUnitGoesWhereAStockShaftWantsIt() {
        model::Project project = tests::hungUnit();
        const model::Donor donor = project.donors[0];
        const model::Placement placement = project.placements[0];
        model::ShaftLine line = simple();
        line.from.owner = "unit";
        line.from.at_mm = {600, 0, 0};
        line.shafts[0].closed_mm = 1180; // too short by a lot
        project.sections.edit<model::Driveline>();
        project.sections.edit<model::Driveline>().lines = {line};
        const SlipReport slip = judgeLine(project, line, book(), 3000).slips[0];
        QVERIFY(slip.move_least_mm && slip.move_most_mm && slip.moved_mm);
        QVERIFY(*slip.move_least_mm > 60); // onward, rearward
        QVERIFY(*slip.move_most_mm > *slip.move_least_mm);
        for (const double onward : {*slip.move_least_mm, *slip.move_most_mm}) {
            model::Project moved = project;
            moved.placements[0].position_mm.x() += onward;
            const SlipReport there = judgeLine(moved, line, book(), 3000).slips[0];
            const double reserve = *there.reserve_mm - 20, engaged = *there.engaged_mm - 1.5 * 35;
            QVERIFY2(std::min(std::abs(reserve), std::abs(engaged)) < 0.1 && reserve > -0.1 && engaged > -0.1,
                     qPrintable(QString("%1 %2").arg(reserve).arg(engaged)));
        }
        // Tail up or down that cancels, tried on the placement itself.
        line.to.down_deg = 2;
        const LineReport report = judgeLine(project, line, book(), 3000);
        const auto tail = std::find_if(report.cures.begin(), report.cures.end(),
                                       [](const Cure& c) { return c.kind == Cure::Kind::UnitTail; });
        QVERIFY(tail != report.cures.end());
        model::Project tipped = project;
        tipped.placements[0] = model::turned(placement, donor, model::Turn::Tail, -tail->amount_deg).value();
        const LineReport after = judgeLine(tipped, line, book(), 3000);
        QVERIFY(after.turn.equivalent_rad / deg < 0.1);
        QVERIFY(std::abs(tail->mount_mm - 700 * std::sin(tail->amount_deg * deg)) < 2);
        // The donor is not hung: said, not guessed.
        project.placements.clear();
        QVERIFY(!judgeLine(project, line, book(), 3000).usable);
    }
    void halfShaftsPlungeAndComeApartOnTheJack() {
        model::Project project;
        project.vehicle.emplace();
        model::Donor donor;
        donor.id.text = "unit";
        donor.orientation = model::Orientation::TransverseRight;
        project.donors = {donor};
        model::Placement placement;
        placement.id.text = "p";
        placement.donor.text = "unit";
        placement.position_mm = {0, 0, 330};
        project.placements = {placement};
        model::ShaftLine line;
        line.id = "right";
        line.name = "Right half-shaft";
        line.run = model::Run::Right;
        line.half_shaft = true;
        line.from.owner = "unit";
        line.from.at_mm = {150, 0, 0}; // 150 to the right of the middle
        line.to.at_mm = {20, 600, 290};
        line.joints = {{"Inner", JointKind::CvPlunging, {}, "", {}}, {"Outer", JointKind::CvFixed, {}, "", {}}};
        model::Shaft shaft;
        shaft.closed_mm = 435;
        shaft.spline_mm = 45; // whole plunge
        line.shafts = {shaft};
        line.path.kind = model::PathKind::Arm;
        line.path.axis_a_mm = {-100, 250, 270};
        line.path.axis_b_mm = {150, 250, 270};
        line.path.centre_mm = {20, 620, 230};
        line.path.bump_mm = 70;
        line.path.droop_mm = 80;
        project.sections.edit<model::Driveline>();
        project.sections.edit<model::Driveline>().lines = {line};
        const LineReport report = judgeLine(project, line, book(), 900);
        QVERIFY2(report.usable, report.reason.c_str());
        const double ride = std::sqrt(450 * 450 + 40 * 40 + 20 * 20);
        QVERIFY(std::abs(report.slips[0].ride_mm - ride) < 1e-9);
        QVERIFY(std::abs(report.joints[0].angle_deg - std::acos(450 / ride) / deg) < 1e-9);
        QVERIFY(report.slips[0].plunging);
        // Hanging, raised until the joint is at its open length: by hand from the arm's circle.
        const LineAt hanging = LineGeometry::make(project, line).value().at({-80, 0}).value();
        const Vector3d span = hanging.joints_mm[1] - hanging.joints_mm[0];
        const double apart = std::sqrt(480.0 * 480.0 - span.x() * span.x() - span.y() * span.y()) + span.z();
        const double bent = // the inner joint at its 23°
            std::sqrt(std::pow(span.y() * std::tan(23 * deg), 2) - span.x() * span.x()) + span.z();
        QVERIFY2(std::abs(*report.slips[0].lift_mm - std::min(apart, bent)) <= 2.01,
                 qPrintable(QString("%1 %2 %3").arg(*report.slips[0].lift_mm).arg(apart).arg(bent)));
        // Left and right wanted lengths differ when the unit sits off the middle.
        model::ShaftLine left = line;
        left.id = "left";
        left.run = model::Run::Left;
        left.from.at_mm.x() = -110;
        for (Vector3d* at : {&left.to.at_mm, &left.path.axis_a_mm, &left.path.axis_b_mm, &left.path.centre_mm})
            at->y() = -at->y();
        left.shafts[0].to_make = line.shafts[0].to_make = true;
        const double right_mm = judgeLine(project, line, book(), 900).slips[0].order_closed_mm;
        const double left_mm = judgeLine(project, left, book(), 900).slips[0].order_closed_mm;
        QVERIFY(std::abs(left_mm - right_mm - 40) < 1.5);
        QVERIFY(judgeLine(project, left, book(), 900).usable);
    }
    void theMirroredLineJudgesTheSame() {
        model::ShaftLine line = simple();
        line.from.at_mm.y() = 30;
        line.to.at_mm.y() = -45;
        line.from.aside_deg = 1.5;
        line.to.aside_deg = -0.5;
        line.from.down_deg = 2;
        line.shafts[0].phase_deg = 25;
        line.path.links = {{model::PathLinkKind::Leaf, {1700, 100, 430}, {2350, 100, 430}, {}}};
        line.path.windup_up_deg = 3;
        model::ShaftLine mirror = line;
        for (model::FlangePlace* flange : {&mirror.from, &mirror.to}) {
            flange->at_mm.y() = -flange->at_mm.y();
            flange->aside_deg = -flange->aside_deg;
        }
        mirror.path.links[0].fixed_mm.y() = mirror.path.links[0].moving_mm.y() = -100;
        mirror.shafts[0].phase_deg = -25; // a fork seen in a mirror is turned the other way
        const LineReport a = judged(line), b = judged(mirror);
        QVERIFY2(a.usable && b.usable, (a.reason + b.reason).c_str());
        QCOMPARE(a.checks.size(), b.checks.size());
        for (std::size_t i = 0; i < a.checks.size(); ++i) {
            QCOMPARE(a.checks[i].verdict, b.checks[i].verdict);
            QVERIFY2(std::abs(*a.checks[i].value - *b.checks[i].value) <=
                         1e-4 * std::max(1.0, std::abs(*a.checks[i].value)),
                     a.checks[i].id.c_str());
        }
        QVERIFY(std::abs(a.joints[0].plan_deg + b.joints[0].plan_deg) < 1e-9);
    }
    void movingTheWholeVehicleChangesNothing() {
        model::ShaftLine line = simple();
        line.from.down_deg = 1;
        line.path.links = {{model::PathLinkKind::Leaf, {1700, 0, 430}, {2350, 0, 430}, {}}};
        model::ShaftLine moved = line;
        const Vector3d by(-340, 25, 118);
        moved.from.at_mm += by;
        moved.to.at_mm += by;
        moved.path.centre_mm += by;
        moved.path.links[0].fixed_mm += by;
        moved.path.links[0].moving_mm += by;
        const LineReport a = judged(line), b = judged(moved);
        for (std::size_t i = 0; i < a.checks.size(); ++i)
            QVERIFY2(std::abs(*a.checks[i].value - *b.checks[i].value) <
                         1e-5 * std::max(1.0, std::abs(*a.checks[i].value)),
                     a.checks[i].id.c_str());
    }
    void shakeGrowsWithTheSquareOfSpeed() {
        model::ShaftLine line = simple();
        line.to.down_deg = 1;
        const double slow = *check(judged(line, 1500), "torsional").value,
                     fast = *check(judged(line, 4500), "torsional").value;
        QVERIFY(std::abs(fast / slow - 9) < 1e-9);
        QVERIFY(std::abs(*check(judged(line, 4500), "shaft-1/critical").value /
                             *check(judged(line, 1500), "shaft-1/critical").value -
                         3) < 1e-9);
    }
    void aChosenSpeedIsForShakeAlone() {
        model::Project project;
        project.sections.edit<model::Driveline>();
        model::ShaftLine line = simple();
        line.to.down_deg = 1;
        line.top_rpm = 4500;
        const LineReport top = judgeLine(project, line, book(), std::nullopt);
        project.sections.edit<model::Driveline>().checked_rpm = 1500;
        const LineReport chosen = judgeLine(project, line, book(), std::nullopt);
        QVERIFY(std::abs(*check(top, "torsional").value / *check(chosen, "torsional").value - 9) < 1e-9);
        QCOMPARE(*check(chosen, "shaft-1/critical").value, *check(top, "shaft-1/critical").value);
    }
    void windUpThatIsNotGivenIsSaid() {
        model::ShaftLine line = simple();
        line.path.windup_up_deg = line.path.windup_down_deg = 0;
        QCOMPARE(check(judged(line), "joint-1/travel").verdict, Verdict::Unknown);
        line.path.windup_up_deg = 2;
        QVERIFY(check(judged(line), "joint-1/travel").reason.find("winds the axle up") != std::string::npos);
        line.path.windup_down_deg = 1;
        QCOMPARE(check(judged(line), "joint-1/travel").verdict, Verdict::Go);
        line.path.windup_up_deg = 0;
        line.path.kind = model::PathKind::Fixed;
        QVERIFY(check(judged(line), "joint-1/travel").reason.empty());
        line.path.kind = model::PathKind::NotSaid; // what nobody said is not "it stands still"
        QCOMPARE(check(judged(line), "joint-1/travel").verdict, Verdict::Unknown);
    }
    void theMakersFigureComesBeforeTheBooks() {
        model::ShaftLine line = simple();
        line.to.at_mm.z() = 380; // 7.9°
        line.path.windup_up_deg = line.path.windup_down_deg = 0.5;
        QCOMPARE(check(judged(line), "joint-1/travel").verdict, Verdict::Go);
        line.joints[0].max_deg = 5;
        line.joints[0].max_source = "stamped on its yoke";
        const LineReport report = judged(line);
        QCOMPARE(check(report, "joint-1/travel").verdict, Verdict::NoGo);
        QCOMPARE(check(report, "joint-1/travel").rule, std::string("stamped on its yoke"));
        QCOMPARE(check(report, "joint-2/travel").verdict, Verdict::Go); // the book's 15°
    }
    void badLinesSayWhatIsWrong_data() {
        QTest::addColumn<int>("what");
        QTest::addColumn<QString>("words");
        QTest::newRow("one joint") << 0 << "two joints";
        QTest::newRow("shafts and joints") << 1 << "2 joints and 0 shafts";
        QTest::newRow("no such point") << 2 << "no point \"gone\"";
        QTest::newRow("no such donor") << 3 << "does not hang";
        QTest::newRow("same place") << 4 << "one place";
        QTest::newRow("wrong way") << 5 << "80°";
        QTest::newRow("no such motion") << 6 << "no axle or arm";
        QTest::newRow("links do not reach") << 7 << "do not reach";
    }
    void badLinesSayWhatIsWrong() {
        QFETCH(int, what);
        QFETCH(QString, words);
        model::ShaftLine line = simple();
        if (what == 0) line.joints.resize(1);
        if (what == 1) line.shafts.clear();
        if (what == 2) line.to.point.text = "gone";
        if (what == 3) line.from.owner = "nobody";
        if (what == 4) line.to.at_mm = line.from.at_mm;
        if (what == 5) line.run = model::Run::Forward;
        if (what == 6) line.path.motion = "gone";
        if (what == 7) {
            line.path.links = {{model::PathLinkKind::Arm, {2250, 0, 480}, {2350, 0, 480}, {}}};
            line.path.bump_mm = 150;
        }
        const LineReport report = judged(line);
        QVERIFY(!report.usable);
        QVERIFY2(QString::fromStdString(report.reason).contains(words), report.reason.c_str());
        QCOMPARE(report.verdict, Verdict::Unknown);
        QVERIFY(report.reason.find("Rear shaft") != std::string::npos);
    }
    void readingsAreTakenAgainstTheVehiclesSlope() {
        model::Project project;
        project.sections.edit<model::Driveline>();
        model::ShaftLine line = simple();
        line.from.down_deg = 3;
        project.sections.edit<model::Driveline>().lines = {line};
        model::AngleReading reading;
        reading.id = "a";
        reading.line = "rear";
        reading.reading_deg = 4.4;
        project.sections.edit<model::Driveline>().readings = {reading};
        AngleReport report = driveline::driveline(project, book())->angles[0];
        QVERIFY(!report.angle_deg); // without the slope it is only relative
        project.sections.edit<model::Driveline>().readings[0].slope_deg = 1.2;
        report = driveline::driveline(project, book())->angles[0];
        QVERIFY(std::abs(*report.angle_deg - 3.2) < 1e-9);
        QVERIFY(std::abs(*report.planned_deg - 3) < 1e-9);
        QVERIFY(std::abs(*report.apart_deg - 0.2) < 1e-9);
        // Going aside as well, it falls as much over a longer way: tan φ = tan 3° · cos 20°.
        project.sections.edit<model::Driveline>().lines[0].from.aside_deg = 20;
        report = driveline::driveline(project, book())->angles[0];
        QVERIFY(std::abs(*report.planned_deg - std::atan(std::tan(3 * deg) * std::cos(20 * deg)) / deg) < 1e-9);
    }
};

GABARIT_SUITE(ShaftLinesTest)
#include "shaft_lines_test.moc"
