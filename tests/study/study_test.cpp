#include "disciplines/all.h"
#include "driveline/driveline.h"
#include "driveline/section/driveline.h"
#include "fit/fit_report.h"
#include "gearing/gearing.h"
#include "gearing/section/gearing.h"
#include "ledger/parts.h"
#include "ledger/section/money.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/suite.h"
#include "weights/axle_loads.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Project demo() {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
        .value()
        .project;
}

study::Reports run(study::Study& study, const Project& project, study::RunOptions options = {}) {
    return study.run(std::make_shared<const Project>(project), options);
}
study::Reports run(const Project& project, study::RunOptions options = {}) {
    tests::KeptStudy study;
    return run(study, project, options);
}

const study::Finding* finding(const study::Reports& reports, const std::string& a, const std::string& b) {
    for (const study::Finding& f : reports.findings)
        if (f.a && f.b && f.a->body.text == a && f.b->body.text == b) return &f;
    return nullptr;
}
const fit::PairGap* pair(const study::Reports& reports, const BodyRef& a, const BodyRef& b) {
    for (const fit::PairGap& p : reports.with<fit::FitReport>().clearance->pairs)
        if (p.a == a && p.b == b) return &p;
    return nullptr;
}
const study::Gauge* gauge(const study::Reports& reports, const std::string& id) {
    for (const study::Gauge& g : reports.gauges)
        if (g.id == id) return &g;
    return nullptr;
}

Vector3d centreOf(const study::Reports& reports, const char* body) {
    for (const placed::PlacedBody& b : reports.scene->bodies)
        if (b.in_donor && b.ref.body.text == body) return b.pose_vehicle_body * b.made->collider->bounds().center();
    return Vector3d::Constant(NAN);
}

} // namespace

class StudyTest : public QObject {
    Q_OBJECT
private slots:
    void cleanup() { study::throwIn(""); }
    /// What throws is unknown, with its words; nothing of it stands, and the others stand as they did.
    void aDisciplineThatThrowsIsUnknown() {
        Project p = demo();
        p.active_placement.text = "second-try"; // its total is go
        const study::Reports whole = run(p);
        QCOMPARE(whole.verdict, Verdict::Go);
        QVERIFY(whole.failed.empty());
        for (const char* name : {"clearance", "driveline", "gearing", "mounts", "relief", "weights", "parts"}) {
            study::throwIn(name);
            const study::Reports reports = run(p);
            QVERIFY2(reports.complete, name);
            QVERIFY2(reports.verdict >= Verdict::Unknown, name);
            QVERIFY2(*study::verdictOf(reports, name) >= Verdict::Unknown, name);
            const auto told = std::count_if(reports.findings.begin(), reports.findings.end(), [&](const auto& f) {
                return f.id == std::string(name) + ":failed" && f.verdict == Verdict::Unknown &&
                       f.detail.find("a test threw this") != std::string::npos;
            });
            QVERIFY2(told == 1, name);
            const auto stands = [&](const char* other, const auto& now, const auto& before) {
                QVERIFY2(bool(now) == (name != std::string(other)) && before, name);
            };
            stands("clearance", reports.with<fit::FitReport>().clearance,
                   whole.with<fit::FitReport>().clearance.has_value());
            stands("driveline", reports.of<driveline::DrivelineReport>(),
                   whole.of<driveline::DrivelineReport>() != nullptr);
            stands("gearing", reports.of<gearing::GearingReport>(), whole.of<gearing::GearingReport>() != nullptr);
            stands("mounts", reports.of<mounts::MountsReport>(), whole.of<mounts::MountsReport>() != nullptr);
            stands("relief", reports.of<relief::ReliefReport>(), whole.of<relief::ReliefReport>() != nullptr);
            stands("weights", reports.of<weights::AxleLoadReport>(), whole.of<weights::AxleLoadReport>() != nullptr);
            stands("parts", reports.of<ledger::PartsReport>(), whole.of<ledger::PartsReport>() != nullptr);
            if (name != std::string("gearing"))
                QCOMPARE(reports.of<gearing::GearingReport>()->verdict, whole.of<gearing::GearingReport>()->verdict);
        }
        const study::Reports nothing = study::givenUp(std::make_shared<const Project>(p), "out of memory");
        QCOMPARE(nothing.verdict, Verdict::Unknown);
        QVERIFY(nothing.asked && nothing.complete && !nothing.with<fit::FitReport>().clearance &&
                nothing.findings.size() == 1);
    }
    void sagThatIsLeftOutSaysWhy() {
        const Project whole = demo();
        QVERIFY(run(whole).with<fit::FitReport>().stances->sag.any());
        QVERIFY(run(whole).with<fit::FitReport>().stances->sag_left_out.empty());
        Project p = whole;
        p.vehicle->springs.front_n_per_mm.reset();
        study::Reports reports = run(p);
        QVERIFY(!reports.with<fit::FitReport>().stances->sag.front_mm);
        QVERIFY(reports.with<fit::FitReport>().stances->sag.rear_mm.has_value());
        QCOMPARE(reports.with<fit::FitReport>().stances->sag_left_out,
                 std::vector<std::string>{"the front spring rate is not given"});
        p = whole;
        p.sections.edit<Parts>().push_back({});
        p.sections.edit<Parts>().back().name = "Winch";
        p.sections.edit<Parts>().back().on_car = OnCar::On;
        reports = run(p);
        QVERIFY(!reports.with<fit::FitReport>().stances->sag.any());
        QCOMPARE(reports.with<fit::FitReport>().stances->sag_left_out.size(), std::size_t(1));
        QVERIFY(reports.with<fit::FitReport>().stances->sag_left_out.front().find("Winch") != std::string::npos);
        p = whole;
        p.sections.drop<Weights>();
        p.vehicle->springs = {};
        QCOMPARE(run(p).with<fit::FitReport>().stances->sag_left_out.size(), std::size_t(2));
    }
    void demoHoldsTheTroublesItPromises() {
        const study::Reports reports = run(demo());
        QVERIFY(reports.complete && reports.asked);
        QCOMPARE(reports.verdict, Verdict::NoGo);
        const study::Finding* sump = finding(reports, "front-sump", "front-crossmember");
        const study::Finding* turbo = finding(reports, "turbine", "steering-shaft");
        const study::Finding* tunnel = finding(reports, "shift-turret", "tunnel");
        const study::Finding* bonnet = finding(reports, "rocker-cover", "bonnet");
        for (const study::Finding* f : {sump, turbo, tunnel, bonnet}) {
            QVERIFY(f);
            QCOMPARE(f->verdict, Verdict::NoGo);
            QVERIFY(f->place_vehicle_mm && !f->rule.empty() && !f->help.empty());
        }
        QCOMPARE(QString::fromStdString(sump->title), QStringLiteral("Front sump fouls the front crossmember"));
        QVERIFY(pair(reports, *sump->a, *sump->b)->gap.gap_mm < 0);
        QVERIFY(pair(reports, *turbo->a, *turbo->b)->gap.gap_mm > 0);
        QCOMPARE(pair(reports, *turbo->a, *turbo->b)->limit->gap_mm, 50.0 + 2.0); // 2: its mounts are to be welded
        // What can hurt someone is said where it is found.
        QVERIFY(sump->caution.find("welder") != std::string::npos);
        QVERIFY(turbo->caution.find("Steering") != std::string::npos);
        QVERIFY(bonnet->caution.empty());
    }

    void theWorstComesFirst() {
        const study::Reports reports = run(demo());
        for (std::size_t i = 1; i < reports.findings.size(); ++i)
            QVERIFY(!(reports.findings[i - 1].verdict < reports.findings[i].verdict));
        QVERIFY(pair(reports, *reports.findings[0].a, *reports.findings[0].b)->overlap());
        const study::Gauge* tightest = gauge(reports, "tightest");
        QCOMPARE(tightest->finding, reports.findings[0].id);
        QCOMPARE(tightest->verdict, Verdict::NoGo);
    }

    /// Law: each no-go's advice, followed alone, makes its own pair good.
    void adviceClearsItsPair() {
        tests::KeptStudy study;
        const study::Reports reports = run(study, demo());
        int tried = 0;
        for (const study::Finding& f : reports.findings) {
            if (!f.move_vehicle_mm) continue;
            Project moved = demo();
            Placement* placement = activePlacement(moved);
            *placement = shifted(*placement, *f.move_vehicle_mm);
            const study::Reports after = run(study, moved);
            QVERIFY2(pair(after, *f.a, *f.b)->verdict == Verdict::Go, f.title.c_str());
            ++tried;
        }
        QVERIFY(tried >= 6);
    }

    void tailUpRaisesTheGearboxAndLeavesTheFan() {
        // About the front mounts (−640, 0, 30 in the donor): the flange's middle (813, 0, 0) has a lever of 1453 mm,
        // the fan's (−725, 0, 112) one of √(85² + 82²) = 118 mm. One degree: 1453·sin 1° ≈ 25 mm against 118·sin 1° ≈ 2
        // mm.
        Project p = demo();
        const study::Reports before = run(p);
        Placement* placement = activePlacement(p);
        QCOMPARE(placement->pivot, Pivot::FrontMounts);
        *placement = turned(*placement, *activeDonor(p), Turn::Tail, -1).value();
        const study::Reports after = run(p);
        const Vector3d flange = centreOf(after, "output-flange") - centreOf(before, "output-flange");
        const Vector3d fan = centreOf(after, "fan") - centreOf(before, "fan");
        QVERIFY(flange.z() > 25 && flange.z() < 26);
        QVERIFY(fan.norm() < 2.1);
    }

    void sectionsThatAreMissingAreNotAsked() {
        Project p;
        p.name = "empty";
        QVERIFY(!run(p).asked);
        QCOMPARE(run(p).verdict, Verdict::Go);
        p.sections.edit<Weights>();
        const study::Reports weighed = run(p);
        QVERIFY(weighed.asked && !weighed.with<fit::FitReport>().clearance && !weighed.of<ledger::PartsReport>());
        QCOMPARE(weighed.verdict, Verdict::Unknown); // it is there but lacks data
        p = demo();
        p.donors.clear();
        p.placements.clear();
        p.active_placement = {};
        p.joined.clear();
        p.vehicle->bodies.erase(
            std::remove_if(p.vehicle->bodies.begin(), p.vehicle->bodies.end(), [](const Body& b) { return b.loose(); }),
            p.vehicle->bodies.end());
        QVERIFY(!run(p).with<fit::FitReport>().clearance); // a vehicle alone asks nothing
    }

    void nothingMeasuredIsNoPass() {
        const auto expect = [](Project p, const char* reason) {
            p.sections.drop<Driveline>(); // they have troubles of their own
            p.sections.drop<Gearing>();
            p.sections.drop<Mounts>();
            p.sections.drop<Relief>();
            const study::Reports reports = run(p);
            QVERIFY(reports.with<fit::FitReport>().clearance);
            QCOMPARE(reports.with<fit::FitReport>().clearance->verdict, Verdict::Unknown);
            QVERIFY2(reports.with<fit::FitReport>().clearance->reason.find(reason) != std::string::npos,
                     reports.with<fit::FitReport>().clearance->reason.c_str());
            QCOMPARE(reports.findings.front().id, std::string("clearance:asked"));
            QVERIFY(!reports.findings.front().help.empty());
        };
        Project p = demo();
        p.placements.clear();
        p.sections.drop<Weights>();
        p.vehicle->bodies.resize(3); // rails and crossmember: nothing loose
        expect(p, "no donor is placed");
        p = demo();
        p.sections.drop<Weights>();
        p.joined.clear();
        p.donors[0].bodies.clear();
        expect(p, "the donor has no bodies");
        p = demo();
        p.sections.drop<Weights>();
        p.joined.clear();
        p.vehicle->bodies.clear();
        expect(p, "the vehicle has no bodies");
    }

    /// Law: what was remembered from earlier runs never changes a result.
    void memoryChangesNothing() {
        tests::KeptStudy study;
        Project p = demo();
        const study::Reports first = run(study, p);
        Project moved = p;
        *activePlacement(moved) = shifted(*activePlacement(moved), {7, 3, 11});
        const study::Reports there = run(study, moved), fresh = run(moved), back = run(study, p);
        const auto same = [](const study::Reports& x, const study::Reports& y) {
            QCOMPARE(x.with<fit::FitReport>().clearance->pairs.size(),
                     y.with<fit::FitReport>().clearance->pairs.size());
            for (std::size_t i = 0; i < x.with<fit::FitReport>().clearance->pairs.size(); ++i) {
                QVERIFY(x.with<fit::FitReport>().clearance->pairs[i].a ==
                        y.with<fit::FitReport>().clearance->pairs[i].a);
                QCOMPARE(x.with<fit::FitReport>().clearance->pairs[i].gap.gap_mm,
                         y.with<fit::FitReport>().clearance->pairs[i].gap.gap_mm);
            }
        };
        same(there, fresh);
        same(first, back);
    }

    /// While the hand moves, depths are searched nearby: verdicts are those at rest, depths never smaller than found.
    void nearbyDepthsKeepTheVerdicts() {
        tests::KeptStudy study;
        Project p = demo();
        run(study, p);
        for (int step = 1; step <= 4; ++step) {
            *activePlacement(p) = shifted(*activePlacement(p), {0, 0, -2});
            study::RunOptions live;
            live.depth = discipline::Depth::Nearby;
            const study::Reports moving = run(study, p, live), rest = run(p);
            for (const fit::PairGap& r : rest.with<fit::FitReport>().clearance->pairs) {
                const fit::PairGap* m = pair(moving, r.a, r.b);
                QCOMPARE(m->verdict, r.verdict);
                if (!r.overlap())
                    QCOMPARE(m->gap.gap_mm, r.gap.gap_mm);
                else
                    QVERIFY(m->gap.gap_mm < 0.9 * r.gap.gap_mm && m->gap.gap_mm > 2 * r.gap.gap_mm - 1);
            }
        }
    }

    void inchesInWords() {
        study::RunOptions options;
        options.shown = quantity::Shown::Inches;
        const study::Reports reports = run(demo(), options), metric = run(demo());
        const double gap_mm = metric.with<fit::FitReport>().clearance->pairs.front().gap.gap_mm;
        QCOMPARE(gauge(reports, "tightest")->value, quantity::fixed(gap_mm / 25.4, 3) + " in");
        QVERIFY(gauge(reports, "front")->value.find(" lb") != std::string::npos);
        const study::Finding* turbo = finding(reports, "turbine", "steering-shaft");
        QVERIFY2(turbo->detail.find("2.05 in wanted") != std::string::npos, turbo->detail.c_str()); // 52 / 25.4
    }

    void gaugesFollowTheReports() {
        Project p = demo();
        study::Reports reports = run(p);
        QCOMPARE(reports.gauges.size(), std::size_t{9});
        QCOMPARE(gauge(reports, "front")->value,
                 quantity::massText(*reports.of<weights::AxleLoadReport>()->front.load_kg));
        QCOMPARE(gauge(reports, "cost")->value,
                 quantity::fixed(reports.of<ledger::PartsReport>()->to_spend, 0) + " EUR");
        // The pointer stands left of the middle exactly when the margin is below zero.
        for (const study::Gauge& g : reports.gauges)
            if (g.pointer) QCOMPARE(*g.pointer < 0.5, g.verdict == Verdict::NoGo);
        p.sections.edit<Weights>().limit.front_kg = 600;
        p.sections.edit<ledger::Money>().budget = 3000;
        reports = run(p);
        for (const char* id : {"front", "cost"}) {
            QCOMPARE(gauge(reports, id)->verdict, Verdict::NoGo);
            QVERIFY(*gauge(reports, id)->pointer < 0.5);
        }
        const auto has = [&reports](const std::string& id) {
            return std::any_of(reports.findings.begin(), reports.findings.end(),
                               [&id](const study::Finding& f) { return f.id == id; });
        };
        QVERIFY(has("weights:front") && !has("weights:rear") && has("parts:budget"));
    }

    void brokenBodyIsOneFinding() {
        Project p = demo();
        for (Body& b : p.donors[0].bodies)
            if (b.id.text == "down-pipe") std::get<TubeSpec>(b.shape).bend_radius_mm = 2000;
        const study::Reports reports = run(p);
        int about = 0;
        for (const study::Finding& f : reports.findings)
            about += (f.a && f.a->body.text == "down-pipe") || (f.b && f.b->body.text == "down-pipe");
        QCOMPARE(about, 1);
        QVERIFY(reports.with<fit::FitReport>().clearance->broken.size() == 1 &&
                reports.with<fit::FitReport>().clearance->broken[0].error.what.find("bend") != std::string::npos);
    }

    /// A report of the command line asks one: it says the same as beside all others, and no other is troubled for it.
    void onlyWhatIsAskedForIsJudged() {
        const Project project = demo();
        const study::Reports whole = run(project);
        const auto saidBy = [](const study::Reports& reports, const std::string& id) {
            std::vector<std::string> out;
            for (const study::Finding& f : reports.findings)
                if (f.discipline == id) out.push_back(f.id + ": " + f.title + "; " + f.detail + "; " + f.help);
            return out;
        };
        const discipline::Board& board = disciplines::all();
        for (std::size_t i = 0; i < board.size(); ++i) {
            const std::string& id = board[i].card().id;
            study::RunOptions options;
            options.only = {id};
            const study::Reports alone = run(project, options);
            QVERIFY(alone.complete && alone.failed.empty());
            QVERIFY2(study::verdictOf(alone, id) == study::verdictOf(whole, id), id.c_str());
            QVERIFY2(saidBy(alone, id) == saidBy(whole, id), id.c_str());
            if (!board[i].card().scene && board.before(i).empty()) {
                QCOMPARE(alone.judged, std::vector<std::string>{id});
                QVERIFY2(alone.scene->bodies.empty(), id.c_str()); // no solid is made for it
            }
        }
        study::RunOptions gaps;
        gaps.only = {"clearance"};
        const auto judged = run(project, gaps).judged;
        QVERIFY(std::find(judged.begin(), judged.end(), "mounts") != judged.end()); // how far the engine rocks
        QVERIFY(std::find(judged.begin(), judged.end(), "driveline") == judged.end());
        QVERIFY(std::find(judged.begin(), judged.end(), "relief") == judged.end());
    }

    void stoppedIsNotComplete() {
        study::RunOptions options;
        options.stop.stop();
        QVERIFY(!run(demo(), options).complete);
    }

    void donorHungInAnotherVehicle() {
        Project other;
        other.name = "Another";
        other.vehicle.emplace();
        other.vehicle->name = "Box on wheels";
        Body floor;
        floor.id.text = "floor";
        floor.name = "Floor";
        floor.category = "frame";
        floor.accuracy_mm = 1;
        floor.shape = BoxSpec{{3000, 1000, 10}};
        other.vehicle->bodies = {floor};
        Project placed = hung(other, demo().donors[0]).value();
        activePlacement(placed)->position_mm = {0, 0, 400};
        // Law: over a flat floor, raising the unit by 10 mm raises its lowest part's gap by 10 mm.
        placed.rules.interest_range_mm = 500;
        const auto lowest = [](const study::Reports& over) {
            double gap_mm = 1e9;
            for (const fit::PairGap& g : over.with<fit::FitReport>().clearance->pairs)
                gap_mm = std::min(gap_mm, g.gap.gap_mm);
            return gap_mm;
        };
        const double before = lowest(run(placed));
        activePlacement(placed)->position_mm.z() += 10;
        QVERIFY(before > 0 && std::abs(lowest(run(placed)) - before - 10) < 1e-6);
    }
};

GABARIT_SUITE(StudyTest)
#include "study_test.moc"
