// Tools, levers, panels, options and readings, in a bay whose figures are known by hand.
#include "fit/lowest.h"
#include "fit/measured.h"
#include "fit/tool_access.h"
#include "mounts/section/mounts.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using namespace gabarit::tests;
using Eigen::Vector3d;

namespace {

/// A plug on the sump's front face, tool going forward.
Project withPlug(double z_mm = 150) {
    Project p = smallBay();
    ServicedBolt plug;
    plug.id = "plug";
    plug.name = "Drain plug";
    plug.at_mm = {-100, 0, z_mm};
    plug.along = {-2, 0, 0}; // any length
    plug.socket_mm = 26;
    plug.accuracy_mm = 1;
    plug.in.text = "sump";
    p.donors[0].serviced = {plug};
    return p;
}
fit::ToolAccess access(const Project& p) {
    Bay bay(p);
    const auto all = fit::toolAccess(bay.project, bay.scene, bay.book, bay.cache, {});
    if (all.size() != 1) qFatal("%zu serviced", all.size());
    return all.front();
}

Project withLever(double x_mm, double y_mm) {
    Project p = smallBay();
    p.donors[0].reference_points = {{{"l"}, "Lever", "shift_lever", {x_mm, y_mm, 200}, {}, 1.0, {}, {}}};
    p.donors[0].reference_points[0].accuracy_mm = 1;
    HardPoint hole;
    hole.id.text = "h";
    hole.name = "Floor opening";
    hole.role = "shift_lever_opening";
    hole.at_mm = {0, 0, 250};
    hole.size_mm = Vector3d(160, 120, 0);
    hole.accuracy_mm = 2;
    p.vehicle->hard_points = {hole};
    return p;
}
std::optional<fit::LeverCheck> lever(const Project& p) {
    return fit::leverCheck(p, applied(store::defaultRuleBook(), p.rules));
}

MeasuredGap reading(const char* a, const char* b, double gap_mm) {
    MeasuredGap gap;
    gap.a = {"unit", {a}};
    gap.b = {vehicle_owner, {b}};
    gap.gap_mm = gap_mm;
    gap.accuracy_mm = 0.5;
    gap.date = "2026-05-17";
    return gap;
}
fit::MeasuredReport measured(const Project& p) {
    Bay bay(p);
    return fit::measuredAgainstPlanned(bay.project, bay.scene, bay.book);
}

} // namespace

class ChecksTest : public QObject {
    Q_OBJECT
private slots:
    void aToolReachesUnlessSomethingStandsInItsWay() {
        Project p = withPlug();
        fit::ToolAccess open = access(p);
        QCOMPARE(open.verdict, Verdict::Go);
        QCOMPARE(open.diameter_mm, 30.0); // the socket's 26 and 4 round it
        QVERIFY((open.to_mm - Vector3d(-250, 0, 150)).norm() < 1e-9);
        // A wall 100 ahead of it blocks; one 160 ahead does not.
        p.vehicle->bodies.push_back(box("wall", "body", {10, 400, 400}, {-205, 0, 150}));
        const fit::ToolAccess shut = access(p);
        QCOMPARE(shut.verdict, Verdict::NoGo);
        QCOMPARE(shut.blockers.size(), std::size_t(1));
        QCOMPARE(shut.blockers[0].ref.text(), std::string("vehicle/wall"));
        p.vehicle->bodies.back().position_mm.x() = -265;
        QCOMPARE(access(p).verdict, Verdict::Go);
        // The unit moves, the plug with it.
        p.placements[0].position_mm.x() = -60;
        QCOMPARE(access(p).verdict, Verdict::NoGo);
        // A shorter tool is a figure of the project's own.
        p.rules.figures = {{"tool_length_mm", "", 60, "a stubby socket", {}}};
        QCOMPARE(access(p).verdict, Verdict::Go);
    }
    void nearTheToolIsCloseWhileTheAccuracyIsLarger() {
        Project p = withPlug();
        // The tool's flank stands at z 135; a shelf's top 2 mm below it, measured to ±2 and the plug to ±1.
        p.vehicle->bodies.push_back(box("shelf", "body", {200, 400, 10}, {-250, 0, 128}));
        const fit::ToolAccess near = access(p);
        QCOMPARE(near.verdict, Verdict::Close);
        QVERIFY(std::abs(near.blockers[0].gap_mm - 2) < 0.15); // the round tool's mesh
        p.vehicle->bodies.back().accuracy_mm.reset();
        QCOMPARE(access(p).verdict, Verdict::Unknown);
        QVERIFY(access(p).reason.find("shelf") != std::string::npos);
        p.vehicle->bodies.back().closing = true; // the bonnet is up
        QCOMPARE(access(p).verdict, Verdict::Go);
        p.vehicle->bodies.back().closing = false;
        p.donors[0].serviced[0].socket_mm.reset();
        QCOMPARE(access(p).verdict, Verdict::Unknown);
    }
    void theDonorsOwnPartsBlockToo() {
        Project p = withPlug();
        p.donors[0].bodies.push_back(box("alternator", "accessory", {60, 60, 60}, {-160, 0, 150}, 1));
        QCOMPARE(access(p).blockers.at(0).ref.text(), std::string("unit/alternator"));
        p.donors[0].bodies.back().off = true;
        QCOMPARE(access(p).verdict, Verdict::Go);
        p.donors[0].bodies.front().off = true; // its own body is out: there is nothing to serve
        Bay bay(p);
        QVERIFY(fit::toolAccess(bay.project, bay.scene, bay.book, bay.cache, {}).empty());
    }

    void whatComesOffNeedsItsWayOut() {
        // A filter 60 long on the sump's front face (x −100), drawn forward; a wall 40 before its end.
        Project p = withPlug();
        p.donors[0].bodies.push_back(box("filter", "accessory", {60, 70, 70}, {-130, 0, 150}, 1));
        p.vehicle->bodies.push_back(box("wall", "body", {10, 400, 400}, {-205, 0, 150})); // its face at −200
        ServicedBolt& bolt = p.donors[0].serviced[0];
        bolt.name = "Filter";
        bolt.at_mm = {-160, 0, 150};
        bolt.in.text = "filter";
        bolt.socket_mm.reset(); // by hand
        bolt.pull_mm = 30;
        QVERIFY(validate(p, store::defaultRuleBook()).empty());
        fit::ToolAccess off = access(p);
        QCOMPARE(off.verdict, Verdict::Go); // 10 left of the 40, known to ±4; the sump it sits on does not count
        bolt.pull_mm = 38;
        off = access(p);
        QCOMPARE(off.verdict, Verdict::Close);
        QVERIFY(off.blockers.at(0).coming_off && std::abs(off.blockers[0].gap_mm - 2) < 1e-6);
        bolt.pull_mm = 55; // it would go through the wall and end inside it
        off = access(p);
        QCOMPARE(off.verdict, Verdict::NoGo);
        QCOMPARE(off.blockers.at(0).ref.text(), std::string("vehicle/wall"));
        bolt.pull_mm = 200; // or past it
        QCOMPARE(access(p).verdict, Verdict::NoGo);
        // A long socket for one that a usual one does not reach.
        bolt.pull_mm.reset();
        bolt.socket_mm = 20;
        bolt.length_mm = 35;
        QCOMPARE(access(p).verdict, Verdict::Go);
        bolt.length_mm = 60;
        QCOMPARE(access(p).verdict, Verdict::NoGo);
        bolt.in.text.clear();
        bolt.pull_mm = 10;
        QCOMPARE(validate(p, store::defaultRuleBook()).size(), std::size_t(1)); // nothing that comes off
    }

    void theLeverComesUpWhereTheFloorIsOpen() {
        // Opening ±80 × ±60. At (30, −20): 50 to the front or rear edge, 40 to the side.
        auto check = lever(withLever(30, -20));
        QVERIFY(check && check->verdict == Verdict::Go);
        QVERIFY(std::abs(*check->room_mm - 40) < 1e-9);
        QCOMPARE(check->limit_mm, 10.0);
        check = lever(withLever(68, 0)); // 12 to the edge, 10 wanted, ±3
        QCOMPARE(check->verdict, Verdict::Close);
        check = lever(withLever(95, 56));
        QCOMPARE(check->verdict, Verdict::NoGo);
        QVERIFY(std::abs(*check->room_mm + 15) < 1e-9);
        QVERIFY((*check->move_mm - Vector3d(-25, -6, 0)).norm() < 1e-9); // to 70 and 50
        Project p = withLever(95, 56);
        p.placements[0].position_mm += *check->move_mm;
        QVERIFY(std::abs(*lever(p)->room_mm - 10) < 1e-9);
        p.vehicle->hard_points[0].size_mm = Vector3d(160, 15, 0);
        QVERIFY(!lever(p)->move_mm);
        p.vehicle->hard_points[0].accuracy_mm.reset();
        p.vehicle->hard_points[0].size_mm = Vector3d(400, 400, 0);
        QCOMPARE(lever(p)->verdict, Verdict::Unknown);
        p.vehicle->hard_points.clear();
        QVERIFY(!lever(p));
    }

    void noGapIsBelievedWhileAClosingPanelIsOff() {
        Project p = smallBay();
        p.vehicle->bodies.push_back(box("bonnet", "bonnet", {400, 600, 2}, {0, 0, 600}));
        p.vehicle->bodies.back().closing = true;
        QCOMPARE(Bay(p).clearance.verdict, Verdict::Go);
        p.vehicle->bodies.back().off = true;
        const Bay off(p);
        QCOMPARE(off.clearance.verdict, Verdict::Unknown);
        QCOMPARE(off.clearance.closing_off.size(), std::size_t(1));
        QVERIFY(!off.pair("unit/sump", "vehicle/bonnet"));
        p.vehicle->bodies.back().closing = false; // a bonnet closes the bay, said or not
        QCOMPARE(Bay(p).clearance.verdict, Verdict::Unknown);
        p.vehicle->bodies.back().category = "body"; // any other body may be off without that
        QCOMPARE(Bay(p).clearance.verdict, Verdict::Go);
        p.vehicle->bodies.back().closing = true;
        p.placements[0].position_mm.z() = -25;
        QCOMPARE(Bay(p).clearance.verdict, Verdict::NoGo); // what is bad is still bad
    }

    void optionsChangeWhatStandsInTheBay() {
        Project p = smallBay();
        Choice choice;
        choice.id = "sump";
        choice.name = "Sump";
        choice.options = {{"deep", "deep", "", {}}, {"flat", "flat", "", {}}};
        p.donors[0].choices = {choice};
        p.donors[0].bodies[0].option = "sump/deep";
        Body flat = box("flat", "sump", {200, 200, 50}, {0, 0, 175}, 1),
             wing = box("wing", "sump", {60, 60, 20}, {0, 0, 150}, 1);
        flat.option = wing.option = "sump/flat";
        p.donors[0].bodies.push_back(flat);
        p.donors[0].bodies.push_back(wing);
        p.donors[0].bodies.push_back(box("block", "engine", {200, 200, 100}, {0, 0, 260}, 1));
        const Bay deep(p);
        QVERIFY(deep.pair("unit/sump", "vehicle/crossmember") && !deep.pair("unit/flat", "vehicle/crossmember"));
        QVERIFY(!deep.pair("unit/sump", "unit/block")); // it came with it
        p.placements[0].taken = {{"unit/sump", "flat", {}}};
        const Bay shallow(p);
        QVERIFY(!shallow.pair("unit/sump", "vehicle/crossmember"));
        QVERIFY(std::abs(shallow.pair("unit/flat", "vehicle/crossmember")->gap.gap_mm - 70) < 1e-9 ||
                shallow.pair("unit/flat", "vehicle/crossmember")->beyond());
        QVERIFY(std::abs(shallow.pair("unit/flat", "unit/block")->gap.gap_mm - 10) <
                1e-9);                                    // an alternative must prove itself
        QVERIFY(!shallow.pair("unit/flat", "unit/wing")); // one piece
    }

    void readingsThatAgreeSuspectNobody() {
        Project p = smallBay();
        p.measured = {reading("sump", "crossmember", 21.5)}; // planned 20, ±0.5 ±1 ±2
        const auto report = measured(p);
        QCOMPARE(report.lines[0].agreement, fit::Agreement::Agrees);
        QVERIFY(std::abs(*report.lines[0].planned_mm - 20) < 1e-9 &&
                std::abs(*report.lines[0].difference_mm - 1.5) < 1e-9);
        QVERIFY(std::abs(*report.lines[0].accuracy_mm - 3.5) < 1e-9);
        QVERIFY(report.suspects.empty() && report.differing == 0);
    }
    void oneReadingSuspectsWhatWasMeasuredWorst() {
        Project p = smallBay();
        p.vehicle->bodies[0].accuracy_mm = 6;
        p.measured = {reading("sump", "crossmember", 8)}; // 12 less than planned
        const auto report = measured(p);
        QCOMPARE(report.differing, 1);
        QCOMPARE(report.suspects.front().name, std::string("crossmember"));
        // 12 mm higher than planned would explain all of it, and so would any other body of the pair.
        QVERIFY((report.suspects.front().off_vehicle_mm - Vector3d(0, 0, 12)).norm() < 1e-6);
        for (const fit::Suspect& suspect : report.suspects) QVERIFY(suspect.misfit < 1e-9 && suspect.explains == 1);
        // A reading elsewhere that agrees speaks for none of its bodies. By hand: 12² over 0.5² + 1² + 6² + 3².
        p.donors[0].bodies.push_back(box("arm", "engine", {100, 60, 40}, {600, 330, 120}, 1));
        p.measured.push_back(reading("arm", "rail", 20));
        for (const fit::Suspect& suspect : measured(p).suspects)
            if (suspect.name == "rail") QVERIFY(std::abs(suspect.misfit - 144 / 46.25) < 1e-9);
        QCOMPARE(measured(p).suspects.front().name, std::string("crossmember"));
        QCOMPARE(report.suspects.front().explains, 1);
    }
    void aBodyThatExplainsAllReadingsIsTheOne() {
        // Two donor bodies over the crossmember, one over the rail: only the crossmember's readings are off.
        Project p = smallBay();
        p.donors[0].bodies.push_back(box("pan", "sump", {100, 100, 100}, {0, 200, 150}, 1));
        p.donors[0].bodies.push_back(box("arm", "engine", {100, 60, 40}, {600, 330, 120}, 1));
        p.measured = {reading("sump", "crossmember", 10), reading("pan", "crossmember", 10),
                      reading("arm", "rail", 20)};
        auto report = measured(p);
        QCOMPARE(report.differing, 2);
        QCOMPARE(report.suspects.front().body->text(), std::string("vehicle/crossmember"));
        QCOMPARE(report.suspects.front().explains, 2);
        QVERIFY(report.suspects.front().off_vehicle_mm.z() > 5);
        // Both over the crossmember and another over the rail's own height: then the donor hangs low.
        p.donors[0].bodies.push_back(box("foot", "engine", {100, 60, 40}, {-600, 330, 120}, 1));
        p.measured = {reading("sump", "crossmember", 14), reading("pan", "crossmember", 14),
                      reading("foot", "rail", 14)};
        report = measured(p);
        QVERIFY(!report.suspects.front().body);
        QCOMPARE(report.suspects.front().name, std::string("Unit"));
        QVERIFY(report.suspects.front().off_vehicle_mm.z() < -3);
    }
    void readingsThatCannotBeHeldAgainstThePlan() {
        Project p = smallBay();
        p.measured = {reading("sump", "crossmember", 10)};
        p.measured[0].placement.text = "another";
        QCOMPARE(measured(p).lines[0].agreement, fit::Agreement::Elsewhere);
        p.measured[0].placement.text.clear();
        p.measured[0].accuracy_mm.reset();
        QCOMPARE(measured(p).lines[0].agreement, fit::Agreement::Unknown);
        QVERIFY(measured(p).lines[0].difference_mm && measured(p).suspects.empty());
        p.vehicle->bodies[0].off = true;
        QVERIFY(measured(p).lines[0].reason.find("not in the bay") != std::string::npos);
    }
    /// A bolt of a mount's stand, its head 10 above it: socket 22 and a hand of 90 for the last 100 of the tool.
    void aMountsBoltsNeedToolAndHand() {
        Project p;
        p.vehicle.emplace();
        Mount mount;
        mount.id = "left";
        mount.name = "Left mount";
        mount.pad.owner = vehicle_owner;
        mount.stand.emplace();
        mount.stand->at_mm = {0, 0, 500};
        mount.stand->holes_mm = {{0, 0}, {200, 0}};
        mount.stand->accuracy_mm = 1;
        mount.stand_bolts.clamped_mm = 10;
        p.sections.edit<Mounts>();
        const auto found = [&] {
            p.sections.edit<Mounts>().mounts = {mount};
            Bay bay(p);
            return fit::toolAccess(bay.project, bay.scene, bay.book, bay.cache, {});
        };
        QCOMPARE(found().size(), std::size_t(2)); // no socket: not known whether they can be reached
        QCOMPARE(found()[0].verdict, Verdict::Unknown);
        QVERIFY(found()[0].reason.find("socket") != std::string::npos);
        mount.stand_bolts.socket_mm = 22;
        const auto free = found();
        QCOMPARE(free.size(), std::size_t(2)); // one for each hole
        QCOMPARE(free[1].id, std::string("mount:left:stand:2"));
        QVERIFY((free[1].from_mm - Vector3d(200, 0, 510.5)).norm() < 1e-9);
        QCOMPARE(free[0].verdict, Verdict::Go);
        const double end_mm = free[0].to_mm.z();
        // A wall 30 beside its middle: past the socket, where the hand has to be.
        p.vehicle->bodies = {box("wall", "body", {20, 60, 40}, {-40, 0, end_mm - 50})};
        const fit::ToolAccess hand = found()[0];
        QCOMPARE(hand.verdict, Verdict::NoGo);
        QVERIFY(hand.blockers[0].hand);
        // The same wall down by the head is in nobody's way.
        p.vehicle->bodies[0].position_mm.z() = 540;
        QCOMPARE(found()[0].verdict, Verdict::Go);
        // Over the head no tool goes on; of the mount's own tower it is no hindrance.
        p.vehicle->bodies[0].position_mm = {0, 0, 560};
        const fit::ToolAccess tool = found()[0];
        QCOMPARE(tool.verdict, Verdict::NoGo);
        QVERIFY(!tool.blockers[0].hand);
        mount.tower.emplace();
        mount.tower->bodies = {"wall"};
        QCOMPARE(found()[0].verdict, Verdict::Go);
    }
    /// A through bolt needs a tool on its head and one, with a hand, on its nut: 8 of metal below, from 492 down.
    void aThroughBoltIsReachedFromBothSides() {
        Project p;
        p.vehicle.emplace();
        Mount mount;
        mount.id = mount.name = "left";
        mount.pad.owner = vehicle_owner;
        mount.pad.at_mm = {0, 0, 500};
        mount.pad.holes_mm = {{0, 0}};
        mount.pad.through = true;
        mount.pad.depth_mm = 8;
        mount.pad.accuracy_mm = 1;
        mount.pad_bolts.socket_mm = 22;
        mount.pad_bolts.clamped_mm = 10;
        p.sections.edit<Mounts>();
        p.sections.edit<Mounts>().mounts = {mount};
        const auto found = [&] {
            Bay bay(p);
            return fit::toolAccess(bay.project, bay.scene, bay.book, bay.cache, {});
        };
        QCOMPARE(found().size(), std::size_t(2));
        const fit::ToolAccess nut = found()[1];
        QCOMPARE(nut.id, std::string("mount:left:pad:1:nut"));
        QVERIFY((nut.from_mm - Vector3d(0, 0, 491.5)).norm() < 1e-9);
        QVERIFY(nut.to_mm.z() < nut.from_mm.z());
        QCOMPARE(nut.verdict, Verdict::Go);
        p.vehicle->bodies = {box("floor", "body", {400, 400, 10}, {0, 0, 450})};
        QCOMPARE(found()[0].verdict, Verdict::Go); // the head is free
        QCOMPARE(found()[1].verdict, Verdict::NoGo);
        p.sections.edit<Mounts>().mounts[0].pad_bolts.nut_socket_mm = 27;
        QVERIFY(found()[1].diameter_mm > found()[0].diameter_mm);
    }
    /// The sump's underside at 100, the crossmember's at 0, an axle's at −50: above both. Lowered by 122 the sump hangs
    /// 22 below the crossmember it passes over, and 28 above the axle.
    void theLowestOfTheUnit() {
        Project p = smallBay();
        p.vehicle->bodies.push_back(box("axle", "axle", {80, 1200, 80}, {2500, 0, -10}));
        p.vehicle->bodies.push_back(box("tail", "crossmember", {80, 600, 80}, {3000, 0, -300})); // not over it
        const auto lowest = [&] {
            Bay bay(p);
            return fit::lowestPart(bay.scene, bay.book);
        };
        QCOMPARE(lowest().verdict, Verdict::Go);
        QVERIFY(std::abs(*lowest().checks.at(0).value + 100) < 1e-6);
        p.placements[0].position_mm.z() = -122;
        const fit::LowestReport low = lowest();
        QCOMPARE(low.lowest, std::string("sump"));
        QCOMPARE(low.checks.at(0).id, std::string("lowest/crossmember"));
        QVERIFY(std::abs(*low.checks[0].value - 22) < 1e-6);
        QCOMPARE(low.checks[0].verdict, Verdict::Close);
        QVERIFY(std::abs(*low.checks.at(1).value + 28) < 1e-6);
        QCOMPARE(low.checks[1].verdict, Verdict::Go);
        p.donors[0].bodies[0].category = "exhaust";
        QVERIFY(lowest().checks.empty()); // hangs there by its nature
        p.donors[0].bodies[0].category = "sump";
        p.donors[0].bodies[0].accuracy_mm.reset();
        QCOMPARE(lowest().checks[1].verdict, Verdict::Unknown);
        Figure own;
        own.id = "below_crossmember_mm";
        own.value = 30;
        p.rules.figures = {own};
        QCOMPARE(lowest().checks[0].verdict, Verdict::Unknown); // allowed 30, not known how accurately
    }
    void aCrossmemberComesOutDownwards() {
        Project p;
        p.vehicle.emplace();
        p.vehicle->bodies = {box("bar", "crossmember", {60, 600, 50}, {1000, 0, 400})};
        p.sections.edit<Mounts>();
        Crossmember bar;
        bar.id = "bar";
        bar.name = "Gearbox crossmember";
        bar.body.text = "bar";
        p.sections.edit<Mounts>().crossmembers = {bar};
        QCOMPARE(access(p).verdict, Verdict::Go);
        // Its underside is at 375 and it comes down 120: a pipe's top at 300 is in its way, one at 240 is not.
        p.vehicle->bodies.push_back(box("pipe", "exhaust", {400, 60, 60}, {1000, 100, 270}));
        const fit::ToolAccess shut = access(p);
        QCOMPARE(shut.verdict, Verdict::NoGo);
        QVERIFY(shut.blockers[0].coming_off);
        p.vehicle->bodies.back().position_mm.z() = 210;
        QCOMPARE(access(p).verdict, Verdict::Go);
    }
};

GABARIT_SUITE(ChecksTest)
#include "checks_test.moc"
