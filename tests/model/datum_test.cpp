// Another datum changes no gap and no load; left against right, by hand.
#include "fit/clearance.h"
#include "model/datum.h"
#include "placed/scene.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/axle_loads.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {

Project demo() {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
        .value()
        .project;
}
HardPoint point(const char* name, const char* role, const Eigen::Vector3d& at, std::optional<double> accuracy) {
    HardPoint p;
    p.id.text = p.name = name;
    p.role = role;
    p.at_mm = at;
    p.accuracy_mm = accuracy;
    return p;
}

} // namespace

class DatumTest : public QObject {
    Q_OBJECT
private slots:
    void everythingIsReferredToIt() {
        const Project before = demo();
        const Project after = withDatumMoved(before, 495, "frame_rail_top", "top of the left rail");
        QVERIFY(validate(after, store::defaultRuleBook()).empty());
        QCOMPARE(after.vehicle->datum.name, std::string("top of the left rail"));
        QCOMPARE(after.placements[0].position_mm.z(), before.placements[0].position_mm.z() - 495);
        QCOMPARE(after.donors[0].masses[0].at_mm, before.donors[0].masses[0].at_mm); // its frame is its own
        proximity::ColliderCache colliders;
        const auto book = applied(store::defaultRuleBook(), before.rules);
        const auto gaps = [&](const Project& p) {
            return fit::clearance(p, placed::makeScene(p, colliders), book, nullptr, {});
        };
        const fit::ClearanceReport a = gaps(before), b = gaps(after);
        QCOMPARE(a.pairs.size(), b.pairs.size());
        for (std::size_t i = 0; i < 40; ++i) { // worst first
            QCOMPARE(a.pairs[i].name_a, b.pairs[i].name_a);
            QVERIFY(std::abs(a.pairs[i].gap.gap_mm - b.pairs[i].gap.gap_mm) < 0.05);
        }
        const auto loads = weights::axleLoads(before, store::defaultRuleBook()),
                   moved = weights::axleLoads(after, store::defaultRuleBook());
        QVERIFY(std::abs(*loads.front.load_kg - *moved.front.load_kg) < 1e-9);
        // There and back is where it was.
        const Project back = withDatumMoved(after, -495, before.vehicle->datum.kind, before.vehicle->datum.name);
        QVERIFY(std::abs(back.vehicle->bodies[3].position_mm.z() - before.vehicle->bodies[3].position_mm.z()) < 1e-9);
    }
    void leftAgainstRight() {
        const auto pairs =
            sidePairs({point("L", "front_mount", {-290, -210, 12}, 1), point("R", "front_mount", {-296, 200, 0}, 1.5),
                       point("one", "gearbox_mount", {700, 0, -98}, 1), point("a", "sling", {0, -1, 0}, 1),
                       point("b", "sling", {0, 1, 0}, 1), point("c", "sling", {0, 2, 0}, 1)});
        QCOMPARE(pairs.size(), std::size_t(1)); // one in the middle, or three, have no sides
        QCOMPARE(pairs[0].height_mm, 12.0);
        QCOMPARE(pairs[0].fore_aft_mm, 6.0);
        QCOMPARE(pairs[0].offset_mm, -5.0);
        QCOMPARE(*pairs[0].accuracy_mm, 2.5);
    }
    void bracketsAgainstSeats() {
        Project p;
        p.vehicle.emplace();
        p.vehicle->hard_points = {point("SL", "engine_seat", {40, -215, 560}, 2),
                                  point("SR", "engine_seat", {40, 215, 563}, 2)};
        Donor donor;
        donor.id.text = "unit";
        donor.reference_points = {point("L", "front_mount", {-290, -210, 12}, 1),
                                  point("R", "front_mount", {-290, 200, 0}, 1)};
        p.donors = {donor};
        Placement placement;
        placement.id.text = "p";
        placement.donor.text = "unit";
        p.placements = {placement};
        const auto pairs = seatPairs(p);
        QCOMPARE(pairs.size(), std::size_t(1));
        // Brackets: the left 12 higher; seats: the left 3 lower. The left seat wants 15 more.
        QCOMPARE(pairs[0].height_mm, 15.0);
        // Their middle is 5 left of the crank, the seats' on the centreline: the crank hangs 5 to the right.
        QCOMPARE(pairs[0].offset_mm, 5.0);
        QCOMPARE(*pairs[0].accuracy_mm, 6.0);
        // The demo's brackets: the left one 30 lower, on seats that are level.
        const auto six = seatPairs(demo());
        QCOMPARE(six.size(), std::size_t(1));
        QCOMPARE(six[0].height_mm, -30.0);
        QCOMPARE(six[0].offset_mm, 0.0);
        p.placements[0].orientation = Orientation::TransverseLeft;
        QVERIFY(seatPairs(p).empty());
    }
};

GABARIT_SUITE(DatumTest)
#include "datum_test.moc"
