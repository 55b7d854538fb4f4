// Gaps at rest: every pair that can move against each other, held against its rule.
#pragma once

#include "fit/scene.h"
#include "model/verdict.h"
#include "proximity/gap.h"
#include "quantity/recent_cache.h"

#include <map>
#include <memory>
#include <mutex>

namespace gabarit::fit {

/// The gap of one pair and what it is held against. Points in the vehicle frame, mm.
struct PairGap {
    model::BodyRef a; ///< the one that gives way: the donor's, or the moved, added or variant body
    model::BodyRef b;
    std::string name_a;
    std::string name_b;
    std::string category_a;
    std::string category_b;
    proximity::Gap gap;
    double range_mm = 0;                       ///< how far was looked: Contact::Beyond reads "> range"
    std::shared_ptr<const model::Limit> limit; ///< null when the rule table has no row for the pair
    double margin_mm = 0;                      ///< gap − limit
    std::optional<double>
        accuracy_mm; ///< of the gap: both bodies' and their meshes' added; missing when one is unknown
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason; ///< why it is unknown
    /// No-go pairs, unless depths are skipped: a tested move of `a` (vehicle frame) after which this pair is good.
    /// Nothing when none was found.
    std::optional<Eigen::Vector3d> clearing_move_mm;

    bool beyond() const { return gap.contact == proximity::Contact::Beyond; }
    bool overlap() const { return gap.contact == proximity::Contact::Overlap; }
};

/// A body that could not be made solid: all its gaps are unknown.
struct BrokenBody {
    model::BodyRef ref;
    std::string name;
    Error error;
};

/// A closing panel that is off: what it would touch is not measured, so no "go" is believed.
struct OffPanel {
    model::BodyRef ref;
    std::string name;
};

struct ClearanceReport {
    bool complete = false; ///< false: stopped half-way, do not use
    std::string school;
    std::vector<PairGap> pairs;        ///< worst first: by verdict, overlaps before gaps, then by margin
    std::vector<model::Joined> joined; ///< not held against a rule
    std::vector<BrokenBody> broken;
    std::vector<OffPanel> closing_off; ///< while there is one the verdict is unknown at best
    int pairs_checked = 0;
    model::Verdict verdict = model::Verdict::Go;
    std::string reason; ///< why nothing could be measured: the verdict is then unknown
    std::string mend;   ///< what to add
};

/// Whether a project asks for gaps at all: it has a vehicle, and a donor or something moved, added or variant in it.
bool isAsked(const model::Project& project);

/// Gaps of earlier runs, reused while neither body of a pair has changed or moved. Thread-safe.
class GapMemo {
public:
    RecentCache<proximity::Gap> gaps;

    /// The move that last freed an overlapping pair, whatever its pose was.
    std::optional<Eigen::Vector3d> lastWayOut(const model::BodyRef& a, const model::BodyRef& b);
    void keepWayOut(const model::BodyRef& a, const model::BodyRef& b, const Eigen::Vector3d& move_mm);

private:
    std::mutex mutex_;
    std::map<std::pair<model::BodyRef, model::BodyRef>, Eigen::Vector3d> ways_out_;
};

/// How deep overlaps are.
enum class Depth {
    Searched, ///< in all directions
    Nearby,   ///< around the last known way out where there is one: for a moving hand
    Skipped,  ///< overlap is said, its depth is 0 and not found
};

struct ClearanceOptions {
    Depth depth = Depth::Searched;
    int threads = 2; ///< > 0
    StopToken stop;
};

/// True when the pair is checked: donor against vehicle, and moved, added or variant bodies against all others;
/// pairs joined on purpose are not.
bool canMoveAgainst(const PlacedBody& a, const PlacedBody& b);

/// Measures and judges every such pair. `memo` may be null.
ClearanceReport clearance(const model::Project& project, const Scene& scene, const model::RuleBook& book, GapMemo* memo,
                          const ClearanceOptions& options);

} // namespace gabarit::fit
