// Work beside the window: the newest is taken, what was given up is never heard.
#include "session/job.h"
#include "support/suite.h"

#include <QSignalSpy>
#include <QtTest>

#include <atomic>
#include <stdexcept>

using gabarit::StopToken;
using gabarit::app::Job;

namespace {

/// Work that goes on until it is stopped or let go.
struct Held {
    std::shared_ptr<std::atomic<bool>> begun = std::make_shared<std::atomic<bool>>(false);
    std::shared_ptr<std::atomic<bool>> let_go = std::make_shared<std::atomic<bool>>(false);
    int gives = 0;

    int operator()(const StopToken& stop, const Job::Progress&) const {
        *begun = true;
        while (!stop.stopped() && !*let_go) QThread::usleep(100);
        return gives;
    }
};
int seven(const StopToken&, const Job::Progress&) { return 7; }

} // namespace

class JobTest : public QObject {
    Q_OBJECT
    std::vector<int> taken_;
    std::function<void(int)> take() {
        return [this](int made) { taken_.push_back(made); };
    }

private slots:
    void init() { taken_.clear(); }

    void whatIsMadeIsTakenHere() {
        Job job;
        QThread* where = nullptr;
        job.begin(seven, [&](int made) {
            where = QThread::currentThread();
            taken_.push_back(made);
        });
        QVERIFY(job.busy());
        QTRY_VERIFY(!job.busy());
        QCOMPARE(taken_, std::vector<int>{7});
        QCOMPARE(where, thread());
    }

    void aNewerOneStopsTheOneBefore() {
        Job job;
        Held held;
        job.begin(held, take());
        QTRY_VERIFY(held.begun->load());
        job.begin(seven, take()); // held ends by its stop token only
        QTRY_VERIFY(!job.busy());
        QCOMPARE(taken_, std::vector<int>{7});
    }

    void whatFollowsLetsItEndAndReplacesWhatWaits() {
        Job job;
        Held held;
        held.gives = 1;
        job.begin(held, take());
        QTRY_VERIFY(held.begun->load());
        job.follow([](const StopToken&, const Job::Progress&) { return 2; }, take());
        QVERIFY(job.newerWaits());
        job.follow(seven, take());
        *held.let_go = true;
        QTRY_VERIFY(!job.busy());
        QCOMPARE(taken_, (std::vector<int>{1, 7}));
    }

    void whatWasStoppedIsNotHeardThoughItEnded() {
        Job job;
        QSignalSpy busy(&job, &Job::busyChanged), progressed(&job, &Job::progressed);
        std::atomic<bool> ended{false};
        job.begin(
            [&ended](const StopToken&, const Job::Progress& progress) {
                progress(1, 2);
                ended = true;
                return 1;
            },
            take());
        while (!ended) QThread::usleep(100); // what it made and said lies in this thread's queue, or soon will
        job.stop();
        QVERIFY(!job.busy());
        QTest::qWait(50);
        QVERIFY(taken_.empty());
        QCOMPARE(progressed.count(), 0);
        QCOMPARE(busy.count(), 2); // on, off: once each
        job.begin(seven, take());
        QTRY_VERIFY(!job.busy());
        QCOMPARE(taken_, std::vector<int>{7});
    }

    void progressIsTold() {
        Job job;
        QSignalSpy progressed(&job, &Job::progressed);
        job.begin(
            [](const StopToken&, const Job::Progress& progress) {
                progress(1, 2);
                progress(2, 2);
                return 0;
            },
            take());
        QTRY_VERIFY(!job.busy());
        QCOMPARE(progressed.count(), 2);
        QCOMPARE(progressed.at(1), (QList<QVariant>{2, 2}));
    }

    void whatIsThrownFails() {
        Job job;
        QSignalSpy failed(&job, &Job::failed);
        job.begin([](const StopToken&, const Job::Progress&) -> int { throw std::runtime_error("no room left"); },
                  take());
        QTRY_COMPARE(failed.count(), 1);
        QCOMPARE(failed.at(0).at(0).toString(), QStringLiteral("no room left"));
        job.begin([](const StopToken&, const Job::Progress&) -> int { throw 3; }, take()); // a library's own kind
        QTRY_COMPARE(failed.count(), 2);
        QVERIFY(!job.busy());
        QVERIFY(taken_.empty());
    }

    void takingMayBeginTheNext() {
        Job job;
        job.begin(seven, [&](int made) {
            taken_.push_back(made);
            job.begin(seven, take());
        });
        QTRY_COMPARE(taken_.size(), std::size_t(2));
        QVERIFY(!job.busy());
    }

    void goingAwayStopsIt() {
        Held held;
        {
            Job job;
            job.begin(held, take());
            QTRY_VERIFY(held.begun->load());
        }
        QTest::qWait(20);
        QVERIFY(taken_.empty());
    }
};

GABARIT_LOOP_SUITE(JobTest)
#include "job_test.moc"
