#include "ledger/written.h"

#include "discipline/written.h"
#include "model/describe.h"
#include "parts/parts.h"

namespace gabarit::ledger {
using discipline::Json;
using discipline::number;
using discipline::Table;
using discipline::tidy;
using quantity::Shown;

void write(const discipline::Report& whole, const discipline::Telling&, Json& into) {
    if (!whole.parts.get<PartsReport>()) return;
    const PartsReport& report = *whole.parts.get<PartsReport>();
    Json json;
    json["verdict"] = report.verdict ? Json(model::word(*report.verdict)) : Json(nullptr);
    json["currency"] = report.currency;
    json["budget"] = number(report.budget);
    // A sum that lacks something is not known.
    const auto sum = [](bool lacks, double value) { return lacks ? Json(nullptr) : Json(tidy(value)); };
    json["spent"] = sum(report.lacks_spent, report.spent);
    json["to_spend"] = sum(report.lacks_to_spend, report.to_spend);
    json["income"] = sum(report.lacks_income, report.income);
    json["to_get_back"] = sum(report.lacks_to_get_back, report.to_get_back);
    json["total"] = sum(!report.unpriced.empty(), report.total());
    json["mass_on_kg"] = sum(report.lacks_on, report.mass_on_kg);
    json["mass_off_kg"] = sum(report.lacks_off, report.mass_off_kg);
    json["missing"] = report.missing;
    json["unpriced"] = report.unpriced;
    json["not_taken"] = report.not_taken;
    if (!report.reason.empty()) json["reason"] = report.reason;
    json["lines"] = Json::array();
    for (const PartLine& line : report.lines)
        json["lines"].push_back({{"id", line.id.text},
                                 {"name", line.name},
                                 {"state", describe::said(line.state)},
                                 {"cost", number(line.cost)},
                                 {"mass_kg", number(line.mass_kg)},
                                 {"on_car", describe::inFile(line.on_car)},
                                 {"missing_companions", line.missing_companions}});
    into = std::move(json);
}

std::string text(const discipline::Report& whole, const discipline::Telling& telling) {
    if (!whole.parts.get<PartsReport>()) return {};
    const Shown shown = telling.shown;
    const PartsReport& report = *whole.parts.get<PartsReport>();
    const auto money = [&report](double sum) {
        return quantity::fixed(sum, 2) + (report.currency.empty() ? "" : " " + report.currency);
    };
    Table table({"part", "state", "cost", "mass", "on or off", "still needs"},
                {false, false, true, true, false, false});
    for (const PartLine& line : report.lines) {
        std::string companions;
        for (const std::string& name : line.missing_companions) companions += (companions.empty() ? "" : ", ") + name;
        table.row({line.name, describe::said(line.state), line.cost ? quantity::fixed(*line.cost, 2) : "no price",
                   line.mass_kg ? quantity::massText(*line.mass_kg, shown, 1) : std::string(),
                   line.on_car == model::OnCar::No ? std::string() : describe::inFile(line.on_car), companions});
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

} // namespace gabarit::ledger
