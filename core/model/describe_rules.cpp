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

void describe(Visitor& v, Isolator& s) {
    constexpr double stiffest_n_per_mm = 1e7; // steel on steel
    constexpr double most_n = 1e7, most_cost = 1e7, heaviest_kg = 1000;
    v.type("isolator");
    v.text(Member("id").id(), s.id);
    v.text(Member("name").must().said("Name"), s.name);
    v.text(Member("material").said("Material"), s.material);
    v.number(Member("axial_n_per_mm").within(0, stiffest_n_per_mm).must().said("Rate along"), s.axial_n_per_mm);
    v.number(Member("shear_n_per_mm", "acts as nearly along the vehicle as it can, of a rubber that lies along the "
                                      "vehicle up and down")
                 .within(0, stiffest_n_per_mm)
                 .must()
                 .said("Across, along the vehicle"),
             s.shear_n_per_mm);
    v.number(Member("shear2_n_per_mm", "at right angles to both its axis and `shear_n_per_mm`, when it is another: of "
                                       "an upright rubber across the vehicle")
                 .within(0, stiffest_n_per_mm)
                 .said("Across, sideways"),
             s.shear2_n_per_mm);
    v.number(Member("rating_n", "load at rest along its axis, at most").within(1, most_n).said("Rated along it"),
             s.rating_n);
    v.number(Member("shear_rating_n", "across it").within(1, most_n).said("Rated across it"), s.shear_rating_n);
    v.number(Member("stop_in_mm", "pressed together, from unloaded; left out: nothing stops it")
                 .length()
                 .said("Stop, pressed in"),
             s.stop_in_mm);
    v.number(Member("stop_out_mm", "pulled apart").length().said("Stop, pulled apart"), s.stop_out_mm);
    v.number(Member("stop_side_mm").length().said("Stop, sideways"), s.stop_side_mm);
    v.flag(Member("captive", "its halves hold one another when the rubber is torn").said("Halves hold one another"),
           s.captive);
    v.number(Member("damping", "share of critical").within(0, 1).said("Damping, of critical"), s.damping);
    v.number(Member("height_mm", "between its faces, unloaded").length().said("Height, unloaded"), s.height_mm);
    v.number(Member("diameter_mm").length().said("Diameter"), s.diameter_mm);
    v.number(Member("mass_kg").within(0, heaviest_kg).said("Mass"), s.mass_kg);
    v.number(Member("cost").ofMoney(0, most_cost).said("Cost"), s.cost);
    v.text(Member("source").said("How known"), s.source);
    v.text(Member("note").note(), s.note);
    v.extras(s.extras);
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
