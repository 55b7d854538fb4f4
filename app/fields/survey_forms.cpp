#include "fields/survey_forms.h"

#include "fields/changer.h"
#include "forms/text.h"
#include "model/datum.h"
#include "model/edit.h"
#include "model/reshape.h"
#include "model/tape.h"
#include "session/session.h"
#include "store/bundle.h"

#include <QFileDialog>

#include <algorithm>

namespace gabarit::app {
namespace {

using Eigen::Vector3d;
using quantity::Dimension;

/// What an owner has, whichever owner it is. Null where it has no such thing.
/// The vehicle's masses are its loads.
std::vector<model::Mass>* massesOf(model::Project& project, const std::string& owner) {
    if (owner == model::vehicle_owner) return project.weights ? &project.weights->loads : nullptr;
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

template <class Change, class Item>
void placeFields(std::vector<Field>& out, const Change& change, const Vector3d& at, Vector3d Item::*member,
                 const QString& undo) {
    for (int i = 0; i < 3; ++i)
        out.push_back(fields::quantity(
            QString::fromLatin1(axis_names[i]), axisLabel(i), Dimension::Length, at[i],
            change.template set<double>(undo, [i, member](Item& item, double v) { (item.*member)[i] = v; })));
}

template <class Change, class Item>
Field nameField(const Change& change, const std::string& text, std::string Item::*member, const QString& undo) {
    return fields::words(QStringLiteral("name"), tr("Name"), text,
                         change.template set<const std::string&>(
                             undo, [member](Item& item, const std::string& v) { item.*member = v; }));
}

template <class Change, class Item>
Field optionField(const Change& change, const model::Project& project, const std::string& owner,
                  const std::string& current, std::string Item::*member) {
    return fields::choice(
        QStringLiteral("option"), tr("Comes with"), optionChoices(project, owner), current,
        change.template set<const std::string&>(tr("what it comes with"),
                                                [member](Item& item, const std::string& v) { item.*member = v; }));
}

} // namespace

std::vector<Field> provenanceFields(Session& session, const model::Provenance& measured,
                                    const std::function<bool(const model::Provenance&)>& set) {
    const auto with = [measured, set](auto change) {
        return [measured, set, change](const std::string& value) {
            model::Provenance changed = measured;
            change(changed, value);
            return set(changed);
        };
    };
    using P = model::Provenance;
    std::vector<Field> out{fields::heading(tr("How it was measured"))};
    out.push_back(
        fields::choice(QStringLiteral("method"), tr("It was"),
                       {{QStringLiteral("0"), tr("not said")},
                        {QStringLiteral("1"), tr("measured")},
                        {QStringLiteral("2"), tr("scanned")},
                        {QStringLiteral("3"), tr("assumed")}},
                       std::to_string(static_cast<int>(measured.method)),
                       with([](P& p, const std::string& v) { p.method = static_cast<model::Method>(std::stoi(v)); })));
    out.push_back(fields::choice(
        QStringLiteral("suspension"), tr("Suspension"),
        {{QStringLiteral("0"), tr("not said")},
         {QStringLiteral("1"), tr("at ride height")},
         {QStringLiteral("2"), tr("on its bump stops")},
         {QStringLiteral("3"), tr("hanging")},
         {QStringLiteral("4"), tr("vehicle on stands")}},
        std::to_string(static_cast<int>(measured.suspension)),
        with([](P& p, const std::string& v) { p.suspension = static_cast<model::Suspension>(std::stoi(v)); })));
    const auto words = [&](const char* name, const QString& label, std::string P::*member) {
        out.push_back(fields::words(QString::fromLatin1(name), label, measured.*member,
                                    with([member](P& p, const std::string& v) { p.*member = v; })));
    };
    words("blocks", tr("Blocks under it"), &P::blocks);
    words("date", tr("On"), &P::date);
    words("who", tr("By"), &P::who);
    words("picture", tr("Picture"), &P::picture);
    out.back().tip = tr("A file in the project's folder of files, beside it");
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

std::vector<Field> pointFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::HardPoint* point = byKey(pointsOf(project, owner), key);
    if (!point) return {};
    using P = model::HardPoint;
    const Changer change(session, [owner, key](model::Project& p) { return byKey(pointsOf(p, owner), key); });
    std::vector<Field> out{nameField(change, point->name, &P::name, tr("the name of the point"))};
    // The roles that something is computed from; any other word may stand there too.
    Choices roles{{QStringLiteral("front_mount"), tr("front mount")},
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
    if (std::none_of(roles.begin(), roles.end(), [&](const auto& r) { return r.first == q(point->role); }))
        roles.emplace_back(q(point->role), q(point->role));
    out.push_back(fields::choice(
        QStringLiteral("role"), tr("It is"), roles, point->role,
        change.set<const std::string&>(tr("what the point is"), [](P& p, const std::string& v) { p.role = v; })));
    placeFields(out, change, point->at_mm, &P::at_mm, tr("move the point"));
    out.push_back(
        fields::known(QStringLiteral("accuracy"), tr("Measured to ±"), Dimension::Length, point->accuracy_mm,
                      change.set<std::optional<double>>(tr("the point's accuracy"), [](P& p, std::optional<double> v) {
                          p.accuracy_mm = v;
                          for (model::Reading& reading : p.tape.readings) reading.accuracy_mm = v;
                      })));
    if (point->tape.bound())
        for (Field& field : tapeFields(session, owner, point->id.text, true)) out.push_back(std::move(field));
    const QString sizes[] = {tr("Opening, length"), tr("Opening, width"), tr("Opening, height")};
    const char* const names[] = {"size_x", "size_y", "size_z"};
    for (int i = 0; i < 3; ++i)
        out.push_back(fields::known(
            QString::fromLatin1(names[i]), sizes[i], Dimension::Length,
            point->size_mm ? std::optional((*point->size_mm)[i]) : std::nullopt,
            change.set<std::optional<double>>(tr("the opening's size"), [i](P& p, std::optional<double> v) {
                Vector3d size = p.size_mm.value_or(Vector3d::Zero());
                size[i] = v.value_or(0);
                p.size_mm = size.isZero(0) ? std::nullopt : std::optional(size);
            })));
    out.push_back(optionField(change, project, owner, point->option, &P::option));
    for (Field& field : provenanceFields(
             session, point->measured,
             change.set<const model::Provenance&>(tr("how the point was measured"), [](P&p, const model::Provenance&v) {
                 p.measured = v;
                 for (auto& r : p.tape.readings) r.measured.method = v.method;
             })))
        out.push_back(std::move(field));
    return out;
}

} // namespace

Field massFromField(model::MassFrom now, std::function<bool(model::MassFrom)> set) {
    static const Choices words{{QStringLiteral("not_said"), tr("not said: as estimated")},
                               {QStringLiteral("weighed"), tr("weighed")},
                               {QStringLiteral("catalogue"), tr("from a catalogue")},
                               {QStringLiteral("estimated"), tr("estimated")}};
    return fields::choice(QStringLiteral("mass_from"), tr("How known"), words,
                          words[static_cast<std::size_t>(now)].first.toStdString(), [set](const std::string& v) {
                              for (std::size_t i = 0; i < words.size(); ++i)
                                  if (words[i].first.toStdString() == v) return set(static_cast<model::MassFrom>(i));
                              return false;
                          });
}

namespace {

std::vector<Field> massFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::Mass* mass = byPlace(massesOf(project, owner), key);
    if (!mass) return {};
    using M = model::Mass;
    const Changer change(session, [owner, key](model::Project& p) { return byPlace(massesOf(p, owner), key); });
    std::vector<Field> out{nameField(change, mass->name, &M::name, tr("the name of the mass"))};
    out.push_back(fields::known(
        QStringLiteral("mass"), tr("Mass"), Dimension::Mass, mass->mass_kg,
        change.set<std::optional<double>>(tr("the mass"), [](M& m, std::optional<double> v) { m.mass_kg = v; })));
    out.push_back(massFromField(mass->from, change.set<model::MassFrom>(tr("how the mass is known"),
                                                                        [](M& m, model::MassFrom v) { m.from = v; })));
    placeFields(out, change, mass->at_mm, &M::at_mm, tr("move the mass"));
    if (owner != model::vehicle_owner) out.push_back(optionField(change, project, owner, mass->option, &M::option));
    return out;
}

std::vector<Field> servicedFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::ServicedBolt* bolt = byKey(servicedOf(project, owner), key);
    if (!bolt) return {};
    using B = model::ServicedBolt;
    const Changer change(session, [owner, key](model::Project& p) { return byKey(servicedOf(p, owner), key); });
    std::vector<Field> out{nameField(change, bolt->name, &B::name, tr("the name of the bolt"))};
    out.push_back(fields::known(
        QStringLiteral("socket"), tr("Socket's outside diameter"), Dimension::Length, bolt->socket_mm,
        change.set<std::optional<double>>(tr("the socket"), [](B& b, std::optional<double> v) { b.socket_mm = v; })));
    placeFields(out, change, bolt->at_mm, &B::at_mm, tr("move the bolt"));
    const QString labels[] = {tr("Tool goes rearward"), tr("Tool goes right"), tr("Tool goes up")};
    const char* const names[] = {"along_x", "along_y", "along_z"};
    for (int i = 0; i < 3; ++i)
        out.push_back(
            fields::number(QString::fromLatin1(names[i]), labels[i], bolt->along[i],
                           change.set<std::optional<double>>(tr("the tool's way"), [i](B& b, std::optional<double> v) {
                               b.along[i] = v.value_or(0);
                           })));
    out.push_back(
        fields::known(QStringLiteral("accuracy"), tr("Measured to ±"), Dimension::Length, bolt->accuracy_mm,
                      change.set<std::optional<double>>(tr("the bolt's accuracy"),
                                                        [](B& b, std::optional<double> v) { b.accuracy_mm = v; })));
    out.push_back(fields::known(QStringLiteral("pull"), tr("Comes off after"), Dimension::Length, bolt->pull_mm,
                                change.set<std::optional<double>>(
                                    tr("how far it comes off"), [](B& b, std::optional<double> v) { b.pull_mm = v; })));
    out.back().tip =
        tr("How far what it sits in has to come the tool's way until it is off: filter, dipstick, starter, a "
           "belt off its pulley. Empty: it stays");
    out.push_back(fields::known(QStringLiteral("length"), tr("Free before it"), Dimension::Length, bolt->length_mm,
                                change.set<std::optional<double>>(
                                    tr("the tool's length"), [](B& b, std::optional<double> v) { b.length_mm = v; })));
    out.back().tip = tr("Of a long socket, or of a dipstick's blade. Empty: a usual tool's length");
    Choices bodies{{QString(), tr("none in particular")}};
    if (const auto* list = model::bodiesOf(project, owner))
        for (const model::Body& body : *list) bodies.emplace_back(q(body.id.text), q(body.name));
    out.push_back(fields::choice(QStringLiteral("in"), tr("It sits in"), bodies, bolt->in.text,
                                 change.set<const std::string&>(tr("what the bolt sits in"),
                                                                [](B& b, const std::string& v) { b.in.text = v; })));
    return out;
}

std::vector<Field> joinedFields(Session& session, const QString& key) {
    model::Project project = *session.project();
    const model::Joined* pair = byPlace(&project.joined, key);
    if (!pair) return {};
    using J = model::Joined;
    const Changer change(session, [key](model::Project& p) { return byPlace(&p.joined, key); });
    const auto side = [&](const char* name, const QString& label, const model::BodyRef& ref,
                          model::BodyRef J::*member) {
        return fields::choice(
            QString::fromLatin1(name), label, bodyChoices(project), ref.text(),
            change.set<const std::string&>(tr("the joined pair"), [member](J& j, const std::string& v) {
                const std::size_t slash = v.find('/');
                j.*member = {v.substr(0, slash), {v.substr(slash + 1)}};
            }));
    };
    return {side("a", tr("This"), pair->a, &J::a), side("b", tr("and this"), pair->b, &J::b),
            fields::words(QStringLiteral("reason"), tr("touch because"), pair->reason,
                          change.set<const std::string&>(tr("why they are joined"),
                                                         [](J& j, const std::string& v) { j.reason = v; })),
            fields::remark(QStringLiteral("joined_remark"),
                           tr("A pair that is meant to touch is not held against any rule: join only what bolts on "
                              "or belongs together."))};
}

std::vector<Field> choiceFields(Session& session, const std::string& owner, const QString& key) {
    model::Project project = *session.project();
    const model::Choice* choice = byKey(choicesOf(project, owner), key);
    if (!choice) return {};
    using C = model::Choice;
    const Changer change(session, [owner, key](model::Project& p) { return byKey(choicesOf(p, owner), key); });
    std::vector<Field> out{nameField(change, choice->name, &C::name, tr("the name of the choice"))};
    for (std::size_t i = 0; i <= choice->options.size(); ++i) {
        const bool another = i == choice->options.size();
        out.push_back(fields::words(
            QStringLiteral("option_%1").arg(i),
            another  ? tr("Another form")
            : i == 0 ? tr("It came as")
                     : tr("or as"),
            another ? std::string() : choice->options[i].name,
            change.set<const std::string&>(tr("the forms to choose from"), [i](C& c, const std::string& v) {
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
            out.push_back(
                fields::words(QStringLiteral("option_note_%1").arg(i), tr("Note"), choice->options[i].note,
                              change.set<const std::string&>(tr("the note of a form"), [i](C& c, const std::string& v) {
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
        using D = model::Donor;
        const Changer change(session,
                             [owner](model::Project& p) { return model::findDonor(p, model::DonorId{owner}); });
        out.push_back(
            fields::words(QStringLiteral("name"), tr("Name"), donor->name, [&session, owner](const std::string& name) {
                model::DonorId id;
                return session.edit(tr("rename the donor"),
                                    model::withDonorNamed(*session.project(), model::DonorId{owner}, name, id));
            }));
        out.push_back(
            fields::choice(QStringLiteral("orientation"), tr("It lies"),
                           {{QStringLiteral("0"), tr("lengthways")},
                            {QStringLiteral("1"), tr("turned round")},
                            {QStringLiteral("2"), tr("across, rear to the left")},
                            {QStringLiteral("3"), tr("across, rear to the right")}},
                           std::to_string(static_cast<int>(donor->orientation)),
                           change.set<const std::string&>(tr("how the donor lies"), [](D& d, const std::string& v) {
                               d.orientation = static_cast<model::Orientation>(std::stoi(v));
                           })));
        out.push_back(fields::words(
            QStringLiteral("note"), tr("Note"), donor->note,
            change.set<const std::string&>(tr("the donor's note"), [](D& d, const std::string& v) { d.note = v; })));
        out.push_back(fields::remark(QStringLiteral("frame_remark"),
                                     tr("Measured from where the crank's axis pierces the block's rear face: rearward "
                                        "along the crank, to the right, and up with the engine upright.")));
        return out;
    }
    if (!project.vehicle) return out;
    const Changer whole(session, [](model::Project& p) { return &p; });
    const Changer change(session, [](model::Project& p) { return p.vehicle ? &*p.vehicle : nullptr; });
    using V = model::Vehicle;
    out.push_back(
        fields::words(QStringLiteral("project_name"), tr("Swap"), project.name,
                      whole.set<const std::string&>(tr("the swap's name"),
                                                    [](model::Project& p, const std::string& v) { p.name = v; })));
    out.push_back(
        fields::words(QStringLiteral("project_note"), tr("About the swap"), project.note,
                      whole.set<const std::string&>(tr("the swap's note"),
                                                    [](model::Project& p, const std::string& v) { p.note = v; })));
    out.push_back(nameField(change, project.vehicle->name, &V::name, tr("the vehicle's name")));
    out.push_back(
        fields::known(QStringLiteral("wheelbase"), tr("Wheelbase"), Dimension::Length, project.vehicle->wheelbase_mm,
                      change.set<std::optional<double>>(tr("the wheelbase"),
                                                        [](V& v, std::optional<double> mm) { v.wheelbase_mm = mm; })));
    out.push_back(
        fields::choice(QStringLiteral("drive_side"), tr("Driver sits"),
                       {{QStringLiteral("left"), tr("on the left")}, {QStringLiteral("right"), tr("on the right")}},
                       project.vehicle->drive_side == model::DriveSide::Left ? "left" : "right",
                       change.set<const std::string&>(tr("the driver's side"), [](V& v, const std::string& side) {
                           v.drive_side = side == "left" ? model::DriveSide::Left : model::DriveSide::Right;
                       })));
    out.push_back(fields::choice(
        QStringLiteral("datum"), tr("Heights from"),
        {{QStringLiteral("ground"), tr("the ground")},
         {QStringLiteral("frame_rail_top"), tr("the frame rail's top")},
         {QStringLiteral("other"), tr("something else")}},
        project.vehicle->datum.kind,
        change.set<const std::string&>(tr("the datum"), [](V& v, const std::string& kind) { v.datum.kind = kind; })));
    out.push_back(
        fields::words(QStringLiteral("datum_name"), tr("Datum is"), project.vehicle->datum.name,
                      change.set<const std::string&>(tr("the datum's name"),
                                                     [](V& v, const std::string& name) { v.datum.name = name; })));
    // What is typed is done at once, and the field stands at nought again: the plane has moved.
    out.push_back(fields::quantity(
        QStringLiteral("datum_up"), tr("Move it up by"), Dimension::Length, 0, [&session](double up_mm) {
            const model::Datum& datum = session.project()->vehicle->datum;
            return session.edit(tr("refer all heights to another plane"),
                                model::withDatumMoved(*session.project(), up_mm, datum.kind, datum.name));
        }));
    out.back().tip = tr("All heights of the vehicle become less by this; gaps and loads stay what they are");
    Choices planes{{QString(), tr("leave it")}};
    for (const model::HardPoint& point : project.vehicle->hard_points)
        if (point.at_mm.z() != 0) planes.emplace_back(q(point.id.text), q(point.name));
    out.push_back(fields::choice(
        QStringLiteral("datum_point"), tr("Put it through"), planes, "", [&session](const std::string& id) {
            const model::Vehicle& vehicle = *session.project()->vehicle;
            const auto point = std::find_if(vehicle.hard_points.begin(), vehicle.hard_points.end(),
                                            [&](const model::HardPoint& p) { return p.id.text == id; });
            if (point == vehicle.hard_points.end()) return false;
            const model::HardPoint through = *point; // the edit replaces what it stands in
            return session.edit(tr("refer all heights to the %1").arg(q(through.name).toLower()),
                                model::withDatumMoved(*session.project(), through.at_mm.z(), "other", through.name));
        }));
    const auto spring = [&](const char* name, const QString& label, std::optional<double> model::Springs::*member) {
        out.push_back(fields::number(
            QString::fromLatin1(name), label, project.vehicle->springs.*member,
            change.set<std::optional<double>>(
                tr("a spring rate"), [member](V& v, std::optional<double> rate) { v.springs.*member = rate; })));
        out.back().tip = tr("Both springs of the axle together, at the wheels: add a known weight over the axle and "
                            "read how far it goes down");
    };
    spring("front_spring", tr("Front springs, N/mm"), &model::Springs::front_n_per_mm);
    spring("rear_spring", tr("Rear springs, N/mm"), &model::Springs::rear_n_per_mm);
    out.push_back(
        fields::words(QStringLiteral("springs_source"), tr("Springs known by"), project.vehicle->springs.source,
                      change.set<const std::string&>(tr("how the springs are known"),
                                                     [](V& v, const std::string& s) { v.springs.source = s; })));
    out.push_back(fields::words(
        QStringLiteral("note"), tr("Note"), project.vehicle->note,
        change.set<const std::string&>(tr("the vehicle's note"), [](V& v, const std::string& n) { v.note = n; })));
    out.push_back(fields::remark(
        QStringLiteral("frame_remark"),
        tr("Measured from the front axle's centreline rearward, from the vehicle's centreline to the right, and "
           "from the datum up. Measure on level ground, at ride height, with the tyres it will wear.")));
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
        if (owner == model::vehicle_owner && !project.weights) project.weights.emplace();
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
        item->at_mm.y() = -item->at_mm.y();
        const std::string copied = " copy";
        const std::size_t end = item->name.size() - std::min(item->name.size(), copied.size());
        if (item->name.compare(end, copied.size(), copied) == 0) item->name.resize(end);
        item->name = model::mirroredName(item->name);
    };
    if (kind == SurveyKind::Points) across(byKey(pointsOf(project, owner), key));
    if (kind == SurveyKind::Masses) across(byPlace(massesOf(project, owner), key));
    if (kind == SurveyKind::Serviced) {
        model::ServicedBolt* bolt = byKey(servicedOf(project, owner), key);
        across(bolt);
        if (bolt) bolt->along.y() = -bolt->along.y();
    }
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
