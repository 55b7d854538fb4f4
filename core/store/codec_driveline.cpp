// The members of "driveline" and "gearing". docs/format.md and data/schema/ say the same.
#include "store/json_io.h"

namespace gabarit::store {
namespace {

using namespace model;

template <class Io>
void describeFlange(Io& io, FlangePlace& f) {
    if (Io::reading || f.owner != vehicle_owner) io.text("owner", f.owner);
    io.text("point", f.point.text);
    io.point("at_mm", f.at_mm);
    io.number("joint_mm", f.joint_mm);
    io.number("down_deg", f.down_deg);
    io.number("aside_deg", f.aside_deg);
    io.number("accuracy_mm", f.accuracy_mm);
    io.number("accuracy_deg", f.accuracy_deg);
    describeProvenance(io, f.measured);
    io.text("note", f.note);
    io.extras(f.extras);
}

template <class Io>
void describePath(Io& io, EndPath& p) {
    io.text("motion", p.motion);
    if (Io::reading || p.kind != PathKind::NotSaid)
        io.choice("kind", p.kind,
                  {{"not_said", PathKind::NotSaid},
                   {"fixed", PathKind::Fixed},
                   {"axle", PathKind::Axle},
                   {"arm", PathKind::Arm}});
    io.number("bump_mm", p.bump_mm);
    io.number("droop_mm", p.droop_mm);
    io.point("centre_mm", p.centre_mm);
    io.point("axis_a_mm", p.axis_a_mm);
    io.point("axis_b_mm", p.axis_b_mm);
    io.list("links", p.links, [](Io& inner, PathLink& link) {
        inner.choice("kind", link.kind,
                     {{"arm", PathLinkKind::Arm},
                      {"leaf", PathLinkKind::Leaf},
                      {"torque_arm", PathLinkKind::Torque},
                      {"ladder_bar", PathLinkKind::LadderBar}},
                     true);
        inner.point("fixed_mm", link.fixed_mm);
        inner.point("moving_mm", link.moving_mm);
        inner.extras(link.extras);
    });
    io.number("windup_up_deg", p.windup_up_deg);
    io.number("windup_down_deg", p.windup_down_deg);
    io.text("windup_source", p.windup_source);
    io.number("shim_deg", p.shim_deg);
    io.extras(p.extras);
}

template <class Io>
void describeShaft(Io& io, Shaft& s) {
    io.text("name", s.name);
    io.number("phase_deg", s.phase_deg);
    io.number("tube_mm", s.tube_mm);
    io.number("wall_mm", s.wall_mm);
    io.flag("one_length", s.one_length);
    io.number("closed_mm", s.closed_mm);
    io.number("spline_mm", s.spline_mm);
    io.number("spline_diameter_mm", s.spline_diameter_mm);
    io.number("length_mm", s.length_mm);
    io.number("accuracy_mm", s.accuracy_mm);
    io.flag("to_make", s.to_make);
    io.text("note", s.note);
    io.extras(s.extras);
}

template <class Io>
void describeLine(Io& io, ShaftLine& line) {
    io.text("id", line.id, true);
    io.text("name", line.name, true);
    io.choice("run", line.run,
              {{"rearward", Run::Rearward}, {"forward", Run::Forward}, {"left", Run::Left}, {"right", Run::Right}},
              true);
    io.object(
        "from", line.from, [](Io& inner, FlangePlace& f) { describeFlange(inner, f); }, true);
    io.object(
        "to", line.to, [](Io& inner, FlangePlace& f) { describeFlange(inner, f); }, true);
    io.object("path", line.path, [](Io& inner, EndPath& p) { describePath(inner, p); });
    io.list("joints", line.joints, [](Io& inner, Joint& joint) {
        inner.text("name", joint.name);
        inner.choice("kind", joint.kind,
                     {{"cardan", JointKind::Cardan},
                      {"double_cardan", JointKind::DoubleCardan},
                      {"flexible_disc", JointKind::FlexibleDisc},
                      {"cv_fixed", JointKind::CvFixed},
                      {"cv_plunging", JointKind::CvPlunging}},
                     true);
        inner.number("max_deg", joint.max_deg);
        inner.text("max_source", joint.max_source);
        inner.extras(joint.extras);
    });
    io.list("shafts", line.shafts, [](Io& inner, Shaft& shaft) { describeShaft(inner, shaft); });
    io.list("bearings", line.bearings, [](Io& inner, CentreBearing& b) {
        inner.text("name", b.name);
        inner.text("point", b.point.text);
        inner.point("at_mm", b.at_mm);
        inner.number("joint_mm", b.joint_mm);
        inner.extras(b.extras);
    });
    io.text("option", line.option);
    io.flag("half_shaft", line.half_shaft);
    io.number("top_rpm", line.top_rpm);
    io.text("note", line.note);
    io.extras(line.extras);
}

template <class Io>
void describeCoupling(Io& io, CouplingCheck& c) {
    io.text("id", c.id, true);
    io.text("name", c.name, true);
    io.text("line", c.line);
    io.number("radius_mm", c.radius_mm, true);
    io.flag("rim_from_shaft", c.rim_from_shaft);
    io.number("to_gearbox_mount_mm", c.to_gearbox_mount_mm);
    io.number("to_front_mounts_mm", c.to_front_mounts_mm);
    io.list("tries", c.tries, [](Io& inner, CouplingTry& t) {
        inner.text("id", t.id, true);
        inner.text("name", t.name);
        inner.text("date", t.date);
        inner.text("who", t.who);
        inner.number("slope_deg", t.slope_deg);
        inner.list("readings", t.readings, [](Io& each, CouplingReading& r) {
            each.flag("rim", r.rim);
            each.number("clock_deg", r.clock_deg, true);
            each.number("turn_deg", r.turn_deg);
            each.number("mm", r.mm, true);
            each.number("accuracy_mm", r.accuracy_mm);
            each.text("device", r.device);
            each.text("time", r.time);
            each.text("note", r.note);
            each.extras(r.extras);
        });
        inner.text("note", t.note);
        inner.extras(t.extras);
    });
    io.extras(c.extras);
}

template <class Io>
void describeSide(Io& io, InterfaceSide& s) {
    io.text("name", s.name);
    io.number("count", s.count);
    io.number("diameter_mm", s.diameter_mm);
    io.number("pilot_mm", s.pilot_mm);
    io.number("bolt_mm", s.bolt_mm);
    io.number("span_mm", s.span_mm);
    io.number("length_mm", s.length_mm);
    io.text("note", s.note);
    io.extras(s.extras);
}

template <class Io>
void describeBell(Io& io, BellStack& b) {
    io.text("donor", b.donor);
    const std::pair<const char*, Sized BellStack::*> sizes[] = {{"adapter_plate", &BellStack::adapter_plate},
                                                                {"crank_flange", &BellStack::crank_flange},
                                                                {"flywheel", &BellStack::flywheel},
                                                                {"clutch", &BellStack::clutch},
                                                                {"bell_depth", &BellStack::bell_depth},
                                                                {"release_at_rest", &BellStack::release_at_rest},
                                                                {"release_travel", &BellStack::release_travel},
                                                                {"finger_travel", &BellStack::finger_travel},
                                                                {"shaft_tip", &BellStack::shaft_tip},
                                                                {"shaft_shoulder", &BellStack::shaft_shoulder},
                                                                {"pilot_mouth", &BellStack::pilot_mouth},
                                                                {"pilot_bottom", &BellStack::pilot_bottom},
                                                                {"spline_from", &BellStack::spline_from},
                                                                {"spline_to", &BellStack::spline_to},
                                                                {"hub_from", &BellStack::hub_from},
                                                                {"hub_to", &BellStack::hub_to},
                                                                {"starter_face", &BellStack::starter_face},
                                                                {"starter_rest", &BellStack::starter_rest},
                                                                {"starter_out", &BellStack::starter_out},
                                                                {"ring_from", &BellStack::ring_from},
                                                                {"ring_width", &BellStack::ring_width}};
    for (const auto& [key, member] : sizes) {
        // A missing length is written as nothing at all.
        if (!Io::reading && !(b.*member).mm) continue;
        io.object(key, b.*member, [](Io& inner, Sized& sized) {
            inner.number("mm", sized.mm);
            inner.number("tolerance_mm", sized.tolerance_mm);
        });
    }
    io.flag("starter_from_behind", b.starter_from_behind);
    io.number("overhung_kg", b.overhung_kg);
    io.extras(b.extras);
}

} // namespace

template <class Io>
void describeDriveline(Io& io, Driveline& d) {
    io.list("lines", d.lines, [](Io& inner, ShaftLine& line) { describeLine(inner, line); });
    io.list("couplings", d.couplings, [](Io& inner, CouplingCheck& c) { describeCoupling(inner, c); });
    io.list("readings", d.readings, [](Io& inner, AngleReading& r) {
        inner.text("id", r.id, true);
        inner.text("place", r.place);
        inner.text("line", r.line);
        inner.flag("at_far_end", r.at_far_end);
        inner.number("reading_deg", r.reading_deg, true);
        inner.number("slope_deg", r.slope_deg);
        inner.number("accuracy_deg", r.accuracy_deg);
        inner.text("device", r.device);
        inner.text("time", r.time);
        inner.text("note", r.note);
        inner.extras(r.extras);
    });
    io.list("interfaces", d.interfaces, [](Io& inner, Interface& i) {
        inner.text("id", i.id, true);
        inner.text("name", i.name, true);
        inner.choice("kind", i.kind,
                     {{"spline", InterfaceKind::Spline},
                      {"flange", InterfaceKind::Flange},
                      {"joint", InterfaceKind::Joint},
                      {"bore", InterfaceKind::Bore}},
                     true);
        inner.object("a", i.a, [](Io& side, InterfaceSide& s) { describeSide(side, s); });
        inner.object("b", i.b, [](Io& side, InterfaceSide& s) { describeSide(side, s); });
        inner.text("adapter", i.adapter);
        inner.text("donor", i.donor);
        inner.extras(i.extras);
    });
    io.object("bell", d.bell, [](Io& inner, BellStack& b) { describeBell(inner, b); });
    io.number("checked_rpm", d.checked_rpm);
    io.extras(d.extras);
}

template <class Io>
void describeGearing(Io& io, Gearing& g) {
    io.text("donor", g.donor);
    io.list("gears", g.gears, [](Io& inner, Gear& gear) {
        inner.text("name", gear.name, true);
        inner.number("ratio", gear.ratio, true);
        inner.flag("reverse", gear.reverse);
        inner.extras(gear.extras);
    });
    if (Io::reading || g.transfer_high != 1) io.number("transfer_high", g.transfer_high);
    io.number("transfer_low", g.transfer_low);
    io.number("final_drive", g.final_drive);
    io.text("tyre", g.tyre);
    io.number("max_rpm", g.max_rpm);
    io.number("mass_kg", g.mass_kg);
    io.list("torque", g.torque, [](Io& inner, TorquePoint& p) {
        inner.number("rpm", p.rpm, true);
        inner.number("torque_nm", p.torque_nm, true);
        inner.extras(p.extras);
    });
    io.number("loss", g.loss);
    io.number("cruise_kmh", g.cruise_kmh);
    io.number("wanted_cruise_rpm", g.wanted_cruise_rpm);
    io.object("original", g.original, [](Io& inner, OriginalVehicle& o) {
        inner.text("name", o.name);
        inner.number("mass_kg", o.mass_kg);
        inner.text("tyre", o.tyre);
        inner.number("final_drive", o.final_drive);
        inner.extras(o.extras);
    });
    io.text("speedo_tyre", g.speedo_tyre);
    io.number("speedo_final_drive", g.speedo_final_drive);
    io.extras(g.extras);
}

template void describeDriveline(ReadIo&, Driveline&);
template void describeDriveline(WriteIo&, Driveline&);
template void describeGearing(ReadIo&, Gearing&);
template void describeGearing(WriteIo&, Gearing&);

} // namespace gabarit::store
