#include "fit/clearance.h"

#include "fit/moments.h"
#include "fit/on_threads.h"

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
namespace {

using model::Verdict;
using proximity::Contact;

std::string memoKey(const PlacedBody& a, const PlacedBody& b, double range_mm, Depth depth) {
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
bool givesWay(const PlacedBody& a, const PlacedBody& b) {
    if (a.in_donor != b.in_donor) return a.in_donor;
    return a.loose() || !b.loose();
}

/// Nothing that is only assumed is known to nothing.
bool accuracyIsKnown(const PlacedBody& body) {
    const auto& accuracy_mm = body.body.accuracy_mm;
    return accuracy_mm && *accuracy_mm > 0; // nothing is measured exactly
}

/// What a gap of the two may be wrong by; nothing when one of them is not known.
std::optional<double> accuracyOf(const PlacedBody& a, const PlacedBody& b) {
    if (!a.solid() || !b.solid() || !accuracyIsKnown(a) || !accuracyIsKnown(b)) return std::nullopt;
    return *a.body.accuracy_mm + *b.body.accuracy_mm + a.made->collider->deflection_mm() +
           b.made->collider->deflection_mm();
}

void judgePair(PairGap& pair, const PlacedBody& a, const PlacedBody& b) {
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
proximity::Gap measured(const PlacedBody& a, const PlacedBody& b, double range_mm, GapMemo* memo,
                        const ClearanceOptions& options) {
    const std::string key = memo ? memoKey(a, b, range_mm, options.depth) : std::string();
    if (memo)
        if (const auto known = memo->gaps.find(key)) return *known;
    proximity::GapRequest request;
    request.range_mm = range_mm;
    request.depth = options.depth != Depth::Skipped;
    if (options.depth == Depth::Nearby && memo) request.hint = memo->lastWayOut(a.ref, b.ref);
    request.stop = options.stop;
    proximity::Gap gap =
        proximity::gap(*a.made->collider, a.pose_vehicle_body, *b.made->collider, b.pose_vehicle_body, request);
    if (memo && !options.stop.stopped()) {
        memo->gaps.keep(key, gap);
        if (gap.contact == Contact::Overlap && gap.depth_found) memo->keepWayOut(a.ref, b.ref, gap.away * -gap.gap_mm);
    }
    return gap;
}

/// The limit of each pair of categories, looked up once.
class LimitTable {
public:
    explicit LimitTable(const model::RuleBook& book) : book_(book) {}

    /// `pulled`: one hangs on the mounts, the other does not.
    const std::shared_ptr<const model::Limit>& of(const model::Body& a, const model::Body& b, bool pulled) {
        const auto key = std::make_tuple(a.category, b.category, a.shielded || b.shielded, pulled);
        const auto found = known_.find(key);
        if (found != known_.end()) return found->second;
        auto limit = model::limitFor(book_, book_.default_school, a, b);
        if (limit && pulled) limit = model::withWeldPull(*limit, book_);
        return known_[key] = limit ? std::make_shared<const model::Limit>(*limit) : nullptr;
    }

private:
    const model::RuleBook& book_;
    std::map<std::tuple<std::string, std::string, bool, bool>, std::shared_ptr<const model::Limit>> known_;
};

bool worseFirst(const PairGap& x, const PairGap& y) {
    if (x.verdict != y.verdict) return x.verdict > y.verdict;
    if (x.overlap() != y.overlap()) return x.overlap(); // what touches comes before what is too near
    const double margin_x = x.decidingMargin_mm(), margin_y = y.decidingMargin_mm();
    if (margin_x != margin_y) return margin_x < margin_y;
    return std::tie(x.a, x.b) < std::tie(y.a, y.b);
}

/// Moves each pair once: they are large, and there may be a hundred thousand.
std::vector<PairGap> sorted(std::vector<PairGap> pairs) {
    std::vector<std::size_t> order(pairs.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(), [&](std::size_t x, std::size_t y) { return worseFirst(pairs[x], pairs[y]); });
    std::vector<PairGap> out;
    out.reserve(pairs.size());
    for (const std::size_t i : order) out.push_back(std::move(pairs[i]));
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
    void add(std::unique_ptr<PairGap> pair) {
        const std::lock_guard<std::mutex> lock(mutex_);
        pairs_.push_back(std::move(pair));
        if (static_cast<std::ptrdiff_t>(pairs_.size()) >= 2 * most_pairs) thin();
    }
    void moveTo(ClearanceReport& report) {
        if (static_cast<std::ptrdiff_t>(pairs_.size()) > most_pairs) thin();
        std::sort(pairs_.begin(), pairs_.end(), before);
        report.pairs.reserve(pairs_.size());
        for (const auto& pair : pairs_) report.pairs.push_back(std::move(*pair));
        report.pairs_left_out = left_out_;
    }

private:
    static bool before(const std::unique_ptr<PairGap>& x, const std::unique_ptr<PairGap>& y) {
        return worseFirst(*x, *y);
    }
    void thin() {
        std::nth_element(pairs_.begin(), pairs_.begin() + most_pairs, pairs_.end(), before);
        const auto gone = std::stable_partition(pairs_.begin() + most_pairs, pairs_.end(), [this](const auto& pair) {
            return measured_.count(std::minmax(pair->a, pair->b)) > 0;
        });
        left_out_ += static_cast<int>(pairs_.end() - gone);
        pairs_.erase(gone, pairs_.end());
    }

    static constexpr std::ptrdiff_t most_pairs = 50000; // a busy bay has two thousand
    std::mutex mutex_;
    std::vector<std::unique_ptr<PairGap>> pairs_;
    std::set<std::pair<model::BodyRef, model::BodyRef>> measured_;
    int left_out_ = 0;
};

} // namespace

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

void sortWorstFirst(ClearanceReport& report) { report.pairs = sorted(std::move(report.pairs)); }

bool canMoveAgainst(const PlacedBody& a, const PlacedBody& b) {
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
void sayWhatIsNotCompared(ClearanceReport& report, const Scene& scene, const model::RuleBook& book,
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
void collectUnknownTravel(ClearanceReport& report, const Scene& scene, const MomentLooker& looker) {
    for (const PlacedBody& body : scene.bodies) {
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

ClearanceReport clearance(const model::Project& project, const Scene& scene, const model::RuleBook& book, GapMemo* memo,
                          const ClearanceOptions& options) {
    ClearanceReport report;
    report.school = book.default_school;
    for (const PlacedBody& body : scene.bodies)
        if (!body.solid()) report.broken.push_back({body.ref, body.body.name, *body.made->error});

    std::set<std::pair<model::BodyRef, model::BodyRef>> joined;
    for (const model::Joined& pair : project.joined) joined.insert(std::minmax(pair.a, pair.b));
    report.joined = project.joined;

    const auto movement =
        std::make_shared<const Movement>(options.effort == Effort::None ? Movement{} : makeMovement(project));
    report.movement = movement;
    report.sag = options.sag;
    report.effort = options.effort;
    const MomentLooker looker(project, scene, book, *movement, memo, options);
    std::vector<Eigen::AlignedBox3d> bounds;
    for (const PlacedBody& body : scene.bodies)
        bounds.push_back(body.solid() ? shape::moved(body.made->collider->bounds(), body.pose_vehicle_body)
                                      : Eigen::AlignedBox3d());
    struct Task {
        std::uint32_t a, b; ///< in scene.bodies; a gives way
        const std::shared_ptr<const model::Limit>* limit;
    };
    std::vector<Task> tasks;
    LimitTable limits(book);
    for (std::size_t i = 0; i < scene.bodies.size(); ++i)
        for (std::size_t j = i + 1; j < scene.bodies.size(); ++j) {
            const PlacedBody &x = scene.bodies[i], &y = scene.bodies[j];
            if (!canMoveAgainst(x, y) || joined.count(std::minmax(x.ref, y.ref))) continue;
            Task task{static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(j),
                      &limits.of(x.body, y.body, x.in_donor != y.in_donor)};
            if (!givesWay(x, y)) std::swap(task.a, task.b);
            tasks.push_back(task);
        }
    Kept kept(project, tasks.size());
    report.pairs_checked = static_cast<int>(tasks.size());

    onThreads(options.threads, tasks.size(), options.stop, [&](std::size_t i) {
        const Task& task = tasks[i];
        const PlacedBody &a = scene.bodies[task.a], &b = scene.bodies[task.b];
        auto made = std::make_unique<PairGap>();
        PairGap& pair = *made;
        pair.a = a.ref;
        pair.b = b.ref;
        pair.name_a = a.body.name;
        pair.name_b = b.body.name;
        pair.category_a = a.body.category;
        pair.category_b = b.body.category;
        pair.limit = *task.limit;
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
            looker.look(pair, a, b, bounds[task.a], bounds[task.b]);
            judgeMoments(pair);
        }
        // The hand has no time for tested moves.
        const bool freed = pair.verdict == Verdict::NoGo && pair.limit && options.depth != Depth::Skipped &&
                           (!pair.moment() || options.effort == Effort::Full);
        if (freed && pair.moment())
            pair.clearing_move_mm = looker.clearingMove(pair, a, b);
        else if (freed)
            pair.clearing_move_mm =
                proximity::clearingMove(*a.made->collider, a.pose_vehicle_body, *b.made->collider, b.pose_vehicle_body,
                                        pair.gap, pair.limit->gap_mm + pair.accuracy_mm.value_or(0), options.stop);
        kept.add(std::move(made));
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
