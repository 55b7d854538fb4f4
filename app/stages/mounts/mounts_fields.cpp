#include "stages/mounts/mounts_fields.h"

#include "fields/described.h"
#include "mounts/apply.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "store/rule_book.h"

namespace gabarit::app {
namespace {

using model::Mounts;

/// The rubber's axis as a protractor tells it. Both empty: as its stand points.
std::vector<Field> leanFields(const Editing<model::Mount>& edit, const Session& session, const model::Mount& mount) {
    std::vector<Field> out;
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
    return out;
}

/// Put on another owner a face stays where it stands. `faceOf` may give null.
template <class T, class FaceOf>
void keepsPlace(std::vector<Field>& out, Session& session, const Editing<T>& edit, const T& item, const char* name,
                FaceOf faceOf) {
    if (!hasField(out, QLatin1String(name))) return;
    Field& owner = fieldNamed(out, QLatin1String(name));
    T copy = item;
    const model::MountFace* face = faceOf(copy);
    if (!face) return;
    owner.set_text = [&session, edit, faceOf, face = *face, plain = owner.set_text](const QString& id) {
        const auto stays = mounts::onOwner(*session.project(), face, id.toStdString());
        if (!stays || id == q(face.owner)) return plain(id);
        return edit.named(QObject::tr("It is on")).set([faceOf, stays](T& its, const QString&) {
            if (model::MountFace* there = faceOf(its)) *there = stays.value();
        })(id);
    };
}

void mountFields(std::vector<Field>& out, Session& session, const model::Mount& mount) {
    const auto edit = editingOf(session, &Mounts::mounts, mount.id, q(mount.name));
    describedFields(out, edit, mount);
    keepsPlace(out, session, edit, mount, "pad_owner", [](model::Mount& m) { return &m.pad; });
    keepsPlace(out, session, edit, mount, "stand_owner", [](model::Mount& m) { return m.stand ? &*m.stand : nullptr; });
    std::vector<Field> lean = leanFields(edit, session, mount);
    for (auto field = lean.rbegin(); field != lean.rend(); ++field)
        putAfter(out, QStringLiteral("centre_mm"), std::move(*field));
    // A new stand begins below the rubber.
    fieldNamed(out, QStringLiteral("has_stand")).set_on = edit.set([](model::Mount& m, bool on) {
        if (!on) m.stand.reset();
        if (on && !m.stand) {
            m.stand.emplace();
            if (m.centre_mm) m.stand->at_mm = *m.centre_mm - Eigen::Vector3d(0, 0, 30);
        }
    });
    out.push_back(
        fields::button(QStringLiteral("add_option"), tr("Add another way of making it"), [&session, id = mount.id] {
            model::Project changed = *session.project();
            if (model::Mount* m = byId(changed.sections.edit<model::Mounts>().mounts, id))
                m->options.push_back({model::MountMade::Adapter, "Adapter to buy", {}, "", {}});
            session.change(QObject::tr("add another way of making a mount"), std::move(changed));
        }));
}

/// What a list holds that has nothing to add to its description.
template <class T>
void plainFields(std::vector<Field>& out, Session& session, std::vector<T> Mounts::*list, const T& item) {
    describedFields(out, editingOf(session, list, item.id, q(item.name)), item);
}

void seatFields(std::vector<Field>& out, Session& session, const model::OldSeat& seat) {
    const auto edit = editingOf(session, &Mounts::seats, seat.id, q(seat.name));
    describedFields(out, edit, seat);
    keepsPlace(out, session, edit, seat, "face_owner", [](model::OldSeat& its) { return &its.face; });
}

void crossmemberFields(std::vector<Field>& out, Session& session, const model::Crossmember& c) {
    plainFields(out, session, &Mounts::crossmembers, c);
    Choices bodies{{QString(), tr("none")}};
    if (session.project()->vehicle)
        for (const model::Body& b : session.project()->vehicle->bodies)
            if (b.category == "crossmember") bodies.emplace_back(q(b.id.text), q(b.name));
    if (hasField(out, QStringLiteral("body"))) chosenFrom(out, QStringLiteral("body"), std::move(bodies));
}

void frameFields(std::vector<Field>& out, Session& session, const model::SeatFrame& f) {
    const auto edit = editingOf(session, &Mounts::frames, f.id, q(f.name));
    std::vector<Field> own;
    describedFields(own, edit, f);
    out.push_back(std::move(own.front())); // its name
    for (const model::OldSeat& seat : session.project()->sections.get<model::Mounts>()->seats)
        out.push_back(fields::flag(QStringLiteral("seat_") + q(seat.id), tr("On %1").arg(q(seat.name)),
                                   std::find(f.seats.begin(), f.seats.end(), seat.id) != f.seats.end(),
                                   edit.set([id = seat.id](model::SeatFrame& its, bool on) {
                                       its.seats.erase(std::remove(its.seats.begin(), its.seats.end(), id),
                                                       its.seats.end());
                                       if (on) its.seats.push_back(id);
                                   })));
    for (std::size_t i = 1; i < own.size(); ++i) out.push_back(std::move(own[i]));
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
}

void unitFields(std::vector<Field>& out, Session& session, const Mounts& mounts) {
    const Editing<Mounts> edit(
        session, [](model::Project& p) { return p.sections.own<model::Mounts>(); }, tr("what shakes the unit"));
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
        Choices list = among(*session.project(), "mounts/isolators");
        list.insert(list.begin(), {QString(), tr("none chosen")});
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
    describedFields(out, edit, mounts);
    // Its own figures begin as they would be without.
    fieldNamed(out, QStringLiteral("has_inertia")).set_on = edit.set([&session](Mounts& m, bool on) {
        if (!on) m.inertia.reset();
        if (!on || m.inertia) return;
        m.inertia.emplace();
        m.inertia->moments_kg_m2 = {10, 30, 30};
        const auto reports = session.reports();
        if (reports && reports->of<mounts::MountsReport>() && reports->of<mounts::MountsReport>()->usable)
            m.inertia->moments_kg_m2 = reports->of<mounts::MountsReport>()->unit.body.inertia_kg_m2.diagonal();
    });
}

} // namespace

std::vector<Field> mountsFields(Session& session, const QString& key) {
    std::vector<Field> out;
    const auto* its = session.project()->sections.get<model::Mounts>();
    if (!its) return out;
    const Mounts& mounts = *its;
    const QString kind = key.section(QLatin1Char(':'), 0, 0);
    const std::string id = key.section(QLatin1Char(':'), 1).toStdString();
    const auto give = [&](const auto& list, auto make) {
        if (const auto* item = byId(list, id)) make(out, session, *item);
    };
    if (kind == QLatin1String("unit")) unitFields(out, session, mounts);
    if (kind == QLatin1String("mount")) give(mounts.mounts, mountFields);
    const auto plain = [&](auto list) {
        if (const auto* item = byId(mounts.*list, id)) plainFields(out, session, list, *item);
    };
    if (kind == QLatin1String("isolator")) plain(&Mounts::isolators);
    if (kind == QLatin1String("row")) plain(&Mounts::rows);
    if (kind == QLatin1String("crossmember")) give(mounts.crossmembers, crossmemberFields);
    if (kind == QLatin1String("seat")) give(mounts.seats, seatFields);
    if (kind == QLatin1String("frame")) give(mounts.frames, frameFields);
    if (kind == QLatin1String("old")) plain(&Mounts::old_mounts);
    return out;
}

} // namespace gabarit::app
