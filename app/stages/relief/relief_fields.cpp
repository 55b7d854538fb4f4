#include "stages/relief/relief_fields.h"

#include "fields/editing.h"
#include "forms/text.h"
#include "relief/apply.h"
#include "shape/pocket.h"
#include "store/rule_book.h"

namespace gabarit::app {
namespace {

using model::Relief;

template <class T>
Editing<T> editingOf(Session& session, std::vector<T> Relief::*list, const std::string& id, const std::string& name) {
    return Editing<T>(
        session, [list, id](model::Project& p) { return p.relief ? byId((*p.relief).*list, id) : nullptr; }, q(name));
}

Choices bodiesOf(const model::Project& project) {
    Choices out;
    if (project.vehicle)
        for (const model::Body& body : project.vehicle->bodies) out.emplace_back(q(body.id.text), q(body.name));
    return out;
}

Choices sheets() {
    Choices out{{QString(), tr("the usual one")}};
    for (const model::SheetStock& sheet : store::defaultRuleBook().sheets) out.emplace_back(q(sheet.id), q(sheet.name));
    return out;
}

Choices facesOf(const model::Project& project) {
    Choices out{{QString(), tr("its own holes only")}};
    if (project.mounts)
        for (const model::Mount& mount : project.mounts->mounts) {
            out.emplace_back(q(mount.id) + QStringLiteral("/pad"), tr("%1, pad").arg(q(mount.name)));
            if (mount.stand)
                out.emplace_back(q(mount.id) + QStringLiteral("/stand"), tr("%1, stand").arg(q(mount.name)));
        }
    if (project.mounts)
        for (const model::OldSeat& seat : project.mounts->seats)
            out.emplace_back(QStringLiteral("seat/") + q(seat.id), q(seat.name));
    if (project.driveline)
        for (const model::Interface& interface : project.driveline->interfaces) {
            if (interface.kind != model::InterfaceKind::Flange) continue;
            const QString id = QStringLiteral("interface/") + q(interface.id);
            out.emplace_back(id + QStringLiteral("/a"), tr("flange: %1").arg(q(interface.a.name)));
            out.emplace_back(id + QStringLiteral("/b"), tr("flange: %1").arg(q(interface.b.name)));
        }
    return out;
}

void pocketFields(std::vector<Field>& out, Session& session, const model::Pocket& pocket) {
    // What its plates weigh follows.
    const auto edit =
        editingOf(session, &Relief::pockets, pocket.id, pocket.name).also([id = pocket.id](model::Project& p) {
            const model::Pocket* its = byId(p.relief->pockets, id);
            p = relief::withPocket(p, model::applied(store::defaultRuleBook(), p.rules), model::Pocket(*its));
        });
    FieldsOf<model::Pocket> of(out, edit, pocket);
    of.words("name", tr("Name"), &model::Pocket::name);
    out.push_back(fields::choice(QStringLiteral("body"), tr("In"), bodiesOf(*session.project()), pocket.body.text,
                                 edit.set([](model::Pocket& p, const std::string& v) { p.body.text = v; })));
    of.choice("form", tr("Form"), &model::Pocket::form,
              {{QStringLiteral("box"), tr("box of bent plate")},
               {QStringLiteral("half"), tr("half of a tube")},
               {QStringLiteral("step"), tr("step across it all")},
               {QStringLiteral("recess"), tr("formed recess")}});
    const model::Body* body = model::findBody(*session.project(), {model::vehicle_owner, pocket.body});
    const bool half = pocket.form == model::PocketForm::HalfRound, recess = pocket.form == model::PocketForm::Recess;
    const bool sheet = body && shape::isSheet(body->shape);
    of.length("length", half ? tr("Tube, inside") : tr("Length at its bottom"), &model::Pocket::length_mm);
    if (pocket.form != model::PocketForm::Step) of.length("width", tr("Width"), &model::Pocket::width_mm);
    of.length("depth", tr("Depth"), &model::Pocket::depth_mm);
    if (!half && !recess && (!sheet || pocket.flank_deg != 0))
        of.angle("flank", tr("Ends lean out"), &model::Pocket::flank_deg);
    if (!half) of.length("corner", recess ? tr("Corners, radius") : tr("Bends, inside"), &model::Pocket::corner_mm);
    of.flag("open", tr("Left open, not closed"), &model::Pocket::open);
    if (!pocket.open) {
        out.push_back(fields::choice(QStringLiteral("material"), tr("Plate"), sheets(), pocket.material,
                                     edit.set([](model::Pocket& p, const std::string& v) { p.material = v; })));
        of.length("plate", tr("Its thickness"), &model::Pocket::plate_mm);
        if (!recess && !sheet) {
            of.length("doubler", tr("Strap on the far face"), &model::Pocket::doubler_mm);
            of.length("doubler_over", tr("It reaches beyond"), &model::Pocket::doubler_over_mm);
        }
    }
    of.flag("set_aside", tr("Set aside: not counted"), &model::Pocket::set_aside);
    of.place("at", tr("Middle of its mouth"), &model::Pocket::at_mm);
    of.direction("into", tr("Into the metal"), &model::Pocket::into);
    of.direction("along", tr("Along its length"), &model::Pocket::along);
    out.push_back(fields::heading(tr("As made")));
    of.length("measured_length", tr("Length"), &model::Pocket::measured_length_mm);
    of.length("measured_width", tr("Width"), &model::Pocket::measured_width_mm);
    of.length("measured_depth", tr("Depth"), &model::Pocket::measured_depth_mm);
    of.words("note", tr("Note"), &model::Pocket::note);
}

void endFields(std::vector<Field>& out, const Editing<model::TubeEnd>& edit, const model::TubeEnd& end,
               const char* prefix, const QString& heading) {
    out.push_back(fields::heading(heading));
    FieldsOf<model::TubeEnd> of(out, edit, end, prefix);
    of.choice("onto", tr("Cut to fit"), &model::TubeEnd::onto,
              {{QStringLiteral("square"), tr("nothing: square")},
               {QStringLiteral("plate"), tr("a plate")},
               {QStringLiteral("tube"), tr("a tube")}});
    if (end.onto == model::EndOnto::Square) return;
    if (end.onto == model::EndOnto::Tube) of.length("diameter", tr("That tube, outside"), &model::TubeEnd::diameter_mm);
    of.angle("angle", tr("Angle to it"), &model::TubeEnd::angle_deg);
    if (end.onto == model::EndOnto::Tube) of.length("offset", tr("Axes apart"), &model::TubeEnd::offset_mm);
    of.angle("turn", tr("Turned about itself"), &model::TubeEnd::turn_deg);
}

void tubeFields(std::vector<Field>& out, Session& session, const model::CutTube& tube) {
    const auto edit = editingOf(session, &Relief::tubes, tube.id, tube.name);
    FieldsOf<model::CutTube> of(out, edit, tube);
    of.words("name", tr("Name"), &model::CutTube::name);
    of.length("diameter", tr("Outside diameter"), &model::CutTube::diameter_mm);
    of.length("wall", tr("Wall"), &model::CutTube::wall_mm);
    of.length("length", tr("Length along its axis"), &model::CutTube::length_mm);
    of.number("count", tr("How many"), &model::CutTube::count);
    out.push_back(fields::choice(QStringLiteral("material"), tr("Material"), sheets(), tube.material,
                                 edit.set([](model::CutTube& t, const std::string& v) { t.material = v; })));
    endFields(out, edit.of<model::TubeEnd>([](model::CutTube& t) { return &t.first; }), tube.first, "first",
              tr("First end"));
    endFields(out, edit.of<model::TubeEnd>([](model::CutTube& t) { return &t.second; }), tube.second, "second",
              tr("Second end"));
    of.words("note", tr("Note"), &model::CutTube::note);
}

void plateFields(std::vector<Field>& out, Session& session, const model::PatternPlate& plate) {
    const auto edit = editingOf(session, &Relief::plates, plate.id, plate.name);
    FieldsOf<model::PatternPlate> of(out, edit, plate);
    of.words("name", tr("Name"), &model::PatternPlate::name);
    of.choice("use", tr("Use"), &model::PatternPlate::use,
              {{QStringLiteral("blanking"), tr("closes an opening")}, {QStringLiteral("adapter"), tr("adapter")}});
    const Choices faces = facesOf(*session.project());
    out.push_back(fields::choice(QStringLiteral("from"), tr("Holes of"), faces, plate.from,
                                 edit.set([](model::PatternPlate& p, const std::string& v) { p.from = v; })));
    if (plate.use == model::PlateUse::Adapter) {
        out.push_back(fields::choice(QStringLiteral("to"), tr("And of"), faces, plate.to,
                                     edit.set([](model::PatternPlate& p, const std::string& v) { p.to = v; })));
        of.angle("turn", tr("Turned against it"), &model::PatternPlate::turn_deg);
        out.push_back(fields::table(QStringLiteral("to_at"), tr("Its middle"), {tr("x"), tr("y")},
                                    Rows{{plate.to_mm.x(), plate.to_mm.y()}}, 1,
                                    edit.set([](model::PatternPlate& p, const Rows& rows) {
                                        if (!rows.empty()) p.to_mm = {rows[0][0], rows[0][1]};
                                    })));
        out.back().most_rows = 1;
    }
    Rows holes;
    for (const model::PlateHole& hole : plate.holes)
        holes.push_back({hole.at_mm.x(), hole.at_mm.y(), hole.diameter_mm});
    out.push_back(fields::table(QStringLiteral("holes"), tr("Holes of its own"), {tr("x"), tr("y"), tr("diameter")},
                                holes, 0, edit.set([](model::PatternPlate& p, const Rows& rows) {
                                    // What a row had besides its figures stays with it.
                                    std::vector<model::PlateHole> next;
                                    for (std::size_t i = 0; i < rows.size(); ++i) {
                                        model::PlateHole hole = i < p.holes.size() ? p.holes[i] : model::PlateHole{};
                                        if (hole.name.empty()) hole.name = "hole";
                                        hole.at_mm = {rows[i][0], rows[i][1]};
                                        hole.diameter_mm = rows[i][2];
                                        next.push_back(std::move(hole));
                                    }
                                    p.holes = std::move(next);
                                })));
    of.length("thickness", tr("Thickness"), &model::PatternPlate::thickness_mm);
    of.length("edge", tr("Metal round a hole"), &model::PatternPlate::edge_mm);
    of.length("replaces", tr("In place of a flange of"), &model::PatternPlate::replaces_mm);
    of.length("seal", tr("Gasket"), &model::PatternPlate::seal_mm);
    of.length("bolt", tr("Bolts that were in it"), &model::PatternPlate::bolt_mm);
    out.push_back(fields::choice(QStringLiteral("material"), tr("Material"), sheets(), plate.material,
                                 edit.set([](model::PatternPlate& p, const std::string& v) { p.material = v; })));
    of.number("count", tr("How many"), &model::PatternPlate::count);
    of.words("note", tr("Note"), &model::PatternPlate::note);
}

void holeFields(std::vector<Field>& out, Session& session, const model::KeptHole& hole) {
    const auto edit = editingOf(session, &Relief::holes, hole.id, hole.name);
    FieldsOf<model::KeptHole> of(out, edit, hole);
    of.words("name", tr("Name"), &model::KeptHole::name);
    of.choice("kind", tr("What it is"), &model::KeptHole::kind,
              {{QStringLiteral("drain"), tr("drain hole")},
               {QStringLiteral("access"), tr("access hole")},
               {QStringLiteral("bolt"), tr("bolt hole")},
               {QStringLiteral("seam"), tr("weld seam")}});
    out.push_back(fields::choice(QStringLiteral("body"), tr("In"), bodiesOf(*session.project()), hole.body.text,
                                 edit.set([](model::KeptHole& h, const std::string& v) { h.body.text = v; })));
    of.place("at", tr("At"), &model::KeptHole::at_mm);
    if (hole.kind != model::KeptKind::Seam) of.length("diameter", tr("Diameter"), &model::KeptHole::diameter_mm);
    of.words("note", tr("Note"), &model::KeptHole::note);
}

} // namespace

std::vector<Field> reliefFields(Session& session, const QString& key) {
    std::vector<Field> out;
    if (!session.hasProject() || !session.project()->relief) return out;
    const Relief& relief = *session.project()->relief;
    const std::string id = key.section(QLatin1Char(':'), 1).toStdString();
    if (key.startsWith(QLatin1String("pocket:"))) {
        if (const auto* pocket = byId(relief.pockets, id)) pocketFields(out, session, *pocket);
    } else if (key.startsWith(QLatin1String("tube:"))) {
        if (const auto* tube = byId(relief.tubes, id)) tubeFields(out, session, *tube);
    } else if (key.startsWith(QLatin1String("plate:"))) {
        if (const auto* plate = byId(relief.plates, id)) plateFields(out, session, *plate);
    } else if (key.startsWith(QLatin1String("hole:"))) {
        if (const auto* hole = byId(relief.holes, id)) holeFields(out, session, *hole);
    }
    return out;
}

} // namespace gabarit::app
