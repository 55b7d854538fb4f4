// Weights and parts in the window: what counts, what it costs, tables out and in.
#include "forms/entry_form.h"
#include "forms/tones.h"
#include "ledger/parts.h"
#include "parts/parts.h"
#include "session/session.h"
#include "stages/parts/parts_stage.h"
#include "stages/weights/weights_stage.h"
#include "store/project_file.h"
#include "support/suite.h"
#include "support/window_hand.h"
#include "weights/axle_loads.h"
#include "weights/hoist.h"
#include "weights/section/weights.h"
#include "window/gauge_strip.h"
#include "window/main_window.h"

#include <QComboBox>
#include <QFile>
#include <QLineEdit>
#include <QPushButton>
#include <QStandardPaths>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;
using namespace gabarit::app;

class LedgerWindowTest : public QObject, tests::WindowHand {
    Q_OBJECT

    QTemporaryDir folder_;

    WeightsStage* weights() { return window_->stage<WeightsStage>(); }
    PartsStage* parts() { return window_->stage<PartsStage>(); }
    int rowOf(QTableWidget* table, const QString& key) {
        for (int r = 0; r < table->rowCount(); ++r)
            if (table->item(r, 0)->data(Qt::UserRole).toString() == key) return r;
        return -1;
    }

private slots:
    void init() {
        openWindow();
        QVERIFY(window_->openDemo());
        settle();
    }
    void cleanup() { window_.reset(); }

    void partsAreFoundFilteredAndTicked() {
        window_->goToStage(QStringLiteral("parts"));
        settle();
        QTableWidget* table = parts()->table();
        const int all = table->rowCount();
        QVERIFY(all > 5);
        QTest::keyClicks(parts()->search(), "sump");
        QVERIFY(table->rowCount() > 0 && table->rowCount() < all);
        for (int r = 0; r < table->rowCount(); ++r) {
            const std::string id = table->item(r, 0)->data(Qt::UserRole).toString().toStdString();
            for (const model::Part& part : model::partsOf(*session().project()))
                if (part.id.text == id)
                    QVERIFY(QString::fromStdString(part.name + part.source + part.note + part.why)
                                .contains("sump", Qt::CaseInsensitive));
        }
        QTest::keyClicks(parts()->search(), " zzz");
        QCOMPARE(table->rowCount(), 0);
        parts()->search()->clear();
        QCOMPARE(table->rowCount(), all);
        parts()->filter()->setCurrentIndex(parts()->filter()->findData("get"));
        const int open = table->rowCount();
        QVERIFY(open > 0 && open < all);
        // Ticked, it is here: one step, and the list of what is to be got is one shorter.
        const std::string id = table->item(0, 0)->data(Qt::UserRole).toString().toStdString();
        const auto state = [&] {
            for (const model::Part& part : model::partsOf(*session().project()))
                if (part.id.text == id) return part.state;
            return model::PartState::Sold;
        };
        table->item(0, 0)->setCheckState(Qt::Checked);
        QCOMPARE(state(), model::PartState::Here);
        QCOMPARE(table->rowCount(), open - 1);
        QVERIFY2(session().history().undoText().startsWith("got:"), qPrintable(session().history().undoText()));
        session().history().undo();
        QCOMPARE(state(), model::PartState::Needed);
        QCOMPARE(table->rowCount(), open);
        parts()->filter()->setCurrentIndex(0);
        QCOMPARE(table->rowCount(), all);
    }

    void itemsOffAndOn() {
        window_->goToStage(QStringLiteral("weights"));
        const double front = *session().reports()->of<weights::AxleLoadReport>()->front.load_kg,
                     rear = *session().reports()->of<weights::AxleLoadReport>()->rear.load_kg;
        // The driver: 80 kg at 1350 of 2650.
        const int driver = rowOf(weights()->table(), QStringLiteral("load:0"));
        QVERIFY(driver >= 0);
        QCOMPARE(weights()->table()->item(driver, 0)->text(), QStringLiteral("Driver"));
        weights()->table()->item(driver, 0)->setCheckState(Qt::Unchecked);
        QCOMPARE(session().history().undoText(), QStringLiteral("leave out the driver"));
        settle();
        QVERIFY(std::abs(front - *session().reports()->of<weights::AxleLoadReport>()->front.load_kg -
                         80 * (1 - 1350.0 / 2650)) < 1e-9);
        QVERIFY(std::abs(rear - *session().reports()->of<weights::AxleLoadReport>()->rear.load_kg -
                         80 * 1350.0 / 2650) < 1e-9);
        QCOMPARE(weights()->table()->item(driver, 3)->text(), QStringLiteral("not counted"));
        weights()->table()->item(driver, 0)->setCheckState(Qt::Checked);
        settle();
        QCOMPARE(*session().reports()->of<weights::AxleLoadReport>()->front.load_kg, front);
        // One of the donor's masses goes from the hoist too.
        const double hangs = *session().reports()->of<weights::HoistReport>()->mass_kg;
        const int gearbox = rowOf(weights()->table(), QStringLiteral("mass:3"));
        weights()->table()->item(gearbox, 0)->setCheckState(Qt::Unchecked);
        settle();
        QCOMPARE(*session().reports()->of<weights::HoistReport>()->mass_kg, hangs - 43);
        QVERIFY(weights()->hoistWords().contains(QStringLiteral("249.0 kg")));
    }

    /// How a mass is known changes the axle's ±, in the sheet, the summary and the total's words.
    void howAMassIsKnownAndTheTotal() {
        const TotalButton* total = window_->gauges()->total();
        QVERIFY(total->isVisible());
        QCOMPARE(total->headline(), QStringLiteral("Not yet"));
        QVERIFY(total->toolTip().contains(QStringLiteral("no-go; do not cut yet")));
        session().usePlacement({"second-try"});
        settle();
        QCOMPARE(total->headline(), QStringLiteral("Go; do not cut yet"));
        window_->goToStage(QStringLiteral("weights"));
        const double sure = *session().reports()->of<weights::AxleLoadReport>()->front.accuracy_kg;
        const int engine = rowOf(weights()->table(), QStringLiteral("mass:0"));
        weights()->table()->setCurrentCell(engine, 0);
        QCOMPARE(weights()->table()->item(engine, 2)->text(), QStringLiteral("2.0 kg")); // 1 % of 198
        pick(weights()->form(), "mass_from", QStringLiteral("estimated"));
        settle();
        QCOMPARE(weights()->table()->item(engine, 2)->text(), QStringLiteral("19.8 kg"));
        QVERIFY(*session().reports()->of<weights::AxleLoadReport>()->front.accuracy_kg > sure + 5);
        QVERIFY(weights()->summary().contains(QStringLiteral("now ±22 kg"))); // √(10² + 18.7² + the others)
        // Wheel by wheel: the summary says what stands on each.
        QVERIFY(weights()->summary().contains(QStringLiteral("front, passenger's side 282.0 kg before")));
        type(weights()->form(), "front_left", QString());
        settle();
        QVERIFY(!project().sections.get<model::Weights>()->corners.front_left_kg);
        QVERIFY(weights()->summary().contains(QStringLiteral("front, driver's side 270.0 kg before")));
        session().history().undo();
        settle();
        QCOMPARE(*project().sections.get<model::Weights>()->corners.front_left_kg, 282.0);
    }

    void aLoadOfOnesOwnAndItsLimits() {
        window_->goToStage(QStringLiteral("weights"));
        QTest::mouseClick(weights()->button(QStringLiteral("add")), Qt::LeftButton);
        type(weights()->form(), "name", QStringLiteral("Passenger"));
        type(weights()->form(), "mass_kg", QStringLiteral("165 lb"));
        type(weights()->form(), "at_mm_x", QStringLiteral("1350"));
        settle();
        const model::Mass& load = project().sections.get<model::Weights>()->loads.back();
        QCOMPARE(load.name, std::string("Passenger"));
        QVERIFY(std::abs(*load.mass_kg - 165 * 0.45359237) < 1e-9);
        type(weights()->form(), "limit_front", QStringLiteral("600 kg"));
        settle();
        QCOMPARE(session().reports()->of<weights::AxleLoadReport>()->front.verdict, model::Verdict::NoGo);
        QVERIFY(weights()->summary().contains(QStringLiteral("limit 600.0 kg: no-go")));
        weights()->choose(QStringLiteral("load:%1").arg(project().sections.get<model::Weights>()->loads.size() - 1));
        QTest::mouseClick(weights()->button(QStringLiteral("delete")), Qt::LeftButton);
        QVERIFY(project().sections.get<model::Weights>()->loads.back().name != "Passenger");
    }

    /// A part that sits at a body goes where the body goes.
    void placeFromABody() {
        window_->goToStage(QStringLiteral("parts"));
        QTest::mouseClick(parts()->button(QStringLiteral("add")), Qt::LeftButton);
        type(parts()->form(), "name", QStringLiteral("Bigger battery"));
        pick(parts()->form(), "on_car", QStringLiteral("put on"));
        type(parts()->form(), "mass_kg", QStringLiteral("10"));
        pick(parts()->form(), "body", QStringLiteral("Battery"));
        settle();
        const auto line = [this] {
            for (const weights::WeightLine& l : session().reports()->of<weights::AxleLoadReport>()->lines)
                if (l.name == "Bigger battery") return l;
            return weights::WeightLine{};
        };
        const double x = line().at_vehicle_mm.x();
        QCOMPARE(line().mass_kg, 10.0);
        session().takeInHand(model::BodyRef{"vehicle", {"battery"}});
        session().nudge({100, 0, 0});
        settle();
        QVERIFY(std::abs(line().at_vehicle_mm.x() - x - 100) < 1e-9);
    }

    void whatItCosts() {
        window_->goToStage(QStringLiteral("parts"));
        const ledger::PartsReport before = ledger::parts(project());
        QTest::mouseClick(parts()->button(QStringLiteral("add")), Qt::LeftButton);
        type(parts()->form(), "name", QStringLiteral("Shaft loop"));
        type(parts()->form(), "cost", QStringLiteral("45,50"));
        QCOMPARE(ledger::parts(project()).to_spend - before.to_spend, 45.5);
        QVERIFY(parts()->summary().contains(QString::fromStdString(quantity::fixed(before.to_spend + 45.5, 2))));
        pick(parts()->form(), "state", QStringLiteral("here"));
        QCOMPARE(ledger::parts(project()).to_spend, before.to_spend);
        type(parts()->form(), "needs", QStringLiteral("Propeller shaft"));
        QCOMPARE(project().sections.get<model::Parts>()->back().needs.size(), std::size_t(1));
        type(parts()->form(), "needs", QStringLiteral("a miracle"));
        QVERIFY(window_->noticeText().contains(QStringLiteral("a miracle")));
        type(parts()->form(), "cost", QStringLiteral("much"));
        QVERIFY(window_->noticeText().contains(QStringLiteral("is not a number")));
        type(parts()->form(), "budget", QStringLiteral("100"));
        QVERIFY(parts()->summary().contains(QStringLiteral("no-go")));
        parts()->choose(QStringLiteral("propshaft"));
        QTest::mouseClick(parts()->button(QStringLiteral("delete")), Qt::LeftButton);
        for (const model::Part& part : *project().sections.get<model::Parts>()) QVERIFY(part.id.text != "propshaft");
        QVERIFY(project().sections.get<model::Parts>()->back().needs.empty()); // nothing needs it any more
        while (session().history().canUndo()) session().history().undo();
        QCOMPARE(ledger::parts(project()).to_spend, before.to_spend);
    }

    void tablesOutAndIn() {
        window_->goToStage(QStringLiteral("parts"));
        const QString path = folder_.filePath(QStringLiteral("parts.csv"));
        QVERIFY(parts()->writeTable(path));
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QByteArray text = file.readAll();
        file.close();
        // What a spreadsheet would do: another price, another part.
        text += "lamp,Work lamp,,shop,here,12.5\n";
        QVERIFY(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
        file.write(text);
        file.close();
        const std::size_t before = project().sections.get<model::Parts>()->size();
        QVERIFY(parts()->readTable(path));
        QCOMPARE(project().sections.get<model::Parts>()->size(), before + 1);
        QCOMPARE(project().sections.get<model::Parts>()->back().name, std::string("Work lamp"));
        QCOMPARE(*project().sections.get<model::Parts>()->back().cost, 12.5);
        QCOMPARE(session().history().undoText(), QStringLiteral("parts from a table"));
        QVERIFY(file.open(QIODevice::WriteOnly | QIODevice::Truncate));
        file.write("name,cost\nLamp,dear\n");
        file.close();
        QVERIFY(!parts()->readTable(path));
        QVERIFY(window_->noticeText().contains(QStringLiteral("line 2")));
        QCOMPARE(project().sections.get<model::Parts>()->size(), before + 1);
        QVERIFY(!parts()->readTable(folder_.filePath(QStringLiteral("nowhere.csv"))));
        const QString loads = folder_.filePath(QStringLiteral("loads"));
        QVERIFY(weights()->writeTable(loads));
        QVERIFY(QFile::exists(loads + QStringLiteral(".csv")));
        const std::string text_before = store::projectText(project());
        QVERIFY(weights()->readTable(loads + QStringLiteral(".csv")));
        QCOMPARE(store::projectText(project()), text_before); // nothing changed in between
    }
};

GABARIT_WINDOW_SUITE(LedgerWindowTest)
#include "ledger_window_test.moc"
