// What the stages of a discipline share: its things as a list with their verdicts, checks as a table (what, how it is,
// what is wanted), advice as buttons and remarks.
#pragma once

#include "model/check.h"
#include "quantity/quantity.h"

#include <QString>

#include <optional>
#include <vector>

class QLayout;
class QListWidget;
class QPushButton;
class QTableWidget;
class QVBoxLayout;
class QWidget;

namespace gabarit::app {

/// One thing of a discipline.
struct StageItem {
    QString key, words;
    std::optional<model::Verdict> verdict; ///< nothing: it is not judged
};
/// Shows them, verdicts below their names; the one of that key is chosen, else the first.
void fillItems(QListWidget* list, const std::vector<StageItem>& items, const QString& wanted);
/// Of the chosen one; empty when there is none.
QString keyOf(const QListWidget* list);

/// A button below the others; two short ones share a row. What is too long for a row is broken.
QPushButton* addAdvice(QVBoxLayout* advice, QWidget* parent, const QString& name, const QString& text,
                       const QString& tip = {});
void addRemark(QVBoxLayout* advice, QWidget* parent, const QString& text);

/// A table of checks that is as high as its rows: see fitToRows.
QTableWidget* makeCheckSheet(QWidget* parent);
/// One more row. Words that every row would begin with (`known`, such as the name of what is chosen) are left out.
void addCheck(QTableWidget* table, const model::Check& check, const quantity::Shown& shown, const QString& known = {});
/// Shown whole, hidden when it is empty.
void fitToRows(QTableWidget* table);
/// Takes everything out of a layout; widgets are hidden at once and go with the next turn of the loop.
void clearLayout(QLayout* layout);

} // namespace gabarit::app
