// The limits that gaps are held against: every row with its source, editable for this project.
#pragma once

#include "kit/table_stage.h"
#include "model/rules.h"

class QComboBox;

namespace gabarit::app {

/// Rows by the id of the rule or figure; buttons "add", "back".
class RulesStage : public TableStage {
    Q_OBJECT
public:
    explicit RulesStage(Session& session, QWidget* parent = nullptr);
    QString quietWords(const study::Reports& reports) const override;

private:
    void refresh() override;
    void refreshForm() override;
    void addRow();
    void backToBook();
    bool isOwn(const std::string& id) const;
    std::vector<Field> rowFields(const model::RuleRow& row);
    std::vector<Field> figureFields(const model::Figure& figure);

    QComboBox* school_;
};

} // namespace gabarit::app
