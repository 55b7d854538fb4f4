// The parts list and the money.
#pragma once

#include "kit/table_stage.h"

class QLabel;

namespace gabarit::app {

/// Rows by the part's id; buttons "add", "copy", "delete", "out", "in".
class PartsStage : public TableStage {
    Q_OBJECT
public:
    explicit PartsStage(Session& session, QWidget* parent = nullptr);
    QString summary() const;
    QString quietWords(const study::Reports& reports) const override;
    bool readTable(const QString& path);
    bool writeTable(const QString& path);

private:
    void refresh() override;
    void refreshForm() override;
    void add(bool copy);
    void remove();
    QLabel* summary_;
};

} // namespace gabarit::app
