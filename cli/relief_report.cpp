// The relief, as JSON and as tables.
#include "json_parts.h"
#include "report_text.h"

#include "discipline/check_words.h"
#include "make/cut_list.h"
#include "model/describe.h"
#include "model/holds.h"
#include "relief/relief.h"
#include "store/rule_book.h"

namespace gabarit::cli {
namespace {

using quantity::Shown;
using relief::FlatPattern;
using relief::PocketReport;
using relief::Section;

Json flatPoint(const Eigen::Vector2d& p) { return Json::array({tidy(p.x()), tidy(p.y())}); }

Json sectionJson(const Section& s) {
    return {{"area_mm2", tidy(s.area_mm2)},       {"centre_mm", flatPoint(s.centre_mm)},
            {"upright_mm4", tidy(s.upright_mm4)}, {"sideways_mm4", tidy(s.sideways_mm4)},
            {"product_mm4", tidy(s.product_mm4)}, {"top_mm3", tidy(s.top_mm3)},
            {"bottom_mm3", tidy(s.bottom_mm3)},   {"left_mm3", tidy(s.left_mm3)},
            {"right_mm3", tidy(s.right_mm3)},     {"closed", s.closed},
            {"torsion_mm4", tidy(s.torsion_mm4)}, {"pieces", s.pieces}};
}

/// Of a pocket that could not be made nothing is known.
Json weakestJson(const relief::Weakest& w, bool known) {
    if (!known) return {{"share", nullptr}, {"along_mm", nullptr}, {"what", ""}};
    return {{"share", tidy(w.share)}, {"along_mm", tidy(w.along_mm)}, {"what", w.what}};
}

Json patternJson(const FlatPattern& p) {
    Json out;
    out["name"] = p.name;
    out["material"] = p.material;
    out["thickness_mm"] = tidy(p.thickness_mm);
    out["count"] = p.count;
    out["up"] = p.up;
    out["area_mm2"] = tidy(p.area_mm2());
    Json cut = Json::array(), holes = Json::array(), bends = Json::array(), marks = Json::array();
    for (const auto& q : p.cut_mm) cut.push_back(flatPoint(q));
    for (const auto& h : p.holes)
        holes.push_back({{"name", h.name},
                         {"at_mm", flatPoint(h.at_mm)},
                         {"diameter_mm", tidy(h.diameter_mm)},
                         {"tapped", h.tapped}});
    for (const auto& b : p.bends)
        bends.push_back({{"from_mm", flatPoint(b.from_mm)},
                         {"to_mm", flatPoint(b.to_mm)},
                         {"allowance_mm", tidy(b.width_mm)},
                         {"angle_deg", tidy(b.angle_deg)},
                         {"inside_mm", tidy(b.inside_mm)}});
    for (const auto& m : p.marks)
        marks.push_back({{"from_mm", flatPoint(m.from_mm)}, {"to_mm", flatPoint(m.to_mm)}, {"words", m.words}});
    out["cut_mm"] = std::move(cut);
    out["holes"] = std::move(holes);
    out["bends"] = std::move(bends);
    out["marks"] = std::move(marks);
    out["notes"] = p.notes;
    return out;
}

Json pocketJson(const PocketReport& r) {
    Json out;
    out["id"] = r.id;
    out["name"] = r.name;
    out["body"] = r.body;
    out["reason"] = r.reason;
    const bool known = r.reason.empty();
    const auto figure = [known](double value) { return known ? Json(tidy(value)) : Json(nullptr); };
    const auto flag = [known](bool value) { return known ? Json(value) : Json(nullptr); };
    out["cut_kg"] = figure(r.cut_kg);
    out["plates_kg"] = figure(r.plates_kg);
    out["shrink_mm"] = figure(r.shrink_mm);
    out["depth_share"] = figure(r.depth_share);
    out["strength"] = weakestJson(r.strength, known);
    out["strength_cut"] = weakestJson(r.cut_strength, known);
    out["stiffness"] = weakestJson(r.stiffness, known);
    out["torsion"] = weakestJson(r.torsion, known);
    out["closed_before"] = flag(r.cell_before);
    out["closed_cut"] = flag(r.cell_cut);
    out["closed_after"] = flag(r.cell_closed);
    out["axis_shift_mm"] = figure(r.axis_shift_mm);
    out["restoring_plate_mm"] = r.restoring ? Json(tidy(r.restoring->plate_mm)) : Json(nullptr);
    out["restoring_strap_mm"] = r.restoring ? Json(tidy(r.restoring->strap_mm)) : Json(nullptr);
    Json distances = Json::array(), stations = Json::array(), patterns = Json::array();
    for (const auto& d : r.distances)
        distances.push_back({{"name", d.name}, {"kind", d.kind}, {"distance_mm", number(d.mm)}});
    for (const auto& s : r.stations)
        stations.push_back({{"along_mm", tidy(s.along_mm)},
                            {"before", sectionJson(s.before)},
                            {"cut", sectionJson(s.cut)},
                            {"after", sectionJson(s.closed)}});
    for (const auto& p : r.patterns) patterns.push_back(patternJson(p));
    Json holds = Json::array();
    for (const model::HoldState& h : r.holds)
        holds.push_back({{"hold", describe::said(h.hold)},
                         {"signed", h.signed_off},
                         {"holds", h.holds},
                         {"date", h.date},
                         {"who", h.who},
                         {"changed", h.changed}});
    out["weld_pull_mm"] = tidy(r.weld_pull_mm);
    out["holds"] = std::move(holds);
    out["distances"] = std::move(distances);
    out["stations"] = std::move(stations);
    out["patterns"] = std::move(patterns);
    return out;
}

std::string share(double value) { return quantity::fixed(value * 100, 0) + " %"; }

} // namespace

Json reliefPart(const study::Reports& reports) {
    const relief::ReliefReport& r = *reports.of<relief::ReliefReport>();
    Json out;
    out["verdict"] = model::word(r.verdict);
    Json pockets = Json::array(), tubes = Json::array(), plates = Json::array(), bars = Json::array();
    for (const PocketReport& pocket : r.pockets) pockets.push_back(pocketJson(pocket));
    for (const relief::TubeReport& tube : r.tubes) {
        Json one = {{"id", tube.id}, {"name", tube.name}, {"reason", tube.reason}};
        if (tube.made) {
            one["long_points_mm"] = tidy(tube.made->long_points_mm);
            one["short_points_mm"] = tidy(tube.made->short_points_mm);
            one["turn_deg"] = tidy(tube.made->turn_deg);
            one["mass_kg"] = tidy(tube.made->mass_kg);
            one["first_wrap"] = patternJson(tube.made->first_wrap);
            one["second_wrap"] = patternJson(tube.made->second_wrap);
            one["first"] = tube.made->first.reach_mm;
            one["second"] = tube.made->second.reach_mm;
        }
        tubes.push_back(std::move(one));
    }
    for (const relief::PlateReport& plate : r.plates) {
        Json one = {{"id", plate.id}, {"name", plate.name}, {"reason", plate.reason}};
        if (plate.made) {
            one["bolt_mm"] = number(plate.made->bolt_mm);
            one["mass_kg"] = tidy(plate.made->mass_kg);
            one["pattern"] = patternJson(plate.made->pattern);
        }
        plates.push_back(std::move(one));
    }
    const model::RuleBook book = model::applied(store::defaultRuleBook(), reports.project->rules);
    for (const relief::Bar& bar : make::cutList(reports, book).bars) {
        Json pieces = Json::array();
        for (const auto& [name, length] : bar.pieces) pieces.push_back({{"name", name}, {"length_mm", tidy(length)}});
        bars.push_back({{"diameter_mm", tidy(bar.diameter_mm)},
                        {"height_mm", tidy(bar.height_mm)},
                        {"wall_mm", tidy(bar.wall_mm)},
                        {"pieces", std::move(pieces)},
                        {"left_mm", tidy(bar.left_mm)}});
    }
    out["pockets"] = std::move(pockets);
    out["tubes"] = std::move(tubes);
    out["plates"] = std::move(plates);
    out["bars"] = std::move(bars);
    out["checks"] = checksJson(r.checks);
    return out;
}

std::string reliefText(const study::Reports& reports, Shown shown) {
    if (!reports.of<relief::ReliefReport>()) return not_asked;
    const relief::ReliefReport& r = *reports.of<relief::ReliefReport>();
    const auto length = [&shown](double mm) { return quantity::lengthText(mm, shown); };
    std::string out;
    for (const PocketReport& pocket : r.pockets) {
        out += pocket.name + (pocket.body.empty() ? "" : ", in " + pocket.body) + "\n";
        if (!pocket.reason.empty()) {
            out += "  cannot be made: " + pocket.reason + "\n\n";
            continue;
        }
        Table table({"", "cut", "after", "at"}, {false, true, true, true});
        table.row({"least modulus, of before", share(pocket.cut_strength.share), share(pocket.strength.share),
                   length(pocket.strength.along_mm)});
        table.row(
            {"least second moment, of before", "", share(pocket.stiffness.share), length(pocket.stiffness.along_mm)});
        table.row({"twisting, of before", "", share(pocket.torsion.share), length(pocket.torsion.along_mm)});
        out += table.text();
        out += std::string("  section ") + (pocket.cell_before ? "closed" : "open") + " before, " +
               (pocket.cell_cut ? "closed" : "open") + " while cut, " + (pocket.cell_closed ? "closed" : "open") +
               " after\n";
        out +=
            "  " + quantity::fixed(pocket.cut_kg, 2) + " kg out, " + quantity::fixed(pocket.plates_kg, 2) + " kg in\n";
        for (const FlatPattern& p : pocket.patterns) {
            if (p.member) continue; // nothing that is made
            const Eigen::AlignedBox2d box = p.bounds();
            out += "  " + p.name + ": " + length(box.max().x() - box.min().x()) + " × " +
                   length(box.max().y() - box.min().y()) + ", " + length(p.thickness_mm) + "\n";
        }
        out += "\n";
    }
    if (!r.tubes.empty()) {
        Table table({"tube", "long points", "short points", "turned", "mass kg"}, {false, true, true, true, true});
        for (const relief::TubeReport& tube : r.tubes)
            if (tube.made)
                table.row({tube.name, length(tube.made->long_points_mm), length(tube.made->short_points_mm),
                           quantity::fixed(tube.made->turn_deg, 1) + "°", quantity::fixed(tube.made->mass_kg, 2)});
            else
                table.row({tube.name, "cannot be made: " + tube.reason, "", "", ""});
        out += table.text() + "\n";
    }
    const model::RuleBook book = model::applied(store::defaultRuleBook(), reports.project->rules);
    const make::CutList list = make::cutList(reports, book);
    for (const relief::Bar& bar : list.bars) {
        out += "bar " + length(bar.diameter_mm) + (bar.height_mm > 0 ? " × " + length(bar.height_mm) : "") + " × " +
               length(bar.wall_mm) + ":";
        for (const auto& [name, mm] : bar.pieces) out += " " + name + ": " + length(mm) + ",";
        out += " left " + length(bar.left_mm) + "\n";
    }
    for (const std::string& piece : list.longer_than) out += piece + ": longer than a bar\n";
    if (!list.bars.empty() || !list.longer_than.empty()) out += "\n";
    for (const relief::PlateReport& plate : r.plates)
        out += plate.name + ": " +
               (plate.made ? quantity::fixed(plate.made->mass_kg, 2) + " kg" +
                                 (plate.made->bolt_mm ? ", bolts " + length(*plate.made->bolt_mm) : "")
                           : "cannot be made: " + plate.reason) +
               "\n";
    out += checksText(r.checks, shown);
    if (!r.pockets.empty())
        for (const char* about : {"relief/cut", "relief/work"}) out += model::cautionAbout(book, about) + "\n";
    return out;
}

} // namespace gabarit::cli
