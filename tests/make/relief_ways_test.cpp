// Move, variant and pocket side by side, each run as a project of its own.
#include "make/relief_ways.h"
#include "make/ways_written.h"
#include "parts/parts.h"
#include "relief/section/relief.h"
#include "support/kept_study.h"
#include "support/small_bay.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using Eigen::Vector3d;
using make::ReliefWay;
using make::WayKind;

namespace {

/// A hollow crossmember under a deep sump; a shallow one can be had for 90.
model::Project bay() {
    model::Project p = tests::smallBay();
    model::Body& crossmember = p.vehicle->bodies[0];
    crossmember.shape =
        model::ProfileSpec{model::RectTubeSection{100, 80, 5}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
    crossmember.may.be_cut = true;
    model::Donor& unit = p.donors[0];
    unit.choices = {{"sump", "Sump", {{"deep", "deep", "", {}}, {"shallow", "shallow", "", {}}}, {}}};
    unit.bodies[0].shape = model::BoxSpec{{150, 120, 100}};
    unit.bodies[0].position_mm = {70, 20, 115}; // 15 deep in the crossmember
    unit.bodies[0].option = "sump/deep";
    model::Body shallow = tests::box("shallow-sump", "sump", {150, 120, 60}, {70, 20, 150}, 1); // from 120
    shallow.option = "sump/shallow";
    unit.bodies.push_back(shallow);
    p.sections.edit<model::Parts>();
    model::Part part;
    part.id.text = part.name = "shallow sump";
    part.cost = 90;
    part.option = "unit/sump/shallow";
    p.sections.edit<model::Parts>().push_back(part);
    return p;
}

const ReliefWay* way(const make::ReliefWays& ways, WayKind kind) {
    for (const ReliefWay& w : ways.ways)
        if (w.kind == kind) return &w;
    return nullptr;
}

struct Run {
    explicit Run(const model::Project& project)
        : reports(study.run(std::make_shared<const model::Project>(project), {})) {}
    Result<make::ReliefWays> ways(const model::BodyRef& a = {"unit", {"sump"}},
                                  const model::BodyRef& b = {"vehicle", {"crossmember"}}) {
        return make::waysOut(study, reports, store::defaultRuleBook(), a, b, {});
    }
    tests::KeptStudy study;
    study::Reports reports;
};

} // namespace

class ReliefWaysTest : public QObject {
    Q_OBJECT
private slots:
    void allThreeWithWhatTheyCost() {
        Run run(bay());
        const auto ways = run.ways();
        QVERIFY(ways.ok());
        QCOMPARE(ways.value().now.no_go, 1);
        const ReliefWay* move = way(ways.value(), WayKind::Move);
        QVERIFY(move->frees && move->project && !move->section_share);
        // Up by 15 and what is wanted of the gap, 10, with the accuracies: nothing else is there to be met.
        QVERIFY(move->name.find("up") != std::string::npos);
        QCOMPARE(move->then.no_go, 0);
        const ReliefWay* variant = way(ways.value(), WayKind::Variant);
        QCOMPARE(variant->name, std::string("Sump: shallow"));
        QVERIFY(variant->frees);
        QCOMPARE(*variant->then.cost - *ways.value().now.cost, 90.0);
        const ReliefWay* pocket = way(ways.value(), WayKind::Pocket);
        QVERIFY2(pocket->frees, pocket->reason.c_str());
        QVERIFY(pocket->section_share.has_value() && *pocket->section_share > 0.3);
        QCOMPARE(pocket->project->sections.get<model::Relief>()->pockets.size(), std::size_t(1));
        QVERIFY(!pocket->against.went.empty());                       // the overlap is told as gone
        QVERIFY(!run.reports.project->sections.get<model::Relief>()); // the project itself was not touched
    }

    /// One is to be tried before the others; never what cuts metal, nor what leaves things as they are.
    void whatIsToBeTriedFirst() {
        const auto ways = Run(bay()).ways();
        const auto firsts = [](const make::ReliefWays& of) {
            std::vector<std::string> out;
            for (const auto& answer : make::found(of, "the sump").answers)
                if (answer.first) out.push_back(answer.id);
            return out;
        };
        QCOMPARE(firsts(ways.value()), std::vector<std::string>{"move-1"});
        make::ReliefWays others = ways.value();
        others.ways[0].then.no_go = others.now.no_go; // the move only trades
        QCOMPARE(firsts(others), std::vector<std::string>{"variant-2"});
        others.ways[1].frees = false;
        QVERIFY(firsts(others).empty()); // the pocket is left
    }
    void neverOffersNoPocket() {
        model::Project p = bay();
        p.vehicle->bodies[0].may = {};
        p.vehicle->bodies[0].may.never = true;
        const auto ways = Run(p).ways();
        const ReliefWay* pocket = way(ways.value(), WayKind::Pocket);
        QVERIFY(!pocket->project && pocket->reason.find("never") != std::string::npos);
    }

    void aVariantThatDoesNotHelpSaysSo() {
        model::Project p = bay();
        p.donors[0].bodies[1].position_mm.z() = 100; // as deep as the other
        const auto ways = Run(p).ways();
        const ReliefWay* variant = way(ways.value(), WayKind::Variant);
        QVERIFY(variant->then.no_go > 0);
    }

    void noSuchPair() {
        Run run(bay());
        QVERIFY(!run.ways({"unit", {"gone"}}).ok());
        QVERIFY(!run.ways({"vehicle", {"rail"}}, {"vehicle", {"crossmember"}}).ok());
        QVERIFY(run.ways({"vehicle", {"crossmember"}}, {"unit", {"sump"}}).ok()); // in either order
    }
};

GABARIT_SUITE(ReliefWaysTest)
#include "relief_ways_test.moc"
