// The clutch: its lining, what it holds, and the fields that say so.
#pragma once

#include "clutch/section/clutch.h"
#include "kit/discipline_stage.h"

namespace gabarit::app {

/// The lining, to scale.
class LiningView : public QWidget {
    Q_OBJECT
public:
    explicit LiningView(QWidget* parent = nullptr);
    void show(const clutch::Clutch* clutch);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    clutch::Clutch its_;
};

class ClutchStage : public DisciplineStage {
    Q_OBJECT
public:
    explicit ClutchStage(Session& session, QWidget* parent = nullptr);

private:
    std::vector<StageItem> items(const model::Project& project, const study::Reports* reports) const override;
    std::vector<Field> fieldsOf(const QString& key) override;
    void draw(const QString& key) override;
    void tell(const QString& key, const study::Reports& reports) override;
    QString add(const QString& kind, model::Project& project) override;
    Result<model::Project> without(const QString& key, model::Project project) const override;

    LiningView* view_;
};

} // namespace gabarit::app
