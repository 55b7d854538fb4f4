#include "driveline/written.h"
#include "driveline/section/driveline.h"
#include "model/describe.h"

#include "discipline/written.h"
#include "driveline/words.h"

namespace gabarit::driveline {
namespace {

using discipline::checksJson;
using discipline::checksText;
using discipline::Json;
using discipline::number;
using discipline::point;
using discipline::Table;
using discipline::tidy;
using quantity::Shown;

const char* cureWord(Cure::Kind kind) {
    return kind == Cure::Kind::Phase        ? "phase"
           : kind == Cure::Kind::PinionNose ? "pinion_nose_up"
           : kind == Cure::Kind::UnitTail   ? "unit_tail_up"
                                            : "unit_up";
}

Json stateJson(const LineState& state) {
    return {{"travel_mm", tidy(state.travel_mm)}, {"windup_deg", tidy(state.windup_deg)}};
}

Json slipJson(const SlipReport& slip) {
    return {{"shaft", slip.shaft + 1},
            {"name", slip.name},
            {"plunging", slip.plunging},
            {"ride_mm", tidy(slip.ride_mm)},
            {"shortest_mm", tidy(slip.shortest_mm)},
            {"shortest_at", stateJson(slip.shortest_at)},
            {"longest_mm", tidy(slip.longest_mm)},
            {"longest_at", stateJson(slip.longest_at)},
            {"reserve_mm", number(slip.reserve_mm)},
            {"engaged_mm", number(slip.engaged_mm)},
            {"order_closed_mm", slip.order_closed_mm > 0 ? Json(tidy(slip.order_closed_mm)) : Json(nullptr)},
            {"order_spline_mm", number(slip.order_spline_mm)},
            {"move_least_mm", number(slip.move_least_mm)},
            {"move_most_mm", number(slip.move_most_mm)},
            {"moved_mm", number(slip.moved_mm)},
            {"lift_mm", number(slip.lift_mm)},
            {"drop_mm", number(slip.drop_mm)}};
}

Json lineJson(const LineReport& line) {
    constexpr double deg = 180 / M_PI;
    Json json{{"id", line.id}, {"name", line.name}, {"usable", line.usable}, {"verdict", model::word(line.verdict)}};
    json["reason"] = line.reason;
    json["checks"] = checksJson(line.checks);
    if (!line.usable) return json;
    json["speed_rpm"] = number(line.speed_rpm);
    json["speed_source"] = line.speed_source;
    json["ratio_least"] = tidy(line.turn.least_ratio);
    json["ratio_most"] = tidy(line.turn.most_ratio);
    json["equivalent_deg"] = tidy(line.turn.equivalent_rad * deg);
    json["plane_twist_deg"] = Json::array();
    for (const auto& twist : line.plane_twist_deg) json["plane_twist_deg"].push_back(number(twist));
    json["over_a_turn"] = Json::array();
    for (const TurnPoint& at : line.over_a_turn)
        json["over_a_turn"].push_back(
            {{"input_deg", at.input_deg}, {"ahead_deg", tidy(at.ahead_deg)}, {"ratio", tidy(at.ratio)}});
    json["joints"] = Json::array();
    for (std::size_t i = 0; i < line.joints.size(); ++i) {
        const JointReport& j = line.joints[i];
        json["joints"].push_back({{"name", j.name},
                                  {"kind", describe::inFile(j.kind)},
                                  {"at_mm", point(line.ride.joints_mm[i])},
                                  {"angle_deg", tidy(j.angle_deg)},
                                  {"side_deg", tidy(j.side_deg)},
                                  {"plan_deg", tidy(j.plan_deg)},
                                  {"travel_deg", tidy(j.travel_deg)},
                                  {"travel_at", stateJson(j.travel_at)},
                                  {"max_deg", tidy(j.max_deg)}});
    }
    json["slips"] = Json::array();
    for (const auto& slip : line.slips) json["slips"].push_back(slipJson(slip));
    json["critical"] = Json::array();
    for (const auto& c : line.critical)
        json["critical"].push_back(
            {{"shaft", c.shaft + 1},
             {"length_mm", tidy(c.length_mm)},
             {"critical_rpm", c.critical_rpm > 0 ? Json(tidy(c.critical_rpm)) : Json(nullptr)},
             {"suggested_outside_mm", c.suggested ? Json(c.suggested->outside_mm) : Json(nullptr)},
             {"suggested_wall_mm", c.suggested ? Json(c.suggested->wall_mm) : Json(nullptr)},
             {"two_piece", c.two_piece}});
    json["cures"] = Json::array();
    for (const auto& cure : line.cures)
        json["cures"].push_back({{"kind", cureWord(cure.kind)},
                                 {"shaft", cure.shaft + 1},
                                 {"amount_deg", tidy(cure.amount_deg)},
                                 {"mount_mm", tidy(cure.mount_mm)},
                                 {"residual_deg", tidy(cure.residual_deg)},
                                 {"least_joint_deg", tidy(cure.least_joint_deg)},
                                 {"worst_joint_deg", tidy(cure.worst_joint_deg)}});
    json["curve"] = Json::array();
    for (const auto& at : line.curve) {
        Json lengths = Json::array(), angles = Json::array();
        for (const double v : at.length_mm) lengths.push_back(tidy(v));
        for (const double v : at.angle_deg) angles.push_back(tidy(v));
        json["curve"].push_back({{"travel_mm", tidy(at.state.travel_mm)},
                                 {"to_mm", point(at.to_mm)},
                                 {"to_falls_deg", tidy(at.to_falls_deg)},
                                 {"length_mm", lengths},
                                 {"angle_deg", angles}});
    }
    return json;
}

/// What is missing is null: with readings too few nothing stands, at one turn of the shaft nothing turns.
Json fitJson(const HarmonicFit& fit) {
    const auto when = [](bool known, double value) { return known ? Json(tidy(value)) : Json(nullptr); };
    Json json{{"enough", fit.enough}, {"separated", fit.separated}, {"reason", fit.reason}};
    json["mean_mm"] = when(fit.enough, fit.mean_mm);
    json["standing_up_mm"] = when(fit.enough, fit.standing_mm[0]);
    json["standing_right_mm"] = when(fit.enough, fit.standing_mm[1]);
    json["turning_mm"] = when(fit.separated, fit.turning_mm.norm());
    json["scatter_mm"] = when(fit.enough, fit.sigma_mm);
    json["residual_mm"] = Json::array();
    for (const double r : fit.residual_mm) json["residual_mm"].push_back(when(fit.enough, r));
    json["outlier"] = Json::array();
    for (const bool o : fit.outlier) json["outlier"].push_back(o);
    const bool any = !fit.outlier.empty();
    json["next_clock_deg"] = when(any, fit.next_clock_deg);
    json["next_turn_deg"] = when(any, fit.next_turn_deg);
    return json;
}
Json moveJson(const std::optional<MountMove>& move) {
    if (!move) return nullptr;
    return {{"gearbox_up_mm", tidy(move->gearbox_up_mm)},
            {"gearbox_right_mm", tidy(move->gearbox_right_mm)},
            {"front_up_mm", tidy(move->front_up_mm)},
            {"front_right_mm", tidy(move->front_right_mm)}};
}

Json couplingJson(const CouplingReport& coupling) {
    const auto when = [](bool known, double value) { return known ? Json(tidy(value)) : Json(nullptr); };
    Json json{{"id", coupling.id},
              {"name", coupling.name},
              {"line", coupling.line},
              {"verdict", model::word(coupling.verdict)},
              {"reason", coupling.reason},
              {"to_gearbox_mount_mm", when(coupling.to_gearbox_mount_mm != 0, coupling.to_gearbox_mount_mm)},
              {"to_front_mounts_mm", when(coupling.to_front_mounts_mm != 0, coupling.to_front_mounts_mm)}};
    json["tries"] = Json::array();
    for (const auto& t : coupling.tries)
        json["tries"].push_back({{"id", t.id},
                                 {"name", t.name},
                                 {"tilt_deg", number(t.tilt_deg)},
                                 {"tilt_accuracy_deg", when(t.tilt_deg.has_value(), t.tilt_accuracy_deg)},
                                 {"open_clock_deg", when(t.tilt_deg.has_value(), t.open_clock_deg)},
                                 {"runout_mm", when(t.tilt_deg && t.face.separated, t.runout_mm)},
                                 {"offset_mm", number(t.offset_mm)},
                                 {"offset_clock_deg", when(t.offset_mm.has_value(), t.offset_clock_deg)},
                                 {"offset_accuracy_mm", when(t.offset_mm.has_value(), t.offset_accuracy_mm)},
                                 {"gearbox_alone", moveJson(t.gearbox_alone)},
                                 {"offset_left_mm", number(t.offset_left_mm)},
                                 {"both", moveJson(t.both)},
                                 {"face", fitJson(t.face)},
                                 {"rim", fitJson(t.rim)}});
    json["checks"] = checksJson(coupling.checks);
    return json;
}

} // namespace

void write(const discipline::Report& whole, const discipline::Telling&, Json& into) {
    if (!whole.parts.get<DrivelineReport>()) return;
    const DrivelineReport& d = *whole.parts.get<DrivelineReport>();
    Json json;
    json["verdict"] = model::word(d.verdict);
    json["lines"] = Json::array();
    for (const LineReport& line : d.lines) json["lines"].push_back(lineJson(line));
    json["couplings"] = Json::array();
    for (const auto& coupling : d.couplings) json["couplings"].push_back(couplingJson(coupling));
    json["interfaces"] = Json::array();
    for (const auto& i : d.interfaces)
        json["interfaces"].push_back({{"id", i.id},
                                      {"name", i.name},
                                      {"mating", word(i.mating)},
                                      {"verdict", model::word(i.verdict)},
                                      {"reasons", i.reasons}});
    json["bellhousing"] = checksJson(d.bell);
    json["missing"] = d.missing;
    json["angles"] = Json::array();
    for (const auto& a : d.angles)
        json["angles"].push_back({{"id", a.id},
                                  {"place", a.place},
                                  {"angle_deg", number(a.angle_deg)},
                                  {"planned_deg", number(a.planned_deg)},
                                  {"apart_deg", number(a.apart_deg)}});
    into = std::move(json);
}

std::string text(const discipline::Report& whole, const discipline::Telling& telling) {
    if (!whole.parts.get<DrivelineReport>()) return {};
    const Shown shown = telling.shown;
    const DrivelineReport& d = *whole.parts.get<DrivelineReport>();
    std::string out;
    const auto checks = [&](const std::vector<model::Check>& list) { return checksText(list, shown); };
    for (const LineReport& line : d.lines) {
        out += line.name + ": " + model::word(line.verdict);
        if (line.speed_rpm) out += ", at " + quantity::fixed(*line.speed_rpm, 0) + " rpm (" + line.speed_source + ")";
        out += "\n" + checks(line.checks);
        for (const model::ShaftLine& given : whole.project->sections.get<model::Driveline>()->lines)
            if (const std::string more = turnWords(given, line, shown); given.id == line.id && !more.empty())
                out += "  " + more + "\n";
        for (const Cure& cure : line.cures) out += "  " + cureWords(line, cure, shown) + ".\n";
        std::string before;
        for (const model::Check& check : line.checks) {
            if (check.verdict == model::Verdict::Go) continue;
            const std::string help = helpWords(line, check, shown);
            const bool slips =
                check.id.find("/shaft-") != std::string::npos && check.id.find("/pair") == std::string::npos;
            if (slips && !help.empty() && help != before) out += "  " + help + "\n";
            if (slips) before = help;
        }
        out += "\n";
    }
    for (const auto& coupling : d.couplings) {
        out += coupling.name + ": " + model::word(coupling.verdict) + "\n" + checks(coupling.checks);
        if (!coupling.reason.empty()) out += "  " + coupling.reason + "\n";
        if (!coupling.tries.empty()) {
            const auto& last = coupling.tries.back();
            if (last.tilt_deg)
                out += "  Widest open at " + clockWords(last.open_clock_deg) + "; the flange's own runout " +
                       quantity::lengthText(last.runout_mm, shown, 2) + ".\n";
        }
        out += "  " + couplingWords(*whole.project, coupling, shown) + "\n\n";
    }
    if (!d.interfaces.empty()) {
        Table table({"verdict", "interface", "mates", "why"}, {false, false, false, false});
        for (const auto& i : d.interfaces) {
            std::string why;
            for (const std::string& reason : i.reasons) why += (why.empty() ? "" : " ") + reason;
            table.row({model::word(i.verdict), i.name, word(i.mating), why});
        }
        out += table.text() + "\n";
    }
    if (!d.bell.empty()) out += "Bellhousing stack\n" + checks(d.bell) + "\n";
    for (const std::string& what : d.missing) out += what + "\n";
    if (!d.angles.empty()) {
        Table table({"angle of", "in the vehicle", "planned", "apart"}, {false, true, true, true});
        const auto angle = [](const std::optional<double>& deg) {
            return deg ? quantity::angleText(*deg, 2) : std::string("slope not given");
        };
        for (const auto& a : d.angles)
            table.row({a.place, angle(a.angle_deg), a.planned_deg ? quantity::angleText(*a.planned_deg, 2) : "–",
                       a.apart_deg ? quantity::angleText(*a.apart_deg, 2) : "–"});
        out += table.text() + "\n";
    }
    if (!d.lines.empty()) {
        out += "An estimate: balance, wear and what bends under load are left out. Before a hand goes near a shaft: "
               "engine off, wheels chocked.\n";
    }
    return out;
}

} // namespace gabarit::driveline
