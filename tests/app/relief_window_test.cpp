// Relief in the window: a pocket cut for what is in the way, dragged, restored, set aside, signed, undone; tubes and
// plates made and printed.
#include "fit/fit_report.h"
#include "forms/tones.h"
#include "parts/parts.h"
#include "relief/apply.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "stages/relief/relief_stage.h"
#include "stages/relief/relief_view.h"
#include "support/suite.h"
#include "support/window_hand.h"

#include <QComboBox>
#include <QDir>
#include <QListWidget>
#include <QMenu>
#include <QRegularExpression>
#include <QSet>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>

using namespace gabarit;
using namespace gabarit::app;

class ReliefWindowTest : public QObject, tests::WindowHand {
    Q_OBJECT

    ReliefStage* stage() { return window_->stage<ReliefStage>(); }
    const model::Relief& relief() { return *project().sections.get<model::Relief>(); }
    const relief::PocketReport& report() { return session().reports()->of<relief::ReliefReport>()->pockets.front(); }
    QPushButton* button(const char* name) {
        for (QPushButton* b : stage()->findChildren<QPushButton*>(QString::fromLatin1(name)))
            if (b->isVisibleTo(stage())) return b;
        return nullptr;
    }
    void pressNamed(const char* name) {
        QTRY_VERIFY2(button(name), name);
        press(button(name));
    }
    void act(const char* name) {
        auto* menu = stage()->findChild<QMenu*>();
        emit menu->aboutToShow();
        QAction* action = nullptr;
        for (QAction* a : menu->actions())
            if (a->objectName() == QLatin1String(name)) action = a;
        QVERIFY2(action, name);
        action->trigger();
    }
    /// Gap of sump and crossmember as the reports have it.
    double gap() {
        for (const auto& pair : session().reports()->with<fit::FitReport>().clearance->pairs)
            if ((pair.a.body.text == "sump" && pair.b.body.text == "crossmember") ||
                (pair.a.body.text == "front-sump" && pair.b.body.text == "front-crossmember"))
                return pair.gap.gap_mm;
        return 1e9;
    }
    /// A crossmember with a sump in its way and little else, or the Tarn: without what is cut in it.
    void openRelief(bool tarn = false) {
        QVERIFY(tarn ? window_->openDemo()
                     : window_->open(QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/relief-bench.gabarit")));
        settle();
        model::Project without = project();
        without.sections.drop<model::Relief>();
        session().change(QStringLiteral("without relief"), std::move(without));
        settle();
        window_->goToStage(QStringLiteral("relief"));
        settle();
    }
    void propose() {
        act("for:crossmember");
        QTRY_VERIFY_WITH_TIMEOUT(!stage()->searching() && project().sections.get<model::Relief>(), 60000);
        settle();
    }

private slots:
    void init() { openWindow(); }
    void cleanup() { window_.reset(); }

    void aStepOutlivesTheMenuItCameFrom() {
        openRelief();
        const NextStep step = stage()->nextStep(*session().reports());
        QVERIFY(step.act);
        emit stage()->findChild<QMenu*>()->aboutToShow(); // "New" is filled anew
        session().change(QStringLiteral("another name"), [this] {
            model::Project named = project();
            named.name = "Another";
            return named;
        }());
        settle();
        step.act(); // as a bar does that was not yet told
        QTRY_VERIFY_WITH_TIMEOUT(!stage()->searching() && project().sections.get<model::Relief>(), 60000);
        QVERIFY(!relief().pockets.empty());
        settle();
    }

    void aPocketForWhatIsInTheWay() {
        openRelief();
        QVERIFY(gap() < 0);
        const double before = gap();
        const int steps = session().history().index();
        propose();
        QCOMPARE(session().history().index(), steps + 1);
        QCOMPARE(relief().pockets.size(), std::size_t(1));
        QCOMPARE(stage()->key(), QStringLiteral("pocket:") + QString::fromStdString(relief().pockets[0].id));
        QVERIFY2(gap() >= 10, qPrintable(QString::number(gap()))); // the gap counts with it
        QVERIFY(stage()->words().contains(QStringLiteral("kg out")));
        QVERIFY(stage()->checks()->rowCount() >= 4);
        QStringList told; // each without the pocket's own name
        for (int row = 0; row < stage()->checks()->rowCount(); ++row) told << stage()->checks()->item(row, 0)->text();
        QVERIFY2(!told.filter(QRegularExpression(QStringLiteral("^To Lower arm, "))).isEmpty(),
                 qPrintable(told.join(QLatin1Char('\n'))));
        QVERIFY(!told.filter(QRegularExpression(QStringLiteral("^Section moduli"))).isEmpty());
        // Set aside: the overlap is back; counted again: gone.
        pressNamed("aside");
        settle();
        QVERIFY(std::abs(gap() - before) < 0.5);
        pressNamed("aside");
        settle();
        QVERIFY(gap() >= 10);
        pressNamed("delete");
        settle();
        QVERIFY(std::abs(gap() - before) < 0.5);
        session().history().undo();
        settle();
        QVERIFY(gap() >= 10);
    }

    void waysSideBySide() {
        openRelief(true);
        act("ways:front-crossmember");
        QTRY_VERIFY_WITH_TIMEOUT(!stage()->searching() && button("answer:0"), 120000);
        QStringList texts;
        for (int i = 0; button(qPrintable(QStringLiteral("answer:%1").arg(i))); ++i)
            texts << button(qPrintable(QStringLiteral("answer:%1").arg(i)))->toolTip();
        QVERIFY2(texts.filter(QStringLiteral(" up:")).size() == 1, qPrintable(texts.join(QLatin1Char('\n'))));
        QVERIFY(texts.filter(QStringLiteral("Sump: deep at the rear")).size() == 1);
        QVERIFY(texts.filter(QStringLiteral("section")).size() == 1);
        QVERIFY(!project().sections.get<model::Relief>()); // nothing is taken yet
        pressNamed(qPrintable(QStringLiteral("answer:%1").arg(texts.size() - 1)));
        settle();
        QCOMPARE(relief().pockets.size(), std::size_t(1));
        QVERIFY(gap() >= 10);
        QVERIFY(!button("answer:0")); // they were of the project before
        // Its plates are a part, and weigh what they weigh when a field changes them.
        const auto part = [this] {
            for (const model::Part& p : *project().sections.get<model::Parts>())
                if (p.id.text == relief().pockets[0].part) return p;
            return model::Part();
        };
        QVERIFY(part().mass_kg);
        const double before_kg = (part().on_car == model::OnCar::On ? 1 : -1) * *part().mass_kg;
        const int steps = session().history().index();
        stage()->choose(QStringLiteral("pocket:") + QString::fromStdString(relief().pockets[0].id));
        settle();
        type(stage()->form(), "plate_mm", QStringLiteral("12"));
        settle();
        QCOMPARE(session().history().index(), steps + 1);
        QVERIFY((part().on_car == model::OnCar::On ? 1 : -1) * *part().mass_kg > before_kg + 0.5);
    }

    void otherFiguresAlongIt() {
        openRelief();
        propose();
        auto* along = stage()->view()->findChild<QComboBox*>(QStringLiteral("relief_along"));
        QVERIFY(along && along->isVisible());
        QCOMPARE(along->count(), print::along_count);
        const relief::Station& s = session().reports()->of<relief::ReliefReport>()->pockets[0].stations[6];
        QCOMPARE(print::valueAlong(print::Along::Area, s.cut, s.before), s.cut.area_mm2 / s.before.area_mm2);
        QCOMPARE(print::valueAlong(print::Along::Shift, s.before, s.before), 0.0);
        QVERIFY(print::valueAlong(print::Along::LeastModulus, s.closed, s.before) <=
                print::valueAlong(print::Along::Top, s.closed, s.before));
        QSet<QByteArray> drawn; // of the curves alone, below the list; left and right may be alike
        ReliefView* view = stage()->view();
        const QRect curves(0, static_cast<int>(view->lengthwiseBox().bottom()) + 45, view->width(), view->height());
        for (int i = 0; i < along->count(); ++i) {
            along->setCurrentIndex(i);
            const QImage image = view->grab(curves & view->rect()).toImage().convertToFormat(QImage::Format_RGB32);
            drawn.insert(QByteArray(reinterpret_cast<const char*>(image.constBits()), image.sizeInBytes()));
        }
        QVERIFY2(drawn.size() >= along->count() - 3, qPrintable(QString::number(drawn.size())));
    }

    void draggedByItsBottomAndEnd() {
        openRelief();
        propose();
        const model::Pocket was = relief().pockets[0];
        ReliefView* view = stage()->view();
        const QPoint bottom = view->toWidget({0, -was.depth_mm}).toPoint();
        const QPoint deeper = view->toWidget({0, -was.depth_mm - 5}).toPoint();
        QTest::mousePress(view, Qt::LeftButton, {}, bottom);
        QTest::mouseMove(view, deeper);
        QTest::mouseRelease(view, Qt::LeftButton, {}, deeper);
        settle();
        const double depth = relief().pockets[0].depth_mm;
        QVERIFY2(std::abs(depth - was.depth_mm - 5) <= 2, qPrintable(QString::number(depth)));
        const QPoint end = view->toWidget({was.length_mm / 2, -was.depth_mm / 2}).toPoint();
        const QPoint longer = view->toWidget({was.length_mm / 2 + 12, -was.depth_mm / 2}).toPoint();
        QTest::mousePress(view, Qt::LeftButton, {}, end);
        QTest::mouseMove(view, longer);
        QTest::mouseRelease(view, Qt::LeftButton, {}, longer);
        settle();
        const model::Pocket now = relief().pockets[0];
        QVERIFY(now.length_mm > was.length_mm + 7);
        // The other end stays where it was.
        const double shift = (now.at_mm - was.at_mm).dot(was.along.normalized());
        QVERIFY(std::abs(shift - (now.length_mm - was.length_mm) / 2) < 1e-6);
        session().history().undo();
        session().history().undo();
        settle();
        QCOMPARE(relief().pockets[0].depth_mm, was.depth_mm);
    }

    void typedAndRestored() {
        openRelief();
        act("pocket");
        settle();
        QCOMPARE(relief().pockets[0].body.text, std::string("crossmember"));
        type(stage()->form(), "depth_mm", QStringLiteral("1/4 in"));
        settle();
        QVERIFY(std::abs(relief().pockets[0].depth_mm - 6.35) < 1e-9);
        type(stage()->form(), "corner_mm", QStringLiteral("4"));
        settle();
        QVERIFY2(report().reason.empty(), report().reason.c_str());
        QVERIFY(report().strength.share < 1 && report().restoring);
        pressNamed("restore");
        settle();
        QVERIFY(report().strength.share >= 1 - 1e-9);
        // Refused: what was typed stays, and nothing changed.
        type(stage()->form(), "depth_mm", QStringLiteral("-3"));
        QVERIFY(std::abs(relief().pockets[0].depth_mm - 6.35) < 1e-9);
    }

    void signedStepByStep() {
        openRelief();
        act("pocket");
        settle();
        type(stage()->form(), "depth_mm", QStringLiteral("12"));
        type(stage()->form(), "corner_mm", QStringLiteral("6"));
        settle();
        pressNamed("sign:0");
        settle();
        pressNamed("sign:1");
        settle();
        QVERIFY(report().holds[1].holds);
        QVERIFY(!button("sign:0"));
        type(stage()->form(), "depth_mm", QStringLiteral("14"));
        settle();
        QVERIFY(!report().holds[0].holds); // the pocket it was signed for is another one now
        QVERIFY(button("sign:0"));
    }

    void tubeAndPlateAndTemplates() {
        openRelief();
        act("tube");
        settle();
        pick(stage()->form(), "first_onto", QStringLiteral("a tube"));
        settle();
        QVERIFY(relief().tubes[0].first.onto == model::EndOnto::Tube);
        QVERIFY(!session().reports()->of<relief::ReliefReport>()->tubes[0].made); // its diameter is still to come
        type(stage()->form(), "first_diameter_mm", QStringLiteral("60"));
        settle();
        QVERIFY(session().reports()->of<relief::ReliefReport>()->tubes[0].made);
        QVERIFY(stage()->words().contains(QStringLiteral("long point")));
        act("plate");
        settle();
        QCOMPARE(relief().plates.size(), std::size_t(1));
        QVERIFY(stage()->words().contains(QStringLiteral("kg")));
        act("hole");
        settle();
        QCOMPARE(relief().holes.size(), std::size_t(1));
        const QTemporaryDir folder;
        QVERIFY(window_->print(QStringLiteral("templates"), folder.path()));
        QVERIFY(QFile::exists(folder.filePath(QStringLiteral("templates-a4.pdf"))));
        QVERIFY(QDir(folder.path()).entryList({QStringLiteral("*.dxf")}).size() >= 1);
    }

    void findingsLeadThere() {
        openRelief();
        act("pocket");
        settle();
        type(stage()->form(), "depth_mm", QStringLiteral("70"));
        settle();
        window_->goToStage(QStringLiteral("place"));
        std::string finding;
        for (const auto& f : session().reports()->findings)
            if (f.discipline == "relief") finding = f.id;
        QVERIFY(!finding.empty());
        window_->goToStage(QStringLiteral("relief"));
        stage()->leadTo(QString::fromStdString(finding));
        QVERIFY(stage()->key().startsWith(QStringLiteral("pocket:")));
    }
};

GABARIT_WINDOW_SUITE(ReliefWindowTest)
#include "relief_window_test.moc"
