// What was measured is never lost: kills, two windows on one file, changes by others, what was opened lately.
#include "bay/bay.h"
#include "model/edit.h"
#include "shell/keeper.h"
#include "shell/start_page.h"
#include "shell/tones.h"
#include "stages/place/place_stage.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "support/window_hand.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>
#include <QToolButton>

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
    void cleanup() { window_.reset(); }

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
        const auto buttons = window_->findChildren<QToolButton*>(QStringLiteral("recent"));
        QCOMPARE(buttons.size(), 2);
        QVERIFY(buttons[0]->isEnabled() && !buttons[0]->icon().isNull());
        QVERIFY(!buttons[1]->isEnabled() && buttons[1]->text().contains(QStringLiteral("not there")));
        QTest::mouseClick(buttons[0], Qt::LeftButton);
        QVERIFY(session().hasProject() && session().path() == first);
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
