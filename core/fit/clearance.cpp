#include "fit/clearance.h"

#include "fit/limit_table.h"
#include "fit/moments.h"
#include "quantity/on_threads.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <memory>
#include <mutex>
#include <numeric>
#include <set>
#include <tuple>

namespace gabarit::fit {

GABARIT_ONCE_DEFINED(ClearanceReport);

namespace {

using model::Verdict;
using proximity::Contact;

constexpr std::size_t most_kept = 20000; // of pairs that are near: a busy bay has some hundred

std::string memoKey(const placed::PlacedBody& a, const placed::PlacedBody& b, double range_mm,
                    discipline::Depth depth) {
    std::string key = a.made->key;
    const auto add = [&key](const double* data, std::size_t count) {
        const std::size_t at = key.size();
        key.resize(at + count * sizeof(double));
        std::memcpy(key.data() + at, data, count * sizeof(double));
    };
    add(a.pose_vehicle_body.matrix().data(), 16);
    key += b.made->key;
    add(b.pose_vehicle_body.matrix().data(), 16);
    add(&range_mm, 1);
    key += static_cast<char>('0' + static_cast<int>(depth));
    return key;
}

/// The body that gives way comes first: the donor's before the vehicle's, the loose before the fixed.
bool givesWay(const placed::PlacedBody& a, const placed::PlacedBody& b) {
    if (a.in_donor != b.in_donor) return a.in_donor;
    return a.loose() || !b.loose();
}

/// Nothing that is only assumed is known to nothing.
bool accuracyIsKnown(const placed::PlacedBody& body) {
    const auto& accuracy_mm = body.body.accuracy_mm;
    return accuracy_mm && *accuracy_mm > 0; // nothing is measured exactly
}

/// What a gap of the two may be wrong by; nothing when one of them is not known.
std::optional<double> accuracyOf(const placed::PlacedBody& a, const placed::PlacedBody& b) {
    if (!a.solid() || !b.solid() || !accuracyIsKnown(a) || !accuracyIsKnown(b)) return std::nullopt;
    return *a.body.accuracy_mm + *b.body.accuracy_mm + a.made->collider->deflection_mm() +
           b.made->collider->deflection_mm();
}

void judgePair(PairGap& pair, const placed::PlacedBody& a, const placed::PlacedBody& b) {
    if (!a.solid() || !b.solid()) {
        pair.reason = "\"" + (a.solid() ? b : a).body.name + "\" could not be made solid";
        return;
    }
    if (!pair.limit) {
        pair.reason = "no rule covers a " + a.body.category + " and a " + b.body.category;
        if (pair.overlap()) pair.verdict = pair.rest_verdict = Verdict::NoGo;
        return;
    }
    pair.margin_mm = pair.gap.gap_mm - pair.limit->gap_mm;
    pair.verdict = pair.rest_verdict = pair.overlap() ? Verdict::NoGo : model::judge(pair.margin_mm, pair.accuracy_mm);
    if (pair.verdict == Verdict::Unknown)
        pair.reason = "the accuracy of \"" + (accuracyIsKnown(a) ? b : a).body.name + "\" is not known";
}

/// With what was seen over the movement.
void judgeMoments(PairGap& pair) {
    for (const auto* moment : {&pair.travel, &pair.worst}) {
        if (!*moment || (*moment)->verdict <= pair.verdict) continue;
        pair.verdict = (*moment)->verdict;
        pair.reason = (*moment)->reason;
    }
}

/// The gap, from memory while neither body has moved.
proximity::Gap measured(const placed::PlacedBody& a, const placed::PlacedBody& b, double range_mm, GapMemo* memo,
                        const ClearanceOptions& options) {
    const std::string key = memo ? memoKey(a, b, range_mm, options.depth) : std::string();
    if (memo)
        if (const auto known = memo->gaps.find(key)) return *known;
    proximity::GapRequest request;
    request.range_mm = range_mm;
    request.depth = options.depth != discipline::Depth::Skipped;
    if (options.depth == discipline::Depth::Nearby && memo) request.hint = memo->lastWayOut(a.ref, b.ref);
    request.stop = options.stop;
    proximity::Witness witness = memo ? memo->lastWitness(a.ref, b.ref) : proximity::Witness{};
    request.witness = &witness;
    proximity::Gap gap =
        proximity::gap(*a.made->collider, a.pose_vehicle_body, *b.made->collider, b.pose_vehicle_body, request);
    if (memo && !options.stop.stopped()) {
        memo->gaps.keep(key, gap);
        if (gap.contact == Contact::Apart) memo->keepWitness(a.ref, b.ref, witness);
        if (gap.contact == Contact::Overlap && gap.depth_found) memo->keepWayOut(a.ref, b.ref, gap.away * -gap.gap_mm);
    }
    return gap;
}

/// What a pair is sorted by, and what it is.
struct Ranked {
    /// `in_order`: its place among equals.
    Ranked(std::unique_ptr<PairGap> its, std::uint64_t in_order)
        : pair(std::move(its)), verdict(pair->verdict), overlap(pair->overlap()), margin_mm(pair->decidingMargin_mm()),
          order(in_order) {}
    std::unique_ptr<PairGap> pair;
    Verdict verdict;
    bool overlap;
    double margin_mm;
    std::uint64_t order;
};

/// Bodies by their names: the place of each, and of a pair of them.
class Places {
public:
    explicit Places(std::vector<model::BodyRef> refs) : refs_(std::move(refs)) {
        std::sort(refs_.begin(), refs_.end());
        refs_.erase(std::unique(refs_.begin(), refs_.end()), refs_.end());
    }
    std::uint64_t of(const model::BodyRef& ref) const {
        return static_cast<std::uint64_t>(std::lower_bound(refs_.begin(), refs_.end(), ref) - refs_.begin());
    }
    std::uint64_t of(const PairGap& pair) const { return of(pair.a) * refs_.size() + of(pair.b); }

private:
    std::vector<model::BodyRef> refs_;
};

bool worseFirst(const Ranked& x, const Ranked& y) {
    if (x.verdict != y.verdict) return x.verdict > y.verdict;
    if (x.overlap != y.overlap) return x.overlap; // what touches comes before what is too near
    if (x.margin_mm != y.margin_mm) return x.margin_mm < y.margin_mm;
    return x.order < y.order;
}

/// Each pair is ranked and moved once: they are large, and there may be a hundred thousand.
std::vector<PairGap> sorted(std::vector<PairGap> pairs) {
    std::vector<model::BodyRef> refs;
    for (const PairGap& pair : pairs) refs.push_back(pair.a), refs.push_back(pair.b);
    const Places places(std::move(refs));
    std::vector<Ranked> ranked;
    ranked.reserve(pairs.size());
    for (PairGap& pair : pairs) {
        const std::uint64_t order = places.of(pair);
        ranked.emplace_back(std::make_unique<PairGap>(std::move(pair)), order);
    }
    std::sort(ranked.begin(), ranked.end(), worseFirst);
    std::vector<PairGap> out;
    out.reserve(ranked.size());
    for (Ranked& one : ranked) out.push_back(std::move(*one.pair));
    return out;
}

/// The pairs of a table as threads judge them. There may be millions: of the least bad only the number is kept, and
/// none that something was measured at.
class Kept {
public:
    Kept(const model::Project& project, std::size_t expected) {
        pairs_.reserve(std::min<std::size_t>(expected, 2 * most_pairs));
        for (const model::MeasuredGap& gap : project.measured) measured_.insert(std::minmax(gap.a, gap.b));
    }
    void add(std::unique_ptr<PairGap> pair, std::uint64_t order) {
        Ranked ranked(std::move(pair), order);
        const std::lock_guard<std::mutex> lock(mutex_);
        pairs_.push_back(std::move(ranked));
        if (static_cast<std::ptrdiff_t>(pairs_.size()) >= 2 * most_pairs) thin();
    }
    void moveTo(ClearanceReport& report) {
        if (static_cast<std::ptrdiff_t>(pairs_.size()) > most_pairs) thin();
        std::sort(pairs_.begin(), pairs_.end(), worseFirst);
        report.pairs.reserve(pairs_.size());
        for (const Ranked& one : pairs_) report.pairs.push_back(std::move(*one.pair));
        report.pairs_left_out = left_out_;
    }

private:
    void thin() {
        std::nth_element(pairs_.begin(), pairs_.begin() + most_pairs, pairs_.end(), worseFirst);
        const auto gone = std::stable_partition(pairs_.begin() + most_pairs, pairs_.end(), [this](const Ranked& one) {
            return measured_.count(std::minmax(one.pair->a, one.pair->b)) > 0;
        });
        left_out_ += static_cast<int>(pairs_.end() - gone);
        pairs_.erase(gone, pairs_.end());
    }

    static constexpr std::ptrdiff_t most_pairs = 50000; // a busy bay has two thousand
    std::mutex mutex_;
    std::vector<Ranked> pairs_;
    std::set<std::pair<model::BodyRef, model::BodyRef>> measured_;
    int left_out_ = 0;
};

} // namespace

GapMemo::GapMemo() : limits_(std::make_unique<LimitTable>()) {}
GapMemo::~GapMemo() = default;
LimitTable& GapMemo::limits() { return *limits_; }

std::optional<Eigen::Vector3d> GapMemo::lastWayOut(const model::BodyRef& a, const model::BodyRef& b) {
    const std::lock_guard<std::mutex> lock(mutex_);
    const auto found = ways_out_.find({a, b});
    if (found == ways_out_.end()) return std::nullopt;
    return found->second;
}

void GapMemo::keepWayOut(const model::BodyRef& a, const model::BodyRef& b, const Eigen::Vector3d& move_mm) {
    const std::lock_guard<std::mutex> lock(mutex_);
    ways_out_[{a, b}] = move_mm;
}

proximity::Witness GapMemo::lastWitness(const model::BodyRef& a, const model::BodyRef& b) {
    const std::lock_guard<std::mutex> lock(mutex_);
    const auto found = witnesses_.find({a, b});
    return found == witnesses_.end() ? proximity::Witness{} : found->second;
}

void GapMemo::keepWitness(const model::BodyRef& a, const model::BodyRef& b, const proximity::Witness& witness) {
    const std::lock_guard<std::mutex> lock(mutex_);
    if (witnesses_.size() >= most_kept) witnesses_.clear();
    witnesses_[{a, b}] = witness;
}

std::shared_ptr<const EarlierMoment> GapMemo::earlier(const model::BodyRef& a, const model::BodyRef& b, bool rocking) {
    const std::lock_guard<std::mutex> lock(mutex_);
    const auto found = earlier_.find({a, b, rocking});
    return found == earlier_.end() ? nullptr : found->second;
}

void GapMemo::keepEarlier(const model::BodyRef& a, const model::BodyRef& b, bool rocking, EarlierMoment moment) {
    auto kept = std::make_shared<const EarlierMoment>(std::move(moment));
    const std::lock_guard<std::mutex> lock(mutex_);
    if (earlier_.size() >= most_kept) earlier_.clear();
    earlier_[{a, b, rocking}] = std::move(kept);
}

void sortWorstFirst(ClearanceReport& report) { report.pairs = sorted(std::move(report.pairs)); }

bool canMoveAgainst(const placed::PlacedBody& a, const placed::PlacedBody& b) {
    if (a.ref == b.ref) return false;
    const bool onePiece = !a.body.option.empty() && a.ref.owner == b.ref.owner && a.body.option == b.body.option;
    if (onePiece && !a.body.loose() && !b.body.loose()) return false; // they come bolted together
    return a.in_donor != b.in_donor || a.loose() || b.loose();
}

bool isAsked(const model::Project& project) {
    if (!project.vehicle) return false;
    const auto& bodies = project.vehicle->bodies;
    return !project.donors.empty() || !project.placements.empty() ||
           std::any_of(bodies.begin(), bodies.end(), [](const model::Body& b) { return b.present() && b.loose(); });
}

namespace {

/// What is missing before a gap can be believed at all: an empty scene is not a pass.
void sayWhatIsMissing(ClearanceReport& report, const model::Project& project) {
    const model::Donor* donor = model::activeDonor(project);
    if (!project.vehicle || project.vehicle->bodies.empty())
        report.reason = "the vehicle has no bodies", report.mend = "Survey the bay first.";
    else if (!project.donors.empty() && !donor)
        report.reason = "no donor is placed", report.mend = "Add a placement for one of the donors.";
    else if (donor && donor->bodies.empty())
        report.reason = "the donor has no bodies", report.mend = "Measure its main bodies.";
    if (!report.reason.empty()) report.verdict = Verdict::Unknown;
}

/// A table without a pair between unit and vehicle, or of a unit that hangs somewhere else, passes nothing.
void sayWhatIsNotCompared(ClearanceReport& report, const placed::Scene& scene, const model::RuleBook& book,
                          const std::vector<Eigen::AlignedBox3d>& bounds, bool donor_hangs, int across) {
    if (!report.reason.empty()) return;
    if (report.pairs.empty() || (donor_hangs && across == 0)) {
        report.reason = donor_hangs ? "nothing of the unit is held against anything of the vehicle"
                                    : "nothing that was moved or added is held against anything";
        report.mend =
            "Look under Bodies: what is off, removed, joined or of an option that is not taken is not compared.";
    } else if (donor_hangs) {
        Eigen::AlignedBox3d unit, vehicle;
        for (std::size_t i = 0; i < scene.bodies.size(); ++i)
            if (scene.bodies[i].solid() && scene.bodies[i].body.category != "ground")
                (scene.bodies[i].in_donor ? unit : vehicle).extend(bounds[i]);
        const double near_mm = book.figure("hangs_near_mm");
        if (unit.isEmpty() || vehicle.isEmpty() || unit.exteriorDistance(vehicle) <= near_mm) return;
        report.reason = "the unit hangs farther from the vehicle than it could while it is in it";
        report.mend = "Check the placement's position.";
    }
    if (!report.reason.empty()) report.verdict = model::worse(report.verdict, Verdict::Unknown);
}

} // namespace

namespace {

/// One line for each moving part whose travel is not given, with what it stands nearest to.
void collectUnknownTravel(ClearanceReport& report, const placed::Scene& scene, const MomentLooker& looker) {
    for (const placed::PlacedBody& body : scene.bodies) {
        if (!looker.travelUnknown(body)) continue;
        const PairGap* nearest = nullptr;
        for (const PairGap& pair : report.pairs)
            if ((pair.a == body.ref || pair.b == body.ref) && pair.travel && pair.travel->verdict == Verdict::Unknown &&
                !pair.travel->reason.empty() && (!nearest || pair.gap.gap_mm < nearest->gap.gap_mm))
                nearest = &pair;
        if (nearest)
            report.unknown_travel.push_back({body.ref, body.body.name,
                                             nearest->a == body.ref ? nearest->name_b : nearest->name_a,
                                             nearest->gap.gap_mm});
    }
}

} // namespace

ClearanceReport clearance(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                          GapMemo* memo, const ClearanceOptions& options) {
    ClearanceReport report;
    report.school = book.default_school;
    for (const placed::PlacedBody& body : scene.bodies)
        if (!body.solid()) report.broken.push_back({body.ref, body.body.name, *body.made->error});

    const auto placeOf = [&scene](const model::BodyRef& ref) {
        const placed::PlacedBody* body = scene.find(ref);
        return body ? static_cast<std::size_t>(body - scene.bodies.data()) : scene.bodies.size();
    };
    std::set<std::pair<std::size_t, std::size_t>> joined;
    for (const model::Joined& pair : project.joined) joined.insert(std::minmax(placeOf(pair.a), placeOf(pair.b)));
    report.joined = project.joined;

    const auto movement = std::make_shared<const Movement>(
        options.effort == discipline::Effort::None ? Movement{} : makeMovement(project));
    report.movement = movement;
    report.sag = options.sag;
    report.effort = options.effort;
    const MomentLooker looker(project, scene, book, *movement, memo, options);
    std::vector<Eigen::AlignedBox3d> bounds;
    for (const placed::PlacedBody& body : scene.bodies)
        bounds.push_back(body.solid() ? shape::moved(body.made->collider->bounds(), body.pose_vehicle_body)
                                      : Eigen::AlignedBox3d());
    struct Task {
        std::uint32_t a, b; ///< in scene.bodies; a gives way
        const PairLimits* limits;
    };
    std::vector<Task> tasks;
    LimitTable own_limits;
    LimitTable& limits = options.limits ? *options.limits : memo ? memo->limits() : own_limits;
    if (!options.limits) limits.begin(book);
    std::vector<std::uint32_t> kinds;
    for (const placed::PlacedBody& body : scene.bodies) kinds.push_back(limits.kindOf(body));
    for (std::size_t i = 0; i < scene.bodies.size(); ++i)
        for (std::size_t j = i + 1; j < scene.bodies.size(); ++j) {
            const placed::PlacedBody &x = scene.bodies[i], &y = scene.bodies[j];
            if (!canMoveAgainst(x, y) || joined.count({i, j})) continue;
            Task task{static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(j),
                      &limits.of(book, x, kinds[i], y, kinds[j])};
            if (!givesWay(x, y)) std::swap(task.a, task.b);
            tasks.push_back(task);
        }
    std::vector<model::BodyRef> refs;
    for (const placed::PlacedBody& body : scene.bodies) refs.push_back(body.ref);
    const Places by_name(refs);
    std::vector<std::uint64_t> places;
    for (const model::BodyRef& ref : refs) places.push_back(by_name.of(ref));
    Kept kept(project, tasks.size());
    report.pairs_checked = static_cast<int>(tasks.size());

    onThreads(options.threads, tasks.size(), options.stop, [&](std::size_t i) {
        const Task& task = tasks[i];
        const placed::PlacedBody &a = scene.bodies[task.a], &b = scene.bodies[task.b];
        auto made = std::make_unique<PairGap>();
        PairGap& pair = *made;
        pair.a = a.ref;
        pair.b = b.ref;
        pair.name_a = a.body.name;
        pair.name_b = b.body.name;
        pair.category_a = a.body.category;
        pair.category_b = b.body.category;
        pair.limit = task.limits->rest;
        pair.range_mm = book.interest_range_mm;
        if (pair.limit)
            pair.range_mm = std::max({pair.range_mm, pair.limit->gap_mm * book.interest_factor, pair.limit->look_mm});
        // What is only assumed is looked for so far that a doubt of several centimetres can end.
        pair.accuracy_mm = pair.limit ? accuracyOf(a, b) : std::nullopt;
        if (pair.accuracy_mm)
            pair.range_mm = std::max(pair.range_mm, pair.limit->gap_mm + std::ceil(*pair.accuracy_mm));
        pair.gap.gap_mm = pair.range_mm; // beyond, as far as the bounds tell
        const double range_mm2 = pair.range_mm * pair.range_mm;
        if (a.solid() && b.solid() && bounds[task.a].squaredExteriorDistance(bounds[task.b]) <= range_mm2)
            pair.gap = measured(a, b, pair.range_mm, memo, options);
        judgePair(pair, a, b);
        if (a.solid() && b.solid()) {
            looker.look(pair, a, b, task.limits->moving, bounds[task.a], bounds[task.b]);
            judgeMoments(pair);
        }
        // The hand has no time for tested moves.
        const bool freed = pair.verdict == Verdict::NoGo && pair.limit && options.depth != discipline::Depth::Skipped &&
                           (!pair.moment() || options.effort == discipline::Effort::Full);
        if (freed && pair.moment())
            pair.clearing_move_mm = looker.clearingMove(pair, a, b);
        else if (freed)
            pair.clearing_move_mm =
                proximity::clearingMove(*a.made->collider, a.pose_vehicle_body, *b.made->collider, b.pose_vehicle_body,
                                        pair.gap, pair.limit->gap_mm + pair.accuracy_mm.value_or(0), options.stop);
        kept.add(std::move(made), places[task.a] * scene.bodies.size() + places[task.b]);
    });

    report.complete = !options.stop.stopped();
    if (!report.complete) return report; // half a table is of no use to anybody
    kept.moveTo(report);
    sayWhatIsMissing(report, project);
    for (const PairGap& pair : report.pairs) {
        report.verdict = model::worse(report.verdict, pair.verdict);
        for (const auto* moment : {&pair.travel, &pair.worst})
            if (*moment) report.states += (*moment)->states;
    }
    const int across = static_cast<int>(std::count_if(tasks.begin(), tasks.end(), [&](const Task& task) {
        return scene.bodies[task.a].in_donor != scene.bodies[task.b].in_donor;
    }));
    sayWhatIsNotCompared(report, scene, book, bounds, model::activeDonor(project) != nullptr, across);
    collectUnknownTravel(report, scene, looker);
    if (!movement->broken.empty()) report.verdict = model::worse(report.verdict, Verdict::Unknown);
    const auto lookForOff = [&](const std::string& owner, const std::vector<model::Body>& bodies) {
        // A bonnet closes the bay, said or not; taken out for good it leaves nothing above to measure to.
        const bool covered = std::any_of(bodies.begin(), bodies.end(), [&](const model::Body& body) {
            return body.category == "bonnet" && model::stands(project, owner, body);
        });
        for (const model::Body& body : bodies) {
            if (!model::isTaken(project, owner, body.option)) continue;
            const bool removed = body.standing == model::Standing::Removed && !covered && body.category == "bonnet";
            if ((body.off && (body.closing || body.category == "bonnet")) || removed)
                report.closing_off.push_back({{owner, body.id}, body.name});
        }
    };
    if (project.vehicle) lookForOff(model::vehicle_owner, project.vehicle->bodies);
    if (const model::Donor* donor = model::activeDonor(project)) lookForOff(donor->id.text, donor->bodies);
    if (!report.closing_off.empty()) report.verdict = model::worse(report.verdict, Verdict::Unknown);
    return report;
}

} // namespace gabarit::fit
