#include "fit/clearance.h"
#include "placed/scene.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_colliders.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Body box(const char* id, const char* category, const Vector3d& size, const Vector3d& place,
         std::optional<double> accuracy = 2) {
    Body b;
    b.id.text = id;
    b.name = id;
    b.category = category;
    b.shape = BoxSpec{size};
    b.position_mm = place;
    b.accuracy_mm = accuracy;
    return b;
}

/// A crossmember at z 0…80, a frame beside it, and a donor sump whose underside stands at z = 100 + pose.
Project smallProject() {
    Project p;
    p.name = "small";
    p.vehicle.emplace();
    p.vehicle->name = "V";
    p.vehicle->bodies = {box("crossmember", "crossmember", {100, 600, 80}, {0, 0, 40}),
                         box("rail", "frame", {2000, 60, 80}, {0, 330, 40})};
    Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    donor.bodies = {box("sump", "sump", {200, 200, 100}, {0, 0, 150}, 1)};
    p.donors = {donor};
    Placement placement;
    placement.id.text = "p";
    placement.name = "P";
    placement.donor.text = "unit";
    p.placements = {placement};
    return p;
}

fit::ClearanceReport run(const Project& project, fit::GapMemo* memo = nullptr, fit::ClearanceOptions options = {}) {
    tests::KeptColliders cache;
    const RuleBook book = applied(store::defaultRuleBook(), project.rules);
    return fit::clearance(project, placed::makeScene(project, cache), book, memo, options);
}

const fit::PairGap* pair(const fit::ClearanceReport& report, const std::string& a, const std::string& b) {
    for (const fit::PairGap& p : report.pairs)
        if ((p.a.text() == a && p.b.text() == b) || (p.a.text() == b && p.b.text() == a)) return &p;
    return nullptr;
}

} // namespace

class ClearanceTest : public QObject {
    Q_OBJECT
private slots:
    void judgesThePair() {
        // Sump underside 20 mm over the crossmember; certifier wants 10; accuracy 2 + 1.
        Project p = smallProject();
        auto report = run(p);
        const fit::PairGap* g = pair(report, "unit/sump", "vehicle/crossmember");
        QVERIFY(g);
        QVERIFY(std::abs(g->gap.gap_mm - 20) < 1e-9);
        QCOMPARE(g->limit->gap_mm, 10.0);
        QVERIFY(std::abs(g->margin_mm - 10) < 1e-9);
        QCOMPARE(*g->accuracy_mm, 3.0);
        QCOMPARE(g->verdict, Verdict::Go);
        QVERIFY((g->gap.away - Vector3d::UnitZ()).norm() < 1e-9); // the donor goes up to get away
        const struct {
            double drop_mm;
            Verdict verdict;
        } steps[] = {{7.5, Verdict::Close}, {6.9, Verdict::Go}, {10.1, Verdict::NoGo}, {25, Verdict::NoGo}};
        for (const auto& step : steps) {
            p.placements[0].position_mm.z() = -step.drop_mm;
            report = run(p);
            QCOMPARE(pair(report, "unit/sump", "vehicle/crossmember")->verdict, step.verdict);
        }
        QVERIFY(std::abs(pair(report, "unit/sump", "vehicle/crossmember")->gap.gap_mm + 5) < 0.1);
        QCOMPARE(report.verdict, Verdict::NoGo);
    }
    void schoolsChangeTheVerdict() {
        Project p = smallProject();
        p.placements[0].position_mm.z() = -12; // 8 mm left
        QCOMPARE(run(p).verdict, Verdict::NoGo);
        p.rules.school = "shop"; // wants 6.5: margin 1.5 below the accuracy of 3
        QCOMPARE(run(p).verdict, Verdict::Close);
    }
    void unknownAccuracyIsUnknownUnlessItFouls() {
        Project p = smallProject();
        p.vehicle->bodies[0].accuracy_mm.reset();
        const auto report = run(p);
        QCOMPARE(pair(report, "unit/sump", "vehicle/crossmember")->verdict, Verdict::Unknown);
        QVERIFY(pair(report, "unit/sump", "vehicle/crossmember")->reason.find("crossmember") != std::string::npos);
        p.placements[0].position_mm.z() = -30;
        QCOMPARE(pair(run(p), "unit/sump", "vehicle/crossmember")->verdict, Verdict::NoGo);
    }
    void onlyWhatMovesAgainstEachOtherIsChecked() {
        Project p = smallProject();
        auto report = run(p);
        QCOMPARE(report.pairs_checked, 2); // sump against both; the vehicle's own bodies stay as found
        QVERIFY(!pair(report, "vehicle/crossmember", "vehicle/rail"));
        p.vehicle->bodies[1].shift_mm = {0, -5, 0};
        report = run(p);
        QCOMPARE(report.pairs_checked, 3);
        const fit::PairGap* moved = pair(report, "vehicle/crossmember", "vehicle/rail");
        QVERIFY(moved);
        QCOMPARE(moved->a.body.text, std::string("rail")); // the one that was moved gives way
        QVERIFY(moved->overlap()); // rail's inner face from 300 to 295, the crossmember ends at 300
        p.vehicle->bodies[1].shift_mm.setZero();
        p.vehicle->bodies[1].standing = Standing::Added;
        QCOMPARE(run(p).pairs_checked, 3);
        p.vehicle->bodies[1].standing = Standing::Removed;
        QCOMPARE(run(p).pairs_checked, 1);
        Body variant = box("other-sump", "sump", {10, 10, 10}, {0, 0, 300});
        variant.standing = Standing::Variant;
        p.donors[0].bodies.push_back(variant);
        report = run(p);
        QVERIFY(pair(report, "unit/other-sump", "unit/sump")); // a variant is checked against its own unit too
    }
    void joinedPairsAreLeftOut() {
        Project p = smallProject();
        p.placements[0].position_mm.z() = -30;
        QCOMPARE(run(p).verdict, Verdict::NoGo);
        p.joined = {{{"vehicle", {"crossmember"}}, {"unit", {"sump"}}, "bolted together", {}}};
        const auto report = run(p);
        QVERIFY(!pair(report, "unit/sump", "vehicle/crossmember"));
        QCOMPARE(report.joined.size(), std::size_t{1});
    }
    void beyondReadsGreaterThan() {
        Project p = smallProject();
        p.placements[0].position_mm.z() = 200;
        const fit::ClearanceReport report = run(p);
        const fit::PairGap* far = pair(report, "unit/sump", "vehicle/crossmember");
        QVERIFY(far->beyond());
        QCOMPARE(far->gap.gap_mm, 60.0);
        QCOMPARE(far->verdict, Verdict::Go);
    }
    void brokenShapeIsOneBodyNotAPass() {
        Project p = smallProject();
        p.vehicle->bodies[0].shape = TubeSpec{{{0, 0, 0}, {50, 0, 0}, {50, 50, 0}}, 30, 80};
        const auto report = run(p);
        QCOMPARE(report.broken.size(), std::size_t{1});
        QCOMPARE(pair(report, "unit/sump", "vehicle/crossmember")->verdict, Verdict::Unknown);
        QCOMPARE(report.verdict, Verdict::Unknown);
    }
    void moveOfTheWholeVehicleChangesNothing() {
        // Law: everything shifted together keeps all gaps.
        const std::string path = GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit";
        Project p = store::readProject(path, store::defaultRuleBook()).value().project;
        const auto before = run(p);
        for (Body& b : p.vehicle->bodies) b.position_mm += Vector3d(100, 20, -30);
        p.placements[0].position_mm += Vector3d(100, 20, -30);
        const auto after = run(p);
        QCOMPARE(after.pairs.size(), before.pairs.size());
        for (const fit::PairGap& g : before.pairs) {
            const fit::PairGap* same = pair(after, g.a.text(), g.b.text());
            QCOMPARE(same->verdict, g.verdict);
            const double tolerance = g.overlap() ? 0.05 * -g.gap.gap_mm + 0.1 : 1e-6;
            QVERIFY(std::abs(same->gap.gap_mm - g.gap.gap_mm) < tolerance);
        }
    }
    void memoryAndThreadsGiveTheSame() {
        const std::string path = GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit";
        const Project p = store::readProject(path, store::defaultRuleBook()).value().project;
        fit::GapMemo memo;
        fit::ClearanceOptions one;
        one.threads = 1;
        const auto alone = run(p, nullptr, one);
        const auto first = run(p, &memo), again = run(p, &memo);
        for (std::size_t i = 0; i < alone.pairs.size(); ++i)
            for (const auto* other : {&first, &again}) {
                QCOMPARE(other->pairs[i].a.text(), alone.pairs[i].a.text());
                QCOMPARE(other->pairs[i].gap.gap_mm, alone.pairs[i].gap.gap_mm);
            }
    }
    void stoppedIsNotComplete() {
        fit::ClearanceOptions options;
        options.stop.stop();
        QVERIFY(!run(smallProject(), nullptr, options).complete);
    }

    /// A box set down on the rail, and one pushed against the crossmember's end.
    void whatTouchesIsNoGoWhereAGapIsWanted() {
        Project p = smallProject();
        Body tray = box("tray", "fixed_part", {100, 50, 40}, {500, 330, 80 + 20});
        tray.standing = Standing::Added;
        p.vehicle->bodies.push_back(tray);
        const auto report = run(p);
        const fit::PairGap* found = pair(report, "vehicle/tray", "vehicle/rail");
        QVERIFY(found && !found->overlap() && !found->beyond());
        QCOMPARE(found->gap.gap_mm, 0.0);
        QCOMPARE(found->verdict, Verdict::NoGo);
        QVERIFY(found->clearing_move_mm);
        QVERIFY(found->clearing_move_mm->z() > found->limit->gap_mm); // up, off the rail
        // The search over the movement meets it too, and what turns against it.
        p.vehicle->bodies.back().position_mm.z() += 0.004;
        QCOMPARE(pair(run(p), "vehicle/tray", "vehicle/rail")->verdict, Verdict::NoGo);
    }
    /// Two thousand added boxes are four million pairs: those that matter stand in the table, the others are counted.
    void ofVeryManyPairsTheWorstAreListed() {
        Project p = smallProject();
        for (int i = 0; i < 450; ++i) {
            Body cube =
                box("", "fixed_part", {40, 40, 40}, {60.0 * (i % 20), 60.0 * (i / 20 % 20), 1000 + 60.0 * (i / 400)});
            cube.id.text = "b" + std::to_string(i);
            cube.standing = Standing::Added;
            p.vehicle->bodies.push_back(cube);
        }
        p.vehicle->bodies.back().position_mm = {0, 330, 80}; // half in the rail
        const auto report = run(p);
        QCOMPARE(report.pairs_checked, 450 * 449 / 2 + 450 * 3 + 2);
        QCOMPARE(static_cast<int>(report.pairs.size()) + report.pairs_left_out, report.pairs_checked);
        QVERIFY(report.pairs_left_out > 0 && report.pairs.size() >= 50000);
        QVERIFY(report.pairs.front().overlap() && report.verdict == Verdict::NoGo);
        for (std::size_t i = 1; i < report.pairs.size(); ++i)
            QVERIFY(report.pairs[i - 1].verdict >= report.pairs[i].verdict);
    }
};

GABARIT_SUITE(ClearanceTest)
#include "clearance_test.moc"
