#include "relief/section/relief.h"

#include "model/describe.h"
#include "quantity/number.h"

#include <Eigen/Geometry>

#include <algorithm>
#include <iterator>

namespace gabarit::model {

using describe::Gone;
using describe::Member;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(PocketForm) {
    static const Words all{{"box", "box of bent plate"},
                           {"half_round", "half of a tube"},
                           {"step", "step across it all"},
                           {"recess", "formed recess"}};
    return all;
}
const Words& words(KeptKind) {
    static const Words all{
        {"drain", "drain hole"}, {"access", "access hole"}, {"bolt", "bolt hole"}, {"seam", "weld seam"}};
    return all;
}
const Words& words(EndOnto) {
    static const Words all{{"square", "nothing: square"}, {"plate", "a plate"}, {"tube", "a tube"}};
    return all;
}
const Words& words(PlateUse) {
    static const Words all{{"blanking", "closes an opening"}, "adapter"};
    return all;
}

namespace {

constexpr double steepest_flank_deg = 75; // beyond it an end is a bottom
constexpr double flattest_end_deg = 10;   // a tube that nearly lies along what it is cut to
constexpr double most_made = 1000;

Member madeCount() { return Member("count").within(1, most_made).said("How many"); }
Member sheet() { return Member("material").oneAmong("sheets").said("Material").none("the usual one"); }
Member ofVehicle() {
    return Member("body", "of the vehicle").names(Target::Body, Gone::Entry, vehicle_owner).said("In");
}

} // namespace

void describe(Visitor& v, Pocket& p) {
    const bool half = p.form == PocketForm::HalfRound, recess = p.form == PocketForm::Recess;
    const bool step = p.form == PocketForm::Step, strapped = !p.open && !recess;
    v.type("pocket");
    v.text(Member("id").id(), p.id);
    v.text(Member("name").must().said("Name"), p.name);
    v.text(ofVehicle().must(), p.body.text);
    v.choice(Member("form", "`box` of bent plate with cheeks; in a sheet a tray folded from one piece, its corners "
                            "relieved, `flank_deg` 0; `half_round` of a tube split lengthways, `step` across the whole "
                            "section, `recess` formed into a sheet")
                 .must()
                 .said("Form"),
             p.form);
    bodyRefs(v, Member("intruders", "owner/body, what it is made for").names(Target::BodyPath, Gone::Empty),
             p.intruders);
    v.point(Member("at_mm", "middle of its mouth").place("").must().order(5).said("Middle of its mouth"), p.at_mm);
    v.point(Member("into", "direction into the metal").direction().must().order(5).said("Into the metal"), p.into);
    v.point(Member("along", "of its length").direction().must().order(5).said("Along its length"), p.along);
    v.number(Member("length_mm", "at its bottom; of a half-round the tube's inside diameter")
                 .size()
                 .must()
                 .said(half ? "Tube, inside" : "Length at its bottom"),
             p.length_mm);
    v.number(Member("width_mm", "across; a side that lies outside of the metal is open")
                 .size()
                 .must()
                 .said(step ? "" : "Width"),
             p.width_mm);
    v.number(Member("depth_mm").size().must().said("Depth"), p.depth_mm);
    v.number(Member("flank_deg", "its ends lean outwards")
                 .within(0, steepest_flank_deg)
                 .said(half || recess ? "" : "Ends lean out"),
             p.flank_deg);
    v.number(Member("corner_mm", "inside radius of its bends; of a recess its corners")
                 .length()
                 .must()
                 .said(half     ? ""
                       : recess ? "Corners, radius"
                                : "Bends, inside"),
             p.corner_mm);
    v.number(Member("plate_mm").size().must().order(3).said(p.open ? "" : "Its thickness"), p.plate_mm);
    v.number(
        Member("doubler_mm", "a strap on the far face").length().order(3).said(strapped ? "Strap on the far face" : ""),
        p.doubler_mm);
    v.number(Member("doubler_over_mm", "how far it reaches beyond the mouth")
                 .length()
                 .order(3)
                 .said(strapped ? "It reaches beyond" : ""),
             p.doubler_over_mm);
    v.text(Member("material", "id of a sheet in `data/rules/relief.json`; left out: the first")
               .oneAmong("sheets")
               .order(2)
               .said(p.open ? "" : "Plate")
               .none("the usual one"),
           p.material);
    v.flag(Member("open", "not closed again").order(1).said("Left open, not closed"), p.open);
    v.flag(Member("set_aside", "kept to compare, not counted").order(4).said("Set aside: not counted"), p.set_aside);
    v.number(Member("measured_length_mm", "as made").size().heading("As made").order(6).said("Length"),
             p.measured_length_mm);
    v.number(Member("measured_width_mm").size().order(6).said("Width"), p.measured_width_mm);
    v.number(Member("measured_depth_mm").size().order(6).said("Depth"), p.measured_depth_mm);
    v.text(Member("part", "id in the list of parts"), p.part);
    v.text(Member("note").note().order(6).said("Note"), p.note);
    v.list(Member("holds", "what is signed, as in mounts").each("hold"), p.holds);
    v.extras(p.extras);
}

void describe(Visitor& v, KeptHole& h) {
    v.type("kept_hole");
    v.text(Member("id").id(), h.id);
    v.text(Member("name").must().said("Name"), h.name);
    v.choice(Member("kind").said("What it is"), h.kind);
    v.text(ofVehicle().must(), h.body.text);
    v.point(Member("at_mm", "body's own frame").place("").must().said("At"), h.at_mm);
    v.number(Member("diameter_mm", "left out: a seam").length().said(h.kind == KeptKind::Seam ? "" : "Diameter"),
             h.diameter_mm);
    v.text(Member("note").note().said("Note"), h.note);
    v.extras(h.extras);
}

void describe(Visitor& v, TubeEnd& e) {
    constexpr double square_deg = 90, half_turn_deg = 180;
    const bool cut = e.onto != EndOnto::Square, tube = e.onto == EndOnto::Tube;
    v.type("tube_end");
    v.choice(Member("onto").must().said("Cut to fit"), e.onto);
    v.number(Member("diameter_mm", "of that tube").length().said(tube ? "That tube, outside" : ""), e.diameter_mm);
    v.number(Member("angle_deg", "between the axes or to the plate")
                 .within(flattest_end_deg, half_turn_deg - flattest_end_deg)
                 .leftOut(square_deg)
                 .said(cut ? "Angle to it" : ""),
             e.angle_deg);
    v.number(Member("offset_mm", "of the axes").offset().said(tube ? "Axes apart" : ""), e.offset_mm);
    v.number(Member("turn_deg", "of its mark about the axis").angle().said(cut ? "Turned about itself" : ""),
             e.turn_deg);
    v.extras(e.extras);
}

void describe(Visitor& v, CutTube& t) {
    v.type("cut_tube");
    v.text(Member("id").id(), t.id);
    v.text(Member("name").must().said("Name"), t.name);
    v.number(Member("diameter_mm").size().must().said("Outside diameter"), t.diameter_mm);
    v.number(Member("wall_mm").size().must().said("Wall"), t.wall_mm);
    v.number(Member("length_mm", "along its axis, from one end's middle to the other's: the axis of the tube it sits "
                                 "on, the face of a plate, a square end")
                 .size()
                 .must()
                 .said("Length along its axis"),
             t.length_mm);
    v.object(Member("first").said("First end"), t.first);
    v.object(Member("second").said("Second end"), t.second);
    v.number(madeCount(), t.count);
    v.text(sheet(), t.material);
    v.text(Member("note").note().said("Note").order(200), t.note);
    v.extras(t.extras);
}

void describe(Visitor& v, PlateHole& h) {
    v.type("plate_hole");
    v.text(Member("name"), h.name);
    v.number(Member("x_mm").offset().said("x"), h.at_mm.x());
    v.number(Member("y_mm").offset().said("y"), h.at_mm.y());
    v.number(Member("diameter_mm").size().must().said("diameter"), h.diameter_mm);
    v.flag(Member("tapped"), h.tapped);
    v.extras(h.extras);
}

void describe(Visitor& v, PatternPlate& p) {
    const bool adapter = p.use == PlateUse::Adapter;
    v.type("pattern_plate");
    v.text(Member("id").id(), p.id);
    v.text(Member("name").must().said("Name"), p.name);
    v.choice(Member("use").leftOut(0).said("Use"), p.use);
    v.text(Member("from", "whose pattern it takes: `mount/pad`, `mount/stand`, `seat/id` of an old seat, "
                          "`interface/id/a` or `…/b` of a flange with its bolt circle and bore")
               .said("Holes of"),
           p.from);
    v.text(Member("to", "of an adapter: the other one").said(adapter ? "And of" : ""), p.to);
    v.number(
        Member("turn_deg", "of the second pattern against the first").angle().said(adapter ? "Turned against it" : ""),
        p.turn_deg);
    v.number(Member("to_x_mm").offset().said(adapter ? "Its middle, x" : ""), p.to_mm.x());
    v.number(Member("to_y_mm").offset().said(adapter ? "Its middle, y" : ""), p.to_mm.y());
    v.list(Member("holes", "of its own").each("hole").inRows().said("Holes of its own"), p.holes);
    v.number(Member("thickness_mm").size().said("Thickness"), p.thickness_mm);
    v.number(Member("edge_mm", "metal left round a hole").length().said("Metal round a hole"), p.edge_mm);
    v.number(
        Member("replaces_mm", "thickness of the flange whose place it takes").length().said("In place of a flange of"),
        p.replaces_mm);
    v.number(Member("seal_mm").length().said("Gasket"), p.seal_mm);
    v.number(Member("bolt_mm", "length of the bolts that were in it").size().said("Bolts that were in it"), p.bolt_mm);
    v.text(sheet(), p.material);
    v.number(madeCount(), p.count);
    v.text(Member("note").note().said("Note"), p.note);
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

std::vector<Pocket> pocketsOf(const Relief& relief, const BodyId& body) {
    std::vector<Pocket> out;
    std::copy_if(relief.pockets.begin(), relief.pockets.end(), std::back_inserter(out),
                 [&body](const Pocket& pocket) { return pocket.body == body && !pocket.set_aside; });
    return out;
}

std::string pocketKey(const Pocket& p) {
    std::string key =
        " pocket " + std::to_string(static_cast<int>(p.form)) + (p.open ? " open" : "") + " " + p.material;
    const auto put = [&key](double v) { key += " " + quantity::exactNumber(v); };
    for (const Eigen::Vector3d& v : {p.at_mm, p.into, p.along})
        for (int i = 0; i < 3; ++i) put(v[i]);
    for (const double v :
         {p.length_mm, p.width_mm, p.depth_mm, p.flank_deg, p.corner_mm, p.plate_mm, p.doubler_mm, p.doubler_over_mm})
        put(v);
    return key;
}

namespace {

constexpr double no_direction = 1e-9; // shorter has none

} // namespace

void refuse(const Relief& relief, Refusals& found) {
    for (const Pocket& p : relief.pockets)
        found.need(p.into.cross(p.along).norm() >= no_direction, "relief, pocket \"" + p.name + "\", along",
                   "it has no direction across `into`", "give the direction of the pocket's length");
    for (const CutTube& t : relief.tubes)
        found.need(t.wall_mm * 2 < t.diameter_mm, "relief, tube \"" + t.name + "\", wall_mm",
                   "it is half the tube or more", "check both figures");
}

} // namespace gabarit::model

namespace gabarit::relief {

model::SectionKind section() { return model::sectionKind<model::Relief, model::refuse>("relief", "", 85); }

} // namespace gabarit::relief
