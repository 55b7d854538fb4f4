#include "mounts/written.h"

#include "discipline/check_words.h"
#include "discipline/written.h"
#include "model/describe.h"
#include "mounts/jig.h"

#include <cmath>

namespace gabarit::mounts {
namespace {

using discipline::checksJson;
using discipline::checksText;
using discipline::Json;
using discipline::number;
using discipline::point;
using discipline::Table;
using discipline::tidy;
using quantity::Shown;

const char* caseWord(CaseKind kind) {
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
    out["kind"] = caseWord(c.kind);
    out["how"] = c.how;
    out["reason"] = c.reason;
    // A case whose load is not known, or that nothing springs against, has none of these.
    const bool load = c.reason.empty(), moved = !c.mount_mm.empty();
    const auto when = [](bool known, Json value) { return known ? value : Json(nullptr); };
    out["force_n"] = when(load, point(c.load.force_n));
    out["moment_nm"] = when(load, point(c.load.moment_nmm / 1000));
    out["on_unit_n"] = when(!c.on_unit_n.empty(), points(c.on_unit_n));
    out["pulled_apart"] = when(!c.on_unit_n.empty(), c.pulled);
    out["moved_mm"] = when(moved, point(c.from_rest.by_mm));
    out["turned_deg"] = when(moved, point(c.from_rest.turn_rad * quantity::deg_per_rad));
    out["mounts_moved_mm"] = when(moved, points(c.mount_mm));
    out["at_stop"] = when(moved, c.at_stop);
    return out;
}

/// Brackets, crossmembers, frames, hold points, left and right, and what a jig is set up by.
void metal(Json& out, const discipline::Report& whole) {
    const MountsReport& r = *whole.parts.get<MountsReport>();
    out["brackets"] = Json::array();
    for (const BracketReport& b : r.brackets) {
        Json its{{"mount", b.mount}, {"which", word(b.which)}, {"reason", b.reason}};
        Json pieces = Json::array();
        if (b.made)
            for (const Piece& piece : b.made->pieces)
                pieces.push_back(
                    {{"name", piece.name}, {"cut_mm", tidy(piece.cut_mm)}, {"mass_kg", tidy(piece.mass_kg)}});
        its["pieces"] = pieces;
        its["mass_kg"] = b.made ? Json(tidy(b.made->mass_kg)) : Json(nullptr);
        its["off_mm"] = number(b.off_mm);
        its["factor"] = number(b.factor);
        its["weld_factor"] = number(b.weld_factor);
        its["worst_case"] = b.worst_case;
        const auto stress = [&b](double mpa) { return b.factor ? Json(tidy(mpa)) : Json(nullptr); };
        its["axial_mpa"] = stress(b.stress.axial_mpa);
        its["bending_mpa"] = stress(b.stress.bending_mpa);
        its["shear_mpa"] = stress(b.stress.shear_mpa);
        its["together_mpa"] = stress(b.stress.together_mpa);
        its["weld_mpa"] = stress(b.stress.weld_mpa);
        out["brackets"].push_back(std::move(its));
    }
    out["crossmembers"] = Json::array();
    for (const CrossmemberReport& c : r.crossmembers) {
        Json passages = Json::array();
        for (const PassageReport& p : c.passages) passages.push_back({{"name", p.name}, {"gap_mm", tidy(p.gap_mm)}});
        const auto when = [&c](Json value) { return c.reason.empty() ? value : Json(nullptr); };
        out["crossmembers"].push_back({{"id", c.id},
                                       {"name", c.name},
                                       {"reason", c.reason},
                                       {"wanted_vehicle_mm", when(point(c.wanted_mm))},
                                       {"left_hole", when(c.left_hole)},
                                       {"right_hole", when(c.right_hole)},
                                       {"seat_vehicle_mm", when(point(c.seat_mm))},
                                       {"slid_mm", when(tidy(c.slid_mm))},
                                       {"slot_mm", when(tidy(c.slot_mm))},
                                       {"slot_left_mm", when(tidy(c.slot_left_mm))},
                                       {"accuracy_mm", number(c.accuracy_mm)},
                                       {"off_across_mm", when(tidy(c.off_across_mm))},
                                       {"drop_mm", when(tidy(c.drop_mm))},
                                       {"reaches", when(c.reaches)},
                                       {"own_seat_mm", when(point(c.own_seat_mm))},
                                       {"bottom_mm", number(c.bottom_mm)},
                                       {"others_bottom_mm", number(c.others_bottom_mm)},
                                       {"lowest_other", c.lowest_other},
                                       {"passages", passages}});
    }
    out["frames"] = Json::array();
    for (const FrameReport& f : r.frames) {
        const auto when = [&f](Json value) { return f.reason.empty() ? value : Json(nullptr); };
        // Of loads that are all known: the worst of some is not the worst.
        const bool all = std::none_of(r.cases.begin(), r.cases.end(), [](const LoadCase& c) {
            return c.kind != CaseKind::Driving && c.on_unit_n.empty();
        });
        const auto known = [&](double n) { return when(all && !r.cases.empty() ? Json(tidy(n)) : Json(nullptr)); };
        Json seats = Json::array();
        for (const SeatLoad& s : f.seats)
            seats.push_back({{"seat", s.seat},
                             {"name", s.name},
                             {"at_vehicle_mm", when(point(s.at_mm))},
                             {"rest_n", known(s.rest_n)},
                             {"most_n", known(s.most_n)},
                             {"most_case", s.most_case},
                             {"pulled_n", known(s.pulled_n)},
                             {"pulled_case", s.pulled_case}});
        out["frames"].push_back({{"id", f.id},
                                 {"name", f.name},
                                 {"reason", f.reason},
                                 {"mounts", f.mounts},
                                 {"length_mm", when(f.length_mm > 0 ? Json(tidy(f.length_mm)) : Json(nullptr))},
                                 {"mass_kg", when(f.mass_kg > 0 ? Json(tidy(f.mass_kg)) : Json(nullptr))},
                                 {"factor", number(f.factor)},
                                 {"worst_case", f.worst_case},
                                 {"seats", seats}});
    }
    out["holds"] = Json::array();
    for (const HoldReport& h : r.holds)
        out["holds"].push_back({{"mount", h.mount},
                                {"hold", describe::said(h.hold)},
                                {"signed", h.signed_off},
                                {"holds", h.holds},
                                {"date", h.date},
                                {"who", h.who},
                                {"changed", h.changed}});
    out["handed"] = Json::array();
    for (const HandedPair& h : r.handed)
        out["handed"].push_back({{"left", h.left}, {"right", h.right}, {"same_part", h.same_part}, {"why", h.why}});
    const JigSheet sheet = jigSheet(*whole.project, r);
    out["jig"] = Json::array();
    for (const JigLine& line : sheet.lines) {
        Json hooks = Json::array();
        for (const JigHook& hook : line.hooks)
            hooks.push_back(
                {{"name", hook.name}, {"straight_mm", tidy(hook.straight_mm)}, {"along_mm", point(hook.along_mm)}});
        out["jig"].push_back({{"mount", line.mount},
                              {"what", line.what},
                              {"side", word(line.side)},
                              {"at_vehicle_mm", point(line.at_mm)},
                              {"level_deg", number(line.level_deg)},
                              {"swing_deg", number(line.swing_deg)},
                              {"length_mm", number(line.length_mm)},
                              {"note", line.note},
                              {"hooks", hooks}});
    }
}

std::string nameOf(const MountsReport& r, const std::string& id) {
    for (const MountReport& m : r.mounts)
        if (m.id == id) return m.name;
    return id;
}

std::string metalText(const MountsReport& r, const Shown& shown) {
    std::string out;
    const auto length = [&](double mm) { return quantity::lengthText(mm, shown); };
    for (const BracketReport& b : r.brackets) {
        out += nameOf(r, b.mount) + ", " + word(b.which) + ": ";
        if (!b.made) {
            out += b.reason + ".\n";
            continue;
        }
        for (const Piece& piece : b.made->pieces) out += piece.name + " " + length(piece.cut_mm) + ", ";
        out += quantity::massText(b.made->mass_kg, shown, 2) + ".\n";
    }
    for (const CrossmemberReport& c : r.crossmembers) {
        if (!c.reason.empty()) {
            out += c.name + ": " + c.reason + ".\n";
            continue;
        }
        out += c.name + ": holes " + std::to_string(c.left_hole) + " and " + std::to_string(c.right_hole) + ", " +
               length(std::abs(c.slid_mm)) + (c.slid_mm < 0 ? " forward" : " rearward") + " in its slots, " +
               (c.reaches ? length(c.slot_left_mm) + " left.\n" : "out of reach by " + length(-c.slot_left_mm) + ".\n");
    }
    for (const FrameReport& f : r.frames) {
        out += f.name + ": " + (f.reason.empty() ? quantity::massText(f.mass_kg, shown, 1) : f.reason);
        for (const SeatLoad& s : f.seats)
            out += "; " + s.name + " " + discipline::forceText(s.rest_n, shown) + " at rest, " +
                   discipline::forceText(s.most_n, shown) + " at most";
        out += ".\n";
    }
    for (const HandedPair& h : r.handed)
        out += nameOf(r, h.left) + " and " + nameOf(r, h.right) +
               (h.same_part ? ": one part serves both sides.\n" : " are handed: " + h.why + ".\n");
    std::string before;
    for (const HoldReport& h : r.holds) {
        if (!h.signed_off) continue;
        out += nameOf(r, h.mount) + " " + describe::said(h.hold) + " " + h.date + (h.who.empty() ? "" : ", " + h.who);
        for (std::size_t i = 0; i < h.changed.size(); ++i) out += (i == 0 ? "; open again: " : ", ") + h.changed[i];
        out += ".\n";
    }
    if (r.weld_pull_mm > 0)
        out +=
            length(r.weld_pull_mm) + " more is wanted in each gap until every mount is fitted again after welding.\n";
    return out.empty() ? out : out + "\n";
}

} // namespace

void write(const discipline::Report& whole, const discipline::Telling&, Json& into) {
    if (!whole.parts.get<MountsReport>()) return;
    const MountsReport& r = *whole.parts.get<MountsReport>();
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
    for (const MountReport& m : r.mounts)
        out["mounts"].push_back({{"id", m.id},
                                 {"name", m.name},
                                 {"at_vehicle_mm", point(m.at_mm)},
                                 {"axis", point(m.axes.col(2))},
                                 {"isolator", m.isolator},
                                 {"leans_outward_deg", tidy(leanOf(m.axes.col(2), m.at_mm.y()).outward_deg)},
                                 {"leans_forward_deg", tidy(leanOf(m.axes.col(2), m.at_mm.y()).forward_deg)},
                                 {"shear_way", point(m.axes.col(0))},
                                 {"shear2_way", point(m.axes.col(1))},
                                 {"rest_n", number(m.rest_n)},
                                 {"rest_shear_n", number(m.rest_shear_n)},
                                 {"rest_mm", number(m.rest_mm)},
                                 {"rest_shear_mm", number(m.rest_shear_mm)},
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
        for (const Mode& mode : *r.modes) {
            Json share = Json::object(), shape = Json::array();
            for (int d = 0; d < 6; ++d) {
                share[word(static_cast<ModeOf>(d))] = tidy(mode.share[static_cast<std::size_t>(d)]);
                shape.push_back(tidy(mode.shape[d]));
            }
            out["modes"].push_back({{"of", word(mode.of)},
                                    {"frequency_hz", tidy(mode.frequency_hz)},
                                    {"decoupled", tidy(mode.decoupled)},
                                    {"share", share},
                                    {"shape", shape}});
        }
    out["bolts"] = Json::array();
    for (const BoltReport& b : r.bolts)
        out["bolts"].push_back({{"mount", b.mount},
                                {"face", b.face},
                                {"grip_mm", number(b.grip_mm)},
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
    out["weld_pull_mm"] = tidy(r.weld_pull_mm);
    metal(out, whole);
    out["checks"] = checksJson(r.checks);
    into = std::move(out);
}

std::string text(const discipline::Report& whole, const discipline::Telling& telling) {
    if (!whole.parts.get<MountsReport>()) return {};
    const Shown shown = telling.shown;
    const MountsReport& r = *whole.parts.get<MountsReport>();
    if (!r.usable) return r.reason + "\n";
    const auto length = [&](const std::optional<double>& mm) {
        return mm ? quantity::lengthText(*mm, shown) : std::string("–");
    };
    const auto force = [&](const std::optional<double>& n) {
        return n ? discipline::forceText(*n, shown) : std::string("–");
    };
    std::string out = quantity::massText(r.unit.body.mass_kg, shown, 1) + " on " + std::to_string(r.mounts.size()) +
                      " mounts; inertia: " + r.unit.source + ".\n";
    Table at({"mount", "isolator", "stands", "at rest along it", "across it", "pressed in", "rubber torn"},
             {false, false, false, true, true, true, true});
    for (const MountReport& m : r.mounts)
        at.row({m.name, m.isolator.empty() ? "none chosen" : m.isolator, leanWords(leanOf(m.axes.col(2), m.at_mm.y())),
                force(m.rest_n), force(m.rest_shear_n), length(m.rest_mm), length(m.torn_mm)});
    out += at.text() + "\n";
    std::vector<std::string> head{"load"};
    std::vector<bool> right{false};
    for (const MountReport& m : r.mounts) {
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
        for (const Mode& mode : *r.modes)
            modes.row({word(mode.of), quantity::fixed(mode.frequency_hz, 1) + " Hz",
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
    for (const BoltReport& b : r.bolts) {
        std::string name = b.mount;
        for (const MountReport& m : r.mounts)
            if (m.id == b.mount) name = m.name;
        bolts.row({name + ", " + b.face, length(b.engaged_mm),
                   b.least_length_mm ? length(b.least_length_mm) + " to " + length(b.most_length_mm) : "–",
                   b.torque_nm ? quantity::torqueText(*b.torque_nm, shown) : "–"});
        any = true;
    }
    if (any) out += "\n" + bolts.text();
    return out + "\n" + metalText(r, shown) + checksText(r.checks, shown) +
           "An estimate, no approval: crash, fatigue and rust are left out. Welds by a qualified welder, looked at by "
           "whoever certifies the vehicle.\n";
}

} // namespace gabarit::mounts
