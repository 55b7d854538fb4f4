// Tables for a spreadsheet: out and in again, and what is wrong with a bad one.
#include "store/csv.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {

Project demo() {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
        .value()
        .project;
}
Result<Project> parts(const Project& p, const std::string& text) {
    return store::withPartsCsv(p, text, "list.csv", store::defaultRuleBook());
}
std::string complaint(const std::string& text) {
    const auto out = parts(demo(), text);
    return out ? std::string() : out.error().line();
}
const Part& part(const Project& p, const char* id) {
    for (const Part& one : *p.parts)
        if (one.id.text == id) return one;
    qFatal("no part %s", id);
}

} // namespace

class CsvTest : public QObject {
    Q_OBJECT
private slots:
    void partsComeBackAsTheyWere() {
        Project p = demo();
        p.parts->front().note = "a \"quoted\", long\nnote; with everything";
        Project bare = p;
        bare.parts.reset();
        const auto back = parts(bare, store::partsCsv(p));
        QVERIFY2(back.ok(), back.ok() ? "" : back.error().line().c_str());
        QCOMPARE(QString::fromStdString(store::projectText(back.value())),
                 QString::fromStdString(store::projectText(p)));
        const auto again = parts(p, store::partsCsv(p)); // nothing doubles
        QCOMPARE(QString::fromStdString(store::projectText(again.value())),
                 QString::fromStdString(store::projectText(p)));
    }
    void loadsComeBackAsTheyWere() {
        const Project p = demo();
        Project bare = p;
        bare.weights->loads.clear();
        const auto back = store::withLoadsCsv(bare, store::loadsCsv(p), "l.csv", store::defaultRuleBook());
        QVERIFY(back.ok());
        QCOMPARE(QString::fromStdString(store::projectText(back.value())),
                 QString::fromStdString(store::projectText(p)));
        QVERIFY(!store::withLoadsCsv(p, "name,mass_kg\nDog,30\n", "l.csv", store::defaultRuleBook())); // where?
    }
    void missingColumnsLeaveWhatIsThere() {
        const Project p = demo();
        const auto out = parts(p, "id,name,cost\npropshaft,Propeller shaft,455.5\n");
        QVERIFY(out.ok());
        QCOMPARE(*part(out.value(), "propshaft").cost, 455.5);
        QCOMPARE(part(out.value(), "propshaft").mass_kg, part(p, "propshaft").mass_kg);
        QCOMPARE(out.value().parts->size(), p.parts->size());
    }
    void newPartsAreAdded() {
        const auto out = parts(demo(), "name,state,cost,needs\nGaiter,test-fitted,,propshaft isolators\n");
        QVERIFY(out.ok());
        const Part& gaiter = part(out.value(), "gaiter");
        QVERIFY(gaiter.state == PartState::TestFitted && !gaiter.cost && gaiter.needs.size() == 2);
    }
    void whatASpreadsheetElsewhereWrites() {
        const auto out = parts(demo(), "\xEF\xBB\xBFname;cost;mass_kg\r\nGaiter;12,50;0,4\r\n\r\n");
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
                               << "it needs \"nothing-like-it\"";
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
};

GABARIT_SUITE(CsvTest)
#include "csv_test.moc"
