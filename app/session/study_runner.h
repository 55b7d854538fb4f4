// Runs the study and draws outlines on a thread of its own: the newest project wins, stale results are dropped.
#pragma once

#include "session/job.h"
#include "session/picture.h"
#include "study/study.h"

#include <QObject>

#include <chrono>
#include <condition_variable>
#include <mutex>

namespace gabarit::app {

class StudyRunner : public QObject {
    Q_OBJECT
public:
    explicit StudyRunner(QObject* parent = nullptr);
    ~StudyRunner() override;

    /// Asks for pictures and reports of this project; a request that has not begun is replaced.
    void request(std::shared_ptr<const model::Project> project, const Slices& slices, quantity::Shown shown);
    /// Gives up the search for room and ways out, if it runs.
    void stopSearch();
    /// True while a request waits or runs.
    bool busy() const;

signals:
    /// First the outlines, then the reports as the hand moves (depths searched nearby), then all over again at rest.
    void pictureReady(std::shared_ptr<const gabarit::app::Picture> picture);
    void reportsReady(std::shared_ptr<const gabarit::study::Reports> reports, bool settled);
    void overlapsReady(std::shared_ptr<const std::vector<gabarit::app::PictureOverlap>> overlaps);
    /// How far the search for room and ways out has come; done = all: it is over.
    void searching(int done, int all);
    /// Everything asked for is done.
    void settled();

private:
    struct Request {
        std::shared_ptr<const model::Project> project;
        Slices slices;
        quantity::Shown shown = quantity::Shown::Millimetres;
    };
    /// On the thread.
    void serve(const Request& request, const StopToken& stop_all);
    void run(const Request& request, const StopToken& stop_all, const StopToken& stop_settling);
    /// Leaves the processor to the window until it has painted what was emitted, or a newer request waits.
    void letItBePainted();

    mutable std::mutex mutex_;
    StopToken stop_settling_; ///< the run at rest gives way to a newer request
    std::condition_variable shown_now_;
    bool shown_ = false;  ///< what was judged live is painted
    StopToken stop_live_; ///< so does the live run, once it takes longer than a hand waits
    std::chrono::steady_clock::time_point live_since_;
    bool serving_ = false;
    study::Study study_;
    PictureMaker pictures_;
    Job job_; ///< goes first: it works with all of the above
};

} // namespace gabarit::app
