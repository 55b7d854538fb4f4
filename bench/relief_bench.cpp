// A pocket's report, its proposal, and the templates of a project.
#include "fit/fit_report.h"
#include "make/pocket_proposal.h"
#include "print/template_sheets.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <benchmark/benchmark.h>

#include <QGuiApplication>
#include <QTemporaryDir>

namespace {

using namespace gabarit;

/// The demo as it hangs in one of its placements.
model::Project tarn(std::size_t placement) {
    model::Project project =
        store::readProject(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", store::defaultRuleBook())
            .value()
            .project;
    project.active_placement = project.placements.at(placement).id;
    return project;
}

/// Wanted: at most 1 s. The pocket that the Tarn's sump asks for at its first and its second try.
void pocketProposed(benchmark::State& state) {
    const auto placement = static_cast<std::size_t>(state.range(0));
    model::Project project = tarn(placement);
    project.sections.drop<model::Relief>();
    study::Study study(store::defaultRuleBook());
    const study::Reports reports = study.run(std::make_shared<const model::Project>(project), {});
    const model::BodyId body{placement == 0 ? "front-crossmember" : "front-crossmember-let-in"};
    for (auto _ : state) {
        fit::GapMemo memo;
        benchmark::DoNotOptimize(make::proposedPocket(reports, store::defaultRuleBook(), body,
                                                      make::intrudersOf(reports, body), study.colliders(), memo));
    }
}

void reliefReport(benchmark::State& state) {
    const model::Project project = tarn(1);
    for (auto _ : state) benchmark::DoNotOptimize(relief::judgeRelief(project, store::defaultRuleBook()));
}

/// Wanted: at most 2 s.
void templatesWritten(benchmark::State& state) {
    qputenv("QT_QPA_PLATFORM", "offscreen"); // fonts are wanted, a display is not
    int count = 1;
    char name[] = "gabarit-bench";
    char* arguments[] = {name, nullptr};
    const QGuiApplication application(count, arguments);
    study::Study study(store::defaultRuleBook());
    const study::Reports reports = study.run(std::make_shared<const model::Project>(tarn(1)), {});
    const QTemporaryDir folder;
    for (auto _ : state)
        benchmark::DoNotOptimize(print::writeTemplates(reports, store::defaultRuleBook(), {"a4", {}, "2026-05-17"},
                                                       folder.path().toStdString()));
}

BENCHMARK(pocketProposed)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);
BENCHMARK(reliefReport)->Unit(benchmark::kMillisecond);
BENCHMARK(templatesWritten)->Unit(benchmark::kMillisecond);

} // namespace
