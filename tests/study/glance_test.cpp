// Every check at a glance: counts, groups, what is good, and the sums behind figures.
#include "discipline/check_words.h"
#include "fit/fit_report.h"
#include "fit/words.h"
#include "quantity/number.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/files.h"
#include "support/kept_study.h"
#include "support/suite.h"

#include <QtTest>

#include <set>

using namespace gabarit;
using discipline::Group;
using discipline::Why;
using model::Verdict;
using tests::demo;
using Kind = discipline::WhyLine::Kind;

namespace {

study::Reports run(const model::Project& project, discipline::Effort effort = discipline::Effort::Verdict) {
    tests::KeptStudy study;
    study::RunOptions options;
    options.effort = effort;
    return study.run(std::make_shared<const model::Project>(project), options);
}
const study::Reports& tarn() {
    static const study::Reports reports = run(demo("harrow-tarn"), discipline::Effort::Full);
    return reports;
}
double amount(const Why& why, Kind kind) {
    for (const auto& line : why.lines)
        if (line.kind == kind) return line.amount;
    return NAN;
}
/// What the lines before Left come to.
double sumOf(const Why& why) {
    double out = amount(why, Kind::Is);
    for (const auto& line : why.lines)
        if (line.kind == Kind::Takes) out += line.amount;
    return out;
}
std::optional<Why> whyOf(const study::Reports& reports, const study::Finding& finding) {
    return study::whyOf(reports, finding, store::defaultRuleBook(), quantity::Shown::Millimetres);
}

} // namespace

class GlanceTest : public QObject {
    Q_OBJECT
private slots:
    void numbersAndCountsAgree_data() {
        QTest::addColumn<QString>("name");
        for (const char* name : {"harrow-tarn", "skerry-quad", "pell-wren", "mount-bench", "relief-bench"})
            QTest::newRow(name) << QString::fromLatin1(name);
    }
    void numbersAndCountsAgree() {
        QFETCH(QString, name);
        const study::Reports reports = run(demo(qPrintable(name)));
        int number = 0;
        std::set<std::string> ids;
        for (const study::Finding& f : reports.findings) {
            QCOMPARE(f.number, ++number);
            ids.insert(f.id);
        }
        for (const study::Finding& f : reports.good) {
            QCOMPARE(f.number, 0);
            QVERIFY2(f.verdict == Verdict::Go, f.id.c_str());
            QVERIFY2(ids.insert(f.id).second, f.id.c_str()); // neither listed twice nor held up as well
            QVERIFY2(!f.what.empty() && !f.held.value.empty(), f.id.c_str());
        }
        const study::Counts all = study::countsOf(reports);
        QCOMPARE(all.open(), static_cast<int>(reports.findings.size()));
        int open = 0;
        Verdict worst = Verdict::Go;
        for (const study::GroupState& group : study::groupsOf(reports)) {
            open += group.counts.open();
            if (group.verdict) worst = model::worse(worst, *group.verdict);
            if (group.worst) QCOMPARE(group.worst->verdict, *group.verdict);
            QVERIFY(!group.verdict || group.worst);
        }
        QCOMPARE(open, all.open());
        QCOMPARE(worst, reports.verdict);
    }

    /// What touches leads, however short something else is.
    void touchingIsWorse() {
        const auto groups = study::groupsOf(tarn());
        QVERIFY(groups.front().group == Group::Gaps);
        QVERIFY(groups.front().worst->held.value.front() != '3'); // the turbine is 49 mm short
        QCOMPARE(groups.front().worst->what, std::string("Front sump to front crossmember"));
        QCOMPARE(groups.front().worst->held.wanted, std::string("12 mm"));
        QCOMPARE(study::inShort(tarn()), std::string("Not yet"));
        QVERIFY(study::countWords(study::countsOf(tarn())).find("13 no-go, 4 close") == 0);
    }

    /// What could not be worked out is to be measured, in its group and in the total; never go, never not begun.
    void whatFailsIsNotGo() {
        study::throwIn("weights");
        const study::Reports reports = run(demo("harrow-tarn"));
        study::throwIn("");
        bool loads = false;
        for (const study::GroupState& group : study::groupsOf(reports))
            if (group.group == Group::Loads) {
                loads = true;
                QVERIFY(group.verdict == Verdict::Unknown && group.counts.unknown == 1);
            }
        QVERIFY(loads);
        const study::Reports gone = study::givenUp(reports.project, "no memory");
        QCOMPARE(study::inShort(gone), std::string("Not known yet"));
        QVERIFY(study::groupsOf(gone).front().verdict == Verdict::Unknown);
        QCOMPARE(study::countsOf(gone).unknown, 1);
    }

    /// Nothing given is not begun: no group of an empty project has a verdict.
    void nothingIsNotBegun() {
        model::Project empty;
        const study::Reports reports = run(empty);
        QCOMPARE(study::inShort(reports), std::string("Nothing to judge yet"));
        for (const study::GroupState& group : study::groupsOf(reports)) QVERIFY(!group.verdict && !group.worst);
    }

    void everySumAddsUp_data() { numbersAndCountsAgree_data(); }
    void everySumAddsUp() {
        QFETCH(QString, name);
        const study::Reports reports = run(demo(qPrintable(name)));
        int sums = 0;
        std::vector<study::Finding> all = reports.findings;
        all.insert(all.end(), reports.good.begin(), reports.good.end());
        for (const study::Finding& finding : all) {
            const auto why = whyOf(reports, finding);
            if (!why) continue;
            ++sums;
            QVERIFY2(!why->lines.empty() || !why->so.empty(), finding.id.c_str());
            const double left = amount(*why, Kind::Left), wanted = amount(*why, Kind::Wanted);
            if (!std::isnan(left)) QVERIFY2(std::abs(sumOf(*why) - left) < 1e-6, finding.id.c_str());
            if (finding.id.rfind("gap:", 0) != 0 || std::isnan(left)) continue;
            QVERIFY2(!std::isnan(wanted), finding.id.c_str());
            // The verdict follows from the sum.
            const double doubt = std::isnan(amount(*why, Kind::Doubt)) ? 0 : amount(*why, Kind::Doubt);
            if (finding.verdict == Verdict::NoGo) QVERIFY2(left < wanted, finding.id.c_str());
            // A row says what is held against its limit: the figure that the sum comes to.
            if (!finding.held.value.empty() && quantity::isDigit(finding.held.value.front()))
                QCOMPARE(finding.held.value, quantity::lengthText(left));
            if (finding.verdict == Verdict::Close)
                QVERIFY2(left >= wanted && left - wanted < doubt, finding.id.c_str());
            if (finding.verdict == Verdict::Go) QVERIFY2(left - wanted >= doubt, finding.id.c_str());
            QVERIFY2(why->so.find(model::word(finding.verdict)) != std::string::npos, why->so.c_str());
        }
        QVERIFY(sums > 0);
    }

    /// The sump stands 9.7 mm in the crossmember, 10 mm and 2 for welding are wanted: 21.7 short.
    void theSumpsSum() {
        for (const study::Finding& finding : tarn().findings) {
            if (finding.what != "Front sump to front crossmember") continue;
            const auto why = whyOf(tarn(), finding);
            QVERIFY(why);
            QCOMPARE(amount(*why, Kind::Wanted), 12.0);
            QVERIFY(std::abs(amount(*why, Kind::Left) + 9.7) < 0.05);
            QCOMPARE(why->so, std::string("Short by 21.7 mm: no-go."));
            return;
        }
        QFAIL("the sump is not listed");
    }

    /// The turbine: nearer by what moves, less what grows hot; each with its source.
    void theTurbinesSum() {
        for (const study::Finding& finding : tarn().findings) {
            if (finding.what != "Turbo turbine to steering shaft") continue;
            const auto why = whyOf(tarn(), finding);
            QVERIFY(why);
            const fit::PairGap* pair = nullptr;
            for (const fit::PairGap& one : tarn().with<fit::FitReport>().clearance->pairs)
                if (fit::findingId(one) == finding.id) pair = &one;
            QVERIFY(pair && pair->moment());
            QCOMPARE(amount(*why, Kind::Is), pair->gap.gap_mm);
            QVERIFY(std::abs(amount(*why, Kind::Left) - (pair->moment()->gap.gap_mm - pair->moment()->growth_mm)) <
                    1e-9);
            for (const auto& line : why->lines)
                if (line.kind == Kind::Takes || line.kind == Kind::Wanted || line.kind == Kind::Doubt)
                    QVERIFY2(!line.source.empty(), line.words.c_str());
            return;
        }
        QFAIL("the turbine is not listed");
    }

    void checksAreHeldByTheNearerLimit_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("accuracy");
        QTest::addColumn<double>("margin"); // by the limit's size: 3 above, twice 0.5 below
        QTest::addColumn<QString>("so");
        QTest::newRow("over") << 3.75 << 0.0 << -0.25 << "0.75° too much: no-go.";
        QTest::newRow("under") << 0.25 << 0.0 << -0.25 << "0.25° too little: no-go.";
        QTest::newRow("good") << 1.5 << 0.1 << 0.5 << "1.00° to spare: go.";
        QTest::newRow("not sure") << 2.75 << 0.5 << 0.25 / 3 << "0.25° to spare, less than the doubt: close.";
    }
    void checksAreHeldByTheNearerLimit() {
        QFETCH(double, value);
        QFETCH(double, accuracy);
        QFETCH(double, margin);
        QFETCH(QString, so);
        model::Check check;
        check.what = "Front joint";
        check.value = value;
        if (accuracy > 0) check.accuracy = accuracy;
        check.good_least = 0.5;
        check.good_most = 3.0;
        model::judge(check);
        const discipline::Held held = discipline::heldOf(check, quantity::Shown::Millimetres);
        QVERIFY(std::abs(*held.margin - margin) < 1e-9);
        QCOMPARE(QString::fromStdString(discipline::whyOf(check, quantity::Shown::Millimetres).so), so);
    }

    void unknownHasNoSum() {
        model::Check check;
        check.what = "Front joint";
        check.reason = "the pinion is not surveyed";
        model::judge(check);
        const Why why = discipline::whyOf(check, quantity::Shown::Millimetres);
        QVERIFY(why.lines.empty());
        QCOMPARE(why.so, std::string("The pinion is not surveyed."));
        QVERIFY(!discipline::heldOf(check, quantity::Shown::Millimetres).margin);
    }
};

GABARIT_SUITE(GlanceTest)
#include "glance_test.moc"
