// The pocket that an overlap asks for: sized by hand, good by the clearances themselves, refused where it may not be.
#include "fit/fit_report.h"
#include "make/pocket_proposal.h"
#include "relief/section/relief.h"
#include "support/kept_study.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using Eigen::Vector3d;
using model::Verdict;

namespace {

/// A hollow crossmember along y under a sump that stands `deep` into it, over the rear half of its width.
model::Project bay(double deep = 15) {
    model::Project p = tests::smallBay();
    model::Body& crossmember = p.vehicle->bodies[0];
    crossmember.shape =
        model::ProfileSpec{model::RectTubeSection{100, 80, 5}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
    crossmember.may.be_cut = true;
    p.donors[0].bodies[0].shape = model::BoxSpec{{150, 120, 100}};
    p.donors[0].bodies[0].position_mm = {70, 20, 80 - deep + 50}; // x from −5 to 145, y from −40 to 80
    return p;
}

struct Run {
    explicit Run(const model::Project& project)
        : reports(study.run(std::make_shared<const model::Project>(project), {})) {}
    Result<make::PocketProposed> propose(const char* body = "crossmember") {
        const model::BodyId id{body};
        return make::proposedPocket(reports, store::defaultRuleBook(), id, make::intrudersOf(reports, id),
                                    study.colliders(), memo);
    }
    fit::GapMemo memo;
    tests::KeptStudy study;
    study::Reports reports;
};

} // namespace

class PocketProposalTest : public QObject {
    Q_OBJECT
private slots:
    void sizedByHand() {
        Run run(bay());
        QCOMPARE(make::intrudersOf(run.reports, {"crossmember"}).size(), std::size_t(1));
        const auto found = run.propose();
        QVERIFY2(found.ok(), found ? "" : found.error().line().c_str());
        const model::Pocket& pocket = found.value().pocket;
        // Sump and crossmember want 10, accuracies 1 + 2, meshes at most 0.2 more: 13.2 all round.
        QVERIFY(pocket.form == model::PocketForm::Box);
        QVERIFY2(std::abs(pocket.depth_mm - (15 + 13.2)) <= 1.01, qPrintable(QString::number(pocket.depth_mm)));
        QVERIFY2(std::abs(pocket.length_mm - (120 + 2 * 13.2)) <= 2.01, qPrintable(QString::number(pocket.length_mm)));
        // Across from −5 − 13.2 to beyond the rear side at 50, where it is open.
        const double low = pocket.at_mm.x() - pocket.width_mm / 2, high = pocket.at_mm.x() + pocket.width_mm / 2;
        QVERIFY2(std::abs(low - (-18.2)) <= 1.01 && high >= 50, qPrintable(QString("%1 %2").arg(low).arg(high)));
        QVERIFY((pocket.into - Vector3d(0, 0, -1)).norm() < 1e-9);
        QVERIFY(found.value().pairs.front().verdict == Verdict::Go);
    }

    void clearanceCountsWithIt() {
        const model::Project before = bay();
        Run run(before);
        const auto found = run.propose();
        QVERIFY(found.ok());
        const Run after(found.value().project);
        const auto gap = [](const study::Reports& r) {
            for (const auto& pair : r.with<fit::FitReport>().clearance->pairs)
                if (pair.a.body.text == "sump" && pair.b.body.text == "crossmember") return pair.gap.gap_mm;
            return 1e9;
        };
        QVERIFY(std::abs(gap(run.reports) + 15) < 0.5);
        QVERIFY(gap(after.reports) >= 13 && gap(after.reports) < 16);
        model::Project without = found.value().project;
        without.sections.edit<model::Relief>().pockets.clear(); // deleting it brings the overlap back
        QVERIFY(std::abs(gap(Run(without).reports) + 15) < 0.5);
        model::Project never = found.value().project; // decided otherwise since: what may not be cut is not
        never.vehicle->bodies[0].may = {};
        never.vehicle->bodies[0].may.never = true;
        QVERIFY(std::abs(gap(Run(never).reports) + 15) < 0.5);
        model::Project aside = found.value().project;
        aside.sections.edit<model::Relief>().pockets[0].set_aside = true;
        QVERIFY(std::abs(gap(Run(aside).reports) + 15) < 0.5);
    }

    void sectionComesBack() {
        Run run(bay(2)); // shallow: 15 deep
        const auto found = run.propose();
        QVERIFY(found.ok());
        QVERIFY2(found.value().report.strength.share >= 1,
                 qPrintable(QString::number(found.value().report.strength.share)));
        QVERIFY(found.value().pocket.plate_mm > 5 || found.value().pocket.doubler_mm > 0);
    }

    void fromTheSideThatCostsLeast() {
        // Beside the rear web and level with it: the pocket goes into that side, not down through the top.
        model::Project p = bay();
        p.donors[0].bodies[0].shape = model::BoxSpec{{100, 120, 30}};
        p.donors[0].bodies[0].position_mm = {95, 0, 40}; // x from 45, 5 deep into the web
        const auto found = Run(p).propose();
        QVERIFY2(found.ok(), found ? "" : found.error().line().c_str());
        QVERIFY((found.value().pocket.into - Vector3d(-1, 0, 0)).norm() < 1e-9);
    }

    void refusals() {
        model::Project p = bay();
        p.vehicle->bodies[0].may.never = true;
        QVERIFY(Run(p).propose().error().what.find("never") != std::string::npos);
        p = bay();
        p.vehicle->bodies[0].may = {};
        QVERIFY(Run(p).propose().error().what.find("may be cut") != std::string::npos);
        QVERIFY(!Run(bay()).propose("gone").ok());
        p = bay();
        p.vehicle->bodies[0].shape = model::BoxSpec{{100, 600, 80}};
        p.vehicle->bodies[0].position_mm = {0, 0, 40};
        QVERIFY2(Run(p).propose().error().line().find("profile with its wall") != std::string::npos,
                 Run(p).propose().error().line().c_str());
        p = bay();
        p.donors[0].bodies[0].position_mm.z() = 400;
        QVERIFY(Run(p).propose().error().what.find("nothing is in its way") != std::string::npos);
        // Right through it: whatever face it is cut from falls in two.
        p = bay(90);
        p.donors[0].bodies[0].shape = model::BoxSpec{{300, 120, 200}};
        p.donors[0].bodies[0].position_mm = {0, 0, 40};
        QVERIFY(!Run(p).propose().ok());
    }

    void recessInAFirewall() {
        model::Project p = bay(-100);
        model::Body firewall;
        firewall.id.text = firewall.name = "firewall";
        firewall.category = "body";
        firewall.accuracy_mm = 2;
        firewall.may.be_cut = true;
        firewall.shape =
            model::SheetSpec{model::Axis::Y, {{-400, {{300, 0}, {300, 500}}}, {400, {{300, 0}, {300, 500}}}}, 1.2};
        p.vehicle->bodies.push_back(firewall);
        p.donors[0].bodies[0].shape = model::BoxSpec{{150, 120, 100}};
        p.donors[0].bodies[0].position_mm = {235, 0, 250}; // its rear face at 310: 10 into the sheet
        const auto found = Run(p).propose("firewall");
        QVERIFY2(found.ok(), found ? "" : found.error().line().c_str());
        QVERIFY(found.value().pocket.form == model::PocketForm::Recess);
        QVERIFY(found.value().pocket.into.x() > 0.99);
        QVERIFY(found.value().pocket.depth_mm >= 10 + 10 + 3 && found.value().pocket.depth_mm < 28);
        QVERIFY(found.value().pairs.front().verdict == Verdict::Go);
    }

    void secondPocketHasItsOwnName() {
        Run run(bay());
        const auto first = run.propose();
        QVERIFY(first.ok());
        model::Project p = first.value().project;
        model::Body lug = tests::box("lug", "unit_part", {60, 60, 60}, {0, -180, 100});
        lug.category = p.donors[0].bodies[0].category;
        p.donors[0].bodies.push_back(lug);
        Run again(p);
        const auto second = again.propose();
        QVERIFY2(second.ok(), second ? "" : second.error().line().c_str());
        QCOMPARE(second.value().project.sections.get<model::Relief>()->pockets.size(), std::size_t(2));
        QVERIFY(second.value().pocket.id != first.value().pocket.id);
        QCOMPARE(second.value().pocket.intruders.front().body.text, std::string("lug"));
    }
};

GABARIT_SUITE(PocketProposalTest)
#include "pocket_proposal_test.moc"
