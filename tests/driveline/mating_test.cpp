// Interfaces that mate, and the stack between block and gearbox added up by hand.
#include "driveline/mating.h"
#include "driveline/section/driveline.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::driveline;
using model::Sized;
using model::Verdict;

namespace {

const model::RuleBook& book() { return store::defaultRuleBook(); }

model::Interface splines(double a_teeth, double a_mm, double b_teeth, double b_mm) {
    model::Interface i;
    i.id = "output";
    i.kind = model::InterfaceKind::Spline;
    i.a.name = "gearbox output";
    i.a.count = a_teeth;
    i.a.diameter_mm = a_mm;
    i.b.name = "slip yoke";
    i.b.count = b_teeth;
    i.b.diameter_mm = b_mm;
    return i;
}
Sized mm(double value, double tolerance = 0) { return {value, tolerance}; }

/// Block face 0; plate 12; crank flange 6; friction face 6 + 30 = 36; fingers 36 + 52 = 88; gearbox face 12 + 165 =
/// 177.
model::BellStack stack() {
    model::BellStack s;
    s.adapter_plate = mm(12, 0.1);
    s.crank_flange = mm(6, 0.1);
    s.flywheel = mm(30, 0.2);
    s.clutch = mm(52, 1);
    s.bell_depth = mm(165, 0.2);
    s.release_at_rest = mm(85, 0.5); // face at 92: 4 from the fingers
    s.release_travel = mm(18, 0.1);
    s.finger_travel = mm(9, 0.1);
    s.shaft_tip = mm(184, 0.5);   // tip at −7
    s.pilot_mouth = mm(2, 0.2);   // at 8: 15 in
    s.pilot_bottom = mm(22, 0.1); // 7 left
    s.spline_from = mm(160, 0.5); // 17…
    s.spline_to = mm(110, 0.5);   // …67
    s.hub_from = mm(-12, 0.3);    // 24…
    s.hub_to = mm(18, 0.3);       // …54
    s.starter_face = mm(12, 0.1);
    s.starter_rest = mm(2, 0.1); // 14
    s.starter_out = mm(26, 0.1); // 38
    s.ring_from = mm(12, 0.1);   // 18
    s.ring_width = mm(14, 0.1);
    s.shaft_shoulder = mm(24, 0.1); // 9 left
    return s;
}
const Check& check(const std::vector<Check>& checks, const char* id) {
    for (const Check& c : checks)
        if (c.id == std::string("bellhousing/") + id) return c;
    static const Check none;
    return none;
}

} // namespace

class MatingTest : public QObject {
    Q_OBJECT
private slots:
    void splinesMateByCountAndDiameter() {
        QCOMPARE(judgeInterface(splines(27, 35.1, 27, 35.0), book()).mating, Mating::Mates);
        const InterfaceReport other = judgeInterface(splines(27, 35, 31, 38.1), book());
        QCOMPARE(other.mating, Mating::DoesNot);
        QCOMPARE(other.verdict, Verdict::NoGo);
        QCOMPARE(other.reasons.size(), std::size_t(2));
        bool told = false;
        for (const std::string& reason : other.reasons)
            told = told || (reason.find("27") != std::string::npos && reason.find("31") != std::string::npos &&
                            reason.find("slip yoke") != std::string::npos);
        QVERIFY(told);
        // Engaged no longer than the shorter side: 30 mm of 35 wanted, one diameter.
        model::Interface lengths = splines(27, 35, 27, 35);
        lengths.a.length_mm = 60;
        QCOMPARE(judgeInterface(lengths, book()).mating, Mating::Unknown); // of the other it is not known
        lengths.b.length_mm = 30;
        const InterfaceReport shorter = judgeInterface(lengths, book());
        QCOMPARE(shorter.mating, Mating::DoesNot);
        QVERIFY(shorter.reasons[0].find("30 mm are engaged, 35 mm wanted") != std::string::npos);
        lengths.b.length_mm = 35;
        QCOMPARE(judgeInterface(lengths, book()).mating, Mating::Mates);
        model::Interface adapted = splines(27, 35, 31, 38.1);
        adapted.adapter = "yoke with a 27-tooth bore";
        QCOMPARE(judgeInterface(adapted, book()).mating, Mating::Adapter);
        QCOMPARE(judgeInterface(adapted, book()).verdict, Verdict::Close);
        model::Interface unknown = splines(27, 35, 27, 35);
        unknown.b.count.reset();
        QCOMPARE(judgeInterface(unknown, book()).verdict, Verdict::Unknown);
        unknown.b.diameter_mm = 40; // what differs counts before what is not known
        QCOMPARE(judgeInterface(unknown, book()).verdict, Verdict::NoGo);
    }
    void flangesJointsAndBores() {
        model::Interface flange;
        flange.kind = model::InterfaceKind::Flange;
        flange.a.count = flange.b.count = 4;
        flange.a.diameter_mm = flange.b.diameter_mm = 80;
        flange.a.pilot_mm = flange.b.pilot_mm = 57;
        flange.a.bolt_mm = flange.b.bolt_mm = 10;
        QCOMPARE(judgeInterface(flange, book()).mating, Mating::Mates);
        flange.b.pilot_mm = 60;
        QCOMPARE(judgeInterface(flange, book()).mating, Mating::DoesNot);
        model::Interface joint;
        joint.kind = model::InterfaceKind::Joint;
        joint.a.diameter_mm = joint.b.diameter_mm = 27;
        joint.a.span_mm = 92;
        joint.b.span_mm = 81.8;
        QCOMPARE(judgeInterface(joint, book()).mating, Mating::DoesNot);
        model::Interface bore;
        bore.kind = model::InterfaceKind::Bore;
        bore.a.diameter_mm = 15.05;
        bore.b.diameter_mm = 15;
        QCOMPARE(judgeInterface(bore, book()).mating, Mating::Mates);
        bore.b.diameter_mm = 15.1;
        QCOMPARE(judgeInterface(bore, book()).mating, Mating::DoesNot);
        bore.b.diameter_mm = 14;
        QCOMPARE(judgeInterface(bore, book()).mating, Mating::DoesNot);
    }
    void theStackAddsUp() {
        const auto checks = judgeBell(stack(), book());
        QVERIFY(std::abs(*check(checks, "pilot").value - 15) < 1e-9);
        // Plate, depth, tip, crank flange, mouth: 0.1 + 0.2 + 0.5 + 0.1 + 0.2
        QVERIFY(std::abs(*check(checks, "pilot").accuracy - 1.1) < 1e-9);
        QVERIFY(std::abs(*check(checks, "pilot-bottom").value - 7) < 1e-9);
        QVERIFY(std::abs(*check(checks, "splines").value - 1) < 1e-9);
        QVERIFY(std::abs(*check(checks, "release-play").value - 4) < 1e-9);
        QVERIFY(std::abs(*check(checks, "release-travel").value - 5) < 1e-9);
        QVERIFY(std::abs(*check(checks, "starter-rest").value - 4) < 1e-9);
        QVERIFY(std::abs(*check(checks, "starter-mesh").value - 1) < 1e-9);
        for (const Check& c : checks)
            QVERIFY2(c.verdict == Verdict::Go || c.id == "bellhousing/release-play", c.id.c_str());
        QCOMPARE(check(checks, "release-play").verdict, Verdict::Close); // 2 over, and the tolerances make 2.1
    }
    /// Whatever one takes away or sets to nothing, nothing gets better and no length is believed without a tolerance.
    void theStackWithAHoleInItIsNotKnown() {
        using S = model::BellStack;
        const std::pair<Sized S::*, bool> sizes[] = {
            // true: a length, that cannot be nothing
            {&S::crank_flange, false}, {&S::flywheel, true},         {&S::clutch, true},
            {&S::bell_depth, true},    {&S::release_at_rest, false}, {&S::release_travel, true},
            {&S::finger_travel, true}, {&S::shaft_tip, false},       {&S::shaft_shoulder, true},
            {&S::pilot_mouth, false},  {&S::pilot_bottom, true},     {&S::spline_from, false},
            {&S::spline_to, false},    {&S::hub_from, false},        {&S::hub_to, false},
            {&S::starter_face, false}, {&S::starter_rest, false},    {&S::starter_out, false},
            {&S::ring_from, false},    {&S::ring_width, true}};
        const auto unknown = [](const model::BellStack& s) {
            const auto checks = judgeBell(s, book());
            return std::count_if(checks.begin(), checks.end(),
                                 [](const Check& c) { return c.verdict == Verdict::Unknown; });
        };
        QCOMPARE(unknown(stack()), 0);
        for (const auto& [member, is_length] : sizes) {
            S s = stack();
            s.*member = {};
            QVERIFY(unknown(s) > 0);
            s = stack();
            (s.*member).tolerance_mm = 0;
            QVERIFY(unknown(s) > 0);
            s = stack();
            (s.*member).mm = 0;
            if (is_length) QVERIFY(unknown(s) > 0);
        }
    }
    void aThickerPlateShowsWhatItSpoils() {
        model::BellStack s = stack();
        s.adapter_plate = mm(26);
        const auto checks = judgeBell(s, book());
        QVERIFY(std::abs(*check(checks, "pilot").value - 1) < 1e-9); // 14 less
        QCOMPARE(check(checks, "pilot").verdict, Verdict::NoGo);
        QVERIFY(std::abs(*check(checks, "splines").value - (54 - 31) / 30.0) < 1e-9);
        QCOMPARE(check(checks, "splines").verdict, Verdict::NoGo);
        QCOMPARE(check(checks, "release-travel").verdict, Verdict::NoGo); // 18 − 18 − 9
        s = stack();
        s.pilot_bottom = mm(15);
        QCOMPARE(check(judgeBell(s, book()), "pilot-bottom").verdict, Verdict::NoGo);
        s = stack();
        s.release_at_rest = mm(92); // presses on the fingers
        QCOMPARE(check(judgeBell(s, book()), "release-play").verdict, Verdict::NoGo);
        s = stack();
        s.starter_out = mm(12); // 24: 6 of 14 in mesh
        QCOMPARE(check(judgeBell(s, book()), "starter-mesh").verdict, Verdict::NoGo);
        s.starter_from_behind = true; // rest 10, out 0: it would stand in the ring gear
        QCOMPARE(check(judgeBell(s, book()), "starter-rest").verdict, Verdict::NoGo);
    }
    void whatIsMissingIsNamed() {
        model::BellStack s = stack();
        s.clutch.mm.reset();
        const auto checks = judgeBell(s, book());
        QCOMPARE(check(checks, "release-play").verdict, Verdict::Unknown);
        QVERIFY(check(checks, "release-play").reason.find("clutch") != std::string::npos);
        QCOMPARE(check(checks, "pilot").verdict, Verdict::Go);
        QVERIFY(judgeBell({}, book()).empty()); // nothing asked
        model::BellStack heavy;
        heavy.overhung_kg = 4.2;
        QCOMPARE(judgeBell(heavy, book()).front().verdict, Verdict::NoGo);
    }
};

GABARIT_SUITE(MatingTest)
#include "mating_test.moc"
