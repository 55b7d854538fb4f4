// Gaps at rest and over all movement: every pair that can move against each other, held against its rule.
#pragma once

#include "discipline/discipline.h"
#include "fit/movement.h"
#include "fit/worst_gap.h"
#include "model/verdict.h"
#include "placed/scene.h"
#include "proximity/gap.h"
#include "quantity/once.h"
#include "quantity/recent_cache.h"

#include <map>
#include <memory>
#include <mutex>

namespace gabarit::fit {

/// The least gap of a pair over its movement, and what it is held against.
struct Moment {
    model::Limit limit;
    proximity::Gap gap;      ///< at `state`; when `bound`, no more than a lower bound without a place
    kinematics::State state; ///< of the report's movement; empty when `bound`, or when the springs' sag makes it
    Eigen::Isometry3d moved_a = Eigen::Isometry3d::Identity(); ///< from rest to that state, vehicle frame
    Eigen::Isometry3d moved_b = Eigen::Isometry3d::Identity();
    bool sag = false;     ///< the ground as it stands when the springs have taken the new load
    double range_mm = 0;  ///< how far was looked
    double growth_mm = 0; ///< what heat takes from it: expansion of the exhaust
    double hidden_mm = 0; ///< no state has less than the gap less this
    double margin_mm = 0; ///< gap − growth − limit
    int states = 0;       ///< at how many the gap was measured; 0: not needed
    bool bound = false;   ///< it cannot come nearer than the gap says, and was not looked at more closely
    bool complete = true; ///< false: stopped before what is hidden was small
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason; ///< why it is unknown

    bool beyond() const { return gap.contact == proximity::Contact::Beyond; }
    bool overlap() const { return gap.contact == proximity::Contact::Overlap; }
};

/// What was measured on the real thing between the two, as it stands now.
struct MeasuredPair {
    double gap_mm = 0;
    std::optional<double> accuracy_mm;
    double margin_mm = 0; ///< gap − limit at rest
    model::Verdict verdict = model::Verdict::Unknown;
};

/// Which of a pair's gaps.
enum class When { Rest, Travel, Worst };

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
    model::Verdict rest_verdict = model::Verdict::Unknown;
    std::optional<Moment> travel; ///< through the travel, the engine at rest; nothing when no such row fits, or it does
                                  ///< not move, or it overlaps at rest
    std::optional<Moment> worst;  ///< at the worst moment of all; nothing when neither moves, or it overlaps at rest
    std::optional<MeasuredPair> measured;             ///< once measured gaps were held against the plan (measured.h)
    model::Verdict verdict = model::Verdict::Unknown; ///< the worst of the three, and of what was measured
    std::string reason;                               ///< why it is unknown
    /// No-go pairs, unless depths are skipped: a tested move of `a` (vehicle frame) after which this pair is good.
    /// Nothing when none was found.
    std::optional<Eigen::Vector3d> clearing_move_mm;

    bool beyond() const { return gap.contact == proximity::Contact::Beyond; }
    bool overlap() const { return gap.contact == proximity::Contact::Overlap; }
    /// Which of the three decides: the one with the worst verdict, among equals the one with the least margin.
    When deciding() const;
    /// The deciding moment; null when rest decides.
    const Moment* moment() const;
    /// The worst of the three, whatever was measured.
    model::Verdict plannedVerdict() const;
    /// What was measured is worse than what is planned.
    bool measuredDecides() const { return measured && measured->verdict > plannedVerdict(); }
    /// The margin of the one that decides.
    double decidingMargin_mm() const {
        return measuredDecides() ? measured->margin_mm : moment() ? moment()->margin_mm : margin_mm;
    }
};

/// A moving part near the donor whose travel nobody gave.
struct UnknownTravel {
    model::BodyRef ref;
    std::string name;
    std::string other; ///< what it stands nearest to
    double gap_mm = 0; ///< at rest
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
    std::vector<OffPanel> closing_off;                    ///< while there is one the verdict is unknown at best
    std::shared_ptr<const Movement> movement;             ///< what moves, and how; states are in its order
    Sag sag;                                              ///< that was reckoned with
    discipline::Effort effort = discipline::Effort::Full; ///< with which the movement was looked at
    std::vector<UnknownTravel> unknown_travel;
    int states = 0; ///< at how many a gap was measured over the movement
    int pairs_checked = 0;
    int pairs_left_out = 0; ///< of very many the least bad, which stand in no line; their verdicts are no worse
    model::Verdict verdict = model::Verdict::Go;
    std::string reason; ///< why nothing could be measured: the verdict is then unknown
    std::string mend;   ///< what to add

    GABARIT_ONCE_DECLARED(ClearanceReport);
};

/// Whether a project asks for gaps at all: it has a vehicle, and a donor or something moved, added or variant in it.
bool isAsked(const model::Project& project);

/// The worst moment of a pair as it was searched a few nudges ago. Moved as a whole, what it is about comes nearer by
/// no more than it was moved, at every state: it need not be searched again for each nudge.
struct EarlierMoment {
    std::string still; ///< tells all that must be the same: shapes, where the other one is and what moves it, stops
    Eigen::Isometry3d pose_rest = Eigen::Isometry3d::Identity(); ///< of the first, then
    kinematics::Chain chain;                                     ///< what moved it there
    std::vector<kinematics::Freedom> freedoms;
    WorstGap found;
    double least_mm = 0; ///< no state had a smaller gap
};

class LimitTable;

/// Gaps of earlier runs, reused while neither body of a pair has changed or moved. Thread-safe.
class GapMemo {
public:
    GapMemo();
    ~GapMemo();
    RecentCache<proximity::Gap> gaps;
    RecentCache<WorstGap> moments;

    /// The last search of a pair while the hand moves; `rocking`: over the whole movement, else the engine at rest.
    std::shared_ptr<const EarlierMoment> earlier(const model::BodyRef& a, const model::BodyRef& b, bool rocking);
    void keepEarlier(const model::BodyRef& a, const model::BodyRef& b, bool rocking, EarlierMoment moment);

    /// Of the book that was last asked by. Not for two runs at a time.
    LimitTable& limits();

    /// The triangles of a pair that were nearest when they were last asked for.
    proximity::Witness lastWitness(const model::BodyRef& a, const model::BodyRef& b);
    void keepWitness(const model::BodyRef& a, const model::BodyRef& b, const proximity::Witness& witness);

    /// The move that last freed an overlapping pair, whatever its pose was.
    std::optional<Eigen::Vector3d> lastWayOut(const model::BodyRef& a, const model::BodyRef& b);
    void keepWayOut(const model::BodyRef& a, const model::BodyRef& b, const Eigen::Vector3d& move_mm);

private:
    std::unique_ptr<LimitTable> limits_;
    std::mutex mutex_;
    std::map<std::pair<model::BodyRef, model::BodyRef>, Eigen::Vector3d> ways_out_;
    std::map<std::pair<model::BodyRef, model::BodyRef>, proximity::Witness> witnesses_;
    std::map<std::tuple<model::BodyRef, model::BodyRef, bool>, std::shared_ptr<const EarlierMoment>> earlier_;
};

struct ClearanceOptions {
    discipline::Depth depth = discipline::Depth::Searched;
    discipline::Effort effort = discipline::Effort::Full;
    Sag sag;                      ///< of the springs under the new load; nothing when not known
    int threads = 2;              ///< > 0
    LimitTable* limits = nullptr; ///< begun with this book; null: the memo's, or its own
    StopToken stop;
};

/// Pairs by verdict, overlaps before gaps, then by margin.
void sortWorstFirst(ClearanceReport& report);

/// True when the pair is checked: donor against vehicle, and moved, added or variant bodies against all others;
/// pairs joined on purpose are not.
bool canMoveAgainst(const placed::PlacedBody& a, const placed::PlacedBody& b);

/// Measures and judges every such pair. `memo` may be null.
///
/// At rest each pair is held against the largest row that fits. Over the movement: through the travel with the engine
/// at rest against the rows that name travel; at the worst moment of all (rocking, travel, steering, heat, the springs'
/// sag) against the book's least gap, or a row that keeps its figure. Between the states that were measured nothing is
/// taken for granted: see worstGap. What may hide counts as inaccuracy.
ClearanceReport clearance(const model::Project& project, const placed::Scene& scene, const model::RuleBook& book,
                          GapMemo* memo, const ClearanceOptions& options);

} // namespace gabarit::fit
