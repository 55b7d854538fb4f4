// The members of "relief". docs/format.md and data/schema/ say the same.
#include "store/json_io.h"

namespace gabarit::store {
namespace {

using namespace model;

template <class Io>
void describePocket(Io& io, Pocket& p) {
    io.text("id", p.id, true);
    io.text("name", p.name, true);
    io.text("body", p.body.text, true);
    io.choice("form", p.form,
              {{"box", PocketForm::Box},
               {"half_round", PocketForm::HalfRound},
               {"step", PocketForm::Step},
               {"recess", PocketForm::Recess}},
              true);
    std::vector<std::string> intruders;
    for (const BodyRef& ref : p.intruders) intruders.push_back(ref.text());
    io.texts("intruders", intruders);
    if constexpr (Io::reading) {
        for (const std::string& text : intruders) {
            const auto slash = text.find('/');
            if (slash == std::string::npos) {
                io.fail("intruders", "\"" + text + "\" names no body",
                        "write owner/body: \"vehicle/…\" or a donor's id");
                return;
            }
            p.intruders.push_back({text.substr(0, slash), {text.substr(slash + 1)}});
        }
    }
    io.point("at_mm", p.at_mm, true);
    io.point("into", p.into, true);
    io.point("along", p.along, true);
    io.number("length_mm", p.length_mm, true);
    io.number("width_mm", p.width_mm, true);
    io.number("depth_mm", p.depth_mm, true);
    if (Io::reading || p.flank_deg != 0) io.number("flank_deg", p.flank_deg);
    io.number("corner_mm", p.corner_mm, true);
    io.number("plate_mm", p.plate_mm, true);
    if (Io::reading || p.doubler_mm != 0) io.number("doubler_mm", p.doubler_mm);
    if (Io::reading || p.doubler_over_mm != 0) io.number("doubler_over_mm", p.doubler_over_mm);
    io.text("material", p.material);
    io.flag("open", p.open);
    io.flag("set_aside", p.set_aside);
    io.number("measured_length_mm", p.measured_length_mm);
    io.number("measured_width_mm", p.measured_width_mm);
    io.number("measured_depth_mm", p.measured_depth_mm);
    io.text("part", p.part);
    io.text("note", p.note);
    io.list("holds", p.holds, [](Io& inner, HoldSigned& h) { describeHold(inner, h); });
    io.extras(p.extras);
}

template <class Io>
void describeEnd(Io& io, TubeEnd& e) {
    io.choice("onto", e.onto, {{"square", EndOnto::Square}, {"plate", EndOnto::Plate}, {"tube", EndOnto::Tube}}, true);
    if (Io::reading || e.diameter_mm != 0) io.number("diameter_mm", e.diameter_mm);
    if (Io::reading || e.angle_deg != TubeEnd().angle_deg) io.number("angle_deg", e.angle_deg);
    if (Io::reading || e.offset_mm != 0) io.number("offset_mm", e.offset_mm);
    if (Io::reading || e.turn_deg != 0) io.number("turn_deg", e.turn_deg);
    io.extras(e.extras);
}

template <class Io>
void describeTube(Io& io, CutTube& t) {
    io.text("id", t.id, true);
    io.text("name", t.name, true);
    io.number("diameter_mm", t.diameter_mm, true);
    io.number("wall_mm", t.wall_mm, true);
    io.number("length_mm", t.length_mm, true);
    io.object("first", t.first, [](Io& inner, TubeEnd& e) { describeEnd(inner, e); });
    io.object("second", t.second, [](Io& inner, TubeEnd& e) { describeEnd(inner, e); });
    io.number("count", t.count);
    io.text("material", t.material);
    io.text("note", t.note);
    io.extras(t.extras);
}

template <class Io>
void describePlate(Io& io, PatternPlate& p) {
    io.text("id", p.id, true);
    io.text("name", p.name, true);
    if (Io::reading || p.use != PlateUse::Blanking)
        io.choice("use", p.use, {{"blanking", PlateUse::Blanking}, {"adapter", PlateUse::Adapter}});
    io.text("from", p.from);
    io.text("to", p.to);
    if (Io::reading || p.turn_deg != 0) io.number("turn_deg", p.turn_deg);
    if (Io::reading || p.to_mm != Eigen::Vector2d::Zero()) {
        io.number("to_x_mm", p.to_mm.x());
        io.number("to_y_mm", p.to_mm.y());
    }
    io.list("holes", p.holes, [](Io& inner, PlateHole& h) {
        inner.text("name", h.name);
        inner.number("x_mm", h.at_mm.x());
        inner.number("y_mm", h.at_mm.y());
        inner.number("diameter_mm", h.diameter_mm, true);
        inner.flag("tapped", h.tapped);
        inner.extras(h.extras);
    });
    io.number("thickness_mm", p.thickness_mm);
    io.number("edge_mm", p.edge_mm);
    io.number("replaces_mm", p.replaces_mm);
    io.number("seal_mm", p.seal_mm);
    io.number("bolt_mm", p.bolt_mm);
    io.text("material", p.material);
    io.number("count", p.count);
    io.text("note", p.note);
    io.extras(p.extras);
}

} // namespace

template <class Io>
void describeRelief(Io& io, Relief& relief) {
    io.list("pockets", relief.pockets, [](Io& inner, Pocket& p) { describePocket(inner, p); });
    io.list("holes", relief.holes, [](Io& inner, KeptHole& h) {
        inner.text("id", h.id, true);
        inner.text("name", h.name, true);
        inner.choice("kind", h.kind,
                     {{"drain", KeptKind::Drain},
                      {"access", KeptKind::Access},
                      {"bolt", KeptKind::Bolt},
                      {"seam", KeptKind::Seam}});
        inner.text("body", h.body.text, true);
        inner.point("at_mm", h.at_mm, true);
        inner.number("diameter_mm", h.diameter_mm);
        inner.text("note", h.note);
        inner.extras(h.extras);
    });
    io.list("tubes", relief.tubes, [](Io& inner, CutTube& t) { describeTube(inner, t); });
    io.list("plates", relief.plates, [](Io& inner, PatternPlate& p) { describePlate(inner, p); });
    io.extras(relief.extras);
}

template void describeRelief(ReadIo&, Relief&);
template void describeRelief(WriteIo&, Relief&);

} // namespace gabarit::store
