// The frame of the window: strip, rail, the page with every check; the same counts in all; what is remembered.
#include "all_stages/all.h"
#include "bay/bay.h"
#include "discipline/finding.h"
#include "parts/parts.h"
#include "session/lookout.h"
#include "stages/place/findings_list.h"
#include "stages/place/place_stage.h"
#include "stages/place/pose_fields.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/commands.h"
#include "window/gauge_strip.h"
#include "window/next_bar.h"
#include "window/project_card.h"
#include "window/rail.h"
#include "window/why_picture.h"

#include <QAbstractButton>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMenuBar>
#include <QSettings>
#include <QTemporaryDir>
#include <QTextBlock>
#include <QTextBrowser>
#include <QWheelEvent>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;
using discipline::Group;

class FrameTest : public QObject, private tests::WindowHand {
    Q_OBJECT

    static std::vector<quantity::Shown> unitsToTry() {
        std::vector<quantity::Shown> out;
        for (const char* id : unit_ids)
            if (QLatin1String(id) != QLatin1String("32")) out.push_back(*unitsOf(QLatin1String(id)));
        return out;
    }
    /// Words of the strip fit into it: nothing is cut, nor elided.
    void stripIsWhole() {
        for (const Group group : discipline::all_groups) {
            const GaugeButton* gauge = window_->gauges()->gauge(group);
            if (!gauge) continue;
            const QFontMetrics metrics(gauge->font());
            for (const QString& words : gauge->shownWords()) {
                QVERIFY2(metrics.horizontalAdvance(words) <= gauge->width(), qPrintable(words));
                QVERIFY2(!words.contains(QChar(0x2026)), qPrintable(words));
            }
        }
        int end = 0;
        for (const QWidget* child : window_->gauges()->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly))
            if (child->isVisible()) end = std::max(end, child->geometry().right());
        QVERIFY(end <= window_->gauges()->width());
    }

    void stepsGlanceIsEmpty() {
        QTest::keyClick(window_.get(), Qt::Key_F4);
        QVERIFY(window_->glance()->isVisible() && window_->glance()->rows().empty());
    }

    QTemporaryDir folder_; ///< settings of its own: another suite may run beside it

private slots:
    void initTestCase() { QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, folder_.path()); }
    void init() {
        QSettings().clear();
        openWindow();
    }
    void cleanup() { window_.reset(); }

    void theSameCountsEverywhere() {
        for (const int which : {0, 1, 2}) {
            QVERIFY(window_->openDemo(which));
            settle();
            const int all = static_cast<int>(session().reports()->findings.size());
            int on_rail = 0;
            for (const char* id : {"survey", "place", "relief", "mounts", "driveline", "weights", "parts", "rules"}) {
                const RailEntry* entry = window_->rail()->entry(QLatin1String(id));
                QVERIFY2(entry && !entry->state().isEmpty(), id);
                on_rail += entry->state().contains(QLatin1Char(' ')) ? 0 : entry->state().toInt();
            }
            QCOMPARE(on_rail, all);
            QTest::keyClick(window_.get(), Qt::Key_F4);
            QVERIFY(window_->glance()->isVisible());
            int open = 0;
            for (const GlanceRow* row : window_->glance()->rows()) open += row->finding().number > 0;
            QCOMPARE(open, all);
            const study::Counts counts = study::countsOf(*session().reports());
            QCOMPARE(window_->gauges()->total()->counts(), QString::fromStdString(study::countWords(counts)));
            QTest::keyClick(window_.get(), Qt::Key_F4); // and back to where one was
            QVERIFY(!window_->glance()->isVisible());
        }
    }

    void oneNumberOnCardAndRow() {
        QVERIFY(window_->openDemo());
        settle();
        std::map<std::string, int> numbers;
        for (const FindingCard* card : window_->stage<PlaceStage>()->findings()->cards())
            numbers[card->finding().id] = card->finding().number;
        QVERIFY(!numbers.empty());
        QTest::keyClick(window_.get(), Qt::Key_F4);
        int last = 0;
        Group group = Group::Gaps;
        for (const GlanceRow* row : window_->glance()->rows()) {
            if (row->finding().number == 0) continue;
            QCOMPARE(row->finding().number, numbers[row->finding().id]);
            // Within a group the worst comes first.
            if (row->finding().group == group) QVERIFY(row->finding().number > last);
            group = row->finding().group;
            last = row->finding().number;
        }
    }

    /// F6 opens the sum of what is pointed at, and it leads on from there.
    void whyThisNumber() {
        QVERIFY(window_->openDemo());
        settleAdvised();
        QTest::keyClick(window_.get(), Qt::Key_N); // points at the first
        const std::string pointed = window_->lookout().selected();
        QVERIFY(!pointed.empty());
        QTest::keyClick(window_.get(), Qt::Key_F6);
        QVERIFY(window_->glance()->isVisible() && window_->glance()->why());
        const WhyPanel* why = window_->glance()->why();
        QVERIFY(!why->picture()->why().lines.empty());
        QVERIFY(why->words().contains(QStringLiteral("Short by 21.7 mm: no-go.")));
        QVERIFY2(why->picture()->accessibleName().contains(QStringLiteral("Wanted 12.0 mm")),
                 qPrintable(why->picture()->accessibleName()));
        // What it says is tried from there, and undone.
        const Eigen::Vector3d before = placement().position_mm;
        press(why->tryButton());
        QVERIFY((placement().position_mm - before).norm() > 1);
        session().history().undo();
        QVERIFY((placement().position_mm - before).norm() == 0);
        settle();
        press(window_->glance()->why()->showButton());
        QCOMPARE(window_->shownId(), QStringLiteral("place"));
        QCOMPARE(window_->lookout().selected(), pointed);
        // The card's own button leads to the same.
        for (QPushButton* button :
             window_->stage<PlaceStage>()->findings()->cards().front()->findChildren<QPushButton*>())
            if (button->text() == QStringLiteral("Why?")) press(button);
        QVERIFY(window_->glance()->isVisible() && window_->glance()->why());
    }

    void rowsOpenByKeysAndOneAtATime() {
        QVERIFY(window_->openDemo());
        settle();
        QTest::mouseClick(window_->gauges()->gauge(Group::HoldAndDrive), Qt::LeftButton);
        QVERIFY(window_->glance()->isVisible());
        QTRY_VERIFY(qobject_cast<GlanceRow*>(QApplication::focusWidget())); // the group's first row
        auto* row = qobject_cast<GlanceRow*>(QApplication::focusWidget());
        QVERIFY(row->finding().group == Group::HoldAndDrive);
        QTest::keyClick(row, Qt::Key_Space);
        QVERIFY(row->isChecked() && window_->glance()->why());
        const GlanceRow* other = openRow("weights:front");
        QVERIFY(other && other->isChecked() && !row->isChecked());
        QVERIFY(window_->glance()->why()->words().contains(QStringLiteral("to spare: go.")));
        QTest::mouseClick(const_cast<GlanceRow*>(other), Qt::LeftButton);
        QVERIFY(!other->isChecked() && !window_->glance()->why());
    }

    /// Every page says one thing to do, and F5 does it.
    void oneNextStep() {
        QVERIFY(window_->openDemo());
        settleAdvised();
        for (const char* id :
             {"survey", "place", "relief", "mounts", "driveline", "weights", "parts", "rules", "glance"}) {
            window_->goToStage(QLatin1String(id));
            QVERIFY2(window_->next()->isVisible() && !window_->next()->words().isEmpty(), id);
            QVERIFY2(window_->next()->button()->isVisible(), id);
        }
        // Where it hangs: the move that leaves fewer no-go gaps than there are.
        window_->goToStage(QStringLiteral("place"));
        QCOMPARE(window_->next()->button()->text().section(QLatin1Char(' '), 0, 1), QStringLiteral("Try it"));
        const auto gaps = [this] {
            int out = 0;
            for (const study::Finding& f : session().reports()->findings)
                out += f.id.rfind("gap:", 0) == 0 && f.verdict == model::Verdict::NoGo;
            return out;
        };
        const int before = gaps();
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QVERIFY(session().history().undoText().startsWith(QStringLiteral("try ")));
        settle();
        QVERIFY(gaps() < before);
        session().history().undo();
        settle();
        // Too dear: nothing of it can be chosen in the list of parts, so its sum is shown.
        model::Project dear = project();
        dear.sections.edit<model::Parts>().front().cost = 1e6;
        session().change(QStringLiteral("dearer"), std::move(dear));
        settle();
        window_->goToStage(QStringLiteral("parts"));
        QVERIFY(window_->next()->words().startsWith(QStringLiteral("The parts cost more than the budget")));
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QVERIFY(window_->glance()->isVisible() && window_->glance()->why());
        QVERIFY(window_->glance()->why()->words().contains(QStringLiteral("too much: no-go.")));
        session().history().undo();
        settle();
        // Nothing is open in the rules: on to what is.
        window_->goToStage(QStringLiteral("rules"));
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QCOMPARE(window_->shownId(), QStringLiteral("survey"));
    }

    /// What was not given is not begun, nowhere "nothing open" or "go", and each page says where to begin.
    void nothingGivenIsNotBegun() {
        window_->newProject();
        settle();
        for (const char* id : {"survey", "place", "mounts", "driveline", "weights", "parts"}) {
            const RailEntry* entry = window_->rail()->entry(QLatin1String(id));
            QVERIFY2(entry->state() == QStringLiteral("not begun"), qPrintable(entry->state()));
            QVERIFY(!entry->mark());
        }
        QCOMPARE(window_->gauges()->total()->headline(), QStringLiteral("Nothing to judge yet"));
        for (const Group group : discipline::all_groups)
            if (const GaugeButton* gauge = window_->gauges()->gauge(group)) QVERIFY(!gauge->verdict());
        window_->goToStage(QStringLiteral("place"));
        QVERIFY(window_->next()->isVisible());
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QCOMPARE(window_->shownId(), QStringLiteral("survey"));
        window_->goToStage(QStringLiteral("mounts"));
        QVERIFY(window_->next()->words().startsWith(QStringLiteral("Nothing is given here yet")));
        stepsGlanceIsEmpty();
    }

    void onlyWhatIsOpen() {
        QVERIFY(window_->openDemo());
        settle();
        QTest::keyClick(window_.get(), Qt::Key_F4);
        window_->glance()->showAll(false);
        QCOMPARE(window_->glance()->rows().size(), session().reports()->findings.size());
        window_->glance()->showAll(true);
        QVERIFY(window_->glance()->rows().size() > session().reports()->findings.size());
    }

    void groupsFoldAndAreRemembered() {
        QVERIFY(window_->openDemo());
        settle();
        Rail* rail = window_->rail();
        QVERIFY(rail->entry(QStringLiteral("mounts"))->isVisible());
        QTest::mouseClick(rail->tab(StageGroup::HoldAndDrive), Qt::LeftButton);
        QVERIFY(!rail->entry(QStringLiteral("mounts"))->isVisible());
        QCOMPARE(rail->folded().size(), 1);
        const QString path = folder_.filePath(QStringLiteral("frame.gabarit"));
        QVERIFY(window_->saveTo(path));
        window_->goToStage(QStringLiteral("weights"));
        session().setShown(*unitsOf(QStringLiteral("16")));
        window_->setGeometry(QRect(20, 30, 1100, 700));
        QVERIFY(window_->close());
        QCOMPARE(QSettings().value(QStringLiteral("units")).toString(), QStringLiteral("16"));
        openWindow();
        window_->restoreLook(true);
        QCOMPARE(window_->size(), QSize(1100, 700));
        QVERIFY(window_->open(path));
        QCOMPARE(window_->shownId(), QStringLiteral("weights"));
        QVERIFY(!window_->rail()->entry(QStringLiteral("mounts"))->isVisible());
        // A window that was larger than today's screen stands within it.
        QSettings().setValue(QStringLiteral("window/place"), QRect(4000, -200, 9000, 5000));
        window_->restoreLook(true);
        const QRect screen = window_->screen()->availableGeometry();
        QVERIFY(screen.contains(window_->geometry()));
        QFile::remove(path);
    }

    void theSmallWindow() {
        QVERIFY(window_->openDemo());
        settle();
        window_->resize(853, 533);
        QCoreApplication::processEvents();
        QVERIFY(window_->rail()->narrow());
        QVERIFY(window_->gauges()->height() < 50);
        stripIsWhole();
        QVERIFY(window_->gauges()->gauge(Group::Gaps)); // the worst
        QVERIFY(!window_->gauges()->gauge(Group::Loads));
        // A tab has a menu of its stages.
        QTest::mouseClick(window_->rail()->tab(StageGroup::HoldAndDrive), Qt::LeftButton);
        QMenu* menu = window_->rail()->findChild<QMenu*>();
        QVERIFY(menu && menu->actions().size() == 2);
        menu->actions().last()->trigger();
        menu->close();
        QCOMPARE(window_->shownId(), QStringLiteral("driveline"));
        window_->resize(1280, 800);
        QCoreApplication::processEvents();
        QVERIFY(!window_->rail()->narrow() && window_->gauges()->gauge(Group::Loads));
    }

    void nothingInTheStripIsCut() {
        for (const int which : {0, 1, 2}) {
            QVERIFY(window_->openDemo(which));
            for (const quantity::Shown& shown : unitsToTry()) {
                session().setShown(shown);
                settle();
                for (const QSize& size : {QSize(1280, 800), QSize(853, 533), QSize(1000, 700)}) {
                    window_->resize(size);
                    QCoreApplication::processEvents();
                    stripIsWhole();
                }
            }
        }
    }

    /// What the start page says of the examples is how they stand; Return opens one.
    void theExamplesStandAsItSays() {
        for (const char* name : {"open_demo", "open_second_demo", "open_third_demo"}) {
            auto* card = window_->findChild<ProjectCard*>(QString::fromLatin1(name));
            QVERIFY2(card && card->isVisible(), name);
            const QString stands = card->below().section(QLatin1Char('\n'), 0, 0);
            card->setFocus();
            QTest::keyClick(card, Qt::Key_Return);
            QVERIFY(session().hasProject());
            settle();
            QCOMPARE(stands, standsWords(*session().reports()));
            window_.reset();
            openWindow();
        }
        // The page begins with the keyboard on what is begun most.
        QVERIFY(QApplication::focusWidget());
        QCOMPARE(QApplication::focusWidget()->objectName(), QStringLiteral("new_swap"));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
        QVERIFY(session().hasProject());
    }

    /// A click into a field selects all of it; what is typed then may be a sum.
    void aFieldAddsUp() {
        QVERIFY(window_->openDemo());
        settle();
        QLineEdit* x = window_->stage<PlaceStage>()->pose()->field(QStringLiteral("x"));
        QTest::mouseClick(x, Qt::LeftButton, {}, QPoint(30, x->height() / 2));
        QCOMPARE(x->selectedText(), x->text());
        QTest::keyClicks(x, QStringLiteral("450+12.5 back"));
        QTest::keyClick(x, Qt::Key_Return);
        QCOMPARE(placement().position_mm.x(), 462.5);
        // A second click puts the cursor where it is clicked.
        QTest::mouseClick(x, Qt::LeftButton, {}, QPoint(30, x->height() / 2));
        QTest::qWait(QApplication::doubleClickInterval() + 50);
        QTest::mouseClick(x, Qt::LeftButton, {}, QPoint(30, x->height() / 2));
        QVERIFY(!x->hasSelectedText());
    }

    /// A stage that is gone to by its key has the keyboard; the wheel over a drop-down scrolls the page.
    void keysAndWheelGoWhereOneIs() {
        QVERIFY(window_->openDemo());
        settle();
        int at = 0;
        for (const StagePlug* plug : allStages()) {
            QTest::keyClick(window_.get(), static_cast<Qt::Key>(Qt::Key_1 + at++), Qt::AltModifier);
            QCOMPARE(window_->shownId(), QLatin1String(plug->id));
            const QWidget* focus = QApplication::focusWidget();
            QVERIFY2(focus && window_->shownStage()->isAncestorOf(focus), plug->id);
        }
        window_->goToStage(QStringLiteral("place"));
        window_->stage<PlaceStage>()->bay()->view(Elevation::Side)->setFocus();
        QComboBox* school = window_->stage<PlaceStage>()->school();
        const int row = school->currentIndex();
        QWheelEvent wheel(QPointF(10, 10), school->mapToGlobal(QPointF(10, 10)), {}, {0, -120}, Qt::NoButton,
                          Qt::NoModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(school, &wheel);
        QCOMPARE(school->currentIndex(), row);
    }

    /// F2 knows what things are called elsewhere, says what it did not find, and offers the nearest.
    void askedInOtherWords_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("found");
        for (const auto& [typed, found] :
             {std::pair("clearance", "In the way"), std::pair("driveshaft", "Driveline"), std::pair("price", "Parts"),
              std::pair("notch", "Pockets"), std::pair("limits", "Rules"), std::pair("inches", "Millimetres"),
              std::pair("explain", "Why this number?"), std::pair("dark", "Evening"), std::pair("mountz", "Mounts"),
              std::pair("wieghts", "Weights")})
            QTest::newRow(typed) << QString::fromLatin1(typed) << QString::fromLatin1(found);
    }
    void askedInOtherWords() {
        QFETCH(QString, typed);
        QFETCH(QString, found);
        QVERIFY(window_->openDemo());
        settle();
        QTest::keyClick(window_.get(), Qt::Key_F2);
        auto* finder = window_->findChild<CommandFinder*>();
        QVERIFY(finder);
        QTest::keyClicks(finder->line(), typed);
        bool there = false;
        for (int i = 0; i < finder->list()->count(); ++i)
            there = there || finder->list()->item(i)->text().contains(found, Qt::CaseInsensitive);
        QVERIFY2(there, qPrintable(typed));
        const bool typo = typed == QStringLiteral("mountz") || typed == QStringLiteral("wieghts");
        QCOMPARE(finder->said().contains(QStringLiteral("Nothing that can be done is called")), typo);
        finder->close();
    }

    void whatIsNotThereIsSaid() {
        QVERIFY(window_->openDemo());
        settle();
        QTest::keyClick(window_.get(), Qt::Key_F2);
        auto* finder = window_->findChild<CommandFinder*>();
        QTest::keyClicks(finder->line(), QStringLiteral("qqqqxx"));
        QCOMPARE(finder->list()->count(), 0);
        QVERIFY(finder->said().contains(QStringLiteral("qqqqxx")));
        // The help is found by what it says, and opened there.
        finder->line()->clear();
        QTest::keyClicks(finder->line(), QStringLiteral("runout"));
        QVERIFY(finder->list()->count() > 0 && finder->list()->item(0)->text().startsWith(QStringLiteral("Help")));
        QTest::keyClick(finder->line(), Qt::Key_Return);
        const auto page = [this] {
            for (QTextBrowser* text : window_->findChildren<QTextBrowser*>())
                if (text->isVisible()) return text;
            return static_cast<QTextBrowser*>(nullptr);
        };
        QTRY_VERIFY(page() && page()->textCursor().hasSelection());
        QVERIFY(page()->textCursor().block().text().contains(QStringLiteral("runout")));
    }

    void likenessOfWords() {
        QCOMPARE(likeness(QStringLiteral("mounts"), QStringLiteral("Mounts")), 1.0);
        QCOMPARE(likeness(QStringLiteral("wieghts"), QStringLiteral("weights")), 1 - 1.0 / 7); // two letters swapped
        QCOMPARE(likeness(QStringLiteral("mountz"), QStringLiteral("mounts")), 1 - 1.0 / 6);
        QCOMPARE(likeness(QStringLiteral("abc"), QStringLiteral("xyz")), 0.0);
        for (const auto& [a, b] : {std::pair("sump", "bump"), std::pair("gearbox", "gear"), std::pair("a", "ab")})
            QCOMPARE(likeness(QString::fromLatin1(a), QString::fromLatin1(b)),
                     likeness(QString::fromLatin1(b), QString::fromLatin1(a)));
    }

    void lessIsSaidInWholeWords() {
        const QFontMetrics metrics(QApplication::font());
        const QString words = QStringLiteral("Gearbox crossmember: its seat stands aside, by a lot");
        for (const int width : {400, 300, 200, 150, 90, 60}) {
            const QString less = lessWords(words, metrics, width);
            QVERIFY(metrics.horizontalAdvance(less) <= width);
            if (less.endsWith(QChar(0x2026))) { // the first word alone is too long
                QVERIFY(!less.contains(QLatin1Char(' ')));
                continue;
            }
            QVERIFY(words.startsWith(less));
            // It ends where a word ends.
            QVERIFY(less.size() == words.size() || !words.at(less.size()).isLetter());
        }
        QCOMPARE(withSigns(QStringLiteral("48.0 mm, at least 32.0 mm")), QStringLiteral("48.0 mm, ≥ 32.0 mm"));
    }
};

GABARIT_WINDOW_SUITE(FrameTest)
#include "frame_test.moc"
