// The mounts' report: loads, equilibria with stops, modes.
#include "make/bracket_route.h"
#include "mounts/section/mounts.h"
#include "mounts/tune.h"
#include "placed/scene.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <benchmark/benchmark.h>

using namespace gabarit;

namespace {

model::Project demo(const char* name) {
    return store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + name + ".gabarit",
                              store::defaultRuleBook())
        .value()
        .project;
}

/// Wanted: at most 10 ms.
void mountsReport(benchmark::State& state) {
    const model::Project project = demo("mount-bench");
    for (auto _ : state) {
        const auto report = mounts::judgeMounts(project, store::defaultRuleBook(), {});
        benchmark::DoNotOptimize(report->verdict);
    }
}

/// Wanted: at most 5 s.
void mountsTuned(benchmark::State& state) {
    const model::Project project = demo("mount-bench");
    for (auto _ : state) {
        const auto tuning = mounts::tune(project, store::defaultRuleBook(), {});
        benchmark::DoNotOptimize(tuning.value().complete);
    }
}

/// With brackets, crossmember and hold points. Wanted: at most 10 ms.
void mountsReportOfTheTarn(benchmark::State& state) {
    const model::Project project = demo("harrow-tarn");
    for (auto _ : state) {
        const auto report = mounts::judgeMounts(project, store::defaultRuleBook(), {});
        benchmark::DoNotOptimize(report->verdict);
    }
}

/// A press of a button: both brackets and both towers of the Tarn, found and made.
void bracketsRouted(benchmark::State& state) {
    const model::Project project = demo("harrow-tarn");
    for (auto _ : state) {
        proximity::ColliderCache cache;
        const placed::Scene scene = placed::makeScene(project, cache);
        for (const model::Mount& mount : project.sections.get<model::Mounts>()->mounts)
            for (const mounts::Which which : {mounts::Which::Bracket, mounts::Which::Tower})
                if (const model::Bracket* its = mounts::bracketOf(mount, which)) {
                    const auto made =
                        make::withBracketRouted(project, scene, store::defaultRuleBook(), mount.id, which, *its, cache);
                    benchmark::DoNotOptimize(made.ok());
                }
    }
}

} // namespace

BENCHMARK(mountsTuned)->Unit(benchmark::kMillisecond);
BENCHMARK(mountsReport)->Unit(benchmark::kMillisecond);
BENCHMARK(mountsReportOfTheTarn)->Unit(benchmark::kMillisecond);
BENCHMARK(bracketsRouted)->Unit(benchmark::kMillisecond);
