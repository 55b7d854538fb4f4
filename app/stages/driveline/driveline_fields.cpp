#include "stages/driveline/driveline_fields.h"

#include "driveline/line_geometry.h"
#include "driveline/section/driveline.h"
#include "fields/described.h"
#include "gearing/section/gearing.h"
#include "model/project.h"

#include <algorithm>

namespace gabarit::app {
namespace {

using model::Driveline;

/// The motion it goes with, or the way it is given here.
Field goesWith(const Editing<model::EndPath>& edit, const model::EndPath& path) {
    const model::Project& project = *edit.session().project();
    Choices ways{{QStringLiteral("/not_said"), tr("not said yet")},
                 {QStringLiteral("/fixed"), tr("not at all")},
                 {QStringLiteral("/axle"), tr("an axle, given here")},
                 {QStringLiteral("/arm"), tr("an arm, given here")}};
    if (project.vehicle)
        for (const model::MotionSpec& m : project.vehicle->motions)
            if (m.kind == model::MotionKind::Axle || (m.kind == model::MotionKind::Arm && m.with.empty()))
                ways.emplace_back(q(m.id), q(m.name));
    const char* const here[] = {"/not_said", "/fixed", "/axle", "/arm"};
    return fields::choice(QStringLiteral("path_motion"), tr("Goes with"), ways,
                          path.motion.empty() ? here[static_cast<int>(path.kind)] : path.motion,
                          edit.set([](model::EndPath& p, const std::string& v) {
                              p.motion = v[0] == '/' ? "" : v;
                              if (v[0] == '/')
                                  p.kind = v == "/axle"    ? model::PathKind::Axle
                                           : v == "/arm"   ? model::PathKind::Arm
                                           : v == "/fixed" ? model::PathKind::Fixed
                                                           : model::PathKind::NotSaid;
                          }));
}

Field ledBy(const Editing<model::EndPath>& edit, const model::EndPath& path) {
    const Choices kinds{{QStringLiteral("none"), tr("straight up")},
                        {QStringLiteral("leaf"), tr("leaf springs")},
                        {QStringLiteral("arms"), tr("two arms")},
                        {QStringLiteral("torque"), tr("arm and torque arm")},
                        {QStringLiteral("bar"), tr("ladder bars")}};
    using K = model::PathLinkKind;
    std::string now = "none";
    if (path.links.size() == 1) now = path.links[0].kind == K::LadderBar ? "bar" : "leaf";
    if (path.links.size() == 2) now = path.links[1].kind == K::Torque ? "torque" : "arms";
    return fields::choice(
        QStringLiteral("path_led"), tr("Led by"), kinds, now, edit.set([](model::EndPath& p, const std::string& v) {
            // Where they usually are: 600 forward of the axle, to be measured.
            const Eigen::Vector3d seat = p.centre_mm + Eigen::Vector3d(0, 0, 60),
                                  eye = p.centre_mm + Eigen::Vector3d(-600, 0, 60);
            p.links.clear();
            if (v == "leaf") p.links = {{K::Leaf, eye, seat, {}}};
            if (v == "bar") p.links = {{K::LadderBar, eye, seat, {}}};
            if (v == "arms" || v == "torque")
                p.links = {{K::Arm,
                            p.centre_mm + Eigen::Vector3d(-550, 0, -40),
                            p.centre_mm + Eigen::Vector3d(-20, 0, -60),
                            {}},
                           {v == "arms" ? K::Arm : K::Torque,
                            p.centre_mm + Eigen::Vector3d(-350, 0, 150),
                            p.centre_mm + (v == "arms" ? Eigen::Vector3d(0, 0, 120) : Eigen::Vector3d(-700, 0, 30)),
                            {}}};
        }));
}

Field linksTable(const Editing<model::EndPath>& edit, const model::EndPath& path) {
    Rows rows;
    for (const model::PathLink& link : path.links)
        rows.push_back({link.fixed_mm.x(), link.fixed_mm.z(), link.moving_mm.x(), link.moving_mm.z()});
    return fields::table(QStringLiteral("path_links"), tr("Seen from the side: on the frame, on the axle"),
                         {tr("x"), tr("z"), tr("x"), tr("z")}, rows, rows.size(),
                         edit.set([](model::EndPath& p, const Rows& typed) {
                             for (std::size_t i = 0; i < std::min(typed.size(), p.links.size()); ++i) {
                                 p.links[i].fixed_mm = {typed[i][0], p.links[i].fixed_mm.y(), typed[i][1]};
                                 p.links[i].moving_mm = {typed[i][2], p.links[i].moving_mm.y(), typed[i][3]};
                             }
                         }));
}

void pathFields(std::vector<Field>& out, const Editing<model::EndPath>& edit, const model::EndPath& path) {
    out.push_back(fields::heading(tr("How its far end moves")));
    out.push_back(goesWith(edit, path));
    describedFields(out, edit, path, QStringLiteral("path"));
    bool on_axle = path.motion.empty() && path.kind == model::PathKind::Axle;
    if (on_axle) {
        const QString centre = QStringLiteral("path_centre_mm");
        if (!path.links.empty()) putAfter(out, centre, linksTable(edit, path));
        putAfter(out, centre, ledBy(edit, path));
    }
    if (const auto& vehicle = edit.session().project()->vehicle)
        for (const model::MotionSpec& m : vehicle->motions)
            if (m.id == path.motion) on_axle = m.kind == model::MotionKind::Axle;
    if (!on_axle) dropField(out, QStringLiteral("path_shim_deg"));
}

/// How many joints there are; shafts and bearings between them follow.
Field jointCount(const Editing<model::ShaftLine>& edit, const model::ShaftLine& line) {
    Choices counts;
    for (int n = 2; n <= 4; ++n) counts.emplace_back(QString::number(n), tr("%1 joints").arg(n));
    return fields::choice(QStringLiteral("joints"), tr("In all"), counts, std::to_string(line.joints.size()),
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
                          }));
}

void lineFields(std::vector<Field>& out, Session& session, const model::ShaftLine& line) {
    const auto edit = editingOf(session, &Driveline::lines, line.id, q(line.name));
    describedFields(out, edit, line);
    // Put on another owner it stays where it stands.
    for (const auto& [name, end] :
         {std::pair("from_owner", &model::ShaftLine::from), std::pair("to_owner", &model::ShaftLine::to)}) {
        if (!hasField(out, QLatin1String(name))) continue;
        Field& owner = fieldNamed(out, QLatin1String(name));
        owner.set_text = [&session, edit, end = end, run = line.run, plain = owner.set_text,
                          flange = line.*end](const QString& id) {
            const auto stays = driveline::onOwner(*session.project(), flange, run, id.toStdString());
            if (!stays || id == q(flange.owner)) return plain(id);
            return edit.named(tr("It is on")).set([end, stays](model::ShaftLine& l, const QString&) {
                l.*end = stays.value();
            })(id);
        };
    }
    if (!line.half_shaft) {
        const Editing<Driveline> whole(
            session, [](model::Project& p) { return p.sections.own<model::Driveline>(); },
            tr("the speed shake is told at"));
        std::vector<Field> its;
        describedFields(its, whole, *session.project()->sections.get<model::Driveline>());
        for (Field& field : its) putAfter(out, QStringLiteral("top_rpm"), std::move(field));
    }
    pathFields(out, edit.of<model::EndPath>([](model::ShaftLine& l) { return &l.path; }), line.path);
    out.push_back(fields::heading(tr("Joints and shafts")));
    out.push_back(jointCount(edit, line));
    const auto part = [&](auto list, std::size_t i, const char* name) {
        if (i >= (line.*list).size()) return;
        using Of = typename std::decay_t<decltype(line.*list)>::value_type;
        const auto its = edit.template of<Of>(
            [list, i](model::ShaftLine& l) { return i < (l.*list).size() ? &(l.*list)[i] : nullptr; });
        describedFields(out, its, (line.*list)[i], QStringLiteral("%1%2").arg(QLatin1String(name)).arg(i + 1));
    };
    for (std::size_t i = 0; i < line.joints.size(); ++i) {
        out.push_back(fields::heading(tr("Joint %1").arg(i + 1)));
        part(&model::ShaftLine::joints, i, "joint");
        if (i > 0) part(&model::ShaftLine::bearings, i - 1, "bearing");
        if (i >= line.shafts.size()) continue;
        out.push_back(fields::heading(line.shafts.size() == 1 ? tr("Shaft") : tr("Shaft %1").arg(i + 1)));
        part(&model::ShaftLine::shafts, i, "shaft");
    }
}

void couplingFields(std::vector<Field>& out, Session& session, const model::CouplingCheck& coupling) {
    const auto edit = editingOf(session, &Driveline::couplings, coupling.id, q(coupling.name));
    describedFields(out, edit, coupling);
    if (coupling.tries.empty()) return;
    out.push_back(fields::heading(tr("The last try")));
    const auto last = edit.of<model::CouplingTry>(
        [](model::CouplingCheck& c) { return c.tries.empty() ? nullptr : &c.tries.back(); });
    const model::CouplingTry& now = coupling.tries.back();
    describedFields(out, last, now, QStringLiteral("try"));
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

/// What a side of a kind is described by, and what that is called of it. Anything else is not asked.
struct SideField {
    model::InterfaceKind kind;
    const char* key;
    const char* label;
};
constexpr SideField side_fields[] = {{model::InterfaceKind::Spline, "count", "Teeth"},
                                     {model::InterfaceKind::Spline, "diameter_mm", "Major diameter"},
                                     {model::InterfaceKind::Spline, "length_mm", "Length"},
                                     {model::InterfaceKind::Flange, "count", "Bolts"},
                                     {model::InterfaceKind::Flange, "diameter_mm", "Bolt circle"},
                                     {model::InterfaceKind::Flange, "pilot_mm", "Spigot"},
                                     {model::InterfaceKind::Flange, "bolt_mm", "Bolt size"},
                                     {model::InterfaceKind::Joint, "diameter_mm", "Cap"},
                                     {model::InterfaceKind::Joint, "span_mm", "Over the caps"},
                                     {model::InterfaceKind::Bore, "diameter_mm", "Diameter"}};

void interfaceFields(std::vector<Field>& out, Session& session, const model::Interface& interface) {
    describedFields(out, editingOf(session, &Driveline::interfaces, interface.id, q(interface.name)), interface);
    for (const char* side : {"a_", "b_"})
        for (const char* key : {"count", "diameter_mm", "pilot_mm", "bolt_mm", "span_mm", "length_mm"}) {
            const QString name = QLatin1String(side) + QLatin1String(key);
            const auto its = std::find_if(std::begin(side_fields), std::end(side_fields), [&](const SideField& f) {
                return f.kind == interface.kind && QLatin1String(f.key) == QLatin1String(key);
            });
            if (its == std::end(side_fields))
                dropField(out, name);
            else
                fieldNamed(out, name).label = tr(its->label);
        }
}

void readingFields(std::vector<Field>& out, Session& session, const model::AngleReading& reading) {
    describedFields(out, editingOf(session, &Driveline::readings, reading.id, tr("a reading")), reading);
}

void bellFields(std::vector<Field>& out, Session& session, const model::BellStack& bell) {
    describedFields(out,
                    Editing<model::BellStack>(
                        session,
                        [](model::Project& p) {
                            auto* its = p.sections.own<model::Driveline>();
                            return its && its->bell ? &*its->bell : nullptr;
                        },
                        tr("the bellhousing's stack")),
                    bell);
}

/// "1", "2", … and "R": as they stand in the table, where nobody called them otherwise.
void nameGears(model::Gearing& gearing) {
    int forward = 0;
    for (model::Gear& gear : gearing.gears) {
        const bool new_one = gear.name.empty() || gear.name.rfind("gear ", 0) == 0;
        if (new_one || (gear.name == "R") != gear.reverse) gear.name = gear.reverse ? "R" : std::to_string(forward + 1);
        forward += !gear.reverse;
    }
}

void gearingFields(std::vector<Field>& out, Session& session, const model::Gearing& gearing) {
    const Editing<model::Gearing> edit(
        session, [](model::Project& p) { return p.sections.own<model::Gearing>(); }, tr("the gearing"));
    describedFields(out, edit.also([](model::Project& p) { nameGears(p.sections.edit<model::Gearing>()); }), gearing);
    const bool pound_feet = session.shown().torque == quantity::TorqueUnit::PoundFeet;
    const double unit_nm = pound_feet ? quantity::newton_metre_per_pound_foot : 1;
    const QString nm = pound_feet ? tr("lbf·ft") : tr("N·m");
    Rows torque;
    for (const model::TorquePoint& p : gearing.torque) torque.push_back({p.rpm, p.torque_nm / unit_nm});
    Field table = fields::table(QStringLiteral("torque"), tr("Torque: rpm, %1").arg(nm), {tr("rpm"), nm}, torque, 0,
                                edit.set([unit_nm](model::Gearing& g, const Rows& rows) {
                                    g.torque.clear();
                                    for (const auto& row : rows) g.torque.push_back({row[0], row[1] * unit_nm, {}});
                                }));
    table.dimension.reset();
    putAfter(out, QStringLiteral("loss"), std::move(table));
}

} // namespace

std::vector<Field> drivelineFields(Session& session, const QString& key) {
    std::vector<Field> out;
    const model::Project& project = *session.project();
    const std::string id = key.section(QLatin1Char(':'), 1).toStdString();
    if (const auto* its = project.sections.get<model::Driveline>()) {
        const Driveline& d = *its;
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
    const auto* gearing = project.sections.get<model::Gearing>();
    if (key == QLatin1String("gearing") && gearing) gearingFields(out, session, *gearing);
    return out;
}

} // namespace gabarit::app
