#include "fields/survey_forms.h"

#include "fields/described.h"

#include "describe/walks.h"
#include "forms/text.h"
#include "model/datum.h"
#include "model/edit.h"
#include "model/reshape.h"
#include "model/tape.h"
#include "session/session.h"
#include "store/bundle.h"
#include "weights/section/weights.h"

#include <QFileDialog>

#include <algorithm>

namespace gabarit::app {
namespace {

using Eigen::Vector3d;
using quantity::Dimension;

/// What an owner has, whichever owner it is. Null where it has no such thing.
/// The vehicle's masses are its loads.
std::vector<model::Mass>* massesOf(model::Project& project, const std::string& owner) {
    if (owner == model::vehicle_owner) {
        auto* weights = project.sections.own<model::Weights>();
        return weights ? &weights->loads : nullptr;
    }
    model::Donor* donor = model::findDonor(project, model::DonorId{owner});
    return donor ? &donor->masses : nullptr;
}
std::vector<model::ServicedBolt>* servicedOf(model::Project& project, const std::string& owner) {
    if (owner == model::vehicle_owner) return project.vehicle ? &project.vehicle->serviced : nullptr;
    model::Donor* donor = model::findDonor(project, model::DonorId{owner});
    return donor ? &donor->serviced : nullptr;
}
std::vector<model::Choice>* choicesOf(model::Project& project, const std::string& owner) {
    if (owner == model::vehicle_owner) return project.vehicle ? &project.vehicle->choices : nullptr;
    model::Donor* donor = model::findDonor(project, model::DonorId{owner});
    return donor ? &donor->choices : nullptr;
}

std::string keyOf(const model::HardPoint& point) { return point.id.text; }
std::string keyOf(const model::ServicedBolt& bolt) { return bolt.id; }
std::string keyOf(const model::Choice& choice) { return choice.id; }

template <class Item>
Item* byKey(std::vector<Item>* items, const QString& key) {
    if (!items) return nullptr;
    const auto at = std::find_if(items->begin(), items->end(), [&](const Item& item) { return q(keyOf(item)) == key; });
    return at == items->end() ? nullptr : &*at;
}
/// Masses and joined pairs have no ids: they go by their place in the list.
template <class Item>
Item* byPlace(std::vector<Item>* items, const QString& key) {
    bool ok = false;
    const std::size_t i = key.toULongLong(&ok);
    return items && ok && i < items->size() ? &(*items)[i] : nullptr;
}

template <class Items>
std::vector<std::string> keysOf(const Items& items) {
    std::vector<std::string> keys;
    for (const auto& item : items) keys.push_back(keyOf(item));
    return keys;
}

} // namespace

std::vector<Field> provenanceFields(Session& session, const model::Provenance& measured,
                                    const std::function<bool(const model::Provenance&)>& set) {
    std::vector<Field> out{fields::heading(tr("How it was measured"))};
    out.back().folded = true; // how true it is stands above
    describedFields(
        out, *session.project(), [&measured](describe::Visitor& v) { describe::show(v, measured); },
        [measured, set](const std::string& path, const FieldValue& value, const QString&) {
            model::Provenance changed = measured;
            putMember([&changed](describe::Visitor& v) { model::describe(v, changed); }, path, value);
            return set(changed);
        });
    out.push_back(fields::button(QStringLiteral("take_picture"), tr("Choose a picture…"), [&session, measured, set] {
        const QString path = QFileDialog::getOpenFileName(nullptr, tr("A picture of it"), {},
                                                          tr("Pictures (*.jpg *.jpeg *.png *.webp *.bmp)"));
        if (path.isEmpty()) return;
        const auto taken = store::takePicture(session.path().toStdString(), path.toStdString());
        if (!taken) {
            emit session.notice(q(taken.error().line()), true);
            return;
        }
        model::Provenance changed = measured;
        changed.picture = taken.value().name;
        changed.picture_sha256 = taken.value().sha256;
        set(changed);
    }));
    if (!measured.picture.empty())
        out.push_back(fields::picture(QStringLiteral("picture_shown"),
                                      q(store::picturePath(session.path().toStdString(), measured.picture))));
    return out;
}

namespace {

/// The roles that something is computed from; any other word may stand there too.
Choices roles(const std::string& its_own) {
    Choices out{{QStringLiteral("front_mount"), tr("front mount")},
                {QStringLiteral("gearbox_mount"), tr("gearbox mount")},
                {QStringLiteral("output_flange"), tr("output flange")},
                {QStringLiteral("pinion_flange"), tr("pinion flange")},
                {QStringLiteral("sling"), tr("sling eye")},
                {QStringLiteral("shift_lever"), tr("shift lever")},
                {QStringLiteral("shift_lever_opening"), tr("opening for the shift lever")},
                {QStringLiteral("engine_seat"), tr("engine seat on the chassis")},
                {QStringLiteral("gearbox_seat"), tr("gearbox seat on the chassis")},
                {QStringLiteral("tape_hook"), tr("tape hook")},
                {QStringLiteral("axle_centre"), tr("middle of an axle")},
                {QStringLiteral("leaf_eye"), tr("fixed eye of a leaf spring")},
                {QStringLiteral("spring_seat"), tr("spring seat on the axle")},
                {QStringLiteral("arm_pivot"), tr("bush of an arm")},
                {QStringLiteral("ball_joint"), tr("ball joint")},
                {QStringLiteral("swivel"), tr("end of a swivel pin")},
                {QString(), tr("nothing special")}};
    if (std::none_of(out.begin(), out.end(), [&](const auto& r) { return r.first == q(its_own); }))
        out.emplace_back(q(its_own), q(its_own));
    return out;
}

std::vector<Field> pointFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::HardPoint* point = byKey(pointsOf(project, owner), key);
    if (!point) return {};
    using P = model::HardPoint;
    const Editing<P> edit(
        session, [owner, key](model::Project& p) { return byKey(pointsOf(p, owner), key); }, q(point->name));
    std::vector<Field> out;
    describedFields(out, edit, *point, {}, owner);
    chosenFrom(out, QStringLiteral("role"), roles(point->role));
    fieldNamed(out, QStringLiteral("accuracy_mm")).set_value = trueToReadings(edit);
    if (point->tape.bound()) {
        std::vector<Field> tape = tapeFields(session, owner, point->id.text, true);
        for (auto field = tape.rbegin(); field != tape.rend(); ++field)
            putAfter(out, QStringLiteral("accuracy_mm"), std::move(*field));
    }
    for (Field& field : measuredWithReadings(edit, *point)) out.push_back(std::move(field));
    return out;
}

std::vector<Field> massFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::Mass* mass = byPlace(massesOf(project, owner), key);
    if (!mass) return {};
    std::vector<Field> out;
    describedFields(
        out,
        Editing<model::Mass>(
            session, [owner, key](model::Project& p) { return byPlace(massesOf(p, owner), key); }, q(mass->name)),
        *mass, {}, owner);
    if (owner == model::vehicle_owner) dropField(out, QStringLiteral("option"));
    return out;
}

std::vector<Field> servicedFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::ServicedBolt* bolt = byKey(servicedOf(project, owner), key);
    if (!bolt) return {};
    std::vector<Field> out;
    describedFields(
        out,
        Editing<model::ServicedBolt>(
            session, [owner, key](model::Project& p) { return byKey(servicedOf(p, owner), key); }, q(bolt->name)),
        *bolt, {}, owner);
    return out;
}

std::vector<Field> joinedFields(Session& session, const QString& key) {
    model::Project project = *session.project();
    const model::Joined* pair = byPlace(&project.joined, key);
    if (!pair) return {};
    std::vector<Field> out;
    describedFields(out,
                    Editing<model::Joined>(
                        session, [key](model::Project& p) { return byPlace(&p.joined, key); }, tr("the joined pair")),
                    *pair);
    out.push_back(fields::remark(QStringLiteral("joined_remark"),
                                 tr("A pair that is meant to touch is not held against any rule: join only what bolts "
                                    "on or belongs together.")));
    return out;
}

std::vector<Field> choiceFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::Choice* choice = byKey(choicesOf(project, owner), key);
    if (!choice) return {};
    using C = model::Choice;
    const Editing<C> edit(
        session, [owner, key](model::Project& p) { return byKey(choicesOf(p, owner), key); }, q(choice->name));
    std::vector<Field> out{fields::words(QStringLiteral("name"), tr("Name"), choice->name,
                                         edit.set([](C& c, const std::string& v) { c.name = v; }))};
    for (std::size_t i = 0; i <= choice->options.size(); ++i) {
        const bool another = i == choice->options.size();
        out.push_back(fields::words(QStringLiteral("option_%1").arg(i),
                                    another  ? tr("Another form")
                                    : i == 0 ? tr("It came as")
                                             : tr("or as"),
                                    another ? std::string() : choice->options[i].name,
                                    edit.set([i](C& c, const std::string& v) {
                                        if (i < c.options.size()) {
                                            if (v.empty())
                                                c.options.erase(c.options.begin() + static_cast<std::ptrdiff_t>(i));
                                            else
                                                c.options[i].name = v;
                                            return;
                                        }
                                        if (v.empty()) return;
                                        std::vector<std::string> taken;
                                        for (const model::Option& option : c.options) taken.push_back(option.id);
                                        c.options.push_back({model::freshId(v, taken), v, "", {}});
                                    })));
        if (!another)
            out.push_back(fields::words(QStringLiteral("option_note_%1").arg(i), tr("Note"), choice->options[i].note,
                                        edit.set([i](C& c, const std::string& v) {
                                            if (i < c.options.size()) c.options[i].note = v;
                                        })));
    }
    out.push_back(fields::remark(QStringLiteral("choice_remark"),
                                 tr("Bodies, points, masses and parts say by \"Comes with\" which form they belong to. "
                                    "Which form is taken is set where the engine is placed.")));
    return out;
}

std::vector<Field> aboutFields(Session& session, const std::string& owner) {
    const model::Project& project = *session.project();
    std::vector<Field> out;
    if (owner != model::vehicle_owner) {
        const model::Donor* donor = model::findDonor(project, model::DonorId{owner});
        if (!donor) return out;
        out.push_back(
            fields::words(QStringLiteral("name"), tr("Name"), donor->name, [&session, owner](const std::string& name) {
                model::DonorId id;
                return session.edit(tr("rename the donor"),
                                    model::withDonorNamed(*session.project(), model::DonorId{owner}, name, id));
            }));
        describedFields(out,
                        Editing<model::Donor>(
                            session, [owner](model::Project& p) { return model::findDonor(p, model::DonorId{owner}); },
                            q(donor->name)),
                        *donor);
        out.push_back(fields::remark(QStringLiteral("frame_remark"),
                                     tr("Measured from where the crank's axis pierces the block's rear face: rearward "
                                        "along the crank, to its right, and up with the engine upright.")));
        return out;
    }
    if (!project.vehicle) return out;
    describedFields(out,
                    Editing<model::Project>(
                        session, [](model::Project& p) { return &p; }, tr("the swap")),
                    project, QStringLiteral("project"));
    std::vector<Field> its;
    describedFields(
        its,
        Editing<model::Vehicle>(
            session, [](model::Project& p) { return p.vehicle ? &*p.vehicle : nullptr; }, tr("the vehicle")),
        *project.vehicle);
    // What is typed is done at once, and the field stands at nought again: the plane has moved.
    Field up = fields::quantity(
        QStringLiteral("datum_up"), tr("Move it up by"), Dimension::Length, 0, [&session](double up_mm) {
            const model::Datum& datum = session.project()->vehicle->datum;
            return session.edit(tr("refer all heights to another plane"),
                                model::withDatumMoved(*session.project(), up_mm, datum.kind, datum.name));
        });
    up.tip = tr("All heights of the vehicle become less by this; gaps and loads stay what they are");
    Choices planes{{QString(), tr("leave it")}};
    for (const model::HardPoint& point : project.vehicle->hard_points)
        if (point.at_mm.z() != 0) planes.emplace_back(q(point.id.text), q(point.name));
    Field through = fields::choice(
        QStringLiteral("datum_point"), tr("Put it through"), planes, "", [&session](const std::string& id) {
            const model::Vehicle& vehicle = *session.project()->vehicle;
            const auto point = std::find_if(vehicle.hard_points.begin(), vehicle.hard_points.end(),
                                            [&](const model::HardPoint& p) { return p.id.text == id; });
            if (point == vehicle.hard_points.end()) return false;
            const model::HardPoint chosen = *point; // the edit replaces what it stands in
            return session.edit(tr("refer all heights to the %1").arg(q(chosen.name).toLower()),
                                model::withDatumMoved(*session.project(), chosen.at_mm.z(), "other", chosen.name));
        });
    putAfter(its, QStringLiteral("datum_name"), std::move(through));
    putAfter(its, QStringLiteral("datum_name"), std::move(up));
    for (Field& field : its) out.push_back(std::move(field));
    out.push_back(fields::remark(
        QStringLiteral("frame_remark"),
        sided(project, model::vehicle_owner,
              tr("Measured from the front axle's centreline rearward, from the vehicle's centreline {to_right}, and "
                 "from the datum up. Measure on level ground, at ride height, with the tyres it will wear."))));
    return out;
}

} // namespace

Choices bodyChoices(const model::Project& project) {
    Choices out;
    const auto add = [&](const std::string& owner, const std::string& ownerName,
                         const std::vector<model::Body>& bodies) {
        for (const model::Body& body : bodies)
            out.emplace_back(q(model::BodyRef{owner, body.id}.text()),
                             ownerName.empty() ? q(body.name) : tr("%1 (%2)").arg(q(body.name), q(ownerName)));
    };
    for (const model::Donor& donor : project.donors)
        add(donor.id.text, project.donors.size() > 1 ? donor.name : std::string(), donor.bodies);
    if (project.vehicle) add(model::vehicle_owner, "", project.vehicle->bodies);
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
    return out;
}

Choices optionChoices(const model::Project& project, const std::string& owner) {
    Choices out{{QString(), tr("always")}};
    if (const auto* choices = model::choicesOf(project, owner))
        for (const model::Choice& choice : *choices)
            for (const model::Option& option : choice.options)
                out.emplace_back(q(choice.id + "/" + option.id), q(choice.name + ": " + option.name));
    return out;
}

Choices allOptions(const model::Project& project) {
    Choices out{{QString(), tr("always")}};
    const auto add = [&](const std::string& owner) {
        for (const auto& option : optionChoices(project, owner))
            if (!option.first.isEmpty()) out.emplace_back(q(owner) + QLatin1Char('/') + option.first, option.second);
    };
    for (const model::Donor& donor : project.donors) add(donor.id.text);
    add(model::vehicle_owner);
    return out;
}

std::vector<SurveyEntry> surveyEntries(const model::Project& original, const std::string& owner, SurveyKind kind) {
    model::Project project = original;
    std::vector<SurveyEntry> out;
    const auto unmeasured = [](const std::optional<double>& accuracy) {
        return accuracy ? QString() : tr(" · not measured");
    };
    switch (kind) {
    case SurveyKind::Bodies:
        if (const auto* bodies = model::bodiesOf(project, owner))
            for (const model::Body& body : *bodies) {
                QString words = q(body.name);
                if (body.standing == model::Standing::Removed) words += tr(" · taken out");
                if (body.off) words += tr(" · off");
                if (!model::isTaken(project, owner, body.option)) words += tr(" · not chosen");
                out.push_back({q(body.id.text), words + unmeasured(body.accuracy_mm)});
            }
        break;
    case SurveyKind::Points:
        if (const auto* points = pointsOf(project, owner))
            for (const auto& point : *points)
                out.push_back({q(point.id.text), q(point.name) + unmeasured(point.accuracy_mm)});
        break;
    case SurveyKind::Masses:
        if (const auto* masses = massesOf(project, owner))
            for (std::size_t i = 0; i < masses->size(); ++i)
                out.push_back(
                    {QString::number(i), q((*masses)[i].name) + ((*masses)[i].mass_kg ? QString() : tr(" · no mass"))});
        break;
    case SurveyKind::Serviced:
        if (const auto* bolts = servicedOf(project, owner))
            for (const auto& bolt : *bolts) out.push_back({q(bolt.id), q(bolt.name)});
        break;
    case SurveyKind::Joined:
        for (std::size_t i = 0; i < project.joined.size(); ++i) {
            const model::Joined& pair = project.joined[i];
            if (pair.a.owner != owner && pair.b.owner != owner) continue;
            const auto name = [&](const model::BodyRef& ref) {
                const model::Body* body = model::findBody(project, ref);
                return q(body ? body->name : ref.text());
            };
            out.push_back({QString::number(i), tr("%1 and %2").arg(name(pair.a), name(pair.b))});
        }
        break;
    case SurveyKind::Choices:
        if (const auto* choices = choicesOf(project, owner))
            for (const auto& choice : *choices) out.push_back({q(choice.id), q(choice.name)});
        break;
    case SurveyKind::About: out.push_back({QStringLiteral("about"), tr("What it is")}); break;
    default: break; // found by the study, or in the notebook: see SurveyStage
    }
    return out;
}

std::vector<Field> surveyFields(Session& session, const std::string& owner, SurveyKind kind, const QString& key) {
    switch (kind) {
    case SurveyKind::Bodies: return bodyFields(session, {owner, {key.toStdString()}});
    case SurveyKind::Points: return pointFields(session, owner, key);
    case SurveyKind::Masses: return massFields(session, owner, key);
    case SurveyKind::Serviced: return servicedFields(session, owner, key);
    case SurveyKind::Joined: return joinedFields(session, key);
    case SurveyKind::Choices: return choiceFields(session, owner, key);
    case SurveyKind::About: return aboutFields(session, owner);
    case SurveyKind::Assumed: {
        const std::string text = key.toStdString();
        const std::size_t slash = text.find('/');
        if (slash == std::string::npos) return {};
        return bodyFields(session, {text.substr(0, slash), {text.substr(slash + 1)}});
    }
    case SurveyKind::Motions:
    case SurveyKind::Stances: return motionFields(session, owner, kind, key);
    default: return notebookFields(session, owner, kind, key);
    }
    return {};
}

Result<model::Project> withEntry(const model::Project& original, const std::string& owner, SurveyKind kind,
                                 const Vector3d& near_mm, QString& key) {
    model::Project project = original;
    switch (kind) {
    case SurveyKind::Bodies: {
        model::Body body;
        body.name = tr("New body").toStdString();
        body.category = owner == model::vehicle_owner ? "fixed_part" : "engine";
        body.shape = model::BoxSpec{{100, 100, 100}};
        body.position_mm = near_mm;
        auto made = model::withBody(project, owner, body);
        key = q(body.id.text);
        return made;
    }
    case SurveyKind::Points: {
        auto* points = pointsOf(project, owner);
        if (!points) break;
        model::HardPoint point;
        point.name = tr("New point").toStdString();
        point.id.text = model::freshId(point.name, keysOf(*points));
        point.at_mm = near_mm;
        key = q(point.id.text);
        points->push_back(std::move(point));
        return project;
    }
    case SurveyKind::Masses: {
        if (owner == model::vehicle_owner) project.sections.edit<model::Weights>();
        auto* masses = massesOf(project, owner);
        if (!masses) break;
        model::Mass mass;
        mass.name = tr("New mass").toStdString();
        mass.at_mm = near_mm;
        key = QString::number(masses->size());
        masses->push_back(std::move(mass));
        return project;
    }
    case SurveyKind::Serviced: {
        auto* bolts = servicedOf(project, owner);
        if (!bolts) break;
        model::ServicedBolt bolt;
        bolt.name = tr("New bolt").toStdString();
        bolt.id = model::freshId(bolt.name, keysOf(*bolts));
        bolt.at_mm = near_mm;
        key = q(bolt.id);
        bolts->push_back(std::move(bolt));
        return project;
    }
    case SurveyKind::Joined: {
        // Of this owner's first body and another one, to be chosen.
        const auto* mine = model::bodiesOf(project, owner);
        const Choices all = bodyChoices(project);
        if (!mine || mine->empty() || all.size() < 2)
            return Error{"there are no two bodies to join", owner, "make them first"};
        model::Joined pair;
        pair.a = {owner, mine->front().id};
        for (const auto& choice : all) {
            const std::string text = choice.first.toStdString();
            const std::size_t slash = text.find('/');
            pair.b = {text.substr(0, slash), {text.substr(slash + 1)}};
            if (pair.b != pair.a && !model::joinedPair(project, pair.a, pair.b)) break;
        }
        pair.reason = tr("bolted together").toStdString();
        key = QString::number(project.joined.size());
        project.joined.push_back(std::move(pair));
        return project;
    }
    case SurveyKind::Choices: {
        auto* choices = choicesOf(project, owner);
        if (!choices) break;
        model::Choice choice;
        choice.name = tr("New choice").toStdString();
        choice.id = model::freshId(choice.name, keysOf(*choices));
        choice.options = {{"as-it-came", "as it came", "", {}}, {"other", "other", "", {}}};
        key = q(choice.id);
        choices->push_back(std::move(choice));
        return project;
    }
    case SurveyKind::About:
    case SurveyKind::Assumed: break;
    case SurveyKind::Motions:
    case SurveyKind::Stances: return withMotionEntry(original, owner, kind, key);
    default: return withNotebookEntry(original, owner, kind, near_mm, key);
    }
    return Error{"there is nothing to put it in", owner, "make the vehicle or the donor first"};
}

Result<model::Project> withEntryCopied(const model::Project& original, const std::string& owner, SurveyKind kind,
                                       QString& key) {
    if (kind == SurveyKind::Bodies) {
        model::BodyId copy;
        auto made = model::withBodyCopied(original, {owner, {key.toStdString()}}, copy);
        if (made) key = q(copy.text);
        return made;
    }
    model::Project project = original;
    const auto copied = [&](auto* items, auto* item) {
        auto twin = *item;
        twin.name += " copy";
        items->push_back(std::move(twin));
        return &items->back();
    };
    if (kind == SurveyKind::Points) {
        auto* items = pointsOf(project, owner);
        if (const auto* item = byKey(items, key)) {
            const std::string id = model::freshId(item->name + " copy", keysOf(*items));
            copied(items, item)->id.text = id;
            key = q(id);
            return project;
        }
    } else if (kind == SurveyKind::Masses) {
        auto* items = massesOf(project, owner);
        if (const auto* item = byPlace(items, key)) {
            key = QString::number(items->size());
            copied(items, item);
            return project;
        }
    } else if (kind == SurveyKind::Serviced) {
        auto* items = servicedOf(project, owner);
        if (const auto* item = byKey(items, key)) {
            const std::string id = model::freshId(item->name + " copy", keysOf(*items));
            copied(items, item)->id = id;
            key = q(id);
            return project;
        }
    }
    return Error{"there is nothing to copy", owner, "choose something in the list"};
}

void mirrorEntry(model::Project& project, const std::string& owner, SurveyKind kind, const QString& key) {
    const auto across = [](auto* item) {
        if (!item) return;
        describe::Mirrorer mirror;
        describe::visit(static_cast<describe::Visitor&>(mirror), *item);
        const std::string copied = " copy";
        const std::size_t end = item->name.size() - std::min(item->name.size(), copied.size());
        if (item->name.compare(end, copied.size(), copied) == 0) item->name.resize(end);
        item->name = model::mirroredName(item->name);
    };
    if (kind == SurveyKind::Points) across(byKey(pointsOf(project, owner), key));
    if (kind == SurveyKind::Masses) across(byPlace(massesOf(project, owner), key));
    if (kind == SurveyKind::Serviced) across(byKey(servicedOf(project, owner), key));
}

model::Project withoutEntry(const model::Project& original, const std::string& owner, SurveyKind kind,
                            const QString& key) {
    if (kind == SurveyKind::Bodies) return model::withoutBody(original, {owner, {key.toStdString()}});
    if (kind == SurveyKind::About) return model::withoutDonor(original, model::DonorId{owner});
    if (kind >= SurveyKind::Motions) return withoutMotionEntry(original, owner, kind, key);
    if (kind >= SurveyKind::Readings) return withoutNotebookEntry(original, owner, kind, key);
    model::Project project = original;
    const auto dropKey = [&](auto* items) {
        if (auto* item = byKey(items, key)) items->erase(items->begin() + (item - items->data()));
    };
    const auto dropPlace = [&](auto* items) {
        if (auto* item = byPlace(items, key)) items->erase(items->begin() + (item - items->data()));
    };
    switch (kind) {
    case SurveyKind::Points: dropKey(pointsOf(project, owner)); break;
    case SurveyKind::Serviced: dropKey(servicedOf(project, owner)); break;
    case SurveyKind::Choices: dropKey(choicesOf(project, owner)); break;
    case SurveyKind::Masses: dropPlace(massesOf(project, owner)); break;
    case SurveyKind::Joined: dropPlace(&project.joined); break;
    default: break;
    }
    return project;
}

} // namespace gabarit::app
