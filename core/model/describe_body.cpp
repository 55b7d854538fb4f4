// The members of what takes room, what moves, and what points and forms they have.
#include "model/describe.h"
#include "model/tape.h"

#include <algorithm>

namespace gabarit::model {

using describe::Gone;
using describe::Member;
using describe::Owned;
using describe::Target;
using describe::Vector;
using describe::Visitor;
using describe::Words;

const Words& words(Standing) {
    static const Words all{{"found", "as found"},
                           {"added", "added for the swap"},
                           {"variant", "an alternative"},
                           {"removed", "taken out"}};
    return all;
}
const Words& words(Method) {
    static const Words all{"not_said", "measured", "scanned", "assumed"};
    return all;
}
const Words& words(Suspension) {
    static const Words all{"not_said",
                           {"ride_height", "at ride height"},
                           {"bump_stop", "on its bump stops"},
                           {"droop", "hanging"},
                           {"on_stands", "vehicle on stands"}};
    return all;
}
const Words& words(MassFrom) {
    static const Words all{
        {"not_said", "not said: as estimated"}, "weighed", {"catalogue", "from a catalogue"}, "estimated"};
    return all;
}
const Words& words(Axis) {
    static const Words all{{"x", "rearward (x)"}, {"y", "{to_right} (y)"}, {"z", "up (z)"}};
    return all;
}
const Words& words(MotionKind) {
    static const Words all{{"axle", "a solid axle"},
                           {"arm", "an arm that swings"},
                           {"steered", "steered about a pin"},
                           {"linkage", "slides with the steering"},
                           {"spin", "spins"}};
    return all;
}
const Words& words(End) {
    static const Words all{"not_said", "front", "rear"};
    return all;
}

void bodyRef(Visitor& v, Member member, BodyRef& ref) {
    const std::string was = ref.owner.empty() ? "" : ref.text();
    std::string text = was;
    if (member.target == Target::None) member.names(Target::BodyPath, Gone::Entry);
    v.text(member.must(), text);
    if (text == was && !v.fills()) return;
    const auto slash = text.find('/');
    if (slash == std::string::npos)
        v.refuse(member.key, "\"" + text + "\" does not say whose body it is",
                 "write vehicle/body-id or donor-id/body-id");
    ref = BodyRef{text.substr(0, slash), BodyId{slash == std::string::npos ? "" : text.substr(slash + 1)}};
}

void bodyRefs(Visitor& v, const Member& member, std::vector<BodyRef>& refs) {
    std::vector<std::string> was;
    for (const BodyRef& ref : refs) was.push_back(ref.text());
    std::vector<std::string> now = was;
    v.texts(member, now);
    if (now == was && !v.fills()) return;
    refs.clear();
    for (const std::string& text : now) {
        const auto slash = text.find('/');
        if (slash == std::string::npos)
            return v.refuse(member.key, "\"" + text + "\" names no body",
                            "write owner/body: \"vehicle/…\" or a donor's id");
        refs.push_back({text.substr(0, slash), {text.substr(slash + 1)}});
    }
}

namespace {

template <class I>
void ids(Visitor& v, const Member& member, std::vector<I>& all) {
    std::vector<std::string> was;
    for (const I& id : all) was.push_back(id.text);
    std::vector<std::string> now = was;
    v.texts(member, now);
    if (now == was) return;
    all.clear();
    for (std::string& id : now) all.push_back(I{std::move(id)});
}

Member option(const Visitor& v) {
    Member out("option", "`choice-id/option-id` of its owner's choices: there only while that option is taken");
    out.names(Target::Option, Gone::Stays, v.owner()).said("Comes with").behind();
    return v.owner().empty() ? out : out.mustBeThere();
}

void massFrom(Visitor& v, const std::optional<double>& mass_kg, MassFrom& from) {
    v.choice(Member("mass_from", "how the mass is known (not said: as estimated); its ± goes by it")
                 .leftOut(0)
                 .said(mass_kg ? "How known" : ""),
             from);
}

void measured(Visitor& v, Provenance& how) { v.object(Member("measured", "how it came to be known"), how); }

} // namespace

Member whoseMember() {
    return Member("donor", "id of the donor whose it is; left out: of whichever hangs, while there is one donor")
        .names(Target::Donor)
        .mustBeThere()
        .said("Belongs to")
        .behind()
        .none("not said");
}
Member accuracyMember(const char* means) { return Member("accuracy_mm", means).accuracy(); }

void bodyIds(Visitor& v, const Member& member, std::vector<BodyId>& all) { ids(v, member, all); }

void describe(Visitor& v, Angles& angles) {
    v.type("angles");
    v.number(Member("yaw_deg", "about Z first, tail to the right above zero")
                 .angle()
                 .toOneSide()
                 .tip("Swing, about its upright axis; below zero the other way")
                 .said("Tail swung {to_right}"),
             angles.yaw_deg);
    v.number(Member("pitch_deg", "then about the turned Y, tail down above zero")
                 .angle()
                 .tip("Tilt, about its crosswise axis once swung; below zero: up")
                 .said("Tail down by"),
             angles.pitch_deg);
    v.number(Member("roll_deg", "then about the turned X, top to the left above zero")
                 .angle()
                 .toOneSide()
                 .tip("Lean, about its lengthways axis once swung and tilted; below zero the other way")
                 .said("Top leans {to_left}"),
             angles.roll_deg);
}

void describe(Visitor& v, Provenance& how) {
    v.type("provenance");
    v.choice(Member("method").leftOut(0).said("It was"), how.method);
    v.choice(Member("suspension", "how it stood while it was measured").leftOut(0).said("Suspension"), how.suspension);
    v.text(Member("blocks", "what stood under it").said("Blocks under it"), how.blocks);
    v.text(Member("date", "as `2026-05-17`").said("On"), how.date);
    v.text(Member("who").said("By"), how.who);
    v.text(Member("picture", "a file in `name.files/` beside the project, named from there")
               .said("Picture")
               .tip("A file in the project's folder of files, beside it"),
           how.picture);
    v.text(Member("picture_sha256", "of its content when it was taken in, hexadecimal"), how.picture_sha256);
}

void describe(Visitor& v, RectTubeSection& s) {
    v.number(Member("width_mm").solid().must().said("Width"), s.width_mm);
    v.number(Member("height_mm").solid().must().said("Height"), s.height_mm);
    v.number(Member("wall_mm").solid().must().said("Wall"), s.wall_mm);
}
void describe(Visitor& v, CSection& s) {
    v.number(Member("width_mm").solid().must().said("Width"), s.width_mm);
    v.number(Member("height_mm").solid().must().said("Height"), s.height_mm);
    v.number(Member("wall_mm", "a C is open towards +u").solid().must().said("Wall"), s.wall_mm);
}
void describe(Visitor& v, PolygonSection& s) {
    v.points(Member("points_mm")
                 .is(Vector::Place)
                 .must()
                 .atLeast(3)
                 .said("Corners of its section (across, up)")
                 .columns("across", "up"),
             s.points_mm);
}
void describe(Visitor& v, RoundTubeSection& s) {
    v.number(Member("diameter_mm").solid().must().said("Outside diameter"), s.diameter_mm);
    v.number(Member("wall_mm").solid().must().said("Wall"), s.wall_mm);
}
void describe(Visitor& v, Section& section) {
    static const Words kinds{"rect_tube", "c", "polygon", "round_tube"};
    v.type("section");
    v.forms(Member("kind").must(), kinds, section);
}

void describe(Visitor& v, BoxSpec& s) {
    v.point(Member("size_mm", "centred").is(Vector::Size).must().eachSaid("Length (x)", "Width (y)", "Height (z)"),
            s.size_mm);
}
void describe(Visitor& v, CylinderSpec& s) {
    v.point(Member("from_mm").is(Vector::Place).must(), s.from_mm);
    v.point(Member("to_mm", "flat ends").is(Vector::Place).must(), s.to_mm);
    v.number(Member("diameter_mm").solid().must().said("Diameter"), s.diameter_mm);
}
void describe(Visitor& v, SphereSpec& s) {
    v.number(Member("diameter_mm", "centred").solid().must().said("Diameter"), s.diameter_mm);
}
void describe(Visitor& v, TubeSpec& s) {
    v.points(Member("path_mm").is(Vector::Place).must().atLeast(2).said("Corners of its path").order(1), s.path_mm);
    v.number(Member("diameter_mm", "outside").solid().must().said("Outside diameter"), s.diameter_mm);
    v.number(Member("bend_radius_mm", "of the centreline").length().said("Bend radius"), s.bend_radius_mm);
}
void describe(Visitor& v, ProfileSpec& s) {
    v.object(Member("section").must().withOthers().order(-1), s.section);
    v.point(Member("from_mm").is(Vector::Place).must(), s.from_mm);
    v.point(Member("to_mm").is(Vector::Place).must(), s.to_mm);
    v.number(Member("roll_deg", "v points up (towards +X for a vertical profile), u = v × direction")
                 .angle()
                 .said("Turned about its length"),
             s.roll_deg);
}
void describe(Visitor& v, PlateSpec& s) {
    v.points(Member("outline_mm", "in x-y").is(Vector::Place).must().atLeast(3).said("Corners of its outline").order(1),
             s.outline_mm);
    v.number(Member("thickness_mm", "upwards").solid().must().said("Thickness"), s.thickness_mm);
}
void describe(Visitor& v, SheetStation& station) {
    v.type("sheet_station");
    v.number(Member("at_mm").offset().must(), station.at_mm);
    v.points(Member("points_mm", "an open line in the two other axes (y-z, x-z, x-y)").is(Vector::Place).must(),
             station.points_mm);
}
void describe(Visitor& v, SheetSpec& s) {
    v.choice(Member("along").must().said("Stations along"), s.along);
    v.number(
        Member("thickness_mm", "the metal lies to the left of the line's direction").solid().must().said("Thickness"),
        s.thickness_mm);
    v.list(Member("stations", "all with the same number of points").each("station"), s.stations);
}
void describe(Visitor& v, ShapeSpec& shape) {
    static const Words kinds{"box", "cylinder", "sphere", "tube", "profile", "plate", "sheet"};
    v.type("shape");
    v.forms(Member("kind").must(), kinds, shape);
}

void describe(Visitor& v, Tape& tape) {
    static const Words ways = [] {
        Words all;
        for (const TapeWay& way : tapeWays()) all.push_back(way.id);
        return all;
    }();
    v.type("tape");
    v.text(Member("way", "see below").oneOf(ways), tape.way);
    v.text(Member("hook", "id of the owner's point that places are read from; left out: its axes and datum")
               .names(Target::Point, Gone::Stays, v.owner()),
           tape.hook.text);
    v.text(Member("of", "of a `mirror`: the body on the other side").names(Target::Body, Gone::Stays, v.owner()),
           tape.of.text);
    v.text(Member("entry", "which thing of the first survey it answers"), tape.entry);
    v.list(Member("readings").each("reading"), tape.readings, [&tape](Visitor& inner, Reading& reading) {
        inner.type("reading");
        inner.text(Member("what", "which one, as its way asks").notEmpty().must(), reading.what);
        inner.number(Member("station", "from 1; left out: of the whole").within(0, 1000).wholeNumber(),
                     reading.station);
        Member mm("mm", "a place along the owner's axis from the hook, or a size");
        if (!inner.fills() && tape.hook.empty())
            if (const TapeSlot* slot = tapeSlot(tape, reading); slot && slot->axis == 2) mm.heightIn(inner.owner());
        inner.number(mm.offset().must(), reading.mm);
        inner.number(accuracyMember(), reading.accuracy_mm);
        measured(inner, reading.measured);
        inner.text(Member("note").note(), reading.note);
        inner.extras(reading.extras);
    });
    v.extras(tape.extras);
}

namespace {

void may(Visitor& v, May& allowed) {
    static const Words all{"cut", "move", "remove", "never"};
    static bool May::*const flags[] = {&May::be_cut, &May::be_moved, &May::be_removed, &May::never};
    std::vector<std::string> was;
    for (std::size_t i = 0; i < all.size(); ++i)
        if (allowed.*flags[i]) was.emplace_back(all[i].file);
    std::vector<std::string> now = was;
    v.texts(
        Member("may", "any of `cut`, `move`, `remove`; or `never` alone; left out: not decided").oneOf(all).atMost(4),
        now);
    if (now == was && !v.fills()) return;
    allowed = May{};
    for (const std::string& word : now) {
        bool found = false;
        for (std::size_t i = 0; i < all.size(); ++i)
            if (word == all[i].file) allowed.*flags[i] = found = true;
        if (!found) v.refuse("may", "\"" + word + "\" is not one of those allowed", "use cut, move, remove or never");
    }
}

} // namespace

void describe(Visitor& v, Body& body) {
    v.type("body");
    v.text(Member("id", "unique within its owner, no slash").id(), body.id.text);
    v.text(Member("name", "as shown").notEmpty().must(), body.name);
    v.text(Member("category", "decides the rules").fromBook("categories").must().said("Kind of part"), body.category);
    v.choice(Member("standing", "added and variant bodies are checked against all others, removed ones not at all")
                 .leftOut(0)
                 .heading("What may be done with it")
                 .said("It stands")
                 .order(200),
             body.standing);
    may(v, body.may);
    v.number(accuracyMember("± of its surfaces; left out: not known").said("Measured to ±").order(102),
             body.accuracy_mm);
    measured(v, body.measured);
    v.number(
        Member("mass_kg", "used when it is moved, taken out, added or of an option").mass().said("Mass").order(102),
        body.mass_kg);
    massFrom(v, body.mass_kg, body.mass_from);
    v.flag(Member("shielded", "heat rows use their shielded figure").said("has a heat shield").order(202),
           body.shielded);
    v.flag(Member("closing", "a panel that closes the bay (bonnet, front panel): while it is `off` no gap is believed; "
                             "for a tool it counts as open")
               .said("a panel that closes the bay")
               .order(202),
           body.closing);
    v.flag(Member("off", "taken off for the moment: it fouls nothing and is not drawn")
               .said("off for the moment")
               .order(202),
           body.off);
    v.text(option(v).order(200), body.option);
    v.object(Member("shape").must(), body.shape);
    const bool bound = body.tape.bound(); // then its readings tell where it is
    v.point(Member("position_mm", "of the shape in its owner's frame")
                .place(v.owner())
                .heading(bound                        ? ""
                         : v.owner() == vehicle_owner ? "Where it is, from axle, centreline, datum"
                                                      : "Where it is, from block face and crank")
                .eachSaid(bound ? "" : "Rearward (x)", "{to_right} (y)", "Up (z)")
                .order(100),
            body.position_mm);
    v.object(Member("angles", "of the shape in its owner's frame").withOthers(!bound).order(101), body.angles);
    v.point(Member("shift_mm", "how far it was moved from where it was found, owner's frame")
                .is(Vector::Shift)
                .eachSaid(body.moved() ? "Moved rearward" : "", "Moved {to_right}", "Moved up")
                .order(102),
            body.shift_mm);
    v.object(Member("tape", "the readings it is made from: shape, place and accuracy follow them"), body.tape);
    v.text(Member("note").note().said("Note").order(202), body.note);
    v.extras(body.extras);
}

void describe(Visitor& v, HardPoint& point) {
    v.type("point");
    v.text(Member("id").id(), point.id.text);
    v.text(Member("name").must().said("Name"), point.name);
    v.text(Member("role", "an open list: `tape_hook`, `front_mount`, `gearbox_mount`, `output_flange`, "
                          "`pinion_flange`, `engine_seat`, `sling`, `shift_lever`, `shift_lever_opening`…: disciplines "
                          "find their points by it")
               .said("It is"),
           point.role);
    v.point(Member("at_mm").place(v.owner()).must().eachSaid("Rearward (x)", "{to_right} (y)", "Up (z)"), point.at_mm);
    v.point(Member("size_mm", "of an opening: its extent along x, y, z")
                .is(Vector::Extent)
                .eachSaid("Opening, length", "Opening, width", "Opening, height")
                .order(1),
            point.size_mm);
    v.number(accuracyMember().said("Measured to ±"), point.accuracy_mm);
    measured(v, point.measured);
    v.text(option(v).order(1), point.option);
    v.object(Member("tape", "the readings it is made from"), point.tape);
    v.extras(point.extras);
}

void describe(Visitor& v, ServicedBolt& bolt) {
    v.type("serviced");
    v.text(Member("id").id(), bolt.id);
    v.text(Member("name").must().said("Name").order(-1), bolt.name);
    v.point(
        Member("at_mm", "the head's face").place(v.owner()).must().eachSaid("Rearward (x)", "{to_right} (y)", "Up (z)"),
        bolt.at_mm);
    v.point(Member("along", "out of the head").direction().must().said("Tool comes off"), bolt.along);
    v.number(Member("socket_mm", "the socket's outside diameter").solid().said("Socket's outside diameter").order(-1),
             bolt.socket_mm);
    v.number(accuracyMember().said("Measured to ±"), bolt.accuracy_mm);
    v.text(Member("in", "the body it sits in, which cannot block it")
               .names(Target::Body, Gone::Empty, v.owner())
               .mustBeThere()
               .said("It sits in")
               .none("none in particular")
               .order(1),
           bolt.in.text);
    v.number(
        Member("pull_mm", "how far that body has to come the same way until it is off: filter, dipstick, starter, "
                          "a belt off its pulley")
            .solid()
            .said("Comes off after")
            .tip("How far what it sits in has to come the tool's way until it is off: filter, dipstick, starter, a "
                 "belt off its pulley. Empty: it stays"),
        bolt.pull_mm);
    v.number(Member("length_mm", "what must be free before it, where that is not a usual tool's length: a long socket, "
                                 "a dipstick's blade")
                 .solid()
                 .said("Free before it")
                 .tip("Of a long socket, or of a dipstick's blade. Empty: a usual tool's length"),
             bolt.length_mm);
    v.extras(bolt.extras);
}

void describe(Visitor& v, Choice& choice) {
    v.type("choice");
    v.text(Member("id").id(), choice.id);
    v.text(Member("name").must(), choice.name);
    v.list(Member("options", "the first is the one it came with").each("option").atLeast(1), choice.options,
           [](Visitor& inner, Option& one) {
               inner.type("option");
               inner.text(Member("id").id(), one.id);
               inner.text(Member("name").must(), one.name);
               inner.text(Member("note").note(), one.note);
               inner.extras(one.extras);
           });
    v.extras(choice.extras);
}

void describe(Visitor& v, MotionSpec& motion) {
    constexpr double steepest_deg = 60;
    using Kind = MotionKind;
    const auto when = [&motion](std::initializer_list<Kind> kinds, const char* label) {
        return std::find(kinds.begin(), kinds.end(), motion.kind) == kinds.end() ? "" : label;
    };
    const bool suspended = motion.kind == Kind::Axle || motion.kind == Kind::Arm;
    const bool travels = suspended && (motion.kind == Kind::Axle || motion.with.empty());
    const bool steered = motion.kind == Kind::Steered;
    const auto point = [&v](const char* key, const char* means) {
        return Member(key, means).names(Target::Point, Gone::Stays, v.owner()).mustBeThere();
    };
    v.type("motion");
    v.text(Member("id").id(), motion.id);
    v.text(Member("name").notEmpty().must().said("Name"), motion.name);
    v.choice(Member("kind",
                    "`axle`: a rigid axle rises by `bump_mm`, hangs by `droop_mm` (of its centre `at`), rolls by "
                    "`roll_deg` to each side; `arm`: swings about the line through `axis_a` and `axis_b`, its tip `at` "
                    "rises and hangs by so much; `steered`: turns about `axis_a`, `axis_b`; `linkage`: slides with the "
                    "steering; `spin`: turns all round and takes the room of its swept cylinder")
                 .must()
                 .said("It is"),
             motion.kind);
    v.choice(Member("end", "which springs it stands on").leftOut(0).said(suspended ? "Springs" : ""), motion.end);
    v.number(Member("bump_mm")
                 .length()
                 .said(travels ? "Up to the bump stop" : "")
                 .tip("From ride height, of the axle's middle or the arm's ball joint"),
             motion.bump_mm);
    v.number(Member("droop_mm").length().said(travels ? "Down to droop" : ""), motion.droop_mm);
    v.number(Member("roll_deg").within(0, steepest_deg).said(when({Kind::Axle}, "Rolls to each side")),
             motion.roll_deg);
    v.number(Member("stops_apart_mm", "of an axle: sideways between its bump stops; then roll takes from the travel. "
                                      "Left out: both go to their ends")
                 .solid()
                 .said(when({Kind::Axle}, "Bump stops apart"))
                 .tip("Then roll takes from the travel. Left empty, both go to their ends at once"),
             motion.stops_apart_mm);
    v.text(point("at", "axle: its centre; arm: its tip")
               .said(motion.kind == Kind::Axle ? "Its middle" : when({Kind::Arm}, "Its ball joint"))
               .order(motion.kind == Kind::Arm ? 1 : 0),
           motion.at.text);
    v.text(point("axis_a", "of `spin` may be left out for a cylinder: its own axis")
               .said(motion.kind == Kind::Arm    ? "Swings about"
                     : motion.kind == Kind::Spin ? "Turns about"
                                                 : when({Kind::Steered}, "Pin from"))
               .order(steered ? 1 : 0),
           motion.axis_a.text);
    v.text(point("axis_b", "").said(steered ? "to" : when({Kind::Arm, Kind::Spin}, "and")).order(steered ? 1 : 0),
           motion.axis_b.text);
    v.list(Member("links", "of an axle: what leads it in the side view. None: straight up. One: on its arc, upright. "
                           "Two: the pinion tips with the travel")
               .each("link")
               .atMost(2),
           motion.links, [&point](Visitor& inner, MotionLink& link) {
               inner.type("link");
               inner.text(point("fixed", "point on the frame; of a leaf spring its fixed eye").must(), link.fixed.text);
               inner.text(point("moving", "point on the axle; of a leaf spring its seat").must(), link.moving.text);
               inner.flag(Member("leaf", "a leaf spring: moves on three quarters of that length, after SAE HS-788"),
                          link.leaf);
               inner.extras(link.extras);
           });
    v.number(Member("left_deg", "steered: at full left lock")
                 .within(0, steepest_deg)
                 .said(steered ? "At full left lock" : ""),
             motion.left_deg);
    v.number(Member("right_deg", "steered: at full right lock")
                 .within(0, steepest_deg)
                 .said(steered ? "At full right lock" : ""),
             motion.right_deg);
    v.point(Member("slide_mm", "linkage: from straight ahead to full right lock; to the left as far the other way. All "
                               "that steers does so together")
                .is(Vector::Shift)
                .eachSaid(when({Kind::Linkage}, "At right lock: rearward"), "… {to_right}", "… up"),
            motion.slide_mm);
    v.text(Member("with", "arm: another arm whose travel it shares (the upper arm of a side)")
               .said(when({Kind::Arm}, "Goes with"))
               .order(1),
           motion.with);
    v.text(Member("on", "steered, linkage: the axle or arm that carries it")
               .said(when({Kind::Steered, Kind::Linkage}, "Sits on"))
               .order(1),
           motion.on);
    bodyIds(v, Member("bodies", "what moves").names(Target::Body, Gone::Empty, v.owner()).mustBeThere(), motion.bodies);
    bodyIds(v,
            Member("carried", "arm: what rides on its tip and keeps its attitude")
                .names(Target::Body, Gone::Empty, v.owner())
                .mustBeThere(),
            motion.carried);
    measured(v, motion.measured);
    v.text(Member("note").note().said("Note").order(101), motion.note);
    v.extras(motion.extras);
}

void describe(Visitor& v, Springs& springs) {
    constexpr double stiffest_n_per_mm = 1e5;
    static const char* const both =
        "Both springs of the axle together, at the wheels: add a known weight over the axle "
        "and read how far it goes down";
    v.type("springs");
    v.number(Member("front_n_per_mm", "both springs of the axle together, at the wheels")
                 .over(0, stiffest_n_per_mm)
                 .said("Front springs")
                 .tip(both),
             springs.front_n_per_mm);
    v.number(Member("rear_n_per_mm").over(0, stiffest_n_per_mm).said("Rear springs").tip(both), springs.rear_n_per_mm);
    v.text(Member("source").said("Springs known by"), springs.source);
    v.extras(springs.extras);
}

void describe(Visitor& v, Stance& stance) {
    v.type("stance");
    v.text(Member("id").id(), stance.id);
    v.text(Member("name").must().said("Name"), stance.name);
    v.number(Member("front_mm", "into the springs from ride height").offset().said("Front springs in by"),
             stance.front_mm);
    v.number(Member("rear_mm").offset().said("Rear springs in by"), stance.rear_mm);
    v.text(Member("blocks", "what holds it there").said("Held by"), stance.blocks);
    v.extras(stance.extras);
}

void describe(Visitor& v, Mass& mass) {
    v.type("mass");
    v.text(Member("name").must().said("Name"), mass.name);
    v.number(Member("mass_kg", "left out: not known").mass().said("Mass"), mass.mass_kg);
    massFrom(v, mass.mass_kg, mass.from);
    v.point(Member("at_mm", "in its owner's frame")
                .place(v.owner())
                .must()
                .eachSaid("Rearward (x)", "{to_right} (y)", "Up (z)"),
            mass.at_mm);
    v.text(option(v), mass.option);
    v.flag(Member("off", "not counted for the moment"), mass.off);
    v.extras(mass.extras);
}

} // namespace gabarit::model
