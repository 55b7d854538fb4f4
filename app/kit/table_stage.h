// A stage that is a table with a form beside it: the chosen row's fields stand in the form.
#pragma once

#include "forms/entry_form.h"
#include "kit/stage.h"

#include <QHeaderView>

class QHBoxLayout;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace gabarit::app {

class PageColumns;

class TableStage : public Stage {
    Q_OBJECT
public:
    /// `left`: the columns whose words stand to the left.
    TableStage(Session& session, const QStringList& heads, const QList<int>& left, QWidget* parent);
    QTableWidget* table() const { return table_; }
    EntryForm* form() const { return form_; }
    QPushButton* button(const QString& name) const;
    /// Stands on a row, by its key.
    void choose(const QString& key);
    void setNarrow(bool narrow) override;

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    /// Fills the table between beginRows() and endRows(), then the form.
    virtual void refresh() = 0;
    virtual void refreshForm() = 0;
    void beginRows(std::size_t count);
    void putRow(int row, const QString& key, const QStringList& cells);
    void endRows();
    bool filling() const { return filling_; }
    /// The chosen row's key; empty for none.
    QString key() const;
    /// The row to stand on when the table is filled next.
    void want(const QString& key) { wanted_ = key; }
    QString wanted() const { return wanted_; }
    /// Adds a button to the row under the table.
    QPushButton* addButton(const char* name, const QString& text, const QString& tip);
    QVBoxLayout* above() const { return above_; }
    QVBoxLayout* below() const { return below_; }

    Session& session_;

private:
    void fitWords();
    QList<int> left_;
    QTableWidget* table_;
    EntryForm* form_;
    PageColumns* columns_;
    QVBoxLayout* above_;
    QVBoxLayout* below_;
    QHBoxLayout* buttons_;
    QString wanted_;
    bool filling_ = false;
    bool narrow_ = false;
    std::vector<QHeaderView::ResizeMode> modes_; ///< of the columns while they fill
};

} // namespace gabarit::app
