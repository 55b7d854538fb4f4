// The mounts: what the unit hangs on, drawn and judged, and the fields that make it.
#pragma once

#include "forms/entry_form.h"
#include "mounts/tune.h"
#include "study/study.h"

#include <QWidget>

#include <memory>
#include <thread>

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;
class QTableWidget;
class QVBoxLayout;

namespace gabarit::app {

class MountsView;
class Session;

/// Items by key, as in mounts_fields.h. Buttons "new_mount" and the like, "mirror", "delete", "play", "tune",
/// "proposal:N", "make_bracket", "make_tower", "drop_bracket", "drop_tower", "option:N", "sign:STEP", "open:STEP",
/// "bolt_there", "make_frame", "plan", "take_back", "gone", "list_isolators", "again".
class MountsStage : public QWidget {
    Q_OBJECT
public:
    explicit MountsStage(Session& session, QWidget* parent = nullptr);
    ~MountsStage() override;

    QListWidget* list() const { return list_; }
    QTableWidget* checks() const { return checks_; }
    EntryForm* form() const { return form_; }
    MountsView* view() const { return view_; }
    QComboBox* look() const { return look_; }
    QString key() const;
    void choose(const QString& key);
    /// Shows a load or a way of shaking ("case:bump", "mode:4") as soon as there is one of that name.
    void lookAt(const QString& what);
    /// Chooses what a finding of the mounts speaks of.
    void leadTo(const std::string& finding);
    QString words() const;

signals:
    /// From the thread that looks for better mounts.
    void tuningProgress(int done, int all);
    void tuningDone(int search);
    void bracketMade(int search, bool tower);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshBody();
    void fillLook();
    void fillChecks();
    void fillHelp();
    void helpMount(const std::string& id);
    void helpHolds(const std::string& id);
    void add(const QString& kind);
    void mirror();
    void remove();
    void make(const std::string& mount, bool tower);
    void tune();
    void stopTuning();
    void take(Result<model::Project> changed, const QString& what);
    QPushButton* helpButton(const QString& name, const QString& text, const QString& tip = {});
    void remark(const QString& text);

    Session& session_;
    QListWidget* list_;
    MountsView* view_;
    QComboBox* look_;
    QPushButton* play_;
    QTableWidget* checks_;
    QLabel* words_;
    QLabel* caution_;
    QProgressBar* progress_;
    QLineEdit* who_;
    QVBoxLayout* help_;
    EntryForm* form_;
    QPushButton* mirror_ = nullptr;
    QPushButton* delete_ = nullptr;
    QString wanted_, wanted_look_;
    bool filling_ = false;

    std::thread tuner_; ///< tunes, or makes a bracket
    StopToken stop_tuning_;
    int search_ = 0;                                ///< counts them: what an earlier one still has to say is not heard
    std::shared_ptr<Result<mounts::Tuning>> found_; ///< the thread's
    std::shared_ptr<Result<mounts::Tuning>> tuned_; ///< taken over from it
    std::shared_ptr<Result<model::Project>> made_;
    std::shared_ptr<const model::Project> tuned_for_; ///< what the thread was given
};

} // namespace gabarit::app
