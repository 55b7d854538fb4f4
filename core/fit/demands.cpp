#include "fit/demands.h"

#include <algorithm>
#include <cmath>

namespace gabarit::fit {

Change Demands::leastLacking(const Change& wish) {
    constexpr double give = 200; // what is lacking weighs as much more than going there
    return *solved(wish, give);
}

/// `give` 0: all are held; above: all may lack the same, which is made small.
std::optional<Change> Demands::solved(const Change& wish, double give) {
    double lacking = 0;
    Change x = wish, up = Change::Zero(), down = Change::Zero();
    for (Row& row : rows_) row.pull = 0;
    constexpr int rounds = 300;
    const Change inverse = weight_.cwiseInverse();
    const double shared = give > 0 ? 1 / give : 0;
    for (int round = 0; round < rounds; ++round) {
        double most = 0;
        for (Row& row : rows_) {
            const Change way = inverse.cwiseProduct(row.along);
            const double size = row.along.dot(way) + shared;
            if (size <= 0) continue;
            const double pull = std::max(-row.pull, (row.least - row.along.dot(x) - lacking) / size);
            row.pull += pull;
            x += pull * way;
            lacking += pull * shared;
            most = std::max(most, std::abs(pull) * std::sqrt(size));
        }
        for (int k = 0; k < 6; ++k) {
            const double lift = std::max(-up[k], low_[k] - x[k]);
            up[k] += lift, x[k] += lift;
            const double push = std::max(-down[k], x[k] - high_[k]);
            down[k] += push, x[k] -= push;
            most = std::max({most, std::abs(lift), std::abs(push)});
        }
        if (most < 1e-4) return x;
    }
    return give > 0 ? std::optional(x) : std::nullopt; // near enough where something lacks all the same
}

} // namespace gabarit::fit
