// The mounts: what the unit hangs on, drawn and judged, and the fields that make it.
#pragma once

#include "kit/discipline_stage.h"

class QComboBox;

namespace gabarit::app {

class MountsView;

/// Items by key, as in mounts_fields.h. Buttons "new_mount" and the like, "mirror", "delete", "play",
/// "tune_mounts", "answer:N", "make_bracket", "make_tower", "drop_bracket", "drop_tower", "option:N", "sign:STEP",
/// "bolt_there", "make_frame", "plan", "take_back", "gone", "list_isolators".
class MountsStage : public DisciplineStage {
    Q_OBJECT
public:
    explicit MountsStage(Session& session, QWidget* parent = nullptr);

    MountsView* view() const { return view_; }
    QComboBox* look() const { return look_; }
    /// Shows a load or a way of shaking ("case:bump", "mode:4") as soon as there is one of that name.
    void lookAt(const QString& what);
    bool leadTo(const QString& finding) override;
    /// "mount:left;case:bump": what is chosen, and what is shown.
    void turnTo(const QString& what) override;

private:
    std::vector<StageItem> items(const model::Project& project, const study::Reports* reports) const override;
    std::vector<Field> fieldsOf(const QString& key) override;
    void draw(const QString& key) override;
    void tell(const QString& key, const study::Reports& reports) override;
    void advise(const QString& key) override;
    QString add(const QString& kind, model::Project& project) override;
    Result<model::Project> without(const QString& key, model::Project project) const override;
    bool deletable(const QString& key) const override;

    void fillLook();
    void helpOld(const std::string& id);
    void helpMount(const std::string& id);
    void helpHolds(const std::string& id);
    void mirror();

    MountsView* view_;
    QComboBox* look_;
    QPushButton* play_;
    QPushButton* mirror_;
    QString wanted_look_;
};

} // namespace gabarit::app
