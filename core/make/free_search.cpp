#include "make/free_search.h"

#include "discipline/table.h"
#include "discipline/written.h"
#include "fit/fit_report.h"
#include "make/besides.h"
#include "make/compare.h"
#include "make/free_words.h"
#include "make/relief_ways.h"
#include "make/ways_written.h"

namespace gabarit::make {

using discipline::Json;

Result<discipline::Found> freePlaces(const Searching& with, const discipline::SearchGiven& given) {
    const fit::FitReport& fitted = with.reports.with<fit::FitReport>();
    const model::Project& project = *given.project;
    if (!fitted.clearance || !with.reports.scene || !with.reports.moving)
        return Error{"nothing hangs in the bay", "placements", "add a placement for a donor"};
    const auto limits = freeLimits(given.book, given.about[0]);
    if (!limits) return limits.error();
    fit::FreeOptions options;
    options.limits = limits.value();
    options.stop = given.stop;
    options.progress = given.progress;
    const auto first = firstOf(given.about[1]);
    if (!first) return first.error();
    options.besides = besidesOf(with.study, project, first.value());
    const fit::FreeReport report =
        fit::freeAll(*with.reports.moving, *with.reports.scene, *fitted.clearance,
                     study::bookOf(with.reports, given.book), with.study.colliders(), options);
    if (!report.reason.empty()) return Error{report.reason, "placements", "survey the bay and hang a donor in it"};

    discipline::Found out;
    Json json;
    json["complete"] = report.complete;
    json["places"] = Json::array();
    json["poses"] = report.poses;
    json["measured"] = report.measured;
    json["behind_sheet"] = report.behind_sheet;
    discipline::Table table({"place", "any point moved", "gaps", "all that was asked"}, {false, true, false, false});
    out.now = "As it hangs: " + standingWords(standing(with.reports)) + ".";
    const auto add = [&](const fit::FreePlace& place, bool good) {
        model::Project there = project;
        model::Placement* placement = model::activePlacement(there);
        placement->position_mm = place.placement.position_mm;
        placement->angles = place.placement.angles;
        discipline::Answer answer;
        answer.project = std::make_shared<const model::Project>(std::move(there));
        study::RunOptions run;
        run.shown = given.shown;
        run.stop = given.stop;
        const study::Reports then = with.study.run(answer.project, run);
        const Comparison against = compared(with.reports, then, given.shown);
        for (const std::string& came : against.came) answer.more.push_back("comes: " + came);
        for (const std::string& went : against.went) answer.more.push_back("goes: " + went);
        const std::string where = shiftWords(project, place.by, given.shown);
        answer.id = std::to_string(out.answers.size() + 1);
        const bool all_told = place.unknown == 0;
        const std::string untold =
            std::to_string(place.unknown) + (place.unknown == 1 ? " gap" : " gaps") + " to measure";
        answer.words = where + ": " +
                       (!good      ? "the least bad place"
                        : all_told ? "every gap of the unit is good"
                                   : "no gap of the unit is too near, " + untold) +
                       "; all that was asked: " + totalOf(then);
        if (!good) answer.note = bindingWords(place, given.shown);
        answer.step = "hang it " + where;
        answer.first = good && all_told && out.answers.empty();
        table.row({where, quantity::lengthText(place.farthest_mm, given.shown, 1),
                   !good      ? bindingWords(place, given.shown)
                   : all_told ? "good"
                              : untold,
                   totalOf(then)});
        Json its = jsonOf(place);
        its["verdict"] = model::word(then.verdict);
        if (good)
            json["places"].push_back(std::move(its));
        else
            json["least_bad"] = std::move(its);
        out.answers.push_back(std::move(answer));
    };
    json["least_bad"] = nullptr;
    for (const fit::FreePlace& place : report.places) add(place, true);
    if (report.least_bad) add(*report.least_bad, false);
    out.none = report.behind_sheet ? "Places were found only behind sheet metal that a part would have to go through."
                                   : "No place was found within the limits of the search.";
    if (report.places.empty() && report.least_bad)
        out.now = std::string("No place within reach frees every gap") +
                  (first.value() == First::Room ? "" : " with what comes first") +
                  ". What binds: " + bindingWords(*report.least_bad, given.shown) + ".";
    out.found = !report.places.empty();
    if (report.open) out.now += " A body is not closed: what lies wholly inside of it is not seen.";
    out.text = table.text();
    out.json = std::make_shared<const Json>(std::move(json));
    return out;
}

} // namespace gabarit::make
