// The order of disciplines: each after those whose offers it needs; cards that do not go together are refused.
#include "discipline/board.h"
#include "support/suite.h"

#include <QtTest>

using namespace gabarit;
using namespace gabarit::discipline;

namespace {

struct Water {};
struct Bread {};
struct Fire {};

class Fellow : public Discipline {
public:
    Fellow(std::string id, int order, std::vector<std::type_index> needs, std::vector<std::type_index> offers,
           std::vector<std::string> reads = {"vehicle"})
        : Discipline(Card(std::move(id))
                         .at(order)
                         .reading(std::move(reads))
                         .needing(std::move(needs))
                         .offering(std::move(offers))) {}
    Report judge(const Given&) const override { return {}; }
};

/// One that can do something.
class Doer : public Fellow {
public:
    Doer(std::string id, const char* deed) : Fellow(std::move(id), 9, {}, {}), deed_(deed) {}
    std::vector<Deed> deeds() const override {
        return {{deed_, "", false, "", "", "",
                 [](const DeedGiven& given) -> Result<model::Project> { return given.project; }}};
    }

private:
    const char* deed_;
};

const std::type_index water = typeid(Water), bread = typeid(Bread), fire = typeid(Fire);

QString refused(const std::vector<const Discipline*>& all) {
    const auto board = Board::of(all);
    return board ? QString() : QString::fromStdString(board.error().line());
}

} // namespace

class BoardTest : public QObject {
    Q_OBJECT
private slots:
    void whatIsNeededComesFirst() {
        const Fellow baker("baker", 1, {water, fire}, {bread}), well("well", 2, {}, {water}),
            stove("stove", 3, {}, {fire}), guest("guest", 0, {bread}, {});
        const auto made = Board::of({&baker, &well, &stove, &guest});
        QVERIFY(made.ok());
        const Board& board = made.value();
        // As they are shown: guest, baker, well, stove.
        QCOMPARE(board[0].card().id, std::string("guest"));
        QCOMPARE(board[3].card().id, std::string("stove"));
        QCOMPARE(board.before(0), std::vector<std::size_t>{1});
        QCOMPARE(board.before(1), (std::vector<std::size_t>{2, 3}));
        QVERIFY(board.before(2).empty());
        QCOMPARE(board.behind(2), 2); // baker, then guest
        QCOMPARE(board.behind(0), 0);
    }
    void whatDoesNotGoTogetherIsRefused() {
        const Fellow a("a", 1, {water}, {bread}), b("b", 2, {bread}, {water}), c("c", 3, {}, {water}),
            d("d", 4, {}, {}), again("d", 5, {}, {}), odd("odd", 6, {}, {}, {"vehicle", "wings"});
        QVERIFY(refused({&a, &c, &d}).isEmpty());
        QVERIFY2(refused({&a, &b}).contains(QStringLiteral("waits for it")), qPrintable(refused({&a, &b})));
        QVERIFY2(refused({&b, &c}).contains(QStringLiteral("offers what b offers")), qPrintable(refused({&b, &c})));
        QVERIFY2(refused({&a}).contains(QStringLiteral("none offers")), qPrintable(refused({&a})));
        QVERIFY2(refused({&d, &again}).contains(QStringLiteral("two disciplines")), qPrintable(refused({&d, &again})));
        const Doer cook("cook", "boil"), smith("smith", "boil"), mason("mason", "build");
        QVERIFY(refused({&cook, &mason}).isEmpty());
        QVERIFY2(refused({&cook, &smith}).contains(QStringLiteral("\"boil\"")), qPrintable(refused({&cook, &smith})));
        QVERIFY2(refused({&odd}).contains(QStringLiteral("\"wings\"")), qPrintable(refused({&odd})));
    }
    void whatIsOfferedIsToldByItsContent() {
        Offers one, same, other;
        one.offer(AxleChange{12.5, {}, {"jack"}});
        same.offer(AxleChange{12.5, {}, {"jack"}});
        other.offer(AxleChange{12.5, 0.0, {"jack"}}); // known to be nothing is not unknown
        const std::type_index type = typeid(AxleChange);
        QCOMPARE(one.mark(type), same.mark(type));
        QVERIFY(one.mark(type) != other.mark(type));
        QCOMPARE(one.mark(typeid(WeldPull)), std::uint64_t(0));
        Offers taken;
        taken.take(typeid(WeldPull), one);
        QVERIFY(!taken.get<WeldPull>() && !taken.get<AxleChange>());
        taken.take(type, one);
        QCOMPARE(taken.get<AxleChange>()->left_out.front(), std::string("jack"));
        QCOMPARE(taken.mark(type), one.mark(type));
    }
    void theWorstCheckOfThoseAlike() {
        std::vector<model::Check> checks(3);
        for (std::size_t i = 0; i < 3; ++i) {
            checks[i].id = "c" + std::to_string(i);
            checks[i].value = 10.0 + 5.0 * static_cast<double>(i);
            checks[i].good_most = 20;
            model::judge(checks[i]);
        }
        const auto any = [](const model::Check&) { return true; };
        QCOMPARE(*worstOf(checks, any), std::size_t(2)); // all go: the one that uses most of its room, 20 of 20
        checks[0].value.reset();
        model::judge(checks[0]);
        QCOMPARE(*worstOf(checks, any), std::size_t(0)); // unknown is worse than go
        QVERIFY(!worstOf(checks, [](const model::Check&) { return false; }));
    }
    void aFigureThatIsNotGoIsAFinding() {
        const Fellow one("one", 1, {}, {});
        Report report;
        model::Check check;
        check.id = "rope/length";
        check.what = "Length";
        check.unit = model::Unit::Millimetres;
        check.value = 12;
        check.good_least = 20;
        check.of = "Front rope";
        check.rule = "long enough (a source)";
        check.caution = "It falls.";
        check.place_vehicle_mm = Eigen::Vector3d(1, 2, 3);
        check.help = [](const quantity::Shown& shown) { return "Add " + quantity::lengthText(8, shown, 0) + "."; };
        check.label = [](const quantity::Shown&) { return std::string("rope short"); };
        model::judge(check);
        report.hold(check);
        check.id = "rope/strength";
        check.value = 30;
        model::judge(check);
        report.hold(check);
        report.dials.push_back({"rope", "Rope", 0, "front rope"});
        QCOMPARE(*report.verdict, model::Verdict::NoGo);
        const model::RuleBook book;
        std::vector<Finding> findings;
        std::vector<Gauge> gauges;
        one.tell(report, {book}, findings);
        one.show(report, {book}, gauges);
        QCOMPARE(findings.size(), std::size_t(1));
        const Finding& f = findings.front();
        QCOMPARE(f.id, std::string("one:rope/length"));
        QCOMPARE(f.discipline, std::string("one"));
        QCOMPARE(QString::fromStdString(f.title), QStringLiteral("Front rope, length: 12.0 mm"));
        QCOMPARE(f.help, std::string("Add 8 mm."));
        QCOMPARE(f.caution, std::string("It falls."));
        QCOMPARE(f.label, std::string("rope short"));
        QVERIFY(f.place_vehicle_mm && f.place_vehicle_mm->z() == 3);
        QCOMPARE(gauges.size(), std::size_t(1));
        QCOMPARE(gauges.front().finding, f.id);
        QCOMPARE(*gauges.front().figure, 12.0);
    }
};

GABARIT_SUITE(BoardTest)
#include "board_test.moc"
