// The map of where it fits: bays whose every point is known by hand.
#include "fit/fit_map.h"
#include "support/kept_colliders.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

#include <algorithm>
#include <cmath>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;
using fit::Freedom;

namespace {

/// Ten of the table and both doubts.
constexpr double good_mm = 10 + 1 + 1;

/// A sieve of points 4 mm apart asks for √(11² + 4²) where 11 beside the unit's own doubt are wanted: never less than
/// is lacking, and no more than that beyond it.
bool isAbout(double short_mm, double lacks_mm) {
    return short_mm > lacks_mm - 0.05 && short_mm < lacks_mm + std::hypot(11, 4) - 11 + 0.05;
}

/// A block 200 wide and 200 high between two walls that look at each other at −140 and 104, 600 above and below it.
Project slot() {
    Project p = tests::bayOf({tests::box("left", "frame", {800, 40, 1400}, {0, -160, 0}, 1),
                              tests::box("right", "frame", {800, 40, 1400}, {0, 124, 0}, 1)},
                             {tests::box("block", "engine", {300, 200, 200}, {0, 0, 0}, 1)});
    p.donors[0].reference_points = {{{"m"}, "mount", "front_mount", {0, 0, 0}, {}, 1.0, {}, {}}};
    return p;
}

fit::FitMap mapOf(const Project& p, const fit::MapOptions& options) {
    tests::KeptColliders cache;
    const auto scene = placed::makeScene(p, cache);
    const auto now = fit::clearance(p, scene, store::defaultRuleBook(), nullptr, {});
    return fit::fitMap(p, scene, now, store::defaultRuleBook(), options);
}

fit::MapOptions acrossAndUp() {
    fit::MapOptions out;
    out.across = {Freedom::Across, -40, 20};
    out.up = {Freedom::Up, -30, 30};
    out.columns = 13; // each 5
    out.rows = 7;     // each 10
    return out;
}

} // namespace

class FitMapTest : public QObject {
    Q_OBJECT
private slots:
    void everyPointIsWhatTheSlotLeaves() {
        const fit::FitMap map = mapOf(slot(), acrossAndUp());
        QVERIFY2(map.complete && map.reason.empty(), map.reason.c_str());
        QCOMPARE(map.points.size(), std::size_t(13 * 7));
        for (int row = 0; row < map.rows; ++row)
            for (int column = 0; column < map.columns; ++column) {
                const double y = -40 + 5 * column;
                QCOMPARE(map.acrossOf(column), y);
                QCOMPARE(map.upOf(row), -30.0 + 10 * row);
                const double right = 104 - 100 - y, left = 140 - 100 + y, lacks = good_mm - std::min(left, right);
                const fit::MapPoint& point = map.at(column, row);
                QVERIFY(point.told);
                QVERIFY2(isAbout(point.short_mm, lacks),
                         qPrintable(QStringLiteral("%1: %2, not %3").arg(y).arg(point.short_mm).arg(lacks)));
                if (std::abs(left - right) > 1) {
                    QVERIFY(point.binding >= 0);
                    QCOMPARE(map.pairs[static_cast<std::size_t>(point.binding)].name_b,
                             std::string(left < right ? "left" : "right"));
                }
                QCOMPARE(point.by[1], y);
                QVERIFY(!point.besides);
            }
    }
    /// Freed to the sides, the block goes to the middle of the slot wherever along and up it is.
    void freedTheOthersAreAsTheyAreBest() {
        fit::MapOptions options;
        options.across = {Freedom::Along, -20, 20};
        options.up = {Freedom::Up, -20, 20};
        options.columns = options.rows = 3;
        const fit::FitMap held = mapOf(slot(), options);
        options.freed = true;
        const fit::FitMap freed = mapOf(slot(), options);
        QVERIFY(held.complete && freed.complete && freed.freed);
        for (std::size_t i = 0; i < held.points.size(); ++i) {
            QVERIFY(isAbout(held.points[i].short_mm, good_mm - 4));
            QVERIFY2(freed.points[i].short_mm <= 0.05, qPrintable(QString::number(freed.points[i].short_mm)));
            QCOMPARE(freed.points[i].by[0], held.points[i].by[0]); // what the map goes over stays
            QCOMPARE(freed.points[i].by[2], held.points[i].by[2]);
            QVERIFY(freed.points[i].by[1] <= -(good_mm - 4) + 0.1);
        }
        options.threads = 1; // the same whoever is quicker
        const fit::FitMap again = mapOf(slot(), options);
        for (std::size_t i = 0; i < freed.points.size(); ++i) QCOMPARE(again.points[i].by, freed.points[i].by);
    }
    /// What else a place is held against is asked, and shown.
    void besidesAreShown() {
        fit::MapOptions options = acrossAndUp();
        const double base = slot().placements[0].position_mm.z();
        options.besides = [base](const Placement& there) {
            return std::vector<fit::Beside>{{"height", "Height", 5 - (there.position_mm.z() - base)}};
        };
        const fit::FitMap map = mapOf(slot(), options);
        int asked = 0;
        for (int row = 0; row < map.rows; ++row)
            for (int column = 0; column < map.columns; ++column)
                if (const auto& besides = map.at(column, row).besides) {
                    QCOMPARE(*besides, map.upOf(row) >= 5);
                    ++asked;
                }
        QVERIFY(asked > 10);
    }
    /// While it is drawn the coarse points come first, and what was told stays.
    void coarseBeforeFine() {
        fit::MapOptions options = acrossAndUp();
        options.columns = options.rows = 17;
        options.threads = 1;
        std::vector<int> told;
        options.show = [&told](const fit::FitMap& so_far) {
            told.push_back(static_cast<int>(std::count_if(so_far.points.begin(), so_far.points.end(),
                                                          [](const fit::MapPoint& p) { return p.told; })));
            if (told.size() == 1) QVERIFY(so_far.at(0, 0).told && so_far.at(16, 16).told && so_far.at(8, 8).told);
        };
        QVERIFY(mapOf(slot(), options).complete);
        QVERIFY(told.size() >= 4 && std::is_sorted(told.begin(), told.end()));
        QCOMPARE(told.front(), 9);
        QCOMPARE(told.back(), 17 * 17);
        QCOMPARE(mapOf(slot(), options).nearest(0, 0), (std::pair<int, int>(11, 8))); // −40 + 3.75·11 = 1.25
    }
    void badCases() {
        fit::MapOptions same = acrossAndUp();
        same.up.of = same.across.of;
        QVERIFY(!mapOf(slot(), same).reason.empty());
        fit::MapOptions none = acrossAndUp();
        none.up.high = none.up.low;
        QVERIFY(!mapOf(slot(), none).reason.empty());
        Project empty = slot();
        empty.placements.clear();
        QVERIFY(!mapOf(empty, acrossAndUp()).reason.empty());
        Project pivotless = slot();
        pivotless.donors[0].reference_points.clear();
        QVERIFY(mapOf(pivotless, acrossAndUp()).complete);
        fit::MapOptions tail = acrossAndUp();
        tail.up = {Freedom::Tail, -3, 3};
        QVERIFY(!mapOf(pivotless, tail).reason.empty());
        QVERIFY(mapOf(slot(), tail).complete);
        fit::MapOptions stopped = acrossAndUp();
        stopped.stop.stop();
        QVERIFY(!mapOf(slot(), stopped).complete);
    }
};

GABARIT_SUITE(FitMapTest)
#include "fit_map_test.moc"
