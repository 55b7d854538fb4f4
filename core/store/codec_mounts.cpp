// The members of "mounts". docs/format.md and data/schema/ say the same.
#include "store/json_io.h"

namespace gabarit::store {
namespace {

using namespace model;

template <class Io>
void describeFace(Io& io, MountFace& f) {
    if (Io::reading || f.owner != vehicle_owner) io.text("owner", f.owner);
    io.text("point", f.point.text);
    io.point("at_mm", f.at_mm);
    if (Io::reading || f.out != Eigen::Vector3d::UnitZ()) io.point("out", f.out);
    if (Io::reading || f.mark != Eigen::Vector3d::UnitX()) io.point("mark", f.mark);
    io.text("mark_words", f.mark_words);
    if constexpr (Io::reading) {
        if (io.has("holes_mm")) io.points("holes_mm", f.holes_mm);
    } else if (!f.holes_mm.empty()) {
        io.points("holes_mm", f.holes_mm);
    }
    io.number("thread_mm", f.thread_mm);
    io.flag("through", f.through);
    io.number("depth_mm", f.depth_mm);
    if (Io::reading || f.metal != Metal::Steel)
        io.choice("metal", f.metal,
                  {{"steel", Metal::Steel}, {"cast_iron", Metal::CastIron}, {"aluminium", Metal::Aluminium}});
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
    io.text("grade", b.grade);
    if (Io::reading || b.treatment != Treatment::Dry)
        io.choice("treatment", b.treatment,
                  {{"dry", Treatment::Dry},
                   {"oiled", Treatment::Oiled},
                   {"locker", Treatment::Locker},
                   {"anti_seize", Treatment::AntiSeize}});
    io.text("why", b.why);
    io.number("torque_nm", b.torque_nm);
    io.text("who", b.who);
    io.text("date", b.date);
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
    if (Io::reading || m.made != MountMade::OwnBracket)
        io.choice("made", m.made,
                  {{"own_bracket", MountMade::OwnBracket},
                   {"adapter", MountMade::Adapter},
                   {"sister_part", MountMade::SisterPart},
                   {"kept", MountMade::Kept}});
    io.number("cost", m.cost);
    io.text("note", m.note);
    io.extras(m.extras);
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
template void describeMounts(ReadIo&, Mounts&);
template void describeMounts(WriteIo&, Mounts&);

} // namespace gabarit::store
