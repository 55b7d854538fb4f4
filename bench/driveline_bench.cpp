// The driveline's report with 200 travel states, and what parts of it cost.
#include "driveline/driveline.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <benchmark/benchmark.h>

#include <stdexcept>

namespace {

using namespace gabarit;

model::Project demo(const std::string& name) {
    auto read = store::readProject(GABARIT_SOURCE_DIR "/data/demo/" + name + ".gabarit", store::defaultRuleBook());
    if (!read) throw std::runtime_error(read.error().line());
    return std::move(read).value().project;
}

/// Wanted: at most 5 ms with 200 states along the travel (each also wound up and down).
void drivelineReport(benchmark::State& state, const char* name, int travel_states, bool cures) {
    const model::Project project = demo(name);
    const driveline::LineOptions options{travel_states, cures};
    std::size_t lines = 0;
    for (auto _ : state) {
        const auto report = driveline::driveline(project, store::defaultRuleBook(), options);
        lines = report->lines.size();
        benchmark::DoNotOptimize(report->verdict);
    }
    state.counters["lines"] = static_cast<double>(lines);
    state.counters["states"] = travel_states * 3;
}

} // namespace

BENCHMARK_CAPTURE(drivelineReport, tarn_200, "harrow-tarn", 200, true)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drivelineReport, tarn_200_without_cures, "harrow-tarn", 200, false)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drivelineReport, quad_200, "skerry-quad", 200, true)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drivelineReport, wren_200, "pell-wren", 200, true)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drivelineReport, bench_200, "shaft-bench", 200, true)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drivelineReport, tarn_live_65, "harrow-tarn", 65, true)->Unit(benchmark::kMillisecond);
