#include "store/rule_book.h"

#include "store/json_io.h"

#include <cstdio>
#include <cstdlib>
#include <vector>

namespace gabarit::embedded {
extern const char* const rules_clearance;
/// Those of the disciplines, gathered by the build (core/sections).
struct Table {
    const char* file;
    const char* text;
};
const std::vector<Table>& ruleTables();
} // namespace gabarit::embedded

namespace gabarit::store {

Result<model::RuleBook> ruleBookFromText(const std::string& text, const std::string& file) {
    const auto json = parseJson(text, file);
    if (!json) return json.error();
    model::RuleBook book;
    std::optional<Error> error;
    ReadIo io(json.value(), "", error);
    describe::visit(io, book);
    if (error) {
        error->where = file + ", " + error->where;
        return *error;
    }
    return book;
}

Result<model::RuleBook> withTable(model::RuleBook book, const std::string& text, const std::string& file) {
    const auto json = parseJson(text, file);
    if (!json) return json.error();
    std::optional<Error> error;
    ReadIo io(json.value(), "", error);
    describeMore(io, book);
    if (!error) return book;
    error->where = file + ", " + error->where;
    return *error;
}

const model::RuleBook& defaultRuleBook() {
    static const model::RuleBook book = [] {
        auto read = ruleBookFromText(embedded::rules_clearance, "data/rules/clearance.json");
        for (const embedded::Table& table : embedded::ruleTables())
            if (read) read = withTable(std::move(read).value(), table.text, table.file);
        if (!read) { // the program was built with a broken table: a programmer's error, not a user's
            std::fprintf(stderr, "gabarit: %s\n", read.error().line().c_str());
            std::abort();
        }
        return std::move(read).value();
    }();
    return book;
}

} // namespace gabarit::store
