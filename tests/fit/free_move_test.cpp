#include "fit/free_move.h"
#include "fit/words.h"
#include "placed/scene.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_colliders.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

#include <set>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;
using fit::Way;

namespace {

Body body(const char* id, const char* category, const ShapeSpec& shape, const Vector3d& place) {
    Body b;
    b.id.text = id;
    b.name = id;
    b.category = category;
    b.shape = shape;
    b.position_mm = place;
    b.accuracy_mm = 1;
    return b;
}

/// A sump (200 × 200 × 100) whose underside stands 20 mm over a crossmember, a rail 200 mm to its right, and a roof
/// 45 mm over it. Limits 10 mm (certifier); the front mounts lie 1000 mm ahead of the sump at the height of its middle.
Project smallProject() {
    Project p = tests::bayOf({body("crossmember", "crossmember", BoxSpec{{100, 600, 80}}, {0, 0, 40}),
                              body("rail", "frame", BoxSpec{{2000, 60, 80}}, {0, 330, 140}),
                              body("roof", "body", BoxSpec{{2000, 600, 10}}, {0, 0, 250})},
                             {body("sump", "sump", BoxSpec{{200, 200, 100}}, {0, 0, 150})});
    p.donors[0].reference_points = {{{"m"}, "mount", "front_mount", {-1000, 0, 150}, {}, 1.0, {}, {}}};
    return p;
}

struct Found {
    Project project;
    tests::KeptColliders cache;
    placed::Scene scene;
    fit::ClearanceReport clearance;

    explicit Found(const Project& p)
        : project(p), scene(placed::makeScene(p, cache)),
          clearance(fit::clearance(p, scene, store::defaultRuleBook(), nullptr, {})) {}
    fit::RoomReport rooms(fit::MoveOptions options = {}) {
        return fit::roomToMove(project, scene, clearance, store::defaultRuleBook(), cache, options);
    }
    const fit::PairGap& pair(const std::string& a, const std::string& b) const {
        for (const fit::PairGap& g : clearance.pairs)
            if (g.a.body.text == a && g.b.body.text == b) return g;
        qFatal("no such pair");
    }
    std::optional<fit::WayOut> wayOut(const fit::PairGap& g) {
        return fit::bestWayOut(project, scene, clearance, g, store::defaultRuleBook(), cache, {});
    }
};

const fit::Room& room(const fit::RoomReport& report, Way way) {
    return *std::find_if(report.rooms.begin(), report.rooms.end(), [way](const fit::Room& r) { return r.way == way; });
}

} // namespace

class FreeMoveTest : public QObject {
    Q_OBJECT
private slots:
    void straightRoomsByHand() {
        Found found(smallProject());
        fit::MoveOptions options;
        options.range_mm = 300;
        const fit::RoomReport report = found.rooms(options);
        QVERIFY(report.complete && report.rooms.size() == 8);
        const auto expect = [&](Way way, double amount, const char* what) {
            const fit::Room& r = room(report, way);
            QVERIFY(!r.beyond);
            QVERIFY2(r.amount <= amount + 1e-9 && r.amount >= amount - 0.1 - 1e-9,
                     qPrintable(QString::number(r.amount)));
            QCOMPARE(r.b.body.text, std::string(what));
        };
        expect(Way::Down, 20 - 10, "crossmember");
        expect(Way::Up, 45 - 10, "roof");
        expect(Way::Right, 200 - 10, "rail"); // right is +Y
        QVERIFY(room(report, Way::Left).beyond);
        QCOMPARE(room(report, Way::Left).amount, 300.0);
        QVERIFY(room(report, Way::Forward).beyond && room(report, Way::Rearward).beyond);
    }
    /// Who goes by what is said goes no farther than there is room.
    void roomIsSaidRoundedDown() {
        model::Project p = smallProject();
        p.vehicle->drive_side = model::DriveSide::Left;
        fit::Room r;
        r.way = Way::Up;
        r.amount = 31.48;
        QCOMPARE(fit::roomWords(p, r, quantity::Shown::Millimetres), std::string("31.4 mm up"));
        r.way = Way::Right;
        r.amount = 12; // 7.56 sixteenths
        quantity::Shown sixteenths = quantity::Shown::Inches;
        sixteenths.length = quantity::LengthStyle::Sixteenths;
        QCOMPARE(fit::roomWords(p, r, sixteenths), std::string("7/16 in to the passenger's side"));
        r.way = Way::TailDown;
        r.amount = 0.608;
        QCOMPARE(fit::roomWords(p, r, quantity::Shown::Millimetres), std::string("tail down 0.60°"));
        r.way = Way::Forward;
        r.amount = 300;
        r.beyond = true;
        QCOMPARE(fit::roomWords(p, r, quantity::Shown::Millimetres), std::string("over 300 mm forward"));
    }
    void tailByHand() {
        // A ball of 60 mm, 1000 mm behind the pivot and level with it, 20 mm over a wide floor: the gap is 20 −
        // 1000·sin θ, and 10 are wanted: θ = asin 0.01 = 0.5730°. The roof 45 mm over it: asin 0.035 = 2.0058°.
        Project p = smallProject();
        p.vehicle->bodies[0].shape = BoxSpec{{3000, 3000, 80}};
        p.donors[0].bodies[0].shape = SphereSpec{60};
        p.vehicle->bodies[0].position_mm.z() = 150 - 30 - 20 - 40;
        p.vehicle->bodies[2].position_mm.z() = 150 + 30 + 45 + 5;
        const fit::RoomReport report = Found(p).rooms();
        QVERIFY(std::abs(room(report, Way::TailDown).amount - 0.5730) < 0.02);
        QVERIFY(std::abs(room(report, Way::TailUp).amount - 2.0058) < 0.02);
        p.donors[0].reference_points.clear(); // nothing to turn about: only straight moves are offered
        QCOMPARE(Found(p).rooms().rooms.size(), std::size_t{6});
    }
    void whatIsNoGoBlocksOnlyWhatMakesItWorse() {
        Project p = smallProject();
        p.placements[0].position_mm.z() = -12; // 8 mm left where 10 are wanted
        const fit::RoomReport report = Found(p).rooms();
        QCOMPARE(room(report, Way::Down).amount, 0.0);
        QCOMPARE(room(report, Way::Down).b.body.text, std::string("crossmember"));
        QVERIFY(std::abs(room(report, Way::Up).amount - 47) < 0.11);
        QVERIFY(room(report, Way::Left).beyond);
        QCOMPARE(room(report, Way::TailDown).amount, 0.0);
    }
    void overlapsBlockWhatDoesNotFreeThem() {
        // 5 mm in the crossmember: down is closed (through it would be 175 mm, more than the range), up frees it and is
        // open to the roof.
        Project p = smallProject();
        p.placements[0].position_mm.z() = -25;
        const fit::RoomReport report = Found(p).rooms();
        QCOMPARE(room(report, Way::Down).amount, 0.0);
        QCOMPARE(room(report, Way::Down).b.body.text, std::string("crossmember"));
        QVERIFY(std::abs(room(report, Way::Up).amount - 60) < 0.11);
        QVERIFY(room(report, Way::Left).beyond); // square to the way out: neither better nor worse
    }
    void gearboxHasAWindowOfItsOwn() {
        Project p = smallProject();
        QVERIFY(!Found(p).rooms().gearbox_up);
        p.donors[0].bodies.push_back(body("case", "gearbox", BoxSpec{{100, 100, 40}}, {0, 0, 195}));
        const fit::RoomReport report = Found(p).rooms();
        // Its top stands at 215, the roof's underside at 245; its underside at 175, the crossmember's top at 80.
        QVERIFY(std::abs(report.gearbox_up->amount - (30 - 10)) < 0.11);
        QVERIFY(std::abs(report.gearbox_down->amount - (95 - 10)) < 0.11);
    }
    void noDonorSaysSo() {
        Project p = smallProject();
        p.placements.clear();
        p.donors.clear();
        QVERIFY(!Found(p).rooms().reason.empty());
    }

    /// Law, on the demo's better placement: as far as is said nothing new is no-go; a little farther, what was named
    /// is.
    void roomsHoldOnTheDemo() {
        Project p = store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
                        .value()
                        .project;
        p.active_placement.text = "second-try";
        Found here(p);
        const auto noGo = [](const Found& f) {
            std::set<std::pair<BodyRef, BodyRef>> out;
            for (const fit::PairGap& g : f.clearance.pairs)
                if (g.verdict == Verdict::NoGo) out.insert({g.a, g.b});
            return out;
        };
        const auto before = noGo(here);
        int bound = 0;
        for (const fit::Room& r : here.rooms().rooms) {
            Project there = p;
            *activePlacement(there) = fit::gone(*activePlacement(p), *activeDonor(p), r.way, r.amount).value();
            for (const auto& pair : noGo(Found(there)))
                QVERIFY2(before.count(pair), (pair.first.text() + " " + pair.second.text()).c_str());
            if (r.beyond || r.amount == 0) continue;
            ++bound;
            const double more = fit::isTurn(r.way) ? 0.05 : 0.3;
            *activePlacement(there) = fit::gone(*activePlacement(p), *activeDonor(p), r.way, r.amount + more).value();
            QVERIFY(noGo(Found(there)).count({r.a, r.b}));
        }
        QVERIFY(bound >= 4);
    }

    void goneIsTheMotionItself() {
        Project p = smallProject();
        Placement at = p.placements[0];
        at.angles = {10, 3, -4};
        at.position_mm = {5, -6, 7};
        const Donor& donor = p.donors[0];
        QVERIFY((fit::gone(at, donor, Way::Left, 3).value().position_mm - Vector3d(5, -9, 7)).norm() < 1e-12);
        QVERIFY((fit::gone(at, donor, Way::Forward, 3).value().position_mm - Vector3d(2, -6, 7)).norm() < 1e-12);
        const Placement down = fit::gone(at, donor, Way::TailDown, 2).value();
        QCOMPARE(down.angles.pitch_deg, 5.0);
        QVERIFY((pivotVehicle_mm(down, donor).value() - pivotVehicle_mm(at, donor).value()).norm() < 1e-9);
    }

    void shortestWayOutIsTaken() {
        // 5 mm in the crossmember; 10 wanted, accuracies 1 + 1: 17 mm up. The roof then has 45 + 25 − 17 − … to spare.
        Project p = smallProject();
        p.placements[0].position_mm.z() = -25;
        Found found(p);
        const auto out = found.wayOut(found.pair("sump", "crossmember"));
        QVERIFY(out);
        QCOMPARE(out->way, Way::Up);
        QCOMPARE(out->amount, 17.0);
        QCOMPARE(out->no_go_before, 1);
        QCOMPARE(out->no_go_after, 0);
        QVERIFY((out->placement.position_mm - Vector3d(0, 0, -8)).norm() < 1e-9);
    }
    void aWayThatBringsTroubleIsNotTaken() {
        // The roof comes down to where 17 mm up would leave it 4 mm: forward off the crossmember is 150 + 12 mm, more
        // than the range; tail up lifts the sump just as well but takes the same roof. With a shorter sump forward is
        // the way.
        Project p = smallProject();
        p.placements[0].position_mm.z() = -25;
        p.vehicle->bodies[2].position_mm.z() = 175 + 21 + 5; // underside 21 mm over the sump's top
        p.donors[0].bodies[0].shape = BoxSpec{{80, 200, 100}};
        Found found(p);
        const auto out = found.wayOut(found.pair("sump", "crossmember"));
        QVERIFY(out);
        // Half of both lengths and what is wanted: 40 + 50 + 12.
        QVERIFY(out->way == Way::Forward || out->way == Way::Rearward);
        QCOMPARE(out->amount, 102.0);
        QCOMPARE(out->no_go_after, 0);
    }
    void consequencesAreNamed() {
        Project p = smallProject();
        p.placements[0].position_mm.z() = -25;
        p.vehicle->bodies[2].position_mm.z() = 175 + 21 + 5;
        Found found(p); // the sump is too long to leave the crossmember within the range: up it goes, into the roof
        const auto out = found.wayOut(found.pair("sump", "crossmember"));
        QVERIFY(out && out->way == Way::Up && !out->then);
        QCOMPARE(out->no_go_after, 1);
        QCOMPARE(out->worst_other->b.body.text, std::string("roof"));
        QVERIFY(std::abs(out->worst_other->margin_mm - (21 - 17 - 10)) < 1e-6);
    }
    void twoMovesWhereOneOnlyTrades() {
        // 17 mm up leaves 4 mm to a beam over the sump's rear end (10 wanted, ±2): one no-go for another. Forward then
        // goes out from under it: 4 mm up and √(12² − 4²) = 11.31 along leave 12, after the 20 that it reaches over.
        Project p = smallProject();
        p.placements[0].position_mm.z() = -25;
        p.vehicle->bodies[2] = body("beam", "body", BoxSpec{{40, 600, 10}}, {100, 0, 175 + 21 - 25 + 25 + 5});
        Found found(p);
        const auto out = found.wayOut(found.pair("sump", "crossmember"));
        QVERIFY(out && out->then);
        QCOMPARE(out->no_go_before, 1);
        QCOMPARE(out->no_go_after, 0);
        if (out->way == Way::Up) {
            QCOMPARE(out->amount, 17.0);
            QCOMPARE(out->then->way, Way::Forward);
            QCOMPARE(out->then->amount, 31.5); // 20 + 11.31, to half a millimetre
        }
        // Hung there, nothing is no-go: seen by the gaps themselves.
        Project there = p;
        *activePlacement(there) = out->placement;
        for (const fit::PairGap& g : Found(there).clearance.pairs) QVERIFY(g.verdict != Verdict::NoGo);
    }
    void noMoveGoesThroughAClosedPanel() {
        // A flat part inside a crossmember, a lid just over it: 39 mm up would free it, on the lid's other side.
        Project p = smallProject();
        p.vehicle->bodies[0] = body("crossmember", "crossmember", BoxSpec{{100, 600, 72}}, {0, 0, 136});
        p.vehicle->bodies[2] = body("lid", "fixed_part", BoxSpec{{2000, 600, 1}}, {0, 0, 173.5});
        p.donors[0].bodies[0].shape = BoxSpec{{200, 200, 10}};
        Found open(p);
        const auto out = open.wayOut(open.pair("sump", "crossmember"));
        QVERIFY(out && (out->way == Way::Up || out->way == Way::TailUp));
        p.vehicle->bodies[2].closing = true;
        Found closed(p);
        const auto shut = closed.wayOut(closed.pair("sump", "crossmember"));
        QVERIFY(!shut || (shut->way != Way::Up && shut->way != Way::TailUp));
        // Off it is in nobody's way.
        p.vehicle->bodies[2].off = true;
        Found off(p);
        const auto over = off.wayOut(off.pair("sump", "crossmember"));
        QVERIFY(over && (over->way == Way::Up || over->way == Way::TailUp));
    }
    void noWayWithinTheRangeIsSaid() {
        Project p = smallProject();
        p.placements[0].position_mm.z() = -25;
        Found found(p);
        fit::MoveOptions tight;
        tight.range_mm = 10;
        tight.range_deg = 0.5;
        QVERIFY(!fit::bestWayOut(found.project, found.scene, found.clearance, found.pair("sump", "crossmember"),
                                 store::defaultRuleBook(), found.cache, tight));
    }
};

GABARIT_SUITE(FreeMoveTest)
#include "free_move_test.moc"
