#include "make/fit_map_search.h"

#include "discipline/wording.h"
#include "discipline/written.h"
#include "fit/fit_report.h"
#include "make/besides.h"
#include "make/free_words.h"
#include "quantity/number.h"

#include <cmath>

namespace gabarit::make {
namespace {

using discipline::Json;
using fit::Freedom;

/// One letter for each pair that binds, and a sign where it fits.
std::string drawn(const fit::FitMap& map, const quantity::Shown& shown) {
    const auto letterOf = [&map](const fit::MapPoint& point) {
        if (!point.told) return ' ';
        if (point.short_mm <= 0) return point.besides && !*point.besides ? 'o' : '.';
        constexpr int letters = 26;
        return point.binding >= 0 && point.binding < letters ? static_cast<char>('A' + point.binding) : '#';
    };
    const auto figure = [&](const fit::MapAxis& axis, double value) {
        return fit::isTurn(static_cast<std::size_t>(axis.of)) ? quantity::angleText(value, 1)
                                                              : quantity::lengthText(value, shown, 0);
    };
    std::string out = std::string(freedomName(map.up.of)) + " upwards, " + figure(map.up, map.up.low) + " to " +
                      figure(map.up, map.up.high) + "; " + freedomName(map.across.of) + " to the right, " +
                      figure(map.across, map.across.low) + " to " + figure(map.across, map.across.high) +
                      (map.freed ? "; the others freed\n" : "; the others held\n");
    const auto [here_column, here_row] = map.nearest(0, 0);
    for (int row = map.rows - 1; row >= 0; --row) {
        for (int column = 0; column < map.columns; ++column) {
            const bool here = column == here_column && row == here_row;
            out += here ? '*' : letterOf(map.at(column, row));
            out += column + 1 < map.columns ? " " : "\n";
        }
    }
    out += "*  where it hangs\n.  every gap is good\no  and what else is held against the place is not all go\n";
    for (std::size_t i = 0; i < map.pairs.size(); ++i)
        out += std::string(1, i < 26 ? static_cast<char>('A' + i) : '#') + "  " + map.pairs[i].name_a + " to " +
               map.pairs[i].name_b + "\n";
    return out;
}

Json jsonOf(const fit::FitMap& map) {
    const auto axis = [](const fit::MapAxis& its) {
        return Json{{"freedom", fit::word(its.of)},
                    {"unit", fit::isTurn(static_cast<std::size_t>(its.of)) ? "deg" : "mm"},
                    {"low", its.low},
                    {"high", its.high}};
    };
    Json out;
    out["complete"] = map.complete;
    out["x"] = axis(map.across);
    out["z"] = axis(map.up);
    out["columns"] = map.columns;
    out["rows"] = map.rows;
    out["others"] = map.freed ? "freed" : "held";
    out["pairs"] = Json::array();
    for (const fit::Binding& its : map.pairs) out["pairs"].push_back({{"a", its.a.text()}, {"b", its.b.text()}});
    out["points"] = Json::array();
    for (const fit::MapPoint& its : map.points) {
        Json point{{"short_mm", its.told ? Json(its.short_mm) : Json()},
                   {"binds", its.binding < 0 ? Json() : Json(its.binding)},
                   {"besides_go", its.besides ? Json(*its.besides) : Json()}};
        if (map.freed)
            for (std::size_t k = 0; k < fit::freedoms; ++k)
                point["by"][std::string(fit::word(static_cast<Freedom>(k))) + (fit::isTurn(k) ? "_deg" : "_mm")] =
                    its.by[k];
        out["points"].push_back(std::move(point));
    }
    return out;
}

} // namespace

Result<fit::FitMap> mapped(const Searching& with, const model::RuleBook& book, const MapAsked& asked,
                           const StopToken& stop, const std::function<void(const fit::FitMap&)>& show) {
    const fit::FitReport& fitted = with.reports.with<fit::FitReport>();
    if (!fitted.clearance || !with.reports.scene || !with.reports.moving)
        return Error{"nothing hangs in the bay", "placements", "add a placement for a donor"};
    fit::MapOptions options;
    options.limits = freeLimits(book, {}).value();
    const auto axis = [&options](Freedom of) {
        const auto k = static_cast<std::size_t>(of);
        return fit::MapAxis{of, options.limits.low[k], options.limits.high[k]};
    };
    options.across = axis(asked.across);
    options.up = axis(asked.up);
    options.freed = asked.freed;
    options.columns = options.rows = asked.size;
    options.besides = besidesOf(with.study, *with.reports.project);
    options.stop = stop;
    options.show = show;
    fit::FitMap map = fit::fitMap(*with.reports.moving, *with.reports.scene, *fitted.clearance,
                                  study::bookOf(with.reports, book), options);
    if (!map.reason.empty()) return Error{map.reason, "map", "name two of along, across, up, swing, tail, lean"};
    return map;
}

std::string pointWords(const fit::FitMap& map, const fit::MapPoint& point, const quantity::Shown& shown) {
    if (!point.told) return "not looked at yet";
    std::string out = point.short_mm > 0 ? quantity::lengthTextUp(point.short_mm, shown, 1) + " short"
                                         : quantity::lengthTextDown(-point.short_mm, shown, 1) + " to spare";
    if (point.binding >= 0) {
        const fit::Binding& its = map.pairs[static_cast<std::size_t>(point.binding)];
        out += ", " + discipline::inSentence(its.name_a) + " to " + discipline::inSentence(its.name_b);
    }
    if (point.besides && !*point.besides) out += "; shafts, mounts or loads are not all go there";
    return out;
}

Result<discipline::Found> fitMapped(const Searching& with, const discipline::SearchGiven& given) {
    MapAsked asked;
    const auto across = freedomOf(given.about[0].empty() ? "along" : given.about[0]);
    const auto up = freedomOf(given.about[1].empty() ? "up" : given.about[1]);
    if (!across) return across.error();
    if (!up) return up.error();
    if (!given.about[2].empty() && given.about[2] != "held" && given.about[2] != "freed")
        return Error{"\"" + given.about[2] + "\" is no way to take the other freedoms", "others", "say held or freed"};
    asked.across = across.value();
    asked.up = up.value();
    asked.freed = given.about[2] == "freed";
    asked.size = 21;
    if (!given.about[3].empty()) {
        const auto size = quantity::numberFrom(given.about[3]);
        constexpr int least = 2, most = 80;
        if (!size || *size != std::floor(*size) || *size < least || *size > most)
            return Error{"\"" + given.about[3] + "\" is no number of points", "size", "give a whole number, 2 to 80"};
        asked.size = static_cast<int>(*size);
    }
    const auto show = [&](const fit::FitMap& so_far) {
        int told = 0;
        for (const fit::MapPoint& point : so_far.points) told += point.told;
        if (given.progress) given.progress(told, asked.size * asked.size);
    };
    const auto map = mapped(with, given.book, asked, given.stop, show);
    if (!map) return map.error();
    discipline::Found out;
    out.text = drawn(map.value(), given.shown) +
               "As the search sees it: what is good here is measured before it is believed (free-all, or a click in "
               "the window).\n" +
               (map.value().open ? "A body is not closed: what lies wholly inside of it is not seen.\n" : "");
    out.json = std::make_shared<const Json>(jsonOf(map.value()));
    return out;
}

} // namespace gabarit::make
