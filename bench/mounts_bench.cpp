// The mounts' report: loads, equilibria with stops, modes.
#include "mounts/tune.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <benchmark/benchmark.h>

using namespace gabarit;

namespace {

/// Wanted: at most 10 ms.
void mountsReport(benchmark::State& state) {
    const model::Project project =
        store::readProject(GABARIT_SOURCE_DIR "/data/demo/mount-bench.gabarit", store::defaultRuleBook())
            .value()
            .project;
    for (auto _ : state) {
        const auto report = mounts::judgeMounts(project, store::defaultRuleBook(), {});
        benchmark::DoNotOptimize(report->verdict);
    }
}

/// Wanted: at most 5 s.
void mountsTuned(benchmark::State& state) {
    const model::Project project =
        store::readProject(GABARIT_SOURCE_DIR "/data/demo/mount-bench.gabarit", store::defaultRuleBook())
            .value()
            .project;
    for (auto _ : state) {
        const auto tuning = mounts::tune(project, store::defaultRuleBook(), {});
        benchmark::DoNotOptimize(tuning.value().complete);
    }
}

} // namespace

BENCHMARK(mountsTuned)->Unit(benchmark::kMillisecond);
BENCHMARK(mountsReport)->Unit(benchmark::kMillisecond);
