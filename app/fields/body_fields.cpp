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

const QStringList xyz{QStringLiteral("x"), QStringLiteral("y"), QStringLiteral("z")};

/// From one end to the other: two rows, no more and no less.
template <class Spec>
Field ends(const Editing<model::ShapeSpec>& edit, const Spec& now) {
    const auto set = edit.named(tr("From, to")).set([](model::ShapeSpec& shape, const Rows& rows) {
        if (auto* spec = std::get_if<Spec>(&shape)) {
            spec->from_mm = Vector3d(rows[0].data());
            spec->to_mm = Vector3d(rows[1].data());
        }
    });
    const auto row = [](const Vector3d& at_mm) { return std::vector<double>(at_mm.data(), at_mm.data() + 3); };
    return fields::table(QStringLiteral("ends"), tr("From, to"), xyz, {row(now.from_mm), row(now.to_mm)}, 2,
                         [set](const Rows& rows) { return rows.size() == 2 && set(rows); });
}

/// A sheet's stations in one table: where each is, and a point of its line.
Field stations(const Editing<model::ShapeSpec>& edit, const model::SheetSpec& now) {
    const int along = static_cast<int>(now.along);
    QStringList heads{xyz[along]};
    for (int i = 0; i < 3; ++i)
        if (i != along) heads << xyz[i];
    Rows rows;
    for (const model::SheetStation& station : now.stations)
        for (const Vector2d& p : station.points_mm) rows.push_back({station.at_mm, p.x(), p.y()});
    return fields::table(QStringLiteral("stations"), tr("Stations, point by point"), heads, rows, 4,
                         edit.named(tr("Stations")).set([](model::ShapeSpec& shape, const Rows& typed) {
                             auto* sheet = std::get_if<model::SheetSpec>(&shape);
                             if (!sheet) return;
                             constexpr double same_mm = 1e-9;
                             sheet->stations.clear();
                             for (const auto& row : typed) {
                                 if (sheet->stations.empty() ||
                                     std::abs(sheet->stations.back().at_mm - row[0]) > same_mm)
                                     sheet->stations.push_back({row[0], {}});
                                 sheet->stations.back().points_mm.emplace_back(row[1], row[2]);
                             }
                         }));
}

void shapeFields(std::vector<Field>& out, const Editing<model::ShapeSpec>& edit, const model::ShapeSpec& now) {
    describedFields(out, edit, now);
    if (const auto* bar = std::get_if<model::CylinderSpec>(&now)) out.push_back(ends(edit, *bar));
    if (const auto* profile = std::get_if<model::ProfileSpec>(&now)) out.push_back(ends(edit, *profile));
    if (const auto* sheet = std::get_if<model::SheetSpec>(&now)) out.push_back(stations(edit, *sheet));
}

} // namespace

std::vector<Field> bodyFields(Session& session, const model::BodyRef& ref) {
    const model::Project& project = *session.project();
    const model::Body* body = model::findBody(project, ref);
    if (!body) return {};
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
    out.push_back(fields::choice(QStringLiteral("shape"), tr("Measured as"), kinds,
                                 std::to_string(static_cast<int>(model::kindOf(body->shape))),
                                 whole.named(tr("Measured as")).set([](model::Body& b, const std::string& v) {
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
        shapeFields(out, whole.of<model::ShapeSpec>([](model::Body& b) { return &b.shape; }), body->shape);

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
