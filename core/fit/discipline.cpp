#include "fit/limit_table.h"
#include "fit/tell.h"
#include "fit/words.h"
#include "quantity/on_threads.h"

#include <algorithm>
#include <exception>
#include <functional>

namespace gabarit::fit {

GABARIT_ONCE_DEFINED(FitReport);

namespace {

using discipline::AxleChange;
using discipline::Effort;
using discipline::Given;
using discipline::Report;

/// What the springs' sag under the new load waits for.
std::vector<std::string> sagLeftOut(const model::Springs& springs, const AxleChange* change) {
    std::vector<std::string> out;
    if (!springs.front_n_per_mm && !springs.rear_n_per_mm)
        out.push_back("no spring rate is given");
    else if (!springs.front_n_per_mm || !springs.rear_n_per_mm)
        out.push_back(springs.front_n_per_mm ? "the rear spring rate is not given"
                                             : "the front spring rate is not given");
    if (!change) {
        out.push_back("nothing says what is taken off and put on (Weights)");
        return out;
    }
    for (const std::string& item : change->left_out) out.push_back(item + " has no mass or place");
    return out;
}

/// Does each of these, side by side; the first that threw throws.
void atOnce(int threads, const std::vector<std::function<void()>>& works) {
    std::vector<std::exception_ptr> thrown(works.size());
    onThreads(threads, works.size(), StopToken(), [&](std::size_t i) {
        try {
            works[i]();
        } catch (...) { thrown[i] = std::current_exception(); }
    });
    for (const std::exception_ptr& one : thrown)
        if (one) std::rethrow_exception(one);
}

class Fit : public discipline::Discipline {
public:
    Fit()
        : Discipline(discipline::Card("clearance")
                         .at(10)
                         .reading({"vehicle", "donors", "placement", "pose", "joined", "measured", "parts", "mounts",
                                   "relief"})
                         .needing({typeid(AxleChange), typeid(discipline::UnitRocking), typeid(discipline::WeldPull)})
                         .inScene()
                         .byEffort()) {}

    std::unique_ptr<discipline::Memory> memory() const override { return std::make_unique<FitMemory>(); }

    Report judge(const Given& given) const override {
        const Moved at(given);
        const model::Project& project = *at.project;
        const placed::Scene& scene = *given.scene;
        const placed::SceneOptions quickly{given.threads, given.stop};
        Report report;
        FitReport fit;
        const auto* change = given.offers.get<AxleChange>();
        fit.sag_asked = change != nullptr;
        if (isAsked(project)) {
            ClearanceOptions options;
            options.depth = given.depth;
            options.threads = given.threads;
            options.stop = given.stop;
            options.effort = given.effort;
            // What has no mass yet would be left out of the sum: then no sag is believed.
            if (change && project.vehicle && change->left_out.empty())
                options.sag = sagOf(*project.vehicle, change->front_kg, change->rear_kg);
            auto* memory = static_cast<FitMemory*>(given.memory);
            fit.clearance = clearance(project, scene, at.book, memory ? &memory->gaps : nullptr, options);
            report.take(fit.clearance->verdict);
            if (given.stop.stopped()) return report;
            const bool joined = given.effort == Effort::Full || given.effort == Effort::Verdict;
            const auto reach = [&] { fit.access = toolAccess(project, scene, at.book, given.colliders, quickly); };
            const auto stand = [&] {
                if (fit.clearance->movement)
                    fit.stances = stances(project, scene, at.book, *fit.clearance->movement, fit.clearance->sag,
                                          memory ? &memory->gaps.limits() : nullptr, given.stop);
            };
            const auto leave = [&] { fit.free_room = freeRoom(project, scene, at.book, given.colliders, quickly); };
            const auto join = [&] {
                if (joined) fit.joined = joinedOverlaps(project, scene, at.book, given.stop);
            };
            const auto measure = [&] {
                fit.lowest = lowestPart(scene, at.book);
                fit.lever = leverCheck(project, at.book);
                fit.measured = measuredAgainstPlanned(project, scene, at.book);
                fit.outgoing = againstOutgoing(project, scene);
            };
            atOnce(given.threads, {reach, stand, leave, join, measure}); // none reads what another finds
            if (given.stop.stopped()) return report;
            for (const ToolAccess& access : fit.access) report.take(access.verdict);
            for (model::Check check : fit.lowest.checks) {
                check.place_vehicle_mm = fit.lowest.at_mm;
                report.hold(std::move(check));
            }
            report.take(fit.lowest.verdict);
            if (fit.lever) report.take(fit.lever->verdict);
            hold(*fit.clearance, project, fit.measured);
            report.take(fit.clearance->verdict);
            if (fit.stances) {
                fit.stances->sag_left_out = sagLeftOut(project.vehicle->springs, change);
                report.take(fit.stances->verdict);
            }
        } else {
            fit.outgoing = againstOutgoing(project, scene);
            fit.free_room = freeRoom(project, scene, at.book, given.colliders, quickly);
        }
        report.parts.put(std::move(fit));
        return report;
    }

    bool looksCloser(const Report& report) const override {
        const FitReport* fit = report.parts.get<FitReport>();
        return fit && fit->clearance && !fit->advised && model::activeDonor(*report.project);
    }

    Report closerLook(Report report, const Given& given) const override {
        const Moved at(given);
        FitReport fit = *report.parts.get<FitReport>();
        MoveOptions move;
        move.threads = given.threads;
        move.stop = given.stop;
        LimitTable own;
        auto* memory = static_cast<FitMemory*>(given.memory);
        move.limits = memory ? &memory->gaps.limits() : &own;
        move.limits->begin(at.book);
        // What is only measured is not in the plan.
        const auto inTheWay = [](const PairGap& pair) { return pair.plannedVerdict() == model::Verdict::NoGo; };
        int done = 0;
        const int all =
            1 + static_cast<int>(std::count_if(fit.clearance->pairs.begin(), fit.clearance->pairs.end(), inTheWay));
        const auto tell = [&] {
            if (given.progress) given.progress(done, all);
            ++done;
        };
        tell();
        fit.room = roomToMove(*at.project, *given.scene, *fit.clearance, at.book, given.colliders, move);
        for (const PairGap& pair : fit.clearance->pairs) {
            if (!inTheWay(pair)) continue;
            tell();
            if (auto way = bestWayOut(*at.project, *given.scene, *fit.clearance, pair, at.book, given.colliders, move))
                fit.ways_out.emplace(findingId(pair), std::move(*way));
            if (given.stop.stopped()) return report;
        }
        fit.advised = true;
        report.closer = true;
        report.parts.put(std::move(fit));
        return report;
    }

    void tell(const Report& report, const discipline::Telling& telling,
              std::vector<discipline::Finding>& out) const override {
        if (const FitReport* fit = report.parts.get<FitReport>())
            tellFit(*fit, report.checks, *report.project, telling, out);
    }

    void list(const Report& report, const discipline::Telling& telling,
              std::vector<discipline::Finding>& out) const override {
        if (const FitReport* fit = report.parts.get<FitReport>()) listFit(*fit, report.checks, telling, out);
    }

    std::optional<discipline::Why> why(const Report& report, const discipline::Telling& telling,
                                       const discipline::Finding& of) const override {
        const FitReport* fit = report.parts.get<FitReport>();
        if (!fit) return std::nullopt;
        if (auto sum = whyPair(*fit, *report.project, telling, of)) return sum;
        return Discipline::why(report, telling, of);
    }

    void show(const Report& report, const discipline::Telling& telling,
              std::vector<discipline::Gauge>& out) const override {
        if (const FitReport* fit = report.parts.get<FitReport>()) showFit(*fit, telling.shown, out);
    }

private:
    /// The project on its mounts, and the book with what welding may pull.
    struct Moved {
        explicit Moved(const Given& given)
            : project(discipline::moving(given.project, given.offers.get<discipline::UnitRocking>())),
              book(discipline::pulled(given.book, given.offers.get<discipline::WeldPull>())) {}
        std::shared_ptr<const model::Project> project;
        model::RuleBook book;
    };
};

} // namespace

const discipline::Discipline& discipline() {
    static const Fit fit;
    return fit;
}

} // namespace gabarit::fit
