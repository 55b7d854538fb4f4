#include "gearing/written.h"

#include "discipline/check_words.h"
#include "discipline/written.h"
#include "gearing/words.h"

namespace gabarit::gearing {
using discipline::Json;
using discipline::number;
using discipline::Table;
using discipline::tidy;
using quantity::Shown;

void write(const discipline::Report& whole, const discipline::Telling&, Json& into) {
    if (!whole.parts.get<GearingReport>()) return;
    Json json;
    const GearingReport& g = *whole.parts.get<GearingReport>();
    json["verdict"] = model::word(g.verdict);
    json["missing"] = g.missing;
    json["tyre_diameter_mm"] = g.tyre ? Json(tidy(g.tyre->diameter_mm)) : Json(nullptr);
    json["rolling_mm"] = number(g.rolling_mm);
    json["revs_per_km"] = number(g.revs_per_km);
    json["loss"] = tidy(g.loss);
    json["loss_source"] = g.loss_source;
    json["mass_kg"] = number(g.mass_kg);
    json["mass_source"] = g.mass_source;
    json["most_torque_nm"] = number(g.most_torque_nm);
    json["cruise_rpm"] = number(g.cruise_rpm);
    json["drive_for_cruise"] = number(g.drive_for_cruise);
    json["original_cruise_rpm"] = number(g.original_cruise_rpm);
    json["original_force_n_per_kg"] = number(g.original_force_n_per_kg);
    json["drive_for_original_cruise"] = number(g.drive_for_original_cruise);
    json["drive_for_original_force"] = number(g.drive_for_original_force);
    json["speedo_error"] = number(g.speedo_error);
    json["speedo_true_kmh"] = number(g.speedo_true_kmh);
    json["speedo_rule"] = g.speedo_rule;
    json["gears"] = Json::array();
    for (const auto& gear : g.gears)
        json["gears"].push_back({{"name", gear.name},
                                 {"ratio", tidy(gear.ratio)},
                                 {"low_range", gear.low_range},
                                 {"reverse", gear.reverse},
                                 {"kmh_per_1000", number(gear.kmh_per_1000)},
                                 {"top_kmh", number(gear.top_kmh)},
                                 {"after_shift_rpm", number(gear.after_shift_rpm)},
                                 {"cruise_rpm", number(gear.cruise_rpm)},
                                 {"force_n", number(gear.force_n)},
                                 {"force_n_per_kg", number(gear.force_n_per_kg)}});
    into = std::move(json);
}

std::string text(const discipline::Report& whole, const discipline::Telling& telling) {
    if (!whole.parts.get<GearingReport>()) return {};
    const Shown shown = telling.shown;
    const GearingReport& g = *whole.parts.get<GearingReport>();
    const auto text = [](const std::optional<double>& value, int decimals) {
        return value ? quantity::fixed(*value, decimals) : std::string("–");
    };
    const std::string unit = quantity::speedUnit(shown);
    const auto speed = [&](const std::optional<double>& kmh, int decimals) {
        return kmh ? quantity::fixed(quantity::shownSpeed(*kmh, shown), decimals) : std::string("–");
    };
    Table table({"gear", "ratio", unit + " at 1000", "top " + unit, "rpm after", "cruise rpm",
                 std::string("pull ") + discipline::forceUnit(shown), pullUnit(shown)},
                {false, true, true, true, true, true, true, true});
    for (const auto& gear : g.gears)
        table.row({gear.name + (gear.low_range ? ", low" : ""), quantity::fixed(gear.ratio, 3),
                   speed(gear.kmh_per_1000, 1), speed(gear.top_kmh, 0), text(gear.after_shift_rpm, 0),
                   text(gear.cruise_rpm, 0),
                   gear.force_n ? quantity::fixed(discipline::shownForce(*gear.force_n, shown), 0) : "–",
                   gear.force_n_per_kg ? quantity::fixed(shownPull(*gear.force_n_per_kg, shown), 2) : "–"});
    std::string out = table.text();
    if (g.tyre)
        out += "Tyre " + quantity::lengthText(g.tyre->diameter_mm, shown, 0) + " across, rolls " +
               quantity::lengthText(*g.rolling_mm, shown, 0) + " a turn; " + quantity::fixed(g.loss * 100, 0) +
               " % lost from crank to wheels (" + g.loss_source + ").\n";
    const auto drive = [&](const char* what, const std::optional<double>& ratio) {
        if (ratio) out += std::string(what) + ": final drive " + quantity::fixed(*ratio, 2) + ".\n";
    };
    drive("For the wanted revs at cruise", g.drive_for_cruise);
    drive("For the original vehicle's revs at cruise", g.drive_for_original_cruise);
    drive("For the original vehicle's pull for each kilogram in first", g.drive_for_original_force);
    if (g.speedo_error)
        out += speedoWords(g, shown) + " (" + model::word(g.speedo_verdict) + ": " + g.speedo_rule + ").\n";
    for (const std::string& what : g.missing) out += "Not given: " + what + ".\n";
    return out;
}

} // namespace gabarit::gearing
