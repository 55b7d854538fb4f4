#include "make/free_words.h"

#include "discipline/wording.h"

#include <algorithm>
#include <cmath>

namespace gabarit::make {

using discipline::Json;
using fit::Freedom;

namespace {
constexpr std::size_t at(Freedom freedom) { return static_cast<std::size_t>(freedom); }
} // namespace

Result<Freedom> freedomOf(const std::string& word) {
    for (std::size_t k = 0; k < fit::freedoms; ++k)
        if (word == fit::word(static_cast<Freedom>(k))) return static_cast<Freedom>(k);
    return Error{"\"" + word + "\" is no freedom of the unit", "map",
                 "name two of along, across, up, swing, tail, lean"};
}

const char* freedomName(Freedom freedom) {
    constexpr const char* names[] = {"fore and aft", "to the sides", "height", "swing", "tail", "lean"};
    return names[at(freedom)];
}

Result<fit::FreeLimits> freeLimits(const model::RuleBook& book, const std::string& held) {
    fit::FreeLimits out;
    const char* const figures[] = {"free_along_mm",  "free_across_mm", "free_up_mm",
                                   "free_swing_deg", "free_tail_deg",  "free_lean_deg"};
    for (std::size_t k = 0; k < fit::freedoms; ++k) {
        out.high[k] = book.figure(figures[k]);
        out.low[k] = -out.high[k];
    }
    for (std::size_t from = 0; from < held.size();) {
        const std::size_t comma = std::min(held.find(',', from), held.size());
        const std::string name = held.substr(from, comma - from);
        from = comma + 1;
        const auto freedom = freedomOf(name);
        if (!freedom)
            return Error{"\"" + name + "\" is nothing that can stay as it is", "hold",
                         "name any of along, across, up, swing, tail, lean, with commas between"};
        out.low[at(freedom.value())] = out.high[at(freedom.value())] = 0;
    }
    return out;
}

std::string bindingWords(const fit::FreePlace& place, const quantity::Shown& shown) {
    std::string out;
    constexpr std::size_t most = 3;
    for (std::size_t i = 0; i < place.binds.size() && i < most; ++i) {
        const fit::Binding& its = place.binds[i];
        out += (i ? "; " : "") + its.name_a + " to " + discipline::inSentence(its.name_b);
        if (its.short_mm > 0) out += ", " + quantity::lengthTextUp(its.short_mm, shown, 1) + " short";
    }
    for (const fit::Beside& its : place.lacks)
        if (its.must) out += (out.empty() ? "" : "; ") + its.words + " is not go";
    return out;
}

Json jsonOf(const fit::FreePlace& place) {
    Json out;
    for (std::size_t k = 0; k < fit::freedoms; ++k)
        out["by"][std::string(fit::word(static_cast<Freedom>(k))) + (fit::isTurn(k) ? "_deg" : "_mm")] = place.by[k];
    out["position_mm"] = {place.placement.position_mm.x(), place.placement.position_mm.y(),
                          place.placement.position_mm.z()};
    out["angles"] = {{"yaw_deg", place.placement.angles.yaw_deg},
                     {"pitch_deg", place.placement.angles.pitch_deg},
                     {"roll_deg", place.placement.angles.roll_deg}};
    out["farthest_mm"] = place.farthest_mm;
    out["short_mm"] = place.short_mm;
    out["no_go"] = place.no_go;
    out["close"] = place.close;
    out["unknown"] = place.unknown;
    out["lacks"] = Json::array();
    for (const fit::Beside& its : place.lacks) out["lacks"].push_back({{"id", its.id}, {"words", its.words}});
    out["binds"] = Json::array();
    for (const fit::Binding& its : place.binds)
        out["binds"].push_back({{"a", its.a.text()}, {"b", its.b.text()}, {"short_mm", its.short_mm}});
    return out;
}

std::string totalOf(const study::Reports& reports) {
    const std::string counts = study::countWords(study::countsOf(reports));
    return study::inShort(reports) + (counts.empty() ? "" : ": " + counts);
}

std::string shiftWords(const model::Project& project, const fit::Shift& by, const quantity::Shown& shown) {
    constexpr double least_deg = 0.005; // of what is shown
    std::string out = model::moveWords(project, {by[0], by[1], by[2]}, shown);
    const auto turn = [&](Freedom freedom, const char* above, const char* below) {
        const double deg = by[at(freedom)];
        if (std::abs(deg) < least_deg) return;
        out += (out.empty() ? "" : ", ") +
               model::sided(project, std::string(" ") + (deg > 0 ? above : below)).substr(1) + " " +
               quantity::angleText(std::abs(deg), 2);
    };
    turn(Freedom::Tail, "tail down", "tail up");
    turn(Freedom::Swing, "tail {to_right}", "tail {to_left}");
    turn(Freedom::Lean, "top {to_left}", "top {to_right}");
    return out.empty() ? "where it hangs" : out;
}

} // namespace gabarit::make
