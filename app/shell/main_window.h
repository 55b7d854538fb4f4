// The window: gauges above, the order of work on the left, the stage in the middle.
#pragma once

#include "shell/tones.h"
#include "study/study.h"

#include <QMainWindow>

class QButtonGroup;
class QLabel;
class QStackedWidget;
class QToolButton;

namespace gabarit::app {

class GaugeStrip;
class Keeper;
class Lookout;
class DrivelineStage;
class MountsStage;
class ReliefStage;
class PartsStage;
class PlaceStage;
class RulesStage;
class SurveyStage;
struct Unfinished;
class WeightsStage;
class Session;

/// The stages in the order of the work, as on the rail.
enum class Stage { Survey, Place, Driveline, Mounts, Relief, Weights, Parts, Rules };
constexpr int stage_count = 8;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    Session& session() { return *session_; }
    Lookout& lookout() { return *lookout_; }
    PlaceStage* place() const { return place_; }
    SurveyStage* survey() const { return survey_; }
    DrivelineStage* driveline() const { return driveline_; }
    MountsStage* mounts() const { return mounts_; }
    ReliefStage* relief() const { return relief_; }
    WeightsStage* weights() const { return weights_; }
    PartsStage* parts() const { return parts_; }
    RulesStage* rules() const { return rules_; }
    GaugeStrip* gauges() const { return gauges_; }
    /// The line of the last notice; empty when none is shown.
    QString noticeText() const;

    /// Opens a file; on failure the notice says why and what was open stays open.
    bool open(const QString& path);
    bool openDemo(int which = 0);
    void newProject();
    /// Hangs a donor from a file in what is open, or in an empty vehicle.
    bool openDonor(const QString& path);
    /// Goes on with work that a window left behind.
    bool takeUp(const Unfinished& work);
    Keeper& keeper() { return *keeper_; }
    bool save();
    bool saveTo(const QString& path);
    /// The project and its pictures in one file.
    bool packBundle(const QString& path);
    /// Unpacks a bundle beside itself and opens the project.
    bool openBundle(const QString& path);
    /// The one-page sheet of what the window shows now, as PDF.
    bool printFitSheet(const QString& path);
    bool printDriveline(const QString& path);
    bool printJigSheet(const QString& path);
    /// Into a folder: one PDF and each part as SVG and DXF.
    bool printTemplates(const QString& folder);
    /// Dresses everything anew and remembers the choice.
    void setTheme(Theme theme);
    void goToStage(Stage stage);

signals:
    void firstFramePainted();

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool event(QEvent* event) override;

private:
    void makeMenus();
    QStringList stageNames() const;
    QWidget* makeRail();
    QWidget* makeStartPage();
    bool mayLeave();
    void refreshTitle();
    void refreshTotal();
    void refreshRail();
    void showNotice(const QString& text, bool trouble);
    void picked(const study::Gauge& gauge);
    void stepFinding(int by);
    void showHelp();
    void showPage(const QString& title, const QString& markdown);
    void showAbout();

    Lookout* lookout_;
    Session* session_;
    Keeper* keeper_;
    GaugeStrip* gauges_;
    QStackedWidget* pages_;
    SurveyStage* survey_;
    PlaceStage* place_;
    DrivelineStage* driveline_;
    MountsStage* mounts_;
    ReliefStage* relief_;
    WeightsStage* weights_;
    PartsStage* parts_;
    RulesStage* rules_;
    QLabel* notice_;
    QWidget* notice_bar_;
    QButtonGroup* rail_;
    QLabel* total_;
    std::vector<QWidget*> without_project_; ///< means nothing, and is hidden, until a project is open
    bool painted_ = false;
};

} // namespace gabarit::app
