#include "parts/parts.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/safe_file.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QtTest>

#include <csignal>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace gabarit;

namespace {

std::string read(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) qFatal("cannot read %s", qPrintable(path));
    return file.readAll().toStdString();
}

std::string demoText() { return read(QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit")); }

Result<store::ReadProject> parse(const std::string& text) {
    return store::projectFromText(text, "test.gabarit", store::defaultRuleBook());
}

std::string minimal(const std::string& members) {
    return R"({"format": "gabarit-project", "version": 1, "name": "T")" + (members.empty() ? "" : ", " + members) + "}";
}
std::string withBody(const std::string& members) {
    return minimal(R"("vehicle": {"name": "V", "bodies": [{"id": "b", "name": "B", "category": "frame", )" + members +
                   "}]}");
}

} // namespace

class ProjectFileTest : public QObject {
    Q_OBJECT
private slots:
    void demoComesBackAsItWas() {
        const std::string text = demoText();
        const auto project = parse(text);
        QVERIFY2(project.ok(), project.ok() ? "" : project.error().line().c_str());
        QCOMPARE(QString::fromStdString(store::projectText(project.value().project)), QString::fromStdString(text));
        const auto& vehicle = *project.value().project.vehicle;
        QVERIFY(vehicle.bodies.size() >= 40 && vehicle.bodies.size() <= 80);
        const auto& donor = project.value().project.donors.front();
        QVERIFY(donor.bodies.size() >= 30 && donor.bodies.size() <= 60);
        QVERIFY(!project.value().read_only);
    }

    void everySectionIsOptional() {
        const auto project = parse(minimal(""));
        QVERIFY(project.ok());
        QVERIFY(!project.value().project.vehicle && !project.value().project.sections.get<model::Parts>() &&
                !project.value().project.sections.get<model::Weights>());
        QVERIFY(parse(minimal(R"("parts": [])")).value().project.sections.get<model::Parts>());
    }

    void unknownMembersAreKept() {
        const std::string text =
            minimal(R"("later": {"deep": [1, {"x": null}]}, "vehicle": {"name": "V", "colour": "green", "bodies": [
            {"id": "b", "name": "B", "category": "frame", "patina": 7, "shape": {"kind": "sphere", "diameter_mm": 5}}]})");
        const std::string once = store::projectText(parse(text).value().project);
        for (const char* kept : {"\"later\"", "\"deep\"", "\"colour\": \"green\"", "\"patina\": 7"})
            QVERIFY2(once.find(kept) != std::string::npos, kept);
        QCOMPARE(store::projectText(parse(once).value().project), once);
    }

    void unknownMembersOfInnerObjectsAreKept() {
        const std::string text = withBody(
            R"("angles": {"twist_deg": 3}, "shape": {"kind": "sheet", "along": "x", "thickness_mm": 1, "a/b": true, "stations": [
               {"at_mm": 0, "points_mm": [[0, 0], [9, 0]]}, {"at_mm": 9, "points_mm": [[0, 0], [9, 1]], "by": "tape"}]}, "/odd": 5)");
        const auto read = parse(text);
        QVERIFY2(read.ok(), read.ok() ? "" : read.error().line().c_str());
        model::Project project = read.value().project;
        const std::string once = store::projectText(project);
        for (const char* kept : {"\"twist_deg\": 3", "\"a/b\": true", "\"by\": \"tape\"", "\"/odd\": 5"})
            QVERIFY2(once.find(kept) != std::string::npos, kept);
        QCOMPARE(store::projectText(parse(once).value().project), once);
        // What was unknown in a station goes with the station, and nothing else.
        std::get<model::SheetSpec>(project.vehicle->bodies[0].shape).stations.resize(1);
        const std::string shorter = store::projectText(project);
        QVERIFY(shorter.find("tape") == std::string::npos && shorter.find("a/b") != std::string::npos);
    }

    void shapesComeBack() {
        for (
            const char* shape :
            {R"({"kind": "box", "size_mm": [1.5, 2, 3]})",
             R"({"kind": "cylinder", "from_mm": [0, 0, 0], "to_mm": [1, 2, 3], "diameter_mm": 4})",
             R"({"kind": "sphere", "diameter_mm": 4})",
             R"({"kind": "tube", "path_mm": [[0, 0, 0], [9, 0, 0]], "diameter_mm": 4})",
             R"({"kind": "profile", "section": {"kind": "c", "width_mm": 60, "height_mm": 100, "wall_mm": 4}, "from_mm": [0, 0, 0], "to_mm": [9, 0, 0], "roll_deg": 90})",
             R"({"kind": "profile", "section": {"kind": "polygon", "points_mm": [[0, 0], [1, 0], [0, 1]]}, "from_mm": [0, 0, 0], "to_mm": [9, 0, 0]})",
             R"({"kind": "plate", "outline_mm": [[0, 0], [1, 0], [0, 1]], "thickness_mm": 2})",
             R"({"kind": "sheet", "along": "y", "thickness_mm": 1, "stations": [{"at_mm": 0, "points_mm": [[0, 0], [9, 0]]}, {"at_mm": 9, "points_mm": [[0, 0], [9, 1]]}]})"}) {
            const auto project = parse(withBody("\"shape\": " + std::string(shape)));
            QVERIFY2(project.ok(), project.ok() ? "" : project.error().line().c_str());
            const std::string text = store::projectText(project.value().project);
            const auto again = parse(text);
            QCOMPARE(model::shapeKey(again.value().project.vehicle->bodies[0].shape),
                     model::shapeKey(project.value().project.vehicle->bodies[0].shape));
        }
    }

    void badInputNamesPlaceAndMend_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("where");
        QTest::addColumn<QString>("what");
        const auto row = [](const char* name, const std::string& text, const char* where, const char* what) {
            QTest::newRow(name) << QString::fromStdString(text) << where << what;
        };
        row("empty", "  \n", "test.gabarit", "is empty");
        row("cut off", demoText().substr(0, 5000), "line ", "cut off");
        row("not json", "hello", "line 1, column 1", "not JSON");
        row("a list", "[]", "test.gabarit", "not a gabarit-project");
        row("another format", R"({"format": "gabarit-donor", "version": 1})", "test.gabarit", "not a gabarit-project");
        row("no version", R"({"format": "gabarit-project", "name": "x"})", "version", "missing or not a whole number");
        row("number for a text", minimal(R"("note": 5)"), "note", "a text is expected");
        row("text for a number", withBody(R"("shape": {"kind": "sphere", "diameter_mm": "5 mm"})"),
            "vehicle.bodies[0].shape.diameter_mm", "a number is expected");
        row("unknown shape", withBody(R"("shape": {"kind": "cone"})"), "vehicle.bodies[0].shape.kind",
            "not one of those");
        row("missing shape", withBody(R"("note": "")"), "vehicle.bodies[0].shape", "missing");
        row("two coordinates", withBody(R"("position_mm": [1, 2], "shape": {"kind": "sphere", "diameter_mm": 5})"),
            "vehicle.bodies[0].position_mm", "three numbers");
        row("overflow", withBody(R"("shape": {"kind": "sphere", "diameter_mm": 1e999})"), "test.gabarit", "too large");
        row("absurd size", withBody(R"("shape": {"kind": "sphere", "diameter_mm": 1e308})"), "body \"B\"",
            "diameter_mm is not a length below 1 km");
        row("list for an object", minimal(R"("vehicle": [])"), "vehicle", "an object");
        row("object for a list", minimal(R"("donors": {})"), "donors", "a list");
        row("dangling placement",
            minimal(R"("placements": [{"id": "p", "name": "P", "donor": "ghost", "position_mm": [0, 0, 0]}])"),
            "placement \"P\"", "no donor \"ghost\"");
        row("reference without owner", minimal(R"("joined": [{"a": "x", "b": "y", "reason": "z"}])"), "joined[0].a",
            "whose body");
        const auto moving = [&](const std::string& motion) {
            return minimal(
                R"("vehicle": {"name": "V", "hard_points": [{"id": "c", "name": "c", "at_mm": [0, 0, 0]}], "bodies": [{"id": "b", "name": "B", "category": "axle", "shape": {"kind": "sphere", "diameter_mm": 5}}], "motions": [)" +
                motion + "]}");
        };
        row("motion of no kind", moving(R"({"id": "m", "name": "M", "kind": "float"})"), "vehicle.motions[0].kind",
            "not one of those");
        row("axle without centre", moving(R"({"id": "m", "name": "M", "kind": "axle"})"), "motion \"M\"", "lacks");
        row("point that is not there", moving(R"({"id": "m", "name": "M", "kind": "axle", "at": "ghost"})"),
            "motion \"M\"", "no point \"ghost\"");
        row("body that is not there", moving(R"({"id": "m", "name": "M", "kind": "axle", "at": "c", "bodies": ["x"]})"),
            "motion \"M\"", "no body \"x\"");
        row("droop below zero", moving(R"({"id": "m", "name": "M", "kind": "axle", "at": "c", "droop_mm": -5})"),
            "motion \"M\"", "below zero");
        row("moved twice", moving(R"({"id": "m", "name": "M", "kind": "axle", "at": "c", "bodies": ["b"]},
                      {"id": "n", "name": "N", "kind": "linkage", "bodies": ["b"]})"),
            "motion \"N\"", "moved by \"M\" too");
        row("carried by nothing", moving(R"({"id": "m", "name": "M", "kind": "linkage", "on": "ghost"})"),
            "motion \"M\"", "cannot carry");
        row("lock of a quarter turn",
            moving(R"({"id": "m", "name": "M", "kind": "steered", "axis_a": "c", "axis_b": "c", "left_deg": 90})"),
            "motion \"M\"", "between 0");
        row("three links", moving(R"({"id": "m", "name": "M", "kind": "axle", "at": "c", "links": [
            {"fixed": "c", "moving": "c"}, {"fixed": "c", "moving": "c"}, {"fixed": "c", "moving": "c"}]})"),
            "motion \"M\"", "more than 2 links");
        row("spring of no rate", minimal(R"("vehicle": {"name": "V", "springs": {"front_n_per_mm": 0}})"), "springs",
            "not above zero");
        row("an axle on a donor",
            minimal(
                R"("donors": [{"id": "d", "name": "D", "motions": [{"id": "m", "name": "M", "kind": "linkage"}]}])"),
            "motion \"M\"", "only what spins");
        row("null vehicle", minimal(R"("vehicle": null)"), "vehicle", "an object");
        std::string nested = minimal(R"("x": )" + std::string(5000, '[') + std::string(5000, ']'));
        row("nested too deep", nested, "test.gabarit", "nested more than");
    }
    void badInputNamesPlaceAndMend() {
        QFETCH(QString, text);
        QFETCH(QString, where);
        QFETCH(QString, what);
        const auto project = parse(text.toStdString());
        QVERIFY(!project.ok());
        const Error& e = project.error();
        QVERIFY2(QString::fromStdString(e.where).contains(where), e.line().c_str());
        QVERIFY2(QString::fromStdString(e.what).contains(what), e.line().c_str());
        QVERIFY(!e.mend.empty());
        QVERIFY(QString::fromStdString(e.where).contains(QStringLiteral("test.gabarit")));
    }

    void whatMovesComesBackAsItWas() {
        const std::string text = read(QStringLiteral(GABARIT_SOURCE_DIR "/data/demo/skerry-quad.gabarit"));
        const auto project = parse(text);
        QVERIFY2(project.ok(), project.ok() ? "" : project.error().line().c_str());
        QCOMPARE(store::projectText(project.value().project), text);
        const model::Vehicle& vehicle = *project.value().project.vehicle;
        QCOMPARE(vehicle.motions.front().kind, model::MotionKind::Axle);
        QVERIFY(vehicle.motions.front().links.front().leaf);
        QCOMPARE(project.value().project.placements.front().rocking.stop_mm, std::optional<double>(8));
        QCOMPARE(vehicle.stances.front().front_mm, 45.0);
    }

    void newerVersionsOpenReadOnly() {
        const auto project = parse(R"({"format": "gabarit-project", "version": 99, "name": "T", "holograms": []})");
        QVERIFY(project.ok() && project.value().read_only);
    }

    void anOlderVersionIsBroughtUpToDate() {
        // Version 1 named pictures from beside the project; what lay elsewhere stays named as it was.
        const auto old = parse(R"({"format": "gabarit-project", "version": 1, "name": "T", "vehicle": {"name": "V",
            "bodies": [{"id": "b", "name": "B", "category": "frame", "shape": {"kind": "sphere", "diameter_mm": 9},
            "measured": {"picture": "test.files/left/a.jpg"}}],
            "hard_points": [{"id": "p", "name": "P", "at_mm": [0, 0, 0], "measured": {"picture": "b.jpg"}}]}})");
        QVERIFY2(old.ok(), old.ok() ? "" : old.error().line().c_str());
        QVERIFY(!old.value().read_only);
        const model::Vehicle& vehicle = *old.value().project.vehicle;
        QCOMPARE(vehicle.bodies[0].measured.picture, std::string("left/a.jpg"));
        QCOMPARE(vehicle.hard_points[0].measured.picture, std::string("b.jpg"));
        // Written anew it is of this version, and is not brought up a second time.
        const std::string text = store::projectText(old.value().project);
        QVERIFY(text.find("\"version\": " + std::to_string(store::format_version)) != std::string::npos);
        QCOMPARE(parse(text).value().project.vehicle->bodies[0].measured.picture, std::string("left/a.jpg"));
        // In this version the same words mean a folder in the folder of files.
        std::string now = text;
        const std::size_t at = now.find("left/a.jpg");
        now.replace(at, 10, "test.files/a.jpg");
        QCOMPARE(parse(now).value().project.vehicle->bodies[0].measured.picture, std::string("test.files/a.jpg"));
    }

    void everySeedOfTheFuzzerOpens() {
        QDir folder(QStringLiteral(GABARIT_SOURCE_DIR "/tests/fuzz/corpus"));
        int projects = 0;
        for (const QString& name : folder.entryList({QStringLiteral("*.gabarit")}, QDir::Files)) {
            const auto project = parse(read(folder.filePath(name)));
            QVERIFY2(project.ok(), project.ok() ? "" : project.error().line().c_str());
            ++projects;
        }
        QVERIFY(projects >= 3);
    }

    void leftoversOfKilledSavesAreSweptAway() {
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("a.gabarit"));
        const auto leave = [&](const char* name, int age_s) {
            QFile file(folder.filePath(QString::fromLatin1(name)));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write("x");
            QVERIFY(file.flush()); // what is written later would make it young again
            QVERIFY(file.setFileTime(QDateTime::currentDateTime().addSecs(-age_s), QFileDevice::FileModificationTime));
        };
        leave("a.gabarit.part-Xy12zQ", 3600);
        leave("a.gabarit.part-fresh1", 0);    // somebody may be writing it
        leave("b.gabarit.part-Xy12zQ", 3600); // another's
        leave("a.gabarit.backup", 3600);      // not ours
        QVERIFY(store::writeProject(path.toStdString(), model::Project{}).ok());
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files, QDir::Name),
                 QStringList({"a.gabarit", "a.gabarit.backup", "a.gabarit.part-fresh1", "b.gabarit.part-Xy12zQ"}));
    }

    void savingKeepsTheFormerFile() {
        QTemporaryDir folder;
        const QString path = folder.filePath(QStringLiteral("a.gabarit"));
        auto project = parse(demoText()).value().project;
        QVERIFY(store::writeProject(path.toStdString(), project).ok());
        const std::string first = read(path);
        QFile::setPermissions(path, QFile::ReadOwner | QFile::WriteOwner);
        project.name = "changed";
        QVERIFY(store::writeProject(path.toStdString(), project).ok());
        QCOMPARE(read(path + ".bak"), first);
        QVERIFY(read(path).find("\"changed\"") != std::string::npos);
        struct stat about {};
        QCOMPARE(::stat(qPrintable(path), &about), 0);
        QCOMPARE(about.st_mode & 0777, mode_t{0600});
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 2); // nothing else lies about
        // Through a link the target is written and the link stays.
        const QString link = folder.filePath(QStringLiteral("link.gabarit"));
        QVERIFY(QFile::link(path, link));
        project.name = "through the link";
        QVERIFY(store::writeProject(link.toStdString(), project).ok());
        QVERIFY(QFileInfo(link).isSymLink());
        QVERIFY(read(path).find("through the link") != std::string::npos);
    }

    void savingWhereItCannotSaysSo() {
        const auto saved = store::writeProject("/nonexistent/folder/a.gabarit", model::Project{});
        QVERIFY(!saved.ok());
        QVERIFY(saved.error().line().find("/nonexistent/folder/a.gabarit") != std::string::npos);
        QVERIFY(!store::readProject("/nonexistent/a.gabarit", store::defaultRuleBook()).ok());
        QVERIFY(!store::readProject("/", store::defaultRuleBook()).ok());
    }

    /// kill -9 while saving, again and again: the file is always one of the two contents, whole.
    void killedWhileSaving() {
        QTemporaryDir folder;
        const std::string path = folder.filePath(QStringLiteral("a.gabarit")).toStdString();
        auto project = parse(demoText()).value().project;
        QVERIFY(store::writeProject(path, project).ok());
        for (int round = 0; round < 30; ++round) {
            const pid_t child = ::fork();
            if (child == 0) {
                for (int i = 0;; ++i) {
                    project.note = "save " + std::to_string(i);
                    if (!store::writeProject(path, project)) ::_exit(1);
                }
            }
            ::usleep(static_cast<useconds_t>(1000 + 700 * round));
            ::kill(child, SIGKILL);
            ::waitpid(child, nullptr, 0);
            const auto whole = store::readProject(path, store::defaultRuleBook());
            QVERIFY2(whole.ok(), whole.ok() ? "" : whole.error().line().c_str());
        }
    }

    void donorTravelsByItself() {
        QTemporaryDir folder;
        const std::string path = folder.filePath(QStringLiteral("six.gabarit-donor")).toStdString();
        const auto project = parse(demoText()).value().project;
        QVERIFY(store::writeDonor(path, project.donors.front()).ok());
        const auto donor = store::readDonor(path, store::defaultRuleBook());
        QVERIFY2(donor.ok(), donor.ok() ? "" : donor.error().line().c_str());
        QCOMPARE(store::donorText(donor.value()), store::donorText(project.donors.front()));
        QVERIFY(!store::readProject(path, store::defaultRuleBook()).ok()); // a donor is not a project, and says so
    }

    void rulesShipWithSources() {
        const model::RuleBook& book = store::defaultRuleBook();
        QVERIFY(book.schools.size() == 3 && book.school(book.default_school));
        for (const model::RuleRow& row : book.rows) {
            QVERIFY(!row.source.empty() && !row.text.empty());
            QCOMPARE(row.at_rest_mm.size(), std::size_t{3});
            for (const auto& side : {row.between, row.and_})
                for (const std::string& word : side) {
                    const bool group =
                        word.front() == '@' &&
                        std::any_of(book.categories.begin(), book.categories.end(), [&](const model::Category& c) {
                            return std::find(c.groups.begin(), c.groups.end(), word.substr(1)) != c.groups.end();
                        });
                    QVERIFY2(word == "*" || group || book.category(word), word.c_str());
                }
        }
        QVERIFY(!store::ruleBookFromText("{}", "r.json").ok());
    }
};

GABARIT_SUITE(ProjectFileTest)
#include "project_file_test.moc"
