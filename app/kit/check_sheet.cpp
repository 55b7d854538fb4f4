#include "kit/check_sheet.h"

#include "discipline/check_words.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "forms/wrapped_button.h"
#include "kit/sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QObject>
#include <QPushButton>

namespace gabarit::app {
namespace {

constexpr int row_px = 28, two_rows_px = 44, item_px = 42, short_text = 44;

} // namespace

void fillItems(QListWidget* list, const std::vector<StageItem>& items, const QString& wanted) {
    list->clear();
    int at = 0;
    for (const StageItem& item : items) {
        auto* row = new QListWidgetItem(
            item.verdict ? item.words + QLatin1Char('\n') + QLatin1String(model::word(*item.verdict)) : item.words,
            list);
        row->setData(Qt::UserRole, item.key);
        row->setSizeHint(QSize(0, item_px));
        if (item.verdict && *item.verdict != model::Verdict::Go) row->setForeground(inkOf(*item.verdict));
        if (item.key == wanted) at = list->count() - 1;
    }
    if (list->count() > 0) list->setCurrentRow(at);
}

QString keyOf(const QListWidget* list) {
    return list->currentItem() ? list->currentItem()->data(Qt::UserRole).toString() : QString();
}

QPushButton* addAdvice(QVBoxLayout* advice, QWidget* parent, const QString& name, const QString& text,
                       const QString& tip) {
    auto* button = new WrappedButton(text, parent);
    button->setObjectName(name);
    button->setToolTip(tip.isEmpty() ? text : tip);
    auto* row =
        advice->count() > 0 ? qobject_cast<QHBoxLayout*>(advice->itemAt(advice->count() - 1)->layout()) : nullptr;
    if (text.size() >= short_text || !row || row->count() > 1 ||
        qobject_cast<QPushButton*>(row->itemAt(0)->widget())->text().size() >= short_text) {
        row = new QHBoxLayout;
        row->setSpacing(6);
        advice->addLayout(row);
    }
    row->addWidget(button, 1);
    button->show(); // not only with the next turn of the loop
    return button;
}

void addRemark(QVBoxLayout* advice, QWidget* parent, const QString& text) {
    auto* label = new QLabel(text, parent);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    advice->addWidget(label);
    label->show();
}

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
    for (const QLatin1String after : {QLatin1String(": "), QLatin1String(" ")}) // "Pocket: …", "Pocket to …"
        if (!known.isEmpty() && what.startsWith(known + after)) what = what.mid(known.size() + after.size());
    if (!what.isEmpty()) what[0] = what[0].toUpper();
    setRow(table, row,
           {when.isEmpty() ? what : what + QLatin1Char('\n') + when,
            q(discipline::valueWords(check, shown)) + QStringLiteral("  ") + QLatin1String(model::word(check.verdict)),
            q(discipline::limitWords(check, shown))},
           {0, 2});
    table->setRowHeight(row, when.isEmpty() ? row_px : two_rows_px);
    table->item(row, 0)->setToolTip(
        QObject::tr("%1: %2\nAccuracy: %3")
            .arg(q(check.what), q(check.rule),
                 check.accuracy ? QString::number(*check.accuracy, 'g', 2) : QObject::tr("not known")) +
        (when.isEmpty() ? QString() : QLatin1Char('\n') + when));
    if (check.verdict != model::Verdict::Go) table->item(row, 1)->setForeground(inkOf(check.verdict));
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
