#include "stages/rules/rules_stage.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "model/edit.h"
#include "session/session.h"
#include "store/rule_book.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

using quantity::Dimension;

const model::RuleBook& book() { return store::defaultRuleBook(); }
model::RuleBook inUse(const Session& session) { return model::applied(book(), session.project()->rules); }

/// What a figure is measured in, by its name; nothing: a bare number (a share, a factor, rad/s²).
std::optional<Dimension> dimensionOf(const std::string& figure) {
    const auto ends = [&figure](const char* end) {
        const std::string e = end;
        return figure.size() >= e.size() && figure.compare(figure.size() - e.size(), e.size(), e) == 0;
    };
    if (ends("_n_per_mm")) return std::nullopt;
    if (ends("_mm") || ends("_mm_per_m")) return Dimension::Length;
    if (ends("_deg")) return Dimension::Angle;
    if (ends("_kg")) return Dimension::Mass;
    return std::nullopt;
}

/// What a bare number is of: the table's columns are headed in the unit of lengths.
QString bareUnit(const std::string& figure) {
    const std::pair<const char*, QString> units[] = {
        {"_rad_s2", QObject::tr("rad/s²")},       {"_gpa", QObject::tr("GPa")},       {"_kg_m3", QObject::tr("kg/m³")},
        {"_diameters", QObject::tr("diameters")}, {"_g", QObject::tr("g")},           {"_hz", QObject::tr("Hz")},
        {"_n_per_mm", QObject::tr("N/mm")},       {"_ratio", QObject::tr("times")},   {"_count", QObject::tr("pieces")},
        {"_factor", QObject::tr("times")},        {"outlier_t", QObject::tr("times")}};
    for (const auto& [end, unit] : units)
        if (q(figure).endsWith(QLatin1String(end))) return unit;
    return QObject::tr("share");
}

Field valueField(const model::Figure& figure, std::function<bool(double)> set) {
    const QString name = QStringLiteral("value"), label = QObject::tr("Figure");
    if (const auto dimension = dimensionOf(figure.id))
        return fields::quantity(name, label, *dimension, figure.value, std::move(set));
    return fields::number(name, label, figure.value,
                          [set = std::move(set)](std::optional<double> value) { return value && set(*value); });
}

/// "engine, gearbox, any hot": categories by their names, groups as "any …", everything as "anything".
QString namesOf(const std::vector<std::string>& ids) {
    QStringList names;
    for (const std::string& id : ids) {
        if (id == "*")
            names << QObject::tr("anything");
        else if (id[0] == '@')
            names << QObject::tr("any %1").arg(q(id.substr(1)));
        else
            names << (book().category(id) ? q(book().category(id)->name) : q(id));
    }
    return names.join(QStringLiteral(", "));
}
std::vector<std::string> idsOf(const std::string& names) {
    std::vector<std::string> ids;
    for (const QString& part : q(names).split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const QString name = part.trimmed();
        const auto category =
            std::find_if(book().categories.begin(), book().categories.end(), [&](const model::Category& c) {
                return q(c.name).compare(name, Qt::CaseInsensitive) == 0 || q(c.id) == name;
            });
        if (name.compare(QObject::tr("anything"), Qt::CaseInsensitive) == 0)
            ids.emplace_back("*");
        else if (category != book().categories.end())
            ids.push_back(category->id);
        else if (name.startsWith(QObject::tr("any "), Qt::CaseInsensitive))
            ids.push_back("@" + name.mid(4).trimmed().toStdString());
        else
            ids.push_back(name.toStdString()); // what it is not is said when it is checked
    }
    return ids;
}

QStringList heads() {
    QStringList out{QObject::tr("Between")};
    for (const model::School& school : book().schools) out << q(school.name);
    return out << QObject::tr("Shielded") << QObject::tr("Whose");
}

template <class Items>
auto* byId(Items& items, const std::string& id) {
    const auto at = std::find_if(items.begin(), items.end(), [&](const auto& item) { return item.id == id; });
    return at == items.end() ? nullptr : &*at;
}

/// The project's own entry for this id: what it has, or a copy of the book's under its own name as source.
template <class Item>
Item& own(std::vector<Item>& mine, const std::vector<Item>& all, const std::string& id) {
    if (Item* item = byId(mine, id)) return *item;
    mine.push_back(*byId(all, id));
    mine.back().source = QObject::tr("this project's own; the book: %1").arg(q(mine.back().source)).toStdString();
    return mine.back();
}

} // namespace

RulesStage::RulesStage(Session& session, QWidget* parent)
    : TableStage(session, heads(), {0, static_cast<int>(heads().size()) - 1}, parent), school_(new QComboBox(this)) {
    table()->setAccessibleName(tr("Rules and figures"));
    table()->setWordWrap(true);
    auto* head =
        new QLabel(tr("The smallest gaps wanted, and allowances. Change a figure and it holds for this project; the "
                      "book stays as it is. Local code and the component's maker override all of them."),
                   this);
    head->setWordWrap(true);
    for (const model::School& school : book().schools)
        school_->addItem(tr("Rules: %1 (%2)").arg(q(school.name), q(school.text)), q(school.id));
    school_->setAccessibleName(tr("School of practice that gaps are held against"));
    connect(school_, &QComboBox::activated, this,
            [this] { session_.useSchool(school_->currentData().toString().toStdString()); });
    above()->addWidget(head);
    above()->addWidget(school_);
    connect(addButton("add", tr("Add a row"), tr("For a pair of your own")), &QPushButton::clicked, this,
            &RulesStage::addRow);
    connect(
        addButton("back", tr("Back to the book"),
                  tr("The project's own figure goes, the book's holds again; a row that only the project has goes")),
        &QPushButton::clicked, this, &RulesStage::backToBook);
}

bool RulesStage::isOwn(const std::string& id) const {
    const model::RuleChoice& rules = session_.project()->rules;
    return byId(rules.rows, id) || byId(rules.figures, id);
}

const StagePlug& rulesStage() {
    static const StagePlug plug{
        "rules", StageGroup::Rules,
        10,      [] { return RulesStage::tr("Rules"); },
        {},      [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new RulesStage(session, parent); }};
    return plug;
}

QString RulesStage::quietWords(const study::Reports& reports) const {
    const auto own = reports.project->rules.rows.size() + reports.project->rules.figures.size();
    return own == 0 ? tr("as they came") : tr("%1 of your own").arg(own);
}

void RulesStage::refresh() {
    if (!session_.hasProject()) return;
    const model::RuleBook now = inUse(session_);
    const quantity::Shown shown = session_.shown();
    const QString unit = QString::fromLatin1(quantity::lengthUnit(shown));
    school_->setCurrentIndex(school_->findData(q(session_.school())));
    const int schools = static_cast<int>(now.schools.size());
    beginRows(now.rows.size() + now.figures.size());
    const auto length = [&](double mm) { // no coarser than it was written
        const bool tenths = std::abs(mm * 10 - std::round(mm * 10)) < 1e-9;
        return q(quantity::lengthNumber(mm, shown, !tenths ? 2 : mm < 10 ? 1 : 0));
    };
    int r = 0;
    const auto put = [&](const std::string& id, QStringList cells) {
        cells << (isOwn(id) ? tr("your own") : tr("the book"));
        putRow(r, q(id), cells);
        for (int s = 0; s < schools; ++s) {
            QFont font = table()->font();
            font.setBold(now.schools[static_cast<std::size_t>(s)].id == now.default_school);
            table()->item(r, s + 1)->setFont(font);
        }
        ++r;
    };
    for (const model::RuleRow& row : now.rows) {
        QStringList cells{q(row.text)};
        for (const model::School& school : now.schools) {
            const auto figure = row.at_rest_mm.find(school.id);
            cells << (figure == row.at_rest_mm.end() ? QStringLiteral("–") : length(figure->second));
        }
        const auto shielded = row.shielded_mm.find(now.default_school);
        cells << (shielded == row.shielded_mm.end() ? QString() : length(shielded->second));
        put(row.id, cells);
    }
    for (const model::Figure& figure : now.figures) {
        QStringList cells{q(figure.text)};
        const auto dimension = dimensionOf(figure.id);
        const QString value = dimension ? (*dimension == Dimension::Length
                                               ? length(figure.value)
                                               : q(quantity::text(*dimension, figure.value, session_.shown(), 1)))
                                        : QString::number(figure.value) + QLatin1Char(' ') + bareUnit(figure.id);
        for (int s = 0; s < schools; ++s) cells << (s == 0 ? value : QString());
        put(figure.id, cells << QString());
    }
    for (int s = 0; s < schools; ++s) {
        const model::School& school = now.schools[static_cast<std::size_t>(s)];
        table()->horizontalHeaderItem(s + 1)->setText(school.id == now.default_school
                                                          ? tr("%1 (in use), %2").arg(q(school.name), unit)
                                                          : tr("%1, %2").arg(q(school.name), unit));
    }
    endRows();
    table()->resizeRowsToContents();
    for (int i = 0; i < table()->rowCount(); ++i)
        table()->setRowHeight(i, std::max(table()->rowHeight(i) + 4, target_px));
}

std::vector<Field> RulesStage::rowFields(const model::RuleRow& row) {
    const auto set = [this, id = row.id](auto change) {
        return [this, id, change](const auto& value) {
            model::Project changed = *session_.project();
            change(own(changed.rules.rows, inUse(session_).rows, id), value);
            return session_.edit(tr("change a rule"), std::move(changed));
        };
    };
    using R = model::RuleRow;
    std::vector<Field> out;
    out.push_back(fields::words(QStringLiteral("text"), tr("Between"), row.text,
                                set([](R& r, const std::string& v) { r.text = v; })));
    out.push_back(fields::words(QStringLiteral("between"), tr("One is"), namesOf(row.between).toStdString(),
                                set([](R& r, const std::string& v) { r.between = idsOf(v); })));
    out.push_back(fields::words(QStringLiteral("and"), tr("the other"), namesOf(row.and_).toStdString(),
                                set([](R& r, const std::string& v) { r.and_ = idsOf(v); })));
    out.back().tip = out[1].tip = tr("Kinds of parts with commas between, \"any hot\" for a group, or \"anything\"");
    const auto figures = [&](const char* prefix, const QString& label, std::map<std::string, double> R::*member) {
        for (const model::School& school : book().schools) {
            const auto figure = (row.*member).find(school.id);
            out.push_back(fields::known(QString::fromLatin1(prefix) + q(school.id), label.arg(q(school.name)),
                                        Dimension::Length,
                                        figure == (row.*member).end() ? std::nullopt : std::optional(figure->second),
                                        set([member, school = school.id](R& r, const std::optional<double>& v) {
                                            if (v)
                                                (r.*member)[school] = *v;
                                            else
                                                (r.*member).erase(school);
                                        })));
        }
    };
    out.push_back(fields::heading(tr("Gap wanted")));
    figures("rest_", tr("%1"), &R::at_rest_mm);
    out.push_back(fields::heading(tr("Where one has a heat shield")));
    figures("shielded_", tr("%1, shielded"), &R::shielded_mm);
    out.push_back(fields::words(QStringLiteral("source"), tr("Source"), row.source,
                                set([](R& r, const std::string& v) { r.source = v; })));
    out.push_back(fields::remark(QStringLiteral("source_remark"), tr("From: %1").arg(q(row.source))));
    return out;
}

std::vector<Field> RulesStage::figureFields(const model::Figure& figure) {
    const auto set = [this, id = figure.id](auto change) {
        return [this, id, change](const auto& value) {
            model::Project changed = *session_.project();
            change(own(changed.rules.figures, inUse(session_).figures, id), value);
            return session_.edit(tr("change a figure"), std::move(changed));
        };
    };
    using F = model::Figure;
    return {fields::heading(q(figure.text)), valueField(figure, set([](F& f, double v) { f.value = v; })),
            fields::words(QStringLiteral("source"), tr("Source"), figure.source,
                          set([](F& f, const std::string& v) { f.source = v; })),
            fields::remark(QStringLiteral("source_remark"), tr("From: %1").arg(q(figure.source)))};
}

void RulesStage::refreshForm() {
    const model::RuleBook now = inUse(session_);
    const std::string chosen = key().toStdString();
    std::vector<Field> fields;
    if (const auto* row = byId(now.rows, chosen)) fields = rowFields(*row);
    if (const auto* figure = byId(now.figures, chosen)) fields = figureFields(*figure);
    form()->show(std::move(fields), session_.shown(), key());
    button(QStringLiteral("back"))->setEnabled(isOwn(chosen));
}

void RulesStage::addRow() {
    model::Project changed = *session_.project();
    model::RuleRow row;
    std::vector<std::string> taken;
    for (const model::RuleRow& r : inUse(session_).rows) taken.push_back(r.id);
    row.text = tr("a pair of your own").toStdString();
    row.id = model::freshId(row.text, taken);
    row.between = {"@unit"};
    row.and_ = {"@fixed"};
    // No tighter than what holds already, until its own figure is typed.
    for (const model::School& school : book().schools) row.at_rest_mm[school.id] = 0;
    row.source = tr("this project's own").toStdString();
    const QString made = q(row.id);
    changed.rules.rows.push_back(std::move(row));
    const QString before = wanted();
    want(made);
    if (session_.edit(tr("add a rule"), std::move(changed)))
        form()->begin();
    else
        want(before);
}

void RulesStage::backToBook() {
    model::Project changed = *session_.project();
    const std::string chosen = key().toStdString();
    const auto drop = [&](auto& items) {
        items.erase(std::remove_if(items.begin(), items.end(), [&](const auto& i) { return i.id == chosen; }),
                    items.end());
    };
    drop(changed.rules.rows);
    drop(changed.rules.figures);
    session_.edit(tr("go back to the book's figure"), std::move(changed));
}

} // namespace gabarit::app

#include "moc_rules_stage.cpp"
