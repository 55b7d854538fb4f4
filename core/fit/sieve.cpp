#include "fit/sieve.h"

#include "fit/limit_table.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <set>

namespace gabarit::fit {

using Eigen::AlignedBox3d;
using Eigen::Isometry3d;
using Eigen::Vector3d;

namespace {

/// What the movement takes from a pair where the unit hangs now, beyond what its limit at rest asks for. `rest_mm`: its
/// gap at rest.
std::optional<double> askedByMovement(const PairGap& pair, double rest_mm) {
    std::optional<double> out;
    for (const auto* moment : {&pair.travel, &pair.worst}) {
        // A bound tells only that it is enough.
        if (!*moment || pair.overlap() || (*moment)->beyond() || (*moment)->bound) continue;
        const double left_mm = (*moment)->gap.gap_mm - (*moment)->growth_mm - (*moment)->hidden_mm;
        const double asked_mm = (*moment)->limit.gap_mm + std::max(0.0, rest_mm - left_mm);
        out = std::max(out.value_or(0), asked_mm);
    }
    return out;
}

/// Of a pair that is farther apart than is measured, where its movement was looked at.
double restOf(const PairGap& pair, const placed::PlacedBody& a, const placed::PlacedBody& b) {
    if (!pair.beyond() || !(pair.travel || pair.worst)) return pair.gap.gap_mm;
    proximity::GapRequest request;
    constexpr double any_mm = 1e4;
    request.range_mm = any_mm;
    request.depth = false;
    return proximity::gap(*a.made->collider, a.pose_vehicle_body, *b.made->collider, b.pose_vehicle_body, request)
        .gap_mm;
}

double doubtOf(const placed::PlacedBody& body) {
    return body.body.accuracy_mm.value_or(0) + body.made->collider->deflection_mm();
}

struct WorstFirst {
    bool operator()(const Short& a, const Short& b) const { return a.by_mm > b.by_mm; }
};

} // namespace

/// What all that share its fields have in common.
struct Sieve::Made {
    struct Moving {
        std::unique_ptr<field::Cloud> cloud;
        Isometry3d pose_donor_body;
        AlignedBox3d bounds_donor_mm;
        std::size_t kind = 0;
        double own_mm = 0; ///< what it wants beyond what its kind wants
    };
    std::vector<Member> bodies, others;
    std::vector<Moving> moving;                                            ///< by body
    std::vector<std::vector<std::size_t>> groups;                          ///< of others
    std::vector<std::vector<std::unique_ptr<const field::Wanted>>> fields; ///< by kind, then by group
    Isometry3d pose_now_vehicle_donor = Isometry3d::Identity();
    bool open = false;
    mutable std::atomic<std::size_t> worst{0}; ///< the body that was worst at the last pose

    std::size_t otherOf(std::size_t group, int obstacle) const {
        return groups[group][static_cast<std::size_t>(obstacle)];
    }
};

class Sieve::Maker {
public:
    Maker(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
          const model::RuleBook& book, const SieveOptions& options)
        : book_(book), options_(options), limits_(options.limits ? *options.limits : own_limits_) {
        if (!options.limits) limits_.begin(book);
        for (const placed::PlacedBody& body : scene.bodies) {
            if (!body.solid()) continue;
            const std::string option = options.by_option && !body.body.option.empty()
                                           ? body.ref.owner + "/" + body.body.option
                                           : std::string();
            (body.in_donor ? unit_ : standing_).push_back(&body);
            (body.in_donor ? made_->bodies : made_->others).push_back({body.ref, body.body.name, option});
        }
        for (const PairGap& pair : now.pairs) pairs_[{pair.a, pair.b}] = pairs_[{pair.b, pair.a}] = &pair;
        for (const model::Joined& pair : project.joined)
            joined_.insert({pair.a, pair.b}), joined_.insert({pair.b, pair.a});
        const model::Placement* placement = model::activePlacement(project);
        const std::optional<model::Donor> donor = model::hangingDonor(project);
        if (!placement || !donor) return;
        made_->pose_now_vehicle_donor = model::poseVehicleDonor(*placement, *donor);
        pose_donor_vehicle_ = made_->pose_now_vehicle_donor.inverse();
        make();
    }
    std::shared_ptr<const Made> made() && { return std::move(made_); }

private:
    /// Bodies of one category and shield, joined to the same others, have one field.
    struct Kind {
        std::uint32_t kind;
        std::set<std::size_t> joined;
        bool operator<(const Kind& other) const { return std::tie(kind, joined) < std::tie(other.kind, other.joined); }
    };

    void make() {
        findMovement();
        AlignedBox3d region;
        for (std::size_t i = 0; i < unit_.size(); ++i) {
            const placed::PlacedBody& body = *unit_[i];
            Kind kind = kindOf(body);
            auto& wanted = wanted_.emplace(kind, std::vector<double>(standing_.size(), -1)).first->second;
            const double rock_mm = rockOf(body);
            for (std::size_t k = 0; k < standing_.size(); ++k)
                if (!kind.joined.count(k)) wanted[k] = std::max(wanted[k], wantedOf(body, *standing_[k], rock_mm));
            kinds_.push_back(std::move(kind));
            region.extend(shape::moved(body.made->collider->bounds(), body.pose_vehicle_body));
        }
        if (unit_.empty() || standing_.empty()) return;
        region.min().array() -= options_.farthest_mm;
        region.max().array() += options_.farthest_mm;
        std::map<std::string, std::size_t> group_of;
        for (std::size_t k = 0; k < standing_.size(); ++k) {
            const auto its = group_of.emplace(made_->others[k].option, made_->groups.size());
            if (its.second) made_->groups.emplace_back();
            made_->groups[its.first->second].push_back(k);
        }
        std::map<Kind, std::size_t> index;
        for (const auto& [kind, wanted] : wanted_) {
            index[kind] = made_->fields.size();
            made_->fields.emplace_back();
            for (const auto& group : made_->groups) made_->fields.back().push_back(fieldOf(group, wanted, region));
        }
        for (std::size_t i = 0; i < unit_.size(); ++i) {
            Made::Moving moving;
            moving.cloud = std::make_unique<field::Cloud>(surfaceOf(*unit_[i]), options_.spread_mm);
            moving.pose_donor_body = pose_donor_vehicle_ * unit_[i]->pose_vehicle_body;
            moving.bounds_donor_mm = shape::moved(unit_[i]->made->collider->bounds(), moving.pose_donor_body);
            moving.kind = index[kinds_[i]];
            moving.own_mm = doubtOf(*unit_[i]);
            made_->moving.push_back(std::move(moving));
        }
    }
    Kind kindOf(const placed::PlacedBody& body) {
        Kind kind{limits_.kindOf(body), {}};
        for (std::size_t k = 0; k < standing_.size(); ++k)
            if (joined_.count({body.ref, standing_[k]->ref})) kind.joined.insert(k);
        return kind;
    }
    /// How the unit moves on its mounts, as far as it shows in what was measured; how far each thing of the vehicle
    /// that moves itself (axle, wheel, the ground as the springs give) comes to it.
    void findMovement() {
        for (const auto& [refs, pair] : pairs_) {
            if (!(refs.first == pair->a) || pair->a.inVehicle() == pair->b.inVehicle()) continue;
            const bool a_is_unit = !pair->a.inVehicle();
            const model::BodyRef& other = a_is_unit ? pair->b : pair->a;
            for (const auto* moment : {&pair->travel, &pair->worst}) {
                if (!*moment || (*moment)->bound || (*moment)->beyond()) continue;
                const Isometry3d& of_unit = a_is_unit ? (*moment)->moved_a : (*moment)->moved_b;
                const Isometry3d& of_other = a_is_unit ? (*moment)->moved_b : (*moment)->moved_a;
                rocked_.push_back(of_unit);
                constexpr double same = 1e-9;
                if (of_other.isApprox(Isometry3d::Identity(), same) && !(*moment)->sag) continue;
                const placed::PlacedBody *body = bodyOf(a_is_unit ? pair->a : pair->b), *its = bodyOf(other);
                if (!body || !its) continue;
                const double left_mm = (*moment)->gap.gap_mm - (*moment)->growth_mm - (*moment)->hidden_mm;
                double& comes = comes_mm_[other];
                comes = std::max(comes, restOf(*pair, *body, *its) - left_mm);
            }
        }
    }
    const placed::PlacedBody* bodyOf(const model::BodyRef& ref) const {
        for (const auto* list : {&unit_, &standing_})
            for (const placed::PlacedBody* body : *list)
                if (body->ref == ref) return body;
        return nullptr;
    }
    /// The most that any point of a body of the unit moves on the mounts.
    double rockOf(const placed::PlacedBody& body) const {
        const AlignedBox3d box = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
        double most2 = 0;
        for (const Isometry3d& rocked : rocked_)
            for (int i = 0; i < 8; ++i) {
                const Vector3d corner = box.corner(static_cast<AlignedBox3d::CornerType>(i));
                most2 = std::max(most2, (rocked * corner - corner).squaredNorm());
            }
        return std::sqrt(most2);
    }
    /// Beyond the unit's own doubt.
    double wantedOf(const placed::PlacedBody& body, const placed::PlacedBody& other, double rock_mm) {
        const PairLimits& limit = limits_.of(book_, body, other);
        double out = limit.rest ? limit.rest->gap_mm : 0;
        if (const auto asked = askedAt(body, other))
            out = std::max(out, *asked);
        else if (limit.moving.worst)
            out = std::max(out, limit.moving.worst->gap_mm + std::max(rock_mm, comes(other)));
        return out + doubtOf(other);
    }
    double comes(const placed::PlacedBody& other) const {
        const auto its = comes_mm_.find(other.ref);
        return its == comes_mm_.end() ? 0 : its->second;
    }
    std::optional<double> askedAt(const placed::PlacedBody& body, const placed::PlacedBody& other) {
        const auto pair = pairs_.find({body.ref, other.ref});
        if (pair == pairs_.end()) return std::nullopt;
        const auto its = asked_.find(pair->second);
        if (its != asked_.end()) return its->second;
        return asked_[pair->second] = askedByMovement(*pair->second, restOf(*pair->second, body, other));
    }
    std::shared_ptr<const field::Surface> surfaceOf(const placed::PlacedBody& body) {
        auto& its = surfaces_[body.made->key];
        if (!its) its = std::make_shared<const field::Surface>(body.made->collider);
        made_->open = made_->open || !its->closed();
        return its;
    }
    std::unique_ptr<const field::Wanted> fieldOf(const std::vector<std::size_t>& group,
                                                 const std::vector<double>& wanted, const AlignedBox3d& region) {
        std::vector<field::Obstacle> obstacles;
        for (const std::size_t k : group) {
            // One that is joined keeps its number, and is never in the way.
            const bool joined = wanted[k] < 0;
            const double its_mm =
                joined ? 0 : field::wantedOfPoints_mm(wanted[k], options_.spread_mm * options_.cautious_share);
            auto surface = surfaceOf(*standing_[k]);
            if (joined) surface = nothing();
            obstacles.push_back({std::move(surface), standing_[k]->pose_vehicle_body, its_mm});
        }
        return std::make_unique<const field::Wanted>(std::move(obstacles), region, options_.fields);
    }
    /// A body without a surface: nothing is ever near to it.
    static std::shared_ptr<const field::Surface> nothing() {
        static const auto none =
            std::make_shared<const field::Surface>(std::make_shared<const proximity::Collider>(shape::Mesh(), 0.0));
        return none;
    }

    const model::RuleBook& book_;
    const SieveOptions& options_;
    LimitTable own_limits_;
    LimitTable& limits_;
    std::shared_ptr<Made> made_ = std::make_shared<Made>();
    Isometry3d pose_donor_vehicle_ = Isometry3d::Identity();
    std::vector<const placed::PlacedBody*> unit_, standing_;
    std::map<std::pair<model::BodyRef, model::BodyRef>, const PairGap*> pairs_;
    std::set<std::pair<model::BodyRef, model::BodyRef>> joined_;
    std::map<std::string, std::shared_ptr<const field::Surface>> surfaces_;
    std::vector<Isometry3d> rocked_; ///< the unit, from where it hangs, vehicle frame
    std::map<model::BodyRef, double> comes_mm_;
    std::map<const PairGap*, std::optional<double>> asked_;
    std::map<Kind, std::vector<double>> wanted_; ///< of each that stands still; −1: never in the way
    std::vector<Kind> kinds_;                    ///< by body
};

Sieve::Sieve(const model::Project& project, const placed::Scene& scene, const ClearanceReport& now,
             const model::RuleBook& book, const SieveOptions& options)
    : Sieve(Maker(project, scene, now, book, options).made()) {}

Sieve::Sieve(std::shared_ptr<const Made> made) : made_(std::move(made)) {
    standAll([](const model::BodyRef&) { return true; });
}

Sieve Sieve::with(const std::function<bool(const model::BodyRef&)>& stands) const {
    Sieve out(made_);
    out.standAll(stands);
    return out;
}

void Sieve::standAll(const std::function<bool(const model::BodyRef&)>& stands) {
    on_.clear();
    groups_on_.clear();
    unit_donor_mm_.setEmpty();
    for (std::size_t i = 0; i < made_->moving.size(); ++i) {
        if (!stands(made_->bodies[i].ref)) continue;
        on_.push_back(i);
        unit_donor_mm_.extend(made_->moving[i].bounds_donor_mm);
    }
    for (std::size_t g = 0; g < made_->groups.size(); ++g)
        if (stands(made_->others[made_->groups[g].front()].ref)) groups_on_.push_back(g);
}

const std::vector<Sieve::Member>& Sieve::bodies() const { return made_->bodies; }
const std::vector<Sieve::Member>& Sieve::others() const { return made_->others; }
bool Sieve::any() const { return !on_.empty() && !groups_on_.empty(); }
bool Sieve::open() const { return made_->open; }

std::vector<Short> Sieve::shortAt(const Isometry3d& pose_vehicle_donor, double from_mm) const {
    constexpr double slack_share = 0.15; // each is looked at again from where it leads to
    return shortAt(pose_vehicle_donor, from_mm, slack_share);
}

std::vector<Short> Sieve::shortAt(const Isometry3d& pose_vehicle_donor, double from_mm, double slack_share) const {
    const More more = moreAt(pose_vehicle_donor);
    std::vector<Short> out;
    for (const std::size_t i : on_) {
        const Made::Moving& moving = made_->moving[i];
        const Isometry3d pose = pose_vehicle_donor * moving.pose_donor_body;
        const double enough_mm = moving.own_mm - from_mm + more.mostOf(i);
        for (const std::size_t g : groups_on_)
            for (const auto& its :
                 moving.cloud->worstOfRegions(*made_->fields[moving.kind][g], pose, enough_mm, slack_share)) {
                const std::size_t other = made_->otherOf(g, its.at.obstacle);
                const double by_mm = moving.own_mm + more.its(i, other) - its.room_mm;
                if (by_mm > from_mm) out.push_back({i, other, by_mm, pose * its.point_body_mm, its.at.away});
            }
    }
    std::sort(out.begin(), out.end(), WorstFirst());
    return out;
}

double Sieve::More::its(std::size_t body, std::size_t other) const {
    const auto found = of.find({body, other});
    return found == of.end() ? 0 : found->second;
}

double Sieve::More::mostOf(std::size_t body) const {
    const auto found = most.find(body);
    return found == most.end() ? 0 : found->second;
}

/// Each place that was measured counts by how near it is; so does the one where the unit hangs, where nothing is off.
Sieve::More Sieve::moreAt(const Isometry3d& pose_vehicle_donor) const {
    More out;
    if (rights_.empty()) return out;
    const auto weight = [&](const Isometry3d& there) {
        double most2 = 0;
        for (int i = 0; i < 8; ++i) {
            const Vector3d corner = unit_donor_mm_.corner(static_cast<AlignedBox3d::CornerType>(i));
            most2 = std::max(most2, (there * corner - pose_vehicle_donor * corner).squaredNorm());
        }
        constexpr double same_mm2 = 1e-4;
        return 1 / std::pow(most2 + same_mm2, 1.5);
    };
    double all = weight(made_->pose_now_vehicle_donor);
    for (const Right& right : rights_) {
        const double its = weight(right.pose_vehicle_donor);
        all += its;
        for (const auto& [pair, more_mm] : right.more_mm) out.of[pair] += its * more_mm;
    }
    for (auto& [pair, more_mm] : out.of) {
        more_mm /= all;
        if (more_mm > 0) out.most[pair.first] = std::max(out.most[pair.first], more_mm);
    }
    return out;
}

double Sieve::mostShort_mm(const Isometry3d& pose_vehicle_donor, double spare_mm) const {
    double most_mm = -spare_mm;
    const More more = moreAt(pose_vehicle_donor);
    const std::size_t before = made_->worst.load(std::memory_order_relaxed);
    std::size_t worst = before;
    const auto look = [&](std::size_t i) {
        const double most_before_mm = most_mm;
        const Made::Moving& moving = made_->moving[i];
        const Isometry3d pose = pose_vehicle_donor * moving.pose_donor_body;
        for (const std::size_t g : groups_on_) {
            const field::Wanted& field = *made_->fields[moving.kind][g];
            const double enough_mm = moving.own_mm - most_mm;
            const double most_more_mm = more.mostOf(i);
            const double least_mm = moving.cloud->leastRoom_mm(field, pose, enough_mm + most_more_mm);
            if (least_mm >= enough_mm + most_more_mm) continue;
            const auto pair = more.of.lower_bound({i, 0});
            if (pair == more.of.end() || pair->first.first != i) {
                most_mm = std::max(most_mm, moving.own_mm - least_mm);
                continue;
            }
            for (const auto& its : moving.cloud->worstOfRegions(field, pose, enough_mm + most_more_mm)) {
                const double more_mm = more.its(i, made_->otherOf(g, its.at.obstacle));
                most_mm = std::max(most_mm, moving.own_mm + more_mm - its.room_mm);
            }
        }
        if (most_mm > most_before_mm) worst = i;
    };
    // The body that was worst a moment ago first: the others have to be worse than that.
    const bool stands = std::binary_search(on_.begin(), on_.end(), before);
    if (stands) look(before);
    for (const std::size_t i : on_)
        if (!stands || i != before) look(i);
    made_->worst.store(worst, std::memory_order_relaxed);
    return most_mm;
}

void Sieve::setRight(const Isometry3d& pose_vehicle_donor,
                     const std::map<std::pair<model::BodyRef, model::BodyRef>, double>& short_mm) {
    constexpr double near_mm = 25; // what has more to spare than that holds nothing up
    const More more = moreAt(pose_vehicle_donor);
    const auto said = shortAt(pose_vehicle_donor, -near_mm, 0);
    Right right{pose_vehicle_donor, {}};
    for (const std::size_t i : on_)
        for (std::size_t k = 0; k < others().size(); ++k) {
            const auto is = short_mm.find({bodies()[i].ref, others()[k].ref});
            if (is == short_mm.end() || is->second <= -near_mm) continue;
            const auto its =
                std::find_if(said.begin(), said.end(), [&](const Short& s) { return s.body == i && s.other == k; });
            if (its != said.end()) right.more_mm[{i, k}] = is->second - (its->by_mm - more.its(i, k));
        }
    rights_.push_back(std::move(right));
}

std::size_t Sieve::bytes() const {
    std::size_t out = 0;
    for (const auto& kind : made_->fields)
        for (const auto& its : kind) out += its->bytes();
    return out;
}

} // namespace gabarit::fit
