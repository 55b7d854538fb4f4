// One checker for all disciplines that there are: what each says of itself is true, whatever it is of.
#include "discipline/sections.h"
#include "disciplines/all.h"
#include "model/datum.h"
#include "support/files.h"
#include "support/kept_colliders.h"
#include "support/members.h"
#include "support/suite.h"

#include <QRegularExpression>
#include <QtTest>

#include <set>

using namespace gabarit;
using discipline::Board;
using discipline::Offers;

namespace {

const char* const demos[] = {"harrow-tarn", "skerry-quad", "pell-wren", "mount-bench", "relief-bench", "shaft-bench"};

/// How a project is handed to a discipline.
enum class Hand { Whole, OnlyWhatItReads };

/// All that a discipline says, as text.
using Said = std::map<std::string, QStringList>;

QString number(const std::optional<double>& v) { return v ? QString::number(*v, 'g', 6) : QStringLiteral("?"); }

/// Judges with every discipline in turn, each with the offers of those before it.
Said said(const model::Project& project, proximity::ColliderCache& colliders, Hand hand) {
    const Board& board = disciplines::all();
    const model::RuleBook book = model::applied(store::defaultRuleBook(), project.rules);
    placed::Scene scene = placed::makeScene(project, colliders);
    placed::Scene vehicle;
    for (const placed::PlacedBody& body : scene.bodies)
        if (!body.in_donor) vehicle.bodies.push_back(body);
    std::vector<std::optional<discipline::Report>> reports(board.size());
    Said out;
    for (std::size_t done = 0; done < board.size();)
        for (std::size_t i = 0; i < board.size(); ++i) {
            const auto& before = board.before(i);
            if (reports[i] || !std::all_of(before.begin(), before.end(), [&](std::size_t k) { return reports[k]; }))
                continue;
            const discipline::Card& card = board[i].card();
            Offers offers;
            for (const std::size_t k : before)
                for (const auto type : card.needs) offers.take(type, reports[k]->offers);
            const bool pose = std::find(card.reads.begin(), card.reads.end(), "pose") != card.reads.end();
            discipline::Given given{std::make_shared<const model::Project>(
                                        hand == Hand::Whole ? project : discipline::only(project, card.reads)),
                                    book,
                                    !card.scene                   ? nullptr
                                    : pose || hand == Hand::Whole ? &scene
                                                                  : &vehicle,
                                    offers, colliders};
            given.depth = discipline::Depth::Skipped;
            given.effort = discipline::Effort::Verdict;
            reports[i] = board[i].judge(given);
            reports[i]->project = given.project;
            ++done;
            QStringList& lines = out[card.id];
            lines << (reports[i]->verdict ? QLatin1String(model::word(*reports[i]->verdict)) : QLatin1String("-"));
            for (const model::Check& check : reports[i]->checks)
                lines << QString::fromStdString(check.id + " ") + QLatin1String(model::word(check.verdict)) +
                             QLatin1Char(' ') + number(check.value);
            std::vector<discipline::Finding> findings;
            board[i].tell(*reports[i], {book}, findings);
            for (const discipline::Finding& f : findings)
                lines << QString::fromStdString(f.id + ": " + f.title + "; " + f.detail + "; " + f.help + "; " +
                                                f.caution);
            std::vector<discipline::Gauge> gauges;
            board[i].show(*reports[i], {book}, gauges);
            for (const discipline::Gauge& g : gauges)
                lines << QString::fromStdString(g.id + " " + g.value + " " + g.limit + " " + g.subject);
            for (const auto type : card.offers)
                lines << QStringLiteral("offers %1").arg(reports[i]->offers.mark(type), 0, 16);
        }
    return out;
}

void same(const Said& a, const Said& b, const QString& where) {
    QCOMPARE(a.size(), b.size());
    for (const auto& [id, lines] : a) {
        const QStringList& others = b.at(id);
        for (int i = 0; i < std::max(lines.size(), others.size()); ++i)
            if (lines.value(i) != others.value(i))
                QFAIL(qPrintable(where + QStringLiteral(", ") + QString::fromStdString(id) + QStringLiteral(":\n  ") +
                                 lines.value(i) + QStringLiteral("\n  ") + others.value(i)));
    }
}

void addDemos() {
    QTest::addColumn<QString>("demo");
    QTest::addColumn<int>("placement");
    for (const char* name : demos) {
        const auto count = static_cast<int>(tests::demo(name).placements.size());
        for (int i = 0; i < std::max(1, count); ++i) QTest::addRow("%s, %d", name, i) << QString::fromLatin1(name) << i;
    }
}

model::Project fetched() {
    QFETCH(const QString, demo);
    QFETCH(const int, placement);
    model::Project project = tests::demo(demo.toStdString());
    if (!project.placements.empty())
        project.active_placement = project.placements[static_cast<std::size_t>(placement)].id;
    return project;
}

} // namespace

class LawsTest : public QObject {
    Q_OBJECT
private slots:
    void cardsSayWhatTheyAre() {
        const Board& board = disciplines::all();
        QVERIFY(board.size() >= 8);
        std::set<int> orders;
        for (std::size_t i = 0; i < board.size(); ++i) {
            QVERIFY(!board[i].card().id.empty() && !board[i].card().reads.empty());
            QVERIFY2(orders.insert(board[i].card().order).second, board[i].card().id.c_str());
        }
    }
    /// What a discipline is not given it does not miss: it names all that it reads.
    void noneReadsWhatItDoesNotSay_data() { addDemos(); }
    void noneReadsWhatItDoesNotSay() {
        const model::Project project = fetched();
        same(said(project, colliders_, Hand::Whole), said(project, colliders_, Hand::OnlyWhatItReads), "less");
    }
    /// Written and read again, everything is said as before.
    void aFileSaysTheSame_data() { addDemos(); }
    void aFileSaysTheSame() {
        const model::Project project = fetched();
        same(said(project, colliders_, Hand::OnlyWhatItReads),
             said(tests::again(project), colliders_, Hand::OnlyWhatItReads), "again");
    }
    /// Heights taken from somewhere else are other numbers of the same vehicle.
    void heightsFromElsewhereSayTheSame_data() { addDemos(); }
    void heightsFromElsewhereSayTheSame() {
        const model::Project project = fetched();
        if (!project.vehicle) return;
        const model::Project moved = model::withDatumMoved(project, 128, "other", "Bench");
        Said before = said(project, colliders_, Hand::OnlyWhatItReads);
        Said after = said(moved, colliders_, Hand::OnlyWhatItReads);
        for (Said* each : {&before, &after}) // marks are of every bit
            for (auto& [id, lines] : *each) lines = lines.filter(QRegularExpression(QStringLiteral("^(?!offers )")));
        same(before, after, "datum");
    }
    /// An empty file asks nothing, and nothing is made of it.
    void nothingIsAskedOfAnEmptyFile() {
        const model::Project empty;
        for (const auto& [id, lines] : said(empty, colliders_, Hand::OnlyWhatItReads))
            for (const QString& line : lines)
                QVERIFY2(line == QLatin1String("-") || line.startsWith(QLatin1String("offers 0")), qPrintable(line));
    }
    /// A member that changes changes the marks of the sections that hold it, and of no others.
    void marksFollowTheContent() {
        const tests::Json base = tests::demoJson("harrow-tarn");
        const auto read = [](const tests::Json& json) -> std::optional<model::Project> {
            auto result = store::projectFromText(json.dump(), "law.gabarit", store::defaultRuleBook());
            if (!result || result.value().read_only) return std::nullopt;
            return std::move(result.value().project);
        };
        const model::Project was = *read(base);
        const discipline::SectionMarks marks(was);
        const discipline::SectionMarks again(tests::again(was));
        int changes = 0;
        for (const std::string& section : discipline::sectionNames())
            QCOMPARE(marks.of({section}), again.of({section}));
        for (const auto& [kind, members] : tests::membersOf(base))
            for (const char* how : {"drop", "large"}) {
                const auto changed = tests::changed(base, how, members);
                if (!changed) continue;
                const auto now = read(*changed);
                if (!now) continue;
                const discipline::SectionMarks its(*now);
                const std::string whole = store::projectText(*now);
                for (const std::string& section : discipline::sectionNames()) {
                    // The rules chosen count everywhere; each section is compared as a file that holds nothing else.
                    const bool alike = store::projectText(discipline::only(was, {section})) ==
                                       store::projectText(discipline::only(*now, {section}));
                    changes += !alike;
                    QVERIFY2((marks.of({section}) == its.of({section})) == alike,
                             (std::string(how) + " " + kind + ": " + section).c_str());
                }
            }
        QVERIFY(changes > 300);
    }

private:
    tests::KeptColliders colliders_;
};

GABARIT_SUITE(LawsTest)
#include "laws_test.moc"
