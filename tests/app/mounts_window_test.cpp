// The mounts in the window: shown, swung, changed in one step, made into metal, signed, mirrored, printed.
#include "bay/bay.h"
#include "fit/fit_report.h"
#include "forms/tones.h"
#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "stages/mounts/mounts_stage.h"
#include "stages/mounts/mounts_view.h"
#include "stages/survey/survey_stage.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/gauge_strip.h"

#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QScrollArea>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>

#include <set>

using namespace gabarit;
using namespace gabarit::app;

class MountsWindowTest : public QObject, tests::WindowHand {
    Q_OBJECT

    MountsStage* stage() { return window_->stage<MountsStage>(); }
    const model::Mounts& mounts() { return *project().sections.get<model::Mounts>(); }
    const mounts::MountsReport& report() { return *session().reports()->of<mounts::MountsReport>(); }
    QPushButton* button(const char* name) {
        // What goes with the next turn of the loop is hidden already.
        for (QPushButton* b : stage()->findChildren<QPushButton*>(QString::fromLatin1(name)))
            if (b->isVisibleTo(stage())) return b;
        return nullptr;
    }
    void pressNamed(const char* name) {
        QTRY_VERIFY2(button(name), name); // it is shown with the next turn of the loop
        press(button(name));
    }
    void act(const char* name) {
        auto* action = stage()->findChild<QAction*>(QString::fromLatin1(name));
        QVERIFY2(action, name);
        action->trigger();
        settle();
    }
    void choose(const char* key) {
        stage()->choose(QString::fromLatin1(key));
        QCOMPARE(stage()->key(), QString::fromLatin1(key));
        QCoreApplication::processEvents();
    }
    void look(const QString& what) {
        const int row = stage()->look()->findData(what);
        QVERIFY2(row >= 0, qPrintable(what));
        stage()->look()->setCurrentIndex(row);
    }
    double roll_hz() {
        for (const mounts::Mode& mode : *report().modes)
            if (mode.of == mounts::ModeOf::Roll) return mode.frequency_hz;
        return 0;
    }
    bool found(const char* part) {
        for (const auto& f : session().reports()->findings)
            if (f.title.find(part) != std::string::npos) return true;
        return false;
    }
    void openDemo(int which = 0) {
        QVERIFY(window_->openDemo(which));
        settle();
        window_->goToStage(QStringLiteral("mounts"));
        settle();
    }

private slots:
    void init() { openWindow(); }
    void cleanup() { window_.reset(); }

    void fromSoftToFirmInOneStep() {
        openDemo();
        session().usePlacement({"second-try"});
        settle();
        choose("unit");
        pick(stage()->form(), "engine_isolator", QStringLiteral("Captive wedge, soft"));
        settle();
        const double soft_hz = roll_hz(), soft_deg = report().rocking->roll_deg;
        const int steps = session().history().index();
        QVERIFY(found("Turbo turbine comes close to the steering shaft"));
        pick(stage()->form(), "engine_isolator", QStringLiteral("Captive wedge, firm"));
        settle();
        QCOMPARE(session().history().index(), steps + 1);
        QCOMPARE(mounts().mounts[0].isolator, std::string("wedge-firm"));
        QCOMPARE(mounts().mounts[1].isolator, std::string("wedge-firm"));
        QCOMPARE(mounts().mounts[2].isolator, std::string("saddle-low")); // the gearbox's stays
        QVERIFY(roll_hz() > soft_hz * 1.3);
        QVERIFY(report().rocking->roll_deg < soft_deg * 0.7);
        QVERIFY(!found("Turbo turbine comes close to the steering shaft")); // the gap is let go
        session().history().undo();
        settle();
        QCOMPARE(roll_hz(), soft_hz);
        QVERIFY(found("Turbo turbine comes close to the steering shaft"));
    }
    /// The rubber's axis as a protractor tells it.
    void aRubberLeansAsItIsTyped() {
        openDemo();
        choose("mount:left"); // it leans 35° in
        QVERIFY(std::abs(mounts().mounts[0].axis->y() - 0.573576) < 1e-6);
        type(stage()->form(), "outward", QStringLiteral("20"));
        settle();
        QVERIFY(std::abs(mounts().mounts[0].axis->y() + std::sin(20 * M_PI / 180)) < 1e-9); // it sits on the left
        type(stage()->form(), "forward", QStringLiteral("10"));
        settle();
        QVERIFY(std::abs(mounts().mounts[0].axis->x() + std::sin(10 * M_PI / 180)) < 1e-9);
        type(stage()->form(), "outward", QString()); // as its stand points
        settle();
        QVERIFY(!mounts().mounts[0].axis);
    }
    void loadsAndShakingAreShown() {
        openDemo();
        choose("mount:right");
        look(QStringLiteral("case:bump"));
        QVERIFY(stage()->view()->note().contains(QStringLiteral("3.00 g more down")));
        QVERIFY(!button("play")->isEnabled());
        look(QStringLiteral("case:drive-torque-forward"));
        QVERIFY(stage()->view()->note().contains(QStringLiteral("times as far as it goes")));
        look(QStringLiteral("mode:1"));
        QVERIFY(stage()->view()->note().contains(QStringLiteral("far larger than it is")));
        const QImage still = stage()->view()->grab().toImage();
        pressNamed("play");
        QVERIFY(stage()->view()->playing());
        QTRY_VERIFY(stage()->view()->grab().toImage() != still); // it swings
        window_->goToStage(QStringLiteral("place"));             // nothing runs that is not seen
        QVERIFY(!stage()->view()->playing());
    }
    void whereMassesAreMissingTheMountsAreDrawn() {
        openDemo();
        model::Project without = project();
        for (model::Donor& donor : without.donors) donor.masses.clear();
        session().change(QStringLiteral("without masses"), std::move(without));
        settle();
        choose("mount:left");
        QVERIFY(!report().usable);
        QCOMPARE(report().mounts.size(), mounts().mounts.size());
        QVERIFY2(stage()->view()->note().contains(QStringLiteral("No loads")), qPrintable(stage()->view()->note()));
        QVERIFY2(!stage()->words().contains(QStringLiteral("not known")), qPrintable(stage()->words()));
        const QImage drawn = stage()->view()->grab().toImage();
        std::set<QRgb> tones;
        for (int x = 0; x < drawn.width(); ++x) tones.insert(drawn.pixel(x, drawn.height() / 4));
        QVERIFY2(tones.size() > 4, "only words are drawn");
        pressNamed("masses");
        QCOMPARE(window_->shownId(), QStringLiteral("survey"));
        QCOMPARE(window_->stage<SurveyStage>()->owner()->currentData().toString().toStdString(),
                 project().donors[0].id.text);
    }
    void aBracketIsMade() {
        openDemo();
        choose("mount:left");
        const std::size_t bodies = model::activeDonor(project())->bodies.size(),
                          parts = project().sections.get<model::Parts>()->size();
        pressNamed("make_bracket");
        QTRY_VERIFY_WITH_TIMEOUT(mounts().mounts[0].bracket && !mounts().mounts[0].bracket->bodies.empty(),
                                 tests::patience_ms);
        settle();
        const std::size_t pieces = mounts().mounts[0].bracket->bodies.size();
        QVERIFY(pieces >= 3); // two plates, the arm, and gussets where there is a corner to fill
        QCOMPARE(model::activeDonor(project())->bodies.size(), bodies + pieces);
        QCOMPARE(project().sections.get<model::Parts>()->size(), parts + 1);
        QCOMPARE(session().history().undoText(), QStringLiteral("make the bracket"));
        bool checked = false; // its bodies are measured against the frame
        for (const auto& pair : session().reports()->with<fit::FitReport>().clearance->pairs)
            checked = checked || pair.name_a.rfind("Left engine mount bracket", 0) == 0;
        QVERIFY(checked);
        QVERIFY(*report().brackets[0].off_mm < 1e-6);
        pressNamed("drop_bracket");
        settle();
        QCOMPARE(model::activeDonor(project())->bodies.size(), bodies);
        session().history().undo();
        session().history().undo();
        QCOMPARE(project().sections.get<model::Parts>()->size(), parts);
        QVERIFY(mounts().mounts[0].bracket); // its sizes are as they were
    }
    void stepsAreSigned() {
        openDemo();
        choose("mount:left");
        stage()->findChild<QLineEdit*>(QStringLiteral("who"))->setText(QStringLiteral("R. Oake"));
        QVERIFY(!button("sign:1")); // one after the other
        pressNamed("sign:0");
        settle();
        QCOMPARE(mounts().mounts[0].holds.at(0).who, std::string("R. Oake"));
        pressNamed("sign:1");
        settle();
        // A nudge later everything is open again, and says why.
        session().nudge({0, 0, 2});
        settle();
        choose("mount:left");
        QTRY_VERIFY(button("sign:0"));
        QStringList said;
        for (QLabel* label : stage()->findChildren<QLabel*>())
            if (label->isVisibleTo(stage())) said << label->text();
        QVERIFY(said.join(QLatin1Char('\n')).contains(QStringLiteral("where the unit hangs has changed since")));
    }
    void betterMountsAreLookedForAndTaken() {
        openDemo();
        choose("unit");
        pressNamed("tune_mounts");
        QTRY_VERIFY_WITH_TIMEOUT(button("answer:0"), tests::patience_ms);
        const int steps = session().history().index();
        const auto before = mounts().mounts;
        pressNamed("answer:0");
        settle();
        QCOMPARE(session().history().index(), steps + 1);
        bool changed = false;
        for (std::size_t i = 0; i < before.size(); ++i)
            changed = changed || before[i].isolator != mounts().mounts[i].isolator ||
                      before[i].axis != mounts().mounts[i].axis || before[i].centre_mm != mounts().mounts[i].centre_mm;
        QVERIFY(changed);
        QVERIFY(!button("answer:0")); // they were for the mounts before
    }
    void closingTheWindowEndsTheSearch() {
        openDemo();
        choose("unit");
        pressNamed("tune_mounts");
        window_.reset(); // at once
        openWindow();
    }
    void theCrossmemberIsBolted() {
        openDemo();
        choose("crossmember:gearbox-crossmember");
        QVERIFY(stage()->words().contains(QStringLiteral("Nearest holes: 4 on the passenger's side")));
        QVERIFY(stage()->checks()->rowCount() >= 4);
        pressNamed("bolt_there");
        settle();
        QVERIFY(std::abs(mounts().mounts[2].stand->at_mm.x() - report().crossmembers[0].seat_mm.x()) < 1e-9);
    }
    void oldMountsUntilGo() {
        openDemo();
        choose("old:old-left-mount");
        QVERIFY(!button("gone"));
        pressNamed("plan");
        settle();
        pressNamed("take_back");
        settle();
        QCOMPARE(mounts().old_mounts[0].state, model::OldState::Stays);
        pressNamed("plan");
        settle();
        pressNamed("gone");
        settle();
        QCOMPARE(mounts().old_mounts[0].state, model::OldState::Gone);
        QVERIFY(!button("take_back"));
    }
    void anotherWayOfMakingIt() {
        openDemo();
        choose("mount:left");
        QVERIFY(button("option:0")->toolTip().contains(QStringLiteral("95 more")));
        pressNamed("option:0");
        settle();
        QCOMPARE(mounts().mounts[0].made, model::MountMade::Adapter);
    }
    void fromNothing() {
        session().newProject();
        window_->goToStage(QStringLiteral("mounts"));
        settle();
        QCOMPARE(stage()->list()->count(), 0);
        for (const char* kind :
             {"new_mount", "new_crossmember", "new_row", "new_seat", "new_frame", "new_old", "new_isolator"})
            act(kind);
        QCOMPARE(stage()->list()->count(), 8); // and the unit
        QCOMPARE(stage()->key(), QStringLiteral("isolator:own-isolator"));
        type(stage()->form(), "axial_n_per_mm", QStringLiteral("310"));
        QCOMPARE(mounts().isolators[0].axial_n_per_mm, 310.0);
        choose("row:row-of-holes");
        type(stage()->form(), "count", QStringLiteral("5"));
        QCOMPARE(mounts().rows[0].count, 5.0);
        choose("mount:mount");
        pick(stage()->form(), "isolator", QStringLiteral("Own isolator"));
        QCOMPARE(mounts().mounts[0].isolator, std::string("own-isolator"));
        settle();
        for (const char* key : {"mount:mount", "crossmember:gearbox-crossmember", "row:row-of-holes", "seat:old-seat",
                                "frame:frame-on-seats", "old:old-mount", "isolator:own-isolator"}) {
            choose(key);
            press(stage()->findChild<QPushButton*>(QStringLiteral("delete")));
            settle();
        }
        QCOMPARE(stage()->list()->count(), 1);
        while (session().history().canUndo()) session().history().undo();
        QVERIFY(!project().sections.get<model::Mounts>());
    }
    void aMountOnEachFreePointAndItsImage() {
        openDemo(2);
        const std::size_t before = mounts().mounts.size();
        choose("mount:left");
        press(stage()->findChild<QPushButton*>(QStringLiteral("mirror")));
        settle();
        QCOMPARE(mounts().mounts.size(), before + 1);
        QVERIFY(stage()->key().startsWith(QLatin1String("mount:")));
        QVERIFY(std::abs(mounts().mounts.back().centre_mm->y() + mounts().mounts[0].centre_mm->y()) < 1e-9);
    }
    void theFrameOnItsSeats() {
        openDemo(2);
        choose("frame:frame");
        QVERIFY(stage()->words().contains(QStringLiteral("Old rear seat")));
        const std::size_t bodies = project().vehicle->bodies.size();
        pressNamed("make_frame");
        settle();
        QCOMPARE(project().vehicle->bodies.size(), bodies + 9); // each straight piece
        QCOMPARE(mounts().frames[0].bodies.size(), std::size_t(9));
    }
    void theGaugeLeadsThere() {
        openDemo();
        window_->goToStage(QStringLiteral("place"));
        leadFromGlance("mounts:gearbox-crossmember/");
        QVERIFY(stage()->isVisible());
        QCOMPARE(stage()->key(), QStringLiteral("crossmember:gearbox-crossmember"));
    }
    /// In a small window the page scrolls as one; grown again, what stands below the drawing scrolls by itself.
    void theWindowGrowsAndShrinks() {
        openDemo();
        const auto below = [this] { // what the checks scroll in, of their own
            for (QWidget* its = stage()->checks()->parentWidget(); its && its != stage(); its = its->parentWidget())
                if (qobject_cast<QScrollArea*>(its)) return true;
            return false;
        };
        for (int round = 0; round < 2; ++round) {
            window_->resize(1280, 800);
            QTRY_VERIFY(below());
            QVERIFY(stage()->checks()->isVisibleTo(stage()));
            window_->resize(853, 533);
            QTRY_VERIFY(!below());
            QVERIFY(stage()->checks()->isVisibleTo(stage()));
        }
        choose("mount:left"); // closed while something is to be pointed at
        QTest::mouseClick(stage()->findChild<QPushButton*>(QStringLiteral("point_pad_point")), Qt::LeftButton);
        QVERIFY(stage()->findChild<Bay*>());
        window_.reset();
    }
    /// A pad's place is one of the donor's points, clicked in the bay: it stands in the drawing's place meanwhile.
    void aPadsPlaceIsPointedAt() {
        openDemo();
        choose("mount:left");
        QVERIFY(!stage()->findChild<Bay*>());
        auto* point = stage()->findChild<QPushButton*>(QStringLiteral("point_pad_point"));
        QVERIFY(point);
        stage()->form()->ensureWidgetVisible(point);
        QTest::mouseClick(point, Qt::LeftButton);
        auto* bay = stage()->findChild<Bay*>();
        QVERIFY(bay && bay->isVisible() && !stage()->findChild<MountsView*>()->isVisible());
        const auto hung = [this](const char* id) -> Eigen::Vector3d {
            for (const model::HardPoint& its : project().donors[0].reference_points)
                if (its.id.text == id)
                    return model::poseVehicleDonor(*model::activePlacement(project()), project().donors[0]) * its.at_mm;
            return Eigen::Vector3d::Zero();
        };
        const auto click = [bay](const Eigen::Vector3d& at_vehicle_mm) {
            auto* plan = bay->view(Elevation::Plan);
            QTest::mouseClick(plan, Qt::LeftButton, {}, plan->toScreen(at_vehicle_mm).toPoint());
        };
        click(hung("mount-left") + Eigen::Vector3d(0, -400, 0)); // nothing there: it goes on asking
        QVERIFY(stage()->findChild<Bay*>());
        click(hung("mount-left"));
        settle();
        QCOMPARE(mounts().mounts[0].pad.point.text, std::string("mount-left"));
        QTRY_VERIFY(!stage()->findChild<Bay*>());
        QVERIFY(stage()->findChild<MountsView*>()->isVisible());
        // Escape leaves it, and the key does nothing else.
        const int steps = session().history().index();
        point = stage()->findChild<QPushButton*>(QStringLiteral("point_pad_point"));
        QTest::mouseClick(point, Qt::LeftButton);
        QVERIFY(stage()->findChild<Bay*>());
        QTest::keyClick(stage()->form(), Qt::Key_Escape);
        QTRY_VERIFY(!stage()->findChild<Bay*>());
        QVERIFY(stage()->isVisible() && session().history().index() == steps);
        // And so does choosing another mount.
        QTest::mouseClick(stage()->findChild<QPushButton*>(QStringLiteral("point_pad_point")), Qt::LeftButton);
        choose("mount:right");
        QTRY_VERIFY(!stage()->findChild<Bay*>());
    }
    /// An old seat that turns out to be on the donor stays where it stands.
    void anOldSeatStaysWhereItStands() {
        openDemo();
        const std::size_t before = mounts().seats.size();
        act("new_seat");
        QCOMPARE(mounts().seats.size(), before + 1);
        choose(("seat:" + mounts().seats.back().id).c_str());
        const Eigen::Vector3d stood = mounts().seats.back().face.at_mm;
        pick(stage()->form(), "face_owner", QStringLiteral("Ostrel Six"));
        settle();
        const model::MountFace& face = mounts().seats.back().face;
        QCOMPARE(face.owner, std::string("ostrel-six"));
        const Eigen::Vector3d stands =
            model::poseVehicleDonor(*model::activePlacement(project()), project().donors[0]) * face.at_mm;
        QVERIFY2((stands - stood).norm() < 1e-6, qPrintable(QString::number((stands - stood).norm())));
    }
    /// Which way a pad faces is said in words and degrees, as the gauge on it reads.
    void aPadFacesInWordsAndDegrees() {
        openDemo();
        choose("mount:left");
        QCOMPARE(stage()->form()->findChild<QComboBox*>(QStringLiteral("pad_out"))->currentText(),
                 QStringLiteral("down"));
        pick(stage()->form(), "pad_out", QStringLiteral("to its left"));
        settle();
        QCOMPARE(mounts().mounts[0].pad.out, Eigen::Vector3d(0, -1, 0));
        type(stage()->form(), "pad_out_lean_1",
             QStringLiteral("30")); // upward: a 3-4-5 gives 36.87, 30° half its length
        settle();
        QVERIFY((mounts().mounts[0].pad.out - Eigen::Vector3d(0, -std::sqrt(0.75), 0.5)).norm() < 1e-9);
        QCOMPARE(stage()->form()->findChild<QLineEdit*>(QStringLiteral("pad_out_lean_1"))->text(),
                 QStringLiteral("30.00°"));
        type(stage()->form(), "pad_out_lean_1", QStringLiteral("a bit"));
        QVERIFY(std::abs(mounts().mounts[0].pad.out.z() - 0.5) < 1e-9);
        session().history().undo();
        session().history().undo();
        QCOMPARE(mounts().mounts[0].pad.out, Eigen::Vector3d(0, 0, -1));
    }
    void theJigSheetIsPrinted() {
        openDemo();
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("jig.pdf"));
        QVERIFY(window_->print(QStringLiteral("jig"), path));
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly) && file.read(5) == "%PDF-");
        QVERIFY(!window_->print(QStringLiteral("jig"), folder.filePath(QStringLiteral("nowhere/jig.pdf"))));
    }
};

GABARIT_WINDOW_SUITE(MountsWindowTest)
#include "mounts_window_test.moc"
