// Tables for a spreadsheet: out and in again, and what is wrong with a bad one.
#include "parts/parts.h"
#include "store/csv.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"
#include "weights/section/weights.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;
using Eigen::Vector3d;

namespace {

Project demo() {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
        .value()
        .project;
}
Result<Project> partsFrom(const Project& p, const std::string& text) {
    return store::withPartsCsv(p, text, "list.csv", store::defaultRuleBook());
}
std::string complaint(const std::string& text) {
    const auto out = partsFrom(demo(), text);
    return out ? std::string() : out.error().line();
}
const Part& part(const Project& p, const char* id) {
    for (const Part& one : *p.sections.get<Parts>())
        if (one.id.text == id) return one;
    qFatal("no part %s", id);
}

} // namespace

class CsvTest : public QObject {
    Q_OBJECT
private slots:
    void partsComeBackAsTheyWere() {
        Project p = demo();
        p.sections.edit<Parts>().front().note = "a \"quoted\", long\nnote; with everything";
        Project bare = p;
        bare.sections.drop<Parts>();
        const auto back = partsFrom(bare, store::partsCsv(p));
        QVERIFY2(back.ok(), back.ok() ? "" : back.error().line().c_str());
        QCOMPARE(QString::fromStdString(store::projectText(back.value())),
                 QString::fromStdString(store::projectText(p)));
        const auto again = partsFrom(p, store::partsCsv(p)); // nothing doubles
        QCOMPARE(QString::fromStdString(store::projectText(again.value())),
                 QString::fromStdString(store::projectText(p)));
    }
    void loadsComeBackAsTheyWere() {
        const Project p = demo();
        Project bare = p;
        bare.sections.edit<Weights>().loads.clear();
        const auto back = store::withLoadsCsv(bare, store::loadsCsv(p), "l.csv", store::defaultRuleBook());
        QVERIFY(back.ok());
        QCOMPARE(QString::fromStdString(store::projectText(back.value())),
                 QString::fromStdString(store::projectText(p)));
        QVERIFY(!store::withLoadsCsv(p, "name,mass_kg\nDog,30\n", "l.csv", store::defaultRuleBook())); // where?
    }
    void missingColumnsLeaveWhatIsThere() {
        const Project p = demo();
        const auto out = partsFrom(p, "id,name,cost\npropshaft,Propeller shaft,455.5\n");
        QVERIFY(out.ok());
        QCOMPARE(*part(out.value(), "propshaft").cost, 455.5);
        QCOMPARE(part(out.value(), "propshaft").mass_kg, part(p, "propshaft").mass_kg);
        QCOMPARE(out.value().sections.get<Parts>()->size(), p.sections.get<Parts>()->size());
    }
    void newPartsAreAdded() {
        const auto out = partsFrom(demo(), "name,state,cost,needs\nGaiter,test-fitted,,propshaft isolators\n");
        QVERIFY(out.ok());
        const Part& gaiter = part(out.value(), "gaiter");
        QVERIFY(gaiter.state == PartState::TestFitted && !gaiter.cost && gaiter.needs.size() == 2);
    }
    void whatASpreadsheetElsewhereWrites() {
        const auto out = partsFrom(demo(), "\xEF\xBB\xBFname;cost;mass_kg\r\nGaiter;12,50;0,4\r\n\r\n");
        QVERIFY2(out.ok(), out.ok() ? "" : out.error().line().c_str());
        QCOMPARE(*part(out.value(), "gaiter").cost, 12.5);
        QCOMPARE(*part(out.value(), "gaiter").mass_kg, 0.4);
    }
    void badTablesNameThePlace_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("words");
        QTest::newRow("empty") << ""
                               << "list.csv: it is empty";
        QTest::newRow("no name") << "id,cost\na,1\n"
                                 << "no column \"name\"";
        QTest::newRow("column") << "name,price\na,1\n"
                                << "line 1: the column \"price\" is not known";
        QTest::newRow("number") << "name,cost\na,1\nb,cheap\n"
                                << "line 3, cost: \"cheap\" is not a number";
        QTest::newRow("unit") << "name,mass_kg\na,3 lb\n"
                              << "without its unit";
        QTest::newRow("state") << "name,state\na,lost\n"
                               << "line 2, state: \"lost\" is not one of those";
        QTest::newRow("place") << "name,x_mm,y_mm,z_mm\na,1,,3\n"
                               << "only some of the three are given";
        QTest::newRow("cells") << "name,cost\na,1,5\n"
                               << "line 2: it has more cells";
        QTest::newRow("quote") << "name,cost\n\"a,1\n"
                               << "line 2: a quote is opened";
        QTest::newRow("twice") << "id,name\na,A\na,B\n"
                               << "stands in line 2 too";
        QTest::newRow("needs") << "name,needs\nA,nothing-like-it\n"
                               << "there is no part \"nothing-like-it\"";
        QTest::newRow("negative") << "name,mass_kg\nA,-3\n"
                                  << "mass_kg is not between";
        QTest::newRow("nan") << "name,cost\nA,nan\n"
                             << "is not a number";
    }
    void badTablesNameThePlace() {
        QFETCH(QString, text);
        QFETCH(QString, words);
        const QString line = QString::fromStdString(complaint(text.toStdString()));
        QVERIFY2(line.contains(words), qPrintable(line));
    }

    void numbersWithEitherMark() {
        const auto cost = [](const std::string& text) {
            const auto read = partsFrom(demo(), text);
            return read ? part(read.value(), "x").cost : std::optional<double>(-1);
        };
        QCOMPARE(cost("id,name,cost\nx,X,12.5\n"), std::optional(12.5));
        QCOMPARE(cost("id,name,cost\nx,X,\"12,5\"\n"), std::optional(12.5));
        QCOMPARE(cost("id;name;cost\nx;X;12,5\n"), std::optional(12.5));
        QCOMPARE(cost("id;name;cost\nx;X;12.5\n"), std::optional(12.5));
        QVERIFY(complaint("id,name,cost\nx,X,\"1,234\"\n").find("two ways") != std::string::npos);
        Project p = demo();
        p.sections.edit<Parts>().front().cost = 1234.5625;
        QVERIFY(store::partsCsv(p).find("1234.5625") != std::string::npos);
    }
    /// Nothing that a spreadsheet would run; and it comes back as it was.
    void formulasAreNotRun() {
        Project p = demo();
        const char* const names[] = {"=1+1",     "@sum",     "+49 123",   "-12 V lead",
                                     "'=quoted", "''=twice", "'32 coupe", "-5"};
        p.sections.edit<Parts>().resize(std::size(names));
        for (std::size_t i = 0; i < std::size(names); ++i) {
            (p.sections.edit<Parts>())[i] = Part{};
            (p.sections.edit<Parts>())[i].id.text = "p" + std::to_string(i);
            (p.sections.edit<Parts>())[i].name = names[i];
            (p.sections.edit<Parts>())[i].at_mm = Vector3d(-12.5, 0, 1);
        }
        const std::string text = store::partsCsv(p);
        for (const char* run : {",=", ",@", ",+", ",-12 V", "\n="}) QVERIFY2(text.find(run) == std::string::npos, run);
        QVERIFY(text.find(",'=1+1,") != std::string::npos && text.find(",'32 coupe,") != std::string::npos);
        QVERIFY(text.find(",-12.5,") != std::string::npos); // figures stay figures
        Project bare = p;
        bare.sections.drop<Parts>();
        const auto back = partsFrom(bare, text);
        QVERIFY2(back.ok(), back.ok() ? "" : back.error().line().c_str());
        for (std::size_t i = 0; i < std::size(names); ++i)
            QCOMPARE((*back.value().sections.get<Parts>())[i].name, std::string(names[i]));
    }
    void anotherEncodingIsTold() {
        const std::string wrong = complaint("id,name\na,A\nx,K\xFChler\n");
        QVERIFY2(wrong.find("line 3") != std::string::npos && wrong.find("UTF-8") != std::string::npos, wrong.c_str());
        const std::string control = complaint("id,name\nx,\"a\x1b[2Jb\"\n");
        QVERIFY2(control.find("line 2") != std::string::npos && control.find("U+001B") != std::string::npos,
                 control.c_str());
        // Line ends of another system inside a cell are line ends.
        const auto folded = partsFrom(demo(), "id,name,note\r\nx,X,\"one\r\ntwo\"\r\n");
        QVERIFY(folded.ok());
        QCOMPARE(part(folded.value(), "x").note, std::string("one\ntwo"));
        // What came in by a table can be saved and opened again.
        const auto name = partsFrom(demo(), "id,name,why\nx,\"two\nlines\",\"a\nb\"\n");
        QVERIFY(name.ok());
        const auto again = store::projectFromText(store::projectText(name.value()), "again", store::defaultRuleBook());
        QVERIFY(again.ok());
        QCOMPARE(part(again.value().project, "x").name, std::string("two lines"));
    }
    void veryManyRows() {
        std::string text = "name,cost\n";
        for (int i = 0; i < 15000; ++i) text += "Bolt,1\n"; // all of one name: each gets an id of its own
        const auto read = partsFrom(demo(), text);
        QVERIFY2(read.ok(), read.ok() ? "" : read.error().line().c_str());
        QCOMPARE(read.value().sections.get<Parts>()->back().id.text, std::string("bolt-15000"));
        for (int i = 0; i < 10000; ++i) text += "Nut,1\n";
        QVERIFY(complaint(text).find("more than 20000 lines") != std::string::npos);
    }
};

GABARIT_SUITE(CsvTest)
#include "csv_test.moc"
