#include "model/check.h"

#include <algorithm>

namespace gabarit::model {

GABARIT_ONCE_DEFINED(Check);

void judge(Check& check) {
    if (!check.value) {
        check.verdict = Verdict::Unknown;
        return;
    }
    constexpr double dust = 1e-9;
    const double value = *check.value, accuracy = check.accuracy.value_or(0);
    const std::optional<double> least = check.least ? check.least : check.good_least;
    const std::optional<double> most = check.most ? check.most : check.good_most;
    if (!check.soft && ((least && value < *least - dust) || (most && value > *most + dust)))
        check.verdict = Verdict::NoGo;
    else if ((check.good_least && value < *check.good_least - dust) ||
             (check.good_most && value > *check.good_most + dust) || (least && value - *least < accuracy) ||
             (most && *most - value < accuracy))
        check.verdict = Verdict::Close;
    else
        check.verdict = Verdict::Go;
}

std::string ruleOf(const RuleBook& book, const std::string& figure) {
    for (const Figure& f : book.figures)
        if (f.id == figure) return f.text + " (" + f.source + ")";
    return {};
}

} // namespace gabarit::model
