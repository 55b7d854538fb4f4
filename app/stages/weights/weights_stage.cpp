#include "stages/weights/weights_stage.h"

#include "shell/session.h"
#include "stages/sheet.h"

#include <QLabel>
#include <QVBoxLayout>

namespace gabarit::app {

WeightsStage::WeightsStage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), summary_(new QLabel(this)),
      table_(makeSheet(
          {tr("Put on (taken off: −)"), tr("Mass"), tr("Behind front axle"), tr("Front axle"), tr("Rear axle")}, {0},
          this)),
      caution_(new QLabel(this)) {
    summary_->setWordWrap(true);
    summary_->setTextFormat(Qt::PlainText);
    caution_->setWordWrap(true);
    caution_->setText(tr("An estimate until the vehicle stands on scales. The axle's and tyre's makers and the "
                         "inspector set what is allowed. "
                         "Never work under a vehicle or an engine that hangs: stands, not jacks."));
    table_->setAccessibleName(tr("Weight sheet"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 14, 18, 14);
    column->setSpacing(10);
    column->addWidget(summary_);
    column->addWidget(table_, 1);
    column->addWidget(caution_);
    connect(&session_, &Session::reportsChanged, this, &WeightsStage::refresh);
    connect(&session_, &Session::projectReplaced, this, &WeightsStage::refresh);
}

void WeightsStage::refresh() {
    const auto reports = session_.reports();
    table_->setRowCount(0);
    if (!reports || !reports->weights) {
        summary_->setText(tr("This project has no weights section: axle loads are not asked."));
        return;
    }
    const weights::AxleLoadReport& report = *reports->weights;
    const auto shown = session_.shown();
    const auto mass = [shown](double kg) { return QString::fromStdString(quantity::massText(kg, shown, 1)); };
    const auto axle = [&](const QString& name, const weights::AxleLoad& load) {
        if (!load.load_kg) return tr("%1: not known (%2)").arg(name, QString::fromStdString(load.reason));
        QString line = tr("%1: %2 before, %3 now")
                           .arg(name, load.before_kg ? mass(*load.before_kg) : tr("not known"), mass(*load.load_kg));
        line += load.limit_kg ? tr(", limit %1").arg(mass(*load.limit_kg)) : tr(", no limit given");
        return line + QStringLiteral(": ") + QLatin1String(model::word(load.verdict));
    };
    QString text = axle(tr("Front axle"), report.front) + QLatin1Char('\n') + axle(tr("Rear axle"), report.rear);
    if (!report.limit_source.empty()) text += tr("\nLimits: %1").arg(QString::fromStdString(report.limit_source));
    if (report.centre_of_gravity_x_mm)
        text += tr("\nCentre of gravity %1 behind the front axle")
                    .arg(QString::fromStdString(quantity::lengthText(*report.centre_of_gravity_x_mm, shown, 0)));
    for (const std::string& item : report.left_out) text += tr("\nLeft out: %1").arg(QString::fromStdString(item));
    summary_->setText(text);
    table_->setRowCount(static_cast<int>(report.lines.size()));
    int row = 0;
    for (const weights::WeightLine& line : report.lines)
        setRow(table_, row++,
               {QString::fromStdString(line.name), mass(line.mass_kg),
                QString::fromStdString(quantity::lengthText(line.at_vehicle_mm.x(), shown, 0)), mass(line.front_kg),
                mass(line.rear_kg)},
               {0});
}

} // namespace gabarit::app
