// The members of the rule book's tables.
#include "model/describe.h"

namespace gabarit::model {

using describe::Member;
using describe::Visitor;

void describe(Visitor& v, School& school) {
    v.text(Member("id").must(), school.id);
    v.text(Member("name").must(), school.name);
    v.text(Member("text"), school.text);
}
void describe(Visitor& v, Category& category) {
    v.text(Member("id").must(), category.id);
    v.text(Member("name").must(), category.name);
    v.texts(Member("groups"), category.groups);
}
void describe(Visitor& v, AreaRule& area) {
    v.text(Member("id").must(), area.id);
    v.text(Member("name").must(), area.name);
    v.text(Member("text"), area.text);
    v.texts(Member("categories"), area.categories);
    v.text(Member("source"), area.source);
}
void describe(Visitor& v, Caution& caution) {
    v.texts(Member("about"), caution.about);
    v.texts(Member("and"), caution.and_);
    v.flag(Member("when_cut"), caution.when_cut);
    v.text(Member("text").must(), caution.text);
}
void describe(Visitor& v, TubeStock& tube) {
    v.number(Member("outside_mm").must(), tube.outside_mm);
    v.number(Member("wall_mm").must(), tube.wall_mm);
}
void describe(Visitor& v, SheetStock& sheet) {
    v.text(Member("id").must(), sheet.id);
    v.text(Member("name").must(), sheet.name);
    v.list(Member("thicknesses"), sheet.thickness_mm,
           [](Visitor& inner, double& mm) { inner.number(Member("mm").must(), mm); });
    v.number(Member("inside_thicknesses").must(), sheet.inside_thicknesses);
    v.number(Member("k_share").must(), sheet.k_share);
    v.number(Member("density_kg_m3").must(), sheet.density_kg_m3);
    v.number(Member("formed_share"), sheet.formed_share);
    v.text(Member("source"), sheet.source);
}

void describe(Visitor& v, RuleBook& book) {
    v.text(Member("default_school").must(), book.default_school);
    v.number(Member("interest_range_mm").must(), book.interest_range_mm);
    v.number(Member("interest_factor").must(), book.interest_factor);
    v.list(Member("schools"), book.schools);
    v.list(Member("categories"), book.categories);
    v.list(Member("areas"), book.areas);
    v.list(Member("rows"), book.rows);
    v.list(Member("figures"), book.figures);
    v.list(Member("cautions"), book.cautions);
}

namespace {

/// A list that only one table may have.
template <class T>
void onlyOnce(Visitor& v, const char* key, std::vector<T>& all) {
    std::vector<T> its;
    v.list(Member(key), its);
    if (its.empty()) return;
    if (!all.empty()) return v.refuse(key, "another table has them already", "keep them in one");
    all = std::move(its);
}

} // namespace

void describeMore(Visitor& v, RuleBook& book) {
    std::vector<Figure> figures;
    v.list(Member("figures"), figures);
    for (Figure& figure : figures) {
        for (const Figure& known : book.figures)
            if (known.id == figure.id)
                return v.refuse("figures", "\"" + figure.id + "\" is in another table already", "give it another id");
        book.figures.push_back(std::move(figure));
    }
    std::vector<Caution> cautions;
    v.list(Member("cautions"), cautions);
    book.cautions.insert(book.cautions.end(), cautions.begin(), cautions.end());
    onlyOnce(v, "tubes", book.tubes);
    onlyOnce(v, "sheets", book.sheets);
    onlyOnce(v, "isolators", book.isolators);
}

} // namespace gabarit::model
