// Crossmembers, frames on seats, hold points, left and right, old mounts, jig sheet.
#include "model/owner_place.h"
#include "mounts/apply.h"
#include "mounts/jig.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "support/files.h"
#include "support/mounted_unit.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using namespace gabarit::mounts;
using Eigen::Vector3d;
using model::Hold;
using model::Verdict;
using tests::check;
using tests::has;
using tests::judged;
using tests::mountedUnit;

namespace {

constexpr double g = 9.80665;
const model::RuleBook& book() { return store::defaultRuleBook(); }

/// The rear mount's pad at 1000, 0, 560, 40 of rubber beneath it; holes every 50 from 900 at ±340, z 455.
model::Project withCrossmember() {
    model::Project p = mountedUnit();
    p.sections.edit<model::Mounts>().isolators[0].height_mm = 40;
    model::Mount& rear = p.sections.edit<model::Mounts>().mounts[2];
    rear.centre_mm.reset();
    rear.pad.at_mm = Vector3d(1008, 0, 560) - Vector3d(500, 0, 600);
    rear.stand.emplace();
    rear.stand->at_mm = {950, 0, 480};
    for (const auto& [id, y] : {std::pair("left", -340.0), std::pair("right", 340.0)}) {
        model::HoleRow row;
        row.id = std::string(id) + "-row";
        row.name = row.id;
        row.at_mm = {900, y, 455};
        row.count = 6;
        row.accuracy_mm = 1;
        p.sections.edit<model::Mounts>().rows.push_back(row);
    }
    model::Crossmember c;
    c.id = "bar";
    c.name = "Bar";
    c.mount = "rear";
    c.left_row = "left-row";
    c.right_row = "right-row";
    c.seat_mm = {0, 0, 65};
    c.depth_mm = 50;
    c.passages = {{"exhaust", {200, 400}, 60, {}}};
    p.sections.edit<model::Mounts>().crossmembers = {c};
    return p;
}
model::OldSeat seat(const char* id, const Vector3d& at, bool bolted = true) {
    model::OldSeat s;
    s.id = s.name = id;
    s.face.at_mm = at;
    s.face.out = {0, 0, 1};
    if (bolted) {
        s.face.thread_mm = 12;
        s.face.holes_mm = {{0, 0}};
    }
    return s;
}
/// All three mounts on a frame over three seats: two ahead at x 0, one behind at x 1200.
model::Project withFrame() {
    model::Project p = mountedUnit();
    p.sections.edit<model::Mounts>().seats = {seat("sl", {0, -300, 480}), seat("sr", {0, 300, 480}),
                                              seat("sb", {1200, 0, 480})};
    model::SeatFrame f;
    f.id = "frame";
    f.name = "Frame";
    f.seats = {"sl", "sr", "sb"};
    p.sections.edit<model::Mounts>().frames = {f};
    for (model::Mount& m : p.sections.edit<model::Mounts>().mounts) m.frame = "frame";
    return p;
}
const HoldReport& hold(const MountsReport& r, const char* mount, Hold which) {
    for (const HoldReport& h : r.holds)
        if (h.mount == mount && h.hold == which) return h;
    static const HoldReport none;
    qWarning("no such hold");
    return none;
}

} // namespace

class LayoutTest : public QObject {
    Q_OBJECT
private slots:
    /// Law: told in another owner's frame, a face stands where it stood and looks where it looked.
    void aFacePutOnAnotherOwnerStaysWhereItIs() {
        model::Project p = mountedUnit();
        p.placements.front().angles = {4.0, 3.0, -2.0};
        const model::MountFace pad = p.sections.get<model::Mounts>()->mounts.front().pad;
        QVERIFY(pad.owner != model::vehicle_owner);
        const auto there = mounts::onOwner(p, pad, model::vehicle_owner);
        QVERIFY(there.ok());
        const auto was = model::ownerPlace(p, pad.owner, pad.point, pad.at_mm, "pad");
        QVERIFY((there.value().at_mm - was.value().vehicle_mm()).norm() < 1e-9);
        QVERIFY((there.value().out - was.value().pose_vehicle_owner.linear() * pad.out).norm() < 1e-9);
        const auto back = mounts::onOwner(p, there.value(), pad.owner);
        QVERIFY((back.value().at_mm - was.value().at_mm).norm() < 1e-9);
        QVERIFY((back.value().out - pad.out).norm() < 1e-9 && (back.value().mark - pad.mark).norm() < 1e-9);
        QVERIFY(!mounts::onOwner(p, pad, "nobody").ok());
    }
    void theNearestHolesAndWhatIsLeftOfTheSlots() {
        const MountsReport r = judged(withCrossmember());
        const CrossmemberReport& c = r.crossmembers.at(0);
        QCOMPARE(c.reason, std::string());
        QVERIFY((c.wanted_mm - Vector3d(1008, 0, 520)).norm() < 1e-9);
        QCOMPARE(c.left_hole, 3); // 900, 950, 1000
        QCOMPARE(c.right_hole, 3);
        QVERIFY(std::abs(c.slid_mm - 8) < 1e-9);
        QVERIFY(std::abs(c.slot_left_mm - 4) < 1e-9); // of 12
        QVERIFY(c.reaches && std::abs(c.drop_mm) < 1e-9);
        QCOMPARE(check(r, "bar/slot").verdict, Verdict::Go);
        model::Project unsure = withCrossmember();
        unsure.sections.edit<model::Mounts>().rows[1].accuracy_mm.reset();
        QCOMPARE(check(judged(unsure), "bar/slot").verdict, Verdict::Unknown);
        unsure.sections.edit<model::Mounts>().rows[1].accuracy_mm = 5; // more than the 4 that are left
        QCOMPARE(check(judged(unsure), "bar/slot").verdict, Verdict::Close);
        QCOMPARE(check(r, "bar/drop").verdict, Verdict::Go);
        // From 200, 400 to the bar's underside at 480 − 25 there…: from hole (340, 455) to seat (0, 495), by hand.
        const double t = ((200 - 340) * (0 - 340) + (400 - 455) * (495.0 - 455)) / (340.0 * 340 + 40 * 40);
        const double dy = 340 - 340 * t - 200, dz = 455 + 40 * t - 400;
        QVERIFY(std::abs(c.passages.at(0).gap_mm - (std::hypot(dy, dz) - 25 - 30)) < 1e-9);
        QCOMPARE(*c.bottom_mm, 430.0); // at its ends
    }
    void whatDoesNotReach() {
        model::Project p = withCrossmember();
        p.sections.edit<model::Mounts>().mounts[2].pad.at_mm.x() += 15; // 1023: 23 from the third, 27 from the fourth
        const MountsReport r = judged(p);
        QVERIFY(!r.crossmembers[0].reaches);
        QVERIFY(std::abs(r.crossmembers[0].slot_left_mm + 11) < 1e-9);
        QCOMPARE(check(r, "bar/slot").verdict, Verdict::NoGo);
        QVERIFY((r.crossmembers[0].own_seat_mm - Vector3d(23, 0, 65)).norm() < 1e-9);
        p.sections.edit<model::Mounts>().rows[0].slot_mm = 30; // both rows must have them
        QVERIFY(!judged(p).crossmembers[0].reaches);
        p.sections.edit<model::Mounts>().rows[1].slot_mm = 30;
        QVERIFY(std::abs(judged(p).crossmembers[0].slot_left_mm - 4) < 1e-9);
        p.sections.edit<model::Mounts>().rows[0].slot_mm = p.sections.edit<model::Mounts>().rows[1].slot_mm =
            std::nullopt;
        p.sections.edit<model::Mounts>().crossmembers[0].own = true; // it is made to reach
        QVERIFY(judged(p).crossmembers[0].reaches);
    }
    void tooHighAndTooLow() {
        model::Project p = withCrossmember();
        p.sections.edit<model::Mounts>().crossmembers[0].seat_mm.z() = 58; // 7 too low: packed up
        QCOMPARE(check(judged(p), "bar/drop").verdict, Verdict::Close);
        p.sections.edit<model::Mounts>().crossmembers[0].seat_mm.z() = 50; // 15: more than packing bears
        QCOMPARE(check(judged(p), "bar/drop").verdict, Verdict::NoGo);
        p.sections.edit<model::Mounts>().crossmembers[0].seat_mm.z() = 70; // too high by 5: nothing to pack
        QCOMPARE(check(judged(p), "bar/drop").verdict, Verdict::NoGo);
    }
    void boltedThereTheMountStandsOnIt() {
        model::Project p = withCrossmember();
        model::Body body;
        body.id.text = "bar";
        body.name = "Bar";
        body.category = "crossmember";
        body.shape = model::CylinderSpec{{950, -340, 455}, {950, 340, 455}, 50};
        p.vehicle->bodies = {body};
        p.sections.edit<model::Mounts>().crossmembers[0].body.text = "bar";
        const auto there = withCrossmemberThere(p, book(), "bar");
        QVERIFY(there);
        QVERIFY((there.value().sections.get<model::Mounts>()->mounts[2].stand->at_mm - Vector3d(1008, 0, 520)).norm() <
                1e-9);
        QVERIFY(std::abs(there.value().vehicle->bodies[0].shift_mm.x() - 58) < 1e-9); // 950 → hole 1000 and 8 on
        const auto twice = withCrossmemberThere(there.value(), book(), "bar");
        QVERIFY(std::abs(twice.value().vehicle->bodies[0].shift_mm.x() - 58) < 1e-9);
        QVERIFY(!withCrossmemberThere(p, book(), "other"));
        p.sections.edit<model::Mounts>().crossmembers[0].left_row = "gone";
        QVERIFY(!withCrossmemberThere(p, book(), "bar"));
        QCOMPARE(check(judged(p), "bar/place").verdict, Verdict::Unknown);
    }
    void aFrameCarriesToItsSeats() {
        const MountsReport r = judged(withFrame());
        const FrameReport& f = r.frames.at(0);
        QCOMPARE(f.reason, std::string());
        // 160 kg at x 500: by moments about the front seats the rear one takes 500/1200 of it.
        const double all = 160 * g;
        QVERIFY(std::abs(f.seats[2].rest_n - all * 500 / 1200) < 0.01 * all);
        QVERIFY(std::abs(f.seats[0].rest_n + f.seats[1].rest_n + f.seats[2].rest_n - all) < 1e-3 * all);
        QVERIFY(std::abs(f.seats[0].rest_n - f.seats[1].rest_n) < 1e-6 * all);
        QVERIFY(f.seats[0].most_n > f.seats[0].rest_n);
        QCOMPARE(check(r, "frame/seats").verdict, Verdict::Go);
        QCOMPARE(check(r, "frame/strength").verdict, Verdict::Unknown); // no members yet
    }
    void itsMembersBearByHand() {
        model::Project p = withFrame();
        model::SeatFrame& f = p.sections.edit<model::Mounts>().frames[0];
        f.width_mm = 40;
        f.height_mm = 60;
        f.wall_mm = 3;
        f.members_mm = {{{250, -300, 490}, {250, 300, 490}}, {{0, 0, 490}, {1200, 0, 490}}};
        const MountsReport r = judged(p);
        // Of the weaker way: 60 · 40³ less what is hollow, over half of 40.
        const double w = (60 * std::pow(40.0, 3) - 54 * std::pow(34.0, 3)) / 12 / 20;
        double most = 0;
        for (const LoadCase& c : r.cases) {
            if (c.kind == CaseKind::Driving || c.on_unit_n.empty()) continue;
            for (const std::size_t i : {0, 1}) most = std::max(most, c.on_unit_n[i].norm() * 100 * 500 / 600);
            most = std::max(most, c.on_unit_n[2].norm() * 1000 * 200 / 1200);
        }
        QVERIFY(std::abs(*r.frames[0].factor - 235 * w / most) < 1e-6);
        QVERIFY(std::abs(r.frames[0].mass_kg - (40 * 60 - 34 * 54) * 1800 * 7850e-9) < 1e-9);
        const auto made = withFrameMade(p, book(), "frame");
        QVERIFY(made);
        QCOMPARE(made.value().vehicle->bodies.size(), std::size_t(2));
        QCOMPARE(tests::wrong(made.value()), QString());
        QVERIFY(std::abs(*made.value().sections.get<model::Parts>()->at(0).mass_kg - r.frames[0].mass_kg) < 1e-9);
        QCOMPARE(withFrameMade(made.value(), book(), "frame").value().vehicle->bodies.size(), std::size_t(2));
    }
    void withoutMembersARingFromSeatToSeat() {
        const auto made = withFrameMade(withFrame(), book(), "frame");
        QVERIFY(made);
        QCOMPARE(made.value().sections.get<model::Mounts>()->frames[0].members_mm.size(), std::size_t(3));
        QCOMPARE(made.value().vehicle->bodies.size(), std::size_t(3));
    }
    void whatASeatFrameCannotDo() {
        model::Project p = withFrame();
        p.sections.edit<model::Mounts>().frames[0].seats = {"sl", "sr"};
        QCOMPARE(check(judged(p), "frame/seats").verdict, Verdict::NoGo);
        p = withFrame();
        p.sections.edit<model::Mounts>().seats[2].face.at_mm = {0, 0, 480}; // all on one line
        QCOMPARE(check(judged(p), "frame/hold").verdict, Verdict::NoGo);
        p = withFrame();
        p.sections.edit<model::Mounts>().old_mounts = {
            {"old", "Old stub", {}, "sb", model::OldState::Planned, "", "", "", {}}};
        QVERIFY(judged(p).frames[0].reason.find("Old stub") != std::string::npos);
    }
    void oldMountsCanBeTakenBackUntilTheyAreGone() {
        model::Project p = mountedUnit();
        model::Body stub;
        stub.id.text = stub.name = "stub";
        stub.category = "bracket";
        p.vehicle->bodies = {stub};
        p.sections.edit<model::Mounts>().old_mounts = {
            {"old", "Old stub", model::BodyId{"stub"}, "", model::OldState::Stays, "", "", "", {}}};
        QVERIFY(!withOldMount(p, "old", model::OldState::Gone, "2026-01-02", "R. Oake")); // not before it is planned
        const model::Project planned = withOldMount(p, "old", model::OldState::Planned, "", "").value();
        QCOMPARE(planned.vehicle->bodies[0].standing, model::Standing::Removed);
        const model::Project back = withOldMount(planned, "old", model::OldState::Stays, "", "").value();
        QCOMPARE(back.vehicle->bodies[0].standing, model::Standing::Found);
        const model::Project gone =
            withOldMount(planned, "old", model::OldState::Gone, "2026-01-02", "R. Oake").value();
        QCOMPARE(gone.sections.get<model::Mounts>()->old_mounts[0].date, std::string("2026-01-02"));
        const auto never = withOldMount(gone, "old", model::OldState::Stays, "", "");
        QVERIFY(!never && never.error().what.find("cut off") != std::string::npos);
        QVERIFY(!withOldMount(p, "other", model::OldState::Planned, "", ""));
    }

    void stepsAreSignedInTheirOrder() {
        model::Project p = mountedUnit();
        p.sections.edit<model::Mounts>().mounts[0].bracket.emplace();
        QCOMPARE(weldPull_mm(p, book()), 2.0);
        QVERIFY(!withSigned(p, "left", Hold::TestFitted, "2026-05-01", "R. Oake", "")); // not tacked yet
        const auto tacked = withSigned(p, "left", Hold::Tacked, "2026-05-01", "R. Oake", "");
        QVERIFY(tacked);
        const auto fitted = withSigned(tacked.value(), "left", Hold::TestFitted, "2026-05-02", "R. Oake", "");
        const auto welded = withSigned(fitted.value(), "left", Hold::Welded, "2026-05-03", "R. Oake", "");
        QVERIFY(welded);
        const auto unmeasured = withSigned(welded.value(), "left", Hold::FittedAgain, "2026-05-04", "R. Oake", "");
        QVERIFY(!unmeasured && unmeasured.error().what.find("measured") != std::string::npos);
        model::Project measured = welded.value();
        model::MeasuredGap gap;
        gap.a = {"unit", model::BodyId{"a"}};
        gap.b = {"vehicle", model::BodyId{"b"}};
        gap.placement.text = "p";
        gap.date = "2026-05-02"; // before it was welded
        measured.measured = {gap};
        QVERIFY(!withSigned(measured, "left", Hold::FittedAgain, "2026-05-04", "R. Oake", ""));
        measured.measured[0].date = "2026-05-04";
        const auto final = withSigned(measured, "left", Hold::FittedAgain, "2026-05-04", "R. Oake", "");
        QVERIFY(final);
        QCOMPARE(weldPull_mm(final.value(), book()), 0.0); // no other is of metal of its own
        QVERIFY(hold(judged(final.value()), "left", Hold::FittedAgain).holds);
        // Taken back, all that follow go too.
        const model::Project back = withoutSigned(final.value(), "left", Hold::Welded);
        QCOMPARE(back.sections.get<model::Mounts>()->mounts[0].holds.size(), std::size_t(2));
        QCOMPARE(weldPull_mm(back, book()), 2.0);
    }
    void anotherAlternatorOpensWhatWasFittedWithTheFirst() {
        model::Project p = mountedUnit();
        model::Body alternator;
        alternator.id.text = "alternator";
        alternator.name = "Alternator";
        alternator.category = "accessory";
        alternator.shape = model::CylinderSpec{{0, 0, 0}, {100, 0, 0}, 120};
        p.donors[0].bodies = {alternator};
        p = withSigned(p, "left", Hold::Tacked, "2026-05-01", "R. Oake", "").value();
        p = withSigned(p, "left", Hold::TestFitted, "2026-05-02", "R. Oake", "").value();
        QVERIFY(hold(judged(p), "left", Hold::TestFitted).holds);
        // Saved and read again it still holds.
        QVERIFY(hold(judged(tests::again(p)), "left", Hold::TestFitted).holds);
        model::Project other = p;
        std::get<model::CylinderSpec>(other.donors[0].bodies[0].shape).diameter_mm = 138;
        const MountsReport r = judged(other);
        QVERIFY(hold(r, "left", Hold::Tacked).holds); // metal to metal: the alternator is no part of it
        const HoldReport& open = hold(r, "left", Hold::TestFitted);
        QVERIFY(open.signed_off && !open.holds);
        QCOMPARE(open.changed.at(0), std::string("Alternator has changed since"));
        const model::Check& said = check(r, "left/hold"); // among what is open
        QCOMPARE(said.verdict, Verdict::Close);
        QVERIFY(said.what.find("changed since it was test-fitted 2026-05-02") != std::string::npos);
        QVERIFY(said.reason.find("Alternator") != std::string::npos);
        QVERIFY(!has(judged(p), "left/hold"));
        other.donors[0].bodies.clear();
        QCOMPARE(hold(judged(other), "left", Hold::TestFitted).changed.at(0),
                 std::string("Alternator is no longer there"));
        // A body of the vehicle that it was fitted beside, moved: the fit opens, the tack does not.
        model::Project beside = mountedUnit();
        model::Body box;
        box.id.text = "steering-box";
        box.name = "Steering box";
        box.category = "fixed_part";
        box.shape = model::BoxSpec{{100, 100, 100}};
        beside.vehicle->bodies = {box};
        beside = withSigned(beside, "left", Hold::Tacked, "2026-05-01", "R. Oake", "").value();
        beside = withSigned(beside, "left", Hold::TestFitted, "2026-05-02", "R. Oake", "").value();
        QVERIFY(hold(judged(tests::again(beside)), "left", Hold::TestFitted).holds);
        beside.vehicle->bodies[0].shift_mm.y() = 5;
        QVERIFY(hold(judged(beside), "left", Hold::Tacked).holds);
        QCOMPARE(hold(judged(beside), "left", Hold::TestFitted).changed.at(0),
                 std::string("Steering box has changed since"));
        // A signature from before the vehicle's bodies were in it speaks of the unit alone.
        auto& basis = beside.sections.edit<model::Mounts>().mounts[0].holds[1].basis;
        basis.erase(std::remove_if(basis.begin(), basis.end(),
                                   [](const model::HoldBasis& b) { return b.item == "vehicle/steering-box"; }),
                    basis.end());
        QVERIFY(hold(judged(beside), "left", Hold::TestFitted).holds);
        // The unit elsewhere: everything opens, and says so.
        other = p;
        other.placements[0].position_mm.z() += 3;
        QVERIFY(!hold(judged(other), "left", Hold::Tacked).holds);
        QCOMPARE(hold(judged(other), "left", Hold::Tacked).changed.at(0),
                 std::string("where the unit hangs has changed since"));
    }

    void leftAndRight() {
        model::Project p = mountedUnit();
        for (const std::size_t i : {0, 1}) {
            model::Mount& m = p.sections.edit<model::Mounts>().mounts[i];
            m.pad.out = {0, i == 0 ? -1.0 : 1.0, 0};
            m.pad.holes_mm = {{-20, -15}, {-20, 15}, {20, -15}, {20, 15}};
            m.centre_mm = Vector3d(250, i == 0 ? -260 : 260, 480);
        }
        auto pairs = judged(p).handed;
        QCOMPARE(pairs.size(), std::size_t(1));
        QVERIFY(pairs[0].same_part);
        // A pattern with a hole on one side only: a left and a right one.
        for (const std::size_t i : {0, 1}) p.sections.edit<model::Mounts>().mounts[i].pad.holes_mm.pop_back();
        pairs = judged(p).handed;
        QVERIFY(!pairs[0].same_part && pairs[0].why.find("hole pattern") != std::string::npos);
        p.sections.edit<model::Mounts>().mounts[1].centre_mm->x() += 30;
        QVERIFY(judged(p).handed[0].why.find("reach differently") != std::string::npos);
    }
    void mirroredItIsTheOtherSides() {
        model::Project p = mountedUnit();
        p.sections.edit<model::Mounts>().mounts[0].name = "Left mount";
        p.sections.edit<model::Mounts>().mounts[0].axis = Vector3d(0, 0.5, 0.866);
        p.sections.edit<model::Mounts>().mounts.erase(p.sections.edit<model::Mounts>().mounts.begin() +
                                                      1); // the right one goes
        std::string image;
        const auto both = withMountMirrored(p, "left", image);
        QVERIFY(both);
        const model::Mount& right = both.value().sections.get<model::Mounts>()->mounts.back();
        QCOMPARE(right.name, std::string("Right mount"));
        QCOMPARE(image, right.id);
        QVERIFY((*right.centre_mm - Vector3d(250, 200, 500)).norm() < 1e-9);
        QVERIFY((*right.axis - Vector3d(0, -0.5, 0.866)).norm() < 1e-9);
        // Twice mirrored is the first again.
        std::string third;
        const auto again = withMountMirrored(both.value(), image, third);
        QVERIFY((*again.value().sections.get<model::Mounts>()->mounts.back().centre_mm -
                 *p.sections.get<model::Mounts>()->mounts[0].centre_mm)
                    .norm() < 1e-9);
        // The rest reactions are symmetrical now.
        const MountsReport r = judged(both.value());
        QVERIFY(r.determinate);
    }
    void anotherWayOfMakingIt() {
        model::Project p = mountedUnit();
        model::Mount& left = p.sections.edit<model::Mounts>().mounts[0];
        left.cost = 60;
        left.note = "to be welded";
        left.options = {{model::MountMade::Adapter, "Adapter", 140, "bolts on", {}}};
        const auto taken = withOption(p, "left", 0);
        QVERIFY(taken);
        QCOMPARE(taken.value().sections.get<model::Mounts>()->mounts[0].made, model::MountMade::Adapter);
        QCOMPARE(*taken.value().sections.get<model::Mounts>()->mounts[0].cost, 140.0);
        const auto back = withOption(taken.value(), "left", 0);
        QCOMPARE(back.value().sections.get<model::Mounts>()->mounts[0].note, std::string("to be welded"));
        QVERIFY(!withOption(p, "left", 3));
    }
    void theJigSheetSaysWhere() {
        model::Project p = withCrossmember();
        model::HardPoint hook;
        hook.id.text = "hook";
        hook.name = "Hook";
        hook.role = "tape_hook";
        hook.at_mm = {-500, -400, 560};
        p.vehicle->hard_points = {hook};
        p.sections.edit<model::Mounts>().mounts[2].stand->holes_mm = {{-30, 0}, {30, 0}};
        p.sections.edit<model::Mounts>().mounts[2].stand->mark = {1, 0, 0};
        const MountsReport r = judged(p);
        const JigSheet sheet = jigSheet(p, r);
        const auto line = [&](const std::string& what) {
            for (const JigLine& l : sheet.lines)
                if (l.what == what && (l.mount == "rear" || l.mount == "bar")) return l;
            return JigLine{};
        };
        const JigLine stand = line("stand");
        QVERIFY((stand.at_mm - Vector3d(950, 0, 480)).norm() < 1e-9);
        QCOMPARE(*stand.level_deg, 90.0);
        QVERIFY(!stand.swing_deg);
        QVERIFY(std::abs(stand.hooks.at(0).straight_mm - Vector3d(1450, 400, -80).norm()) < 1e-9);
        QVERIFY((line("stand, hole 1").at_mm - Vector3d(920, 0, 480)).norm() < 1e-9);
        QVERIFY((line("Bar, driver's side, hole 3").at_mm - Vector3d(1000, -340, 455)).norm() < 1e-9);
        QCOMPARE(line("Bar, driver's side, hole 3").side, JigSide::Left);
        QVERIFY(line("Bar, driver's side, hole 3").note.find("8.0 mm rearward") != std::string::npos);
        QCOMPARE(sheet.left_out.size(), std::size_t(2)); // two mounts have no stand
    }
};

GABARIT_LOOP_SUITE(LayoutTest)
#include "layout_test.moc"
