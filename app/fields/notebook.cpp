// What a survey's notebook holds besides bodies: readings, areas, the old engine, what was found, rooms.
#include "fields/described.h"
#include "fields/survey_forms.h"
#include "fit/fit_report.h"
#include "fit/outgoing.h"
#include "forms/text.h"
#include "model/edit.h"
#include "model/tape.h"
#include "parts/parts.h"
#include "session/session.h"
#include "store/rule_book.h"
#include "survey/survey.h"

#include <QDate>

#include <algorithm>

namespace gabarit::app {
namespace {

using Eigen::Vector3d;
using quantity::Dimension;

constexpr double usual_room_mm = 200;

QString length(const Session& session, double mm, int digits = 0) {
    return q(quantity::lengthText(mm, session.shown(), digits));
}

template <class Item>
std::vector<std::string> idsOf(const std::vector<Item>& items) {
    std::vector<std::string> out;
    for (const Item& item : items) out.push_back(item.id);
    return out;
}
template <class Item>
void dropId(std::vector<Item>& items, const std::string& id) {
    items.erase(std::remove_if(items.begin(), items.end(), [&](const Item& item) { return item.id == id; }),
                items.end());
}

template <class Item>
void measuredFields(std::vector<Field>& out, const Editing<Item>& edit, const Item& item) {
    for (Field& field : provenanceFields(edit.session(), item.measured,
                                         edit.set([](Item&i, const model::Provenance&v) { i.measured = v; })))
        out.push_back(std::move(field));
}

// Readings

model::Tape* tapeAt(model::Project& project, const std::string& owner, const ReadingPlace& place,
                    std::string* name = nullptr) {
    return model::findTape(project, owner, place.id, place.point, name);
}

std::vector<Field> readingFields(Session& session, const std::string& owner, const QString& key) {
    const auto place = readingPlace(key);
    model::Project project = *session.project();
    std::string whose;
    model::Tape* tape = place ? tapeAt(project, owner, *place, &whose) : nullptr;
    const model::Reading* reading = tape ? model::findReading(*tape, place->what, place->station) : nullptr;
    if (!reading) return {};
    using R = model::Reading;
    const Editing<R> edit(
        session,
        [owner, at = *place](model::Project& p) {
            model::Tape* t = tapeAt(p, owner, at);
            return t ? model::findReading(*t, at.what, at.station) : nullptr;
        },
        tr("a tape reading"));
    std::vector<Field> out;
    const model::TapeSlot* slot = model::tapeSlot(*tape, *reading);
    out.push_back(fields::heading(q(model::readingWords(project, owner, whose, *tape, *reading))));
    out.push_back(fields::quantity(QStringLiteral("reading"), tr("The tape read"), Dimension::Length, reading->mm,
                                   edit.set([](R& r, double v) { r.mm = v; })));
    if (slot && slot->axis >= 0)
        out.back().tip = sided(project, owner, tr("From its hook: rearward, {to_right} and up are positive"));
    out.push_back(fields::known(QStringLiteral("accuracy_mm"), tr("Read to ±"), Dimension::Length, reading->accuracy_mm,
                                edit.set([](R& r, const Known& v) { r.accuracy_mm = v; })));
    measuredFields(out, edit, *reading);
    out.push_back(fields::words(QStringLiteral("note"), tr("Note"), reading->note,
                                edit.set([](R& r, const std::string& v) { r.note = v; })));
    return out;
}

std::vector<SurveyEntry> readingEntries(const model::Project& project, const std::string& owner, Session& session) {
    std::vector<SurveyEntry> out;
    const auto add = [&](const std::string& id, const std::string& name, const model::Tape& tape, bool point) {
        for (const model::Reading& reading : tape.readings) {
            QString words = tr("%1 · %2").arg(q(model::readingWords(project, owner, name, tape, reading)),
                                              length(session, reading.mm, 1));
            if (reading.measured.method == model::Method::Assumed) words += tr(" · assumed");
            out.push_back({readingKey({id, point, reading.what, reading.station}), words});
        }
    };
    if (const auto* bodies = model::bodiesOf(project, owner))
        for (const model::Body& body : *bodies) add(body.id.text, body.name, body.tape, false);
    if (const auto* points = model::pointsOf(project, owner))
        for (const model::HardPoint& point : *points) add(point.id.text, point.name, point.tape, true);
    return out;
}

// Areas

survey::SurveyState stateOf(const model::Project& project) {
    return survey::surveyState(project, model::applied(store::defaultRuleBook(), project.rules));
}

std::vector<Field> areaFields(Session& session, const QString& key) {
    const model::Project& project = *session.project();
    const survey::SurveyState state = stateOf(project);
    const auto line =
        std::find_if(state.areas.begin(), state.areas.end(), [&](const survey::AreaLine& a) { return q(a.id) == key; });
    if (line == state.areas.end() || !project.vehicle) return {};
    using A = model::AreaMark;
    const Editing<A> edit(
        session,
        [id = key.toStdString()](model::Project& p) -> A* {
            if (!p.vehicle) return nullptr;
            if (A* held = byId(p.vehicle->areas, id)) return held;
            A mark;
            mark.id = id;
            p.vehicle->areas.push_back(std::move(mark));
            return &p.vehicle->areas.back();
        },
        tr("the area \"%1\"").arg(q(line->name)));
    A mark;
    for (const A& each : project.vehicle->areas)
        if (each.id == line->id) mark = each;
    std::vector<Field> out;
    describedFields(out, edit, mark);
    fieldNamed(out, QStringLiteral("state")).set_text = [set = edit.set([](A& a, const std::string& v) {
        putMember([&a](describe::Visitor& its) { model::describe(its, a); }, "state", v);
        if (a.state != model::AreaState::Open && a.date.empty())
            a.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    })](const QString& v) { return set(v.toStdString()); };
    const auto before_state = [&out](Field field) {
        const auto at =
            std::find_if(out.begin(), out.end(), [](const Field& f) { return f.name == QLatin1String("state"); });
        out.insert(at, std::move(field));
    };
    if (!line->source.empty()) dropField(out, QStringLiteral("name"));
    before_state(fields::heading(q(line->name)));
    before_state(fields::remark(QStringLiteral("area_text"), q(line->text)));
    QStringList names;
    for (const std::string& name : line->not_measured) names << q(name);
    putAfter(out, QStringLiteral("state"),
             fields::remark(QStringLiteral("area_open"),
                            names.isEmpty()
                                ? (line->bodies == 1
                                       ? tr("One body of it stands in the project, measured.")
                                       : tr("%1 bodies of it stand in the project, all measured.").arg(line->bodies))
                                : tr("Only assumed, or not known how true: %1. It stays open until they are measured.")
                                      .arg(names.join(QStringLiteral(", ")))));
    out.push_back(fields::remark(
        QStringLiteral("area_remark"),
        state.ready_to_cut ? tr("Every area is surveyed. What may be cut is for you and whoever inspects it.")
                           : tr("%1 areas are open: look as much as you like, but do not cut yet.").arg(state.open)));
    return out;
}

// The outgoing engine

std::vector<Field> outgoingFields(Session& session, const QString& key) {
    model::Project project = *session.project();
    using O = model::OutgoingDimension;
    const O* dimension = project.vehicle ? byId(project.vehicle->outgoing, key.toStdString()) : nullptr;
    if (!dimension) return {};
    const Editing<O> edit(
        session,
        [id = key.toStdString()](model::Project& p) { return p.vehicle ? byId(p.vehicle->outgoing, id) : nullptr; },
        q(dimension->name));
    std::vector<Field> out;
    describedFields(out, edit, *dimension);
    QString words = tr("The new one is still being measured.");
    if (const auto reports = session.reports())
        for (const fit::OutgoingLine& line : reports->with<fit::FitReport>().outgoing)
            if (line.id == dimension->id) {
                const char* const more[] = {"farther rearward", "farther {to_right}", "higher"};
                const char* const less[] = {"farther forward", "farther {to_left}", "lower"};
                const int axis = static_cast<int>(line.along);
                if (!line.new_mm)
                    words = tr("Not known of the new one: %1.").arg(tr(line.reason.c_str()));
                else if (const double by = *line.difference_mm(); std::abs(by) < 0.05)
                    words = tr("The new one: %1, the same.").arg(length(session, *line.new_mm, 1));
                else
                    words = tr("The new one: %1, that is %2 %3.")
                                .arg(length(session, *line.new_mm, 1), length(session, std::abs(by), 1),
                                     sided(project, model::vehicle_owner, tr(by > 0 ? more[axis] : less[axis])));
                if (line.new_mm && line.accuracy_mm)
                    words += tr(" Known to ±%1.").arg(length(session, *line.accuracy_mm, 1));
            }
    putAfter(out, QStringLiteral("accuracy_mm"), fields::remark(QStringLiteral("new_one"), words));
    measuredFields(out, edit, *dimension);
    return out;
}

// What was found

std::vector<Field> foundFields(Session& session, const QString& key) {
    model::Project project = *session.project();
    using C = model::Condition;
    const C* condition = byId(project.conditions, key.toStdString());
    if (!condition) return {};
    const Editing<C> edit(
        session, [id = key.toStdString()](model::Project& p) { return byId(p.conditions, id); }, q(condition->name));
    std::vector<Field> out;
    describedFields(out, edit, *condition);
    measuredFields(out, edit, *condition);
    return out;
}

// Rooms

QString offerWords(const Session& session, const fit::HomeOffer& offer) {
    return offer.verdict == model::Verdict::Go
               ? QObject::tr("goes in, %1 left over").arg(length(session, offer.spare_mm))
           : offer.spare_mm < 0
               ? QObject::tr("%1 too large").arg(length(session, -offer.spare_mm))
               : QObject::tr("%1 left over, but %2").arg(length(session, offer.spare_mm), q(offer.reason));
}

std::vector<Field> roomFields(Session& session, const QString& key) {
    model::Project project = *session.project();
    using V = model::FreeVolume;
    const V* volume = project.vehicle ? byId(project.vehicle->free_volumes, key.toStdString()) : nullptr;
    if (!volume) return {};
    const Editing<V> edit(
        session,
        [id = key.toStdString()](model::Project& p) { return p.vehicle ? byId(p.vehicle->free_volumes, id) : nullptr; },
        q(volume->name));
    std::vector<Field> out;
    describedFields(out, edit, *volume);
    QStringList lines;
    if (const auto reports = session.reports()) {
        for (const fit::RoomLeft& room : reports->with<fit::FitReport>().free_room.rooms)
            if (room.id == volume->id) {
                for (const std::string& name : room.intruders)
                    lines << tr("The %1 reaches into it.").arg(q(name).toLower());
                for (const std::string& name : room.homes_of) lines << tr("Home of the %1.").arg(q(name).toLower());
                if (room.homes_of.size() > 1)
                    lines << tr("Each is held against the room by itself, not beside the others.");
            }
        for (const fit::HomeSearch& search : reports->with<fit::FitReport>().free_room.searches)
            for (const fit::HomeOffer& offer : search.offers)
                if (offer.volume == volume->id) lines << tr("%1: %2.").arg(q(search.name), offerWords(session, offer));
    }
    putAfter(out, QStringLiteral("accuracy_mm"),
             fields::remark(QStringLiteral("room_remark"),
                            lines.isEmpty() ? tr("Parts that have a size and no home yet are held against it. Give "
                                                 "a part its size under Parts.")
                                            : lines.join(QLatin1Char('\n'))));
    measuredFields(out, edit, *volume);
    return out;
}

} // namespace

std::vector<SurveyEntry> notebookEntries(Session& session, const std::string& owner, SurveyKind kind) {
    const model::Project& project = *session.project();
    std::vector<SurveyEntry> out;
    if (kind == SurveyKind::Readings) return readingEntries(project, owner, session);
    if (kind == SurveyKind::Areas) {
        for (const survey::AreaLine& area : stateOf(project).areas) {
            QString words = area.state == model::AreaState::NotHere ? tr("not on this vehicle")
                            : area.complete()                       ? tr("surveyed")
                            : area.state == model::AreaState::Done  ? tr("surveyed, but something is assumed")
                                                                    : tr("open");
            out.push_back({q(area.id), tr("%1 · %2").arg(q(area.name), words)});
        }
        return out;
    }
    if (kind == SurveyKind::Found) {
        for (const model::Condition& condition : project.conditions)
            if (condition.owner == owner)
                out.push_back(
                    {q(condition.id), condition.mended ? tr("%1 · mended").arg(q(condition.name)) : q(condition.name)});
        return out;
    }
    if (!project.vehicle) return out;
    if (kind == SurveyKind::Outgoing)
        for (const model::OutgoingDimension& dimension : project.vehicle->outgoing) {
            QString words = tr("%1 · %2").arg(q(dimension.name), length(session, dimension.mm));
            if (const auto reports = session.reports())
                for (const fit::OutgoingLine& line : reports->with<fit::FitReport>().outgoing)
                    if (line.id == dimension.id && line.new_mm)
                        words += tr(", new %1").arg(length(session, *line.new_mm));
            out.push_back({q(dimension.id), words});
        }
    if (kind == SurveyKind::Rooms)
        for (const model::FreeVolume& volume : project.vehicle->free_volumes)
            out.push_back(
                {q(volume.id), tr("%1 · %2 × %3 × %4")
                                   .arg(q(volume.name), length(session, volume.size_mm.x()),
                                        length(session, volume.size_mm.y()), length(session, volume.size_mm.z()))});
    return out;
}

std::vector<Field> notebookFields(Session& session, const std::string& owner, SurveyKind kind, const QString& key) {
    switch (kind) {
    case SurveyKind::Readings: return readingFields(session, owner, key);
    case SurveyKind::Areas: return areaFields(session, key);
    case SurveyKind::Outgoing: return outgoingFields(session, key);
    case SurveyKind::Found: return foundFields(session, key);
    case SurveyKind::Rooms: return roomFields(session, key);
    default: return {};
    }
}

Result<model::Project> withNotebookEntry(const model::Project& original, const std::string& owner, SurveyKind kind,
                                         const Vector3d& near_mm, QString& key) {
    model::Project project = original;
    const Error none{"there is nothing to put it in", owner, "make the vehicle or the donor first"};
    const auto named = [&](const QString& name, auto& items, auto item) {
        item.name = name.toStdString();
        item.id = model::freshId(item.name, idsOf(items));
        key = q(item.id);
        items.push_back(std::move(item));
        return project;
    };
    if (kind == SurveyKind::Readings) {
        // Something measured with a tape that is not there yet: a box of six readings.
        model::Body body;
        body.name = tr("New body").toStdString();
        body.category = owner == model::vehicle_owner ? "fixed_part" : "engine";
        body.shape = model::BoxSpec{Vector3d::Constant(usual_room_mm)};
        body.position_mm = near_mm;
        body.measured.method = model::Method::Assumed;
        auto made = model::withBody(project, owner, body);
        if (!made) return made;
        key = readingKey({body.id.text, false, "front", 0});
        return model::withTapeWay(made.value(), {owner, body.id}, "box");
    }
    if (kind == SurveyKind::Found) {
        if (owner != model::vehicle_owner && !model::findDonor(project, model::DonorId{owner})) return none;
        model::Condition condition;
        condition.owner = owner;
        condition.at_mm = near_mm;
        condition.measured.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
        return named(tr("Crack"), project.conditions, std::move(condition));
    }
    if (!project.vehicle) return none;
    if (kind == SurveyKind::Areas) {
        std::vector<std::string> taken = idsOf(project.vehicle->areas);
        for (const model::AreaRule& area : store::defaultRuleBook().areas) taken.push_back(area.id);
        model::AreaMark mark;
        mark.name = tr("Another area").toStdString();
        mark.id = model::freshId(mark.name, taken);
        key = q(mark.id);
        project.vehicle->areas.push_back(std::move(mark));
        return project;
    }
    if (kind == SurveyKind::Outgoing)
        return named(tr("Crank height"), project.vehicle->outgoing, model::OutgoingDimension{});
    if (kind == SurveyKind::Rooms) {
        model::FreeVolume volume;
        volume.at_mm = near_mm;
        volume.size_mm = Vector3d::Constant(usual_room_mm);
        return named(tr("Room"), project.vehicle->free_volumes, std::move(volume));
    }
    return none;
}

model::Project withoutNotebookEntry(const model::Project& original, const std::string& owner, SurveyKind kind,
                                    const QString& key) {
    model::Project project = original;
    const std::string id = key.toStdString();
    if (kind == SurveyKind::Readings) {
        if (const auto place = readingPlace(key))
            if (model::Tape* tape = tapeAt(project, owner, *place)) {
                auto& all = tape->readings;
                all.erase(std::remove_if(all.begin(), all.end(),
                                         [&](const model::Reading& r) {
                                             return r.what == place->what && r.station == place->station;
                                         }),
                          all.end());
            }
    } else if (kind == SurveyKind::Found) {
        dropId(project.conditions, id);
    } else if (project.vehicle) {
        if (kind == SurveyKind::Areas) dropId(project.vehicle->areas, id);
        if (kind == SurveyKind::Outgoing) dropId(project.vehicle->outgoing, id);
        if (kind == SurveyKind::Rooms) {
            dropId(project.vehicle->free_volumes, id);
            if (auto* parts = project.sections.own<model::Parts>())
                for (model::Part& part : *parts)
                    if (part.home == id) part.home.clear();
        }
    }
    return project;
}

} // namespace gabarit::app
