// Searches: one list, each asked and answered alike; what one brings holds by the clearances, not by its own word.
#include "fit/fit_report.h"
#include "make/pocket_proposal.h"
#include "make/search.h"
#include "mounts/section/mounts.h"
#include "relief/apply.h"
#include "relief/section/relief.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include "store/project_file.h"
#include "support/kept_study.h"

#include <QtTest>

#include <stdexcept>

using namespace gabarit;
using Eigen::Vector3d;

namespace {

/// A hollow crossmember under a sump that stands 15 into it.
model::Project bay() {
    model::Project p = tests::smallBay();
    model::Body& crossmember = p.vehicle->bodies[0];
    crossmember.shape =
        model::ProfileSpec{model::RectTubeSection{100, 80, 5}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
    crossmember.may.be_cut = true;
    p.donors[0].bodies[0].shape = model::BoxSpec{{150, 120, 100}};
    p.donors[0].bodies[0].position_mm = {70, 20, 115};
    return p;
}

model::Project demo() {
    auto read = store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook());
    model::Project out = std::move(read).value().project;
    out.active_placement.text = "second-try";
    return out;
}

struct Run {
    explicit Run(const model::Project& project)
        : reports(study.run(std::make_shared<const model::Project>(project), {})) {}
    Result<discipline::Found> look(const char* id, const std::vector<std::string>& about) {
        return make::lookFor(make::searchOf(id), {study, reports}, store::defaultRuleBook(), about,
                             quantity::Shown::Millimetres);
    }
    tests::KeptStudy study;
    study::Reports reports;
};

const model::Mount& mountOf(const model::Project& project, const char* id) {
    for (const model::Mount& mount : project.sections.get<model::Mounts>()->mounts)
        if (mount.id == id) return mount;
    throw std::logic_error(id);
}

} // namespace

class SearchTest : public QObject {
    Q_OBJECT
private slots:
    void eachIsThereOnceAndOnADisciplinesStage() {
        std::set<std::string> ids;
        for (const make::Search& search : make::searches()) {
            QVERIFY(ids.insert(search.card.id).second);
            bool known = false;
            for (std::size_t i = 0; i < disciplines::all().size(); ++i)
                known = known || disciplines::all()[i].card().id == search.discipline;
            QVERIFY2(known, search.card.id.c_str());
            QVERIFY(!search.card.what.empty() && !search.card.words.empty());
            QVERIFY2(!search.card.takes || search.card.pick.empty(), "one answer is not picked");
        }
        for (const char* id : {"tune-mounts", "make-brackets", "propose-pocket", "ways"}) QVERIFY(ids.count(id));
        QVERIFY_EXCEPTION_THROWN(make::searchOf("nothing"), std::logic_error);
    }
    void aPocketThatWasFoundFreesThePair() {
        Run run(bay());
        QVERIFY(run.reports.verdict == model::Verdict::NoGo);
        const auto found = run.look("propose-pocket", {"crossmember"});
        QVERIFY2(found.ok(), found ? "" : found.error().line().c_str());
        QCOMPARE(found.value().answers.size(), std::size_t(1));
        const discipline::Answer& answer = found.value().answers.front();
        QCOMPARE(answer.made, "pocket:" + answer.project->sections.get<model::Relief>()->pockets.front().id);
        // Judged anew, by a study that knows nothing of the search.
        Run then(*answer.project);
        int pairs = 0;
        for (const fit::PairGap& pair : then.reports.with<fit::FitReport>().clearance->pairs)
            if (pair.b.body.text == "crossmember") {
                ++pairs;
                QVERIFY(pair.verdict == model::Verdict::Go);
            }
        QCOMPARE(pairs, 1);
        QVERIFY(found.value().text.find("licensed engineer") != std::string::npos); // its caution stands with it
    }
    void whatIsWrongIsSaid() {
        Run run(bay());
        QVERIFY(!run.look("propose-pocket", {"nothing"}).ok());
        QVERIFY(!run.look("ways", {"unit/sump", "vehicle/nothing"}).ok());
        QVERIFY(!run.look("make-brackets", {}).ok()); // there are no mounts
        QVERIFY(!run.look("tune-mounts", {}).ok());
        Run tarn(demo());
        QVERIFY(!tarn.look("make-brackets", {"nothing"}).ok());
    }
    void aBracketIsMadeWhereItIsAsked() {
        const model::Project project = demo();
        Run run(project);
        const auto all = run.look("make-brackets", {}), one = run.look("make-brackets", {"left", "bracket"});
        QVERIFY(all.ok() && one.ok() && all.value().troubles.empty() && one.value().troubles.empty());
        const model::Project& with_all = *all.value().answers.front().project;
        const model::Project& with_one = *one.value().answers.front().project;
        QVERIFY(!mountOf(with_all, "left").bracket->bodies.empty());
        QVERIFY(!mountOf(with_all, "right").bracket->bodies.empty());
        QCOMPARE(mountOf(with_one, "left").bracket->bodies, mountOf(with_all, "left").bracket->bodies);
        QCOMPARE(mountOf(with_one, "right").bracket->bodies, mountOf(project, "right").bracket->bodies);
        QCOMPARE(one.value().answers.front().words, std::string("1 bracket made"));
    }
    void theWaysAreHeldAgainstHowItIs() {
        Run run(bay());
        const auto found = run.look("ways", {"unit/sump", "crossmember"}); // without an owner: the vehicle's
        QVERIFY2(found.ok(), found ? "" : found.error().line().c_str());
        QVERIFY(found.value().now.find("1 gap no-go") != std::string::npos);
        int to_be_had = 0;
        for (const discipline::Answer& answer : found.value().answers) {
            to_be_had += answer.project != nullptr;
            if (answer.project) QVERIFY(Run(*answer.project).reports.project->placements.size() == 1);
        }
        QVERIFY(to_be_had >= 1);
    }
};

GABARIT_SUITE(SearchTest)
#include "search_test.moc"
