// Two placements side by side, against figures known by hand.
#include "make/compare.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using namespace gabarit::tests;

namespace {

study::Reports reports(const Project& project) {
    tests::KeptStudy study;
    return study.advised(study.run(std::make_shared<const Project>(project), {}), {});
}
const make::ComparedFigure& figure(const make::Comparison& both, const char* name) {
    for (const make::ComparedFigure& f : both.figures)
        if (f.name == name) return f;
    qFatal("no figure %s", name);
}

} // namespace

class CompareTest : public QObject {
    Q_OBJECT
private slots:
    void twelveMillimetresDown() {
        const Project before = smallBay(); // the sump 20 above the crossmember, 10 wanted
        Project after = before;
        after.placements[0].position_mm.z() = -12;
        const make::Comparison both = make::compared(reports(before), reports(after), {});
        QCOMPARE(figure(both, "Tightest gap").pinned, std::string("20.0 mm"));
        QCOMPARE(figure(both, "Tightest gap").now, std::string("8.0 mm"));
        QCOMPARE(figure(both, "Tightest gap").difference, std::string("−12.0 mm"));
        QCOMPARE(figure(both, "Tightest gap").better, -1);
        QCOMPARE(figure(both, "Above datum").difference, std::string("−12.0 mm"));
        QCOMPARE(figure(both, "Above datum").better, 0); // neither good nor bad by itself
        QCOMPARE(figure(both, "Behind axle").difference, std::string("same"));
        QCOMPARE(figure(both, "Gaps too small").difference, std::string("+1"));
        QCOMPARE(figure(both, "Gaps too small").better, -1);
        QCOMPARE(both.came.size(), std::size_t(1));
        QVERIFY(both.went.empty());
        // Only what became no-go is called so: 20 to 8 mm is, 20 to 15 mm is merely less.
        QVERIFY(figure(both, "Tightest gap").became_no_go);
        QVERIFY(figure(both, "Gaps too small").became_no_go);
        Project nearer = before;
        nearer.placements[0].position_mm.z() = -5;
        const make::Comparison less = make::compared(reports(before), reports(nearer), {});
        QCOMPARE(figure(less, "Tightest gap").better, -1);
        for (const make::ComparedFigure& f : less.figures) QVERIFY(!f.became_no_go);
        // The other way round says the opposite of each.
        const make::Comparison back = make::compared(reports(after), reports(before), {});
        QCOMPARE(back.figures.size(), both.figures.size());
        for (std::size_t i = 0; i < both.figures.size(); ++i) {
            QCOMPARE(back.figures[i].now, both.figures[i].pinned);
            QCOMPARE(back.figures[i].better, -both.figures[i].better);
        }
        QCOMPARE(back.went, both.came);
    }
    /// A gauge of checks may show an angle now and a length then: verdicts are told, no difference of the two.
    void checksAreComparedByTheirVerdicts() {
        study::Reports before = reports(smallBay()), after = before;
        study::Gauge gauge;
        gauge.id = "driveline";
        gauge.name = "Driveline";
        gauge.value = "3.81°";
        gauge.figure = 3.81;
        gauge.verdict = Verdict::NoGo;
        before.gauges.push_back(gauge);
        gauge.value = "25.5 mm";
        gauge.figure = 25.5;
        gauge.verdict = Verdict::Go;
        after.gauges.push_back(gauge);
        const make::Comparison both = make::compared(before, after, {});
        QCOMPARE(figure(both, "Driveline").difference, std::string("no-go → go"));
        QCOMPARE(figure(both, "Driveline").better, 1);
        QCOMPARE(figure(make::compared(after, before, {}), "Driveline").better, -1);
        after.gauges.back().verdict = Verdict::NoGo;
        const make::Comparison alike = make::compared(before, after, {});
        QCOMPARE(figure(alike, "Driveline").difference, std::string());
        QCOMPARE(figure(alike, "Driveline").better, 0);
        QCOMPARE(figure(make::compared(after, after, {}), "Driveline").difference, std::string("same"));
    }
    void inInches() {
        const Project before = smallBay();
        Project after = before;
        after.placements[0].position_mm.x() = 25.4;
        const make::Comparison both = make::compared(reports(before), reports(after), quantity::Shown::Inches);
        QCOMPARE(figure(both, "Behind axle").difference, std::string("+1.000 in"));
    }
    /// Law: what stands under "now" is what stands under "pinned" and the difference, as they are written.
    void whatIsWrittenAddsUp() {
        model::Project first =
            store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
                .value()
                .project;
        model::Project second = first;
        second.active_placement.text = "second-try";
        int told = 0;
        for (const make::ComparedFigure& f : make::compared(reports(first), reports(second), {}).figures) {
            const auto read = [](const std::string& text) {
                return quantity::parse(quantity::Dimension::Length, text.rfind("+", 0) == 0 ? text.substr(1) : text);
            };
            const auto pinned = read(f.pinned), now = read(f.now), by = read(f.difference);
            if (!pinned || !now || !by || f.now.find(" mm") == std::string::npos) continue;
            ++told;
            QVERIFY2(std::abs(pinned.value() + by.value() - now.value()) < 0.16,
                     (f.name + ": " + f.pinned + " " + f.difference + " " + f.now).c_str());
        }
        QVERIFY(told > 4);
    }
    void aPlacementAgainstItself() {
        const study::Reports r = reports(smallBay());
        for (const make::ComparedFigure& f : make::compared(r, r, {}).figures) {
            QCOMPARE(f.pinned, f.now);
            QVERIFY(f.better == 0 && (f.difference == "same" || f.difference.empty()));
        }
    }
};

GABARIT_SUITE(CompareTest)
#include "compare_test.moc"
