#include "make/ways_written.h"

#include "discipline/table.h"
#include "discipline/written.h"

namespace gabarit::make {
namespace {

using discipline::Json;
using discipline::number;
using discipline::Table;

std::string share(double value) { return quantity::fixed(value * 100, 0) + " %"; }

Json json(const ReliefWays& ways) {
    const auto standing = [](const StandingCount& s) {
        return Json{{"no_go", s.no_go},
                    {"close", s.close},
                    {"unknown", s.unknown},
                    {"verdict", model::word(s.verdict)},
                    {"driveline", s.driveline ? Json(model::word(*s.driveline)) : Json(nullptr)},
                    {"cost", number(s.cost)}};
    };
    Json out;
    out["now"] = standing(ways.now);
    out["ways"] = Json::array();
    for (const ReliefWay& way : ways.ways) {
        Json one = {{"kind", word(way.kind)}, {"name", way.name}, {"reason", way.reason}};
        one["frees"] = way.frees;
        one["then"] = way.project ? standing(way.then) : Json(nullptr);
        one["section_share"] = number(way.section_share);
        one["came"] = way.against.came;
        one["went"] = way.against.went;
        out["ways"].push_back(std::move(one));
    }
    return out;
}

std::string text(const ReliefWays& ways) {
    Table table({"way", "frees it", "no-go", "close", "driveline", "cost", "section left", ""},
                {false, false, true, true, false, true, true, false});
    const auto row = [&](const std::string& name, const std::string& frees, const StandingCount& s,
                         const std::string& section, const std::string& reason) {
        table.row({name, frees, std::to_string(s.no_go), std::to_string(s.close),
                   s.driveline ? model::word(*s.driveline) : "", s.cost ? quantity::fixed(*s.cost, 0) : "", section,
                   reason});
    };
    row("as it is", "", ways.now, "", "");
    for (const ReliefWay& way : ways.ways)
        if (way.project)
            row(way.name, way.frees ? "yes" : "no", way.then, way.section_share ? share(*way.section_share) : "", "");
        else
            table.row({way.name, "no", "", "", "", "", "", way.reason});
    return table.text();
}

/// What it comes to, in a line.
std::string words(const ReliefWay& way, const StandingCount& now) {
    std::string out = way.name + ": " + standingWords(way.then);
    if (!way.frees) out += ", this pair not yet free";
    if (way.then.cost && now.cost && *way.then.cost != *now.cost)
        out += ", " + quantity::fixed(std::abs(*way.then.cost - *now.cost), 0) +
               (*way.then.cost > *now.cost ? " more" : " less");
    if (way.section_share) out += ", section " + share(*way.section_share);
    return out;
}

} // namespace

std::string standingWords(const StandingCount& s) {
    std::string out = std::to_string(s.no_go) + (s.no_go == 1 ? " gap no-go, " : " gaps no-go, ") +
                      std::to_string(s.close) + " close";
    if (s.driveline) out += std::string(", driveline ") + model::word(*s.driveline);
    return out;
}

discipline::Found found(const ReliefWays& ways, const std::string& of) {
    discipline::Found out;
    out.now = of + ", as it is: " + standingWords(ways.now) + ".";
    out.none = "There is no way out of it.";
    out.text = text(ways);
    out.json = std::make_shared<const Json>(json(ways));
    for (const ReliefWay& way : ways.ways) {
        discipline::Answer answer;
        answer.id = std::string(word(way.kind)) + "-" + std::to_string(out.answers.size() + 1);
        answer.words = way.project ? words(way, ways.now) : way.name + ": " + way.reason + ".";
        for (const std::string& came : way.against.came) answer.more.push_back("comes: " + came);
        for (const std::string& went : way.against.went) answer.more.push_back("goes: " + went);
        answer.step = "take a way out: " + way.name;
        answer.project = way.project;
        out.answers.push_back(std::move(answer));
    }
    // Whoever cuts metal decides it himself, among all of them.
    const auto better = [&ways](const ReliefWay& a, const ReliefWay& b) {
        return a.project && a.frees && a.kind != WayKind::Pocket && a.then.no_go < ways.now.no_go &&
               (!b.project || a.then.no_go < b.then.no_go);
    };
    const ReliefWay none;
    const ReliefWay* first = &none;
    for (const ReliefWay& way : ways.ways)
        if (better(way, *first)) first = &way;
    if (first != &none) out.answers[static_cast<std::size_t>(first - ways.ways.data())].first = true;
    return out;
}

} // namespace gabarit::make
