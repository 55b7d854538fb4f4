// What the mounts say to the build, and how far they let the engine move in the gaps.
#include "discipline/discipline.h"
#include "mounts/mounts.h"
#include "study/study.h"
#include "support/files.h"
#include "support/kept_study.h"
#include "support/suite.h"
#include "weights/driven_load.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using model::Verdict;
using tests::demo;

namespace {

study::Reports run(const model::Project& project, bool gaps = false) {
    tests::KeptStudy study;
    study::RunOptions options;
    options.effort = discipline::Effort::None;
    options.depth = gaps ? discipline::Depth::Searched : discipline::Depth::Skipped;
    return study.run(std::make_shared<const model::Project>(project), options);
}
const study::Finding* finding(const study::Reports& reports, const char* id) {
    for (const study::Finding& f : reports.findings)
        if (f.id == id) return &f;
    return nullptr;
}

} // namespace

class MountsFindingsTest : public QObject {
    Q_OBJECT
private slots:
    void theBenchHasItsTroubles() {
        const study::Reports r = run(demo("mount-bench"));
        QVERIFY(r.of<mounts::MountsReport>() && r.of<mounts::MountsReport>()->usable);
        // Two of four bolts.
        const study::Finding* bolts = finding(r, "mounts:right/pad/all");
        QVERIFY(bolts);
        QCOMPARE(bolts->verdict, Verdict::NoGo);
        QVERIFY(bolts->title.find(": 2") != std::string::npos);
        QVERIFY(bolts->detail.find("at least 4") != std::string::npos);
        QVERIFY(bolts->caution.find("unit") != std::string::npos);
        QVERIFY(bolts->place_vehicle_mm && bolts->place_vehicle_mm->y() > 0);
        const auto gauge =
            std::find_if(r.gauges.begin(), r.gauges.end(), [](const auto& g) { return g.id == "mounts"; });
        QVERIFY(gauge != r.gauges.end());
        QCOMPARE(gauge->verdict, Verdict::NoGo);
        QCOMPARE(r.verdict, Verdict::NoGo);
        QVERIFY(!run(demo("skerry-quad")).of<mounts::MountsReport>()); // not asked
    }
    void theEngineMovesAsItsMountsAllow() {
        model::Project p = demo("mount-bench");
        const study::Reports r = run(p);
        QVERIFY(r.of<mounts::MountsReport>()->rocking);
        const model::Rocking& moved = model::activePlacement(*r.moving)->rocking;
        QCOMPARE(moved.roll_deg, r.of<mounts::MountsReport>()->rocking->roll_deg);
        QVERIFY(!model::activePlacement(*r.project)->rocking.any()); // the project is as it was
        model::activePlacement(p)->rocking.roll_deg = 1.25;          // given by hand: that counts
        const study::Reports by_hand = run(p);
        QCOMPARE(model::activePlacement(*by_hand.moving)->rocking.roll_deg, 1.25);
        QCOMPARE(by_hand.moving, by_hand.project);
    }
    void theDrivenLoadIsThatOfTheDrivenAxles() {
        const model::Project tarn = demo("harrow-tarn"), quad = demo("skerry-quad"), wren = demo("pell-wren");
        const auto loads = [](const model::Project& p) { return weights::axleLoads(p, store::defaultRuleBook()); };
        QVERIFY(std::abs(*weights::drivenLoad_kg(tarn, store::defaultRuleBook()) - *loads(tarn).rear.load_kg) < 1e-9);
        QVERIFY(std::abs(*weights::drivenLoad_kg(quad, store::defaultRuleBook()) - *loads(quad).rear.load_kg -
                         *loads(quad).front.load_kg) < 1e-9);
        QVERIFY(weights::drivenLoad_kg(wren, store::defaultRuleBook()).has_value());
        model::Project bare = tarn;
        bare.sections.drop<model::Weights>();
        QVERIFY(!weights::drivenLoad_kg(bare, store::defaultRuleBook()));
    }
};

GABARIT_SUITE(MountsFindingsTest)
#include "mounts_findings_test.moc"
