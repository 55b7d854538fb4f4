#include "mounts/section/mounts.h"

#include "model/describe.h"

#include <Eigen/Geometry>

namespace gabarit::model {

GABARIT_ONCE_DEFINED(Mount);

using describe::Gone;
using describe::Member;
using describe::Owned;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(Metal) {
    static const Words all{{"not_said", "not said yet"}, "steel", "cast_iron", "aluminium"};
    return all;
}
const Words& words(Treatment) {
    static const Words all{"dry", "oiled", {"locker", "with locker"}, {"anti_seize", "with anti-seize"}};
    return all;
}
const Words& words(MountAt) {
    static const Words all{{"engine", "the engine"}, {"gearbox", "the gearbox"}, {"other", "something else"}};
    return all;
}
const Words& words(MountMade) {
    static const Words all{{"own_bracket", "own bracket"},
                           {"adapter", "adapter to buy"},
                           {"sister_part", "sister model's part"},
                           {"kept", "kept as it is"}};
    return all;
}
const Words& words(BracketForm) {
    static const Words all{{"tube", "a tube"}, {"folded", "folded plate"}, {"flat", "a flat plate"}};
    return all;
}
const Words& words(OldState) {
    static const Words all{"stays", "planned", "gone"};
    return all;
}
const Words& words(Cylinders) {
    static const Words all{{"inline", "in line"}, {"vee", "in a vee"}, "flat", {"none", "none: electric"}};
    return all;
}

namespace {

constexpr double most_cost = 1e7;
constexpr double most_count = 1000;

Member cost() { return Member("cost").ofMoney(0, most_cost).said("Cost").behind(); }
Member made() { return Member("made").leftOut(0).said("Made as"); }

} // namespace

void describe(Visitor& v, MountFace& f) {
    constexpr double least_thread_mm = 1, most_thread_mm = 100;
    v.type("mount_face");
    v.text(Member("owner", "left out: the vehicle; or a donor's id")
               .names(Target::Owner)
               .leftOutWord(vehicle_owner)
               .said("It is on"),
           f.owner);
    v.text(Member("point", "id of one of the owner's points; else `at_mm`")
               .names(Target::Point, Gone::Stays, f.owner)
               .said("Its place")
               .none("typed below"),
           f.point.text);
    v.point(Member("at_mm").place(f.point.empty() ? f.owner : "").said(f.point.empty() ? "At" : ""), f.at_mm);
    v.point(Member("out", "a direction away from the metal; left out: up")
                .direction(f.owner)
                .leftOut(0, 0, 1)
                .said("Faces"),
            f.out);
    v.point(Member("mark", "a direction across it; left out: along x")
                .direction(f.owner)
                .leftOut(1, 0, 0)
                .said("Marked side"),
            f.mark);
    v.text(Member("mark_words", "what is written there: \"up\", \"forward\"").said("Marked as"), f.mark_words);
    v.points(Member("holes_mm", "from its point: along the mark, and to the left of it seen from outside")
                 .is(Vector::Shift)
                 .said("Holes")
                 .columns("to the mark", "left of it"),
             f.holes_mm);
    v.number(Member("thread_mm").within(least_thread_mm, most_thread_mm).said("Bolts M"), f.thread_mm);
    v.flag(Member("through", "plain holes with nuts behind").said("Plain holes, nuts behind"), f.through);
    v.number(Member("depth_mm", "of usable thread").size().said(f.through ? "Metal's thickness" : "Usable thread"),
             f.depth_mm);
    v.choice(Member("metal", "not said: held as the softest").leftOut(0).said("Metal"), f.metal);
    v.number(accuracyMember().said("Place to ±"), f.accuracy_mm);
    v.object(Member("measured"), f.measured);
    v.text(Member("note").note(), f.note);
    v.extras(f.extras);
}

void describe(Visitor& v, Bolting& b) {
    constexpr double most_bolts = 100, most_torque_nm = 1e4;
    v.type("bolting");
    v.number(Member("used", "left out: one in each hole").within(0, most_bolts).said("Bolts used"), b.used);
    v.number(Member("length_mm", "under the head").size().said("Length under the head"), b.length_mm);
    v.number(Member("clamped_mm", "between head and face").length().said("Plate and washers"), b.clamped_mm);
    v.number(Member("threaded_mm", "of its length; left out: as ISO 4014 makes them").size().said("Threaded over"),
             b.threaded_mm);
    v.text(Member("grade", "property class after ISO 898-1").said("Grade"), b.grade);
    v.choice(Member("treatment").leftOut(0).said("Thread"), b.treatment);
    v.text(Member("why", "of the treatment").said("Why so"), b.why);
    v.number(Member("torque_nm", "as tightened").within(0, most_torque_nm).said("Tightened to"), b.torque_nm);
    v.number(
        Member("socket_mm", "outside; given, each bolt is looked at for tool and hand").size().said("Socket, outside"),
        b.socket_mm);
    v.number(Member("nut_socket_mm", "on the nuts of through bolts; left out: the same")
                 .size()
                 .said("Nut's socket, outside"),
             b.nut_socket_mm);
    v.text(Member("who").said("Tightened by"), b.who);
    v.text(Member("date").said("On"), b.date);
    v.extras(b.extras);
}

/// Its corners and bodies are the visitor's owner's.
void describe(Visitor& v, Bracket& b) {
    constexpr double softest_mpa = 50, hardest_mpa = 3000;
    const bool flat = b.form == BracketForm::Flat, folded = b.form == BracketForm::Folded;
    v.type("bracket");
    v.choice(Member("form").leftOut(0).said("Made of"), b.form);
    v.number(Member("tube_mm", "outside; of a channel its height")
                 .size()
                 .said(flat     ? ""
                       : folded ? "Channel's height"
                                : "Tube, outside"),
             b.tube_mm);
    v.number(Member("wall_mm").size().said(flat ? "" : "Its wall"), b.wall_mm);
    v.number(Member("plate_mm").size().said("Plates"), b.plate_mm);
    v.number(Member("gusset_mm", "leg; 0: none").length().said(flat ? "" : "Gussets' leg"), b.gusset_mm);
    v.number(Member("throat_mm", "of its welds").size().said(flat ? "" : "Welds' throat"), b.throat_mm);
    v.number(Member("slot_mm", "the isolator's hole is that much longer each way").length().said("Seat slotted ±"),
             b.slot_mm);
    v.number(Member("dowel_mm", "0: none").length().said("Dowel"), b.dowel_mm);
    v.number(Member("yield_mpa", "of its steel").within(softest_mpa, hardest_mpa).said("Steel's yield"), b.yield_mpa);
    v.points(Member("via_mm", "corners, frame of the face's owner").place(v.owner()).said(flat ? "" : "Corners"),
             b.via_mm);
    v.texts(Member("bodies", "ids it was made as").names(Target::Body, Gone::Empty, v.owner()), b.bodies);
    v.text(Member("part", "id in the list of parts"), b.part);
    v.text(Member("note").note().said(flat ? "" : "Note"), b.note);
    v.extras(b.extras);
}

void describe(Visitor& v, MountOption& o) {
    v.type("mount_option");
    v.choice(made(), o.made);
    v.text(Member("name").must().said("Called").order(-1), o.name);
    v.number(cost(), o.cost);
    v.text(Member("note", "what choosing it brings with it").note().said("That brings"), o.note);
    v.extras(o.extras);
}

void describe(Visitor& v, Mount& m) {
    v.type("mount");
    v.text(Member("id").id(), m.id);
    v.text(Member("name").must().said("Name"), m.name);
    v.choice(Member("at").leftOut(0).said("Holds"), m.at);
    v.object(Member("pad", "on the unit").must().said("Pad on the unit"), m.pad);
    v.object(Member("stand", "on the vehicle; may be left out")
                 .said("Stand on the vehicle")
                 .asked("Has a stand on the vehicle")
                 .order(103),
             m.stand);
    v.text(Member("isolator", "id of one of its own, else of the catalogue in `data/rules/mounts.json`")
               .oneAmong("mounts/isolators")
               .said("Isolator")
               .none("none chosen"),
           m.isolator);
    v.point(Member("centre_mm", "middle of the isolator in the vehicle's frame; left out: half its height out of the "
                                "stand; without a stand at the pad")
                .place(vehicle_owner)
                .said("Rubber's middle"),
            m.centre_mm);
    v.point(Member("axis", "of the isolator towards the unit; left out: the stand's `out`").direction(vehicle_owner),
            m.axis);
    v.object(Member("pad_bolts").said("Bolts of the pad").order(101), m.pad_bolts);
    v.object(Member("stand_bolts").said(m.stand ? "Bolts of the stand" : "").order(104), m.stand_bolts);
    {
        const Owned pads(v, m.pad.owner);
        v.object(Member("bracket", "from the pad to the isolator").said("Bracket, pad to rubber").order(102),
                 m.bracket);
    }
    {
        const Owned stands(v, m.stand ? m.stand->owner : vehicle_owner);
        v.object(Member("tower", "from the stand to it").said("Tower, stand to rubber").order(105), m.tower);
    }
    v.text(Member("frame", "id of the one its stand is on")
               .oneAmong("mounts/frames")
               .said("Stands on the frame")
               .order(106),
           m.frame);
    v.choice(made(), m.made);
    v.number(cost(), m.cost);
    v.text(Member("note").note().said("That brings"), m.note);
    v.list(Member("options", "other ways of making it").each("option").said("Another way of making it").order(107),
           m.options);
    v.list(Member("holds", "what is signed").each("hold"), m.holds);
    v.extras(m.extras);
}

void describe(Visitor& v, HoleRow& r) {
    v.type("hole_row");
    v.text(Member("id").id(), r.id);
    v.text(Member("name").must().said("Name"), r.name);
    v.point(Member("at_mm", "the first").place(vehicle_owner).must().said("First hole"), r.at_mm);
    v.point(Member("step_mm", "to the next").is(Vector::Shift).must().said("To the next"), r.step_mm);
    v.number(Member("count").within(1, most_count).must().said("Holes"), r.count);
    v.number(Member("hole_mm").size().said("Diameter"), r.hole_mm);
    v.number(Member("slot_mm", "longer than wide by").length().said("Longer than wide by"), r.slot_mm);
    v.number(accuracyMember().said("Place to ±"), r.accuracy_mm);
    v.object(Member("measured"), r.measured);
    v.text(Member("note").note().said("Note"), r.note);
    v.extras(r.extras);
}

void describe(Visitor& v, Passage& p) {
    v.type("passage");
    v.text(Member("name").must(), p.name);
    v.number(Member("y_mm").offset().said("y"), p.at_mm.x());
    v.number(Member("z_mm").offset().heightIn(vehicle_owner).said("z"), p.at_mm.y());
    v.number(Member("diameter_mm").size().must().said("wide"), p.diameter_mm);
    v.extras(p.extras);
}

void describe(Visitor& v, Crossmember& c) {
    v.type("mount_crossmember");
    v.text(Member("id").id(), c.id);
    v.text(Member("name").must().said("Name").order(-1), c.name);
    v.text(Member("mount", "that sits on it").oneAmong("mounts/mounts").said("Carries").order(-1), c.mount);
    v.text(Member("left_row").oneAmong("mounts/rows").said("Holes on the {left} side").order(-1), c.left_row);
    v.text(Member("right_row").oneAmong("mounts/rows").said("Holes on the {right} side").order(-1), c.right_row);
    v.point(Member("seat_mm", "from the middle between the two holes it is bolted at")
                .is(Vector::Shift)
                .said(c.own ? "" : "Seat, from between its holes"),
            c.seat_mm);
    v.number(Member("slot_mm", "its own slots, each way").length().said("Its slots ±"), c.slot_mm);
    v.number(Member("depth_mm", "height of its bar").size().said("Bar's height"), c.depth_mm);
    v.flag(Member("own", "made for the swap").said("Made for the swap").order(-1), c.own);
    v.text(Member("body").names(Target::Body, Gone::Empty, vehicle_owner).said("Body"), c.body.text);
    v.list(Member("passages", "ways through to keep, seen along the vehicle")
               .each("passage")
               .inRows()
               .said("Ways through to keep"),
           c.passages);
    v.text(Member("note").note().said("Note"), c.note);
    v.extras(c.extras);
}

void describe(Visitor& v, OldSeat& seat) {
    v.type("old_seat");
    v.text(Member("id").id(), seat.id);
    v.text(Member("name").must().said("Name"), seat.name);
    v.object(Member("face").must().said("What is there"), seat.face);
    v.extras(seat.extras);
}

void describe(Visitor& v, SeatFrame& f) {
    v.type("seat_frame");
    v.text(Member("id").id(), f.id);
    v.text(Member("name").must().said("Name"), f.name);
    v.texts(Member("seats", "that carry it"), f.seats);
    v.list(Member("members").each("member"), f.members_mm, [](Visitor& inner, std::vector<Eigen::Vector3d>& corners) {
        inner.type("member");
        inner.points(Member("corners_mm").place(vehicle_owner).must().atLeast(2), corners);
    });
    v.number(Member("width_mm", "of its rectangular tube").size().said("Tube's width"), f.width_mm);
    v.number(Member("height_mm").size().said("Its height"), f.height_mm);
    v.number(Member("wall_mm").size().said("Its wall"), f.wall_mm);
    v.texts(Member("bodies", "ids it was made as").names(Target::Body, Gone::Empty, vehicle_owner), f.bodies);
    v.text(Member("note").note().said("Note"), f.note);
    v.extras(f.extras);
}

void describe(Visitor& v, OldMount& o) {
    v.type("old_mount");
    v.text(Member("id").id(), o.id);
    const bool stays = o.state == OldState::Stays; // its body is out of the bay once it is planned to go
    v.text(Member("name").must().said("Name"), o.name);
    v.text(Member("body").names(Target::Body, Gone::Empty, vehicle_owner).said(stays ? "Body" : ""), o.body.text);
    v.text(Member("seat", "that goes with it").oneAmong("mounts/seats").said("Seat that goes with it"), o.seat);
    v.choice(Member("state", "planned: its body is out of the bay and can be taken back").leftOut(0), o.state);
    v.text(Member("date"), o.date);
    v.text(Member("who"), o.who);
    v.text(Member("note").note().said("Note"), o.note);
    v.extras(o.extras);
}

void describe(Visitor& v, Inertia& i) {
    v.type("inertia");
    v.point(Member("moments_kg_m2", "about the unit's centre of gravity along the donor's axes")
                .is(Vector::Figures)
                .must()
                .said("About its own axes")
                .columns("Crank line", "Crosswise", "Upright"),
            i.moments_kg_m2);
    v.point(Member("products_kg_m2", "of y·z, x·z, x·y")
                .is(Vector::Figures)
                .said("Products")
                .columns("y'·z'", "x'·z'", "x'·y'"),
            i.products_kg_m2);
    v.text(Member("source").said("How known"), i.source);
    v.extras(i.extras);
}

void describe(Visitor& v, Running& r) {
    constexpr double most_cylinders = 24, slowest_rpm = 50, fastest_rpm = 20000, most_kg = 100;
    v.type("running");
    v.choice(Member("layout", "`none`: electric").leftOut(0).said("Cylinders"), r.layout);
    v.number(Member("cylinders").within(1, most_cylinders).said("How many"), r.cylinders);
    v.flag(Member("two_stroke").said("Two-stroke"), r.two_stroke);
    v.flag(Member("balance_shafts").said("Balance shafts"), r.balance_shafts);
    v.number(Member("idle_rpm").within(slowest_rpm, fastest_rpm).said("Idle"), r.idle_rpm);
    v.number(Member("reciprocating_kg", "of one cylinder").within(0, most_kg).said("Piston, pin, small end"),
             r.reciprocating_kg);
    v.number(Member("stroke_mm").size().said("Stroke"), r.stroke_mm);
    v.number(Member("rod_mm").size().said("Rod, between centres"), r.rod_mm);
    v.extras(r.extras);
}

void describe(Visitor& v, Mounts& m) {
    constexpr double most_torque_nm = 1e5;
    v.type("mounts");
    v.list(Member("mounts").each("mount").idsShared(), m.mounts);
    v.list(Member("isolators", "of its own").each("isolator").idsShared(), m.isolators);
    v.list(Member("rows", "of holes along a rail").each("row").idsShared(), m.rows);
    v.list(Member("crossmembers").each("crossmember").idsShared(), m.crossmembers);
    v.list(Member("seats", "of the old engine").each("seat").idsShared(), m.seats);
    v.list(Member("frames", "that span seats").each("frame").idsShared(), m.frames);
    v.list(Member("old_mounts").each("old mount").idsShared(), m.old_mounts);
    v.object(Member("inertia", "left out: from the donor's masses, each spread over the body it lies in")
                 .said("Inertia about its centre")
                 .asked("Known better than from its masses"),
             m.inertia);
    v.object(Member("running", "what shakes it").said("What shakes it").always().order(-1), m.running);
    v.number(Member("torque_nm", "left out: the most of the gearing's")
                 .within(0, most_torque_nm)
                 .heading("What turns it")
                 .said("Engine's torque"),
             m.torque_nm);
    v.flag(Member("reacts_axle_torque", "the final drive is in the unit").said("Final drive in the unit"),
           m.reacts_axle_torque);
    v.flag(Member("transfer_on_unit", "its low range counts").said("Transfer case hangs on it"), m.transfer_on_unit);
    v.number(Member("driven_axle_kg", "left out: the axle loads'").mass().said("Load on driven wheels"),
             m.driven_axle_kg);
    v.extras(m.extras);
}

namespace {

constexpr double no_length = 1e-9; // a direction shorter than this has none

void refuseFace(const MountFace& f, const std::string& where, Refusals& found) {
    found.need(f.out.cross(f.mark).norm() >= no_length, where + ", mark", "it points out of the face",
               "give a direction across it");
}

void refuseBracket(const Bracket& b, const std::string& where, Refusals& found) {
    found.need(!b.tube_mm || !b.wall_mm || *b.wall_mm * 2 < *b.tube_mm, where + ", wall_mm",
               "it is half the tube or more", "check both figures");
}

void refuseInertia(const Inertia& i, Refusals& found) {
    constexpr double most_kg_m2 = 1e5;
    const std::string where = "mounts, inertia";
    const Eigen::Vector3d& a = i.moments_kg_m2;
    if (!a.allFinite() || !i.products_kg_m2.allFinite() || a.minCoeff() <= 0 || a.maxCoeff() > most_kg_m2)
        return found.say(where, "a moment of inertia is not above zero", "check its digits and unit (kg·m²)");
    // No body has one that is more than the two others together.
    found.need(2 * a.maxCoeff() <= a.sum() * (1 + no_length), where, "one moment is more than the two others together",
               "no body is like that: check the three");
}

} // namespace

void refuse(const Mounts& mounts, Refusals& found) {
    for (const Mount& m : mounts.mounts) {
        const std::string where = "mounts, mount \"" + m.name + "\"";
        refuseFace(m.pad, where + ", pad", found);
        if (m.stand) refuseFace(*m.stand, where + ", stand", found);
        if (m.bracket) refuseBracket(*m.bracket, where + ", bracket", found);
        if (m.tower) refuseBracket(*m.tower, where + ", tower", found);
    }
    for (const HoleRow& r : mounts.rows)
        found.need(r.count <= 1 || r.step_mm.norm() >= no_length, "mounts, row \"" + r.name + "\", step_mm",
                   "it has no direction", "give it any length above zero");
    for (const OldSeat& seat : mounts.seats) refuseFace(seat.face, "mounts, seat \"" + seat.name + "\", face", found);
    for (const SeatFrame& f : mounts.frames)
        for (const auto& member : f.members_mm)
            for (std::size_t i = 1; i < member.size(); ++i)
                found.need((member[i] - member[i - 1]).norm() >= no_length, "mounts, frame \"" + f.name + "\", members",
                           "two of its corners are one place", "take one of them out");
    if (mounts.inertia) refuseInertia(*mounts.inertia, found);
}

} // namespace gabarit::model

namespace gabarit::mounts {

model::SectionKind section() { return model::sectionKind<model::Mounts, model::refuse>("mounts", "", 80); }

} // namespace gabarit::mounts
