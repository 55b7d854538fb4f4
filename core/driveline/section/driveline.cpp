#include "driveline/section/driveline.h"

#include "model/describe.h"

namespace gabarit::model {

GABARIT_ONCE_DEFINED(ShaftLine);

using describe::Gone;
using describe::Member;
using describe::Target;
using describe::Visitor;
using describe::Words;

const Words& words(Run) {
    static const Words all{
        {"rearward", "to the rear"}, {"forward", "to the front"}, {"left", "{to_left}"}, {"right", "{to_right}"}};
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
    static const Words all{{"cardan", "universal joint"},
                           {"double_cardan", "double universal joint"},
                           "flexible_disc",
                           {"cv_fixed", "constant velocity, fixed"},
                           {"cv_plunging", "constant velocity, plunging"}};
    return all;
}
const Words& words(InterfaceKind) {
    static const Words all{
        {"spline", "splines"}, {"flange", "flanges"}, {"joint", "joint and yoke"}, {"bore", "bore and spigot"}};
    return all;
}

namespace {

constexpr double steepest_deg = 80;    // beyond it no shaft's axis is told by two views
constexpr double fastest_rpm = 200000; // no drive unit turns faster
constexpr std::size_t most_joints = 8;

Member rpm(const char* key, const char* means = "", double least = 0) {
    return Member(key, means).within(least, fastest_rpm);
}

} // namespace

void describe(Visitor& v, FlangePlace& f) {
    v.type("flange_place");
    v.text(Member("owner", "left out: the vehicle; or a donor's id")
               .names(Target::Owner)
               .leftOutWord(vehicle_owner)
               .said("It is on"),
           f.owner);
    v.text(Member("point", "one of the owner's points; else `at_mm`")
               .names(Target::Point, Gone::Stays, f.owner)
               .said("Its place")
               .none("typed below"),
           f.point.text);
    v.point(Member("at_mm").place(f.point.empty() ? f.owner : "").said(f.point.empty() ? "At" : ""), f.at_mm);
    v.number(Member("joint_mm", "from there along the axis to the joint's centre")
                 .offset()
                 .said("To the joint's middle")
                 .order(1),
             f.joint_mm);
    v.number(
        Member("down_deg", "how much its axis falls as the line runs, seen from the side, against the owner's own axis")
            .angle(steepest_deg)
            .said("Falls by"),
        f.down_deg);
    v.number(Member("aside_deg", "seen from above: to the owner's right; of a line that runs sideways: rearward")
                 .angle(steepest_deg)
                 .tip("Seen from above; of a line that runs across: rearward. Below zero the other way")
                 .said("Runs aside by, {to_right}"),
             f.aside_deg);
    v.number(accuracyMember().said("Place to ±").order(3), f.accuracy_mm);
    v.number(Member("accuracy_deg", "±; left out: not known").within(0, steepest_deg).said("Angle to ±").order(2),
             f.accuracy_deg);
    v.object(Member("measured"), f.measured);
    v.text(Member("note").note(), f.note);
    v.extras(f.extras);
}

void describe(Visitor& v, EndPath& p) {
    constexpr double most_windup_deg = 45;
    const std::string moves =
        (p.kind == PathKind::Axle || p.kind == PathKind::Arm) && p.motion.empty() ? vehicle_owner : "";
    const bool arm = p.kind == PathKind::Arm, given = !moves.empty();
    v.type("end_path");
    v.text(Member("motion", "an axle or arm of the vehicle; left out: as given here"), p.motion);
    v.choice(Member("kind", "not said: its angles over the travel are unknown").leftOut(0), p.kind);
    v.number(Member("bump_mm", "of `centre_mm`, from ride height").length().said(given ? "Up to the bump stop" : ""),
             p.bump_mm);
    v.number(Member("droop_mm").length().said(given ? "Down to droop" : ""), p.droop_mm);
    v.point(Member("centre_mm", "the axle's middle, the arm's tip")
                .place(moves)
                .said(!given ? ""
                      : arm  ? "Arm's tip"
                             : "Axle's middle"),
            p.centre_mm);
    v.point(Member("axis_a_mm", "arm").place(moves).said(given && arm ? "Front bush" : ""), p.axis_a_mm);
    v.point(Member("axis_b_mm", "arm").place(moves).said(given && arm ? "Rear bush" : ""), p.axis_b_mm);
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
    v.number(Member("windup_up_deg", "how far torque turns the pinion's nose up, driving")
                 .within(0, most_windup_deg)
                 .said("Driving, nose up"),
             p.windup_up_deg);
    v.number(Member("windup_down_deg", "and down, braking").within(0, most_windup_deg).said("Braking, nose down"),
             p.windup_down_deg);
    v.text(Member("windup_source").said("How known"), p.windup_source);
    v.number(Member("shim_deg", "wedges that are planned to turn an axle about its middle, nose up above zero; the "
                                "flange stays as measured without them")
                 .angle(most_windup_deg)
                 .said("Wedges planned, nose up"),
             p.shim_deg);
    v.extras(p.extras);
}

void describe(Visitor& v, Joint& joint) {
    constexpr double square_deg = 90;
    v.type("joint");
    v.text(Member("name").said("Name"), joint.name);
    v.choice(Member("kind").must().said("Kind"), joint.kind);
    v.number(Member("max_deg", "its maker's; left out: the book's").within(0, square_deg).said("Its maker's most"),
             joint.max_deg);
    v.text(Member("max_source").said("Says who"), joint.max_source);
    v.extras(joint.extras);
}

void describe(Visitor& v, Shaft& s) {
    const bool made = !s.to_make, slips = !s.one_length; // a length that is to be found is not asked
    v.type("shaft");
    v.text(Member("name").said("Name").order(-3), s.name);
    v.number(Member("phase_deg", "rear fork against front fork, clockwise seen from behind the vehicle whichever way "
                                 "the line runs; sideways: outer against inner fork, seen from the wheel")
                 .angle()
                 .said("Rear fork turned by")
                 .order(1),
             s.phase_deg);
    v.number(Member("tube_mm", "outside").size().said("Tube, outside").order(1), s.tube_mm);
    v.number(Member("wall_mm", "of the tube; as thick as the bar when solid").size().said("Tube's wall").order(1),
             s.wall_mm);
    v.flag(Member("one_length", "does not slip").said("Of one length").order(-1), s.one_length);
    v.number(Member("closed_mm", "between joint centres, pushed together")
                 .size()
                 .said(made && slips ? "Pushed together" : ""),
             s.closed_mm);
    v.number(Member("spline_mm", "engaged when closed; of a plunging joint its whole plunge")
                 .length()
                 .said(made && slips ? "Spline in it then" : ""),
             s.spline_mm);
    v.number(Member("spline_diameter_mm").size().said(slips ? "Spline's diameter" : ""), s.spline_diameter_mm);
    v.number(Member("length_mm", "of one that does not slip").size().said(made && !slips ? "Between joints" : ""),
             s.length_mm);
    v.number(accuracyMember().said("Lengths to ±").order(1), s.accuracy_mm);
    v.flag(Member("to_make", "its lengths are to be found").said("To be made: find its lengths").order(-2), s.to_make);
    v.text(Member("note").note(), s.note);
    v.extras(s.extras);
}

void describe(Visitor& v, CentreBearing& b) {
    v.type("centre_bearing");
    v.text(Member("name"), b.name);
    v.text(Member("point", "of the vehicle; else `at_mm`").names(Target::Point, Gone::Stays, vehicle_owner),
           b.point.text);
    v.point(Member("at_mm").place(b.point.empty() ? vehicle_owner : "").said("Bearing before it at"), b.at_mm);
    v.number(Member("joint_mm", "from the bearing on to the joint behind it").offset().said("Bearing to joint"),
             b.joint_mm);
    v.extras(b.extras);
}

void describe(Visitor& v, ShaftLine& line) {
    v.type("shaft_line");
    v.text(Member("id").id(), line.id);
    v.text(Member("name").must().said("Name"), line.name);
    v.choice(Member("run", "which way it runs from the unit").must().said("Runs from the unit"), line.run);
    v.object(Member("from", "the unit's flange").must().said("The unit's flange"), line.from);
    v.object(Member("to", "the far one").must().said("The far flange"), line.to);
    v.object(Member("path", "how the far flange moves"), line.path);
    v.list(Member("joints", "two to eight").each("joint").atMost(most_joints), line.joints);
    v.list(Member("shafts", "one fewer").each("shaft"), line.shafts);
    v.list(Member("bearings", "two fewer than joints").each("bearing"), line.bearings);
    v.text(Member("option", "`owner/choice/option`: judged only while that option is taken (the old shaft, or one made "
                            "to length); left out: always")
               .names(Target::OptionPath, Gone::Empty)
               .mustBeThere()
               .said("Judged with"),
           line.option);
    v.flag(Member("half_shaft", "it turns with the wheel, behind the final drive")
               .said("Half-shaft: turns with the wheel"),
           line.half_shaft);
    v.number(rpm("top_rpm", "its speed at top speed; left out: from the gearing").said("Top speed"), line.top_rpm);
    v.text(Member("note").note().said("Note"), line.note);
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
    v.text(Member("name").said("What was done"), t.name);
    v.text(Member("date").said("Date"), t.date);
    v.text(Member("who").said("Who"), t.who);
    v.number(Member("slope_deg", "of the vehicle at that time").angle(steepest_deg).said("Vehicle's slope then"),
             t.slope_deg);
    v.list(Member("readings").each("reading"), t.readings);
    v.text(Member("note").note(), t.note);
    v.extras(t.extras);
}

void describe(Visitor& v, CouplingCheck& c) {
    v.type("coupling");
    v.text(Member("id").id(), c.id);
    v.text(Member("name").must().said("Name"), c.name);
    v.text(
        Member("line", "whose first joint it is").oneAmong("driveline/lines").said("Of the line").none("none of them"),
        c.line);
    v.number(Member("radius_mm", "where the faces are measured").length().must().said("Faces read at radius"),
             c.radius_mm);
    v.flag(Member("rim_from_shaft", "the indicator rides on the shaft").said("Rim read from the shaft").order(1),
           c.rim_from_shaft);
    v.number(Member("to_gearbox_mount_mm", "forward from the flange; left out: from the line's donor")
                 .offset()
                 .said("Flange to gearbox mount"),
             c.to_gearbox_mount_mm);
    v.number(Member("to_front_mounts_mm").offset().said("Flange to front mounts"), c.to_front_mounts_mm);
    v.list(Member("tries", "the last is how it stands").each("try"), c.tries);
    v.extras(c.extras);
}

void describe(Visitor& v, AngleReading& r) {
    constexpr double half_turn_deg = 180;
    v.type("angle_reading");
    v.text(Member("id").id(), r.id);
    v.text(Member("place", "on what").said("Read on"), r.place);
    v.text(Member("line").oneAmong("driveline/lines").said("Flange of the line").none("none of them"), r.line);
    v.flag(Member("at_far_end", "the line's far flange").said("Its far flange"), r.at_far_end);
    v.number(Member("reading_deg", "falling to the rear above zero").angle(half_turn_deg).must().said("Gauge shows"),
             r.reading_deg);
    v.number(Member("slope_deg", "of the vehicle at that time").angle(steepest_deg).said("Vehicle's slope then"),
             r.slope_deg);
    v.number(Member("accuracy_deg", "±; left out: not known").within(0, steepest_deg).said("Gauge to ±"),
             r.accuracy_deg);
    v.text(Member("device").said("With"), r.device);
    v.text(Member("time").said("When"), r.time);
    v.text(Member("note").note().said("Note"), r.note);
    v.extras(r.extras);
}

void describe(Visitor& v, InterfaceSide& s) {
    constexpr double most_teeth = 500;
    v.type("interface_side");
    v.text(Member("name").said("Which"), s.name);
    v.number(Member("count", "of teeth or bolts").within(1, most_teeth).said("Teeth or bolts"), s.count);
    v.number(Member("diameter_mm", "major diameter, bolt circle, cap or bore and spigot").size().said("Diameter"),
             s.diameter_mm);
    v.number(Member("pilot_mm").size().said("Spigot"), s.pilot_mm);
    v.number(Member("bolt_mm").size().said("Bolt size"), s.bolt_mm);
    v.number(Member("span_mm", "over the caps").size().said("Over the caps"), s.span_mm);
    v.number(Member("length_mm").size().said("Length"), s.length_mm);
    v.text(Member("note").note(), s.note);
    v.extras(s.extras);
}

void describe(Visitor& v, Interface& i) {
    v.type("interface");
    v.text(Member("id").id(), i.id);
    const bool bore = i.kind == InterfaceKind::Bore;
    v.text(Member("name").must().said("Name"), i.name);
    v.choice(Member("kind").must().said("Kind"), i.kind);
    v.object(Member("a").said(bore ? "The bore" : "One side"), i.a);
    v.object(Member("b").said(bore ? "The spigot" : "The other"), i.b);
    v.text(Member("adapter", "what joins them although they do not mate").said("Adapter between them").order(200),
           i.adapter);
    v.text(whoseMember(), i.donor);
    v.extras(i.extras);
}

void describe(Visitor& v, Sized& sized) {
    v.type("sized");
    v.number(Member("mm").offset().said("length"), sized.mm);
    // A tolerance of a length that is missing is none.
    if (sized.mm || v.fills())
        v.number(Member("tolerance_mm", "each way").length().leftOut(0).said("±"), sized.tolerance_mm);
}

void describe(Visitor& v, BellStack& b) {
    const auto row = [](const char* key, const char* means = "") { return Member(key, means).inRows(); };
    v.type("bell");
    v.text(whoseMember(), b.donor);
    v.object(
        row("adapter_plate", "0: none").heading("From the block's rear face").said("Adapter plate (0: none)").order(1),
        b.adapter_plate);
    v.object(row("crank_flange", "behind the block's rear face").said("Crank flange behind it").order(2),
             b.crank_flange);
    v.object(row("flywheel", "flange to friction face").said("Flywheel, flange to friction face").order(3), b.flywheel);
    v.object(row("clutch", "friction face to fingers").said("Clutch, friction face to fingers").order(4), b.clutch);
    v.object(row("bell_depth", "from its front face to the gearbox's").said("Bellhousing's depth").order(5),
             b.bell_depth);
    v.object(row("release_at_rest", "in front of the gearbox's face")
                 .heading("Release")
                 .said("Bearing pushed back, in front of the gearbox")
                 .order(14),
             b.release_at_rest);
    v.object(row("release_travel", "how far it can come forward").said("Its travel").order(15), b.release_travel);
    v.object(row("finger_travel", "how far the fingers must go").said("Fingers must go").order(16), b.finger_travel);
    v.object(row("shaft_tip", "in front of the gearbox's face")
                 .heading("Input shaft, in front of the gearbox")
                 .said("Its tip")
                 .order(6),
             b.shaft_tip);
    v.object(row("shaft_shoulder", "length of the tip").said("Length of the tip").order(7), b.shaft_shoulder);
    v.object(row("pilot_mouth", "behind the crank flange")
                 .heading("Pilot, behind the crank flange")
                 .said("Its mouth")
                 .order(10),
             b.pilot_mouth);
    v.object(row("pilot_bottom", "depth below its mouth").said("Depth of the hole").order(11), b.pilot_bottom);
    v.object(row("spline_from", "in front of the gearbox's face").said("Splines begin").order(8), b.spline_from);
    v.object(row("spline_to", "in front of the gearbox's face").said("Splines end").order(9), b.spline_to);
    v.object(row("hub_from", "behind the friction face")
                 .heading("Clutch disc's hub, behind the friction face")
                 .said("Begins (before it: −)")
                 .order(12),
             b.hub_from);
    v.object(row("hub_to", "behind the friction face").said("Ends").order(13), b.hub_to);
    v.object(row("starter_face", "behind the block's rear face")
                 .heading("Starter")
                 .said("Its face behind the block's")
                 .order(17),
             b.starter_face);
    v.object(row("starter_rest", "pinion's tip from that face").said("Pinion at rest, from it").order(18),
             b.starter_rest);
    v.object(row("starter_out", "the same, thrown out").said("Pinion thrown out").order(19), b.starter_out);
    v.object(row("ring_from", "behind the crank flange").said("Ring gear behind the crank flange").order(20),
             b.ring_from);
    v.object(row("ring_width").said("Ring gear's width").order(21), b.ring_width);
    v.flag(Member("starter_from_behind", "it sits in the bellhousing and throws its pinion forward")
               .said("Throws its pinion forward")
               .order(30),
           b.starter_from_behind);
    v.number(Member("overhung_kg", "what an adapter hangs on the crank").mass().said("Adapter on the crank").order(31),
             b.overhung_kg);
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
    v.number(rpm("checked_rpm", "the shaft speed that accelerations are told at, when it is not the top speed's")
                 .said("Shake told at (all lines)")
                 .behind(),
             d.checked_rpm);
    v.extras(d.extras);
}

} // namespace gabarit::model

namespace gabarit::driveline {

model::SectionKind section() { return model::sectionKind<model::Driveline>("driveline", "", 70); }

} // namespace gabarit::driveline
