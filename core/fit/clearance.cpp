#include "fit/clearance.h"

#include "fit/on_threads.h"

#include <algorithm>
#include <cstring>
#include <tuple>

namespace gabarit::fit {
namespace {

using model::Verdict;
using proximity::Contact;

std::string memoKey(const PlacedBody& a, const PlacedBody& b, double range_mm, Depth depth) {
    std::string key = model::shapeKey(a.body.shape);
    const auto add = [&key](const double* data, std::size_t count) {
        const std::size_t at = key.size();
        key.resize(at + count * sizeof(double));
        std::memcpy(key.data() + at, data, count * sizeof(double));
    };
    add(a.pose_vehicle_body.matrix().data(), 16);
    key += model::shapeKey(b.body.shape);
    add(b.pose_vehicle_body.matrix().data(), 16);
    add(&range_mm, 1);
    key += static_cast<char>('0' + static_cast<int>(depth));
    return key;
}

/// The body that gives way comes first: the donor's before the vehicle's, the loose before the fixed.
bool givesWay(const PlacedBody& a, const PlacedBody& b) {
    if (a.in_donor != b.in_donor) return a.in_donor;
    return a.body.loose() || !b.body.loose();
}

void judgePair(PairGap& pair, const PlacedBody& a, const PlacedBody& b) {
    if (!a.solid() || !b.solid()) {
        pair.reason = "\"" + (a.solid() ? b : a).body.name + "\" could not be made solid";
        return;
    }
    if (!pair.limit) {
        pair.reason = "no rule covers a " + a.body.category + " and a " + b.body.category;
        if (pair.overlap()) pair.verdict = Verdict::NoGo;
        return;
    }
    pair.margin_mm = pair.gap.gap_mm - pair.limit->gap_mm;
    if (a.body.accuracy_mm && b.body.accuracy_mm)
        pair.accuracy_mm = *a.body.accuracy_mm + *b.body.accuracy_mm + a.made->collider->deflection_mm() +
                           b.made->collider->deflection_mm();
    pair.verdict = pair.overlap() ? Verdict::NoGo : model::judge(pair.margin_mm, pair.accuracy_mm);
    if (pair.verdict == Verdict::Unknown)
        pair.reason = "the accuracy of \"" + (a.body.accuracy_mm ? b : a).body.name + "\" is not known";
}

bool worseFirst(const PairGap& x, const PairGap& y) {
    if (x.verdict != y.verdict) return x.verdict > y.verdict;
    if (x.overlap() != y.overlap()) return x.overlap(); // what touches comes before what is too near
    if (x.margin_mm != y.margin_mm) return x.margin_mm < y.margin_mm;
    return std::tie(x.a, x.b) < std::tie(y.a, y.b);
}

} // namespace

std::optional<proximity::Gap> GapMemo::find(const std::string& key) {
    const std::lock_guard<std::mutex> lock(mutex_);
    const auto found = entries_.find(key);
    if (found == entries_.end()) return std::nullopt;
    found->second.used = true;
    return found->second.gap;
}

void GapMemo::keep(const std::string& key, const proximity::Gap& gap) {
    const std::lock_guard<std::mutex> lock(mutex_);
    entries_[key] = Entry{gap, true};
}

void GapMemo::forgetUnused() {
    const std::lock_guard<std::mutex> lock(mutex_);
    for (auto it = entries_.begin(); it != entries_.end();) {
        if (it->second.used)
            (it++)->second.used = false;
        else
            it = entries_.erase(it);
    }
}

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

bool canMoveAgainst(const PlacedBody& a, const PlacedBody& b) {
    if (a.ref == b.ref) return false;
    return a.in_donor != b.in_donor || a.body.loose() || b.body.loose();
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

} // namespace

ClearanceReport clearance(const model::Project& project, const Scene& scene, const model::RuleBook& book, GapMemo* memo,
                          const ClearanceOptions& options) {
    ClearanceReport report;
    report.school = book.default_school;
    struct Task {
        const PlacedBody* a;
        const PlacedBody* b;
    };
    std::vector<Task> tasks;
    for (const PlacedBody& body : scene.bodies)
        if (!body.solid()) report.broken.push_back({body.ref, body.body.name, *body.made->error});
    for (std::size_t i = 0; i < scene.bodies.size(); ++i)
        for (std::size_t j = i + 1; j < scene.bodies.size(); ++j) {
            const PlacedBody& a = scene.bodies[i];
            const PlacedBody& b = scene.bodies[j];
            if (!canMoveAgainst(a, b) || model::joinedPair(project, a.ref, b.ref)) continue;
            tasks.push_back(givesWay(a, b) ? Task{&a, &b} : Task{&b, &a});
        }
    report.joined = project.joined;
    report.pairs.resize(tasks.size());
    report.pairs_checked = static_cast<int>(tasks.size());

    onThreads(options.threads, tasks.size(), options.stop, [&](std::size_t i) {
        const PlacedBody& a = *tasks[i].a;
        const PlacedBody& b = *tasks[i].b;
        PairGap& pair = report.pairs[i];
        pair.a = a.ref;
        pair.b = b.ref;
        pair.name_a = a.body.name;
        pair.name_b = b.body.name;
        pair.category_a = a.body.category;
        pair.category_b = b.body.category;
        pair.limit = model::limitFor(book, book.default_school, a.body, b.body);
        pair.range_mm = book.interest_range_mm;
        if (pair.limit)
            pair.range_mm = std::max({pair.range_mm, pair.limit->gap_mm * book.interest_factor, pair.limit->look_mm});
        if (a.solid() && b.solid()) {
            const std::string key = memo ? memoKey(a, b, pair.range_mm, options.depth) : std::string();
            const auto known = memo ? memo->find(key) : std::nullopt;
            if (known) {
                pair.gap = *known;
            } else {
                proximity::GapRequest request;
                request.range_mm = pair.range_mm;
                request.depth = options.depth != Depth::Skipped;
                if (options.depth == Depth::Nearby && memo) request.hint = memo->lastWayOut(a.ref, b.ref);
                request.stop = options.stop;
                pair.gap = proximity::gap(*a.made->collider, a.pose_vehicle_body, *b.made->collider,
                                          b.pose_vehicle_body, request);
                if (memo && !options.stop.stopped()) {
                    memo->keep(key, pair.gap);
                    if (pair.overlap() && pair.gap.depth_found)
                        memo->keepWayOut(a.ref, b.ref, pair.gap.away * -pair.gap.gap_mm);
                }
            }
        }
        judgePair(pair, a, b);
        if (pair.verdict == Verdict::NoGo && pair.limit)
            pair.clearing_move_mm = proximity::clearingMove(
                *a.made->collider, a.pose_vehicle_body, *b.made->collider, b.pose_vehicle_body, pair.gap,
                pair.limit->gap_mm + pair.accuracy_mm.value_or(0), options.stop);
    });

    report.complete = !options.stop.stopped();
    std::sort(report.pairs.begin(), report.pairs.end(), worseFirst);
    sayWhatIsMissing(report, project);
    for (const PairGap& pair : report.pairs) report.verdict = model::worse(report.verdict, pair.verdict);
    return report;
}

} // namespace gabarit::fit
