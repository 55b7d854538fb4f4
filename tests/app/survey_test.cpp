// A vehicle and a donor made in the window, without a file: fields, edges dragged, copies, mirrors, other forms.
#include "bay/bay.h"
#include "fit/fit_report.h"
#include "forms/entry_form.h"
#include "forms/tones.h"
#include "model/edit.h"
#include "session/session.h"
#include "stages/rules/rules_stage.h"
#include "stages/survey/survey_stage.h"
#include "store/first_survey.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "weights/hoist.h"
#include "window/main_window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;
using Eigen::Vector3d;

class SurveyTest : public QObject, tests::WindowHand {
    Q_OBJECT

    QTemporaryDir folder_;

    SurveyStage* survey() { return window_->stage<SurveyStage>(); }

    void press(const char* name) { WindowHand::press(survey()->button(QString::fromLatin1(name))); }
    void type(const char* field, const QString& text) { WindowHand::type(survey()->form(), field, text); }
    void pick(const char* field, const QString& words) { WindowHand::pick(survey()->form(), field, words); }
    void cell(const char* name, int row, int column, const QString& text) {
        auto* table = survey()->form()->findChild<QTableWidget*>(QString::fromLatin1(name));
        QVERIFY2(table && table->item(row, column), name);
        table->item(row, column)->setText(text);
    }
    void body(const char* name, const char* kind, const Vector3d& size, const Vector3d& at, double accuracy) {
        survey()->showKind(SurveyKind::Bodies);
        newBody("A box, in free space");
        type("name", QString::fromLatin1(name));
        pick("category", QString::fromLatin1(kind));
        const char* const sizes[] = {"size_mm_x", "size_mm_y", "size_mm_z"};
        const char* const places[] = {"position_mm_x", "position_mm_y", "position_mm_z"};
        for (int i = 0; i < 3; ++i) type(sizes[i], QString::number(size[i]));
        for (int i = 0; i < 3; ++i) type(places[i], QString::number(at[i]));
        type("accuracy_mm", QString::number(accuracy));
    }
    /// New, then what it is.
    void newBody(const QString& what) {
        press("new");
        QMenu* menu = nullptr;
        QTRY_VERIFY((menu = survey()->findChild<QMenu*>("what_is_new")) && menu->isVisible());
        for (QAction* action : menu->actions())
            if (action->text() == what) {
                menu->close();
                return action->trigger();
            }
        QVERIFY2(false, qPrintable(what));
    }
    double gap(const char* a, const char* b) {
        settle();
        for (const fit::PairGap& pair : session().reports()->with<fit::FitReport>().clearance->pairs)
            if (pair.name_a == a && pair.name_b == b) return pair.gap.gap_mm;
        qWarning("no gap between %s and %s", a, b);
        return std::nan("");
    }
    /// The crossmember at z 0…80, rails at both sides, a sump whose bottom stands at z 100.
    void makeBay() {
        window_->newProject();
        survey()->showKind(SurveyKind::About);
        type("project_name", QStringLiteral("Shed job"));
        type("wheelbase_mm", QStringLiteral("98 3/8 in"));
        body("Crossmember", "crossmember", {100, 600, 80}, {0, 0, 40}, 2);
        body("Left rail", "frame", {2000, 60, 80}, {0, -330, 40}, 2);
        press("mirror");
        press("new_donor");
        type("name", QStringLiteral("Shed six"));
        body("Sump", "sump", {200, 200, 100}, {0, 0, 150}, 1);
    }

private slots:
    void init() { openWindow(); }
    void cleanup() { window_.reset(); }

    void aVehicleAndADonorWithoutAFile() {
        makeBay();
        QCOMPARE(project().name, std::string("Shed job"));
        QVERIFY(std::abs(*project().vehicle->wheelbase_mm - 98.375 * 25.4) < 1e-9);
        QCOMPARE(project().vehicle->bodies.size(), std::size_t(3));
        const model::Body& image = project().vehicle->bodies[2];
        QCOMPARE(image.name, std::string("Right rail"));
        QCOMPARE(image.position_mm.y(), 330.0);
        QCOMPARE(project().donors.size(), std::size_t(1));
        QCOMPARE(project().placements.size(), std::size_t(1));
        // By hand: the sump's bottom at 100, the crossmember's top at 80; rail's inner face at 300, sump's side at 100.
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 20) < 1e-6);
        // It can be saved, read again, and is what was made.
        const QString path = folder_.filePath(QStringLiteral("shed.gabarit"));
        QVERIFY(window_->saveTo(path));
        const auto read = store::readProject(path.toStdString(), store::defaultRuleBook());
        QVERIFY(read.ok());
        QCOMPARE(store::projectText(read.value().project), store::projectText(project()));
        // Every step can be taken back, to an empty vehicle.
        while (session().history().canUndo()) session().history().undo();
        QVERIFY(project().vehicle->bodies.empty() && project().donors.empty() && project().placements.empty());
    }

    /// What a field names is clicked in the drawing; Escape leaves it.
    void bodiesAndPointsArePointedAt() {
        makeBay();
        settle();
        auto* side = survey()->bay()->view(Elevation::Side);
        auto* plan = survey()->bay()->view(Elevation::Plan);
        const auto point = [this](const char* field) {
            auto* button = survey()->form()->findChild<QPushButton*>(QStringLiteral("point_") + QLatin1String(field));
            QVERIFY2(button, field);
            survey()->form()->ensureWidgetVisible(button);
            QTest::mouseClick(button, Qt::LeftButton);
            QVERIFY(button->isChecked());
        };
        const auto click = [](ElevationView* view, const Vector3d& at_vehicle_mm) {
            QTest::mouseClick(view, Qt::LeftButton, {}, view->toScreen(at_vehicle_mm).toPoint());
        };
        survey()->showKind(SurveyKind::Joined);
        press("new");
        point("a");
        click(side, {0, 0, 150}); // the sump alone is there
        QCOMPARE(project().joined[0].a.body.text, std::string("sump"));
        QVERIFY(!project().joined[0].a.inVehicle());
        point("b");
        click(plan, {0, 250, 40}); // beside the sump
        QCOMPARE(project().joined[0].b.text(), std::string("vehicle/crossmember"));
        QCOMPARE(static_cast<int>(window_->lookout().pointing()), static_cast<int>(Lookout::Pointing::Nothing));
        const int steps = session().history().index();
        point("b");
        QTest::keyClick(survey()->form(), Qt::Key_Escape);
        QCOMPARE(static_cast<int>(window_->lookout().pointing()), static_cast<int>(Lookout::Pointing::Nothing));
        click(plan, {0, -330, 40}); // a click like any other: nothing is joined by it
        QCOMPARE(session().history().index(), steps);
        QCOMPARE(project().joined[0].b.text(), std::string("vehicle/crossmember"));
        // A point, by the cross it is drawn as.
        window_->goToStage(QStringLiteral("survey"));
        survey()->owner()->setCurrentIndex(survey()->owner()->findData(QLatin1String(model::vehicle_owner)));
        survey()->showKind(SurveyKind::Points);
        press("new");
        type("at_mm_x", QStringLiteral("-100"));
        type("at_mm_z", QStringLiteral("200"));
        survey()->showKind(SurveyKind::Outgoing);
        press("new");
        point("from");
        click(side, {-100, 0, 206}); // near it is near enough
        QCOMPARE(project().vehicle->outgoing.at(0).from.text, project().vehicle->hard_points.at(0).id.text);
    }

    void edgesAreDraggedInAnElevation() {
        makeBay();
        settle();
        survey()->choose({"shed-six", {"sump"}});
        QCOMPARE(survey()->owner()->currentText(), QStringLiteral("Shed six"));
        QTRY_VERIFY_WITH_TIMEOUT(session().picture() && session().picture()->project == session().project(),
                                 tests::patience_ms);
        ElevationView* side = survey()->bay()->view(Elevation::Side);
        survey()->bay()->fitAll();
        const auto handles = edgeHandles(project(), {"shed-six", {"sump"}}, viewpoint(Elevation::Side));
        QCOMPARE(handles.size(), std::size_t(4)); // fore, aft, top, bottom
        const auto bottom = std::find_if(handles.begin(), handles.end(),
                                         [](const EdgeHandle& h) { return h.axis == model::Axis::Z && !h.high; });
        QVERIFY(bottom != handles.end());
        const QPoint at = side->handlePoint(*bottom).toPoint();
        QVERIFY(side->handleAt(at));
        const double scale = window_->lookout().scale();
        QTest::mousePress(side, Qt::LeftButton, {}, at);
        for (const double mm : {3.0, 6.0, 10.0}) QTest::mouseMove(side, at + QPoint(0, qRound(mm * scale)));
        QTest::mouseRelease(side, Qt::LeftButton, {}, at + QPoint(0, qRound(10 * scale)));
        const model::Body& sump = project().donors[0].bodies[0];
        QCOMPARE(std::get<model::BoxSpec>(sump.shape).size_mm.z(), 110.0);
        QCOMPARE(sump.position_mm.z(), 145.0);
        QCOMPARE(session().history().undoText(), QStringLiteral("drag an edge of the sump"));
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 10) < 1e-6);
        QCOMPARE(survey()->form()->findChild<QLineEdit*>(QStringLiteral("size_mm_z"))->text(),
                 QStringLiteral("110.0 mm"));
        session().history().undo(); // the whole drag is one step
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 20) < 1e-6);
        // Another body is picked by a click on it; the picked one is moved by dragging it.
        const QPoint rail = side->toScreen(Vector3d(-300, 0, 40)).toPoint();
        QTest::mouseClick(side, Qt::LeftButton, {}, rail);
        QVERIFY(window_->lookout().edited() && window_->lookout().edited()->inVehicle());
    }

    void whatCannotBeReadIsSaidAndStays() {
        makeBay();
        survey()->choose({"vehicle", {"crossmember"}});
        const auto before = store::projectText(project());
        for (const char* wrong : {"tall", "0", "-5", "1,234", ""}) {
            type("size_mm_z", QString::fromLatin1(wrong));
            QVERIFY2(!window_->noticeText().isEmpty(), wrong);
            auto* line = survey()->form()->findChild<QLineEdit*>(QStringLiteral("size_mm_z"));
            QCOMPARE(line->text(), QString::fromLatin1(wrong));
            QVERIFY(line->property("wrong").toBool());
            QCOMPARE(store::projectText(project()), before);
        }
        type("size_mm_z", QStringLiteral("3 1/4 in"));
        QCOMPARE(std::get<model::BoxSpec>(project().vehicle->bodies[0].shape).size_mm.z(), 82.55);
        QVERIFY(!survey()->form()->findChild<QLineEdit*>(QStringLiteral("size_mm_z"))->property("wrong").toBool());
    }

    void anotherShapeAndItsTables() {
        makeBay();
        survey()->choose({"vehicle", {"crossmember"}});
        pick("shape", QStringLiteral("box section"));
        type("section_wall_mm", QStringLiteral("4"));
        const auto profile = std::get<model::ProfileSpec>(project().vehicle->bodies[0].shape);
        QCOMPARE(std::get<model::RectTubeSection>(profile.section).wall_mm, 4.0);
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 20) < 1e-6); // the same room
        cell("ends", 1, 1, QStringLiteral("250 mm"));
        QCOMPARE(std::get<model::ProfileSpec>(project().vehicle->bodies[0].shape).to_mm.y(), 250.0);
        pick("shape", QStringLiteral("bent tube or hose"));
        // A third corner is typed into the empty row; it counts once its row is full.
        cell("path_mm", 2, 0, QStringLiteral("300"));
        cell("path_mm", 2, 1, QStringLiteral("400"));
        QCOMPARE(std::get<model::TubeSpec>(project().vehicle->bodies[0].shape).path_mm.size(), std::size_t(2));
        cell("path_mm", 2, 2, QStringLiteral("0"));
        QCOMPARE(std::get<model::TubeSpec>(project().vehicle->bodies[0].shape).path_mm.size(), std::size_t(3));
        for (int c = 0; c < 3; ++c) cell("path_mm", 2, c, QString());
        QCOMPARE(std::get<model::TubeSpec>(project().vehicle->bodies[0].shape).path_mm.size(), std::size_t(2));
    }

    void copyHideTakeOffDelete() {
        makeBay();
        survey()->choose({"vehicle", {"crossmember"}});
        press("copy");
        QCOMPARE(project().vehicle->bodies.size(), std::size_t(4));
        QCOMPARE(survey()->list()->currentItem()->text(), QStringLiteral("Crossmember copy"));
        press("hide");
        QCOMPARE(window_->lookout().sight({"vehicle", {"crossmember-copy"}}), Sight::Hidden);
        press("off");
        QVERIFY(project().vehicle->bodies[1].off);
        press("off");
        QVERIFY(!project().vehicle->bodies[1].off);
        press("delete");
        QCOMPARE(project().vehicle->bodies.size(), std::size_t(3));
        session().history().undo();
        QCOMPARE(project().vehicle->bodies.size(), std::size_t(4));
    }

    void anotherFormIsChosenAndComparesItself() {
        makeBay();
        survey()->choose({"shed-six", {"sump"}});
        press("variant");
        QCOMPARE(project().donors[0].choices.size(), std::size_t(1));
        QCOMPARE(survey()->list()->currentItem()->text(), QStringLiteral("Sump, other form"));
        type("size_mm_z", QStringLiteral("60"));
        type("position_mm_z", QStringLiteral("170")); // its bottom at 140
        QVERIFY(std::abs(gap("Sump, other form", "Crossmember") - 60) < 1e-6);
        model::Project back = model::withOption(project(), "shed-six/sump", "as-it-came");
        QVERIFY(session().edit(QStringLiteral("take the first"), std::move(back)));
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 20) < 1e-6);
    }

    void starterShapesStandWhereSuchThingsSit() {
        QVERIFY(window_->openDemo());
        window_->goToStage(QStringLiteral("survey"));
        survey()->owner()->setCurrentIndex(0);
        emit survey()->owner()->activated(0);
        survey()->showKind(SurveyKind::Bodies);
        settle();
        const std::size_t before = project().vehicle->bodies.size();
        newBody("Battery");
        QCOMPARE(project().vehicle->bodies.size(), before + 1);
        const model::Body& battery = project().vehicle->bodies.back();
        QVERIFY(battery.name.rfind("Battery", 0) == 0);
        QCOMPARE(battery.measured.method, model::Method::Assumed); // nothing is believed of it
        QVERIFY(battery.accuracy_mm && *battery.accuracy_mm >= 10);
        // Its first size is asked for, and the next one after it.
        QTRY_VERIFY(QApplication::focusWidget() && QApplication::focusWidget()->objectName() == "size_mm_x");
        QTest::keyClicks(QApplication::focusWidget(), "278");
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
        QCOMPARE(std::get<model::BoxSpec>(project().vehicle->bodies.back().shape).size_mm.x(), 278.0);
        // All of the vehicle's, each within a vehicle's length of the axle.
        for (const model::StarterShape& starter : store::firstSurvey().starters) {
            if (starter.donors) continue;
            model::BodyId id;
            const auto made = model::withStarter(project(), store::firstSurvey(), starter, model::vehicle_owner, id);
            QVERIFY2(made.ok(), starter.id.c_str());
            const model::Body* body = model::findBody(made.value(), {model::vehicle_owner, id});
            QVERIFY(body && body->position_mm.norm() < 5000 && starter.asks.size() == 2);
        }
        // Anything else stands in free space, ahead of all: it fouls nothing.
        settle();
        const auto no_go = [&] {
            return std::count_if(session().reports()->findings.begin(), session().reports()->findings.end(),
                                 [](const auto& f) { return f.verdict == model::Verdict::NoGo; });
        };
        const auto was = no_go();
        newBody("A box, in free space");
        settle();
        QCOMPARE(no_go(), was);
        for (const model::Body& other : project().vehicle->bodies)
            QVERIFY(&other == &project().vehicle->bodies.back() ||
                    other.position_mm.x() > project().vehicle->bodies.back().position_mm.x());
    }

    void pointsMassesBoltsAndJoinedPairs() {
        makeBay();
        survey()->choose({"shed-six", {"sump"}});
        survey()->showKind(SurveyKind::Points);
        press("new");
        type("name", QStringLiteral("Front eye"));
        pick("role", QStringLiteral("sling eye"));
        type("at_mm_x", QStringLiteral("-300"));
        press("copy");
        type("at_mm_x", QStringLiteral("100"));
        press("new");
        type("name", QStringLiteral("Left pad"));
        type("at_mm_y", QStringLiteral("-210"));
        press("mirror");
        const model::HardPoint image = project().donors[0].reference_points.back();
        QCOMPARE(image.name, std::string("Right pad"));
        QCOMPARE(image.at_mm.y(), 210.0);
        survey()->showKind(SurveyKind::Masses);
        press("new");
        type("name", QStringLiteral("All of it"));
        type("mass_kg", QStringLiteral("440 lb"));
        type("at_mm_x", QStringLiteral("-100"));
        type("at_mm_z", QStringLiteral("-50")); // below the eyes, or it would turn over
        settle();
        // By hand: the eyes' middle is at −100, over the centre: it hangs level.
        QVERIFY(session().reports()->of<weights::HoistReport>() &&
                session().reports()->of<weights::HoistReport>()->tail_down_deg);
        QVERIFY(std::abs(*session().reports()->of<weights::HoistReport>()->mass_kg - 440 * 0.45359237) < 1e-9);
        survey()->showKind(SurveyKind::Serviced);
        press("new");
        type("name", QStringLiteral("Drain plug"));
        type("socket_mm", QStringLiteral("26"));
        type("at_mm_z", QStringLiteral("100"));
        pick("along", QStringLiteral("down"));
        type("accuracy_mm", QStringLiteral("1"));
        pick("in", QStringLiteral("Sump"));
        settle();
        QCOMPARE(session().reports()->with<fit::FitReport>().access.size(), std::size_t(1));
        QCOMPARE(session().reports()->with<fit::FitReport>().access[0].blockers.at(0).name, std::string("Crossmember"));
        survey()->showKind(SurveyKind::Joined);
        press("new");
        pick("a", QStringLiteral("Sump"));
        pick("b", QStringLiteral("Crossmember"));
        type("reason", QStringLiteral("a cradle"));
        settle();
        QCOMPARE(session().reports()->with<fit::FitReport>().clearance->joined.size(), std::size_t(1));
        press("delete");
        QVERIFY(project().joined.empty());
        survey()->showKind(SurveyKind::About);
        pick("orientation", QStringLiteral("across, rear to the driver's side"));
        QCOMPARE(project().donors[0].orientation, model::Orientation::TransverseLeft);
        press("delete"); // the whole donor, with what speaks of it
        QVERIFY(project().donors.empty() && project().placements.empty());
    }

    /// How it was measured stands with what was measured; what is only assumed is listed with the margin it could eat.
    void whatIsOnlyAssumed() {
        makeBay();
        survey()->choose({"vehicle", {"crossmember"}});
        pick("method", QStringLiteral("assumed"));
        pick("suspension", QStringLiteral("at ride height"));
        type("who", QStringLiteral("Mo"));
        type("date", QStringLiteral("2026-05-17"));
        type("accuracy_mm", QStringLiteral("25"));
        const model::Provenance measured = project().vehicle->bodies[0].measured;
        QCOMPARE(measured.method, model::Method::Assumed);
        QCOMPARE(measured.suspension, model::Suspension::RideHeight);
        QCOMPARE(measured.who + measured.date, std::string("Mo2026-05-17"));
        type("picture", QStringLiteral("../elsewhere.png"));
        QVERIFY(window_->noticeText().contains(QStringLiteral("outside the project's folder")));
        settle();
        survey()->showKind(SurveyKind::Assumed);
        QCOMPARE(survey()->list()->count(), 1);
        QCOMPARE(survey()->list()->item(0)->text(),
                 QStringLiteral("Crossmember: assumed to ±25 mm, margin 10 mm to the sump: it decides"));
        type("accuracy_mm", QStringLiteral("1"));
        pick("method", QStringLiteral("measured")); // the tape has been there
        settle();
        QCOMPARE(survey()->list()->count(), 0);
    }

    /// Another datum plane changes heights, and no gap.
    void anotherDatum() {
        makeBay();
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 20) < 1e-6);
        survey()->owner()->setCurrentIndex(0);
        survey()->showKind(SurveyKind::Points);
        press("new");
        type("name", QStringLiteral("Rail top"));
        type("at_mm_z", QStringLiteral("80"));
        survey()->showKind(SurveyKind::About);
        type("datum_up", QStringLiteral("2 in"));
        QCOMPARE(project().vehicle->bodies[0].position_mm.z(), 40 - 50.8);
        QCOMPARE(survey()->form()->findChild<QLineEdit*>(QStringLiteral("datum_up"))->text(), QStringLiteral("0.0 mm"));
        pick("datum_point", QStringLiteral("Rail top"));
        QVERIFY(std::abs(project().vehicle->bodies[0].position_mm.z() + 40) < 1e-9);
        QCOMPARE(project().vehicle->datum.name, std::string("Rail top"));
        QVERIFY(std::abs(gap("Sump", "Crossmember") - 20) < 1e-6);
    }

    /// A figure of one's own holds at once, and goes back to the book's.
    void rulesOfOnesOwn() {
        makeBay();
        settle();
        const auto verdict = [this] {
            settle();
            for (const fit::PairGap& pair : session().reports()->with<fit::FitReport>().clearance->pairs)
                if (pair.name_a == "Sump" && pair.name_b == "Crossmember") return pair.verdict;
            return model::Verdict::Unknown;
        };
        QCOMPARE(verdict(), model::Verdict::Go); // 20 against 10, ±3
        window_->goToStage(QStringLiteral("rules"));
        RulesStage* rules = window_->stage<RulesStage>();
        rules->choose(QStringLiteral("sump-crossmember"));
        auto* line = rules->form()->findChild<QLineEdit*>(QStringLiteral("rest_certifier"));
        QVERIFY(line);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, QStringLiteral("1 in"));
        QTest::keyClick(line, Qt::Key_Return);
        QCOMPARE(project().rules.rows.size(), std::size_t(1));
        QCOMPARE(project().rules.rows[0].at_rest_mm.at("certifier"), 25.4);
        QVERIFY(project().rules.rows[0].source.find("this project's own") == 0);
        QCOMPARE(verdict(), model::Verdict::NoGo);
        QTest::mouseClick(rules->button(QStringLiteral("back")), Qt::LeftButton);
        QVERIFY(project().rules.rows.empty());
        QCOMPARE(verdict(), model::Verdict::Go);
        QTest::mouseClick(rules->button(QStringLiteral("add")), Qt::LeftButton);
        auto* name = rules->form()->findChild<QLineEdit*>(QStringLiteral("and"));
        name->setFocus();
        name->selectAll();
        QTest::keyClicks(name, QStringLiteral("crossmember, any suspension"));
        QTest::keyClick(name, Qt::Key_Return);
        QCOMPARE(project().rules.rows[0].and_, (std::vector<std::string>{"crossmember", "@suspension"}));
        name->selectAll();
        QTest::keyClicks(name, QStringLiteral("flywheels"));
        QTest::keyClick(name, Qt::Key_Return);
        QVERIFY(window_->noticeText().contains(QStringLiteral("flywheels")));
    }
};

GABARIT_WINDOW_SUITE(SurveyTest)
#include "survey_test.moc"
