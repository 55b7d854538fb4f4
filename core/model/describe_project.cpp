// The members of a project: vehicle, donors, placements, what is joined and measured, rules.
#include "model/describe.h"

namespace gabarit::model {

using describe::Gone;
using describe::Member;
using describe::Owned;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(Orientation) {
    static const Words all{"lengthways",
                           {"turned", "turned round"},
                           {"transverse_left", "across, rear {to_left}"},
                           {"transverse_right", "across, rear {to_right}"}};
    return all;
}
const Words& words(Pivot) {
    static const Words all{"front_mounts", "gearbox_mount", "block_face", "centre_of_gravity"};
    return all;
}
const Words& words(DriveSide) {
    static const Words all{{"left", "on the left"}, {"right", "on the right"}};
    return all;
}
const Words& words(AreaState) {
    static const Words all{"open", {"done", "surveyed"}, {"not_here", "not on this vehicle"}};
    return all;
}
const Words& words(OutgoingMark) {
    static const Words all{"crank",
                           "output_flange",
                           "gearbox_mount",
                           {"front_mounts", "middle of the front mounts"},
                           {"gearbox_top", "gearbox's top"},
                           {"engine_top", "engine's top"},
                           {"engine_front", "engine's front"},
                           {"sump_bottom", "sump's bottom"},
                           "shift_lever"};
    return all;
}
const Words& words(ConditionKind) {
    static const Words all{
        "crack", "rust", {"thread", "damaged thread"}, {"weld", "bad weld"}, "bent", {"other", "to be seen to"}};
    return all;
}
void describe(Visitor& v, Datum& datum) {
    static const Words kinds{
        {"ground", "the ground"}, {"frame_rail_top", "the frame rail's top"}, {"other", "something else"}};
    v.type("datum");
    v.text(Member("kind").oneOf(kinds).must().said("Heights from"), datum.kind);
    v.text(Member("name").said("Datum is"), datum.name);
    v.extras(datum.extras);
}

void describe(Visitor& v, AreaMark& area) {
    v.type("area");
    v.text(Member("id", "the rule book's, or one's own with a name").id(), area.id);
    v.text(Member("name"), area.name);
    v.choice(Member("state").must().said("It is"), area.state);
    v.text(Member("date").said("On").order(2), area.date);
    v.text(Member("who").said("By").order(1), area.who);
    v.text(Member("note").note().said("Note").order(2), area.note);
    v.extras(area.extras);
}

void describe(Visitor& v, OutgoingDimension& dimension) {
    v.type("outgoing");
    v.text(Member("id").id(), dimension.id);
    v.text(Member("name").must().said("Name"), dimension.name);
    v.choice(Member("of").must().said("Of the old one's"), dimension.of);
    v.choice(Member("along").must().said("Read"), dimension.along);
    v.text(Member("from", "id of a hard point; left out: axle, centreline, datum")
               .names(Target::Point, Gone::Stays, vehicle_owner)
               .mustBeThere()
               .said("From")
               .none("axle, centreline, datum"),
           dimension.from.text);
    Member mm("mm", "along the vehicle's axis, from there");
    if (dimension.along == Axis::Z && dimension.from.empty()) mm.heightIn(vehicle_owner);
    v.number(mm.offset().must().said("Old one"), dimension.mm);
    v.number(accuracyMember().said("Read to ±"), dimension.accuracy_mm);
    v.object(Member("measured"), dimension.measured);
    v.text(Member("note").note().said("Note"), dimension.note);
    v.extras(dimension.extras);
}

void describe(Visitor& v, FreeVolume& volume) {
    v.type("free_volume");
    v.text(Member("id").id(), volume.id);
    v.text(Member("name").must().said("Name"), volume.name);
    v.point(Member("at_mm", "its middle")
                .place(vehicle_owner)
                .must()
                .eachSaid("Middle, rearward (x)", "Middle, {to_right} (y)", "Middle, up (z)"),
            volume.at_mm);
    v.point(
        Member("size_mm", "along the axes").is(Vector::Size).must().eachSaid("Length (x)", "Width (y)", "Height (z)"),
        volume.size_mm);
    v.number(accuracyMember().said("Measured to ±"), volume.accuracy_mm);
    v.object(Member("measured"), volume.measured);
    v.text(Member("note").note().said("Note"), volume.note);
    v.extras(volume.extras);
}

void describe(Visitor& v, Vehicle& vehicle) {
    v.type("vehicle");
    const Owned its(v, vehicle_owner);
    v.text(Member("name").must().said("Name").order(-1), vehicle.name);
    v.text(Member("note").note().said("Note").order(200), vehicle.note);
    v.object(Member("datum", "what heights are taken from").said("Heights"), vehicle.datum);
    v.choice(Member("drive_side").said("Driver sits"), vehicle.drive_side);
    v.number(Member("wheelbase_mm").solid().said("Wheelbase").order(-1), vehicle.wheelbase_mm);
    v.number(Member("front_track_mm", "between the middles of the tyres").solid(), vehicle.front_track_mm);
    v.number(Member("rear_track_mm").solid(), vehicle.rear_track_mm);
    v.list(Member("hard_points").each("point"), vehicle.hard_points);
    v.list(Member("choices", "what can be had in several forms").each("choice"), vehicle.choices);
    v.list(Member("serviced", "what must be reached with the unit in").each("serviced"), vehicle.serviced);
    v.list(Member("bodies").each("body").atMost(most_bodies), vehicle.bodies);
    v.list(Member("areas", "how far the survey has come").each("area"), vehicle.areas);
    v.list(Member("outgoing", "reference dimensions of the engine that comes out").each("outgoing"), vehicle.outgoing);
    v.list(Member("free_volumes", "room that is left over").each("free volume"), vehicle.free_volumes);
    v.list(Member("motions", "what moves").each("motion"), vehicle.motions);
    v.object(Member("springs", "with them and `weights` the sag under the new load is reckoned with").said("Springs"),
             vehicle.springs);
    v.list(Member("stances", "how it is made to stand").each("stance"), vehicle.stances);
    v.extras(vehicle.extras);
}

void describe(Visitor& v, Donor& donor) {
    v.type("donor");
    v.text(Member("id", "not `vehicle`").id(), donor.id.text);
    const Owned its(v, donor.id.text);
    v.text(Member("name").must(), donor.name);
    v.text(Member("note").note().said("Note").order(1), donor.note);
    v.choice(Member("orientation").said("It lies"), donor.orientation);
    v.list(Member("masses").each("mass"), donor.masses);
    v.list(Member("reference_points").each("point"), donor.reference_points);
    v.list(Member("choices", "what can be had in several forms").each("choice"), donor.choices);
    v.list(Member("serviced", "what must be reached with the unit in").each("serviced"), donor.serviced);
    v.list(Member("bodies").each("body").atMost(most_bodies), donor.bodies);
    v.list(Member("motions", "what spins").each("motion"), donor.motions);
    v.extras(donor.extras);
}

void describe(Visitor& v, Rocking& rocking) {
    constexpr double steepest_deg = 30;
    v.type("rocking");
    v.number(Member("roll_deg", "to each side, about the line from its front mounts to its gearbox mount")
                 .within(0, steepest_deg),
             rocking.roll_deg);
    v.number(Member("up_mm").length(), rocking.up_mm);
    v.number(Member("down_mm").length(), rocking.down_mm);
    v.number(Member("along_mm", "forward and rearward").length(), rocking.along_mm);
    v.number(Member("stop_mm", "no front mount goes farther up or down").length(), rocking.stop_mm);
    v.text(Member("source"), rocking.source);
    v.extras(rocking.extras);
}

void describe(Visitor& v, Placement& placement) {
    v.type("placement");
    v.text(Member("id").id(), placement.id.text);
    v.text(Member("name").must(), placement.name);
    v.text(Member("donor").names(Target::Donor, Gone::Entry).mustBeThere().must(), placement.donor.text);
    v.choice(Member("orientation", "the donor's own when left out"), placement.orientation);
    v.point(Member("position_mm", "of the donor's origin").place(vehicle_owner).must(), placement.position_mm);
    v.object(Member("angles", "positive pitch: tail down; positive roll: top to the left; positive yaw: tail to the "
                              "right"),
             placement.angles);
    v.choice(Member("pivot"), placement.pivot);
    v.list(Member("taken", "of a choice that is not named the first option").each("taken"), placement.taken,
           [](Visitor& inner, Taken& taken) {
               inner.type("taken");
               inner.text(Member("choice", "`vehicle/choice-id` or `donor-id/choice-id`")
                              .names(Target::ChoicePath, Gone::Stays)
                              .mustBeThere()
                              .must(),
                          taken.choice);
               inner.text(Member("option").names(Target::Option, Gone::Stays, taken.choice).mustBeThere().must(),
                          taken.option);
               inner.extras(taken.extras);
           });
    v.object(Member("rocking", "how far the unit moves on its mounts; left out: as `mounts` allow it"),
             placement.rocking);
    v.text(Member("note").note(), placement.note);
    v.extras(placement.extras);
}

void describe(Visitor& v, Joined& pair) {
    v.type("joined");
    bodyRef(v, Member("a", "`vehicle/body-id` or `donor-id/body-id`").mustBeThere().said("This"), pair.a);
    bodyRef(v, Member("b").mustBeThere().said("and this"), pair.b);
    v.text(Member("reason").notEmpty().must().said("touch because"), pair.reason);
    v.extras(pair.extras);
}

void describe(Visitor& v, MeasuredGap& gap) {
    v.type("measured_gap");
    bodyRef(v, Member("a", "`vehicle/body-id` or `donor-id/body-id`").mustBeThere(), gap.a);
    bodyRef(v, Member("b").mustBeThere(), gap.b);
    v.text(Member("placement", "where the donor hung").names(Target::Placement, Gone::Entry).mustBeThere(),
           gap.placement.text);
    v.number(Member("gap_mm").offset().must(), gap.gap_mm);
    v.number(accuracyMember(), gap.accuracy_mm);
    v.text(Member("date", "as `2026-05-17`"), gap.date);
    v.text(Member("who"), gap.who);
    v.text(Member("note").note(), gap.note);
    v.text(Member("mark", "how both bodies stood to one another when it was taken, set by the window: when it is "
                          "another one now, the gap is out of date"),
           gap.mark);
    v.extras(gap.extras);
}

void describe(Visitor& v, Condition& condition) {
    v.type("condition");
    v.text(Member("id").id(), condition.id);
    v.text(Member("name").must().said("Where"), condition.name);
    v.choice(Member("kind").must().said("It is"), condition.kind);
    v.text(Member("owner", "`vehicle` or a donor's id: its place is in that frame")
               .names(Target::Owner, Gone::Entry)
               .mustBeThere()
               .must(),
           condition.owner);
    v.point(Member("at_mm").place(condition.owner).must().eachSaid("Rearward (x)", "{to_right} (y)", "Up (z)").order(2),
            condition.at_mm);
    v.text(Member("body", "the owner's body it is on")
               .names(Target::Body, Gone::Empty, condition.owner)
               .mustBeThere()
               .said("On")
               .none("none in particular")
               .order(1),
           condition.body.text);
    v.flag(Member("mended", "it is an open point until then").said("mended"), condition.mended);
    v.object(Member("measured", "date, who, picture"), condition.measured);
    v.text(Member("note").note().said("Note").order(3), condition.note);
    v.extras(condition.extras);
}

void describe(Visitor& v, RuleRow& row) {
    v.type("rule_row");
    v.text(Member("id", "a known one replaces the shipped row").id(), row.id);
    v.text(Member("text"), row.text);
    v.texts(Member("between", "categories, `@group`, or `*`").atLeast(1), row.between);
    v.texts(Member("and").atLeast(1), row.and_);
    v.figures(Member("at_rest_mm", "a figure for each school").length(), row.at_rest_mm);
    v.figures(Member("shielded_mm", "the same where either is shielded").length(), row.shielded_mm);
    v.number(Member("look_mm", "how far this row's gap is measured").length(), row.look_mm);
    v.flag(Member("travel", "held through the travel, the engine at rest"), row.travel);
    v.flag(Member("keeps", "its figure holds at the worst moment too: heat"), row.keeps);
    v.flag(Member("rest_only", "it speaks of ride height alone: ground"), row.rest_only);
    v.text(Member("source"), row.source);
    v.extras(row.extras);
}

void describe(Visitor& v, Figure& figure) {
    v.type("figure");
    v.text(Member("id", "of a shipped one, with its unit").notEmpty().must(), figure.id);
    v.text(Member("text"), figure.text);
    v.number(Member("value", "in the unit that its id ends with").within(0, describe::longest_mm).must(), figure.value);
    v.text(Member("source"), figure.source);
    v.extras(figure.extras);
}

void describe(Visitor& v, RuleChoice& rules) {
    v.type("rules");
    v.text(Member("school").fromBook("schools"), rules.school);
    v.number(Member("interest_range_mm", "gaps beyond it read \"> 60\"").solid(), rules.interest_range_mm);
    v.list(Member("rows", "of one's own; where several fit, the largest limit counts").each("row"), rules.rows);
    v.list(Member("figures", "of one's own").each("figure"), rules.figures);
    v.extras(rules.extras);
}

void describe(Visitor& v, Project& project) {
    v.text(Member("name").must().said("Swap"), project.name);
    v.text(Member("note").note().said("About the swap"), project.note);
    v.object(Member("vehicle"), project.vehicle);
    v.list(Member("donors").each("donor"), project.donors);
    v.list(Member("placements").each("placement"), project.placements);
    v.text(Member("active_placement", "the one in use").names(Target::Placement).mustBeThere(),
           project.active_placement.text);
    v.list(Member("joined", "pairs meant to touch, not held against a rule").each("joined pair"), project.joined);
    v.list(Member("measured", "gaps taken on the real thing").each("measured gap"), project.measured);
    v.list(Member("conditions", "what was found and has to be seen to").each("condition"), project.conditions);
    v.object(Member("rules"), project.rules);
    for (const SectionKind& kind : sectionKinds()) kind.describe(v, kind, project.sections, v.looks());
    v.extras(project.extras);
}

} // namespace gabarit::model
