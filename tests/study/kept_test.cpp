// What is judged again after a change, and that what is kept is what would be judged.
#include "fit/fit_report.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "ledger/section/money.h"
#include "study/in_order.h"
#include "study/study.h"
#include "support/files.h"
#include "support/kept_study.h"
#include "support/suite.h"
#include "weights/axle_loads.h"
#include "weights/section/weights.h"

#include <QtTest>

#include <atomic>
#include <set>

using namespace gabarit;
using Names = std::set<std::string>;

namespace {

model::Project tarn() {
    model::Project project = tests::demo("harrow-tarn");
    project.active_placement.text = "second-try";
    return project;
}

struct Bench {
    study::Reports run(const model::Project& project) {
        return study.run(std::make_shared<const model::Project>(project), options);
    }
    /// What is judged when the project is looked at after it was looked at before.
    Names again(const model::Project& project) {
        const auto judged = run(project).judged;
        return {judged.begin(), judged.end()};
    }
    tests::KeptStudy study;
    study::RunOptions options;
};

QStringList sentences(const study::Reports& reports) {
    QStringList out{QString::fromStdString(study::totalWords(reports))};
    for (const study::Finding& f : reports.findings)
        out << QString::fromStdString(f.id + " " + f.title + " " + f.detail + " " + f.help + " " + f.caution);
    for (const study::Gauge& g : reports.gauges)
        out << QString::fromStdString(g.id + " " + g.value + " " + g.limit + " " + g.subject);
    return out;
}

/// Throws what is no exception of the language's library, as it judges or as it tells.
class Thrower : public discipline::Discipline {
public:
    Thrower(const char* id, int order, bool judging)
        : Discipline(discipline::Card(id).at(order).reading({"vehicle"})), judging_(judging) {}
    discipline::Report judge(const discipline::Given&) const override {
        if (judging_) throw 7;
        discipline::Report report;
        report.take(model::Verdict::Go);
        return report;
    }
    void tell(const discipline::Report&, const discipline::Telling&, std::vector<discipline::Finding>&) const override {
        throw 7;
    }

private:
    bool judging_;
};

} // namespace

class KeptTest : public QObject {
    Q_OBJECT
private slots:
    void onlyWhatReadsTheChangeIsJudgedAgain() {
        Bench bench;
        model::Project p = tarn();
        const Names all = bench.again(p);
        QCOMPARE(all.size(), disciplines::all().size());
        QCOMPARE(bench.again(p), Names());
        p.name = "Another name";
        p.note = "A note.";
        QCOMPARE(bench.again(p), Names());
        model::activePlacement(p)->position_mm.x() += 1; // a nudge: not relief, gearing and parts
        QCOMPARE(bench.again(p), (Names{"clearance", "driveline", "mounts", "survey", "weights"}));
        p.sections.edit<ledger::Money>().budget = 123456;
        QCOMPARE(bench.again(p), Names{"parts"});
        p.sections.edit<model::Gearing>().cruise_kmh =
            91; // the driveline asks it for the shafts' speed, the mounts for the torque
        QCOMPARE(bench.again(p), (Names{"driveline", "gearing", "mounts"}));
        model::Figure figure = store::defaultRuleBook().figures.front();
        figure.value += 1;
        p.rules.figures.push_back(figure);
        QCOMPARE(bench.again(p), all);
    }
    void whatOthersOfferCounts() {
        Bench bench;
        model::Project p = tarn();
        bench.run(p);
        // A load in the middle of the bed: weights read it; with it change the sag and the driven wheels' load.
        p.sections.edit<model::Weights>().loads.emplace_back();
        p.sections.edit<model::Weights>().loads.back().name = "Toolbox";
        p.sections.edit<model::Weights>().loads.back().mass_kg = 40;
        p.sections.edit<model::Weights>().loads.back().at_mm = Eigen::Vector3d(1200, 0, 600);
        const Names judged = bench.again(p);
        QVERIFY(judged.count("weights") && judged.count("mounts") && judged.count("clearance"));
        QVERIFY(!judged.count("parts") && !judged.count("survey"));
        Bench fresh;
        QCOMPARE(sentences(bench.run(p)), sentences(fresh.run(p)));
    }
    /// Back at an earlier state everything is said as there; a whole report serves the moving hand as well.
    void whatIsKeptIsWhatWouldBeJudged() {
        Bench bench;
        const model::Project p = tarn();
        const QStringList first = sentences(bench.run(p));
        model::Project moved = p;
        model::activePlacement(moved)->position_mm.z() += 2;
        const QStringList second = sentences(bench.run(moved));
        QVERIFY(first != second);
        QCOMPARE(bench.again(p), Names());
        QCOMPARE(sentences(bench.run(p)), first);
        bench.options.effort = discipline::Effort::Bounds;
        bench.options.depth = discipline::Depth::Nearby;
        QCOMPARE(bench.again(p), Names());
        QCOMPARE(sentences(bench.run(p)), first);
    }
    void unitsAreOnlySaid() {
        Bench bench;
        const model::Project p = tarn();
        const QStringList mm = sentences(bench.run(p));
        bench.options.shown = quantity::Shown::Inches;
        const study::Reports reports = bench.run(p);
        QVERIFY(reports.judged.empty());
        QVERIFY(sentences(reports).join(QLatin1Char('\n')).contains(QLatin1String("in")));
        QVERIFY(sentences(reports) != mm);
    }
    void aCloserLookIsKept() {
        Bench bench;
        model::Project p = tests::demo("harrow-tarn"); // its first try is no-go: there are ways out to look for
        const study::Reports closer = bench.study.advised(bench.run(p), bench.options);
        QVERIFY(closer.advised && closer.with<fit::FitReport>().room);
        p.sections.edit<ledger::Money>().budget = 1000;
        const study::Reports again = bench.run(p);
        QVERIFY(again.advised);
        QCOMPARE(again.with<fit::FitReport>().ways_out.size(), closer.with<fit::FitReport>().ways_out.size());
        model::activePlacement(p)->position_mm.y() += 3;
        QVERIFY(!bench.run(p).advised);
    }
    /// However often it is looked at, live and at rest, no solid of a body that stayed is made again.
    void solidsStay() {
        Bench bench;
        model::Project p = tarn();
        std::vector<std::weak_ptr<const proximity::MadeBody>> made;
        for (const placed::PlacedBody& body : bench.run(p).scene->bodies) made.push_back(body.made);
        for (int nudge = 0; nudge < 4; ++nudge) {
            model::activePlacement(p)->position_mm.x() += 1;
            for (const auto effort : {discipline::Effort::Bounds, discipline::Effort::Full, discipline::Effort::Full}) {
                bench.options.effort = effort;
                p.sections.edit<ledger::Money>().budget = *p.sections.get<ledger::Money>()->budget + 1;
                bench.run(p);
            }
        }
        model::activePlacement(p)->position_mm.x() += 1;
        const study::Reports reports = bench.run(p);
        QCOMPARE(reports.scene->bodies.size(), made.size());
        for (std::size_t i = 0; i < made.size(); ++i)
            QVERIFY2(reports.scene->bodies[i].made == made[i].lock(), reports.scene->bodies[i].body.name.c_str());
    }
    void whatThrewOrWasStoppedIsNotKept() {
        Bench bench;
        const model::Project p = tarn();
        study::throwIn("weights");
        const study::Reports failed = bench.run(p);
        study::throwIn("");
        QVERIFY(!failed.of<weights::AxleLoadReport>());
        QVERIFY(bench.run(p).of<weights::AxleLoadReport>());
        QCOMPARE(bench.run(p).verdict, model::Verdict::Go);
        Bench other;
        other.options.stop.stop();
        QVERIFY(!other.run(p).complete);
        other.options.stop = StopToken();
        const study::Reports whole = other.run(p);
        QVERIFY(whole.complete && whole.judged.size() == disciplines::all().size());
    }
    void whateverIsThrownIsUnknown() {
        const Thrower judges("judges", 1, true), tells("tells", 2, false);
        const auto board = discipline::Board::of({&judges, &tells});
        QVERIFY(board.ok());
        study::Study study(store::defaultRuleBook(), board.value());
        const study::Reports reports = study.run(std::make_shared<const model::Project>(tarn()), {});
        QVERIFY(reports.complete);
        QCOMPARE(reports.verdict, model::Verdict::Unknown);
        QCOMPARE(reports.failed.size(), std::size_t(2));
        for (const char* id : {"judges", "tells"}) QCOMPARE(*study::verdictOf(reports, id), model::Verdict::Unknown);
    }
    void oneThreadSaysWhatTwoSay() {
        Bench one, three;
        one.options.threads = 1;
        three.options.threads = 3;
        for (const char* name : {"harrow-tarn", "mount-bench", "relief-bench", "shaft-bench"})
            QCOMPARE(sentences(one.run(tests::demo(name))), sentences(three.run(tests::demo(name))));
    }
    /// Nothing begins before what it waits for is done; everything is done once.
    void workInOrder() {
        const discipline::Board& board = disciplines::all();
        for (const int threads : {1, 2, 5}) {
            std::vector<std::atomic<int>> done(board.size());
            std::atomic<int> early{0};
            study::inOrder(board, threads, [&](std::size_t i) {
                for (const std::size_t k : board.before(i)) early += done[k] == 0;
                std::this_thread::sleep_for(std::chrono::milliseconds(i % 3));
                ++done[i];
            });
            QCOMPARE(early.load(), 0);
            for (const auto& times : done) QCOMPARE(times.load(), 1);
        }
    }
};

GABARIT_SUITE(KeptTest)
#include "kept_test.moc"
