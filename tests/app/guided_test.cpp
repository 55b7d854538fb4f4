// A new user with a sheet of tape readings: the first survey in the window, the tape pad, the notebook, bundles.
#include "bay/bay.h"
#include "fit/fit_report.h"
#include "model/edit.h"
#include "model/tape.h"
#include "parts/parts.h"
#include "stages/parts/parts_stage.h"
#include "stages/survey/guided_page.h"
#include "stages/survey/survey_drawing.h"
#include "stages/survey/survey_stage.h"
#include "stages/survey/tape_mode.h"
#include "stages/survey/tape_pad.h"
#include "store/bundle.h"
#include "store/first_survey.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "survey/survey.h"
#include "window/start_page.h"

#include <QCheckBox>
#include <QImage>
#include <QLabel>
#include <QListWidget>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>

using namespace gabarit;
using namespace gabarit::app;

class GuidedTest : public QObject, tests::WindowHand {
    Q_OBJECT

    SurveyStage* survey() { return window_->stage<SurveyStage>(); }
    GuidedPage* guided() { return survey()->guided(); }
    void type(const char* field, const QString& text) { WindowHand::type(survey()->form(), field, text); }
    void pick(const char* field, const QString& words) { WindowHand::pick(survey()->form(), field, words); }
    void press(const char* name) { WindowHand::press(survey()->button(QString::fromLatin1(name))); }
    /// Types into whatever field has the cursor, and presses Return.
    void answer(const QString& text) {
        QWidget* focus = nullptr;
        QTRY_VERIFY((focus = QApplication::focusWidget()) && qobject_cast<QLineEdit*>(focus));
        const QString before = focus->objectName();
        QTest::keyClicks(focus, text);
        QTest::keyClick(focus, Qt::Key_Return);
        QTRY_VERIFY(!QApplication::focusWidget() || QApplication::focusWidget()->objectName() != before ||
                    guided()->isHidden());
    }
    void newGuided() {
        window_->newProject();
        survey()->showGuided(true);
    }
    QString asked() { return guided()->questions()->currentItem()->data(Qt::UserRole).toString(); }
    const model::Body& body(const char* owner, const char* id) {
        const model::Body* found = model::findBody(project(), {owner, {id}});
        if (!found) qFatal("no body %s/%s", owner, id);
        return *found;
    }
    bool has(const std::string& finding) {
        settle();
        for (const study::Finding& f : session().reports()->findings)
            if (f.id == finding) return true;
        return false;
    }

private slots:
    void init() { openWindow(); }
    void cleanup() { window_.reset(); }

    void twentyReadingsFromTheKeyboardToAVerdict() {
        auto* page = window_->findChild<StartPage*>();
        WindowHand::press(page->findChild<QPushButton*>("new_swap"));
        QTRY_VERIFY(survey()->tapeMode()->isVisible());
        WindowHand::press(survey()->tapeMode()->key("leave"));
        QTRY_VERIFY(guided()->isVisible());
        guided()->ask(0);
        QCOMPARE(asked(), QStringLiteral("firewall"));
        answer("520"); // and on to the rails
        for (const char* figure : {"760", "480", "55", "90"}) answer(QString::fromLatin1(figure));
        QCOMPARE(asked(), QStringLiteral("crossmember"));
        for (const char* figure : {"80", "60", "470", "390"}) answer(QString::fromLatin1(figure));
        answer("1010"); // bonnet
        QVERIFY(project().donors.empty());
        for (const char* figure : {"21 1/4 in", "390", "60"}) answer(QString::fromLatin1(figure)); // an inch tape
        for (const char* figure : {"560", "210", "200", "20", "250", "640", "180"}) answer(QString::fromLatin1(figure));
        // Twenty in; the figures stand where they belong.
        QVERIFY(model::stillNeeded(project(), store::firstSurvey()).empty());
        const auto& donor = project().donors.front();
        QCOMPARE(std::get<model::BoxSpec>(body(donor.id.text.c_str(), "engine-block-and-heads").shape).size_mm.x(),
                 21.25 * 25.4);
        QCOMPARE(body("vehicle", "front-crossmember").position_mm.z(), 430.0);
        QCOMPARE(body("vehicle", "front-crossmember").measured.method, model::Method::Assumed); // its width is
        WindowHand::press(guided()->button("verdict"));
        settle();
        QVERIFY(session().reports()->asked);
        QVERIFY(session().reports()->with<fit::FitReport>().clearance->reason.empty());
        // Each answer is one step that undo names.
        QVERIFY2(session().history().undoText().startsWith("read: "), qPrintable(session().history().undoText()));
        const int steps = session().history().count();
        QCOMPARE(steps, 20);
        session().history().undo();
        QVERIFY(!model::surveyValue(project(), store::firstSurvey(), "bell_length").answered);
    }

    void skippedAndComeBackTo() {
        newGuided();
        QVERIFY(guided()->isVisible());
        QVERIFY(!guided()->button("verdict")->isEnabled()); // nothing hangs yet
        guided()->ask(0);
        WindowHand::press(guided()->button("skip"));
        QCOMPARE(asked(), QStringLiteral("rails"));
        WindowHand::press(guided()->button("back"));
        QCOMPARE(asked(), QStringLiteral("firewall"));
        auto* field = guided()->form()->findChild<QLineEdit*>("firewall_x");
        QVERIFY(field->text().isEmpty());
        QVERIFY2(field->placeholderText().contains("450"), qPrintable(field->placeholderText())); // assumed, and said
        answer("500");
        guided()->ask(0);
        QCOMPARE(guided()->form()->findChild<QLineEdit*>("firewall_x")->text(), QStringLiteral("500.0 mm"));
        // Emptied it is assumed again.
        WindowHand::type(guided()->form(), "firewall_x", QString());
        QVERIFY(!model::surveyValue(project(), store::firstSurvey(), "firewall_x").answered);
    }

    void whatCannotBeIsRefusedInPlace() {
        newGuided();
        guided()->ask(2);
        answer("80");
        WindowHand::type(guided()->form(), "cross_rear", "-200");
        QVERIFY2(window_->noticeText().contains("rear face"), qPrintable(window_->noticeText()));
        QCOMPARE(asked(), QStringLiteral("crossmember")); // it has to be mended first
        WindowHand::type(guided()->form(), "cross_top", "half a metre");
        QVERIFY(window_->noticeText().contains("half a metre"));
    }

    void everyQuestionHasADrawingThatShowsItsReading() {
        newGuided();
        const model::FirstSurvey& all = store::firstSurvey();
        for (std::size_t i = 0; i < all.questions.size(); ++i) {
            const model::SurveyQuestion& question = all.questions[i];
            QVERIFY2(SurveyDrawing::known().contains(QString::fromStdString(question.drawing)), question.id.c_str());
            guided()->ask(static_cast<int>(i));
            QCoreApplication::processEvents();
            // The arrow of the entry in hand changes the picture: it is drawn, and inside of it.
            bool arrows = false;
            for (const auto& entry : question.entries) arrows = arrows || entry.arrow.size() == 2;
            if (!arrows) continue;
            guided()->drawing()->setActive(QString());
            const QImage without = guided()->drawing()->grab().toImage();
            guided()->drawing()->setActive(QString::fromStdString(question.entries[0].id));
            if (question.entries[0].arrow.size() == 2)
                QVERIFY2(guided()->drawing()->grab().toImage() != without, question.id.c_str());
        }
    }

    void aRunOnTheTapePad() {
        newGuided();
        guided()->ask(2);
        for (const char* figure : {"80", "60", "470"}) answer(QString::fromLatin1(figure));
        survey()->showKind(SurveyKind::Readings);
        TapePad* pad = survey()->pad();
        QVERIFY(pad->isVisible());
        pad->direction()->setCurrentIndex(0); // rearward
        emit pad->direction()->activated(0);
        QTableWidget* table = pad->table();
        QCOMPARE(table->rowCount(), 3); // front, rear, and a new one
        QCOMPARE(table->item(0, 0)->text(), QStringLiteral("Front crossmember: front face"));
        QCOMPARE(table->item(0, 1)->text(), QStringLiteral("−80.0 mm"));
        // A point is made at the firewall, then the tape is hooked there and run forward.
        table->item(2, 0)->setText("Firewall seam");
        table->item(2, 2)->setText("500");
        QCOMPARE(project().vehicle->hard_points.size(), std::size_t(1));
        QCOMPARE(project().vehicle->hard_points[0].at_mm.x(), 500.0);
        pad->hook()->setCurrentIndex(1);
        emit pad->hook()->activated(1);
        pad->direction()->setCurrentIndex(1); // forward
        emit pad->direction()->activated(1);
        const auto rowOf = [&](const QString& words) {
            for (int r = 0; r < table->rowCount(); ++r)
                if (table->item(r, 0)->text() == words) return r;
            return -1;
        };
        const int rear = rowOf("Front crossmember: rear face");
        QCOMPARE(table->item(rear, 1)->text(), QStringLiteral("440.0 mm"));
        table->item(rear, 2)->setText("17 1/2 in");
        const model::Tape& tape = body("vehicle", "front-crossmember").tape;
        QVERIFY(std::abs(model::findReading(tape, "rear")->mm - (500 - 17.5 * 25.4)) < 1e-9);
        QCOMPARE(model::findReading(tape, "rear")->measured.method, model::Method::Measured);
        QVERIFY(!table->item(rear, 2)->text().contains("17")); // ready for the next
        table->item(rear, 2)->setText("2000");                 // its rear would be ahead of its front
        QVERIFY2(window_->noticeText().contains("rear face"), qPrintable(window_->noticeText()));
        // The reading's own page: accuracy, method, who.
        QListWidget* list = survey()->list();
        list->setCurrentRow(0);
        type("accuracy_mm", "1.5");
        type("who", "N.");
        type("note", "to the weld's edge");
        const auto place = readingPlace(list->currentItem()->data(Qt::UserRole).toString());
        const model::Reading* reading =
            model::findReading(body("vehicle", "front-crossmember").tape, place->what, place->station);
        QCOMPARE(*reading->accuracy_mm, 1.5);
        QCOMPARE(reading->measured.who, std::string("N."));
        QCOMPARE(reading->note, std::string("to the weld's edge"));
    }

    void draggedByHandTheReadingsFollow() {
        newGuided();
        guided()->ask(2);
        for (const char* figure : {"80", "60", "470"}) answer(QString::fromLatin1(figure));
        model::Project changed = project();
        model::findBody(changed, {"vehicle", {"front-crossmember"}})->position_mm.x() += 10;
        session().change("drag", std::move(changed));
        QCOMPARE(model::findReading(body("vehicle", "front-crossmember").tape, "rear")->mm, 70.0);
        // A body's own form shows its readings, and another way of taking it.
        survey()->choose({"vehicle", {"front-crossmember"}});
        QVERIFY(survey()->form()->findChild<QLineEdit*>("reading_rear"));
        QVERIFY(!survey()->form()->findChild<QLineEdit*>("size_mm_x"));
        type("reading_top", "500");
        QCOMPARE(body("vehicle", "front-crossmember").position_mm.z(), (500 + 470 - 80 - 50) / 2.0 + 25);
        pick("tape_way", "by its measures, not by readings");
        QVERIFY(survey()->form()->findChild<QLineEdit*>("size_mm_x"));
        QVERIFY(!body("vehicle", "front-crossmember").tape.bound());
    }

    void theNotebook() {
        QVERIFY(window_->openDemo());
        window_->goToStage(QStringLiteral("survey"));
        survey()->showKind(SurveyKind::Areas);
        QVERIFY(survey()->list()->count() >= 12);
        const auto state = [&] { return survey::surveyState(project(), store::defaultRuleBook()).areas[0].state; };
        survey()->list()->setCurrentRow(0);
        pick("state", "open");
        QCOMPARE(state(), model::AreaState::Open);
        QVERIFY(has("survey:open"));
        pick("state", "surveyed");
        QCOMPARE(state(), model::AreaState::Done);
        survey()->showKind(SurveyKind::Found);
        press("new");
        type("name", "Left rail at the steering box");
        type("at_mm_x", "120");
        QVERIFY(has("condition:" + project().conditions.back().id));
        survey()->form()->findChild<QCheckBox*>("mended")->click();
        QVERIFY(!has("condition:" + project().conditions.back().id));
        survey()->showKind(SurveyKind::Outgoing);
        press("new");
        type("mm", "700");
        settle();
        QVERIFY(survey()->form()->findChild<QLabel*>("new_one")->text().contains("The new one:"));
        survey()->showKind(SurveyKind::Rooms);
        press("new");
        type("name", "Behind the lamp");
        for (const char* side : {"size_mm_x", "size_mm_y", "size_mm_z"}) type(side, "400");
        type("accuracy_mm", "3");
        const std::string room = project().vehicle->free_volumes.back().id;
        // A part is offered the room, and goes in.
        model::Project changed = project();
        changed.sections.edit<model::Parts>().front().size_mm = Eigen::Vector3d(300, 200, 100);
        const model::PartId part = changed.sections.edit<model::Parts>().front().id;
        session().change("size", std::move(changed));
        settle();
        window_->goToStage(QStringLiteral("parts"));
        const auto& searches = session().reports()->with<fit::FitReport>().free_room.searches;
        const auto search =
            std::find_if(searches.begin(), searches.end(), [&](const auto& s) { return s.part == part; });
        QVERIFY(search != searches.end());
        const auto offered = std::find_if(search->offers.begin(), search->offers.end(),
                                          [&](const fit::HomeOffer& o) { return o.volume == room; });
        QCOMPARE(offered->spare_mm, 100.0);
        // What was made can be taken out again; a part whose home goes has none.
        changed = project();
        changed.sections.edit<model::Parts>().front().home = room;
        session().change("home", std::move(changed));
        window_->goToStage(QStringLiteral("survey"));
        press("delete");
        QVERIFY(project().sections.get<model::Parts>()->front().home.empty());
        session().history().undo();
        QCOMPARE(project().sections.get<model::Parts>()->front().home, room);
    }

    void aPictureLiesBesideTheProjectAndTravelsInABundle() {
        QTemporaryDir folder;
        const QString path = folder.filePath("van.gabarit");
        newGuided();
        guided()->ask(0);
        answer("520");
        QVERIFY(window_->saveTo(path));
        QImage image(40, 30, QImage::Format_RGB32);
        image.fill(Qt::darkCyan);
        QVERIFY(image.save(folder.filePath("photo.png")));
        const auto taken = store::takePicture(path.toStdString(), folder.filePath("photo.png").toStdString());
        model::Project changed = project();
        model::Body* firewall = model::findBody(changed, {"vehicle", {"firewall"}});
        firewall->measured.picture = taken.value().name;
        firewall->measured.picture_sha256 = taken.value().sha256;
        session().change("a picture", std::move(changed));
        survey()->choose({"vehicle", {"firewall"}});
        auto* shown = survey()->form()->findChild<QLabel*>("picture_shown");
        QVERIFY(shown && !shown->pixmap(Qt::ReturnByValue).isNull());
        QVERIFY(window_->saveTo(path));
        QVERIFY(window_->packBundle(folder.filePath("sent/van.gabaritz")) == false); // no such folder: said, not made
        QVERIFY(window_->noticeText().contains("not packed"));
        QTemporaryDir other;
        QVERIFY(window_->packBundle(other.filePath("van.gabaritz")));
        QVERIFY(window_->noticeText().contains("with one picture"));
        QVERIFY(window_->open(other.filePath("van.gabaritz")));
        QCOMPARE(session().path(), other.filePath("van.gabarit"));
        QVERIFY(QFile::exists(other.filePath("van.files/photo.png")));
        // Saved under another name, its pictures come along.
        QVERIFY(window_->saveTo(other.filePath("second.gabarit")));
        QVERIFY(QFile::exists(other.filePath("second.files/photo.png")));
    }
};

GABARIT_WINDOW_SUITE(GuidedTest)
#include "guided_test.moc"
