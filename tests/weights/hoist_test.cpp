// What hangs on the hoist, by hand.
#include "parts/parts.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/hoist.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Project hanging() {
    Project p;
    p.name = "P";
    p.vehicle.emplace();
    Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    donor.masses = {{"engine", 200.0, {-300, 0, 100}, {}, false, {}, {}},
                    {"gearbox", 50.0, {450, 0, 0}, {}, false, {}, {}}};
    donor.reference_points = {{{"f"}, "front eye", "sling", {-500, 40, 380}, {}, {}, {}, {}},
                              {{"r"}, "rear eye", "sling", {-100, -40, 380}, {}, {}, {}, {}}};
    p.donors = {donor};
    Placement at;
    at.id.text = "p";
    at.name = "P";
    at.donor.text = "unit";
    at.position_mm = {1000, 0, 500};
    p.placements = {at};
    return p;
}

} // namespace

class HoistTest : public QObject {
    Q_OBJECT
private slots:
    void massCentreAndTilt() {
        const auto hoist = weights::hoist(hanging());
        QVERIFY(hoist && hoist->verdict == Verdict::Go);
        // By hand: 250 kg; x = (200·−300 + 50·450)/250 = −150, z = 200·100/250 = 80. The eyes' middle is (−300, 0,
        // 380): the centre lies 150 behind and 300 below, so it hangs tail down atan(150/300) = 26.565°.
        QCOMPARE(*hoist->mass_kg, 250.0);
        QVERIFY((*hoist->centre_donor_mm - Vector3d(-150, 0, 80)).norm() < 1e-9);
        QVERIFY((*hoist->centre_vehicle_mm - Vector3d(850, 0, 580)).norm() < 1e-9);
        QVERIFY((*hoist->offset_donor_mm - Vector3d(150, 0, -300)).norm() < 1e-9);
        QVERIFY(std::abs(*hoist->tail_down_deg - 26.56505) < 1e-4);
    }
    void partsThatRideCountOnceTheyAreOn() {
        Project p = hanging();
        Part part;
        part.id.text = "turbo";
        part.name = "Turbo";
        part.on_car = OnCar::On;
        part.rides_on_donor = true;
        part.mass_kg = 10;
        part.at_mm = Vector3d(100, 250, 80);
        part.state = PartState::Here;
        p.sections.edit<Parts>() = {part};
        QCOMPARE(*weights::hoist(p)->mass_kg, 250.0); // on the bench
        p.sections.edit<Parts>().front().state = PartState::Fitted;
        const auto hoist = weights::hoist(p);
        QCOMPARE(*hoist->mass_kg, 260.0);
        QVERIFY((*hoist->centre_donor_mm - Vector3d((250 * -150.0 + 10 * 100) / 260, 2500 / 260.0, 80)).norm() < 1e-9);
        p.sections.edit<Parts>().front().at_mm.reset();
        QCOMPARE(weights::hoist(p)->verdict, Verdict::Unknown);
    }
    void whatIsMissingIsUnknown() {
        Project p = hanging();
        p.donors[0].masses[1].mass_kg.reset();
        QVERIFY(!weights::hoist(p)->mass_kg && weights::hoist(p)->verdict == Verdict::Unknown);
        p = hanging();
        p.donors[0].reference_points.clear();
        QVERIFY(weights::hoist(p)->mass_kg && weights::hoist(p)->verdict == Verdict::Unknown);
        p = hanging();
        for (HardPoint& eye : p.donors[0].reference_points) eye.at_mm.z() = 20; // below its centre: it turns over
        QCOMPARE(weights::hoist(p)->verdict, Verdict::NoGo);
        p.placements.clear();
        QVERIFY(!weights::hoist(p));
    }
};

GABARIT_SUITE(HoistTest)
#include "hoist_test.moc"
