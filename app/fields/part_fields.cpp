#include "fields/part_fields.h"

#include "fields/survey_forms.h"
#include "fit/fit_report.h"
#include "forms/text.h"
#include "ledger/parts.h"
#include "session/session.h"

#include <algorithm>

namespace gabarit::app {
namespace {

using model::Part;
using quantity::Dimension;

Part* findPart(model::Project& project, const model::PartId& id) {
    if (!project.parts) return nullptr;
    const auto at =
        std::find_if(project.parts->begin(), project.parts->end(), [&](const Part& p) { return p.id == id; });
    return at == project.parts->end() ? nullptr : &*at;
}

/// "isolators, brackets": the names of what it needs, and back.
std::string namesOf(const model::Project& project, const std::vector<model::PartId>& ids) {
    std::string names;
    for (const model::PartId& id : ids) {
        const auto at =
            std::find_if(project.parts->begin(), project.parts->end(), [&](const Part& p) { return p.id == id; });
        names += (names.empty() ? "" : ", ") + (at == project.parts->end() ? id.text : at->name);
    }
    return names;
}

/// Every option of every owner, as "owner/choice/option".
} // namespace

std::vector<Field> partFields(Session& session, const model::PartId& id) {
    model::Project project = *session.project();
    const Part* part = findPart(project, id);
    if (!part) return {};
    const QString undo = tr("change the part \"%1\"").arg(q(part->name));
    const auto set = [&session, id, undo](auto change) {
        return [&session, id, undo, change](const auto& value) {
            model::Project changed = *session.project();
            Part* target = findPart(changed, id);
            if (!target) return false;
            change(*target, value);
            return session.edit(undo, std::move(changed));
        };
    };
    using Known = std::optional<double>;
    std::vector<Field> out;
    out.push_back(fields::words(QStringLiteral("name"), tr("Name"), part->name,
                                set([](Part& p, const std::string& v) { p.name = v; })));
    Choices states;
    for (int s = 0; s <= static_cast<int>(model::PartState::Sold); ++s)
        states.emplace_back(QString::number(s), QLatin1String(ledger::word(static_cast<model::PartState>(s))));
    out.push_back(fields::choice(
        QStringLiteral("state"), tr("State"), states, std::to_string(static_cast<int>(part->state)),
        set([](Part& p, const std::string& v) { p.state = static_cast<model::PartState>(std::stoi(v)); })));
    out.push_back(fields::number(QStringLiteral("cost"),
                                 part->state == model::PartState::Sold ? tr("Brought in") : tr("Cost"), part->cost,
                                 set([](Part& p, const Known& v) { p.cost = v; })));
    out.push_back(fields::words(QStringLiteral("source"), tr("From"), part->source,
                                set([](Part& p, const std::string& v) { p.source = v; })));
    out.push_back(fields::words(QStringLiteral("why"), tr("What for"), part->why,
                                set([](Part& p, const std::string& v) { p.why = v; })));
    out.push_back(fields::words(
        QStringLiteral("needs"), tr("Needs also"), namesOf(project, part->needs),
        [&session, id, undo](const std::string& names) {
            model::Project changed = *session.project();
            Part* target = findPart(changed, id);
            if (!target) return false;
            target->needs.clear();
            for (const QString& piece : q(names).split(QLatin1Char(','), Qt::SkipEmptyParts)) {
                const QString name = piece.trimmed();
                const auto at = std::find_if(changed.parts->begin(), changed.parts->end(), [&](const Part& p) {
                    return q(p.name).compare(name, Qt::CaseInsensitive) == 0 || q(p.id.text) == name;
                });
                if (at == changed.parts->end()) {
                    emit session.notice(
                        tr("There is no part \"%1\" in the list. Add it first, or correct the name.").arg(name), true);
                    return false;
                }
                target->needs.push_back(at->id);
            }
            return session.edit(undo, std::move(changed));
        }));
    out.back().tip = tr("Names of other parts, with commas between");
    out.push_back(fields::choice(QStringLiteral("option"), tr("Comes with"), allOptions(project), part->option,
                                 set([](Part& p, const std::string& v) { p.option = v; })));
    out.push_back(fields::heading(tr("What it weighs")));
    out.push_back(fields::choice(QStringLiteral("on_car"), tr("It counts as"),
                                 {{QStringLiteral("0"), tr("no weight")},
                                  {QStringLiteral("1"), tr("put on")},
                                  {QStringLiteral("2"), tr("taken off")}},
                                 std::to_string(static_cast<int>(part->on_car)), set([](Part& p, const std::string& v) {
                                     p.on_car = static_cast<model::OnCar>(std::stoi(v));
                                 })));
    out.push_back(fields::known(QStringLiteral("mass"), tr("Mass"), Dimension::Mass, part->mass_kg,
                                set([](Part& p, const Known& v) { p.mass_kg = v; })));
    if (part->mass_kg)
        out.push_back(massFromField(part->mass_from, set([](Part& p, model::MassFrom v) { p.mass_from = v; })));
    Choices bodies = bodyChoices(project);
    bodies.insert(bodies.begin(), {QString(), tr("a place of its own")});
    out.push_back(fields::choice(QStringLiteral("body"), tr("Sits at"), bodies, part->body,
                                 set([](Part& p, const std::string& v) { p.body = v; })));
    if (part->body.empty()) {
        const QString labels[] = {tr("Rearward (x)"), tr("To the right (y)"), tr("Up (z)")};
        const char* const names[] = {"x", "y", "z"};
        for (int i = 0; i < 3; ++i)
            out.push_back(fields::known(QString::fromLatin1(names[i]), labels[i], Dimension::Length,
                                        part->at_mm ? Known((*part->at_mm)[i]) : Known(),
                                        set([i](Part& p, const Known& v) {
                                            if (!v) return p.at_mm.reset();
                                            Eigen::Vector3d at = p.at_mm.value_or(Eigen::Vector3d::Zero());
                                            at[i] = *v;
                                            p.at_mm = at;
                                        })));
        out.push_back(fields::flag(QStringLiteral("rides_on_donor"), tr("rides on the donor, measured from it"),
                                   part->rides_on_donor, set([](Part& p, bool v) { p.rides_on_donor = v; })));
    }
    out.push_back(fields::heading(tr("Where it lives")));
    const QString sizes[] = {tr("Size, longest"), tr("Size, next"), tr("Size, shortest")};
    for (int i = 0; i < 3; ++i)
        out.push_back(fields::known(QStringLiteral("size_%1").arg(i), sizes[i], Dimension::Length,
                                    part->size_mm && (*part->size_mm)[i] > 0 ? Known((*part->size_mm)[i]) : Known(),
                                    set([i](Part& p, const Known& v) {
                                        Eigen::Vector3d size = p.size_mm.value_or(Eigen::Vector3d::Zero());
                                        // The first side that is known stands for the others until they are.
                                        if (!p.size_mm) size.setConstant(v.value_or(0));
                                        size[i] = v.value_or(0);
                                        p.size_mm = size.minCoeff() > 0 ? std::optional(size) : std::nullopt;
                                    })));
    Choices homes{{QString(), tr("no home yet")}};
    const auto reports = session.reports();
    if (project.vehicle)
        for (const model::FreeVolume& volume : project.vehicle->free_volumes) {
            QString words = q(volume.name);
            if (reports)
                for (const fit::HomeSearch& search : reports->with<fit::FitReport>().free_room.searches)
                    for (const fit::HomeOffer& offer : search.offers)
                        if (search.part == id && offer.volume == volume.id)
                            words +=
                                offer.verdict == model::Verdict::Go ? tr(" · goes in") : tr(" · ") + q(offer.reason);
            homes.emplace_back(q(volume.id), words);
        }
    out.push_back(fields::choice(QStringLiteral("home"), tr("Home"), homes, part->home,
                                 set([](Part& p, const std::string& v) { p.home = v; })));
    out.back().tip = tr("Free room that was found in the survey; each says whether the part goes in");
    out.push_back(fields::words(QStringLiteral("note"), tr("Note"), part->note,
                                set([](Part& p, const std::string& v) { p.note = v; })));
    return out;
}

} // namespace gabarit::app
