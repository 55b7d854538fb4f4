// Relief: pockets and what they leave, tubes cut to fit, plates with hole patterns; drawn, judged, and the fields that
// make them.
#pragma once

#include "forms/entry_form.h"
#include "study/pocket_proposal.h"

#include <QWidget>

#include <memory>
#include <thread>

class QLabel;
class QLineEdit;
class QListWidget;
class QMenu;
class QProgressBar;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace gabarit::app {

class ReliefView;
class Session;

/// Items by key, as in relief_fields.h. Buttons "delete", "restore", "aside", "sign:STEP", "again"; the menu of "new"
/// offers "for:BODY" for each body that may be cut and has something in its way, "pocket", "tube", "plate", "hole".
class ReliefStage : public QWidget {
    Q_OBJECT
public:
    explicit ReliefStage(Session& session, QWidget* parent = nullptr);
    ~ReliefStage() override;

    QListWidget* list() const { return list_; }
    QTableWidget* checks() const { return checks_; }
    EntryForm* form() const { return form_; }
    ReliefView* view() const { return view_; }
    QString key() const;
    QString words() const;
    void choose(const QString& key);
    /// Chooses what a finding of the relief speaks of.
    void leadTo(const std::string& finding);
    /// Looks for the pocket that what is in the way of a body asks for, and cuts it; in the background.
    void propose(const std::string& body);
    bool proposing() const { return worker_.joinable(); }

signals:
    /// From the thread that looks for a pocket.
    void proposed();

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshBody();
    void fillMenu();
    void fillHelp();
    void add(const QString& kind);
    void remove();
    void stopProposing();
    void take(Result<model::Project> changed, const QString& what);
    QPushButton* helpButton(const QString& name, const QString& text);
    void remark(const QString& text);
    model::RuleBook book() const;

    Session& session_;
    QListWidget* list_;
    ReliefView* view_;
    QTableWidget* checks_;
    QLabel* words_;
    QLabel* caution_;
    QProgressBar* progress_;
    QLineEdit* who_;
    QVBoxLayout* help_;
    EntryForm* form_;
    QMenu* menu_;
    QPushButton* delete_ = nullptr;
    QString wanted_;
    bool filling_ = false;

    std::thread worker_;
    StopToken stop_;
    std::shared_ptr<Result<study::PocketProposed>> found_; ///< the thread's
    std::shared_ptr<const model::Project> proposed_for_;
};

} // namespace gabarit::app
