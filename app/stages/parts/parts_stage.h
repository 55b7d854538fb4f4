// The parts list and the money.
#pragma once

#include "kit/table_stage.h"
#include "parts/parts.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace gabarit::app {

/// Rows by the part's id, each ticked when the part is here; buttons "add", "copy", "delete", "out", "in".
class PartsStage : public TableStage {
    Q_OBJECT
public:
    explicit PartsStage(Session& session, QWidget* parent = nullptr);
    QString summary() const;
    /// "all", "get", "here", "off".
    QComboBox* filter() const { return filter_; }
    QLineEdit* search() const { return search_; }
    QString quietWords(const study::Reports& reports) const override;
    bool readTable(const QString& path);
    bool writeTable(const QString& path);

private:
    void refresh() override;
    void refreshForm() override;
    void add(bool copy);
    void remove();
    /// Got, or still to be got.
    void tick(int row, bool here);
    bool shows(const model::Part& part) const;
    QLabel* summary_;
    QComboBox* filter_;
    QLineEdit* search_;
    QLabel* shown_;
};

} // namespace gabarit::app
