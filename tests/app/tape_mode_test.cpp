// Beside the car: a new swap by tape mode, a reading a page, to a first verdict; and what it does not take.
#include "fit/fit_report.h"
#include "model/first_survey.h"
#include "stages/survey/guided_page.h"
#include "stages/survey/survey_drawing.h"
#include "stages/survey/survey_stage.h"
#include "stages/survey/tape_mode.h"
#include "store/first_survey.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/gauge_strip.h"
#include "window/next_bar.h"
#include "window/rail.h"
#include "window/start_page.h"

#include <QLineEdit>
#include <QSettings>
#include <QTemporaryDir>

using namespace gabarit;
using namespace gabarit::app;

class TapeModeTest : public QObject, tests::WindowHand {
    Q_OBJECT

    QTemporaryDir settings_;

    TapeMode* tape() { return window_->stage<SurveyStage>()->tapeMode(); }
    void begin() {
        window_->newProject();
        QTRY_VERIFY(tape()->isVisible());
        QTRY_COMPARE(QApplication::focusWidget(), tape()->line());
    }
    /// As on a keyboard: the figure, then Return.
    void reads(const QString& figure) {
        QTest::keyClicks(tape()->line(), figure);
        QTest::keyClick(tape()->line(), Qt::Key_Return);
    }
    void press(const char* key) { WindowHand::press(tape()->key(QString::fromLatin1(key))); }
    std::string asked() { return tape()->asked().id; }
    model::SurveyValue value(const char* entry) { return model::surveyValue(project(), store::firstSurvey(), entry); }

private slots:
    void initTestCase() { QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings_.path()); }
    void init() {
        QSettings().clear();
        openWindow();
    }
    void cleanup() { window_.reset(); }

    void fromTheStartPageToAVerdictByTyping() {
        WindowHand::press(window_->findChild<QPushButton*>("new_swap"));
        QTRY_VERIFY(tape()->isVisible());
        // It has the window to itself.
        QVERIFY(!window_->rail()->isVisible());
        QVERIFY(!window_->gauges()->isVisible());
        QVERIFY(!window_->next()->isVisible());
        QVERIFY(!tape()->key("verdict")->isVisible());
        int keys = 0;
        // One reading a page, twelve of them, none asked twice.
        for (const char* figure : {"460", "760", "480", "80", "60", "470", "1010", "540", "390", "560", "210", "640"}) {
            QVERIFY2(tape()->asked().needed, asked().c_str());
            const std::string before = asked();
            reads(QString::fromLatin1(figure));
            keys += static_cast<int>(QString::fromLatin1(figure).size()) + 1;
            QVERIFY2(asked() != before, qPrintable(tape()->saidUnder()));
        }
        // Four minutes: even at two seconds a key it is less.
        QVERIFY(keys * 2 < 4 * 60);
        QVERIFY(model::stillNeeded(project(), store::firstSurvey()).empty());
        QVERIFY(!tape()->asked().needed);
        QVERIFY(tape()->key("verdict")->isVisible());
        QCOMPARE(session().history().count(), 12);
        press("verdict");
        QTRY_COMPARE(window_->shownId(), QStringLiteral("place"));
        QVERIFY(window_->rail()->isVisible());
        settle();
        const auto reports = session().reports();
        QVERIFY(reports->with<fit::FitReport>().clearance->reason.empty());
        // By hand: place_z is assumed at crossmember top 470 + sump 210 + 20 = 700, so the sump's bottom at 490 is 20
        // above the crossmember.
        QCOMPARE(project().placements.front().position_mm.z(), 700.0);
        bool found = false;
        for (const auto* findings : {&reports->findings, &reports->good})
            for (const study::Finding& f : *findings)
                if (f.what == "Sump to front crossmember" && !f.held.value.empty()) {
                    found = true;
                    QVERIFY2(f.verdict != model::Verdict::Go, f.title.c_str()); // most of it is assumed
                }
        QVERIFY(found);
    }

    void keysOfTheScreenWriteFractionsAndSums() {
        begin();
        press("unit"); // the tape is in inches
        for (const char* key : {"key_1", "key_8", "key_1/2", "key_+", "key_3", "rub", "key_1/4"}) press(key);
        QCOMPARE(tape()->line()->text(), QStringLiteral("18 1/2 + 1/4"));
        press("take");
        QCOMPARE(asked(), std::string("rail_gap"));
        QVERIFY(std::abs(value("firewall_x").value - 18.75 * 25.4) < 1e-9);
        press("back");
        QCOMPARE(asked(), std::string("firewall_x"));
        QCOMPARE(tape()->line()->text(), QStringLiteral("18 3/4 in"));
        // Passed by, it is not read anew.
        const int steps = session().history().count();
        press("take");
        QCOMPARE(session().history().count(), steps);
        QVERIFY(std::abs(value("firewall_x").value - 18.75 * 25.4) < 1e-9);
        // How true the tape is goes with the answer.
        press("tape");
        reads("30");
        const model::Body* rail = nullptr;
        for (const model::Body& body : project().vehicle->bodies)
            if (body.tape.entry == "rail-left") rail = &body;
        QVERIFY(rail);
        QCOMPARE(*model::findReading(rail->tape, "inner", 1)->accuracy_mm, 2.5); // ±5, and half of it to each side
    }

    void whatLooksWrongIsAskedOnceMoreAndNothingMoves() {
        begin();
        reads("5 1/2");
        QCOMPARE(asked(), std::string("firewall_x"));
        QVERIFY2(tape()->saidUnder().contains("inches?"), qPrintable(tape()->saidUnder()));
        QCOMPARE(tape()->line()->text(), QStringLiteral("5 1/2")); // what was typed stays
        QVERIFY(!value("firewall_x").answered);
        tape()->line()->selectAll();
        reads("46"); // a centimetre tape
        QVERIFY2(tape()->saidUnder().contains("far from usual"), qPrintable(tape()->saidUnder()));
        QVERIFY(tape()->key("take")->text().startsWith("Yes"));
        QVERIFY(!value("firewall_x").answered);
        QTest::keyClick(tape()->line(), Qt::Key_Return); // it is so
        QCOMPARE(value("firewall_x").value, 46.0);
        tape()->ask("cross_front");
        reads("80");
        reads("-200"); // its rear would be ahead of its front: in the usual room, and still it cannot be
        QVERIFY2(tape()->saidUnder().contains("rear face"), qPrintable(tape()->saidUnder()));
        QCOMPARE(asked(), std::string("cross_rear"));
        QVERIFY(!value("cross_rear").answered);
        tape()->line()->selectAll();
        QTest::keyClicks(tape()->line(), "6");
        QVERIFY2(tape()->saidUnder().contains("Usual here"), qPrintable(tape()->saidUnder())); // gone with the next key
        tape()->line()->selectAll();
        reads("half a metre");
        QVERIFY(tape()->saidUnder().contains("half a metre"));
        tape()->line()->clear();
        QTest::keyClick(tape()->line(), Qt::Key_Return);
        QVERIFY2(tape()->saidUnder().contains("Cannot reach"), qPrintable(tape()->saidUnder()));
        press("skip");
        QCOMPARE(asked(), std::string("cross_top"));
        QTest::keyClick(tape()->line(), Qt::Key_Escape);
        QTRY_VERIFY(window_->stage<SurveyStage>()->guided()->isVisible());
        QVERIFY(window_->rail()->isVisible());
        // Where it was left open it goes on.
        window_->stage<SurveyStage>()->showTapeMode();
        QTRY_COMPARE(asked(), std::string("rail_gap"));
    }

    void everyReadingHasItsQuestionItsUsualSizeAndItsArrow() {
        begin();
        for (const model::SurveyEntryRule* entry : store::firstSurvey().oneByOne()) {
            QVERIFY2(!entry->ask.empty() && entry->ask.back() == '?', entry->id.c_str());
            QVERIFY2(!entry->how.empty() && entry->usual_most > entry->usual_least, entry->id.c_str());
            // What is assumed from the usual sizes is usual itself.
            const double assumed = model::surveyValue(project(), store::firstSurvey(), entry->id).value;
            QVERIFY2(!model::farFromUsual(project(), store::firstSurvey(), *entry, assumed), entry->id.c_str());
            tape()->ask(entry->id);
            if (entry->is_mass) continue;
            const auto& arrows = tape()->drawing()->arrows();
            QVERIFY2(std::any_of(arrows.begin(), arrows.end(), [](const SurveyArrow& a) { return a.active; }),
                     entry->id.c_str());
        }
    }
};

GABARIT_WINDOW_SUITE(TapeModeTest)
#include "tape_mode_test.moc"
