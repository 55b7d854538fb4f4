#include "fields/part_fields.h"

#include "fields/described.h"
#include "fit/fit_report.h"
#include "parts/parts.h"

#include <algorithm>

namespace gabarit::app {
namespace {

using model::Part;

Part* findPart(model::Project& project, const model::PartId& id) {
    auto* parts = project.sections.own<model::Parts>();
    if (!parts) return nullptr;
    const auto at = std::find_if(parts->begin(), parts->end(), [&](const Part& p) { return p.id == id; });
    return at == parts->end() ? nullptr : &*at;
}

/// By its name, whatever its letters' case, or its id; null when there is none.
const Part* partCalled(const model::Project& project, const QString& name) {
    for (const Part& part : model::partsOf(project))
        if (q(part.name).compare(name, Qt::CaseInsensitive) == 0 || q(part.id.text) == name) return &part;
    return nullptr;
}

/// "isolators, brackets": the names of what it needs, and back.
std::string namesOf(const model::Project& project, const std::vector<model::PartId>& ids) {
    const model::Parts& parts = model::partsOf(project);
    std::string names;
    for (const model::PartId& id : ids) {
        const auto at = std::find_if(parts.begin(), parts.end(), [&](const Part& p) { return p.id == id; });
        names += (names.empty() ? "" : ", ") + (at == parts.end() ? id.text : at->name);
    }
    return names;
}

} // namespace

std::vector<Field> partFields(Session& session, const model::PartId& id) {
    model::Project project = *session.project();
    const Part* part = findPart(project, id);
    if (!part) return {};
    const QString undo = tr("change the part \"%1\"").arg(q(part->name));
    std::vector<Field> out;
    describedFields(
        out,
        Editing<Part>(
            session, [id](model::Project& p) { return findPart(p, id); }, tr("the part \"%1\"").arg(q(part->name))),
        *part);
    Field needs = fields::words(
        QStringLiteral("needs"), tr("Needs also"), namesOf(project, part->needs),
        [&session, id, undo](const std::string& names) {
            model::Project changed = *session.project();
            Part* target = findPart(changed, id);
            if (!target) return false;
            target->needs.clear();
            const QStringList pieces = q(names).split(QLatin1Char(','), Qt::SkipEmptyParts);
            for (int i = 0, many = 0; i < pieces.size(); i += many) {
                // A name may hold a comma: the longest that there is counts.
                const Part* named = nullptr;
                for (many = static_cast<int>(pieces.size()) - i; many > 0 && !named; many -= !named)
                    named = partCalled(changed, pieces.mid(i, many).join(QLatin1Char(',')).trimmed());
                if (!named) {
                    emit session.notice(tr("There is no part \"%1\" in the list. Add it first, or correct the name.")
                                            .arg(pieces[i].trimmed()),
                                        true);
                    return false;
                }
                target->needs.push_back(named->id);
            }
            return session.edit(undo, std::move(changed));
        });
    needs.tip = tr("Names of other parts, with commas between");
    putAfter(out, QStringLiteral("source"), std::move(needs));
    // Each home says whether the part goes in.
    const auto reports = session.reports();
    if (reports && hasField(out, QStringLiteral("home")))
        for (auto& [volume, words] : fieldNamed(out, QStringLiteral("home")).choices)
            for (const fit::HomeSearch& search : reports->with<fit::FitReport>().free_room.searches)
                for (const fit::HomeOffer& offer : search.offers)
                    if (search.part == id && q(offer.volume) == volume)
                        words += offer.verdict == model::Verdict::Go ? tr(" · goes in") : tr(" · ") + q(offer.reason);
    return out;
}

} // namespace gabarit::app
