// All gaps of the demo after a nudge, beside plain FCL over the same pairs.
#include "fit/fit_report.h"
#include "fit/sieve.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "study/study.h"

#include <benchmark/benchmark.h>
#include <fcl/geometry/bvh/BVH_model.h>
#include <fcl/math/bv/OBBRSS.h>
#include <fcl/narrowphase/collision.h>
#include <fcl/narrowphase/distance.h>

#include <cmath>
#include <map>
#include <stdexcept>

namespace {

using namespace gabarit;
using Model = fcl::BVHModel<fcl::OBBRSSd>;

model::Project demo(const std::string& name = "harrow-tarn") {
    auto read = store::readProject(GABARIT_SOURCE_DIR "/data/demo/" + name + ".gabarit", store::defaultRuleBook());
    if (!read) throw std::runtime_error(read.error().line());
    return std::move(read).value().project;
}

/// The donor after `step` nudges of a walk that comes back to its start every eight steps.
model::Project nudged(const model::Project& project, int step) {
    static const Eigen::Vector3d walk[] = {{1, 0, 0}, {1, 0, 1}, {1, 1, 1},  {0, 1, 1},
                                           {0, 1, 0}, {0, 0, 0}, {-1, 0, 0}, {-1, 0, 1}};
    model::Project moved = project;
    model::Placement* placement = model::activePlacement(moved);
    *placement = model::shifted(*placement, walk[step % 8]);
    *placement = model::turned(*placement, *model::activeDonor(moved), model::Turn::Tail, 0.1 * (step % 3)).value();
    return moved;
}

study::RunOptions options(discipline::Depth depth, int threads = 1) {
    study::RunOptions run;
    // As the window asks: bounds of the movement while the hand moves, all of it at rest.
    run.effort = depth == discipline::Depth::Searched ? discipline::Effort::Full : discipline::Effort::Bounds;
    run.depth = depth;
    run.threads = threads;
    return run;
}

/// One thread against the library's one; the window takes two.
void gabaritGaps(benchmark::State& state, discipline::Depth depth, int threads) {
    const model::Project project = demo();
    study::Study study(store::defaultRuleBook());
    study.run(std::make_shared<const model::Project>(project), options(discipline::Depth::Searched));
    int step = 0, pairs = 0, states = 0;
    std::size_t judged = 0;
    for (auto _ : state) {
        const auto reports =
            study.run(std::make_shared<const model::Project>(nudged(project, ++step)), options(depth, threads));
        pairs = reports.with<fit::FitReport>().clearance->pairs_checked;
        states += reports.with<fit::FitReport>().clearance->states;
        judged += reports.judged.size();
        benchmark::DoNotOptimize(reports.findings.size());
    }
    state.counters["pairs"] = pairs;
    state.counters["judged"] = // disciplines a nudge, of all there are
        benchmark::Counter(static_cast<double>(judged), benchmark::Counter::kAvgIterations);
    state.counters["disciplines"] = static_cast<double>(disciplines::all().size());
    // At how many states of the movement a gap was measured, each nudge.
    state.counters["states"] = benchmark::Counter(states, benchmark::Counter::kAvgIterations);
}

/// What a straightforward program would do: every pair, the library's distance without a limit, and its collision
/// test where that says zero. No sign, no depth, no broad phase.
void plainFclGaps(benchmark::State& state) {
    const model::Project project = demo();
    proximity::ColliderCache cache;
    std::map<model::BodyRef, std::unique_ptr<Model>> models;
    const placed::Scene first = placed::makeScene(project, cache);
    for (const placed::PlacedBody& body : first.bodies) {
        const shape::Mesh& mesh = body.made->collider->mesh();
        std::vector<fcl::Triangle> triangles;
        for (const shape::Triangle& t : mesh.triangles)
            triangles.emplace_back(static_cast<std::size_t>(t.corner[0]), static_cast<std::size_t>(t.corner[1]),
                                   static_cast<std::size_t>(t.corner[2]));
        auto made = std::make_unique<Model>();
        made->beginModel();
        made->addSubModel(mesh.points, triangles);
        made->endModel();
        models[body.ref] = std::move(made);
    }
    int step = 0, pairs = 0;
    for (auto _ : state) {
        const placed::Scene scene = placed::makeScene(nudged(project, ++step), cache);
        pairs = 0;
        for (std::size_t i = 0; i < scene.bodies.size(); ++i)
            for (std::size_t j = i + 1; j < scene.bodies.size(); ++j) {
                const placed::PlacedBody &a = scene.bodies[i], &b = scene.bodies[j];
                if (!fit::canMoveAgainst(a, b) || model::joinedPair(project, a.ref, b.ref)) continue;
                ++pairs;
                fcl::DistanceRequestd ask;
                ask.enable_nearest_points = true;
                fcl::DistanceResultd result;
                fcl::distance(models[a.ref].get(), a.pose_vehicle_body, models[b.ref].get(), b.pose_vehicle_body, ask,
                              result);
                benchmark::DoNotOptimize(result.min_distance);
            }
    }
    state.counters["pairs"] = pairs;
}

/// The worst-moment table of a demo after each nudge: full, as bounds while the hand moves, and at rest alone to take
/// off from both. States are those at which a gap was measured.
void worstMoments(benchmark::State& state, const char* file, discipline::Effort effort) {
    const model::Project project = demo(file);
    proximity::ColliderCache cache;
    const model::RuleBook book = model::applied(store::defaultRuleBook(), project.rules);
    fit::ClearanceOptions ask;
    ask.depth = discipline::Depth::Skipped;
    ask.effort = effort;
    int step = 0, states = 0;
    for (auto _ : state) {
        const model::Project there = nudged(project, ++step);
        const auto report = fit::clearance(there, placed::makeScene(there, cache), book, nullptr, ask);
        states = report.states;
        benchmark::DoNotOptimize(report.pairs.size());
    }
    state.counters["states"] = states;
}

/// Poses a second that the search for a place looks at: near where the unit hangs, and all over where it may be moved;
/// the first of them fill the fields. Against `plainFclGaps` in the same run.
void sievePoses(benchmark::State& state, double reach_mm) {
    const model::Project project = demo();
    proximity::ColliderCache cache;
    const model::RuleBook book = model::applied(store::defaultRuleBook(), project.rules);
    const placed::Scene scene = placed::makeScene(project, cache);
    const auto now = fit::clearance(project, scene, book, nullptr, {});
    const fit::Sieve sieve(project, scene, now, book);
    const Eigen::Isometry3d pose =
        model::poseVehicleDonor(*model::activePlacement(project), *model::hangingDonor(project));
    unsigned step = 0;
    const auto next = [&] { // evenly spread (Weyl)
        ++step;
        const auto share = [step](double root) { return 2 * (step * root - std::floor(step * root)) - 1; };
        Eigen::Isometry3d out = pose;
        out.translation() += reach_mm * Eigen::Vector3d(share(M_SQRT2), share(M_E), share(M_PI));
        return out;
    };
    for (int i = 0; i < 300; ++i) sieve.mostShort_mm(next());
    for (auto _ : state) benchmark::DoNotOptimize(sieve.mostShort_mm(next()));
    state.counters["poses/s"] =
        benchmark::Counter(static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
    state.counters["MiB"] = static_cast<double>(sieve.bytes()) / (1 << 20);
}
BENCHMARK_CAPTURE(sievePoses, near, 5.0)->Unit(benchmark::kMicrosecond);
BENCHMARK_CAPTURE(sievePoses, all_over, 60.0)->Unit(benchmark::kMicrosecond);

BENCHMARK_CAPTURE(worstMoments, tarn_full, "harrow-tarn", discipline::Effort::Full)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(worstMoments, tarn_while_the_hand_moves, "harrow-tarn", discipline::Effort::Bounds)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(worstMoments, tarn_at_rest_only, "harrow-tarn", discipline::Effort::None)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(worstMoments, quad_full, "skerry-quad", discipline::Effort::Full)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(worstMoments, quad_while_the_hand_moves, "skerry-quad", discipline::Effort::Bounds)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(worstMoments, quad_at_rest_only, "skerry-quad", discipline::Effort::None)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

BENCHMARK_CAPTURE(gabaritGaps, while_the_hand_moves, discipline::Depth::Nearby, 1)->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(gabaritGaps, while_the_hand_moves_as_in_the_window, discipline::Depth::Nearby, 2)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK_CAPTURE(gabaritGaps, at_rest_all_depths_searched, discipline::Depth::Searched, 1)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(plainFclGaps)->Unit(benchmark::kMillisecond);

} // namespace
