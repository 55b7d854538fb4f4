#include "store/csv.h"

#include "model/edit.h"
#include "quantity/number.h"
#include "quantity/plain_text.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <sstream>

namespace gabarit::store {
namespace {

using model::OnCar;
using model::Part;
using model::PartState;

constexpr std::array<std::pair<const char*, PartState>, 7> states{{{"needed", PartState::Needed},
                                                                   {"ordered", PartState::Ordered},
                                                                   {"here", PartState::Here},
                                                                   {"test_fitted", PartState::TestFitted},
                                                                   {"fitted", PartState::Fitted},
                                                                   {"to_return", PartState::ToReturn},
                                                                   {"sold", PartState::Sold}}};
constexpr std::array<std::pair<const char*, model::MassFrom>, 4> mass_from_words{
    {{"not_said", model::MassFrom::NotSaid},
     {"weighed", model::MassFrom::Weighed},
     {"catalogue", model::MassFrom::Catalogue},
     {"estimated", model::MassFrom::Estimated}}};
const char* massFromWord(model::MassFrom from) {
    for (const auto& word : mass_from_words)
        if (word.second == from && from != model::MassFrom::NotSaid) return word.first;
    return "";
}
constexpr std::array<std::pair<const char*, OnCar>, 3> on_car_words{
    {{"no", OnCar::No}, {"on", OnCar::On}, {"off", OnCar::Off}}};

std::string number(const std::optional<double>& v) {
    if (!v) return {};
    constexpr int digits = 10;
    return quantity::briefNumber(*v, digits);
}

// What a spreadsheet takes for the start of a formula.
const char* const formula_starts = "=+-@\t\r";

/// A text that would be run as a formula, behind any apostrophes that it begins with already.
bool looksLikeAFormula(const std::string& text) {
    const auto first = text.find_first_not_of('\'');
    return first != std::string::npos && std::string(formula_starts).find(text[first]) != std::string::npos &&
           !(first == 0 && quantity::numberFrom(text));
}

/// Quoted where a separator, a quote or a line break stands in it; an apostrophe keeps a formula from being run.
std::string cell(std::string text) {
    if (looksLikeAFormula(text)) text.insert(0, "'");
    if (text.find_first_of(",;\t\"\r\n") == std::string::npos) return text;
    std::string out = "\"";
    for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

std::string line(const std::vector<std::string>& cells) {
    std::string out;
    for (std::size_t i = 0; i < cells.size(); ++i) out += (i ? "," : "") + cell(cells[i]);
    return out + "\r\n";
}

struct Row {
    std::vector<std::string> cells;
    int line = 0;
};

struct Table {
    std::vector<std::string> heads;
    std::vector<Row> rows;
    char separator = ',';
    std::string file;

    Error wrong(const Row& row, const std::string& column, std::string what, std::string mend) const {
        return Error{std::move(what), file + ", line " + std::to_string(row.line) + ", " + column, std::move(mend)};
    }
    /// The cell of a column; nothing when the table has no such column.
    std::optional<std::string> at(const Row& row, const std::string& column) const {
        const auto found = std::find(heads.begin(), heads.end(), column);
        if (found == heads.end()) return std::nullopt;
        const auto i = static_cast<std::size_t>(found - heads.begin());
        return i < row.cells.size() ? row.cells[i] : std::string();
    }
};

std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(" \t"), last = text.find_last_not_of(" \t");
    return first == std::string::npos ? std::string() : text.substr(first, last - first + 1);
}

/// `key`: the column that every table of its kind has.
Result<Table> tableOf(const std::string& whole, const std::string& file, const std::vector<std::string>& known,
                      const std::string& key = "name") {
    constexpr std::size_t largest_bytes = 16U << 20U; // a shopping list, not a database
    constexpr std::size_t most_rows = 20000;
    if (whole.size() > largest_bytes) return Error{"it is larger than 16 MiB", file, "is it the right file?"};
    const std::string text = quantity::lines(whole.rfind("\xEF\xBB\xBF", 0) == 0 ? whole.substr(3) : whole);
    if (const auto strange = quantity::notUtf8At(text)) {
        const auto line = 1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(*strange), '\n');
        return Error{"its letters are not UTF-8 (an older encoding, such as Latin-1)",
                     file + ", line " + std::to_string(line), "save the table as UTF-8"};
    }
    Table table;
    table.file = file;
    const std::string first = text.substr(0, text.find('\n'));
    for (const char separator : {'\t', ';', ','})
        if (first.find(separator) != std::string::npos) table.separator = separator;
    if (first.find(',') == std::string::npos && first.find(';') != std::string::npos) table.separator = ';';
    Row row;
    row.line = 1;
    std::string now;
    bool quoted = false, any = false;
    int lineNumber = 1, quoteLine = 1;
    std::vector<Row> rows;
    const auto endCell = [&] {
        row.cells.push_back(quoted ? now : trimmed(now));
        std::string& cell = row.cells.back();
        if (cell.size() > 1 && cell.front() == '\'' && looksLikeAFormula(cell)) cell.erase(0, 1);
        now.clear();
        quoted = false;
    };
    const auto endRow = [&] {
        if (any) {
            endCell();
            rows.push_back(std::move(row));
        }
        row = Row{};
        row.line = lineNumber;
        any = false;
    };
    bool inside = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == '\n') ++lineNumber;
        if (inside) {
            if (c != '"') {
                now += c;
            } else if (i + 1 < text.size() && text[i + 1] == '"') {
                now += '"';
                ++i;
            } else {
                inside = false;
            }
            continue;
        }
        if (c == '"' && trimmed(now).empty() && !quoted) {
            now.clear();
            quoted = inside = any = true;
            quoteLine = lineNumber;
        } else if (c == table.separator) {
            any = true;
            endCell();
        } else if (c == '\n') {
            endRow();
        } else if (c != '\r') {
            if (c != ' ') any = true;
            now += c;
        }
    }
    if (inside)
        return Error{"a quote is opened and not closed", file + ", line " + std::to_string(quoteLine), "close it"};
    endRow();
    if (rows.empty()) return Error{"it is empty", file, "give a line of column names and a line for each item"};
    table.heads = rows.front().cells;
    for (std::string& head : table.heads) head = trimmed(head);
    for (const std::string& head : table.heads)
        if (std::find(known.begin(), known.end(), head) == known.end()) {
            std::string list;
            for (const std::string& k : known) list += (list.empty() ? "" : ", ") + k;
            return Error{"the column \"" + head + "\" is not known", file + ", line 1", "use " + list};
        }
    if (std::find(table.heads.begin(), table.heads.end(), key) == table.heads.end())
        return Error{"there is no column \"" + key + "\"", file + ", line 1", "name the columns in the first line"};
    rows.erase(rows.begin());
    table.rows = std::move(rows);
    if (table.rows.size() > most_rows)
        return Error{"it has more than " + std::to_string(most_rows) + " lines", file, "is it the right file?"};
    for (Row& r : table.rows) {
        const std::string where = file + ", line " + std::to_string(r.line);
        if (r.cells.size() > table.heads.size())
            return Error{"it has more cells than there are columns", where, "quote text that holds the separator"};
        for (std::size_t i = 0; i < r.cells.size(); ++i) {
            std::string& held = r.cells[i];
            if (const auto control = quantity::controlIn(held))
                return Error{"it holds a control character (" + *control + ")", where, "take it out"};
            if (table.heads[i] != "note") std::replace(held.begin(), held.end(), '\n', ' '); // as a file is read
        }
    }
    return table;
}

/// Reads a number cell into `value`; an absent column leaves it, an empty cell empties it.
std::optional<Error> readNumber(const Table& table, const Row& row, const char* column, std::optional<double>& value) {
    auto text = table.at(row, column);
    if (!text) return std::nullopt;
    if (text->empty()) {
        value.reset();
        return std::nullopt;
    }
    // Where cells are parted by something else, a comma is a decimal mark and nothing but that.
    if (table.separator != ',' && text->find('.') == std::string::npos)
        std::replace(text->begin(), text->end(), ',', '.');
    const auto read = quantity::typedNumber(*text);
    if (!read) return table.wrong(row, column, read.error().what, read.error().mend + ", without its unit");
    value = read.value();
    return std::nullopt;
}

const std::vector<std::string> part_columns{
    "id",      "name",      "why",       "source",    "state",     "cost", "on_car",
    "mass_kg", "mass_from", "x_mm",      "y_mm",      "z_mm",      "body", "rides_on_donor",
    "needs",   "option",    "size_1_mm", "size_2_mm", "size_3_mm", "home", "note"};
const std::vector<std::string> load_columns{"name", "mass_kg", "mass_from", "x_mm", "y_mm", "z_mm"};
using Columns = std::array<const char*, 3>;
constexpr Columns place_columns{"x_mm", "y_mm", "z_mm"};
constexpr Columns size_columns{"size_1_mm", "size_2_mm", "size_3_mm"};

/// Three numbers that are there together or not at all.
std::optional<Error> readThree(const Table& table, const Row& row, const Columns& columns,
                               std::optional<Eigen::Vector3d>& at) {
    std::array<std::optional<double>, 3> xyz;
    int given = 0;
    for (std::size_t i = 0; i < 3; ++i) {
        if (at) xyz[i] = (*at)[static_cast<int>(i)];
        if (auto wrong = readNumber(table, row, columns[i], xyz[i])) return wrong;
        given += xyz[i].has_value();
    }
    if (given == 0)
        at.reset();
    else if (given == 3)
        at = Eigen::Vector3d(*xyz[0], *xyz[1], *xyz[2]);
    else
        return table.wrong(row, std::string(columns[0]) + ", " + columns[1] + ", " + columns[2],
                           "only some of the three are given", "fill all three or none");
    return std::nullopt;
}

template <class Words, class E>
std::optional<Error> readWord(const Table& table, const Row& row, const char* column, const Words& words, E& value) {
    auto text = table.at(row, column);
    if (!text || text->empty()) return std::nullopt;
    std::replace(text->begin(), text->end(), ' ', '_');
    std::replace(text->begin(), text->end(), '-', '_');
    std::string list;
    for (const auto& word : words) {
        if (*text == word.first) {
            value = word.second;
            return std::nullopt;
        }
        list += (list.empty() ? "" : ", ") + std::string(word.first);
    }
    return table.wrong(row, column, "\"" + *text + "\" is not one of those allowed", "use " + list);
}

void readText(const Table& table, const Row& row, const char* column, std::string& value) {
    if (const auto text = table.at(row, column)) value = *text;
}

Result<model::Project> checked(const model::Project& before, model::Project after, const std::string& file,
                               const model::RuleBook& book) {
    std::set<std::string> old;
    for (const Error& error : model::validate(before, book)) old.insert(error.line());
    for (const Error& error : model::validate(after, book)) {
        if (old.count(error.line())) continue;
        return Error{error.what, file + ", " + error.where, error.mend};
    }
    return after;
}

} // namespace

const char* stateWord(PartState state) {
    for (const auto& word : states)
        if (word.second == state) return word.first;
    return "needed";
}

std::string partsCsv(const model::Project& project) {
    std::string out = line(part_columns);
    for (const Part& part : project.parts.value_or(std::vector<Part>{})) {
        std::string needs;
        for (const model::PartId& id : part.needs) needs += (needs.empty() ? "" : " ") + id.text;
        const auto at = [&](int i) { return part.at_mm ? number((*part.at_mm)[i]) : std::string(); };
        const auto size = [&](int i) { return part.size_mm ? number((*part.size_mm)[i]) : std::string(); };
        const char* onCar = "no";
        for (const auto& word : on_car_words)
            if (word.second == part.on_car) onCar = word.first;
        out += line({part.id.text,
                     part.name,
                     part.why,
                     part.source,
                     stateWord(part.state),
                     number(part.cost),
                     onCar,
                     number(part.mass_kg),
                     massFromWord(part.mass_from),
                     at(0),
                     at(1),
                     at(2),
                     part.body,
                     part.rides_on_donor ? "yes" : "no",
                     needs,
                     part.option,
                     size(0),
                     size(1),
                     size(2),
                     part.home,
                     part.note});
    }
    return out;
}

std::string loadsCsv(const model::Project& project) {
    std::string out = line(load_columns);
    if (project.weights)
        for (const model::Mass& load : project.weights->loads)
            out += line({load.name, number(load.mass_kg), massFromWord(load.from), number(load.at_mm.x()),
                         number(load.at_mm.y()), number(load.at_mm.z())});
    return out;
}

Result<model::Project> withPartsCsv(const model::Project& project, const std::string& text, const std::string& file,
                                    const model::RuleBook& book) {
    const auto read = tableOf(text, file, part_columns);
    if (!read) return read.error();
    const Table& table = read.value();
    model::Project out = project;
    if (!out.parts) out.parts.emplace();
    std::vector<Part>& parts = *out.parts;
    std::map<std::string, int> seen, numbered;
    std::map<std::string, std::size_t> place;
    for (std::size_t i = 0; i < parts.size(); ++i) place.emplace(parts[i].id.text, i);
    for (const Row& row : table.rows) {
        std::string id = table.at(row, "id").value_or("");
        const std::string name = table.at(row, "name").value_or("");
        if (name.empty()) return table.wrong(row, "name", "it has no name", "name the part");
        if (id.empty()) {
            int& last = numbered.emplace(name, 1).first->second;
            id = model::freshId(
                name, [&place](const std::string& wish) { return place.count(wish) > 0; }, &last);
        }
        if (seen.count(id))
            return table.wrong(row, "id", "the id \"" + id + "\" stands in line " + std::to_string(seen[id]) + " too",
                               "give one of them another id");
        seen[id] = row.line;
        const auto [held, fresh] = place.emplace(id, parts.size());
        if (fresh) parts.emplace_back().id.text = id;
        Part* part = &parts[held->second];
        part->name = name;
        readText(table, row, "why", part->why);
        readText(table, row, "source", part->source);
        readText(table, row, "option", part->option);
        readText(table, row, "body", part->body);
        readText(table, row, "note", part->note);
        if (auto wrong = readWord(table, row, "state", states, part->state)) return *wrong;
        if (auto wrong = readWord(table, row, "on_car", on_car_words, part->on_car)) return *wrong;
        if (auto wrong = readNumber(table, row, "cost", part->cost)) return *wrong;
        if (auto wrong = readNumber(table, row, "mass_kg", part->mass_kg)) return *wrong;
        if (auto wrong = readWord(table, row, "mass_from", mass_from_words, part->mass_from)) return *wrong;
        if (auto wrong = readThree(table, row, place_columns, part->at_mm)) return *wrong;
        if (auto wrong = readThree(table, row, size_columns, part->size_mm)) return *wrong;
        readText(table, row, "home", part->home);
        const std::array<std::pair<const char*, bool>, 2> yes{{{"yes", true}, {"no", false}}};
        if (auto wrong = readWord(table, row, "rides_on_donor", yes, part->rides_on_donor)) return *wrong;
        if (const auto needs = table.at(row, "needs")) {
            part->needs.clear();
            std::istringstream words(*needs);
            for (std::string word; words >> word;) part->needs.push_back(model::PartId{word});
        }
    }
    return checked(project, std::move(out), file, book);
}

Result<model::Project> withLoadsCsv(const model::Project& project, const std::string& text, const std::string& file,
                                    const model::RuleBook& book) {
    const auto read = tableOf(text, file, load_columns);
    if (!read) return read.error();
    const Table& table = read.value();
    model::Project out = project;
    if (!out.weights) out.weights.emplace();
    std::vector<model::Mass>& loads = out.weights->loads;
    std::map<std::string, std::size_t> place;
    for (std::size_t i = 0; i < loads.size(); ++i) place.emplace(loads[i].name, i);
    for (const Row& row : table.rows) {
        const std::string name = table.at(row, "name").value_or("");
        if (name.empty()) return table.wrong(row, "name", "it has no name", "name the load");
        std::optional<Eigen::Vector3d> at;
        const auto [held, fresh] = place.emplace(name, loads.size());
        if (fresh)
            loads.emplace_back().name = name;
        else
            at = loads[held->second].at_mm;
        model::Mass* load = &loads[held->second];
        if (auto wrong = readNumber(table, row, "mass_kg", load->mass_kg)) return *wrong;
        if (auto wrong = readWord(table, row, "mass_from", mass_from_words, load->from)) return *wrong;
        if (auto wrong = readThree(table, row, place_columns, at)) return *wrong;
        if (!at) return table.wrong(row, "x_mm, y_mm, z_mm", "a load needs its place", "fill all three");
        load->at_mm = *at;
    }
    return checked(project, std::move(out), file, book);
}

Result<model::Project> withAnswerSheet(const model::Project& project, const std::string& text, const std::string& file,
                                       const model::FirstSurvey& survey, const std::string& date,
                                       const quantity::Shown& shown) {
    const auto read = tableOf(text, file, {"entry", "value", "accuracy_mm", "who", "note"}, "entry");
    if (!read) return read.error();
    const Table& table = read.value();
    model::Project out = project;
    for (const Row& row : table.rows) {
        const std::string id = table.at(row, "entry").value_or("");
        const model::SurveyEntryRule* entry = survey.entry(id);
        if (!entry)
            return table.wrong(row, "entry", "there is no entry \"" + id + "\"", "gabarit-cli first-survey lists them");
        const std::string value = table.at(row, "value").value_or("");
        if (value.empty()) continue; // not read yet
        const auto dimension = entry->is_mass ? quantity::Dimension::Mass : quantity::Dimension::Length;
        const auto number = quantity::parse(dimension, value, shown);
        if (!number) return table.wrong(row, "value", number.error().what, number.error().mend);
        std::optional<double> accuracy_mm = survey.tape_accuracy_mm;
        if (auto wrong = readNumber(table, row, "accuracy_mm", accuracy_mm)) return *wrong;
        model::Provenance measured;
        measured.date = date;
        readText(table, row, "who", measured.who);
        auto answered =
            model::withAnswer(out, survey, id, number.value(), accuracy_mm.value_or(survey.tape_accuracy_mm), measured);
        if (!answered) return table.wrong(row, "value", answered.error().what, answered.error().mend);
        out = std::move(answered).value();
    }
    return out;
}

} // namespace gabarit::store
