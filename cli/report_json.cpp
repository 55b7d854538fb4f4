#include "report_json.h"

#include <nlohmann/json.hpp>

#include <cmath>

namespace gabarit::cli {
namespace {

using Json = nlohmann::ordered_json;

double tidy(double v) {
    constexpr double grain = 1e6; // a millionth of a millimetre: far below any accuracy
    return std::round(v * grain) / grain + 0.0;
}
Json number(const std::optional<double>& v) { return v ? Json(tidy(*v)) : Json(nullptr); }
Json point(const Eigen::Vector3d& v) { return Json::array({tidy(v.x()), tidy(v.y()), tidy(v.z())}); }

Json head(const char* report, const study::Reports& reports, const std::string& file) {
    Json json;
    json["format"] = "gabarit-report";
    json["version"] = 1;
    json["report"] = report;
    json["file"] = file;
    json["project"] = reports.project->name;
    const model::Placement* placement = model::activePlacement(*reports.project);
    json["placement"] = placement ? Json(placement->id.text) : Json(nullptr);
    return json;
}

Json pairJson(const fit::PairGap& pair) {
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
    return json;
}

Json clearancePart(const fit::ClearanceReport& report) {
    Json json;
    json["verdict"] = model::word(report.verdict);
    json["school"] = report.school;
    json["pairs_checked"] = report.pairs_checked;
    if (!report.reason.empty()) json["reason"] = report.reason;
    json["pairs"] = Json::array();
    for (const fit::PairGap& pair : report.pairs) json["pairs"].push_back(pairJson(pair));
    json["joined"] = Json::array();
    for (const model::Joined& pair : report.joined)
        json["joined"].push_back({{"a", pair.a.text()}, {"b", pair.b.text()}, {"reason", pair.reason}});
    json["not_solid"] = Json::array();
    for (const fit::BrokenBody& body : report.broken)
        json["not_solid"].push_back({{"body", body.ref.text()}, {"what", body.error.what}, {"mend", body.error.mend}});
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
    if (!reports.room) return nullptr;
    Json json;
    json["rooms"] = Json::array();
    for (const fit::Room& room : reports.room->rooms) json["rooms"].push_back(roomJson(room));
    json["gearbox_up"] = reports.room->gearbox_up ? roomJson(*reports.room->gearbox_up) : Json(nullptr);
    json["gearbox_down"] = reports.room->gearbox_down ? roomJson(*reports.room->gearbox_down) : Json(nullptr);
    json["ways_out"] = Json::array();
    for (const study::Finding& finding : reports.findings) {
        if (!finding.way_out) continue;
        const fit::WayOut& way = *finding.way_out;
        Json out;
        out["finding"] = finding.id;
        putAmount(out, way.way, way.amount);
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

Json axleJson(const weights::AxleLoad& axle) {
    Json json;
    json["verdict"] = model::word(axle.verdict);
    json["before_kg"] = number(axle.before_kg);
    json["change_kg"] = tidy(axle.change_kg);
    json["load_kg"] = number(axle.load_kg);
    json["limit_kg"] = number(axle.limit_kg);
    json["accuracy_kg"] = number(axle.accuracy_kg);
    if (!axle.reason.empty()) json["reason"] = axle.reason;
    return json;
}

Json weightsPart(const weights::AxleLoadReport& report) {
    Json json;
    json["verdict"] = model::word(report.verdict);
    json["front"] = axleJson(report.front);
    json["rear"] = axleJson(report.rear);
    json["limit_source"] = report.limit_source;
    json["centre_of_gravity_x_mm"] = number(report.centre_of_gravity_x_mm);
    json["lines"] = Json::array();
    for (const weights::WeightLine& line : report.lines)
        json["lines"].push_back({{"name", line.name},
                                 {"mass_kg", tidy(line.mass_kg)},
                                 {"at_vehicle_mm", point(line.at_vehicle_mm)},
                                 {"front_kg", tidy(line.front_kg)},
                                 {"rear_kg", tidy(line.rear_kg)}});
    json["left_out"] = report.left_out;
    return json;
}

Json partsPart(const ledger::PartsReport& report) {
    Json json;
    json["verdict"] = report.verdict ? Json(model::word(*report.verdict)) : Json(nullptr);
    json["currency"] = report.currency;
    json["budget"] = number(report.budget);
    json["spent"] = tidy(report.spent);
    json["to_spend"] = tidy(report.to_spend);
    json["income"] = tidy(report.income);
    json["to_get_back"] = tidy(report.to_get_back);
    json["total"] = tidy(report.total());
    json["mass_on_kg"] = tidy(report.mass_on_kg);
    json["mass_off_kg"] = tidy(report.mass_off_kg);
    json["missing"] = report.missing;
    json["unpriced"] = report.unpriced;
    if (!report.reason.empty()) json["reason"] = report.reason;
    json["lines"] = Json::array();
    for (const ledger::PartLine& line : report.lines)
        json["lines"].push_back({{"id", line.id.text},
                                 {"name", line.name},
                                 {"state", ledger::word(line.state)},
                                 {"cost", number(line.cost)},
                                 {"mass_kg", number(line.mass_kg)},
                                 {"on_car", ledger::word(line.on_car)},
                                 {"missing_companions", line.missing_companions}});
    return json;
}

Json findingsPart(const study::Reports& reports) {
    Json all = Json::array();
    for (const study::Finding& finding : reports.findings) {
        Json json;
        json["id"] = finding.id;
        json["discipline"] = finding.discipline;
        json["verdict"] = model::word(finding.verdict);
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

/// A report whose section the file does not have is null: not asked.
template <class Report, class Part>
std::string one(const char* name, const study::Reports& reports, const std::string& file,
                const std::optional<Report>& report, Part part) {
    Json json = head(name, reports, file);
    json[name] = report ? part(*report) : Json(nullptr);
    return text(json);
}

} // namespace

std::string checkJson(const study::Reports& reports, const std::string& file) {
    Json json = head("check", reports, file);
    json["verdict"] = reports.asked ? Json(model::word(reports.verdict)) : Json(nullptr);
    json["findings"] = findingsPart(reports);
    json["clearance"] = reports.clearance ? clearancePart(*reports.clearance) : Json(nullptr);
    json["fit"] = fitPart(reports);
    json["weights"] = reports.weights ? weightsPart(*reports.weights) : Json(nullptr);
    json["parts"] = reports.parts ? partsPart(*reports.parts) : Json(nullptr);
    return text(json);
}

std::string clearanceJson(const study::Reports& reports, const std::string& file) {
    return one("clearance", reports, file, reports.clearance, clearancePart);
}
std::string fitJson(const study::Reports& reports, const std::string& file) {
    Json json = head("fit", reports, file);
    json["fit"] = fitPart(reports);
    return text(json);
}
std::string weightsJson(const study::Reports& reports, const std::string& file) {
    return one("weights", reports, file, reports.weights, weightsPart);
}
std::string partsJson(const study::Reports& reports, const std::string& file) {
    return one("parts", reports, file, reports.parts, partsPart);
}

} // namespace gabarit::cli
