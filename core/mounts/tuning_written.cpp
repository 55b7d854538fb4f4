#include "mounts/tuning_written.h"

#include "discipline/table.h"
#include "discipline/written.h"
#include "mounts/apply.h"

namespace gabarit::mounts {
namespace {

using discipline::Json;
using discipline::number;
using discipline::Table;
using quantity::Shown;

Json standingJson(const Standing& s) {
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

Json json(const Tuning& tuning) {
    Json part;
    part["now"] = standingJson(tuning.now);
    part["proposals"] = Json::array();
    for (const Proposal& proposal : tuning.proposals) {
        Json steps = Json::array();
        for (const auto& step : proposal.steps)
            steps.push_back({{"what", step.what}, {"after", standingJson(step.after)}});
        part["proposals"].push_back({{"aim", word(proposal.aim)},
                                     {"what", proposal.what},
                                     {"after", standingJson(proposal.after)},
                                     {"steps", steps}});
    }
    return {{"tune-mounts", std::move(part)}};
}

std::string text(const Tuning& tuning, Shown shown) {
    Table table({"", "no-go", "close", "roll", "passes at idle", "rolls", "goes", "what"},
                {false, true, true, true, true, true, true, false});
    const auto row = [&](const std::string& name, const Standing& s, const std::string& what) {
        table.row({name, std::to_string(s.no_go), std::to_string(s.close),
                   s.roll_hz ? quantity::fixed(*s.roll_hz, 1) + " Hz" : "–",
                   s.passes_at_idle ? quantity::fixed(*s.passes_at_idle * 100, 0) + " %" : "–",
                   s.rolls_deg ? quantity::angleText(*s.rolls_deg, 2) : "–",
                   s.goes_mm ? quantity::lengthText(*s.goes_mm, shown) : "–", what});
    };
    row("now", tuning.now, "");
    for (const Proposal& proposal : tuning.proposals) {
        row(word(proposal.aim), proposal.after, proposal.what);
        if (proposal.steps.size() > 1)
            for (const auto& step : proposal.steps) row("  alone", step.after, step.what);
    }
    return table.text() + (tuning.proposals.empty() ? "Nothing in the catalogue holds it better.\n" : "") +
           "\"Passes at idle\": of the shake at the firing frequency, by the worst of the six ways. Brackets are made "
           "to what is chosen: check the gaps again.\n";
}

} // namespace

std::string standingWords(const Standing& s, Shown shown) {
    std::string out;
    const auto add = [&out](const std::string& words) { out += (out.empty() ? "" : ", ") + words; };
    if (s.passes_at_idle) add(quantity::fixed(*s.passes_at_idle * 100, 0) + " % of the shake passes at idle");
    if (s.rolls_deg) add("rolls " + quantity::angleText(*s.rolls_deg, 2));
    if (s.goes_mm) add("goes " + quantity::lengthText(*s.goes_mm, shown));
    if (s.roll_hz) add("roll at " + quantity::fixed(*s.roll_hz, 1) + " Hz");
    if (s.no_go > 0) add(std::to_string(s.no_go) + " no-go");
    return out;
}

discipline::Found found(const model::Project& project, const model::RuleBook& book, const Tuning& tuning, Shown shown) {
    discipline::Found out;
    out.now = "Now: " + standingWords(tuning.now, shown) + ".";
    out.none = "Nothing in the catalogue holds it better.";
    out.text = text(tuning, shown);
    out.json = std::make_shared<const Json>(json(tuning));
    for (const Proposal& proposal : tuning.proposals) {
        discipline::Answer answer;
        answer.id = word(proposal.aim);
        answer.words = answer.id + ": " + standingWords(proposal.after, shown);
        answer.note = proposal.what;
        for (const auto& step : proposal.steps)
            answer.more.push_back(step.what + " alone: " + standingWords(step.after, shown));
        answer.step = "take the " + answer.id + " mounts";
        answer.project = std::make_shared<const model::Project>(withProposal(project, book, proposal));
        out.answers.push_back(std::move(answer));
    }
    return out;
}

} // namespace gabarit::mounts
