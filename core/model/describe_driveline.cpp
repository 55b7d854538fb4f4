// The members of "driveline" and "gearing".
#include "model/describe.h"

namespace gabarit::model {

using describe::Gone;
using describe::Member;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(Run) {
    static const Words all{"rearward", "forward", "left", "right"};
    return all;
}
const Words& words(PathKind) {
    static const Words all{"not_said", "fixed", "axle", "arm"};
    return all;
}
const Words& words(PathLinkKind) {
    static const Words all{"arm", "leaf", "torque_arm", "ladder_bar"};
    return all;
}
const Words& words(JointKind) {
    static const Words all{"cardan", "double_cardan", "flexible_disc", "cv_fixed", "cv_plunging"};
    return all;
}
const Words& words(InterfaceKind) {
    static const Words all{"spline", "flange", "joint", "bore"};
    return all;
}

namespace {

constexpr double steepest_deg = 80;    // beyond it no shaft's axis is told by two views
constexpr double fastest_rpm = 200000; // no drive unit turns faster
constexpr std::size_t most_joints = 8;
constexpr double most_nm = 1e5;

Member ratio(const char* key, const char* means = "") {
    constexpr double least = 0.05, most = 200;
    return Member(key, means).within(least, most);
}
Member rpm(const char* key, const char* means = "", double least = 0) {
    return Member(key, means).within(least, fastest_rpm);
}
Member whose() {
    return Member("donor", "id of the donor whose it is; left out: of whichever hangs, while there is one donor")
        .names(Target::Donor)
        .mustBeThere();
}

} // namespace

void describe(Visitor& v, FlangePlace& f) {
    v.type("flange_place");
    v.text(Member("owner", "left out: the vehicle; or a donor's id").names(Target::Owner).leftOutWord(vehicle_owner),
           f.owner);
    v.text(Member("point", "one of the owner's points; else `at_mm`").names(Target::Point, Gone::Stays, f.owner),
           f.point.text);
    v.point(Member("at_mm").place(f.point.empty() ? f.owner : ""), f.at_mm);
    v.number(Member("joint_mm", "from there along the axis to the joint's centre").offset(), f.joint_mm);
    v.number(
        Member("down_deg", "how much its axis falls as the line runs, seen from the side, against the owner's own axis")
            .angle(steepest_deg),
        f.down_deg);
    v.number(Member("aside_deg", "seen from above: to the owner's right; of a line that runs sideways: rearward")
                 .angle(steepest_deg),
             f.aside_deg);
    v.number(accuracyMember(), f.accuracy_mm);
    v.number(Member("accuracy_deg", "±; left out: not known").within(0, steepest_deg), f.accuracy_deg);
    v.object(Member("measured"), f.measured);
    v.text(Member("note").note(), f.note);
    v.extras(f.extras);
}

void describe(Visitor& v, EndPath& p) {
    constexpr double most_windup_deg = 45;
    const std::string moves =
        (p.kind == PathKind::Axle || p.kind == PathKind::Arm) && p.motion.empty() ? vehicle_owner : "";
    v.type("end_path");
    v.text(Member("motion", "an axle or arm of the vehicle; left out: as given here"), p.motion);
    v.choice(Member("kind", "not said: its angles over the travel are unknown").leftOut(0), p.kind);
    v.number(Member("bump_mm", "of `centre_mm`, from ride height").length(), p.bump_mm);
    v.number(Member("droop_mm").length(), p.droop_mm);
    v.point(Member("centre_mm", "the axle's middle, the arm's tip").place(moves), p.centre_mm);
    v.point(Member("axis_a_mm", "arm").place(moves), p.axis_a_mm);
    v.point(Member("axis_b_mm", "arm").place(moves), p.axis_b_mm);
    v.list(Member("links", "axle, in the side view").each("link").atMost(2), p.links,
           [](Visitor& inner, PathLink& link) {
               inner.type("path_link");
               inner.choice(Member("kind", "`leaf`: fixed eye to seat; `torque_arm`: fast on the axle, its front end "
                                           "`moving_mm` keeps its height; `ladder_bar`: fast on the axle, turns about "
                                           "`fixed_mm`")
                                .must(),
                            link.kind);
               inner.point(Member("fixed_mm").place(vehicle_owner), link.fixed_mm);
               inner.point(Member("moving_mm").place(vehicle_owner), link.moving_mm);
               inner.extras(link.extras);
           });
    v.number(Member("windup_up_deg", "how far torque turns the pinion's nose up, driving").within(0, most_windup_deg),
             p.windup_up_deg);
    v.number(Member("windup_down_deg", "and down, braking").within(0, most_windup_deg), p.windup_down_deg);
    v.text(Member("windup_source"), p.windup_source);
    v.number(Member("shim_deg", "wedges that are planned to turn an axle about its middle, nose up above zero; the "
                                "flange stays as measured without them")
                 .angle(most_windup_deg),
             p.shim_deg);
    v.extras(p.extras);
}

void describe(Visitor& v, Joint& joint) {
    constexpr double square_deg = 90;
    v.type("joint");
    v.text(Member("name"), joint.name);
    v.choice(Member("kind").must(), joint.kind);
    v.number(Member("max_deg", "its maker's; left out: the book's").within(0, square_deg), joint.max_deg);
    v.text(Member("max_source"), joint.max_source);
    v.extras(joint.extras);
}

void describe(Visitor& v, Shaft& s) {
    v.type("shaft");
    v.text(Member("name"), s.name);
    v.number(Member("phase_deg", "rear fork against front fork, clockwise seen from behind the vehicle whichever way "
                                 "the line runs; sideways: outer against inner fork, seen from the wheel")
                 .angle(),
             s.phase_deg);
    v.number(Member("tube_mm", "outside").size(), s.tube_mm);
    v.number(Member("wall_mm", "of the tube; as thick as the bar when solid").size(), s.wall_mm);
    v.flag(Member("one_length", "does not slip"), s.one_length);
    v.number(Member("closed_mm", "between joint centres, pushed together").size(), s.closed_mm);
    v.number(Member("spline_mm", "engaged when closed; of a plunging joint its whole plunge").length(), s.spline_mm);
    v.number(Member("spline_diameter_mm").size(), s.spline_diameter_mm);
    v.number(Member("length_mm", "of one that does not slip").size(), s.length_mm);
    v.number(accuracyMember(), s.accuracy_mm);
    v.flag(Member("to_make", "its lengths are to be found"), s.to_make);
    v.text(Member("note").note(), s.note);
    v.extras(s.extras);
}

void describe(Visitor& v, CentreBearing& b) {
    v.type("centre_bearing");
    v.text(Member("name"), b.name);
    v.text(Member("point", "of the vehicle; else `at_mm`").names(Target::Point, Gone::Stays, vehicle_owner),
           b.point.text);
    v.point(Member("at_mm").place(b.point.empty() ? vehicle_owner : ""), b.at_mm);
    v.number(Member("joint_mm", "from the bearing on to the joint behind it").offset(), b.joint_mm);
    v.extras(b.extras);
}

void describe(Visitor& v, ShaftLine& line) {
    v.type("shaft_line");
    v.text(Member("id").id(), line.id);
    v.text(Member("name").must(), line.name);
    v.choice(Member("run", "which way it runs from the unit").must(), line.run);
    v.object(Member("from", "the unit's flange").must(), line.from);
    v.object(Member("to", "the far one").must(), line.to);
    v.object(Member("path", "how the far flange moves"), line.path);
    v.list(Member("joints", "two to eight").each("joint").atMost(most_joints), line.joints);
    v.list(Member("shafts", "one fewer").each("shaft"), line.shafts);
    v.list(Member("bearings", "two fewer than joints").each("bearing"), line.bearings);
    v.text(Member("option", "`owner/choice/option`: judged only while that option is taken (the old shaft, or one made "
                            "to length); left out: always")
               .names(Target::OptionPath, Gone::Empty)
               .mustBeThere(),
           line.option);
    v.flag(Member("half_shaft", "it turns with the wheel, behind the final drive"), line.half_shaft);
    v.number(rpm("top_rpm", "its speed at top speed; left out: from the gearing"), line.top_rpm);
    v.text(Member("note").note(), line.note);
    v.extras(line.extras);
}

void describe(Visitor& v, CouplingReading& r) {
    constexpr double two_turns_deg = 720, ten_turns_deg = 3600;
    v.type("coupling_reading");
    v.flag(Member("rim", "left out: between the faces"), r.rim);
    v.number(Member("clock_deg", "place, clockwise from the top seen from behind").angle(two_turns_deg).must(),
             r.clock_deg);
    v.number(Member("turn_deg", "of the shaft, the same way").angle(ten_turns_deg), r.turn_deg);
    v.number(Member("mm").offset().must(), r.mm);
    v.number(Member("accuracy_mm", "±; left out: not known").size(), r.accuracy_mm);
    v.text(Member("device"), r.device);
    v.text(Member("time"), r.time);
    v.text(Member("note").note(), r.note);
    v.extras(r.extras);
}

void describe(Visitor& v, CouplingTry& t) {
    v.type("coupling_try");
    v.text(Member("id").id(), t.id);
    v.text(Member("name"), t.name);
    v.text(Member("date"), t.date);
    v.text(Member("who"), t.who);
    v.number(Member("slope_deg", "of the vehicle at that time").angle(steepest_deg), t.slope_deg);
    v.list(Member("readings").each("reading"), t.readings);
    v.text(Member("note").note(), t.note);
    v.extras(t.extras);
}

void describe(Visitor& v, CouplingCheck& c) {
    v.type("coupling");
    v.text(Member("id").id(), c.id);
    v.text(Member("name").must(), c.name);
    v.text(Member("line", "whose first joint it is"), c.line);
    v.number(Member("radius_mm", "where the faces are measured").length().must(), c.radius_mm);
    v.flag(Member("rim_from_shaft", "the indicator rides on the shaft"), c.rim_from_shaft);
    v.number(Member("to_gearbox_mount_mm", "forward from the flange; left out: from the line's donor").offset(),
             c.to_gearbox_mount_mm);
    v.number(Member("to_front_mounts_mm").offset(), c.to_front_mounts_mm);
    v.list(Member("tries", "the last is how it stands").each("try"), c.tries);
    v.extras(c.extras);
}

void describe(Visitor& v, AngleReading& r) {
    constexpr double half_turn_deg = 180;
    v.type("angle_reading");
    v.text(Member("id").id(), r.id);
    v.text(Member("place", "on what"), r.place);
    v.text(Member("line"), r.line);
    v.flag(Member("at_far_end", "the line's far flange"), r.at_far_end);
    v.number(Member("reading_deg", "falling to the rear above zero").angle(half_turn_deg).must(), r.reading_deg);
    v.number(Member("slope_deg", "of the vehicle at that time").angle(steepest_deg), r.slope_deg);
    v.number(Member("accuracy_deg", "±; left out: not known").within(0, steepest_deg), r.accuracy_deg);
    v.text(Member("device"), r.device);
    v.text(Member("time"), r.time);
    v.text(Member("note").note(), r.note);
    v.extras(r.extras);
}

void describe(Visitor& v, InterfaceSide& s) {
    constexpr double most_teeth = 500;
    v.type("interface_side");
    v.text(Member("name"), s.name);
    v.number(Member("count", "of teeth or bolts").within(1, most_teeth), s.count);
    v.number(Member("diameter_mm", "major diameter, bolt circle, cap or bore and spigot").size(), s.diameter_mm);
    v.number(Member("pilot_mm").size(), s.pilot_mm);
    v.number(Member("bolt_mm").size(), s.bolt_mm);
    v.number(Member("span_mm", "over the caps").size(), s.span_mm);
    v.number(Member("length_mm").size(), s.length_mm);
    v.text(Member("note").note(), s.note);
    v.extras(s.extras);
}

void describe(Visitor& v, Interface& i) {
    v.type("interface");
    v.text(Member("id").id(), i.id);
    v.text(Member("name").must(), i.name);
    v.choice(Member("kind").must(), i.kind);
    v.object(Member("a"), i.a);
    v.object(Member("b"), i.b);
    v.text(Member("adapter", "what joins them although they do not mate"), i.adapter);
    v.text(whose(), i.donor);
    v.extras(i.extras);
}

void describe(Visitor& v, Sized& sized) {
    v.type("sized");
    v.number(Member("mm").offset(), sized.mm);
    // A tolerance of a length that is missing is none.
    if (sized.mm || v.fills()) v.number(Member("tolerance_mm", "each way").length(), sized.tolerance_mm);
}

void describe(Visitor& v, BellStack& b) {
    v.type("bell");
    v.text(whose(), b.donor);
    v.object(Member("adapter_plate", "0: none"), b.adapter_plate);
    v.object(Member("crank_flange", "behind the block's rear face"), b.crank_flange);
    v.object(Member("flywheel", "flange to friction face"), b.flywheel);
    v.object(Member("clutch", "friction face to fingers"), b.clutch);
    v.object(Member("bell_depth", "from its front face to the gearbox's"), b.bell_depth);
    v.object(Member("release_at_rest", "in front of the gearbox's face"), b.release_at_rest);
    v.object(Member("release_travel", "how far it can come forward"), b.release_travel);
    v.object(Member("finger_travel", "how far the fingers must go"), b.finger_travel);
    v.object(Member("shaft_tip", "in front of the gearbox's face"), b.shaft_tip);
    v.object(Member("shaft_shoulder", "length of the tip"), b.shaft_shoulder);
    v.object(Member("pilot_mouth", "behind the crank flange"), b.pilot_mouth);
    v.object(Member("pilot_bottom", "depth below its mouth"), b.pilot_bottom);
    v.object(Member("spline_from", "in front of the gearbox's face"), b.spline_from);
    v.object(Member("spline_to", "in front of the gearbox's face"), b.spline_to);
    v.object(Member("hub_from", "behind the friction face"), b.hub_from);
    v.object(Member("hub_to", "behind the friction face"), b.hub_to);
    v.object(Member("starter_face", "behind the block's rear face"), b.starter_face);
    v.object(Member("starter_rest", "pinion's tip from that face"), b.starter_rest);
    v.object(Member("starter_out", "the same, thrown out"), b.starter_out);
    v.object(Member("ring_from", "behind the crank flange"), b.ring_from);
    v.object(Member("ring_width"), b.ring_width);
    v.flag(Member("starter_from_behind", "it sits in the bellhousing and throws its pinion forward"),
           b.starter_from_behind);
    v.number(Member("overhung_kg", "what an adapter hangs on the crank").mass(), b.overhung_kg);
    v.extras(b.extras);
}

void describe(Visitor& v, Driveline& d) {
    v.type("driveline");
    v.list(Member("lines", "chains of shafts").each("line").idsShared(), d.lines);
    v.list(Member("couplings", "a flexible disc's flanges, read round the clock").each("coupling").idsShared(),
           d.couplings);
    v.list(Member("readings", "of an angle gauge").each("reading").idsShared(), d.readings);
    v.list(Member("interfaces").each("interface").idsShared(), d.interfaces);
    v.object(Member("bell", "the stack from the block's rear face"), d.bell);
    v.number(rpm("checked_rpm", "the shaft speed that accelerations are told at, when it is not the top speed's"),
             d.checked_rpm);
    v.extras(d.extras);
}

void describe(Visitor& v, Gear& gear) {
    v.type("gear");
    v.text(Member("name").must(), gear.name);
    v.number(ratio("ratio").must(), gear.ratio);
    v.flag(Member("reverse"), gear.reverse);
    v.extras(gear.extras);
}

void describe(Visitor& v, TorquePoint& p) {
    v.type("torque_point");
    v.number(rpm("rpm").must(), p.rpm);
    v.number(Member("torque_nm").within(0, most_nm).must(), p.torque_nm);
    v.extras(p.extras);
}

void describe(Visitor& v, OriginalVehicle& o) {
    v.type("original");
    v.text(Member("name"), o.name);
    v.number(Member("mass_kg").within(1, describe::heaviest_kg), o.mass_kg);
    v.text(Member("tyre"), o.tyre);
    v.number(ratio("final_drive"), o.final_drive);
    v.extras(o.extras);
}

void describe(Visitor& v, Gearing& g) {
    constexpr double most_loss = 0.9, fastest_kmh = 1000;
    v.type("gearing");
    v.text(whose(), g.donor);
    v.list(Member("gears").each("gear"), g.gears);
    v.number(ratio("transfer_high", "left out: 1").leftOut(1), g.transfer_high);
    v.number(ratio("transfer_low"), g.transfer_low);
    v.number(ratio("final_drive"), g.final_drive);
    v.text(Member("tyre", "as on the sidewall: 245/75R16, 31x10.50-15, 7.50-16"), g.tyre);
    v.number(rpm("max_rpm", "", 1), g.max_rpm);
    v.number(Member("mass_kg", "of the vehicle; left out: the axle loads").within(1, describe::heaviest_kg), g.mass_kg);
    v.list(Member("torque", "of the engine").each("torque"), g.torque);
    v.number(Member("loss", "crank to wheel; left out: the book's").within(0, most_loss), g.loss);
    v.number(Member("cruise_kmh").within(1, fastest_kmh), g.cruise_kmh);
    v.number(rpm("wanted_cruise_rpm", "", 1), g.wanted_cruise_rpm);
    v.object(Member("original", "the vehicle the unit came from"), g.original);
    v.text(Member("speedo_tyre", "what the speedometer's drive was made for"), g.speedo_tyre);
    v.number(ratio("speedo_final_drive"), g.speedo_final_drive);
    v.extras(g.extras);
}

} // namespace gabarit::model
