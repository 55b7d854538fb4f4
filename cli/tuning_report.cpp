// Better mounts, as JSON and as tables.
#include "json_parts.h"

namespace gabarit::cli {
namespace {

using quantity::Shown;

Json standingJson(const mounts::Standing& s) {
    return {{"no_go", s.no_go},
            {"close", s.close},
            {"unknown", s.unknown},
            {"roll_hz", number(s.roll_hz)},
            {"roll_decoupled", number(s.roll_decoupled)},
            {"highest_hz", number(s.highest_hz)},
            {"passes_at_idle", number(s.passes_at_idle)},
            {"rolls_deg", number(s.rolls_deg)},
            {"goes_mm", number(s.goes_mm)}};
}

} // namespace

Json tuningJson(const model::Project& project, const mounts::Tuning& tuning, const std::string& file) {
    Json json;
    json["format"] = "gabarit-report";
    json["version"] = 1;
    json["report"] = "tune-mounts";
    json["file"] = file;
    json["project"] = project.name;
    Json& part = json["tune-mounts"];
    part["now"] = standingJson(tuning.now);
    part["proposals"] = Json::array();
    for (const mounts::Proposal& proposal : tuning.proposals) {
        Json steps = Json::array();
        for (const auto& step : proposal.steps)
            steps.push_back({{"what", step.what}, {"after", standingJson(step.after)}});
        part["proposals"].push_back({{"aim", mounts::word(proposal.aim)},
                                     {"what", proposal.what},
                                     {"after", standingJson(proposal.after)},
                                     {"steps", steps}});
    }
    return json;
}

std::string tuningText(const mounts::Tuning& tuning, const Shown& shown) {
    Table table({"", "no-go", "close", "roll", "passes at idle", "rolls", "goes", "what"},
                {false, true, true, true, true, true, true, false});
    const auto row = [&](const std::string& name, const mounts::Standing& s, const std::string& what) {
        table.row({name, std::to_string(s.no_go), std::to_string(s.close),
                   s.roll_hz ? quantity::fixed(*s.roll_hz, 1) + " Hz" : "–",
                   s.passes_at_idle ? quantity::fixed(*s.passes_at_idle * 100, 0) + " %" : "–",
                   s.rolls_deg ? quantity::angleText(*s.rolls_deg, 2) : "–",
                   s.goes_mm ? quantity::lengthText(*s.goes_mm, shown) : "–", what});
    };
    row("now", tuning.now, "");
    for (const mounts::Proposal& proposal : tuning.proposals) {
        row(mounts::word(proposal.aim), proposal.after, proposal.what);
        if (proposal.steps.size() > 1)
            for (const auto& step : proposal.steps) row("  alone", step.after, step.what);
    }
    return table.text() + (tuning.proposals.empty() ? "Nothing in the catalogue holds it better.\n" : "") +
           "\"Passes at idle\": of the shake at the firing frequency, by the worst of the six ways. Brackets are made "
           "to "
           "what is chosen: check the gaps again.\n";
}

} // namespace gabarit::cli
