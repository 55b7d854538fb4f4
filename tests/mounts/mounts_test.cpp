// A unit on its mounts, judged: loads by hand, torn rubbers, modes, bolts.
#include "gearing/section/gearing.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "store/rule_book.h"
#include "support/mounted_unit.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::mounts;
using Eigen::Vector3d;
using model::Verdict;
using tests::check;
using tests::has;
using tests::judged;
using tests::load;
using tests::rubber;

namespace {

constexpr double g = 9.80665;

const model::RuleBook& book() { return store::defaultRuleBook(); }

model::Project unit() { return tests::mountedUnit(); }

} // namespace

class MountsTest : public QObject {
    Q_OBJECT
private slots:
    void atRestByStatics() {
        const MountsReport r = judged(unit());
        QVERIFY2(r.usable, r.reason.c_str());
        QVERIFY(r.determinate);
        // 250 ahead, 500 behind: the rear one carries a third, each front one a third.
        for (const auto& m : r.mounts) QVERIFY(std::abs(*m.rest_n - 160 * g / 3) < 1e-6);
        QVERIFY(std::abs(*r.mounts[0].rest_mm - 160 * g / 3 / 250) < 0.35); // and what it tips by its shear
        QCOMPARE(check(r, "left/rating").verdict, Verdict::Go);
        QVERIFY(std::abs(*check(r, "left/rating").value - 160 * g / 3 / 1500) < 1e-9);
    }
    void torqueIsACoupleOverTheFrontSpan() {
        const MountsReport r = judged(unit());
        const LoadCase& c = load(r, "torque-forward");
        QVERIFY2(c.reason.empty(), c.reason.c_str());
        // 200 N·m · 4 · 1.5 (clutch let in) over 0.4 m: 3000 N; forward presses the right one and lifts the left.
        QVERIFY(std::abs(c.on_unit_n[1].z() - (160 * g / 3 + 3000)) < 1e-6);
        QVERIFY(std::abs(c.on_unit_n[0].z() - (160 * g / 3 - 3000)) < 1e-6);
        QVERIFY(c.pulled[0] && !c.pulled[1] && !c.pulled[2]);
        const LoadCase& back = load(r, "torque-reverse");
        QVERIFY(std::abs(back.on_unit_n[0].z() - (160 * g / 3 + 200 * 3.5 * 1.5 / 0.4)) < 1e-6);
        QVERIFY(c.how.find("not limited by grip") != std::string::npos);
        // Captive rubbers may be pulled apart, plain ones may not.
        QCOMPARE(check(r, "left/pulled").verdict, Verdict::Go);
        model::Project plain = unit();
        plain.sections.edit<model::Mounts>().isolators[0].captive = false;
        plain.sections.edit<model::Mounts>().isolators[0].stop_out_mm.reset();
        QCOMPARE(check(judged(plain), "left/pulled").verdict, Verdict::NoGo);
    }
    void tyresSlipBeforeTheEngineIsThrough() {
        model::Project p = unit();
        p.sections.edit<model::Gearing>().final_drive = 4;
        p.sections.edit<model::Gearing>().tyre = "7.50-16"; // 787.4 mm
        const MountsReport r = judged(p, 300);
        // 300 kg · g · 0.3937 m / 4 at the gearbox's output.
        const double torque = 300 * g * 0.3937 / 4;
        QVERIFY(torque < 200 * 4);
        QVERIFY(std::abs(load(r, "torque-forward").load.moment_nmm.x() + torque * 1000) < 1e-6);
        QVERIFY(load(r, "torque-forward").how.find("slip") != std::string::npos);
        p.sections.edit<model::Mounts>().driven_axle_kg =
            3000; // the project's own load counts: never so much grip used
        QVERIFY(std::abs(load(judged(p, 300), "torque-forward").load.moment_nmm.x() + 1200e3) < 1e-6);
    }
    void axleTorqueTurnsTransverseUnitsAboutY() {
        model::Project p = unit();
        p.sections.edit<model::Mounts>().reacts_axle_torque = true;
        QVERIFY(!load(judged(p), "torque-forward").reason.empty()); // the final drive is not given
        p.sections.edit<model::Gearing>().final_drive = 4;
        const LoadCase c = load(judged(p), "torque-forward");
        QVERIFY(std::abs(c.load.moment_nmm.y() - 200 * 4 * 1.5 * 4 * 1000) < 1e-6);
        QVERIFY(std::abs(c.load.moment_nmm.x()) < 1e-9);
        // The tyres' grip is at the axle itself: no ratio lies between.
        p.sections.edit<model::Gearing>().transfer_high = 1.2;
        p.sections.edit<model::Gearing>().tyre = "7.50-16"; // 787.4 mm
        QVERIFY(std::abs(load(judged(p, 300), "torque-forward").load.moment_nmm.y() - 300 * g * 0.3937 * 1000) < 1e-6);
        // Driving forward its front rises: the rear mount is pressed, the front ones are lifted.
        QVERIFY(c.on_unit_n[2].z() > 160 * g / 3 && c.on_unit_n[0].z() < 160 * g / 3);
    }
    void lowRangeCountsWhereItsCaseHangsOnTheUnit() {
        model::Project p = unit();
        p.sections.edit<model::Gearing>().transfer_low = 2.5;
        QVERIFY(std::abs(load(judged(p), "torque-forward").load.moment_nmm.x() + 1200e3) < 1e-6);
        // By itself it does not hang there, and in high range the tyres let most through to the gearbox.
        p.sections.edit<model::Gearing>().transfer_high = 1.2;
        p.sections.edit<model::Gearing>().final_drive = 4;
        p.sections.edit<model::Gearing>().tyre = "7.50-16"; // 787.4 mm
        QVERIFY(std::abs(load(judged(p, 300), "torque-forward").load.moment_nmm.x() +
                         300 * g * 0.3937 / (4 * 1.2) * 1000) < 1e-6);
        p.sections.edit<model::Gearing>().final_drive.reset();
        p.sections.edit<model::Mounts>().transfer_on_unit = true;
        QVERIFY(std::abs(load(judged(p), "torque-forward").load.moment_nmm.x() + 3000e3) < 1e-6);
    }
    void shocksAreWeightTimesTheBooksFactors() {
        const MountsReport r = judged(unit());
        double sum = 0;
        for (const auto& f : load(r, "bump").on_unit_n) sum += f.z();
        QVERIFY(std::abs(sum - 4 * 160 * g) < 1e-6);
        Vector3d side(0, 0, 0);
        for (const auto& f : load(r, "corner-left").on_unit_n) side += f;
        QVERIFY(std::abs(side.y() + 2 * 160 * g) < 1e-6); // the unit is thrown to the right, the seats hold it
        model::Project p = unit();
        model::Figure own;
        own.id = "mount_bump_g";
        own.value = 5;
        p.rules.figures = {own};
        const auto r5 = judgeMounts(p, model::applied(book(), p.rules), {});
        sum = 0;
        for (const auto& f : load(*r5, "bump").on_unit_n) sum += f.z();
        QVERIFY(std::abs(sum - 5 * 160 * g) < 1e-6);
    }
    void firmerMountsRockLessAndShakeFaster() {
        model::Project p = unit();
        const MountsReport soft = judged(p);
        p.sections.edit<model::Mounts>().isolators = {rubber(700, 260)};
        const MountsReport firm = judged(p);
        QVERIFY(soft.rocking && firm.rocking);
        QVERIFY(firm.rocking->roll_deg < soft.rocking->roll_deg);
        QVERIFY(firm.rocking->down_mm < soft.rocking->down_mm);
        for (std::size_t i = 0; i < 6; ++i) QVERIFY((*firm.modes)[i].frequency_hz > (*soft.modes)[i].frequency_hz);
        // All rates as many times more: every frequency by the root of it.
        p.sections.edit<model::Mounts>().isolators = {rubber(1000, 360)};
        const MountsReport four = judged(p);
        for (std::size_t i = 0; i < 6; ++i)
            QVERIFY(std::abs((*four.modes)[i].frequency_hz - 2 * (*soft.modes)[i].frequency_hz) < 1e-9);
        // 800 rpm, four cylinders: 26.7 Hz; below 26.7/√2 or no-go.
        QVERIFY(std::abs(*soft.firing_hz - 80.0 / 3) < 1e-9);
        bool late = false;
        for (const model::Check& c : four.checks)
            if (c.id.find("/idle") != std::string::npos) {
                QCOMPARE(c.verdict == Verdict::NoGo, *c.value > 80.0 / 3 / std::sqrt(2));
                late = late || c.verdict == Verdict::NoGo;
            }
        QVERIFY(late);
        QVERIFY(has(soft, "second-order"));
        p.sections.edit<model::Mounts>().running->balance_shafts = true;
        QVERIFY(!has(judged(p), "second-order"));
    }
    void whereWheelsHopItIsANuisance() {
        model::Project p = unit();
        // Bounce alone: 3 · k / m = (2π · 12)²; the rubbers at the centre's height, so that nothing else mixes in.
        const double k = 160 * std::pow(2 * M_PI * 12, 2) / 3 / 1000;
        p.sections.edit<model::Mounts>().isolators = {rubber(k, k)};
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts) m.centre_mm->z() = 600;
        const MountsReport r = judged(p);
        const model::Check& c = check(r, "mode-3/wheel_hop_low_hz");
        QVERIFY(std::abs(*c.value - 12) < 1e-6);
        QCOMPARE(c.verdict, Verdict::Close);
        p.sections.edit<model::Mounts>().isolators = {rubber(2 * k, 2 * k)};
        QVERIFY(!has(judged(p), "mode-3/wheel_hop_low_hz"));
    }
    void secondOrderForceByHand() {
        model::Project p = unit();
        p.sections.edit<model::Mounts>().running->reciprocating_kg = 0.5;
        p.sections.edit<model::Mounts>().running->stroke_mm = 80;
        p.sections.edit<model::Mounts>().running->rod_mm = 140;
        const double omega = 800 * 2 * M_PI / 60;
        QVERIFY(std::abs(*judged(p).second_order_n - 4 * 0.5 * 0.04 * omega * omega * 0.04 / 0.14) < 1e-9);
    }
    void aTornRubberIsJudged() {
        const MountsReport r = judged(unit());
        for (const auto& m : r.mounts) {
            QVERIFY(m.torn_holds);
            QVERIFY(*m.torn_mm > 5 && *m.torn_mm < 25); // down to its stop
        }
        model::Project p = unit();
        p.sections.edit<model::Mounts>().isolators[0].captive = false;
        p.sections.edit<model::Mounts>().isolators[0].shear_n_per_mm = 0.0;
        p.sections.edit<model::Mounts>().isolators[0].stop_side_mm.reset();
        const MountsReport loose = judged(p);
        QCOMPARE(check(loose, "rear/torn").verdict, Verdict::NoGo);
        QVERIFY(!loose.mounts[2].torn_holds);
    }
    void moreThanThreeShareByTheirRates() {
        model::Project p = unit();
        model::Mount fourth = p.sections.edit<model::Mounts>().mounts[2];
        fourth.id = fourth.name = "rear-left";
        fourth.centre_mm = Vector3d(1000, -150, 500);
        p.sections.edit<model::Mounts>().mounts[2].centre_mm = Vector3d(1000, 150, 500);
        p.sections.edit<model::Mounts>().mounts.push_back(fourth);
        const MountsReport r = judged(p);
        QVERIFY(!r.determinate);
        double sum = 0;
        for (const auto& m : r.mounts) sum += *m.rest_n;
        QVERIFY(std::abs(sum - 160 * g) < 1e-4);
        QVERIFY(std::abs(*r.mounts[0].rest_n - *r.mounts[1].rest_n) < 1e-6); // left as right
        p.sections.edit<model::Mounts>().mounts[3].isolator.clear();
        const MountsReport unknown = judged(p);
        QVERIFY(!unknown.mounts[0].rest_n);
        QCOMPARE(check(unknown, "rear-left/isolator").verdict, Verdict::Unknown);
        QVERIFY(!unknown.modes && !unknown.modes_reason.empty());
    }
    void boltsAreHeldAgainstTheirHoles() {
        model::Project p = unit();
        model::MountFace& pad = p.sections.edit<model::Mounts>().mounts[0].pad;
        pad.holes_mm = {{-30, -30}, {-30, 30}, {30, -30}, {30, 30}};
        pad.thread_mm = 10;
        pad.depth_mm = 24;
        pad.metal = model::Metal::Aluminium;
        model::Bolting& bolts = p.sections.edit<model::Mounts>().mounts[0].pad_bolts;
        bolts.length_mm = 30;
        bolts.clamped_mm = 8;
        bolts.grade = "8.8";
        MountsReport r = judged(p);
        QCOMPARE(*r.bolts[0].engaged_mm, 22.0);
        QCOMPARE(*r.bolts[0].least_length_mm, 23.0); // 8 + 1.5 · 10
        QCOMPARE(*r.bolts[0].most_length_mm, 30.0);  // 8 + 24 − 2
        QCOMPARE(check(r, "left/pad/engaged").verdict, Verdict::Go);
        QCOMPARE(check(r, "left/pad/depth").verdict, Verdict::Go);
        QCOMPARE(check(r, "left/pad/all").verdict, Verdict::Go);
        // 0.2 · 10 mm · 0.75 · 580 N/mm² · 58.0 mm² = 50.5 N·m; anti-seize needs less.
        QVERIFY(std::abs(*r.bolts[0].torque_nm - 50.46) < 0.1);
        bolts.treatment = model::Treatment::AntiSeize;
        QVERIFY(std::abs(*judged(p).bolts[0].torque_nm - 50.46 * 0.13 / 0.2) < 0.1);
        bolts.torque_nm = 50;
        QCOMPARE(check(judged(p), "left/pad/torque").verdict, Verdict::Close);
        bolts.used = 2;
        bolts.length_mm = 33; // bottoms
        r = judged(p);
        QCOMPARE(check(r, "left/pad/all").verdict, Verdict::NoGo);
        QCOMPARE(check(r, "left/pad/depth").verdict, Verdict::NoGo);
        bolts.length_mm = 20;
        QCOMPARE(check(judged(p), "left/pad/engaged").verdict, Verdict::NoGo);
        bolts.length_mm.reset();
        QCOMPARE(check(judged(p), "left/pad/engaged").verdict, Verdict::Unknown);
    }
    /// Rubbers that lie on their side carry the unit by their shear: 160 kg on three, a third each.
    void rubbersOnTheirSideAreLoadedAcross() {
        model::Project p = unit();
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts)
            m.axis = Vector3d(0, m.centre_mm->y() < 0 ? 1 : -1, 0);
        MountsReport r = judged(p);
        QVERIFY(std::abs(*r.mounts[0].rest_n) < 1e-6);
        QVERIFY(std::abs(*r.mounts[0].rest_shear_n - 160 * g / 3) < 1e-6);
        // What it bears across is not given: not known, whatever it bears along its axis.
        QCOMPARE(check(r, "left/rating-shear").verdict, Verdict::Unknown);
        p.sections.edit<model::Mounts>().isolators[0].shear_rating_n = 600;
        r = judged(p);
        QVERIFY(std::abs(*check(r, "left/rating-shear").value - 160 * g / 3 / 600) < 1e-9);
        QCOMPARE(check(r, "left/rating-shear").verdict, Verdict::Go);
        p.sections.edit<model::Mounts>().isolators[0].shear_rating_n = 500; // 523 N rest on it
        QCOMPARE(check(judged(p), "left/rating-shear").verdict, Verdict::NoGo);
        // Leaning by 30°: cos 30° along it, sin 30° across it.
        p = unit();
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts) m.axis = Vector3d(0, 0.5, std::sqrt(0.75));
        r = judged(p);
        QVERIFY(std::abs(*r.mounts[2].rest_n - 160 * g / 3 * std::sqrt(0.75)) < 1e-6);
        QVERIFY(std::abs(*r.mounts[2].rest_shear_n - 160 * g / 3 * 0.5) < 1e-6);
        p.sections.edit<model::Mounts>().isolators[0].rating_n.reset();
        QCOMPARE(check(judged(p), "left/rating").verdict, Verdict::Unknown);
    }
    void leaningAsAProtractorTellsIt() {
        // On the left (y below zero) the top goes to the left when it leans outward.
        QVERIFY((axisOf({30, 0}, -300) - Vector3d(0, -0.5, std::sqrt(0.75))).norm() < 1e-12);
        QVERIFY((axisOf({30, 0}, 300) - Vector3d(0, 0.5, std::sqrt(0.75))).norm() < 1e-12);
        QVERIFY((axisOf({0, 20}, 300) - Vector3d(-std::sin(20 * M_PI / 180), 0, std::cos(20 * M_PI / 180))).norm() <
                1e-12);
        QCOMPARE(leanWords({0.2, 0}), std::string("upright"));
        QCOMPARE(leanWords({-35, 10}), std::string("leaning 35° inward and 10° forward"));
        QCOMPARE(leanWords({0, -20}), std::string("leaning 20° rearward"));
        for (const double y : {-200.0, 0.0, 200.0})
            for (const double outward : {-170.0, -90.0, 0.0, 35.0, 90.0})
                for (const double forward : {-60.0, 0.0, 12.0}) {
                    const Lean back = leanOf(axisOf({outward, forward}, y), y);
                    QVERIFY(std::abs(back.outward_deg - outward) < 1e-9);
                    QVERIFY(std::abs(back.forward_deg - forward) < 1e-9);
                }
    }
    /// M10 (nut 8.4 high, pitch 1.5) through 12 of plates and 10 of rail: at least 22 + 8.4 + 1.5 = 31.9 long; of one
    /// with a shank 26 are threaded (ISO 4014): no longer than 22 − 1 + 26 = 47.
    void throughBoltsAreJudgedAtTheirNuts() {
        model::Project p = unit();
        model::MountFace& pad = p.sections.edit<model::Mounts>().mounts[0].pad;
        pad.holes_mm = {{0, 0}};
        pad.thread_mm = 10;
        pad.through = true;
        pad.depth_mm = 10;
        model::Bolting& bolts = p.sections.edit<model::Mounts>().mounts[0].pad_bolts;
        bolts.length_mm = 35;
        bolts.clamped_mm = 12;
        bolts.grade = "8.8";
        MountsReport r = judged(p);
        QCOMPARE(*r.bolts[0].grip_mm, 22.0);
        QCOMPARE(*r.bolts[0].engaged_mm, 13.0);
        QVERIFY(std::abs(*r.bolts[0].least_length_mm - 31.9) < 1e-9);
        QVERIFY(std::abs(*r.bolts[0].most_length_mm - 47) < 1e-9);
        QCOMPARE(check(r, "left/pad/nut").verdict, Verdict::Go);
        QCOMPARE(check(r, "left/pad/grip").verdict, Verdict::Go);
        bolts.length_mm = 30; // 8 beyond: less than the nut
        QCOMPARE(check(judged(p), "left/pad/nut").verdict, Verdict::NoGo);
        bolts.length_mm = 50; // a shank of 24 in a grip of 22
        QCOMPARE(check(judged(p), "left/pad/grip").verdict, Verdict::Unknown);
        bolts.threaded_mm = 26;
        QCOMPARE(check(judged(p), "left/pad/grip").verdict, Verdict::NoGo);
        bolts.threaded_mm = 50;
        QCOMPARE(check(judged(p), "left/pad/grip").verdict, Verdict::Go);
        pad.depth_mm.reset();
        QCOMPARE(check(judged(p), "left/pad/nut").verdict, Verdict::Unknown);
        QCOMPARE(check(judged(p), "left/pad/grip").verdict, Verdict::Unknown);
    }
    void aPlaceOfTheUnitWithoutAMountIsNamed() {
        model::Project p = unit();
        model::HardPoint point;
        point.id.text = "fourth";
        point.name = "Fourth mount";
        point.role = "front_mount";
        point.at_mm = Vector3d(250, -190, 500) - Vector3d(500, 0, 600); // the left one's
        p.donors[0].reference_points = {point};
        QVERIFY(!has(judged(p), "pad/fourth"));
        p.donors[0].reference_points[0].at_mm.x() -= 400;
        QCOMPARE(check(judged(p), "pad/fourth").verdict, Verdict::Unknown);
        p.donors[0].reference_points[0].role = "sling";
        QVERIFY(!has(judged(p), "pad/fourth"));
    }
    void halfOfAFacesBoltsIsNotKnown() {
        model::Project p = unit();
        model::MountFace& pad = p.sections.edit<model::Mounts>().mounts[0].pad;
        QCOMPARE(check(judged(p), "left/pad/thread").verdict, Verdict::Unknown); // nothing is said of them
        pad.thread_mm = 10;
        QCOMPARE(check(judged(p), "left/pad/all").verdict, Verdict::Unknown);
        QCOMPARE(check(judged(p), "left/pad/grade").verdict, Verdict::Unknown);
        pad.holes_mm = {{0, 0}};
        pad.depth_mm = 20;
        p.sections.edit<model::Mounts>().mounts[0].pad_bolts.length_mm = 20;
        p.sections.edit<model::Mounts>().mounts[0].pad_bolts.clamped_mm = 8; // 12 in: enough in steel, not in aluminium
        QCOMPARE(check(judged(p), "left/pad/engaged").verdict, Verdict::Unknown);
        pad.metal = model::Metal::Steel;
        QCOMPARE(check(judged(p), "left/pad/engaged").verdict, Verdict::Go);
        pad.metal = model::Metal::CastIron;
        QCOMPARE(check(judged(p), "left/pad/engaged").verdict, Verdict::NoGo);
    }
    void aRubberThatStandsOnNothingIsTold() {
        model::Project p = tests::withBrackets();
        QVERIFY(!has(judged(p), "left/stands"));
        p.sections.edit<model::Mounts>()
            .mounts[0]
            .tower.reset(); // its rubber, 40 high, stands at 480, the stand is at 380
        const model::Check& c = check(judged(p), "left/stands");
        QCOMPARE(c.verdict, Verdict::Close);
        QVERIFY(std::abs(*c.value - 100) < 1e-9);
    }
    void whatHoldsNothingIsNoGo() {
        model::Project p = unit();
        for (model::Mount& m : p.sections.edit<model::Mounts>().mounts)
            m.centre_mm = Vector3d(500, 0, 500); // it would turn about that point
        MountsReport r = judged(p);
        QCOMPARE(check(r, "layout").verdict, Verdict::NoGo);
        QVERIFY(check(r, "layout").reason.find("nothing holds") != std::string::npos);
        p = unit();
        p.sections.edit<model::Mounts>().inertia.reset(); // its one mass lies in no body: a point has no inertia
        r = judged(p);
        QCOMPARE(check(r, "modes").verdict, Verdict::Unknown);
        QVERIFY(check(r, "modes").reason.find("inertia") != std::string::npos);
        QVERIFY(r.mounts[0].rest_n.has_value()); // the loads are known all the same
    }
    void whatIsMissingIsTold() {
        model::Project p = unit();
        p.sections.edit<model::Mounts>().mounts[1].pad.point.text = "nowhere";
        QVERIFY(judged(p).reason.find("right") != std::string::npos);
        p = unit();
        p.sections.edit<model::Mounts>().mounts[1].isolator = "none such";
        QVERIFY(judged(p).reason.find("none such") != std::string::npos);
        p = unit();
        p.sections.edit<model::Mounts>().mounts.pop_back();
        QCOMPARE(check(judged(p), "layout").verdict, Verdict::NoGo);
        p = unit();
        p.sections.drop<model::Gearing>();
        const MountsReport bare = judged(p);
        QVERIFY(load(bare, "torque-forward").on_unit_n.empty());
        QCOMPARE(check(bare, "rear/pulled").verdict, Verdict::Unknown); // no load that is known pulls it apart
        QCOMPARE(check(bare, "left/pulled").verdict, Verdict::Go);      // a bend does, and it is captive
        p.placements.clear();
        QVERIFY(!judged(p).usable);
        p.sections.drop<model::Mounts>();
        QVERIFY(!judgeMounts(p, book(), {}));
    }
};

GABARIT_SUITE(MountsTest)
#include "mounts_test.moc"
