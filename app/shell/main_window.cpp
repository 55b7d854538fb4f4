#include "shell/main_window.h"

#include "bay/bay.h"
#include "driveline/driveline.h"
#include "gauges/gauge_strip.h"
#include "gearing/gearing.h"
#include "ledger/parts.h"
#include "mounts/mounts.h"
#include "print/driveline_sheet.h"
#include "print/fit_sheet.h"
#include "print/jig_sheet.h"
#include "print/template_sheets.h"
#include "relief/relief.h"
#include "shell/commands.h"
#include "shell/keeper.h"
#include "shell/session.h"
#include "shell/start_page.h"
#include "shell/tones.h"
#include "stages/driveline/driveline_stage.h"
#include "stages/mounts/mounts_stage.h"
#include "stages/parts/parts_stage.h"
#include "stages/place/findings_list.h"
#include "stages/place/place_stage.h"
#include "stages/place/setup_block.h"
#include "stages/relief/relief_stage.h"
#include "stages/rules/rules_stage.h"
#include "stages/survey/survey_stage.h"
#include "stages/weights/weights_stage.h"
#include "store/bundle.h"
#include "store/rule_book.h"

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
constexpr int empty_page = stage_count;
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

QString withSuffix(const QString& path, const QString& suffix) {
    return path.isEmpty() || path.endsWith(suffix) ? path : path + suffix;
}
} // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), lookout_(new Lookout), session_(new Session(*lookout_)), keeper_(new Keeper(*session_)),
      gauges_(new GaugeStrip(*session_, this)), pages_(new QStackedWidget(this)),
      survey_(new SurveyStage(*session_, *lookout_, this)), place_(new PlaceStage(*session_, *lookout_, this)),
      driveline_(new DrivelineStage(*session_, this)), mounts_(new MountsStage(*session_, this)),
      relief_(new ReliefStage(*session_, this)), weights_(new WeightsStage(*session_, this)),
      parts_(new PartsStage(*session_, this)), rules_(new RulesStage(*session_, this)), notice_(new QLabel(this)),
      notice_bar_(new QWidget(this)), rail_(new QButtonGroup(this)), total_(new QLabel(this)) {
    lookout_->setParent(this);
    session_->setParent(this);
    keeper_->setParent(this);
    setAcceptDrops(true);
    resize(1280, 800);

    pages_->addWidget(survey_);
    pages_->addWidget(place_);
    pages_->addWidget(driveline_);
    pages_->addWidget(mounts_);
    pages_->addWidget(relief_);
    pages_->addWidget(weights_);
    pages_->addWidget(parts_);
    pages_->addWidget(rules_);
    pages_->addWidget(makeStartPage());
    pages_->setCurrentIndex(empty_page);

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
    // On a small or much enlarged screen what does not fit is scrolled to; nothing is squeezed.
    const auto scrolled = [this](QWidget* inside) {
        auto* area = new QScrollArea(this);
        area->setWidgetResizable(true);
        area->setFocusPolicy(Qt::NoFocus);
        area->setWidget(inside);
        return area;
    };
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
    row->addWidget(scrolled(pages_), 1);
    column->addLayout(row, 1);
    setCentralWidget(centre);
    makeMenus();
    menuBar()->setCornerWidget(total_); // in sight in every stage

    connect(survey_, &SurveyStage::verdictWanted, this, [this] {
        goToStage(Stage::Place);
        place_->bay()->fitAll();
    });
    connect(gauges_, &GaugeStrip::picked, this, &MainWindow::picked);
    connect(session_, &Session::notice, this, &MainWindow::showNotice);
    connect(session_, &Session::projectReplaced, this, [this] {
        notice_bar_->hide();
        for (QWidget* widget : without_project_) widget->show();
        // What has nothing in it yet is measured first.
        const bool empty = session_->project()->placements.empty();
        goToStage(empty ? Stage::Survey : Stage::Place);
        if (!empty) place_->bay()->view(Elevation::Side)->setFocus();
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

QStringList MainWindow::stageNames() const {
    return {tr("Survey"), tr("Place"),   tr("Driveline"), tr("Mounts"),
            tr("Relief"), tr("Weights"), tr("Parts"),     tr("Rules")};
}

QWidget* MainWindow::makeRail() {
    auto* box = new QWidget(this);
    box->setFixedWidth(rail_width_px);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(6, 12, 6, 12);
    column->setSpacing(6);
    const QStringList names = stageNames();
    for (int i = 0; i < stage_count; ++i) {
        auto* button = new QToolButton(box);
        button->setText(names[i]);
        button->setCheckable(true);
        button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        button->setMinimumHeight(52);
        button->setStyleSheet(QStringLiteral("padding: 2px;"));
        button->setToolTip(tr("%1, key Alt+%2").arg(names[i]).arg(i + 1));
        rail_->addButton(button, i);
        column->addWidget(button);
    }
    column->addStretch();
    connect(rail_, &QButtonGroup::idClicked, this, [this](int id) { goToStage(static_cast<Stage>(id)); });
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
    const QStringList names = stageNames();
    QStringList states(stage_count);
    if (reports) {
        const auto open = [&](const char* discipline) {
            return static_cast<int>(std::count_if(reports->findings.begin(), reports->findings.end(),
                                                  [&](const study::Finding& f) { return f.discipline == discipline; }));
        };
        const auto counted = [this](int n, const QString& words) { return n == 0 ? tr("nothing open") : words.arg(n); };
        int unmeasured = 0;
        const auto count = [&](const std::vector<model::Body>& bodies) {
            for (const model::Body& body : bodies)
                unmeasured += !body.accuracy_mm || body.measured.method == model::Method::Assumed;
        };
        if (reports->project->vehicle) count(reports->project->vehicle->bodies);
        for (const model::Donor& donor : reports->project->donors) count(donor.bodies);
        const auto own = static_cast<int>(reports->project->rules.rows.size() + reports->project->rules.figures.size());
        states = {unmeasured == 0 ? tr("all measured") : tr("%1 to measure").arg(unmeasured),
                  counted(open("clearance"), tr("%1 in the way")),
                  reports->of<driveline::DrivelineReport>() || reports->of<gearing::GearingReport>()
                      ? counted(open("driveline") + open("gearing"), tr("%1 open"))
                      : tr("not given yet"),
                  reports->of<mounts::MountsReport>() ? counted(open("mounts"), tr("%1 open")) : tr("not given yet"),
                  reports->of<relief::ReliefReport>() ? counted(open("relief"), tr("%1 open")) : tr("nothing cut"),
                  counted(open("weights"), tr("%1 open")),
                  reports->of<ledger::PartsReport>() ? tr("%1 missing").arg(reports->of<ledger::PartsReport>()->missing)
                                                     : tr("no list yet"),
                  own == 0 ? tr("as they came") : tr("%1 of your own").arg(own)};
    }
    for (int i = 0; i < stage_count; ++i) rail_->button(i)->setText(names[i] + QLatin1Char('\n') + states[i]);
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
    add(file, tr("&Print the fit sheet…"), QKeySequence::Print, [this] {
        if (!session_->hasProject()) return;
        const QString path =
            withSuffix(QFileDialog::getSaveFileName(this, tr("Print the fit sheet to a PDF"), {}, tr("PDF (*.pdf)")),
                       QStringLiteral(".pdf"));
        if (!path.isEmpty()) printFitSheet(path);
    });
    add(file, tr("Print the dri&veline…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path =
            withSuffix(QFileDialog::getSaveFileName(this, tr("Print the driveline to a PDF"), {}, tr("PDF (*.pdf)")),
                       QStringLiteral(".pdf"));
        if (!path.isEmpty()) printDriveline(path);
    });
    add(file, tr("Print the &jig sheet…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString path =
            withSuffix(QFileDialog::getSaveFileName(this, tr("Print the jig sheet to a PDF"), {}, tr("PDF (*.pdf)")),
                       QStringLiteral(".pdf"));
        if (!path.isEmpty()) printJigSheet(path);
    });
    add(file, tr("Print the &templates 1:1…"), {}, [this] {
        if (!session_->hasProject()) return;
        const QString folder = QFileDialog::getExistingDirectory(this, tr("A folder for the templates"));
        if (!folder.isEmpty()) printTemplates(folder);
    });
    file->addSeparator();
    add(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });

    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    QAction* undo = session_->history().createUndoAction(this, tr("Undo"));
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = session_->history().createRedoAction(this, tr("Redo"));
    redo->setShortcut(QKeySequence::Redo);
    edit->addActions({undo, redo});

    QMenu* go = menuBar()->addMenu(tr("&Go to"));
    const QStringList stages = stageNames();
    for (int i = 0; i < stage_count; ++i)
        add(go, stages[i], QKeySequence(Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + i)),
            [this, i] { goToStage(static_cast<Stage>(i)); });
    go->addSeparator();
    const std::pair<const char*, QString> sides[] = {{"way", tr("What is in the way")},
                                                     {"setup", tr("Set-up: placements, forms, panels")},
                                                     {"bodies", tr("Bodies: show and hide")},
                                                     {"measured", tr("Measured gaps")},
                                                     {"compare", tr("Compare with the pinned placement")}};
    int sideKey = 0;
    for (const auto& side : sides)
        add(go, side.second, QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + sideKey++)),
            [this, name = QString::fromLatin1(side.first)] {
                goToStage(Stage::Place);
                place_->showSide(name);
            });

    go->addSeparator();
    add(go, tr("Movement and worst moments"), QKeySequence(Qt::CTRL | Qt::Key_M), [this] {
        goToStage(Stage::Place);
        place_->showSide(QStringLiteral("movement"));
    });
    add(go, tr("First survey, question by question"), QKeySequence(Qt::CTRL | Qt::Key_6), [this] {
        goToStage(Stage::Survey);
        survey_->showGuided(true);
    });
    const std::pair<SurveyKind, QString> notes[] = {{SurveyKind::Readings, tr("Tape readings")},
                                                    {SurveyKind::Areas, tr("Areas to be surveyed before cutting")},
                                                    {SurveyKind::Assumed, tr("What is still assumed")}};
    for (const auto& note : notes)
        add(go, note.second, QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + ++sideKey)),
            [this, kind = note.first] {
                goToStage(Stage::Survey);
                survey_->showKind(kind);
            });

    QMenu* place = menuBar()->addMenu(tr("&Place"));
    add(place, tr("&Next in the way"), QKeySequence(Qt::Key_N), [this] { stepFinding(1); });
    add(place, tr("&Before it in the list"), QKeySequence(Qt::SHIFT | Qt::Key_N), [this] { stepFinding(-1); });
    add(place, tr("&Try what it says"), QKeySequence(Qt::CTRL | Qt::Key_Return), [this] {
        if (session_->hasProject() && !place_->findings()->tryPointedAt())
            showNotice(tr("Nothing that is pointed at knows a move of the engine that helps. N points at the next."),
                       false);
    });
    place->addSeparator();
    add(place, tr("&Pin this placement"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] { session_->setPin(true); });
    add(place, tr("&Unpin"), {}, [this] { session_->setPin(false); });
    add(place, tr("&Hang it as pinned"), {}, [this] { session_->hangAsPinned(); });
    add(place, tr("Try another p&lacement"), {}, [this] {
        if (session_->hasProject()) place_->setup()->button(QStringLiteral("another"))->click();
    });

    QMenu* view = menuBar()->addMenu(tr("&View"));
    add(view, tr("&Fit the engine in the drawing"), QKeySequence(Qt::Key_F), [this] { place_->bay()->fitAll(); });
    add(view, tr("Nearer"), QKeySequence::ZoomIn, [this] { lookout_->zoomAbout(1.25, lookout_->centre_mm()); });
    add(view, tr("Farther"), QKeySequence::ZoomOut, [this] { lookout_->zoomAbout(0.8, lookout_->centre_mm()); });
    QAction* tape = add(view, tr("&Tape between two points"), QKeySequence(Qt::Key_T),
                        [this](bool on) { lookout_->setTaping(on); });
    tape->setCheckable(true);
    connect(lookout_, &Lookout::changed, tape, [this, tape] { tape->setChecked(lookout_->taping()); });
    add(view, tr("Put the tape &away, point at nothing"), QKeySequence(Qt::Key_Escape), [this] {
        lookout_->setTaping(false);
        lookout_->select({});
        place_->bay()->view(Elevation::Side)->setFocus();
    });
    add(view, tr("Show all &bodies"), {}, [this] { lookout_->clearSights(); });
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

void MainWindow::goToStage(Stage stage) {
    const int page = static_cast<int>(stage);
    pages_->setCurrentIndex(session_->hasProject() ? page : empty_page);
    if (QAbstractButton* button = rail_->button(page)) button->setChecked(true);
}

void MainWindow::picked(const study::Gauge& gauge) {
    if (gauge.id == "front" || gauge.id == "rear") return goToStage(Stage::Weights);
    if (gauge.id == "cost") return goToStage(Stage::Parts);
    if (gauge.id == "driveline" || gauge.id == "slip") {
        goToStage(Stage::Driveline);
        return driveline_->leadTo(gauge.finding);
    }
    if (gauge.id == "mounts") {
        goToStage(Stage::Mounts);
        return mounts_->leadTo(gauge.finding);
    }
    if (gauge.id == "relief") {
        goToStage(Stage::Relief);
        return relief_->leadTo(gauge.finding);
    }
    goToStage(Stage::Place);
    const auto reports = session_->reports();
    if (!reports) return;
    for (const study::Finding& finding : reports->findings)
        if (finding.id == gauge.finding) return place_->leadTo(finding);
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
    survey_->showGuided(true);
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
    if (saved) StartPage::remember(path, place_->bay()->view(Elevation::Side)->grab());
    return saved.ok();
}

bool MainWindow::printDriveline(const QString& path) {
    const auto reports = session_->reports();
    if (!reports || reports->project != session_->project()) {
        showNotice(tr("The figures are still being worked out. Print again in a moment."), true);
        return false;
    }
    const auto written = print::writeDrivelineSheet(
        *reports, {session_->shown(), QLocale().toString(QDate::currentDate(), QLocale::LongFormat).toStdString()},
        path.toStdString());
    showNotice(written ? tr("The driveline was saved as %1.").arg(path)
                       : tr("It was not printed. %1").arg(QString::fromStdString(written.error().line())),
               !written);
    return written.ok();
}

bool MainWindow::printTemplates(const QString& folder) {
    const auto reports = session_->reports();
    if (!reports || reports->project != session_->project()) {
        showNotice(tr("The figures are still being worked out. Print again in a moment."), true);
        return false;
    }
    const bool inches = session_->shown().inches();
    const auto written =
        print::writeTemplates(*reports, store::defaultRuleBook(),
                              {inches ? "letter" : "a4", session_->shown(),
                               QLocale().toString(QDate::currentDate(), QLocale::LongFormat).toStdString()},
                              folder.toStdString());
    showNotice(written ? tr("The templates were saved in %1. Measure the bar of 100 mm on the first print.").arg(folder)
                       : tr("They were not printed. %1").arg(QString::fromStdString(written.error().line())),
               !written);
    return written.ok();
}

bool MainWindow::printJigSheet(const QString& path) {
    const auto reports = session_->reports();
    if (!reports || reports->project != session_->project()) {
        showNotice(tr("The figures are still being worked out. Print again in a moment."), true);
        return false;
    }
    const auto written = print::writeJigSheet(
        *reports, store::defaultRuleBook(),
        {session_->shown(), QLocale().toString(QDate::currentDate(), QLocale::LongFormat).toStdString()},
        path.toStdString());
    showNotice(written ? tr("The jig sheet was saved as %1.").arg(path)
                       : tr("It was not printed. %1").arg(QString::fromStdString(written.error().line())),
               !written);
    return written.ok();
}

bool MainWindow::printFitSheet(const QString& path) {
    const auto reports = session_->reports();
    if (!reports || reports->project != session_->project()) {
        showNotice(tr("The gaps are still being measured. Print again in a moment."), true);
        return false;
    }
    const auto written = print::writeFitSheet(
        *reports, {session_->shown(), QLocale().toString(QDate::currentDate(), QLocale::LongFormat).toStdString()},
        path.toStdString());
    showNotice(written ? tr("The fit sheet was saved as %1.").arg(path)
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

void MainWindow::stepFinding(int by) {
    if (!session_->hasProject()) return;
    goToStage(Stage::Place);
    place_->findings()->step(by);
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
