#include "fit/worst_gap.h"

#include <algorithm>
#include <queue>

namespace gabarit::fit {
namespace {

using kinematics::Freedom;
using kinematics::State;
using proximity::Contact;

/// A box of states: its middle and half its width along each freedom.
struct StateBox {
    State middle;
    State half;
    double least_mm = 0; ///< no state in it has a smaller gap
};
struct LeastFirst {
    bool operator()(const StateBox& a, const StateBox& b) const { return a.least_mm > b.least_mm; }
};

Eigen::Isometry3d poseAt(const MovingBody& body, const State& state) {
    return body.chain ? kinematics::movedFromRest(*body.chain, state) * body.pose_rest : body.pose_rest;
}

std::vector<double> speedOf(const MovingBody& body, const std::vector<Freedom>& freedoms) {
    if (!body.chain) return std::vector<double>(freedoms.size(), 0.0);
    return kinematics::fastest(*body.chain, freedoms, shape::moved(body.collider->bounds(), body.pose_rest));
}

class Search {
public:
    Search(const MovingBody& a, const MovingBody& b, const std::vector<Freedom>& freedoms, const WorstRequest& request)
        : a_(a), b_(b), request_(request) {
        // Two bodies on one chain stand still against each other.
        speed_.assign(freedoms.size(), 0.0);
        if (a.chain != b.chain) {
            const std::vector<double> of_a = speedOf(a, freedoms), of_b = speedOf(b, freedoms);
            for (std::size_t i = 0; i < speed_.size(); ++i) speed_[i] = of_a[i] + of_b[i];
        }
        worst_.state = kinematics::atRest(freedoms);
        measureAt(worst_.state, request.range_mm);
        // The worst is most often at an end: found first, it spares most of the search.
        StateBox whole{kinematics::atRest(freedoms), kinematics::atRest(freedoms), 0};
        std::vector<std::size_t> moving;
        for (std::size_t i = 0; i < speed_.size(); ++i) {
            if (speed_[i] <= 0 || freedoms[i].high <= freedoms[i].low) continue;
            moving.push_back(i);
            whole.middle[i] = (freedoms[i].low + freedoms[i].high) / 2;
            whole.half[i] = (freedoms[i].high - freedoms[i].low) / 2;
        }
        constexpr std::size_t most_cornered = 4; // 16 corners
        if (moving.size() <= most_cornered)
            for (std::size_t corner = 0; !moving.empty() && corner < (std::size_t{1} << moving.size()); ++corner) {
                State state = kinematics::atRest(freedoms);
                for (std::size_t k = 0; k < moving.size(); ++k)
                    state[moving[k]] = (corner >> k) & 1U ? freedoms[moving[k]].high : freedoms[moving[k]].low;
                measureAt(state, request.range_mm);
            }
        if (!moving.empty()) look(std::move(whole));
    }

    WorstGap take() {
        while (!boxes_.empty() && !stopped() && !done()) {
            const StateBox box = boxes_.top();
            boxes_.pop();
            split(box);
        }
        const bool overlaps = worst_.gap.contact == Contact::Overlap;
        worst_.hidden_mm = overlaps || boxes_.empty() ? 0 : std::max(0.0, reach() - boxes_.top().least_mm);
        worst_.complete = overlaps || boxes_.empty() || done();
        if (overlaps) deepen();
        return std::move(worst_);
    }

private:
    /// The smallest gap so far, or how far was looked.
    double reach() const { return worst_.gap.contact == Contact::Beyond ? request_.range_mm : worst_.gap.gap_mm; }
    /// What is left cannot be worse by more than the tolerance. Near contact by less: touching must not hide in it.
    bool done() const {
        constexpr double finest_mm = 0.01;
        const double tolerance_mm = std::min(request_.tolerance_mm, std::max(finest_mm, reach() / 2));
        return worst_.gap.contact == Contact::Overlap || boxes_.top().least_mm >= reach() - tolerance_mm;
    }
    bool stopped() const { return request_.stop.stopped() || worst_.states >= request_.most_states; }

    double spread(const StateBox& box) const {
        double sum = 0;
        for (std::size_t i = 0; i < speed_.size(); ++i) sum += speed_[i] * box.half[i];
        return sum;
    }

    /// The gap there, up to `range_mm`; what is smaller than the worst so far takes its place.
    double measureAt(const State& state, double range_mm) {
        proximity::GapRequest ask;
        ask.range_mm = range_mm;
        ask.depth = false;
        ask.stop = request_.stop;
        const proximity::Gap gap =
            proximity::gap(*a_.collider, poseAt(a_, state), *b_.collider, poseAt(b_, state), ask);
        ++worst_.states;
        if (gap.contact == Contact::Overlap && overlapping_.size() < most_deepened) overlapping_.push_back(state);
        const bool inRange = gap.contact != Contact::Beyond && gap.gap_mm <= request_.range_mm;
        const bool first = worst_.states == 1;
        if (first || (inRange && (worst_.gap.contact == Contact::Beyond || gap.gap_mm < worst_.gap.gap_mm) &&
                      worst_.gap.contact != Contact::Overlap)) {
            worst_.gap = gap;
            worst_.state = state;
        }
        return gap.contact == Contact::Overlap ? 0 : gap.gap_mm;
    }

    void look(StateBox box) {
        const double spread_mm = spread(box);
        const double gap_mm = measureAt(box.middle, request_.range_mm + spread_mm);
        box.least_mm = std::max(0.0, gap_mm - spread_mm);
        if (box.least_mm < request_.range_mm) boxes_.push(std::move(box));
    }

    /// In two, across the freedom within which most can move.
    void split(const StateBox& box) {
        std::size_t widest = 0;
        for (std::size_t i = 1; i < speed_.size(); ++i)
            if (speed_[i] * box.half[i] > speed_[widest] * box.half[widest]) widest = i;
        for (const double side : {-1.0, 1.0}) {
            StateBox part = box;
            part.half[widest] /= 2;
            part.middle[widest] += side * part.half[widest];
            look(std::move(part));
        }
    }

    /// How deep, at the deepest of the states that were found to overlap.
    void deepen() {
        bool any = false;
        for (const State& state : overlapping_) {
            proximity::GapRequest ask;
            ask.range_mm = request_.range_mm;
            ask.stop = request_.stop;
            const proximity::Gap gap =
                proximity::gap(*a_.collider, poseAt(a_, state), *b_.collider, poseAt(b_, state), ask);
            if (any && gap.gap_mm >= worst_.gap.gap_mm) continue;
            any = true;
            worst_.gap = gap;
            worst_.state = state;
        }
    }

    static constexpr std::size_t most_deepened = 8; // each is a search of its own
    MovingBody a_, b_;
    WorstRequest request_;
    std::vector<double> speed_; ///< of both together, mm per unit of each freedom
    WorstGap worst_;
    std::vector<State> overlapping_;
    std::priority_queue<StateBox, std::vector<StateBox>, LeastFirst> boxes_;
};

} // namespace

WorstGap worstGap(const MovingBody& a, const MovingBody& b, const std::vector<Freedom>& freedoms,
                  const WorstRequest& request) {
    return Search(a, b, freedoms, request).take();
}

} // namespace gabarit::fit
