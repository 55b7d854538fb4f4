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
    double least_mm = 0;    ///< no state in it has a smaller gap
    std::size_t widest = 0; ///< the freedom within which most can move
};
struct LeastFirst {
    bool operator()(const StateBox& a, const StateBox& b) const { return a.least_mm > b.least_mm; }
};

Eigen::Isometry3d poseAt(const MovingBody& body, const State& state) {
    return body.chain ? kinematics::movedFromRest(*body.chain, state) * body.pose_rest : body.pose_rest;
}

std::vector<double> speedOf(const MovingBody& body, const std::vector<Freedom>& freedoms) {
    if (!body.chain) return std::vector<double>(freedoms.size(), 0.0);
    if (body.speed) return *body.speed;
    return kinematics::fastest(*body.chain, freedoms, shape::moved(body.collider->bounds(), body.pose_rest));
}

class Search {
public:
    Search(const MovingBody& a, const MovingBody& b, const std::vector<Freedom>& freedoms, const WorstRequest& request)
        : a_(a), b_(b), freedoms_(freedoms), request_(request) {
        // Two bodies on one chain stand still against each other.
        speed_.assign(freedoms.size(), 0.0);
        if (a.chain != b.chain) {
            speed_a_ = speedOf(a, freedoms);
            speed_b_ = speedOf(b, freedoms);
            for (std::size_t i = 0; i < speed_.size(); ++i)
                if (!request.free || (*request.free)[i]) speed_[i] = speed_a_[i] + speed_b_[i];
        }
        worst_.state = kinematics::atRest(freedoms);
        if (request.rest)
            worst_.gap = *request.rest;
        else
            measureAt(worst_.state, request.range_mm);
        StateBox whole{kinematics::atRest(freedoms), kinematics::atRest(freedoms)};
        for (std::size_t i = 0; i < speed_.size(); ++i) {
            if (speed_[i] <= 0 || freedoms[i].high <= freedoms[i].low) continue;
            moving_.push_back(i);
            whole.middle[i] = (freedoms[i].low + freedoms[i].high) / 2;
            whole.half[i] = (freedoms[i].high - freedoms[i].low) / 2;
        }
        if (!moving_.empty()) look(std::move(whole));
        // The worst is most often at an end: found early, it spares most of the search.
        constexpr std::size_t most_cornered = 4; // 16 corners
        if (boxes_.empty() || done() || moving_.size() > most_cornered) return;
        for (std::size_t corner = 0; corner < (std::size_t{1} << moving_.size()); ++corner) {
            State state = kinematics::atRest(freedoms);
            for (std::size_t k = 0; k < moving_.size(); ++k)
                state[moving_[k]] = (corner >> k) & 1U ? freedoms[moving_[k]].high : freedoms[moving_[k]].low;
            if (worst_.gap.contact == Contact::Overlap || stopped()) break;
            measureAt(state, request.range_mm);
        }
    }

    WorstGap take() {
        while (!boxes_.empty() && !stopped() && !done()) {
            const StateBox box = boxes_.top();
            boxes_.pop();
            split(box);
        }
        settle();
        if (request_.polish && worst_.gap.contact == Contact::Apart && !request_.stop.stopped()) polish();
        if (worst_.gap.contact == Contact::Overlap) {
            worst_.hidden_mm = 0;
            if (request_.depth) deepen();
        }
        return std::move(worst_);
    }

private:
    /// Says what may still hide.
    void settle() {
        const bool overlaps = worst_.gap.contact == Contact::Overlap;
        worst_.hidden_mm = overlaps || boxes_.empty() ? 0 : std::max(0.0, reach() - boxes_.top().least_mm);
        worst_.complete = overlaps || boxes_.empty() || done();
    }

    /// The smallest gap so far, or how far was looked.
    double reach() const { return worst_.gap.contact == Contact::Beyond ? request_.range_mm : worst_.gap.gap_mm; }
    /// What is left cannot be worse by more than the tolerance. Near contact by less: touching must not hide in it.
    bool done() const {
        constexpr double finest_mm = 0.01;
        if (worst_.gap.contact == Contact::Overlap) return true;
        const double least_mm = boxes_.top().least_mm;
        constexpr double share = 0.01; // of a large gap: no tape reads it nearer
        double wanted_mm = std::max(request_.tolerance_mm, share * reach());
        if (reach() < request_.settled_below_mm)
            wanted_mm = std::max(wanted_mm, std::min(request_.no_go_tolerance_mm, request_.range_mm));
        else if (least_mm >= request_.settled_above_mm)
            wanted_mm = std::max(wanted_mm, request_.settled_tolerance_mm);
        return least_mm >= reach() - std::min(wanted_mm, std::max(finest_mm, reach() / 2));
    }
    bool stopped() const { return request_.stop.stopped() || worst_.states >= request_.most_states; }

    double spread(const StateBox& box) const {
        double sum = 0;
        for (std::size_t i = 0; i < speed_.size(); ++i) sum += speed_[i] * box.half[i];
        return sum;
    }

    /// The gap there, up to `range_mm`; what is smaller than the worst so far takes its place.
    proximity::Gap measureAt(const State& state, double range_mm) {
        proximity::GapRequest ask;
        ask.range_mm = range_mm;
        ask.depth = false;
        ask.stop = request_.stop;
        ask.witness = &witness_;
        const proximity::Gap gap =
            proximity::gap(*a_.collider, poseAt(a_, state), *b_.collider, poseAt(b_, state), ask);
        ++worst_.states;
        const bool reached = !request_.stops || kinematics::allowed(*request_.stops, state);
        if (!reached) return gap;
        if (gap.contact == Contact::Overlap && overlapping_.size() < most_deepened) overlapping_.push_back(state);
        const bool inRange = gap.contact != Contact::Beyond && gap.gap_mm <= request_.range_mm;
        const bool first = worst_.states == 1 && !request_.rest;
        if (first || (inRange && (worst_.gap.contact == Contact::Beyond || gap.gap_mm < worst_.gap.gap_mm) &&
                      worst_.gap.contact != Contact::Overlap)) {
            worst_.gap = gap;
            worst_.state = state;
        }
        return gap;
    }

    void look(StateBox box) {
        if (request_.stops && !kinematics::anyAllowed(*request_.stops, box.middle, box.half)) return;
        const double spread_mm = spread(box);
        const proximity::Gap gap = measureAt(box.middle, request_.range_mm + spread_mm);
        for (std::size_t i = 1; i < speed_.size(); ++i)
            if (speed_[i] * box.half[i] > speed_[box.widest] * box.half[box.widest]) box.widest = i;
        box.least_mm = gap.contact == Contact::Overlap ? 0 : std::max(0.0, gap.gap_mm - spread_mm);
        if (gap.contact == Contact::Apart) lookAlong(box, gap.away);
        if (box.least_mm < request_.range_mm) boxes_.push(std::move(box));
    }

    /// A plane square to the shortest line keeps the two apart as far as it does their hulls: what moves along it does
    /// not count. Much less then hides than by the spread in all directions.
    void lookAlong(StateBox& box, const Eigen::Vector3d& away) const {
        const Eigen::Isometry3d pose_a = poseAt(a_, box.middle), pose_b = poseAt(b_, box.middle);
        const double apart_mm = least(a_, pose_a, away) + least(b_, pose_b, -away);
        if (apart_mm <= box.least_mm) return;
        std::vector<double> along(speed_.size(), 0.0);
        const auto add = [&](const MovingBody& body, const std::vector<double>& full) {
            if (!body.chain) return;
            const auto own =
                kinematics::fastestAlong(*body.chain, freedoms_, shape::moved(body.collider->bounds(), body.pose_rest),
                                         full, away, box.middle, box.half);
            for (std::size_t i = 0; i < along.size(); ++i) along[i] += own[i];
        };
        add(a_, speed_a_);
        add(b_, speed_b_);
        double sum = 0;
        for (std::size_t i = 0; i < along.size(); ++i) sum += along[i] * box.half[i];
        if (apart_mm - sum <= box.least_mm) return;
        box.least_mm = apart_mm - sum;
        for (std::size_t i = 0; i < along.size(); ++i)
            if (along[i] * box.half[i] > along[box.widest] * box.half[box.widest]) box.widest = i;
    }

    /// The least of n·p over a body's points.
    static double least(const MovingBody& body, const Eigen::Isometry3d& pose, const Eigen::Vector3d& n) {
        const Eigen::Vector3d own = pose.linear().transpose() * n;
        double least = std::numeric_limits<double>::infinity();
        for (const Eigen::Vector3d& p : body.collider->mesh().points) least = std::min(least, own.dot(p));
        return least + n.dot(pose.translation());
    }

    /// In two, across the freedom within which most can move.
    void split(const StateBox& box) {
        for (const double side : {-1.0, 1.0}) {
            StateBox part = box;
            part.half[box.widest] /= 2;
            part.middle[box.widest] += side * part.half[box.widest];
            part.widest = 0;
            look(std::move(part));
        }
    }

    /// To the ends that are meant, and back to rest what does not matter: "at full bump", not "103 mm into bump".
    void polish() {
        constexpr double same_mm = 0.01; // as near as measured gaps are shown
        const double found_mm = worst_.gap.gap_mm;
        for (std::size_t i = 0; i < speed_.size(); ++i) {
            if (speed_[i] <= 0 || worst_.state[i] == 0) continue;
            const double end = worst_.state[i] > 0 ? freedoms_[i].high : freedoms_[i].low;
            for (const double value : {0.0, end}) {
                State state = worst_.state;
                state[i] = value;
                if (request_.stops && !kinematics::allowed(*request_.stops, state)) continue;
                proximity::GapRequest ask;
                ask.range_mm = request_.range_mm;
                ask.depth = false;
                ask.stop = request_.stop;
                ask.witness = &witness_;
                const proximity::Gap gap =
                    proximity::gap(*a_.collider, poseAt(a_, state), *b_.collider, poseAt(b_, state), ask);
                ++worst_.states;
                const double limit_mm = value == 0 ? found_mm + same_mm : worst_.gap.gap_mm + same_mm;
                if (gap.contact == Contact::Beyond || gap.gap_mm > limit_mm) continue;
                if (gap.contact == Contact::Overlap) overlapping_.push_back(state);
                worst_.gap = gap;
                worst_.state = std::move(state);
                break;
            }
        }
        // What was given away for rest is no longer seen; what was gained is no longer hidden.
        worst_.hidden_mm = std::max(0.0, worst_.hidden_mm + worst_.gap.gap_mm - found_mm);
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
        // States that were not looked at may lie deeper: what only touches here counts as met.
        if (worst_.gap.contact == Contact::Apart) {
            worst_.gap.contact = Contact::Overlap;
            worst_.gap.depth_found = true;
        }
    }

    static constexpr std::size_t most_deepened = 3; // each is a search of its own
    MovingBody a_, b_;
    const std::vector<Freedom>& freedoms_;
    WorstRequest request_;
    std::vector<std::size_t> moving_; ///< freedoms that move the two against each other
    std::vector<double> speed_a_, speed_b_;
    std::vector<double> speed_; ///< of both together, mm per unit of each freedom
    WorstGap worst_;
    std::vector<State> overlapping_;
    proximity::Witness witness_; ///< of the state before: neighbouring states are nearest at the same place
    std::priority_queue<StateBox, std::vector<StateBox>, LeastFirst> boxes_;
};

} // namespace

WorstGap worstGap(const MovingBody& a, const MovingBody& b, const std::vector<Freedom>& freedoms,
                  const WorstRequest& request) {
    return Search(a, b, freedoms, request).take();
}

} // namespace gabarit::fit
