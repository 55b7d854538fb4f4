// The weight sheet: what stands on each axle and why, item by item, and what hangs on the hoist.
#pragma once

#include "forms/entry_form.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTableWidget;

namespace gabarit::app {

class Session;

class WeightsStage : public QWidget {
    Q_OBJECT
public:
    explicit WeightsStage(Session& session, QWidget* parent = nullptr);
    QTableWidget* table() const { return table_; }
    EntryForm* form() const { return form_; }
    QString summary() const;
    QString hoistWords() const;
    /// "add", "delete", "out", "in".
    QPushButton* button(const QString& name) const;
    /// Stands on an item: "load:0", "mass:2", "part:radiator", "body:vehicle/battery".
    void choose(const QString& item);
    bool readTable(const QString& path);
    bool writeTable(const QString& path);

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Item {
        QString key, name, group;
        std::optional<double> mass_kg;
        bool counts = true;
        bool can_be_off = true;
    };
    std::vector<Item> items() const;
    void refresh();
    void refreshForm();
    void refreshTexts();
    void toggle(const QString& item, bool on);
    void add();
    void remove();
    QString item() const;

    Session& session_;
    QLabel* summary_;
    QLabel* hoist_;
    QTableWidget* table_;
    EntryForm* form_;
    QLabel* caution_;
    QString wanted_;
    bool filling_ = false;
};

} // namespace gabarit::app
