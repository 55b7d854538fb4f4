// Inertia of shapes and of a unit, against textbook formulas and the parallel axis theorem.
#include "mounts/bolts.h"
#include "mounts/mass.h"
#include "mounts/section/mounts.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::mounts;
using Eigen::Matrix3d;
using Eigen::Vector3d;

namespace {

bool same(const Matrix3d& a, const Matrix3d& b, double within = 1e-9) { return (a - b).norm() < within; }

/// Two lumps of 30 and 10 kg, 800 apart along the crank; the first in a box, the second nowhere.
model::Project unit() {
    model::Project project;
    project.vehicle.emplace();
    model::Donor donor;
    donor.id.text = "unit";
    model::Body box;
    box.id.text = "block";
    box.name = "Block";
    box.shape = model::BoxSpec{{600, 400, 500}};
    box.position_mm = {-200, 0, 0};
    donor.bodies = {box};
    donor.masses = {{"Engine", 30, {-200, 0, 0}, "", false, {}, {}}, {"Gearbox", 10, {600, 0, 0}, "", false, {}, {}}};
    project.donors = {donor};
    model::Placement placement;
    placement.id.text = "p";
    placement.donor.text = "unit";
    placement.position_mm = {700, 20, 500};
    project.placements = {placement};
    return project;
}

} // namespace

class MassTest : public QObject {
    Q_OBJECT
private slots:
    void shapesHaveTheirTextbookInertia() {
        Vector3d centre;
        const Matrix3d box = unitInertia_kg_m2(model::BoxSpec{{600, 400, 200}}, centre);
        QVERIFY(same(box, Vector3d(0.16 + 0.04, 0.36 + 0.04, 0.36 + 0.16).asDiagonal() * Matrix3d::Identity() / 12));
        const Matrix3d ball = unitInertia_kg_m2(model::SphereSpec{300}, centre);
        QVERIFY(same(ball, Matrix3d::Identity() * 0.4 * 0.15 * 0.15));
        const Matrix3d bar = unitInertia_kg_m2(model::CylinderSpec{{0, 100, 0}, {0, 700, 0}, 200}, centre);
        QVERIFY((centre - Vector3d(0, 400, 0)).norm() < 1e-9);
        const double across = 0.1 * 0.1 / 4 + 0.6 * 0.6 / 12;
        QVERIFY(same(bar, Vector3d(across, 0.1 * 0.1 / 2, across).asDiagonal() * Matrix3d::Identity()));
        // A bar askew is the same bar turned.
        const Matrix3d turn = Eigen::AngleAxisd(0.6, Vector3d(1, 1, 2).normalized()).toRotationMatrix();
        const Matrix3d askew =
            unitInertia_kg_m2(model::CylinderSpec{turn * Vector3d(0, 100, 0), turn * Vector3d(0, 700, 0), 200}, centre);
        QVERIFY(same(askew, turn * bar * turn.transpose()));
    }
    void lumpsAddUpByTheParallelAxisTheorem() {
        const UnitMass m = unitMass(unit()).value();
        QCOMPARE(m.body.mass_kg, 40.0);
        QVERIFY((m.body.centre_mm - Vector3d(700, 20, 500)).norm() < 1e-9); // the centre lies at the donor's origin
        const double along = 30 * 0.2 * 0.2 + 10 * 0.6 * 0.6;
        const Vector3d block = 30 * Vector3d(0.16 + 0.25, 0.36 + 0.25, 0.36 + 0.16) / 12;
        QVERIFY(same(m.body.inertia_kg_m2, Matrix3d((block + Vector3d(0, along, along)).asDiagonal())));
        QCOMPARE(m.spread_over, (std::vector<std::string>{"Block", ""}));
    }
    void itTurnsWithThePose() {
        model::Project project = unit();
        project.placements[0].angles = {10, 4, -3};
        const Matrix3d turn = model::rotation(project.placements[0].angles);
        const Matrix3d level = unitMass(unit()).value().body.inertia_kg_m2;
        QVERIFY(same(unitMass(project).value().body.inertia_kg_m2, turn * level * turn.transpose()));
    }
    void itsOwnInertiaReplacesTheSum() {
        model::Project project = unit();
        project.sections.edit<model::Mounts>();
        project.sections.edit<model::Mounts>().inertia =
            model::Inertia{{3, 9, 8}, {0.2, -0.5, 0.1}, "swung on two ropes", {}};
        const UnitMass m = unitMass(project).value();
        Matrix3d wanted;
        wanted << 3, -0.1, 0.5, -0.1, 9, -0.2, 0.5, -0.2, 8;
        QVERIFY(same(m.body.inertia_kg_m2, wanted));
        QCOMPARE(m.source, std::string("swung on two ropes"));
        project.donors[0].masses[1].mass_kg.reset();
        QVERIFY(!unitMass(project).ok()); // a mass is missing: nothing is guessed
        project.placements.clear();
        QVERIFY(!unitMass(project).ok());
    }
    void boltsAfterTheirStandards() {
        QVERIFY(std::abs(stressArea_mm2(10, *coarsePitch_mm(10)) - 58.0) < 0.1); // ISO 898-1: 58.0 mm²
        QVERIFY(std::abs(stressArea_mm2(12, *coarsePitch_mm(12)) - 84.3) < 0.1);
        QCOMPARE(*proofStress_mpa("8.8", 10), 580.0);
        QCOMPARE(*proofStress_mpa("8.8", 20), 600.0);
        QCOMPARE(*proofStress_mpa("10.9", 10), 830.0);
        QVERIFY(!proofStress_mpa("stainless", 10) && !coarsePitch_mm(9.53));
    }
};

GABARIT_SUITE(MassTest)
#include "mass_test.moc"
