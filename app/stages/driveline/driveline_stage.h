// The driveline: what there is of it, each drawn and judged, and the fields that make it.
#pragma once

#include "kit/discipline_stage.h"

namespace gabarit::app {

class ReadingBar;
class ShaftView;

/// Items by key: "line:ID", "coupling:ID", "interface:ID", "reading:ID", "bell", "gearing". Buttons "new_line",
/// "new_coupling", "new_interface", "new_reading", "new_bell", "new_gearing", "new_try", "delete", and "cure:N" and
/// "apply_gearbox", "apply_both" for what helps.
class DrivelineStage : public DisciplineStage {
    Q_OBJECT
public:
    explicit DrivelineStage(Session& session, QWidget* parent = nullptr);

    ShaftView* view() const { return view_; }
    ReadingBar* bar() const { return bar_; }
    bool leadTo(const QString& finding) override;

private:
    std::vector<StageItem> items(const model::Project& project, const study::Reports* reports) const override;
    std::vector<Field> fieldsOf(const QString& key) override;
    void draw(const QString& key) override;
    void tell(const QString& key, const study::Reports& reports) override;
    void advise(const QString& key) override;
    QString add(const QString& kind, model::Project& project) override;
    Result<model::Project> without(const QString& key, model::Project project) const override;

    void tellGearing(const study::Reports& reports);
    void addTry();

    ShaftView* view_;
    ReadingBar* bar_;
    QPushButton* try_;
};

} // namespace gabarit::app
