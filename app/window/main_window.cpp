#include "window/main_window.h"

#include "all_stages/all.h"
#include "forms/tones.h"
#include "print/sheets.h"
#include "session/after_painting.h"
#include "session/keeper.h"
#include "session/lookout.h"
#include "session/session.h"
#include "store/bundle.h"
#include "store/rule_book.h"
#include "window/commands.h"
#include "window/gauge_strip.h"
#include "window/glance_page.h"
#include "window/next_bar.h"
#include "window/rail.h"
#include "window/start_page.h"

#include <QAction>
#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QDate>
#include <QDialog>
#include <QDragEnterEvent>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QScreen>
#include <QScrollArea>
#include <QSettings>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QTextBrowser>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr int narrow_px = 1000; // below it the strip is one line and the rail its tabs
const char* const project_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit projects (*.gabarit)");
const char* const open_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit projects and bundles (*.gabarit *.gabaritz)");
const char* const bundle_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit bundles (*.gabaritz)");
const char* const donor_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit donors (*.gabarit-donor)");

QString pictureCount(int pictures) {
    return pictures == 0   ? QObject::tr("without pictures")
           : pictures == 1 ? QObject::tr("with one picture")
                           : QObject::tr("with %1 pictures").arg(pictures);
}

/// What is wrong with the pictures of a bundle, in words; empty when nothing is.
QString doubts(const store::BundleNotes& notes) {
    QString out;
    const auto say = [&out](const std::vector<std::string>& names, const QString& words) {
        if (names.empty()) return;
        QStringList all;
        for (const std::string& name : names) all << QString::fromStdString(name);
        out += QLatin1Char(' ') + words.arg(all.join(QStringLiteral(", ")));
    };
    say(notes.missing, QObject::tr("Not there: %1."));
    say(notes.changed, QObject::tr("Not the picture that was taken in: %1."));
    return out;
}

/// On a small or much enlarged screen what does not fit is scrolled to; nothing is squeezed.
QScrollArea* scrolled(QWidget* inside) {
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setFocusPolicy(Qt::NoFocus);
    auto* holder = new QWidget; // a layout asks its widgets, an area does not
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(inside);
    area->setWidget(holder);
    return area;
}

QString proposedName(const model::Project& project) {
    QString out;
    for (const QChar letter : QString::fromStdString(project.name).toLower())
        out += letter.isLetterOrNumber() ? letter : QLatin1Char('-');
    while (out.contains(QStringLiteral("--"))) out.replace(QStringLiteral("--"), QStringLiteral("-"));
    while (out.startsWith(QLatin1Char('-'))) out.remove(0, 1);
    while (out.endsWith(QLatin1Char('-'))) out.chop(1);
    return out.isEmpty() ? QObject::tr("swap") : out;
}

QString helpText() {
    QFile file(QStringLiteral(":/help/help.md"));
    return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString();
}

QString withSuffix(const QString& path, const QString& suffix) {
    return path.isEmpty() || path.endsWith(suffix) ? path : path + suffix;
}
} // namespace

std::optional<quantity::Shown> unitsOf(const QString& id) {
    quantity::Shown shown = id == QLatin1String("mm") ? quantity::Shown::Millimetres : quantity::Shown::Inches;
    if (id == QLatin1String("16")) shown.length = quantity::LengthStyle::Sixteenths;
    if (id == QLatin1String("32")) shown.length = quantity::LengthStyle::ThirtySeconds;
    return unitsId(shown) == id ? std::optional(shown) : std::nullopt;
}

QString standsWords(const study::Reports& reports) {
    const std::string counts = study::countWords(study::countsOf(reports));
    return QString::fromStdString(study::inShort(reports) + (counts.empty() ? "" : ": " + counts));
}

QString unitsId(const quantity::Shown& shown) {
    if (!shown.inches()) return QStringLiteral("mm");
    return shown.length == quantity::LengthStyle::Sixteenths      ? QStringLiteral("16")
           : shown.length == quantity::LengthStyle::ThirtySeconds ? QStringLiteral("32")
                                                                  : QStringLiteral("in");
}

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), lookout_(new Lookout), session_(new Session(*lookout_)), keeper_(new Keeper(*session_)),
      gauges_(new GaugeStrip(*session_, this)), pages_(new QStackedWidget(this)), notice_(new QLabel(this)),
      notice_bar_(new QWidget(this)), glance_(new GlancePage(*session_, this)), next_(new NextBar(this)),
      swap_(new QLabel(this)) {
    lookout_->setParent(this);
    session_->setParent(this);
    keeper_->setParent(this);
    setAcceptDrops(true);
    resize(1280, 800);

    for (const StagePlug* plug : allStages()) {
        stages_.push_back({plug, plug->make(*session_, *lookout_, this)});
        // Each by itself: how high a page wants to be is reckoned with every nudge, and only of the one that is seen.
        pages_->addWidget(scrolled(stages_.back().stage));
        connect(stages_.back().stage, &Stage::leadsOn, this, [this](const QString& id, const QString& what) {
            goToStage(id);
            if (Stage* other = stage(id)) other->turnTo(what);
        });
        connect(stages_.back().stage, &Stage::aloneChanged, this, &MainWindow::refreshFrame);
        connect(stages_.back().stage, &Stage::nextChanged, this, &MainWindow::refreshNext);
        connect(stages_.back().stage, &Stage::whyWanted, this,
                [this](const QString& finding) { showWhy(finding.toStdString()); });
    }
    pages_->addWidget(scrolled(makeStartPage()));
    pages_->addWidget(glance_);
    connect(glance_, &GlancePage::leadTo, this, &MainWindow::leadTo);
    pages_->setCurrentIndex(static_cast<int>(stages_.size()));

    auto* noticeRow = new QHBoxLayout(notice_bar_);
    noticeRow->setContentsMargins(14, 4, 8, 4);
    notice_->setWordWrap(true);
    notice_->setTextFormat(Qt::PlainText);
    noticeRow->addWidget(notice_, 1);
    auto* dismiss = new QPushButton(tr("Dismiss"), this);
    noticeRow->addWidget(dismiss);
    connect(dismiss, &QPushButton::clicked, notice_bar_, &QWidget::hide);
    notice_bar_->setAutoFillBackground(true);
    notice_bar_->hide();

    auto* centre = new QWidget(this);
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    swap_->setContentsMargins(12, 4, 14, 0);
    swap_->setTextFormat(Qt::PlainText);
    swap_->setForegroundRole(QPalette::PlaceholderText); // the second ink
    column->addWidget(gauges_);
    without_project_.push_back(swap_);
    without_project_.push_back(gauges_);
    auto* line = new QFrame(this);
    line->setFixedHeight(2);
    line->setAutoFillBackground(true);
    line->setBackgroundRole(QPalette::PlaceholderText);
    column->addWidget(line);
    without_project_.push_back(line);
    column->addWidget(notice_bar_);
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    makeRail();
    row->addWidget(rail_);
    without_project_.push_back(rail_);
    without_project_.push_back(next_);
    for (QWidget* widget : without_project_) widget->hide();
    auto* shown = new QVBoxLayout;
    shown->setSpacing(0);
    shown->addWidget(next_);
    shown->addWidget(pages_, 1);
    row->addLayout(shown, 1);
    column->addLayout(row, 1);
    setCentralWidget(centre);
    makeMenus();
    menuBar()->setCornerWidget(swap_);

    connect(gauges_, &GaugeStrip::picked, this, [this](discipline::Group group) {
        goToStage(QLatin1String(glance_id));
        glance_->showGroup(group);
    });
    connect(gauges_, &GaugeStrip::allWanted, this,
            [this] { goToStage(shownId() == QLatin1String(glance_id) ? before_glance_ : QLatin1String(glance_id)); });
    connect(session_, &Session::notice, this, &MainWindow::showNotice);
    connect(session_, &Session::projectReplaced, this, [this] {
        notice_bar_->hide();
        refreshFrame();
        const auto begins = std::max_element(stages_.begin(), stages_.end(), [this](const Page& a, const Page& b) {
            return a.stage->wants(*session_->project()) < b.stage->wants(*session_->project());
        });
        goToStage(QLatin1String(begins->plug->id));
        begins->stage->begin();
    });
    connect(session_, &Session::projectChanged, this, &MainWindow::refreshTitle);
    connect(session_, &Session::reportsChanged, this, &MainWindow::refreshRail);
    // What to do next is read at leisure: the figures of a nudge come first.
    connect(session_, &Session::reportsChanged, this, [this] { afterPainting(this, [this] { refreshNext(); }); });
    connect(&session_->history(), &QUndoStack::cleanChanged, this, &MainWindow::refreshTitle);
    refreshTitle();
}

MainWindow::~MainWindow() {
    // The views hold references to session and lookout: they go first; then nothing may call back into this window.
    delete takeCentralWidget();
    session_->disconnect(this);
    session_->history().disconnect(this);
    delete keeper_;
    delete session_;
    delete lookout_;
}

Stage* MainWindow::shownStage() const {
    const auto shown = static_cast<std::size_t>(pages_->currentIndex());
    return shown < stages_.size() ? stages_[shown].stage : nullptr;
}

Stage* MainWindow::stage(const QString& id) const {
    for (const Page& page : stages_)
        if (id == QLatin1String(page.plug->id)) return page.stage;
    return nullptr;
}

void MainWindow::makeRail() {
    std::vector<Rail::Line> lines;
    for (const Page& page : stages_)
        lines.push_back({QLatin1String(page.plug->id), page.plug->name(), page.plug->group});
    rail_ = new Rail(lines, this);
    for (std::size_t i = 0; i < stages_.size() && i < 9; ++i)
        rail_->entry(lines[i].id)->setToolTip(tr("%1, key Alt+%2").arg(lines[i].name).arg(i + 1));
    connect(rail_, &Rail::picked, this, &MainWindow::goToStage);
}

/// What each stage's disciplines have open; while it is nothing, what the stage itself says.
void MainWindow::refreshRail() {
    const auto reports = session_->reports();
    for (const Page& page : stages_) {
        const auto tells = [&](const std::string& discipline) {
            return std::count(page.plug->tells.begin(), page.plug->tells.end(), discipline) > 0;
        };
        QString state;
        std::optional<model::Verdict> mark;
        if (reports) {
            study::Counts counts;
            for (const study::Finding& finding : reports->findings) {
                if (!tells(finding.discipline)) continue;
                counts.take(finding);
                mark = mark ? model::worse(*mark, finding.verdict) : finding.verdict;
            }
            if (counts.open() > 0) {
                state = QString::number(counts.open());
            } else {
                for (const std::string& discipline : page.plug->tells)
                    if (const auto verdict = study::verdictOf(*reports, discipline))
                        mark = mark ? model::worse(*mark, *verdict) : verdict;
                state = page.stage->quietWords(*reports);
                if (state.isEmpty()) state = mark ? stateWords(*mark) : tr("not begun");
            }
        }
        rail_->tell(QLatin1String(page.plug->id), state, mark);
    }
}

QWidget* MainWindow::makeStartPage() {
    auto* page = new StartPage(this);
    connect(page, &StartPage::demoWanted, this, [this] { openDemo(); });
    connect(page, &StartPage::otherDemoWanted, this, [this](int which) { openDemo(which); });
    connect(page, &StartPage::newWanted, this, &MainWindow::newProject);
    connect(page, &StartPage::openWanted, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a project"), folder(), tr(open_filter));
        if (!path.isEmpty()) open(path);
    });
    connect(page, &StartPage::donorWanted, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a donor"), folder(), tr(donor_filter));
        if (!path.isEmpty()) openDonor(path);
    });
    connect(page, &StartPage::fileWanted, this, &MainWindow::open);
    connect(page, &StartPage::unfinishedWanted, this, &MainWindow::takeUp);
    return page;
}

bool MainWindow::takeUp(const Unfinished& work) {
    const auto taken = session_->takeUp(work);
    if (!taken) {
        showNotice(QString::fromStdString(taken.error().line()), true);
        return false;
    }
    keeper_->takeOver(work);
    // The former keeping goes only when this one stands in its place.
    if (keeper_->keepNow()) showNotice(tr("This is what was kept of %1. It is not saved yet.").arg(work.name), false);
    return true;
}

bool MainWindow::openDonor(const QString& path) {
    if (!session_->hasProject()) session_->newProject();
    const auto hung = session_->hangDonor(path);
    if (!hung) showNotice(QString::fromStdString(hung.error().line()), true);
    return hung.ok();
}

void MainWindow::makeMenus() {
    const auto add = [this](QMenu* menu, const QString& text, const QKeySequence& key, auto act) {
        QAction* action = menu->addAction(text);
        action->setShortcut(key);
        connect(action, &QAction::triggered, this, act);
        return action;
    };
    QMenu* file = menuBar()->addMenu(tr("&File"));
    add(file, tr("&New swap"), QKeySequence::New, [this] {
        if (mayLeave()) newProject();
    });
    add(file, tr("&Open…"), QKeySequence::Open, [this] {
        if (!mayLeave()) return;
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a project"),
                                                          QFileInfo(session_->path()).path(), tr(open_filter));
        if (!path.isEmpty()) open(path);
    });
    add(file, tr("Open the &demo"), {}, [this] {
        if (mayLeave()) openDemo();
    });
    add(file, tr("Open the second dem&o"), {}, [this] {
        if (mayLeave()) openDemo(1);
    });
    add(file, tr("Open the th&ird demo"), {}, [this] {
        if (mayLeave()) openDemo(2);
    });
    add(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
    add(file, tr("Save &as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] {
        if (!session_->hasProject()) return;
        const QString path = QFileDialog::getSaveFileName(this, tr("Save the project"),
                                                          proposed({}, QStringLiteral(".gabarit")), tr(project_filter));
        if (!path.isEmpty()) saveTo(withSuffix(path, QStringLiteral(".gabarit")));
    });
    add(file, tr("Pack as a &bundle…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path =
            withSuffix(QFileDialog::getSaveFileName(this, tr("Pack the project and its pictures"),
                                                    proposed({}, QStringLiteral(".gabaritz")), tr(bundle_filter)),
                       QStringLiteral(".gabaritz"));
        if (!path.isEmpty()) packBundle(path);
    });
    file->addSeparator();
    add(file, tr("Save the d&onor by itself…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path =
            withSuffix(QFileDialog::getSaveFileName(this, tr("Save the donor"),
                                                    proposed(QStringLiteral("donor"), QStringLiteral(".gabarit-donor")),
                                                    tr(donor_filter)),
                       QStringLiteral(".gabarit-donor"));
        if (path.isEmpty()) return;
        const auto saved = session_->saveDonor(path);
        showNotice(saved ? tr("The donor was saved as %1.").arg(path) : QString::fromStdString(saved.error().line()),
                   !saved);
    });
    add(file, tr("&Hang a donor from a file…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path = QFileDialog::getOpenFileName(this, tr("Hang a donor"), folder(), tr(donor_filter));
        if (path.isEmpty()) return;
        const auto hung = session_->hangDonor(path);
        if (!hung) showNotice(QString::fromStdString(hung.error().line()), true);
    });
    file->addSeparator();
    for (const print::Sheet& sheet : print::sheets())
        add(file, tr(sheet.menu.c_str()), &sheet == &print::sheets().front() ? QKeySequence::Print : QKeySequence(),
            [this, &sheet] {
                if (!session_->hasProject()) return;
                const QString path =
                    sheet.folder ? QFileDialog::getExistingDirectory(this, tr(sheet.dialog.c_str()), folder())
                                 : withSuffix(QFileDialog::getSaveFileName(
                                                  this, tr(sheet.dialog.c_str()),
                                                  proposed(QString::fromStdString(sheet.id), QStringLiteral(".pdf")),
                                                  tr("PDF (*.pdf)")),
                                              QStringLiteral(".pdf"));
                if (!path.isEmpty()) print(QString::fromStdString(sheet.id), path);
            });
    file->addSeparator();
    add(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });

    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    QAction* undo = session_->history().createUndoAction(this, tr("Undo"));
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = session_->history().createRedoAction(this, tr("Redo"));
    redo->setShortcut(QKeySequence::Redo);
    edit->addActions({undo, redo});

    std::vector<StageDeed> go;
    for (std::size_t i = 0; i < stages_.size(); ++i)
        go.push_back({{},
                      0,
                      stages_[i].plug->name(),
                      i < 9 ? QKeySequence(Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + i)) : QKeySequence(),
                      [this, id = QLatin1String(stages_[i].plug->id)] {
                          goToStage(id);
                          takeKeys();
                      }});
    go.push_back(
        {{}, 9, tr("Every check, at a glance"), QKeySequence(Qt::Key_F4), [this] { gauges_->total()->click(); }});
    go.push_back({{}, 9, tr("Do what is next"), QKeySequence(Qt::Key_F5), [this] { next_->go(); }});
    go.push_back({{}, 9, tr("Why this number?"), QKeySequence(Qt::Key_F6), [this] { showWhy({}); }});
    makeMenu(QStringLiteral("&Go to"), go);
    QStringList brought; // menus of the stages' own
    for (const Page& page : stages_)
        for (const StageDeed& deed : page.stage->deeds())
            if (deed.menu != QLatin1String("&Go to") && deed.menu != QLatin1String("&View")) brought << deed.menu;
    brought.removeDuplicates();
    for (const QString& words : std::as_const(brought)) makeMenu(words);

    QMenu* view = makeMenu(
        QStringLiteral("&View"),
        {{{}, 1, tr("Nearer"), QKeySequence::ZoomIn, [this] { lookout_->zoomAbout(1.25, lookout_->centre_mm()); }},
         {{}, 2, tr("Farther"), QKeySequence::ZoomOut, [this] { lookout_->zoomAbout(0.8, lookout_->centre_mm()); }},
         {{},
          3,
          tr("&Tape between two points"),
          QKeySequence(Qt::Key_T),
          [this] { lookout_->setTaping(!lookout_->taping()); },
          false,
          [this] { return lookout_->taping(); }},
         {{}, 5, tr("Show all &bodies"), {}, [this] { lookout_->clearSights(); }}});
    QMenu* units = view->addMenu(tr("&Units"));
    auto* oneOf = new QActionGroup(this);
    const QString words[] = {tr("&Millimetres and kilograms"), tr("&Decimal inches and pounds"),
                             tr("&Sixteenths of an inch and pounds"), tr("&Thirty-seconds of an inch and pounds")};
    for (std::size_t i = 0; i < std::size(words); ++i) {
        const quantity::Shown style = unitsOf(QLatin1String(unit_ids[i])).value();
        QAction* action = add(units, words[i], {}, [this, style] { session_->setShown(style); });
        action->setCheckable(true);
        oneOf->addAction(action);
        connect(units, &QMenu::aboutToShow, action,
                [this, action, style] { action->setChecked(style == session_->shown()); });
    }

    QAction* evening =
        add(view, tr("&Evening colours"), {}, [this](bool on) { setTheme(on ? Theme::Dark : Theme::Light); });
    evening->setCheckable(true);
    evening->setChecked(theme() == Theme::Dark);

    QMenu* help = menuBar()->addMenu(tr("&Help"));
    add(help, tr("&How to use it, and the keys"), QKeySequence::HelpContents, [this] { showHelp(); });
    add(help, tr("&Keys, all of them"), QKeySequence(Qt::SHIFT | Qt::Key_F1),
        [this] { showPage(tr("Keys"), keysPage(*this)); });
    add(help, tr("&What do you want to do?"), QKeySequence(Qt::Key_F2), [this] {
        auto* finder = new CommandFinder(*this, helpPlaces(helpText()));
        connect(finder, &CommandFinder::helpWanted, this, &MainWindow::showHelp);
        finder->show();
        finder->activateWindow();
    });
    add(help, tr("&About and cautions"), {}, [this] { showAbout(); });
}

QMenu* MainWindow::makeMenu(const QString& words, std::vector<StageDeed> deeds) {
    QMenu* menu = menuBar()->addMenu(tr(words.toUtf8().constData()));
    for (const Page& page : stages_)
        for (StageDeed& deed : page.stage->deeds()) {
            if (deed.menu != words) continue;
            if (deed.goes_there)
                deed.act = [this, id = QLatin1String(page.plug->id), act = std::move(deed.act)] {
                    goToStage(id);
                    act();
                };
            deeds.push_back(std::move(deed));
        }
    std::stable_sort(deeds.begin(), deeds.end(), [](const StageDeed& a, const StageDeed& b) { return a.at < b.at; });
    int tens = 0;
    for (StageDeed& deed : deeds) {
        if (deed.at / 10 != tens) menu->addSeparator();
        tens = deed.at / 10;
        QAction* action = menu->addAction(deed.words);
        action->setShortcut(deed.key);
        if (deed.on) {
            action->setCheckable(true);
            connect(menu, &QMenu::aboutToShow, action, [action, on = std::move(deed.on)] { action->setChecked(on()); });
        }
        connect(action, &QAction::triggered, this, [this, act = std::move(deed.act)] {
            if (session_->hasProject()) act();
        });
    }
    return menu;
}

QString MainWindow::folder() const {
    if (!session_->path().isEmpty()) return QFileInfo(session_->path()).path();
    const QStringList recent = StartPage::recent();
    for (const QString& path : recent)
        if (QFileInfo::exists(QFileInfo(path).path())) return QFileInfo(path).path();
    return QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation);
}

QString MainWindow::proposed(const QString& what, const QString& suffix) const {
    const QString name = session_->path().isEmpty() ? proposedName(*session_->project())
                                                    : QFileInfo(session_->path()).completeBaseName();
    return folder() + QLatin1Char('/') + name + (what.isEmpty() ? QString() : QLatin1Char('-') + what) + suffix;
}

QString MainWindow::shownId() const {
    if (pages_->currentWidget() == glance_) return QLatin1String(glance_id);
    const auto shown = static_cast<std::size_t>(pages_->currentIndex());
    return shown < stages_.size() ? QString(QLatin1String(stages_[shown].plug->id)) : QString();
}

void MainWindow::goToStage(const QString& id) {
    const bool glance = id == QLatin1String(glance_id);
    if (!glance && !stage(id)) return;
    if (glance && shownId() != id) before_glance_ = shownId();
    if (!session_->hasProject())
        pages_->setCurrentIndex(static_cast<int>(stages_.size()));
    else if (glance)
        pages_->setCurrentWidget(glance_);
    else
        for (std::size_t i = 0; i < stages_.size(); ++i)
            if (id == QLatin1String(stages_[i].plug->id)) pages_->setCurrentIndex(static_cast<int>(i));
    gauges_->total()->setChecked(shownId() == QLatin1String(glance_id));
    rail_->setCurrent(shownId());
    refreshFrame();
}

void MainWindow::refreshFrame() {
    const Stage* shown = shownStage();
    const bool alone = shown && shown->alone();
    for (QWidget* widget : without_project_) widget->setVisible(session_->hasProject() && (!alone || widget == swap_));
    refreshNext();
}

void MainWindow::takeKeys() {
    Stage* shown = shownStage();
    if (!shown) return;
    shown->begin();
    if (const QWidget* focus = focusWidget(); focus && shown->isAncestorOf(focus)) return;
    for (QWidget* next = shown->nextInFocusChain(); next && next != shown; next = next->nextInFocusChain())
        if (shown->isAncestorOf(next) && next->isVisible() && next->isEnabled() &&
            (next->focusPolicy() & Qt::TabFocus) != 0)
            return next->setFocus(Qt::ShortcutFocusReason);
}

void MainWindow::refreshNext() {
    const auto reports = session_->reports();
    const Stage* shown = shownStage();
    next_->setVisible(session_->hasProject() && !(shown && shown->alone()));
    if (!session_->hasProject() || !reports || shownId().isEmpty()) return next_->show({});
    const Page* page = nullptr;
    for (const Page& its : stages_)
        if (shownId() == QLatin1String(its.plug->id)) page = &its;
    NextStep step = page ? page->stage->nextStep(*reports) : NextStep{};
    if (step.words.isEmpty()) step = nextOf(page, *reports);
    next_->show(step);
}

NextStep MainWindow::nextOf(const Page* page, const study::Reports& reports) {
    const auto tells = [](const Page& its, const study::Finding& finding) {
        return std::count(its.plug->tells.begin(), its.plug->tells.end(), finding.discipline) > 0;
    };
    // Two lines at most: a card has room for more.
    const auto sentence = [](const study::Finding& finding) {
        constexpr std::size_t short_enough = 150;
        const bool whole = !finding.help.empty() && finding.title.size() + finding.help.size() < short_enough;
        return QString::fromStdString(finding.title + (whole ? ". " + finding.help : "."));
    };
    for (const study::Finding& finding : reports.findings) {
        if (page && !tells(*page, finding)) continue;
        if (page)
            return {sentence(finding), tr("Show it"), [this, stage = page->stage, id = finding.id] {
                        // Where nothing of it can be chosen there is its sum at least.
                        if (!stage->leadTo(QString::fromStdString(id))) showWhy(id);
                    }};
        // Of every check the worst: what its own stage would do about it.
        for (const Page& its : stages_) {
            if (!tells(its, finding)) continue;
            NextStep step = its.stage->nextStep(reports);
            if (step.words.isEmpty() || !step.act) break;
            step.act = [this, id = QLatin1String(its.plug->id), act = step.act] {
                goToStage(id);
                act();
            };
            return step;
        }
        return {tr("Begin with number %1: %2").arg(finding.number).arg(sentence(finding)), tr("Go to it"),
                [this, finding] { leadTo(finding); }};
    }
    for (const Page& other : stages_) {
        const auto open = std::count_if(reports.findings.begin(), reports.findings.end(),
                                        [&](const study::Finding& finding) { return tells(other, finding); });
        if (open == 0) continue;
        const QString name = other.plug->name();
        return {tr("Nothing is open here. Open next: %1, %2.").arg(name).arg(open), tr("Go to %1").arg(name),
                [this, id = QLatin1String(other.plug->id)] { goToStage(id); }};
    }
    if (!reports.asked)
        return {tr("Nothing is measured yet. Begin with the survey."), tr("Go to Survey"),
                [this] { goToStage(QLatin1String(stages_.front().plug->id)); }};
    return {tr("All that was asked is go. What was not asked is not known: see what has not begun."), QString(), {}};
}

void MainWindow::showWhy(std::string finding) {
    const auto reports = session_->reports();
    if (!session_->hasProject() || !reports) return;
    if (finding.empty()) finding = lookout_->selected();
    if (finding.empty() && !reports->findings.empty()) finding = reports->findings.front().id;
    goToStage(QLatin1String(glance_id));
    glance_->openRow(finding);
}

void MainWindow::leadTo(const study::Finding& finding) {
    for (const Page& page : stages_) {
        const auto& tells = page.plug->tells;
        if (std::find(tells.begin(), tells.end(), finding.discipline) == tells.end()) continue;
        goToStage(QLatin1String(page.plug->id));
        if (finding.number == 0 && finding.place_vehicle_mm) lookout_->setCentre(*finding.place_vehicle_mm);
        page.stage->leadTo(QString::fromStdString(finding.id));
        return;
    }
    if (!stages_.empty() && stage(before_glance_)) goToStage(before_glance_);
}

void MainWindow::restoreLook(bool size) {
    const QSettings settings;
    rail_->fold(settings.value(QStringLiteral("window/folded")).toStringList());
    if (!size) return;
    const QRect wanted = settings.value(QStringLiteral("window/place")).toRect();
    if (wanted.isEmpty()) return;
    // The screen may be another one today.
    const QScreen* screen = QGuiApplication::screenAt(wanted.center());
    const QRect room = (screen ? screen : QGuiApplication::primaryScreen())->availableGeometry();
    QRect place(wanted.topLeft(), wanted.size().boundedTo(room.size()));
    place.moveLeft(std::clamp(place.left(), room.left(), room.right() + 1 - place.width()));
    place.moveTop(std::clamp(place.top(), room.top(), room.bottom() + 1 - place.height()));
    setGeometry(place);
    if (settings.value(QStringLiteral("window/whole")).toBool()) setWindowState(Qt::WindowMaximized);
}

void MainWindow::rememberLook() {
    QSettings settings;
    settings.setValue(QStringLiteral("window/folded"), rail_->folded());
    settings.setValue(QStringLiteral("window/place"), normalGeometry());
    settings.setValue(QStringLiteral("window/whole"), isMaximized());
    settings.setValue(QStringLiteral("units"), unitsId(session_->shown()));
    if (!session_->path().isEmpty() && !shownId().isEmpty())
        settings.setValue(QStringLiteral("window/stage"), QStringList{session_->path(), shownId()});
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    gauges_->setNarrow(width() < narrow_px);
    const bool narrow = width() < narrow_px;
    if (narrow == rail_->narrow()) return;
    rail_->setNarrow(narrow);
    for (const Page& page : stages_) page.stage->setNarrow(narrow);
}

bool MainWindow::packBundle(const QString& path) {
    const auto packed = store::writeBundle(path.toStdString(), *session_->project(), session_->path().toStdString());
    if (!packed) {
        showNotice(tr("It was not packed. %1").arg(QString::fromStdString(packed.error().line())), true);
        return false;
    }
    showNotice(tr("Packed as %1, %2.%3").arg(path, pictureCount(packed.value().pictures), doubts(packed.value())),
               !packed.value().missing.empty() || !packed.value().changed.empty());
    return true;
}

bool MainWindow::openBundle(const QString& path) {
    const auto unpacked =
        store::unpackBundle(path.toStdString(), QFileInfo(path).absolutePath().toStdString(), store::defaultRuleBook());
    if (!unpacked) {
        showNotice(tr("It was not opened. %1").arg(QString::fromStdString(unpacked.error().line())), true);
        return false;
    }
    const QString project = QString::fromStdString(unpacked.value().project_path);
    if (!open(project)) return false;
    const QString trouble = doubts(unpacked.value().notes);
    showNotice(tr("Unpacked as %1.%2").arg(project, trouble), !trouble.isEmpty());
    return true;
}

bool MainWindow::open(const QString& path) {
    if (path.endsWith(QLatin1String(".gabaritz"))) return openBundle(path);
    if (const auto work = Keeper::unfinishedOf(path)) {
        QMessageBox ask(QMessageBox::NoIcon, tr("Go on with unfinished work?"),
                        tr("A window ended before work on this file was saved. What was kept of it is as of %1.")
                            .arg(QLocale().toString(work->when, QLocale::ShortFormat)),
                        QMessageBox::Cancel, this);
        auto* take = ask.addButton(tr("Go on with it"), QMessageBox::AcceptRole);
        auto* saved = ask.addButton(tr("Open the file as it was saved"), QMessageBox::DestructiveRole);
        ask.setDefaultButton(take);
        ask.setInformativeText(tr("What was kept stays on the start page until it is saved or thrown away."));
        ask.exec();
        if (ask.clickedButton() == take) return takeUp(*work);
        if (ask.clickedButton() != saved) return false;
    }
    const auto opened = session_->openFile(path);
    if (!opened) showNotice(tr("It was not opened. %1").arg(QString::fromStdString(opened.error().line())), true);
    if (!opened) return false;
    StartPage::remember(path, {});
    // A file that was left at a stage is taken up there.
    const QStringList left = QSettings().value(QStringLiteral("window/stage")).toStringList();
    if (left.size() == 2 && left[0] == session_->path()) goToStage(left[1]);
    return true;
}

bool MainWindow::openDemo(int which) {
    const auto opened = session_->openDemo(which);
    if (!opened) showNotice(QString::fromStdString(opened.error().line()), true);
    return opened.ok();
}

void MainWindow::newProject() {
    session_->newProject();
    for (const Page& page : stages_) page.stage->beginNew();
}

bool MainWindow::save() {
    if (!session_->hasProject()) return false;
    QString path = session_->path();
    if (path.isEmpty()) {
        path = withSuffix(QFileDialog::getSaveFileName(this, tr("Save the project"),
                                                       proposed({}, QStringLiteral(".gabarit")), tr(project_filter)),
                          QStringLiteral(".gabarit"));
        if (path.isEmpty()) return false;
    }
    return saveTo(path);
}

bool MainWindow::saveTo(const QString& path) {
    const auto saved = session_->save(path);
    showNotice(saved ? tr("Saved as %1.").arg(path)
                     : tr("It was not saved. %1").arg(QString::fromStdString(saved.error().line())),
               !saved);
    refreshTitle();
    if (saved) {
        QPixmap portrait;
        for (const Page& page : stages_)
            if (portrait.isNull()) portrait = page.stage->portrait();
        const auto reports = session_->reports();
        StartPage::remember(path, portrait, reports ? standsWords(*reports) : QString());
    }
    return saved.ok();
}

bool MainWindow::print(const QString& id, const QString& path) {
    const print::Sheet* sheet = print::sheetOf(id.toStdString());
    if (!sheet) return false;
    const auto reports = session_->reports();
    if (!reports || reports->project != session_->project()) {
        showNotice(tr("The figures are still being worked out. Print again in a moment."), true);
        return false;
    }
    const auto written =
        sheet->write(*reports, store::defaultRuleBook(),
                     {session_->shown(), QLocale().toString(QDate::currentDate(), QLocale::LongFormat).toStdString(),
                      session_->shown().inches() ? "letter" : "a4"},
                     path.toStdString());
    showNotice(written ? tr(sheet->saved.c_str()).arg(path)
                       : tr("It was not printed. %1").arg(QString::fromStdString(written.error().line())),
               !written);
    return written.ok();
}

bool MainWindow::mayLeave() {
    if (!session_->hasProject() || session_->history().isClean()) return true;
    const auto answer =
        QMessageBox::question(this, tr("Save the changes?"), tr("The project has changes that are not saved."),
                              QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, QMessageBox::Save);
    if (answer == QMessageBox::Save) return save();
    return answer == QMessageBox::Discard;
}

void MainWindow::refreshTitle() {
    if (!session_->hasProject()) {
        setWindowTitle(tr("Gabarit"));
        return;
    }
    const QString name = QString::fromStdString(session_->project()->name);
    const QString file = session_->path().isEmpty() ? tr("not saved yet") : QFileInfo(session_->path()).fileName();
    setWindowTitle(tr("%1[*] · %2 · Gabarit").arg(name, session_->readOnly() ? tr("%1, read-only").arg(file) : file));
    setWindowModified(!session_->history().isClean());
    const model::Placement* placement = model::activePlacement(*session_->project());
    const QString swap = placement && !placement->name.empty()
                             ? tr("%1 · placement: %2").arg(name, QString::fromStdString(placement->name))
                             : name;
    if (swap == swap_->text()) return;
    swap_->setText(swap);
    menuBar()->setCornerWidget(swap_); // it keeps the width that it had otherwise
    swap_->show();
}

QString MainWindow::noticeText() const { return notice_bar_->isHidden() ? QString() : notice_->text(); }

void MainWindow::setTheme(Theme theme) {
    notice_bar_->hide();
    dress(*qApp, theme);
    lookout_->redraw();
    QSettings().setValue(QStringLiteral("theme"),
                         theme == Theme::Dark ? QStringLiteral("dark") : QStringLiteral("light"));
}

void MainWindow::showNotice(const QString& text, bool trouble) {
    if (text.isEmpty()) return notice_bar_->hide(); // what it told of is mended
    QPalette colours = palette();
    colours.setColor(QPalette::Window, trouble ? tones().trouble : tones().donor);
    colours.setColor(QPalette::WindowText, tones().paper);
    notice_bar_->setPalette(colours);
    notice_->setPalette(colours);
    notice_->setText(text);
    notice_bar_->show();
    // Good news goes by itself; trouble stays until it is dismissed.
    if (!trouble)
        QTimer::singleShot(6000, notice_bar_, [this, text] {
            if (notice_->text() == text) notice_bar_->hide();
        });
}

void MainWindow::showHelp(const QString& at) { showPage(tr("How to use Gabarit"), helpText(), at); }

void MainWindow::showPage(const QString& title, const QString& markdown, const QString& at) {
    auto* dialog = new QDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(title);
    dialog->resize(760, 640);
    auto* text = new QTextBrowser(dialog);
    text->setMarkdown(markdown);
    auto* find = new QLineEdit(dialog);
    find->setPlaceholderText(tr("Look for words in it; Return goes on to the next"));
    find->setAccessibleName(tr("Look for words in it"));
    find->setMinimumHeight(target_px);
    auto* column = new QVBoxLayout(dialog);
    column->addWidget(find);
    column->addWidget(text);
    // On from where it stands, from the top again after the last.
    const auto look = [text](const QString& words) {
        if (words.isEmpty() || text->find(words)) return;
        text->moveCursor(QTextCursor::Start);
        text->find(words);
    };
    connect(find, &QLineEdit::returnPressed, text, [find, look] { look(find->text().trimmed()); });
    connect(find, &QLineEdit::textEdited, text, [text, look](const QString& words) {
        text->moveCursor(QTextCursor::Start);
        look(words.trimmed());
    });
    dialog->show();
    constexpr int telling = 30; // letters of a paragraph: its marks may break it further on
    if (!at.isEmpty())
        QTimer::singleShot(0, text, [look, at] { look(at.left(telling).section(QLatin1Char(' '), 0, -2)); });
}

void MainWindow::showAbout() {
    auto* box = new QMessageBox(this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->setWindowTitle(tr("About Gabarit"));
    box->setText(tr("Gabarit %1. Free software under the GNU General Public License, version 3 or later.")
                     .arg(QStringLiteral(GABARIT_VERSION)));
    box->setInformativeText(tr("Figures are estimates from what was measured. They approve nothing: local code, the "
                               "component's maker, inspection and a licensed "
                               "engineer decide.\n\nNobody under a hanging load; a hoist's rating falls with its "
                               "reach. Stands, not jacks. Battery off and fuel away "
                               "before cutting. Structure, steering and brakes need a qualified welder and inspection. "
                               "Never cut what carries suspension or belts "
                               "without an engineer."));
    box->setModal(false);
    box->show();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    event->setAccepted(mayLeave());
    if (!event->isAccepted()) return;
    rememberLook();
    keeper_->forget();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    const auto urls = event->mimeData()->urls();
    if (urls.size() == 1 && urls.front().isLocalFile()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    const QString path = event->mimeData()->urls().front().toLocalFile();
    if (path.endsWith(QLatin1String(".gabarit-donor")))
        openDonor(path); // hung in what is open, as one step
    else if (mayLeave())
        open(path);
}

bool MainWindow::event(QEvent* event) {
    const bool handled = QMainWindow::event(event);
    if (event->type() == QEvent::UpdateRequest && !painted_) {
        painted_ = true;
        emit firstFramePainted();
    }
    return handled;
}

} // namespace gabarit::app

#include "moc_main_window.cpp"
