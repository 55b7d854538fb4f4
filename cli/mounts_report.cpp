// The mounts, as JSON and as tables.
#include "json_parts.h"
#include "report_text.h"
#include "table.h"

#include "study/check_words.h"

namespace gabarit::cli {
namespace {

using mounts::CaseKind;
using mounts::LoadCase;
using mounts::MountsReport;
using quantity::Shown;

const char* kindWord(CaseKind kind) {
    return kind == CaseKind::Rest ? "rest" : kind == CaseKind::Driving ? "driving" : "strength";
}
Json points(const std::vector<Eigen::Vector3d>& list) {
    Json out = Json::array();
    for (const auto& p : list) out.push_back(point(p));
    return out;
}
Json matrix(const Eigen::Matrix3d& m) { return Json::array({point(m.row(0)), point(m.row(1)), point(m.row(2))}); }

Json caseJson(const LoadCase& c) {
    Json out;
    out["id"] = c.id;
    out["name"] = c.name;
    out["kind"] = kindWord(c.kind);
    out["how"] = c.how;
    out["reason"] = c.reason;
    out["force_n"] = point(c.load.force_n);
    out["moment_nm"] = point(c.load.moment_nmm / 1000);
    out["on_unit_n"] = points(c.on_unit_n);
    out["pulled_apart"] = c.pulled;
    out["moved_mm"] = point(c.from_rest.by_mm);
    out["turned_deg"] = point(c.from_rest.turn_rad * quantity::deg_per_rad);
    out["mounts_moved_mm"] = points(c.mount_mm);
    out["at_stop"] = c.at_stop;
    return out;
}

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

Json mountsPart(const study::Reports& reports) {
    const MountsReport& r = *reports.mounts;
    Json out;
    out["verdict"] = model::word(r.verdict);
    out["usable"] = r.usable;
    out["reason"] = r.reason;
    out["determinate"] = r.determinate;
    out["unit"] = nullptr;
    if (r.usable) {
        Json spread = Json::array();
        for (std::size_t i = 0; i < r.unit.names.size(); ++i)
            spread.push_back({{"name", r.unit.names[i]}, {"spread_over", r.unit.spread_over[i]}});
        out["unit"] = {{"mass_kg", tidy(r.unit.body.mass_kg)},
                       {"centre_vehicle_mm", point(r.unit.body.centre_mm)},
                       {"inertia_kg_m2", matrix(r.unit.body.inertia_kg_m2)},
                       {"inertia_source", r.unit.source},
                       {"masses", spread}};
    }
    out["mounts"] = Json::array();
    for (const mounts::MountReport& m : r.mounts)
        out["mounts"].push_back({{"id", m.id},
                                 {"name", m.name},
                                 {"at_vehicle_mm", point(m.at_mm)},
                                 {"axis", point(m.axes.col(2))},
                                 {"isolator", m.isolator},
                                 {"rest_n", number(m.rest_n)},
                                 {"rest_mm", number(m.rest_mm)},
                                 {"torn_holds", m.torn_holds},
                                 {"torn_mm", number(m.torn_mm)}});
    out["cases"] = Json::array();
    for (const LoadCase& c : r.cases) out["cases"].push_back(caseJson(c));
    out["firing_hz"] = number(r.firing_hz);
    out["second_order_hz"] = number(r.second_order_hz);
    out["second_order_n"] = number(r.second_order_n);
    out["modes_reason"] = r.modes_reason;
    out["modes"] = Json::array();
    if (r.modes)
        for (const mounts::Mode& mode : *r.modes) {
            Json share = Json::object(), shape = Json::array();
            for (int d = 0; d < 6; ++d) {
                share[mounts::word(static_cast<mounts::ModeOf>(d))] = tidy(mode.share[static_cast<std::size_t>(d)]);
                shape.push_back(tidy(mode.shape[d]));
            }
            out["modes"].push_back({{"of", mounts::word(mode.of)},
                                    {"frequency_hz", tidy(mode.frequency_hz)},
                                    {"decoupled", tidy(mode.decoupled)},
                                    {"share", share},
                                    {"shape", shape}});
        }
    out["bolts"] = Json::array();
    for (const mounts::BoltReport& b : r.bolts)
        out["bolts"].push_back({{"mount", b.mount},
                                {"face", b.face},
                                {"engaged_mm", number(b.engaged_mm)},
                                {"least_length_mm", number(b.least_length_mm)},
                                {"most_length_mm", number(b.most_length_mm)},
                                {"preload_n", number(b.preload_n)},
                                {"torque_nm", number(b.torque_nm)}});
    out["rocking"] = nullptr;
    if (r.rocking)
        out["rocking"] = {{"roll_deg", tidy(r.rocking->roll_deg)},
                          {"up_mm", tidy(r.rocking->up_mm)},
                          {"down_mm", tidy(r.rocking->down_mm)},
                          {"along_mm", tidy(r.rocking->along_mm)}};
    out["checks"] = checksJson(r.checks);
    return out;
}

std::string mountsText(const study::Reports& reports, Shown shown) {
    if (!reports.mounts) return not_asked;
    const MountsReport& r = *reports.mounts;
    if (!r.usable) return r.reason + "\n";
    const auto length = [&](const std::optional<double>& mm) {
        return mm ? quantity::lengthText(*mm, shown) : std::string("–");
    };
    const auto force = [&](const std::optional<double>& n) {
        return n ? study::forceText(*n, shown) : std::string("–");
    };
    std::string out = quantity::massText(r.unit.body.mass_kg, shown, 1) + " on " + std::to_string(r.mounts.size()) +
                      " mounts; inertia: " + r.unit.source + ".\n";
    Table at({"mount", "isolator", "at rest", "pressed in", "rubber torn"}, {false, false, true, true, true});
    for (const mounts::MountReport& m : r.mounts)
        at.row({m.name, m.isolator.empty() ? "none chosen" : m.isolator, force(m.rest_n), length(m.rest_mm),
                length(m.torn_mm)});
    out += at.text() + "\n";
    std::vector<std::string> head{"load"};
    std::vector<bool> right{false};
    for (const mounts::MountReport& m : r.mounts) {
        head.push_back(m.name);
        right.push_back(true);
    }
    head.push_back("how");
    right.push_back(false);
    Table loads(head, right);
    for (const LoadCase& c : r.cases) {
        if (c.kind == CaseKind::Driving) continue;
        std::vector<std::string> row{c.name};
        for (std::size_t i = 0; i < r.mounts.size(); ++i)
            row.push_back(c.on_unit_n.empty() ? "–" : force(c.on_unit_n[i].norm()) + (c.pulled[i] ? " apart" : ""));
        row.push_back(c.reason.empty() ? c.how : c.reason);
        loads.row(std::move(row));
    }
    out += loads.text();
    out += r.determinate ? "By statics: three mounts.\n\n" : "Shared by the mounts' rates.\n\n";
    if (r.modes) {
        Table modes({"shakes in", "at", "decoupled"}, {false, true, true});
        for (const mounts::Mode& mode : *r.modes)
            modes.row({mounts::word(mode.of), quantity::fixed(mode.frequency_hz, 1) + " Hz",
                       quantity::fixed(mode.decoupled * 100, 0) + " %"});
        out += modes.text();
    } else {
        out += "How it shakes is not known: " + r.modes_reason + ".\n";
    }
    if (r.firing_hz) out += "It fires at " + quantity::fixed(*r.firing_hz, 1) + " Hz at idle.\n";
    if (r.rocking)
        out += "Driving it rolls by " + quantity::angleText(r.rocking->roll_deg, 2) + ", goes up by " +
               length(r.rocking->up_mm) + ", down by " + length(r.rocking->down_mm) + ", fore and aft by " +
               length(r.rocking->along_mm) + ".\n";
    Table bolts({"bolts of", "engaged", "length that would do", "tighten to"}, {false, true, false, true});
    bool any = false;
    for (const mounts::BoltReport& b : r.bolts) {
        std::string name = b.mount;
        for (const mounts::MountReport& m : r.mounts)
            if (m.id == b.mount) name = m.name;
        bolts.row({name + ", " + b.face, length(b.engaged_mm),
                   b.least_length_mm ? length(b.least_length_mm) + " to " + length(b.most_length_mm) : "–",
                   b.torque_nm ? quantity::torqueText(*b.torque_nm, shown) : "–"});
        any = true;
    }
    if (any) out += "\n" + bolts.text();
    return out + "\n" + checksText(r.checks, shown) +
           "An estimate, no approval: crash, fatigue and rust are left out. Welds by a qualified welder, looked at by "
           "whoever certifies the vehicle.\n";
}

} // namespace gabarit::cli
