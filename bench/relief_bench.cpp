// A pocket's report, its proposal, and the templates of a project.
#include "print/template_sheets.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/pocket_proposal.h"

#include <benchmark/benchmark.h>

#include <QGuiApplication>
#include <QTemporaryDir>

namespace {

using namespace gabarit;

std::shared_ptr<const model::Project> demo(const char* name) {
    return std::make_shared<const model::Project>(
        store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + name, store::defaultRuleBook())
            .value()
            .project);
}

/// Wanted: at most 1 s. The pocket that the Tarn's sump asks for at the first try.
void pocketProposed(benchmark::State& state) {
    auto project = *demo("harrow-tarn.gabarit");
    project.relief.reset();
    project.active_placement = project.placements.front().id;
    study::Study study(store::defaultRuleBook());
    const study::Reports reports = study.run(std::make_shared<const model::Project>(project), {});
    const model::BodyId body{"front-crossmember"};
    for (auto _ : state) {
        fit::GapMemo memo;
        benchmark::DoNotOptimize(study::proposedPocket(reports, store::defaultRuleBook(), body,
                                                       study::intrudersOf(reports, body), study.colliders(), memo));
    }
}

void reliefReport(benchmark::State& state) {
    const auto project = demo("relief-bench.gabarit");
    for (auto _ : state) benchmark::DoNotOptimize(relief::judgeRelief(*project, store::defaultRuleBook()));
}

/// Wanted: at most 2 s.
void templatesWritten(benchmark::State& state) {
    qputenv("QT_QPA_PLATFORM", "offscreen"); // fonts are wanted, a display is not
    int count = 1;
    char name[] = "gabarit-bench";
    char* arguments[] = {name, nullptr};
    const QGuiApplication application(count, arguments);
    study::Study study(store::defaultRuleBook());
    const study::Reports reports = study.run(demo("relief-bench.gabarit"), {});
    const QTemporaryDir folder;
    for (auto _ : state)
        benchmark::DoNotOptimize(print::writeTemplates(reports, store::defaultRuleBook(), {"a4", {}, "2026-05-17"},
                                                       folder.path().toStdString()));
}

BENCHMARK(pocketProposed)->Unit(benchmark::kMillisecond);
BENCHMARK(reliefReport)->Unit(benchmark::kMillisecond);
BENCHMARK(templatesWritten)->Unit(benchmark::kMillisecond);

} // namespace
