// The members of "mounts". docs/format.md and data/schema/ say the same.
#include "store/json_io.h"

namespace gabarit::store {

using namespace model;

template <class Io>
void describeHold(Io& io, HoldSigned& h) {
    io.choice("hold", h.hold,
              {{"tacked", Hold::Tacked},
               {"test_fitted", Hold::TestFitted},
               {"welded", Hold::Welded},
               {"fitted_again", Hold::FittedAgain},
               {"painted", Hold::Painted}});
    io.text("date", h.date);
    io.text("who", h.who);
    io.text("note", h.note);
    io.list("basis", h.basis, [](Io& inner, HoldBasis& basis) {
        inner.text("item", basis.item, true);
        inner.text("name", basis.name);
        inner.text("mark", basis.mark);
        inner.extras(basis.extras);
    });
    io.extras(h.extras);
}

namespace {

/// Points that may be left out.
template <class Io, class Points>
void describePoints(Io& io, const char* name, Points& points) {
    if constexpr (Io::reading) {
        if (io.has(name)) io.points(name, points);
    } else if (!points.empty()) {
        io.points(name, points);
    }
}

template <class Io>
void describeFace(Io& io, MountFace& f) {
    if (Io::reading || f.owner != vehicle_owner) io.text("owner", f.owner);
    io.text("point", f.point.text);
    io.point("at_mm", f.at_mm);
    if (Io::reading || f.out != Eigen::Vector3d::UnitZ()) io.point("out", f.out);
    if (Io::reading || f.mark != Eigen::Vector3d::UnitX()) io.point("mark", f.mark);
    io.text("mark_words", f.mark_words);
    describePoints(io, "holes_mm", f.holes_mm);
    io.number("thread_mm", f.thread_mm);
    io.flag("through", f.through);
    io.number("depth_mm", f.depth_mm);
    if (Io::reading || f.metal != Metal::NotSaid)
        io.choice("metal", f.metal,
                  {{"not_said", Metal::NotSaid},
                   {"steel", Metal::Steel},
                   {"cast_iron", Metal::CastIron},
                   {"aluminium", Metal::Aluminium}});
    io.number("accuracy_mm", f.accuracy_mm);
    describeProvenance(io, f.measured);
    io.text("note", f.note);
    io.extras(f.extras);
}

template <class Io>
void describeBolting(Io& io, Bolting& b) {
    io.number("used", b.used);
    io.number("length_mm", b.length_mm);
    io.number("clamped_mm", b.clamped_mm);
    io.number("threaded_mm", b.threaded_mm);
    io.text("grade", b.grade);
    if (Io::reading || b.treatment != Treatment::Dry)
        io.choice("treatment", b.treatment,
                  {{"dry", Treatment::Dry},
                   {"oiled", Treatment::Oiled},
                   {"locker", Treatment::Locker},
                   {"anti_seize", Treatment::AntiSeize}});
    io.text("why", b.why);
    io.number("torque_nm", b.torque_nm);
    io.number("socket_mm", b.socket_mm);
    io.number("nut_socket_mm", b.nut_socket_mm);
    io.text("who", b.who);
    io.text("date", b.date);
    io.extras(b.extras);
}

template <class Io>
void describeMade(Io& io, MountMade& made) {
    if (Io::reading || made != MountMade::OwnBracket)
        io.choice("made", made,
                  {{"own_bracket", MountMade::OwnBracket},
                   {"adapter", MountMade::Adapter},
                   {"sister_part", MountMade::SisterPart},
                   {"kept", MountMade::Kept}});
}

template <class Io>
void describeBracket(Io& io, Bracket& b) {
    if (Io::reading || b.form != BracketForm::Tube)
        io.choice("form", b.form,
                  {{"tube", BracketForm::Tube}, {"folded", BracketForm::Folded}, {"flat", BracketForm::Flat}});
    io.number("tube_mm", b.tube_mm);
    io.number("wall_mm", b.wall_mm);
    io.number("plate_mm", b.plate_mm);
    io.number("gusset_mm", b.gusset_mm);
    io.number("throat_mm", b.throat_mm);
    io.number("slot_mm", b.slot_mm);
    io.number("dowel_mm", b.dowel_mm);
    io.number("yield_mpa", b.yield_mpa);
    describePoints(io, "via_mm", b.via_mm);
    io.texts("bodies", b.bodies);
    io.text("part", b.part);
    io.text("note", b.note);
    io.extras(b.extras);
}

template <class Io>
void describeMount(Io& io, Mount& m) {
    io.text("id", m.id, true);
    io.text("name", m.name, true);
    if (Io::reading || m.at != MountAt::Engine)
        io.choice("at", m.at, {{"engine", MountAt::Engine}, {"gearbox", MountAt::Gearbox}, {"other", MountAt::Other}});
    io.object(
        "pad", m.pad, [](Io& inner, MountFace& f) { describeFace(inner, f); }, true);
    io.object("stand", m.stand, [](Io& inner, MountFace& f) { describeFace(inner, f); });
    io.text("isolator", m.isolator);
    io.point("centre_mm", m.centre_mm);
    io.point("axis", m.axis);
    io.object("pad_bolts", m.pad_bolts, [](Io& inner, Bolting& b) { describeBolting(inner, b); });
    io.object("stand_bolts", m.stand_bolts, [](Io& inner, Bolting& b) { describeBolting(inner, b); });
    io.object("bracket", m.bracket, [](Io& inner, Bracket& b) { describeBracket(inner, b); });
    io.object("tower", m.tower, [](Io& inner, Bracket& b) { describeBracket(inner, b); });
    io.text("frame", m.frame);
    describeMade(io, m.made);
    io.number("cost", m.cost);
    io.text("note", m.note);
    io.list("options", m.options, [](Io& inner, MountOption& o) {
        describeMade(inner, o.made);
        inner.text("name", o.name, true);
        inner.number("cost", o.cost);
        inner.text("note", o.note);
        inner.extras(o.extras);
    });
    io.list("holds", m.holds, [](Io& inner, HoldSigned& h) { describeHold(inner, h); });
    io.extras(m.extras);
}

template <class Io>
void describeHoleRow(Io& io, HoleRow& r) {
    io.text("id", r.id, true);
    io.text("name", r.name, true);
    io.point("at_mm", r.at_mm, true);
    io.point("step_mm", r.step_mm, true);
    io.number("count", r.count, true);
    io.number("hole_mm", r.hole_mm);
    io.number("slot_mm", r.slot_mm);
    io.number("accuracy_mm", r.accuracy_mm);
    describeProvenance(io, r.measured);
    io.text("note", r.note);
    io.extras(r.extras);
}

template <class Io>
void describeCrossmember(Io& io, Crossmember& c) {
    io.text("id", c.id, true);
    io.text("name", c.name, true);
    io.text("mount", c.mount);
    io.text("left_row", c.left_row);
    io.text("right_row", c.right_row);
    io.point("seat_mm", c.seat_mm);
    io.number("slot_mm", c.slot_mm);
    io.number("depth_mm", c.depth_mm);
    io.flag("own", c.own);
    io.text("body", c.body.text);
    io.list("passages", c.passages, [](Io& inner, Passage& p) {
        inner.text("name", p.name, true);
        inner.number("y_mm", p.at_mm.x());
        inner.number("z_mm", p.at_mm.y());
        inner.number("diameter_mm", p.diameter_mm, true);
        inner.extras(p.extras);
    });
    io.text("note", c.note);
    io.extras(c.extras);
}

template <class Io>
void describeFrame(Io& io, SeatFrame& f) {
    io.text("id", f.id, true);
    io.text("name", f.name, true);
    io.texts("seats", f.seats);
    io.list("members", f.members_mm,
            [](Io& inner, std::vector<Eigen::Vector3d>& corners) { inner.points("corners_mm", corners); });
    io.number("width_mm", f.width_mm);
    io.number("height_mm", f.height_mm);
    io.number("wall_mm", f.wall_mm);
    io.texts("bodies", f.bodies);
    io.text("note", f.note);
    io.extras(f.extras);
}

} // namespace

template <class Io>
void describeIsolator(Io& io, Isolator& s) {
    io.text("id", s.id, true);
    io.text("name", s.name, true);
    io.text("material", s.material);
    io.number("axial_n_per_mm", s.axial_n_per_mm, true);
    io.number("shear_n_per_mm", s.shear_n_per_mm, true);
    io.number("shear2_n_per_mm", s.shear2_n_per_mm);
    io.number("rating_n", s.rating_n);
    io.number("shear_rating_n", s.shear_rating_n);
    io.number("stop_in_mm", s.stop_in_mm);
    io.number("stop_out_mm", s.stop_out_mm);
    io.number("stop_side_mm", s.stop_side_mm);
    io.flag("captive", s.captive);
    io.number("damping", s.damping);
    io.number("height_mm", s.height_mm);
    io.number("diameter_mm", s.diameter_mm);
    io.number("mass_kg", s.mass_kg);
    io.number("cost", s.cost);
    io.text("source", s.source);
    io.text("note", s.note);
    io.extras(s.extras);
}

template <class Io>
void describeMounts(Io& io, Mounts& m) {
    io.list("mounts", m.mounts, [](Io& inner, Mount& mount) { describeMount(inner, mount); });
    io.list("isolators", m.isolators, [](Io& inner, Isolator& isolator) { describeIsolator(inner, isolator); });
    io.list("rows", m.rows, [](Io& inner, HoleRow& r) { describeHoleRow(inner, r); });
    io.list("crossmembers", m.crossmembers, [](Io& inner, Crossmember& c) { describeCrossmember(inner, c); });
    io.list("seats", m.seats, [](Io& inner, OldSeat& seat) {
        inner.text("id", seat.id, true);
        inner.text("name", seat.name, true);
        inner.object(
            "face", seat.face, [](Io& face, MountFace& f) { describeFace(face, f); }, true);
        inner.extras(seat.extras);
    });
    io.list("frames", m.frames, [](Io& inner, SeatFrame& f) { describeFrame(inner, f); });
    io.list("old_mounts", m.old_mounts, [](Io& inner, OldMount& o) {
        inner.text("id", o.id, true);
        inner.text("name", o.name, true);
        inner.text("body", o.body.text);
        inner.text("seat", o.seat);
        if (Io::reading || o.state != OldState::Stays)
            inner.choice("state", o.state,
                         {{"stays", OldState::Stays}, {"planned", OldState::Planned}, {"gone", OldState::Gone}});
        inner.text("date", o.date);
        inner.text("who", o.who);
        inner.text("note", o.note);
        inner.extras(o.extras);
    });
    io.object("inertia", m.inertia, [](Io& inner, Inertia& i) {
        inner.point("moments_kg_m2", i.moments_kg_m2, true);
        inner.point("products_kg_m2", i.products_kg_m2);
        inner.text("source", i.source);
        inner.extras(i.extras);
    });
    io.object("running", m.running, [](Io& inner, Running& r) {
        if (Io::reading || r.layout != Cylinders::Inline)
            inner.choice("layout", r.layout,
                         {{"inline", Cylinders::Inline},
                          {"vee", Cylinders::Vee},
                          {"flat", Cylinders::Flat},
                          {"none", Cylinders::None}});
        inner.number("cylinders", r.cylinders);
        inner.flag("two_stroke", r.two_stroke);
        inner.flag("balance_shafts", r.balance_shafts);
        inner.number("idle_rpm", r.idle_rpm);
        inner.number("reciprocating_kg", r.reciprocating_kg);
        inner.number("stroke_mm", r.stroke_mm);
        inner.number("rod_mm", r.rod_mm);
        inner.extras(r.extras);
    });
    io.number("torque_nm", m.torque_nm);
    io.flag("reacts_axle_torque", m.reacts_axle_torque);
    io.flag("transfer_on_unit", m.transfer_on_unit);
    io.number("driven_axle_kg", m.driven_axle_kg);
    io.extras(m.extras);
}

template void describeIsolator(ReadIo&, Isolator&);
template void describeIsolator(WriteIo&, Isolator&);
template void describeHold(ReadIo&, HoldSigned&);
template void describeHold(WriteIo&, HoldSigned&);
template void describeMounts(ReadIo&, Mounts&);
template void describeMounts(WriteIo&, Mounts&);

} // namespace gabarit::store
