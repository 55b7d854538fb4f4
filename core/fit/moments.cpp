#include "fit/moments.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace gabarit::fit {
namespace {

using Eigen::Isometry3d;
using Eigen::Vector3d;
using model::Verdict;
using proximity::Contact;

constexpr double beside_mm = 10; // how far past the limit a worst moment is still measured
constexpr double no_go_tolerance_mm = 0.5;
constexpr double settled_tolerance_mm = 2; // of a worst moment whose verdict is certain
constexpr int most_states = 3000;          // per pair, at rest of the hand
constexpr int most_states_verdict = 40;    // per pair, of a place that is only tried
constexpr int most_states_live = 24;       // per pair, while it moves
constexpr double most_carried_mm = 5;      // how far a search tells for a moving hand
constexpr int most_corrections = 6;        // of a move that must clear the worst moment

bool inGroup(const model::RuleBook& book, const std::string& categoryId, const char* group) {
    const model::Category* category = book.category(categoryId);
    return category && std::find(category->groups.begin(), category->groups.end(), group) != category->groups.end();
}

double largestExtent_mm(const placed::PlacedBody& body) { return body.made->collider->bounds().sizes().maxCoeff(); }

void addBytes(std::string& key, const double* data, std::size_t count) {
    const std::size_t at = key.size();
    key.resize(at + count * sizeof(double));
    std::memcpy(key.data() + at, data, count * sizeof(double));
}

/// What a chain is, as bytes: chains are made anew with each run.
struct Print {
    std::string& key;
    void operator()(const kinematics::AxleMotion& m) const {
        key += 'x';
        put(static_cast<double>(m.travel)), put(m.roll ? static_cast<double>(*m.roll) : -1), put(m.centre_mm);
        for (const kinematics::Link& link : m.links) put(link.fixed_mm), put(link.moving_mm);
    }
    void operator()(const kinematics::SwingMotion& m) const {
        key += 'w';
        put(static_cast<double>(m.travel)), put(m.axis_a_mm), put(m.axis_b_mm), put(m.tip_mm);
    }
    void operator()(const kinematics::CarriedMotion& m) const {
        key += 'c';
        (*this)(m.by);
    }
    void operator()(const kinematics::SlideMotion& m) const {
        key += 's';
        put(static_cast<double>(m.freedom)), put(m.per_unit_mm);
    }
    void operator()(const kinematics::TurnMotion& m) const {
        key += 't';
        put(static_cast<double>(m.freedom)), put(m.axis_a_mm), put(m.axis_b_mm), put(m.per_unit_deg);
        put(m.per_unit_below_deg.value_or(m.per_unit_deg));
    }

private:
    void put(double v) const { addBytes(key, &v, 1); }
    void put(const Vector3d& v) const { addBytes(key, v.data(), 3); }
};

/// Whether a chain is another one moved as a whole (what hangs with the unit), or the same one (the vehicle's).
bool isMoved(const kinematics::Chain* was, const kinematics::Chain* is, const Isometry3d& move) {
    constexpr double rounding_mm = 1e-6;
    const std::size_t count = is ? is->size() : 0;
    if ((was ? was->size() : 0) != count) return false;
    const auto keyOf = [](const kinematics::Motion& motion) {
        std::string key;
        std::visit(Print{key}, motion);
        return key;
    };
    bool turned_along = false, stayed = false;
    for (std::size_t i = 0; i < count; ++i) {
        const auto* then = std::get_if<kinematics::TurnMotion>(&(*was)[i]);
        const auto* now = std::get_if<kinematics::TurnMotion>(&(*is)[i]);
        if (!then || !now) {
            if (keyOf((*was)[i]) != keyOf((*is)[i])) return false;
            stayed = stayed || !std::holds_alternative<kinematics::SlideMotion>((*is)[i]); // a slide has no place
            continue;
        }
        const auto isAt = [&](const Vector3d& axis_a_mm, const Vector3d& axis_b_mm) {
            return (now->axis_a_mm - axis_a_mm).norm() < rounding_mm &&
                   (now->axis_b_mm - axis_b_mm).norm() < rounding_mm;
        };
        if (now->freedom != then->freedom || now->per_unit_deg != then->per_unit_deg ||
            now->per_unit_below_deg != then->per_unit_below_deg)
            return false;
        if (isAt(move * then->axis_a_mm, move * then->axis_b_mm))
            turned_along = true;
        else if (isAt(then->axis_a_mm, then->axis_b_mm))
            stayed = true;
        else
            return false;
    }
    return !(turned_along && stayed);
}

} // namespace

When PairGap::deciding() const {
    When when = When::Rest;
    Verdict worst_verdict = rest_verdict;
    double least_mm = margin_mm;
    const auto weigh = [&](const std::optional<Moment>& moment, When which) {
        if (!moment || moment->verdict < worst_verdict) return;
        if (moment->verdict == worst_verdict && !(moment->margin_mm < least_mm)) return;
        if (moment->bound && moment->verdict == Verdict::Go) return; // a bound says less than a gap
        when = which, worst_verdict = moment->verdict, least_mm = moment->margin_mm;
    };
    if (overlap()) return when;
    weigh(travel, When::Travel);
    weigh(worst, When::Worst);
    return when;
}

Verdict PairGap::plannedVerdict() const {
    Verdict out = rest_verdict;
    for (const auto* moment : {&travel, &worst})
        if (*moment) out = model::worse(out, (*moment)->verdict);
    return out;
}

const Moment* PairGap::moment() const {
    const When when = deciding();
    return when == When::Travel ? &*travel : when == When::Worst ? &*worst : nullptr;
}

MomentLooker::MomentLooker(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                           const Movement& movement, GapMemo* memo, const ClearanceOptions& options)
    : project_(project), book_(book), first_(scene.bodies.data()), known_(scene.bodies.size()), movement_(movement),
      memo_(memo), options_(options) {
    growth_mm_per_m_ = book.figure("hot_growth_mm_per_m");
    expected_travel_mm_ = book.figure("travel_not_given_mm");
    for (std::size_t n = 0; n < scene.bodies.size(); ++n) {
        const placed::PlacedBody& body = scene.bodies[n];
        Known& its = known_[n];
        its.chain = movement.chainOf(body.ref);
        its.hot = inGroup(book, body.body.category, "hot");
        its.travels = inGroup(book, body.body.category, "travels");
        if (options.effort == discipline::Effort::None || !its.chain || !body.solid()) continue;
        Speeds& speeds = its.speeds.emplace();
        speeds.mm_per_unit = kinematics::fastest(*its.chain, movement.freedoms,
                                                 shape::moved(body.made->collider->bounds(), body.pose_vehicle_body));
        for (std::size_t i = 0; i < movement.freedoms.size(); ++i) {
            const double reach = speeds.mm_per_unit[i] * std::max(-movement.freedoms[i].low, movement.freedoms[i].high);
            speeds.all_mm += reach;
            if (movement.without_rocking[i]) speeds.without_rocking_mm += reach;
        }
    }
}

const MomentLooker::Known& MomentLooker::known(const placed::PlacedBody& body) const {
    return known_[static_cast<std::size_t>(&body - first_)];
}

const MomentLooker::Speeds* MomentLooker::speedsOf(const placed::PlacedBody& body) const {
    const Known& its = known(body);
    return its.speeds ? &*its.speeds : nullptr;
}

bool MomentLooker::travelUnknown(const placed::PlacedBody& body) const {
    return !body.in_donor && known(body).travels && !chainOf(body);
}

double MomentLooker::growth_mm(const placed::PlacedBody& a, const placed::PlacedBody& b) const {
    double sum = 0;
    for (const placed::PlacedBody* body : {&a, &b})
        if (known(*body).hot) sum += growth_mm_per_m_ * largestExtent_mm(*body) / 1000; // mm per m
    return sum;
}

void MomentLooker::judge(Moment& moment, const PairGap& pair) const {
    moment.margin_mm = moment.gap.gap_mm - moment.growth_mm - moment.limit.gap_mm;
    if (moment.overlap()) {
        moment.verdict = Verdict::NoGo;
        return;
    }
    std::optional<double> accuracy = pair.accuracy_mm;
    if (accuracy) *accuracy += moment.hidden_mm;
    moment.verdict = model::judge(moment.margin_mm, accuracy);
    if (moment.verdict == Verdict::Unknown) moment.reason = "the accuracy of one of the two is not known";
}

Moment MomentLooker::moment(const PairGap& pair, const placed::PlacedBody& a, const placed::PlacedBody& b,
                            const model::Limit& limit, bool rocking, double apart_mm,
                            const Vector3d& shift_a_mm) const {
    Moment out;
    out.limit = limit;
    out.growth_mm = rocking ? growth_mm(a, b) : 0; // heat belongs to the worst moment
    const Speeds *of_a = speedsOf(a), *of_b = speedsOf(b);
    const auto all = [&](const Speeds* s) { return !s ? 0.0 : rocking ? s->all_mm : s->without_rocking_mm; };
    const double needed_mm = limit.gap_mm + pair.accuracy_mm.value_or(0) + out.growth_mm;
    // Never farther than all that moves them: most pairs end here.
    const double least_mm = apart_mm - all(of_a) - all(of_b);
    if (least_mm >= needed_mm || all(of_a) + all(of_b) <= 0) {
        out.bound = true;
        out.range_mm = out.gap.gap_mm = std::max(least_mm, 0.0);
        if (all(of_a) + all(of_b) <= 0) out.gap = pair.gap, out.bound = false, out.range_mm = pair.range_mm;
        judge(out, pair);
        return out;
    }
    out.range_mm = std::ceil(needed_mm) + beside_mm;
    const bool verdict = options_.effort == discipline::Effort::Verdict;
    WorstRequest request;
    request.range_mm = out.range_mm;
    request.settled_below_mm = limit.gap_mm + out.growth_mm;
    // What is no-go is to be mended: its figure is wanted nearly as true as that of what is unsure.
    if (!verdict) request.no_go_tolerance_mm = no_go_tolerance_mm;
    request.settled_above_mm = needed_mm;
    request.settled_tolerance_mm = verdict ? std::numeric_limits<double>::infinity() : settled_tolerance_mm;
    request.most_states = options_.effort == discipline::Effort::Full ? most_states
                          : verdict                                   ? most_states_verdict
                                                                      : most_states_live;
    request.depth = options_.depth == discipline::Depth::Searched;
    request.stops = &movement_.stops;
    if (!rocking) request.free = &movement_.without_rocking;
    request.polish = options_.effort == discipline::Effort::Full;
    request.stop = options_.stop;
    // At rest it is known already, where it stands and as far as was looked.
    proximity::Gap rest = pair.gap;
    if (!pair.overlap() && rest.gap_mm > request.range_mm) rest.contact = Contact::Beyond;
    if (shift_a_mm.isZero(0) && pair.range_mm >= request.range_mm) request.rest = &rest;
    Isometry3d pose_a = a.pose_vehicle_body;
    pose_a.pretranslate(shift_a_mm);
    // A donor that is moved takes the line it rocks about along.
    std::optional<kinematics::Chain> along;
    const kinematics::Chain* chain_a = chainOf(a);
    if (chain_a && a.in_donor && !shift_a_mm.isZero(0)) {
        along = *chain_a;
        for (kinematics::Motion& motion : *along)
            if (auto* turn = std::get_if<kinematics::TurnMotion>(&motion))
                turn->axis_a_mm += shift_a_mm, turn->axis_b_mm += shift_a_mm;
        chain_a = &*along;
    }

    const bool here = shift_a_mm.isZero(0);
    // The speeds of a shifted body are those of its place.
    const MovingBody moving_a{a.made->collider.get(), pose_a, chain_a, here && of_a ? &of_a->mm_per_unit : nullptr};
    const MovingBody moving_b{b.made->collider.get(), b.pose_vehicle_body, chainOf(b),
                              of_b ? &of_b->mm_per_unit : nullptr};
    const bool live = memo_ && options_.effort == discipline::Effort::Bounds && here;
    std::string still;
    if (live) {
        still = a.made->key + b.made->key;
        addBytes(still, b.pose_vehicle_body.matrix().data(), 16);
        if (moving_b.chain)
            for (const kinematics::Motion& motion : *moving_b.chain) std::visit(Print{still}, motion);
        for (const kinematics::Stop& stop : movement_.stops) {
            addBytes(still, stop.lean.data(), stop.lean.size());
            addBytes(still, stop.weight.data(), stop.weight.size());
            addBytes(still, &stop.most, 1);
        }
    }
    std::string key;
    if (memo_) {
        key = a.made->key + b.made->key + movement_.print;
        for (const placed::PlacedBody* body : {&a, &b}) {
            addBytes(key, (body == &a ? pose_a : b.pose_vehicle_body).matrix().data(), 16);
            if (const kinematics::Chain* chain = body == &a ? chain_a : chainOf(*body))
                for (const kinematics::Motion& motion : *chain) std::visit(Print{key}, motion);
            key += '|';
        }
        for (const double v : {request.range_mm, request.settled_below_mm, request.settled_above_mm})
            addBytes(key, &v, 1);
        key += static_cast<char>('0' + static_cast<int>(options_.effort) * 2 + (request.depth ? 1 : 0));
        key += rocking ? 'r' : 't';
    }
    WorstGap found;
    if (const auto known = memo_ ? memo_->moments.find(key) : std::nullopt) {
        found = *known;
    } else {
        const auto earlier = live ? memo_->earlier(a.ref, b.ref, rocking) : nullptr;
        auto told = earlier ? carried(*earlier, still, moving_a, moving_b, request) : std::nullopt;
        const bool searched = !told;
        found = told ? std::move(*told) : worstGap(moving_a, moving_b, movement_.freedoms, request);
        if (memo_ && !options_.stop.stopped()) {
            memo_->moments.keep(key, found);
            if (live && searched) {
                EarlierMoment kept;
                kept.still = std::move(still);
                kept.pose_rest = pose_a;
                if (chain_a) kept.chain = *chain_a;
                kept.freedoms = movement_.freedoms;
                kept.least_mm = found.gap.contact == Contact::Overlap  ? 0
                                : found.gap.contact == Contact::Beyond ? out.range_mm - found.hidden_mm
                                                                       : found.gap.gap_mm - found.hidden_mm;
                kept.found = found;
                memo_->keepEarlier(a.ref, b.ref, rocking, std::move(kept));
            }
        }
    }
    out.gap = found.gap;
    out.state = found.state;
    if (found.gap.contact == Contact::Beyond) out.gap.gap_mm = out.range_mm;
    out.hidden_mm = found.hidden_mm;
    out.states = found.states;
    out.complete = found.complete;
    if (const auto* chain = chain_a) out.moved_a = kinematics::movedFromRest(*chain, out.state);
    if (const auto* chain = chainOf(b)) out.moved_b = kinematics::movedFromRest(*chain, out.state);
    judge(out, pair);
    if (verdict && out.verdict == Verdict::Go) { // the least was not looked for
        out.bound = true;
        out.gap.gap_mm -= out.hidden_mm;
        out.margin_mm -= out.hidden_mm;
        out.state.clear();
    }
    return out;
}

std::optional<WorstGap> MomentLooker::carried(const EarlierMoment& earlier, const std::string& still,
                                              const MovingBody& a, const MovingBody& b,
                                              const WorstRequest& request) const {
    const Isometry3d move = a.pose_rest * earlier.pose_rest.inverse(Eigen::Isometry);
    const std::vector<kinematics::Freedom>& now = movement_.freedoms;
    if (earlier.still != still || earlier.freedoms.size() != now.size()) return std::nullopt;
    if (!isMoved(earlier.chain.empty() ? nullptr : &earlier.chain, a.chain, move)) return std::nullopt;
    // A point q of it at any state is now where the move takes q, or carried as far as that: it went |move·q − q|,
    // which is what the middle went and what the turn does to what is farthest from there.
    const Eigen::AlignedBox3d& box = a.collider->bounds();
    const Vector3d middle = earlier.pose_rest * box.center();
    double reach_mm = box.diagonal().norm() / 2;
    for (std::size_t i = 0; a.speed && i < now.size(); ++i)
        reach_mm += (*a.speed)[i] * std::max(-now[i].low, now[i].high);
    const double half_turn = std::sqrt(std::max(0.0, (3 - move.linear().trace()) / 4)); // sine of half its angle
    double nearer_mm = (move * middle - middle).norm() + 2 * half_turn * reach_mm;
    // A state has, within what its freedoms have gained, a neighbour that was looked at.
    for (std::size_t i = 0; i < now.size(); ++i) {
        if (now[i].id != earlier.freedoms[i].id) return std::nullopt;
        if (request.free && !(*request.free)[i]) continue;
        const double gained =
            std::max({0.0, earlier.freedoms[i].low - now[i].low, now[i].high - earlier.freedoms[i].high});
        const auto holds = [i](const kinematics::Stop& stop) { return stop.lean[i] != 0 || stop.weight[i] != 0; };
        if (gained > 0 && std::any_of(movement_.stops.begin(), movement_.stops.end(), holds)) return std::nullopt;
        for (const MovingBody* body : {&a, &b})
            if (body->speed) nearer_mm += gained * (*body->speed)[i];
    }
    if (nearer_mm > most_carried_mm) return std::nullopt;
    const double least_mm = earlier.least_mm - nearer_mm;
    WorstGap out = earlier.found;
    out.states = 0;
    if (out.gap.contact == Contact::Beyond) {
        if (least_mm < request.settled_above_mm) return std::nullopt;
        out.hidden_mm = std::max(0.0, request.range_mm - least_mm);
        return out;
    }
    for (std::size_t i = 0; i < now.size(); ++i) out.state[i] = std::clamp(out.state[i], now[i].low, now[i].high);
    if (!kinematics::allowed(movement_.stops, out.state)) return std::nullopt;
    proximity::GapRequest ask;
    ask.range_mm = request.range_mm + nearer_mm;
    ask.depth = false;
    ask.stop = request.stop;
    const auto at = [&out](const MovingBody& body) {
        return body.chain ? kinematics::movedFromRest(*body.chain, out.state) * body.pose_rest : body.pose_rest;
    };
    out.gap = proximity::gap(*a.collider, at(a), *b.collider, at(b), ask);
    out.states = 1;
    out.complete = true;
    if (out.gap.contact == Contact::Overlap) {
        out.hidden_mm = 0;
        return out;
    }
    // At rest it may be worse by now.
    if (request.rest && request.rest->contact == Contact::Apart && request.rest->gap_mm < out.gap.gap_mm) {
        out.gap = *request.rest;
        out.state = kinematics::atRest(now);
    }
    const bool no_go = out.gap.gap_mm < request.settled_below_mm, go = least_mm >= request.settled_above_mm;
    if (!no_go && !go) return std::nullopt;
    out.hidden_mm = std::max(0.0, out.gap.gap_mm - least_mm);
    return out;
}

std::optional<Moment> MomentLooker::groundMoment(const PairGap& pair, const placed::PlacedBody& a,
                                                 const placed::PlacedBody& b) const {
    const bool ground_a = a.body.category == "ground", ground_b = b.body.category == "ground";
    if (!options_.sag.any() || ground_a == ground_b || !pair.limit || !project_.vehicle) return std::nullopt;
    if (chainOf(ground_a ? b : a) && !(ground_a ? b : a).in_donor) return std::nullopt; // unsprung
    const Isometry3d moved =
        groundMoved(*project_.vehicle, options_.sag.front_mm.value_or(0), options_.sag.rear_mm.value_or(0));
    Moment out;
    out.limit = *pair.limit;
    out.sag = true;
    out.states = 1;
    out.range_mm = pair.range_mm;
    (ground_a ? out.moved_a : out.moved_b) = moved;
    proximity::GapRequest request;
    request.range_mm = pair.range_mm;
    request.depth = options_.depth == discipline::Depth::Searched;
    request.stop = options_.stop;
    out.gap = proximity::gap(*a.made->collider, out.moved_a * a.pose_vehicle_body, *b.made->collider,
                             out.moved_b * b.pose_vehicle_body, request);
    judge(out, pair);
    return out;
}

void MomentLooker::look(PairGap& pair, const placed::PlacedBody& a, const placed::PlacedBody& b,
                        const model::MovingLimits& limits, const Eigen::AlignedBox3d& bounds_a,
                        const Eigen::AlignedBox3d& bounds_b) const {
    if (options_.effort == discipline::Effort::None || pair.overlap() || !pair.limit) return;
    if (options_.effort == discipline::Effort::Verdict && pair.rest_verdict == Verdict::NoGo) return;
    if (!limits.worst) {
        pair.worst = groundMoment(pair, a, b);
        return;
    }
    const double apart_mm = pair.beyond()
                                ? std::max(pair.range_mm, std::sqrt(bounds_a.squaredExteriorDistance(bounds_b)))
                                : pair.gap.gap_mm;
    const bool unknown = travelUnknown(a) || travelUnknown(b);
    if (unknown && limits.travel &&
        apart_mm < limits.travel->gap_mm + pair.accuracy_mm.value_or(0) + expected_travel_mm_) {
        Moment moment;
        moment.limit = *limits.travel;
        moment.gap = pair.gap;
        moment.range_mm = pair.range_mm;
        moment.margin_mm = pair.gap.gap_mm - limits.travel->gap_mm;
        moment.reason = "how far the \"" + (travelUnknown(a) ? a : b).body.name + "\" moves is not given";
        moment.verdict = moment.margin_mm < 0 ? Verdict::NoGo : Verdict::Unknown;
        pair.travel = std::move(moment);
    }
    if (chainOf(a) == chainOf(b)) {
        // They stand still against each other; what is hot still grows.
        if (growth_mm(a, b) > 0) pair.worst = moment(pair, a, b, *limits.worst, true, apart_mm, Vector3d::Zero());
        return;
    }
    if (limits.travel && !pair.travel)
        pair.travel = moment(pair, a, b, *limits.travel, false, apart_mm, Vector3d::Zero());
    pair.worst = moment(pair, a, b, *limits.worst, true, apart_mm, Vector3d::Zero());
}

std::optional<Vector3d> MomentLooker::clearingMove(const PairGap& pair, const placed::PlacedBody& a,
                                                   const placed::PlacedBody& b) const {
    const Moment* deciding = pair.moment();
    if (!deciding || deciding->sag || deciding->state.empty()) return std::nullopt;
    // The deciding one first, then whatever is not good yet where that leads to: rest, travel, worst.
    const auto notGood = [&](const Vector3d& move) -> std::optional<Moment> {
        Moment rest;
        rest.limit = *pair.limit;
        Isometry3d pose_a = a.pose_vehicle_body;
        pose_a.pretranslate(move);
        proximity::GapRequest request;
        request.range_mm = pair.limit->gap_mm + pair.accuracy_mm.value_or(0) + beside_mm;
        request.depth = false;
        request.stop = options_.stop;
        rest.gap = proximity::gap(*a.made->collider, pose_a, *b.made->collider, b.pose_vehicle_body, request);
        judge(rest, pair);
        if (rest.verdict != Verdict::Go) return rest;
        if (pair.travel) {
            Moment travel = moment(pair, a, b, pair.travel->limit, false, 0, move);
            if (travel.verdict != Verdict::Go) return travel;
        }
        if (pair.worst) {
            Moment worst = moment(pair, a, b, pair.worst->limit, true, 0, move);
            if (worst.verdict != Verdict::Go) return worst;
        }
        return std::nullopt;
    };
    Moment at = *deciding;
    Vector3d move = Vector3d::Zero();
    for (int round = 0; round < most_corrections && !options_.stop.stopped(); ++round) {
        if (at.overlap() && round > 0) return std::nullopt; // its way out was not searched
        const double wanted_mm = at.limit.gap_mm + at.growth_mm + pair.accuracy_mm.value_or(0) + at.hidden_mm;
        Isometry3d pose_a = a.pose_vehicle_body;
        pose_a.pretranslate(move);
        const auto step = proximity::clearingMove(*a.made->collider, at.moved_a * pose_a, *b.made->collider,
                                                  at.moved_b * b.pose_vehicle_body, at.gap, wanted_mm, options_.stop);
        if (!step) return std::nullopt;
        // What rocks goes as far at that state as at rest; what an arm turns goes its turned way.
        move += a.in_donor ? *step : Vector3d(at.moved_a.linear().transpose() * *step);
        auto next = notGood(move);
        if (!next) return move;
        at = std::move(*next);
    }
    return std::nullopt;
}

} // namespace gabarit::fit
