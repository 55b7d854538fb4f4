#include "weights/written.h"

#include "discipline/written.h"
#include "weights/section/weights.h"
#include "weights/words.h"

#include <cmath>

namespace gabarit::weights {
namespace {

using discipline::Json;
using discipline::number;
using discipline::point;
using discipline::Table;
using discipline::tidy;
using quantity::Shown;

Json hoistJson(const HoistReport& hoist) {
    const auto place = [](const std::optional<Eigen::Vector3d>& at) { return at ? point(*at) : Json(nullptr); };
    Json json;
    json["verdict"] = model::word(hoist.verdict);
    json["hangs"] = hoist.hangs;
    json["mass_kg"] = number(hoist.mass_kg);
    json["centre_donor_mm"] = place(hoist.centre_donor_mm);
    json["centre_vehicle_mm"] = place(hoist.centre_vehicle_mm);
    json["slings_donor_mm"] = place(hoist.slings_donor_mm);
    json["offset_donor_mm"] = place(hoist.offset_donor_mm);
    json["tail_down_deg"] = number(hoist.tail_down_deg);
    if (!hoist.reason.empty()) json["reason"] = hoist.reason;
    return json;
}

Json axleJson(const AxleLoad& axle) {
    Json json;
    json["verdict"] = model::word(axle.verdict);
    json["before_kg"] = number(axle.before_kg);
    json["change_kg"] = number(axle.change_kg);
    json["load_kg"] = number(axle.load_kg);
    json["limit_kg"] = number(axle.limit_kg);
    json["accuracy_kg"] = number(axle.accuracy_kg);
    if (!axle.reason.empty()) json["reason"] = axle.reason;
    return json;
}

} // namespace

void write(const discipline::Report& whole, const discipline::Telling&, Json& into) {
    if (!whole.parts.get<AxleLoadReport>()) return;
    const AxleLoadReport& report = *whole.parts.get<AxleLoadReport>();
    Json json;
    json["verdict"] = model::word(report.verdict);
    json["front"] = axleJson(report.front);
    json["rear"] = axleJson(report.rear);
    json["limit_source"] = report.limit_source;
    const auto centre = [](const Centre& c) {
        return Json{{"x_mm", number(c.x_mm)}, {"y_mm", number(c.y_mm)}, {"z_mm", number(c.z_mm)}};
    };
    json["centre_of_gravity_before"] = centre(report.centre_before);
    json["centre_of_gravity"] = centre(report.centre);
    const auto wheels = [](const model::CornerLoads& c) {
        return Json{{"front_left_kg", number(c.front_left_kg)},
                    {"front_right_kg", number(c.front_right_kg)},
                    {"rear_left_kg", number(c.rear_left_kg)},
                    {"rear_right_kg", number(c.rear_right_kg)}};
    };
    json["wheels_before"] = wheels(report.corners_before);
    json["wheels"] = wheels(report.corners);
    json["lines"] = Json::array();
    for (const WeightLine& line : report.lines)
        json["lines"].push_back({{"name", line.name},
                                 {"mass_kg", tidy(line.mass_kg)},
                                 {"accuracy_kg", tidy(line.accuracy_kg)},
                                 {"at_vehicle_mm", point(line.at_vehicle_mm)},
                                 {"front_kg", number(line.front_kg)},
                                 {"rear_kg", number(line.rear_kg)}});
    json["left_out"] = report.left_out;
    json["still_counted"] = report.still_counted;
    json["hoist"] = whole.parts.get<HoistReport>() ? hoistJson(*whole.parts.get<HoistReport>()) : Json(nullptr);
    into = std::move(json);
}

std::string text(const discipline::Report& whole, const discipline::Telling& telling) {
    if (!whole.parts.get<AxleLoadReport>()) return {};
    const Shown shown = telling.shown;
    const AxleLoadReport& report = *whole.parts.get<AxleLoadReport>();
    std::string out;
    for (const std::string& line : weightsWords(*whole.project, report, shown)) out += line + "\n";
    Table table({"item", "mass", "±", "x", "front", "rear"}, {false, true, true, true, true, true});
    for (const WeightLine& line : report.lines)
        table.row({line.name, quantity::massText(line.mass_kg, shown, 1),
                   quantity::massText(line.accuracy_kg, shown, 1),
                   quantity::lengthText(line.at_vehicle_mm.x(), shown, 0),
                   line.front_kg ? quantity::massText(*line.front_kg, shown, 1) : "?",
                   line.rear_kg ? quantity::massText(*line.rear_kg, shown, 1) : "?"});
    out += table.text();
    if (whole.parts.get<HoistReport>() && whole.parts.get<HoistReport>()->mass_kg) {
        const HoistReport& hoist = *whole.parts.get<HoistReport>();
        out += "On the hoist: " + quantity::massText(*hoist.mass_kg, shown, 1);
        if (hoist.offset_donor_mm)
            out += ", its centre " + quantity::lengthText(hoist.offset_donor_mm->x(), shown, 0) + " behind and " +
                   quantity::lengthText(hoist.offset_donor_mm->y(), shown, 0) +
                   " to its own right of the sling eyes' middle";
        if (hoist.tail_down_deg)
            out += std::string(": it hangs tail ") + (*hoist.tail_down_deg < 0 ? "up " : "down ") +
                   quantity::angleText(std::abs(*hoist.tail_down_deg), 0);
        out += (hoist.reason.empty() ? "" : " (" + hoist.reason + ")") +
               std::string(". Nobody under a hanging load; a hoist's rating falls with its reach.\n");
    }
    out += "An estimate until it stands on scales; axle and tyre makers' limits and inspection decide.\n";
    return out;
}

} // namespace gabarit::weights
