// The old engine's reference dimensions against the new one, by hand.
#include "fit/outgoing.h"
#include "placed/scene.h"
#include "store/rule_book.h"
#include "support/kept_colliders.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {

/// A donor of one gearbox box and a flange, hung at (400, 0, 600), tail down 0.
Project hanging() {
    Project project;
    project.name = "T";
    project.vehicle.emplace();
    project.vehicle->name = "V";
    HardPoint crossmember;
    crossmember.id.text = crossmember.name = "crossmember";
    crossmember.at_mm = {900, 0, 450};
    crossmember.accuracy_mm = 2;
    project.vehicle->hard_points.push_back(crossmember);
    Donor donor;
    donor.id.text = donor.name = "d";
    Body box;
    box.id.text = box.name = "gearbox";
    box.category = "gearbox";
    box.shape = BoxSpec{{600, 250, 260}};
    box.position_mm = {300, 0, -10};
    box.accuracy_mm = 3;
    donor.bodies.push_back(box);
    HardPoint flange;
    flange.id.text = flange.name = "flange";
    flange.role = "output_flange";
    flange.at_mm = {640, 0, 5};
    flange.accuracy_mm = 1;
    donor.reference_points.push_back(flange);
    project.donors.push_back(donor);
    Placement placement;
    placement.id.text = placement.name = "p";
    placement.donor.text = "d";
    placement.position_mm = {400, 0, 600};
    project.placements.push_back(placement);
    project.active_placement.text = "p";
    return project;
}

OutgoingDimension dimension(OutgoingMark of, Axis along, double mm, const char* from = "") {
    OutgoingDimension out;
    out.id = "o" + std::to_string(static_cast<int>(of));
    out.name = "n";
    out.of = of;
    out.along = along;
    out.mm = mm;
    out.from.text = from;
    out.accuracy_mm = 4;
    return out;
}

fit::OutgoingLine line(Project project, const OutgoingDimension& dimension) {
    project.vehicle->outgoing = {dimension};
    tests::KeptColliders colliders;
    return fit::againstOutgoing(project, placed::makeScene(project, colliders)).front();
}

} // namespace

class OutgoingTest : public QObject {
    Q_OBJECT
private slots:
    void crankHeight() {
        const auto crank = line(hanging(), dimension(OutgoingMark::Crank, Axis::Z, 575));
        QCOMPARE(*crank.new_mm, 600.0);
        QCOMPARE(*crank.difference_mm(), 25.0); // higher
        QCOMPARE(*crank.accuracy_mm, 4.0);
    }
    void flangeFromTheCrossmember() {
        // 400 + 640 = 1040 behind the axle, 140 behind the crossmember.
        const auto flange = line(hanging(), dimension(OutgoingMark::OutputFlange, Axis::X, 120, "crossmember"));
        QCOMPARE(*flange.new_mm, 140.0);
        QCOMPARE(*flange.difference_mm(), 20.0);
        QCOMPARE(*flange.accuracy_mm, 4.0 + 2 + 1);
    }
    void crossmemberToGearboxTop() {
        // −10 + 130 above the crank at 600: 720, 270 above the crossmember at 450.
        const auto top = line(hanging(), dimension(OutgoingMark::GearboxTop, Axis::Z, 300, "crossmember"));
        QVERIFY(std::abs(*top.new_mm - 270) < 1e-6);
        QVERIFY(std::abs(*top.difference_mm() + 30) < 1e-6);
        QCOMPARE(*top.accuracy_mm, 4.0 + 2 + 3);
    }
    void whatIsNotKnownIsSaid() {
        QVERIFY(line(hanging(), dimension(OutgoingMark::ShiftLever, Axis::X, 1)).reason.find("shift lever") !=
                std::string::npos);
        QVERIFY(line(hanging(), dimension(OutgoingMark::SumpBottom, Axis::Z, 1)).reason.find("sump") !=
                std::string::npos);
        const auto sideways = line(hanging(), dimension(OutgoingMark::GearboxTop, Axis::Y, 1));
        QVERIFY(!sideways.new_mm && sideways.reason.find("height") != std::string::npos);
        Project none = hanging();
        none.placements.clear();
        none.active_placement = {};
        QVERIFY(!line(none, dimension(OutgoingMark::Crank, Axis::Z, 1)).new_mm);
        Project vague = hanging();
        vague.vehicle->hard_points[0].accuracy_mm.reset();
        QVERIFY(!line(vague, dimension(OutgoingMark::Crank, Axis::Z, 1, "crossmember")).accuracy_mm);
    }
};

GABARIT_SUITE(OutgoingTest)
#include "outgoing_test.moc"
