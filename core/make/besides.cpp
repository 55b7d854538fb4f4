#include "make/besides.h"

#include <algorithm>
#include <mutex>

namespace gabarit::make {
namespace {

/// By what model::judge() goes.
constexpr double dust = 1e-9;

std::vector<std::string> thoseThatFollow(const discipline::Board& board) {
    std::vector<std::string> out;
    for (std::size_t i = 0; i < board.size(); ++i) {
        const discipline::Card& card = board[i].card();
        const bool follows = std::count(card.reads.begin(), card.reads.end(), "pose") > 0;
        if (follows && !card.scene) out.push_back(card.id);
    }
    return out;
}

/// A shaft that is there: whether it engages, reaches and is not pushed home. Joints at equal angles: what of their
/// turning unevenly is passed on.
bool comesFirst(First first, const std::string& id) {
    const auto ends = [&id](const std::string& end) {
        return id.size() >= end.size() && id.compare(id.size() - end.size(), end.size(), end) == 0;
    };
    if (id.rfind("driveline/", 0) != 0) return false;
    return (first == First::StockShaft && id.find("/shaft-") != std::string::npos) ||
           (first == First::EqualAngles && (ends("/torsional") || ends("/inertial")));
}

} // namespace

Result<First> firstOf(const std::string& word) {
    if (word.empty()) return First::Room;
    if (word == "shaft") return First::StockShaft;
    if (word == "angles") return First::EqualAngles;
    return Error{"\"" + word + "\" is nothing that can come first", "first",
                 "say shaft (the one that is there is kept) or angles (equal joint angles)"};
}

std::optional<double> lacks(const model::Check& check) {
    if (!check.value) return std::nullopt;
    const double value = *check.value, accuracy = check.accuracy.value_or(0);
    const auto least = check.least ? check.least : check.good_least;
    const auto most = check.most ? check.most : check.good_most;
    std::optional<double> out;
    const auto ask = [&out](double its) { out = std::max(out.value_or(its), its); };
    if (check.good_least) ask(*check.good_least - value);
    if (check.good_most) ask(value - *check.good_most);
    if (least) ask(*least + accuracy - value);
    if (most) ask(value - (*most - accuracy));
    if (out && *out <= dust) return std::min(*out, 0.0);
    return out;
}

std::function<std::vector<fit::Beside>(const model::Placement&)>
besidesOf(study::Study& study, const model::Project& project, First first, const discipline::Board& board) {
    study::RunOptions options;
    options.only = thoseThatFollow(board);
    options.threads = 1;
    options.tidy = false;
    return
        [&study, project, options, first, mutex = std::make_shared<std::mutex>()](const model::Placement& placement) {
            auto there = std::make_shared<model::Project>(project);
            *model::activePlacement(*there) = placement;
            const std::lock_guard<std::mutex> lock(*mutex);
            const study::Reports reports = study.run(std::move(there), options);
            std::vector<fit::Beside> out;
            for (const std::string& id : options.only) {
                const discipline::Report* report = reports.report(id);
                if (!report) continue;
                for (const model::Check& check : report->checks)
                    if (const auto its = lacks(check)) {
                        const std::string its_id = id + "/" + check.id;
                        out.push_back({its_id, check.of.empty() ? check.what : check.of + ", " + check.what, *its,
                                       comesFirst(first, its_id)});
                    }
            }
            return out;
        };
}

} // namespace gabarit::make
