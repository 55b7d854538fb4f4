// The total is the worst of all that is listed: one bay for every kind of finding, and the words at the total.
#include "fit/fit_report.h"
#include "gearing/section/gearing.h"
#include "ledger/section/money.h"
#include "parts/parts.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/small_bay.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;
using tests::box;

namespace {

/// A bay that says go: the sump hangs 40 mm over the crossmember, all areas are surveyed.
Project good() {
    Project p = tests::smallBay();
    p.vehicle->wheelbase_mm = 2500;
    p.placements[0].position_mm.z() = 20;
    for (const AreaRule& area : store::defaultRuleBook().areas) {
        AreaMark mark;
        mark.id = area.id;
        mark.state = AreaState::Done;
        p.vehicle->areas.push_back(mark);
    }
    return p;
}

study::Reports run(const Project& project) {
    tests::KeptStudy study;
    return study.run(std::make_shared<const Project>(project), {});
}

MeasuredGap reading(double gap_mm, std::optional<double> accuracy_mm) {
    MeasuredGap gap;
    gap.a = {"unit", {"sump"}};
    gap.b = {vehicle_owner, {"crossmember"}};
    gap.gap_mm = gap_mm;
    gap.accuracy_mm = accuracy_mm;
    return gap;
}

using Change = std::function<void(Project&)>;

} // namespace

Q_DECLARE_METATYPE(Change)

class TotalTest : public QObject {
    Q_OBJECT
private slots:
    void theBayIsGoodToBeginWith() {
        const study::Reports reports = run(good());
        QVERIFY(reports.findings.empty());
        QCOMPARE(reports.verdict, Verdict::Go);
        QCOMPARE(study::totalWords(reports), std::string("go"));
    }
    /// A crossmember with a step 20 deep, 120 long; a box bolted to its front face beside the mouth, and one in it.
    void whatIsFixedNearACutIsNamed() {
        Project p = good();
        p.vehicle->bodies[0].shape =
            ProfileSpec{RectTubeSection{100, 80, 5}, Vector3d(0, -300, 0), Vector3d(0, 300, 0), 0};
        p.vehicle->bodies[0].may.be_cut = true;
        Pocket step;
        step.id = "step";
        step.name = "Step";
        step.body.text = "crossmember";
        step.form = PocketForm::Step;
        step.at_mm = {0, 0, 40};
        step.along = {0, 1, 0};
        step.length_mm = 120;
        step.width_mm = 100;
        step.depth_mm = 20;
        step.plate_mm = 5;
        p.sections.edit<Relief>();
        p.sections.edit<Relief>().pockets = {step};
        const auto fixed = [&]() -> std::optional<Check> {
            const study::Reports reports = run(p);
            for (const Check& check : reports.of<relief::ReliefReport>()->checks)
                if (check.id == "step/fixed/box") return check;
            return std::nullopt;
        };
        QVERIFY(!fixed());
        // Its near side 80 along: 15 from the cut, which ends at 60 and its plate's 5.
        p.vehicle->bodies.push_back(box("box", "fixed_part", {40, 40, 40}, {-70, 100, 40}));
        auto near = fixed();
        QVERIFY(near && std::abs(*near->value - 15) < 0.5);
        QCOMPARE(near->verdict, Verdict::Close);
        p.vehicle->bodies.back().position_mm.y() = 160; // 75 from it
        QVERIFY(!fixed());
        p.vehicle->bodies.back().position_mm = {-70, 0, 70}; // on the face that is cut away
        QCOMPARE(fixed()->verdict, Verdict::NoGo);
        p.vehicle->bodies.back().position_mm.x() = -90; // 20 off the metal: fixed elsewhere
        QVERIFY(!fixed());
        p.joined = {{{vehicle_owner, {"box"}}, {vehicle_owner, {"crossmember"}}, "a long bolt", {}}};
        QCOMPARE(fixed()->verdict, Verdict::Close);
    }
    void theTotalIsTheWorstOfAllThatIsListed_data() {
        QTest::addColumn<Change>("change");
        QTest::addColumn<QString>("id");
        QTest::addColumn<QString>("discipline");
        const auto row = [](const char* id, const char* discipline, Change change) {
            QTest::newRow(id) << change << QString::fromLatin1(id) << QString::fromLatin1(discipline);
        };
        row("gap:unit/sump:vehicle/crossmember", "clearance",
            [](Project& p) { p.placements[0].position_mm.z() = -15; });
        row("joined:unit/sump:vehicle/crossmember", "clearance", [](Project& p) {
            p.placements[0].position_mm.z() = -27; // 7 into it
            p.joined = {{{"unit", {"sump"}}, {vehicle_owner, {"crossmember"}}, "bolted", {}}};
        });
        row("clearance:lowest/crossmember", "clearance", [](Project& p) {
            p.placements[0].position_mm = {300, 0, -150};
            p.vehicle->bodies[0].position_mm.x() = 500; // beside it, and lower
        });
        row("clearance:asked", "clearance", [](Project& p) {
            for (Body& body : p.donors[0].bodies) body.off = true;
        });
        row("body:unit/sump", "clearance", [](Project& p) {
            p.donors[0].bodies[0].shape = CylinderSpec{Vector3d(0, 0, 0), Vector3d(0, 0, 0), 10};
        });
        row("off:vehicle/lid", "clearance", [](Project& p) {
            p.vehicle->bodies.push_back(box("lid", "bonnet", {500, 500, 2}, {0, 0, 600}));
            p.vehicle->bodies.back().off = true;
        });
        row("motion:vehicle/axle", "clearance", [](Project& p) {
            MotionSpec axle;
            axle.id = axle.name = "axle";
            axle.at.text = "centre";
            p.vehicle->hard_points = {{{"centre"}, "centre", "", {0, 0, 0}, {}, {}, {}, {}}};
            p.vehicle->motions = {axle}; // without travel
        });
        row("travel:vehicle/axle", "clearance", [](Project& p) {
            p.vehicle->bodies.push_back(box("axle", "axle", {50, 400, 50}, {-200, 0, 150}));
        });
        row("access:unit/plug", "clearance", [](Project& p) {
            ServicedBolt plug;
            plug.id = plug.name = "plug";
            plug.at_mm = {0, 0, 100};
            plug.along = {0, 0, -1}; // onto the crossmember
            plug.socket_mm = 20;
            plug.accuracy_mm = 1;
            plug.in.text = "sump";
            p.donors[0].serviced = {plug};
        });
        row("lever", "clearance", [](Project& p) {
            HardPoint lever{{"l"}, "Lever", "shift_lever", {200, 0, 200}, {}, 1.0, {}, {}};
            HardPoint hole{{"h"}, "Opening", "shift_lever_opening", {0, 0, 250}, Vector3d(160, 120, 0), 2.0, {}, {}};
            p.donors[0].reference_points = {lever};
            p.vehicle->hard_points = {hole};
        });
        row("measured", "clearance", [](Project& p) { p.measured = {reading(60, 0.5)}; }); // 20 mm off the plan
        row("stance:solid-front", "clearance", [](Project& p) {
            MotionSpec axle;
            axle.id = axle.name = "axle";
            axle.end = End::Front;
            axle.at.text = "centre";
            axle.bump_mm = 60;
            axle.droop_mm = 60;
            p.vehicle->hard_points = {{{"centre"}, "centre", "", {0, 0, 0}, {}, {}, {}, {}}};
            p.vehicle->motions = {axle};
            p.vehicle->springs.front_n_per_mm = 1;
            p.donors[0].masses = {{"unit", 200.0, {0, 0, 0}, {}, false, {}, {}}};
            p.sections.edit<Weights>();
            p.sections.edit<Weights>().bare = {500, 500};
            p.sections.edit<Weights>().limit = {2000, 2000};
            p.sections.edit<Weights>().accuracy_kg = 5;
        });
        row("condition:crack", "survey", [](Project& p) {
            Condition crack;
            crack.id = "crack";
            crack.name = "Left rail";
            crack.owner = vehicle_owner;
            p.conditions = {crack};
        });
        row("section:drivline", "survey", [](Project& p) { p.extras["drivline"] = "{}"; });
        row("home:tank", "parts", [](Project& p) {
            Part tank;
            tank.id.text = "tank";
            tank.name = "Tank";
            tank.size_mm = Vector3d(500, 500, 500);
            tank.home = "corner";
            p.sections.edit<Parts>() = std::vector<Part>{tank};
            FreeVolume corner;
            corner.id = corner.name = "corner";
            corner.at_mm = {1500, -500, 300};
            corner.size_mm = {300, 300, 300};
            corner.accuracy_mm = 1;
            p.vehicle->free_volumes = {corner};
        });
        row("weights:front", "weights", [](Project& p) { p.sections.edit<Weights>(); });
        row("parts:budget", "parts", [](Project& p) {
            Part part;
            part.id.text = part.name = "part";
            part.cost = 100;
            p.sections.edit<Parts>() = std::vector<Part>{part};
            p.sections.edit<ledger::Money>();
            p.sections.edit<ledger::Money>().budget = 10;
        });
        row("gearing:asked", "gearing", [](Project& p) { p.sections.edit<Gearing>(); });
    }
    void theTotalIsTheWorstOfAllThatIsListed() {
        QFETCH(Change, change);
        QFETCH(QString, id);
        QFETCH(QString, discipline);
        Project p = good();
        change(p);
        const study::Reports reports = run(p);
        bool found = false;
        for (const study::Finding& f : reports.findings) {
            found = found || f.id == id.toStdString();
            QVERIFY(f.verdict != Verdict::Go);
            if (f.holds_cutting) continue;
            QVERIFY2(reports.verdict >= f.verdict, f.title.c_str());
            QVERIFY2(*study::verdictOf(reports, f.discipline) >= f.verdict, f.title.c_str());
        }
        QVERIFY2(found, qPrintable(id));
        QVERIFY(reports.verdict != Verdict::Go);
        QVERIFY(study::verdictOf(reports, discipline.toStdString()).value_or(Verdict::Go) != Verdict::Go);
        QVERIFY(study::totalWords(reports).rfind("go", 0) != 0);
    }
    void whatOnlyHoldsUpCuttingIsSaidAtTheTotal() {
        Project p = good();
        p.vehicle->bodies[0].may.be_cut = true;
        p.vehicle->areas.pop_back();
        const study::Reports reports = run(p);
        QCOMPARE(reports.findings.size(), std::size_t(1));
        QVERIFY(reports.findings[0].holds_cutting);
        QCOMPARE(reports.verdict, Verdict::Go);
        QCOMPARE(study::totalWords(reports), std::string("go; do not cut yet"));
    }
    // 40 mm planned between sump and crossmember, 10 wanted.
    void theWorseOfPlannedAndMeasuredCounts_data() {
        QTest::addColumn<double>("measured_mm");
        QTest::addColumn<double>("accuracy_mm"); // below zero: not given
        QTest::addColumn<double>("planned_mm");
        QTest::addColumn<int>("verdict");
        const auto row = [](const char* name, double measured, double accuracy, double planned, Verdict verdict) {
            QTest::newRow(name) << measured << accuracy << planned << static_cast<int>(verdict);
        };
        row("as planned", 40, 0.5, 40, Verdict::Go);
        row("too near", 5, 0.5, 40, Verdict::NoGo);
        row("touching", 0, 0.5, 40, Verdict::NoGo);
        row("within its accuracy", 10.4, 0.5, 40, Verdict::Close);
        row("nobody knows how truly", 40, -1, 40, Verdict::Unknown);
        row("measured good does not mend the plan", 40, 0.5, 5, Verdict::NoGo);
    }
    void theWorseOfPlannedAndMeasuredCounts() {
        QFETCH(double, measured_mm);
        QFETCH(double, accuracy_mm);
        QFETCH(double, planned_mm);
        QFETCH(int, verdict);
        Project p = good();
        p.placements[0].position_mm.z() = planned_mm - 20; // 20 at the placement's origin
        p.measured = {reading(measured_mm, accuracy_mm < 0 ? std::nullopt : std::optional(accuracy_mm))};
        const study::Reports reports = run(p);
        for (const fit::PairGap& pair : reports.with<fit::FitReport>().clearance->pairs)
            if (pair.b.body.text == "crossmember") {
                QCOMPARE(static_cast<int>(pair.verdict), verdict);
                QCOMPARE(pair.measured->margin_mm, measured_mm - 10);
            }
        QVERIFY(static_cast<int>(reports.verdict) >= verdict); // a reading off the plan is close by itself
    }
    void whatWasMeasuredBeforeAChangeIsOutOfDate() {
        Project p = good();
        MeasuredGap gap = reading(5, 0.5);
        gap.mark = fit::gapMark(p, gap.a, gap.b);
        QVERIFY(!gap.mark.empty());
        QCOMPARE(fit::gapMark(p, gap.b, gap.a), gap.mark); // either way round
        p.measured = {gap};
        QCOMPARE(run(p).verdict, Verdict::NoGo);
        // Both moved together, the whole thing told from another datum: nothing between them has changed.
        Project other = p;
        other.placements[0].position_mm += Vector3d(100, 20, 30);
        for (Body& body : other.vehicle->bodies) body.position_mm += Vector3d(100, 20, 30);
        QCOMPARE(fit::gapMark(other, gap.a, gap.b), gap.mark);
        for (const auto& change :
             {std::function<void(Project&)>([](Project& q) { q.placements[0].position_mm.x() += 1; }),
              std::function<void(Project&)>([](Project& q) { q.placements[0].angles.roll_deg = 1; }),
              std::function<void(Project&)>([](Project& q) { q.vehicle->bodies[0].position_mm.x() += 2; }),
              std::function<void(Project&)>(
                  [](Project& q) { std::get<BoxSpec>(q.donors[0].bodies[0].shape).size_mm.x() += 1; })}) {
            Project changed = p;
            change(changed);
            const study::Reports reports = run(changed);
            QVERIFY(reports.with<fit::FitReport>().measured.lines[0].out_of_date);
            QVERIFY(!reports.with<fit::FitReport>().measured.lines[0].verdict);
            QCOMPARE(reports.verdict, Verdict::Go);
        }
    }
    // The row of the book is the only thing that differs: a tank is a fixed part with a figure for heat.
    void heatHasARowForWhatItSpoils_data() {
        QTest::addColumn<QString>("category");
        QTest::addColumn<double>("bare_mm");
        QTest::addColumn<double>("shielded_mm");
        QTest::newRow("fuel tank") << "fuel_tank" << 100.0 << 40.0;
        QTest::newRow("battery") << "battery" << 75.0 << 30.0;
        QTest::newRow("booster") << "brake_booster" << 75.0 << 30.0;
        QTest::newRow("tyre") << "wheel" << 75.0 << 30.0;
        QTest::newRow("axle") << "axle" << 25.0 << 25.0;
        QTest::newRow("belt") << "belt" << 75.0 << 30.0;
    }
    void heatHasARowForWhatItSpoils() {
        QFETCH(QString, category);
        QFETCH(double, bare_mm);
        QFETCH(double, shielded_mm);
        const RuleBook& book = store::defaultRuleBook();
        for (const char* hot : {"exhaust", "manifold", "turbo"}) {
            Body pipe = box("pipe", hot, {1, 1, 1}, {0, 0, 0});
            const Body other = box("other", category.toLatin1().constData(), {1, 1, 1}, {0, 0, 0});
            QCOMPARE(limitFor(book, "certifier", pipe, other)->gap_mm, bare_mm);
            pipe.shielded = true;
            QCOMPARE(limitFor(book, "certifier", pipe, other)->gap_mm, shielded_mm);
            const auto moving = movingLimitsFor(book, "certifier", pipe, other);
            QVERIFY(moving.worst && moving.worst->gap_mm == shielded_mm); // heat keeps its figure
        }
    }
    void limitsBelowTheBookAreTold() {
        Project p = good();
        RuleRow row = *std::find_if(store::defaultRuleBook().rows.begin(), store::defaultRuleBook().rows.end(),
                                    [](const RuleRow& r) { return r.id == "unit-fixed"; });
        const std::string text = row.text;
        p.rules.rows = {row};
        QCOMPARE(study::totalWords(run(p)), std::string("go")); // as the book has it
        p.rules.rows[0].at_rest_mm["certifier"] = 12;
        QCOMPARE(study::totalWords(run(p)), std::string("go"));
        p.rules.rows[0].at_rest_mm["certifier"] = 9;
        QCOMPARE(study::totalWords(run(p)), "go; by limits of one's own, below the book's: " + text);
        p.rules.rows[0].at_rest_mm["certifier"] = 10;
        p.rules.rows[0].between = {"engine"}; // no longer the gearbox
        QCOMPARE(run(p).own_limits_below, std::vector<std::string>{text});
        p.rules.rows.clear();
        Figure own;
        own.id = "cut_to_pickup_mm";
        own.value = 20;
        p.rules.figures = {own};
        p.rules.interest_range_mm = 15;
        const std::string words = study::totalWords(run(p));
        QVERIFY2(words.find("by figures of one's own: cut to a suspension pick-up") != std::string::npos,
                 words.c_str());
        QVERIFY2(words.find(": 20, the book's 100, gaps looked at up to (mm): 15, the book's 60") != std::string::npos,
                 words.c_str());
    }
};

GABARIT_SUITE(TotalTest)
#include "total_test.moc"
