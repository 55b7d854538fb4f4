// What the driveline says to the build: findings, gauges, words in both kinds of units.
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "driveline/words.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "gearing/words.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {

Project demo(const char* name) {
    return store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + name + ".gabarit",
                              store::defaultRuleBook())
        .value()
        .project;
}
study::Reports run(const Project& project, quantity::Shown shown = quantity::Shown::Millimetres) {
    tests::KeptStudy study;
    study::RunOptions options;
    options.shown = shown;
    options.effort = discipline::Effort::None; // gaps are not asked here
    options.depth = discipline::Depth::Skipped;
    return study.run(std::make_shared<const Project>(project), options);
}
const study::Finding* finding(const study::Reports& reports, const std::string& id) {
    for (const study::Finding& f : reports.findings)
        if (f.id == id) return &f;
    return nullptr;
}
const study::Gauge* gauge(const study::Reports& reports, const std::string& id) {
    for (const study::Gauge& g : reports.gauges)
        if (g.id == id) return &g;
    return nullptr;
}
bool has(const std::string& text, const char* part) { return text.find(part) != std::string::npos; }

} // namespace

class DrivelineFindingsTest : public QObject {
    Q_OBJECT
private slots:
    void theTarnsShaftIsTooShort() {
        const study::Reports reports = run(demo("harrow-tarn"));
        const study::Finding* f = finding(reports, "driveline:rear/shaft-1/engaged");
        QVERIFY(f);
        QCOMPARE(f->verdict, Verdict::NoGo);
        QCOMPARE(f->discipline, std::string("driveline"));
        QVERIFY2(has(f->help, "To keep this shaft, move the unit") && has(f->help, "to order"), f->help.c_str());
        QVERIFY2(has(f->rule, "spline practice"), f->rule.c_str());
        QVERIFY(has(f->caution, "engine off"));
        // In the middle of the shaft, between flange and pinion.
        QVERIFY(f->place_vehicle_mm && f->place_vehicle_mm->x() > 1500 && f->place_vehicle_mm->x() < 2200);
        const study::Gauge* slip = gauge(reports, "slip");
        QCOMPARE(slip->finding, f->id);
        QVERIFY(*slip->pointer < 0.5);
        QCOMPARE(gauge(reports, "driveline")->verdict, Verdict::NoGo);
        QVERIFY(*gauge(reports, "driveline")->figure > 3);
    }
    void inchesEverywhere() {
        const study::Reports reports = run(demo("harrow-tarn"), quantity::Shown::Inches);
        const study::Finding* f = finding(reports, "driveline:rear/shaft-1/engaged");
        QVERIFY2(has(f->title, " in") && !has(f->title, " mm"), f->title.c_str());
        QVERIFY2(has(f->help, " in") && !has(f->help, " mm"), f->help.c_str());
        QVERIFY(has(gauge(reports, "slip")->value, " in"));
        const auto& line = reports.of<driveline::DrivelineReport>()->lines[0];
        for (const driveline::Cure& cure : line.cures)
            QVERIFY(!has(driveline::cureWords(line, cure, quantity::Shown::Inches), " mm"));
    }
    void everyVerdictIsSaid() {
        for (const char* name : {"harrow-tarn", "skerry-quad", "pell-wren", "shaft-bench"}) {
            const study::Reports reports = run(demo(name));
            for (const driveline::LineReport& line : reports.of<driveline::DrivelineReport>()->lines)
                for (const driveline::Check& check : line.checks) {
                    QCOMPARE(finding(reports, "driveline:" + check.id) != nullptr, check.verdict != Verdict::Go);
                    QVERIFY2(check.verdict == Verdict::Unknown || has(check.id, "/order") || !check.rule.empty(),
                             check.id.c_str());
                }
            for (const study::Finding& f : reports.findings) {
                if (f.discipline != "driveline") continue;
                QVERIFY(!f.title.empty());
                for (const std::string& text : {f.title, f.detail, f.help, f.rule})
                    QVERIFY2(!has(text, "nan") && !has(text, "inf") && !has(text, "-0."), text.c_str());
            }
        }
    }
    void highVoltageIsMindedAtTheElectricUnit() {
        const study::Reports reports = run(demo("pell-wren"));
        const study::Finding* f = finding(reports, "driveline:left/shaft-1/engaged");
        QVERIFY(f);
        QVERIFY(has(f->caution, "High voltage"));
        QVERIFY(has(f->help, "towards the wheel"));
        QVERIFY(!has(finding(run(demo("harrow-tarn")), "driveline:rear/joint-1/running")->caution, "High voltage"));
        Project short_lift = demo("pell-wren");
        short_lift.sections.edit<Driveline>().lines[0].shafts[0].spline_mm =
            18; // hardly any plunge: the jack pulls it apart
        const study::Reports jacked = run(short_lift);
        const study::Finding* lift = finding(jacked, "driveline:left/shaft-1/lift");
        QVERIFY(lift);
        QVERIFY(has(lift->caution, "jack under the unit"));
    }
    void couplingsSayWhatToDo() {
        Project p = demo("shaft-bench");
        study::Reports reports = run(p);
        const auto words = [&] {
            return driveline::couplingWords(p, reports.of<driveline::DrivelineReport>()->couplings[0],
                                            quantity::Shown::Millimetres);
        };
        QVERIFY(has(words(), "front mounts") && has(words(), "to the passenger's side"));
        auto& tries = p.sections.edit<Driveline>().couplings[0].tries;
        auto& readings = tries.back().readings;
        readings.erase(std::remove_if(readings.begin(), readings.end(), [](const CouplingReading& r) { return r.rim; }),
                       readings.end());
        reports = run(p);
        QVERIFY2(has(words(), "read the rim"), words().c_str());
        readings.resize(8); // one turn
        reports = run(p);
        QVERIFY2(has(words(), "Turn the shaft to"), words().c_str());
        QVERIFY(has(finding(reports, "driveline:disc/tilt")->detail, "one turn only"));
        readings.resize(2);
        reports = run(p);
        QVERIFY2(has(words(), "Read at"), words().c_str());
        tries.clear();
        reports = run(p);
        QVERIFY(has(words(), "eight places"));
        QCOMPARE(reports.of<driveline::DrivelineReport>()->couplings[0].verdict, Verdict::Unknown);
    }
    void interfacesAndSpeedometer() {
        Project p = demo("harrow-tarn");
        p.sections.edit<Driveline>().interfaces[1].b.count = 26;
        p.sections.edit<Gearing>().speedo_final_drive = 4.6;
        const study::Reports reports = run(p);
        const study::Finding* clutch = finding(reports, "driveline:interface/clutch");
        QVERIFY(clutch);
        QVERIFY2(has(clutch->title, "does not mate") && has(clutch->detail, "23") && has(clutch->detail, "26"),
                 clutch->detail.c_str());
        const study::Finding* speed = finding(reports, "gearing:asked");
        QVERIFY(speed);
        QVERIFY2(has(speed->title, "too little") && has(speed->rule, "UN R39"), speed->rule.c_str());
        // 60 miles shown are as much too few as 100 km are.
        const double true_kmh = *reports.of<gearing::GearingReport>()->speedo_true_kmh;
        QCOMPARE(gearing::speedoWords(*reports.of<gearing::GearingReport>(), quantity::Shown::Millimetres),
                 "At 100 km/h shown it goes " + quantity::fixed(true_kmh, 1) + " km/h");
        QCOMPARE(gearing::speedoWords(*reports.of<gearing::GearingReport>(), quantity::Shown::Inches),
                 "At 60 mph shown it goes " + quantity::fixed(true_kmh * 0.6, 1) + " mph");
        gearing::GearReport gear;
        gear.force_n = 4448.2216152605; // 1000 lbf
        gear.force_n_per_kg = 9.80665;  // 1 lbf/lb
        QCOMPARE(gearing::pullWords(gear, quantity::Shown::Inches), std::string("pulls 1000 lbf, 1.00 lbf/lb"));
        QCOMPARE(gearing::pullWords(gear, quantity::Shown::Millimetres), std::string("pulls 4448 N, 9.81 N/kg"));
        QCOMPARE(gearing::pullWords({}, quantity::Shown::Millimetres), std::string("pulls – N, – N/kg"));
        p.sections.edit<Gearing>().tyre.clear();
        QVERIFY(has(finding(run(p), "gearing:asked")->detail, "tyre size"));
    }
    void limitsAreTheProjectsOwn() {
        Project p = demo("harrow-tarn");
        Figure own;
        own.id = "cardan_most_deg";
        own.text = "by our shaft shop";
        own.value = 5;
        own.source = "their letter";
        p.rules.figures.push_back(own);
        const study::Reports reports = run(p);
        QVERIFY(!finding(reports, "driveline:rear/joint-1/running"));
        for (const driveline::Check& check : reports.of<driveline::DrivelineReport>()->lines[0].checks)
            if (check.id == "rear/joint-1/running") QVERIFY(has(check.rule, "their letter"));
    }
    void nothingIsAskedOfNothing() {
        Project p = demo("harrow-tarn");
        p.sections.drop<Driveline>();
        p.sections.drop<Gearing>();
        const study::Reports reports = run(p);
        QVERIFY(!reports.of<driveline::DrivelineReport>() && !reports.of<gearing::GearingReport>());
        QVERIFY(!gauge(reports, "driveline") && !gauge(reports, "slip"));
        p.sections.edit<Driveline>(); // there, but empty
        QVERIFY(!run(p).of<driveline::DrivelineReport>());
    }
};

GABARIT_SUITE(DrivelineFindingsTest)
#include "driveline_findings_test.moc"
