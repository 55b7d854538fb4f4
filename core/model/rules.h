// The limits gaps are held against: data with a source, editable.
#pragma once

#include "model/body.h"
#include "model/isolator.h"
#include "quantity/once.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace gabarit::model {

/// One of the closed list of body categories.
struct Category {
    std::string id;
    std::string name;                ///< as shown: "steering shaft"
    std::vector<std::string> groups; ///< rows may name a group as "@unit"
};

/// A school of practice: a column of the rule table.
struct School {
    std::string id;
    std::string name;
    std::string text;
};

/// One row: the smallest gap wanted between two kinds of bodies. `between` and `and_` hold category ids, groups as
/// "@group", or "*".
struct RuleRow {
    std::string id;
    std::string text;
    std::vector<std::string> between;
    std::vector<std::string> and_;
    std::map<std::string, double> at_rest_mm;  ///< by school
    std::optional<double> look_mm;             ///< how far the row's gap is measured, when farther than the book says
    std::map<std::string, double> shielded_mm; ///< by school; used when either body is shielded
    bool travel = false;                       ///< the row speaks of the travel, not only of rest
    std::string source;
    Extras extras;
    bool keeps = false;     ///< its figure holds at the worst moment too (heat)
    bool rest_only = false; ///< it speaks of ride height alone: no worst moment (ground)
};

/// A limit or allowance that is one number, not a table: data with a source like the rows.
struct Figure {
    std::string id; ///< with its unit: "tool_length_mm"
    std::string text;
    double value = 0;
    std::string source;
    Extras extras;
};

/// What to mind where a finding concerns bodies of certain kinds: `about` and `and_` as in RuleRow.
struct Caution {
    std::vector<std::string> about;
    std::vector<std::string> and_; ///< the other body; empty: any
    bool when_cut = false;         ///< only where the body may be cut
    std::string text;
};

/// An area that is surveyed before anything is cut.
struct AreaRule {
    std::string id;
    std::string name;
    std::string text;                    ///< what belongs to it
    std::vector<std::string> categories; ///< bodies of these must be measured, not assumed
    std::string source;
};

/// A tube that shops make shafts from.
struct TubeStock {
    double outside_mm = 0;
    double wall_mm = 0;
};

/// A sheet or plate that shops bend, with what bending it needs.
struct SheetStock {
    std::string id;
    std::string name;
    std::vector<double> thickness_mm; ///< that it is sold in, thinnest first
    double inside_thicknesses = 1;    ///< least inside radius of a bend, in thicknesses
    double k_share = 0.4;             ///< where the neutral line lies in a bend: from the inside, in thicknesses
    double density_kg_m3 = 7850;
    double formed_share = 0; ///< cut larger by that share of the length that is formed
    std::string source;
};

struct RuleBook {
    std::vector<Category> categories;
    std::vector<AreaRule> areas;
    std::vector<School> schools;
    std::vector<RuleRow> rows;
    std::vector<Figure> figures;
    std::vector<Caution> cautions;
    std::vector<TubeStock> tubes;    ///< smallest first
    std::vector<SheetStock> sheets;  ///< what pockets are closed with; the first is the usual one
    std::vector<Isolator> isolators; ///< the catalogue
    std::string default_school;
    double interest_range_mm = 0; ///< gaps beyond it read "> 60"…
    double interest_factor = 1;   ///< …or beyond this many times the row's limit, if that is more
    /// Wanted on top of each gap between unit and vehicle while welding may still pull the mounts; 0: they are final.
    double weld_pull_mm = 0;

    const Category* category(const std::string& id) const;
    const School* school(const std::string& id) const;
    /// The value of a figure. Asking for one that the book does not have is a programming error and throws.
    double figure(const std::string& id) const;

    GABARIT_ONCE_DECLARED(RuleBook);
};

/// What a project says about rules: its school and rows of its own (same id: replaces the book's row).
struct RuleChoice {
    std::string school; ///< empty: the book's default
    std::vector<RuleRow> rows;
    std::vector<Figure> figures; ///< of the project's own (same id: replaces the book's)
    std::optional<double> interest_range_mm;
    Extras extras;

    GABARIT_ONCE_DECLARED(RuleChoice);
};

/// The book with the project's rows and range worked in.
RuleBook applied(const RuleBook& book, const RuleChoice& choice);

/// Texts of the book's rows that a project's own row asks less than, for the school in use, or that it narrows to fewer
/// parts or moments.
std::vector<std::string> weakerThanTheBook(const RuleBook& book, const RuleChoice& choice);

/// "text: 50, the book's 100" of each figure of the project's own, and of the range it looks at gaps in, that is not
/// the book's.
std::vector<std::string> ownFigures(const RuleBook& book, const RuleChoice& choice);

/// The limit a pair is held against.
struct Limit {
    double gap_mm = 0;
    std::string row;
    std::string text;
    std::string source;
    bool travel = false;
    double look_mm = 0; ///< 0: as far as the book says
    double pull_mm = 0; ///< of gap_mm: because welding may still pull the mounts
};

/// The limit with the book's weld pull on top, and saying so; as it is when there is none.
Limit withWeldPull(Limit limit, const RuleBook& book);

/// The largest limit among the rows that fit the two bodies; nothing when none does.
std::optional<Limit> limitFor(const RuleBook& book, const std::string& school, const Body& a, const Body& b);

/// What a pair is held against over its movement.
struct MovingLimits {
    std::optional<Limit> travel; ///< through the travel, the engine at rest: the largest of the rows that speak of it
    /// At the worst moment of all: the book's least gap, to fixed bodies or to moving and rotating ones, or the figure
    /// of a row that keeps it (heat) if that is larger. Nothing for what is only held at ride height.
    std::optional<Limit> worst;
};
MovingLimits withWeldPull(MovingLimits limits, const RuleBook& book);
MovingLimits movingLimitsFor(const RuleBook& book, const std::string& school, const Body& a, const Body& b);
/// Whether a category is what a row names: its id, a group as "@group", or "*".
bool isOfKind(const RuleBook& book, const std::string& kind, const std::string& category);
/// Whether a body moves or rotates by its kind.
bool isOfMovingKind(const RuleBook& book, const std::string& category);

/// The caution about a thing that is no pair of bodies ("driveline/shaft"); empty when the book has none.
std::string cautionAbout(const RuleBook& book, const std::string& thing);

/// The cautions that concern the two bodies, joined to one text; empty when none does.
std::string cautionFor(const RuleBook& book, const Body& a, const Body& b);

} // namespace gabarit::model
