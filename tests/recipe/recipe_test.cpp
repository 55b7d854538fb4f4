// The recipe's discipline, the clutch, plugged into the whole program: what docs/new-discipline.md promises.
#include "clutch/discipline.h"
#include "discipline/sections.h"
#include "disciplines/all.h"
#include "forms/tones.h"
#include "kit/check_sheet.h"
#include "parts/parts.h"
#include "session/session.h"
#include "stages/clutch/clutch_stage.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/schema.h"
#include "study/study.h"
#include "support/files.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/gauge_strip.h"

#include <QFile>
#include <QListWidget>
#include <QMenu>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTableWidget>
#include <QtTest>

#include <nlohmann/json.hpp>

using namespace gabarit;
using namespace gabarit::app;
using clutch::Clutch;
using model::Verdict;

namespace {

/// 240 over 160 mm, 6000 N, two linings of 0.3: 2 · 0.3 · 6000 N · (0.240 + 0.160) m / 4 = 360 N·m.
Clutch usual() {
    Clutch out;
    out.outer_mm = 240;
    out.inner_mm = 160;
    out.clamp_n = 6000;
    out.torque_nm = 280;
    return out;
}

model::Project withClutch(const Clutch& its) {
    model::Project out = tests::demo("harrow-tarn");
    out.sections.edit<Clutch>() = its;
    return out;
}

QByteArray file(const char* path) {
    QFile opened(QStringLiteral(GABARIT_SOURCE_DIR "/") + QLatin1String(path));
    return opened.open(QIODevice::ReadOnly) ? opened.readAll() : QByteArray();
}

} // namespace

class RecipeTest : public QObject, tests::WindowHand {
    Q_OBJECT

    study::Study study_{store::defaultRuleBook()};
    study::Reports run(model::Project project) {
        study::RunOptions options;
        options.effort = discipline::Effort::Verdict;
        options.depth = discipline::Depth::Skipped;
        return study_.run(std::make_shared<const model::Project>(std::move(project)), options);
    }

private slots:
    void itIsOneMore() {
        int clutches = 0;
        for (std::size_t i = 0; i < disciplines::all().size(); ++i)
            clutches += disciplines::all()[i].card().id == "clutch";
        QCOMPARE(clutches, 1);
        QVERIFY(disciplines::all().size() > 1);
        QVERIFY(store::defaultRuleBook().figure("clutch_reserve") > 1);
    }

    void itIsTold() {
        Clutch its = usual();
        its.torque_nm = 400;
        const auto reports = run(withClutch(its));
        QVERIFY(reports.verdict == Verdict::NoGo);
        const auto found = std::find_if(reports.findings.begin(), reports.findings.end(),
                                        [](const study::Finding& f) { return f.id == "clutch:reserve"; });
        QVERIFY(found != reports.findings.end());
        QVERIFY(!found->caution.empty() && !found->help.empty() && !found->rule.empty());
        const auto dial = std::find_if(reports.gauges.begin(), reports.gauges.end(),
                                       [](const study::Gauge& g) { return g.discipline == "clutch"; });
        QVERIFY(dial != reports.gauges.end());
        QCOMPARE(dial->finding, std::string("clutch:reserve"));
        nlohmann::ordered_json into;
        for (std::size_t i = 0; i < disciplines::all().size(); ++i)
            for (const discipline::Printed& one : disciplines::all()[i].prints())
                if (one.name == "clutch") one.write(*reports.report("clutch"), {store::defaultRuleBook()}, into);
        QCOMPARE(into["checks"][0]["id"].get<std::string>(), std::string("reserve"));
        QVERIFY(std::abs(into["checks"][0]["value"].get<double>() - 0.9) < 1e-9);
    }

    void onlyItIsJudgedAgain() {
        run(withClutch(usual()));
        Clutch other = usual();
        other.clamp_n = 6100;
        QCOMPARE(run(withClutch(other)).judged, std::vector<std::string>{"clutch"});
        model::Project dearer = withClutch(other);
        dearer.sections.edit<model::Parts>().front().cost = 1234;
        const auto judged = run(dearer).judged;
        QVERIFY(!judged.empty() && std::find(judged.begin(), judged.end(), "clutch") == judged.end());
        const discipline::SectionMarks before(withClutch(usual())), after(withClutch(other));
        QVERIFY(before.of({"clutch"}) != after.of({"clutch"}));
        QCOMPARE(before.of({"gearing", "mounts"}), after.of({"gearing", "mounts"}));
    }

    void filesKeepIt() {
        Clutch its = usual();
        its.extras["colour"] = "\"red\"";
        const std::string text = store::projectText(withClutch(its));
        const auto read = store::projectFromText(text, "p.gabarit", store::defaultRuleBook());
        QVERIFY(read.ok());
        QCOMPARE(store::projectText(read.value().project), text);
        QCOMPARE(*read.value().project.sections.get<Clutch>()->outer_mm, 240.0);
        std::string wrong = text;
        wrong.replace(wrong.find("\"outer_mm\": 240"), 15, "\"outer_mm\": -4");
        const auto refused = store::projectFromText(wrong, "p.gabarit", store::defaultRuleBook());
        QVERIFY(!refused.ok());
        QVERIFY2(refused.error().line().find("clutch") != std::string::npos, refused.error().line().c_str());
        const std::string schema = store::projectSchema(store::defaultRuleBook());
        QVERIFY(schema.find("\"clutch\"") != std::string::npos);
        QVERIFY(schema.find("\"clamp_n\"") != std::string::npos);
        QVERIFY(store::memberTables().count("clutch") == 1);
    }

    void copiesShareItUntilItChanges() {
        const model::Project one = withClutch(usual());
        model::Project two = one;
        QVERIFY(one.sections.get<Clutch>() == two.sections.get<Clutch>()); // the same one, not an equal one
        two.sections.edit<Clutch>().clamp_n = 1;
        QCOMPARE(*one.sections.get<Clutch>()->clamp_n, 6000.0);
        QCOMPARE(*two.sections.get<Clutch>()->clamp_n, 1.0);
        const Clutch* shared = one.sections.get<Clutch>();
        store::projectText(one); // who only looks copies nothing
        validate(one, store::defaultRuleBook());
        QVERIFY(one.sections.get<Clutch>() == shared);
    }

    void theWindowHasItsStage() {
        openWindow();
        QVERIFY(window_->openDemo());
        settle();
        window_->goToStage(QStringLiteral("clutch"));
        auto* stage = window_->stage<ClutchStage>();
        QVERIFY(stage->isVisible());
        QCOMPARE(stage->list()->count(), 0);
        auto* adding = stage->findChild<QAction*>(QStringLiteral("new_clutch"));
        QVERIFY(adding);
        adding->trigger();
        QCOMPARE(stage->key(), QStringLiteral("clutch"));
        type(stage->form(), "outer_mm", QStringLiteral("240"));
        type(stage->form(), "inner_mm", QStringLiteral("160"));
        type(stage->form(), "clamp_n", QStringLiteral("6000"));
        type(stage->form(), "torque_nm", QStringLiteral("400"));
        settle();
        QCOMPARE(*project().sections.get<Clutch>()->outer_mm, 240.0);
        QCOMPARE(stage->checks()->rowCount(), 1);
        QVERIFY2(stage->checks()->item(0, 1)->text().contains(QStringLiteral("90 %")),
                 qPrintable(stage->checks()->item(0, 1)->text()));
        // In inches, as it is typed there.
        session().setShown(quantity::Shown::Inches);
        settle();
        type(stage->form(), "inner_mm", QStringLiteral("6"));
        settle();
        QVERIFY(std::abs(*project().sections.get<Clutch>()->inner_mm - 152.4) < 1e-9);
        // What cannot be is refused, and what was stays.
        type(stage->form(), "outer_mm", QStringLiteral("-1"));
        QVERIFY(!window_->noticeText().isEmpty());
        QCOMPARE(*project().sections.get<Clutch>()->outer_mm, 240.0);
        // Its row on the page with every check leads there.
        window_->goToStage(QStringLiteral("place"));
        QVERIFY(!stage->isVisible());
        leadFromGlance("clutch:reserve");
        QVERIFY(stage->isVisible());
        while (session().history().canUndo()) session().history().undo();
        QVERIFY(!project().sections.get<Clutch>());
        window_.reset();
    }

    /// The page says what the files say.
    void thePageIsTrue() {
        const QString page = QString::fromUtf8(file("docs/new-discipline.md"));
        const QRegularExpression block(QStringLiteral("`([^`\\n]+)`:\\n\\n```\\w*\\n(.*?)```"),
                                       QRegularExpression::DotMatchesEverythingOption);
        int blocks = 0;
        for (auto it = block.globalMatch(page); it.hasNext(); ++blocks) {
            const auto match = it.next();
            const QString path = match.captured(1);
            QString own = path; // core/clutch/… stands in tests/recipe/core/clutch/…
            own.replace(QStringLiteral("app/stages/"), QStringLiteral("stages/"));
            const QString there = QString::fromUtf8(file(qPrintable(QStringLiteral("tests/recipe/") + own)));
            QVERIFY2(!there.isEmpty(), qPrintable(path));
            QVERIFY2(there.contains(match.captured(2).trimmed()),
                     qPrintable(path + QLatin1Char('\n') + match.captured(2)));
        }
        QVERIFY(blocks >= 6);
    }
};

GABARIT_WINDOW_SUITE(RecipeTest)
#include "recipe_test.moc"
