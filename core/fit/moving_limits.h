// The limits of moving pairs, looked up once for each pair of categories. Internal to the room.
#pragma once

#include "fit/scene.h"

#include <map>
#include <mutex>
#include <string>
#include <tuple>

namespace gabarit::fit {

/// Of one rule book and its default school. Thread-safe.
class MovingLimitTable {
public:
    explicit MovingLimitTable(const model::RuleBook& book) : book_(book) {}

    /// With what welding may pull, where one of the two hangs on the mounts and the other does not.
    const model::MovingLimits& of(const PlacedBody& a, const PlacedBody& b) const {
        const bool pulled = a.in_donor != b.in_donor;
        auto key = std::make_tuple(a.body.category, b.body.category, a.body.shielded || b.body.shielded, pulled);
        const std::lock_guard<std::mutex> lock(mutex_);
        const auto known = known_.find(key);
        if (known != known_.end()) return known->second;
        const model::MovingLimits limits = model::movingLimitsFor(book_, book_.default_school, a.body, b.body);
        return known_.emplace(std::move(key), pulled ? model::withWeldPull(limits, book_) : limits).first->second;
    }

private:
    const model::RuleBook& book_;
    mutable std::mutex mutex_;
    mutable std::map<std::tuple<std::string, std::string, bool, bool>, model::MovingLimits> known_;
};

} // namespace gabarit::fit
