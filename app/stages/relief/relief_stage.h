// Relief: pockets and what they leave, tubes cut to fit, plates with hole patterns; drawn, judged, and the fields that
// make them.
#pragma once

#include "forms/entry_form.h"
#include "make/relief_ways.h"

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
/// offers "for:BODY" for each body that may be cut and has something in its way, "pocket", "tube", "plate", "hole", and
/// "ways:BODY" for each body that something of the unit stands too near to; then "way:N" takes one.
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
    /// Holds move, variants and pocket side by side for a body and what stands nearest to it; in the background.
    void compareWays(const std::string& body);
    bool proposing() const { return worker_.joinable(); }

signals:
    /// From the thread that looks for a pocket.
    void proposed(int search);
    /// From the thread that compares ways out.
    void waysCompared(int search);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshBody();
    void fillMenu();
    void fillHelp();
    void helpWays();
    /// The reports when they are of the project as it is; else null, with a notice.
    std::shared_ptr<const study::Reports> fresh();
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
    int search_ = 0; ///< counts them: what an earlier one still has to say is not heard
    StopToken stop_;
    std::shared_ptr<Result<make::PocketProposed>> found_; ///< the thread's
    std::shared_ptr<Result<make::ReliefWays>> compared_;  ///< the thread's
    std::shared_ptr<const make::ReliefWays> ways_;        ///< taken over from it
    QString ways_of_;
    std::shared_ptr<const model::Project> proposed_for_;
};

} // namespace gabarit::app
