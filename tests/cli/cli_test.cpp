// The program as people and scripts call it: what it prints, and how it ends.
#include "parts/parts.h"
#include "relief/section/relief.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QtTest>

#include <sys/stat.h>

using namespace gabarit;

namespace {

const QString demo = QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit");

struct Ended {
    int status = -1;
    QString out;
    QString err;
    QJsonObject json() const { return QJsonDocument::fromJson(out.toUtf8()).object(); }
};

Ended call(const QStringList& arguments) {
    QProcess process;
    process.start(QStringLiteral(GABARIT_BIN_DIR "/gabarit-cli"), arguments);
    if (!process.waitForFinished(120000) || process.exitStatus() != QProcess::NormalExit) qFatal("gabarit-cli crashed");
    return {process.exitCode(), QString::fromUtf8(process.readAllStandardOutput()),
            QString::fromUtf8(process.readAllStandardError())};
}

QJsonObject pairOf(const QJsonObject& report, const QString& a, const QString& b) {
    for (const QJsonValue pair : report["clearance"].toObject()["pairs"].toArray())
        if (pair.toObject()["a"].toString() == a && pair.toObject()["b"].toString() == b) return pair.toObject();
    return {};
}

model::Project demoProject() {
    return store::readProject(demo.toStdString(), store::defaultRuleBook()).value().project;
}

} // namespace

class CliTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString saved(const model::Project& project) {
        const QString path = folder_.filePath(QStringLiteral("p.gabarit"));
        if (!store::writeProject(path.toStdString(), project)) qFatal("cannot save");
        return path;
    }
    QString written(const QByteArray& text) {
        const QString path = folder_.filePath(QStringLiteral("raw.gabarit"));
        QFile file(path);
        if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write");
        file.write(text);
        return path;
    }

private slots:
    void whatIsKeptBetweenRunsChangesNoFigure() {
        const QByteArray usual = qgetenv("XDG_CACHE_HOME");
        const QTemporaryDir cache;
        qputenv("XDG_CACHE_HOME", cache.path().toUtf8());
        const auto gaps = [] { return call({"clearance", demo, "--json"}).json(); };
        const QJsonObject first = gaps();
        const QDir meshes(cache.filePath("gabarit/meshes"));
        QVERIFY(first["clearance"].toObject()["pairs"].toArray().size() > 20);
        QVERIFY(meshes.entryList(QDir::Files).size() > 20);
        QCOMPARE(gaps(), first);
        // Half of each overwritten: such meshes are told from those that were kept.
        for (const QString& name : meshes.entryList(QDir::Files)) {
            QFile file(meshes.filePath(name));
            QVERIFY(file.open(QIODevice::ReadWrite));
            QByteArray bytes = file.readAll();
            for (qsizetype i = bytes.size() / 4; i < bytes.size() * 3 / 4; ++i) bytes[i] = static_cast<char>(0x3f);
            file.seek(0);
            file.write(bytes);
        }
        QCOMPARE(gaps(), first);
        // None can be written, or the place is no folder.
        QFile::setPermissions(meshes.path(), QFileDevice::ReadOwner);
        QCOMPARE(gaps(), first);
        QFile::setPermissions(meshes.path(), QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
        qputenv("XDG_CACHE_HOME", demo.toUtf8());
        const Ended none = call({"clearance", demo, "--json"});
        QCOMPARE(none.json(), first);
        QVERIFY2(none.err.isEmpty(), qPrintable(none.err));
        qputenv("XDG_CACHE_HOME", usual);
    }
    void helpOnAReport() {
        const Ended reports = call({"help"});
        QCOMPARE(reports.status, 0);
        for (const char* name :
             {"check", "clearance", "fit", "survey", "driveline", "gearing", "mounts", "relief", "weights", "parts"}) {
            QVERIFY2(reports.out.contains(QLatin1String(name)), name);
            const Ended one = call({"help", name});
            QCOMPARE(one.status, 0);
            QVERIFY2(one.out.contains(QStringLiteral("--json")), name); // how it is called…
            QVERIFY2(!one.out.contains(u'|') && !one.out.contains(u'`'), name);
            for (const QString& line : one.out.split(u'\n')) // a terminal's width, but for options
                QVERIFY2(line.size() <= 100 || line.contains(QStringLiteral("--")), qPrintable(line));
        }
        const Ended clearance = call({"help", "clearance"});
        QVERIFY(clearance.out.contains(QStringLiteral("margin = gap − limit"))); // …what it holds…
        QVERIFY(clearance.out.contains(QStringLiteral("What it leaves out")));   // …and what not
        QVERIFY(!clearance.out.contains(QStringLiteral("## ")));
        const Ended tidy = call({"help", "tidy"});
        QCOMPARE(tidy.status, 0);
        QVERIFY(tidy.out.contains(QStringLiteral("--out")));
        const Ended none = call({"help", "clearence"});
        QCOMPARE(none.status, 2);
        QVERIFY(none.err.contains(QStringLiteral("clearence")) && none.err.contains(QStringLiteral("clearance")));
    }
    void checkOnTheDemoNamesTheTrouble() {
        const Ended ended = call({"check", demo});
        QCOMPARE(ended.status, 1);
        QVERIFY(ended.err.isEmpty());
        QVERIFY(ended.out.contains(
            QRegularExpression("no-go    Front sump fouls the front crossmember\\. ≈ \\d+ mm into it")));
        QVERIFY(ended.out.contains(
            QRegularExpression("no-go    Turbo turbine comes too near the steering shaft\\. Engine [^:]+: [\\d.]+ "
                               "mm, less [\\d.]+ mm heat growth; 52 mm wanted")));
        QVERIFY(ended.out.contains("clearance: no-go\n") &&
                ended.out.endsWith("all that was asked: no-go; do not cut yet\n"));
        // Cautions stand once each, at the end.
        QCOMPARE(ended.out.count("Steering stays free lock to lock"), 1);
        QVERIFY(ended.out.indexOf("Mind:") > ended.out.lastIndexOf("no-go    "));
        const Ended whole = call({"check", "--long", demo});
        QVERIFY(whole.out.contains("Rule: ") && whole.out.count("Caution: Steering stays free lock to lock") > 1);
        // Moves are looked for when asked.
        QVERIFY(!ended.out.contains("no-go then"));
        QVERIFY(call({"check", "--ways", demo}).out.contains("no-go then"));
    }
    void jsonHoldsTheWholeReport() {
        const Ended ended = call({"check", "--json", "--ways", demo});
        QCOMPARE(ended.status, 1);
        const QJsonObject json = ended.json();
        QCOMPARE(json["format"].toString(), QStringLiteral("gabarit-report"));
        QCOMPARE(json["verdict"].toString(), QStringLiteral("no-go"));
        const QJsonObject sump = pairOf(json, "ostrel-six/front-sump", "vehicle/front-crossmember");
        QCOMPARE(sump["contact"].toString(), QStringLiteral("overlap"));
        QVERIFY(sump["gap_mm"].toDouble() < -8 && sump["limit_mm"].toDouble() == 12);
        QVERIFY(std::abs(sump["gap_mm"].toDouble() - sump["limit_mm"].toDouble() - sump["margin_mm"].toDouble()) <
                1e-5);
        const QJsonObject clearance = json["clearance"].toObject();
        QCOMPARE(clearance["assumed"].toArray().size(), 2); // the heater box and the loom
        QCOMPARE(clearance["assumed"][0].toObject()["method"].toString(), QStringLiteral("assumed"));
        // The demo's left mount sits 30 mm lower than its right one, its seats are level.
        QCOMPARE(clearance["mount_seats"][0].toObject()["left_higher_mm"].toDouble(), -30.0);
        const QJsonObject turbo = pairOf(json, "ostrel-six/turbine", "vehicle/steering-shaft");
        QCOMPARE(turbo["verdict"].toString(), QStringLiteral("no-go"));
        QVERIFY(turbo["gap_mm"].toDouble() > 0);
        QVERIFY(!turbo["rule_source"].toString().isEmpty());
        for (const QJsonValue finding : json["findings"].toArray())
            for (const char* member : {"id", "verdict", "title", "detail", "caution"})
                QVERIFY(finding.toObject().contains(QLatin1String(member)));
        // Each report alone says the same as the check.
        QCOMPARE(call({"clearance", "--json", demo}).json()["clearance"], json["clearance"]);
        QCOMPARE(call({"fit", "--json", demo}).json()["fit"], json["fit"]);
        QCOMPARE(call({"weights", "--json", demo}).json()["weights"], json["weights"]);
        QCOMPARE(call({"parts", "--json", demo}).json()["parts"], json["parts"]);
    }
    void theQuadsAxleMeetsItsSumpAtBumpNotAtRide() {
        const QString quad = QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/skerry-quad.gabarit");
        const Ended text = call({"clearance", quad});
        QCOMPARE(text.status, 1);
        QVERIFY2(text.out.contains(QRegularExpression("no-go +16\\.[23] +20\\.0 .*> 60  Front sump +Front axle tube "
                                                      ".*front axle at full bump, rolled 4\\.0°")),
                 qPrintable(text.out));
        const QJsonObject json = call({"clearance", "--json", quad}).json();
        const QJsonObject pair = pairOf(json, "brassel-vee/sump", "vehicle/front-axle");
        QCOMPARE(pair["verdict_at_rest"].toString(), QStringLiteral("go"));
        QCOMPARE(pair["decides"].toString(), QStringLiteral("travel"));
        const QJsonObject travel = pair["travel"].toObject();
        // By hand: the spring leads the axle 4.35 back as it rises 105 (a quarter along the spring, 366.3 long); its
        // axis, tilted by 4°, and the edge of the sump at y 105, tilted by 3°, are skew lines 56.24 apart; less 40.
        QVERIFY(std::abs(travel["gap_mm"].toDouble() - 16.24) < 0.1);
        QVERIFY(travel["hidden_mm"].toDouble() <= 0.5);
        QVERIFY(travel["state"].toString().startsWith("front axle at full bump, rolled 4.0°"));
        const QJsonArray freedoms = json["clearance"].toObject()["movement"].toObject()["freedoms"].toArray();
        QCOMPARE(travel["state_values"].toArray().size(), freedoms.size());
        QCOMPARE(freedoms[0].toObject()["high"].toDouble(), 105.0);
        const QJsonArray stances = json["clearance"].toObject()["stances"].toObject()["lines"].toArray();
        QCOMPARE(stances.size(), 4); // ride, new load, bump, blocks
        QVERIFY(stances[1].toObject()["ground_mm"].toDouble() < stances[0].toObject()["ground_mm"].toDouble());

        // With its travel shortened the same turns go.
        model::Project shorter = store::readProject(quad.toStdString(), store::defaultRuleBook()).value().project;
        shorter.vehicle->motions.front().bump_mm = 70;
        const Ended go = call({"clearance", "--json", saved(shorter)});
        QCOMPARE(go.status, 0);
        QCOMPARE(pairOf(go.json(), "brassel-vee/sump", "vehicle/front-axle")["verdict"].toString(),
                 QStringLiteral("go"));
        QCOMPARE(call({"clearance", saved(shorter)}).status, 0);
    }
    void mountsAreReported() {
        const QString bench = QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/mount-bench.gabarit");
        const Ended ended = call({"mounts", "--json", bench});
        QCOMPARE(ended.status, 1); // two of four bolts
        const QJsonObject report = ended.json()["mounts"].toObject();
        QCOMPARE(report["modes"].toArray().size(), 6);
        QVERIFY(report["determinate"].toBool());
        QCOMPARE(report["unit"].toObject()["mass_kg"].toDouble(), 166.0);
        // At rest the seats carry the weight: 166 kg of 9.80665 N.
        double up = 0;
        for (const QJsonValue& force : report["cases"].toArray()[0].toObject()["on_unit_n"].toArray())
            up += force.toArray()[2].toDouble();
        QVERIFY(std::abs(up - 166 * 9.80665) < 1e-3);
        QVERIFY(report["rocking"].toObject()["roll_deg"].toDouble() > 0);
        const Ended text = call({"mounts", "--units", "in", bench});
        for (const char* words : {"Captive wedge, soft", "shakes in", "lbf", "no approval", "Full torque in reverse"})
            QVERIFY2(text.out.contains(QLatin1String(words)), words);
        QCOMPARE(call({"mounts", QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/shaft-bench.gabarit")}).status, 0);
        // A better set, written to a file of its own: it stands as was promised.
        const QString better = folder_.filePath(QStringLiteral("better.gabarit"));
        const Ended tuned = call({"tune-mounts", "--json", "--aim", "calmest", "--out", better, bench});
        QCOMPARE(tuned.status, 0);
        const QJsonObject calm = tuned.json()["tune-mounts"].toObject()["proposals"].toArray()[0].toObject();
        QCOMPARE(calm["aim"].toString(), QStringLiteral("calmest"));
        const QJsonObject there = call({"mounts", "--json", better}).json()["mounts"].toObject();
        QVERIFY(std::abs(there["rocking"].toObject()["roll_deg"].toDouble() -
                         calm["after"].toObject()["rolls_deg"].toDouble()) < 1e-6);
        QVERIFY(call({"tune-mounts", bench}).out.contains(QStringLiteral("check the gaps again")));
        QCOMPARE(call({"tune-mounts", QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/shaft-bench.gabarit")}).status, 2);
        const Ended wrong = call({"mounts", written(R"({"format": "gabarit-project", "version": 1, "name": "x",
            "mounts": {"mounts": [{"id": "a", "name": "A", "at": "roof", "pad": {}}]}})")});
        QCOMPARE(wrong.status, 2);
        QVERIFY(wrong.err.contains(QStringLiteral("mounts.mounts[0].at")));
    }
    void aPocketFromTheCommandLine() {
        const QString out = folder_.filePath(QStringLiteral("let-in.gabarit"));
        const Ended cut = call({"propose-pocket", "--body", "front-crossmember", "--out", out, demo});
        QVERIFY2(cut.status == 0, qPrintable(cut.err));
        QVERIFY(cut.out.contains(" deep, plate ") && cut.out.contains("no approval"));
        const model::Project made = store::readProject(out.toStdString(), store::defaultRuleBook()).value().project;
        QCOMPARE(made.sections.get<model::Relief>()->pockets.size(),
                 demoProject().sections.get<model::Relief>()->pockets.size() + 1);
        const model::Pocket& pocket = made.sections.get<model::Relief>()->pockets.back();
        const auto part =
            std::find_if(made.sections.get<model::Parts>()->begin(), made.sections.get<model::Parts>()->end(),
                         [&](const model::Part& p) { return p.id.text == pocket.part; });
        QVERIFY(part != made.sections.get<model::Parts>()->end() && part->mass_kg);
        const QJsonObject json = call({"check", "--json", out}).json();
        QCOMPARE(pairOf(json, "ostrel-six/front-sump", "vehicle/front-crossmember")["verdict"].toString(),
                 QStringLiteral("go"));
        const QJsonArray reported = json["relief"].toObject()["pockets"].toArray();
        QCOMPARE(reported.size(), static_cast<int>(made.sections.get<model::Relief>()->pockets.size()));
        QVERIFY(reported[0].toObject()["stations"].toArray().size() > 10);
        QVERIFY(!json["relief"].toObject()["bars"].toArray().isEmpty()); // of the mounts' arms
        const Ended table = call({"relief", "--units", "in", out});
        QVERIFY(table.out.contains("bar 1.669 in × 0.126 in:")); // 42.4 × 3.2 mm: the left mount's arms
        QVERIFY(table.out.contains("licensed engineer"));
        // What is marked "never" is not cut, what is not there neither.
        const Ended rail = call({"propose-pocket", "--body", "rail-left", "--out", out, demo});
        QVERIFY(rail.status == 2 && rail.err.contains("never"));
        QCOMPARE(call({"propose-pocket", "--body", "ghost", "--out", out, demo}).status, 2);
    }
    void waysAndTemplatesFromTheCommandLine() {
        const Ended ways = call({"ways", "--a", "ostrel-six/front-sump", "--b", "vehicle/front-crossmember", demo});
        for (const char* words : {"as it is", " up ", "Sump: deep at the rear", "deep", "100 %"})
            QVERIFY2(ways.out.contains(QLatin1String(words)), words);
        const QString folder = folder_.filePath(QStringLiteral("templates"));
        const Ended printed = call(
            {"print", "--what", "templates", "--placement", "second-try", "--paper", "letter", "--out", folder, demo});
        QVERIFY2(printed.status == 0, qPrintable(printed.err));
        const QStringList files = QDir(folder).entryList(QDir::Files);
        QCOMPARE(files.filter(QStringLiteral(".pdf")), QStringList{QStringLiteral("templates-letter.pdf")});
        for (const char* part : {"bottom-and-ends", "strap", "cut-line-on-the-body"})
            for (const char* form : {".svg", ".dxf"})
                QVERIFY2(files.contains(QStringLiteral("pocket-for-the-sump-%1%2").arg(QLatin1String(part), form)),
                         part);
        // A frame alone has its tubes listed.
        const Ended frame = call({"print", "--what", "templates", "--out", folder,
                                  QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/pell-wren.gabarit")});
        QVERIFY2(frame.status == 0, qPrintable(frame.err));
        QVERIFY(QFile(folder + QStringLiteral("/templates-a4.pdf")).exists());
        const Ended nothing = call({"print", "--what", "templates", "--out", folder,
                                    QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/shaft-bench.gabarit")});
        QCOMPARE(nothing.status, 2);
    }
    /// The second try stays go when its brackets and towers are bodies that count.
    void bracketsKeepTheSecondTryGo() {
        const QString out = folder_.filePath(QStringLiteral("bracketed.gabarit"));
        model::Project second = demoProject();
        second.active_placement.text = "second-try";
        const Ended made = call({"make-brackets", "--out", out, saved(second)});
        QVERIFY2(made.status == 0, qPrintable(made.err));
        const model::Project with = store::readProject(out.toStdString(), store::defaultRuleBook()).value().project;
        QVERIFY(with.vehicle->bodies.size() > second.vehicle->bodies.size());
        QCOMPARE(call({"check", out}).status, 0);
    }
    void aFileWithNothingButADrivelineWorks() {
        const QString bench = QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/shaft-bench.gabarit");
        const Ended ended = call({"driveline", "--json", bench});
        QCOMPARE(ended.status, 1); // the demo has trouble
        const QJsonObject report = ended.json()["driveline"].toObject();
        const QJsonObject line = report["lines"].toArray()[0].toObject();
        QCOMPARE(line["joints"].toArray().size(), 3);
        QCOMPARE(line["curve"].toArray().size(), 65);
        // Two tries; the second has one reading that does not fit.
        const QJsonArray tries = report["couplings"].toArray()[0].toObject()["tries"].toArray();
        const QJsonArray outliers = tries[1].toObject()["face"].toObject()["outlier"].toArray();
        for (int i = 0; i < outliers.size(); ++i) QCOMPARE(outliers[i].toBool(), i == 13);
        QVERIFY(std::abs(tries[0].toObject()["tilt_deg"].toDouble() - 0.62) < 0.03);
        QVERIFY(call({"driveline", bench}).out.contains(QStringLiteral("Widest open at")));
        QCOMPARE(call({"gearing", bench}).status, 0);
        QCOMPARE(call({"weights", bench}).status, 0); // not asked
        QCOMPARE(call({"clearance", bench}).status, 0);

        // A line cut short by hand: nothing but flanges and joints.
        const Ended bare =
            call({"driveline", "--json", written(R"({"format": "gabarit-project", "version": 1, "name": "x",
            "driveline": {"lines": [{"id": "a", "name": "A", "run": "rearward", "from": {"at_mm": [0, 0, 0]},
            "to": {"at_mm": [1000, 0, -20]}, "joints": [{"kind": "cardan"}, {"kind": "cardan"}], "shafts": [{}]}]}})")});
        QCOMPARE(bare.status, 1);
        const QJsonObject a = bare.json()["driveline"].toObject()["lines"].toArray()[0].toObject();
        QCOMPARE(a["verdict"].toString(), QStringLiteral("unknown"));
        QVERIFY(std::abs(a["joints"].toArray()[0].toObject()["angle_deg"].toDouble() - 1.1458) < 1e-3);
        const Ended wrong = call({"driveline", written(R"({"format": "gabarit-project", "version": 1, "name": "x",
            "driveline": {"lines": [{"id": "a", "name": "A", "run": "sideways", "from": {}, "to": {}}]}})")});
        QCOMPARE(wrong.status, 2);
        QVERIFY(wrong.err.contains(QStringLiteral("driveline.lines[0].run")));
        QVERIFY(wrong.err.contains(QStringLiteral("rearward")));
    }
    void theDemosHaveTheirDrivelineTroubles() {
        const auto lines = [](const char* name) {
            const Ended ended =
                call({"driveline", "--json", QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/%1.gabarit").arg(name)});
            return ended.json()["driveline"].toObject()["lines"].toArray();
        };
        const auto verdict = [](const QJsonObject& line, const QString& check) {
            for (const QJsonValue c : line["checks"].toArray())
                if (c.toObject()["id"].toString().endsWith(check)) return c.toObject()["verdict"].toString();
            return QString();
        };
        const QJsonObject tarn = lines("harrow-tarn")[0].toObject(); // the automatic's line is not judged
        QCOMPARE(lines("harrow-tarn").size(), 1);
        QCOMPARE(verdict(tarn, "/engaged"), QStringLiteral("no-go")); // shaft too short
        QVERIFY(tarn["slips"].toArray()[0].toObject()["moved_mm"].toDouble() > 40);
        const QJsonArray quad = lines("skerry-quad");
        QCOMPARE(quad.size(), 2);
        for (const QJsonValue line : quad)
            QCOMPARE(line.toObject()["joints"].toArray()[0].toObject()["kind"].toString(),
                     QStringLiteral("double_cardan"));
        const QJsonArray wren = lines("pell-wren");
        QCOMPARE(wren.size(), 2);
        const double left = wren[0].toObject()["slips"].toArray()[0].toObject()["ride_mm"].toDouble();
        const double right = wren[1].toObject()["slips"].toArray()[0].toObject()["ride_mm"].toDouble();
        QVERIFY(left - right > 50); // unequal lengths
        QCOMPARE(verdict(wren[0].toObject(), "/engaged"), QStringLiteral("no-go"));
        QCOMPARE(verdict(wren[1].toObject(), "/engaged"), QStringLiteral("go"));
    }
    /// What the disciplines can do is a subcommand each, and does what the window's button does.
    void deedsAreSubcommands() {
        QTemporaryDir folder;
        const QString out = folder.filePath(QStringLiteral("out.gabarit"));
        const QString bench = QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/mount-bench.gabarit");
        QCOMPARE(call({"list-isolators", bench, "--out", out}).status, 0);
        const auto read = store::readProject(out.toStdString(), store::defaultRuleBook());
        QVERIFY(read.ok());
        int isolators = 0;
        for (const model::Part& part : *read.value().project.sections.get<model::Parts>())
            isolators += part.name.find("solator") != std::string::npos || part.mass_kg.has_value();
        QVERIFY(isolators > 0);
        // Told where the mend is: no such thing, nothing said, nothing there to do it with.
        const Ended none = call({"bolt-there", demo, "--item", "nowhere", "--out", out});
        QCOMPARE(none.status, 2);
        QVERIFY2(none.err.contains(QStringLiteral("nowhere")), qPrintable(none.err));
        QCOMPARE(call({"bolt-there", demo, "--out", out}).status, 2);
        QCOMPARE(
            call({"list-isolators", QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/shaft-bench.gabarit"), "--out", out})
                .status,
            2);
        const Ended bolted = call({"bolt-there", demo, "--item", "gearbox-crossmember", "--out", out});
        QVERIFY2(bolted.status == 0, qPrintable(bolted.err));
    }
    void docsNameEveryMemberOfTheReports() {
        QStringList pages{QStringLiteral(GABARIT_SOURCE_DIR "/docs/reports.md")};
        const QDir own(QStringLiteral(GABARIT_SOURCE_DIR "/docs/disciplines"));
        for (const QString& page : own.entryList({QStringLiteral("*.md")})) pages << own.filePath(page);
        QString text;
        for (const QString& page : std::as_const(pages)) {
            QFile docs(page);
            QVERIFY(docs.open(QIODevice::ReadOnly));
            text += QString::fromUtf8(docs.readAll());
        }
        QSet<QString> members;
        const std::function<void(const QJsonValue&)> collect = [&](const QJsonValue& value) {
            for (const QJsonValue item : value.toArray()) collect(item);
            const QJsonObject object = value.toObject();
            for (auto it = object.begin(); it != object.end(); ++it) members.insert(it.key()), collect(it.value());
        };
        collect(call({"check", "--json", demo}).json());
        QVERIFY(members.size() > 50);
        for (const QString& member : members) QVERIFY2(text.contains('`' + member + '`'), qPrintable(member));
    }
    void fitSaysTheRoomAndTheWaysOut() {
        const QJsonObject json = call({"fit", "--json", "--placement", "second-try", demo}).json();
        const QJsonArray rooms = json["fit"].toObject()["rooms"].toArray();
        QCOMPARE(rooms.size(), 8);
        // The way that is named is there: go it in a copy of the file, and what was named is at its limit.
        for (const QJsonValue value : rooms) {
            const QJsonObject room = value.toObject();
            if (room["way"].toString() != QStringLiteral("up")) continue;
            QVERIFY(!room["beyond"].toBool());
            model::Project project = demoProject();
            project.active_placement.text = "second-try";
            model::activePlacement(project)->position_mm.z() += room["amount_mm"].toDouble();
            const QJsonObject pair = pairOf(call({"clearance", "--json", saved(project)}).json(), room["a"].toString(),
                                            room["b"].toString());
            QVERIFY(pair["margin_mm"].toDouble() >= 0 && pair["margin_mm"].toDouble() < 0.3);
        }
        QVERIFY(json["fit"].toObject()["ways_out"].toArray().isEmpty()); // nothing is in its way
        model::Project project = demoProject();
        project.active_placement.text = "second-try";
        project.sections.drop<model::Relief>(); // without the pocket the sump is
        const QJsonArray ways = call({"fit", "--json", saved(project)}).json()["fit"].toObject()["ways_out"].toArray();
        QVERIFY(!ways.isEmpty());
        const QJsonObject way = ways.first().toObject();
        const QJsonArray at = way["position_mm"].toArray();
        model::Placement* placement = model::activePlacement(project);
        for (int i = 0; i < 3; ++i) placement->position_mm[i] = at[i].toDouble();
        placement->angles.pitch_deg = way["angles"].toObject()["pitch_deg"].toDouble();
        int noGo = 0;
        const QJsonObject there = call({"check", "--json", saved(project)}).json();
        for (const QJsonValue pair : there["clearance"].toObject()["pairs"].toArray())
            noGo += pair.toObject()["verdict"].toString() == QStringLiteral("no-go");
        QCOMPARE(noGo, way["no_go_after"].toInt());
        const Ended words = call({"fit", demo});
        QCOMPARE(words.status, 1);
        QVERIFY(words.out.contains("Room to move") && words.out.contains("gearbox alone"));
    }
    void tenMillimetresRearward() {
        // 297 kg ride on the donor (198 + 16 + 24 + 43 + 11 and a 5 kg loom); wheelbase 2650: 297·10/2650 = 1.12075 kg.
        const QJsonObject before = call({"weights", "--json", demo}).json()["weights"].toObject();
        model::Project project = demoProject();
        model::activePlacement(project)->position_mm.x() += 10;
        const QJsonObject after = call({"weights", "--json", saved(project)}).json()["weights"].toObject();
        const auto load = [](const QJsonObject& w, const char* axle) {
            return w[QLatin1String(axle)].toObject()["load_kg"].toDouble();
        };
        QVERIFY(std::abs(load(after, "rear") - load(before, "rear") - 1.12075) < 1e-4);
        QVERIFY(std::abs(load(after, "front") - load(before, "front") + 1.12075) < 1e-4);
    }
    void placementsCanBeChosen() {
        const Ended second = call({"check", "--json", "--placement", "second-try", demo});
        QCOMPARE(second.json()["placement"].toString(), QStringLiteral("second-try"));
        QCOMPARE(second.status, 0);
        QCOMPARE(second.json()["verdict"].toString(), QStringLiteral("go"));
        for (const char* part : {"clearance", "driveline", "gearing", "mounts", "relief", "weights", "parts"})
            QCOMPARE(second.json()[QLatin1String(part)].toObject()["verdict"].toString(), QStringLiteral("go"));
        // It reaches that by the pocket: without it the sump is as deep in the crossmember as it hangs there.
        model::Project closed = demoProject();
        closed.active_placement.text = "second-try";
        closed.sections.drop<model::Relief>();
        const Ended fouls = call({"check", "--json", saved(closed)});
        QCOMPARE(fouls.status, 1);
        const QJsonObject sump = pairOf(fouls.json(), "ostrel-six/front-sump", "vehicle/front-crossmember-let-in");
        const model::Donor* six = model::activeDonor(closed);
        const auto pose = model::poseVehicleDonor(*model::activePlacement(closed), *six);
        const auto& shape =
            std::get<model::ProfileSpec>(model::findBody(closed, {"ostrel-six", {"front-sump"}})->shape);
        double lowest = 1e9; // of the sump's edges above the crossmember's top, x from 20 to 120
        for (const Eigen::Vector2d& p : std::get<model::PolygonSection>(shape.section).points_mm)
            lowest = std::min(lowest, (pose * Eigen::Vector3d(-345, p.x(), p.y())).z());
        QVERIFY(std::abs(480 - lowest + sump["gap_mm"].toDouble()) < 1);
        QVERIFY(call({"check", saved(closed)})
                    .out.contains(QRegularExpression(
                        "no-go    Front sump fouls the front crossmember, let in\\. ≈ \\d+ mm into it")));
        const Ended ghost = call({"check", "--placement", "ghost", demo});
        QCOMPARE(ghost.status, 2);
        QVERIFY(ghost.err.contains("ghost") && ghost.err.contains("first-try"));
    }
    void goIsZero() {
        model::Project project;
        project.name = "good";
        project.sections.edit<model::Weights>();
        project.sections.edit<model::Weights>().bare = {500, 500};
        project.sections.edit<model::Weights>().limit = {700, 700};
        project.sections.edit<model::Weights>().accuracy_kg = 5;
        project.vehicle.emplace();
        project.vehicle->name = "V";
        project.vehicle->wheelbase_mm = 2500;
        const Ended good = call({"check", saved(project)});
        QVERIFY2(good.status == 0, qPrintable(good.out));
        QVERIFY(good.out.contains("clearance: not asked"));
        project.sections.edit<model::Weights>().accuracy_kg = 250; // the margin of 200 lies within: close is not go
        QCOMPARE(call({"weights", saved(project)}).status, 1);
        project.sections.edit<model::Weights>().bare.front_kg.reset();
        QCOMPARE(call({"weights", saved(project)}).status, 1); // unknown is not go
        const Ended none = call({"parts", saved(project)});
        QCOMPARE(none.status, 0);
        QVERIFY(none.out.contains("not asked"));
        QVERIFY(call({"parts", "--json", saved(project)}).json()["parts"].isNull());
    }
    void inchesInTables() {
        const Ended inches = call({"clearance", "--units", "in", demo});
        QVERIFY(inches.out.contains("gap in"));
        QVERIFY(inches.out.contains("2.047")); // 50 mm and 2 until the mounts are fitted after welding
        QCOMPARE(call({"clearance", "--units", "cubits", demo}).status, 2);
    }
    void badInputIsOneClearLine_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QString>("says");
        QTest::newRow("no file") << QStringList{"check", "/nonexistent/x.gabarit"} << "/nonexistent/x.gabarit";
        QTest::newRow("folder") << QStringList{"check", "/tmp"} << "not a file";
        QTest::newRow("no command") << QStringList{} << "--help";
        QTest::newRow("unknown command") << QStringList{"fly", demo} << "--help";
        QTest::newRow("empty") << QStringList{"check", written("")} << "empty";
    }
    void badInputIsOneClearLine() {
        QFETCH(QStringList, arguments);
        QFETCH(QString, says);
        if (arguments.value(1).endsWith("raw.gabarit")) written("");
        const Ended ended = call(arguments);
        QCOMPARE(ended.status, 2);
        QVERIFY(ended.out.isEmpty());
        QVERIFY2(ended.err.contains(says), qPrintable(ended.err));
        QCOMPARE(ended.err.count('\n'), 1);
    }
    void wrongUnitsAreNamedWithTheirPlace() {
        QFile file(demo);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QByteArray text = file.readAll();
        text.replace("\"wheelbase_mm\": 2650", "\"wheelbase_mm\": \"2650 mm\"");
        const Ended ended = call({"check", written(text)});
        QCOMPARE(ended.status, 2);
        QVERIFY2(ended.err.contains("vehicle.wheelbase_mm") && ended.err.contains("without quotes"),
                 qPrintable(ended.err));
    }
    void donorGoesOutAndIn() {
        const QString six = folder_.filePath(QStringLiteral("six.gabarit-donor"));
        QCOMPARE(call({"export", demo, "--donor", "ostrel-six", "--out", six}).status, 0);
        QCOMPARE(call({"export", demo, "--donor", "ghost", "--out", six}).status, 2);
        const QString out = folder_.filePath(QStringLiteral("hung.gabarit"));
        QCOMPARE(call({"import", demo, "--donor", six, "--out", out}).status, 0);
        // Hung at the active placement's pose: the same gaps to the vehicle.
        const QJsonObject hung = call({"clearance", "--json", out}).json(),
                          was = call({"clearance", "--json", demo}).json();
        const QJsonObject here = pairOf(hung, "ostrel-six-2/turbine", "vehicle/steering-shaft");
        QCOMPARE(here["gap_mm"], pairOf(was, "ostrel-six/turbine", "vehicle/steering-shaft")["gap_mm"]);
        QCOMPARE(call({"import", demo, "--donor", demo, "--out", out}).status, 2); // a project is no donor
    }
    void saysWhatIsSurveyed() {
        const Ended ended = call({"survey", "--json", demo});
        QCOMPARE(ended.status, 1); // two areas are open
        const QJsonObject survey = ended.json()["survey"].toObject();
        QCOMPARE(survey["ready_to_cut"].toBool(), false);
        QCOMPARE(survey["open"].toInt(), 2);
        // The crank hangs at 672 (first try), the old one's stood at 655.
        const QJsonObject crank = survey["outgoing"].toArray()[0].toObject();
        QCOMPARE(crank["new_mm"].toDouble(), 672.0);
        QCOMPARE(crank["difference_mm"].toDouble(), 17.0);
        // 232 × 168 × 52 into 250 × 190 × 100: 18 left over at the tightest.
        for (const QJsonValue search : survey["free_room"].toObject()["searches"].toArray())
            if (search.toObject()["part"].toString() == "controller") {
                const QJsonObject best = search.toObject()["offers"].toArray()[0].toObject();
                QCOMPARE(best["room"].toString(), QStringLiteral("behind-left-lamp"));
                QCOMPARE(best["spare_mm"].toDouble(), 18.0);
                QCOMPARE(best["verdict"].toString(), QStringLiteral("go"));
            }
        QVERIFY(call({"survey", demo}).out.contains("2 areas are open: do not cut yet"));
        QCOMPARE(call({"survey", written(R"({"format": "gabarit-project", "version": 2, "name": "T"})")}).status, 0);
    }
    void twentyReadingsOnASheetGiveAVerdict() {
        const QString van = folder_.filePath(QStringLiteral("van.gabarit"));
        const QString sheet = QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/small-van-readings.csv");
        const Ended made = call({"first-survey", "--sheet", sheet, "--date", "2026-05-17", "--out", van});
        QVERIFY2(made.status == 0 && made.err.isEmpty(), qPrintable(made.err));
        const Ended checked = call({"clearance", "--json", van});
        QCOMPARE(checked.status, 1);
        // Where it is assumed to hang: the block's face at 520 − 165 − 20 = 335 behind the axle, the crank at
        // 470 + 210 + 20 = 700. The engine's top is then at 1090, in the bonnet, whose underside is at 1010.
        const QJsonObject bonnet = pairOf(checked.json(), "donor-engine/engine-block-and-heads", "vehicle/bonnet");
        QCOMPARE(bonnet["contact"].toString(), QStringLiteral("overlap"));
        // The bellhousing, 370 across, ends at 500, 20 ahead of the firewall; its top at 885 is above the tunnel's
        // roof.
        const QJsonObject firewall = pairOf(checked.json(), "donor-engine/bellhousing", "vehicle/firewall");
        QVERIFY(std::abs(firewall["gap_mm"].toDouble() - 20) < 0.01);
        const Ended listed = call({"first-survey", van});
        QVERIFY2(listed.out.contains(QRegularExpression("firewall_x +520.0 mm  read")), qPrintable(listed.out));
        QVERIFY(listed.out.contains(QRegularExpression("wheelbase +2500.0 mm  assumed")));
        QVERIFY(call({"first-survey"}).out.contains("NEEDED"));
        QFile wrong(folder_.filePath(QStringLiteral("wrong.csv")));
        QVERIFY(wrong.open(QIODevice::WriteOnly));
        wrong.write("entry,value\nfirewall_x,510\nrail_gap,wide\n");
        wrong.close();
        const Ended refused = call({"first-survey", van, "--sheet", wrong.fileName()});
        QCOMPARE(refused.status, 2);
        QVERIFY2(refused.err.contains("line 3") && refused.err.contains("wide"), qPrintable(refused.err));
        QVERIFY(call({"first-survey", van}).out.contains(QRegularExpression("firewall_x +520.0 mm"))); // nothing taken
        QCOMPARE(call({"first-survey", "--sheet", sheet}).status, 2); // no place to write to
    }
    void packsAndUnpacks() {
        const QString bundle = folder_.filePath(QStringLiteral("demo.gabaritz"));
        QCOMPARE(call({"bundle", demo, "--out", bundle}).status, 0);
        QTemporaryDir other;
        const Ended unpacked = call({"unpack", bundle, "--out", other.path()});
        QCOMPARE(unpacked.status, 0);
        QFile a(demo), b(unpacked.out.trimmed());
        QVERIFY(a.open(QIODevice::ReadOnly) && b.open(QIODevice::ReadOnly));
        QCOMPARE(b.readAll(), a.readAll());
        QCOMPARE(call({"unpack", demo, "--out", other.path()}).status, 2); // no bundle
        model::Project project = demoProject();
        project.vehicle->bodies[0].measured.picture = "gone.jpg";
        const Ended missing = call({"bundle", saved(project), "--out", bundle});
        QCOMPARE(missing.status, 1);
        QVERIFY2(missing.err.contains("gone.jpg"), qPrintable(missing.err));
    }
    void printsTheFitSheet() {
        const QString pdf = folder_.filePath(QStringLiteral("fit.pdf"));
        const Ended ended = call({"print", demo, "--out", pdf, "--date", "today"});
        QVERIFY2(ended.status == 0 && ended.err.isEmpty(), qPrintable(ended.err));
        QFile file(pdf);
        QVERIFY(file.open(QIODevice::ReadOnly) && file.read(4) == "%PDF");
        QCOMPARE(call({"print", demo, "--out", "/nonexistent/x.pdf"}).status, 2);
    }
    void tidyChangesNothing() {
        const QString out = folder_.filePath(QStringLiteral("tidy.gabarit"));
        QCOMPARE(call({"tidy", demo, "--out", out}).status, 0);
        QFile a(demo), b(out);
        QVERIFY(a.open(QIODevice::ReadOnly) && b.open(QIODevice::ReadOnly));
        QCOMPARE(b.readAll(), a.readAll());
    }

    /// Written only to files: devices, pipes and broken links stay what they are.
    void outOntoWhatIsNoFile() {
        const QString pipe = folder_.filePath(QStringLiteral("pipe")), link = folder_.filePath(QStringLiteral("link"));
        QVERIFY(::mkfifo(pipe.toLocal8Bit().constData(), 0600) == 0);
        QVERIFY(QFile::link(folder_.filePath(QStringLiteral("nowhere")), link));
        const QStringList commands[] = {{"tidy", demo, "--out"},
                                        {"table-out", demo, "--table", "parts", "--out"},
                                        {"print", demo, "--out"},
                                        {"bundle", demo, "--out"}};
        for (const QStringList& command : commands)
            for (const QString& to : {pipe, link, QStringLiteral("/dev/null"), folder_.path()}) {
                const Ended ended = call(command + QStringList{to});
                QCOMPARE(ended.status, 2);
                QVERIFY2(ended.err.contains(to) && ended.err.count('\n') == 1, qPrintable(ended.err));
            }
        struct stat about {};
        QVERIFY(::lstat(pipe.toLocal8Bit().constData(), &about) == 0 && S_ISFIFO(about.st_mode));
        QVERIFY(QFileInfo(link).isSymLink());
        QCOMPARE(call({"check", pipe}).status, 2); // and it does not wait
    }
    /// An answer that did not arrive is no answer.
    void reportsThatCannotBeWritten() {
        for (const char* to : {">/dev/full", "| true"}) {
            QProcess shell;
            shell.start(
                QStringLiteral("bash"),
                {QStringLiteral("-c"), QStringLiteral("set -o pipefail; \"%1/gabarit-cli\" clearance --json \"%2\" "
                                                      "--placement second-try %3; echo status $?")
                                           .arg(QStringLiteral(GABARIT_BIN_DIR), demo, QLatin1String(to))});
            QVERIFY(shell.waitForFinished(60000));
            QCOMPARE(shell.readAllStandardOutput().trimmed(), QByteArray("status 2"));
            QVERIFY(shell.readAllStandardError().contains("could not be written"));
        }
    }
    /// Nothing of a file steers the terminal, nor does its name.
    void controlCharactersStayOutside() {
        const Ended refused =
            call({"check", written("{\"format\": \"gabarit-project\", \"version\": 2, \"name\": \"a\\u009b2Jb\"}")});
        QCOMPARE(refused.status, 2);
        QVERIFY2(refused.err.contains("U+009B"), qPrintable(refused.err));
        const Ended name = call({"check", QStringLiteral("/no\x1b[31mwhere.gabarit")});
        QVERIFY(name.status == 2 && !name.err.contains(QLatin1Char('\x1b')) && name.err.contains("where"));
    }
    /// Limits that are stated, and kept at once.
    void whatIsTooMuchIsSaid() {
        model::Project project = demoProject();
        model::Body cube = project.vehicle->bodies.front();
        for (int i = 0; i < 2100; ++i) {
            cube.id.text = "cube-" + std::to_string(i);
            project.vehicle->bodies.push_back(cube);
        }
        const Ended ended = call({"check", saved(project)});
        QCOMPARE(ended.status, 2);
        QVERIFY2(ended.err.contains("more than 2000"), qPrintable(ended.err));
    }
    void aGaugeDeletesNothing() {
        const QString file = folder_.filePath(QStringLiteral("precious"));
        QFile precious(file);
        QVERIFY(precious.open(QIODevice::WriteOnly) && precious.write("mine") == 4);
        precious.close();
        const auto gauge = [](const QString& link) {
            QProcess process;
            process.start(QStringLiteral(GABARIT_BIN_DIR "/gabarit-gauge"),
                          {"--count", "1", "--rate", "1000", "--link", link});
            process.waitForFinished(10000);
            return process.exitCode();
        };
        QCOMPARE(gauge(file), 2);
        QVERIFY(precious.open(QIODevice::ReadOnly) && precious.readAll() == "mine");
        const QString link = folder_.filePath(QStringLiteral("to-it"));
        QVERIFY(QFile::link(file, link));
        QCOMPARE(gauge(link), 2);
        QVERIFY(QFileInfo(link).isSymLink() && QFile::exists(file));
        // A link to a line that is gone was left by one that was killed.
        const QString left = folder_.filePath(QStringLiteral("left"));
        QVERIFY(QFile::link(QStringLiteral("/dev/pts/9999"), left));
        QCOMPARE(gauge(left), 0);
        QVERIFY(!QFileInfo(left).isSymLink()); // it takes its own away
    }

    /// On a machine without a display the window's program still says what it is.
    void theWindowsHelpNeedsNoDisplay() {
        for (const char* asked : {"--help", "--version"}) {
            QProcess process;
            QProcessEnvironment bare = QProcessEnvironment::systemEnvironment();
            for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}) bare.remove(QLatin1String(name));
            process.setProcessEnvironment(bare);
            process.start(QStringLiteral(GABARIT_BIN_DIR "/gabarit"), {QLatin1String(asked)});
            QVERIFY(process.waitForFinished(20000));
            QVERIFY(process.exitStatus() == QProcess::NormalExit && process.exitCode() == 0);
            QVERIFY(process.readAllStandardOutput().contains("gabarit"));
            QVERIFY(process.readAllStandardError().isEmpty());
        }
    }
};

GABARIT_SUITE(CliTest)
#include "cli_test.moc"
