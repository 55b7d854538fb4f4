// What was measured is never lost: kills, two windows on one file, changes by others, what was opened lately.
#include "bay/bay.h"
#include "forms/tones.h"
#include "model/edit.h"
#include "session/history_step.h"
#include "session/keeper.h"
#include "stages/place/place_stage.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/safe_file.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "window/project_card.h"
#include "window/start_page.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QMessageBox>
#include <QProcess>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>

#include <cerrno>
#include <cstdio>

using namespace gabarit;
using namespace gabarit::app;

namespace {

constexpr int keep_ms = 300;
constexpr int nudge_ms = 60;

void name() {
    QStandardPaths::setTestModeEnabled(true);
    QCoreApplication::setApplicationName(QStringLiteral("gabarit-keeping-test"));
    QCoreApplication::setOrganizationName(QStringLiteral("gabarit-test"));
}

/// Opens a file and nudges for ever, telling where the engine is.
int victim(const QString& file) {
    MainWindow window;
    window.keeper().setPatience(keep_ms);
    if (!window.open(file)) return 2;
    QTimer timer;
    QObject::connect(&timer, &QTimer::timeout, &window, [&window] {
        window.session().nudge({1, 0, 0});
        std::printf("%g\n", model::activePlacement(*window.session().project())->position_mm.x());
        std::fflush(stdout);
    });
    timer.start(nudge_ms);
    return QApplication::exec();
}

} // namespace

class KeepingTest : public QObject, tests::WindowHand {
    Q_OBJECT

    QTemporaryDir folder_;
    QString file_;

    /// The last place that a killed window told of.
    double killedAt(int nudges) {
        QProcess process;
        process.start(QCoreApplication::applicationFilePath(),
                      {QStringLiteral("KeepingTest"), QStringLiteral("--victim"), file_});
        QByteArray said;
        while (said.count('\n') < nudges && process.waitForReadyRead(tests::patience_ms)) said += process.readAll();
        process.kill(); // SIGKILL: nothing is tidied up
        process.waitForFinished();
        said += process.readAll();
        const QList<QByteArray> lines = said.trimmed().split('\n');
        return lines.isEmpty() ? 0 : lines.back().toDouble();
    }
    static double x(const model::Project& project) { return model::activePlacement(project)->position_mm.x(); }
    QByteArray bytes() {
        QFile file(file_);
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }

private slots:
    void init() {
        for (const Unfinished& work : Keeper::unfinished()) Keeper::throwAway(work);
        QSettings().clear();
        file_ = folder_.filePath(QStringLiteral("job.gabarit"));
        const auto demo =
            store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook());
        QVERIFY(store::writeProject(file_.toStdString(), demo.value().project));
    }
    void cleanup() {
        store::failWrites({});
        window_.reset();
    }

    /// After kill -9 in the middle of work at most the last seconds are gone, and the file is as it was.
    void killedInTheMiddleOfWork() {
        const QByteArray before = bytes();
        const double last = killedAt(40);
        QVERIFY(last >= 470 + 40);
        QCOMPARE(bytes(), before);
        const std::vector<Unfinished> all = Keeper::unfinished();
        QCOMPARE(all.size(), std::size_t(1));
        QCOMPARE(all[0].path, file_);

        openWindow();
        auto* take = window_->findChild<QPushButton*>(QStringLiteral("take_up"));
        QVERIFY(take && take->isVisible());
        QTest::mouseClick(take, Qt::LeftButton);
        QVERIFY(session().hasProject());
        // One nudge every 60 ms, kept at most 300 ms later: with a second for a busy machine.
        const double lost = last - x(project());
        QVERIFY2(lost >= 0 && lost <= (keep_ms + 1000.0) / nudge_ms, qPrintable(QString::number(lost)));
        QVERIFY(window_->isWindowModified());
        QCOMPARE(session().path(), file_);
        QVERIFY(Keeper::unfinished().empty()); // it is in this window now, and kept under its name
        QVERIFY(window_->save());              // its file is what it was when the work began
        QVERIFY(!window_->isWindowModified());
        const auto saved = store::readProject(file_.toStdString(), store::defaultRuleBook());
        QCOMPARE(x(saved.value().project), x(project()));
    }
    void keptWorkDoesNotOverwriteWhatCameLater() {
        killedAt(20);
        auto other = store::readProject(file_.toStdString(), store::defaultRuleBook()).value().project;
        other.name = "saved by somebody else";
        QVERIFY(store::writeProject(file_.toStdString(), other));
        openWindow();
        QVERIFY(window_->takeUp(Keeper::unfinished().at(0)));
        QVERIFY(!window_->save());
        QVERIFY(window_->noticeText().contains(QStringLiteral("changed")));
        QVERIFY(window_->saveTo(folder_.filePath(QStringLiteral("mine.gabarit"))));
        QVERIFY(bytes().contains("saved by somebody else"));
    }
    void workCanBeThrownAway() {
        killedAt(20);
        openWindow();
        auto* away = window_->findChild<QPushButton*>(QStringLiteral("throw_away"));
        QVERIFY(away && away->isVisible());
        QTest::mouseClick(away, Qt::LeftButton);
        QVERIFY(Keeper::unfinished().empty());
        QTRY_VERIFY(!window_->findChild<QPushButton*>(QStringLiteral("throw_away")));
    }
    void anOrderlyEndLeavesNothing() {
        openWindow();
        QVERIFY(window_->openDemo());
        session().nudge({1, 0, 0});
        window_->keeper().keepNow();
        QVERIFY(Keeper::unfinished().empty()); // of a window that lives
        QVERIFY(window_->saveTo(folder_.filePath(QStringLiteral("tidy.gabarit"))));
        session().nudge({1, 0, 0});
        window_->keeper().keepNow();
        window_.reset();
        QVERIFY(Keeper::unfinished().empty());
    }

    /// One change is enough, and undoing it leaves nothing to be kept.
    void aSingleChangeIsKept() {
        const QDir kept(QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) +
                        QStringLiteral("/unfinished"));
        const auto files = [&kept] { return kept.entryList({QStringLiteral("*.unfinished")}, QDir::Files).size(); };
        openWindow();
        window_->keeper().setPatience(keep_ms);
        QVERIFY(window_->open(file_));
        QTest::qWait(2 * keep_ms);
        QCOMPARE(files(), 0); // nothing has changed
        session().nudge({1, 0, 0});
        QTRY_COMPARE(files(), 1);
        session().history().undo();
        QTRY_COMPARE(files(), 0);
    }

    void theSameFileOpenTwice() {
        openWindow();
        QVERIFY(window_->open(file_));
        QVERIFY2(window_->noticeText().isEmpty(), qPrintable(window_->noticeText()));
        MainWindow second;
        QVERIFY(second.open(file_));
        QTRY_VERIFY(second.noticeText().contains(QStringLiteral("another window")));
        QVERIFY(second.openDemo());
        window_.reset(); // whoever has it open last is told nothing
        QVERIFY(second.open(file_));
        QTest::qWait(50);
        QVERIFY2(second.noticeText().isEmpty(), qPrintable(second.noticeText()));
    }
    void changesOutsideAreNoticed() {
        openWindow();
        QVERIFY(window_->open(file_));
        QVERIFY(window_->save()); // its own saving is no news
        QTest::qWait(200);
        QVERIFY(!window_->noticeText().contains(QStringLiteral("somebody")));
        auto other = store::readProject(file_.toStdString(), store::defaultRuleBook()).value().project;
        other.name = "changed outside";
        QVERIFY(store::writeProject(file_.toStdString(), other));
        QTRY_VERIFY(window_->noticeText().contains(QStringLiteral("changed by somebody else")));
        QVERIFY(QFile::remove(file_));
        QTRY_VERIFY(window_->noticeText().contains(QStringLiteral("taken away")));
        QVERIFY(project().name != "changed outside"); // what stands here stays
    }

    void whatWasOpenedLately() {
        openWindow();
        QVERIFY(window_->openDemo());
        settle();
        const QString first = folder_.filePath(QStringLiteral("first.gabarit"));
        QVERIFY(window_->saveTo(first));
        QVERIFY(window_->open(file_));
        QCOMPARE(StartPage::recent(), (QStringList{file_, first}));
        QVERIFY(window_->open(first));
        QCOMPARE(StartPage::recent(), (QStringList{first, file_}));
        QVERIFY(QFile::remove(file_));
        openWindow(); // a new one
        const auto buttons = window_->findChildren<ProjectCard*>(QStringLiteral("recent"));
        QCOMPARE(buttons.size(), 2);
        QVERIFY(buttons[0]->isEnabled() && buttons[0]->hasPicture() && buttons[0]->below().startsWith(QStringLiteral("Not yet")));
        QVERIFY(!buttons[1]->isEnabled() && buttons[1]->text().contains(QStringLiteral("not there")));
        QTest::mouseClick(buttons[0], Qt::LeftButton);
        QVERIFY(session().hasProject() && session().path() == first);
    }
    /// A disk that is full when the work is taken up: what was kept stays until it is kept anew.
    void onAFullDiskNothingKeptIsThrownAway() {
        killedAt(20);
        const Unfinished work = Keeper::unfinished().at(0);
        openWindow();
        window_->keeper().setPatience(keep_ms);
        store::failWrites([](const char* call) { return std::string(call) == "write" ? ENOSPC : 0; });
        QVERIFY(window_->takeUp(work));
        QVERIFY(QFile::exists(work.file));
        QVERIFY2(window_->noticeText().contains(QStringLiteral("not kept")) &&
                     window_->noticeText().contains(QStringLiteral("free some room")),
                 qPrintable(window_->noticeText()));
        QVERIFY(Keeper::unfinished().empty()); // it is this window's, not offered to another
        // As soon as there is room it is kept, and said, and the former copy goes.
        store::failWrites({});
        QTRY_VERIFY(!QFile::exists(work.file));
        QVERIFY(window_->noticeText().contains(QStringLiteral("kept against a crash again")));
        const QDir kept(QFileInfo(work.file).path());
        QCOMPARE(kept.entryList({QStringLiteral("*.unfinished")}, QDir::Files).size(), 1);
        session().nudge({1, 0, 0});
        QVERIFY(window_->keeper().keepNow());
        // Closed in good order without ever having been kept, it is offered again.
        window_.reset();
        QCOMPARE(kept.entryList({QStringLiteral("*.unfinished")}, QDir::Files).size(), 0);
        killedAt(20);
        const Unfinished again = Keeper::unfinished().at(0);
        openWindow();
        store::failWrites([](const char* call) { return std::string(call) == "create" ? ENOSPC : 0; });
        QVERIFY(window_->takeUp(again));
        window_.reset();
        store::failWrites({});
        QCOMPARE(Keeper::unfinished().size(), std::size_t(1));
    }
    void aFullDiskIsToldWhileOneWorks() {
        openWindow();
        window_->keeper().setPatience(keep_ms);
        QVERIFY(window_->open(file_));
        store::failWrites([](const char*) { return ENOSPC; });
        session().nudge({1, 0, 0});
        QTRY_VERIFY(window_->noticeText().contains(QStringLiteral("not kept")));
        QVERIFY(!window_->noticeText().contains(QStringLiteral("another window")));
        QVERIFY(!window_->save()); // saving fails too, and nothing is lost by it
        QVERIFY(window_->isWindowModified());
        store::failWrites({});
        QVERIFY(window_->save());
    }
    /// Wherever the program stands when it comes back.
    void aRelativePathIsTheSameFileLater() {
        const QString was = QDir::currentPath();
        QVERIFY(QDir::setCurrent(folder_.path()));
        openWindow();
        QVERIFY(window_->open(QStringLiteral("job.gabarit")));
        QVERIFY(QDir::setCurrent(was));
        QCOMPARE(QFileInfo(session().path()).canonicalFilePath(), QFileInfo(file_).canonicalFilePath());
        session().nudge({1, 0, 0});
        QVERIFY(window_->save());
        QVERIFY(bytes().contains("471"));
        QVERIFY(QDir::setCurrent(folder_.path()));
        QVERIFY(window_->saveTo(QStringLiteral("other.gabarit")));
        QVERIFY(QDir::setCurrent(was));
        QVERIFY(QDir::isAbsolutePath(session().path()));
    }
    /// The file itself is opened after a crash, not the start page.
    void openingTheFileOffersWhatWasKept() {
        killedAt(30);
        const auto answer = [this](const QString& words) {
            QTimer::singleShot(0, this, [words] {
                auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
                if (!box) qFatal("nothing is asked");
                for (QAbstractButton* button : box->buttons())
                    if (button->text().contains(words)) return button->click();
                qFatal("no such button");
            });
        };
        openWindow();
        answer(QStringLiteral("Cancel"));
        QVERIFY(!window_->open(file_));
        answer(QStringLiteral("as it was saved"));
        QVERIFY(window_->open(file_));
        QCOMPARE(x(project()), 470.0);
        QCOMPARE(Keeper::unfinished().size(), std::size_t(1)); // still there
        answer(QStringLiteral("Go on with it"));
        QVERIFY(window_->open(file_));
        QVERIFY(x(project()) > 480);
        QVERIFY(window_->isWindowModified() && Keeper::unfinished().empty());
        QVERIFY(window_->save());
        QVERIFY(window_->open(file_)); // nothing is asked any more
    }
    /// A long run of nudges back and forth again: old steps keep only what changed, and nothing is lost by it.
    void longHistoriesKeepWhatChanged() {
        openWindow();
        QVERIFY(window_->open(file_));
        std::vector<std::string> texts{store::projectText(project())};
        const int nudges =
            qEnvironmentVariableIsSet("GABARIT_NUDGES") ? qEnvironmentVariableIntValue("GABARIT_NUDGES") : 120;
        for (int i = 0; i < nudges; ++i) {
            if (i % 3 == 2)
                session().turn(model::Turn::Tail, 0.1);
            else
                session().nudge({1, 0.1, 0});
            texts.push_back(store::projectText(project()));
        }
        QTRY_VERIFY(session().packedSteps() >= nudges - 25);
        for (int i = nudges - 1; i >= 0; --i) {
            session().history().undo();
            QVERIFY2(store::projectText(project()) == texts[static_cast<std::size_t>(i)],
                     qPrintable(QString::number(i)));
        }
        QVERIFY(!window_->isWindowModified());
        for (int i = 1; i <= nudges; ++i) {
            session().history().redo();
            QVERIFY2(store::projectText(project()) == texts[static_cast<std::size_t>(i)],
                     qPrintable(QString::number(i)));
        }
        // Back to an old state and on from there.
        for (int i = 0; i < 100; ++i) session().history().undo();
        session().nudge({0, 0, 5});
        session().history().undo();
        QVERIFY(store::projectText(project()) == texts[static_cast<std::size_t>(nudges - 100)]);
    }
    void whatChangedIsSmall() {
        const std::string a = std::string(100000, 'x') + "1" + std::string(50000, 'y'),
                          b = std::string(100000, 'x') + "27" + std::string(50000, 'y');
        const TextChange change = TextChange::between(a, b);
        QVERIFY(change.middle.size() < 40);
        QVERIFY(change.appliedTo(a) == b);
        for (const auto& [from, to] : {std::pair<std::string, std::string>{"", "abc"},
                                       {"abc", ""},
                                       {"aaa", "aa"},
                                       {"aa", "aaa"},
                                       {"abcabc", "abc"},
                                       {"same", "same"}})
            QCOMPARE(TextChange::between(from, to).appliedTo(from), to);
        auto one = std::make_shared<model::Project>(), two = std::make_shared<model::Project>();
        one->name = "one", two->name = "two";
        HistoryStep step(one, two);
        QCOMPARE(step.before(*two), std::shared_ptr<const model::Project>(one));
        HistoryStep::Text last;
        step.pack(last);
        QVERIFY(step.packed() && step.bytes() > 0 && last.of == two);
        QCOMPARE(step.before(*two)->name, std::string("one"));
        QCOMPARE(step.after(*one)->name, std::string("two"));
        QVERIFY(!step.before(*one)); // from another state it leads nowhere
        step.letGo();
        QVERIFY(!step.before(*two) && step.bytes() == 0);
    }
    void aDonorToBeginWith() {
        openWindow();
        QVERIFY(window_->openDemo());
        const QString donor = folder_.filePath(QStringLiteral("six.gabarit-donor"));
        QVERIFY(session().saveDonor(donor));
        openWindow();
        QVERIFY(window_->openDonor(donor));
        QCOMPARE(project().donors.size(), std::size_t(1));
        QVERIFY(project().vehicle && project().vehicle->bodies.empty());
    }
};

namespace {
int keepingMain(int argc, char** argv) {
    QApplication application(argc, argv);
    name();
    if (argc == 3 && QByteArray(argv[1]) == "--victim") return victim(QString::fromLocal8Bit(argv[2]));
    dress(application);
    KeepingTest test;
    return QTest::qExec(&test, argc, argv);
}
} // namespace
GABARIT_SUITE_RUN_BY(KeepingTest, keepingMain)
#include "keeping_test.moc"
