#include "stages/parts/parts_stage.h"

#include "fields/described.h"
#include "fields/part_fields.h"
#include "forms/elided_combo.h"
#include "forms/field_line.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "kit/table_files.h"
#include "ledger/parts.h"
#include "ledger/section/money.h"
#include "model/edit.h"
#include "parts/parts.h"
#include "session/session.h"
#include "store/csv.h"
#include "store/rule_book.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
PartsStage::PartsStage(Session& session, QWidget* parent)
    : TableStage(session, {tr("Part"), tr("State"), tr("Cost"), tr("From"), tr("Still needs")}, {0, 1, 3, 4}, parent),
      summary_(new QLabel(this)), filter_(new ElidedCombo(this)), search_(new FieldLine(this)),
      shown_(new QLabel(this)) {
    summary_->setWordWrap(true);
    summary_->setTextFormat(Qt::PlainText);
    above()->addWidget(summary_);
    auto* find = new QHBoxLayout;
    search_->setPlaceholderText(tr("Find a part"));
    search_->setAccessibleName(tr("Find a part, by its name, where it comes from, or its note"));
    search_->setToolTip(search_->accessibleName());
    search_->setClearButtonEnabled(true);
    filter_->setAccessibleName(tr("Which parts are listed"));
    for (const auto& [id, words] :
         {std::pair("all", tr("All parts")), std::pair("get", tr("To get")), std::pair("here", tr("Here or fitted")),
          std::pair("off", tr("Taken off, to sell or return"))})
        filter_->addItem(words, QLatin1String(id));
    for (QWidget* widget : {static_cast<QWidget*>(search_), static_cast<QWidget*>(filter_)}) {
        widget->setMinimumHeight(target_px);
        find->addWidget(widget, 1);
    }
    shown_->setForegroundRole(QPalette::PlaceholderText);
    find->addWidget(shown_);
    above()->addLayout(find);
    connect(search_, &QLineEdit::textChanged, this, [this] { refresh(); });
    connect(filter_, &QComboBox::currentIndexChanged, this, [this] { refresh(); });
    connect(table(), &QTableWidget::itemChanged, this, [this](const QTableWidgetItem* item) {
        if (!filling() && item->column() == 0) tick(item->row(), item->checkState() == Qt::Checked);
    });
    table()->setAccessibleName(tr("Parts list"));
    connect(addButton("add", tr("Add a part"), tr("Something to buy, make, take off or sell")), &QPushButton::clicked,
            this, [this] { add(false); });
    connect(addButton("copy", tr("Copy"), tr("Makes the same again")), &QPushButton::clicked, this,
            [this] { add(true); });
    connect(addButton("delete", tr("Delete"), tr("Takes it out of the list; undo brings it back")),
            &QPushButton::clicked, this, &PartsStage::remove);
    connect(addButton("out", tr("To a table…"), tr("As a spreadsheet reads it (CSV)")), &QPushButton::clicked, this,
            [this] {
                const QString path =
                    QFileDialog::getSaveFileName(this, tr("Parts to a table"), {}, tr("Tables (*.csv)"));
                if (!path.isEmpty()) writeTable(path);
            });
    connect(addButton("in", tr("From a table…"), tr("Changes what the table names, adds what is new")),
            &QPushButton::clicked, this, [this] {
                const QString path =
                    QFileDialog::getOpenFileName(this, tr("Parts from a table"), {}, tr("Tables (*.csv)"));
                if (!path.isEmpty()) readTable(path);
            });
}

const StagePlug& partsStage() {
    static const StagePlug plug{"parts",
                                StageGroup::Account,
                                20,
                                [] { return PartsStage::tr("Parts"); },
                                {"parts"},
                                [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new PartsStage(session, parent); }};
    return plug;
}

QString PartsStage::quietWords(const study::Reports& reports) const {
    const auto* list = reports.of<ledger::PartsReport>();
    return list && list->missing > 0 ? tr("%1 to get").arg(list->missing) : QString();
}

QString PartsStage::summary() const { return summary_->text(); }

void PartsStage::refresh() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    const ledger::PartsReport report = ledger::parts(project); // cheap, and never behind the hand
    const auto money = [&report](double sum) {
        return q(quantity::fixed(sum, 2)) +
               (report.currency.empty() ? QString() : QLatin1Char(' ') + q(report.currency));
    };
    const auto count = [](std::size_t n) { return n == 1 ? tr("1 part") : tr("%1 parts").arg(n); };
    if (!project.sections.get<model::Parts>()) {
        summary_->setText(tr("No parts list yet. Add the first part: what has to be bought, made, taken off or sold."));
    } else {
        QString text =
            tr("To finish: %1. Spent %2, sold %3, all together %4.")
                .arg(money(report.to_spend), money(report.spent), money(report.income), money(report.total()));
        if (report.to_get_back > 0) text += tr(" Still to come back: %1.").arg(money(report.to_get_back));
        if (report.budget)
            text += tr(" Budget %1: %2.")
                        .arg(money(*report.budget),
                             QLatin1String(report.verdict ? model::word(*report.verdict) : "not asked"));
        if (!report.unpriced.empty())
            text += tr("\nWithout a price: %1; the sums leave them out.").arg(count(report.unpriced.size()));
        text += tr("\nStill missing: %1.").arg(count(static_cast<std::size_t>(report.missing)));
        if (!report.not_taken.empty())
            text += tr(" Of forms that are not chosen, and not counted: %1.").arg(count(report.not_taken.size()));
        text += tr("\nMass put on %1, taken off %2; the donor is weighed by itself.")
                    .arg(q(quantity::massText(report.mass_on_kg, session_.shown(), 1)),
                         q(quantity::massText(report.mass_off_kg, session_.shown(), 1)));
        summary_->setText(text);
    }
    const std::vector<model::Part>& all = model::partsOf(project);
    const auto listed = std::count_if(all.begin(), all.end(), [this](const model::Part& part) { return shows(part); });
    shown_->setText(static_cast<std::size_t>(listed) < all.size() ? tr("%1 of %2").arg(listed).arg(all.size())
                                                                  : QString());
    beginRows(static_cast<std::size_t>(listed));
    int r = 0;
    for (const model::Part& part : all) {
        if (!shows(part)) continue;
        const auto line = std::find_if(report.lines.begin(), report.lines.end(),
                                       [&](const ledger::PartLine& l) { return l.id == part.id; });
        const bool taken = line != report.lines.end();
        QStringList needs;
        if (taken)
            for (const std::string& name : line->missing_companions) needs << q(name);
        putRow(r, q(part.id.text),
               {q(part.name), taken ? q(describe::said(part.state)) : tr("not chosen"),
                part.cost ? money(*part.cost) : tr("no price"), q(part.source), needs.join(QStringLiteral(", "))});
        const bool wanted = part.state == model::PartState::Needed || part.state == model::PartState::Ordered;
        QTableWidgetItem* name = table()->item(r, 0);
        name->setFlags(name->flags() | Qt::ItemIsUserCheckable);
        name->setCheckState(wanted ? Qt::Unchecked : Qt::Checked);
        if (!taken)
            for (int c = 0; c < table()->columnCount(); ++c) table()->item(r, c)->setForeground(tones().second_ink);
        ++r;
    }
    endRows();
}

bool PartsStage::shows(const model::Part& part) const {
    using model::PartState;
    const QString which = filter_->currentData().toString();
    const bool get = part.state == PartState::Needed || part.state == PartState::Ordered;
    const bool off =
        part.on_car == model::OnCar::Off || part.state == PartState::Sold || part.state == PartState::ToReturn;
    if (which == QLatin1String("get") && !get) return false;
    if (which == QLatin1String("here") && (get || off)) return false;
    if (which == QLatin1String("off") && !off) return false;
    // Every word that was typed is in it somewhere.
    const QString text =
        q(part.name + ' ' + part.source + ' ' + part.note + ' ' + part.why + ' ' + describe::said(part.state));
    for (const QString& word : search_->text().split(QLatin1Char(' '), Qt::SkipEmptyParts))
        if (!text.contains(word, Qt::CaseInsensitive)) return false;
    return true;
}

void PartsStage::tick(int row, bool here) {
    const QTableWidgetItem* item = table()->item(row, 0);
    if (!item) return;
    const std::string id = item->data(Qt::UserRole).toString().toStdString();
    model::Project changed = *session_.project();
    auto* parts = changed.sections.own<model::Parts>();
    if (!parts) return;
    for (model::Part& part : *parts) {
        if (part.id.text != id) continue;
        part.state = here ? model::PartState::Here : model::PartState::Needed;
        want(q(id));
        session_.edit(here ? tr("got: %1").arg(q(part.name)) : tr("still to get: %1").arg(q(part.name)),
                      std::move(changed));
        return;
    }
}

void PartsStage::refreshForm() {
    std::vector<Field> fields = partFields(session_, {key().toStdString()});
    const bool has = !fields.empty();
    fields.push_back(fields::heading(tr("Money")));
    sectionFields<ledger::Money>(fields, session_, tr("the budget"));
    form()->show(std::move(fields), session_.shown(), key());
    button(QStringLiteral("copy"))->setEnabled(has);
    button(QStringLiteral("delete"))->setEnabled(has);
}

void PartsStage::add(bool copy) {
    model::Project changed = *session_.project();
    auto& parts = changed.sections.edit<model::Parts>();
    std::vector<std::string> taken;
    model::Part part;
    for (const model::Part& p : parts) {
        taken.push_back(p.id.text);
        if (copy && q(p.id.text) == key()) part = p;
    }
    part.name = copy ? part.name + " copy" : tr("New part").toStdString();
    part.id.text = model::freshId(part.name, taken);
    search_->clear();
    if (!shows(part)) filter_->setCurrentIndex(0); // it is seen
    want(q(part.id.text));
    parts.push_back(std::move(part));
    if (session_.edit(copy ? tr("copy a part") : tr("a new part"), std::move(changed))) form()->begin();
}

void PartsStage::remove() {
    model::Project changed = *session_.project();
    auto* parts = changed.sections.own<model::Parts>();
    if (!parts) return;
    const std::string gone = key().toStdString();
    parts->erase(std::remove_if(parts->begin(), parts->end(), [&](const model::Part& p) { return p.id.text == gone; }),
                 parts->end());
    for (model::Part& part : *parts) // nothing needs it any more
        part.needs.erase(std::remove_if(part.needs.begin(), part.needs.end(),
                                        [&](const model::PartId& need) { return need.text == gone; }),
                         part.needs.end());
    const int row = table()->currentRow();
    const QTableWidgetItem* next = table()->item(row + 1, 0) ? table()->item(row + 1, 0) : table()->item(row - 1, 0);
    want(next ? next->data(Qt::UserRole).toString() : QString());
    session_.edit(tr("delete a part"), std::move(changed));
}

bool PartsStage::readTable(const QString& path) {
    return readTableFile(session_, path, tr("parts from a table"),
                         [this](const std::string& text, const std::string& file) {
                             return store::withPartsCsv(*session_.project(), text, file, store::defaultRuleBook());
                         });
}

bool PartsStage::writeTable(const QString& path) {
    return writeTableFile(session_, path, store::partsCsv(*session_.project()));
}

} // namespace gabarit::app

#include "moc_parts_stage.cpp"
#include "model/describe.h"
