// What the list says: whole sentences, made from a bay so small that every figure can be seen by hand.
#include "fit/words.h"
#include "ledger/section/money.h"
#include "parts/parts.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Body box(const char* name, const char* category, const Vector3d& size, const Vector3d& place,
         std::optional<double> accuracy = 1) {
    Body b;
    b.id.text = QString::fromLatin1(name).toLower().replace(QLatin1Char(' '), QLatin1Char('-')).toStdString();
    b.name = name;
    b.category = category;
    b.shape = BoxSpec{size};
    b.position_mm = place;
    b.accuracy_mm = accuracy;
    return b;
}

/// A sump whose underside stands `gap_mm` over a crossmember; nothing else is near.
Project bay(double gap_mm, std::optional<double> accuracy = 1) {
    Project p;
    p.name = "bay";
    p.vehicle.emplace();
    p.vehicle->name = "V";
    p.vehicle->drive_side = DriveSide::Right;
    p.vehicle->wheelbase_mm = 2500;
    p.vehicle->bodies = {box("Front crossmember", "crossmember", {100, 600, 80}, {0, 0, 40}, accuracy)};
    Donor donor;
    donor.id.text = "unit";
    donor.name = "Unit";
    donor.bodies = {box("Rear sump", "sump", {200, 200, 100}, {0, 0, 130 + gap_mm})};
    donor.masses = {{"unit", 200.0, {0, 0, 0}, {}, false, {}, {}}};
    p.donors = {donor};
    Placement placement;
    placement.id.text = "p";
    placement.name = "P";
    placement.donor.text = "unit";
    p.placements = {placement};
    return p;
}

study::Reports run(const Project& project, quantity::Shown shown = {}, bool advised = false) {
    tests::KeptStudy study;
    study::RunOptions options;
    options.shown = shown;
    study::Reports reports = study.run(std::make_shared<const Project>(project), options);
    return advised ? study.advised(std::move(reports), options) : reports;
}

#define SAYS(actual, expected) QCOMPARE(QString::fromStdString(actual), QString::fromUtf8(expected))

} // namespace

class FindingsTest : public QObject {
    Q_OBJECT
private slots:
    void whatFouls() {
        Project p = bay(-7);
        p.vehicle->bodies[0].may.be_cut = true;
        p.vehicle->bodies[0].may.be_removed = true;
        const study::Reports reports = run(p);
        QCOMPARE(reports.findings.size(), std::size_t{2}); // and that nothing is surveyed yet, since it may be cut
        QCOMPARE(reports.findings[1].id, std::string("survey:open"));
        const study::Finding& f = reports.findings[0];
        QCOMPARE(f.verdict, Verdict::NoGo);
        SAYS(f.title, "Rear sump fouls the front crossmember");
        SAYS(f.detail, "≈ 7 mm into it; 10 mm wanted: short by 17 mm, with the tape's doubt 19 mm");
        // 7 out, 10 wanted, 1 + 1 of accuracy.
        SAYS(f.help, "About 20 mm up frees it; the front crossmember may be cut or come out.");
        SAYS(f.label, "rear sump −7 mm");
        QVERIFY(f.rule.find("common certification guidance") != std::string::npos);
        QVERIFY(f.caution.find("Frame cuts") != std::string::npos);
        p.vehicle->bodies[0].may = May{};
        QVERIFY(run(p).findings[0].caution.empty()); // nobody speaks of cutting it
    }
    void whatIsTooNear() {
        const study::Reports reports = run(bay(6));
        SAYS(reports.findings[0].title, "Rear sump is too near the front crossmember");
        SAYS(reports.findings[0].detail, "6.0 mm; 10 mm wanted: short by 4 mm, with the tape's doubt 6 mm");
        SAYS(reports.findings[0].help, "About 7 mm up frees it.");
        SAYS(reports.findings[0].label, "rear sump 6 mm");
        // Half-way between the crossmember's top at 80 and the sump's underside at 86.
        QVERIFY(std::abs(reports.findings[0].place_vehicle_mm->z() - 83) < 1e-9);
    }
    void whatIsClose() {
        Project p = bay(11, 3); // 1 to spare; ± 3 + 1
        const study::Reports reports = run(p);
        QCOMPARE(reports.findings[0].verdict, Verdict::Close);
        SAYS(reports.findings[0].title, "Rear sump is close to the front crossmember");
        SAYS(reports.findings[0].detail, "11.0 mm; 10 mm wanted, measured to ±4.0 mm");
        SAYS(reports.findings[0].help, "Measure the front crossmember again."); // the less sure of the two
        p.vehicle->bodies[0].accuracy_mm = 0.5;
        p.donors[0].bodies[0].accuracy_mm = 3;
        SAYS(run(p).findings[0].help, "Measure the rear sump again.");
    }
    void whatIsNotKnown() {
        const study::Reports reports = run(bay(30, std::nullopt));
        QCOMPARE(reports.findings[0].verdict, Verdict::Unknown);
        SAYS(reports.findings[0].title, "Rear sump to the front crossmember: not known");
        QVERIFY(reports.findings[0].detail.find("30.0 mm") != std::string::npos);
        QVERIFY(!reports.findings[0].help.empty());
    }
    void whatIsGoodIsNotListed() { QVERIFY(run(bay(30)).findings.empty()); }
    void inInches() {
        const study::Reports reports = run(bay(-7), quantity::Shown::Inches);
        SAYS(reports.findings[0].detail,
             "≈ 0.28 in into it; 0.40 in wanted: short by 0.67 in, with the tape's doubt 0.75 in");
        quantity::Shown fractions = quantity::Shown::Inches;
        fractions.length = quantity::LengthStyle::Sixteenths;
        SAYS(run(bay(6), fractions).findings[0].detail,
             "1/4 in (−0.014); 7/16 in wanted: short by 3/16 in, with the tape's doubt 1/4 in");
    }
    void movedBodiesGiveWayThemselves() {
        Project p = bay(200);
        Body battery = box("Battery", "fixed_part", {100, 100, 100}, {0, 360, 40});
        battery.shift_mm = {0, -8, 0}; // into the crossmember's end, which stands at y = 300
        p.vehicle->bodies.push_back(battery);
        const study::Reports reports = run(p, {}, true);
        QCOMPARE(reports.findings.size(), std::size_t{1});
        SAYS(reports.findings[0].title, "Battery is too near the front crossmember");
        QVERIFY2(reports.findings[0].help.find("for the battery") != std::string::npos,
                 reports.findings[0].help.c_str());
        QVERIFY(!reports.findings[0].way_out); // moving the donor does not help it
    }
    void theSingleMoveAndWhatItBrings() {
        Project p = bay(-7);
        SAYS(run(p, {}, true).findings[0].help, "19 mm up frees it: nothing else is then no-go.");
        // A bonnet 25 mm over the sump: 19 up leaves 6 where 15 are wanted, one no-go for another.
        p.vehicle->bodies.push_back(box("Bonnet", "bonnet", {3000, 3000, 2}, {0, 0, 173 + 25 + 1}));
        const study::Finding f = run(p, {}, true).findings[0];
        SAYS(f.help, "19 mm up frees it but only trades it for another: 1 gap no-go then, 1 now; the rear sump to the "
                     "bonnet 9 mm short.");
        SAYS(f.way_out->words, "19 mm up"); // off the crossmember sideways is farther than is searched
    }
    void waysInWords() {
        Project p = bay(0);
        const auto words = [&p](fit::Way way, double amount) { return fit::wayWords(p, way, amount, {}); };
        SAYS(words(fit::Way::Up, 31), "31 mm up");
        SAYS(words(fit::Way::Rearward, 4.5), "4.5 mm rearward");
        SAYS(words(fit::Way::Right, 12), "12 mm to the driver's side");
        SAYS(words(fit::Way::Left, 12), "12 mm to the passenger's side");
        SAYS(words(fit::Way::TailDown, 0.6), "tail down 0.60°");
        p.vehicle->drive_side = DriveSide::Left;
        SAYS(words(fit::Way::Right, 12), "12 mm to the passenger's side");
    }
    void axlesAndBudget() {
        Project p = bay(30);
        p.placements[0].position_mm.x() = 0; // 200 kg over the front axle
        p.sections.edit<Weights>();
        p.sections.edit<Weights>().bare = {500, 500};
        p.sections.edit<Weights>().limit = {690, 900};
        p.sections.edit<Weights>().accuracy_kg = 5;
        p.sections.edit<ledger::Money>();
        p.sections.edit<ledger::Money>().currency = "EUR";
        p.sections.edit<ledger::Money>().budget = 100;
        Part part;
        part.id.text = part.name = "loom";
        part.cost = 240;
        p.sections.edit<Parts>() = std::vector<Part>{part};
        study::Reports reports = run(p);
        QCOMPARE(reports.findings.size(), std::size_t{2});
        SAYS(reports.findings[0].title, "Front axle is overloaded");
        SAYS(reports.findings[0].detail, "700 kg of 690 kg allowed");
        SAYS(reports.findings[1].title, "The parts cost more than the budget");
        SAYS(reports.findings[1].detail, "240 of 100 EUR");
        p.sections.edit<Weights>().limit.front_kg = 703;
        p.sections.edit<Parts>().front().cost.reset();
        reports = run(p);
        SAYS(reports.findings[0].title, "Front axle is close to its limit");
        SAYS(reports.findings[1].title, "Whether the budget holds is not known");
        p.donors[0].masses[0].mass_kg.reset();
        reports = run(p);
        for (const study::Finding& f : reports.findings)
            if (f.discipline == "weights")
                QVERIFY(f.verdict == Verdict::Unknown && f.detail.find("unit (no mass)") != std::string::npos);
    }
};

GABARIT_SUITE(FindingsTest)
#include "findings_test.moc"
