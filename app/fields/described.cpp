#include "fields/described.h"

#include "fields/survey_forms.h"
#include "model/edit.h"

namespace gabarit::app {
namespace {

using describe::Member;
using describe::Target;
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

/// "step_across" as a person reads it.
QString readable(const char* word) { return tr(word).replace(QLatin1Char('_'), QLatin1Char(' ')); }

class FieldMaker : public describe::Walker {
public:
    using Put = std::function<bool(const std::string&, const FieldValue&)>;
    FieldMaker(std::vector<Field>& out, const model::Project& project, const Put& put, std::string path)
        : out_(out), project_(project), put_(put), path_(std::move(path)) {}

    void onText(const Member& m, std::string& value) override {
        if (!shown(m)) return;
        Choices choices;
        if (m.words)
            for (const char* word : *m.words) choices.emplace_back(QLatin1String(word), readable(word));
        if (m.target == Target::BodyPath) choices = bodyChoices(project_);
        if (m.target == Target::OptionPath) choices = allOptions(project_);
        if (m.target == Target::Body)
            if (const auto* bodies = model::bodiesOf(project_, m.owner))
                for (const model::Body& body : *bodies) choices.emplace_back(q(body.id.text), q(body.name));
        if (m.target == Target::Placement)
            for (const model::Placement& p : project_.placements) choices.emplace_back(q(p.id.text), q(p.name));
        if (m.target == Target::Donor)
            for (const model::Donor& donor : project_.donors) choices.emplace_back(q(donor.id.text), q(donor.name));
        if (choices.empty()) return add(m, fields::words(name(m), label(m), value, set<std::string>(m)));
        if (!m.required && choices.front().first != QString()) choices.insert(choices.begin(), {QString(), tr("none")});
        add(m, fields::choice(name(m), label(m), std::move(choices), value, set<std::string>(m)));
    }
    void onNumber(const Member& m, double& value) override {
        if (!shown(m)) return;
        const auto dimension = dimensionOf(m);
        const auto put = set<std::optional<double>>(m);
        if (dimension)
            return add(m, fields::quantity(name(m), label(m), *dimension, value, [put](double v) { return put(v); }));
        Field field = fields::number(name(m), label(m), value, put);
        field.may_be_empty = false;
        add(m, std::move(field));
    }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (!shown(m)) return;
        const auto dimension = dimensionOf(m);
        const auto put = set<std::optional<double>>(m);
        add(m, dimension ? fields::known(name(m), label(m), *dimension, value, put)
                         : fields::number(name(m), label(m), value, put));
    }
    void onFlag(const Member& m, bool& value) override {
        if (shown(m)) add(m, fields::flag(name(m), label(m), value, set<bool>(m)));
    }
    void onPoint(const Member& m, Eigen::Vector3d& value) override { addPoint(m, value, 1); }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override { addPoint(m, value, 0); }
    void onChoice(const Member& m, const Words& words, int& place) override {
        if (!shown(m)) return;
        Choices choices;
        if (place < 0) choices.emplace_back(QString(), tr("not said"));
        for (const char* word : words) choices.emplace_back(QLatin1String(word), readable(word));
        const std::string now = place < 0 ? "" : words[static_cast<std::size_t>(place)];
        add(m, fields::choice(name(m), label(m), std::move(choices), now, set<std::string>(m)));
    }
    void onObject(const Member& m, describe::Object& value) override {
        FieldMaker inner(out_, project_, put_, path_ + m.key + ".");
        const describe::Owned as_here(inner, owner());
        if (*m.under) out_.push_back(fields::heading(tr(m.under)));
        if (value.here())
            value.describe(inner);
        else
            value.describeNew(inner);
    }
    void onList(const Member&, describe::List&) override {} // its entries are things of their own
    void onForms(const Member&, const Words&, describe::Forms&) override {}

private:
    static bool shown(const Member& m) { return *m.label; }
    QString name(const Member& m) const { return q(path_ + m.key).replace(QLatin1Char('.'), QLatin1Char('_')); }
    /// With the unit where the field has none of its own.
    QString label(const Member& m) const {
        const std::string unit = dimensionOf(m) ? std::string() : describe::unitOf(m.key);
        return unit.empty() ? tr(m.label) : tr("%1, %2").arg(tr(m.label), q(unit));
    }
    template <class V>
    std::function<bool(V)> set(const Member& m) const {
        return [put = put_, path = path_ + m.key](const V& value) { return put(path, FieldValue(value)); };
    }
    void addPoint(const Member& m, const std::optional<Eigen::Vector3d>& value, std::size_t fewest) {
        if (!shown(m)) return;
        const auto put = set<std::optional<Eigen::Vector3d>>(m);
        Field field =
            fields::table(name(m), label(m), {tr("x"), tr("y"), tr("z")},
                          value ? Rows{{value->x(), value->y(), value->z()}} : Rows{}, fewest, [put](const Rows& rows) {
                              if (rows.empty()) return put(std::nullopt);
                              return put(Eigen::Vector3d(rows[0][0], rows[0][1], rows[0][2]));
                          });
        field.most_rows = 1;
        if (!dimensionOf(m)) field.dimension.reset();
        add(m, std::move(field));
    }
    void add(const Member& m, Field field) {
        if (*m.under) out_.push_back(fields::heading(tr(m.under)));
        field.tip = tr(m.means);
        out_.push_back(std::move(field));
    }

    std::vector<Field>& out_;
    const model::Project& project_;
    const Put& put_;
    std::string path_;
};

class Putter : public describe::Walker {
public:
    Putter(std::string path, const FieldValue& value) : path_(std::move(path)), value_(value) {}

    void onText(const Member& m, std::string& value) override {
        if (const auto* typed = mine<std::string>(m)) value = *typed;
    }
    void onNumber(const Member& m, double& value) override {
        if (const auto* typed = mine<std::optional<double>>(m); typed && *typed) value = **typed;
    }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (const auto* typed = mine<std::optional<double>>(m)) value = *typed;
    }
    void onFlag(const Member& m, bool& value) override {
        if (const auto* typed = mine<bool>(m)) value = *typed;
    }
    void onPoint(const Member& m, Eigen::Vector3d& value) override {
        if (const auto* typed = mine<std::optional<Eigen::Vector3d>>(m); typed && *typed) value = **typed;
    }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override {
        if (const auto* typed = mine<std::optional<Eigen::Vector3d>>(m)) value = *typed;
    }
    void onChoice(const Member& m, const Words& words, int& place) override {
        const auto* typed = mine<std::string>(m);
        if (!typed) return;
        place = -1;
        for (std::size_t i = 0; i < words.size(); ++i)
            if (*typed == words[i]) place = static_cast<int>(i);
    }
    void onObject(const Member& m, describe::Object& value) override {
        const std::string inside = std::string(m.key) + ".";
        if (path_.compare(0, inside.size(), inside) != 0) return;
        if (!value.here()) value.make();
        Putter inner(path_.substr(inside.size()), value_);
        value.describe(inner);
    }
    void onList(const Member&, describe::List&) override {}
    void onForms(const Member&, const Words&, describe::Forms&) override {}

private:
    template <class V>
    const V* mine(const Member& m) const {
        return path_ == m.key ? std::get_if<V>(&value_) : nullptr;
    }
    std::string path_;
    const FieldValue& value_;
};

} // namespace

void describedFields(std::vector<Field>& out, const model::Project& project,
                     const std::function<void(describe::Visitor&)>& show,
                     const std::function<bool(const std::string& path, const FieldValue& value)>& put) {
    FieldMaker maker(out, project, put, {});
    show(maker);
}

void putMember(const std::function<void(describe::Visitor&)>& describe, const std::string& path,
               const FieldValue& value) {
    Putter putter(path, value);
    describe(putter);
}

} // namespace gabarit::app
