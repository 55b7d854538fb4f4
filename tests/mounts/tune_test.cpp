// Better rubbers: what is promised comes true, and nothing that was sound is spoilt.
#include "mounts/section/mounts.h"
#include "mounts/tune.h"
#include "support/files.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::mounts;

namespace {

const model::RuleBook& book() { return store::defaultRuleBook(); }
model::Project bench() { return tests::demo("mount-bench"); }
bool same(const Standing& a, const Standing& b) {
    return a.no_go == b.no_go && a.close == b.close && a.roll_hz == b.roll_hz && a.passes_at_idle == b.passes_at_idle &&
           a.rolls_deg == b.rolls_deg && a.goes_mm == b.goes_mm;
}
Standing standing(const model::Project& p) {
    return standingOf(*judgeMounts(p, book(), {std::nullopt, false}), book());
}

} // namespace

class TuneTest : public QObject {
    Q_OBJECT
private slots:
    void whatIsPromisedComesTrue() {
        model::Project p = bench();
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts) m.isolator = "poly-50"; // far too stiff
        const auto found = tune(p, book(), {});
        QVERIFY2(found.ok(), found.ok() ? "" : found.error().line().c_str());
        const Tuning& tuning = found.value();
        QVERIFY(tuning.complete && !tuning.proposals.empty());
        QVERIFY(same(tuning.now, standing(p)));
        for (const Proposal& proposal : tuning.proposals) {
            QVERIFY(!proposal.what.empty() && !proposal.steps.empty());
            QVERIFY(proposal.after.no_go <= tuning.now.no_go);
            model::Project tried = p;
            tried.sections.edit<model::Mounts>() = proposal.mounts;
            QVERIFY2(same(standing(tried), proposal.after), proposal.what.c_str());
            QVERIFY(model::validate(tried, book()).empty());
            // Every change it names buys something: with any one of them left out it would stand otherwise.
            for (const Proposal::Step& step : proposal.steps)
                QVERIFY2(proposal.steps.size() > 1 || same(step.after, proposal.after), step.what.c_str());
        }
        // Calm lets through less than now, and no more than Steady does; Steady moves no more than Calm.
        const Proposal& calm = tuning.proposals.front();
        QCOMPARE(calm.aim, Aim::Calm);
        QVERIFY(*calm.after.passes_at_idle < *tuning.now.passes_at_idle);
        const Proposal& last = tuning.proposals.back();
        QVERIFY(*calm.after.passes_at_idle <= *last.after.passes_at_idle + 1e-9 || calm.after.no_go < last.after.no_go);
    }
    void leftAndRightStayAlike() {
        model::Project p = bench();
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts) m.isolator = "poly-50";
        const Tuning tuning = tune(p, book(), {}).value();
        QVERIFY(!tuning.proposals.empty());
        for (const Proposal& proposal : tuning.proposals) {
            QCOMPARE(proposal.mounts.mounts[0].isolator, proposal.mounts.mounts[1].isolator);
            model::Project tried = p;
            tried.sections.edit<model::Mounts>() = proposal.mounts;
            const MountsReport r = *judgeMounts(tried, book(), {});
            QVERIFY(std::abs(*r.mounts[0].rest_n - *r.mounts[1].rest_n) < 1e-6);
            QVERIFY(std::abs(r.mounts[0].axes.col(2).y() + r.mounts[1].axes.col(2).y()) < 1e-12);
            QVERIFY(r.mounts[0].axes.col(2).y() >= -1e-12); // the left one leans to the right
        }
    }
    // Every pair of rubbers, upright or as they are, tried by hand: none is better than what was found.
    void noPairOfRubbersIsBetter() {
        model::Project p = bench();
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts) m.isolator = "round-40-firm";
        const Tuning tuning = tune(p, book(), {}).value();
        QVERIFY(!tuning.proposals.empty());
        int least = tuning.now.no_go;
        for (const Proposal& proposal : tuning.proposals) least = std::min(least, proposal.after.no_go);
        for (const model::Isolator& a : book().isolators)
            for (const model::Isolator& b : book().isolators) {
                model::Project tried = p;
                for (std::size_t i = 0; i < 3; ++i) {
                    model::Mount& m = tried.sections.edit<model::Mounts>().mounts[i];
                    m.centre_mm = judgeMounts(p, book(), {})->mounts[i].at_mm;
                    m.isolator = m.at == model::MountAt::Engine ? a.id : b.id;
                }
                QVERIFY(standing(tried).no_go >= least);
            }
    }
    void itStopsWhenAsked() {
        TuneOptions options;
        int told = 0, last = -1;
        options.progress = [&](int done, int all) {
            QVERIFY(done > last && done < all);
            last = done;
            if (++told == 3) options.stop.stop();
        };
        const auto found = tune(bench(), book(), {}, options);
        QVERIFY(found.ok() && !found.value().complete);
        QCOMPARE(told, 3);
        QVERIFY(found.value().proposals.empty());
        model::Project p = bench();
        p.sections.edit<model::Mounts>().mounts.resize(2);
        QVERIFY(!tune(p, book(), {}).ok());
        p = bench();
        p.donors[0].bodies.clear(); // points on one line: no inertia about it
        const auto blind = tune(p, book(), {});
        QVERIFY(!blind.ok() && blind.error().line().find("how it shakes") != std::string::npos);
        p.sections.drop<model::Mounts>();
        QVERIFY(!tune(p, book(), {}).ok());
    }
};

GABARIT_SUITE(TuneTest)
#include "tune_test.moc"
