#include "make/free_search.h"

#include "discipline/table.h"
#include "discipline/wording.h"
#include "discipline/written.h"
#include "fit/fit_report.h"
#include "make/ways_written.h"

#include <algorithm>
#include <cmath>

namespace gabarit::make {
namespace {

using discipline::Json;
using fit::Freedom;

constexpr std::size_t at(Freedom freedom) { return static_cast<std::size_t>(freedom); }

Result<fit::FreeLimits> limitsOf(const model::RuleBook& book, const std::string& held) {
    fit::FreeLimits out;
    const char* const figures[] = {"free_along_mm",  "free_across_mm", "free_up_mm",
                                   "free_swing_deg", "free_tail_deg",  "free_lean_deg"};
    for (std::size_t k = 0; k < fit::freedoms; ++k) {
        out.high[k] = book.figure(figures[k]);
        out.low[k] = -out.high[k];
    }
    for (std::size_t from = 0; from < held.size();) {
        const std::size_t comma = std::min(held.find(',', from), held.size());
        const std::string name = held.substr(from, comma - from);
        from = comma + 1;
        std::size_t k = 0;
        while (k < fit::freedoms && name != fit::word(static_cast<Freedom>(k))) ++k;
        if (k == fit::freedoms)
            return Error{"\"" + name + "\" is nothing that can stay as it is", "hold",
                         "name any of along, across, up, swing, tail, lean, with commas between"};
        out.low[k] = out.high[k] = 0;
    }
    return out;
}

std::string bindingWords(const fit::FreePlace& place, const quantity::Shown& shown) {
    std::string out;
    constexpr std::size_t most = 3;
    for (std::size_t i = 0; i < place.binds.size() && i < most; ++i) {
        const fit::Binding& its = place.binds[i];
        out += (i ? "; " : "") + its.name_a + " to " + discipline::inSentence(its.name_b);
        if (its.short_mm > 0) out += ", " + quantity::lengthTextUp(its.short_mm, shown, 1) + " short";
    }
    return out;
}

Json jsonOf(const fit::FreePlace& place) {
    Json out;
    for (std::size_t k = 0; k < fit::freedoms; ++k)
        out["by"][std::string(fit::word(static_cast<Freedom>(k))) + (fit::isTurn(k) ? "_deg" : "_mm")] = place.by[k];
    out["position_mm"] = {place.placement.position_mm.x(), place.placement.position_mm.y(),
                          place.placement.position_mm.z()};
    out["angles"] = {{"yaw_deg", place.placement.angles.yaw_deg},
                     {"pitch_deg", place.placement.angles.pitch_deg},
                     {"roll_deg", place.placement.angles.roll_deg}};
    out["farthest_mm"] = place.farthest_mm;
    out["short_mm"] = place.short_mm;
    out["no_go"] = place.no_go;
    out["close"] = place.close;
    out["unknown"] = place.unknown;
    out["binds"] = Json::array();
    for (const fit::Binding& its : place.binds)
        out["binds"].push_back({{"a", its.a.text()}, {"b", its.b.text()}, {"short_mm", its.short_mm}});
    return out;
}

/// "Not yet: 2 no-go, 1 close".
std::string totalOf(const study::Reports& reports) {
    const std::string counts = study::countWords(study::countsOf(reports));
    return study::inShort(reports) + (counts.empty() ? "" : ": " + counts);
}

} // namespace

std::string shiftWords(const model::Project& project, const fit::Shift& by, const quantity::Shown& shown) {
    constexpr double least_deg = 0.005; // of what is shown
    std::string out = model::moveWords(project, {by[0], by[1], by[2]}, shown);
    const auto turn = [&](Freedom freedom, const char* above, const char* below) {
        const double deg = by[at(freedom)];
        if (std::abs(deg) < least_deg) return;
        out += (out.empty() ? "" : ", ") +
               model::sided(project, std::string(" ") + (deg > 0 ? above : below)).substr(1) + " " +
               quantity::angleText(std::abs(deg), 2);
    };
    turn(Freedom::Tail, "tail down", "tail up");
    turn(Freedom::Swing, "tail {to_right}", "tail {to_left}");
    turn(Freedom::Lean, "top {to_left}", "top {to_right}");
    return out.empty() ? "where it hangs" : out;
}

Result<discipline::Found> freePlaces(const Searching& with, const discipline::SearchGiven& given) {
    const fit::FitReport& fitted = with.reports.with<fit::FitReport>();
    const model::Project& project = *given.project;
    if (!fitted.clearance || !with.reports.scene || !with.reports.moving)
        return Error{"nothing hangs in the bay", "placements", "add a placement for a donor"};
    const auto limits = limitsOf(given.book, given.about[0]);
    if (!limits) return limits.error();
    fit::FreeOptions options;
    options.limits = limits.value();
    options.stop = given.stop;
    options.progress = given.progress;
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
        out.now =
            "No place within reach frees every gap. What binds: " + bindingWords(*report.least_bad, given.shown) + ".";
    if (report.open) out.now += " A body is not closed: what lies wholly inside of it is not seen.";
    out.text = table.text();
    out.json = std::make_shared<const Json>(std::move(json));
    return out;
}

} // namespace gabarit::make
