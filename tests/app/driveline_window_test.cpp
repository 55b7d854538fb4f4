// The driveline in the window: made, edited, cured, read round the clock, and listened to.
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "forms/tones.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "kit/instrument.h"
#include "stages/driveline/driveline_stage.h"
#include "stages/driveline/reading_bar.h"
#include "stages/rules/rules_stage.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/gauge_strip.h"

#include <QCheckBox>
#include <QFile>
#include <QLabel>
#include <QListWidget>
#include <QProcess>
#include <QSpinBox>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>

#include <pty.h>
#include <unistd.h>

using namespace gabarit;
using namespace gabarit::app;

class DrivelineWindowTest : public QObject, tests::WindowHand {
    Q_OBJECT

    DrivelineStage* stage() { return window_->stage<DrivelineStage>(); }
    const model::Driveline& driveline() { return *project().sections.get<model::Driveline>(); }
    const driveline::LineReport& line(std::size_t i = 0) {
        return session().reports()->of<driveline::DrivelineReport>()->lines[i];
    }
    void act(const char* name) {
        auto* action = stage()->findChild<QAction*>(QString::fromLatin1(name));
        QVERIFY2(action, name);
        action->trigger();
        settle();
    }
    QPushButton* help(int n) { return stage()->findChild<QPushButton*>(QStringLiteral("cure:%1").arg(n)); }
    void openBench() {
        QVERIFY(window_->open(QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/shaft-bench.gabarit")));
        settle();
        window_->goToStage(QStringLiteral("driveline"));
    }

private slots:
    void init() { openWindow(); }
    void cleanup() { window_.reset(); }

    void anEmptyProjectGetsALine() {
        session().newProject();
        window_->goToStage(QStringLiteral("driveline"));
        settle();
        QCOMPARE(stage()->list()->count(), 0);
        act("new_line");
        QCOMPARE(driveline().lines.size(), std::size_t(1));
        QCOMPARE(stage()->key(), QStringLiteral("line:rear-shaft"));
        QVERIFY(line().usable);
        QCOMPARE(session().history().undoText(), QStringLiteral("add to the driveline"));
        // What the tape and the gauge say goes in; the figures follow.
        const double before = line().joints[0].angle_deg;
        type(stage()->form(), "from_down_deg", QStringLiteral("3"));
        settle();
        QCOMPARE(driveline().lines[0].from.down_deg, 3.0);
        QVERIFY(std::abs(line().joints[0].angle_deg - before) > 0.1);
        type(stage()->form(), "shaft1_closed_mm", QStringLiteral("42 1/2 in"));
        settle();
        QCOMPARE(*driveline().lines[0].shafts[0].closed_mm, 42.5 * 25.4);
        pick(stage()->form(), "joints", QStringLiteral("3 joints"));
        settle();
        QCOMPARE(driveline().lines[0].joints.size(), std::size_t(3));
        QCOMPARE(driveline().lines[0].bearings.size(), std::size_t(1));
        QVERIFY(line().usable);
        pick(stage()->form(), "path_motion", QStringLiteral("an axle, given here"));
        type(stage()->form(), "path_bump_mm", QStringLiteral("90"));
        pick(stage()->form(), "path_led", QStringLiteral("leaf springs"));
        settle();
        QCOMPARE(driveline().lines[0].path.links.size(), std::size_t(1));
        while (session().history().canUndo()) session().history().undo();
        QVERIFY(!project().sections.get<model::Driveline>());
        session().history().redo();
        settle();
        QCOMPARE(driveline().lines.size(), std::size_t(1));
        press(stage()->findChild<QPushButton*>(QStringLiteral("delete")));
        QVERIFY(driveline().lines.empty());
    }
    void everyFigureFollowsANudge() {
        QVERIFY(window_->openDemo());
        settle();
        window_->goToStage(QStringLiteral("driveline"));
        const double angle = line().joints[0].angle_deg, length = line().slips[0].ride_mm;
        session().nudge({10, 0, -15});
        settle();
        QVERIFY(line().joints[0].angle_deg < angle - 0.5);
        QVERIFY(std::abs(line().slips[0].ride_mm - (length - 10)) < 3);
        // The table shows what the report says.
        QVERIFY(stage()->checks()->item(0, 1)->text().startsWith(
            QString::fromStdString(quantity::angleText(line().joints[0].angle_deg, 2))));
    }
    void curesAreTriedAndUndone() {
        QVERIFY(window_->openDemo());
        settle();
        window_->goToStage(QStringLiteral("driveline"));
        stage()->choose(QStringLiteral("line:rear"));
        const double z = placement().position_mm.z();
        QVERIFY(line().cures[0].kind == driveline::Cure::Kind::UnitHeight);
        press(help(0));
        settle();
        QVERIFY(std::abs(placement().position_mm.z() - (z - 15)) < 1e-9);
        for (const driveline::Check& check : line().checks)
            if (check.id.find("/running") != std::string::npos) QVERIFY(check.verdict != model::Verdict::NoGo);
        QVERIFY(session().history().undoText().startsWith(QStringLiteral("The unit 15 mm down")));
        session().history().undo();
        settle();
        QCOMPARE(placement().position_mm.z(), z);
        // The old shaft kept: the unit goes where it reaches.
        const double x = placement().position_mm.x();
        press(stage()->findChild<QPushButton*>(QStringLiteral("keep:0")));
        settle();
        QVERIFY(placement().position_mm.x() > x + 40);
        for (const driveline::Check& check : line().checks)
            if (check.id.find("/engaged") != std::string::npos) QVERIFY(check.verdict != model::Verdict::NoGo);
        session().history().undo();
        settle();
        // A fork put on wrong: the phase is the first cure.
        type(stage()->form(), "shaft1_phase_deg", QStringLiteral("40"));
        settle();
        int phase = -1;
        for (std::size_t i = 0; i < line().cures.size(); ++i)
            if (line().cures[i].kind == driveline::Cure::Kind::Phase) phase = static_cast<int>(i);
        QVERIFY(phase >= 0);
        const double residual = line().turn.residual_per_s2;
        press(help(phase));
        settle();
        QVERIFY(line().turn.residual_per_s2 < residual / 5);
        // A tail cure moves the placement about its front mounts.
        for (std::size_t i = 0; i < line().cures.size(); ++i)
            if (line().cures[i].kind == driveline::Cure::Kind::UnitTail) {
                const double pitch = placement().angles.pitch_deg;
                const double by = line().cures[i].amount_deg;
                press(help(static_cast<int>(i)));
                settle();
                QVERIFY(std::abs(placement().angles.pitch_deg - (pitch - by)) < 1e-9);
                break;
            }
    }
    void gaugesAndFindingsLeadThere() {
        QVERIFY(window_->openDemo(2));
        settle();
        leadFromGlance("driveline:left/");
        QVERIFY(stage()->isVisible());
        QCOMPARE(stage()->key(), QStringLiteral("line:left"));
        QVERIFY(stage()->words().contains(QStringLiteral("towards the wheel")));
        for (QLabel* label : stage()->findChildren<QLabel*>())
            if (label->text().contains(QStringLiteral("High voltage"))) return;
        QFAIL("no caution about high voltage at the electric unit");
    }
    void readingsAreTypedRoundTheClock() {
        openBench();
        stage()->choose(QStringLiteral("coupling:disc"));
        press(stage()->findChild<QPushButton*>(QStringLiteral("new_try")));
        settle();
        QCOMPARE(driveline().couplings[0].tries.size(), std::size_t(3));
        auto* typed = stage()->bar()->findChild<QLineEdit*>(QStringLiteral("typed"));
        auto* clock = stage()->bar()->findChild<QSpinBox*>(QStringLiteral("clock"));
        auto* turn = stage()->bar()->findChild<QSpinBox*>(QStringLiteral("turn"));
        QVERIFY(typed && clock && turn);
        // A skew of 1 mm on 50, open at three o'clock, and a runout of 0.3.
        for (int t = 0; t < 2; ++t)
            for (int c = 0; c < 8; ++c) {
                QCOMPARE(clock->value(), 45 * c);
                QCOMPARE(turn->value(), 90 * t);
                const double phi = c * M_PI / 4, psi = phi - t * M_PI / 2;
                typed->setFocus();
                QTest::keyClicks(typed, QString::number(14 + 1.0 * std::sin(phi) + 0.3 * std::cos(psi), 'f', 4));
                QTest::keyClick(typed, Qt::Key_Return);
            }
        settle();
        const model::CouplingTry& last = driveline().couplings[0].tries.back();
        QCOMPARE(last.readings.size(), std::size_t(16));
        QVERIFY(!last.readings.back().time.empty());
        const driveline::CouplingTryReport& report =
            session().reports()->of<driveline::DrivelineReport>()->couplings[0].tries.back();
        QVERIFY(report.face.separated);
        QVERIFY(std::abs(*report.tilt_deg - std::atan(0.02) * 180 / M_PI) < 0.005);
        QVERIFY(std::abs(report.open_clock_deg - 90) < 0.5);
        QVERIFY(stage()->words().contains(QStringLiteral("gearbox mount")));
        // What cannot be read is told and changes nothing; each reading is a step of undo.
        QTest::keyClicks(typed, QStringLiteral("abc"));
        QTest::keyClick(typed, Qt::Key_Return);
        QCOMPARE(driveline().couplings[0].tries.back().readings.size(), std::size_t(16));
        session().history().undo();
        QCOMPARE(driveline().couplings[0].tries.back().readings.size(), std::size_t(15));
    }
    void anInstrumentIsListenedTo() {
        openBench();
        QTemporaryDir folder;
        const QString link = folder.filePath(QStringLiteral("gauge"));
        QProcess gauge;
        gauge.start(QStringLiteral(GABARIT_BIN_DIR "/gabarit-gauge"),
                    {QStringLiteral("--kind"), QStringLiteral("angle"), QStringLiteral("--value"),
                     QStringLiteral("3.4"), QStringLiteral("--noise"), QStringLiteral("0.02"), QStringLiteral("--rate"),
                     QStringLiteral("50"), QStringLiteral("--dropout"), QStringLiteral("0.2"), QStringLiteral("--link"),
                     link});
        QVERIFY(gauge.waitForReadyRead(10000)); // it has printed its path
        act("new_reading");
        QVERIFY(stage()->key().startsWith(QStringLiteral("reading:")));
        ReadingBar* bar = stage()->bar();
        auto* path = bar->findChild<QLineEdit*>(QStringLiteral("line"));
        auto* take = bar->findChild<QPushButton*>(QStringLiteral("take"));
        path->setText(link);
        press(bar->findChild<QPushButton*>(QStringLiteral("listen")));
        QTRY_VERIFY_WITH_TIMEOUT(bar->instrument().taken().ok(), 10000);
        // What stands beside the button is what it takes.
        auto* heard = bar->findChild<QLabel*>(QStringLiteral("heard"));
        for (int i = 0; i < 10; ++i) {
            QTest::qWait(60);
            if (!bar->instrument().taken()) continue;
            const QString shown = heard->text();
            press(take);
            QCOMPARE(QString::fromStdString(quantity::angleText(driveline().readings.back().reading_deg, 2)), shown);
        }
        const model::AngleReading& reading = driveline().readings.back();
        QVERIFY2(std::abs(reading.reading_deg - 3.4) < 0.1, qPrintable(QString::number(reading.reading_deg)));
        QCOMPARE(QString::fromStdString(reading.device), link);
        QVERIFY(!reading.time.empty());
        // An angle is no gap.
        stage()->choose(QStringLiteral("coupling:disc"));
        const std::size_t readings = driveline().couplings[0].tries.back().readings.size();
        press(take);
        QCOMPARE(driveline().couplings[0].tries.back().readings.size(), readings);
        // It is pulled out: said once, and the window goes on.
        QSignalSpy lost(&bar->instrument(), &Instrument::lost);
        gauge.terminate();
        QVERIFY(gauge.waitForFinished(10000));
        QTRY_COMPARE_WITH_TIMEOUT(lost.count(), 1, 10000);
        QVERIFY(!bar->instrument().listening());
        path->setText(folder.filePath(QStringLiteral("nothing")));
        press(bar->findChild<QPushButton*>(QStringLiteral("listen")));
        QCOMPARE(lost.count(), 2);
    }
    /// What was heard before a silence is no part of a reading: the thing was held elsewhere then.
    void readingsBeforeASilenceDoNotCount() {
        openBench();
        act("new_reading");
        int line = -1, far = -1;
        char name[64];
        QVERIFY(::openpty(&line, &far, name, nullptr, nullptr) == 0);
        ReadingBar* bar = stage()->bar();
        bar->findChild<QLineEdit*>(QStringLiteral("line"))->setText(QString::fromLatin1(name));
        press(bar->findChild<QPushButton*>(QStringLiteral("listen")));
        QVERIFY(bar->instrument().listening());
        auto* heard = bar->findChild<QLabel*>(QStringLiteral("heard"));
        const auto say = [line](const char* words) {
            const std::string text = std::string(words) + "\n";
            QCOMPARE(::write(line, text.data(), text.size()), static_cast<ssize_t>(text.size()));
        };
        for (int i = 0; i < 5; ++i) say("angle 9.00 deg");
        QTRY_COMPARE(heard->text(), QStringLiteral("9.00°"));
        QTRY_COMPARE_WITH_TIMEOUT(heard->text(), QStringLiteral("silent"), 10000);
        say("angle 3.00 deg");
        QTRY_VERIFY(heard->text().contains(QStringLiteral("settling")));
        QVERIFY(!bar->instrument().taken());
        for (int i = 0; i < 4; ++i) say("angle 3.00 deg");
        QTRY_COMPARE(heard->text(), QStringLiteral("3.00°"));
        press(bar->findChild<QPushButton*>(QStringLiteral("take")));
        QCOMPARE(driveline().readings.back().reading_deg, 3.0);
        ::close(line);
        ::close(far);
    }
    void aGaugesAngleIsTaken() {
        openBench();
        act("new_reading");
        pick(stage()->form(), "line", QString::fromStdString(driveline().lines[0].name));
        stage()->form()->findChild<QCheckBox*>(QStringLiteral("at_far_end"))->click();
        type(stage()->form(), "reading_deg", QStringLiteral("4.25"));
        settle();
        QVERIFY(stage()->words().contains(QStringLiteral("Relative only")));
        QVERIFY(!stage()->findChild<QPushButton*>(QStringLiteral("take_angle"))); // without the slope nothing is known
        type(stage()->form(), "slope_deg", QStringLiteral("0.5"));
        settle();
        const double before = driveline().lines[0].to.down_deg;
        press(stage()->findChild<QPushButton*>(QStringLiteral("take_angle")));
        settle();
        QVERIFY(std::abs(*session().reports()->of<driveline::DrivelineReport>()->angles.back().apart_deg) < 1e-5);
        QVERIFY2(std::abs(driveline().lines[0].to.down_deg - 3.75) < 1e-5,
                 qPrintable(QString::number(driveline().lines[0].to.down_deg, 'g', 9)));
        QVERIFY(!stage()->findChild<QPushButton*>(QStringLiteral("take_angle"))); // done: nothing left to take
        session().history().undo();
        QCOMPARE(driveline().lines[0].to.down_deg, before);
    }
    void wedgesStandBesideWhatWasMeasured() {
        QVERIFY(window_->openDemo());
        settle();
        window_->goToStage(QStringLiteral("driveline"));
        stage()->choose(QStringLiteral("line:rear"));
        const double angle = line().joints.back().angle_deg, measured = driveline().lines[0].to.down_deg;
        type(stage()->form(), "path_shim_deg", QStringLiteral("2"));
        settle();
        QCOMPARE(driveline().lines[0].path.shim_deg, 2.0);
        QCOMPARE(driveline().lines[0].to.down_deg, measured);
        QVERIFY(std::abs(line().joints.back().angle_deg - angle) > 1.5);
        type(stage()->form(), "path_shim_deg", QStringLiteral("60")); // refused, and what was stays
        QCOMPARE(driveline().lines[0].path.shim_deg, 2.0);
    }
    void itPrints() {
        openBench();
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("driveline.pdf"));
        QVERIFY(window_->print(QStringLiteral("driveline"), path));
        QProcess pages;
        pages.start(QStringLiteral("pdfinfo"), {path});
        QVERIFY(pages.waitForFinished());
        QVERIFY(QString::fromUtf8(pages.readAllStandardOutput())
                    .contains(QRegularExpression(QStringLiteral("Pages:\\s+3"))));
        QProcess text;
        text.start(QStringLiteral("pdftotext"), {QStringLiteral("-layout"), path, QStringLiteral("-")});
        QVERIFY(text.waitForFinished());
        const QString all = QString::fromUtf8(text.readAllStandardOutput());
        for (const char* words : {"Rear shaft: no-go", "Joint behind the bearing", "Seen from behind", "to order",
                                  "Gear 5", "engine off, key out"})
            QVERIFY2(all.contains(QLatin1String(words)), words);
        QVERIFY(!window_->print(QStringLiteral("driveline"), QStringLiteral("/nowhere/x.pdf")));
        session().newProject();
        settle();
        QVERIFY(!window_->print(QStringLiteral("driveline"), path)); // nothing to print: the sheet that is there stays
        QVERIFY(QFile(path).size() > 1000);
    }
    void itsLimitsAreChangedUnderRules() {
        QVERIFY(window_->openDemo());
        settle();
        window_->goToStage(QStringLiteral("rules"));
        window_->stage<RulesStage>()->choose(QStringLiteral("cardan_most_deg"));
        type(window_->stage<RulesStage>()->form(), "value", QStringLiteral("5°"));
        settle();
        QCOMPARE(project().rules.figures.back().id, std::string("cardan_most_deg"));
        QCOMPARE(project().rules.figures.back().value, 5.0);
        for (const driveline::Check& check : line().checks)
            if (check.id.find("/running") != std::string::npos) QCOMPARE(check.verdict, model::Verdict::Go);
        // A rate ends in "per mm" and is no length: in inches a bare number stays what it is.
        session().setShown(quantity::Shown::Inches);
        window_->stage<RulesStage>()->choose(QStringLiteral("stop_rate_n_per_mm"));
        type(window_->stage<RulesStage>()->form(), "value", QStringLiteral("5000"));
        settle();
        QCOMPARE(project().rules.figures.back().id, std::string("stop_rate_n_per_mm"));
        QCOMPARE(project().rules.figures.back().value, 5000.0);
        session().setShown(quantity::Shown::Millimetres);
        window_->stage<RulesStage>()->choose(QStringLiteral("critical_most"));
        type(window_->stage<RulesStage>()->form(), "value", QStringLiteral("0.35")); // a bare share
        settle();
        bool found = false;
        for (const driveline::Check& check : line().checks)
            if (check.id.find("/critical") != std::string::npos) {
                QCOMPARE(check.verdict, model::Verdict::NoGo); // 39 %
                found = true;
            }
        QVERIFY(found);
    }
    void theGearingIsEdited() {
        openBench();
        stage()->choose(QStringLiteral("gearing"));
        type(stage()->form(), "tyre", QStringLiteral("205/65R15"));
        settle();
        QVERIFY(std::abs(session().reports()->of<gearing::GearingReport>()->tyre->diameter_mm - 647.5) < 0.01);
        type(stage()->form(), "tyre", QStringLiteral("rubber")); // nothing is reckoned with it, and it is named
        settle();
        const auto named = [](const study::Finding& f) {
            return f.id == "gearing:asked" && f.verdict == model::Verdict::Unknown &&
                   f.detail.find("\"rubber\" cannot") != std::string::npos;
        };
        const auto& findings = session().reports()->findings;
        QVERIFY(std::any_of(findings.begin(), findings.end(), named));
        session().history().undo();
        QCOMPARE(project().sections.get<model::Gearing>()->tyre, std::string("205/65R15"));
        type(stage()->form(), "final_drive", QStringLiteral("4.1"));
        settle();
        QCOMPARE(*project().sections.get<model::Gearing>()->final_drive, 4.1);
        session().history().undo();
        QCOMPARE(*project().sections.get<model::Gearing>()->final_drive, 3.54);
        // In miles: a bare number is one, and what is shown is one.
        session().setShown(quantity::Shown::Inches);
        settle();
        type(stage()->form(), "cruise_kmh", QStringLiteral("65"));
        settle();
        QVERIFY(std::abs(*project().sections.get<model::Gearing>()->cruise_kmh - 104.60736) < 1e-9);
        QVERIFY(stage()->checks()->item(0, 1)->text().endsWith(QStringLiteral(" mph")));
        type(stage()->form(), "cruise_kmh", QStringLiteral("100 km/h"));
        QCOMPARE(*project().sections.get<model::Gearing>()->cruise_kmh, 100.0);
    }
};

GABARIT_WINDOW_SUITE(DrivelineWindowTest)
#include "driveline_window_test.moc"
