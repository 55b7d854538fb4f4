#include "relief/cope.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace gabarit::relief {
namespace {

using Eigen::Vector2d;
using quantity::deg_per_rad;

constexpr double finest_mm = 1e-9;
constexpr double foot_mm = 20; // of a template below its cut, to tape it by
constexpr double mm2_per_m2 = 1e6;
constexpr double mm_per_m = 1e3;

/// Where a line of the wall, at x and y from the axis, meets what it is cut to.
double meets(const model::TubeEnd& end, double x, double y) {
    if (end.onto == model::EndOnto::Square) return 0;
    const double lean = end.angle_deg / deg_per_rad, s = std::sin(lean), c = std::cos(lean);
    if (end.onto == model::EndOnto::Plate) return x * c / s;
    const double radius = end.diameter_mm / 2, beside = y - end.offset_mm;
    return (x * c - std::sqrt(std::max(0.0, radius * radius - beside * beside))) / s;
}

/// The least of it through the wall: convex along the radius.
double reachAt(const model::TubeEnd& end, double inner, double outer, double turn) {
    const double x = std::cos(turn), y = std::sin(turn);
    double low = inner, high = outer;
    while (high - low > finest_mm * outer) {
        const double a = low + (high - low) / 3, b = high - (high - low) / 3;
        if (a == low || b == high) break; // as near as numbers lie
        if (meets(end, a * x, a * y) < meets(end, b * x, b * y))
            high = b;
        else
            low = a;
    }
    return meets(end, (low + high) / 2 * x, (low + high) / 2 * y);
}

/// The template of an end: turn to the right, reach upwards, from the seam at the mark on top.
FlatPattern wrap(const model::CutTube& tube, const EndCut& cut, const std::string& which, double paper_mm) {
    FlatPattern out;
    out.name = tube.name + ": " + which + " end";
    out.material = tube.material;
    out.thickness_mm = tube.wall_mm;
    out.count = static_cast<int>(tube.count.value_or(1));
    out.up = "outside of the tube";
    const double round = EIGEN_PI * (tube.diameter_mm + paper_mm);
    const double foot = cut.shortest_mm - foot_mm;
    const std::size_t n = cut.reach_mm.size();
    out.cut_mm = {{0, foot}, {round, foot}};
    for (std::size_t i = n + 1; i-- > 0;)
        out.cut_mm.emplace_back(round * static_cast<double>(i) / static_cast<double>(n), cut.reach_mm[i % n]);
    const char* const names[] = {"start: mark on top", "quarter", "half: underneath", "three quarters"};
    for (int i = 0; i < 4; ++i) {
        const double x = round * i / 4;
        out.marks.push_back({{x, foot}, {x, cut.reach_mm[n * static_cast<std::size_t>(i) / 4]}, names[i]});
    }
    out.notes.push_back("wrap round the tube, start line on its mark on top, straight edge square to the tube");
    return out;
}

} // namespace

Result<EndCut> endCut(double diameter_mm, double wall_mm, const model::TubeEnd& end, int steps) {
    const double outer = diameter_mm / 2, inner = outer - wall_mm;
    if (end.onto == model::EndOnto::Tube && end.diameter_mm <= 0)
        return Error{"the other tube's diameter is not given", "diameter_mm", "give its outside diameter"};
    if (end.onto == model::EndOnto::Tube && std::abs(end.offset_mm) + outer > end.diameter_mm / 2 + finest_mm)
        return Error{"part of its wall passes beside the other tube", "offset_mm",
                     "offset and half its diameter together stay within half the other's diameter (" +
                         quantity::fixed(end.diameter_mm / 2, 1) + " mm)"};
    EndCut out;
    for (int i = 0; i < steps; ++i) out.reach_mm.push_back(reachAt(end, inner, outer, 2 * EIGEN_PI * i / steps));
    const auto [least, most] = std::minmax_element(out.reach_mm.begin(), out.reach_mm.end());
    out.shortest_mm = *least;
    out.longest_mm = *most;
    return out;
}

Result<TubeMade> makeTube(const model::CutTube& tube, const model::RuleBook& book) {
    const model::SheetStock* metal = sheetOf(book, tube.material);
    if (!metal)
        return Error{"the book has no material \"" + tube.material + "\"", "tube \"" + tube.name + "\", material",
                     "choose one of the book's"};
    TubeMade out;
    // Both ends by the same turn, seen from the first: the first one's own frame looks the other way.
    const auto cut = [&](const model::TubeEnd& end, bool first, const char* which) -> Result<EndCut> {
        auto made = endCut(tube.diameter_mm, tube.wall_mm, end);
        if (!made) {
            Error error = made.error();
            error.where = "tube \"" + tube.name + "\", " + which + ", " + error.where;
            return error;
        }
        EndCut seen = made.value();
        const double n = static_cast<double>(seen.reach_mm.size());
        const auto at = [&](double turn) { // between two steps in proportion
            const double place = turn / 360 * n, floor = std::floor(place), share = place - floor;
            const auto index = [&](double i) { return static_cast<std::size_t>(std::fmod(std::fmod(i, n) + n, n)); };
            return made.value().reach_mm[index(floor)] * (1 - share) + made.value().reach_mm[index(floor + 1)] * share;
        };
        for (std::size_t i = 0; i < seen.reach_mm.size(); ++i) {
            const double turn = 360.0 * static_cast<double>(i) / n - end.turn_deg;
            seen.reach_mm[i] = at(first ? -turn : turn);
        }
        return seen;
    };
    auto first = cut(tube.first, true, "first");
    if (!first) return first.error();
    auto second = cut(tube.second, false, "second");
    if (!second) return second.error();
    out.first = first.value();
    out.second = second.value();
    out.long_points_mm = tube.length_mm + out.first.longest_mm + out.second.longest_mm;
    out.short_points_mm = tube.length_mm + out.first.shortest_mm + out.second.shortest_mm;
    if (out.short_points_mm <= 0)
        return Error{"its two ends cut into one another", "tube \"" + tube.name + "\", length_mm",
                     "make it longer, or its ends squarer"};
    out.turn_deg = std::fmod(tube.second.turn_deg - tube.first.turn_deg + 720, 360);
    const double paper = book.figure("template_paper_mm");
    out.first_wrap = wrap(tube, out.first, "first", paper);
    out.second_wrap = wrap(tube, out.second, "second", paper);
    const double inside = tube.diameter_mm - 2 * tube.wall_mm;
    const double area_m2 = EIGEN_PI / 4 * (tube.diameter_mm * tube.diameter_mm - inside * inside) / mm2_per_m2;
    double mean = tube.length_mm;
    for (const EndCut* end : {&out.first, &out.second}) {
        double sum = 0;
        for (const double reach : end->reach_mm) sum += reach;
        mean += sum / static_cast<double>(end->reach_mm.size());
    }
    out.mass_kg = area_m2 * mean / mm_per_m * metal->density_kg_m3;
    return out;
}

Result<std::vector<Bar>> nested(std::vector<std::pair<std::string, double>> pieces, double bar_mm, double kerf_mm) {
    std::stable_sort(pieces.begin(), pieces.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
    std::vector<Bar> bars;
    for (const auto& [name, length] : pieces) {
        if (length > bar_mm)
            return Error{"it is longer than a bar (" + quantity::fixed(bar_mm, 0) + " mm)", name,
                         "make it of two, or give the length of the bars you buy"};
        Bar* into = nullptr;
        for (Bar& bar : bars) {
            if (bar.left_mm + finest_mm < length) continue;
            into = &bar;
            break;
        }
        if (!into) {
            bars.push_back({{}, bar_mm, 0, 0, 0});
            into = &bars.back();
        }
        into->pieces.emplace_back(name, length);
        into->left_mm = std::max(0.0, into->left_mm - length - kerf_mm);
    }
    return bars;
}

} // namespace gabarit::relief
