#include "window/main_window.h"

#include "all_stages/all.h"
#include "forms/tones.h"
#include "print/sheets.h"
#include "session/keeper.h"
#include "session/lookout.h"
#include "session/session.h"
#include "store/bundle.h"
#include "store/rule_book.h"
#include "window/commands.h"
#include "window/gauge_strip.h"
#include "window/start_page.h"

#include <QAction>
#include <QActionGroup>
#include <QApplication>
#include <QButtonGroup>
#include <QCloseEvent>
#include <QDate>
#include <QDialog>
#include <QDragEnterEvent>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QStackedWidget>
#include <QTextBrowser>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr int rail_width_px = 128;
constexpr int strip_height_px = 112;
const char* const project_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit projects (*.gabarit)");
const char* const open_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit projects and bundles (*.gabarit *.gabaritz)");
const char* const bundle_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit bundles (*.gabaritz)");
const char* const donor_filter = QT_TRANSLATE_NOOP("MainWindow", "Gabarit donors (*.gabarit-donor)");

quantity::Shown inFractions(quantity::LengthStyle style) {
    quantity::Shown shown = quantity::Shown::Inches;
    shown.length = style;
    return shown;
}

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

QString withSuffix(const QString& path, const QString& suffix) {
    return path.isEmpty() || path.endsWith(suffix) ? path : path + suffix;
}
} // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), lookout_(new Lookout), session_(new Session(*lookout_)), keeper_(new Keeper(*session_)),
      gauges_(new GaugeStrip(*session_, this)), pages_(new QStackedWidget(this)), notice_(new QLabel(this)),
      notice_bar_(new QWidget(this)), rail_(new QButtonGroup(this)), total_(new QLabel(this)) {
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
    }
    pages_->addWidget(scrolled(makeStartPage()));
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
    QScrollArea* strip = scrolled(gauges_);
    strip->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    strip->setFixedHeight(strip_height_px);
    total_->setObjectName(QStringLiteral("total"));
    total_->setContentsMargins(12, 4, 14, 0);
    total_->setTextFormat(Qt::PlainText);
    QFont bold = total_->font();
    bold.setBold(true);
    total_->setFont(bold);
    column->addWidget(strip);
    without_project_.push_back(total_);
    without_project_.push_back(strip);
    auto* line = new QFrame(this);
    line->setFixedHeight(2);
    line->setAutoFillBackground(true);
    line->setBackgroundRole(QPalette::PlaceholderText);
    column->addWidget(line);
    without_project_.push_back(line);
    column->addWidget(notice_bar_);
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    QWidget* rail = makeRail();
    row->addWidget(rail);
    without_project_.push_back(rail);
    for (QWidget* widget : without_project_) widget->hide();
    row->addWidget(pages_, 1);
    column->addLayout(row, 1);
    setCentralWidget(centre);
    makeMenus();
    menuBar()->setCornerWidget(total_); // in sight in every stage

    connect(gauges_, &GaugeStrip::picked, this, &MainWindow::picked);
    connect(session_, &Session::notice, this, &MainWindow::showNotice);
    connect(session_, &Session::projectReplaced, this, [this] {
        notice_bar_->hide();
        for (QWidget* widget : without_project_) widget->show();
        const auto begins = std::max_element(stages_.begin(), stages_.end(), [this](const Page& a, const Page& b) {
            return a.stage->wants(*session_->project()) < b.stage->wants(*session_->project());
        });
        goToStage(QLatin1String(begins->plug->id));
        begins->stage->begin();
    });
    connect(session_, &Session::projectChanged, this, &MainWindow::refreshTitle);
    connect(session_, &Session::reportsChanged, this, &MainWindow::refreshRail);
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

QWidget* MainWindow::makeRail() {
    auto* box = new QWidget(this);
    box->setFixedWidth(rail_width_px);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(6, 12, 6, 12);
    column->setSpacing(6);
    for (std::size_t i = 0; i < stages_.size(); ++i) {
        auto* button = new QToolButton(box);
        button->setText(stages_[i].plug->name());
        button->setCheckable(true);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setMinimumHeight(52);
        button->setStyleSheet(QStringLiteral("padding: 2px;"));
        button->setToolTip(tr("%1, key Alt+%2").arg(stages_[i].plug->name()).arg(i + 1));
        rail_->addButton(button, static_cast<int>(i));
        column->addWidget(button);
    }
    column->addStretch();
    connect(rail_, &QButtonGroup::idClicked, this,
            [this](int id) { goToStage(QLatin1String(stages_[static_cast<std::size_t>(id)].plug->id)); });
    return box;
}

/// The worst of all that is listed, always in sight.
void MainWindow::refreshTotal() {
    const auto reports = session_->reports();
    const QString whole = reports ? QString::fromStdString(study::totalWords(*reports)) : QString();
    QString text = reports ? tr("In all: %1").arg(whole.section(QStringLiteral("; by "), 0, 0)) : tr("Looking…");
    if (reports && !(reports->own_limits_below.empty() && reports->own_figures.empty()))
        text += tr("; by limits of your own");
    total_->setText(text);
    total_->setToolTip(whole);
    menuBar()->setCornerWidget(total_); // it keeps the width that it had otherwise
    total_->setVisible(session_->hasProject());
    const bool trouble = reports && reports->asked && reports->verdict == model::Verdict::NoGo;
    total_->setStyleSheet(QStringLiteral("color: %1").arg((trouble ? tones().trouble : tones().ink).name()));
}

void MainWindow::refreshRail() {
    refreshTotal();
    const auto reports = session_->reports();
    for (std::size_t i = 0; i < stages_.size(); ++i)
        rail_->button(static_cast<int>(i))
            ->setText(stages_[i].plug->name() + QLatin1Char('\n') +
                      (reports ? stages_[i].stage->state(*reports) : QString()));
}

QWidget* MainWindow::makeStartPage() {
    auto* page = new StartPage(this);
    connect(page, &StartPage::demoWanted, this, [this] { openDemo(); });
    connect(page, &StartPage::otherDemoWanted, this, [this](int which) { openDemo(which); });
    connect(page, &StartPage::newWanted, this, &MainWindow::newProject);
    connect(page, &StartPage::openWanted, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a project"), {}, tr(open_filter));
        if (!path.isEmpty()) open(path);
    });
    connect(page, &StartPage::donorWanted, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a donor"), {}, tr(donor_filter));
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
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Save the project"), session_->path(), tr(project_filter));
        if (!path.isEmpty()) saveTo(withSuffix(path, QStringLiteral(".gabarit")));
    });
    add(file, tr("Pack as a &bundle…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path = withSuffix(
            QFileDialog::getSaveFileName(this, tr("Pack the project and its pictures"), {}, tr(bundle_filter)),
            QStringLiteral(".gabaritz"));
        if (!path.isEmpty()) packBundle(path);
    });
    file->addSeparator();
    add(file, tr("Save the d&onor by itself…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path = withSuffix(QFileDialog::getSaveFileName(this, tr("Save the donor"), {}, tr(donor_filter)),
                                        QStringLiteral(".gabarit-donor"));
        if (path.isEmpty()) return;
        const auto saved = session_->saveDonor(path);
        showNotice(saved ? tr("The donor was saved as %1.").arg(path) : QString::fromStdString(saved.error().line()),
                   !saved);
    });
    add(file, tr("&Hang a donor from a file…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path = QFileDialog::getOpenFileName(this, tr("Hang a donor"), {}, tr(donor_filter));
        if (path.isEmpty()) return;
        const auto hung = session_->hangDonor(path);
        if (!hung) showNotice(QString::fromStdString(hung.error().line()), true);
    });
    file->addSeparator();
    for (const print::Sheet& sheet : print::sheets())
        add(file, tr(sheet.menu.c_str()), &sheet == &print::sheets().front() ? QKeySequence::Print : QKeySequence(),
            [this, &sheet] {
                if (!session_->hasProject()) return;
                const QString path = sheet.folder
                                         ? QFileDialog::getExistingDirectory(this, tr(sheet.dialog.c_str()))
                                         : withSuffix(QFileDialog::getSaveFileName(this, tr(sheet.dialog.c_str()), {},
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
                      [this, id = QLatin1String(stages_[i].plug->id)] { goToStage(id); }});
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
    const std::pair<QString, quantity::Shown> styles[] = {
        {tr("&Millimetres and kilograms"), quantity::Shown::Millimetres},
        {tr("&Decimal inches and pounds"), quantity::Shown::Inches},
        {tr("&Sixteenths of an inch and pounds"), inFractions(quantity::LengthStyle::Sixteenths)},
        {tr("&Thirty-seconds of an inch and pounds"), inFractions(quantity::LengthStyle::ThirtySeconds)}};
    for (const auto& style : styles) {
        QAction* action = add(units, style.first, {}, [this, shown = style.second] { session_->setShown(shown); });
        action->setCheckable(true);
        action->setChecked(style.second == session_->shown());
        oneOf->addAction(action);
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
        auto* finder = new CommandFinder(*this);
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

void MainWindow::goToStage(const QString& id) {
    for (std::size_t i = 0; i < stages_.size(); ++i) {
        if (id != QLatin1String(stages_[i].plug->id)) continue;
        pages_->setCurrentIndex(static_cast<int>(session_->hasProject() ? i : stages_.size()));
        rail_->button(static_cast<int>(i))->setChecked(true);
    }
}

void MainWindow::picked(const study::Gauge& gauge) {
    for (const Page& page : stages_) {
        const auto& tells = page.plug->tells;
        if (std::find(tells.begin(), tells.end(), gauge.discipline) == tells.end()) continue;
        goToStage(QLatin1String(page.plug->id));
        return page.stage->leadTo(QString::fromStdString(gauge.finding));
    }
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
    if (opened) StartPage::remember(path, {});
    return opened.ok();
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
        path = withSuffix(QFileDialog::getSaveFileName(this, tr("Save the project"), {}, tr(project_filter)),
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
        StartPage::remember(path, portrait);
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
}

QString MainWindow::noticeText() const { return notice_bar_->isHidden() ? QString() : notice_->text(); }

void MainWindow::setTheme(Theme theme) {
    notice_bar_->hide();
    dress(*qApp, theme);
    refreshTotal();
    lookout_->redraw();
    QSettings().setValue(QStringLiteral("theme"),
                         theme == Theme::Dark ? QStringLiteral("dark") : QStringLiteral("light"));
}

void MainWindow::showNotice(const QString& text, bool trouble) {
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

void MainWindow::showHelp() {
    QFile file(QStringLiteral(":/help/help.md"));
    if (file.open(QIODevice::ReadOnly)) showPage(tr("How to use Gabarit"), QString::fromUtf8(file.readAll()));
}

void MainWindow::showPage(const QString& title, const QString& markdown) {
    auto* dialog = new QDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(title);
    dialog->resize(760, 640);
    auto* text = new QTextBrowser(dialog);
    text->setMarkdown(markdown);
    auto* column = new QVBoxLayout(dialog);
    column->addWidget(text);
    dialog->show();
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
    if (event->isAccepted()) keeper_->forget();
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
