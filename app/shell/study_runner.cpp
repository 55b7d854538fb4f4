#include "shell/study_runner.h"

#include "discipline/discipline.h"
#include "placed/scene.h"
#include "store/rule_book.h"

#include <QTimer>

#include <algorithm>
#include <cstdio>
#include <exception>

namespace gabarit::app {
namespace {
// While the hand moves on, figures of a place it has left are worth less than the drawing of where it is.
constexpr std::chrono::milliseconds longest_live(120);
} // namespace

StudyRunner::StudyRunner(QObject* parent) : QObject(parent), study_(store::defaultRuleBook()) {
    qRegisterMetaType<std::shared_ptr<const Picture>>();
    qRegisterMetaType<std::shared_ptr<const study::Reports>>();
    qRegisterMetaType<std::shared_ptr<const std::vector<PictureOverlap>>>();
    thread_ = std::thread([this] { loop(); });
}

StudyRunner::~StudyRunner() {
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        leave_ = true;
        waiting_.reset();
        stop_settling_.stop();
        stop_live_.stop();
        stop_all_.stop();
    }
    wake_.notify_one();
    thread_.join();
}

void StudyRunner::request(std::shared_ptr<const model::Project> project, const Slices& slices, quantity::Shown shown) {
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        waiting_ = Request{std::move(project), slices, shown};
        stop_settling_.stop();
    }
    wake_.notify_one();
    // A live run that takes longer than a hand waits gives way, however early in it the hand moved on.
    const auto look = [this](const auto& again) -> void {
        const std::lock_guard<std::mutex> lock(mutex_);
        if (!waiting_ || !running_) return;
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
    if (running_) stop_settling_.stop();
}

bool StudyRunner::busy() const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return running_ || waiting_.has_value();
}

bool StudyRunner::newerWaits() const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return waiting_.has_value() || leave_;
}

void StudyRunner::loop() {
    for (;;) {
        Request request;
        StopToken stop;
        {
            std::unique_lock<std::mutex> lock(mutex_);
            wake_.wait(lock, [this] { return leave_ || waiting_; });
            if (leave_) return;
            request = std::move(*waiting_);
            waiting_.reset();
            running_ = true;
            stop_settling_ = stop = StopToken();
            stop_live_ = StopToken();
            live_since_ = std::chrono::steady_clock::now();
        }
        try {
            serve(request, stop);
        } catch (const std::exception& e) { // out of memory, or a programmer's mistake: the window stays
            std::fprintf(stderr, "gabarit: a run was given up: %s\n", e.what());
            // What stood before was of another project.
            emit reportsReady(std::make_shared<const study::Reports>(study::givenUp(request.project, e.what())), true);
        }
        bool done = false;
        {
            const std::lock_guard<std::mutex> lock(mutex_);
            running_ = false;
            done = !waiting_ && !leave_;
        }
        if (done) emit settled();
    }
}

void StudyRunner::serve(const Request& request, const StopToken& stop) {
    study::RunOptions options;
    options.shown = request.shown;
    options.threads = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        options.stop = stop_live_;
    }
    placed::SceneOptions scene;
    scene.threads = options.threads;
    scene.stop = stop_all_;
    emit pictureReady(pictures_.make(request.project, *study_.scene(*request.project, scene), request.slices));
    if (stop_all_.stopped()) return;

    options.depth = discipline::Depth::Nearby;
    options.effort = discipline::Effort::Bounds;
    auto live = std::make_shared<const study::Reports>(study_.run(request.project, options));
    if (!live->complete) return;
    emit reportsReady(live, false);
    if (newerWaits()) return;

    options.depth = discipline::Depth::Searched;
    options.effort = discipline::Effort::Full;
    options.stop = stop;
    auto rest = std::make_shared<const study::Reports>(study_.run(request.project, options));
    if (!rest->complete) return;
    emit reportsReady(rest, true);
    auto overlaps = std::make_shared<const std::vector<PictureOverlap>>(pictures_.overlaps(*rest, stop));
    if (stop.stopped()) return;
    emit overlapsReady(overlaps);
    options.progress = [this](int done, int all) { emit searching(done, all); };
    auto advised = std::make_shared<const study::Reports>(study_.advised(*rest, options));
    emit searching(1, 1);
    if (advised->advised) emit reportsReady(advised, true);
}

} // namespace gabarit::app
