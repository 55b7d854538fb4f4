// Gaps over all movement, against hand results.
#include "discipline/discipline.h"
#include "fit/free_move.h"
#include "fit/stances.h"
#include "placed/scene.h"
#include "support/kept_colliders.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;
using tests::Bay;

namespace {

HardPoint point(const char* id, const Vector3d& at, const char* role = "") {
    HardPoint p;
    p.id.text = id;
    p.name = id;
    p.role = role;
    p.at_mm = at;
    p.accuracy_mm = 1;
    return p;
}

MotionSpec axleMotion(double bump_mm, double droop_mm = 60, double roll_deg = 0) {
    MotionSpec m;
    m.id = "front";
    m.name = "Front axle";
    m.kind = MotionKind::Axle;
    m.end = End::Front;
    m.bump_mm = bump_mm;
    m.droop_mm = droop_mm;
    m.roll_deg = roll_deg;
    m.at.text = "centre";
    m.bodies = {{"axle"}};
    return m;
}

/// An axle whose top lies at z 40 under a sump whose bottom lies at 150: 110 at ride.
Project axleBay(double bump_mm, double roll_deg = 0) {
    Project p = tests::smallBay();
    p.vehicle->bodies = {tests::box("axle", "axle", {90, 1200, 80}, {0, 0, 0})};
    p.vehicle->hard_points = {point("centre", {0, 0, 0})};
    p.vehicle->motions = {axleMotion(bump_mm, 60, roll_deg)};
    p.donors[0].bodies = {tests::box("sump", "sump", {200, 200, 100}, {0, 0, 200}, 1)};
    p.donors[0].reference_points = {point("left", {0, -200, 200}, "front_mount"),
                                    point("right", {0, 200, 200}, "front_mount"),
                                    point("rear", {800, 0, 200}, "gearbox_mount")};
    return p;
}

std::string words(const Bay& bay, const fit::Moment& moment) {
    return fit::stateWords(bay.project, *bay.clearance.movement, moment.state, quantity::Shown::Millimetres);
}

bool near(double a, double b, double within) { return std::abs(a - b) <= within; }

} // namespace

class MovementTest : public QObject {
    Q_OBJECT
private slots:
    void theAxleFoulsAtBumpNotAtRide() {
        const Bay bay(axleBay(95));
        const fit::PairGap& pair = *bay.pair("unit/sump", "vehicle/axle");
        QCOMPARE(pair.rest_verdict, Verdict::Go); // 110 is beyond what is looked at
        QVERIFY(pair.travel);
        QVERIFY(near(pair.travel->gap.gap_mm, 15, 1e-6)); // 110 − 95
        QCOMPARE(pair.travel->limit.gap_mm, 20.0);        // engine or gearbox and a moving part
        QCOMPARE(pair.travel->verdict, Verdict::NoGo);
        QCOMPARE(pair.deciding(), fit::When::Travel);
        QCOMPARE(words(bay, *pair.travel), std::string("front axle at full bump"));
        QCOMPARE(bay.clearance.verdict, Verdict::NoGo);
        QVERIFY(pair.clearing_move_mm && pair.clearing_move_mm->z() >= 5 + 3 && pair.clearing_move_mm->z() < 9);

        const Bay shorter(axleBay(60, 1)); // the sump's edge, 100 out: 1.7 nearer
        QCOMPARE(shorter.pair("unit/sump", "vehicle/axle")->verdict, Verdict::Go);
        QCOMPARE(shorter.clearance.verdict, Verdict::Go);
        // An axle that neither rolls nor hangs down was not measured.
        QCOMPARE(Bay(axleBay(60)).clearance.verdict, Verdict::Unknown);
        Project taut = axleBay(60, 1);
        taut.vehicle->motions[0].droop_mm = 0;
        QCOMPARE(Bay(taut).clearance.verdict, Verdict::Unknown);
        taut = axleBay(60, 1);
        taut.vehicle->motions[0].end = End::NotSaid;
        QCOMPARE(Bay(taut).clearance.verdict, Verdict::Unknown);
    }

    void rolledItsEndComesNearer() {
        // Top corner of the axle at y = ±100 under the sump's edge: higher by about 100·tan 4°.
        const Bay bay(axleBay(70, 4));
        const fit::PairGap& pair = *bay.pair("unit/sump", "vehicle/axle");
        const double angle = 4 * M_PI / 180;
        // The tilted top face over y = 100: z = 70 + 40/cos a + 100·tan a; square to it from the sump's edge.
        const double gap = (150 - 70 - 40 / std::cos(angle) - 100 * std::tan(angle)) * std::cos(angle);
        QVERIFY(near(pair.travel->gap.gap_mm, gap, 0.02));
        QVERIFY(words(bay, *pair.travel).find("rolled 4.0°") != std::string::npos);

        // Its bump stops 800 apart, half a roll of 4° takes 400·sin 4° = 27.9 from the travel: level is then worst.
        Project held = axleBay(85, 4);
        held.vehicle->motions[0].stops_apart_mm = 800;
        const Bay stops(held);
        const fit::Moment& worst = *stops.pair("unit/sump", "vehicle/axle")->travel;
        QVERIFY(near(worst.gap.gap_mm, 150 - 85 - 40, 0.01 + worst.hidden_mm));
        QVERIFY(Bay(axleBay(85, 4)).pair("unit/sump", "vehicle/axle")->travel->gap.gap_mm < 150 - 85 - 40 - 5);
        QVERIFY(kinematics::allowed(stops.clearance.movement->stops, worst.state));
    }

    void whatEveryMomentIsHeldAgainst() {
        Project p = axleBay(70);
        p.placements[0].rocking.down_mm = 4;
        p.placements[0].rocking.up_mm = 3;
        const Bay bay(p);
        const fit::PairGap& pair = *bay.pair("unit/sump", "vehicle/axle");
        QVERIFY(near(pair.travel->gap.gap_mm, 40, 1e-6)); // the engine at rest
        QVERIFY(pair.worst->bound || near(pair.worst->gap.gap_mm, 36, 0.01));
        QVERIFY(pair.worst->gap.gap_mm <= 36 + 1e-6);
        QCOMPARE(pair.worst->limit.gap_mm, 6.0); // to what moves
        QCOMPARE(pair.verdict, Verdict::Go);

        // A rail 9 mm beside the sump: rolling about the mounts' line takes some of it; 3 mm is the least.
        p.vehicle->bodies.push_back(tests::box("rail", "frame", {2000, 60, 80}, {0, 139, 200}, 0.1));
        p.donors[0].bodies[0].accuracy_mm = 0.1;
        p.placements[0].rocking = {};
        p.placements[0].rocking.roll_deg = 4;
        const Bay beside(p);
        const fit::PairGap& rail = *beside.pair("unit/sump", "vehicle/rail");
        QCOMPARE(rail.rest_verdict, Verdict::NoGo); // 9 of 10
        // The sump turns about its middle (z 200): its lower corner (100, −50) goes to 100·cos 4° + 50·sin 4°.
        const double angle = 4 * M_PI / 180, out = 100 * std::cos(angle) + 50 * std::sin(angle);
        QVERIFY(rail.worst->limit.gap_mm == 3.0);
        QVERIFY(!rail.worst->bound);
        QVERIFY(near(rail.worst->gap.gap_mm, 109 - std::max(out, 100.0), 0.3 + rail.worst->hidden_mm));
        QVERIFY(rail.worst->gap.gap_mm - rail.worst->hidden_mm <= 109 - out + 1e-6);
    }

    void mountsStopTheRocking() {
        Project p = axleBay(20);
        p.placements[0].rocking.roll_deg = 10;
        p.placements[0].rocking.down_mm = 20;
        p.placements[0].rocking.stop_mm = 8;
        const fit::Movement movement = fit::makeMovement(p);
        QCOMPARE(movement.freedoms.size(), std::size_t{3});
        QVERIFY(near(movement.freedoms[1].low, -8, 1e-9)); // down as far as the stop
        QVERIFY(near(movement.freedoms[2].high, std::asin(8.0 / 200) * 180 / M_PI, 1e-9));
        QVERIFY(kinematics::allowed(movement.stops, {0, -8, 0}));
        QVERIFY(kinematics::allowed(movement.stops, {0, 0, movement.freedoms[2].high}));
        QVERIFY(!kinematics::allowed(movement.stops, {0, -8, 1})); // pressed down it cannot roll as well
        QVERIFY(kinematics::allowed(movement.stops, {0, -4, movement.freedoms[2].high / 2}));
    }

    void toTheRightIsToTheRight() {
        Project p = axleBay(50);
        p.vehicle->bodies.push_back(tests::box("wheel", "wheel", {600, 180, 600}, {0, -700, 0}));
        p.vehicle->bodies.push_back(tests::box("rod", "steering_linkage", {20, 1000, 20}, {-150, 0, 0}));
        p.vehicle->hard_points.push_back(point("low", {0, -600, -80}));
        p.vehicle->hard_points.push_back(point("high", {0, -600, 80}));
        MotionSpec wheel;
        wheel.id = "wheel";
        wheel.name = "Left wheel";
        wheel.kind = MotionKind::Steered;
        wheel.left_deg = 30;
        wheel.right_deg = 25;
        wheel.axis_a.text = "high"; // either way round
        wheel.axis_b.text = "low";
        wheel.on = "front";
        wheel.bodies = {{"wheel"}};
        MotionSpec rod;
        rod.id = "rod";
        rod.name = "Track rod";
        rod.kind = MotionKind::Linkage;
        rod.slide_mm = {0, 80, 0};
        rod.on = "front";
        rod.bodies = {{"rod"}};
        p.vehicle->motions.push_back(wheel);
        p.vehicle->motions.push_back(rod);
        QVERIFY(validate(p, store::defaultRuleBook()).empty());
        const fit::Movement movement = fit::makeMovement(p);
        QCOMPARE(movement.broken.size(), std::size_t{1}); // the axle's roll is not given
        QCOMPARE(movement.freedoms.size(), std::size_t{2});
        const Vector3d front(-300, -600, 0); // the wheel's front, square before its pin
        const double right = 25 * M_PI / 180, left = 30 * M_PI / 180;
        const Vector3d at_right = movement.at({"vehicle", {"wheel"}}, {0, 1}) * front;
        QVERIFY((at_right - Vector3d(-300 * std::cos(right), -600 + 300 * std::sin(right), 0)).norm() < 1e-9);
        const Vector3d at_left = movement.at({"vehicle", {"wheel"}}, {0, -1}) * front;
        QVERIFY((at_left - Vector3d(-300 * std::cos(left), -600 - 300 * std::sin(left), 0)).norm() < 1e-9);
        // Steered on a risen axle it rises with it; the rod goes along too.
        QVERIFY(near((movement.at({"vehicle", {"wheel"}}, {50, 1}) * front).z(), 50, 1e-9));
        QVERIFY((movement.at({"vehicle", {"rod"}}, {50, -0.5}).translation() - Vector3d(0, -40, 50)).norm() < 1e-9);
        QCOMPARE(fit::stateWords(p, movement, {50, 1}, quantity::Shown::Millimetres),
                 std::string("front axle at full bump, full right lock"));
        QCOMPARE(fit::stateWords(p, movement, {-20, -0.5}, quantity::Shown::Millimetres),
                 std::string("front axle 20 mm into droop, 50 % of left lock"));
        QCOMPARE(fit::stateWords(p, movement, {0, 0}, quantity::Shown::Millimetres), std::string("at rest"));
    }

    void armsCarryWhatHangsOnThem() {
        Project p = axleBay(50);
        p.vehicle->bodies = {tests::box("arm", "suspension", {40, 300, 30}, {0, -450, 0}),
                             tests::box("wheel", "wheel", {600, 180, 600}, {0, -700, 0})};
        p.vehicle->hard_points = {point("a", {-100, -300, 0}), point("b", {100, -300, 0}), point("tip", {0, -600, 0})};
        MotionSpec arm;
        arm.id = "left";
        arm.name = "Left front suspension";
        arm.kind = MotionKind::Arm;
        arm.end = End::Front;
        arm.bump_mm = 80;
        arm.droop_mm = 70;
        arm.axis_a.text = "a";
        arm.axis_b.text = "b";
        arm.at.text = "tip";
        arm.bodies = {{"arm"}};
        arm.carried = {{"wheel"}};
        p.vehicle->motions = {arm};
        const fit::Movement movement = fit::makeMovement(p);
        QVERIFY(movement.broken.empty());
        // The tip runs on a circle of 300 about the axis.
        const Vector3d tip = movement.at({"vehicle", {"arm"}}, {80}) * Vector3d(0, -600, 0);
        QVERIFY(near(tip.z(), 80, 1e-9) && near(tip.y(), -300 - std::sqrt(300 * 300 - 80 * 80), 1e-9));
        const Eigen::Isometry3d wheel = movement.at({"vehicle", {"wheel"}}, {80});
        QVERIFY(wheel.linear().isIdentity(1e-12));
        QVERIFY((wheel * Vector3d(0, -600, 0) - tip).norm() < 1e-9);
        QCOMPARE(*fit::bumpTravel_mm(*p.vehicle, End::Front), 80.0);

        // An arm that is too short for its travel is named, and its verdict is not believed.
        p.vehicle->motions[0].bump_mm = 320;
        const Bay bay(p);
        QCOMPARE(bay.clearance.movement->broken.size(), std::size_t{1});
        QVERIFY(bay.clearance.verdict >= Verdict::Unknown);
    }

    void whatSpinsTakesItsRoundRoom() {
        // A bar 200 long and 20 thick turns about x at z 0: it reaches √(100² + 10²) up.
        Project p = tests::smallBay();
        p.vehicle->bodies = {tests::box("roof", "body", {400, 400, 10}, {0, 0, 125})};
        p.donors[0].bodies = {tests::box("bar", "shaft", {30, 200, 20}, {0, 0, 0})};
        p.donors[0].reference_points = {point("a", {0, 0, 0}), point("b", {100, 0, 0})};
        const double still = Bay(p).pair("unit/bar", "vehicle/roof")->gap.gap_mm;
        QCOMPARE(still, 60.0); // beyond, as it lies flat
        MotionSpec spin;
        spin.id = "spin";
        spin.name = "Shaft";
        spin.kind = MotionKind::Spin;
        spin.axis_a.text = "a";
        spin.axis_b.text = "b";
        spin.bodies = {{"bar"}};
        p.donors[0].motions = {spin};
        QVERIFY(validate(p, store::defaultRuleBook()).empty());
        const double gap = Bay(p).pair("unit/bar", "vehicle/roof")->gap.gap_mm;
        const double exact = 120 - std::hypot(100.0, 10.0);
        QVERIFY(gap <= exact + 1e-9 && gap > exact - 0.15); // flats of the polygon stand outside, never inside
        // Without an axis a box cannot say what it turns about.
        p.donors[0].motions[0].axis_a.text.clear();
        p.donors[0].motions[0].axis_b.text.clear();
        QCOMPARE(Bay(p).clearance.movement->broken.size(), std::size_t{1});
    }

    void heatKeepsItsFigureAndGrows() {
        Project p = tests::smallBay();
        p.vehicle->bodies = {tests::box("rail", "frame", {2000, 60, 80}, {0, 155, 0}, 0.5)};
        p.donors[0].bodies = {tests::box("pipe", "exhaust", {1000, 50, 50}, {0, 0, 0}, 0.5)}; // 100 beside the rail
        p.placements[0].rocking.along_mm = 2;
        const Bay far(p);
        QCOMPARE(far.pair("unit/pipe", "vehicle/rail")->verdict, Verdict::Go);
        p.vehicle->bodies[0].position_mm.y() = 25 + 26 + 30; // 26 beside: 20 wanted, but a metre of pipe grows by 7
        const Bay near_it(p);
        const fit::PairGap& pair = *near_it.pair("unit/pipe", "vehicle/rail");
        QCOMPARE(pair.rest_verdict, Verdict::Go);
        QCOMPARE(pair.worst->limit.gap_mm, 20.0);
        QVERIFY(near(pair.worst->growth_mm, 7, 1e-9));
        QVERIFY(near(pair.worst->margin_mm, 26 - 7 - 20, 0.01));
        QCOMPARE(pair.worst->verdict, Verdict::NoGo);
        // Shielded, the row's own shielded figure would hold: there is none for structure, so it stays.
        QCOMPARE(pair.verdict, Verdict::NoGo);
    }

    void travelThatNobodyGaveIsNotAssumedAway() {
        Project p = axleBay(95);
        p.vehicle->motions.clear(); // 110 at rest: nearer than 20 + 100 that it may come
        const Bay bay(p);
        QCOMPARE(bay.pair("unit/sump", "vehicle/axle")->verdict, Verdict::Unknown);
        QCOMPARE(bay.clearance.unknown_travel.size(), std::size_t{1});
        QCOMPARE(bay.clearance.unknown_travel[0].other, std::string("sump"));
        p.vehicle->bodies[0].position_mm.z() = -80; // 190: far enough
        QCOMPARE(Bay(p).clearance.verdict, Verdict::Go);
    }

    void springsSagUnderTheNewLoad() {
        Vehicle vehicle;
        vehicle.wheelbase_mm = 2000;
        vehicle.springs.front_n_per_mm = 60;
        const fit::Sag sag = fit::sagOf(vehicle, 90, -40);
        QVERIFY(near(*sag.front_mm, 90 * 9.80665 / 60, 1e-9));
        QVERIFY(!sag.rear_mm); // its rate is not known
        const Vector3d middle = fit::groundMoved(vehicle, 16, 0) * Vector3d(1000, 0, 0);
        QVERIFY(near(middle.z(), 8, 0.001));
        QVERIFY(near((fit::groundMoved(vehicle, 16, -4) * Vector3d(2000, 0, 0)).z(), -4, 0.001));

        // A sump 123 above the ground in the middle: 8 of it go.
        Project p = tests::smallBay();
        p.vehicle->wheelbase_mm = 2000;
        p.vehicle->bodies = {tests::box("ground", "ground", {4000, 2000, 20}, {1000, 0, -10}, 0.5)};
        p.donors[0].bodies = {tests::box("sump", "sump", {10, 200, 100}, {1000, 0, 173}, 0.5)};
        tests::KeptColliders cache;
        fit::ClearanceOptions options;
        options.sag.front_mm = 16;
        const auto report = fit::clearance(p, placed::makeScene(p, cache), store::defaultRuleBook(), nullptr, options);
        const fit::PairGap& pair = report.pairs.front();
        QVERIFY(near(pair.gap.gap_mm, 123, 1e-6));
        QVERIFY(pair.worst && pair.worst->sag);
        QVERIFY(near(pair.worst->gap.gap_mm, 115, 0.1));
        QCOMPARE(pair.verdict, Verdict::NoGo); // 120 wanted
        QCOMPARE(pair.deciding(), fit::When::Worst);
    }

    void standsOnBumpStopsAndBlocks() {
        Project p = axleBay(70);
        p.vehicle->datum.kind = "ground";
        for (Body& b : p.vehicle->bodies) b.position_mm.z() += 300;
        for (HardPoint& h : p.vehicle->hard_points) h.at_mm.z() += 300;
        p.placements[0].position_mm.z() = 300; // sump's bottom at 450
        p.vehicle->stances = {{"blocks", "On blocks", 30, 0, "two of oak", {}}, {"no", "Too far", 90, 0, "", {}}};
        const Bay bay(p);
        fit::Sag sag;
        sag.front_mm = 12;
        const auto report = fit::stances(bay.project, bay.scene, bay.book, *bay.clearance.movement, sag);
        QVERIFY(report);
        QCOMPARE(report->lines.size(), std::size_t{5});
        const double heights[] = {450, 438, 380, 420, 360};
        for (std::size_t i = 0; i < 5; ++i) {
            QVERIFY(near(*report->lines[i].ground_mm, heights[i], 1e-9)); // level: no wheelbase is given
            QCOMPARE(report->lines[i].lowest.body.text, std::string("sump"));
        }
        QCOMPARE(report->lines[0].limit_mm, 120.0);
        QCOMPARE(report->lines[2].limit_mm, 30.0);
        QVERIFY(!report->lines[2].beyond_bump && report->lines[4].beyond_bump);
        QVERIFY(near(report->lines[0].tightest->gap.gap_mm, 110, 1e-6));
        QVERIFY(near(report->lines[2].tightest->gap.gap_mm, 40, 1e-6));
        // Nothing that moves, no ground: nothing is asked.
        Project none = tests::smallBay();
        const Bay still(none);
        QVERIFY(!fit::stances(none, still.scene, still.book, *still.clearance.movement, {}));
    }

    void whileTheHandMovesItIsALowerBound_data() {
        QTest::addColumn<double>("z");
        for (const double z : {-20.0, -8.0, 0.0, 6.0, 15.0}) QTest::addRow("%g", z) << z;
    }
    void whileTheHandMovesItIsALowerBound() {
        QFETCH(double, z);
        Project p = axleBay(95, 4);
        p.placements[0].position_mm.z() = z;
        p.placements[0].rocking.roll_deg = 2;
        p.placements[0].rocking.down_mm = 4;
        const Bay bay(p);
        tests::KeptColliders cache;
        fit::ClearanceOptions live;
        live.effort = discipline::Effort::Bounds;
        const auto report = fit::clearance(p, placed::makeScene(p, cache), bay.book, nullptr, live);
        const fit::PairGap &quick = report.pairs.front(), &full = *bay.pair("unit/sump", "vehicle/axle");
        for (const auto moment : {&fit::PairGap::travel, &fit::PairGap::worst}) {
            const fit::Moment &q = *(quick.*moment), &f = *(full.*moment);
            if (f.overlap()) continue; // found early or late, touching is touching
            QVERIFY(q.gap.gap_mm - q.hidden_mm <= f.gap.gap_mm + 1e-6);
            QVERIFY(f.hidden_mm <= 2.01);
            QVERIFY(q.states <= 64);
        }
    }

    void whatIsKeptFromEarlierRunsIsTheSame() {
        Project p = axleBay(95, 4);
        p.placements[0].rocking.roll_deg = 2;
        tests::KeptColliders cache;
        fit::GapMemo memo;
        const auto once = [&](const Project& project) {
            return fit::clearance(project, placed::makeScene(project, cache), store::defaultRuleBook(), &memo, {});
        };
        const auto first = once(p), again = once(p);
        QVERIFY(first.pairs[0].travel->gap.gap_mm == again.pairs[0].travel->gap.gap_mm);
        // Another travel is another answer, though no body has moved.
        p.vehicle->motions[0].bump_mm = 80;
        QVERIFY(near(once(p).pairs[0].travel->gap.gap_mm, first.pairs[0].travel->gap.gap_mm + 15, 0.5));
    }

    /// Told to spin between two runs, a body is not the one that was measured before.
    void whatIsKeptKnowsSpinningFromStanding() {
        Project p = tests::smallBay();
        p.vehicle->bodies = {tests::box("roof", "body", {400, 400, 10}, {0, 0, 65})};
        p.donors[0].bodies = {tests::box("bar", "shaft", {30, 80, 20}, {0, 0, 0})};
        p.donors[0].reference_points = {point("a", {0, 0, 0}), point("b", {100, 0, 0})};
        tests::KeptColliders cache;
        fit::GapMemo memo;
        const auto gap = [&] {
            return fit::clearance(p, placed::makeScene(p, cache), store::defaultRuleBook(), &memo, {})
                .pairs[0]
                .gap.gap_mm;
        };
        QVERIFY(near(gap(), 50, 1e-6)); // flat: 60 − 10
        MotionSpec spin;
        spin.id = spin.name = "spin";
        spin.kind = MotionKind::Spin;
        spin.axis_a.text = "a";
        spin.axis_b.text = "b";
        spin.bodies = {{"bar"}};
        p.donors[0].motions = {spin};
        QVERIFY(near(gap(), 60 - std::hypot(40.0, 10.0), 0.1));
        p.donors[0].motions.clear();
        QVERIFY(near(gap(), 50, 1e-6));
    }

    /// Without a line to roll about it still goes up and down, and it is said what lacks.
    void rockingWithoutMountsIsNamed() {
        Project p = axleBay(95);
        p.donors[0].reference_points.clear();
        p.placements[0].rocking.roll_deg = 2;
        p.placements[0].rocking.down_mm = 5;
        const fit::Movement movement = fit::makeMovement(p);
        QCOMPARE(movement.broken.size(), std::size_t{2}); // and the axle's roll
        QVERIFY(movement.broken[1].error.mend.find("front_mount") != std::string::npos);
        const Vector3d down = movement.at({"unit", {"sump"}}, {0, -5}).translation();
        QVERIFY((down - Vector3d(0, 0, -5)).norm() < 1e-12);
        QVERIFY(Bay(p).clearance.verdict >= Verdict::Unknown);
    }

    /// Down there is room until the axle at full bump binds, not the axle at ride: 110 − 60 − 20 of the 90 at ride.
    void theRoomDownEndsAtTheBump() {
        const Bay bay(axleBay(60));
        tests::KeptColliders cache;
        Project p = bay.project;
        p.placements[0].pivot = Pivot::BlockFace;
        const auto report = fit::roomToMove(p, bay.scene, bay.clearance, bay.book, cache, {});
        for (const fit::Room& room : report.rooms)
            if (room.way == fit::Way::Down) {
                QVERIFY(!room.beyond);
                QVERIFY(room.amount <= 30 && room.amount > 29.5);
                QCOMPARE(room.b.body.text, std::string("axle"));
            }
    }

    void whatOverlapsAtRestIsNotLookedAtFurther() {
        Project p = axleBay(95);
        p.placements[0].position_mm.z() = -120;
        const Bay bay(p);
        const fit::PairGap& pair = *bay.pair("unit/sump", "vehicle/axle");
        QVERIFY(pair.overlap() && !pair.travel && !pair.worst);
        QCOMPARE(pair.deciding(), fit::When::Rest);
    }
};

GABARIT_SUITE(MovementTest)
#include "movement_test.moc"
