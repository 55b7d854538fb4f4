// Where does it fit: time to an answer, the map, and the fields behind both.
#include "fit/fit_map.h"
#include "fit/fit_report.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <benchmark/benchmark.h>

#include <chrono>
#include <stdexcept>

using namespace gabarit;

namespace {

/// A demo, measured where it hangs.
struct Bay {
    explicit Bay(const char* file) {
        auto read = store::readProject(std::string(GABARIT_SOURCE_DIR "/data/demo/") + file + ".gabarit",
                                       store::defaultRuleBook());
        if (!read) throw std::runtime_error(read.error().line());
        project = std::move(read).value().project;
        book = model::applied(store::defaultRuleBook(), project.rules);
        scene = placed::makeScene(project, cache);
        now = fit::clearance(project, scene, book, nullptr, {});
    }
    model::Project project;
    model::RuleBook book;
    proximity::ColliderCache cache;
    placed::Scene scene;
    fit::ClearanceReport now;
};

/// From the question to the last answer; `found_ms`: to when a place is known by the sieve.
void freeAll(benchmark::State& state, const char* file) {
    Bay bay(file);
    long poses = 0;
    std::size_t places = 0;
    double found_ms = 0;
    for (auto _ : state) {
        fit::FreeOptions options;
        options.measure = false;
        options.most_places = 1;
        options.starts = 4;
        const auto begun = std::chrono::steady_clock::now();
        benchmark::DoNotOptimize(fit::freeAll(bay.project, bay.scene, bay.now, bay.book, bay.cache, options));
        found_ms = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begun).count();
        const auto found = fit::freeAll(bay.project, bay.scene, bay.now, bay.book, bay.cache, {});
        poses = found.poses;
        places = found.places.size();
    }
    state.counters["found_ms"] = found_ms;
    state.counters["poses"] = static_cast<double>(poses);
    state.counters["places"] = static_cast<double>(places);
}
BENCHMARK_CAPTURE(freeAll, quad, "skerry-quad")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(freeAll, tarn, "harrow-tarn")->Unit(benchmark::kMillisecond)->UseRealTime();

void map40(benchmark::State& state) {
    Bay bay("skerry-quad");
    for (auto _ : state) {
        fit::MapOptions options;
        options.columns = options.rows = 40;
        benchmark::DoNotOptimize(fit::fitMap(bay.project, bay.scene, bay.now, bay.book, options).points.size());
    }
}
BENCHMARK(map40)->Unit(benchmark::kMillisecond)->UseRealTime();

void sievesMade(benchmark::State& state) {
    Bay bay("harrow-tarn");
    std::size_t bytes = 0;
    for (auto _ : state) {
        const fit::Sieves sieves = fit::Sieves::of(bay.project, bay.scene, bay.now, bay.book, {});
        bytes = sieves.fine.bytes() + sieves.coarse.bytes(); // before they are asked: filled where they are
    }
    state.counters["MiB"] = static_cast<double>(bytes) / (1 << 20);
}
BENCHMARK(sievesMade)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace
