#include "report_json.h"

#include "json_parts.h"

#include "driveline/driveline.h"
#include "fit/fit_report.h"
#include "fit/words.h"
#include "gearing/gearing.h"
#include "ledger/parts.h"
#include "make/assumed.h"
#include "model/datum.h"
#include "model/describe.h"
#include "mounts/mounts.h"
#include "relief/relief.h"
#include "store/rule_book.h"
#include "survey/survey.h"
#include "weights/axle_loads.h"
#include "weights/hoist.h"

#include <cmath>

namespace gabarit::cli {
namespace {

Json limitInto(Json json, const model::Limit& limit) {
    json["limit_mm"] = limit.gap_mm;
    json["rule"] = limit.row;
    json["rule_text"] = limit.text;
    json["rule_source"] = limit.source;
    return json;
}

Json momentJson(const study::Reports& reports, const fit::Moment& moment) {
    Json json;
    json["verdict"] = model::word(moment.verdict);
    json["contact"] = moment.overlap() ? "overlap" : moment.bound || moment.beyond() ? "beyond" : "apart";
    json["gap_mm"] = tidy(moment.gap.gap_mm);
    if (moment.bound || moment.beyond()) json["gap_is_at_least"] = true;
    if (moment.overlap()) json["depth_found"] = moment.gap.depth_found;
    json["hidden_mm"] = tidy(moment.hidden_mm);
    json["growth_mm"] = tidy(moment.growth_mm);
    json["margin_mm"] = tidy(moment.margin_mm);
    json["states"] = moment.states;
    json["complete"] = moment.complete;
    json = limitInto(std::move(json), moment.limit);
    json["state"] = fit::momentWords(*reports.project, *reports.with<fit::FitReport>().clearance, moment,
                                     quantity::Shown::Millimetres);
    json["state_values"] = Json::array();
    for (const double value : moment.state) json["state_values"].push_back(tidy(value));
    if (!moment.bound && !moment.beyond()) {
        json["point_a_vehicle_mm"] = point(moment.gap.point_a);
        json["point_b_vehicle_mm"] = point(moment.gap.point_b);
        json["away_vehicle"] = point(moment.gap.away);
    }
    if (!moment.reason.empty()) json["reason"] = moment.reason;
    return json;
}

Json movementJson(const fit::ClearanceReport& report) {
    static const char* const of[] = {"travel", "roll", "steering", "engine_roll", "engine_up", "engine_along"};
    static const char* const units[] = {"mm", "deg", "lock", "deg", "mm", "mm"};
    static const char* const ends[] = {"not_said", "front", "rear"};
    Json json;
    json["freedoms"] = Json::array();
    if (report.movement)
        for (std::size_t i = 0; i < report.movement->freedoms.size(); ++i) {
            const auto kind = static_cast<std::size_t>(report.movement->of[i].of);
            json["freedoms"].push_back({{"of", of[kind]},
                                        {"motion", report.movement->of[i].motion},
                                        {"name", report.movement->of[i].name},
                                        {"end", ends[static_cast<std::size_t>(report.movement->of[i].end)]},
                                        {"unit", units[kind]},
                                        {"low", tidy(report.movement->freedoms[i].low)},
                                        {"high", tidy(report.movement->freedoms[i].high)}});
        }
    json["states"] = report.states;
    json["front_sag_mm"] = number(report.sag.front_mm);
    json["rear_sag_mm"] = number(report.sag.rear_mm);
    json["broken"] = Json::array();
    if (report.movement)
        for (const fit::BrokenMotion& motion : report.movement->broken)
            json["broken"].push_back({{"motion", motion.owner + "/" + motion.id},
                                      {"name", motion.name},
                                      {"what", motion.error.what},
                                      {"mend", motion.error.mend}});
    json["travel_not_given"] = Json::array();
    for (const fit::UnknownTravel& travel : report.unknown_travel)
        json["travel_not_given"].push_back(
            {{"body", travel.ref.text()}, {"nearest", travel.other}, {"gap_mm", tidy(travel.gap_mm)}});
    return json;
}

Json stancesJson(const study::Reports& reports) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!fitted.stances) return nullptr;
    Json json;
    json["front_bump_mm"] = number(fitted.stances->front_bump_mm);
    json["rear_bump_mm"] = number(fitted.stances->rear_bump_mm);
    json["sag_left_out"] = fitted.stances->sag_left_out;
    json["lines"] = Json::array();
    for (const fit::StanceLine& line : fitted.stances->lines) {
        Json out{{"id", line.id},
                 {"name", line.name},
                 {"front_mm", tidy(line.front_mm)},
                 {"rear_mm", tidy(line.rear_mm)},
                 {"beyond_bump", line.beyond_bump},
                 {"ground_mm", number(line.ground_mm)},
                 {"lowest", line.ground_mm ? Json(line.lowest.text()) : Json(nullptr)},
                 {"limit_mm", tidy(line.limit_mm)},
                 {"accuracy_mm", number(line.accuracy_mm)},
                 {"verdict", model::word(line.verdict)}};
        out["tightest"] = nullptr;
        if (line.tightest)
            out["tightest"] = {
                {"a", line.tightest->a.text()},
                {"b", line.tightest->b.text()},
                {"contact", line.tightest->overlap() ? "overlap" : "apart"},
                {"gap_mm", line.tightest->overlap() ? Json(nullptr) : Json(tidy(line.tightest->gap.gap_mm))},
                {"limit_mm", tidy(line.tightest->limit->gap_mm)}};
        if (!line.reason.empty()) out["reason"] = line.reason;
        json["lines"].push_back(std::move(out));
    }
    return json;
}

Json pairJson(const study::Reports& reports, const fit::PairGap& pair) {
    static const char* const whens[] = {"rest", "travel", "worst"};
    Json json;
    json["a"] = pair.a.text();
    json["b"] = pair.b.text();
    json["a_name"] = pair.name_a;
    json["b_name"] = pair.name_b;
    json["verdict"] = model::word(pair.verdict);
    json["contact"] = pair.overlap() ? "overlap" : pair.beyond() ? "beyond" : "apart";
    json["state"] = "at rest";
    json["gap_mm"] = tidy(pair.gap.gap_mm);
    if (pair.beyond()) json["gap_is_at_least"] = true;
    if (pair.overlap()) json["depth_found"] = pair.gap.depth_found;
    json["limit_mm"] = pair.limit ? Json(pair.limit->gap_mm) : Json(nullptr);
    json["margin_mm"] = pair.limit ? Json(tidy(pair.margin_mm)) : Json(nullptr);
    json["accuracy_mm"] = number(pair.accuracy_mm);
    json["measured_mm"] = pair.measured ? Json(tidy(pair.measured->gap_mm)) : Json(nullptr);
    json["measured_verdict"] = pair.measured ? Json(model::word(pair.measured->verdict)) : Json(nullptr);
    if (!pair.beyond()) {
        json["point_a_vehicle_mm"] = point(pair.gap.point_a);
        json["point_b_vehicle_mm"] = point(pair.gap.point_b);
        json["away_vehicle"] = point(pair.gap.away);
    }
    if (pair.limit) {
        json["rule"] = pair.limit->row;
        json["rule_text"] = pair.limit->text;
        json["rule_source"] = pair.limit->source;
    }
    if (!pair.reason.empty()) json["reason"] = pair.reason;
    json["decides"] = whens[static_cast<std::size_t>(pair.deciding())];
    json["verdict_at_rest"] = model::word(pair.rest_verdict);
    json["travel"] = pair.travel ? momentJson(reports, *pair.travel) : Json(nullptr);
    json["worst"] = pair.worst ? momentJson(reports, *pair.worst) : Json(nullptr);
    return json;
}

Json accessJson(const fit::ToolAccess& access) {
    Json json;
    json["serviced"] = access.owner + "/" + access.id;
    json["name"] = access.name;
    json["verdict"] = model::word(access.verdict);
    const bool placed = access.from_mm != access.to_mm; // else nothing said where to look
    json["from_vehicle_mm"] = placed ? point(access.from_mm) : Json(nullptr);
    json["to_vehicle_mm"] = placed ? point(access.to_mm) : Json(nullptr);
    json["diameter_mm"] = access.diameter_mm > 0 ? Json(tidy(access.diameter_mm)) : Json(nullptr);
    json["pull_mm"] = number(access.pull_mm);
    json["blockers"] = Json::array();
    for (const fit::Blocker& blocker : access.blockers)
        json["blockers"].push_back({{"body", blocker.ref.text()},
                                    {"gap_mm", tidy(blocker.gap_mm)},
                                    {"accuracy_mm", number(blocker.accuracy_mm)},
                                    {"coming_off", blocker.coming_off}});
    if (!access.reason.empty()) json["reason"] = access.reason;
    return json;
}

Json leverJson(const fit::LeverCheck& lever) {
    Json json;
    json["verdict"] = model::word(lever.verdict);
    json["lever"] = lever.lever;
    json["opening"] = lever.opening;
    json["lever_vehicle_mm"] = point(lever.lever_vehicle_mm);
    json["room_mm"] = number(lever.room_mm);
    json["limit_mm"] = tidy(lever.limit_mm);
    json["accuracy_mm"] = number(lever.accuracy_mm);
    json["lever_move_vehicle_mm"] = lever.move_mm ? point(*lever.move_mm) : Json(nullptr);
    if (!lever.reason.empty()) json["reason"] = lever.reason;
    return json;
}

Json measuredJson(const study::Reports& reports) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    static const char* const words[] = {"agrees", "differs", "unknown", "elsewhere", "out of date"};
    Json json;
    json["differing"] = fitted.measured.differing;
    json["lines"] = Json::array();
    for (const fit::MeasuredLine& line : fitted.measured.lines) {
        const model::MeasuredGap& gap = reports.project->measured[line.index];
        Json out{{"a", gap.a.text()},
                 {"b", gap.b.text()},
                 {"date", gap.date},
                 {"measured_mm", tidy(line.measured_mm)},
                 {"planned_mm", number(line.planned_mm)},
                 {"difference_mm", number(line.difference_mm)},
                 {"accuracy_mm", number(line.accuracy_mm)},
                 {"agreement", words[static_cast<int>(line.agreement)]},
                 {"out_of_date", line.out_of_date},
                 {"mark_now", fit::gapMark(*reports.project, gap.a, gap.b)},
                 {"limit_mm", number(line.limit_mm)},
                 {"margin_mm", number(line.margin_mm)},
                 {"verdict", line.verdict ? Json(model::word(*line.verdict)) : Json(nullptr)}};
        if (!line.reason.empty()) out["reason"] = line.reason;
        json["lines"].push_back(std::move(out));
    }
    json["suspects"] = Json::array();
    for (const fit::Suspect& suspect : fitted.measured.suspects)
        json["suspects"].push_back({{"body", suspect.body ? Json(suspect.body->text()) : Json(nullptr)},
                                    {"name", suspect.name},
                                    {"off_vehicle_mm", point(suspect.off_vehicle_mm)},
                                    {"misfit", tidy(suspect.misfit)},
                                    {"explains", suspect.explains}});
    return json;
}

Json assumedJson(const study::Reports& reports) {
    Json all = Json::array();
    for (const make::AssumedLine& line :
         make::assumed(*reports.project, *reports.scene, *reports.with<fit::FitReport>().clearance))
        all.push_back({{"body", line.ref.text()},
                       {"name", line.name},
                       {"method", line.assumed ? "assumed" : "not_said"},
                       {"accuracy_mm", number(line.accuracy_mm)},
                       {"margin_mm", number(line.margin_mm)},
                       {"against", line.against},
                       {"left_mm", number(line.left_mm)}});
    return all;
}

Json seatsJson(const model::Project& project) {
    Json all = Json::array();
    for (const model::SeatPair& pair : model::seatPairs(project))
        all.push_back({{"role", pair.brackets.role},
                       {"left", pair.brackets.left},
                       {"right", pair.brackets.right},
                       {"left_higher_mm", tidy(pair.height_mm)},
                       {"left_rearward_mm", tidy(pair.fore_aft_mm)},
                       {"off_centre_mm", tidy(pair.offset_mm)},
                       {"accuracy_mm", number(pair.accuracy_mm)}});
    return all;
}

Json clearancePart(const study::Reports& reports) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    const fit::ClearanceReport& report = *fitted.clearance;
    Json json;
    json["verdict"] = model::word(report.verdict);
    json["school"] = report.school;
    json["pairs_checked"] = report.pairs_checked;
    json["pairs_left_out"] = report.pairs_left_out;
    if (!report.reason.empty()) json["reason"] = report.reason;
    json["pairs"] = Json::array();
    for (const fit::PairGap& pair : report.pairs) json["pairs"].push_back(pairJson(reports, pair));
    json["movement"] = movementJson(report);
    json["stances"] = stancesJson(reports);
    json["lowest"] = {{"name", fitted.lowest.lowest}, {"checks", checksJson(fitted.lowest.checks)}};
    json["joined"] = Json::array();
    for (const model::Joined& pair : report.joined)
        json["joined"].push_back({{"a", pair.a.text()}, {"b", pair.b.text()}, {"reason", pair.reason}});
    json["not_solid"] = Json::array();
    for (const fit::BrokenBody& body : report.broken)
        json["not_solid"].push_back({{"body", body.ref.text()}, {"what", body.error.what}, {"mend", body.error.mend}});
    json["closing_off"] = Json::array();
    for (const fit::OffPanel& panel : report.closing_off) json["closing_off"].push_back(panel.ref.text());
    json["tool_access"] = Json::array();
    for (const fit::ToolAccess& access : fitted.access) json["tool_access"].push_back(accessJson(access));
    json["shift_lever"] = fitted.lever ? leverJson(*fitted.lever) : Json(nullptr);
    json["measured"] = measuredJson(reports);
    json["assumed"] = assumedJson(reports);
    json["mount_seats"] = seatsJson(*reports.project);
    return json;
}

/// Member names in the unit of the way: amount_mm or amount_deg.
void putAmount(Json& json, fit::Way way, double amount) {
    json["way"] = fit::word(way);
    json[fit::isTurn(way) ? "amount_deg" : "amount_mm"] = tidy(amount);
}

Json roomJson(const fit::Room& room) {
    Json json;
    putAmount(json, room.way, room.amount);
    json["beyond"] = room.beyond;
    if (room.beyond) return json;
    json["a"] = room.a.text();
    json["b"] = room.b.text();
    json["rule_text"] = room.rule;
    return json;
}

Json fitPart(const study::Reports& reports) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    if (!fitted.room) return nullptr;
    Json json;
    json["rooms"] = Json::array();
    for (const fit::Room& room : fitted.room->rooms) json["rooms"].push_back(roomJson(room));
    json["gearbox_up"] = fitted.room->gearbox_up ? roomJson(*fitted.room->gearbox_up) : Json(nullptr);
    json["gearbox_down"] = fitted.room->gearbox_down ? roomJson(*fitted.room->gearbox_down) : Json(nullptr);
    json["ways_out"] = Json::array();
    for (const study::Finding& finding : reports.findings) {
        if (!finding.way_out) continue;
        const fit::WayOut& way = fitted.ways_out.at(finding.id);
        Json out;
        out["finding"] = finding.id;
        putAmount(out, way.way, way.amount);
        out["then"] = nullptr;
        if (way.then) putAmount(out["then"], way.then->way, way.then->amount);
        out["no_go_before"] = way.no_go_before;
        out["no_go_after"] = way.no_go_after;
        out["worst_other"] = nullptr;
        if (way.worst_other)
            out["worst_other"] = {
                {"a", way.worst_other->a.text()},
                {"b", way.worst_other->b.text()},
                {"verdict", model::word(way.worst_other->verdict)},
                {"contact", way.worst_other->overlap() ? "overlap" : "apart"},
                {"margin_mm", way.worst_other->overlap() ? Json(nullptr) : Json(tidy(way.worst_other->margin_mm))}};
        out["position_mm"] = point(way.placement.position_mm);
        out["angles"] = {{"yaw_deg", tidy(way.placement.angles.yaw_deg)},
                         {"pitch_deg", tidy(way.placement.angles.pitch_deg)},
                         {"roll_deg", tidy(way.placement.angles.roll_deg)}};
        json["ways_out"].push_back(std::move(out));
    }
    return json;
}

Json areasJson(const survey::SurveyState& survey) {
    Json all = Json::array();
    for (const survey::AreaLine& area : survey.areas)
        all.push_back({{"id", area.id},
                       {"name", area.name},
                       {"state", describe::inFile(area.state)},
                       {"complete", area.complete()},
                       {"bodies", area.bodies},
                       {"not_measured", area.not_measured},
                       {"date", area.date},
                       {"who", area.who}});
    return all;
}

Json outgoingJson(const std::vector<fit::OutgoingLine>& lines) {
    Json all = Json::array();
    for (const fit::OutgoingLine& line : lines) {
        Json json;
        json["id"] = line.id;
        json["name"] = line.name;
        json["along"] = std::string(1, "xyz"[static_cast<int>(line.along)]);
        json["old_mm"] = tidy(line.old_mm);
        json["new_mm"] = number(line.new_mm);
        json["difference_mm"] = number(line.difference_mm());
        json["accuracy_mm"] = number(line.accuracy_mm);
        if (!line.reason.empty()) json["reason"] = line.reason;
        all.push_back(std::move(json));
    }
    return all;
}

Json roomsJson(const fit::FreeRoomReport& report) {
    Json json;
    json["wanted_mm"] = tidy(report.wanted_mm);
    json["source"] = report.source;
    json["rooms"] = Json::array();
    for (const fit::RoomLeft& room : report.rooms)
        json["rooms"].push_back(
            {{"id", room.id}, {"name", room.name}, {"intruders", room.intruders}, {"homes_of", room.homes_of}});
    json["searches"] = Json::array();
    for (const fit::HomeSearch& search : report.searches) {
        Json one;
        one["part"] = search.part.text;
        one["name"] = search.name;
        one["home"] = search.chosen.empty() ? Json(nullptr) : Json(search.chosen);
        one["offers"] = Json::array();
        for (const fit::HomeOffer& offer : search.offers)
            one["offers"].push_back({{"room", offer.volume},
                                     {"spare_mm", tidy(offer.spare_mm)},
                                     {"verdict", model::word(offer.verdict)},
                                     {"reason", offer.reason}});
        json["searches"].push_back(std::move(one));
    }
    return json;
}

Json surveyPart(const study::Reports& reports) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    Json json;
    json["ready_to_cut"] = reports.with<survey::SurveyState>().ready_to_cut;
    json["open"] = reports.with<survey::SurveyState>().open;
    json["areas"] = areasJson(reports.with<survey::SurveyState>());
    json["assumed"] = fitted.clearance ? assumedJson(reports) : Json::array();
    json["mount_seats"] = seatsJson(*reports.project);
    json["outgoing"] = outgoingJson(fitted.outgoing);
    json["conditions"] = Json::array();
    for (const model::Condition& condition : reports.project->conditions)
        json["conditions"].push_back({{"id", condition.id},
                                      {"name", condition.name},
                                      {"owner", condition.owner},
                                      {"at_mm", point(condition.at_mm)},
                                      {"mended", condition.mended}});
    json["free_room"] = roomsJson(fitted.free_room);
    return json;
}

/// The sum behind its figure; null when it is of none.
Json whyJson(const study::Reports& reports, const study::Finding& finding) {
    const auto why = study::whyOf(reports, finding, store::defaultRuleBook(), quantity::Shown::Millimetres);
    if (!why) return nullptr;
    constexpr const char* kinds[] = {"is", "takes", "doubt", "left", "wanted"};
    Json lines = Json::array();
    for (const discipline::WhyLine& line : why->lines)
        lines.push_back({{"kind", kinds[static_cast<std::size_t>(line.kind)]},
                         {"words", line.words},
                         {"value", line.value},
                         {"amount", line.amount != 0 ? Json(tidy(line.amount)) : Json(nullptr)},
                         {"source", line.source}});
    return {{"lines", std::move(lines)}, {"so", why->so}, {"most", why->most}};
}

Json findingsPart(const study::Reports& reports) {
    Json all = Json::array();
    for (const study::Finding& finding : reports.findings) {
        Json json;
        json["id"] = finding.id;
        json["discipline"] = finding.discipline;
        json["verdict"] = model::word(finding.verdict);
        json["number"] = finding.number;
        json["group"] = discipline::groupName(finding.group);
        json["what"] = finding.what.empty() ? finding.title : finding.what;
        json["value"] = finding.held.value;
        json["wanted"] = finding.held.wanted;
        json["margin_share"] = finding.held.margin ? Json(tidy(*finding.held.margin)) : Json(nullptr);
        json["doubt_share"] = finding.held.doubt > 0 ? Json(tidy(finding.held.doubt)) : Json(nullptr);
        json["why"] = whyJson(reports, finding);
        json["holds_up"] = finding.holds_cutting ? "cutting" : "verdict";
        json["title"] = finding.title;
        json["detail"] = finding.detail;
        json["help"] = finding.help;
        json["rule"] = finding.rule;
        json["caution"] = finding.caution;
        json["place_vehicle_mm"] = finding.place_vehicle_mm ? point(*finding.place_vehicle_mm) : Json(nullptr);
        json["move_vehicle_mm"] = finding.move_vehicle_mm ? point(*finding.move_vehicle_mm) : Json(nullptr);
        all.push_back(std::move(json));
    }
    return all;
}

std::string text(const Json& json) { return json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"; }

/// Null when it was not asked.
Json printedPart(const study::Reports& reports, const std::string& discipline, const discipline::Printed& printed) {
    Json json;
    if (const auto* report = reports.report(discipline))
        printed.write(*report, {store::defaultRuleBook(), quantity::Shown::Millimetres}, json);
    return json;
}

/// A report whose section the file does not have is null: not asked.
template <class There, class Part>
std::string one(const char* name, const study::Reports& reports, const std::string& file, const There& there,
                Part part) {
    Json json = head(name, reports, file);
    json[name] = there ? part(reports) : Json(nullptr);
    return text(json);
}

} // namespace

Json checkTree(const study::Reports& reports, const std::string& file) {
    Json json = head("check", reports, file);
    json["verdict"] = reports.asked ? Json(model::word(reports.verdict)) : Json(nullptr);
    json["do_not_cut_yet"] = reports.do_not_cut;
    json["own_limits_below_the_books"] = reports.own_limits_below;
    json["own_figures"] = reports.own_figures;
    json["survey"] = reports.project->vehicle ? surveyPart(reports) : Json(nullptr);
    json["findings"] = findingsPart(reports);
    // In the order of the disciplines; what is told of several of them stands where its own discipline does.
    const auto& board = disciplines::all();
    for (std::size_t i = 0; i < board.size(); ++i) {
        const std::string& id = board[i].card().id;
        if (id == "clearance") {
            json["clearance"] = reports.with<fit::FitReport>().clearance ? clearancePart(reports) : Json(nullptr);
            json["fit"] = fitPart(reports);
        }
        if (id == "relief") json["relief"] = reports.of<relief::ReliefReport>() ? reliefPart(reports) : Json(nullptr);
        for (const discipline::Printed& printed : board[i].prints())
            json[printed.name] = printedPart(reports, id, printed);
    }
    return json;
}

std::string checkJson(const study::Reports& reports, const std::string& file) { return text(checkTree(reports, file)); }

std::string printedJson(const study::Reports& reports, const std::string& discipline,
                        const discipline::Printed& printed, const std::string& file) {
    Json json = head(printed.name.c_str(), reports, file);
    json[printed.name] = printedPart(reports, discipline, printed);
    return text(json);
}

std::string clearanceJson(const study::Reports& reports, const std::string& file) {
    return one("clearance", reports, file, reports.with<fit::FitReport>().clearance, clearancePart);
}
std::string fitJson(const study::Reports& reports, const std::string& file) {
    Json json = head("fit", reports, file);
    json["fit"] = fitPart(reports);
    return text(json);
}
std::string surveyJson(const study::Reports& reports, const std::string& file) {
    Json json = head("survey", reports, file);
    json["survey"] = reports.project->vehicle ? surveyPart(reports) : Json(nullptr);
    return text(json);
}
std::string reliefJson(const study::Reports& reports, const std::string& file) {
    return one("relief", reports, file, reports.of<relief::ReliefReport>(), reliefPart);
}

} // namespace gabarit::cli
