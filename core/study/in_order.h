// Work that waits for other work, shared out over a few threads.
#pragma once

#include "discipline/board.h"

#include <condition_variable>
#include <mutex>
#include <thread>

namespace gabarit::study {

/// Calls work(i) once for each of the board's disciplines, after those whose offers it needs, on up to `threads`
/// threads; those that the longest rows wait for first. `work` must not throw.
template <class Work>
void inOrder(const discipline::Board& board, int threads, Work work) {
    enum class State { Waits, Runs, Done };
    std::vector<State> states(board.size(), State::Waits);
    std::mutex mutex;
    std::condition_variable changed;
    std::size_t left = board.size();
    // The next that can be begun; nothing when all that is left waits.
    const auto next = [&]() -> std::optional<std::size_t> {
        std::optional<std::size_t> best;
        for (std::size_t i = 0; i < board.size(); ++i) {
            const auto& before = board.before(i);
            if (states[i] == State::Waits &&
                std::all_of(before.begin(), before.end(), [&](std::size_t k) { return states[k] == State::Done; }) &&
                (!best || board.behind(i) > board.behind(*best)))
                best = i;
        }
        return best;
    };
    const auto share = [&] {
        std::unique_lock<std::mutex> lock(mutex);
        while (left > 0) {
            const auto i = next();
            if (!i) {
                changed.wait(lock);
                continue;
            }
            states[*i] = State::Runs;
            --left;
            lock.unlock();
            work(*i);
            lock.lock();
            states[*i] = State::Done;
            changed.notify_all();
        }
    };
    std::vector<std::thread> helpers;
    for (int i = 1; i < threads; ++i) helpers.emplace_back(share);
    share();
    for (std::thread& helper : helpers) helper.join();
}

} // namespace gabarit::study
