// The fields of a body, shape by shape.
#include "fields/described.h"
#include "fields/survey_forms.h"
#include "model/edit.h"
#include "model/reshape.h"
#include "model/tape.h"
#include "store/rule_book.h"

#include <algorithm>

namespace gabarit::app {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;
using quantity::Dimension;

/// Makes setters that change one body through the session.
class Editor {
public:
    Editor(Session& session, const model::BodyRef& ref) : session_(session), ref_(ref) {}

    template <class Value, class Change>
    std::function<bool(Value)> set(const QString& what, Change change) const {
        return [this_ = *this, what, change](Value value) {
            return this_.apply(what, [&](model::Body& body) { change(body, value); });
        };
    }
    /// The same for a part of the shape, which is of kind Spec.
    template <class Spec, class Value, class Change>
    std::function<bool(Value)> shape(const QString& what, Change change) const {
        return set<Value>(what, [change](model::Body& body, const std::decay_t<Value>& value) {
            if (auto* spec = std::get_if<Spec>(&body.shape)) change(*spec, value);
        });
    }

private:
    template <class Change>
    bool apply(const QString& what, const Change& change) const {
        model::Project changed = *session_.project();
        model::Body* body = model::findBody(changed, ref_);
        if (!body) return false;
        const QString name = QString::fromStdString(body->name).toLower();
        change(*body);
        return session_.edit(tr("%1 of the %2").arg(what, name), std::move(changed));
    }

    Session& session_;
    model::BodyRef ref_;
};

Rows rowsOf(const std::vector<Vector3d>& points) {
    Rows rows;
    for (const Vector3d& p : points) rows.push_back({p.x(), p.y(), p.z()});
    return rows;
}
Rows rowsOf(const std::vector<Vector2d>& points) {
    Rows rows;
    for (const Vector2d& p : points) rows.push_back({p.x(), p.y()});
    return rows;
}
std::vector<Vector3d> points3(const Rows& rows) {
    std::vector<Vector3d> points;
    for (const auto& row : rows) points.emplace_back(row[0], row[1], row[2]);
    return points;
}
std::vector<Vector2d> points2(const Rows& rows) {
    std::vector<Vector2d> points;
    for (const auto& row : rows) points.emplace_back(row[0], row[1]);
    return points;
}

const QStringList xyz{QStringLiteral("x"), QStringLiteral("y"), QStringLiteral("z")};

/// From one end to the other: two rows, no more and no less.
template <class Spec>
Field ends(const Editor& edit, const Spec& s) {
    auto set = edit.shape<Spec, const Rows&>(tr("the ends"), [](Spec& spec, const Rows& rows) {
        spec.from_mm = points3(rows)[0];
        spec.to_mm = points3(rows)[1];
    });
    return fields::table(QStringLiteral("ends"), tr("From, to"), xyz, rowsOf(std::vector<Vector3d>{s.from_mm, s.to_mm}),
                         2, [set](const Rows& rows) { return rows.size() == 2 && set(rows); });
}

void shapeFields(std::vector<Field>& out, const Editor& edit, const model::Body& body) {
    const auto length = [&](const char* name, const QString& label, double value, std::function<bool(double)> set) {
        out.push_back(fields::quantity(QString::fromLatin1(name), label, Dimension::Length, value, std::move(set)));
    };
    if (const auto* box = std::get_if<model::BoxSpec>(&body.shape)) {
        const QString labels[] = {tr("Length (x)"), tr("Width (y)"), tr("Height (z)")};
        const char* const names[] = {"size_x", "size_y", "size_z"};
        for (int i = 0; i < 3; ++i)
            length(names[i], labels[i], box->size_mm[i],
                   edit.shape<model::BoxSpec, double>(labels[i],
                                                      [i](model::BoxSpec& spec, double v) { spec.size_mm[i] = v; }));
    } else if (const auto* bar = std::get_if<model::CylinderSpec>(&body.shape)) {
        length("diameter", tr("Diameter"), bar->diameter_mm,
               edit.shape<model::CylinderSpec, double>(
                   tr("the diameter"), [](model::CylinderSpec& spec, double v) { spec.diameter_mm = v; }));
        out.push_back(ends(edit, *bar));
    } else if (const auto* ball = std::get_if<model::SphereSpec>(&body.shape)) {
        length("diameter", tr("Diameter"), ball->diameter_mm,
               edit.shape<model::SphereSpec, double>(tr("the diameter"),
                                                     [](model::SphereSpec& spec, double v) { spec.diameter_mm = v; }));
    } else if (const auto* hose = std::get_if<model::TubeSpec>(&body.shape)) {
        length("diameter", tr("Outside diameter"), hose->diameter_mm,
               edit.shape<model::TubeSpec, double>(tr("the diameter"),
                                                   [](model::TubeSpec& spec, double v) { spec.diameter_mm = v; }));
        length("bend_radius", tr("Bend radius"), hose->bend_radius_mm,
               edit.shape<model::TubeSpec, double>(tr("the bend radius"),
                                                   [](model::TubeSpec& spec, double v) { spec.bend_radius_mm = v; }));
        out.push_back(fields::table(
            QStringLiteral("path"), tr("Corners of its path"), xyz, rowsOf(hose->path_mm), 2,
            edit.shape<model::TubeSpec, const Rows&>(
                tr("the path"), [](model::TubeSpec& spec, const Rows& rows) { spec.path_mm = points3(rows); })));
    } else if (const auto* profile = std::get_if<model::ProfileSpec>(&body.shape)) {
        const auto walled = [&](auto section) {
            using Of = decltype(section);
            const auto set = [&](const QString& what, double Of::*member) {
                return edit.shape<model::ProfileSpec, double>(what, [member](model::ProfileSpec& spec, double v) {
                    if (auto* held = std::get_if<Of>(&spec.section)) held->*member = v;
                });
            };
            length("width", tr("Width"), section.width_mm, set(tr("the width"), &Of::width_mm));
            length("height", tr("Height"), section.height_mm, set(tr("the height"), &Of::height_mm));
            length("wall", tr("Wall"), section.wall_mm, set(tr("the wall"), &Of::wall_mm));
        };
        if (const auto* rect = std::get_if<model::RectTubeSection>(&profile->section)) walled(*rect);
        if (const auto* c = std::get_if<model::CSection>(&profile->section)) walled(*c);
        if (const auto* round = std::get_if<model::RoundTubeSection>(&profile->section)) {
            const auto set = [&](const QString& what, double model::RoundTubeSection::*member) {
                return edit.shape<model::ProfileSpec, double>(what, [member](model::ProfileSpec& spec, double v) {
                    if (auto* held = std::get_if<model::RoundTubeSection>(&spec.section)) held->*member = v;
                });
            };
            length("diameter", tr("Outside diameter"), round->diameter_mm,
                   set(tr("the diameter"), &model::RoundTubeSection::diameter_mm));
            length("wall", tr("Wall"), round->wall_mm, set(tr("the wall"), &model::RoundTubeSection::wall_mm));
        }
        if (const auto* polygon = std::get_if<model::PolygonSection>(&profile->section))
            out.push_back(fields::table(QStringLiteral("section"), tr("Corners of its section (across, up)"),
                                        {tr("across"), tr("up")}, rowsOf(polygon->points_mm), 3,
                                        edit.shape<model::ProfileSpec, const Rows&>(
                                            tr("the section"), [](model::ProfileSpec& spec, const Rows& rows) {
                                                spec.section = model::PolygonSection{points2(rows)};
                                            })));
        out.push_back(
            fields::quantity(QStringLiteral("roll"), tr("Turned about its length"), Dimension::Angle, profile->roll_deg,
                             edit.shape<model::ProfileSpec, double>(
                                 tr("the turn"), [](model::ProfileSpec& spec, double v) { spec.roll_deg = v; })));
        out.push_back(ends(edit, *profile));
    } else if (const auto* plate = std::get_if<model::PlateSpec>(&body.shape)) {
        length("thickness", tr("Thickness"), plate->thickness_mm,
               edit.shape<model::PlateSpec, double>(tr("the thickness"),
                                                    [](model::PlateSpec& spec, double v) { spec.thickness_mm = v; }));
        out.push_back(fields::table(
            QStringLiteral("outline"), tr("Corners of its outline"), {xyz[0], xyz[1]}, rowsOf(plate->outline_mm), 3,
            edit.shape<model::PlateSpec, const Rows&>(
                tr("the outline"), [](model::PlateSpec& spec, const Rows& rows) { spec.outline_mm = points2(rows); })));
    } else if (const auto* sheet = std::get_if<model::SheetSpec>(&body.shape)) {
        out.push_back(fields::choice(QStringLiteral("along"), tr("Stations along"),
                                     {{QStringLiteral("x"), tr("the length (x)")},
                                      {QStringLiteral("y"), tr("the width (y)")},
                                      {QStringLiteral("z"), tr("the height (z)")}},
                                     std::string(1, "xyz"[static_cast<int>(sheet->along)]),
                                     edit.shape<model::SheetSpec, const std::string&>(
                                         tr("the stations' axis"), [](model::SheetSpec& spec, const std::string& id) {
                                             spec.along = static_cast<model::Axis>(id[0] - 'x');
                                         })));
        length("thickness", tr("Thickness"), sheet->thickness_mm,
               edit.shape<model::SheetSpec, double>(tr("the thickness"),
                                                    [](model::SheetSpec& spec, double v) { spec.thickness_mm = v; }));
        QStringList heads{xyz[static_cast<int>(sheet->along)]};
        for (int i = 0; i < 3; ++i)
            if (i != static_cast<int>(sheet->along)) heads << xyz[i];
        Rows rows;
        for (const model::SheetStation& station : sheet->stations)
            for (const Vector2d& p : station.points_mm) rows.push_back({station.at_mm, p.x(), p.y()});
        Field field = fields::table(
            QStringLiteral("stations"), tr("Stations, point by point"), heads, rows, 4,
            edit.shape<model::SheetSpec, const Rows&>(tr("the stations"), [](model::SheetSpec& spec, const Rows& r) {
                spec.stations.clear();
                for (const auto& row : r) {
                    if (spec.stations.empty() || std::abs(spec.stations.back().at_mm - row[0]) > 1e-9)
                        spec.stations.push_back({row[0], {}});
                    spec.stations.back().points_mm.emplace_back(row[1], row[2]);
                }
            }));
        out.push_back(std::move(field));
    }
}

} // namespace

std::vector<Field> bodyFields(Session& session, const model::BodyRef& ref) {
    const model::Project& project = *session.project();
    const model::Body* body = model::findBody(project, ref);
    if (!body) return {};
    const Editor edit(session, ref);
    std::vector<Field> out;
    out.push_back(fields::words(QStringLiteral("name"), tr("Name"), body->name,
                                [&session, ref, was = QString::fromStdString(body->name)](const std::string& name) {
                                    model::BodyId id;
                                    return session.edit(tr("rename the %1").arg(was.toLower()),
                                                        model::withBodyNamed(*session.project(), ref, name, id));
                                }));
    const Editing<model::Body> whole(
        session, [ref](model::Project& p) { return model::findBody(p, ref); }, q(body->name).toLower());
    std::vector<Field> its;
    describedFields(its, whole, *body, {}, ref.owner);
    out.push_back(fieldNamed(its, QStringLiteral("category")));
    dropField(its, QStringLiteral("category"));
    const Choices kinds{{QStringLiteral("0"), tr("box")},         {QStringLiteral("1"), tr("round bar")},
                        {QStringLiteral("2"), tr("ball")},        {QStringLiteral("3"), tr("bent tube or hose")},
                        {QStringLiteral("4"), tr("box section")}, {QStringLiteral("5"), tr("round tube with its wall")},
                        {QStringLiteral("6"), tr("C-section")},   {QStringLiteral("7"), tr("section of corners")},
                        {QStringLiteral("8"), tr("flat plate")},  {QStringLiteral("9"), tr("sheet with stations")}};
    out.push_back(fields::choice(
        QStringLiteral("shape"), tr("Measured as"), kinds, std::to_string(static_cast<int>(model::kindOf(body->shape))),
        edit.set<const std::string&>(tr("the shape"), [](model::Body& b, const std::string& v) {
            b = model::withKind(b, static_cast<model::ShapeKind>(std::stoi(v)));
        })));
    // What follows its readings has no other measures.
    const bool bound = body->tape.bound();
    if (bound) out.pop_back();
    Choices ways{{QString(), tr("by its measures, not by readings")}};
    for (const model::TapeWay& way : model::tapeWays())
        if (!way.asks.empty() && std::string(way.id) != "point")
            ways.emplace_back(QString::fromLatin1(way.id), tr(way.name));
    if (body->tape.way == "mirror") ways.emplace_back(QStringLiteral("mirror"), tr("the other side's mirror image"));
    out.push_back(fields::choice(
        QStringLiteral("tape_way"), tr("Taken"), ways, body->tape.way, [&session, ref](const std::string& way) {
            const auto bind = model::withTapeWay(*session.project(), ref, way);
            if (bind)
                return session.edit(way.empty() ? tr("no longer by its readings") : tr("taken with a tape"),
                                    bind.value());
            emit session.notice(QString::fromStdString(bind.error().line()), true);
            return false;
        }));
    out.back().tip = tr("Bound to tape readings it moves when one is read again");
    if (bound)
        for (Field& field : tapeFields(session, ref.owner, ref.body.text, false)) out.push_back(std::move(field));
    else
        shapeFields(out, edit, *body);

    for (Field& field : its) out.push_back(std::move(field));
    fieldNamed(out, QStringLiteral("accuracy_mm")).set_value = trueToReadings(whole);
    // How it was measured stands before what may be done with it.
    const auto before =
        std::find_if(out.begin(), out.end(), [](const Field& f) { return f.name == QLatin1String("standing"); }) - 1;
    std::vector<Field> measured = measuredWithReadings(whole, *body);
    out.insert(before, std::make_move_iterator(measured.begin()), std::make_move_iterator(measured.end()));
    const auto flag = [&](const char* name, const QString& label, bool model::May::*member) {
        return fields::flag(QString::fromLatin1(name), label, body->may.*member,
                            whole.set([member](model::Body& b, bool v) {
                                // Either it stays as it is, or something may be done.
                                if (v && member == &model::May::never) b.may = {};
                                if (v && member != &model::May::never) b.may.never = false;
                                b.may.*member = v;
                            }));
    };
    putAfter(out, QStringLiteral("option"), flag("never", tr("stays as it is, decided"), &model::May::never));
    putAfter(out, QStringLiteral("option"), flag("be_removed", tr("may be taken out"), &model::May::be_removed));
    putAfter(out, QStringLiteral("option"), flag("be_moved", tr("may be moved"), &model::May::be_moved));
    putAfter(out, QStringLiteral("option"), flag("be_cut", tr("may be cut"), &model::May::be_cut));
    return out;
}

} // namespace gabarit::app
