#include "stages/parts/parts_stage.h"

#include "model/edit.h"
#include "shell/session.h"
#include "shell/tones.h"
#include "stages/parts/part_fields.h"
#include "stages/sheet.h"
#include "stages/table_files.h"
#include "store/csv.h"
#include "store/rule_book.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr int form_width_px = 330;
QString q(const std::string& text) { return QString::fromStdString(text); }
} // namespace

PartsStage::PartsStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), summary_(new QLabel(this)),
      table_(makeSheet({tr("Part"), tr("State"), tr("Cost"), tr("From"), tr("Still needs")}, {0, 1, 3, 4}, this)),
      form_(new EntryForm(this)) {
    summary_->setWordWrap(true);
    summary_->setTextFormat(Qt::PlainText);
    table_->setAccessibleName(tr("Parts list"));
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    const auto make = [this](const char* name, const QString& text, const QString& tip) {
        auto* button = new QPushButton(text, this);
        button->setObjectName(QString::fromLatin1(name));
        button->setToolTip(tip);
        button->setMinimumHeight(target_px);
        return button;
    };
    QPushButton* add = make("add", tr("Add a part"), tr("Something to buy, make, take off or sell"));
    QPushButton* copy = make("copy", tr("Copy"), tr("Makes the same again"));
    QPushButton* remove = make("delete", tr("Delete"), tr("Takes it out of the list; undo brings it back"));
    QPushButton* out = make("out", tr("To a table…"), tr("As a spreadsheet reads it (CSV)"));
    QPushButton* in = make("in", tr("From a table…"), tr("Changes what the table names, adds what is new"));
    auto* left = new QVBoxLayout;
    left->setContentsMargins(18, 14, 12, 14);
    left->setSpacing(10);
    left->addWidget(summary_);
    left->addWidget(table_, 1);
    auto* acts = new QHBoxLayout;
    for (QPushButton* button : {add, copy, remove, out, in}) acts->addWidget(button);
    acts->addStretch();
    left->addLayout(acts);
    form_->setFixedWidth(form_width_px);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addLayout(left, 1);
    row->addWidget(form_);
    connect(add, &QPushButton::clicked, this, [this] { this->add(false); });
    connect(copy, &QPushButton::clicked, this, [this] { this->add(true); });
    connect(remove, &QPushButton::clicked, this, &PartsStage::remove);
    connect(out, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("Parts to a table"), {}, tr("Tables (*.csv)"));
        if (!path.isEmpty()) writeTable(path);
    });
    connect(in, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Parts from a table"), {}, tr("Tables (*.csv)"));
        if (!path.isEmpty()) readTable(path);
    });
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int now, int, int before, int) {
        if (filling_ || now == before) return;
        wanted_ = id();
        refreshForm();
    });
    connect(form_, &EntryForm::wrong, this, [this](const QString& words) { emit session_.notice(words, true); });
    connect(&session_, &Session::reportsChanged, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&session_, &Session::projectChanged, this, [this] {
        if (isVisible()) refresh();
    });
}

QPushButton* PartsStage::button(const QString& name) const { return findChild<QPushButton*>(name); }
QString PartsStage::summary() const { return summary_->text(); }

void PartsStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

QString PartsStage::id() const {
    const QTableWidgetItem* cell = table_->item(table_->currentRow(), 0);
    return cell ? cell->data(Qt::UserRole).toString() : QString();
}

void PartsStage::choose(const QString& wanted) {
    wanted_ = wanted;
    refresh();
}

void PartsStage::refresh() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    const ledger::PartsReport report = ledger::parts(project); // cheap, and never behind the hand
    const auto money = [&report](double sum) {
        return q(quantity::fixed(sum, 2)) +
               (report.currency.empty() ? QString() : QLatin1Char(' ') + q(report.currency));
    };
    const auto count = [](std::size_t n) { return n == 1 ? tr("1 part") : tr("%1 parts").arg(n); };
    if (!project.parts) {
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
    filling_ = true;
    const std::vector<model::Part> all = project.parts.value_or(std::vector<model::Part>{});
    table_->setRowCount(static_cast<int>(all.size()));
    int r = 0;
    for (const model::Part& part : all) {
        const auto line = std::find_if(report.lines.begin(), report.lines.end(),
                                       [&](const ledger::PartLine& l) { return l.id == part.id; });
        QStringList needs;
        if (line != report.lines.end())
            for (const std::string& name : line->missing_companions) needs << q(name);
        const bool taken = line != report.lines.end();
        setRow(table_, r,
               {q(part.name), taken ? QString::fromLatin1(ledger::word(part.state)) : tr("not chosen"),
                part.cost ? money(*part.cost) : tr("no price"), q(part.source), needs.join(QStringLiteral(", "))},
               {0, 1, 3, 4});
        for (int c = 0; c < table_->columnCount(); ++c) {
            table_->item(r, c)->setToolTip(table_->item(r, c)->text());
            if (!taken) table_->item(r, c)->setForeground(tones().second_ink);
        }
        table_->item(r, 0)->setData(Qt::UserRole, q(part.id.text));
        if (q(part.id.text) == wanted_) table_->setCurrentCell(r, 0);
        ++r;
    }
    if (table_->currentRow() < 0 && r > 0) table_->setCurrentCell(0, 0);
    wanted_ = id();
    filling_ = false;
    refreshForm();
}

void PartsStage::refreshForm() {
    std::vector<Field> fields = partFields(session_, {id().toStdString()});
    const bool has = !fields.empty();
    const model::Money money = session_.project()->money.value_or(model::Money{});
    const auto set = [this](auto change) {
        return [this, change](const auto& value) {
            model::Project changed = *session_.project();
            if (!changed.money) changed.money.emplace();
            change(*changed.money, value);
            return session_.edit(tr("change the budget"), std::move(changed));
        };
    };
    fields.push_back(fields::heading(tr("Money")));
    fields.push_back(fields::number(QStringLiteral("budget"), tr("Budget"), money.budget,
                                    set([](model::Money& m, const std::optional<double>& v) { m.budget = v; })));
    fields.push_back(fields::words(QStringLiteral("currency"), tr("Currency"), money.currency,
                                   set([](model::Money& m, const std::string& v) { m.currency = v; })));
    form_->show(std::move(fields), session_.shown());
    button(QStringLiteral("copy"))->setEnabled(has);
    button(QStringLiteral("delete"))->setEnabled(has);
}

void PartsStage::add(bool copy) {
    model::Project changed = *session_.project();
    if (!changed.parts) changed.parts.emplace();
    std::vector<std::string> taken;
    model::Part part;
    for (const model::Part& p : *changed.parts) {
        taken.push_back(p.id.text);
        if (copy && q(p.id.text) == id()) part = p;
    }
    part.name = copy ? part.name + " copy" : tr("New part").toStdString();
    part.id.text = model::freshId(part.name, taken);
    wanted_ = q(part.id.text);
    changed.parts->push_back(std::move(part));
    if (session_.edit(copy ? tr("copy a part") : tr("a new part"), std::move(changed))) form_->begin();
}

void PartsStage::remove() {
    model::Project changed = *session_.project();
    if (!changed.parts) return;
    const std::string gone = id().toStdString();
    changed.parts->erase(std::remove_if(changed.parts->begin(), changed.parts->end(),
                                        [&](const model::Part& p) { return p.id.text == gone; }),
                         changed.parts->end());
    for (model::Part& part : *changed.parts) // nothing needs it any more
        part.needs.erase(std::remove_if(part.needs.begin(), part.needs.end(),
                                        [&](const model::PartId& need) { return need.text == gone; }),
                         part.needs.end());
    const int row = table_->currentRow();
    const QTableWidgetItem* next = table_->item(row + 1, 0) ? table_->item(row + 1, 0) : table_->item(row - 1, 0);
    wanted_ = next ? next->data(Qt::UserRole).toString() : QString();
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
