#include "all_stages/all.h"
#include "forms/tones.h"
#include "session/session.h"
#include "window/main_window.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <QStandardPaths>
#include <QTimer>
#include <QTranslator>

#include <algorithm>
#include <clocale>
#include <cstdio>
#include <memory>
#include <string>

namespace {

using namespace gabarit::app;

void grabThenQuit(MainWindow& window, const QString& file) {
    constexpr int turn_ms = 50; // one turn of the loop for the last repaint
    QTimer::singleShot(turn_ms, &window, [&window, file] {
        const Stage* shown = window.shownStage();
        if (window.session().moving() || (shown && shown->looking())) return grabThenQuit(window, file);
        const bool saved = window.grab().save(file);
        if (!saved) std::fprintf(stderr, "gabarit: %s: the picture could not be written\n", qPrintable(file));
        QCoreApplication::exit(saved ? 0 : 2);
    });
}

/// Writes the drawing that stands for the project on the start page once everything has been drawn, then quits.
void portraitThenQuit(MainWindow& window, const QString& file) {
    QObject::connect(&window.session(), &Session::settled, &window, [&window, file] {
        QPixmap portrait;
        for (const StagePlug* plug : allStages())
            if (portrait.isNull()) portrait = window.stage(QLatin1String(plug->id))->portrait();
        QCoreApplication::exit(portrait.save(file) ? 0 : 2);
    });
}

/// Takes a picture once everything asked for has been computed and drawn, then quits.
void pictureThenQuit(MainWindow& window, const QString& file, const QString& finding, QString pinned,
                     const QStringList& moved, bool swept) {
    auto* session = &window.session();
    QObject::connect(session, &Session::settled, &window, [=, &window]() mutable {
        if (!pinned.isEmpty()) { // what hangs first is pinned, the other one is shown beside it
            session->setPin(true);
            session->usePlacement({pinned.toStdString()});
            pinned.clear();
            return;
        }
        if (!finding.isEmpty() && session->reports())
            for (const auto& f : session->reports()->findings)
                if (QString::fromStdString(f.title).contains(finding, Qt::CaseInsensitive)) {
                    if (window.shownId() == QLatin1String(glance_id)) window.showWhy(f.id);
                    if (Stage* shown = window.shownStage()) shown->leadTo(QString::fromStdString(f.id));
                    break;
                }
        gabarit::kinematics::State state;
        for (const QString& value : moved) state.push_back(value.toDouble());
        if (!state.empty()) session->moveTo(state);
        if (Stage* shown = window.shownStage(); shown && swept) shown->turnTo(QStringLiteral("sweep"));
        grabThenQuit(window, file);
    });
}

} // namespace

int main(int argc, char** argv) {
    // What only prints needs no display.
    const bool prints = std::any_of(argv + 1, argv + argc, [](const char* argument) {
        const std::string text = argument;
        return text == "-h" || text == "--help" || text == "--help-all" || text == "-v" || text == "--version";
    });
    const std::unique_ptr<QCoreApplication> application =
        prints ? std::make_unique<QCoreApplication>(argc, argv) : std::make_unique<QApplication>(argc, argv);
    std::setlocale(LC_NUMERIC, "C"); // the libraries' own figures: Qt has set the user's
    QApplication::setApplicationName(QStringLiteral("gabarit"));
    QApplication::setOrganizationName(QStringLiteral("gabarit"));
    // Words in another language: gabarit_de.qm beside the user's own data (docs/building.md); without one, English.
    QTranslator language;
    const QString languages = QStandardPaths::locate(QStandardPaths::AppDataLocation, QStringLiteral("languages"),
                                                     QStandardPaths::LocateDirectory);
    if (!languages.isEmpty() && language.load(QLocale(), QStringLiteral("gabarit"), QStringLiteral("_"), languages))
        QCoreApplication::installTranslator(&language);
    QApplication::setApplicationVersion(QStringLiteral(GABARIT_VERSION));

    QCommandLineParser parser;
    parser.setApplicationDescription(QStringLiteral("Planning engine swaps."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("FILE"), QStringLiteral("a .gabarit project"),
                                 QStringLiteral("[FILE]"));
    const QCommandLineOption demo(QStringLiteral("demo"), QStringLiteral("Open the demo."));
    const QCommandLineOption second(QStringLiteral("second-demo"), QStringLiteral("Open the second demo."));
    const QCommandLineOption third(QStringLiteral("third-demo"), QStringLiteral("Open the third demo."));
    const QCommandLineOption moved(QStringLiteral("moved"),
                                   QStringLiteral("With --picture: show the bay at this state of its movement, one "
                                                  "number for each freedom with commas between."),
                                   QStringLiteral("STATE"));
    const QCommandLineOption swept(QStringLiteral("swept"),
                                   QStringLiteral("With --picture: show what everything sweeps."));
    const QCommandLineOption picture(QStringLiteral("picture"),
                                     QStringLiteral("Write a picture of the window and quit."),
                                     QStringLiteral("FILE.png"));
    const QCommandLineOption portrait(
        QStringLiteral("portrait"),
        QStringLiteral("Write the drawing that stands for the project on the start page, and quit."),
        QStringLiteral("FILE.png"));
    const QCommandLineOption size(QStringLiteral("size"), QStringLiteral("Size of the window."), QStringLiteral("WxH"),
                                  QStringLiteral("1280x800"));
    QStringList stages;
    for (const StagePlug* plug : allStages()) stages << QLatin1String(plug->id);
    stages << QLatin1String(glance_id);
    const QCommandLineOption stage(QStringLiteral("stage"),
                                   QStringLiteral("Stage to show: %1.").arg(stages.join(QStringLiteral(", "))),
                                   QStringLiteral("NAME"));
    const QCommandLineOption placement(QStringLiteral("placement"), QStringLiteral("Placement to show."),
                                       QStringLiteral("ID"));
    const QCommandLineOption leadTo(QStringLiteral("lead-to"),
                                    QStringLiteral("With --picture: lead to the finding whose title holds TEXT."),
                                    QStringLiteral("TEXT"));
    const QCommandLineOption side(
        QStringLiteral("side"),
        QStringLiteral(
            "What the stage turns to: in the placing way, movement, setup, bodies, measured or compare; in the "
            "survey bodies, points, masses, served, joined, choices, about, assumed, readings, areas, "
            "outgoing, found, rooms, motions, stances, first-survey (or first-survey:3 for the third "
            "question); elsewhere the key of what is listed."),
        QStringLiteral("NAME"));
    const QCommandLineOption then(QStringLiteral("then"),
                                  QStringLiteral("With --picture: pin what hangs, then show placement ID."),
                                  QStringLiteral("ID"));
    const QCommandLineOption firstFrame(QStringLiteral("quit-after-first-frame"),
                                        QStringLiteral("Quit when the window has painted once (for the bench)."));
    const QCommandLineOption units(QStringLiteral("units"),
                                   QStringLiteral("mm, in (decimal), 16 or 32 (fractions of an inch)."),
                                   QStringLiteral("UNITS"));
    const QCommandLineOption themeName(QStringLiteral("theme"), QStringLiteral("light or dark."),
                                       QStringLiteral("NAME"));
    parser.addOptions({portrait, second, third, moved, swept, side, then, themeName, units, demo, picture, size, stage,
                       placement, leadTo, firstFrame});
    parser.process(*application);
    const QString colours =
        parser.isSet(themeName) ? parser.value(themeName) : QSettings().value(QStringLiteral("theme")).toString();
    dress(*qApp, colours == QStringLiteral("dark") ? Theme::Dark : Theme::Light);

    MainWindow window;
    const QStringList sides = parser.value(size).split(QLatin1Char('x'));
    if (sides.size() == 2 && sides[0].toInt() > 0 && sides[1].toInt() > 0)
        window.resize(sides[0].toInt(), sides[1].toInt());
    if (parser.isSet(picture))
        pictureThenQuit(window, parser.value(picture), parser.value(leadTo), parser.value(then),
                        parser.value(moved).split(QLatin1Char(','), Qt::SkipEmptyParts), parser.isSet(swept));
    if (parser.isSet(portrait)) portraitThenQuit(window, parser.value(portrait));
    if (parser.isSet(firstFrame))
        QObject::connect(&window, &MainWindow::firstFramePainted, application.get(), &QCoreApplication::quit,
                         Qt::QueuedConnection);
    // A picture is the same whatever was chosen before.
    const bool remembers = !parser.isSet(picture) && !parser.isSet(firstFrame) && !parser.isSet(portrait);
    QString chosen = parser.value(units);
    if (chosen.isEmpty() && remembers) chosen = QSettings().value(QStringLiteral("units")).toString();
    if (const auto shown = unitsOf(chosen))
        window.session().setShown(*shown);
    else if (parser.isSet(units)) {
        std::fprintf(stderr, "gabarit: --units %s: it is mm, in, 16 or 32\n", qPrintable(chosen));
        return 2;
    }
    if (remembers) window.restoreLook(!parser.isSet(size));
    window.show();
    bool opened = true;
    if (parser.isSet(demo) || parser.isSet(second) || parser.isSet(third))
        opened = window.openDemo(parser.isSet(third) ? 2 : parser.isSet(second) ? 1 : 0);
    else if (!parser.positionalArguments().isEmpty())
        opened = window.open(parser.positionalArguments().front());
    if (opened && window.session().hasProject()) {
        if (parser.isSet(placement)) window.session().usePlacement({parser.value(placement).toStdString()});
        window.goToStage(parser.value(stage));
        if (Stage* shown_stage = window.shownStage(); shown_stage && parser.isSet(side))
            shown_stage->turnTo(parser.value(side));
    }
    if (parser.isSet(picture) && !window.session().hasProject()) grabThenQuit(window, parser.value(picture));
    return QApplication::exec();
}
