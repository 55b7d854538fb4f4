// A real window, driven as a person does: keys, clicks, text. Every number is compared with the core's own report.
#include "bay/bay.h"
#include "fit/fit_report.h"
#include "fit/words.h"
#include "forms/tones.h"
#include "session/session.h"
#include "stages/place/bodies_list.h"
#include "stages/place/findings_list.h"
#include "stages/place/nudge_bar.h"
#include "stages/place/place_stage.h"
#include "stages/place/pose_fields.h"
#include "stages/place/room_block.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/kept_study.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "weights/axle_loads.h"
#include "window/gauge_strip.h"
#include "window/main_window.h"

#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;
using Eigen::Vector3d;

namespace {

study::Reports core(const model::Project& project) {
    static tests::KeptStudy study; // its solids are made once
    return study.advised(study.run(std::make_shared<const model::Project>(project), {}), {});
}

} // namespace

class WindowTest : public QObject, tests::WindowHand {
    Q_OBJECT

    QTemporaryDir folder_;

    ElevationView* side() { return window_->stage<PlaceStage>()->bay()->view(Elevation::Side); }
    NudgeBar* nudges() { return window_->stage<PlaceStage>()->nudges(); }
    void chooseStep(const QString& text) {
        QComboBox* box = nudges()->moveStep();
        QVERIFY(box->findText(text) >= 0);
        box->setCurrentIndex(box->findText(text));
    }
    void type(const char* field, const QString& text) {
        SidedField* line = window_->stage<PlaceStage>()->pose()->field(QString::fromLatin1(field));
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
    }
    /// The strip and the list show what the core says of the project in hand.
    void windowAgreesWithCore() {
        settleAdvised();
        const study::Reports reports = core(*session().project());
        for (const study::GroupState& group : study::groupsOf(reports)) {
            const GaugeButton* shown = window_->gauges()->gauge(group.group);
            QVERIFY2(shown, discipline::groupName(group.group));
            QCOMPARE(shown->verdict(), group.verdict);
            QVERIFY(shown->accessibleName().contains(QString::fromStdString(group.worst->held.value)));
        }
        QCOMPARE(window_->gauges()->total()->counts(),
                 QString::fromStdString(study::countWords(study::countsOf(reports))));
        for (const fit::Room& r : reports.with<fit::FitReport>().room->rooms)
            QVERIFY(window_->stage<PlaceStage>()->room()->text().contains(
                QString::fromStdString(fit::roomWords(*session().project(), r, session().shown()))));
        const auto cards = window_->stage<PlaceStage>()->findings()->cards();
        QCOMPARE(cards.size(), reports.findings.size());
        for (std::size_t i = 0; i < cards.size(); ++i) {
            QCOMPARE(cards[i]->finding().id, reports.findings[i].id);
            QCOMPARE(QString::fromStdString(cards[i]->finding().help),
                     QString::fromStdString(reports.findings[i].help));
            QCOMPARE(QString::fromStdString(cards[i]->finding().detail),
                     QString::fromStdString(reports.findings[i].detail));
        }
    }

private slots:
    void init() { openWindow(); }
    void cleanup() { window_.reset(); }

    void firstStartOffersTheDemo() {
        auto* button = window_->findChild<QPushButton*>(QStringLiteral("open_demo"));
        QVERIFY(button && button->isVisible());
        QTest::mouseClick(button, Qt::LeftButton);
        QVERIFY(session().hasProject() && !button->isVisible());
        windowAgreesWithCore();
    }

    /// Opens the demo, nudges it 10 mm back, finds the core's numbers, undoes, saves, reopens.
    void nudgeUndoSaveReopen() {
        QVERIFY(window_->openDemo());
        windowAgreesWithCore();
        const QString before = window_->gauges()->gauge(discipline::Group::Gaps)->accessibleName();
        const double rear = *session().reports()->of<weights::AxleLoadReport>()->rear.load_kg,
                     front = *session().reports()->of<weights::AxleLoadReport>()->front.load_kg;
        const double x = placement().position_mm.x();
        const std::string text = store::projectText(*session().project());

        chooseStep(QStringLiteral("by 10 mm"));
        side()->setFocus();
        QTest::keyClick(side(), Qt::Key_Right);
        QCOMPARE(placement().position_mm.x(), x + 10);
        QCOMPARE(session().history().undoText(), QStringLiteral("move the engine 10 mm rearward"));
        windowAgreesWithCore();
        // By hand: 297 kg ride on the unit, wheelbase 2650: 1.12 kg go from the front axle to the rear.
        QVERIFY(std::abs(*session().reports()->of<weights::AxleLoadReport>()->rear.load_kg - rear - 297 * 10.0 / 2650) <
                1e-9);
        QVERIFY(std::abs(*session().reports()->of<weights::AxleLoadReport>()->front.load_kg - front +
                         297 * 10.0 / 2650) < 1e-9);
        QVERIFY(window_->windowTitle().contains(QStringLiteral("[*]")) && window_->isWindowModified());

        QTest::keyClick(side(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(store::projectText(*session().project()), text);
        windowAgreesWithCore();
        QCOMPARE(window_->gauges()->gauge(discipline::Group::Gaps)->accessibleName(), before);

        QTest::keyClick(side(), Qt::Key_Right);
        windowAgreesWithCore();
        const QString moved = window_->gauges()->gauge(discipline::Group::Gaps)->accessibleName();
        QVERIFY(moved != before);
        const QString path = folder_.filePath(QStringLiteral("saved.gabarit"));
        QVERIFY(window_->saveTo(path));
        QVERIFY(!window_->isWindowModified() && window_->noticeText().contains(path));

        MainWindow again;
        QVERIFY(again.open(path));
        QTRY_VERIFY_WITH_TIMEOUT(again.session().reports() && !again.session().runner().busy(), tests::patience_ms);
        QCOMPARE(model::activePlacement(*again.session().project())->position_mm.x(), x + 10);
        QCOMPARE(again.gauges()->gauge(discipline::Group::Gaps)->accessibleName(), moved);
    }

    void eachButtonMovesWhatItSays() {
        QVERIFY(window_->openDemo());
        settle();
        const Vector3d still = Vector3d::Zero();
        const struct {
            const char* button;
            Vector3d move;
            model::Angles turn;
            const char* undo;
        } rows[] = {
            {"forward", {-5, 0, 0}, {}, "move the engine 5 mm forward"},
            {"rearward", {5, 0, 0}, {}, "move the engine 5 mm rearward"},
            {"up", {0, 0, 5}, {}, "move the engine 5 mm up"},
            {"down", {0, 0, -5}, {}, "move the engine 5 mm down"},
            {"to_driver", {0, 5, 0}, {}, "move the engine 5 mm to the driver's side"}, // who sits on the right
            {"to_passenger", {0, -5, 0}, {}, "move the engine 5 mm to the passenger's side"},
            {"tail_up", still, {0, -0.1, 0}, "tail up 0.10°"},
            {"tail_down", still, {0, 0.1, 0}, "tail down 0.10°"},
            {"swing_driver", still, {0.1, 0, 0}, "swing the tail to the driver's side 0.10°"},
            {"swing_passenger", still, {-0.1, 0, 0}, "swing the tail to the passenger's side 0.10°"},
            {"lean_driver", still, {0, 0, -0.1}, "lean the top to the driver's side 0.10°"},
            {"lean_passenger", still, {0, 0, 0.1}, "lean the top to the passenger's side 0.10°"},
        };
        for (const auto& row : rows) {
            const model::Placement before = placement();
            QPushButton* button = nudges()->button(QString::fromLatin1(row.button));
            QVERIFY(button && button->isVisible());
            QTest::mouseClick(button, Qt::LeftButton);
            const model::Placement after = placement();
            QCOMPARE(session().history().undoText(), QString::fromUtf8(row.undo));
            if (!row.move.isZero()) {
                QVERIFY2((after.position_mm - before.position_mm - row.move).norm() < 1e-9, row.button);
            } else {
                const model::Donor& donor = *model::activeDonor(*session().project());
                QVERIFY((model::pivotVehicle_mm(before, donor).value() - model::pivotVehicle_mm(after, donor).value())
                            .norm() < 1e-9);
                QVERIFY2(std::abs(after.angles.yaw_deg - before.angles.yaw_deg - row.turn.yaw_deg) < 1e-9, row.button);
                QVERIFY2(std::abs(after.angles.pitch_deg - before.angles.pitch_deg - row.turn.pitch_deg) < 1e-9,
                         row.button);
                QVERIFY2(std::abs(after.angles.roll_deg - before.angles.roll_deg - row.turn.roll_deg) < 1e-9,
                         row.button);
            }
        }
        while (session().history().canUndo()) session().history().undo();
        QVERIFY((placement().position_mm - Vector3d(470, -6, 672)).norm() == 0);
    }

    void tailUpAboutTheChosenPivot() {
        QVERIFY(window_->openDemo());
        settle();
        const auto height = [this](double x_donor_mm) {
            return (model::poseVehicleDonor(placement(), *model::activeDonor(*session().project())) *
                    Vector3d(x_donor_mm, 0, 0))
                .z();
        };
        const double gearbox = height(670), nose = height(-640);
        nudges()->turnStep()->setCurrentIndex(nudges()->turnStep()->findText(QStringLiteral("by 1°")));
        QTest::keyClick(side(), Qt::Key_Up, Qt::ControlModifier);
        // The front mounts lie 1310 mm ahead of the gearbox mount: 1310·sin 1° ≈ 22.9 mm, the nose stays.
        QVERIFY(std::abs(height(670) - gearbox - 22.86) < 0.1);
        QVERIFY(std::abs(height(-640) - nose) < 0.1);
        session().history().undo();
        auto* pivot = window_->stage<PlaceStage>()->pose()->findChild<QComboBox*>(QStringLiteral("pivot"));
        pivot->setCurrentIndex(pivot->findText(QStringLiteral("gearbox mount")));
        emit pivot->activated(pivot->currentIndex());
        QCOMPARE(placement().pivot, model::Pivot::GearboxMount);
        QTest::keyClick(side(), Qt::Key_Up, Qt::ControlModifier);
        QVERIFY(std::abs(height(670) - gearbox) < 0.2);
        QVERIFY(std::abs(nose - height(-640) - 22.86) < 0.2);
    }

    void typedValuesInAnyUnit() {
        QVERIFY(window_->openDemo());
        settle();
        type("x", QStringLiteral("18 1/2 in"));
        QCOMPARE(placement().position_mm.x(), 18.5 * 25.4);
        type("z", QStringLiteral("681,5 mm up"));
        QCOMPARE(placement().position_mm.z(), 681.5);
        type("y", QStringLiteral("12 mm driver's"));
        QCOMPARE(placement().position_mm.y(), 12.0);
        type("y", QStringLiteral("3 passenger"));
        QCOMPARE(placement().position_mm.y(), -3.0);
        type("tail", QStringLiteral("2° 30' down"));
        QCOMPARE(placement().angles.pitch_deg, 2.5);
        type("tail", QStringLiteral("1 up"));
        QCOMPARE(placement().angles.pitch_deg, -1.0);
        QVERIFY(window_->noticeText().isEmpty());
        const model::Placement before = placement();
        type("x", QStringLiteral("4 cubits"));
        QCOMPARE(placement().position_mm.x(), before.position_mm.x());
        QVERIFY2(window_->noticeText().contains(QStringLiteral("not a unit of length")),
                 qPrintable(window_->noticeText()));
        type("x", QStringLiteral("1,234"));
        QVERIFY(window_->noticeText().contains(QStringLiteral("two ways")));
    }

    void draggingMovesInWholeStepsAsOneUndo() {
        QVERIFY(window_->openDemo());
        settle();
        const Vector3d before = placement().position_mm;
        const int steps = session().history().count();
        const double scale = window_->lookout().scale();
        const QPoint by(qRound(60 * scale), -qRound(40 * scale));
        Vector3d moved = Vector3d::Zero();
        // The middle of the block, seen in the side view; where a callout stands it would be that which is pressed.
        for (const double up_mm : {120.0, 180.0, 60.0, 240.0, 20.0}) {
            const Vector3d block = model::poseVehicleDonor(placement(), *model::activeDonor(*session().project())) *
                                   Vector3d(-300, 0, up_mm);
            const QPoint from = side()->toScreen(block).toPoint();
            QVERIFY(side()->bodyAt(from) && side()->bodyAt(from)->in_donor);
            QTest::mousePress(side(), Qt::LeftButton, {}, from);
            QTest::mouseMove(side(), from + by / 2);
            QTest::mouseMove(side(), from + by);
            QTest::mouseRelease(side(), Qt::LeftButton, {}, from + by);
            moved = placement().position_mm - before;
            if (moved.norm() > 0) break;
        }
        QVERIFY2(std::abs(moved.x() - 60) < 1e-9 && moved.y() == 0 && std::abs(moved.z() - 40) < 1e-9,
                 qPrintable(QStringLiteral("%1, %2, %3").arg(moved.x()).arg(moved.y()).arg(moved.z())));
        QCOMPARE(session().history().count(), steps + 1);
        session().history().undo();
        QVERIFY((placement().position_mm - before).norm() == 0);
        windowAgreesWithCore();
    }

    void listLeadsToThePlaceAndTriesTheMove() {
        QVERIFY(window_->openDemo());
        settleAdvised();
        const FindingCard* card = window_->stage<PlaceStage>()->findings()->cards().front();
        const study::Finding finding = card->finding();
        QPushButton *show = nullptr, *tryIt = nullptr;
        for (QPushButton* button : card->findChildren<QPushButton*>())
            if (button->text() == "Show" || button->text() == "Try it")
                (button->text() == "Show" ? show : tryIt) = button;
        QTest::mouseClick(show, Qt::LeftButton);
        QCOMPARE(window_->lookout().selected(), finding.id);
        QVERIFY((window_->lookout().centre_mm() - *finding.place_vehicle_mm).norm() < 1e-9);
        QVERIFY(side()->rect().contains(side()->toScreen(*finding.place_vehicle_mm).toPoint()));
        const Vector3d before = placement().position_mm;
        QTest::mouseClick(tryIt, Qt::LeftButton);
        QVERIFY(finding.way_out);
        QVERIFY((placement().position_mm - finding.way_out->placement.position_mm).norm() == 0);
        QVERIFY(session().history().undoText().startsWith(QStringLiteral("try ")));
        settle();
        for (const study::Finding& f : session().reports()->findings)
            QVERIFY(f.id != finding.id || f.verdict != model::Verdict::NoGo);
        session().history().undo();
        QVERIFY((placement().position_mm - before).norm() == 0);
    }

    /// A gauge opens its group's checks; a row leads to its place.
    void gaugeLeadsToItsPlace() {
        QVERIFY(window_->openDemo());
        settle();
        QTest::mouseClick(window_->gauges()->gauge(discipline::Group::Gaps), Qt::LeftButton);
        QVERIFY(window_->glance()->isVisible());
        std::string bonnet;
        for (const study::Finding& f : session().reports()->findings)
            if (f.b && f.b->text() == "vehicle/bonnet") bonnet = f.id;
        leadFromGlance(bonnet);
        QCOMPARE(window_->lookout().selected(), bonnet);
        // Its card, far down the list, is brought into sight.
        const auto seen = [this] {
            for (const FindingCard* card : window_->stage<PlaceStage>()->findings()->cards())
                if (card->finding().id == window_->lookout().selected()) return !card->visibleRegion().isEmpty();
            return false;
        };
        QTRY_VERIFY_WITH_TIMEOUT(seen(), tests::patience_ms);
        leadFromGlance("weights:front");
        QTableWidget* sheet = nullptr;
        for (auto* table : window_->findChildren<QTableWidget*>())
            if (table->accessibleName() == QStringLiteral("Weight sheet")) sheet = table;
        QVERIFY(sheet && sheet->isVisible());
        QCOMPARE(sheet->rowCount(), static_cast<int>(session().reports()->of<weights::AxleLoadReport>()->lines.size()));
    }

    void tapeMeasuresBetweenCorners() {
        QVERIFY(window_->openDemo());
        settle();
        side()->setFocus();
        QTest::keyClick(side(), Qt::Key_T);
        QVERIFY(window_->lookout().taping());
        // The left rail's section: 495 ± 65 high, its front end at −540. Look there first.
        window_->lookout().setScale(0.8);
        window_->lookout().setCentre({-300, 0, 500});
        const auto at = [this](double x, double z) { return side()->toScreen({x, 0, z}).toPoint(); };
        QTest::mouseClick(side(), Qt::LeftButton, {},
                          at(-540, 430) + QPoint(3, -2)); // near enough: it catches the corner
        QVERIFY(side()->tapeText().isEmpty());
        QTest::mouseClick(side(), Qt::LeftButton, {}, at(-540, 560));
        QVERIFY2(side()->tapeText().startsWith(QStringLiteral("130.0 mm")), qPrintable(side()->tapeText()));
        session().setShown(quantity::Shown::Inches);
        QVERIFY2(side()->tapeText().startsWith(QStringLiteral("5.118 in")), qPrintable(side()->tapeText()));
        QTest::keyClick(side(), Qt::Key_Escape);
        QVERIFY(!window_->lookout().taping());
    }

    void bodiesCanBeHiddenAndSeenThrough() {
        QVERIFY(window_->openDemo());
        settleAdvised();
        window_->stage<PlaceStage>()->showSide(QStringLiteral("bodies"));
        BodiesList* bodies = window_->stage<PlaceStage>()->bodies();
        QListWidget* list = bodies->list();
        const auto found = list->findItems(QStringLiteral("Bonnet"), Qt::MatchStartsWith);
        QCOMPARE(found.size(), 1);
        found.front()->setSelected(true);
        const model::BodyRef bonnet{model::vehicle_owner, {"bonnet"}};
        for (QPushButton* button : bodies->findChildren<QPushButton*>())
            if (button->text() == QStringLiteral("Hidden")) button->click();
        QCOMPARE(window_->lookout().sight(bonnet), Sight::Hidden);
        QVERIFY(found.front()->text().contains(QStringLiteral("hidden")));
        for (QPushButton* button : bodies->findChildren<QPushButton*>())
            if (button->text() == QStringLiteral("See through")) button->click();
        QCOMPARE(window_->lookout().sight(bonnet), Sight::SeeThrough);
        // Hiding is looking, not changing: the gaps stay.
        windowAgreesWithCore();
    }

    void sliceCutsAwayWhatStandsNearer() {
        QVERIFY(window_->openDemo());
        settle();
        const auto outline = [this](const char* id) {
            for (const PictureBody& body : session().picture()->bodies)
                if (body.ref.body.text == id) return body;
            return PictureBody{};
        };
        QVERIFY(!outline("wheel-front-left").outline[0].isEmpty());
        auto* slice = side()->findChild<QToolButton*>();
        QTest::mouseClick(slice, Qt::LeftButton);
        settle();
        // Sliced at the donor's middle, the left wheel is gone and the block shows its cut.
        QTRY_VERIFY_WITH_TIMEOUT(outline("wheel-front-left").outline[0].isEmpty(), tests::patience_ms);
        QVERIFY(!outline("block").cut[0].isEmpty());
        QVERIFY(!outline("wheel-front-left").outline[1].isEmpty()); // the plan is not sliced
        QTest::mouseClick(slice, Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!outline("wheel-front-left").outline[0].isEmpty(), tests::patience_ms);
    }

    void movableBodiesCanBeNudged() {
        QVERIFY(window_->openDemo());
        settle();
        const int pairs = session().reports()->with<fit::FitReport>().clearance->pairs_checked;
        window_->stage<PlaceStage>()->showSide(QStringLiteral("bodies"));
        QListWidget* list = window_->stage<PlaceStage>()->bodies()->list();
        const auto take = [&](const QString& name) {
            list->clearSelection();
            list->findItems(name, Qt::MatchStartsWith).front()->setSelected(true);
            for (QPushButton* button : window_->stage<PlaceStage>()->bodies()->findChildren<QPushButton*>())
                if (button->text() == QStringLiteral("Take in hand")) button->click();
        };
        take(QStringLiteral("Battery"));
        QCOMPARE(session().inHand()->body.text, std::string("battery"));
        chooseStep(QStringLiteral("by 25 mm"));
        const Vector3d engine = placement().position_mm;
        QTest::keyClick(side(), Qt::Key_Up);
        QVERIFY((placement().position_mm - engine).norm() == 0);
        const model::BodyRef battery{model::vehicle_owner, {"battery"}};
        QVERIFY((model::findBody(*session().project(), battery)->shift_mm - Vector3d(0, 0, 25)).norm() == 0);
        windowAgreesWithCore();
        QVERIFY(session().reports()->with<fit::FitReport>().clearance->pairs_checked >
                pairs); // it is checked against its neighbours now
        QTest::keyClick(side(), Qt::Key_Down);
        QVERIFY(!model::findBody(*session().project(), battery)->moved());

        // A part of the donor that may be moved goes along the vehicle's axes although the donor hangs tail down.
        take(QStringLiteral("Alternator"));
        QVERIFY(session().inHand() && !session().inHand()->inVehicle());
        const model::BodyRef alternator = *session().inHand();
        QTest::keyClick(side(), Qt::Key_Up);
        const Vector3d shift = model::rotationVehicleOwner(*session().project(), alternator.owner) *
                               model::findBody(*session().project(), alternator)->shift_mm;
        QVERIFY((shift - Vector3d(0, 0, 25)).norm() < 1e-9);
        take(QStringLiteral("Front crossmember")); // bolted, not movable
        QVERIFY(window_->noticeText().contains(QStringLiteral("may be moved")));
        QVERIFY(session().inHand() == alternator);
    }

    void badFilesLeaveWhatIsOpen() {
        QVERIFY(window_->openDemo());
        settle();
        const auto project = session().project();
        const QString path = folder_.filePath(QStringLiteral("bad.gabarit"));
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("{\"format\": \"gabarit-project\", \"version\": 1, \"name\": ");
        file.close();
        QVERIFY(!window_->open(path));
        QVERIFY(session().project() == project);
        QVERIFY2(window_->noticeText().contains(path) && window_->noticeText().contains(QStringLiteral("line 1")),
                 qPrintable(window_->noticeText()));
        QVERIFY(!window_->saveTo(QStringLiteral("/nonexistent/folder/x.gabarit")));
        QVERIFY(window_->noticeText().contains(QStringLiteral("not saved")));
    }

    void changesByOthersAreNotOverwritten() {
        QVERIFY(window_->openDemo());
        const QString path = folder_.filePath(QStringLiteral("shared.gabarit"));
        QVERIFY(window_->saveTo(path));
        QVERIFY(window_->saveTo(path)); // our own change is no surprise
        QFile file(path);
        QVERIFY(file.open(QIODevice::Append));
        file.write("\n");
        file.close();
        QVERIFY(!window_->saveTo(path));
        QVERIFY2(window_->noticeText().contains(QStringLiteral("changed")), qPrintable(window_->noticeText()));
        QVERIFY(window_->saveTo(folder_.filePath(QStringLiteral("mine.gabarit"))));
    }

    void newerFilesAreReadOnly() {
        const QString path = folder_.filePath(QStringLiteral("newer.gabarit"));
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("{\"format\": \"gabarit-project\", \"version\": 99, \"name\": \"From tomorrow\"}");
        file.close();
        QVERIFY(window_->open(path));
        QVERIFY(window_->windowTitle().contains(QStringLiteral("read-only")));
        QVERIFY(!window_->saveTo(path));
    }

    void anotherSchoolChangesAllVerdictsAtOnce() {
        QVERIFY(window_->openDemo());
        settle();
        const auto bonnet = [this] {
            for (const study::Gauge& gauge : session().reports()->gauges)
                if (gauge.id == "bonnet") return gauge;
            return study::Gauge{};
        };
        QCOMPARE(bonnet().verdict, model::Verdict::NoGo); // 12.2 mm where the certifier wants 15
        QComboBox* school = window_->stage<PlaceStage>()->school();
        school->setCurrentIndex(school->findData(QStringLiteral("shop")));
        emit school->activated(school->currentIndex());
        windowAgreesWithCore();
        // Planned it would be close there; what was measured on the real thing counts.
        QCOMPARE(bonnet().verdict, model::Verdict::NoGo);
        QCOMPARE(bonnet().value, std::string("7.5 mm"));
        QVERIFY(bonnet().subject.find("measured") != std::string::npos);
        model::Project unmeasured = *session().project();
        unmeasured.measured.clear();
        QVERIFY(session().edit(QStringLiteral("strike out"), std::move(unmeasured)));
        windowAgreesWithCore();
        QCOMPARE(bonnet().verdict, model::Verdict::Close); // the shop wants 10, and 2 until the mounts are welded
        QVERIFY(bonnet().limit.find("12 mm") != std::string::npos);
        session().history().undo();
        session().history().undo();
        windowAgreesWithCore();
        QCOMPARE(bonnet().verdict, model::Verdict::NoGo);
        QCOMPARE(school->currentData().toString(), QStringLiteral("certifier"));
    }

    void fractionsInTheFields() {
        QVERIFY(window_->openDemo());
        quantity::Shown sixteenths = quantity::Shown::Inches;
        sixteenths.length = quantity::LengthStyle::Sixteenths;
        session().setShown(sixteenths);
        SidedField* x = window_->stage<PlaceStage>()->pose()->field(QStringLiteral("x"));
        QCOMPARE(x->text(), QStringLiteral("≈ 18 1/2 in back")); // 470 mm = 18.504 in
        QVERIFY(x->toolTip().contains(QStringLiteral("+0.004")));
        const double before = placement().position_mm.x();
        x->setFocus();
        QTest::keyClick(x, Qt::Key_Return); // nothing was typed: nothing moves
        QCOMPARE(placement().position_mm.x(), before);
        x->setSelection(2, static_cast<int>(x->text().size())); // the mark stays, the figure is written over
        QTest::keyClicks(x, QStringLiteral("18 3/4 in back"));
        QTest::keyClick(x, Qt::Key_Return);
        QCOMPARE(placement().position_mm.x(), 18.75 * 25.4);
    }

    void eveningColours() {
        QVERIFY(window_->openDemo());
        settle();
        const QColor day = window_->grab().toImage().pixelColor(640, 200);
        window_->setTheme(Theme::Dark);
        QCoreApplication::processEvents();
        const QImage night = window_->grab().toImage();
        QVERIFY(night.pixelColor(640, 200) != day);
        // Most of the window is dark now: nothing kept its paper.
        int dark = 0, all = 0;
        for (int x = 0; x < night.width(); x += 7)
            for (int y = 0; y < night.height(); y += 7) ++all, dark += night.pixelColor(x, y).lightnessF() < 0.45;
        QVERIFY2(dark > 0.75 * all, qPrintable(QString::number(double(dark) / all)));
        QCOMPARE(QSettings().value(QStringLiteral("theme")).toString(), QStringLiteral("dark"));
        window_->setTheme(Theme::Light);
        for (const Theme theme : {Theme::Light, Theme::Dark}) { // WCAG AA for text
            const Tones& t = tonesOf(theme);
            for (const QColor& ground : {t.paper, t.panel})
                for (const QColor& words : {t.ink, t.second_ink, t.trouble, t.hand_fill, t.donor})
                    QVERIFY2(contrast(words, ground) >= 4.5,
                             qPrintable(words.name() + QLatin1Char(' ') + ground.name()));
            QVERIFY(contrast(t.ink, t.chassis) >= 4.5); // tabs of the rail
            for (const QColor& filled : {t.ink, t.donor, t.trouble, t.hand_fill})
                QVERIFY(contrast(t.paper, filled) >= 4.5);
            for (const QColor& line : {t.in_hand, t.donor_edge}) QVERIFY(contrast(line, t.paper) >= 3);
        }
    }

    void printsTheFitSheet() {
        QVERIFY(window_->openDemo());
        settle();
        const QString path = folder_.filePath(QStringLiteral("fit.pdf"));
        QVERIFY(window_->print(QStringLiteral("fit"), path));
        QVERIFY(QFileInfo(path).size() > 10000);
        QVERIFY(!window_->print(QStringLiteral("fit"), QStringLiteral("/nonexistent/x.pdf")));
        QVERIFY(window_->noticeText().contains(QStringLiteral("not printed")));
    }

    void unitsSwitch() {
        QVERIFY(window_->openDemo());
        settle();
        session().setShown(quantity::Shown::Inches);
        settle();
        QTRY_VERIFY_WITH_TIMEOUT(
            window_->gauges()->gauge(discipline::Group::Gaps)->shownWords().front().contains(QStringLiteral(" in")),
            tests::patience_ms);
        QVERIFY(
            window_->stage<PlaceStage>()->pose()->field(QStringLiteral("x"))->text().contains(QStringLiteral(" in")));
    }

    void wordsFitAndEverythingHasAName() {
        QVERIFY(window_->openDemo());
        settle();
        for (const QWidget* widget : window_->findChildren<QWidget*>()) {
            if (!widget->isVisible()) continue;
            if (const auto* button = qobject_cast<const QPushButton*>(widget)) {
                const int wide = QFontMetrics(button->font()).horizontalAdvance(button->text());
                QVERIFY2(wide + 8 <= button->width(), qPrintable(button->text()));
                QVERIFY2(button->height() >= 32, qPrintable(button->text()));
            }
            if (widget->focusPolicy() == Qt::NoFocus || widget->objectName().startsWith(QStringLiteral("qt_")))
                continue;
            const auto* button = qobject_cast<const QAbstractButton*>(widget);
            const bool named = !widget->accessibleName().isEmpty() || (button && !button->text().isEmpty()) ||
                               widget->inherits("QMenuBar") || widget->inherits("QScrollArea");
            QVERIFY2(named, qPrintable(QString::fromLatin1(widget->metaObject()->className()) + widget->objectName()));
        }
        QVERIFY(window_->width() <= 1280 && window_->height() <= 800);
        QVERIFY(QApplication::font().pointSizeF() >= 11);
        // Tabular figures: numbers keep their place while the hand moves.
        const QFontMetricsF metrics(QApplication::font());
        for (const QChar digit : QStringLiteral("0123456789"))
            QVERIFY(std::abs(metrics.horizontalAdvance(digit) - metrics.horizontalAdvance(QLatin1Char('0'))) < 0.01);
    }
};

namespace {
int windowMain(int argc, char** argv) {
    QApplication application(argc, argv);
    QStandardPaths::setTestModeEnabled(true); // settings of a test stay out of the user's
    QCoreApplication::setApplicationName(QStringLiteral("gabarit-test"));
    QCoreApplication::setOrganizationName(QStringLiteral("gabarit-test"));
    QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    dress(application);
    WindowTest test;
    return QTest::qExec(&test, argc, argv);
}
} // namespace
GABARIT_SUITE_RUN_BY(WindowTest, windowMain)

#include "window_test.moc"
