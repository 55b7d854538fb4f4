// The window: gauges above, the order of work on the left, the stage in the middle.
#pragma once

#include "forms/tones.h"
#include "kit/stage.h"

#include <QMainWindow>

class QLabel;
class QMenu;
class QStackedWidget;

namespace gabarit::app {

class GaugeStrip;
class GlancePage;
class Keeper;
class Lookout;
class NextBar;
class Rail;
class Session;
struct Unfinished;

/// The page with every check goes by this id among the stages'.
constexpr const char* glance_id = "glance";

/// How units are chosen: millimetres, decimal inches, sixteenths and thirty-seconds of an inch.
constexpr const char* unit_ids[] = {"mm", "in", "16", "32"};
/// Nothing for another id.
std::optional<quantity::Shown> unitsOf(const QString& id);
QString unitsId(const quantity::Shown& shown);
/// "Not yet: 13 no-go, 4 close".
QString standsWords(const study::Reports& reports);

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
    Rail* rail() const { return rail_; }
    GlancePage* glance() const { return glance_; }
    NextBar* next() const { return next_; }
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
    /// By its id, or glance_id; one that there is not changes nothing.
    void goToStage(const QString& id);
    /// Of what is shown, a stage or the page with every check; empty on the start page.
    QString shownId() const;
    /// The sum behind a finding's figure, on the page with every check; of an empty id the one that is pointed at, else
    /// the worst.
    void showWhy(std::string finding);
    /// Size, place and folded groups as they were left, within the screen; the size only when it is wanted.
    void restoreLook(bool size);

signals:
    void firstFramePainted();

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool event(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    struct Page {
        const StagePlug* plug;
        Stage* stage;
    };
    void makeMenus();
    /// A menu of the window's own deeds and of what its stages bring to it.
    QMenu* makeMenu(const QString& words, std::vector<StageDeed> deeds = {});
    void makeRail();
    QWidget* makeStartPage();
    bool mayLeave();
    void refreshTitle();
    /// Where files are: beside the project, else beside the last one, else among the documents.
    QString folder() const;
    /// A path for a file that is to be saved: the project's, or its name, and what it is.
    QString proposed(const QString& what, const QString& suffix) const;
    void refreshRail();
    void refreshNext();
    /// Strip, rail and next step, but where a stage wants the window to itself.
    void refreshFrame();
    /// The keyboard goes into the page that is shown.
    void takeKeys();
    /// Of a stage that says none itself, and of the page with every check.
    NextStep nextOf(const Page* page, const study::Reports& reports);
    void rememberLook();
    void showNotice(const QString& text, bool trouble);
    /// To the stage that tells of it, at its place.
    void leadTo(const study::Finding& finding);
    /// `at`: the paragraph that begins so; empty: from its top.
    void showHelp(const QString& at = {});
    void showPage(const QString& title, const QString& markdown, const QString& at = {});
    void showAbout();

    Lookout* lookout_;
    Session* session_;
    Keeper* keeper_;
    GaugeStrip* gauges_;
    QStackedWidget* pages_;
    std::vector<Page> stages_; ///< in the order of the work
    QLabel* notice_;
    QWidget* notice_bar_;
    Rail* rail_ = nullptr;
    GlancePage* glance_;
    NextBar* next_;
    QString before_glance_;                 ///< the stage that was shown before every check
    QLabel* swap_;                          ///< which one is open, and how it hangs
    std::vector<QWidget*> without_project_; ///< means nothing, and is hidden, until a project is open
    bool painted_ = false;
};

} // namespace gabarit::app
