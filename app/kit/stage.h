// One stage of the work: a page of the window, and all that the window has to know of it.
#pragma once

#include "study/study.h"

#include <QKeySequence>
#include <QPixmap>
#include <QWidget>

#include <functional>
#include <vector>

namespace gabarit::app {

class Lookout;
class Session;

/// Something a stage can do that stands in a menu of the window; found by F2, listed with its key under Shift+F1.
struct StageDeed {
    QString menu; ///< its words: "&Go to", "&View", or one of the stage's own, which stands before &View
    int at = 0;   ///< where in the menu; a line stands between tens
    QString words;
    QKeySequence key = {};
    std::function<void()> act = {}; ///< not asked while no project is open
    bool goes_there = false;        ///< the stage is shown first
    std::function<bool()> on = {};  ///< given: it is something that is on or off, and so it is now
};

/// The parts of the work that the rail is divided into, in its order.
enum class StageGroup { Measure, Place, HoldAndDrive, Route, Account, Build, Rules };
QString stageGroupWords(StageGroup group);

/// The one thing to do now.
struct NextStep {
    QString words;             ///< empty: none
    QString deed;              ///< on its button
    std::function<void()> act; ///< empty: no button
};

class Stage : public QWidget {
    Q_OBJECT
public:
    using QWidget::QWidget;

    /// As low as what is in it can be: asked for the height that all its words would like, the window would scroll it,
    /// and the drawings would jump with every word.
    bool hasHeightForWidth() const override { return false; }

    /// What the rail says of it while none of its disciplines has an open finding; empty: "go", or "not begun" where
    /// nothing was judged.
    virtual QString quietWords(const study::Reports& reports) const {
        Q_UNUSED(reports)
        return {};
    }
    /// Whether something that it was turned to is still being looked for: a picture of it waits.
    virtual bool looking() const { return false; }
    /// What to do now; without words the window says it: what is worst of its disciplines' findings, else which stage
    /// has something open.
    virtual NextStep nextStep(const study::Reports& reports) {
        Q_UNUSED(reports)
        return {};
    }
    /// Chooses what a finding (by its id) speaks of; false when nothing of it can be chosen here.
    virtual bool leadTo(const QString& finding) {
        Q_UNUSED(finding)
        return false;
    }
    /// Turns to one of its things, by the name the stage gives it; what it does not know changes nothing.
    virtual void turnTo(const QString& what) { Q_UNUSED(what) }
    virtual std::vector<StageDeed> deeds() { return {}; }
    /// It wants the window to itself now: neither strip nor rail beside it.
    virtual bool alone() const { return false; }
    /// The window is small: no wider than 1000 pixels.
    virtual void setNarrow(bool narrow) { Q_UNUSED(narrow) }
    /// How much a project that was opened wants to begin here: the stage that says most is shown, then begins.
    virtual int wants(const model::Project& project) const {
        Q_UNUSED(project)
        return 0;
    }
    virtual void begin() {}
    /// A new project was begun.
    virtual void beginNew() {}
    /// What stands for the project on the start page; null when this stage has nothing.
    virtual QPixmap portrait() { return {}; }

signals:
    /// Another stage, by its id, is to show something.
    void leadsOn(const QString& stage, const QString& what);
    /// alone() says something else now.
    void aloneChanged();
    /// nextStep() says something else now, though no figure has changed.
    void nextChanged();
    /// How the figure of a finding, by its id, came about is to be shown.
    void whyWanted(const QString& finding);
};

/// How a stage is plugged in: each `app/stages/NAME` has one, `const StagePlug& NAMEStage()`.
struct StagePlug {
    const char* id; ///< as on the command line: "place"
    StageGroup group;
    int order;                      ///< of the work, within the group; tens, so that others fit between
    QString (*name)();              ///< on the rail
    std::vector<std::string> tells; ///< the disciplines whose dials lead here
    Stage* (*make)(Session& session, Lookout& lookout, QWidget* parent);
};

} // namespace gabarit::app
