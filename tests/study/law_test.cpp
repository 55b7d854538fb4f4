// A law over whole files: take each kind of member of a demo away, set it to nothing, make it larger. No verdict gets
// better and none stays go, but for the reasons written in tests/law/reasons.json.
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/study.h"
#include "support/kept_study.h"
#include "support/members.h"
#include "support/suite.h"

#include <QtTest>

#include <map>
#include <set>

using namespace gabarit;
using model::Verdict;
using tests::Json;

namespace {

struct Said {
    std::map<std::string, Verdict> of;                    ///< by discipline, and "all"
    std::map<std::string, std::set<std::string>> unknown; ///< findings, by discipline
};

/// `kind` against a pattern: "how path", with ** for any rest and a leading **/ for any beginning.
bool fits(const std::string& pattern, const std::string& how, const std::string& kind) {
    const std::size_t space = pattern.find(' ');
    const std::string hows = pattern.substr(0, space);
    std::string path = pattern.substr(space + 1);
    if (hows != "any" && ("," + hows + ",").find("," + how + ",") == std::string::npos) return false;
    const bool open_end = path.size() > 3 && path.compare(path.size() - 3, 3, "/**") == 0;
    if (open_end) path.resize(path.size() - 3);
    if (path.rfind("**/", 0) == 0) {
        path = path.substr(3);
        return kind == path ||
               (kind.size() > path.size() && kind.compare(kind.size() - path.size(), path.size(), path) == 0 &&
                kind[kind.size() - path.size() - 1] == '/');
    }
    return kind == path || (open_end && kind.rfind(path + "/", 0) == 0);
}

} // namespace

class LawTest : public QObject {
    Q_OBJECT
private slots:
    void nothingGetsBetterByWhatIsMissing_data() {
        QTest::addColumn<QString>("file");
        QTest::addColumn<QString>("placement");
        QTest::newRow("Tarn, second try") << "harrow-tarn"
                                          << "second-try";
        QTest::newRow("Skerry") << "skerry-quad"
                                << "";
        QTest::newRow("Wren") << "pell-wren"
                              << "";
    }
    void nothingGetsBetterByWhatIsMissing() {
        QFETCH(const QString, file);
        QFETCH(const QString, placement);
        Json base = tests::demoJson(file.toStdString());
        if (!placement.isEmpty()) base["active_placement"] = placement.toStdString();
        const Json reasons = tests::jsonOf("/tests/law/reasons.json");
        const auto before = said(base);
        QVERIFY(before.has_value());
        const tests::Members kinds = tests::membersOf(base);
        int looked = 0;
        QStringList broken;
        for (const auto& [kind, members] : kinds)
            for (const char* how : {"drop", "null", "zero", "large"}) {
                if (excused(reasons, how, kind)) continue; // written down: nothing to find out
                const auto project = tests::changed(base, how, members);
                if (!project) continue;
                const auto after = said(*project);
                if (!after) continue; // it does not open: told with its place
                ++looked;
                const std::string worse = gotBetter(*before, *after);
                if (worse.empty()) continue;
                broken << QString::fromStdString(std::string(how) + " " + kind + ": " + worse);
            }
        for (const QString& line : broken) qWarning("%s", qPrintable(line)); // a failure's own text is cut short
        QCOMPARE(broken.size(), 0);
        QVERIFY(looked > 100);
    }
    /// A reason that speaks of no member that a demo has is taken out.
    void everyReasonSpeaksOfSomething() {
        tests::Members kinds;
        for (const char* file : {"harrow-tarn", "skerry-quad", "pell-wren"})
            tests::collect(tests::demoJson(file), {}, "", kinds);
        const Json reasons = tests::jsonOf("/tests/law/reasons.json");
        for (const Json& reason : reasons)
            for (const Json& pattern : reason.at("of"))
                QVERIFY2(std::any_of(kinds.begin(), kinds.end(),
                                     [&](const auto& kind) {
                                         for (const char* how : {"drop", "null", "zero", "large"})
                                             if (fits(pattern.get<std::string>(), how, kind.first)) return true;
                                         return false;
                                     }),
                         pattern.get<std::string>().c_str());
    }

private:
    std::optional<Said> said(const Json& json) {
        auto read = store::projectFromText(json.dump(), "law.gabarit", store::defaultRuleBook());
        if (!read) return std::nullopt;
        if (read.value().read_only) return std::nullopt;
        const auto project = std::make_shared<const model::Project>(std::move(read.value().project));
        const std::string text = store::projectText(*project);
        if (const auto known = known_.find(text); known != known_.end()) return known->second; // null as dropped
        study::RunOptions options;
        options.depth = discipline::Depth::Skipped; // verdicts are asked, not how deep
        options.effort = discipline::Effort::Verdict;
        options.threads = 1; // other tests run beside it
        const study::Reports reports = study_.run(project, options);
        Said& out = known_[text];
        for (const char* discipline : {"clearance", "driveline", "gearing", "mounts", "relief", "weights", "parts"})
            if (const auto verdict = study::verdictOf(reports, discipline)) out.of[discipline] = *verdict;
        out.of["all"] = reports.asked ? reports.verdict : Verdict::Unknown;
        // Whatever is listed, nothing of it stands beside a better total.
        for (const study::Finding& finding : reports.findings)
            if (!finding.holds_cutting && finding.verdict > reports.verdict)
                qFatal("\"%s\" is %s, all is %s", finding.id.c_str(), model::word(finding.verdict),
                       model::word(reports.verdict));
        for (const study::Finding& finding : reports.findings)
            if (finding.verdict == Verdict::Unknown) {
                out.unknown[finding.discipline].insert(finding.id);
                out.unknown["all"].insert(finding.id);
            }
        return out;
    }
    /// Which verdict got better, or stayed go; empty when none did.
    static std::string gotBetter(const Said& before, const Said& after) {
        if (after.of.at("all") == Verdict::Go) return "all that was asked is go";
        for (const auto& [discipline, verdict] : after.of) {
            const auto was = before.of.find(discipline);
            if (was == before.of.end() || verdict >= was->second) continue;
            // What was shown to be wrong may not be known any more, and then that is said.
            const auto now = after.unknown.find(discipline), then = before.unknown.find(discipline);
            const std::set<std::string> none, &had = then == before.unknown.end() ? none : then->second;
            const bool says = now != after.unknown.end() &&
                              !std::includes(had.begin(), had.end(), now->second.begin(), now->second.end());
            if (!says) return discipline + " is " + model::word(verdict);
        }
        return {};
    }
    static bool excused(const Json& reasons, const std::string& how, const std::string& kind) {
        for (const Json& reason : reasons)
            for (const Json& pattern : reason.at("of"))
                if (fits(pattern.get<std::string>(), how, kind)) return true;
        return false;
    }

    tests::KeptStudy study_;
    std::map<std::string, Said> known_;
};

GABARIT_SUITE(LawTest)
#include "law_test.moc"
