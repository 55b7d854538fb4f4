#include "make/cut_list.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "relief/relief.h"
#include "relief/section/relief.h"

#include <algorithm>
#include <map>
#include <tuple>

namespace gabarit::make {
namespace {

/// Width or diameter, height (0: round), wall.
using Size = std::tuple<double, double, double>;
using Stock = std::map<Size, std::vector<std::pair<std::string, double>>>;

template <class Item>
const Item* byId(const std::vector<Item>& list, const std::string& id) {
    const auto found = std::find_if(list.begin(), list.end(), [&id](const Item& item) { return item.id == id; });
    return found == list.end() ? nullptr : &*found;
}

void addBrackets(Stock& stock, const study::Reports& reports) {
    for (const mounts::BracketReport& bracket : reports.of<mounts::MountsReport>()->brackets) {
        const auto* mount = byId(reports.project->sections.get<model::Mounts>()->mounts, bracket.mount);
        if (!bracket.made || !mount) continue;
        for (const mounts::Piece& piece : bracket.made->pieces)
            if (const auto* tube = std::get_if<model::TubeSpec>(&piece.shape))
                stock[{tube->diameter_mm, 0, bracket.made->section.wall_mm}].emplace_back(
                    mount->name + ", " + mounts::word(bracket.which) + "'s " + piece.name, piece.cut_mm);
    }
}

void addFrames(Stock& stock, const study::Reports& reports) {
    for (const mounts::FrameReport& frame : reports.of<mounts::MountsReport>()->frames) {
        if (!frame.reason.empty()) continue;
        int member = 0;
        for (const auto& corners : frame.members_mm) {
            ++member;
            for (std::size_t i = 1; i < corners.size(); ++i)
                stock[{frame.width_mm, frame.height_mm, frame.wall_mm}].emplace_back(
                    frame.name + ", member " + std::to_string(member) +
                        (corners.size() > 2 ? ", piece " + std::to_string(i) : ""),
                    (corners[i] - corners[i - 1]).norm());
        }
    }
}

} // namespace

CutList cutList(const study::Reports& reports, const model::RuleBook& book) {
    Stock stock;
    if (reports.of<relief::ReliefReport>())
        for (const relief::TubeReport& tube : reports.of<relief::ReliefReport>()->tubes) {
            if (!tube.made) continue;
            const auto* its = byId(reports.project->sections.get<model::Relief>()->tubes, tube.id);
            if (!its) continue;
            for (int i = 0; i < static_cast<int>(its->count.value_or(1)); ++i)
                stock[{its->diameter_mm, 0, its->wall_mm}].emplace_back(tube.name, tube.made->long_points_mm);
        }
    if (reports.of<mounts::MountsReport>()) {
        addBrackets(stock, reports);
        addFrames(stock, reports);
    }
    CutList out;
    const double bar_mm = book.figure("tube_bar_mm");
    for (auto& [size, pieces] : stock) {
        std::vector<std::pair<std::string, double>> fits;
        for (auto& piece : pieces)
            if (piece.second > bar_mm)
                out.longer_than.push_back(piece.first);
            else
                fits.push_back(std::move(piece));
        const auto bars = relief::nested(std::move(fits), bar_mm, book.figure("saw_kerf_mm"));
        if (!bars) continue;
        for (relief::Bar bar : bars.value()) {
            std::tie(bar.diameter_mm, bar.height_mm, bar.wall_mm) = size;
            out.bars.push_back(std::move(bar));
        }
    }
    return out;
}

} // namespace gabarit::make
