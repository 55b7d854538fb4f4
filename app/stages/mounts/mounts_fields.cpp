#include "stages/mounts/mounts_fields.h"

#include "fields/editing.h"
#include "forms/text.h"
#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "store/rule_book.h"

namespace gabarit::app {
namespace {

using model::Mounts;

template <class T>
Editing<T> editingOf(Session& session, std::vector<T> Mounts::*list, const std::string& id, const std::string& name) {
    return Editing<T>(
        session, [list, id](model::Project& p) { return p.mounts ? byId((*p.mounts).*list, id) : nullptr; }, q(name));
}

Choices pointsOf(const model::Project& project, const std::string& owner) {
    Choices points{{QString(), tr("typed below")}};
    const std::vector<model::HardPoint>* list = project.vehicle ? &project.vehicle->hard_points : nullptr;
    for (const model::Donor& donor : project.donors)
        if (donor.id.text == owner) list = &donor.reference_points;
    if (list)
        for (const model::HardPoint& p : *list) points.emplace_back(q(p.id.text), q(p.name));
    return points;
}

Choices isolatorsOf(const model::Project& project) {
    Choices out{{QString(), tr("none chosen")}};
    if (project.mounts)
        for (const model::Isolator& i : project.mounts->isolators) out.emplace_back(q(i.id), q(i.name));
    for (const model::Isolator& i : store::defaultRuleBook().isolators)
        if (!project.mounts || !byId(project.mounts->isolators, i.id)) out.emplace_back(q(i.id), q(i.name));
    return out;
}

void faceFields(std::vector<Field>& out, const Editing<model::MountFace>& edit, const model::MountFace& f,
                const char* prefix, const QString& heading) {
    const model::Project& project = *edit.session().project();
    out.push_back(fields::heading(heading));
    Choices owners{{QString::fromLatin1(model::vehicle_owner), tr("the vehicle")}};
    for (const model::Donor& donor : project.donors) owners.emplace_back(q(donor.id.text), q(donor.name));
    out.push_back(fields::choice(fieldName(prefix, "owner"), tr("It is on"), owners, f.owner,
                                 edit.set([](model::MountFace& face, const std::string& v) {
                                     if (face.owner != v) face.point.text.clear();
                                     face.owner = v;
                                 })));
    out.push_back(fields::choice(fieldName(prefix, "point"), tr("Its place"), pointsOf(project, f.owner), f.point.text,
                                 edit.set([](model::MountFace& face, const std::string& v) { face.point.text = v; })));
    FieldsOf<model::MountFace> of(out, edit, f, prefix);
    if (f.point.empty()) of.place("at", tr("At"), &model::MountFace::at_mm);
    of.direction("out", tr("Out of the metal"), &model::MountFace::out);
    of.direction("mark", tr("Marked side"), &model::MountFace::mark);
    of.words("mark_words", tr("Marked as"), &model::MountFace::mark_words);
    Rows holes;
    for (const Eigen::Vector2d& hole : f.holes_mm) holes.push_back({hole.x(), hole.y()});
    out.push_back(fields::table(fieldName(prefix, "holes"), tr("Holes"), {tr("to the mark"), tr("left of it")}, holes,
                                0, edit.set([](model::MountFace& face, const Rows& rows) {
                                    face.holes_mm.clear();
                                    for (const auto& row : rows) face.holes_mm.emplace_back(row[0], row[1]);
                                })));
    of.length("thread", tr("Bolts M"), &model::MountFace::thread_mm);
    of.flag("through", tr("Plain holes, nuts behind"), &model::MountFace::through);
    of.length("depth", f.through ? tr("Metal's thickness") : tr("Usable thread"), &model::MountFace::depth_mm);
    of.choice("metal", tr("Metal"), &model::MountFace::metal,
              {{QStringLiteral("not_said"), tr("not said yet")},
               {QStringLiteral("steel"), tr("steel")},
               {QStringLiteral("iron"), tr("cast iron")},
               {QStringLiteral("aluminium"), tr("aluminium")}});
    of.length("accuracy", tr("Place to ±"), &model::MountFace::accuracy_mm);
}

void boltFields(std::vector<Field>& out, const Editing<model::Bolting>& edit, const model::Bolting& b,
                const char* prefix, const QString& heading) {
    out.push_back(fields::heading(heading));
    FieldsOf<model::Bolting> of(out, edit, b, prefix);
    of.number("used", tr("Bolts used"), &model::Bolting::used);
    of.length("length", tr("Length under the head"), &model::Bolting::length_mm);
    of.length("clamped", tr("Plate and washers"), &model::Bolting::clamped_mm);
    of.length("threaded", tr("Threaded over"), &model::Bolting::threaded_mm);
    of.words("grade", tr("Grade"), &model::Bolting::grade);
    of.choice("treatment", tr("Thread"), &model::Bolting::treatment,
              {{QStringLiteral("dry"), tr("dry")},
               {QStringLiteral("oiled"), tr("oiled")},
               {QStringLiteral("locker"), tr("with locker")},
               {QStringLiteral("anti_seize"), tr("with anti-seize")}});
    of.words("why", tr("Why so"), &model::Bolting::why);
    of.number("torque", tr("Tightened to, N·m"), &model::Bolting::torque_nm);
    of.length("socket", tr("Socket, outside"), &model::Bolting::socket_mm);
    of.length("nut_socket", tr("Nut's socket, outside"), &model::Bolting::nut_socket_mm);
    of.words("who", tr("Tightened by"), &model::Bolting::who);
    of.words("date", tr("On"), &model::Bolting::date);
}

void bracketFields(std::vector<Field>& out, const Editing<model::Bracket>& edit, const model::Bracket& b,
                   const char* prefix, const QString& heading) {
    out.push_back(fields::heading(heading));
    FieldsOf<model::Bracket> of(out, edit, b, prefix);
    of.choice("form", tr("Made of"), &model::Bracket::form,
              {{QStringLiteral("tube"), tr("a tube")},
               {QStringLiteral("folded"), tr("folded plate")},
               {QStringLiteral("flat"), tr("a flat plate")}});
    const bool flat = b.form == model::BracketForm::Flat;
    if (!flat) {
        of.length("tube", b.form == model::BracketForm::Folded ? tr("Channel's height") : tr("Tube, outside"),
                  &model::Bracket::tube_mm);
        of.length("wall", tr("Its wall"), &model::Bracket::wall_mm);
    }
    of.length("plate", tr("Plates"), &model::Bracket::plate_mm);
    if (!flat) {
        of.length("gusset", tr("Gussets' leg"), &model::Bracket::gusset_mm);
        of.length("throat", tr("Welds' throat"), &model::Bracket::throat_mm);
    }
    of.length("slot", tr("Seat slotted ±"), &model::Bracket::slot_mm);
    of.length("dowel", tr("Dowel"), &model::Bracket::dowel_mm);
    of.number("yield", tr("Steel's yield, N/mm²"), &model::Bracket::yield_mpa);
    if (flat) return;
    Rows rows;
    for (const Eigen::Vector3d& via : b.via_mm) rows.push_back({via.x(), via.y(), via.z()});
    out.push_back(fields::table(fieldName(prefix, "via"), tr("Corners"), {tr("x"), tr("y"), tr("z")}, rows, 0,
                                edit.set([](model::Bracket& its, const Rows& typed) {
                                    its.via_mm.clear();
                                    for (const auto& row : typed) its.via_mm.emplace_back(row[0], row[1], row[2]);
                                })));
    of.words("note", tr("Note"), &model::Bracket::note);
}

const Choices& madeWords() {
    static const Choices words{{QStringLiteral("own"), tr("own bracket")},
                               {QStringLiteral("adapter"), tr("adapter to buy")},
                               {QStringLiteral("sister"), tr("sister model's part")},
                               {QStringLiteral("kept"), tr("kept as it is")}};
    return words;
}

/// The rubber's axis as a protractor tells it. Both empty: as its stand points.
void leanFields(std::vector<Field>& out, const Editing<model::Mount>& edit, const Session& session,
                const model::Mount& mount) {
    double at_y_mm = 0;
    mounts::Lean as_placed;
    if (const auto placed = mounts::placedMount(*session.project(), store::defaultRuleBook(), mount); placed) {
        at_y_mm = placed.value().at_mm.y();
        as_placed = mounts::leanOf(placed.value().axes.col(2), at_y_mm);
    }
    const auto angle = [&](const char* name, const QString& label, double mounts::Lean::*which) {
        const Known now = mount.axis ? Known(mounts::leanOf(*mount.axis, at_y_mm).*which) : std::nullopt;
        out.push_back(fields::known(QString::fromLatin1(name), label, Dimension::Angle, now,
                                    edit.set([at_y_mm, as_placed, which](model::Mount& m, const Known& v) {
                                        mounts::Lean lean = m.axis ? mounts::leanOf(*m.axis, at_y_mm) : as_placed;
                                        if (v) lean.*which = *v;
                                        m.axis.reset();
                                        if (v) m.axis = mounts::axisOf(lean, at_y_mm);
                                    })));
    };
    angle("outward", tr("Rubber leans outward"), &mounts::Lean::outward_deg);
    angle("forward", tr("…and forward"), &mounts::Lean::forward_deg);
}

void mountFields(std::vector<Field>& out, Session& session, const model::Mount& mount) {
    const auto edit = editingOf(session, &Mounts::mounts, mount.id, mount.name);
    FieldsOf<model::Mount> of(out, edit, mount);
    of.words("name", tr("Name"), &model::Mount::name);
    of.choice("at", tr("Holds"), &model::Mount::at,
              {{QStringLiteral("engine"), tr("the engine")},
               {QStringLiteral("gearbox"), tr("the gearbox")},
               {QStringLiteral("other"), tr("something else")}});
    out.push_back(fields::choice(QStringLiteral("isolator"), tr("Isolator"), isolatorsOf(*session.project()),
                                 mount.isolator,
                                 edit.set([](model::Mount& m, const std::string& v) { m.isolator = v; })));
    of.place("centre", tr("Rubber's middle"), &model::Mount::centre_mm);
    leanFields(out, edit, session, mount);
    of.choice("made", tr("Made as"), &model::Mount::made, madeWords());
    of.number("cost", tr("Cost"), &model::Mount::cost);
    of.words("note", tr("That brings"), &model::Mount::note);
    const auto part = [&edit](auto get) {
        return edit.of<std::decay_t<decltype(*get(std::declval<model::Mount&>()))>>(get);
    };
    faceFields(out, part([](model::Mount& m) { return &m.pad; }), mount.pad, "pad", tr("Pad on the unit"));
    boltFields(out, part([](model::Mount& m) { return &m.pad_bolts; }), mount.pad_bolts, "pad_bolts",
               tr("Bolts of the pad"));
    if (mount.bracket)
        bracketFields(out, part([](model::Mount& m) { return m.bracket ? &*m.bracket : nullptr; }), *mount.bracket,
                      "bracket", tr("Bracket, pad to rubber"));
    out.push_back(fields::flag(QStringLiteral("has_stand"), tr("Has a stand on the vehicle"), mount.stand.has_value(),
                               edit.set([](model::Mount& m, bool on) {
                                   if (!on) m.stand.reset();
                                   if (on && !m.stand) {
                                       m.stand.emplace();
                                       if (m.centre_mm) m.stand->at_mm = *m.centre_mm - Eigen::Vector3d(0, 0, 30);
                                   }
                               })));
    if (mount.stand) {
        faceFields(out, part([](model::Mount& m) { return m.stand ? &*m.stand : nullptr; }), *mount.stand, "stand",
                   tr("Stand on the vehicle"));
        boltFields(out, part([](model::Mount& m) { return &m.stand_bolts; }), mount.stand_bolts, "stand_bolts",
                   tr("Bolts of the stand"));
    }
    if (mount.tower)
        bracketFields(out, part([](model::Mount& m) { return m.tower ? &*m.tower : nullptr; }), *mount.tower, "tower",
                      tr("Tower, stand to rubber"));
    if (!session.project()->mounts->frames.empty()) {
        Choices frames{{QString(), tr("none")}};
        for (const model::SeatFrame& f : session.project()->mounts->frames) frames.emplace_back(q(f.id), q(f.name));
        out.push_back(fields::choice(QStringLiteral("frame"), tr("Stands on the frame"), frames, mount.frame,
                                     edit.set([](model::Mount& m, const std::string& v) { m.frame = v; })));
    }
    out.push_back(fields::heading(tr("Other ways of making it")));
    for (std::size_t i = 0; i < mount.options.size(); ++i) {
        const auto option = edit.of<model::MountOption>(
            [i](model::Mount& m) { return i < m.options.size() ? &m.options[i] : nullptr; });
        const QByteArray prefix = QStringLiteral("option%1").arg(i + 1).toLatin1();
        FieldsOf<model::MountOption> its(out, option, mount.options[i], prefix.constData());
        its.words("name", tr("Called"), &model::MountOption::name);
        its.choice("made", tr("Made as"), &model::MountOption::made, madeWords());
        its.number("cost", tr("Cost"), &model::MountOption::cost);
        its.words("note", tr("That brings"), &model::MountOption::note);
    }
    out.push_back(fields::button(QStringLiteral("add_option"), tr("Add another way"), [&session, id = mount.id] {
        model::Project changed = *session.project();
        if (model::Mount* m = byId(changed.mounts->mounts, id))
            m->options.push_back({model::MountMade::Adapter, "Adapter to buy", {}, "", {}});
        session.change(QObject::tr("add another way of making a mount"), std::move(changed));
    }));
}

void isolatorFields(std::vector<Field>& out, Session& session, const model::Isolator& i) {
    const auto edit = editingOf(session, &Mounts::isolators, i.id, i.name);
    FieldsOf<model::Isolator> of(out, edit, i);
    of.words("name", tr("Name"), &model::Isolator::name);
    of.words("material", tr("Material"), &model::Isolator::material);
    const auto rate = [&](const char* own, const QString& label, double model::Isolator::*member) {
        out.push_back(
            fields::number(QString::fromLatin1(own), label, i.*member,
                           edit.set([member](model::Isolator& s, const Known& v) { s.*member = v.value_or(0); })));
    };
    rate("axial", tr("Rate along, N/mm"), &model::Isolator::axial_n_per_mm);
    rate("shear", tr("Across, along the vehicle"), &model::Isolator::shear_n_per_mm);
    of.number("shear2", tr("Across, sideways"), &model::Isolator::shear2_n_per_mm);
    of.number("rating", tr("Rated along it, N"), &model::Isolator::rating_n);
    of.number("shear_rating", tr("Rated across it, N"), &model::Isolator::shear_rating_n);
    of.length("stop_in", tr("Stop, pressed in"), &model::Isolator::stop_in_mm);
    of.length("stop_out", tr("Stop, pulled apart"), &model::Isolator::stop_out_mm);
    of.length("stop_side", tr("Stop, sideways"), &model::Isolator::stop_side_mm);
    of.flag("captive", tr("Halves hold one another"), &model::Isolator::captive);
    of.number("damping", tr("Damping, of critical"), &model::Isolator::damping);
    of.length("height", tr("Height, unloaded"), &model::Isolator::height_mm);
    of.length("diameter", tr("Diameter"), &model::Isolator::diameter_mm);
    of.known("mass", tr("Mass"), Dimension::Mass, &model::Isolator::mass_kg);
    of.number("cost", tr("Cost"), &model::Isolator::cost);
    of.words("source", tr("How known"), &model::Isolator::source);
}

void rowFields(std::vector<Field>& out, Session& session, const model::HoleRow& row) {
    const auto edit = editingOf(session, &Mounts::rows, row.id, row.name);
    FieldsOf<model::HoleRow> of(out, edit, row);
    of.words("name", tr("Name"), &model::HoleRow::name);
    of.place("at", tr("First hole"), &model::HoleRow::at_mm);
    of.place("step", tr("To the next"), &model::HoleRow::step_mm);
    out.push_back(fields::number(QStringLiteral("count"), tr("Holes"), row.count,
                                 edit.set([](model::HoleRow& r, const Known& v) { r.count = v.value_or(1); })));
    of.length("hole", tr("Diameter"), &model::HoleRow::hole_mm);
    of.length("slot", tr("Longer than wide by"), &model::HoleRow::slot_mm);
    of.length("accuracy", tr("Place to ±"), &model::HoleRow::accuracy_mm);
    of.words("note", tr("Note"), &model::HoleRow::note);
}

void crossmemberFields(std::vector<Field>& out, Session& session, const model::Crossmember& c) {
    const model::Mounts& mounts = *session.project()->mounts;
    const auto edit = editingOf(session, &Mounts::crossmembers, c.id, c.name);
    FieldsOf<model::Crossmember> of(out, edit, c);
    of.words("name", tr("Name"), &model::Crossmember::name);
    Choices which{{QString(), tr("none")}}, rows{{QString(), tr("none")}}, bodies{{QString(), tr("none")}};
    for (const model::Mount& m : mounts.mounts) which.emplace_back(q(m.id), q(m.name));
    for (const model::HoleRow& r : mounts.rows) rows.emplace_back(q(r.id), q(r.name));
    if (session.project()->vehicle)
        for (const model::Body& b : session.project()->vehicle->bodies)
            if (b.category == "crossmember") bodies.emplace_back(q(b.id.text), q(b.name));
    const auto pick = [&](const char* name, const QString& label, const Choices& list,
                          std::string model::Crossmember::*m) {
        out.push_back(fields::choice(QString::fromLatin1(name), label, list, c.*m,
                                     edit.set([m](model::Crossmember& its, const std::string& v) { its.*m = v; })));
    };
    pick("mount", tr("Carries"), which, &model::Crossmember::mount);
    pick("left_row", tr("Holes on the left"), rows, &model::Crossmember::left_row);
    pick("right_row", tr("Holes on the right"), rows, &model::Crossmember::right_row);
    of.flag("own", tr("Made for the swap"), &model::Crossmember::own);
    if (!c.own) of.place("seat", tr("Seat, from between its holes"), &model::Crossmember::seat_mm);
    of.length("slot", tr("Its slots ±"), &model::Crossmember::slot_mm);
    of.length("depth", tr("Bar's height"), &model::Crossmember::depth_mm);
    out.push_back(fields::choice(QStringLiteral("body"), tr("Body"), bodies, c.body.text,
                                 edit.set([](model::Crossmember& its, const std::string& v) { its.body.text = v; })));
    Rows passages;
    for (const model::Passage& p : c.passages) passages.push_back({p.at_mm.x(), p.at_mm.y(), p.diameter_mm});
    out.push_back(fields::table(QStringLiteral("passages"), tr("Ways through to keep"), {tr("y"), tr("z"), tr("wide")},
                                passages, 0, edit.set([](model::Crossmember& its, const Rows& typed) {
                                    its.passages.resize(typed.size());
                                    for (std::size_t i = 0; i < typed.size(); ++i) {
                                        model::Passage& p = its.passages[i];
                                        if (p.name.empty()) p.name = "exhaust " + std::to_string(i + 1);
                                        p.at_mm = {typed[i][0], typed[i][1]};
                                        p.diameter_mm = typed[i][2];
                                    }
                                })));
    of.words("note", tr("Note"), &model::Crossmember::note);
}

void seatFields(std::vector<Field>& out, Session& session, const model::OldSeat& seat) {
    const auto edit = editingOf(session, &Mounts::seats, seat.id, seat.name);
    FieldsOf<model::OldSeat>(out, edit, seat).words("name", tr("Name"), &model::OldSeat::name);
    faceFields(out, edit.of<model::MountFace>([](model::OldSeat& s) { return &s.face; }), seat.face, "face",
               tr("What is there"));
}

void frameFields(std::vector<Field>& out, Session& session, const model::SeatFrame& f) {
    const auto edit = editingOf(session, &Mounts::frames, f.id, f.name);
    FieldsOf<model::SeatFrame> of(out, edit, f);
    of.words("name", tr("Name"), &model::SeatFrame::name);
    for (const model::OldSeat& seat : session.project()->mounts->seats)
        out.push_back(fields::flag(QStringLiteral("seat_") + q(seat.id), tr("On %1").arg(q(seat.name)),
                                   std::find(f.seats.begin(), f.seats.end(), seat.id) != f.seats.end(),
                                   edit.set([id = seat.id](model::SeatFrame& its, bool on) {
                                       its.seats.erase(std::remove(its.seats.begin(), its.seats.end(), id),
                                                       its.seats.end());
                                       if (on) its.seats.push_back(id);
                                   })));
    of.length("width", tr("Tube's width"), &model::SeatFrame::width_mm);
    of.length("height", tr("Its height"), &model::SeatFrame::height_mm);
    of.length("wall", tr("Its wall"), &model::SeatFrame::wall_mm);
    for (std::size_t i = 0; i < f.members_mm.size(); ++i) {
        Rows rows;
        for (const Eigen::Vector3d& corner : f.members_mm[i]) rows.push_back({corner.x(), corner.y(), corner.z()});
        out.push_back(fields::table(QStringLiteral("member%1").arg(i + 1), tr("Tube %1").arg(i + 1),
                                    {tr("x"), tr("y"), tr("z")}, rows, 0,
                                    edit.set([i](model::SeatFrame& its, const Rows& typed) {
                                        if (i >= its.members_mm.size()) return;
                                        its.members_mm[i].clear();
                                        for (const auto& row : typed)
                                            its.members_mm[i].emplace_back(row[0], row[1], row[2]);
                                        if (typed.empty())
                                            its.members_mm.erase(its.members_mm.begin() + static_cast<long>(i));
                                    })));
    }
    of.words("note", tr("Note"), &model::SeatFrame::note);
}

void oldFields(std::vector<Field>& out, Session& session, const model::OldMount& old) {
    const auto edit = editingOf(session, &Mounts::old_mounts, old.id, old.name);
    FieldsOf<model::OldMount> of(out, edit, old);
    of.words("name", tr("Name"), &model::OldMount::name);
    Choices bodies{{QString(), tr("none")}}, seats{{QString(), tr("none")}};
    if (session.project()->vehicle)
        for (const model::Body& b : session.project()->vehicle->bodies) bodies.emplace_back(q(b.id.text), q(b.name));
    for (const model::OldSeat& s : session.project()->mounts->seats) seats.emplace_back(q(s.id), q(s.name));
    if (old.state == model::OldState::Stays) // its body is out of the bay once it is planned to go
        out.push_back(fields::choice(QStringLiteral("body"), tr("Body"), bodies, old.body.text,
                                     edit.set([](model::OldMount& o, const std::string& v) { o.body.text = v; })));
    out.push_back(fields::choice(QStringLiteral("seat"), tr("Seat that goes with it"), seats, old.seat,
                                 edit.set([](model::OldMount& o, const std::string& v) { o.seat = v; })));
    of.words("note", tr("Note"), &model::OldMount::note);
}

void unitFields(std::vector<Field>& out, Session& session, const Mounts& mounts) {
    const Editing<Mounts> edit(
        session, [](model::Project& p) { return p.mounts ? &*p.mounts : nullptr; }, tr("what shakes the unit"));
    FieldsOf<Mounts> of(out, edit, mounts);
    // One rubber for all that hold the engine, and one for all others: one step, however many they are.
    const auto together = [&](const char* name, const QString& label, bool engine) {
        std::vector<std::string> ids;
        std::optional<std::string> common;
        for (const model::Mount& m : mounts.mounts)
            if ((m.at == model::MountAt::Engine) == engine) {
                if (ids.empty()) common = m.isolator;
                if (common && *common != m.isolator) common.reset();
                ids.push_back(m.id);
            }
        if (ids.empty()) return;
        Choices list = isolatorsOf(*session.project());
        if (!common) list.insert(list.begin(), {QStringLiteral("/mixed"), tr("different ones")});
        out.push_back(fields::choice(
            QString::fromLatin1(name), label, list, common.value_or("/mixed"), [&session, ids](const std::string& v) {
                if (v == "/mixed") return true;
                auto changed = mounts::withIsolator(
                    *session.project(), model::applied(store::defaultRuleBook(), session.project()->rules), ids, v);
                return changed && session.edit(QObject::tr("change the isolators"), std::move(changed).value());
            }));
    };
    out.push_back(fields::heading(tr("What it hangs on")));
    together("engine_isolator", tr("Engine's isolators"), true);
    together("other_isolator", tr("The others"), false);
    const model::Running none;
    const auto running = Editing<model::Running>(
        session,
        [](model::Project& p) -> model::Running* {
            if (!p.mounts) return nullptr;
            if (!p.mounts->running) p.mounts->running.emplace();
            return &*p.mounts->running;
        },
        tr("what shakes the unit"));
    out.push_back(fields::heading(tr("What shakes it")));
    FieldsOf<model::Running> run(out, running, mounts.running ? *mounts.running : none, "running");
    run.choice("layout", tr("Cylinders"), &model::Running::layout,
               {{QStringLiteral("inline"), tr("in line")},
                {QStringLiteral("vee"), tr("in a vee")},
                {QStringLiteral("flat"), tr("flat")},
                {QStringLiteral("none"), tr("none: electric")}});
    run.number("cylinders", tr("How many"), &model::Running::cylinders);
    run.number("idle", tr("Idle, rpm"), &model::Running::idle_rpm);
    run.flag("two_stroke", tr("Two-stroke"), &model::Running::two_stroke);
    run.flag("balance", tr("Balance shafts"), &model::Running::balance_shafts);
    run.known("reciprocating", tr("Piston, pin, small end"), Dimension::Mass, &model::Running::reciprocating_kg);
    run.length("stroke", tr("Stroke"), &model::Running::stroke_mm);
    run.length("rod", tr("Rod, between centres"), &model::Running::rod_mm);
    out.push_back(fields::heading(tr("What turns it")));
    of.number("torque", tr("Engine's torque, N·m"), &Mounts::torque_nm);
    of.flag("reacts", tr("Final drive in the unit"), &Mounts::reacts_axle_torque);
    of.flag("transfer", tr("Transfer case hangs on it"), &Mounts::transfer_on_unit);
    of.known("driven", tr("Load on driven wheels"), Dimension::Mass, &Mounts::driven_axle_kg);
    out.push_back(fields::heading(tr("Inertia about its centre")));
    out.push_back(fields::flag(
        QStringLiteral("inertia_own"), tr("Known better than from its masses"), mounts.inertia.has_value(),
        edit.set([&session](Mounts& m, bool on) {
            if (!on) m.inertia.reset();
            if (!on || m.inertia) return;
            m.inertia.emplace();
            m.inertia->moments_kg_m2 = {10, 30, 30};
            const auto reports = session.reports();
            if (reports && reports->of<mounts::MountsReport>() && reports->of<mounts::MountsReport>()->usable)
                m.inertia->moments_kg_m2 = reports->of<mounts::MountsReport>()->unit.body.inertia_kg_m2.diagonal();
        })));
    if (mounts.inertia) {
        const auto inertia = edit.of<model::Inertia>([](Mounts& m) { return m.inertia ? &*m.inertia : nullptr; });
        FieldsOf<model::Inertia> its(out, inertia, *mounts.inertia, "inertia");
        its.direction("moments", tr("About x', y', z', kg·m²"), &model::Inertia::moments_kg_m2);
        its.direction("products", tr("Products y'z', x'z', x'y'"), &model::Inertia::products_kg_m2);
        its.words("source", tr("How known"), &model::Inertia::source);
    }
}

} // namespace

std::vector<Field> mountsFields(Session& session, const QString& key) {
    std::vector<Field> out;
    if (!session.project()->mounts) return out;
    const Mounts& mounts = *session.project()->mounts;
    const QString kind = key.section(QLatin1Char(':'), 0, 0);
    const std::string id = key.section(QLatin1Char(':'), 1).toStdString();
    const auto give = [&](const auto& list, auto make) {
        if (const auto* item = byId(list, id)) make(out, session, *item);
    };
    if (kind == QLatin1String("unit")) unitFields(out, session, mounts);
    if (kind == QLatin1String("mount")) give(mounts.mounts, mountFields);
    if (kind == QLatin1String("isolator")) give(mounts.isolators, isolatorFields);
    if (kind == QLatin1String("row")) give(mounts.rows, rowFields);
    if (kind == QLatin1String("crossmember")) give(mounts.crossmembers, crossmemberFields);
    if (kind == QLatin1String("seat")) give(mounts.seats, seatFields);
    if (kind == QLatin1String("frame")) give(mounts.frames, frameFields);
    if (kind == QLatin1String("old")) give(mounts.old_mounts, oldFields);
    return out;
}

} // namespace gabarit::app
