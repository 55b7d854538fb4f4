#include "window/start_page.h"

#include "forms/tones.h"
#include "session/keeper.h"
#include "window/project_card.h"

#include <QDir>
#include <QFileInfo>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QStandardPaths>
#include <QVBoxLayout>

namespace gabarit::app {
namespace {

constexpr int most_recent = 6;
constexpr int widest_px = 1040;
const QString recent_key = QStringLiteral("recent");

QString pictureOf(const QString& path) {
    const QString folder =
        QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + QStringLiteral("/pictures");
    QDir().mkpath(folder);
    return folder + QLatin1Char('/') + Keeper::sha256(path.toStdString()).left(32) + QStringLiteral(".png");
}

/// The examples as they come, and how they stand: held against what is worked out by a test.
struct Demo {
    const char *file, *object, *name, *stands, *shows;
};
constexpr Demo demos_shown[] = {
    {"harrow-tarn", "open_demo", QT_TRANSLATE_NOOP("StartPage", "Harrow Tarn, a pickup"),
     QT_TRANSLATE_NOOP("StartPage", "Not yet: 13 no-go, 4 close, 1 before cutting"),
     QT_TRANSLATE_NOOP("StartPage", "A turbo straight-six: sump, turbo, tunnel and shaft in trouble.")},
    {"skerry-quad", "open_second_demo", QT_TRANSLATE_NOOP("StartPage", "Skerry Quad, a short 4x4"),
     QT_TRANSLATE_NOOP("StartPage", "Not yet: 9 no-go, 1 to measure, 1 before cutting"),
     QT_TRANSLATE_NOOP("StartPage", "A V6 over a solid axle that comes up under the sump; two propshafts.")},
    {"pell-wren", "open_third_demo", QT_TRANSLATE_NOOP("StartPage", "Pell Wren, a microvan"),
     QT_TRANSLATE_NOOP("StartPage", "Not yet: 14 no-go, 6 close, 1 before cutting"),
     QT_TRANSLATE_NOOP("StartPage", "An electric drive unit: half-shafts, batteries on the axles.")},
};

/// How a file stood when it was last saved.
QString standsKey(const QString& path) {
    return QStringLiteral("stands/") + Keeper::sha256(path.toStdString()).left(32);
}

QLabel* heading(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    QFont bold = label->font();
    bold.setBold(true);
    label->setFont(bold);
    return label;
}

void empty(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater(); // one of them may have brought us here
        }
        if (item->layout()) empty(item->layout());
        delete item;
    }
}

} // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent), unfinished_(new QVBoxLayout), recent_(new QVBoxLayout) {
    auto* sides = new QHBoxLayout(this);
    auto* middle = new QWidget(this);
    middle->setMaximumWidth(widest_px);
    sides->addStretch(1);
    sides->addWidget(middle, 100);
    sides->addStretch(1);
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(20, 40, 20, 24);
    column->setSpacing(16);
    auto* title = heading(tr("Gabarit"), this);
    QFont large = title->font();
    large.setPointSizeF(large.pointSizeF() * 2.2);
    title->setFont(large);
    column->addWidget(title);
    auto* text = new QLabel(tr("Where a donor engine fits, what it touches, which way frees it, what it weighs on each "
                               "axle, and what it costs to finish: before anything is cut."),
                            this);
    text->setWordWrap(true);
    column->addWidget(text);
    auto* row = new QGridLayout;
    row->setHorizontalSpacing(10);
    const struct {
        const char* name;
        QString words, below;
        void (StartPage::*wanted)();
    } ways[] = {{"new_swap", tr("Begin a new swap"),
                 tr("measured with a tape, question by question: a dozen readings give a first verdict"),
                 &StartPage::newWanted},
                {"open_project", tr("Open a project…"), tr("a .gabarit file or .gabaritz bundle; or drop one here"),
                 &StartPage::openWanted},
                {"open_donor", tr("Open a donor…"), tr("a .gabarit-donor file, hung in an empty vehicle"),
                 &StartPage::donorWanted}};
    int at = 0;
    for (const auto& way : ways) {
        auto* button = new QPushButton(way.words, this);
        button->setObjectName(QString::fromLatin1(way.name));
        button->setMinimumHeight(44);
        auto* below = new QLabel(way.below, this);
        below->setWordWrap(true);
        below->setForegroundRole(QPalette::PlaceholderText);
        below->setAlignment(Qt::AlignTop);
        connect(button, &QPushButton::clicked, this, way.wanted);
        row->addWidget(button, 0, at);
        row->addWidget(below, 1, at);
        row->setColumnStretch(at++, 1);
    }
    column->addLayout(row);
    column->addLayout(unfinished_);
    column->addLayout(recent_);
    column->addWidget(heading(tr("Look at an example: everything in it is invented"), this));
    auto* demos = new QHBoxLayout;
    demos->setSpacing(12);
    int which = 0;
    for (const Demo& demo : demos_shown) {
        auto* card = new ProjectCard(tr(demo.name), tr(demo.stands) + QLatin1Char('\n') + tr(demo.shows),
                                     QPixmap(QStringLiteral(":/start/%1.png").arg(QLatin1String(demo.file))), this);
        card->setObjectName(QString::fromLatin1(demo.object));
        connect(card, &QPushButton::clicked, this, [this, which] {
            if (which == 0)
                emit demoWanted();
            else
                emit otherDemoWanted(which);
        });
        demos->addWidget(card, 0, Qt::AlignTop);
        ++which;
    }
    demos->addStretch();
    column->addLayout(demos);
    column->addStretch();
    auto* caution = new QLabel(tr("Figures are estimates from what was measured; they approve nothing. Nobody under a "
                                  "hanging load; stands, not jacks. Structure, steering and brakes need a qualified "
                                  "welder and inspection."),
                               this);
    caution->setWordWrap(true);
    caution->setForegroundRole(QPalette::PlaceholderText);
    column->addWidget(caution);
}

void StartPage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
    if (auto* first = findChild<QPushButton*>(QStringLiteral("new_swap"))) first->setFocus();
}

/// Return does what has the keyboard, as a click would.
void StartPage::keyPressEvent(QKeyEvent* event) {
    auto* button = qobject_cast<QPushButton*>(focusWidget());
    if (button && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) return button->click();
    QWidget::keyPressEvent(event);
}

QStringList StartPage::recent() { return QSettings().value(recent_key).toStringList(); }

void StartPage::remember(const QString& path, const QPixmap& picture, const QString& stands) {
    const QString whole = QFileInfo(path).absoluteFilePath();
    QSettings settings;
    QStringList files = recent();
    files.removeAll(whole);
    files.prepend(whole);
    while (files.size() > most_recent) {
        const QString gone = files.takeLast();
        QFile::remove(pictureOf(gone));
        settings.remove(standsKey(gone));
    }
    settings.setValue(recent_key, files);
    if (!stands.isEmpty()) settings.setValue(standsKey(whole), stands);
    if (!picture.isNull())
        picture.scaled(card_picture * 2, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation)
            .copy(QRect(QPoint(0, 0), card_picture * 2))
            .save(pictureOf(whole));
}

void StartPage::refresh() {
    fillUnfinished();
    fillRecent();
}

void StartPage::fillUnfinished() {
    empty(unfinished_);
    const std::vector<Unfinished> all = Keeper::unfinished();
    if (!all.empty()) unfinished_->addWidget(heading(tr("Not finished: a window ended before this was saved"), this));
    for (const Unfinished& work : all) {
        auto* row = new QHBoxLayout;
        const QString from = work.path.isEmpty() ? tr("had no file yet") : work.path;
        auto* label = new QLabel(
            tr("%1, as of %2 (%3)").arg(work.name, QLocale().toString(work.when, QLocale::ShortFormat), from), this);
        label->setWordWrap(true);
        auto* take = new QPushButton(tr("Go on with it"), this);
        take->setObjectName(QStringLiteral("take_up"));
        auto* away = new QPushButton(tr("Throw it away"), this);
        away->setObjectName(QStringLiteral("throw_away"));
        for (QPushButton* button : {take, away}) button->setMinimumHeight(target_px);
        connect(take, &QPushButton::clicked, this, [this, work] { emit unfinishedWanted(work); });
        connect(away, &QPushButton::clicked, this, [this, work] {
            Keeper::throwAway(work);
            refresh();
        });
        row->addWidget(label, 1);
        row->addWidget(take);
        row->addWidget(away);
        unfinished_->addLayout(row);
    }
}

void StartPage::fillRecent() {
    empty(recent_);
    const QStringList files = recent();
    if (files.isEmpty()) return;
    recent_->addWidget(heading(tr("Lately"), this));
    auto* grid = new QGridLayout;
    grid->setSpacing(10);
    int at = 0;
    for (const QString& path : files) {
        const QFileInfo info(path);
        const QString name =
            info.exists() ? info.completeBaseName() : tr("%1 (not there)").arg(info.completeBaseName());
        const QString stands = QSettings().value(standsKey(path)).toString();
        auto* button = new ProjectCard(name, stands.isEmpty() ? info.path() : stands, QPixmap(pictureOf(path)), this);
        button->setObjectName(QStringLiteral("recent"));
        button->setToolTip(path);
        button->setAccessibleName(tr("Open %1").arg(path));
        button->setEnabled(info.exists());
        connect(button, &QPushButton::clicked, this, [this, path] { emit fileWanted(path); });
        grid->addWidget(button, at / 3, at % 3, Qt::AlignTop | Qt::AlignLeft);
        ++at;
    }
    grid->setColumnStretch(3, 1);
    recent_->addLayout(grid);
}

} // namespace gabarit::app

#include "moc_start_page.cpp"
