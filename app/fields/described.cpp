#include "fields/described.h"

#include "fields/survey_forms.h"
#include "model/edit.h"
#include "model/leaning.h"
#include "model/tape.h"
#include "store/rule_book.h"

#include <algorithm>
#include <cstring>
#include <stdexcept>

namespace gabarit::app {
namespace {

using describe::Member;
using describe::Target;
using describe::Vector;
using describe::Words;

const std::pair<const char*, Dimension> dimensions[] = {{"mm", Dimension::Length},
                                                        {"°", Dimension::Angle},
                                                        {"kg", Dimension::Mass},
                                                        {"N·m", Dimension::Torque},
                                                        {"km/h", Dimension::Speed}};

std::optional<Dimension> dimensionOf(const Member& m) {
    const std::string unit = describe::unitOf(m.key);
    for (const auto& [its, dimension] : dimensions)
        if (unit == its) return dimension;
    return std::nullopt;
}

constexpr int objects_from = 100; // of Member::order
bool shown(const Member& m) { return *m.label; }

// Tables

/// What a row of a table shows of a structure: its columns, or its figures.
class RowReader : public describe::Walker {
public:
    using describe::Walker::onOptional;
    bool fills() const override { return true; } // a column is there before its figure is
    void onNumber(const Member& m, double& value) override { add(m, value, m.usual); }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (!shown(m)) return;
        add(m, value.value_or(0), m.usual);
        whole = whole && value.has_value();
    }
    void onFlag(const Member& m, bool& value) override { add(m, value, 0.0); }
    void onObject(const Member&, describe::Object&) override {}
    void onList(const Member&, describe::List&) override {}
    void onForms(const Member&, const Words&, describe::Forms&) override {}

    QStringList heads;
    std::vector<double> figures;
    std::vector<std::optional<double>> when_empty;
    bool lengths = true; ///< nothing else
    bool whole = true;   ///< nothing is missing

private:
    void add(const Member& m, double value, std::optional<double> usual) {
        if (!shown(m)) return;
        heads << tr(m.label);
        figures.push_back(value);
        when_empty.push_back(usual);
        lengths = lengths && dimensionOf(m) == Dimension::Length;
    }
};

/// Puts a row's figures into a structure. Nothing typed: it is as it was before anything was said.
class RowWriter : public describe::Walker {
public:
    using describe::Walker::onOptional;
    RowWriter(const std::vector<double>& row, std::string name) : row_(row), name_(std::move(name)) {}
    bool fills() const override { return true; }
    void onText(const Member& m, std::string& value) override {
        if (value.empty() && std::strcmp(m.key, "name") == 0) value = name_;
    }
    void onNumber(const Member& m, double& value) override {
        if (shown(m)) value = next().value_or(m.usual.value_or(0));
    }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (shown(m)) value = next();
    }
    void onFlag(const Member& m, bool& value) override {
        if (shown(m)) value = next().value_or(0) != 0;
    }
    void onObject(const Member&, describe::Object&) override {}
    void onList(const Member&, describe::List&) override {}
    void onForms(const Member&, const Words&, describe::Forms&) override {}

private:
    std::optional<double> next() { return at_ < row_.size() ? std::optional(row_[at_++]) : std::nullopt; }
    const std::vector<double>& row_;
    std::string name_; ///< of one that has none
    std::size_t at_ = 0;
};

template <class P>
Rows rowsOf(const std::vector<P>& points) {
    Rows rows;
    for (const P& point : points) rows.emplace_back(point.data(), point.data() + point.size());
    return rows;
}

// Fields

class FieldMaker : public describe::Walker {
public:
    FieldMaker(const model::Project& project, const PutValue& put, std::string path, QString prefix)
        : project_(project), put_(put), path_(std::move(path)), prefix_(std::move(prefix)) {}

    /// In the order of the form.
    std::vector<Field> take() {
        std::stable_sort(groups_.begin(), groups_.end(),
                         [](const Group& a, const Group& b) { return a.place < b.place; });
        std::vector<Field> out;
        for (Group& group : groups_)
            for (Field& field : group.fields) out.push_back(std::move(field));
        return out;
    }

    void onText(const Member& m, std::string& value) override {
        if (!shown(m)) return;
        const auto put = set<std::string>(m);
        auto choices = choicesOf(m, value);
        if (!choices) return add(m, fields::words(name(m), labelOf(m), value, put));
        if (choices->empty() && value.empty()) return; // nothing there to choose from
        const bool none_there = !choices->empty() && choices->front().first.isEmpty();
        if (none_there && *m.nothing) choices->front().second = tr(m.nothing);
        const bool none_fits = !m.required && m.target != Target::Owner; // it is always somebody's
        if (!none_there && (none_fits || value.empty()))
            choices->insert(choices->begin(), {QString(), *m.nothing ? tr(m.nothing) : tr("none")});
        const auto is_now = [&value](const auto& choice) { return choice.first == q(value); };
        if (std::none_of(choices->begin(), choices->end(), is_now)) choices->emplace_back(q(value), q(value));
        Field field = fields::choice(name(m), labelOf(m), std::move(*choices), value, put);
        const bool body = m.target == Target::Body || m.target == Target::BodyPath;
        if (body || m.target == Target::Point) {
            field.points = body ? Field::Points::Bodies : Field::Points::Places;
            if (m.target != Target::BodyPath) field.points_owner = q(m.owner);
        }
        add(m, std::move(field));
    }
    void onNumber(const Member& m, double& value) override {
        if (shown(m)) add(m, numberField(m, name(m), labelOf(m), value, set<std::optional<double>>(m), false));
    }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (shown(m)) add(m, numberField(m, name(m), labelOf(m), value, set<std::optional<double>>(m), true));
    }
    void onFlag(const Member& m, bool& value) override {
        if (shown(m)) add(m, fields::flag(name(m), tr(m.label), value, set<bool>(m)));
    }
    void onPoint(const Member& m, Eigen::Vector3d& value) override { addPoint(m, value, false); }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override { addPoint(m, value, true); }
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override { addRows(m, rowsOf(value), 3); }
    void onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) override { addRows(m, rowsOf(value), 2); }
    void onChoice(const Member& m, const Words& words, int& place) override {
        if (!shown(m)) return;
        Choices choices;
        if (place < 0) choices.emplace_back(QString(), tr("not said"));
        for (const describe::Word& word : words) choices.emplace_back(QLatin1String(word.file), asItLies(word));
        const std::string now = place < 0 ? "" : words[static_cast<std::size_t>(place)].file;
        add(m, fields::choice(name(m), labelOf(m), std::move(choices), now, set<std::string>(m)));
    }
    void onObject(const Member& m, describe::Object& value) override {
        if (!shown(m)) return;
        if (m.in_rows) return addRow(m, value);
        if (!value.here() && !m.offered && !*m.ask) return;
        std::vector<Field> all;
        if (m.headed) all.push_back(fields::heading(tr(m.label)));
        if (m.headed) all.back().folded = !value.here() && !*m.ask; // offered, and nothing of it given
        if (*m.ask)
            all.push_back(fields::flag(QStringLiteral("has_") + name(m), tr(m.ask), value.here(), set<bool>(m)));
        if (value.here() || m.offered) {
            FieldMaker inner(project_, put_, path_ + m.key + ".", prefix_);
            const describe::Owned as_here(inner, owner());
            if (value.here())
                value.describe(inner);
            else
                value.describeNew(inner);
            for (Field& field : inner.take()) all.push_back(std::move(field));
        }
        put(m, objects_from, std::move(all));
    }
    void onList(const Member& m, describe::List& value) override {
        if (!shown(m)) return; // its entries are things of their own
        if (m.in_rows) return addList(m, value);
        std::vector<Field> all;
        for (std::size_t i = 0; i < value.size(); ++i) {
            all.push_back(fields::heading(tr("%1 %2").arg(tr(m.label)).arg(i + 1)));
            FieldMaker inner(project_, put_, path_ + m.key + "." + std::to_string(i) + ".", prefix_);
            const describe::Owned as_here(inner, owner());
            value.describe(inner, i);
            for (Field& field : inner.take()) all.push_back(std::move(field));
        }
        put(m, objects_from, std::move(all));
    }
    /// Which form it has is a question of its own; what it has then stands among the other members.
    void onForms(const Member&, const Words&, describe::Forms& value) override { value.describe(*this); }

private:
    struct Group {
        int place;
        std::vector<Field> fields;
    };

    /// Of whose sides it speaks: the vehicle's, or those of what it is measured on.
    QString here(const char* text) const { return sided(project_, owner(), tr(text)); }
    /// What can be chosen is of how a thing lies in the vehicle, whoever it is measured on.
    QString asItLies(const describe::Word& word) const {
        return sided(project_, model::vehicle_owner, tr(word.said().c_str()));
    }
    /// With the unit where the field has none of its own.
    QString labelOf(const Member& m) const {
        const std::string unit = dimensionOf(m) ? std::string() : describe::unitOf(m.key);
        if (unit.empty()) return here(m.label);
        const QString joined = QStringLiteral("\u2060/\u2060"); // "N/mm" is not broken at its stroke
        return tr("%1, %2").arg(here(m.label), q(unit).replace(QLatin1Char('/'), joined));
    }
    /// What is said of it to one who writes a file is not for one who fills a form in.
    QString tipOf(const Member& m) const {
        if (*m.hint) return here(m.hint);
        return std::strchr(m.means, '`') || std::strstr(m.means, "left out") ? QString() : here(m.means);
    }
    QString name(const Member& m) const {
        const QString own = q(path_ + m.key).replace(QLatin1Char('.'), QLatin1Char('_'));
        return prefix_.isEmpty() ? own : prefix_ + QLatin1Char('_') + own;
    }
    template <class V>
    std::function<bool(V)> set(const Member& m, int coordinate = -1) const {
        const std::string part = coordinate < 0 ? "" : "." + std::to_string(coordinate);
        const QString label = here(coordinate < 0 ? m.label : m.heads[coordinate]);
        return [put = put_, path = path_ + m.key + part, label](const V& value) {
            return put(path, FieldValue(value), label);
        };
    }

    /// What its text may name; nothing: it is typed.
    std::optional<Choices> choicesOf(const Member& m, const std::string& value) const {
        Choices out;
        if (m.words) {
            for (const describe::Word& word : *m.words) out.emplace_back(QLatin1String(word.file), asItLies(word));
            return out;
        }
        if (*m.among) return among(project_, m.among);
        if (*m.from) return among(project_, m.from);
        switch (m.target) {
        case Target::BodyPath: return bodyChoices(project_);
        case Target::OptionPath: return allOptions(project_);
        case Target::Option: return optionChoices(project_, m.owner);
        case Target::Body:
            if (const auto* bodies = model::bodiesOf(project_, m.owner))
                for (const model::Body& body : *bodies) out.emplace_back(q(body.id.text), q(body.name));
            return out;
        case Target::Point:
            if (const auto* points = model::pointsOf(project_, m.owner))
                for (const model::HardPoint& point : *points) out.emplace_back(q(point.id.text), q(point.name));
            return out;
        case Target::Owner:
            out.emplace_back(QLatin1String(model::vehicle_owner), tr("the vehicle"));
            for (const model::Donor& donor : project_.donors) out.emplace_back(q(donor.id.text), q(donor.name));
            return out;
        case Target::Placement:
            for (const model::Placement& p : project_.placements) out.emplace_back(q(p.id.text), q(p.name));
            return out;
        case Target::Donor:
            if (project_.donors.size() < 2 && value.empty()) return out; // it is whichever there is
            for (const model::Donor& donor : project_.donors) out.emplace_back(q(donor.id.text), q(donor.name));
            return out;
        case Target::FreeVolume:
            if (project_.vehicle)
                for (const model::FreeVolume& volume : project_.vehicle->free_volumes)
                    out.emplace_back(q(volume.id), q(volume.name));
            return out;
        default: return std::nullopt;
        }
    }

    Field numberField(const Member& m, const QString& name, const QString& label, std::optional<double> value,
                      const std::function<bool(std::optional<double>)>& put, bool may_be_empty) const {
        Field field = fields::number(name, label, value, put);
        field.dimension = dimensionOf(m);
        field.may_be_empty = may_be_empty || m.usual;
        field.money = m.money;
        // A rail half a millimetre wide, a box 99 m long: a slip of the unit more often than not.
        if (field.dimension == Dimension::Length && m.high == describe::longest_mm) {
            const double most = usualMost_mm();
            field.possible = std::pair(*m.low, *m.high);
            field.usual = std::pair(m.above ? usualLeast_mm() : m.low < 0 ? -most : 0, most);
        }
        return field;
    }
    const model::RuleBook& book() const {
        if (!book_) book_ = model::applied(store::defaultRuleBook(), project_.rules);
        return *book_;
    }
    double usualMost_mm() const { return book().figure("usual_longest_mm"); }
    double usualLeast_mm() const { return book().figure("usual_thinnest_mm"); }
    void addPoint(const Member& m, const std::optional<Eigen::Vector3d>& value, bool may_be_empty) {
        if (!shown(m)) return;
        for (int i = 0; m.apart && i < 3; ++i)
            add(m, numberField(m, name(m) + QLatin1Char('_') + QLatin1Char("xyz"[i]), here(m.heads[i]),
                               value ? std::optional((*value)[i]) : std::nullopt, set<std::optional<double>>(m, i),
                               may_be_empty));
        if (m.apart) return;
        if (m.vector == Vector::Direction) return addDirection(m, value);
        const auto put = set<std::optional<Eigen::Vector3d>>(m);
        Field field =
            fields::table(name(m), labelOf(m), headsOf(m), value ? Rows{{value->x(), value->y(), value->z()}} : Rows{},
                          !may_be_empty, [put](const Rows& rows) {
                              if (rows.empty()) return put(std::nullopt);
                              return put(Eigen::Vector3d(rows[0][0], rows[0][1], rows[0][2]));
                          });
        field.most_rows = 1;
        if (!dimensionOf(m)) field.dimension.reset();
        add(m, std::move(field));
    }
    QString frameOf(const Member& m) const { return q(m.owner.empty() ? owner() : m.owner); }
    /// What its three figures are called.
    QStringList headsOf(const Member& m) const {
        if (*m.heads[0]) return {here(m.heads[0]), here(m.heads[1]), here(m.heads[2])};
        const QString across = sided(project_, frameOf(m).toStdString(), tr("{to_right}"));
        return {tr("Rearward"), across, tr("Up")};
    }
    /// A direction is never three numbers: the way it mostly goes, and what it leans from that as seen from two sides.
    void addDirection(const Member& m, const std::optional<Eigen::Vector3d>& value) {
        using model::Straight;
        const std::string its = frameOf(m).toStdString();
        const auto words = [&](Straight way) { // as within a sentence: not with a capital
            return sided(project_, its, QLatin1Char(' ') + tr(model::straightWords(way))).trimmed();
        };
        const auto put = set<std::optional<Eigen::Vector3d>>(m);
        const bool there = value && !value->isZero(0);
        const model::Leaning now = there ? model::leaningOf(*value) : model::Leaning();
        Choices ways;
        for (const Straight way : model::all_straight)
            ways.emplace_back(QString::number(static_cast<int>(way)), words(way));
        const std::string chosen = there ? std::to_string(static_cast<int>(now.way)) : std::string();
        if (!there) ways.insert(ways.begin(), {QString(), tr("not said")});
        add(m, fields::choice(name(m), labelOf(m), std::move(ways), chosen, [put, chosen](const std::string& way) {
                return way == chosen || put(model::along(static_cast<Straight>(std::stoi(way))));
            }));
        const auto to = model::leansTo(now.way);
        for (std::size_t i = 0; there && i < to.size(); ++i) {
            Field field =
                fields::number(QStringLiteral("%1_lean_%2").arg(name(m)).arg(i + 1), tr("Leans %1").arg(words(to[i])),
                               now.lean_deg[i], [put, now, i](std::optional<double> deg) {
                                   if (deg == now.lean_deg[i]) return true; // its length stays as it was
                                   model::Leaning leaning = now;
                                   leaning.lean_deg[i] = deg.value_or(0);
                                   return put(model::directionOf(leaning));
                               });
            field.dimension = Dimension::Angle;
            add(m, std::move(field));
            groups_.back().fields.back().tip =
                tr("Seen square to it, as a gauge laid on reads it. Below zero: the other way.");
        }
    }
    void addRows(const Member& m, Rows rows, int wide) {
        if (!shown(m)) return;
        QStringList heads = wide == 3 ? headsOf(m) : QStringList();
        for (int i = 0; i < wide && wide != 3; ++i) heads << (*m.heads[i] ? here(m.heads[i]) : QString(QLatin1Char("xyz"[i])));
        Field field = fields::table(name(m), tr(m.label), heads, std::move(rows), m.least, set<Rows>(m));
        if (dimensionOf(m) != Dimension::Length) field.dimension.reset();
        add(m, std::move(field));
    }
    Field tableOf(const Member& m, const RowReader& columns, Rows rows) {
        Field field = fields::table(name(m), tr(m.label), columns.heads, std::move(rows), m.least, set<Rows>(m));
        if (!columns.lengths) field.dimension.reset();
        field.when_empty = columns.when_empty;
        return field;
    }
    void addRow(const Member& m, describe::Object& value) {
        RowReader now;
        value.describe(now);
        Field field = tableOf(m, now, now.whole ? Rows{now.figures} : Rows{});
        field.most_rows = 1;
        add(m, std::move(field));
    }
    void addList(const Member& m, describe::List& value) {
        RowReader columns;
        value.describeNew(columns);
        Rows rows;
        for (std::size_t i = 0; i < value.size(); ++i) {
            RowReader row;
            value.describe(row, i);
            rows.push_back(row.figures);
        }
        add(m, tableOf(m, columns, std::move(rows)));
    }
    void add(const Member& m, Field field) {
        field.tip = tipOf(m);
        field.more = (m.seldom || m.lines) && path_.empty() && !*m.under; // a section keeps what is its own
        std::vector<Field> all;
        all.push_back(std::move(field));
        put(m, 0, std::move(all));
    }
    void put(const Member& m, int usual_place, std::vector<Field> all) {
        if (all.empty()) return;
        const bool another = groups_.empty() || heading_ != m.key;
        if (*m.under && another) all.insert(all.begin(), fields::heading(tr(m.under)));
        if (*m.under) heading_ = m.key; // of a point whose coordinates are apart: once
        groups_.push_back({m.at.value_or(usual_place), std::move(all)});
    }

    const model::Project& project_;
    const PutValue& put_;
    std::string path_;
    QString prefix_;
    std::vector<Group> groups_;
    mutable std::optional<model::RuleBook> book_; ///< once it is asked for
    std::string heading_;
};

// Values

class Putter : public describe::Walker {
public:
    Putter(std::string path, const FieldValue& value) : path_(std::move(path)), value_(value) {}

    void onText(const Member& m, std::string& value) override {
        // A point is its owner's.
        if (m.target == Target::Point && another_owner_) value.clear();
        const auto* typed = mine<std::string>(m);
        if (!typed) return;
        another_owner_ = m.target == Target::Owner && value != *typed;
        value = *typed;
    }
    void onNumber(const Member& m, double& value) override {
        const auto* typed = mine<std::optional<double>>(m);
        if (typed && (*typed || m.usual)) value = typed->value_or(m.usual.value_or(0));
    }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (const auto* typed = mine<std::optional<double>>(m)) value = *typed;
    }
    void onFlag(const Member& m, bool& value) override {
        if (const auto* typed = mine<bool>(m)) value = *typed;
    }
    void onPoint(const Member& m, Eigen::Vector3d& value) override {
        if (const auto* typed = mine<std::optional<Eigen::Vector3d>>(m); typed && *typed) value = **typed;
        if (const int i = coordinate(m); i >= 0 && number()) value[i] = *number();
    }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override {
        if (const auto* typed = mine<std::optional<Eigen::Vector3d>>(m)) value = *typed;
        const int i = coordinate(m);
        if (i < 0) return;
        // Of an extent one side may be nothing; the first side that is known of a size stands for the others.
        const bool extent = m.vector == Vector::Extent, size = m.vector == Vector::Size;
        if (!number() && !extent) return value.reset();
        if (!value) value = Eigen::Vector3d::Constant(size ? *number() : 0);
        (*value)[i] = number().value_or(0);
        if (extent && value->isZero(0)) value.reset();
    }
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override { points<3>(m, value); }
    void onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) override { points<2>(m, value); }
    void onChoice(const Member& m, const Words& words, int& place) override {
        const auto* typed = mine<std::string>(m);
        if (!typed) return;
        place = -1;
        for (std::size_t i = 0; i < words.size(); ++i)
            if (*typed == words[i].file) place = static_cast<int>(i);
    }
    void onObject(const Member& m, describe::Object& value) override {
        if (const auto* there = mine<bool>(m)) return *there ? (value.here() ? void() : value.make()) : value.drop();
        if (const auto* rows = mine<Rows>(m)) return fill(value, *rows);
        const auto rest = below(path_, m.key);
        if (!rest) return;
        if (!value.here() && nothingTyped()) return;
        if (!value.here()) value.make();
        Putter inner(*rest, value_);
        const describe::Owned as_here(inner, owner());
        value.describe(inner);
    }
    void onList(const Member& m, describe::List& value) override {
        if (const auto* rows = mine<Rows>(m)) return fill(m, value, *rows);
        const auto rest = below(path_, m.key);
        if (!rest) return;
        const std::size_t index = std::stoul(*rest);
        const auto inside = below(*rest, std::to_string(index));
        if (!inside || index >= value.size()) return;
        Putter inner(*inside, value_);
        const describe::Owned as_here(inner, owner());
        value.describe(inner, index);
    }
    void onForms(const Member&, const Words&, describe::Forms& value) override { value.describe(*this); }

private:
    template <class V>
    const V* mine(const Member& m) const {
        return path_ == m.key ? std::get_if<V>(&value_) : nullptr;
    }
    /// What comes after "key." in a path.
    static std::optional<std::string> below(const std::string& path, const std::string& key) {
        if (path.compare(0, key.size() + 1, key + ".") != 0) return std::nullopt;
        return path.substr(key.size() + 1);
    }
    int coordinate(const Member& m) const {
        const auto rest = below(path_, m.key);
        return rest ? std::stoi(*rest) : -1;
    }
    bool nothingTyped() const {
        const auto* text = std::get_if<std::string>(&value_);
        const auto* figure = std::get_if<std::optional<double>>(&value_);
        return (text && text->empty()) || (figure && !*figure);
    }
    std::optional<double> number() const {
        const auto* typed = std::get_if<std::optional<double>>(&value_);
        return typed ? *typed : std::nullopt;
    }
    template <int N>
    void points(const Member& m, std::vector<Eigen::Matrix<double, N, 1>>& value) {
        const auto* rows = mine<Rows>(m);
        if (!rows) return;
        value.clear();
        for (const auto& row : *rows) value.push_back(Eigen::Map<const Eigen::Matrix<double, N, 1>>(row.data()));
    }
    static void fill(describe::Object& value, const Rows& rows) {
        static const std::vector<double> nothing;
        RowWriter writer(rows.empty() ? nothing : rows.front(), {});
        value.describe(writer);
    }
    static void fill(const Member& m, describe::List& value, const Rows& rows) {
        while (value.size() > rows.size()) value.drop(value.size() - 1);
        for (std::size_t i = 0; i < rows.size(); ++i) {
            if (i == value.size()) value.add();
            RowWriter writer(rows[i], std::string(m.entry) + " " + std::to_string(i + 1));
            value.describe(writer, i);
        }
    }

    std::string path_;
    const FieldValue& value_;
    bool another_owner_ = false;
};

// Lists

/// The entries of the list at "section/list", or "list" at the top.
class Lister : public describe::Walker {
public:
    explicit Lister(std::string path) : path_(std::move(path)) {}
    void onObject(const Member& m, describe::Object& value) override {
        const std::string inside = std::string(m.key) + "/";
        if (!value.here() || path_.compare(0, inside.size(), inside) != 0) return;
        Lister inner(path_.substr(inside.size()));
        value.describe(inner);
        entries = std::move(inner.entries);
    }
    void onList(const Member& m, describe::List& value) override {
        for (std::size_t i = 0; path_ == m.key && i < value.size(); ++i) {
            Entry entry;
            value.describe(entry, i);
            entries.emplace_back(q(entry.id), q(entry.name));
        }
    }
    void onForms(const Member&, const Words&, describe::Forms&) override {}
    Choices entries;

private:
    class Entry : public describe::Walker {
    public:
        void onText(const Member& m, std::string& value) override {
            if (std::strcmp(m.key, "id") == 0) id = value;
            if (std::strcmp(m.key, "name") == 0) name = value;
        }
        void onObject(const Member&, describe::Object&) override {}
        void onList(const Member&, describe::List&) override {}
        void onForms(const Member&, const Words&, describe::Forms&) override {}
        std::string id, name;
    };
    std::string path_;
};

} // namespace

void describedFields(std::vector<Field>& out, const model::Project& project,
                     const std::function<void(describe::Visitor&)>& show, const PutValue& put, const QString& prefix) {
    FieldMaker maker(project, put, {}, prefix);
    show(maker);
    for (Field& field : maker.take()) out.push_back(std::move(field));
}

void putMember(const std::function<void(describe::Visitor&)>& describe, const std::string& path,
               const FieldValue& value) {
    Putter putter(path, value);
    describe(putter);
}

Choices among(const model::Project& project, const std::string& path) {
    Lister own(path);
    describe::show(own, project);
    const model::RuleBook& book = store::defaultRuleBook();
    const auto shipped = [&](const char* list, const auto& entries) {
        if (path.substr(path.rfind('/') + 1) != list) return;
        for (const auto& entry : entries) {
            const auto same = [&entry](const auto& its) { return its.first == q(entry.id); };
            if (std::none_of(own.entries.begin(), own.entries.end(), same))
                own.entries.emplace_back(q(entry.id), q(entry.name));
        }
    };
    shipped("categories", book.categories);
    shipped("isolators", book.isolators);
    shipped("sheets", book.sheets);
    return std::move(own.entries);
}

namespace {

auto found(std::vector<Field>& fields, const QString& name) {
    return std::find_if(fields.begin(), fields.end(), [&name](const Field& field) { return field.name == name; });
}

} // namespace

Field& fieldNamed(std::vector<Field>& fields, const QString& name) {
    const auto field = found(fields, name);
    if (field == fields.end()) throw std::logic_error("there is no field \"" + name.toStdString() + "\"");
    return *field;
}

bool hasField(const std::vector<Field>& fields, const QString& name) {
    return std::any_of(fields.begin(), fields.end(), [&name](const Field& field) { return field.name == name; });
}

void putAfter(std::vector<Field>& fields, const QString& name, Field field) {
    fieldNamed(fields, name);
    fields.insert(found(fields, name) + 1, std::move(field));
}

void dropField(std::vector<Field>& fields, const QString& name) {
    fields.erase(std::remove_if(fields.begin(), fields.end(), [&name](const Field& f) { return f.name == name; }),
                 fields.end());
}

void chosenFrom(std::vector<Field>& fields, const QString& name, Choices choices) {
    Field& field = fieldNamed(fields, name);
    field.kind = Field::Kind::Choice;
    field.choices = std::move(choices);
}

} // namespace gabarit::app
