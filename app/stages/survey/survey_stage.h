// What was measured, of the vehicle and of each donor: made, changed, copied, mirrored, hidden and taken out here.
#pragma once

#include "fields/survey_forms.h"
#include "kit/stage.h"
#include "model/first_survey.h"

class QButtonGroup;
class QComboBox;
class QLabel;
class QListWidget;
class QPushButton;
class QStackedWidget;

namespace gabarit::app {

class Bay;
class GuidedPage;
class PageColumns;
class TapeMode;
class TapePad;

class SurveyStage : public Stage {
    Q_OBJECT
public:
    SurveyStage(Session& session, Lookout& lookout, QWidget* parent = nullptr);
    Bay* bay() const { return bay_; }
    EntryForm* form() const { return form_; }
    QListWidget* list() const { return list_; }
    QComboBox* owner() const { return owner_; }
    GuidedPage* guided() const { return guided_; }
    TapePad* pad() const { return pad_; }
    TapeMode* tapeMode() const { return tape_mode_; }
    /// The first survey, question by question, instead of the lists.
    void showGuided(bool on);
    /// The same, a reading a page, with the window to itself.
    void showTapeMode();
    /// "new", "copy", "mirror", "variant", "hide", "off", "delete", "new_donor", "guided".
    QPushButton* button(const QString& name) const;
    void showKind(SurveyKind kind);
    SurveyKind kind() const { return kind_; }
    void choose(const model::BodyRef& ref);

    QString quietWords(const study::Reports& reports) const override;
    void setNarrow(bool narrow) override;
    NextStep nextStep(const study::Reports& reports) override;
    bool leadTo(const QString& finding) override;
    /// A kind ("bodies"), or "first-survey" and the question after a colon, or "tape-mode" and the entry.
    void turnTo(const QString& what) override;
    std::vector<StageDeed> deeds() override;
    int wants(const model::Project& project) const override;
    void beginNew() override { showTapeMode(); }
    bool alone() const override;

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void refresh();
    void refreshOwners();
    void refreshList();
    void refreshForm();
    void add();
    /// A battery, a booster…: a box of its usual size where such things sit.
    void addStarter(const model::StarterShape& starter);
    void askWhatIsNew();
    void copy();
    void mirror();
    void variant();
    void toggleHidden();
    void toggleOff();
    void remove();
    void addDonor();
    void guide();
    void showPage(QWidget* page);
    bool adopt(const QString& name, Result<model::Project> changed, const QString& key);
    QString key() const;
    std::string ownerId() const;
    std::optional<model::BodyRef> body() const;
    void mark();
    QString sideWords() const;
    std::vector<SurveyEntry> assumedEntries() const;
    /// Ahead of all that is there, so that it fouls nothing before it has its place.
    Eigen::Vector3d free() const;
    /// Where something new is put: what the drawing shows in its middle, in the owner's frame.
    Eigen::Vector3d middle() const;

    Session& session_;
    Lookout& lookout_;
    QStackedWidget* pages_;
    PageColumns* columns_;
    GuidedPage* guided_;
    TapePad* pad_;
    TapeMode* tape_mode_;
    Bay* bay_;
    QComboBox* owner_;
    QButtonGroup* kinds_;
    QListWidget* list_;
    EntryForm* form_;
    QLabel* hint_;
    std::vector<QPushButton*> buttons_;
    SurveyKind kind_ = SurveyKind::Bodies;
    QString asks_, asks_of_; ///< what a starter shape asks for, and which body it became
    QString wanted_;         ///< the entry to stand on, by key
    bool filling_ = false;
};

} // namespace gabarit::app
