#include "stages/check_sheet.h"

#include "shell/tones.h"
#include "stages/sheet.h"
#include "study/check_words.h"

#include <QLayout>
#include <QObject>

namespace gabarit::app {
namespace {

constexpr int row_px = 28, two_rows_px = 44;

QString q(const std::string& text) { return QString::fromStdString(text); }

} // namespace

QTableWidget* makeCheckSheet(QWidget* parent) {
    QTableWidget* table = makeSheet({QObject::tr("What"), QObject::tr("Is"), QObject::tr("Wanted")}, {0, 2}, parent);
    table->setAccessibleName(QObject::tr("Figures of what is chosen"));
    table->setWordWrap(false);
    table->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    table->verticalHeader()->setDefaultSectionSize(row_px);
    return table;
}

void addCheck(QTableWidget* table, const model::Check& check, const quantity::Shown& shown, const QString& known) {
    const int row = table->rowCount();
    table->insertRow(row);
    QString when = check.at == "ride height" ? QString() : q(check.at);
    if (!check.reason.empty()) when += (when.isEmpty() ? QString() : QStringLiteral("; ")) + q(check.reason);
    QString what = q(check.what);
    if (!known.isEmpty() && what.startsWith(known)) what = what.mid(known.size() + 2);
    if (!what.isEmpty()) what[0] = what[0].toUpper();
    setRow(table, row,
           {when.isEmpty() ? what : what + QLatin1Char('\n') + when,
            q(study::valueWords(check, shown)) + QStringLiteral("  ") + QLatin1String(model::word(check.verdict)),
            q(study::limitWords(check, shown))},
           {0, 2});
    table->setRowHeight(row, when.isEmpty() ? row_px : two_rows_px);
    table->item(row, 0)->setToolTip(
        QObject::tr("%1: %2\nAccuracy: %3")
            .arg(q(check.what), q(check.rule),
                 check.accuracy ? QString::number(*check.accuracy, 'g', 2) : QObject::tr("not known")) +
        (when.isEmpty() ? QString() : QLatin1Char('\n') + when));
    if (check.verdict != model::Verdict::Go) table->item(row, 1)->setForeground(toneOf(check.verdict));
}

void fitToRows(QTableWidget* table) {
    table->setVisible(table->rowCount() > 0);
    int height = table->horizontalHeader()->sizeHint().height() + 4;
    for (int row = 0; row < table->rowCount(); ++row) height += table->rowHeight(row);
    table->setFixedHeight(height);
}

void clearLayout(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->layout()) clearLayout(item->layout());
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
}

} // namespace gabarit::app
