#include "stages/relief/relief_fields.h"

#include "driveline/section/driveline.h"
#include "fields/described.h"
#include "mounts/section/mounts.h"
#include "relief/apply.h"
#include "relief/section/relief.h"
#include "shape/pocket.h"
#include "store/rule_book.h"

namespace gabarit::app {
namespace {

using model::Relief;

Choices facesOf(const model::Project& project) {
    Choices out{{QString(), tr("its own holes only")}};
    if (const auto* mounts = project.sections.get<model::Mounts>())
        for (const model::Mount& mount : mounts->mounts) {
            out.emplace_back(q(mount.id) + QStringLiteral("/pad"), tr("%1, pad").arg(q(mount.name)));
            if (mount.stand)
                out.emplace_back(q(mount.id) + QStringLiteral("/stand"), tr("%1, stand").arg(q(mount.name)));
        }
    if (const auto* mounts = project.sections.get<model::Mounts>())
        for (const model::OldSeat& seat : mounts->seats)
            out.emplace_back(QStringLiteral("seat/") + q(seat.id), q(seat.name));
    if (const auto* driveline = project.sections.get<model::Driveline>())
        for (const model::Interface& interface : driveline->interfaces) {
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
        editingOf(session, &Relief::pockets, pocket.id, q(pocket.name)).also([id = pocket.id](model::Project& p) {
            const model::Pocket* its = byId(p.sections.get<model::Relief>()->pockets, id);
            p = relief::withPocket(p, model::applied(store::defaultRuleBook(), p.rules), model::Pocket(*its));
        });
    describedFields(out, edit, pocket);
    const model::Body* body = model::findBody(*session.project(), {model::vehicle_owner, pocket.body});
    if (!body || !shape::isSheet(body->shape)) return;
    // A sheet is folded or formed from one piece, without straps.
    if (pocket.flank_deg == 0) dropField(out, QStringLiteral("flank_deg"));
    dropField(out, QStringLiteral("doubler_mm"));
    dropField(out, QStringLiteral("doubler_over_mm"));
}

void plateFields(std::vector<Field>& out, Session& session, const model::PatternPlate& plate) {
    describedFields(out, editingOf(session, &Relief::plates, plate.id, q(plate.name)), plate);
    for (const char* end : {"from", "to"})
        if (hasField(out, QLatin1String(end))) chosenFrom(out, QLatin1String(end), facesOf(*session.project()));
}

} // namespace

std::vector<Field> reliefFields(Session& session, const QString& key) {
    std::vector<Field> out;
    const auto* its = session.hasProject() ? session.project()->sections.get<model::Relief>() : nullptr;
    if (!its) return out;
    const Relief& relief = *its;
    const std::string id = key.section(QLatin1Char(':'), 1).toStdString();
    if (key.startsWith(QLatin1String("pocket:"))) {
        if (const auto* pocket = byId(relief.pockets, id)) pocketFields(out, session, *pocket);
    } else if (key.startsWith(QLatin1String("tube:"))) {
        if (const auto* tube = byId(relief.tubes, id))
            describedFields(out, editingOf(session, &Relief::tubes, id, q(tube->name)), *tube);
    } else if (key.startsWith(QLatin1String("plate:"))) {
        if (const auto* plate = byId(relief.plates, id)) plateFields(out, session, *plate);
    } else if (key.startsWith(QLatin1String("hole:"))) {
        if (const auto* hole = byId(relief.holes, id))
            describedFields(out, editingOf(session, &Relief::holes, id, q(hole->name)), *hole);
    }
    return out;
}

} // namespace gabarit::app
