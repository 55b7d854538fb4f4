// A project of 2,000 bodies beside the demo: opened from its file, and under the hand in the window.
#include "large_project.h"

#include "forms/tones.h"
#include "model/edit.h"
#include "session/session.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "window/main_window.h"

#include <benchmark/benchmark.h>

#include <QAbstractEventDispatcher>
#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QStandardPaths>
#include <QTimer>

#include <cstdlib>
#include <filesystem>
#include <random>

#include <unistd.h>

namespace {

using namespace gabarit;

constexpr std::size_t many_bodies = 2000;

const std::string& demoPath() {
    static const std::string path = GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit";
    return path;
}

} // namespace

/// The demo with small boxes strewn over the vehicle, the engine too, until it has 2,000 bodies. The seed is fixed.
const std::string& gabarit::bench::largePath() {
    static const std::string path = [] {
        model::Project project = store::readProject(demoPath(), store::defaultRuleBook()).value().project;
        std::mt19937 seeded(5);
        const auto between = [&](double low, double high) {
            return std::uniform_real_distribution<double>(low, high)(seeded);
        };
        const std::vector<model::Body> kinds = project.vehicle->bodies;
        std::size_t donors = 0;
        for (const model::Donor& donor : project.donors) donors += donor.bodies.size();
        while (project.vehicle->bodies.size() + donors < many_bodies) {
            model::Body body = kinds[static_cast<std::size_t>(between(0, static_cast<double>(kinds.size()) - 0.5))];
            if (body.closing || body.category == "ground") continue;
            body.tape = {};
            body.name = "Extra";
            body.id.text = "extra-" + std::to_string(project.vehicle->bodies.size());
            // Small parts, as found: clips, brackets, bosses.
            body.standing = model::Standing::Found;
            body.shift_mm.setZero();
            body.may = {};
            body.shape = model::BoxSpec{{between(10, 60), between(10, 60), between(10, 60)}};
            body.angles = {};
            body.position_mm = {between(-600, 3600), between(-800, 800), between(200, 1100)};
            project.vehicle->bodies.push_back(std::move(body));
        }
        const std::string file =
            (std::filesystem::temp_directory_path() / ("gabarit-bench-" + std::to_string(::getpid()) + ".gabarit"));
        if (!store::writeProject(file, project)) std::abort();
        return file;
    }();
    return path;
}

namespace {

using bench::largePath;

void openFile(benchmark::State& state, const std::string& path) {
    for (auto _ : state) {
        auto read = store::readProject(path, store::defaultRuleBook());
        if (!read) state.SkipWithError("it was not read");
        benchmark::DoNotOptimize(read);
    }
}

QApplication& application() {
    static int count = 1;
    static char name[] = "gabarit-bench";
    static char* arguments[] = {name, nullptr};
    static QApplication* app = [] {
        QStandardPaths::setTestModeEnabled(true);
        auto* made = new QApplication(count, arguments); // lives until the process ends
        app::dress(*made);
        return made;
    }();
    return *app;
}

/// The longest that the interface thread is away in one turn of its loop, and the time from a nudge to the drawing that
/// shows it. What the time per iteration says is the latter.
void nudge(benchmark::State& state, const std::string& path) {
    if (!std::getenv("DISPLAY")) {
        state.SkipWithError("no display: run it under scripts/with-display");
        return;
    }
    application();
    app::MainWindow window;
    window.resize(1280, 800);
    window.show();
    if (!window.open(QString::fromStdString(path))) {
        state.SkipWithError("it was not opened");
        return;
    }
    app::Session& session = window.session();
    // How long the interface thread is at work before it waits again.
    double longest_ms = 0;
    QElapsedTimer busy;
    const auto* dispatcher = QAbstractEventDispatcher::instance();
    QObject watch;
    QObject::connect(dispatcher, &QAbstractEventDispatcher::awake, &watch, [&] { busy.start(); });
    QObject::connect(dispatcher, &QAbstractEventDispatcher::aboutToBlock, &watch, [&] {
        if (busy.isValid()) longest_ms = std::max(longest_ms, static_cast<double>(busy.nsecsElapsed()) / 1e6);
        busy.invalidate();
    });
    const auto waitUntil = [](auto done) {
        while (!done()) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    };
    const auto drawn = [&] { return session.picture() && session.picture()->project == session.project(); };
    waitUntil([&] { return drawn() && session.reports(); });
    // Ways out of hundreds of overlaps are looked for in the background, and take their time.
    session.stopSearch();
    longest_ms = 0;
    double way_mm = 1;
    for (auto _ : state) {
        session.nudge({way_mm, 0, 0});
        way_mm = -way_mm;
        waitUntil(drawn);
        QCoreApplication::processEvents(); // and painted
    }
    state.counters["longest_turn_ms"] = longest_ms;
}

/// When the reports of a project were painted, of those that came last.
class Painted : public QObject {
public:
    QElapsedTimer since;
    std::shared_ptr<const model::Project> follows, last;
    double last_ms = 0;

protected:
    bool event(QEvent* event) override {
        if (event->type() == QEvent::User) {
            if (last != follows) last_ms = static_cast<double>(since.nsecsElapsed()) / 1e6;
            last = follows;
        }
        return QObject::event(event);
    }
};

/// One nudge of a window that has come to rest: from the key to the drawing of the new place (to_drawing_ms), to the
/// gaps that belong to it, painted as callouts and gauges (the time per iteration; the list follows), and to the last
/// figure (to_last_ms). `judged`: how many disciplines the nudge asked, live and at rest.
void nudgeToGaps(benchmark::State& state, const std::string& path) {
    if (!std::getenv("DISPLAY")) {
        state.SkipWithError("no display: run it under scripts/with-display");
        return;
    }
    application();
    app::MainWindow window;
    window.resize(1280, 800);
    window.show();
    if (!window.open(QString::fromStdString(path))) {
        state.SkipWithError("it was not opened");
        return;
    }
    app::Session& session = window.session();
    const auto waitUntil = [](auto done) {
        while (!done()) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    };
    const auto ofThisPlace = [&](const auto& what) { return what && what->project == session.project(); };
    bool settled = false;
    QObject::connect(&session, &app::Session::settled, &window, [&] { settled = true; });
    const auto quiet = [&] { return ofThisPlace(session.reports()) && settled; };
    waitUntil(quiet);
    Painted painted;
    QObject::connect(&session, &app::Session::reportsChanged, &painted, [&] {
        painted.follows = session.reports()->project;
        QCoreApplication::postEvent(&painted, new QEvent(QEvent::User), Qt::LowEventPriority); // as painting is
    });
    double way_mm = 1, to_drawing_ms = 0, to_last_ms = 0;
    std::size_t judged = 0;
    for (auto _ : state) {
        QEventLoop rest; // all that was known before is laid out and painted, as when a hand comes to the key
        QTimer::singleShot(50, &rest, &QEventLoop::quit);
        rest.exec();
        settled = false;
        painted.since.start();
        const auto passed = [&] { return static_cast<double>(painted.since.nsecsElapsed()) / 1e6; };
        session.nudge({way_mm, 0, 0});
        way_mm = -way_mm * 1.01; // never the same place twice: nothing of it is kept
        waitUntil([&] { return ofThisPlace(session.picture()); });
        to_drawing_ms += passed();
        waitUntil([&] { return painted.last == session.project(); });
        state.SetIterationTime(painted.last_ms / 1e3);
        judged += session.reports()->judged.size();
        waitUntil(quiet);
        to_last_ms += passed();
        judged += session.reports()->judged.size();
    }
    const auto each = [](double sum) { return benchmark::Counter(sum, benchmark::Counter::kAvgIterations); };
    state.counters["to_drawing_ms"] = each(to_drawing_ms);
    state.counters["to_last_ms"] = each(to_last_ms);
    state.counters["judged"] = each(static_cast<double>(judged));
}

BENCHMARK_CAPTURE(nudgeToGaps, demo, demoPath())->Unit(benchmark::kMillisecond)->UseManualTime();
BENCHMARK_CAPTURE(openFile, demo, demoPath())->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(openFile, bodies_2000, largePath())->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(nudge, demo, demoPath())->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(nudge, bodies_2000, largePath())->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace
