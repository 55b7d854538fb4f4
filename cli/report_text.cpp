#include "report_text.h"

#include "json_parts.h"

#include "table.h"

#include "study/assumed.h"
#include "study/weights_words.h"

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
    if (!reports.stances) return {};
    Table table({"stands", "front", "rear", "to the ground", "wanted", "verdict", "lowest", "nearest to what moves"},
                {false, true, true, true, true, false, false, false});
    for (const fit::StanceLine& line : reports.stances->lines) {
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
    for (const std::string& reason : reports.stances->sag_left_out)
        out += "The sag under the new load is left out: " + reason + ".\n";
    return out;
}

} // namespace

std::string clearanceText(const study::Reports& reports, Shown shown) {
    if (!reports.clearance) return not_asked;
    const fit::ClearanceReport& report = *reports.clearance;
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
                        : moment               ? study::gapWords(*moment, shown)
                                               : study::gapWords(pair, shown)),
                   moment       ? quantity::lengthNumber(moment->limit.gap_mm, shown)
                   : pair.limit ? quantity::lengthNumber(pair.limit->gap_mm, shown)
                                : "-",
                   pair.limit ? quantity::lengthNumber(pair.decidingMargin_mm(), shown) : "-",
                   judged_to_mm ? quantity::lengthNumber(*judged_to_mm, shown) : "?",
                   bare(study::gapWords(pair, shown)), pair.name_a, pair.name_b,
                   placed ? placeText((gap.point_a + gap.point_b) / 2, shown) : "",
                   pair.measuredDecides() ? "measured on the real thing"
                   : moment               ? study::momentWords(*reports.project, report, *moment, shown)
                                          : ""});
    }
    if (!report.reason.empty()) out += "not known: " + report.reason + ". " + report.mend + "\n";
    out += table.text();
    if (quiet) out += "and " + std::to_string(quiet) + " pairs farther apart than was looked\n";
    for (const study::Finding& finding : reports.findings)
        if (finding.id.rfind("motion:", 0) == 0 || finding.id.rfind("travel:", 0) == 0)
            out += finding.title + ": " + finding.detail + "\n";
    out += standsText(reports, shown);
    if (!reports.lowest.checks.empty()) out += checksText(reports.lowest.checks, shown);
    for (const fit::BrokenBody& body : report.broken)
        out += "not solid: " + body.name + ": " + body.error.line() + "\n";
    for (const fit::OffPanel& panel : report.closing_off)
        out += "off: " + panel.name + "; no gap is believed until it is back\n";
    for (const fit::ToolAccess& access : reports.access) {
        out += (access.diameter_mm > 0 || !access.pull_mm ? "tool on " : "coming off: ") + access.name +
               (access.pull_mm ? ", " + quantity::lengthText(*access.pull_mm, shown, 0) + " to come off" : "") + ": " +
               model::word(access.verdict);
        for (const fit::Blocker& blocker : access.blockers) out += ", " + blocker.name;
        out += (access.reason.empty() ? "" : " (" + access.reason + ")") + "\n";
    }
    if (reports.lever)
        out += "Shift lever in its opening: " +
               (reports.lever->room_mm ? quantity::lengthText(*reports.lever->room_mm, shown) : "not known how far") +
               " to the edge, " + quantity::lengthText(reports.lever->limit_mm, shown, 0) +
               " wanted: " + model::word(reports.lever->verdict) + "\n";
    for (const fit::MeasuredLine& line : reports.measured.lines)
        out += "measured " + line.name_a + " to " + line.name_b + ": " + quantity::lengthText(line.measured_mm, shown) +
               (line.planned_mm ? ", planned " + quantity::lengthText(*line.planned_mm, shown) + ", difference " +
                                      quantity::lengthText(*line.difference_mm, shown)
                                : "") +
               (line.reason.empty() ? "" : " (" + line.reason + ")") + "\n";
    if (const std::string suspect = study::suspectWords(*reports.project, reports.measured, shown); !suspect.empty())
        out += suspect + "\n";
    for (const study::AssumedLine& line : study::assumed(*reports.project, reports.scene, report)) {
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
    if (!reports.clearance) return not_asked;
    if (!reports.room) return "not known: " + reports.clearance->reason + ". " + reports.clearance->mend + "\n";
    std::string out =
        "Room to move, until a rule binds. What is no-go already counts only where the move makes it worse.\n";
    Table table({"room", "what binds", "and"}, {false, false, false});
    const auto row = [&](const std::string& before, const fit::Room& room) {
        const std::string amount = study::wayWords(*reports.project, room.way, room.amount, shown);
        table.row({before + (room.beyond ? "more than " : "") + amount, room.beyond ? "nothing so far" : room.name_a,
                   room.name_b});
    };
    for (const fit::Room& room : reports.room->rooms) row("", room);
    if (reports.room->gearbox_up) row("gearbox alone ", *reports.room->gearbox_up);
    if (reports.room->gearbox_down) row("gearbox alone ", *reports.room->gearbox_down);
    out += table.text();
    for (const study::Finding& finding : reports.findings)
        if (finding.discipline == "clearance" && finding.verdict == model::Verdict::NoGo)
            out += finding.title + ". " + finding.help + "\n";
    return out;
}

std::string surveyText(const study::Reports& reports, Shown shown) {
    if (!reports.project->vehicle) return not_asked;
    Table table({"state", "area", "still assumed"}, {false, false, false});
    for (const study::AreaLine& area : reports.survey.areas) {
        std::string names;
        for (const std::string& name : area.not_measured) names += (names.empty() ? "" : ", ") + name;
        table.row({area.state == model::AreaState::NotHere ? "not here"
                   : area.complete()                       ? "surveyed"
                                                           : "open",
                   area.name, names});
    }
    std::string out = reports.survey.ready_to_cut
                          ? "Every area is surveyed\n"
                          : std::to_string(reports.survey.open) + " areas are open: do not cut yet\n";
    out += table.text();
    for (const fit::OutgoingLine& line : reports.outgoing) {
        out += line.name + ": old " + quantity::lengthText(line.old_mm, shown);
        if (line.new_mm)
            out += ", new " + quantity::lengthText(*line.new_mm, shown) + ", difference " +
                   quantity::lengthText(*line.difference_mm(), shown);
        out += (line.reason.empty() ? "" : " (" + line.reason + ")") + "\n";
    }
    for (const model::Condition& condition : reports.project->conditions)
        if (!condition.mended) out += "found, not mended: " + condition.name + "\n";
    for (const fit::RoomLeft& room : reports.free_room.rooms)
        for (const std::string& name : room.intruders) out += name + " reaches into the room: " + room.name + "\n";
    for (const fit::HomeSearch& search : reports.free_room.searches)
        for (const fit::HomeOffer& offer : search.offers)
            out += search.name + (offer.volume == search.chosen ? ", at home in " : ", to go into ") + offer.name +
                   ": " + model::word(offer.verdict) + ", " + quantity::lengthText(offer.spare_mm, shown, 0) +
                   " left over" + (offer.reason.empty() ? "" : " (" + offer.reason + ")") + "\n";
    return out;
}

std::string weightsText(const study::Reports& reports, Shown shown) {
    if (!reports.weights) return not_asked;
    const weights::AxleLoadReport& report = *reports.weights;
    std::string out;
    for (const std::string& line : study::weightsWords(report, shown)) out += line + "\n";
    Table table({"item", "mass", "±", "x", "front", "rear"}, {false, true, true, true, true, true});
    for (const weights::WeightLine& line : report.lines)
        table.row({line.name, quantity::massText(line.mass_kg, shown, 1),
                   quantity::massText(line.accuracy_kg, shown, 1),
                   quantity::lengthText(line.at_vehicle_mm.x(), shown, 0),
                   line.front_kg ? quantity::massText(*line.front_kg, shown, 1) : "?",
                   line.rear_kg ? quantity::massText(*line.rear_kg, shown, 1) : "?"});
    out += table.text();
    if (reports.hoist && reports.hoist->mass_kg) {
        const weights::HoistReport& hoist = *reports.hoist;
        out += "On the hoist: " + quantity::massText(*hoist.mass_kg, shown, 1);
        if (hoist.offset_donor_mm)
            out += ", its centre " + quantity::lengthText(hoist.offset_donor_mm->x(), shown, 0) + " behind and " +
                   quantity::lengthText(hoist.offset_donor_mm->y(), shown, 0) +
                   " to the right of the sling eyes' middle";
        if (hoist.tail_down_deg)
            out += std::string(": it hangs tail ") + (*hoist.tail_down_deg < 0 ? "up " : "down ") +
                   quantity::angleText(std::abs(*hoist.tail_down_deg), 0);
        out += (hoist.reason.empty() ? "" : " (" + hoist.reason + ")") +
               std::string(". Nobody under a hanging load; a hoist's rating falls with its reach.\n");
    }
    out += "An estimate until it stands on scales; axle and tyre makers' limits and inspection decide.\n";
    return out;
}

std::string partsText(const study::Reports& reports, Shown shown) {
    if (!reports.parts) return not_asked;
    const ledger::PartsReport& report = *reports.parts;
    const auto money = [&report](double sum) {
        return quantity::fixed(sum, 2) + (report.currency.empty() ? "" : " " + report.currency);
    };
    Table table({"part", "state", "cost", "mass", "on or off", "still needs"},
                {false, false, true, true, false, false});
    for (const ledger::PartLine& line : report.lines) {
        std::string companions;
        for (const std::string& name : line.missing_companions) companions += (companions.empty() ? "" : ", ") + name;
        table.row({line.name, ledger::word(line.state), line.cost ? quantity::fixed(*line.cost, 2) : "no price",
                   line.mass_kg ? quantity::massText(*line.mass_kg, shown, 1) : std::string(),
                   line.on_car == model::OnCar::No ? std::string() : ledger::word(line.on_car), companions});
    }
    std::string out = table.text();
    out += "Spent " + money(report.spent) + ", to spend " + money(report.to_spend) + ", sold " + money(report.income) +
           ", total " + money(report.total()) + "\n";
    out += "Mass put on " + quantity::massText(report.mass_on_kg, shown, 1) + ", taken off " +
           quantity::massText(report.mass_off_kg, shown, 1) + " (the donor is weighed by itself)\n";
    if (report.verdict) {
        out += "Budget " + (report.budget ? money(*report.budget) : std::string("not given")) + ": " +
               model::word(*report.verdict);
        out += (report.reason.empty() ? "" : " (" + report.reason + ")") + "\n";
    }
    return out;
}

namespace {

constexpr const char* nothing_to_judge =
    "Nothing to judge: the file has no vehicle, no driveline, no mounts, no weights and no budget.\n";

std::string totals(const study::Reports& reports) {
    std::string out;
    for (const char* name : {"clearance", "driveline", "gearing", "mounts", "relief", "weights", "parts"}) {
        const auto verdict = study::verdictOf(reports, name);
        out += std::string(name) + ": " + (verdict ? model::word(*verdict) : "not asked") + "\n";
    }
    if (const auto survey = study::verdictOf(reports, "survey"))
        out += std::string("survey: ") + model::word(*survey) + "\n";
    return out + "all that was asked: " + study::totalWords(reports) + "\n";
}

} // namespace

std::string checkText(const study::Reports& reports, Shown /*the findings' sentences were made in it*/) {
    if (!reports.asked) return nothing_to_judge;
    constexpr std::size_t verdict_wide = 9;
    std::string out;
    std::vector<std::string> cautions;
    std::string helped;
    for (const study::Finding& finding : reports.findings) {
        std::string word = finding.holds_cutting ? "wait" : model::word(finding.verdict);
        word.resize(verdict_wide, ' ');
        out += word + finding.title + (finding.detail.empty() ? "" : ". " + finding.detail) + ".\n";
        if (!finding.help.empty())
            out += std::string(verdict_wide, ' ') + "-> " + (finding.help == helped ? "as above" : finding.help) + "\n";
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
        out += std::string(model::word(finding.verdict)) + ": " + finding.title + ". " + finding.detail + ".";
        if (!finding.rule.empty()) out += " Rule: " + finding.rule + ".";
        if (!finding.help.empty()) out += " " + finding.help;
        if (!finding.caution.empty()) out += " Caution: " + finding.caution;
        out += "\n";
    }
    return out + totals(reports);
}

} // namespace gabarit::cli
