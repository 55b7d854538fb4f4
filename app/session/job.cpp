#include "session/job.h"

#include <exception>

#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

namespace gabarit::app {
namespace {

/// With two cores and two threads at work the window would wait for its turn to paint what they found: theirs, and
/// those they start, come after it. Where the system refuses, they are as they were.
void giveWay() {
    constexpr int after_the_window = 5;
    setpriority(PRIO_PROCESS, static_cast<id_t>(syscall(SYS_gettid)), after_the_window);
}

} // namespace

Job::Job(QObject* parent) : QObject(parent) {
    thread_ = std::thread([this] { loop(); });
}

Job::~Job() {
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        leave_ = true;
        waiting_.reset();
        stop_.stop();
    }
    wake_.notify_one();
    thread_.join();
}

void Job::put(Work work) {
    bool was = false;
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        was = asked_ > std::max(done_, given_up_);
        waiting_ = std::pair(++asked_, std::move(work));
    }
    wake_.notify_one();
    if (!was) emit busyChanged(true);
}

void Job::stop() {
    bool was = false;
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        was = asked_ > std::max(done_, given_up_);
        given_up_ = asked_;
        waiting_.reset();
        stop_.stop();
    }
    if (was) emit busyChanged(false);
}

bool Job::busy() const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return asked_ > std::max(done_, given_up_);
}

bool Job::newerWaits() const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return waiting_.has_value() || leave_;
}

void Job::loop() {
    giveWay();
    for (;;) {
        int which = 0;
        Work work;
        StopToken stop;
        {
            std::unique_lock<std::mutex> lock(mutex_);
            wake_.wait(lock, [this] { return leave_ || waiting_; });
            if (leave_) return;
            std::tie(which, work) = std::move(*waiting_);
            waiting_.reset();
            stop_ = stop; // the one before may have been stopped
        }
        const Progress progress = [this, which](int done, int all) {
            QMetaObject::invokeMethod(
                this,
                [this, which, done, all] {
                    if (which > given_up_) emit progressed(done, all);
                },
                Qt::QueuedConnection);
        };
        std::function<void()> take;
        QString why;
        try {
            take = work(stop, progress);
        } catch (const std::exception& e) { // out of memory, or a library's: the window stays
            why = QString::fromUtf8(e.what());
        } catch (...) { why = QStringLiteral("unknown trouble"); }
        QMetaObject::invokeMethod(
            this, [this, which, take, why] { ended(which, take, why); }, Qt::QueuedConnection);
    }
}

void Job::ended(int which, const std::function<void()>& take, const QString& why) {
    bool idle = false;
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        if (which <= given_up_) return;
        done_ = which;
        idle = asked_ == done_;
    }
    // What takes it may begin the next.
    if (idle) emit busyChanged(false);
    if (take)
        take();
    else
        emit failed(why);
}

} // namespace gabarit::app

#include "moc_job.cpp"
