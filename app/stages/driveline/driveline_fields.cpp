#include "stages/driveline/driveline_fields.h"

#include "fields/editing.h"
#include "fields/survey_forms.h"
#include "forms/text.h"
#include "model/project.h"

#include <algorithm>

namespace gabarit::app {
namespace {

using model::Driveline;

void flangeFields(std::vector<Field>& out, const Editing<model::FlangePlace>& edit, const model::FlangePlace& f,
                  const char* prefix, const QString& heading) {
    const model::Project& project = *edit.session().project();
    out.push_back(fields::heading(heading));
    std::vector<std::pair<QString, QString>> owners{{QString::fromLatin1(model::vehicle_owner), tr("the vehicle")}};
    for (const model::Donor& donor : project.donors) owners.emplace_back(q(donor.id.text), q(donor.name));
    out.push_back(fields::choice(fieldName(prefix, "owner"), tr("It is on"), owners, f.owner,
                                 edit.set([](model::FlangePlace& p, const std::string& v) {
                                     if (p.owner != v) p.point.text.clear();
                                     p.owner = v;
                                 })));
    std::vector<std::pair<QString, QString>> points{{QString(), tr("typed below")}};
    const std::vector<model::HardPoint>* list = project.vehicle ? &project.vehicle->hard_points : nullptr;
    if (const model::Donor* donor = model::findDonor(project, model::DonorId{f.owner})) list = &donor->reference_points;
    if (list)
        for (const model::HardPoint& p : *list) points.emplace_back(q(p.id.text), q(p.name));
    out.push_back(fields::choice(fieldName(prefix, "point"), tr("Its place"), points, f.point.text,
                                 edit.set([](model::FlangePlace& p, const std::string& v) { p.point.text = v; })));
    FieldsOf<model::FlangePlace> of(out, edit, f, prefix);
    if (f.point.text.empty()) of.place("at", tr("At"), &model::FlangePlace::at_mm);
    of.angle("down", tr("Falls by"), &model::FlangePlace::down_deg);
    of.angle("aside", tr("In plan, aside by"), &model::FlangePlace::aside_deg);
    of.length("joint", tr("To the joint's middle"), &model::FlangePlace::joint_mm);
    of.known("angle_accuracy", tr("Angle to ±"), Dimension::Angle, &model::FlangePlace::accuracy_deg);
    of.length("accuracy", tr("Place to ±"), &model::FlangePlace::accuracy_mm);
}

void pathFields(std::vector<Field>& out, const Editing<model::EndPath>& edit, const model::EndPath& path) {
    const model::Project& project = *edit.session().project();
    out.push_back(fields::heading(tr("How its far end moves")));
    std::vector<std::pair<QString, QString>> ways{{QStringLiteral("/not_said"), tr("not said yet")},
                                                  {QStringLiteral("/fixed"), tr("not at all")},
                                                  {QStringLiteral("/axle"), tr("an axle, given here")},
                                                  {QStringLiteral("/arm"), tr("an arm, given here")}};
    if (project.vehicle)
        for (const model::MotionSpec& m : project.vehicle->motions)
            if (m.kind == model::MotionKind::Axle || (m.kind == model::MotionKind::Arm && m.with.empty()))
                ways.emplace_back(q(m.id), q(m.name));
    const char* const here[] = {"/not_said", "/fixed", "/axle", "/arm"};
    out.push_back(fields::choice(QStringLiteral("motion"), tr("Goes with"), ways,
                                 path.motion.empty() ? here[static_cast<int>(path.kind)] : path.motion,
                                 edit.set([](model::EndPath& p, const std::string& v) {
                                     p.motion = v[0] == '/' ? "" : v;
                                     if (v[0] == '/')
                                         p.kind = v == "/axle"    ? model::PathKind::Axle
                                                  : v == "/arm"   ? model::PathKind::Arm
                                                  : v == "/fixed" ? model::PathKind::Fixed
                                                                  : model::PathKind::NotSaid;
                                 })));
    FieldsOf<model::EndPath> of(out, edit, path);
    const bool given = path.motion.empty() && (path.kind == model::PathKind::Axle || path.kind == model::PathKind::Arm);
    bool on_axle = path.motion.empty() && path.kind == model::PathKind::Axle;
    if (const auto& vehicle = edit.session().project()->vehicle)
        for (const model::MotionSpec& m : vehicle->motions)
            if (m.id == path.motion) on_axle = m.kind == model::MotionKind::Axle;
    if (given) {
        of.length("bump", tr("Up to the bump stop"), &model::EndPath::bump_mm);
        of.length("droop", tr("Down to droop"), &model::EndPath::droop_mm);
        const bool axle = path.kind == model::PathKind::Axle;
        of.place("centre", axle ? tr("Axle's middle") : tr("Arm's tip"), &model::EndPath::centre_mm);
        if (axle) {
            std::vector<std::pair<QString, QString>> kinds{{QStringLiteral("none"), tr("straight up")},
                                                           {QStringLiteral("leaf"), tr("leaf springs")},
                                                           {QStringLiteral("arms"), tr("two arms")},
                                                           {QStringLiteral("torque"), tr("arm and torque arm")},
                                                           {QStringLiteral("bar"), tr("ladder bars")}};
            using K = model::PathLinkKind;
            std::string now = "none";
            if (path.links.size() == 1) now = path.links[0].kind == K::LadderBar ? "bar" : "leaf";
            if (path.links.size() == 2) now = path.links[1].kind == K::Torque ? "torque" : "arms";
            out.push_back(fields::choice(
                QStringLiteral("led"), tr("Led by"), kinds, now, edit.set([](model::EndPath& p, const std::string& v) {
                    // Where they usually are: 600 forward of the axle, to be measured.
                    const Eigen::Vector3d seat = p.centre_mm + Eigen::Vector3d(0, 0, 60),
                                          eye = p.centre_mm + Eigen::Vector3d(-600, 0, 60);
                    p.links.clear();
                    if (v == "leaf") p.links = {{K::Leaf, eye, seat, {}}};
                    if (v == "bar") p.links = {{K::LadderBar, eye, seat, {}}};
                    if (v == "arms" || v == "torque")
                        p.links = {
                            {K::Arm,
                             p.centre_mm + Eigen::Vector3d(-550, 0, -40),
                             p.centre_mm + Eigen::Vector3d(-20, 0, -60),
                             {}},
                            {v == "arms" ? K::Arm : K::Torque,
                             p.centre_mm + Eigen::Vector3d(-350, 0, 150),
                             p.centre_mm + (v == "arms" ? Eigen::Vector3d(0, 0, 120) : Eigen::Vector3d(-700, 0, 30)),
                             {}}};
                })));
            if (!path.links.empty()) {
                Rows rows;
                for (const model::PathLink& link : path.links)
                    rows.push_back({link.fixed_mm.x(), link.fixed_mm.z(), link.moving_mm.x(), link.moving_mm.z()});
                out.push_back(
                    fields::table(QStringLiteral("links"), tr("Seen from the side: on the frame, on the axle"),
                                  {tr("x"), tr("z"), tr("x"), tr("z")}, rows, rows.size(),
                                  edit.set([](model::EndPath& p, const Rows& typed) {
                                      for (std::size_t i = 0; i < std::min(typed.size(), p.links.size()); ++i) {
                                          p.links[i].fixed_mm = {typed[i][0], p.links[i].fixed_mm.y(), typed[i][1]};
                                          p.links[i].moving_mm = {typed[i][2], p.links[i].moving_mm.y(), typed[i][3]};
                                      }
                                  })));
            }
        } else {
            of.place("axis_a", tr("Front bush"), &model::EndPath::axis_a_mm);
            of.place("axis_b", tr("Rear bush"), &model::EndPath::axis_b_mm);
        }
    }
    of.angle("windup_up", tr("Driving, nose up"), &model::EndPath::windup_up_deg);
    of.angle("windup_down", tr("Braking, nose down"), &model::EndPath::windup_down_deg);
    of.words("windup_source", tr("How known"), &model::EndPath::windup_source);
    if (on_axle) of.angle("shim", tr("Wedges planned, nose up"), &model::EndPath::shim_deg);
}

std::vector<std::pair<QString, QString>> jointKinds() {
    return {{QStringLiteral("cardan"), tr("universal joint")},
            {QStringLiteral("double_cardan"), tr("double universal joint")},
            {QStringLiteral("flexible_disc"), tr("flexible disc")},
            {QStringLiteral("cv_fixed"), tr("constant velocity, fixed")},
            {QStringLiteral("cv_plunging"), tr("constant velocity, plunging")}};
}

void lineFields(std::vector<Field>& out, Session& session, const model::ShaftLine& line) {
    const Editing<model::ShaftLine> edit(
        session, [id = line.id](model::Project& p) { return p.driveline ? byId(p.driveline->lines, id) : nullptr; },
        q(line.name));
    FieldsOf<model::ShaftLine> of(out, edit, line);
    of.words("name", tr("Name"), &model::ShaftLine::name);
    of.choice("run", tr("Runs from the unit"), &model::ShaftLine::run,
              {{QStringLiteral("rearward"), tr("to the rear")},
               {QStringLiteral("forward"), tr("to the front")},
               {QStringLiteral("left"), tr("to the vehicle's left")},
               {QStringLiteral("right"), tr("to the vehicle's right")}});
    out.push_back(fields::choice(QStringLiteral("option"), tr("Judged with"), allOptions(*session.project()),
                                 line.option,
                                 edit.set([](model::ShaftLine& l, const std::string& v) { l.option = v; })));
    of.flag("half", tr("Half-shaft: turns with the wheel"), &model::ShaftLine::half_shaft);
    of.number("top_rpm", tr("Top speed, rpm"), &model::ShaftLine::top_rpm);
    const Editing<Driveline> whole(
        session, [](model::Project& p) { return p.driveline ? &*p.driveline : nullptr; },
        tr("the speed shake is told at"));
    if (!line.half_shaft)
        FieldsOf<Driveline>(out, whole, *session.project()->driveline)
            .number("checked_rpm", tr("Shake told at, rpm (all lines)"), &Driveline::checked_rpm);
    flangeFields(out, edit.of<model::FlangePlace>([](model::ShaftLine& l) { return &l.from; }), line.from, "from",
                 tr("The unit's flange"));
    flangeFields(out, edit.of<model::FlangePlace>([](model::ShaftLine& l) { return &l.to; }), line.to, "to",
                 tr("The far flange"));
    pathFields(out, edit.of<model::EndPath>([](model::ShaftLine& l) { return &l.path; }), line.path);
    out.push_back(fields::heading(tr("Joints and shafts")));
    std::vector<std::pair<QString, QString>> counts;
    for (int n = 2; n <= 4; ++n) counts.emplace_back(QString::number(n), tr("%1 joints").arg(n));
    out.push_back(fields::choice(QStringLiteral("joints"), tr("In all"), counts, std::to_string(line.joints.size()),
                                 edit.set([](model::ShaftLine& l, const std::string& v) {
                                     const auto n = static_cast<std::size_t>(std::stoi(v));
                                     l.joints.resize(n);
                                     l.shafts.resize(n - 1);
                                     while (l.bearings.size() + 2 < n) { // half-way, to be measured
                                         model::CentreBearing bearing;
                                         bearing.name = "Centre bearing";
                                         bearing.at_mm = (l.from.at_mm + l.to.at_mm) / 2;
                                         l.bearings.push_back(bearing);
                                     }
                                     l.bearings.resize(n - 2);
                                 })));
    static const char* const joint_prefixes[] = {"joint1", "joint2", "joint3", "joint4",
                                                 "joint5", "joint6", "joint7", "joint8"};
    static const char* const shaft_prefixes[] = {"shaft1", "shaft2", "shaft3", "shaft4", "shaft5", "shaft6", "shaft7"};
    static const char* const bearing_prefixes[] = {"bearing1", "bearing2", "bearing3",
                                                   "bearing4", "bearing5", "bearing6"};
    for (std::size_t i = 0; i < line.joints.size(); ++i) {
        out.push_back(fields::heading(tr("Joint %1").arg(i + 1)));
        const auto joint =
            edit.of<model::Joint>([i](model::ShaftLine& l) { return i < l.joints.size() ? &l.joints[i] : nullptr; });
        FieldsOf<model::Joint> its(out, joint, line.joints[i], joint_prefixes[i]);
        its.words("name", tr("Name"), &model::Joint::name);
        its.choice("kind", tr("Kind"), &model::Joint::kind, jointKinds());
        its.known("max", tr("Its maker's most"), Dimension::Angle, &model::Joint::max_deg);
        its.words("max_source", tr("Says who"), &model::Joint::max_source);
        if (i > 0 && i - 1 < line.bearings.size()) {
            const auto bearing = edit.of<model::CentreBearing>(
                [i](model::ShaftLine& l) { return i - 1 < l.bearings.size() ? &l.bearings[i - 1] : nullptr; });
            FieldsOf<model::CentreBearing> held(out, bearing, line.bearings[i - 1], bearing_prefixes[i - 1]);
            held.place("at", tr("Bearing before it at"), &model::CentreBearing::at_mm);
            held.length("joint", tr("Bearing to joint"), &model::CentreBearing::joint_mm);
        }
        if (i >= line.shafts.size()) continue;
        const model::Shaft& now = line.shafts[i];
        out.push_back(fields::heading(line.shafts.size() == 1 ? tr("Shaft") : tr("Shaft %1").arg(i + 1)));
        const auto shaft =
            edit.of<model::Shaft>([i](model::ShaftLine& l) { return i < l.shafts.size() ? &l.shafts[i] : nullptr; });
        FieldsOf<model::Shaft> s(out, shaft, now, shaft_prefixes[i]);
        s.words("name", tr("Name"), &model::Shaft::name);
        s.flag("to_make", tr("To be made: find its lengths"), &model::Shaft::to_make);
        s.flag("one_length", tr("Of one length"), &model::Shaft::one_length);
        if (now.one_length) {
            if (!now.to_make) s.length("length", tr("Between joints"), &model::Shaft::length_mm);
        } else {
            if (!now.to_make) s.length("closed", tr("Pushed together"), &model::Shaft::closed_mm);
            if (!now.to_make) s.length("spline", tr("Spline in it then"), &model::Shaft::spline_mm);
            s.length("spline_diameter", tr("Spline's diameter"), &model::Shaft::spline_diameter_mm);
        }
        s.angle("phase", tr("Rear fork turned by"), &model::Shaft::phase_deg);
        s.length("tube", tr("Tube, outside"), &model::Shaft::tube_mm);
        s.length("wall", tr("Tube's wall"), &model::Shaft::wall_mm);
        s.length("accuracy", tr("Lengths to ±"), &model::Shaft::accuracy_mm);
    }
    of.words("note", tr("Note"), &model::ShaftLine::note);
}

void couplingFields(std::vector<Field>& out, Session& session, const model::CouplingCheck& coupling) {
    const Editing<model::CouplingCheck> edit(
        session,
        [id = coupling.id](model::Project& p) { return p.driveline ? byId(p.driveline->couplings, id) : nullptr; },
        q(coupling.name));
    FieldsOf<model::CouplingCheck> of(out, edit, coupling);
    of.words("name", tr("Name"), &model::CouplingCheck::name);
    std::vector<std::pair<QString, QString>> lines{{QString(), tr("none of them")}};
    for (const model::ShaftLine& line : session.project()->driveline->lines)
        lines.emplace_back(q(line.id), q(line.name));
    out.push_back(fields::choice(QStringLiteral("line"), tr("Of the line"), lines, coupling.line,
                                 edit.set([](model::CouplingCheck& c, const std::string& v) { c.line = v; })));
    of.length("radius", tr("Faces read at radius"), &model::CouplingCheck::radius_mm);
    of.length("to_gearbox", tr("Flange to gearbox mount"), &model::CouplingCheck::to_gearbox_mount_mm);
    of.length("to_front", tr("Flange to front mounts"), &model::CouplingCheck::to_front_mounts_mm);
    of.flag("rim_from_shaft", tr("Rim read from the shaft"), &model::CouplingCheck::rim_from_shaft);
    if (coupling.tries.empty()) return;
    out.push_back(fields::heading(tr("The last try")));
    const auto last = edit.of<model::CouplingTry>(
        [](model::CouplingCheck& c) { return c.tries.empty() ? nullptr : &c.tries.back(); });
    const model::CouplingTry& now = coupling.tries.back();
    FieldsOf<model::CouplingTry> t(out, last, now, "try");
    t.words("name", tr("What was done"), &model::CouplingTry::name);
    t.words("date", tr("Date"), &model::CouplingTry::date);
    t.words("who", tr("Who"), &model::CouplingTry::who);
    t.known("slope", tr("Vehicle's slope then"), Dimension::Angle, &model::CouplingTry::slope_deg);
    for (const bool rim : {false, true}) {
        Rows rows;
        for (const model::CouplingReading& r : now.readings)
            if (r.rim == rim) rows.push_back({r.clock_deg, r.turn_deg, r.mm, r.accuracy_mm.value_or(0)});
        Field table = fields::table(rim ? QStringLiteral("rim") : QStringLiteral("face"),
                                    rim ? tr("Rim: place°, shaft turned°, mm, ± (0: usual)")
                                        : tr("Faces: place°, shaft turned°, mm, ± (0: usual)"),
                                    {tr("place"), tr("turn"), tr("mm"), tr("±")}, rows, 0,
                                    last.set([rim](model::CouplingTry& item, const Rows& typed) {
                                        std::vector<model::CouplingReading> kept;
                                        for (const model::CouplingReading& r : item.readings)
                                            if (r.rim != rim) kept.push_back(r);
                                        std::vector<model::CouplingReading> mine;
                                        for (const model::CouplingReading& r : item.readings)
                                            if (r.rim == rim) mine.push_back(r);
                                        for (std::size_t i = 0; i < typed.size(); ++i) {
                                            model::CouplingReading r; // what else is known of one that stays stays
                                            if (i < mine.size() && typed.size() == mine.size()) r = mine[i];
                                            r.rim = rim;
                                            r.clock_deg = typed[i][0];
                                            r.turn_deg = typed[i][1];
                                            r.mm = typed[i][2];
                                            r.accuracy_mm = typed[i][3] > 0 ? std::optional(typed[i][3]) : std::nullopt;
                                            kept.push_back(r);
                                        }
                                        item.readings = std::move(kept);
                                    }));
        table.dimension.reset();
        table.when_empty = {std::nullopt, std::nullopt, std::nullopt, 0.0};
        out.push_back(std::move(table));
    }
}

/// Whose it is, where the project has more than one donor.
template <class T>
void donorField(std::vector<Field>& out, const Editing<T>& edit, const Session& session, const T& item) {
    const model::Project& project = *session.project();
    if (project.donors.size() < 2 && item.donor.empty()) return;
    Choices donors{{QString(), tr("not said")}};
    for (const model::Donor& donor : project.donors) donors.emplace_back(q(donor.id.text), q(donor.name));
    out.push_back(fields::choice(QStringLiteral("donor"), tr("Belongs to"), donors, item.donor,
                                 edit.set([](T& its, const std::string& v) { its.donor = v; })));
}

void interfaceFields(std::vector<Field>& out, Session& session, const model::Interface& interface) {
    const Editing<model::Interface> edit(
        session,
        [id = interface.id](model::Project& p) { return p.driveline ? byId(p.driveline->interfaces, id) : nullptr; },
        q(interface.name));
    FieldsOf<model::Interface> of(out, edit, interface);
    of.words("name", tr("Name"), &model::Interface::name);
    donorField(out, edit, session, interface);
    of.choice("kind", tr("Kind"), &model::Interface::kind,
              {{QStringLiteral("spline"), tr("splines")},
               {QStringLiteral("flange"), tr("flanges")},
               {QStringLiteral("joint"), tr("joint and yoke")},
               {QStringLiteral("bore"), tr("bore and spigot")}});
    const auto side = [&](model::InterfaceSide model::Interface::*member, const char* prefix, const QString& heading) {
        out.push_back(fields::heading(heading));
        const auto its = edit.of<model::InterfaceSide>([member](model::Interface& i) { return &(i.*member); });
        FieldsOf<model::InterfaceSide> f(out, its, interface.*member, prefix);
        using S = model::InterfaceSide;
        f.words("name", tr("Which"), &S::name);
        switch (interface.kind) {
        case model::InterfaceKind::Spline:
            f.number("count", tr("Teeth"), &S::count);
            f.length("diameter", tr("Major diameter"), &S::diameter_mm);
            f.length("length", tr("Length"), &S::length_mm);
            break;
        case model::InterfaceKind::Flange:
            f.number("count", tr("Bolts"), &S::count);
            f.length("diameter", tr("Bolt circle"), &S::diameter_mm);
            f.length("pilot", tr("Spigot"), &S::pilot_mm);
            f.length("bolt", tr("Bolt size"), &S::bolt_mm);
            break;
        case model::InterfaceKind::Joint:
            f.length("diameter", tr("Cap"), &S::diameter_mm);
            f.length("span", tr("Over the caps"), &S::span_mm);
            break;
        case model::InterfaceKind::Bore: f.length("diameter", tr("Diameter"), &S::diameter_mm); break;
        }
    };
    side(&model::Interface::a, "a", interface.kind == model::InterfaceKind::Bore ? tr("The bore") : tr("One side"));
    side(&model::Interface::b, "b", interface.kind == model::InterfaceKind::Bore ? tr("The spigot") : tr("The other"));
    of.words("adapter", tr("Adapter between them"), &model::Interface::adapter);
}

void readingFields(std::vector<Field>& out, Session& session, const model::AngleReading& reading) {
    const Editing<model::AngleReading> edit(
        session,
        [id = reading.id](model::Project& p) { return p.driveline ? byId(p.driveline->readings, id) : nullptr; },
        tr("a reading"));
    FieldsOf<model::AngleReading> of(out, edit, reading);
    of.words("place", tr("Read on"), &model::AngleReading::place);
    std::vector<std::pair<QString, QString>> lines{{QString(), tr("none of them")}};
    for (const model::ShaftLine& line : session.project()->driveline->lines)
        lines.emplace_back(q(line.id), q(line.name));
    out.push_back(fields::choice(QStringLiteral("line"), tr("Flange of the line"), lines, reading.line,
                                 edit.set([](model::AngleReading& r, const std::string& v) { r.line = v; })));
    of.flag("far", tr("Its far flange"), &model::AngleReading::at_far_end);
    of.angle("reading", tr("Gauge shows"), &model::AngleReading::reading_deg);
    of.known("slope", tr("Vehicle's slope then"), Dimension::Angle, &model::AngleReading::slope_deg);
    of.known("accuracy", tr("Gauge to ±"), Dimension::Angle, &model::AngleReading::accuracy_deg);
    of.words("device", tr("With"), &model::AngleReading::device);
    of.words("time", tr("When"), &model::AngleReading::time);
    of.words("note", tr("Note"), &model::AngleReading::note);
}

void bellFields(std::vector<Field>& out, Session& session, const model::BellStack& bell) {
    const Editing<model::BellStack> edit(
        session, [](model::Project& p) { return p.driveline && p.driveline->bell ? &*p.driveline->bell : nullptr; },
        tr("the bellhousing's stack"));
    using B = model::BellStack;
    const auto size = [&](const char* own, const QString& label, model::Sized B::*member) {
        Field field =
            fields::table(QString::fromLatin1(own), label, {tr("length"), tr("±")},
                          (bell.*member).mm ? Rows{{*(bell.*member).mm, (bell.*member).tolerance_mm}} : Rows{}, 0,
                          edit.set([member](B& b, const Rows& rows) {
                              b.*member = {};
                              if (!rows.empty()) b.*member = {rows[0][0], rows[0][1]};
                          }));
        field.most_rows = 1;
        field.when_empty = {std::nullopt, 0.0};
        out.push_back(std::move(field));
    };
    donorField(out, edit, session, bell);
    out.push_back(fields::heading(tr("From the block's rear face")));
    size("adapter_plate", tr("Adapter plate (0: none)"), &B::adapter_plate);
    size("crank_flange", tr("Crank flange behind it"), &B::crank_flange);
    size("flywheel", tr("Flywheel, flange to friction face"), &B::flywheel);
    size("clutch", tr("Clutch, friction face to fingers"), &B::clutch);
    size("bell_depth", tr("Bellhousing's depth"), &B::bell_depth);
    out.push_back(fields::heading(tr("Input shaft, in front of the gearbox")));
    size("shaft_tip", tr("Its tip"), &B::shaft_tip);
    size("shaft_shoulder", tr("Length of the tip"), &B::shaft_shoulder);
    size("spline_from", tr("Splines begin"), &B::spline_from);
    size("spline_to", tr("Splines end"), &B::spline_to);
    out.push_back(fields::heading(tr("Pilot, behind the crank flange")));
    size("pilot_mouth", tr("Its mouth"), &B::pilot_mouth);
    size("pilot_bottom", tr("Depth of the hole"), &B::pilot_bottom);
    out.push_back(fields::heading(tr("Clutch disc's hub, behind the friction face")));
    size("hub_from", tr("Begins (before it: −)"), &B::hub_from);
    size("hub_to", tr("Ends"), &B::hub_to);
    out.push_back(fields::heading(tr("Release")));
    size("release_at_rest", tr("Bearing pushed back, in front of the gearbox"), &B::release_at_rest);
    size("release_travel", tr("Its travel"), &B::release_travel);
    size("finger_travel", tr("Fingers must go"), &B::finger_travel);
    out.push_back(fields::heading(tr("Starter")));
    size("starter_face", tr("Its face behind the block's"), &B::starter_face);
    size("starter_rest", tr("Pinion at rest, from it"), &B::starter_rest);
    size("starter_out", tr("Pinion thrown out"), &B::starter_out);
    size("ring_from", tr("Ring gear behind the crank flange"), &B::ring_from);
    size("ring_width", tr("Ring gear's width"), &B::ring_width);
    FieldsOf<B> of(out, edit, bell);
    of.flag("from_behind", tr("Throws its pinion forward"), &B::starter_from_behind);
    of.known("overhung", tr("Adapter on the crank"), Dimension::Mass, &B::overhung_kg);
}

void gearingFields(std::vector<Field>& out, Session& session, const model::Gearing& gearing) {
    const Editing<model::Gearing> edit(
        session, [](model::Project& p) { return p.gearing ? &*p.gearing : nullptr; }, tr("the gearing"));
    using G = model::Gearing;
    donorField(out, edit, session, gearing);
    FieldsOf<G> of(out, edit, gearing);
    Rows gears, torque;
    for (const model::Gear& gear : gearing.gears) gears.push_back({gear.ratio, gear.reverse ? 1.0 : 0.0});
    const bool pound_feet = session.shown().torque == quantity::TorqueUnit::PoundFeet;
    const double unit_nm = pound_feet ? quantity::newton_metre_per_pound_foot : 1;
    for (const model::TorquePoint& p : gearing.torque) torque.push_back({p.rpm, p.torque_nm / unit_nm});
    const auto bare = [&](const char* own, const QString& label, const QStringList& heads, const Rows& rows,
                          auto change) {
        Field field = fields::table(QString::fromLatin1(own), label, heads, rows, 0, edit.set(change));
        field.dimension.reset();
        out.push_back(std::move(field));
    };
    bare("gears", tr("Gears; reverse: 1"), {tr("ratio"), tr("reverse")}, gears, [](G& g, const Rows& rows) {
        std::vector<model::Gear> made;
        int forward = 0;
        for (std::size_t i = 0; i < rows.size(); ++i) {
            model::Gear gear;
            if (rows.size() == g.gears.size()) gear = g.gears[i];
            gear.ratio = rows[i][0];
            const bool reverse = rows[i][1] != 0;
            if (gear.name.empty() || gear.reverse != reverse) gear.name = reverse ? "R" : std::to_string(forward + 1);
            gear.reverse = reverse;
            forward += !reverse;
            made.push_back(gear);
        }
        g.gears = std::move(made);
    });
    out.back().when_empty = {std::nullopt, 0.0}; // forward
    out.push_back(fields::number(QStringLiteral("transfer_high"), tr("Transfer, high"), gearing.transfer_high,
                                 edit.set([](G& g, const Known& v) { g.transfer_high = v.value_or(1); })));
    of.number("transfer_low", tr("Transfer, low"), &G::transfer_low);
    of.number("final_drive", tr("Final drive"), &G::final_drive);
    of.words("tyre", tr("Tyre, as on its wall"), &G::tyre);
    of.number("max_rpm", tr("Highest engine speed, rpm"), &G::max_rpm);
    of.known("cruise", tr("Cruise"), Dimension::Speed, &G::cruise_kmh);
    of.number("wanted_rpm", tr("Wanted rpm then"), &G::wanted_cruise_rpm);
    of.known("mass", tr("Vehicle's mass"), Dimension::Mass, &G::mass_kg);
    of.number("loss", tr("Lost on the way, share"), &G::loss);
    const QString nm = pound_feet ? tr("lbf·ft") : tr("N·m");
    bare("torque", tr("Torque: rpm, %1").arg(nm), {tr("rpm"), nm}, torque, [unit_nm](G& g, const Rows& rows) {
        g.torque.clear();
        for (const auto& row : rows) g.torque.push_back({row[0], row[1] * unit_nm, {}});
    });
    out.push_back(fields::heading(tr("The vehicle the unit came from")));
    const model::OriginalVehicle original = gearing.original.value_or(model::OriginalVehicle{});
    const Editing<model::OriginalVehicle> its = edit.of<model::OriginalVehicle>([](G& g) {
        if (!g.original) g.original.emplace();
        return &*g.original;
    });
    FieldsOf<model::OriginalVehicle> o(out, its, original, "original");
    o.words("name", tr("Name"), &model::OriginalVehicle::name);
    o.known("mass", tr("Mass"), Dimension::Mass, &model::OriginalVehicle::mass_kg);
    o.words("tyre", tr("Tyre"), &model::OriginalVehicle::tyre);
    o.number("final_drive", tr("Final drive"), &model::OriginalVehicle::final_drive);
    out.push_back(fields::heading(tr("The speedometer was made for")));
    of.words("speedo_tyre", tr("Tyre"), &G::speedo_tyre);
    of.number("speedo_final_drive", tr("Final drive"), &G::speedo_final_drive);
}

} // namespace

std::vector<Field> drivelineFields(Session& session, const QString& key) {
    std::vector<Field> out;
    const model::Project& project = *session.project();
    const std::string id = key.section(QLatin1Char(':'), 1).toStdString();
    if (project.driveline) {
        const Driveline& d = *project.driveline;
        if (key.startsWith(QLatin1String("line:")))
            if (const auto* line = byId(d.lines, id)) lineFields(out, session, *line);
        if (key.startsWith(QLatin1String("coupling:")))
            if (const auto* coupling = byId(d.couplings, id)) couplingFields(out, session, *coupling);
        if (key.startsWith(QLatin1String("interface:")))
            if (const auto* interface = byId(d.interfaces, id)) interfaceFields(out, session, *interface);
        if (key.startsWith(QLatin1String("reading:")))
            if (const auto* reading = byId(d.readings, id)) readingFields(out, session, *reading);
        if (key == QLatin1String("bell") && d.bell) bellFields(out, session, *d.bell);
    }
    if (key == QLatin1String("gearing") && project.gearing) gearingFields(out, session, *project.gearing);
    return out;
}

} // namespace gabarit::app
