#include "study/study.h"

#include "study/mounts_findings.h"
#include "study/relief_fixed.h"

#include <algorithm>
#include <new>
#include <stdexcept>

namespace gabarit::study {
namespace {

/// What the springs' sag under the new load waits for.
std::vector<std::string> sagLeftOut(const model::Project& project, const model::RuleBook& book) {
    std::vector<std::string> out;
    const model::Springs& springs = project.vehicle->springs;
    if (!springs.front_n_per_mm && !springs.rear_n_per_mm)
        out.push_back("no spring rate is given");
    else if (!springs.front_n_per_mm || !springs.rear_n_per_mm)
        out.push_back(springs.front_n_per_mm ? "the rear spring rate is not given"
                                             : "the front spring rate is not given");
    if (!project.weights) {
        out.push_back("nothing says what is taken off and put on (Weights)");
        return out;
    }
    for (const std::string& item : weights::axleLoads(project, book).left_out)
        out.push_back(item + " has no mass or place");
    return out;
}

/// The project with the engine's movement as its mounts allow it, where none was given by hand.
std::shared_ptr<const model::Project> rockedByMounts(std::shared_ptr<const model::Project> project,
                                                     const mounts::MountsReport& mounts) {
    const model::Placement* placement = model::activePlacement(*project);
    if (!mounts.rocking || !placement || placement->rocking.any()) return project;
    auto rocked = std::make_shared<model::Project>(*project);
    model::activePlacement(*rocked)->rocking = *mounts.rocking;
    return rocked;
}

/// Nothing that is listed stands beside a better total.
void takeWorst(Reports& reports) {
    for (const Finding& finding : reports.findings) {
        if (finding.holds_cutting) {
            reports.do_not_cut = true;
            continue;
        }
        reports.asked = true;
        reports.verdict = model::worse(reports.verdict, finding.verdict);
    }
}

std::string& throwing() {
    static std::string discipline;
    return discipline;
}

/// Runs a discipline. What it throws makes it unknown, with its words, and stops none of the others.
template <class Run>
void guarded(Reports& reports, const char* discipline, Run run) {
    const auto fail = [&](const std::string& words) { reports.failed.push_back({discipline, words}); };
    try {
        if (throwing() == discipline) throw std::runtime_error("a test threw this");
        run();
    } catch (const std::bad_alloc&) { fail("there is not enough memory"); } catch (const std::exception& e) {
        fail(e.what());
    }
}

} // namespace

void throwIn(const std::string& discipline) { throwing() = discipline; }

Reports givenUp(std::shared_ptr<const model::Project> project, const std::string& words) {
    Reports out;
    out.project = out.moving = std::move(project);
    out.failed.push_back({"clearance", words});
    out.complete = true;
    out.findings = failedFindings(out);
    takeWorst(out);
    return out;
}

std::string totalWords(const Reports& reports) {
    if (!reports.asked) return "not asked";
    std::string out = model::word(reports.verdict);
    if (reports.do_not_cut) out += "; do not cut yet";
    for (std::size_t i = 0; i < reports.own_limits_below.size(); ++i)
        out += (i == 0 ? "; by limits of one's own, below the book's: " : ", ") + reports.own_limits_below[i];
    for (std::size_t i = 0; i < reports.own_figures.size(); ++i)
        out += (i == 0 ? "; by figures of one's own: " : ", ") + reports.own_figures[i];
    return out;
}

std::optional<model::Verdict> verdictOf(const Reports& reports, const std::string& discipline) {
    std::optional<model::Verdict> out;
    const auto take = [&out](model::Verdict verdict) { out = out ? model::worse(*out, verdict) : verdict; };
    if (discipline == "clearance" && reports.clearance) take(reports.clearance->verdict);
    if (discipline == "driveline" && reports.driveline) take(reports.driveline->verdict);
    if (discipline == "gearing" && reports.gearing) take(reports.gearing->verdict);
    if (discipline == "mounts" && reports.mounts) take(reports.mounts->verdict);
    if (discipline == "relief" && reports.relief) take(reports.relief->verdict);
    if (discipline == "weights" && reports.weights) take(reports.weights->verdict);
    if (discipline == "parts" && reports.parts && reports.parts->verdict) take(*reports.parts->verdict);
    for (const Finding& finding : reports.findings)
        if (finding.discipline == discipline && !finding.holds_cutting) take(finding.verdict);
    return out;
}

Reports Study::run(std::shared_ptr<const model::Project> project, const RunOptions& options) {
    Reports reports;
    reports.project = reports.moving = std::move(project);
    model::RuleBook book = model::applied(book_, reports.project->rules);
    reports.own_limits_below = model::weakerThanTheBook(book_, reports.project->rules);
    reports.own_figures = model::ownFigures(book_, reports.project->rules);
    guarded(reports, "mounts", [&] {
        if (!reports.project->mounts) return;
        reports.mounts = mounts::judgeMounts(*reports.project, book, {drivenLoad_kg(*reports.project, book)});
        if (reports.mounts) book.weld_pull_mm = reports.mounts->weld_pull_mm;
        if (reports.mounts) reports.moving = rockedByMounts(reports.project, *reports.mounts);
    });
    guarded(reports, "relief", [&] { reports.relief = relief::judgeRelief(*reports.project, book, {}, &pockets_); });
    bool placed = false;
    guarded(reports, "clearance", [&] {
        reports.scene = fit::makeScene(*reports.moving, colliders_, {options.threads, options.stop});
        placed = true;
    });
    guarded(reports, "relief", [&] {
        if (reports.relief) addFixedNear(*reports.relief, *reports.project, reports.scene, book, colliders_);
    });
    const auto ask = [&reports](model::Verdict verdict) {
        reports.asked = true;
        reports.verdict = model::worse(reports.verdict, verdict);
    };
    guarded(reports, "clearance", [&] {
        if (!placed || !fit::isAsked(*reports.moving)) return;
        fit::ClearanceOptions clearance;
        clearance.depth = options.depth;
        clearance.threads = options.threads;
        clearance.stop = options.stop;
        clearance.effort = options.effort;
        if (reports.project->weights && reports.project->vehicle) {
            const weights::AxleLoadReport loads = weights::axleLoads(*reports.project, book);
            // What has no mass yet would be left out of the sum: then no sag is believed.
            if (loads.left_out.empty())
                clearance.sag = fit::sagOf(*reports.project->vehicle, loads.front.change_kg, loads.rear.change_kg);
        }
        reports.clearance = fit::clearance(*reports.moving, reports.scene, book, &memo_, clearance);
        ask(reports.clearance->verdict);
    });
    guarded(reports, "driveline", [&] { reports.driveline = driveline::driveline(*reports.project, book); });
    if (reports.driveline) ask(reports.driveline->verdict);
    guarded(reports, "gearing", [&] { reports.gearing = gearing::gearing(*reports.project, book); });
    if (reports.gearing) ask(reports.gearing->verdict);
    if (reports.mounts) ask(reports.mounts->verdict);
    if (reports.relief) ask(reports.relief->verdict);
    if (options.stop.stopped()) return reports; // not complete: nobody looks at it
    guarded(reports, "clearance", [&] {
        if (!reports.clearance) return;
        const fit::SceneOptions quickly{options.threads, options.stop};
        reports.access = fit::toolAccess(*reports.moving, reports.scene, book, colliders_, quickly);
        for (const fit::ToolAccess& access : reports.access) ask(access.verdict);
        if (options.effort == fit::Effort::Full || options.effort == fit::Effort::Verdict)
            reports.joined = fit::joinedOverlaps(*reports.moving, reports.scene, book, options.stop);
        reports.lowest = fit::lowestPart(reports.scene, book);
        ask(reports.lowest.verdict);
        reports.lever = fit::leverCheck(*reports.moving, book);
        if (reports.lever) ask(reports.lever->verdict);
        if (!options.stop.stopped())
            reports.measured = fit::measuredAgainstPlanned(*reports.moving, reports.scene, book);
        fit::hold(*reports.clearance, *reports.moving, reports.measured);
        ask(reports.clearance->verdict);
    });
    guarded(reports, "clearance", [&] {
        if (options.stop.stopped() || !placed) return;
        if (reports.clearance && reports.clearance->movement) {
            reports.stances = fit::stances(*reports.moving, reports.scene, book, *reports.clearance->movement,
                                           reports.clearance->sag, options.stop);
            if (reports.stances) {
                reports.stances->sag_left_out = sagLeftOut(*reports.project, book);
                ask(reports.stances->verdict);
            }
        }
        reports.outgoing = fit::againstOutgoing(*reports.moving, reports.scene);
        reports.free_room =
            fit::freeRoom(*reports.moving, reports.scene, book, colliders_, {options.threads, options.stop});
    });
    guarded(reports, "survey", [&] { reports.survey = surveyState(*reports.project, book); });
    guarded(reports, "weights", [&] {
        reports.hoist = weights::hoist(*reports.project);
        if (!reports.project->weights) return;
        reports.weights = weights::axleLoads(*reports.project, book);
        ask(reports.weights->verdict);
    });
    guarded(reports, "parts", [&] {
        if (!reports.project->parts) return;
        reports.parts = ledger::parts(*reports.project);
        if (reports.parts->verdict) ask(*reports.parts->verdict);
    });
    reports.complete = !options.stop.stopped();
    if (reports.complete) {
        // Two generations: what this run did not ask for goes with the next.
        memo_.gaps.forgetUnused();
        memo_.moments.forgetUnused();
        colliders_.forgetUnused();
        pockets_.forgetUnused();
    }
    reports.findings = collectFindings(reports, book, options.shown);
    takeWorst(reports);
    reports.gauges = collectGauges(reports, options.shown);
    return reports;
}

Reports Study::advised(Reports reports, const RunOptions& options) {
    if (!reports.clearance || !reports.complete || !model::activeDonor(*reports.project)) return reports;
    model::RuleBook book = model::applied(book_, reports.project->rules);
    if (reports.mounts) book.weld_pull_mm = reports.mounts->weld_pull_mm;
    fit::MoveOptions move;
    move.threads = options.threads;
    move.stop = options.stop;
    int done = 0;
    const int all = 1 + static_cast<int>(std::count_if(
                            reports.clearance->pairs.begin(), reports.clearance->pairs.end(),
                            [](const fit::PairGap& pair) { return pair.plannedVerdict() == model::Verdict::NoGo; }));
    const auto tell = [&] {
        if (options.progress) options.progress(done, all);
        ++done;
    };
    tell();
    const fit::RoomReport room =
        fit::roomToMove(*reports.moving, reports.scene, *reports.clearance, book, colliders_, move);
    std::map<std::string, fit::WayOut> ways;
    for (const fit::PairGap& pair : reports.clearance->pairs) {
        if (pair.plannedVerdict() != model::Verdict::NoGo) continue; // what is only measured is not in the plan
        tell();
        if (auto way =
                fit::bestWayOut(*reports.moving, reports.scene, *reports.clearance, pair, book, colliders_, move))
            ways.emplace(findingId(pair), std::move(*way));
        if (options.stop.stopped()) return reports;
    }
    reports.room = room;
    reports.ways_out = std::move(ways);
    reports.advised = true;
    reports.findings = collectFindings(reports, book, options.shown);
    takeWorst(reports);
    return reports;
}

} // namespace gabarit::study
