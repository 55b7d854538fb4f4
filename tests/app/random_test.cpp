// A hand that knows nothing: random keys, clicks, drags, wheels and typed values over all stages and demos. It prints
// its seed. Nothing may crash, warn, or hold the window. GABARIT_ACTIONS, GABARIT_SEED, GABARIT_FILE (a project that is
// worked on and saved, for kill-rounds), GABARIT_LONGEST_TURN_MS (longer turns of the interface thread are failures; 0:
// told only): scripts/random-input.
#include "all_stages/all.h"
#include "bay/elevation_view.h"
#include "forms/tones.h"
#include "session/keeper.h"
#include "store/project_file.h"
#include "support/suite.h"
#include "support/window_hand.h"

#include <QAbstractItemView>
#include <QDir>
#include <QFile>
#include <QMenu>
#include <QMenuBar>
#include <QPointer>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTimer>

#include <atomic>
#include <cstdio>
#include <mutex>
#include <random>
#include <thread>

using namespace gabarit;
using namespace gabarit::app;

namespace {

int setting(const char* name, int otherwise) {
    bool ok = false;
    const int value = qEnvironmentVariableIntValue(name, &ok);
    return ok ? value : otherwise;
}

/// Says when the interface thread takes too long for one turn.
class TurnWatch {
public:
    TurnWatch() {
        beat_.callOnTimeout([this] { last_ms_ = now_ms(); });
        beat_.start(10);
        thread_ = std::thread([this] { watch(); });
    }
    ~TurnWatch() {
        leave_ = true;
        thread_.join();
    }
    void doing(const QString& what) {
        const std::lock_guard<std::mutex> lock(mutex_);
        doing_ = what;
    }
    struct Slow {
        long ms;
        QString doing;
    };
    std::vector<Slow> slow() const {
        const std::lock_guard<std::mutex> lock(mutex_);
        return slow_;
    }

private:
    static long now_ms() {
        return static_cast<long>(
            std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::steady_clock::now().time_since_epoch())
                .count());
    }
    void watch() {
        constexpr long long_ms = 1000;
        long told = 0; // the beat of which it was told already
        while (!leave_) {
            std::this_thread::sleep_for(std::chrono::milliseconds(20));
            const long last = last_ms_, age = now_ms() - last;
            if (age < long_ms) continue;
            const std::lock_guard<std::mutex> lock(mutex_);
            if (told != last) slow_.push_back({age, doing_});
            told = last;
            slow_.back().ms = age;
        }
    }

    QTimer beat_;
    std::atomic<long> last_ms_{now_ms()};
    std::atomic<bool> leave_{false};
    mutable std::mutex mutex_;
    QString doing_;
    std::vector<Slow> slow_;
    std::thread thread_;
};

std::mutex warnings_mutex;
QStringList warnings;
void listen(QtMsgType type, const QMessageLogContext&, const QString& text) {
    if (type == QtDebugMsg || type == QtInfoMsg) return;
    const std::lock_guard<std::mutex> lock(warnings_mutex);
    // The display of the tests knows no window manager and no input method.
    if (!text.startsWith(QLatin1String("QXcb")) && !text.startsWith(QLatin1String("qt.qpa"))) warnings << text;
}

double memory_mb() {
    QFile file(QStringLiteral("/proc/self/statm"));
    if (!file.open(QIODevice::ReadOnly)) return 0;
    constexpr double page_mb = 4096.0 / (1 << 20);
    return file.readAll().split(' ').value(1).toDouble() * page_mb;
}

} // namespace

class RandomTest : public QObject, tests::WindowHand {
    Q_OBJECT

    std::mt19937 random_;
    QString file_;
    TurnWatch* watch_ = nullptr;

    int any(int count) { return count <= 0 ? 0 : static_cast<int>(random_() % static_cast<unsigned>(count)); }
    bool chance(int percent) { return any(100) < percent; }
    template <class T>
    T of(const std::vector<T>& all) {
        return all[static_cast<std::size_t>(any(static_cast<int>(all.size())))];
    }
    QPoint placeIn(const QWidget* widget) { return {any(widget->width()), any(widget->height())}; }
    void doing(const QString& what) {
        watch_->doing(what);
        if (qEnvironmentVariableIsSet("GABARIT_TELL")) std::fprintf(stderr, "%s\n", qPrintable(what));
    }

    /// Dialogs and menus get a key or two, then they go: what they would do with files is tried elsewhere.
    void answerWhatIsOpen() {
        for (int i = 0; i < 5; ++i) {
            QWidget* open = QApplication::activePopupWidget();
            if (!open) open = QApplication::activeModalWidget();
            if (!open) return;
            if (chance(30)) QTest::keyClick(open, of<Qt::Key>({Qt::Key_Down, Qt::Key_Tab, Qt::Key_Up, Qt::Key_A}));
            if (qobject_cast<QMenu*>(open) == nullptr && chance(50)) {
                for (auto* button : open->findChildren<QPushButton*>())
                    if (button->isVisible() && button->isEnabled() && chance(40) && !qobject_cast<QFileDialog*>(open)) {
                        button->click();
                        break;
                    }
            }
            if (open->isVisible()) QTest::keyClick(open, Qt::Key_Escape);
            QCoreApplication::processEvents();
        }
    }
    std::vector<QWidget*> inSight() {
        std::vector<QWidget*> out;
        for (auto* widget : window_->findChildren<QWidget*>()) {
            if (!widget->isVisible() || !widget->isEnabled() || widget->visibleRegion().isEmpty()) continue;
            if (qobject_cast<QAbstractButton*>(widget) || qobject_cast<QLineEdit*>(widget) ||
                qobject_cast<QComboBox*>(widget) || qobject_cast<QAbstractSpinBox*>(widget) ||
                qobject_cast<QAbstractItemView*>(widget) || qobject_cast<QAbstractSlider*>(widget) ||
                qobject_cast<ElevationView*>(widget))
                out.push_back(widget);
        }
        return out;
    }
    QString someText() {
        return of<QString>({"12",
                            "12,5",
                            "-3 1/4 in",
                            "1e999",
                            "abc",
                            "",
                            "0",
                            "1' 2 3/8\"",
                            "999999999",
                            "-0.001",
                            "3.5°",
                            "1,234",
                            "80 kg",
                            "∞",
                            "ß İ ı 漢 \xF0\x9F\x94\xA7",
                            QString(3000, QLatin1Char('9')),
                            "5/0",
                            "=1+1",
                            "2026-11-29",
                            "..",
                            "245/75R16",
                            "\t",
                            "-",
                            "1e-300",
                            "100000"});
    }
    void act() {
        const int what = any(100);
        QWidget* focus = QApplication::focusWidget();
        if (!focus || !window_->isAncestorOf(focus)) focus = window_.get();
        if (what < 30) {
            const Qt::Key key = of<Qt::Key>(
                {Qt::Key_Left, Qt::Key_Right,   Qt::Key_Up,     Qt::Key_Down,  Qt::Key_PageUp,      Qt::Key_PageDown,
                 Qt::Key_Tab,  Qt::Key_Backtab, Qt::Key_Return, Qt::Key_Space, Qt::Key_Delete,      Qt::Key_Backspace,
                 Qt::Key_Home, Qt::Key_End,     Qt::Key_Escape, Qt::Key_A,     Qt::Key_R,           Qt::Key_N,
                 Qt::Key_5,    Qt::Key_Minus,   Qt::Key_Plus,   Qt::Key_Comma, Qt::Key_BracketLeft, Qt::Key_F2,
                 Qt::Key_F3,   Qt::Key_F4,      Qt::Key_F5,     Qt::Key_F6,    Qt::Key_F7});
            const auto with = of<Qt::KeyboardModifiers>({Qt::NoModifier, Qt::NoModifier, Qt::NoModifier,
                                                         Qt::ShiftModifier, Qt::ControlModifier, Qt::AltModifier});
            doing(QStringLiteral("key %1 with %2 in %3")
                      .arg(key, 0, 16)
                      .arg(static_cast<int>(with), 0, 16)
                      .arg(focus->metaObject()->className()));
            QTest::keyClick(focus, key, with);
        } else if (what < 40) {
            doing(QStringLiteral("undo and redo"));
            for (int i = any(6); i >= 0; --i)
                QTest::keyClick(window_.get(), Qt::Key_Z,
                                Qt::ControlModifier | (chance(40) ? Qt::ShiftModifier : Qt::NoModifier));
        } else if (what < 75) {
            const auto all = inSight();
            if (all.empty()) return;
            QWidget* widget = of(all);
            QWidget* at = widget;
            if (auto* area = qobject_cast<QAbstractScrollArea*>(widget)) at = area->viewport();
            const auto* button = qobject_cast<QAbstractButton*>(widget);
            doing(QStringLiteral("click %1 %2 %3")
                      .arg(widget->metaObject()->className(), widget->objectName(),
                           button ? button->text().simplified() : QString()));
            if (auto* line = qobject_cast<QLineEdit*>(widget); line && chance(80)) {
                line->setFocus();
                line->selectAll();
                const QString text = someText();
                doing(QStringLiteral("type %1 into %2").arg(text.left(40), widget->objectName()));
                for (const QChar c : text.left(60)) QTest::keyClick(line, c.toLatin1() > 31 ? c.toLatin1() : 'x');
                if (text.size() > 60) line->insert(text.mid(60));
                QTest::keyClick(line, of<Qt::Key>({Qt::Key_Return, Qt::Key_Tab, Qt::Key_Escape}));
            } else if (chance(10)) {
                const QPointer<QWidget> still = at;
                QTest::mouseDClick(at, Qt::LeftButton, {}, placeIn(at)); // which leaves it pressed
                if (still) QTest::mouseRelease(at, Qt::LeftButton, {}, placeIn(at));
            } else {
                QTest::mouseClick(at, chance(90) ? Qt::LeftButton : Qt::RightButton, {}, placeIn(at));
            }
        } else if (what < 87) {
            std::vector<ElevationView*> views;
            for (auto* view : window_->findChildren<ElevationView*>())
                if (view->isVisible()) views.push_back(view);
            if (views.empty()) return;
            ElevationView* view = of(views);
            doing(QStringLiteral("drag in %1").arg(view->objectName()));
            const Qt::MouseButton button = chance(80) ? Qt::LeftButton : Qt::MiddleButton;
            QTest::mousePress(view, button, {}, placeIn(view));
            for (int i = any(5); i >= 0; --i) {
                const QPointF to = placeIn(view);
                QMouseEvent move(QEvent::MouseMove, to, view->mapToGlobal(to), Qt::NoButton, button, {});
                QApplication::sendEvent(view, &move);
                if (chance(20)) QTest::keyClick(view, Qt::Key_Escape);
            }
            QTest::mouseRelease(view, button, {}, placeIn(view));
        } else if (what < 92) {
            const QPointF at(any(window_->width()), any(window_->height()));
            QWidget* under = window_->childAt(at.toPoint());
            if (!under) return;
            doing(QStringLiteral("wheel over %1").arg(under->metaObject()->className()));
            const QPointF there = under->mapFrom(window_.get(), at);
            QWheelEvent wheel(there, under->mapToGlobal(there), {}, {0, chance(50) ? 120 : -360}, {}, {},
                              Qt::NoScrollPhase, false);
            QApplication::sendEvent(under, &wheel);
        } else if (what < 97) {
            const auto& stages = allStages();
            const StagePlug* stage = stages[static_cast<std::size_t>(any(static_cast<int>(stages.size())))];
            doing(QStringLiteral("stage %1").arg(QLatin1String(stage->id)));
            window_->goToStage(QLatin1String(stage->id));
        } else if (what < 98) {
            doing(QStringLiteral("another size"));
            window_->resize(of<QSize>({{1280, 800}, {853, 533}, {1600, 1000}}));
        } else if (!file_.isEmpty()) {
            if (chance(80)) return; // most of the time something is left to be kept
            doing(QStringLiteral("save"));
            window_->saveTo(file_);
        } else {
            doing(QStringLiteral("another project"));
            window_->openDemo(any(3));
        }
    }

private slots:
    void nothingBreaks() {
        const int actions = setting("GABARIT_ACTIONS", 400), longest_ms = setting("GABARIT_LONGEST_TURN_MS", 0);
        const auto seed = static_cast<unsigned>(setting("GABARIT_SEED", 20261129));
        file_ = qEnvironmentVariable("GABARIT_FILE");
        std::fprintf(stderr, "random input: seed %u, %d actions\n", seed, actions);
        random_.seed(seed);
        QTemporaryDir folder; // what a dialog might write goes there
        const QString was = QDir::currentPath();
        QVERIFY(QDir::setCurrent(folder.path()));
        warnings.clear();
        const QtMessageHandler before = qInstallMessageHandler(listen);
        TurnWatch watch;
        watch_ = &watch;
        // What opens a loop of its own (a dialog, a menu) is answered from inside it.
        QTimer answers;
        answers.callOnTimeout([this] {
            if (QApplication::activePopupWidget() || QApplication::activeModalWidget()) answerWhatIsOpen();
        });
        answers.start(60);
        openWindow();
        if (file_.isEmpty())
            QVERIFY(window_->openDemo());
        else
            QVERIFY(window_->open(file_));
        if (!file_.isEmpty()) window_->keeper().setPatience(300);
        settle();
        const double first_mb = memory_mb();
        double most_mb = first_mb;
        for (int i = 0; i < actions; ++i) {
            act();
            QTest::qWait(any(10) == 0 ? 120 : 1);
            if (!window_->isVisible()) window_->show();            // it was closed
            for (QWidget* other : QApplication::topLevelWidgets()) // help pages, sheets
                if (other->isVisible() && other != window_.get() && chance(10)) other->close();
            most_mb = std::max(most_mb, memory_mb());
        }
        doing(QStringLiteral("settling"));
        answers.stop();
        if (session().hasProject()) {
            settle();
            const std::string text = store::projectText(project());
            const auto again = store::projectAsWritten(text); // what came of it can be written and read
            QVERIFY2(again.ok(), again.ok() ? "" : again.error().line().c_str());
            QVERIFY(store::projectText(again.value()) == text);
        }
        std::fprintf(stderr, "memory %.0f MB at first, %.0f at most, %.0f at the end; %zu turns over a second\n",
                     first_mb, most_mb, memory_mb(), watch.slow().size());
        for (const TurnWatch::Slow& slow : watch.slow())
            std::fprintf(stderr, "%ld ms: %s\n", slow.ms, qPrintable(slow.doing));
        window_.reset();
        qInstallMessageHandler(before);
        QVERIFY(QDir::setCurrent(was));
        QVERIFY2(warnings.isEmpty(), qPrintable(warnings.join(QLatin1Char('\n'))));
        if (longest_ms > 0)
            for (const TurnWatch::Slow& slow : watch.slow()) QVERIFY2(slow.ms <= longest_ms, qPrintable(slow.doing));
    }
};

GABARIT_WINDOW_SUITE(RandomTest)
#include "random_test.moc"
