// The parts list and the money.
#pragma once

#include "forms/entry_form.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTableWidget;

namespace gabarit::app {

class Session;

class PartsStage : public QWidget {
    Q_OBJECT
public:
    explicit PartsStage(Session& session, QWidget* parent = nullptr);
    QTableWidget* table() const { return table_; }
    EntryForm* form() const { return form_; }
    QString summary() const;
    /// "add", "copy", "delete", "out", "in".
    QPushButton* button(const QString& name) const;
    /// Stands on a part, by id.
    void choose(const QString& id);
    bool readTable(const QString& path);
    bool writeTable(const QString& path);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshForm();
    void add(bool copy);
    void remove();
    QString id() const;

    Session& session_;
    QLabel* summary_;
    QTableWidget* table_;
    EntryForm* form_;
    QString wanted_;
    bool filling_ = false;
};

} // namespace gabarit::app
