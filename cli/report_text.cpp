#include "report_text.h"

#include "json_parts.h"

#include "fit/fit_report.h"
#include "fit/words.h"
#include "ledger/parts.h"
#include "make/assumed.h"
#include "store/rule_book.h"
#include "survey/survey.h"
#include "weights/axle_loads.h"
#include "weights/hoist.h"
#include "weights/words.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace gabarit::cli {
namespace {

using quantity::Shown;

std::string placeText(const Eigen::Vector3d& p, Shown shown) {
    return quantity::lengthNumber(p.x(), shown, 0) + " / " + quantity::lengthNumber(p.y(), shown, 0) + " / " +
           quantity::lengthNumber(p.z(), shown, 0);
}

std::string standsText(const study::Reports& reports, Shown shown) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!fitted.stances) return {};
    Table table({"stands", "front", "rear", "to the ground", "wanted", "verdict", "lowest", "nearest to what moves"},
                {false, true, true, true, true, false, false, false});
    for (const fit::StanceLine& line : fitted.stances->lines) {
        std::string tight = "nothing near";
        if (line.tightest)
            tight = line.tightest->name_a + " to " + line.tightest->name_b + " " +
                    (line.tightest->overlap() ? "overlaps" : quantity::lengthText(line.tightest->gap.gap_mm, shown));
        table.row({line.name + (line.beyond_bump ? " (beyond the bump stop)" : ""),
                   quantity::lengthText(line.front_mm, shown, 0), quantity::lengthText(line.rear_mm, shown, 0),
                   line.ground_mm ? quantity::lengthText(*line.ground_mm, shown, 0) : "not known",
                   quantity::lengthText(line.limit_mm, shown, 0), model::word(line.verdict), line.lowest_name, tight});
    }
    std::string out = table.text();
    for (const std::string& reason : fitted.stances->sag_left_out)
        out += "The sag under the new load is left out: " + reason + ".\n";
    return out;
}

} // namespace

std::string printedText(const study::Reports& reports, const std::string& discipline,
                        const discipline::Printed& printed, Shown shown) {
    const auto* report = reports.report(discipline);
    const std::string out = report ? printed.text(*report, {store::defaultRuleBook(), shown}) : std::string();
    return out.empty() ? not_asked : out;
}

std::string clearanceText(const study::Reports& reports, Shown shown) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!fitted.clearance) return not_asked;
    const fit::ClearanceReport& report = *fitted.clearance;
    std::string out = "Gaps at rest and over all movement, school \"" + report.school +
                      "\": " + std::to_string(report.pairs_checked) + " pairs checked\n";
    const std::string unit = std::string(" ") + quantity::lengthUnit(shown);
    Table table({"verdict", "gap" + unit, "wanted", "margin", "±", "at rest", "between", "and", "at x / y / z", "when"},
                {false, true, true, true, true, true, false, false, false, false});
    const auto bare = [&unit](std::string text) { // the unit stands in the head
        if (const auto at = text.find(unit); at != std::string::npos) text.erase(at, unit.size());
        return text;
    };
    int quiet = report.pairs_left_out;
    for (const fit::PairGap& pair : report.pairs) {
        const fit::Moment* moment = pair.measuredDecides() ? nullptr : pair.moment();
        if (pair.beyond() && pair.verdict == model::Verdict::Go && (!moment || moment->beyond() || moment->bound)) {
            ++quiet;
            continue;
        }
        const proximity::Gap& gap = moment ? moment->gap : pair.gap;
        std::optional<double> judged_to_mm = pair.measuredDecides() ? pair.measured->accuracy_mm : pair.accuracy_mm;
        if (judged_to_mm && moment) *judged_to_mm += moment->hidden_mm;
        const bool placed = moment ? !moment->bound && !moment->beyond() : !pair.beyond();
        table.row({model::word(pair.verdict),
                   bare(pair.measuredDecides() ? quantity::lengthText(pair.measured->gap_mm, shown, 1)
                        : moment               ? fit::gapWords(*moment, shown)
                                               : fit::gapWords(pair, shown)),
                   moment       ? quantity::lengthNumber(moment->limit.gap_mm, shown)
                   : pair.limit ? quantity::lengthNumber(pair.limit->gap_mm, shown)
                                : "-",
                   pair.limit ? quantity::lengthNumber(pair.decidingMargin_mm(), shown) : "-",
                   judged_to_mm ? quantity::lengthNumber(*judged_to_mm, shown) : "?", bare(fit::gapWords(pair, shown)),
                   pair.name_a, pair.name_b, placed ? placeText((gap.point_a + gap.point_b) / 2, shown) : "",
                   pair.measuredDecides() ? "measured on the real thing"
                   : moment               ? fit::momentWords(*reports.project, report, *moment, shown)
                                          : ""});
    }
    if (!report.reason.empty()) out += "not known: " + report.reason + ". " + report.mend + "\n";
    out += table.text();
    if (quiet) out += "and " + std::to_string(quiet) + " pairs farther apart than was looked\n";
    for (const study::Finding& finding : reports.findings)
        if (finding.id.rfind("motion:", 0) == 0 || finding.id.rfind("travel:", 0) == 0)
            out += finding.title + ": " + finding.detail + "\n";
    out += standsText(reports, shown);
    if (!fitted.lowest.checks.empty()) out += checksText(fitted.lowest.checks, shown);
    for (const fit::BrokenBody& body : report.broken)
        out += "not solid: " + body.name + ": " + body.error.line() + "\n";
    for (const fit::OffPanel& panel : report.closing_off)
        out += "off: " + panel.name + "; no gap is believed until it is back\n";
    for (const fit::ToolAccess& access : fitted.access) {
        out += (access.diameter_mm > 0 || !access.pull_mm ? "tool on " : "coming off: ") + access.name +
               (access.pull_mm ? ", " + quantity::lengthText(*access.pull_mm, shown, 0) + " to come off" : "") + ": " +
               model::word(access.verdict);
        for (const fit::Blocker& blocker : access.blockers) out += ", " + blocker.name;
        out += (access.reason.empty() ? "" : " (" + access.reason + ")") + "\n";
    }
    if (fitted.lever)
        out += "Shift lever in its opening: " +
               (fitted.lever->room_mm ? quantity::lengthText(*fitted.lever->room_mm, shown) : "not known how far") +
               " to the edge, " + quantity::lengthText(fitted.lever->limit_mm, shown, 0) +
               " wanted: " + model::word(fitted.lever->verdict) + "\n";
    for (const fit::MeasuredLine& line : fitted.measured.lines)
        out += "measured " + line.name_a + " to " + line.name_b + ": " + quantity::lengthText(line.measured_mm, shown) +
               (line.planned_mm ? ", planned " + quantity::lengthText(*line.planned_mm, shown) + ", difference " +
                                      quantity::lengthText(*line.difference_mm, shown)
                                : "") +
               (line.reason.empty() ? "" : " (" + line.reason + ")") + "\n";
    if (const std::string suspect = fit::suspectWords(*reports.project, fitted.measured, shown); !suspect.empty())
        out += suspect + "\n";
    for (const make::AssumedLine& line : make::assumed(*reports.project, *reports.scene, report)) {
        out += (line.assumed ? "only assumed: " : "accuracy not known: ") + line.name;
        if (line.margin_mm) out += ", margin " + quantity::lengthText(*line.margin_mm, shown) + " to " + line.against;
        out += line.left_mm && *line.left_mm < 0 ? ", it decides\n" : "\n";
    }
    out += "Joined on purpose, not held against a rule: " + std::to_string(report.joined.size()) + "\n";
    out +=
        "Overlap depths are estimates: the shortest move found that frees the pair. Flexing of frame, rubber and body "
        "is not in these figures.\n";
    return out;
}

std::string fitText(const study::Reports& reports, Shown shown) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!fitted.clearance) return not_asked;
    if (!fitted.room) return "not known: " + fitted.clearance->reason + ". " + fitted.clearance->mend + "\n";
    std::string out =
        "Room to move, until a rule binds. What is no-go already counts only where the move makes it worse.\n";
    Table table({"room", "what binds", "and"}, {false, false, false});
    const auto row = [&](const std::string& before, const fit::Room& room) {
        table.row({before + fit::roomWords(*reports.project, room, shown), room.beyond ? "nothing so far" : room.name_a,
                   room.name_b});
    };
    for (const fit::Room& room : fitted.room->rooms) row("", room);
    if (fitted.room->gearbox_up) row("gearbox alone ", *fitted.room->gearbox_up);
    if (fitted.room->gearbox_down) row("gearbox alone ", *fitted.room->gearbox_down);
    out += table.text();
    for (const study::Finding& finding : reports.findings)
        if (finding.discipline == "clearance" && finding.verdict == model::Verdict::NoGo)
            out += finding.title + ". " + finding.help + "\n";
    return out;
}

std::string surveyText(const study::Reports& reports, Shown shown) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!reports.project->vehicle) return not_asked;
    Table table({"state", "area", "still assumed"}, {false, false, false});
    for (const survey::AreaLine& area : reports.with<survey::SurveyState>().areas) {
        std::string names;
        for (const std::string& name : area.not_measured) names += (names.empty() ? "" : ", ") + name;
        table.row({area.state == model::AreaState::NotHere ? "not here"
                   : area.complete()                       ? "surveyed"
                                                           : "open",
                   area.name, names});
    }
    std::string out =
        reports.with<survey::SurveyState>().ready_to_cut
            ? "Every area is surveyed\n"
            : std::to_string(reports.with<survey::SurveyState>().open) + " areas are open: do not cut yet\n";
    out += table.text();
    for (const fit::OutgoingLine& line : fitted.outgoing) {
        out += line.name + ": old " + quantity::lengthText(line.old_mm, shown);
        if (line.new_mm)
            out += ", new " + quantity::lengthText(*line.new_mm, shown) + ", difference " +
                   quantity::lengthText(*line.difference_mm(), shown);
        out += (line.reason.empty() ? "" : " (" + line.reason + ")") + "\n";
    }
    for (const model::Condition& condition : reports.project->conditions)
        if (!condition.mended) out += "found, not mended: " + condition.name + "\n";
    for (const fit::RoomLeft& room : fitted.free_room.rooms)
        for (const std::string& name : room.intruders) out += name + " reaches into the room: " + room.name + "\n";
    for (const fit::HomeSearch& search : fitted.free_room.searches)
        for (const fit::HomeOffer& offer : search.offers)
            out += search.name + (offer.volume == search.chosen ? ", at home in " : ", to go into ") + offer.name +
                   ": " + model::word(offer.verdict) + ", " + quantity::lengthText(offer.spare_mm, shown, 0) +
                   " left over" + (offer.reason.empty() ? "" : " (" + offer.reason + ")") + "\n";
    return out;
}

namespace {

constexpr const char* nothing_to_judge =
    "Nothing to judge: the file has no vehicle, no driveline, no mounts, no weights and no budget.\n";

std::string totals(const study::Reports& reports) {
    std::string out;
    const discipline::Board& board = disciplines::all();
    for (std::size_t i = 0; i < board.size(); ++i) {
        const std::string& name = board[i].card().id;
        if (name == "survey") continue; // judges nothing by itself: told when it holds something up
        const auto verdict = study::verdictOf(reports, name);
        out += name + ": " + (verdict ? model::word(*verdict) : "not asked") + "\n";
    }
    if (const auto survey = study::verdictOf(reports, "survey"))
        out += std::string("survey: ") + model::word(*survey) + "\n";
    return out + "all that was asked: " + study::totalWords(reports) + "\n";
}

constexpr std::size_t number_wide = 4;
/// The same number as on callout, card, page and sheet.
std::string numbered(const study::Finding& finding) {
    std::string out = finding.number > 0 ? std::to_string(finding.number) : std::string();
    out.resize(number_wide, ' ');
    return out;
}

} // namespace

std::string whyText(const study::Reports& reports, int number, Shown shown) {
    for (const study::Finding& finding : reports.findings) {
        if (finding.number != number) continue;
        const auto why = study::whyOf(reports, finding, store::defaultRuleBook(), shown);
        std::string out = std::to_string(number) + ": " + finding.title + "\n";
        if (!why) return out + "It is of no figure. " + finding.detail + ".\n";
        Table table({"", "", "source"}, {false, true, false});
        for (const discipline::WhyLine& line : why->lines) table.row({line.words, line.value, line.source});
        out += table.text() + why->so + "\n";
        return why->most.empty() ? out : out + why->most + "\n";
    }
    return "There is no finding " + std::to_string(number) + ": `check` numbers them.\n";
}

std::string checkText(const study::Reports& reports, Shown /*the findings' sentences were made in it*/) {
    if (!reports.asked) return nothing_to_judge;
    constexpr std::size_t verdict_wide = 9;
    std::string out;
    std::vector<std::string> cautions;
    std::string helped;
    for (const study::Finding& finding : reports.findings) {
        std::string word = finding.holds_cutting ? "wait" : model::word(finding.verdict);
        word.resize(verdict_wide, ' ');
        out += numbered(finding) + word + finding.title + (finding.detail.empty() ? "" : ". " + finding.detail) + ".\n";
        if (!finding.help.empty())
            out += std::string(number_wide + verdict_wide, ' ') + "-> " +
                   (finding.help == helped ? "as above" : finding.help) + "\n";
        helped = finding.help;
        if (!finding.caution.empty() && std::find(cautions.begin(), cautions.end(), finding.caution) == cautions.end())
            cautions.push_back(finding.caution);
    }
    if (!cautions.empty()) out += "\nMind:\n";
    for (const std::string& caution : cautions) out += "  " + caution + "\n";
    return out + (out.empty() ? "" : "\n") + totals(reports);
}

std::string checkLongText(const study::Reports& reports, Shown /*the findings' sentences were made in it*/) {
    if (!reports.asked) return nothing_to_judge;
    std::string out;
    for (const study::Finding& finding : reports.findings) {
        out += (finding.number > 0 ? std::to_string(finding.number) + " " : "") + model::word(finding.verdict) + ": " +
               finding.title + ". " + finding.detail + ".";
        if (!finding.rule.empty()) out += " Rule: " + finding.rule + ".";
        if (!finding.help.empty()) out += " " + finding.help;
        if (!finding.caution.empty()) out += " Caution: " + finding.caution;
        out += "\n";
    }
    return out + totals(reports);
}

} // namespace gabarit::cli
