// Relief: pockets and what they leave, tubes cut to fit, plates with hole patterns; drawn, judged, and the fields that
// make them.
#pragma once

#include "kit/discipline_stage.h"

namespace gabarit::app {

class ReliefView;

/// Items by key, as in relief_fields.h. Buttons "delete", "restore", "aside", "sign:STEP"; the menu of "new" offers
/// "for:BODY" for each body that may be cut and has something in its way, "pocket", "tube", "plate", "hole", and
/// "ways:BODY" for each body that something of the unit stands too near to; then "answer:N" takes one.
class ReliefStage : public DisciplineStage {
    Q_OBJECT
public:
    explicit ReliefStage(Session& session, QWidget* parent = nullptr);

    ReliefView* view() const { return view_; }
    QString quietWords(const study::Reports& reports) const override;
    /// Looks for the pocket that what is in the way of a body asks for, and cuts it; in the background.
    void propose(const std::string& body);
    /// Holds move, variants and pocket side by side for a body and what stands nearest to it; in the background.
    void compareWays(const std::string& body);

private:
    std::vector<StageItem> items(const model::Project& project, const study::Reports* reports) const override;
    std::vector<Field> fieldsOf(const QString& key) override;
    void draw(const QString& key) override;
    void tell(const QString& key, const study::Reports& reports) override;
    void advise(const QString& key) override;
    QString add(const QString& kind, model::Project& project) override;
    Result<model::Project> without(const QString& key, model::Project project) const override;

    void fillMenu() override;

    ReliefView* view_;
};

} // namespace gabarit::app
