// Half-spaces that a change has to lie in, and the smallest change that does. Internal to the room.
#pragma once

#include <Eigen/Core>

#include <optional>
#include <vector>

namespace gabarit::fit {

/// A change of all six freedoms, as Shift.
using Change = Eigen::Matrix<double, 6, 1>;

/// along · change ≥ least.
struct Demand {
    Change along = Change::Zero();
    double least = 0;
};

class Demands {
public:
    /// Between `low` and `high` in any case, and with `always`; how far a change goes is √(Σ weight·change²).
    Demands(Change low, Change high, Change weight, const std::vector<Demand>& always = {})
        : low_(low), high_(high), weight_(weight), always_(always.size()) {
        for (const Demand& demand : always) add(demand);
    }

    void add(const Demand& demand) { rows_.push_back({demand.along, demand.least, 0}); }
    /// Of those that were added since.
    void forgetAllBut(std::size_t last) {
        if (rows_.size() > always_ + last)
            rows_.erase(rows_.begin() + static_cast<std::ptrdiff_t>(always_),
                        rows_.end() - static_cast<std::ptrdiff_t>(last));
    }

    /// The nearest to `wish` in the weights (Hildreth 1957); nothing when they contradict each other as far as can be
    /// told.
    std::optional<Change> nearestTo(const Change& wish) { return solved(wish, 0); }
    /// Where none can satisfy all: near to `wish` what lacks least of all of them alike.
    Change leastLacking(const Change& wish);

private:
    std::optional<Change> solved(const Change& wish, double give);

    struct Row {
        Change along;
        double least;
        double pull;
    };
    Change low_, high_, weight_;
    std::size_t always_; ///< the first rows
    std::vector<Row> rows_;
};

} // namespace gabarit::fit
