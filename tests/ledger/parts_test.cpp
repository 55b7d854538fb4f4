#include "ledger/parts.h"
#include "ledger/section/money.h"
#include "parts/parts.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::model;

namespace {
Part part(const char* id, PartState state, std::optional<double> cost, std::vector<PartId> needs = {}) {
    Part p;
    p.id.text = id;
    p.name = id;
    p.state = state;
    p.cost = cost;
    p.needs = std::move(needs);
    return p;
}
} // namespace

class PartsTest : public QObject {
    Q_OBJECT
private slots:
    void sums() {
        Project p;
        p.sections.edit<Parts>() =
            std::vector<Part>{part("a", PartState::Needed, 10),  part("b", PartState::Ordered, 20),
                              part("c", PartState::Here, 40),    part("d", PartState::TestFitted, 80),
                              part("e", PartState::Fitted, 160), part("f", PartState::ToReturn, 320),
                              part("g", PartState::Sold, 7)};
        auto report = ledger::parts(p);
        QCOMPARE(report.to_spend, 10.0);
        QCOMPARE(report.spent, 620.0);
        QCOMPARE(report.to_get_back, 320.0);
        QCOMPARE(report.income, 7.0);
        QCOMPARE(report.total(), 623.0);
        QCOMPARE(report.missing, 2);
        QVERIFY(!report.verdict); // nobody asked
        p.sections.edit<ledger::Money>();
        QCOMPARE(*ledger::parts(p).verdict, Verdict::Unknown);
        p.sections.edit<ledger::Money>().budget = 623;
        QCOMPARE(*ledger::parts(p).verdict, Verdict::Go);
        p.sections.edit<ledger::Money>().budget = 622;
        QCOMPARE(*ledger::parts(p).verdict, Verdict::NoGo);
    }
    void withoutAPriceTheBudgetIsNotKnown() {
        Project p;
        p.sections.edit<ledger::Money>();
        p.sections.edit<ledger::Money>().budget = 100;
        p.sections.edit<Parts>() = std::vector<Part>{part("a", PartState::Needed, std::nullopt)};
        QCOMPARE(*ledger::parts(p).verdict, Verdict::Unknown);
        p.sections.edit<Parts>().push_back(part("b", PartState::Needed, 200));
        QCOMPARE(*ledger::parts(p).verdict, Verdict::NoGo); // overrun already
        QCOMPARE(ledger::parts(p).unpriced, std::vector<std::string>{"a"});
    }
    void massesOnAndOff() {
        Project p;
        p.sections.edit<Parts>() =
            std::vector<Part>{part("on", PartState::Here, 1), part("off", PartState::Sold, 1),
                              part("neither", PartState::Here, 1), part("not weighed", PartState::Here, 1)};
        const std::optional<double> masses[] = {12.5, 248.0, 9.0, std::nullopt};
        const OnCar ways[] = {OnCar::On, OnCar::Off, OnCar::No, OnCar::On};
        for (std::size_t i = 0; i < 4; ++i) {
            (p.sections.edit<Parts>())[i].mass_kg = masses[i];
            (p.sections.edit<Parts>())[i].on_car = ways[i];
        }
        const auto report = ledger::parts(p);
        QCOMPARE(report.mass_on_kg, 12.5);
        QCOMPARE(report.mass_off_kg, 248.0);
        QCOMPARE(*report.lines[1].mass_kg, 248.0);
        QVERIFY(!report.lines[3].mass_kg);
    }
    void companions() {
        Project p;
        p.sections.edit<Parts>() = std::vector<Part>{
            part("engine", PartState::Here, 1, {{"loom"}, {"box"}}), part("loom", PartState::Needed, 1),
            part("box", PartState::Here, 1), part("old", PartState::Sold, 1, {{"loom"}})};
        const auto report = ledger::parts(p);
        QCOMPARE(report.lines[0].missing_companions, std::vector<std::string>{"loom"});
        QVERIFY(report.lines[3].missing_companions.empty());
    }
};

GABARIT_SUITE(PartsTest)
#include "parts_test.moc"
