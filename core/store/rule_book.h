// The rule tables that ship with the program.
#pragma once

#include "model/rules.h"
#include "quantity/result.h"

namespace gabarit::store {

/// data/rules/clearance.json as compiled into the program: categories, schools, rows with sources.
const model::RuleBook& defaultRuleBook();

/// A rule table from text, for tests and for tables of one's own.
Result<model::RuleBook> ruleBookFromText(const std::string& text, const std::string& file);

/// The book with a further table: figures, cautions, tubes, sheets, isolators. What another table has already is an
/// error: nothing replaces it unseen.
Result<model::RuleBook> withTable(model::RuleBook book, const std::string& text, const std::string& file);

} // namespace gabarit::store
