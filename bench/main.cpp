// gabarit-bench: figures as ratios in one run. Run it under scripts/with-display for the first frame.
#include <benchmark/benchmark.h>

int main(int argc, char** argv) {
    benchmark::Initialize(&argc, argv);
    if (benchmark::ReportUnrecognizedArguments(argc, argv)) return 2;
    benchmark::AddCustomContext("build", GABARIT_BUILD_TYPE);
    benchmark::AddCustomContext("nudges", "a fixed walk of 1 mm and 0.1 degree steps, no random seed");
    benchmark::RunSpecifiedBenchmarks();
    benchmark::Shutdown();
    return 0;
}
