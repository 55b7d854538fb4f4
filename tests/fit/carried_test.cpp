// What a moving hand is told of worst moments without a new search, against a whole search of every pair at every step.
#include "discipline/discipline.h"
#include "fit/clearance.h"
#include "model/edit.h"
#include "placed/scene.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_colliders.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::fit;
using Eigen::Vector3d;
using model::Verdict;

namespace {

model::Project demo(const std::string& name) {
    auto project = store::readProject(GABARIT_SOURCE_DIR "/data/demo/" + name + ".gabarit", store::defaultRuleBook())
                       .value()
                       .project;
    model::Placement* placement = model::activePlacement(project);
    if (!placement->rocking.any()) placement->rocking = {2.5, 8, 8, 6, {}, "", {}};
    return project;
}

/// A hand's walk: steps along and up, some with a turn, and back.
model::Project nudged(const model::Project& project, int step) {
    model::Project moved = project;
    model::Placement* placement = model::activePlacement(moved);
    const double far = step % 7;
    *placement = model::shifted(*placement, Vector3d(0.9 * far, -0.4 * (step % 3), 0.7 * (step % 5)));
    *placement = model::turned(*placement, *model::activeDonor(moved), model::Turn::Tail, 0.1 * (step % 4)).value();
    placement->rocking.roll_deg += 0.004 * step; // as the mounts' own changes with the place
    return moved;
}

} // namespace

class CarriedTest : public QObject {
    Q_OBJECT
private slots:
    void nothingIsToldBetterThanItIs_data() {
        QTest::addColumn<QString>("name");
        for (const char* name : {"harrow-tarn", "skerry-quad", "pell-wren"}) QTest::newRow(name) << QString(name);
    }
    void nothingIsToldBetterThanItIs() {
        QFETCH(QString, name);
        const model::Project project = demo(name.toStdString());
        const model::RuleBook book = model::applied(store::defaultRuleBook(), project.rules);
        tests::KeptColliders colliders;
        GapMemo memo;
        ClearanceOptions live, whole;
        live.effort = discipline::Effort::Bounds;
        live.depth = discipline::Depth::Nearby;
        whole.depth = discipline::Depth::Skipped;
        int held = 0, spared = 0, searched = 0;
        for (int step = 0; step < 9; ++step) {
            const model::Project now = nudged(project, step);
            const placed::Scene scene = placed::makeScene(now, colliders);
            const ClearanceReport told = clearance(now, scene, book, &memo, live);
            const ClearanceReport known = clearance(now, scene, book, nullptr, whole);
            std::map<std::pair<model::BodyRef, model::BodyRef>, const PairGap*> by_pair;
            for (const PairGap& pair : known.pairs) by_pair[{pair.a, pair.b}] = &pair;
            QCOMPARE(told.pairs.size(), known.pairs.size());
            for (const PairGap& pair : told.pairs) {
                const PairGap& truth = *by_pair.at({pair.a, pair.b});
                const std::string words = pair.name_a + " / " + pair.name_b + ", step " + std::to_string(step);
                QVERIFY2(pair.gap.contact == truth.gap.contact, words.c_str());
                if (!pair.overlap()) QVERIFY2(std::abs(pair.gap.gap_mm - truth.gap.gap_mm) < 1e-6, words.c_str());
                for (const auto which : {&PairGap::travel, &PairGap::worst}) {
                    const auto &moment = pair.*which, &found = truth.*which;
                    QCOMPARE(moment.has_value(), found.has_value());
                    if (!moment || moment->overlap() || found->overlap()) {
                        // Only what was not looked at may be worse, and then it is not told as good.
                        if (moment && found->overlap()) QVERIFY2(moment->verdict != Verdict::Go, words.c_str());
                        continue;
                    }
                    ++held;
                    (moment->states <= 1 && !moment->bound ? spared : searched) += 1;
                    constexpr double seen_mm = 0.3; // the whole search's own tolerance
                    const double least_mm = moment->gap.gap_mm - moment->hidden_mm;
                    if (found->gap.contact == proximity::Contact::Apart && !found->bound)
                        QVERIFY2(least_mm <= found->gap.gap_mm + seen_mm, words.c_str());
                    if (found->verdict == Verdict::NoGo) QVERIFY2(moment->verdict != Verdict::Go, words.c_str());
                    if (moment->verdict == Verdict::NoGo) QVERIFY2(found->verdict == Verdict::NoGo, words.c_str());
                }
            }
        }
        QVERIFY(held > 100);
        QVERIFY2(spared > 0, qPrintable(QString("%1 of %2").arg(spared).arg(held)));
    }
};

GABARIT_SUITE(CarriedTest)
#include "carried_test.moc"
