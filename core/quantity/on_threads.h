// One kind of work for many items, shared out over a few threads.
#pragma once

#include "quantity/stop.h"

#include <atomic>
#include <cstddef>
#include <thread>
#include <vector>

namespace gabarit {

/// Calls work(i) for i in 0 … count−1, each once, on up to `threads` threads; returns when all are done or stopped.
/// `work` must not throw.
template <class Work>
void onThreads(int threads, std::size_t count, const StopToken& stop, Work work) {
    std::atomic<std::size_t> next{0};
    const auto share = [&] {
        for (std::size_t i = next++; i < count && !stop.stopped(); i = next++) work(i);
    };
    std::vector<std::thread> helpers;
    for (int i = 1; i < threads; ++i) helpers.emplace_back(share);
    share();
    for (std::thread& helper : helpers) helper.join();
}

} // namespace gabarit
