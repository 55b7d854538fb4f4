#include "stages/parts/parts_stage.h"

#include "shell/session.h"
#include "stages/sheet.h"

#include <QLabel>
#include <QVBoxLayout>

namespace gabarit::app {

PartsStage::PartsStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), summary_(new QLabel(this)),
      table_(makeSheet({tr("Part"), tr("State"), tr("Cost"), tr("Mass"), tr("On or off"), tr("Still needs")},
                       {0, 1, 4, 5}, this)) {
    summary_->setWordWrap(true);
    summary_->setTextFormat(Qt::PlainText);
    table_->setAccessibleName(tr("Parts list"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 14, 18, 14);
    column->setSpacing(10);
    column->addWidget(summary_);
    column->addWidget(table_, 1);
    connect(&session_, &Session::reportsChanged, this, &PartsStage::refresh);
    connect(&session_, &Session::projectReplaced, this, &PartsStage::refresh);
}

void PartsStage::refresh() {
    const auto reports = session_.reports();
    table_->setRowCount(0);
    if (!reports || !reports->parts) {
        summary_->setText(tr("This project has no parts list."));
        return;
    }
    const ledger::PartsReport& report = *reports->parts;
    const auto money = [&report](double sum) {
        return QString::fromStdString(quantity::fixed(sum, 2)) +
               (report.currency.empty() ? QString() : QLatin1Char(' ') + QString::fromStdString(report.currency));
    };
    QString text = tr("To finish: %1. Spent %2, sold %3, all together %4.")
                       .arg(money(report.to_spend), money(report.spent), money(report.income), money(report.total()));
    if (report.budget)
        text +=
            tr(" Budget %1: %2.")
                .arg(money(*report.budget), QLatin1String(report.verdict ? model::word(*report.verdict) : "not asked"));
    const auto count = [](int n) { return n == 1 ? tr("1 part") : tr("%1 parts").arg(n); };
    if (!report.unpriced.empty())
        text +=
            tr("\nWithout a price: %1; the sums leave them out.").arg(count(static_cast<int>(report.unpriced.size())));
    text += tr("\nStill missing: %1.").arg(count(report.missing));
    text += tr("\nMass put on %1, taken off %2; the donor is weighed by itself.")
                .arg(QString::fromStdString(quantity::massText(report.mass_on_kg, session_.shown(), 1)),
                     QString::fromStdString(quantity::massText(report.mass_off_kg, session_.shown(), 1)));
    summary_->setText(text);
    table_->setRowCount(static_cast<int>(report.lines.size()));
    int row = 0;
    for (const ledger::PartLine& line : report.lines) {
        QStringList needs;
        for (const std::string& name : line.missing_companions) needs << QString::fromStdString(name);
        setRow(
            table_, row++,
            {QString::fromStdString(line.name), QLatin1String(ledger::word(line.state)),
             line.cost ? money(*line.cost) : tr("no price"),
             line.mass_kg ? QString::fromStdString(quantity::massText(*line.mass_kg, session_.shown(), 1)) : QString(),
             line.on_car == model::OnCar::No ? QString() : QString::fromLatin1(ledger::word(line.on_car)),
             needs.join(QStringLiteral(", "))},
            {0, 1, 4, 5});
    }
}

} // namespace gabarit::app
