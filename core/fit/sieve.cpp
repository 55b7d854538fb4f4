#include "fit/sieve.h"

#include "fit/limit_table.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace gabarit::fit {

using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

/// What the movement takes from a pair where the unit hangs now, beyond what its limit at rest asks for.
std::optional<double> askedByMovement(const PairGap& pair) {
    std::optional<double> out;
    for (const auto* moment : {&pair.travel, &pair.worst}) {
        if (!*moment || pair.beyond() || pair.overlap()) continue;
        const double left_mm = (*moment)->gap.gap_mm - (*moment)->growth_mm - (*moment)->hidden_mm;
        const double asked_mm = (*moment)->limit.gap_mm + std::max(0.0, pair.gap.gap_mm - left_mm);
        out = std::max(out.value_or(0), asked_mm);
    }
    return out;
}

/// A body without a surface: nothing is ever near to it.
std::shared_ptr<const proximity::Collider> nothing() {
    static const auto none = std::make_shared<const proximity::Collider>(shape::Mesh(), 0.0);
    return none;
}

struct WorstFirst {
    bool operator()(const Short& a, const Short& b) const { return a.by_mm > b.by_mm; }
};

} // namespace

/// Bodies of one category and shield, joined to the same others, have one field.
struct Sieve::Kind {
    std::uint32_t kind;
    std::set<std::size_t> joined;
    bool operator<(const Kind& other) const { return std::tie(kind, joined) < std::tie(other.kind, other.joined); }
};

Sieve::Sieve(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
             const model::RuleBook& book, const SieveOptions& options) {
    const model::Placement* placement = model::activePlacement(project);
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    if (!placement || !donor) return;
    const Isometry3d pose_donor_vehicle = model::poseVehicleDonor(*placement, *donor).inverse();
    LimitTable own_limits;
    LimitTable& limits = options.limits ? *options.limits : own_limits;
    if (!options.limits) limits.begin(book);

    std::vector<const placed::PlacedBody*> unit, standing;
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!body.solid()) continue;
        (body.in_donor ? unit : standing).push_back(&body);
        (body.in_donor ? bodies_ : others_).push_back({body.ref, body.body.name});
    }
    std::map<std::pair<model::BodyRef, model::BodyRef>, const PairGap*> pairs;
    for (const PairGap& pair : now.pairs) pairs[{pair.a, pair.b}] = pairs[{pair.b, pair.a}] = &pair;
    std::set<std::pair<model::BodyRef, model::BodyRef>> joined;
    for (const model::Joined& pair : project.joined) joined.insert({pair.a, pair.b}), joined.insert({pair.b, pair.a});

    std::map<std::string, std::shared_ptr<const field::Surface>> surfaces;
    const auto surfaceOf = [&](const placed::PlacedBody& body) {
        auto& its = surfaces[body.made->key];
        if (!its) its = std::make_shared<const field::Surface>(body.made->collider);
        open_ = open_ || !its->closed();
        return its;
    };
    const auto doubt = [](const placed::PlacedBody& body) {
        return body.body.accuracy_mm.value_or(0) + body.made->collider->deflection_mm();
    };

    // What each body wants from each other one, beyond its own doubt; of a kind the most.
    std::map<Kind, std::vector<double>> kinds;
    std::vector<Kind> kind_of;
    AlignedBox3d region;
    for (const placed::PlacedBody* body : unit) {
        double most_taken_mm = 0;
        for (const placed::PlacedBody* other : standing) {
            const auto pair = pairs.find({body->ref, other->ref});
            if (pair == pairs.end() || !pair->second->limit) continue;
            if (const auto asked = askedByMovement(*pair->second))
                most_taken_mm = std::max(most_taken_mm, *asked - pair->second->limit->gap_mm);
        }
        Kind kind{limits.kindOf(*body), {}};
        for (std::size_t k = 0; k < standing.size(); ++k)
            if (joined.count({body->ref, standing[k]->ref})) kind.joined.insert(k);
        auto& wanted = kinds.emplace(kind, std::vector<double>(standing.size(), -1)).first->second;
        for (std::size_t k = 0; k < standing.size(); ++k) {
            const placed::PlacedBody& other = *standing[k];
            if (kind.joined.count(k)) continue;
            const PairLimits& limit = limits.of(book, *body, other);
            double its_mm = limit.rest ? limit.rest->gap_mm : 0;
            const auto pair = pairs.find({body->ref, other.ref});
            const auto asked = pair == pairs.end() ? std::nullopt : askedByMovement(*pair->second);
            if (asked)
                its_mm = std::max(its_mm, *asked);
            else if (limit.moving.worst)
                its_mm = std::max(its_mm, limit.moving.worst->gap_mm + most_taken_mm);
            wanted[k] = std::max(wanted[k], its_mm + doubt(other));
        }
        kind_of.push_back(std::move(kind));
        const Isometry3d pose_donor_body = pose_donor_vehicle * body->pose_vehicle_body;
        unit_donor_mm_.extend(shape::moved(body->made->collider->bounds(), pose_donor_body));
        region.extend(shape::moved(body->made->collider->bounds(), body->pose_vehicle_body));
    }
    if (unit.empty() || standing.empty()) return;
    region.min().array() -= options.farthest_mm;
    region.max().array() += options.farthest_mm;
    std::map<Kind, std::size_t> field_of;
    for (const auto& [kind, wanted] : kinds) {
        std::vector<field::Obstacle> obstacles;
        for (std::size_t k = 0; k < standing.size(); ++k) {
            // One that is joined keeps its number, and is never in the way.
            const double its_mm = wanted[k] < 0 ? 0 : field::wantedOfPoints_mm(wanted[k], options.spread_mm);
            auto surface = surfaceOf(*standing[k]);
            if (wanted[k] < 0) surface = std::make_shared<const field::Surface>(nothing());
            obstacles.push_back({std::move(surface), standing[k]->pose_vehicle_body, its_mm});
        }
        field_of[kind] = fields_.size();
        fields_.push_back(std::make_unique<const field::Wanted>(std::move(obstacles), region, options.fields));
    }
    for (std::size_t i = 0; i < unit.size(); ++i) {
        Moving moving;
        moving.cloud = std::make_unique<field::Cloud>(surfaceOf(*unit[i]), options.spread_mm);
        moving.pose_donor_body = pose_donor_vehicle * unit[i]->pose_vehicle_body;
        moving.field = field_of[kind_of[i]];
        moving.own_mm = doubt(*unit[i]);
        moving_.push_back(std::move(moving));
    }
}

std::vector<Short> Sieve::shortAt(const Isometry3d& pose_vehicle_donor, double from_mm) const {
    constexpr double slack_share = 0.15; // each is looked at again from where it leads to
    std::vector<Short> out;
    for (std::size_t i = 0; i < moving_.size(); ++i) {
        const Moving& moving = moving_[i];
        const Isometry3d pose = pose_vehicle_donor * moving.pose_donor_body;
        const double enough_mm = moving.own_mm - from_mm + most_more_mm_;
        for (const auto& its : moving.cloud->worstOfRegions(*fields_[moving.field], pose, enough_mm, slack_share)) {
            const auto other = static_cast<std::size_t>(its.at.obstacle);
            const double by_mm = moving.own_mm + more(i, other) - its.room_mm;
            if (by_mm > from_mm) out.push_back({i, other, by_mm, pose * its.point_body_mm, its.at.away});
        }
    }
    std::sort(out.begin(), out.end(), WorstFirst());
    return out;
}

double Sieve::more(std::size_t body, std::size_t other) const {
    const auto its = more_mm_.find({body, other});
    return its == more_mm_.end() ? 0 : its->second;
}

double Sieve::mostShort_mm(const Isometry3d& pose_vehicle_donor, double spare_mm) const {
    double most_mm = -spare_mm;
    // The body that was worst a moment ago first: the others have to be worse than that.
    const std::size_t before = worst_.load(std::memory_order_relaxed);
    std::size_t worst = before;
    for (std::size_t n = 0; n < moving_.size(); ++n) {
        const std::size_t i = n == 0 ? before : n <= before ? n - 1 : n;
        const double most_before_mm = most_mm;
        const Moving& moving = moving_[i];
        const Isometry3d pose = pose_vehicle_donor * moving.pose_donor_body;
        const field::Wanted& field = *fields_[moving.field];
        const double enough_mm = moving.own_mm - most_mm;
        if (more_mm_.empty()) {
            most_mm = std::max(most_mm, moving.own_mm - moving.cloud->leastRoom_mm(field, pose, enough_mm));
            if (most_mm > most_before_mm) worst = i;
            continue;
        }
        for (const auto& its : moving.cloud->worstOfRegions(field, pose, enough_mm + most_more_mm_))
            most_mm =
                std::max(most_mm, moving.own_mm + more(i, static_cast<std::size_t>(its.at.obstacle)) - its.room_mm);
    }
    worst_.store(worst, std::memory_order_relaxed);
    return most_mm;
}

void Sieve::setRight(const Isometry3d& pose_vehicle_donor,
                     const std::map<std::pair<model::BodyRef, model::BodyRef>, double>& short_mm) {
    constexpr double near_mm = 25; // what has more to spare than that holds nothing up
    const auto said = shortAt(pose_vehicle_donor, -near_mm);
    most_more_mm_ = 0;
    for (std::size_t i = 0; i < bodies_.size(); ++i)
        for (std::size_t k = 0; k < others_.size(); ++k) {
            const auto is = short_mm.find({bodies_[i].ref, others_[k].ref});
            if (is == short_mm.end() || is->second <= -near_mm) continue;
            const auto its =
                std::find_if(said.begin(), said.end(), [&](const Short& s) { return s.body == i && s.other == k; });
            if (its != said.end()) more_mm_[{i, k}] += is->second - its->by_mm;
        }
    for (const auto& [pair, more] : more_mm_) most_more_mm_ = std::max(most_more_mm_, more);
}

std::size_t Sieve::bytes() const {
    std::size_t out = 0;
    for (const auto& its : fields_) out += its->bytes();
    return out;
}

} // namespace gabarit::fit
