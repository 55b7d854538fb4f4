// The limits that gaps are held against: every row with its source, editable for this project.
#pragma once

#include "forms/entry_form.h"
#include "model/rules.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QTableWidget;

namespace gabarit::app {

class Session;

class RulesStage : public QWidget {
    Q_OBJECT
public:
    explicit RulesStage(Session& session, QWidget* parent = nullptr);
    QTableWidget* table() const { return table_; }
    EntryForm* form() const { return form_; }
    /// "add", "back".
    QPushButton* button(const QString& name) const;
    /// Stands on a row or figure, by id.
    void choose(const QString& id);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshForm();
    void addRow();
    void backToBook();
    QString id() const;
    bool isOwn(const std::string& id) const;
    std::vector<Field> rowFields(const model::RuleRow& row);
    std::vector<Field> figureFields(const model::Figure& figure);

    Session& session_;
    QLabel* head_;
    QComboBox* school_;
    QTableWidget* table_;
    EntryForm* form_;
    QPushButton* back_;
    QString wanted_;
    bool filling_ = false;
};

} // namespace gabarit::app
