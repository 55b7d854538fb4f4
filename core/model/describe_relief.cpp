// The members of "relief".
#include "model/describe.h"

namespace gabarit::model {

using describe::Gone;
using describe::Member;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(PocketForm) {
    static const Words all{"box", "half_round", "step", "recess"};
    return all;
}
const Words& words(KeptKind) {
    static const Words all{"drain", "access", "bolt", "seam"};
    return all;
}
const Words& words(EndOnto) {
    static const Words all{"square", "plate", "tube"};
    return all;
}
const Words& words(PlateUse) {
    static const Words all{"blanking", "adapter"};
    return all;
}

namespace {

constexpr double steepest_flank_deg = 75; // beyond it an end is a bottom
constexpr double flattest_end_deg = 10;   // a tube that nearly lies along what it is cut to
constexpr double most_made = 1000;

Member madeCount() { return Member("count").within(1, most_made); }
Member ofVehicle() { return Member("body", "of the vehicle").names(Target::Body, Gone::Entry, vehicle_owner); }

} // namespace

void describe(Visitor& v, Pocket& p) {
    v.type("pocket");
    v.text(Member("id").id(), p.id);
    v.text(Member("name").must(), p.name);
    v.text(ofVehicle().must(), p.body.text);
    v.choice(Member("form", "`box` of bent plate with cheeks; in a sheet a tray folded from one piece, its corners "
                            "relieved, `flank_deg` 0; `half_round` of a tube split lengthways, `step` across the whole "
                            "section, `recess` formed into a sheet")
                 .must(),
             p.form);
    bodyRefs(v, Member("intruders", "owner/body, what it is made for").names(Target::BodyPath, Gone::Empty),
             p.intruders);
    v.point(Member("at_mm", "middle of its mouth").place("").must(), p.at_mm);
    v.point(Member("into", "direction into the metal").is(Vector::Direction).must(), p.into);
    v.point(Member("along", "of its length").is(Vector::Direction).must(), p.along);
    v.number(Member("length_mm", "at its bottom; of a half-round the tube's inside diameter").size().must(),
             p.length_mm);
    v.number(Member("width_mm", "across; a side that lies outside of the metal is open").size().must(), p.width_mm);
    v.number(Member("depth_mm").size().must(), p.depth_mm);
    v.number(Member("flank_deg", "its ends lean outwards").within(0, steepest_flank_deg), p.flank_deg);
    v.number(Member("corner_mm", "inside radius of its bends; of a recess its corners").length().must(), p.corner_mm);
    v.number(Member("plate_mm").size().must(), p.plate_mm);
    v.number(Member("doubler_mm", "a strap on the far face").length(), p.doubler_mm);
    v.number(Member("doubler_over_mm", "how far it reaches beyond the mouth").length(), p.doubler_over_mm);
    v.text(Member("material", "id of a sheet in `data/rules/relief.json`; left out: the first"), p.material);
    v.flag(Member("open", "not closed again"), p.open);
    v.flag(Member("set_aside", "kept to compare, not counted"), p.set_aside);
    v.number(Member("measured_length_mm", "as made").size(), p.measured_length_mm);
    v.number(Member("measured_width_mm").size(), p.measured_width_mm);
    v.number(Member("measured_depth_mm").size(), p.measured_depth_mm);
    v.text(Member("part", "id in the list of parts"), p.part);
    v.text(Member("note").note(), p.note);
    v.list(Member("holds", "what is signed, as in mounts").each("hold"), p.holds);
    v.extras(p.extras);
}

void describe(Visitor& v, KeptHole& h) {
    v.type("kept_hole");
    v.text(Member("id").id(), h.id);
    v.text(Member("name").must(), h.name);
    v.choice(Member("kind"), h.kind);
    v.text(ofVehicle().must(), h.body.text);
    v.point(Member("at_mm", "body's own frame").place("").must(), h.at_mm);
    v.number(Member("diameter_mm", "left out: a seam").length(), h.diameter_mm);
    v.text(Member("note").note(), h.note);
    v.extras(h.extras);
}

void describe(Visitor& v, TubeEnd& e) {
    constexpr double square_deg = 90, half_turn_deg = 180;
    v.type("tube_end");
    v.choice(Member("onto").must(), e.onto);
    v.number(Member("diameter_mm", "of that tube").length(), e.diameter_mm);
    v.number(Member("angle_deg", "between the axes or to the plate")
                 .within(flattest_end_deg, half_turn_deg - flattest_end_deg)
                 .leftOut(square_deg),
             e.angle_deg);
    v.number(Member("offset_mm", "of the axes").offset(), e.offset_mm);
    v.number(Member("turn_deg", "of its mark about the axis").angle(), e.turn_deg);
    v.extras(e.extras);
}

void describe(Visitor& v, CutTube& t) {
    v.type("cut_tube");
    v.text(Member("id").id(), t.id);
    v.text(Member("name").must(), t.name);
    v.number(Member("diameter_mm").size().must(), t.diameter_mm);
    v.number(Member("wall_mm").size().must(), t.wall_mm);
    v.number(Member("length_mm", "along its axis, from one end's middle to the other's: the axis of the tube it sits "
                                 "on, the face of a plate, a square end")
                 .size()
                 .must(),
             t.length_mm);
    v.object(Member("first"), t.first);
    v.object(Member("second"), t.second);
    v.number(madeCount(), t.count);
    v.text(Member("material"), t.material);
    v.text(Member("note").note(), t.note);
    v.extras(t.extras);
}

void describe(Visitor& v, PlateHole& h) {
    v.type("plate_hole");
    v.text(Member("name"), h.name);
    v.number(Member("x_mm").offset(), h.at_mm.x());
    v.number(Member("y_mm").offset(), h.at_mm.y());
    v.number(Member("diameter_mm").size().must(), h.diameter_mm);
    v.flag(Member("tapped"), h.tapped);
    v.extras(h.extras);
}

void describe(Visitor& v, PatternPlate& p) {
    v.type("pattern_plate");
    v.text(Member("id").id(), p.id);
    v.text(Member("name").must(), p.name);
    v.choice(Member("use").leftOut(0), p.use);
    v.text(Member("from", "whose pattern it takes: `mount/pad`, `mount/stand`, `seat/id` of an old seat, "
                          "`interface/id/a` or `…/b` of a flange with its bolt circle and bore"),
           p.from);
    v.text(Member("to", "of an adapter: the other one"), p.to);
    v.number(Member("turn_deg", "of the second pattern against the first").angle(), p.turn_deg);
    v.number(Member("to_x_mm").offset(), p.to_mm.x());
    v.number(Member("to_y_mm").offset(), p.to_mm.y());
    v.list(Member("holes", "of its own").each("hole"), p.holes);
    v.number(Member("thickness_mm").size(), p.thickness_mm);
    v.number(Member("edge_mm", "metal left round a hole").length(), p.edge_mm);
    v.number(Member("replaces_mm", "thickness of the flange whose place it takes").length(), p.replaces_mm);
    v.number(Member("seal_mm").length(), p.seal_mm);
    v.number(Member("bolt_mm", "length of the bolts that were in it").size(), p.bolt_mm);
    v.text(Member("material"), p.material);
    v.number(madeCount(), p.count);
    v.text(Member("note").note(), p.note);
    v.extras(p.extras);
}

void describe(Visitor& v, Relief& relief) {
    v.type("relief");
    v.list(Member("pockets", "in their body's own frame: they go where the body goes").each("pocket").idsShared(),
           relief.pockets);
    v.list(Member("holes", "that a cut has to mind").each("hole").idsShared(), relief.holes);
    v.list(Member("tubes", "cut to fit").each("tube").idsShared(), relief.tubes);
    v.list(Member("plates", "that take a hole pattern over").each("plate").idsShared(), relief.plates);
    v.extras(relief.extras);
}

} // namespace gabarit::model
