// The smallest move that frees everything: bays whose answers are known by hand.
#include "fit/free_all.h"
#include "support/kept_colliders.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;
using fit::Freedom;

namespace {

Body body(const char* id, const char* category, const Vector3d& size, const Vector3d& middle) {
    return tests::box(id, category, size, middle, 1);
}

/// A block of the unit among things of the vehicle; the pivot lies in the block's middle.
Project bay(const std::vector<Body>& standing, const std::vector<Body>& unit) {
    Project p = tests::bayOf(standing, unit);
    p.donors[0].reference_points = {{{"m"}, "mount", "front_mount", {0, 0, 0}, {}, 1.0, {}, {}}};
    return p;
}

/// From fewer starts than one would wait for: the bays here are simple.
fit::FreeOptions quick() {
    fit::FreeOptions out;
    out.starts = 6;
    return out;
}

struct Asked {
    explicit Asked(const Project& p, const fit::FreeOptions& options = quick())
        : project(p), book(store::defaultRuleBook()), scene(placed::makeScene(p, cache)),
          now(fit::clearance(p, scene, book, nullptr, {})),
          report(fit::freeAll(project, scene, now, book, cache, options)) {}
    double by(Freedom freedom, std::size_t place = 0) const {
        return report.places.at(place).by[static_cast<std::size_t>(freedom)];
    }
    Project project;
    RuleBook book;
    tests::KeptColliders cache;
    placed::Scene scene;
    fit::ClearanceReport now;
    fit::FreeReport report;
};

/// What two boxes of ±1 mm have to be apart to be good: ten of the table and both doubts (flat faces are meshed as they
/// are).
constexpr double good_mm = 10 + 1 + 1;

/// Two walls across, the faces that look at each other at y = left and y = right, and a block 200 wide.
Project slot(double left, double right) {
    return bay({body("left", "frame", {800, 40, 400}, {0, left - 20, 0}),
                body("right", "frame", {800, 40, 400}, {0, right + 20, 0})},
               {body("block", "engine", {300, 200, 200}, {0, 0, 0})});
}

fit::FreeOptions only(std::initializer_list<Freedom> open) {
    fit::FreeOptions out;
    fit::FreeLimits limits;
    limits.low.fill(0);
    limits.high.fill(0);
    for (const Freedom freedom : open) {
        const auto k = static_cast<std::size_t>(freedom);
        limits.low[k] = fit::isTurn(k) ? -8 : -150;
        limits.high[k] = -limits.low[k];
    }
    out.limits = limits;
    out.starts = 16;
    return out;
}

} // namespace

class FreeAllTest : public QObject {
    Q_OBJECT
private slots:
    /// The block stands 4 mm from the right wall: it goes as far to the left as is wanted, and no farther.
    void aBoxInASlot() {
        const Asked asked(slot(-140, 104));
        QVERIFY2(asked.report.complete && asked.report.reason.empty(), asked.report.reason.c_str());
        QVERIFY(!asked.report.places.empty() && !asked.report.least_bad);
        QVERIFY2(std::abs(asked.by(Freedom::Across) + (good_mm - 4)) < 0.1,
                 qPrintable(QString::number(asked.by(Freedom::Across))));
        QVERIFY(std::abs(asked.report.places[0].farthest_mm - (good_mm - 4)) < 0.5);
        for (const Freedom other : {Freedom::Along, Freedom::Up, Freedom::Tail, Freedom::Lean})
            QVERIFY2(std::abs(asked.by(other)) < 0.3, fit::word(other));
        for (std::size_t i = 1; i < asked.report.places.size(); ++i) // others really differ
            QVERIFY(asked.report.places[i].farthest_mm > asked.report.places[0].farthest_mm + 1);
        QCOMPARE(asked.report.places[0].no_go, 0);
        QCOMPARE(asked.report.places[0].close, 0);
        QCOMPARE(asked.report.no_go_now, 1);
        QVERIFY(asked.report.poses > 100 && asked.report.measured > 0);
    }
    /// Where it is good already nothing is moved.
    void whatFitsStaysWhereItIs() {
        const Asked asked(slot(-150, 150));
        QVERIFY(!asked.report.places.empty());
        QVERIFY(asked.report.places[0].farthest_mm < 0.01);
    }
    /// A slot 4 mm too narrow: at best it lacks 2 mm on either side, and both walls are named.
    void fourMillimetresTooNarrow() {
        const double half = 100 + good_mm - 2;
        const Asked asked(slot(-half + 30, half + 30));
        QVERIFY(asked.report.places.empty());
        QVERIFY(asked.report.least_bad.has_value());
        const fit::FreePlace& best = *asked.report.least_bad;
        QVERIFY2(std::abs(best.short_mm - 2) < 0.15, qPrintable(QString::number(best.short_mm)));
        QVERIFY(std::abs(best.by[1] - 30) < 0.5);
        QCOMPARE(best.binds.size(), std::size_t(2));
        std::set<std::string> walls{best.binds[0].name_b, best.binds[1].name_b};
        QCOMPARE(walls, (std::set<std::string>{"left", "right"}));
    }
    /// A step under the tail and one over the nose: shifted up or down one of them is met; only the tail down or up
    /// helps.
    void onlyByTheTail() {
        // A long block, its middle at the pivot; a bar over the tail and a bar under the nose, each 4 mm off.
        const auto p = bay({body("over-tail", "frame", {60, 300, 40}, {500, 0, 20 + 50 + 4}),
                            body("under-nose", "frame", {60, 300, 40}, {-500, 0, -20 - 50 - 4})},
                           {body("block", "engine", {1100, 100, 100}, {0, 0, 0})});
        const Asked level(p, only({Freedom::Up}));
        QVERIFY(level.report.places.empty() && level.report.least_bad);
        const Asked asked(p, only({Freedom::Up, Freedom::Tail}));
        QVERIFY(!asked.report.places.empty());
        // At 470 to 530 from the pivot: about (12.2 − 4)/0.47 m to the nearer corner of each bar, by the small angle.
        const double about_deg = (good_mm - 4) / 470 * 180 / M_PI;
        QVERIFY2(asked.by(Freedom::Tail) > about_deg * 0.9 && asked.by(Freedom::Tail) < about_deg * 1.2,
                 qPrintable(QString::number(asked.by(Freedom::Tail))));
        QCOMPARE(asked.report.places[0].no_go, 0);
    }
    /// Two corners that look at each other across: only a lean passes.
    void onlyByALean() {
        const auto p = bay({body("high-right", "frame", {400, 40, 60}, {0, 50 + 4 + 20, 250}),
                            body("low-left", "frame", {400, 40, 60}, {0, -50 - 4 - 20, -250})},
                           {body("block", "engine", {200, 100, 600}, {0, 0, 0})});
        const Asked shifted(p, only({Freedom::Across}));
        QVERIFY(shifted.report.places.empty());
        const Asked asked(p, only({Freedom::Across, Freedom::Lean}));
        QVERIFY(!asked.report.places.empty());
        QVERIFY2(asked.by(Freedom::Lean) > 1, qPrintable(QString::number(asked.by(Freedom::Lean)))); // top to the left
    }
    /// What is locked stays as it is, whatever would help.
    void aLockIsNeverBroken() {
        const Asked locked(slot(-140, 104), only({Freedom::Along, Freedom::Up}));
        QVERIFY(locked.report.places.empty() && locked.report.least_bad);
        QCOMPARE(locked.report.least_bad->by[1], 0.0);
        QVERIFY(std::abs(locked.report.least_bad->short_mm - (good_mm - 4)) < 0.1);
        fit::FreeOptions nothing = only({});
        const Asked all(slot(-140, 104), nothing);
        QVERIFY(all.report.complete && all.report.places.empty());
        QCOMPARE(all.report.least_bad->farthest_mm, 0.0);
        fit::FreeOptions near = only({Freedom::Across});
        near.limits.low[1] = -5;
        const Asked limited(slot(-140, 104), near);
        QVERIFY(limited.report.places.empty() && limited.report.least_bad->by[1] >= -5);
    }
    /// A mirrored bay has the mirrored answer.
    void mirroredBaysHaveMirroredAnswers() {
        const Asked right(slot(-140, 104)), left(slot(-104, 140));
        QVERIFY(std::abs(right.by(Freedom::Across) + left.by(Freedom::Across)) < 0.1);
        QVERIFY(std::abs(right.report.places[0].farthest_mm - left.report.places[0].farthest_mm) < 0.1);
    }
    /// A hose may come to 25 of what is hot or moves, a frame to 10: each pair keeps its own limit in one search.
    void eachPairKeepsItsOwnLimit() {
        const auto p = bay({body("line", "brake_line", {400, 10, 10}, {0, -190, 0}),
                            body("rail", "frame", {800, 40, 400}, {0, 130, 0})},
                           {body("pipe", "exhaust", {300, 100, 100}, {0, 0, 0})});
        const Asked asked(p, only({Freedom::Across}));
        const auto limitOf = [&](const char* id) {
            for (const fit::PairGap& pair : asked.now.pairs)
                if (pair.b.body.text == id) return pair.limit->gap_mm + *pair.accuracy_mm;
            return 0.0;
        };
        // 135 to the line, 60 to the rail.
        QVERIFY(limitOf("line") > 100 && limitOf("rail") < 25);
        QVERIFY(135 - limitOf("line") > 0 && 60 - limitOf("rail") > 0);
        QVERIFY(!asked.report.places.empty() && asked.report.places[0].farthest_mm < 0.01);
        auto nearer = p;
        nearer.vehicle->bodies[0].position_mm.y() = -150; // 95 to the line: it goes to the rail's side
        const Asked moved(nearer, only({Freedom::Across}));
        double lacks_mm = 0; // heat makes the pipe grow: more than the gap at rest says
        for (const fit::PairGap& pair : moved.now.pairs)
            if (pair.b.body.text == "line") lacks_mm = *pair.accuracy_mm - pair.decidingMargin_mm();
        QVERIFY(lacks_mm >= limitOf("line") - 95 - 1e-6);
        QVERIFY(!moved.report.places.empty());
        QVERIFY2(std::abs(moved.by(Freedom::Across) - lacks_mm) < 0.1,
                 qPrintable(QStringLiteral("%1 %2").arg(moved.by(Freedom::Across)).arg(lacks_mm)));
    }
    /// A place has to satisfy what else it is held against, with the smallest move for all of it together.
    void whatElseThereIsIsSatisfiedToo() {
        const Project p = slot(-140, 104);
        const double z = p.placements[0].position_mm.z();
        const auto height = [z](double least_mm) {
            return [z, least_mm](const Placement& there) {
                return std::vector<fit::Beside>{{"height", "Height", (least_mm - (there.position_mm.z() - z)) / 7},
                                                {"fixed", "no move changes it", -1}};
            };
        };
        fit::FreeOptions both = only({Freedom::Across, Freedom::Up});
        both.besides = height(25);
        const Asked asked(p, both);
        QVERIFY(!asked.report.places.empty());
        QVERIFY(asked.report.places[0].lacks.empty());
        QVERIFY2(std::abs(asked.by(Freedom::Up) - 25) < 0.1, qPrintable(QString::number(asked.by(Freedom::Up))));
        QVERIFY(std::abs(asked.by(Freedom::Across) + (good_mm - 4)) < 0.1);
        // Out of reach: the place for every gap is told, with what it lacks.
        both.besides = height(400);
        const Asked beyond(p, both);
        QVERIFY(!beyond.report.places.empty());
        QCOMPARE(beyond.report.places[0].lacks.size(), std::size_t(1));
        QCOMPARE(beyond.report.places[0].lacks[0].id, std::string("height"));
        QVERIFY(std::abs(beyond.by(Freedom::Across) + (good_mm - 4)) < 0.1);
    }
    /// What must be comes before the smallest move; where it cannot be there is no place.
    void whatMustBeComesFirst() {
        const Project p = slot(-140, 104);
        const double z = p.placements[0].position_mm.z();
        const auto must = [z](double least_mm) {
            return [z, least_mm](const Placement& there) {
                return std::vector<fit::Beside>{
                    {"height", "Height", least_mm - (there.position_mm.z() - z), true},
                    {"other", "Other", there.position_mm.z() - z - 10, false}}; // is wished, and contradicts it
            };
        };
        fit::FreeOptions both = only({Freedom::Across, Freedom::Up});
        both.besides = must(40);
        const Asked asked(p, both);
        QVERIFY(!asked.report.places.empty());
        QVERIFY2(std::abs(asked.by(Freedom::Up) - 40) < 0.2, qPrintable(QString::number(asked.by(Freedom::Up))));
        QCOMPARE(asked.report.places[0].lacks.size(), std::size_t(1));
        QCOMPARE(asked.report.places[0].lacks[0].id, std::string("other"));
        both.besides = must(400);
        const Asked beyond(p, both);
        QVERIFY(beyond.report.places.empty() && beyond.report.least_bad);
        QVERIFY(std::any_of(beyond.report.least_bad->lacks.begin(), beyond.report.least_bad->lacks.end(),
                            [](const fit::Beside& its) { return its.must; }));
    }
    /// With some bodies left out a sieve says what one of a bay without them does.
    void aSieveWithoutSomeBodies() {
        auto p = slot(-140, 104);
        p.vehicle->bodies[1].option = "wall/let-in";
        p.vehicle->choices = {{"wall", "Wall", {{"gone", "gone", "", {}}, {"let-in", "let in", "", {}}}, {}}};
        p.donors[0].bodies.push_back(body("pump", "engine", {50, 50, 50}, {0, -110, 0}));
        tests::KeptColliders cache;
        placed::SceneOptions all;
        all.every_option = true;
        const auto scene = placed::makeScene(p, cache, all);
        QCOMPARE(scene.bodies.size(), std::size_t(4));
        QCOMPARE(placed::makeScene(p, cache).bodies.size(), std::size_t(3));
        const auto now = fit::clearance(p, scene, store::defaultRuleBook(), nullptr, {});
        fit::SieveOptions ask;
        ask.by_option = true;
        const fit::Sieve whole(p, scene, now, store::defaultRuleBook(), ask);
        const auto shortWith = [&](std::set<std::string> out) {
            const fit::Sieve sieve = whole.with([&](const BodyRef& ref) { return out.count(ref.body.text) == 0; });
            return sieve.mostShort_mm(poseVehicleDonor(p.placements[0], p.donors[0]), 60);
        };
        // The points of the sieve lie 4 mm apart: it asks for up to √(11² + 4²) instead of 11.
        const auto near = [](double is, double wanted) {
            return is > wanted - 0.05 && is < wanted + std::hypot(11, 4) - 11 + 0.05;
        };
        QVERIFY(near(shortWith({}), good_mm - 4)); // the right wall; 5 from the pump to the left one
        QVERIFY(near(shortWith({"right"}), good_mm - 5));
        QVERIFY(near(shortWith({"right", "pump"}), good_mm - 40));
        QVERIFY(!whole.with([](const BodyRef& ref) { return ref.inVehicle(); }).any());
    }
    /// What is not known is never called good: a wall that nobody measured stays to be measured wherever the block
    /// goes.
    void whatIsNotKnownIsNotGood() {
        auto p = slot(-140, 104);
        p.vehicle->bodies[0].accuracy_mm.reset();
        const Asked asked(p, only({Freedom::Across}));
        QVERIFY(!asked.report.places.empty());
        for (const fit::FreePlace& place : asked.report.places) QCOMPARE(place.unknown, 1);
        const Asked known(slot(-140, 104), only({Freedom::Across}));
        QVERIFY(!known.report.places.empty());
        QCOMPARE(known.report.places[0].unknown, 0);
    }
    /// Behind a panel there is room enough, and no way there.
    void nothingGoesThroughSheetMetal() {
        const auto p = bay({body("wall", "frame", {400, 400, 400}, {0, 34 + 200, 0}),
                            body("panel", "body", {400, 2, 400}, {0, -38 - 1, 0})},
                           {body("block", "engine", {60, 60, 60}, {0, 0, 0})});
        const Asked asked(p, only({Freedom::Across}));
        QVERIFY2(asked.report.places.empty(), "it went through the panel");
        QVERIFY(asked.report.behind_sheet > 0);
        auto open = p;
        open.vehicle->bodies.pop_back();
        QVERIFY(!Asked(open, only({Freedom::Across})).report.places.empty());
    }
    void theSameSeedTheSameAnswer() {
        const Asked once(slot(-125, 104)), again(slot(-125, 104));
        QCOMPARE(once.report.places.size(), again.report.places.size());
        for (std::size_t i = 0; i < once.report.places.size(); ++i)
            QCOMPARE(once.report.places[i].by, again.report.places[i].by);
    }
    /// Against an independent search by brute force, by the exact engine, over shifts across and up.
    void noGridFindsASmallerMove() {
        auto p = slot(-128, 107);
        p.vehicle->bodies.push_back(body("sill", "frame", {100, 60, 40}, {60, 70, -100 - 20 - 6}));
        const Asked asked(p, only({Freedom::Across, Freedom::Up}));
        QVERIFY(!asked.report.places.empty());
        double least = 1e9;
        for (double y = -20; y <= 20; y += 1)
            for (double z = -20; z <= 20; z += 1) {
                if (std::hypot(y, z) >= least) continue;
                auto there = asked.project;
                there.placements[0].position_mm += Vector3d(0, y, z);
                const auto scene = placed::makeScene(there, const_cast<tests::KeptColliders&>(asked.cache));
                const auto gaps = fit::clearance(there, scene, asked.book, nullptr, {});
                if (gaps.verdict == Verdict::Go) least = std::hypot(y, z);
            }
        QVERIFY(least < 1e9);
        const double found = asked.report.places[0].farthest_mm;
        QVERIFY2(found <= least + 0.05 && found > least - 1.5,
                 qPrintable(QStringLiteral("%1 %2").arg(found).arg(least)));
    }
    void badCases() {
        auto none = slot(-140, 104);
        none.placements.clear();
        QVERIFY(!Asked(none).report.reason.empty());
        auto empty = slot(-140, 104);
        empty.vehicle->bodies.clear();
        QVERIFY(!Asked(empty).report.reason.empty());
        // Touched on all sides, no way out within the limits: the least bad place is told.
        const auto boxed = bay(
            {body("left", "frame", {800, 40, 400}, {0, -115, 0}), body("right", "frame", {800, 40, 400}, {0, 115, 0}),
             body("below", "frame", {800, 400, 40}, {0, 0, -115}), body("above", "frame", {800, 400, 40}, {0, 0, 115})},
            {body("block", "engine", {300, 200, 200}, {0, 0, 0})});
        const Asked shut(boxed);
        QVERIFY(shut.report.complete && shut.report.places.empty() && shut.report.least_bad);
        QVERIFY(shut.report.least_bad->short_mm > good_mm - 1);
        // Without a pivot nothing turns, and shifts are still found.
        auto pivotless = slot(-140, 104);
        pivotless.donors[0].reference_points.clear();
        const Asked straight(pivotless);
        QVERIFY(!straight.report.places.empty());
        QCOMPARE(straight.by(Freedom::Tail), 0.0);
        // Limits wider than the bay.
        fit::FreeOptions wide = quick();
        wide.limits.low = {-3000, -3000, -3000, -30, -30, -30};
        wide.limits.high = {3000, 3000, 3000, 30, 30, 30};
        const Asked far(slot(-140, 104), wide);
        QVERIFY(!far.report.places.empty());
        QVERIFY(far.report.places[0].farthest_mm < good_mm);
        fit::FreeOptions stopped = quick();
        stopped.stop.stop();
        QVERIFY(!Asked(slot(-140, 104), stopped).report.complete);
    }
};

GABARIT_SUITE(FreeAllTest)
#include "free_all_test.moc"
