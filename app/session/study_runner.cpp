#include "session/study_runner.h"

#include "discipline/discipline.h"
#include "kept/kept_meshes.h"
#include "placed/scene.h"
#include "session/after_painting.h"
#include "store/rule_book.h"

#include <QTimer>

#include <algorithm>
#include <cstdio>
#include <exception>

namespace gabarit::app {
namespace {
// While the hand moves on, figures of a place it has left are worth less than the drawing of where it is.
constexpr std::chrono::milliseconds longest_live(120);
// To paint takes ten; a window that is busy with something else is not waited for.
constexpr std::chrono::milliseconds longest_painting(50);
} // namespace

StudyRunner::StudyRunner(QObject* parent) : QObject(parent), study_(store::defaultRuleBook()) {
    study_.colliders().keepWith(kept::usual());
    qRegisterMetaType<std::shared_ptr<const Picture>>();
    qRegisterMetaType<std::shared_ptr<const study::Reports>>();
    qRegisterMetaType<std::shared_ptr<const std::vector<PictureOverlap>>>();
    connect(&job_, &Job::failed, this, [this](const QString& why) {
        std::fprintf(stderr, "gabarit: a run was given up: %s\n", qPrintable(why));
        if (!job_.busy()) emit settled();
    });
}

StudyRunner::~StudyRunner() {
    const std::lock_guard<std::mutex> lock(mutex_);
    stop_settling_.stop();
    stop_live_.stop();
    shown_ = true;
    shown_now_.notify_all();
}

void StudyRunner::request(std::shared_ptr<const model::Project> project, const Slices& slices, quantity::Shown shown) {
    {
        // Held over both, so that what begins now sees either the stop or what waits.
        const std::lock_guard<std::mutex> lock(mutex_);
        stop_settling_.stop();
        shown_ = true; // nobody waits for what is older
        shown_now_.notify_all();
        job_.follow(
            [this, asked = Request{std::move(project), slices, shown}](const StopToken& stop, const Job::Progress&) {
                serve(asked, stop);
                return 0;
            },
            [this](int) {
                if (!job_.busy()) emit settled();
            });
    }
    // A live run that takes longer than a hand waits gives way, however early in it the hand moved on.
    const auto look = [this](const auto& again) -> void {
        const std::lock_guard<std::mutex> lock(mutex_);
        if (!job_.newerWaits() || !serving_) return;
        const auto age =
            std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::steady_clock::now() - live_since_);
        if (age >= longest_live)
            stop_live_.stop();
        else
            QTimer::singleShot(longest_live - age, this, [again] { again(again); });
    };
    look(look);
}

void StudyRunner::stopSearch() {
    const std::lock_guard<std::mutex> lock(mutex_);
    if (serving_) stop_settling_.stop();
}

bool StudyRunner::busy() const { return job_.busy(); }

void StudyRunner::serve(const Request& request, const StopToken& stop_all) {
    StopToken stop_settling;
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        stop_settling_ = stop_settling;
        stop_live_ = StopToken();
        live_since_ = std::chrono::steady_clock::now();
        serving_ = true;
    }
    if (job_.newerWaits()) stop_settling.stop();
    try {
        run(request, stop_all, stop_settling);
    } catch (const std::exception& e) { // out of memory, or a programmer's mistake: the window stays
        std::fprintf(stderr, "gabarit: a run was given up: %s\n", e.what());
        // What stood before was of another project.
        emit reportsReady(std::make_shared<const study::Reports>(study::givenUp(request.project, e.what())), true);
    }
    const std::lock_guard<std::mutex> lock(mutex_);
    serving_ = false;
}

void StudyRunner::run(const Request& request, const StopToken& stop_all, const StopToken& stop_settling) {
    study::RunOptions options;
    options.shown = request.shown;
    options.threads = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        options.stop = stop_live_;
    }
    placed::SceneOptions scene;
    scene.threads = options.threads;
    scene.stop = stop_all;
    emit pictureReady(pictures_.make(request.project, *study_.scene(*request.project, scene), request.slices));
    if (stop_all.stopped()) return;

    options.depth = discipline::Depth::Nearby;
    options.effort = discipline::Effort::Bounds;
    options.tidy = false;
    auto live = std::make_shared<const study::Reports>(study_.run(request.project, options));
    if (!live->complete) return;
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        shown_ = job_.newerWaits();
    }
    emit reportsReady(live, false);
    study_.tidy();
    options.tidy = true;
    letItBePainted();
    if (job_.newerWaits()) return;

    options.depth = discipline::Depth::Searched;
    options.effort = discipline::Effort::Full;
    options.stop = stop_settling;
    auto rest = std::make_shared<const study::Reports>(study_.run(request.project, options));
    if (!rest->complete) return;
    emit reportsReady(rest, true);
    auto overlaps = std::make_shared<const std::vector<PictureOverlap>>(pictures_.overlaps(*rest, stop_settling));
    if (stop_settling.stopped()) return;
    emit overlapsReady(overlaps);
    options.progress = [this](int done, int all) { emit searching(done, all); };
    auto advised = std::make_shared<const study::Reports>(study_.advised(*rest, options));
    emit searching(1, 1);
    if (advised->advised) emit reportsReady(advised, true);
}

void StudyRunner::letItBePainted() {
    // Behind the reports, which are on their way to the same thread.
    QMetaObject::invokeMethod(
        this,
        [this] {
            afterPainting(this, [this] {
                const std::lock_guard<std::mutex> lock(mutex_);
                shown_ = true;
                shown_now_.notify_all();
            });
        },
        Qt::QueuedConnection);
    std::unique_lock<std::mutex> lock(mutex_);
    shown_now_.wait_for(lock, longest_painting, [this] { return shown_; });
}

} // namespace gabarit::app

#include "moc_study_runner.cpp"
