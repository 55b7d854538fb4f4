#include "model/rules.h"
#include "model/verdict.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

namespace gabarit::model {

GABARIT_ONCE_DEFINED(RuleChoice);
GABARIT_ONCE_DEFINED(RuleBook);

namespace {

template <class Items>
auto* find(Items& items, const std::string& id) {
    const auto found = std::find_if(items.begin(), items.end(), [&id](const auto& item) { return item.id == id; });
    return found == items.end() ? nullptr : &*found;
}

bool fits(const RuleBook& book, const std::vector<std::string>& words, const std::string& categoryId) {
    const Category* category = book.category(categoryId);
    return std::any_of(words.begin(), words.end(), [&](const std::string& word) {
        if (word == "*" || word == categoryId) return true;
        if (word.empty() || word.front() != '@' || !category) return false;
        return std::find(category->groups.begin(), category->groups.end(), word.substr(1)) != category->groups.end();
    });
}

} // namespace

bool isOfKind(const RuleBook& book, const std::string& kind, const std::string& category) {
    return fits(book, {kind}, category);
}

std::vector<std::string> weakerThanTheBook(const RuleBook& book, const RuleChoice& choice) {
    std::vector<std::string> out;
    const std::string school = choice.school.empty() ? book.default_school : choice.school;
    const auto below = [&school](const std::map<std::string, double>& own, const std::map<std::string, double>& its) {
        const auto a = own.find(school), b = its.find(school);
        return b != its.end() && a != own.end() && a->second < b->second;
    };
    for (const RuleRow& row : choice.rows)
        for (const RuleRow& its : book.rows) {
            if (its.id != row.id) continue;
            const bool weaker = below(row.at_rest_mm, its.at_rest_mm) || below(row.shielded_mm, its.shielded_mm) ||
                                (its.shielded_mm.empty() && !row.shielded_mm.empty()) || row.between != its.between ||
                                row.and_ != its.and_ || (its.travel && !row.travel) || (its.keeps && !row.keeps) ||
                                (!its.rest_only && row.rest_only);
            if (weaker) out.push_back(its.text);
        }
    return out;
}

std::vector<std::string> ownFigures(const RuleBook& book, const RuleChoice& choice) {
    std::vector<std::string> out;
    const auto number = [](double v) { return quantity::fixed(v, v == std::floor(v) ? 0 : 2); };
    for (const Figure& own : choice.figures)
        for (const Figure& its : book.figures)
            if (its.id == own.id && its.value != own.value)
                out.push_back(its.text + ": " + number(own.value) + ", the book's " + number(its.value));
    if (choice.interest_range_mm && *choice.interest_range_mm != book.interest_range_mm)
        out.push_back("gaps looked at up to (mm): " + number(*choice.interest_range_mm) + ", the book's " +
                      number(book.interest_range_mm));
    return out;
}

const Category* RuleBook::category(const std::string& id) const { return find(categories, id); }
const School* RuleBook::school(const std::string& id) const { return find(schools, id); }

double RuleBook::figure(const std::string& id) const {
    if (const Figure* found = find(figures, id)) return found->value;
    throw std::logic_error("the rule book has no figure \"" + id + "\"");
}

RuleBook applied(const RuleBook& book, const RuleChoice& choice) {
    RuleBook merged = book;
    for (const RuleRow& row : choice.rows) {
        if (RuleRow* old = find(merged.rows, row.id))
            *old = row;
        else
            merged.rows.push_back(row);
    }
    for (const Figure& figure : choice.figures)
        if (Figure* old = find(merged.figures, figure.id)) *old = figure;
    if (choice.interest_range_mm) merged.interest_range_mm = *choice.interest_range_mm;
    if (!choice.school.empty()) merged.default_school = choice.school;
    return merged;
}

namespace {

template <class Take>
std::optional<Limit> largest(const RuleBook& book, const std::string& school, const Body& a, const Body& b, Take take) {
    std::optional<Limit> largest;
    for (const RuleRow& row : book.rows) {
        const bool match = (fits(book, row.between, a.category) && fits(book, row.and_, b.category)) ||
                           (fits(book, row.between, b.category) && fits(book, row.and_, a.category));
        if (!match || !take(row)) continue;
        const auto& column = (a.shielded || b.shielded) && !row.shielded_mm.empty() ? row.shielded_mm : row.at_rest_mm;
        const auto figure = column.find(school);
        if (figure == column.end()) continue;
        if (largest && largest->gap_mm > figure->second) continue; // of equal ones the later row, which says more
        largest = Limit{figure->second, row.id, row.text, row.source, row.travel, row.look_mm.value_or(0)};
    }
    return largest;
}

} // namespace

std::optional<Limit> limitFor(const RuleBook& book, const std::string& school, const Body& a, const Body& b) {
    return largest(book, school, a, b, [](const RuleRow&) { return true; });
}

Limit withWeldPull(Limit limit, const RuleBook& book) {
    if (book.weld_pull_mm <= 0) return limit;
    limit.pull_mm = book.weld_pull_mm;
    limit.gap_mm += book.weld_pull_mm;
    limit.text +=
        " (with " + quantity::fixed(book.weld_pull_mm, 0) + " mm until the mounts are fitted again after welding)";
    return limit;
}

bool isOfMovingKind(const RuleBook& book, const std::string& categoryId) {
    const Category* category = book.category(categoryId);
    return category && std::any_of(category->groups.begin(), category->groups.end(),
                                   [](const std::string& g) { return g == "moving" || g == "rotating"; });
}

MovingLimits movingLimitsFor(const RuleBook& book, const std::string& school, const Body& a, const Body& b) {
    MovingLimits out;
    if (largest(book, school, a, b, [](const RuleRow& row) { return row.rest_only; })) return out;
    out.travel = largest(book, school, a, b, [](const RuleRow& row) { return row.travel; });
    const bool moving = isOfMovingKind(book, a.category) || isOfMovingKind(book, b.category);
    const char* id = moving ? "worst_moving_mm" : "worst_fixed_mm";
    if (const Figure* least = find(book.figures, id))
        out.worst = Limit{least->value, least->id, least->text, least->source, true, 0};
    const auto kept = largest(book, school, a, b, [](const RuleRow& row) { return row.keeps; });
    if (kept && (!out.worst || kept->gap_mm > out.worst->gap_mm)) out.worst = kept;
    return out;
}

MovingLimits withWeldPull(MovingLimits limits, const RuleBook& book) {
    if (limits.travel) limits.travel = withWeldPull(*limits.travel, book);
    if (limits.worst) limits.worst = withWeldPull(*limits.worst, book);
    return limits;
}

std::string cautionFor(const RuleBook& book, const Body& a, const Body& b) {
    std::string out;
    const auto concerns = [&book](const Caution& caution, const Body& body, const Body& other) {
        return fits(book, caution.about, body.category) && (!caution.when_cut || body.may.be_cut) &&
               (caution.and_.empty() || fits(book, caution.and_, other.category));
    };
    for (const Caution& caution : book.cautions)
        if (concerns(caution, a, b) || concerns(caution, b, a)) out += (out.empty() ? "" : " ") + caution.text;
    return out;
}

const char* word(Verdict verdict) {
    switch (verdict) {
    case Verdict::Go: return "go";
    case Verdict::Unknown: return "unknown";
    case Verdict::Close: return "close";
    case Verdict::NoGo: return "no-go";
    }
    return "unknown";
}

Verdict judge(double margin, std::optional<double> accuracy) {
    if (margin < 0) return Verdict::NoGo;
    if (!accuracy || *accuracy <= 0) return Verdict::Unknown; // nothing is measured exactly
    return margin < *accuracy ? Verdict::Close : Verdict::Go;
}

std::string cautionAbout(const RuleBook& book, const std::string& thing) {
    for (const Caution& caution : book.cautions)
        if (std::find(caution.about.begin(), caution.about.end(), thing) != caution.about.end()) return caution.text;
    return {};
}

} // namespace gabarit::model
