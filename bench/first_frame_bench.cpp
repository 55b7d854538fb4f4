// From the start of the program to its first painted frame, beside a process that does nothing.
#include "large_project.h"

#include <benchmark/benchmark.h>

#include <cstdlib>
#include <vector>

#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

namespace {

/// True when the program ran and ended with 0.
bool ran(std::vector<const char*> arguments) {
    arguments.push_back(nullptr);
    pid_t child = 0;
    if (::posix_spawnp(&child, arguments[0], nullptr, nullptr, const_cast<char* const*>(arguments.data()), environ) !=
        0)
        return false;
    int status = 0;
    return ::waitpid(child, &status, 0) == child && WIFEXITED(status) && WEXITSTATUS(status) == 0;
}

void startToFirstFrame(benchmark::State& state, const char* what) {
    if (!std::getenv("DISPLAY")) {
        state.SkipWithError("no display: run it under scripts/with-display");
        return;
    }
    std::vector<const char*> arguments{GABARIT_BIN_DIR "/gabarit", "--quit-after-first-frame"};
    if (what) arguments.push_back(what);
    for (auto _ : state)
        if (!ran(arguments)) state.SkipWithError("gabarit did not come up");
}

void emptyProcess(benchmark::State& state) {
    for (auto _ : state)
        if (!ran({"true"})) state.SkipWithError("true did not run");
}

BENCHMARK_CAPTURE(startToFirstFrame, empty, nullptr)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(startToFirstFrame, demo, "--demo")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK_CAPTURE(startToFirstFrame, bodies_2000, gabarit::bench::largePath().c_str())
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK(emptyProcess)->Unit(benchmark::kMillisecond)->UseRealTime();

} // namespace
