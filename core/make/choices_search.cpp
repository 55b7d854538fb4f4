#include "make/choices_search.h"

#include "discipline/table.h"
#include "discipline/wording.h"
#include "discipline/written.h"
#include "make/besides.h"
#include "make/choices.h"
#include "make/free_words.h"
#include "make/ways_written.h"
#include "quantity/number.h"

#include <algorithm>
#include <cstdlib>

namespace gabarit::make {
namespace {

using discipline::Json;

std::string madeWords(const ChoicePlace& its) {
    std::string out = its.donor;
    for (const ChoiceMade& made : its.made) out += (out.empty() ? "" : "; ") + made.words;
    if (!its.pocket.empty()) out += (out.empty() ? "" : "; ") + its.pocket;
    return out.empty() ? "as it is" : out;
}

std::string cutWords(int cuts) {
    if (cuts == 0) return "nothing more is cut";
    return std::to_string(std::abs(cuts)) + (std::abs(cuts) == 1 ? " thing " : " things ") +
           (cuts > 0 ? "more" : "less") + " cut";
}

/// "2 mm short without, 12 mm to spare with it; up 18 mm farther".
std::string buysWords(const model::Project& project, const ChoiceBuys& buys, const quantity::Shown& shown) {
    const auto lack = [&](double mm) {
        return mm > 0 ? quantity::lengthTextUp(mm, shown, 1) + " short at best" : std::string("a place");
    };
    std::string out = lack(buys.before_mm) + " without, " + lack(buys.after_mm) + " with it";
    if (buys.way) {
        const Eigen::Vector3d move = buys.farther_mm * fit::direction(*buys.way);
        out += "; what is changed has " + model::moveWords(project, move, shown) + " more";
    }
    return out;
}

std::string countWords(const ChoicesReport& report) {
    std::string out = std::to_string(report.tried) + " of " + std::to_string(report.all) + " combinations looked at";
    if (report.folded > 0) out += ", " + std::to_string(report.folded) + " ask for more than one that fits";
    if (report.not_tried_count > 0) out += ", " + std::to_string(report.not_tried_count) + " not tried";
    return out;
}

Json jsonOfChoice(const ChoicePlace& its) {
    Json out = jsonOf(its.place);
    out["donor"] = its.donor.empty() ? Json() : Json(its.donor);
    out["taken"] = Json::array();
    for (const ChoiceMade& made : its.made)
        out["taken"].push_back({{"choice", made.choice}, {"option", made.option}, {"words", made.words}});
    out["pocket"] = its.pocket.empty() ? Json() : Json(its.pocket);
    out["fouls_in_itself"] = its.fouls;
    out["cuts"] = its.cuts;
    out["cost"] = its.cost ? Json(*its.cost) : Json();
    out["unpriced"] = its.unpriced;
    out["verdict"] = model::word(its.then->verdict);
    return out;
}

class Written {
public:
    Written(const Searching& with, const discipline::SearchGiven& given, const ChoicesReport& report)
        : with_(with), given_(given), report_(report),
          table_({"form", "cut", "place", "any point moved", "gaps", "all that was asked"},
                 {false, false, false, true, false, false}) {}

    discipline::Found write() {
        json_["complete"] = report_.complete;
        json_["all"] = report_.all;
        json_["tried"] = report_.tried;
        json_["folded"] = report_.folded;
        json_["not_tried_count"] = report_.not_tried_count;
        json_["not_tried"] = report_.not_tried;
        json_["choices"] = Json::array();
        for (const ChoicePlace& its : report_.places) json_["choices"].push_back(add(its, true));
        json_["least_bad"] = report_.least_bad ? add(*report_.least_bad, false) : Json();
        found_.text = table_.text();
        buys();
        found_.text += countWords(report_) + ".\n";
        for (const std::string& its : report_.not_tried) found_.text += "not tried: " + its + "\n";
        found_.now = report_.places.empty()
                         ? "No form that the file offers leaves a place: " + countWords(report_) + "."
                         : discipline::upperFirst(countWords(report_)) + ".";
        found_.none = found_.now;
        found_.found = !report_.places.empty();
        found_.json = std::make_shared<const Json>(std::move(json_));
        return std::move(found_);
    }

private:
    Json add(const ChoicePlace& its, bool good) {
        const std::string where = shiftWords(*with_.reports.project, its.place.by, given_.shown);
        const std::string form = madeWords(its);
        discipline::Answer answer;
        answer.id = std::to_string(found_.answers.size() + 1);
        answer.project = its.project;
        std::string gaps = !good                    ? bindingWords(its.place, given_.shown)
                           : its.place.unknown == 0 ? "every gap of the unit good"
                                                    : std::to_string(its.place.unknown) + " to measure";
        if (its.fouls > 0)
            gaps += ", " + std::to_string(its.fouls) + (its.fouls == 1 ? " pair fouls" : " pairs foul") +
                    " wherever it hangs";
        answer.words = form + ": " + (good ? gaps : "the least bad, " + gaps) + "; " + cutWords(its.cuts) +
                       "; all that was asked: " + totalOf(*its.then);
        answer.note = "It hangs " + where + ".";
        answer.step = "hang it where it fits: " + form;
        answer.first = good && its.fouls == 0 && its.place.unknown == 0 && its.cuts == 0 && found_.answers.empty();
        const Comparison against = compared(with_.reports, *its.then, given_.shown);
        for (const ComparedFigure& figure : against.figures)
            if (figure.better != 0) answer.more.push_back(figure.name + ": " + figure.pinned + ", there " + figure.now);
        for (const std::string& came : against.came) answer.more.push_back("comes: " + came);
        for (const std::string& went : against.went) answer.more.push_back("goes: " + went);
        for (const ChoiceBuys& buys : report_.buys)
            if (std::find(its.made.begin(), its.made.end(), buys.made) != its.made.end())
                answer.note += "\n" + buys.made.words + ": " + buysWords(*with_.reports.project, buys, given_.shown);
        table_.row({form, cutWords(its.cuts), where, quantity::lengthText(its.place.farthest_mm, given_.shown, 1), gaps,
                    totalOf(*its.then)});
        found_.answers.push_back(std::move(answer));
        return jsonOfChoice(its);
    }
    void buys() {
        json_["buys"] = Json::array();
        discipline::Table table({"changed alone", "what it buys"}, {false, false});
        for (const ChoiceBuys& its : report_.buys) {
            table.row({its.made.words, buysWords(*with_.reports.project, its, given_.shown)});
            json_["buys"].push_back({{"choice", its.made.choice},
                                     {"option", its.made.option},
                                     {"words", its.made.words},
                                     {"short_before_mm", its.before_mm},
                                     {"short_after_mm", its.after_mm},
                                     {"way", its.way ? Json(fit::word(*its.way)) : Json()},
                                     {"farther_mm", its.farther_mm}});
        }
        if (!report_.buys.empty()) found_.text += "\n" + table.text() + "\n";
    }

    const Searching& with_;
    const discipline::SearchGiven& given_;
    const ChoicesReport& report_;
    discipline::Found found_;
    discipline::Table table_;
    Json json_;
};

} // namespace

Result<discipline::Found> choicesTried(const Searching& with, const discipline::SearchGiven& given) {
    const auto limits = freeLimits(given.book, given.about[0]);
    if (!limits) return limits.error();
    const auto first = firstOf(given.about[1]);
    if (!first) return first.error();
    ChoicesOptions options;
    options.first = first.value();
    options.limits = limits.value();
    options.shown = given.shown;
    options.stop = given.stop;
    options.progress = given.progress;
    options.most_s = given.book.figure("free_choices_s");
    if (!given.about[2].empty()) {
        const auto seconds = quantity::numberFrom(given.about[2]);
        if (!seconds || !(*seconds > 0))
            return Error{"\"" + given.about[2] + "\" is no time", "seconds", "give seconds above zero"};
        options.most_s = *seconds;
    }
    const ChoicesReport report = everyChoice(with.study, with.reports, given.book, options);
    if (!report.reason.empty()) return Error{report.reason, "placements", "add a placement for a donor"};
    return Written(with, given, report).write();
}

} // namespace gabarit::make
