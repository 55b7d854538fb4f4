// Runs the disciplines over a project, keeps what is still true from the last run, and collects findings.
#pragma once

#include "driveline/driveline.h"
#include "fit/free_move.h"
#include "fit/free_room.h"
#include "fit/joined.h"
#include "fit/lowest.h"
#include "fit/measured.h"
#include "fit/outgoing.h"
#include "fit/stances.h"
#include "fit/tool_access.h"
#include "gearing/gearing.h"
#include "ledger/parts.h"
#include "mounts/mounts.h"
#include "relief/relief.h"
#include "study/survey_state.h"
#include "weights/axle_loads.h"
#include "weights/hoist.h"

#include <functional>

namespace gabarit::study {

/// Something that holds up the build, in whole sentences.
struct Finding {
    std::string id;             ///< stays the same while the pair or figure is the same
    bool holds_cutting = false; ///< it holds up cutting, not the verdict: "go; do not cut yet"
    std::string discipline; ///< "clearance", "driveline", "gearing", "mounts", "relief", "weights", "parts", "survey"
    model::Verdict verdict = model::Verdict::Unknown;
    std::string title;   ///< "Front sump fouls the front crossmember"
    std::string detail;  ///< by how much, and what is wanted
    std::string help;    ///< what would help; may be empty
    std::string rule;    ///< what it is held against, with its source
    std::string caution; ///< what can hurt someone there; may be empty
    std::string label;   ///< a few words for the callout at its place: "front sump in front crossmember −18"
    std::optional<Eigen::Vector3d> place_vehicle_mm;
    std::optional<kinematics::State> state; ///< of the clearance report's movement, when it happens away from rest
    std::optional<model::BodyRef> a;
    std::optional<model::BodyRef> b;
    /// The move of body a's owner that this finding alone would need, vehicle frame.
    std::optional<Eigen::Vector3d> move_vehicle_mm;
    /// The best single move on the jack, once it was looked for: where the donor then stands.
    std::optional<fit::WayOut> way_out;
};

/// One figure of the strip that answers "does it fit?".
struct Gauge {
    std::string id;
    std::string name;    ///< "Tightest gap"
    std::string value;   ///< "−18.2 mm", "> 60 mm", "not known"
    std::string limit;   ///< "wanted 10 mm"
    std::string subject; ///< which part
    model::Verdict verdict = model::Verdict::Unknown;
    /// Where the pointer stands between 0 and 1 with the limit at one half; nothing when there is no figure.
    std::optional<double> pointer;
    std::string finding; ///< the finding it leads to, if any
    /// The value as a number where it has one: mm, kg or currency.
    std::optional<double> figure;
};

/// A discipline that could not be reckoned because something threw: a library, or the end of the memory.
struct Failed {
    std::string discipline; ///< as Finding::discipline
    std::string words;      ///< what it threw
};

struct Reports {
    std::shared_ptr<const model::Project> project;
    std::vector<Failed> failed; ///< their reports are missing and they count as unknown
    /// The same with the engine's movement as its mounts allow it, where none was given by hand: what gaps are held by.
    std::shared_ptr<const model::Project> moving;
    fit::Scene scene;
    /// A discipline whose section the file lacks is not asked.
    std::optional<fit::ClearanceReport> clearance;
    std::optional<fit::RoomReport> room;         ///< once it was looked for
    std::map<std::string, fit::WayOut> ways_out; ///< by finding
    bool advised = false;                        ///< room and ways out were looked for
    std::vector<fit::ToolAccess> access;         ///< of every serviced bolt
    std::optional<fit::LeverCheck> lever;
    fit::MeasuredReport measured;
    std::vector<fit::JoinedOverlap> joined;   ///< joined pairs that reach into one another; not while a hand moves
    fit::LowestReport lowest;                 ///< of the unit, against crossmembers and axles
    std::optional<fit::StanceReport> stances; ///< nothing when nothing says how the springs move
    std::vector<fit::OutgoingLine> outgoing;  ///< the old engine's reference dimensions against the new one
    fit::FreeRoomReport free_room;
    SurveyState survey; ///< holds up cutting, not the verdict
    std::optional<weights::AxleLoadReport> weights;
    std::optional<weights::HoistReport> hoist; ///< for the lift: its verdict is not the fit's
    std::optional<ledger::PartsReport> parts;
    std::optional<driveline::DrivelineReport> driveline;
    std::optional<gearing::GearingReport> gearing;
    std::optional<mounts::MountsReport> mounts;
    std::optional<relief::ReliefReport> relief;
    std::vector<Finding> findings; ///< what holds up the build most comes first
    std::vector<Gauge> gauges;
    model::Verdict verdict = model::Verdict::Go; ///< the worst of what was asked and of all findings
    bool do_not_cut = false;                     ///< a finding holds up cutting
    /// The book's limits that the project's own ask less than: told beside the verdict.
    std::vector<std::string> own_limits_below;
    /// Figures of the project's own that are not the book's, with both.
    std::vector<std::string> own_figures;
    bool asked = false;    ///< false: the file holds nothing to judge
    bool complete = false; ///< false: stopped half-way
};

struct RunOptions {
    quantity::Shown shown = quantity::Shown::Millimetres; ///< units in sentences
    fit::Depth depth = fit::Depth::Searched;
    fit::Effort effort = fit::Effort::Full; ///< with which the movement is looked at
    int threads = 2;
    StopToken stop;
    std::function<void(int done, int all)> progress; ///< of advised(); called on its thread; may be empty
};

/// Keeps solids and gaps between runs. One run at a time.
class Study {
public:
    explicit Study(const model::RuleBook& book) : book_(book) {}

    Reports run(std::shared_ptr<const model::Project> project, const RunOptions& options);
    /// The same reports with the room to move, and for each no-go gap the best single way out and what it brings with
    /// it. Takes about a second: for a project at rest. A stopped one comes back as it was.
    Reports advised(Reports reports, const RunOptions& options);
    proximity::ColliderCache& colliders() { return colliders_; }
    fit::GapMemo& memo() { return memo_; }

private:
    const model::RuleBook& book_;
    proximity::ColliderCache colliders_;
    fit::GapMemo memo_;
    relief::ReliefMemo pockets_;
};

/// Reports in which nothing is known, because a run was given up: they take the place of older figures.
Reports givenUp(std::shared_ptr<const model::Project> project, const std::string& words);

/// For tests: from now on the named discipline throws as it begins; empty: none does.
void throwIn(const std::string& discipline);

/// The total as it is shown: "go", "no-go", "go; do not cut yet"; "not asked" when there is nothing to judge.
std::string totalWords(const Reports& reports);
/// The worst of a discipline's own verdict and of its findings that do not only hold up cutting; nothing when it was
/// not asked and has none. Names as in Finding::discipline.
std::optional<model::Verdict> verdictOf(const Reports& reports, const std::string& discipline);

/// "31 mm up", "12 mm to the driver's side", "tail down 0.60°".
std::string wayWords(const model::Project& project, fit::Way way, double amount, const quantity::Shown& shown);
/// "−18.2 mm", "> 60 mm", "deeper than 400 mm": a pair's gap as people read it.
std::string gapWords(const fit::PairGap& pair, quantity::Shown shown);

/// "4.2 mm", "at least 34 mm": the gap at a moment.
std::string gapWords(const fit::Moment& moment, quantity::Shown shown);
/// When it happens: "front axle at full bump, full right lock", "springs 14 mm in at the front"; empty when that is not
/// known.
std::string momentWords(const model::Project& project, const fit::ClearanceReport& report, const fit::Moment& moment,
                        quantity::Shown shown);

/// What a pair's finding is known by.
std::string findingId(const fit::PairGap& pair);

/// What a serviced bolt's finding is known by.
std::string accessFindingId(const fit::ToolAccess& access);
/// Which body the differences suggest is wrong, in a sentence; empty while everything agrees.
std::string suspectWords(const model::Project& project, const fit::MeasuredReport& measured, quantity::Shown shown);

/// The findings of a run's reports, sorted. Used by Study; open for tests.
std::vector<Finding> collectFindings(const Reports& reports, const model::RuleBook& book, quantity::Shown shown);
/// Those of what could not be reckoned; part of the above.
std::vector<Finding> failedFindings(const Reports& reports);
/// The gauges of a run's reports, in the order of the strip.
std::vector<Gauge> collectGauges(const Reports& reports, quantity::Shown shown);

} // namespace gabarit::study
