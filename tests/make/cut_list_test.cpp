// What is sawn from which bar, of supports, brackets, towers and frames together.
#include "discipline/discipline.h"
#include "make/cut_list.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "relief/relief.h"
#include "support/files.h"
#include "support/suite.h"

#include <QtTest>

#include <cmath>

using namespace gabarit;
using tests::demo;

namespace {

/// With its mounts and relief judged, nothing else.
study::Reports reports(const model::Project& project) {
    const model::RuleBook& book = store::defaultRuleBook();
    study::Reports out;
    out.project = std::make_shared<const model::Project>(project);
    const auto report = std::make_shared<discipline::Report>();
    if (auto judged = mounts::judgeMounts(project, book, {0})) report->parts.put(std::move(*judged));
    if (auto judged = relief::judgeRelief(project, book, {5, false})) report->parts.put(std::move(*judged));
    out.all.push_back({"of both", 0, report});
    return out;
}
/// Lengths of all pieces whose name begins so, mm.
std::vector<double> lengths(const make::CutList& list, const std::string& begin) {
    std::vector<double> out;
    for (const relief::Bar& bar : list.bars)
        for (const auto& [name, mm] : bar.pieces)
            if (name.rfind(begin, 0) == 0) out.push_back(mm);
    return out;
}

} // namespace

class CutListTest : public QObject {
    Q_OBJECT
private slots:
    void supportsWithTheirLongPoints() {
        const auto r = reports(demo("relief-bench"));
        const auto list = make::cutList(r, store::defaultRuleBook());
        QCOMPARE(lengths(list, "Brace").size(), std::size_t(2)); // two are made
        QCOMPARE(lengths(list, "Brace")[0], r.of<relief::ReliefReport>()->tubes[0].made->long_points_mm);
        QCOMPARE(list.bars.size(), std::size_t(1));
        QCOMPARE(list.bars[0].diameter_mm, 42.0);
        QCOMPARE(list.bars[0].height_mm, 0.0);
        // 6 m less the two and their saw cuts.
        QVERIFY(std::abs(list.bars[0].left_mm - (6000 - 2 * (lengths(list, "Brace")[0] + 2))) < 1e-6);
    }
    void aFramesMembersFromCornerToCorner() {
        const auto list = make::cutList(reports(demo("pell-wren")), store::defaultRuleBook());
        // By hand: 600 across; 152 · 52 · 100, 158, 40 · 65, 105 · 228 on the left.
        const auto across = lengths(list, "Frame on the old seats, member 1");
        QCOMPARE(across.size(), std::size_t(1));
        QCOMPARE(across[0], 600.0);
        auto left = lengths(list, "Frame on the old seats, member 2");
        std::sort(left.begin(), left.end());
        QCOMPARE(left.size(), std::size_t(4));
        const double wanted[] = {std::hypot(40, 65), 158, std::hypot(152.0, 52.0, 100.0), std::hypot(105, 228)};
        for (std::size_t i = 0; i < 4; ++i) QVERIFY(std::abs(left[i] - wanted[i]) < 1e-9);
        for (const relief::Bar& bar : list.bars)
            if (bar.pieces[0].first.rfind("Frame", 0) == 0)
                QVERIFY(bar.diameter_mm == 40 && bar.height_mm == 40 && bar.wall_mm == 3);
    }
    void bracketsAndTowersBySize() {
        const model::Project tarn = demo("harrow-tarn");
        const auto r = reports(tarn);
        const auto list = make::cutList(r, store::defaultRuleBook());
        std::size_t arms = 0;
        for (const mounts::BracketReport& bracket : r.of<mounts::MountsReport>()->brackets)
            if (bracket.made)
                for (const mounts::Piece& piece : bracket.made->pieces) {
                    if (piece.name != "arm") continue;
                    ++arms;
                    double path = 0;
                    for (std::size_t i = 1; i < bracket.made->path_mm.size(); ++i)
                        path += (bracket.made->path_mm[i] - bracket.made->path_mm[i - 1]).norm();
                    bool there = false;
                    for (const relief::Bar& bar : list.bars)
                        for (const auto& [name, mm] : bar.pieces) there = there || std::abs(mm - path) < 1e-9;
                    QVERIFY(there);
                }
        QVERIFY(arms >= 3);
        std::size_t pieces = 0;
        for (const relief::Bar& bar : list.bars) {
            pieces += bar.pieces.size();
            double used = 0;
            for (const auto& piece : bar.pieces) used += piece.second + 2;
            QVERIFY(std::abs(used + bar.left_mm - 6000) < 1e-6);
        }
        QCOMPARE(pieces, arms);
    }
    void whatNoBarGivesIsSaid() {
        model::Project wren = demo("pell-wren");
        wren.sections.edit<model::Mounts>().frames[0].members_mm[0][1].y() += 9000;
        const auto list = make::cutList(reports(wren), store::defaultRuleBook());
        QCOMPARE(list.longer_than.size(), std::size_t(1));
        QCOMPARE(list.longer_than[0], std::string("Frame on the old seats, member 1"));
        QVERIFY(make::cutList(reports(demo("shaft-bench")), store::defaultRuleBook()).bars.empty());
    }
};

GABARIT_SUITE(CutListTest)
#include "cut_list_test.moc"
