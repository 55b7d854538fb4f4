#include "make/relief_ways.h"
#include "driveline/driveline.h"
#include "fit/fit_report.h"
#include "fit/words.h"
#include "ledger/parts.h"
#include "mounts/mounts.h"

#include <algorithm>

namespace gabarit::make {
namespace {

using model::Verdict;

const fit::PairGap* reportedPair(const study::Reports& reports, const model::BodyRef& a, const model::BodyRef& b) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!fitted.clearance) return nullptr;
    for (const fit::PairGap& pair : fitted.clearance->pairs)
        if ((pair.a == a && pair.b == b) || (pair.a == b && pair.b == a)) return &pair;
    return nullptr;
}

/// What a form of the unit is made of, apart from what is in every form: "sump/front".
bool hangsOnChoice(const model::Donor& donor, const model::BodyId& body, const std::string& choice) {
    return std::any_of(donor.bodies.begin(), donor.bodies.end(),
                       [&](const model::Body& b) { return b.id == body && b.option.rfind(choice + "/", 0) == 0; });
}

} // namespace

StandingCount standing(const study::Reports& reports) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    StandingCount out;
    if (fitted.clearance)
        for (const fit::PairGap& pair : fitted.clearance->pairs) {
            out.no_go += pair.verdict == Verdict::NoGo;
            out.close += pair.verdict == Verdict::Close;
            out.unknown += pair.verdict == Verdict::Unknown;
        }
    out.verdict = reports.verdict;
    if (reports.of<driveline::DrivelineReport>()) out.driveline = reports.of<driveline::DrivelineReport>()->verdict;
    if (reports.of<ledger::PartsReport>()) out.cost = reports.of<ledger::PartsReport>()->total();
    return out;
}

const char* word(WayKind kind) {
    return kind == WayKind::Move ? "move" : kind == WayKind::Variant ? "variant" : "pocket";
}

Result<ReliefWays> waysOut(study::Study& study, const study::Reports& reports, const model::RuleBook& given,
                           const model::BodyRef& a, const model::BodyRef& b, const study::RunOptions& options) {
    const model::BodyRef& mine = a.inVehicle() ? b : a;
    const model::BodyRef& its = a.inVehicle() ? a : b;
    const fit::PairGap* pair = reportedPair(reports, a, b);
    const model::Donor* donor = model::activeDonor(*reports.project);
    if (!pair || !its.inVehicle() || mine.inVehicle() || !donor)
        return Error{"that is no pair of unit and vehicle whose gap is looked at", a.text() + ", " + b.text(),
                     "name one body of the unit and one of the vehicle that both stand"};
    ReliefWays out;
    out.now = standing(reports);
    const auto run = [&](ReliefWay& way, model::Project project) {
        way.project = std::make_shared<const model::Project>(std::move(project));
        const study::Reports then = study.run(way.project, options);
        way.then = standing(then);
        const fit::PairGap* there = reportedPair(then, a, b);
        way.frees = !there || there->verdict == Verdict::Go;
        way.against = compared(reports, then, options.shown);
    };
    const model::RuleBook book = study::bookOf(reports, given);

    ReliefWay move;
    move.kind = WayKind::Move;
    fit::MoveOptions range;
    range.threads = options.threads;
    range.stop = options.stop;
    if (const auto found = fit::bestWayOut(*reports.moving, *reports.scene, *reports.with<fit::FitReport>().clearance,
                                           *pair, book, study.colliders(), range)) {
        move.name = fit::wayWords(*reports.project, *found, options.shown);
        model::Project project = *reports.project;
        model::Placement* placement = model::activePlacement(project);
        placement->position_mm = found->placement.position_mm;
        placement->angles = found->placement.angles;
        run(move, std::move(project));
    } else {
        move.name = "move the unit";
        move.reason = "no move within reach frees it";
    }
    out.ways.push_back(std::move(move));

    for (const model::Choice& choice : donor->choices) {
        const std::string of = donor->id.text + "/" + choice.id;
        const std::string taken =
            model::takenOption(*reports.project, model::activePlacement(*reports.project), donor->id.text, choice.id);
        if (!hangsOnChoice(*donor, mine.body, choice.id)) continue; // every form of it has this body
        for (const model::Option& option : choice.options) {
            if (option.id == taken) continue;
            ReliefWay way;
            way.kind = WayKind::Variant;
            way.name = choice.name + ": " + option.name;
            model::Project project = *reports.project;
            auto& list = model::activePlacement(project)->taken;
            list.erase(
                std::remove_if(list.begin(), list.end(), [&of](const model::Taken& t) { return t.choice == of; }),
                list.end());
            list.push_back({of, option.id, {}});
            run(way, std::move(project));
            out.ways.push_back(std::move(way));
            if (options.stop.stopped()) return out;
        }
    }

    ReliefWay pocket;
    pocket.kind = WayKind::Pocket;
    const auto found =
        proposedPocket(reports, given, its.body, {mine}, study.colliders(),
                       static_cast<fit::FitMemory*>(study.memory(fit::discipline().card().id))->gaps, options.stop);
    if (found) {
        pocket.name = found.value().pocket.name + ", " +
                      quantity::lengthText(found.value().pocket.depth_mm, options.shown) + " deep";
        pocket.section_share = found.value().report.strength.share;
        run(pocket, found.value().project);
    } else {
        pocket.name = "cut a pocket";
        pocket.reason = found.error().what;
    }
    out.ways.push_back(std::move(pocket));
    return out;
}

} // namespace gabarit::make
