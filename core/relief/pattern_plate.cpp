#include "relief/pattern_plate.h"

#include "driveline/section/driveline.h"
#include "mounts/section/mounts.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace gabarit::relief {
namespace {

using Eigen::Vector2d;
using quantity::deg_per_rad;

constexpr int circle_steps = 72;

/// Holes as they lie on a face, from its middle.
struct Pattern {
    std::vector<Vector2d> holes_mm;
    std::optional<double> thread_mm;
    std::optional<double> bore_mm; ///< in its middle
    std::string mark_words;
};
Pattern patternOf(const model::MountFace& face) {
    return {{face.holes_mm.begin(), face.holes_mm.end()}, face.thread_mm, std::nullopt, face.mark_words};
}
/// Of a flange: bolts evenly round their circle, the first at its mark; nothing when that is not known.
std::optional<Pattern> patternOf(const model::InterfaceSide& side) {
    if (!side.count || !side.diameter_mm || *side.count < 1) return std::nullopt;
    Pattern out;
    const int count = static_cast<int>(std::lround(*side.count));
    for (int i = 0; i < count; ++i) {
        const double turn = 2 * EIGEN_PI * i / count;
        out.holes_mm.emplace_back(*side.diameter_mm / 2 * std::cos(turn), *side.diameter_mm / 2 * std::sin(turn));
    }
    out.thread_mm = side.bolt_mm;
    out.bore_mm = side.pilot_mm;
    return out;
}

/// The pattern of "mount/pad", "mount/stand", "seat/id" (of what was removed), "interface/id/a" or "…/b".
std::optional<Pattern> patternOf(const model::Project& project, const std::string& text) {
    const auto slash = text.find('/');
    if (slash == std::string::npos) return std::nullopt;
    const std::string first = text.substr(0, slash), rest = text.substr(slash + 1);
    if (const auto* mounts = project.sections.get<model::Mounts>()) {
        for (const model::Mount& mount : mounts->mounts) {
            if (mount.id != first) continue;
            if (rest == "pad") return patternOf(mount.pad);
            if (rest == "stand" && mount.stand) return patternOf(*mount.stand);
        }
        if (first == "seat")
            for (const model::OldSeat& seat : mounts->seats)
                if (seat.id == rest) return patternOf(seat.face);
    }
    const auto* driveline = project.sections.get<model::Driveline>();
    if (first == "interface" && driveline)
        for (const model::Interface& interface : driveline->interfaces) {
            if (interface.kind != model::InterfaceKind::Flange) continue;
            if (rest == interface.id + "/a") return patternOf(interface.a);
            if (rest == interface.id + "/b") return patternOf(interface.b);
        }
    return std::nullopt;
}

/// The smallest convex outline round discs.
std::vector<Vector2d> hullRound(const std::vector<std::pair<Vector2d, double>>& discs) {
    std::vector<Vector2d> points;
    for (const auto& [middle, radius] : discs)
        for (int i = 0; i < circle_steps; ++i) {
            const double turn = 2 * EIGEN_PI * i / circle_steps;
            // Corners a little outside, so that the outline's sides touch the disc.
            points.push_back(middle +
                             Vector2d(std::cos(turn), std::sin(turn)) * radius / std::cos(EIGEN_PI / circle_steps));
        }
    std::sort(points.begin(), points.end(),
              [](const Vector2d& a, const Vector2d& b) { return a.x() != b.x() ? a.x() < b.x() : a.y() < b.y(); });
    std::vector<Vector2d> hull;
    for (int pass = 0; pass < 2; ++pass) {
        const std::size_t base = hull.size();
        for (const Vector2d& p : points) {
            while (hull.size() >= base + 2) {
                const Vector2d a = hull.back() - hull[hull.size() - 2], b = p - hull[hull.size() - 2];
                if (a.x() * b.y() - a.y() * b.x() > 0) break;
                hull.pop_back();
            }
            hull.push_back(p);
        }
        hull.pop_back();
        std::reverse(points.begin(), points.end());
    }
    return hull;
}

} // namespace

Result<PlateMade> makePlate(const model::Project& project, const model::RuleBook& book,
                            const model::PatternPlate& plate) {
    const std::string where = "plate \"" + plate.name + "\"";
    const model::SheetStock* sheet = sheetOf(book, plate.material);
    if (!sheet)
        return Error{"the book has no sheet \"" + plate.material + "\"", where + ", material",
                     "choose one of the book's"};
    PlateMade out;
    FlatPattern& pattern = out.pattern;
    bool bored = std::any_of(plate.holes.begin(), plate.holes.end(),
                             [](const model::PlateHole& hole) { return hole.name == "bore"; });
    const auto take = [&](const std::string& from, const char* member, const Eigen::Rotation2Dd& turn,
                          const Vector2d& to, bool tapped) -> Result<void> {
        if (from.empty()) return {};
        const std::optional<Pattern> face = patternOf(project, from);
        if (!face)
            return Error{"there is no pattern \"" + from + "\"", where + ", " + member,
                         "name a face: mount-id/pad, mount-id/stand, seat/seat-id, or a flange with its bolts: "
                         "interface/id/a"};
        if (!face->thread_mm)
            return Error{"the bolts of \"" + from + "\" have no diameter", where + ", " + member,
                         "give the face's thread, or the flange's bolts"};
        for (const Vector2d& hole : face->holes_mm)
            pattern.holes.push_back({tapped ? "tapped" : "bolt", turn * hole + to,
                                     tapped ? *face->thread_mm : *face->thread_mm + book.figure("bolt_hole_over_mm"),
                                     tapped});
        if (face->bore_mm && !bored) {
            pattern.holes.push_back({"bore", to, *face->bore_mm, false});
            bored = true; // of two flanges the first one's: its spigot goes through
        }
        if (!face->mark_words.empty() && member == std::string("from")) pattern.up = face->mark_words;
        return {};
    };
    const bool adapter = plate.use == model::PlateUse::Adapter;
    if (auto done = take(plate.from, "from", Eigen::Rotation2Dd(0), Vector2d::Zero(), false); !done)
        return done.error();
    if (auto done = take(plate.to, "to", Eigen::Rotation2Dd(plate.turn_deg / deg_per_rad), plate.to_mm, adapter); !done)
        return done.error();
    for (const model::PlateHole& hole : plate.holes)
        pattern.holes.push_back({hole.name, hole.at_mm, hole.diameter_mm, hole.tapped});
    if (pattern.holes.empty())
        return Error{"it has no hole", where, "name the face whose pattern it takes, or give holes of its own"};
    // Round a bore no more metal than round its bolts.
    const double share = book.figure("plate_edge_diameters");
    double bolt_mm = 0;
    for (const FlatHole& hole : pattern.holes)
        if (hole.name != "bore") bolt_mm = std::max(bolt_mm, hole.diameter_mm);
    std::vector<std::pair<Vector2d, double>> discs;
    for (std::size_t i = 0; i < pattern.holes.size(); ++i) {
        const FlatHole& a = pattern.holes[i];
        for (std::size_t k = 0; k < i; ++k) {
            const FlatHole& b = pattern.holes[k];
            if ((a.at_mm - b.at_mm).norm() < (a.diameter_mm + b.diameter_mm) / 2)
                return Error{"the holes \"" + b.name + "\" and \"" + a.name + "\" cut into one another", where,
                             "move or turn one pattern against the other"};
        }
        const double metal_mm =
            plate.edge_mm.value_or((share - 0.5) * (a.name == "bore" && bolt_mm > 0 ? bolt_mm : a.diameter_mm));
        const double edge = a.diameter_mm / 2 + metal_mm;
        discs.emplace_back(a.at_mm, edge);
    }
    pattern.name = plate.name;
    pattern.material = sheet->name;
    pattern.thickness_mm = plate.thickness_mm.value_or(book.figure("blanking_plate_mm"));
    pattern.count = static_cast<int>(plate.count.value_or(1));
    pattern.cut_mm = hullRound(discs);
    pattern.up =
        pattern.up.empty() ? "as seen on the part it is bolted to" : "as seen on the part; mark: " + pattern.up;
    const Eigen::AlignedBox2d box = pattern.bounds();
    pattern.marks.push_back({{0, 0}, {box.max().x(), 0}, "mark"}); // the face's own first axis
    if (plate.seal_mm) pattern.notes.push_back("with a gasket of " + quantity::fixed(*plate.seal_mm, 1) + " mm");
    if (plate.bolt_mm) {
        // What lies under the heads changes by as much as the plate differs from the flange that was there.
        const double length =
            *plate.bolt_mm + pattern.thickness_mm + plate.seal_mm.value_or(0) - plate.replaces_mm.value_or(0);
        if (length <= 0)
            return Error{"its bolts would have no length", where + ", bolt_mm", "check replaces_mm and thickness_mm"};
        out.bolt_mm = length;
        pattern.notes.push_back("bolts " + quantity::fixed(length, 1) + " mm under the head, were " +
                                quantity::fixed(*plate.bolt_mm, 1) + " mm");
    }
    if (plate.use == model::PlateUse::Blanking)
        pattern.notes.push_back("test for tightness before it is run: coolant and oil under pressure");
    double holes_mm2 = 0;
    for (const FlatHole& hole : pattern.holes) holes_mm2 += EIGEN_PI / 4 * hole.diameter_mm * hole.diameter_mm;
    out.mass_kg = (pattern.area_mm2() - holes_mm2) * pattern.thickness_mm / quantity::mm3_per_m3 * sheet->density_kg_m3;
    return out;
}

} // namespace gabarit::relief
