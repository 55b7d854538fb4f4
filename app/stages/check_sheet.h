// Checks as a table: what, how it is, what is wanted; and the advice below it.
#pragma once

#include "model/check.h"
#include "quantity/quantity.h"

#include <QString>

class QLayout;
class QTableWidget;
class QWidget;

namespace gabarit::app {

/// A table of checks that is as high as its rows: see fitToRows.
QTableWidget* makeCheckSheet(QWidget* parent);
/// One more row. Words that every row would begin with (`known`, such as the name of what is chosen) are left out.
void addCheck(QTableWidget* table, const model::Check& check, const quantity::Shown& shown, const QString& known = {});
/// Shown whole, hidden when it is empty.
void fitToRows(QTableWidget* table);
/// Takes everything out of a layout; widgets are hidden at once and go with the next turn of the loop.
void clearLayout(QLayout* layout);

} // namespace gabarit::app
