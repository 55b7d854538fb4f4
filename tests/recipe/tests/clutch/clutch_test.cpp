// Whether the clutch holds, against figures by hand.
#include "clutch/discipline.h"
#include "gearing/section/gearing.h"
#include "store/rule_book.h"
#include "support/files.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using clutch::Clutch;
using model::Verdict;

class ClutchTest : public QObject {
    Q_OBJECT

    /// 240 over 160 mm, 6000 N, two linings of 0.3: 2 · 0.3 · 6000 N · (0.240 + 0.160) m / 4 = 360 N·m.
    static Clutch usual() {
        Clutch out;
        out.outer_mm = 240;
        out.inner_mm = 160;
        out.clamp_n = 6000;
        out.torque_nm = 280;
        return out;
    }
    static discipline::Report judged(const model::Project& project) {
        proximity::ColliderCache colliders;
        const discipline::Offers offers;
        return clutch::discipline().judge(
            {std::make_shared<const model::Project>(project), store::defaultRuleBook(), nullptr, offers, colliders});
    }
    static discipline::Report judged(const Clutch& its) {
        model::Project project = tests::demo("harrow-tarn");
        project.sections.edit<Clutch>() = its;
        return judged(project);
    }

private slots:
    void itHoldsWhatAHandReckons() {
        QVERIFY(std::abs(*clutch::holds_nm(usual(), 0.3) - 360) < 1e-9);
        Clutch four = usual();
        four.faces = 4; // a second disc
        QVERIFY(std::abs(*clutch::holds_nm(four, 0.3) - 720) < 1e-9);
        Clutch inside_out = usual();
        inside_out.inner_mm = 240;
        QVERIFY(!clutch::holds_nm(inside_out, 0.3));
    }

    void verdicts() {
        Clutch its = usual();
        QCOMPARE(judged(its).verdict, Verdict::Go); // 360 / 280 = 1.29
        its.torque_nm = 300;                        // 1.2: below the reserve
        QCOMPARE(judged(its).verdict, Verdict::Close);
        its.torque_nm = 400; // 0.9: it slips
        QCOMPARE(judged(its).verdict, Verdict::NoGo);
        its.friction = 0.4; // 1.2
        QCOMPARE(judged(its).verdict, Verdict::Close);
    }

    void whatIsMissingIsUnknown() {
        for (auto member : {&Clutch::outer_mm, &Clutch::inner_mm, &Clutch::clamp_n}) {
            Clutch its = usual();
            (its.*member).reset();
            QCOMPARE(judged(its).verdict, Verdict::Unknown);
            QVERIFY(!judged(its).checks[0].reason.empty());
        }
        model::Project bare;
        bare.sections.edit<Clutch>() = usual();
        bare.sections.edit<Clutch>().torque_nm.reset(); // and no gearing
        QCOMPARE(judged(bare).verdict, Verdict::Unknown);
        QVERIFY(!judged(model::Project()).verdict); // not asked
    }

    void withoutATorqueItTakesTheGearings() {
        Clutch its = usual();
        its.torque_nm.reset();
        double most = 0;
        const model::Project tarn = tests::demo("harrow-tarn");
        for (const auto& point : tarn.sections.get<model::Gearing>()->torque) most = std::max(most, point.torque_nm);
        QVERIFY(std::abs(*judged(its).checks[0].value - 360 / most) < 1e-9);
    }
};

GABARIT_SUITE(ClutchTest)
#include "clutch_test.moc"
