// The window: gauges above, the order of work on the left, the stage in the middle.
#pragma once

#include "forms/tones.h"
#include "kit/stage.h"

#include <QMainWindow>

class QButtonGroup;
class QLabel;
class QMenu;
class QStackedWidget;
class QToolButton;

namespace gabarit::app {

class GaugeStrip;
class Keeper;
class Lookout;
class Session;
struct Unfinished;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    Session& session() { return *session_; }
    Lookout& lookout() { return *lookout_; }
    /// Null while no project is open.
    Stage* shownStage() const;
    /// Null when there is none of that id.
    Stage* stage(const QString& id) const;
    /// The stage of that class; null when there is none.
    template <class S>
    S* stage() const {
        S* out = nullptr;
        for (const Page& page : stages_)
            if (auto* found = dynamic_cast<S*>(page.stage)) out = found;
        return out;
    }
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
    /// Writes a sheet (print/sheets.h, by its id) of what the window shows now; false with a notice when it cannot.
    bool print(const QString& sheet, const QString& path);
    /// Dresses everything anew and remembers the choice.
    void setTheme(Theme theme);
    /// By its id; one that there is not changes nothing.
    void goToStage(const QString& id);

signals:
    void firstFramePainted();

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool event(QEvent* event) override;

private:
    void makeMenus();
    /// A menu of the window's own deeds and of what its stages bring to it.
    QMenu* makeMenu(const QString& words, std::vector<StageDeed> deeds = {});
    QWidget* makeRail();
    QWidget* makeStartPage();
    bool mayLeave();
    void refreshTitle();
    void refreshTotal();
    void refreshRail();
    void showNotice(const QString& text, bool trouble);
    void picked(const study::Gauge& gauge);
    void showHelp();
    void showPage(const QString& title, const QString& markdown);
    void showAbout();

    Lookout* lookout_;
    Session* session_;
    Keeper* keeper_;
    GaugeStrip* gauges_;
    QStackedWidget* pages_;
    struct Page {
        const StagePlug* plug;
        Stage* stage;
    };
    std::vector<Page> stages_; ///< in the order of the work
    QLabel* notice_;
    QWidget* notice_bar_;
    QButtonGroup* rail_;
    QLabel* total_;
    std::vector<QWidget*> without_project_; ///< means nothing, and is hidden, until a project is open
    bool painted_ = false;
};

} // namespace gabarit::app
