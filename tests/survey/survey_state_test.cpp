// What the survey holds up, and what it leaves alone.
#include "parts/parts.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/suite.h"
#include "survey/survey.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {

Project project() {
    Project p;
    p.name = "T";
    p.vehicle.emplace();
    p.vehicle->name = "V";
    Body rail;
    rail.id.text = "rail";
    rail.name = "Rail";
    rail.category = "frame";
    rail.shape = BoxSpec{{100, 50, 80}};
    rail.accuracy_mm = 2;
    p.vehicle->bodies.push_back(rail);
    return p;
}

void tickAll(Project& p) {
    p.vehicle->areas.clear();
    for (const AreaRule& area : store::defaultRuleBook().areas) {
        AreaMark mark;
        mark.id = area.id;
        mark.state = AreaState::Done;
        p.vehicle->areas.push_back(mark);
    }
}

study::Reports run(const Project& p) {
    tests::KeptStudy study;
    return study.run(std::make_shared<const Project>(p), {});
}

const study::Finding* finding(const study::Reports& reports, const std::string& id) {
    for (const study::Finding& f : reports.findings)
        if (f.id == id) return &f;
    return nullptr;
}

} // namespace

class SurveyStateTest : public QObject {
    Q_OBJECT
private slots:
    void anAreaIsCompleteWhenTickedAndMeasured() {
        Project p = project();
        tickAll(p);
        QVERIFY(survey::surveyState(p, store::defaultRuleBook()).ready_to_cut);
        p.vehicle->bodies[0].measured.method = Method::Assumed;
        const auto state = survey::surveyState(p, store::defaultRuleBook());
        QVERIFY(!state.ready_to_cut);
        QCOMPARE(state.open, 1);
        for (const survey::AreaLine& area : state.areas)
            if (!area.complete()) QCOMPARE(area.not_measured, std::vector<std::string>{"Rail"});
        p.vehicle->bodies[0].measured.method = Method::Measured;
        p.vehicle->bodies[0].accuracy_mm.reset();
        QCOMPARE(survey::surveyState(p, store::defaultRuleBook()).open, 1);
    }
    void notHereIsComplete() {
        Project p = project();
        tickAll(p);
        for (AreaMark& mark : p.vehicle->areas) mark.state = AreaState::NotHere;
        p.vehicle->bodies[0].accuracy_mm.reset();
        QVERIFY(survey::surveyState(p, store::defaultRuleBook()).ready_to_cut);
        AreaMark own;
        own.id = "bulkhead-pipe";
        own.name = "Bulkhead pipe";
        p.vehicle->areas.push_back(own); // one's own holds up too
        QCOMPARE(survey::surveyState(p, store::defaultRuleBook()).open, 1);
    }
    void itHoldsUpCuttingNotLooking() {
        Project p = project();
        const study::Reports looking = run(p);
        QVERIFY(!finding(looking, "survey:open")); // nothing is to be cut
        p.vehicle->bodies[0].may.be_cut = true;
        const study::Reports cutting = run(p);
        QVERIFY(finding(cutting, "survey:open"));
        QCOMPARE(cutting.verdict, looking.verdict);
        QCOMPARE(cutting.asked, looking.asked);
        tickAll(p);
        QVERIFY(!finding(run(p), "survey:open"));
    }
    void whatWasFoundIsOpenUntilItIsMended() {
        Project p = project();
        Condition crack;
        crack.id = "c";
        crack.name = "Rail behind the spring hanger";
        crack.owner = vehicle_owner;
        crack.at_mm = {100, 20, 30};
        crack.body.text = "rail";
        p.conditions.push_back(crack);
        const study::Reports reports = run(p);
        const study::Finding* open = finding(reports, "condition:c");
        QVERIFY(open);
        QCOMPARE(*open->place_vehicle_mm, Eigen::Vector3d(100, 20, 30));
        QVERIFY(!open->caution.empty()); // a frame carries load
        p.conditions[0].mended = true;
        QVERIFY(!finding(run(p), "condition:c"));
    }
    void aHomeThatIsTooSmallIsAFinding() {
        Project p = project();
        FreeVolume room;
        room.id = "lamp";
        room.name = "Behind the left lamp";
        room.size_mm = {200, 200, 150};
        room.at_mm = {-900, -600, 700};
        room.accuracy_mm = 2;
        p.vehicle->free_volumes.push_back(room);
        Part tank;
        tank.id.text = "tank";
        tank.name = "Washer tank";
        tank.size_mm = Eigen::Vector3d(260, 150, 120);
        tank.home = "lamp";
        p.sections.edit<Parts>() = std::vector<Part>{tank};
        const study::Reports reports = run(p);
        const study::Finding* small = finding(reports, "home:tank");
        QVERIFY(small);
        QCOMPARE(small->verdict, Verdict::NoGo);
        QVERIFY2(small->detail.find("60 mm too large") != std::string::npos, small->detail.c_str()); // 260 − 200
    }
    void impossibleValuesAreNamed_data() {
        QTest::addColumn<QString>("says");
        QTest::newRow("room") << "a size is not above zero";
        QTest::newRow("home") << "there is no free volume \"gone\"";
        QTest::newRow("owner") << "there is no owner \"nobody\"";
        QTest::newRow("body") << "there is no body \"gone\"";
        QTest::newRow("outgoing") << "there is no point \"gone\"";
        QTest::newRow("area") << "is used twice";
    }
    void impossibleValuesAreNamed() {
        QFETCH(QString, says);
        const QString what = QString::fromLatin1(QTest::currentDataTag());
        Project p = project();
        if (what == "room") p.vehicle->free_volumes.push_back({"r", "R", {}, {}, {}, {}, "", {}});
        if (what == "home") {
            Part part;
            part.id.text = part.name = "p";
            part.home = "gone";
            p.sections.edit<Parts>() = std::vector<Part>{part};
        }
        Condition condition;
        condition.id = condition.name = "c";
        condition.owner = what == "owner" ? "nobody" : vehicle_owner;
        if (what == "body") condition.body.text = "gone";
        p.conditions.push_back(condition);
        OutgoingDimension dimension;
        dimension.id = dimension.name = "o";
        if (what == "outgoing") dimension.from.text = "gone";
        p.vehicle->outgoing.push_back(dimension);
        tickAll(p);
        if (what == "area") p.vehicle->areas.push_back(p.vehicle->areas[0]);
        QString all;
        for (const Error& error : validate(p, store::defaultRuleBook()))
            all += QString::fromStdString(error.line()) + "\n";
        QVERIFY2(all.contains(says), qPrintable(all));
        QCOMPARE(all.count('\n'), 1); // and nothing else is wrong
    }
    void theFileKeepsAllOfIt() {
        Project p = project();
        tickAll(p);
        p.vehicle->areas[0].who = "N.";
        OutgoingDimension dimension;
        dimension.id = dimension.name = "crank";
        dimension.mm = 575;
        p.vehicle->outgoing.push_back(dimension);
        p.vehicle->free_volumes.push_back({"r", "R", {1, 2, 3}, {4, 5, 6}, 2.0, {}, "dry", {}});
        Condition condition;
        condition.id = condition.name = "c";
        condition.owner = vehicle_owner;
        condition.kind = ConditionKind::Weld;
        condition.mended = true;
        p.conditions.push_back(condition);
        const std::string text = store::projectText(p);
        const auto again = store::projectFromText(text, "t.gabarit", store::defaultRuleBook());
        QVERIFY2(again.ok(), again.ok() ? "" : again.error().line().c_str());
        QCOMPARE(store::projectText(again.value().project), text);
        QCOMPARE(again.value().project.vehicle->free_volumes[0].size_mm, Eigen::Vector3d(4, 5, 6));
        QCOMPARE(again.value().project.conditions[0].kind, ConditionKind::Weld);
    }
};

GABARIT_SUITE(SurveyStateTest)
#include "survey_state_test.moc"
