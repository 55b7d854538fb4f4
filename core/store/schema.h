// What the files may hold, for programs and for people, made from the descriptions.
#pragma once

#include "model/rules.h"

#include <map>
#include <string>

namespace gabarit::store {

/// The JSON Schema (draft 2020-12) of a project file; categories and schools are the book's.
std::string projectSchema(const model::RuleBook& book);
/// The same of a donor's file.
std::string donorSchema(const model::RuleBook& book);

/// docs/format.md's tables of members, as Markdown, by the name of the structure ("body", "shaft_line").
std::map<std::string, std::string> memberTables();

/// docs/format.md, or a page of docs/disciplines, with every table between `<!-- members: NAME -->` and `<!-- end of members -->` made anew. A name
/// that is not known is said in the table's place.
std::string withMemberTables(const std::string& page);

} // namespace gabarit::store
