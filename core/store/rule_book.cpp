#include "store/rule_book.h"

#include "store/json_io.h"

#include <cstdio>
#include <cstdlib>

namespace gabarit::embedded {
extern const char* const rules_clearance;
extern const char* const rules_driveline;
extern const char* const rules_mounts;
extern const char* const rules_relief;
extern const char* const rules_weights;
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
        if (read) read = withTable(std::move(read).value(), embedded::rules_driveline, "data/rules/driveline.json");
        if (read) read = withTable(std::move(read).value(), embedded::rules_mounts, "data/rules/mounts.json");
        if (read) read = withTable(std::move(read).value(), embedded::rules_relief, "data/rules/relief.json");
        if (read) read = withTable(std::move(read).value(), embedded::rules_weights, "data/rules/weights.json");
        if (!read) { // the program was built with a broken table: a programmer's error, not a user's
            std::fprintf(stderr, "gabarit: %s\n", read.error().line().c_str());
            std::abort();
        }
        return std::move(read).value();
    }();
    return book;
}

} // namespace gabarit::store
