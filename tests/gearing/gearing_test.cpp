// Speeds, revs and pull against hand-reckoned figures.
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::gearing;

namespace {

const model::RuleBook& book() { return store::defaultRuleBook(); }

/// Diameter 773.9, rolling 3.05 · 773.9 = 2360.4 mm.
model::Project project() {
    model::Project p;
    model::Gearing g;
    g.gears = {{"1", 4.0, false, {}}, {"2", 2.2, false, {}}, {"3", 1.0, false, {}}, {"R", 3.6, true, {}}};
    g.final_drive = 3.7;
    g.tyre = "245/75R16";
    g.max_rpm = 5500;
    g.mass_kg = 1600;
    g.torque = {{1500, 200, {}}, {3000, 280, {}}, {5000, 240, {}}};
    g.cruise_kmh = 100;
    g.wanted_cruise_rpm = 2300;
    p.sections.edit<model::Gearing>() = g;
    return p;
}
bool near(std::optional<double> value, double wanted, double share = 1e-3) {
    return value && std::abs(*value / wanted - 1) < share;
}

} // namespace

class GearingTest : public QObject {
    Q_OBJECT
private slots:
    void speedsByHand() {
        const auto report = gearing::gearing(project(), book());
        QVERIFY(report.has_value());
        QVERIFY(report->missing.empty());
        QVERIFY(near(report->rolling_mm, 2360.4));
        // 1000 rpm in third: 1000/3.7 turns a minute · 2.3604 m · 60 = 38.28 km/h
        QVERIFY(near(report->gears[2].kmh_per_1000, 38.28));
        QVERIFY(near(report->gears[2].top_kmh, 210.5));
        QVERIFY(near(report->gears[0].top_kmh, 52.63));
        QVERIFY(near(report->cruise_rpm, 2612.5));
        QVERIFY(near(report->gears[1].after_shift_rpm, 3025)); // 5500 · 2.2/4
        QVERIFY(!report->gears[0].after_shift_rpm);
        QVERIFY(report->gears[3].reverse && !report->gears[3].cruise_rpm);
        // 280 · 4 · 3.7 · 0.8 / (2.3604/2π) = 8824.7 N
        QVERIFY(near(report->gears[0].force_n, 8824.7));
        QVERIFY(near(report->gears[0].force_n_per_kg, 5.5154));
        QVERIFY(near(report->drive_for_cruise, 3.7 * 2300 / 2612.5));
    }
    void theFinalDriveFoundGivesWhatWasWanted() {
        model::Project p = project();
        model::OriginalVehicle original;
        original.mass_kg = 1400;
        original.tyre = "205/65R15";
        original.final_drive = 3.2;
        p.sections.edit<model::Gearing>().original = original;
        const auto report = gearing::gearing(p, book());
        QVERIFY(report->original_force_n_per_kg && report->drive_for_original_force &&
                report->drive_for_original_cruise);
        model::Project pull = p;
        pull.sections.edit<model::Gearing>().final_drive = report->drive_for_original_force;
        QVERIFY(near(gearing::gearing(pull, book())->gears[0].force_n_per_kg, *report->original_force_n_per_kg, 1e-9));
        model::Project revs = p;
        revs.sections.edit<model::Gearing>().final_drive = report->drive_for_original_cruise;
        QVERIFY(near(gearing::gearing(revs, book())->cruise_rpm, *report->original_cruise_rpm, 1e-9));
        model::Project cruise = p;
        cruise.sections.edit<model::Gearing>().final_drive = report->drive_for_cruise;
        QVERIFY(near(gearing::gearing(cruise, book())->cruise_rpm, 2300, 1e-9));
    }
    void transferAndLosses() {
        model::Project p = project();
        p.sections.edit<model::Gearing>().transfer_low = 2.5;
        p.sections.edit<model::Gearing>().loss = 0;
        const auto report = gearing::gearing(p, book());
        QCOMPARE(report->gears.size(), std::size_t(8));
        QVERIFY(report->gears[4].low_range);
        QVERIFY(near(report->gears[4].top_kmh, *report->gears[0].top_kmh / 2.5, 1e-9));
        QVERIFY(near(report->gears[4].force_n, *report->gears[0].force_n * 2.5, 1e-9));
        // Without loss, force times speed is the crank's power: 280 N·m · 3000 rpm = 87.96 kW.
        const double v = *report->gears[2].kmh_per_1000 * 3 / 3.6;
        QVERIFY(near(*report->gears[2].force_n * v / 1000, 87.96));
        QCOMPARE(QString::fromStdString(report->loss_source), QStringLiteral("given here"));
    }
    void theSpeedometer() {
        model::Project p = project();
        p.sections.edit<model::Gearing>().speedo_final_drive = 3.7;
        p.sections.edit<model::Gearing>().speedo_tyre = "245/75R16";
        QVERIFY(std::abs(*gearing::gearing(p, book())->speedo_error) < 1e-12);
        QCOMPARE(gearing::gearing(p, book())->speedo_verdict, model::Verdict::Go);
        // Larger tyres than it was made for: it shows too little, which the law does not allow.
        p.sections.edit<model::Gearing>().tyre = "265/75R16"; // 803.9
        const auto slow = gearing::gearing(p, book());
        QVERIFY(near(slow->speedo_true_kmh, 100 * 803.9 / 773.9));
        QVERIFY(*slow->speedo_error < 0);
        QCOMPARE(slow->speedo_verdict, model::Verdict::NoGo);
        QCOMPARE(slow->verdict, model::Verdict::NoGo);
        // A longer axle: the shaft turns less for the same road.
        p = project();
        p.sections.edit<model::Gearing>().speedo_final_drive = 4.1;
        QVERIFY(near(1 + *gearing::gearing(p, book())->speedo_error, 3.7 / 4.1));
    }
    void whatIsMissingIsSaid() {
        model::Project p = project();
        p.sections.edit<model::Gearing>().tyre.clear();
        auto report = gearing::gearing(p, book());
        QCOMPARE(report->verdict, model::Verdict::Unknown);
        QVERIFY(!report->gears[0].top_kmh);
        QCOMPARE(report->missing.size(), std::size_t(1));
        p = project();
        p.sections.edit<model::Gearing>().mass_kg.reset();
        report = gearing::gearing(p, book());
        QVERIFY(report->gears[0].force_n && !report->gears[0].force_n_per_kg);
        p.sections.edit<model::Weights>();
        p.sections.edit<model::Weights>().bare = {700, 600};
        QVERIFY(near(gearing::gearing(p, book())->mass_kg, 1300));
        p = {};
        QVERIFY(!gearing::gearing(p, book()));
        p.sections.edit<model::Gearing>();
        QCOMPARE(gearing::gearing(p, book())->verdict, model::Verdict::Unknown);
    }
};

GABARIT_SUITE(GearingTest)
#include "gearing_test.moc"
