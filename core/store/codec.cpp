// The file's members, each described once for reading and writing. docs/format.md and data/schema/ say the same.
#include "store/json_io.h"

namespace gabarit::store {
namespace {

using namespace model;

template <class Io>
void describeAngles(Io& io, Angles& angles) {
    io.number("yaw_deg", angles.yaw_deg);
    io.number("pitch_deg", angles.pitch_deg);
    io.number("roll_deg", angles.roll_deg);
}

template <class Io>
void describeSection(Io& io, Section& section) {
    enum class Kind { RectTube, C, Polygon, RoundTube };
    Kind kind = static_cast<Kind>(section.index());
    io.choice(
        "kind", kind,
        {{"rect_tube", Kind::RectTube}, {"c", Kind::C}, {"polygon", Kind::Polygon}, {"round_tube", Kind::RoundTube}},
        true);
    if constexpr (Io::reading) {
        if (kind == Kind::RectTube)
            section = RectTubeSection{};
        else if (kind == Kind::C)
            section = CSection{};
        else if (kind == Kind::RoundTube)
            section = RoundTubeSection{};
        else
            section = PolygonSection{};
    }
    const auto walled = [&io](auto& s) {
        io.number("width_mm", s.width_mm, true);
        io.number("height_mm", s.height_mm, true);
        io.number("wall_mm", s.wall_mm, true);
    };
    if (auto* tube = std::get_if<RectTubeSection>(&section))
        walled(*tube);
    else if (auto* c = std::get_if<CSection>(&section))
        walled(*c);
    else if (auto* round = std::get_if<RoundTubeSection>(&section)) {
        io.number("diameter_mm", round->diameter_mm, true);
        io.number("wall_mm", round->wall_mm, true);
    } else
        io.points("points_mm", std::get<PolygonSection>(section).points_mm);
}

template <class Io>
void describe(Io& io, BoxSpec& s) {
    io.point("size_mm", s.size_mm, true);
}
template <class Io>
void describe(Io& io, CylinderSpec& s) {
    io.point("from_mm", s.from_mm, true);
    io.point("to_mm", s.to_mm, true);
    io.number("diameter_mm", s.diameter_mm, true);
}
template <class Io>
void describe(Io& io, SphereSpec& s) {
    io.number("diameter_mm", s.diameter_mm, true);
}
template <class Io>
void describe(Io& io, TubeSpec& s) {
    io.points("path_mm", s.path_mm);
    io.number("diameter_mm", s.diameter_mm, true);
    io.number("bend_radius_mm", s.bend_radius_mm);
}
template <class Io>
void describe(Io& io, ProfileSpec& s) {
    io.object(
        "section", s.section, [](Io& inner, Section& section) { describeSection(inner, section); }, true);
    io.point("from_mm", s.from_mm, true);
    io.point("to_mm", s.to_mm, true);
    io.number("roll_deg", s.roll_deg);
}
template <class Io>
void describe(Io& io, PlateSpec& s) {
    io.points("outline_mm", s.outline_mm);
    io.number("thickness_mm", s.thickness_mm, true);
}
template <class Io>
void describe(Io& io, SheetSpec& s) {
    io.choice("along", s.along, {{"x", Axis::X}, {"y", Axis::Y}, {"z", Axis::Z}}, true);
    io.number("thickness_mm", s.thickness_mm, true);
    io.list("stations", s.stations, [](Io& inner, SheetStation& station) {
        inner.number("at_mm", station.at_mm, true);
        inner.points("points_mm", station.points_mm);
    });
}

template <class Io>
void describeShape(Io& io, ShapeSpec& shape) {
    enum class Kind { Box, Cylinder, Sphere, Tube, Profile, Plate, Sheet };
    Kind kind = static_cast<Kind>(shape.index());
    io.choice("kind", kind,
              {{"box", Kind::Box},
               {"cylinder", Kind::Cylinder},
               {"sphere", Kind::Sphere},
               {"tube", Kind::Tube},
               {"profile", Kind::Profile},
               {"plate", Kind::Plate},
               {"sheet", Kind::Sheet}},
              true);
    if constexpr (Io::reading) {
        switch (kind) {
        case Kind::Box: shape = BoxSpec{}; break;
        case Kind::Cylinder: shape = CylinderSpec{}; break;
        case Kind::Sphere: shape = SphereSpec{}; break;
        case Kind::Tube: shape = TubeSpec{}; break;
        case Kind::Profile: shape = ProfileSpec{}; break;
        case Kind::Plate: shape = PlateSpec{}; break;
        case Kind::Sheet: shape = SheetSpec{}; break;
        }
    }
    std::visit([&io](auto& spec) { describe(io, spec); }, shape);
}

template <class Io>
void describeMay(Io& io, May& may) {
    std::vector<std::string> words;
    const std::pair<const char*, bool May::*> table[] = {
        {"cut", &May::be_cut}, {"move", &May::be_moved}, {"remove", &May::be_removed}, {"never", &May::never}};
    for (const auto& entry : table)
        if (may.*entry.second) words.emplace_back(entry.first);
    io.texts("may", words);
    if constexpr (Io::reading) {
        may = May{};
        for (const std::string& word : words) {
            bool found = false;
            for (const auto& entry : table)
                if (word == entry.first) may.*entry.second = found = true;
            if (!found)
                io.fail("may", "\"" + word + "\" is not one of those allowed", "use cut, move, remove or never");
        }
    }
}

} // namespace

template <class Io>
void describeProvenance(Io& io, Provenance& measured) {
    io.object("measured", measured, [](Io& inner, Provenance& m) {
        if (Io::reading || m.method != Method::NotSaid)
            inner.choice("method", m.method,
                         {{"not_said", Method::NotSaid},
                          {"measured", Method::Measured},
                          {"scanned", Method::Scanned},
                          {"assumed", Method::Assumed}});
        if (Io::reading || m.suspension != Suspension::NotSaid)
            inner.choice("suspension", m.suspension,
                         {{"not_said", Suspension::NotSaid},
                          {"ride_height", Suspension::RideHeight},
                          {"bump_stop", Suspension::BumpStop},
                          {"droop", Suspension::Droop},
                          {"on_stands", Suspension::OnStands}});
        inner.text("blocks", m.blocks);
        inner.text("date", m.date);
        inner.text("who", m.who);
        inner.text("picture", m.picture);
        inner.text("picture_sha256", m.picture_sha256);
    });
}

template void describeProvenance(ReadIo&, Provenance&);
template void describeProvenance(WriteIo&, Provenance&);

namespace {

template <class Io>
void describeTape(Io& io, Tape& tape) {
    io.object("tape", tape, [](Io& inner, Tape& t) {
        inner.text("way", t.way);
        inner.text("hook", t.hook.text);
        inner.text("of", t.of.text);
        inner.text("entry", t.entry);
        inner.list("readings", t.readings, [](Io& each, Reading& reading) {
            each.text("what", reading.what, true);
            double station = reading.station;
            each.number("station", station);
            if constexpr (Io::reading) {
                constexpr double most = 1000;
                if (!(station >= 0 && station <= most) || station != static_cast<int>(station))
                    each.fail("station", "it is not a whole number from 0", "number the stations from 1");
                else
                    reading.station = static_cast<int>(station);
            }
            each.number("mm", reading.mm, true);
            each.number("accuracy_mm", reading.accuracy_mm);
            describeProvenance(each, reading.measured);
            each.text("note", reading.note);
            each.extras(reading.extras);
        });
        inner.extras(t.extras);
    });
}

template <class Io>
void describeMassFrom(Io& io, MassFrom& from) {
    if (Io::reading || from != MassFrom::NotSaid)
        io.choice("mass_from", from,
                  {{"not_said", MassFrom::NotSaid},
                   {"weighed", MassFrom::Weighed},
                   {"catalogue", MassFrom::Catalogue},
                   {"estimated", MassFrom::Estimated}});
}

template <class Io>
void describeBody(Io& io, Body& body) {
    io.text("id", body.id.text, true);
    io.text("name", body.name, true);
    io.text("category", body.category, true);
    if (!io.reading ? body.standing != Standing::Found : true)
        io.choice("standing", body.standing,
                  {{"found", Standing::Found},
                   {"added", Standing::Added},
                   {"variant", Standing::Variant},
                   {"removed", Standing::Removed}});
    describeMay(io, body.may);
    io.number("accuracy_mm", body.accuracy_mm);
    describeProvenance(io, body.measured);
    io.number("mass_kg", body.mass_kg);
    describeMassFrom(io, body.mass_from);
    io.flag("shielded", body.shielded);
    io.flag("closing", body.closing);
    io.flag("off", body.off);
    io.text("option", body.option);
    io.object(
        "shape", body.shape, [](Io& inner, ShapeSpec& shape) { describeShape(inner, shape); }, true);
    io.point("position_mm", body.position_mm);
    io.object("angles", body.angles, [](Io& inner, Angles& angles) { describeAngles(inner, angles); });
    io.point("shift_mm", body.shift_mm);
    describeTape(io, body.tape);
    io.text("note", body.note);
    io.extras(body.extras);
}

template <class Io>
void describePoint(Io& io, HardPoint& point) {
    io.text("id", point.id.text, true);
    io.text("name", point.name, true);
    io.text("role", point.role);
    io.point("at_mm", point.at_mm, true);
    io.point("size_mm", point.size_mm);
    io.number("accuracy_mm", point.accuracy_mm);
    describeProvenance(io, point.measured);
    io.text("option", point.option);
    describeTape(io, point.tape);
    io.extras(point.extras);
}

template <class Io>
void describeServiced(Io& io, ServicedBolt& bolt) {
    io.text("id", bolt.id, true);
    io.text("name", bolt.name, true);
    io.point("at_mm", bolt.at_mm, true);
    io.point("along", bolt.along, true);
    io.number("socket_mm", bolt.socket_mm);
    io.number("accuracy_mm", bolt.accuracy_mm);
    io.text("in", bolt.in.text);
    io.number("pull_mm", bolt.pull_mm);
    io.number("length_mm", bolt.length_mm);
    io.extras(bolt.extras);
}

template <class Io>
void describeChoice(Io& io, Choice& choice) {
    io.text("id", choice.id, true);
    io.text("name", choice.name, true);
    io.list("options", choice.options, [](Io& inner, Option& option) {
        inner.text("id", option.id, true);
        inner.text("name", option.name, true);
        inner.text("note", option.note);
        inner.extras(option.extras);
    });
    io.extras(choice.extras);
}

template <class Io>
void describeFigure(Io& io, Figure& figure) {
    io.text("id", figure.id, true);
    io.text("text", figure.text);
    io.number("value", figure.value, true);
    io.text("source", figure.source);
    io.extras(figure.extras);
}

template <class Io>
void describeMass(Io& io, Mass& mass) {
    io.text("name", mass.name, true);
    io.number("mass_kg", mass.mass_kg);
    describeMassFrom(io, mass.from);
    io.point("at_mm", mass.at_mm, true);
    io.text("option", mass.option);
    io.flag("off", mass.off);
    io.extras(mass.extras);
}

const Words<Orientation>& orientations() {
    static const Words<Orientation> words{{"lengthways", Orientation::Lengthways},
                                          {"turned", Orientation::Turned},
                                          {"transverse_left", Orientation::TransverseLeft},
                                          {"transverse_right", Orientation::TransverseRight}};
    return words;
}

template <class Io>
void describeOutgoing(Io& io, OutgoingDimension& dimension) {
    io.text("id", dimension.id, true);
    io.text("name", dimension.name, true);
    io.choice("of", dimension.of,
              {{"crank", OutgoingMark::Crank},
               {"output_flange", OutgoingMark::OutputFlange},
               {"gearbox_mount", OutgoingMark::GearboxMount},
               {"front_mounts", OutgoingMark::FrontMounts},
               {"gearbox_top", OutgoingMark::GearboxTop},
               {"engine_top", OutgoingMark::EngineTop},
               {"engine_front", OutgoingMark::EngineFront},
               {"sump_bottom", OutgoingMark::SumpBottom},
               {"shift_lever", OutgoingMark::ShiftLever}},
              true);
    io.choice("along", dimension.along, {{"x", Axis::X}, {"y", Axis::Y}, {"z", Axis::Z}}, true);
    io.text("from", dimension.from.text);
    io.number("mm", dimension.mm, true);
    io.number("accuracy_mm", dimension.accuracy_mm);
    describeProvenance(io, dimension.measured);
    io.text("note", dimension.note);
    io.extras(dimension.extras);
}

template <class Io>
void describeFreeVolume(Io& io, FreeVolume& volume) {
    io.text("id", volume.id, true);
    io.text("name", volume.name, true);
    io.point("at_mm", volume.at_mm, true);
    io.point("size_mm", volume.size_mm, true);
    io.number("accuracy_mm", volume.accuracy_mm);
    describeProvenance(io, volume.measured);
    io.text("note", volume.note);
    io.extras(volume.extras);
}

template <class Io>
void describeArea(Io& io, AreaMark& area) {
    io.text("id", area.id, true);
    io.text("name", area.name);
    io.choice("state", area.state,
              {{"open", AreaState::Open}, {"done", AreaState::Done}, {"not_here", AreaState::NotHere}}, true);
    io.text("date", area.date);
    io.text("who", area.who);
    io.text("note", area.note);
    io.extras(area.extras);
}

template <class Io>
void describeCondition(Io& io, Condition& condition) {
    io.text("id", condition.id, true);
    io.text("name", condition.name, true);
    io.choice("kind", condition.kind,
              {{"crack", ConditionKind::Crack},
               {"rust", ConditionKind::Rust},
               {"thread", ConditionKind::Thread},
               {"weld", ConditionKind::Weld},
               {"bent", ConditionKind::Bent},
               {"other", ConditionKind::Other}},
              true);
    io.text("owner", condition.owner, true);
    io.point("at_mm", condition.at_mm, true);
    io.text("body", condition.body.text);
    io.flag("mended", condition.mended);
    describeProvenance(io, condition.measured);
    io.text("note", condition.note);
    io.extras(condition.extras);
}

template <class Io>
void describeIds(Io& io, const char* key, std::vector<BodyId>& ids) {
    std::vector<std::string> texts;
    for (const BodyId& id : ids) texts.push_back(id.text);
    io.texts(key, texts);
    if constexpr (Io::reading) {
        ids.clear();
        for (std::string& id : texts) ids.push_back(BodyId{std::move(id)});
    }
}

template <class Io>
void describeMotion(Io& io, MotionSpec& motion) {
    io.text("id", motion.id, true);
    io.text("name", motion.name, true);
    io.choice("kind", motion.kind,
              {{"axle", MotionKind::Axle},
               {"arm", MotionKind::Arm},
               {"steered", MotionKind::Steered},
               {"linkage", MotionKind::Linkage},
               {"spin", MotionKind::Spin}},
              true);
    if (Io::reading || motion.end != End::NotSaid)
        io.choice("end", motion.end, {{"not_said", End::NotSaid}, {"front", End::Front}, {"rear", End::Rear}});
    io.number("bump_mm", motion.bump_mm);
    io.number("droop_mm", motion.droop_mm);
    io.number("roll_deg", motion.roll_deg);
    io.number("stops_apart_mm", motion.stops_apart_mm);
    io.text("at", motion.at.text);
    io.text("axis_a", motion.axis_a.text);
    io.text("axis_b", motion.axis_b.text);
    io.list("links", motion.links, [](Io& inner, MotionLink& link) {
        inner.text("fixed", link.fixed.text, true);
        inner.text("moving", link.moving.text, true);
        inner.flag("leaf", link.leaf);
        inner.extras(link.extras);
    });
    io.number("left_deg", motion.left_deg);
    io.number("right_deg", motion.right_deg);
    io.point("slide_mm", motion.slide_mm);
    io.text("with", motion.with);
    io.text("on", motion.on);
    describeIds(io, "bodies", motion.bodies);
    describeIds(io, "carried", motion.carried);
    describeProvenance(io, motion.measured);
    io.text("note", motion.note);
    io.extras(motion.extras);
}

template <class Io>
void describeStance(Io& io, Stance& stance) {
    io.text("id", stance.id, true);
    io.text("name", stance.name, true);
    io.number("front_mm", stance.front_mm);
    io.number("rear_mm", stance.rear_mm);
    io.text("blocks", stance.blocks);
    io.extras(stance.extras);
}

template <class Io>
void describeRocking(Io& io, Rocking& rocking) {
    io.number("roll_deg", rocking.roll_deg);
    io.number("up_mm", rocking.up_mm);
    io.number("down_mm", rocking.down_mm);
    io.number("along_mm", rocking.along_mm);
    io.number("stop_mm", rocking.stop_mm);
    io.text("source", rocking.source);
    io.extras(rocking.extras);
}

template <class Io>
void describeVehicle(Io& io, Vehicle& vehicle) {
    io.text("name", vehicle.name, true);
    io.text("note", vehicle.note);
    io.object("datum", vehicle.datum, [](Io& inner, Datum& datum) {
        inner.text("kind", datum.kind, true);
        inner.text("name", datum.name);
        inner.extras(datum.extras);
    });
    io.choice("drive_side", vehicle.drive_side, {{"left", DriveSide::Left}, {"right", DriveSide::Right}});
    io.number("wheelbase_mm", vehicle.wheelbase_mm);
    io.number("front_track_mm", vehicle.front_track_mm);
    io.number("rear_track_mm", vehicle.rear_track_mm);
    io.list("hard_points", vehicle.hard_points, [](Io& inner, HardPoint& p) { describePoint(inner, p); });
    io.list("choices", vehicle.choices, [](Io& inner, Choice& c) { describeChoice(inner, c); });
    io.list("serviced", vehicle.serviced, [](Io& inner, ServicedBolt& b) { describeServiced(inner, b); });
    io.list("bodies", vehicle.bodies, [](Io& inner, Body& b) { describeBody(inner, b); });
    io.list("areas", vehicle.areas, [](Io& inner, AreaMark& a) { describeArea(inner, a); });
    io.list("outgoing", vehicle.outgoing, [](Io& inner, OutgoingDimension& d) { describeOutgoing(inner, d); });
    io.list("free_volumes", vehicle.free_volumes, [](Io& inner, FreeVolume& v) { describeFreeVolume(inner, v); });
    io.list("motions", vehicle.motions, [](Io& inner, MotionSpec& m) { describeMotion(inner, m); });
    io.object("springs", vehicle.springs, [](Io& inner, Springs& springs) {
        inner.number("front_n_per_mm", springs.front_n_per_mm);
        inner.number("rear_n_per_mm", springs.rear_n_per_mm);
        inner.text("source", springs.source);
        inner.extras(springs.extras);
    });
    io.list("stances", vehicle.stances, [](Io& inner, Stance& s) { describeStance(inner, s); });
    io.extras(vehicle.extras);
}

template <class Io>
void describePlacement(Io& io, Placement& placement) {
    io.text("id", placement.id.text, true);
    io.text("name", placement.name, true);
    io.text("donor", placement.donor.text, true);
    io.choice("orientation", placement.orientation, orientations());
    io.point("position_mm", placement.position_mm, true);
    io.object("angles", placement.angles, [](Io& inner, Angles& angles) { describeAngles(inner, angles); });
    io.choice("pivot", placement.pivot,
              {{"front_mounts", Pivot::FrontMounts},
               {"gearbox_mount", Pivot::GearboxMount},
               {"block_face", Pivot::BlockFace},
               {"centre_of_gravity", Pivot::CentreOfGravity}});
    io.list("taken", placement.taken, [](Io& inner, Taken& taken) {
        inner.text("choice", taken.choice, true);
        inner.text("option", taken.option, true);
        inner.extras(taken.extras);
    });
    io.object("rocking", placement.rocking, [](Io& inner, Rocking& rocking) { describeRocking(inner, rocking); });
    io.text("note", placement.note);
    io.extras(placement.extras);
}

template <class Io>
void describeRef(Io& io, const char* key, BodyRef& ref) {
    std::string text = ref.owner.empty() ? "" : ref.text();
    io.text(key, text, true);
    if constexpr (Io::reading) {
        const auto slash = text.find('/');
        if (slash == std::string::npos)
            io.fail(key, "\"" + text + "\" does not say whose body it is", "write vehicle/body-id or donor-id/body-id");
        ref = BodyRef{text.substr(0, slash), BodyId{slash == std::string::npos ? "" : text.substr(slash + 1)}};
    }
}

template <class Io>
void describeRow(Io& io, RuleRow& row) {
    io.text("id", row.id, true);
    io.text("text", row.text);
    io.texts("between", row.between);
    io.texts("and", row.and_);
    io.figures("at_rest_mm", row.at_rest_mm);
    io.figures("shielded_mm", row.shielded_mm);
    io.number("look_mm", row.look_mm);
    io.flag("travel", row.travel);
    io.flag("keeps", row.keeps);
    io.flag("rest_only", row.rest_only);
    io.text("source", row.source);
    io.extras(row.extras);
}

template <class Io>
void describePart(Io& io, Part& part) {
    io.text("id", part.id.text, true);
    io.text("name", part.name, true);
    io.text("why", part.why);
    io.text("source", part.source);
    io.choice("state", part.state,
              {{"needed", PartState::Needed},
               {"ordered", PartState::Ordered},
               {"here", PartState::Here},
               {"test_fitted", PartState::TestFitted},
               {"fitted", PartState::Fitted},
               {"to_return", PartState::ToReturn},
               {"sold", PartState::Sold}});
    io.number("cost", part.cost);
    io.choice("on_car", part.on_car, {{"no", OnCar::No}, {"on", OnCar::On}, {"off", OnCar::Off}});
    io.number("mass_kg", part.mass_kg);
    describeMassFrom(io, part.mass_from);
    io.point("at_mm", part.at_mm);
    io.text("body", part.body);
    io.flag("rides_on_donor", part.rides_on_donor);
    std::vector<std::string> needs;
    for (const PartId& id : part.needs) needs.push_back(id.text);
    io.texts("needs", needs);
    if constexpr (Io::reading) {
        part.needs.clear();
        for (std::string& id : needs) part.needs.push_back(PartId{std::move(id)});
    }
    io.text("option", part.option);
    io.point("size_mm", part.size_mm);
    io.text("home", part.home);
    io.text("note", part.note);
    io.extras(part.extras);
}

template <class Io>
void describeAxles(Io& io, AxlePair& axles) {
    io.number("front_kg", axles.front_kg);
    io.number("rear_kg", axles.rear_kg);
}

template <class Io>
void describeWeights(Io& io, Weights& weights) {
    io.object("bare", weights.bare, [](Io& inner, AxlePair& axles) { describeAxles(inner, axles); });
    if (Io::reading || weights.corners.any())
        io.object("corners", weights.corners, [](Io& inner, CornerLoads& corners) {
            inner.number("front_left_kg", corners.front_left_kg);
            inner.number("front_right_kg", corners.front_right_kg);
            inner.number("rear_left_kg", corners.rear_left_kg);
            inner.number("rear_right_kg", corners.rear_right_kg);
        });
    io.number("height_mm", weights.height_mm);
    io.text("basis", weights.basis);
    io.number("accuracy_kg", weights.accuracy_kg);
    io.object("limit", weights.limit, [](Io& inner, AxlePair& axles) { describeAxles(inner, axles); });
    io.text("limit_source", weights.limit_source);
    io.list("loads", weights.loads, [](Io& inner, Mass& mass) { describeMass(inner, mass); });
    io.extras(weights.extras);
}

} // namespace

template <class Io>
void describeDonor(Io& io, Donor& donor) {
    io.text("id", donor.id.text, true);
    io.text("name", donor.name, true);
    io.text("note", donor.note);
    io.choice("orientation", donor.orientation, orientations());
    io.list("masses", donor.masses, [](Io& inner, Mass& mass) { describeMass(inner, mass); });
    io.list("reference_points", donor.reference_points, [](Io& inner, HardPoint& p) { describePoint(inner, p); });
    io.list("choices", donor.choices, [](Io& inner, Choice& c) { describeChoice(inner, c); });
    io.list("serviced", donor.serviced, [](Io& inner, ServicedBolt& b) { describeServiced(inner, b); });
    io.list("bodies", donor.bodies, [](Io& inner, Body& b) { describeBody(inner, b); });
    io.list("motions", donor.motions, [](Io& inner, MotionSpec& m) { describeMotion(inner, m); });
    io.extras(donor.extras);
}

template <class Io>
void describeProject(Io& io, Project& project) {
    io.text("name", project.name, true);
    io.text("note", project.note);
    io.object("vehicle", project.vehicle, [](Io& inner, Vehicle& v) { describeVehicle(inner, v); });
    io.list("donors", project.donors, [](Io& inner, Donor& d) { describeDonor(inner, d); });
    io.list("placements", project.placements, [](Io& inner, Placement& p) { describePlacement(inner, p); });
    io.text("active_placement", project.active_placement.text);
    io.list("joined", project.joined, [](Io& inner, Joined& pair) {
        describeRef(inner, "a", pair.a);
        describeRef(inner, "b", pair.b);
        inner.text("reason", pair.reason, true);
        inner.extras(pair.extras);
    });
    io.list("measured", project.measured, [](Io& inner, MeasuredGap& gap) {
        describeRef(inner, "a", gap.a);
        describeRef(inner, "b", gap.b);
        inner.text("placement", gap.placement.text);
        inner.number("gap_mm", gap.gap_mm, true);
        inner.number("accuracy_mm", gap.accuracy_mm);
        inner.text("date", gap.date);
        inner.text("who", gap.who);
        inner.text("note", gap.note);
        inner.text("mark", gap.mark);
        inner.extras(gap.extras);
    });
    io.list("conditions", project.conditions, [](Io& inner, Condition& c) { describeCondition(inner, c); });
    io.object("rules", project.rules, [](Io& inner, RuleChoice& rules) {
        inner.text("school", rules.school);
        inner.number("interest_range_mm", rules.interest_range_mm);
        inner.list("rows", rules.rows, [](Io& rowIo, RuleRow& row) { describeRow(rowIo, row); });
        inner.list("figures", rules.figures, [](Io& figureIo, Figure& figure) { describeFigure(figureIo, figure); });
        inner.extras(rules.extras);
    });
    io.object("money", project.money, [](Io& inner, Money& money) {
        inner.text("currency", money.currency);
        inner.number("budget", money.budget);
        inner.extras(money.extras);
    });
    io.object("weights", project.weights, [](Io& inner, Weights& w) { describeWeights(inner, w); });
    io.list("parts", project.parts, [](Io& inner, Part& p) { describePart(inner, p); });
    io.object("driveline", project.driveline, [](Io& inner, Driveline& d) { describeDriveline(inner, d); });
    io.object("gearing", project.gearing, [](Io& inner, Gearing& g) { describeGearing(inner, g); });
    io.object("mounts", project.mounts, [](Io& inner, Mounts& m) { describeMounts(inner, m); });
    io.object("relief", project.relief, [](Io& inner, Relief& r) { describeRelief(inner, r); });
    io.extras(project.extras);
}

namespace {

template <class Io>
void describeCaution(Io& io, Caution& caution) {
    io.texts("about", caution.about);
    io.texts("and", caution.and_);
    io.flag("when_cut", caution.when_cut);
    io.text("text", caution.text, true);
}

} // namespace

template <class Io>
void describeRuleBook(Io& io, RuleBook& book) {
    io.text("default_school", book.default_school, true);
    io.number("interest_range_mm", book.interest_range_mm, true);
    io.number("interest_factor", book.interest_factor, true);
    io.list("schools", book.schools, [](Io& inner, School& school) {
        inner.text("id", school.id, true);
        inner.text("name", school.name, true);
        inner.text("text", school.text);
    });
    io.list("categories", book.categories, [](Io& inner, Category& category) {
        inner.text("id", category.id, true);
        inner.text("name", category.name, true);
        inner.texts("groups", category.groups);
    });
    io.list("areas", book.areas, [](Io& inner, AreaRule& area) {
        inner.text("id", area.id, true);
        inner.text("name", area.name, true);
        inner.text("text", area.text);
        inner.texts("categories", area.categories);
        inner.text("source", area.source);
    });
    io.list("rows", book.rows, [](Io& inner, RuleRow& row) { describeRow(inner, row); });
    io.list("figures", book.figures, [](Io& inner, Figure& figure) { describeFigure(inner, figure); });
    io.list("cautions", book.cautions, [](Io& inner, Caution& caution) { describeCaution(inner, caution); });
}

template <class Io>
void describeMoreRules(Io& io, RuleBook& book) {
    std::vector<Figure> figures;
    io.list("figures", figures, [](Io& inner, Figure& figure) { describeFigure(inner, figure); });
    book.figures.insert(book.figures.end(), figures.begin(), figures.end());
    std::vector<Caution> cautions;
    io.list("cautions", cautions, [](Io& inner, Caution& caution) { describeCaution(inner, caution); });
    book.cautions.insert(book.cautions.end(), cautions.begin(), cautions.end());
    io.list("tubes", book.tubes, [](Io& inner, TubeStock& tube) {
        inner.number("outside_mm", tube.outside_mm, true);
        inner.number("wall_mm", tube.wall_mm, true);
    });
    io.list("sheets", book.sheets, [](Io& inner, SheetStock& sheet) {
        inner.text("id", sheet.id, true);
        inner.text("name", sheet.name, true);
        inner.list("thicknesses", sheet.thickness_mm, [](Io& one, double& mm) { one.number("mm", mm, true); });
        inner.number("inside_thicknesses", sheet.inside_thicknesses, true);
        inner.number("k_share", sheet.k_share, true);
        inner.number("density_kg_m3", sheet.density_kg_m3, true);
        inner.number("formed_share", sheet.formed_share);
        inner.text("source", sheet.source);
    });
    io.list("isolators", book.isolators, [](Io& inner, Isolator& isolator) { describeIsolator(inner, isolator); });
}

template void describeProject(ReadIo&, Project&);
template void describeProject(WriteIo&, Project&);
template void describeDonor(ReadIo&, Donor&);
template void describeDonor(WriteIo&, Donor&);
template void describeRuleBook(ReadIo&, RuleBook&);
template void describeMoreRules(ReadIo&, RuleBook&);

} // namespace gabarit::store
