// Work beside the window: one thread, the newest of what was asked, nothing of what was given up.
#pragma once

#include "quantity/stop.h"

#include <QObject>

#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

namespace gabarit::app {

class Job : public QObject {
    Q_OBJECT
public:
    using Progress = std::function<void(int done, int all)>;

    explicit Job(QObject* parent = nullptr);
    /// Stops what runs and waits for it.
    ~Job() override;

    /// Begins `made = work(stop, progress)` as soon as the thread is free: what runs is stopped, what waits is
    /// replaced. Then `take(std::move(made))` is called on this object's thread, unless the work was stopped meanwhile
    /// or replaced. What the work throws goes to failed().
    template <class Work, class Take>
    void begin(Work work, Take take) {
        stop();
        follow(std::move(work), std::move(take));
    }
    /// The same, but what runs ends by itself.
    template <class Work, class Take>
    void follow(Work work, Take take) {
        using Made = std::invoke_result_t<Work, const StopToken&, const Progress&>;
        put([work = std::move(work), take = std::move(take)](const StopToken& stop, const Progress& progress) {
            const auto made = std::make_shared<Made>(work(stop, progress));
            return std::function<void()>([take, made] { take(std::move(*made)); });
        });
    }
    /// Gives up what runs and what waits: nothing of it is taken.
    void stop();
    /// True from begin() until it was taken, failed or stopped.
    bool busy() const;
    /// True while something waits for the thread.
    bool newerWaits() const;

signals:
    void progressed(int done, int all);
    void busyChanged(bool busy);
    /// In the words of what was thrown.
    void failed(const QString& why);

private:
    using Work = std::function<std::function<void()>(const StopToken&, const Progress&)>;
    void put(Work work);
    void loop();
    /// On this object's thread.
    void ended(int which, const std::function<void()>& take, const QString& why);

    mutable std::mutex mutex_;
    std::condition_variable wake_;
    std::optional<std::pair<int, Work>> waiting_;
    StopToken stop_; ///< of what runs
    bool leave_ = false;
    int asked_ = 0, given_up_ = 0, done_ = 0; ///< counted: what was given up is not heard any more
    std::thread thread_;
};

} // namespace gabarit::app
