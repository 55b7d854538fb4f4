// Tables that are read, not edited.
#pragma once

#include <QHeaderView>
#include <QTableWidget>

namespace gabarit::app {

/// `left`: the columns whose words stand to the left; numbers stand to the right.
inline QTableWidget* makeSheet(const QStringList& heads, const QList<int>& left, QWidget* parent) {
    auto* table = new QTableWidget(0, static_cast<int>(heads.size()), parent);
    table->setHorizontalHeaderLabels(heads);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table->setSelectionBehavior(QAbstractItemView::SelectRows);
    table->verticalHeader()->hide();
    table->verticalHeader()->setDefaultSectionSize(30);
    table->verticalHeader()->setMinimumSectionSize(30);
    table->setShowGrid(false);
    table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    for (const int column : left)
        table->horizontalHeaderItem(column)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    return table;
}

/// Fills one row; all but the columns named in `left` stand to the right.
inline void setRow(QTableWidget* table, int row, const QStringList& cells, const QList<int>& left) {
    for (int column = 0; column < cells.size(); ++column) {
        auto* item = new QTableWidgetItem(cells[column]);
        item->setTextAlignment((left.contains(column) ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
        table->setItem(row, column, item);
    }
}

} // namespace gabarit::app
