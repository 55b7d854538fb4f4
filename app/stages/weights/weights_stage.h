// The weight sheet: what stands on each axle and why, item by item, and what hangs on the hoist.
#pragma once

#include "kit/table_stage.h"

class QLabel;

namespace gabarit::app {

/// Rows by item: "load:0", "mass:2" (by place in their lists), "part:radiator", "body:vehicle/battery",
/// "moved:vehicle/battery"; buttons "add", "delete", "out", "in".
class WeightsStage : public TableStage {
    Q_OBJECT
public:
    explicit WeightsStage(Session& session, QWidget* parent = nullptr);
    QString summary() const;
    QString hoistWords() const;
    bool readTable(const QString& path);
    bool writeTable(const QString& path);

private:
    struct Item {
        QString key, name, group;
        std::optional<double> mass_kg;
        bool counts = true;
        bool can_be_off = true;
    };
    std::vector<Item> items() const;
    void refresh() override;
    void refreshForm() override;
    void refreshTexts();
    void toggle(const QString& item, bool on);
    void add();
    void remove();

    QLabel* summary_;
    QLabel* hoist_;
    QLabel* caution_;
};

} // namespace gabarit::app
