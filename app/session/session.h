// The project in hand: its history, its file, its reports. Views read from here and change it through commands.
#pragma once

#include "session/history_step.h"
#include "session/mover.h"
#include "session/picture.h"
#include "session/study_runner.h"

#include <QThreadPool>
#include <QUndoStack>

namespace gabarit::app {

class Lookout;
struct Unfinished;

class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(Lookout& lookout, QObject* parent = nullptr);

    bool hasProject() const { return project_ != nullptr; }
    /// Never null while hasProject().
    std::shared_ptr<const model::Project> project() const { return project_; }
    std::shared_ptr<const Picture> picture() const { return picture_; }
    /// What is drawn: the bay at rest, or at the state it was moved to.
    std::shared_ptr<const Picture> shownPicture() const { return moved_picture_ ? moved_picture_ : picture_; }
    std::shared_ptr<const study::Reports> reports() const { return reports_; }

    /// The state that the bay is shown at; nothing: at rest. Of the reports' movement; never saved, never undone.
    const std::optional<kinematics::State>& movedTo() const { return moved_to_; }
    void moveTo(std::optional<kinematics::State> state);
    bool moving() const { return mover_.busy(); }
    /// What everything sweeps over its movement; empty while it is not wanted or not drawn yet.
    const std::vector<Sweep>& sweeps() const { return *sweeps_; }
    bool sweepsWanted() const { return sweeps_wanted_; }
    void wantSweeps(bool wanted);
    const std::vector<PictureOverlap>& overlaps() const { return *overlaps_; }
    QUndoStack& history() { return history_; }
    /// How many steps of the history keep only what changed.
    int packedSteps() const;
    const StudyRunner& runner() const { return runner_; }
    quantity::Shown shown() const { return shown_; }
    void setShown(quantity::Shown shown);

    QString path() const { return path_; }
    bool readOnly() const { return read_only_; }

    Result<void> openFile(const QString& path);
    /// A vehicle with nothing in it yet, and no file.
    void newProject();
    /// The demo, or the second one, as a project that has no file yet.
    /// 0: the Tarn, 1: the Quad, 2: the Wren.
    Result<void> openDemo(int which = 0);
    Result<void> save(const QString& path);
    /// Takes up work that a window left behind, as changes that are not saved yet. Its own file is not touched.
    Result<void> takeUp(const Unfinished& work);
    /// What the project's file held when it was last read or written here.
    const std::string& textOnDisk() const { return text_on_disk_; }
    Result<void> saveDonor(const QString& path) const;
    Result<void> hangDonor(const QString& path);

    /// Makes the changed project the current one, as one step that undo names. Steps with the same non-empty
    /// `merge` follow-up are one step while nothing comes between them (a drag, a run of nudges is not merged).
    void change(const QString& name, model::Project changed, const QString& merge = {});
    /// The same for values that a person typed: refused with a notice, and false, when they bring an error that was not
    /// there before.
    bool edit(const QString& name, model::Project changed, const QString& merge = {});

    /// What is pinned to be compared with: the figures and outlines of a moment.
    struct Pin {
        QString name;
        std::shared_ptr<const Picture> picture;
        std::shared_ptr<const study::Reports> reports;
    };
    const std::optional<Pin>& pin() const { return pin_; }
    /// Pins what stands in the bay now, or takes the pin out. A notice says so while it is still being measured.
    void setPin(bool on);
    /// Hangs the active donor where the pinned placement has it, as one step.
    void hangAsPinned();

    /// How far the search for room and ways out has come: done, all; nothing while none runs.
    std::optional<std::pair<int, int>> searching() const { return searching_; }
    /// Gives up that search; what was found before it stays.
    void stopSearch();

    /// What the nudges move: the donor (nothing), or one of the vehicle's movable bodies.
    std::optional<model::BodyRef> inHand() const { return in_hand_; }
    void takeInHand(std::optional<model::BodyRef> body);
    /// Moves what is in hand along the vehicle's axes.
    void nudge(const Eigen::Vector3d& by_vehicle_mm, const QString& merge = {});
    /// Turns the donor about its pivot. Does nothing when a body is in hand.
    void turn(model::Turn turn, double by_deg);
    /// Puts the donor where a tried move would put it, as one step.
    void tryPlacement(const model::Placement& placement, const QString& words);
    void setPose(const Eigen::Vector3d& position_mm);
    void setAngles(const model::Angles& angles);
    void setPivot(model::Pivot pivot);
    void usePlacement(const model::PlacementId& id);
    /// Holds all gaps against another school of the rule table.
    void useSchool(const std::string& id);
    /// The school in use.
    std::string school() const;

    /// "rearward", "to the driver's side"… of a move, for the undo list.
    QString moveName(const Eigen::Vector3d& by_vehicle_mm) const;

signals:
    void projectChanged();
    void projectReplaced(); ///< another project was opened
    void saved();
    void inHandChanged();
    void pictureChanged();
    void reportsChanged();
    void movedToChanged();
    void overlapsChanged();
    void settled();
    void pinChanged();
    void searchingChanged();
    void notice(const QString& text, bool trouble);

private:
    friend class ChangeCommand;
    void replace(std::shared_ptr<const model::Project> project);
    void adopt(model::Project project, const QString& path, bool readOnly);
    void packOldSteps();
    void ask();
    void askMoved();
    bool movementFits(const kinematics::State& state) const;
    /// Puts the active placement where it is wanted, as one step; an error becomes a notice.
    void stand(const Result<model::Placement>& wanted, const QString& name);

    Lookout& lookout_;
    StudyRunner runner_;
    Mover mover_;
    std::optional<kinematics::State> moved_to_;
    std::shared_ptr<const Picture> moved_picture_;
    std::shared_ptr<const std::vector<Sweep>> sweeps_;
    bool sweeps_wanted_ = false;
    QUndoStack history_;
    QThreadPool packer_;
    std::shared_ptr<HistoryStep::Text> last_packed_ = std::make_shared<HistoryStep::Text>();
    std::shared_ptr<const model::Project> project_;
    std::shared_ptr<const Picture> picture_;
    std::shared_ptr<const study::Reports> reports_;
    std::shared_ptr<const std::vector<PictureOverlap>> overlaps_;
    std::optional<model::BodyRef> in_hand_;
    std::optional<Pin> pin_;
    std::optional<std::pair<int, int>> searching_;
    quantity::Shown shown_ = quantity::Shown::Millimetres;
    QString path_;
    bool read_only_ = false;
    std::string text_on_disk_; ///< what the file held when it was last read or written here
};

} // namespace gabarit::app
