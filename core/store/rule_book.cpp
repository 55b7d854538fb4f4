#include "store/rule_book.h"

#include "store/json_io.h"

#include <cstdio>
#include <cstdlib>

namespace gabarit::embedded {
extern const char* const rules_clearance;
}

namespace gabarit::store {

Result<model::RuleBook> ruleBookFromText(const std::string& text, const std::string& file) {
    const auto json = parseJson(text, file);
    if (!json) return json.error();
    model::RuleBook book;
    std::optional<Error> error;
    ReadIo io(json.value(), "", error);
    describeRuleBook(io, book);
    if (error) {
        error->where = file + ", " + error->where;
        return *error;
    }
    return book;
}

const model::RuleBook& defaultRuleBook() {
    static const model::RuleBook book = [] {
        auto read = ruleBookFromText(embedded::rules_clearance, "data/rules/clearance.json");
        if (!read) { // the program was built with a broken table: a programmer's error, not a user's
            std::fprintf(stderr, "gabarit: %s\n", read.error().line().c_str());
            std::abort();
        }
        return std::move(read).value();
    }();
    return book;
}

} // namespace gabarit::store
