// Left for right: a mirrored swap has the same gaps, the same loads, and the sides of its answers change places.
#include "driveline/section/driveline.h"
#include "fit/fit_report.h"
#include "mounts/section/mounts.h"
#include "study/study.h"
#include "support/files.h"
#include "support/kept_study.h"
#include "support/mirrored.h"
#include "support/suite.h"
#include "weights/axle_loads.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;

namespace {

/// Curved faces are meshed to a tenth of a millimetre, and not to mirrored triangles.
constexpr double mesh_mm = 0.25;

/// As it is asked here: without what turns, the engine's movement given by hand.
model::Project plain(const char* name, std::size_t placement) {
    model::Project p = tests::demo(name);
    p.active_placement = p.placements[placement].id;
    p.sections.drop<model::Driveline>();
    p.sections.drop<model::Mounts>();
    p.measured.clear(); // their marks are of the place as it was
    p.placements[placement].rocking.roll_deg = 2;
    p.placements[placement].rocking.up_mm = p.placements[placement].rocking.down_mm = 4;
    return p;
}

std::string keyOf(const fit::PairGap& pair) { return pair.a.text() + " " + pair.b.text(); }

} // namespace

class MirrorTest : public QObject {
    Q_OBJECT
    static study::Reports run(const model::Project& project) {
        tests::KeptStudy study;
        study::RunOptions options;
        options.depth = discipline::Depth::Skipped;
        return study.run(std::make_shared<const model::Project>(project), options);
    }

private slots:
    void theSameVehicleTheOtherWayRound_data() {
        QTest::addColumn<QByteArray>("demo");
        QTest::addColumn<int>("placement");
        for (const char* name : {"harrow-tarn", "skerry-quad", "pell-wren"})
            for (std::size_t i = 0; i < tests::demo(name).placements.size(); ++i)
                QTest::addRow("%s, %d", name, static_cast<int>(i)) << QByteArray(name) << static_cast<int>(i);
    }
    void theSameVehicleTheOtherWayRound() {
        QFETCH(const QByteArray, demo);
        QFETCH(const int, placement);
        const model::Project one = plain(demo.constData(), static_cast<std::size_t>(placement));
        const model::Project other = tests::mirrored(one);
        QCOMPARE(tests::wrong(other), tests::wrong(one));
        QCOMPARE(store::projectText(tests::mirrored(other)), store::projectText(one)); // twice is not at all
        const study::Reports is = run(one), would = run(other);

        const auto& pairs = is.with<fit::FitReport>().clearance->pairs;
        std::map<std::string, const fit::PairGap*> there;
        for (const fit::PairGap& pair : would.with<fit::FitReport>().clearance->pairs) there[keyOf(pair)] = &pair;
        QVERIFY(pairs.size() > 20);
        int moving = 0;
        for (const fit::PairGap& pair : pairs) {
            const auto found = there.find(keyOf(pair));
            // A pair may stand in one list only when it is at the edge of what is looked at.
            if (found == there.end()) {
                QVERIFY2(pair.gap.gap_mm > pair.range_mm - 2 * mesh_mm, keyOf(pair).c_str());
                continue;
            }
            const fit::PairGap& twin = *found->second;
            const std::string what =
                keyOf(pair) + ": " + std::to_string(pair.gap.gap_mm) + " and " + std::to_string(twin.gap.gap_mm);
            if (!pair.overlap() && !pair.beyond() && !twin.beyond())
                QVERIFY2(std::abs(pair.gap.gap_mm - twin.gap.gap_mm) < mesh_mm, what.c_str());
            QVERIFY2(pair.overlap() == twin.overlap() || pair.gap.gap_mm < mesh_mm, what.c_str());
            if (pair.worst && twin.worst && !pair.overlap() && !twin.overlap()) {
                ++moving;
                QVERIFY2(std::abs(pair.worst->gap.gap_mm - twin.worst->gap.gap_mm) < 2 * mesh_mm ||
                             (pair.worst->margin_mm < 0 && twin.worst->margin_mm < 0) ||
                             (pair.worst->margin_mm > 2 * mesh_mm && twin.worst->margin_mm > 2 * mesh_mm),
                         (what + "; at worst " + std::to_string(pair.worst->gap.gap_mm) + " and " +
                          std::to_string(twin.worst->gap.gap_mm))
                             .c_str());
            }
            const double nearest = std::min(std::abs(pair.decidingMargin_mm()), std::abs(twin.decidingMargin_mm()));
            QVERIFY2(pair.verdict == twin.verdict || nearest < 2 * mesh_mm + pair.accuracy_mm.value_or(0),
                     what.c_str());
        }
        QVERIFY(moving > 5);
    }

    void whatStandsOnTheWheelsChangesSides_data() { theSameVehicleTheOtherWayRound_data(); }
    void whatStandsOnTheWheelsChangesSides() {
        QFETCH(const QByteArray, demo);
        QFETCH(const int, placement);
        model::Project one = plain(demo.constData(), static_cast<std::size_t>(placement));
        if (!one.sections.get<model::Weights>()) return;
        if (!one.sections.edit<model::Weights>().corners.any())
            one.sections.edit<model::Weights>().corners = {300, 290, 210, 220};
        if (!one.vehicle->front_track_mm) one.vehicle->front_track_mm = one.vehicle->rear_track_mm = 1400;
        model::Mass battery; // so that the sides do differ
        battery.name = "Battery";
        battery.mass_kg = 20;
        battery.at_mm = {400, -500, 700};
        one.sections.edit<model::Weights>().loads.push_back(battery);
        const auto is = weights::axleLoads(one, store::defaultRuleBook());
        const auto would = weights::axleLoads(tests::mirrored(one), store::defaultRuleBook());
        const auto same = [](const std::optional<double>& a, const std::optional<double>& b) {
            return a.has_value() == b.has_value() && (!a || std::abs(*a - *b) < 1e-9);
        };
        QVERIFY(same(is.front.load_kg, would.front.load_kg) && same(is.rear.load_kg, would.rear.load_kg));
        QVERIFY(is.corners.front_left_kg);
        QVERIFY(same(is.corners.front_left_kg, would.corners.front_right_kg));
        QVERIFY(same(is.corners.front_right_kg, would.corners.front_left_kg));
        QVERIFY(same(is.corners.rear_left_kg, would.corners.rear_right_kg));
        QVERIFY(same(is.corners.rear_right_kg, would.corners.rear_left_kg));
        QVERIFY(std::abs(*is.corners.front_left_kg - *is.corners.front_right_kg) > 1);
    }

    /// The room to one side is the other's room to the other side.
    void theRoomChangesSides() {
        const auto rooms = [](const model::Project& project) {
            tests::KeptStudy study;
            study::RunOptions options;
            const study::Reports reports =
                study.advised(study.run(std::make_shared<const model::Project>(project), options), options);
            std::map<fit::Way, double> out;
            for (const fit::Room& room : reports.with<fit::FitReport>().room->rooms) out[room.way] = room.amount;
            return out;
        };
        const model::Project one = plain("harrow-tarn", 1);
        const auto is = rooms(one), would = rooms(tests::mirrored(one));
        QCOMPARE(is.size(), would.size());
        QVERIFY(is.size() >= 6);
        for (const auto& [way, amount] : is) {
            const fit::Way other = way == fit::Way::Left    ? fit::Way::Right
                                   : way == fit::Way::Right ? fit::Way::Left
                                                            : way;
            QVERIFY2(std::abs(amount - would.at(other)) < 2 * mesh_mm,
                     qPrintable(
                         QStringLiteral("%1: %2 and %3").arg(static_cast<int>(way)).arg(amount).arg(would.at(other))));
        }
    }
};

GABARIT_SUITE(MirrorTest)
#include "mirror_test.moc"
