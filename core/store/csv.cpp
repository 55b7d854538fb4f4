#include "store/csv.h"

#include "model/describe.h"
#include "model/edit.h"
#include "parts/parts.h"
#include "quantity/number.h"
#include "quantity/plain_text.h"
#include "weights/section/weights.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>
#include <sstream>

namespace gabarit::store {
namespace {

using describe::Member;
using model::Part;

std::string figure(const std::optional<double>& v) {
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
std::optional<Error> readNumber(const Table& table, const Row& row, const std::string& column,
                                std::optional<double>& value) {
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

using Columns = std::vector<std::string>;

/// The three columns of a place ("x_mm", …) or of sizes ("size_1_mm", …).
Columns threeOf(const Member& m) {
    if (m.vector != describe::Vector::Size) return {"x_mm", "y_mm", "z_mm"};
    const std::string key = m.key, unit = "_mm", stem = key.substr(0, key.size() - unit.size());
    return {stem + "_1" + unit, stem + "_2" + unit, stem + "_3" + unit};
}

/// What stands in a table of a structure: the names of its columns, and the cells of one.
class CellWriter : public describe::Walker {
public:
    /// `left_out`: members that have no column.
    explicit CellWriter(const std::set<std::string>& left_out) : left_out_(left_out) {}
    Columns heads, cells;

    void onText(const Member& m, std::string& value) override { add(m, value); }
    void onOptional(const Member& m, std::optional<double>& value) override { add(m, figure(value)); }
    void onFlag(const Member& m, bool& value) override { add(m, value ? "yes" : "no"); }
    void onPoint(const Member& m, Eigen::Vector3d& value) override { three(m, value); }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override { three(m, value); }
    void onTexts(const Member& m, std::vector<std::string>& value) override {
        std::string all;
        for (const std::string& text : value) all += (all.empty() ? "" : " ") + text;
        add(m, all);
    }
    void onChoice(const Member& m, const describe::Words& words, int& place) override {
        const bool said = place >= 0 && !(m.usual && *m.usual == place);
        add(m, said ? words[static_cast<std::size_t>(place)].file : "");
    }

private:
    void add(const Member& m, const std::string& text) {
        if (left_out_.count(m.key)) return;
        heads.emplace_back(m.key);
        cells.push_back(text);
    }
    void three(const Member& m, const std::optional<Eigen::Vector3d>& value) {
        if (left_out_.count(m.key)) return;
        const Columns names = threeOf(m);
        heads.insert(heads.end(), names.begin(), names.end());
        for (int i = 0; i < 3; ++i) cells.push_back(value ? figure((*value)[i]) : std::string());
    }
    const std::set<std::string>& left_out_;
};

const std::set<std::string> every_member;
const std::set<std::string> not_of_loads{"option", "off"}; // a load comes with no option and is taken off in the window

template <class T>
Columns columnsOf(const std::set<std::string>& left_out) {
    CellWriter writer(left_out);
    T fresh{};
    describe::visit(writer, fresh);
    return writer.heads;
}

template <class T>
std::string lineOf(const T& item, const std::set<std::string>& left_out) {
    CellWriter writer(left_out);
    describe::show(writer, item);
    return line(writer.cells);
}

/// Takes a row's cells into an item. A column that the table does not have leaves what is there; the first thing wrong
/// is kept, and ends it. Names and ids are the caller's.
class CellReader : public describe::Walker {
public:
    /// `fresh`: the item is a new one.
    CellReader(const Table& table, const Row& row, bool fresh) : table_(table), row_(row), fresh_(fresh) {}
    std::optional<Error> wrong;

    bool fills() const override { return true; }
    void onText(const Member& m, std::string& value) override {
        if (m.is_id || std::string(m.key) == "name") return;
        if (const auto text = table_.at(row_, m.key)) value = *text;
    }
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (!wrong) wrong = readNumber(table_, row_, m.key, value);
    }
    void onFlag(const Member& m, bool& value) override {
        static const describe::Words answers{"no", "yes"};
        int place = value;
        onChoice(m, answers, place);
        value = place == 1;
    }
    void onPoint(const Member& m, Eigen::Vector3d& value) override {
        std::optional<Eigen::Vector3d> at;
        if (!fresh_) at = value;
        onOptional(m, at);
        if (at)
            value = *at;
        else if (!wrong)
            wrong = table_.wrong(row_, namesOf(threeOf(m)), "its place is not given", "fill all three");
    }
    /// Three numbers that are there together or not at all.
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& at) override {
        const Columns columns = threeOf(m);
        std::array<std::optional<double>, 3> xyz;
        int given = 0;
        for (std::size_t i = 0; i < 3 && !wrong; ++i) {
            if (at) xyz[i] = (*at)[static_cast<int>(i)];
            wrong = readNumber(table_, row_, columns[i], xyz[i]);
            given += xyz[i].has_value();
        }
        if (wrong) return;
        if (given == 0)
            at.reset();
        else if (given == 3)
            at = Eigen::Vector3d(*xyz[0], *xyz[1], *xyz[2]);
        else
            wrong = table_.wrong(row_, namesOf(columns), "only some of the three are given", "fill all three or none");
    }
    void onTexts(const Member& m, std::vector<std::string>& value) override {
        const auto text = table_.at(row_, m.key);
        if (!text) return;
        value.clear();
        std::istringstream words(*text);
        for (std::string word; words >> word;) value.push_back(word);
    }
    void onChoice(const Member& m, const describe::Words& words, int& place) override {
        auto text = table_.at(row_, m.key);
        if (wrong || !text || text->empty()) return;
        std::replace(text->begin(), text->end(), ' ', '_');
        std::replace(text->begin(), text->end(), '-', '_');
        std::string list;
        for (std::size_t i = 0; i < words.size(); ++i) {
            if (*text == words[i].file) {
                place = static_cast<int>(i);
                return;
            }
            list += (list.empty() ? "" : ", ") + std::string(words[i]);
        }
        wrong = table_.wrong(row_, m.key, "\"" + *text + "\" is not one of those allowed", "use " + list);
    }

private:
    static std::string namesOf(const Columns& columns) { return columns[0] + ", " + columns[1] + ", " + columns[2]; }
    const Table& table_;
    const Row& row_;
    bool fresh_;
};

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

std::string partsCsv(const model::Project& project) {
    std::string out = line(columnsOf<Part>(every_member));
    for (const Part& part : model::partsOf(project)) out += lineOf(part, every_member);
    return out;
}

std::string loadsCsv(const model::Project& project) {
    std::string out = line(columnsOf<model::Mass>(not_of_loads));
    if (const auto* weights = project.sections.get<model::Weights>())
        for (const model::Mass& load : weights->loads) out += lineOf(load, not_of_loads);
    return out;
}

Result<model::Project> withPartsCsv(const model::Project& project, const std::string& text, const std::string& file,
                                    const model::RuleBook& book) {
    const auto read = tableOf(text, file, columnsOf<Part>(every_member));
    if (!read) return read.error();
    const Table& table = read.value();
    model::Project out = project;
    std::vector<Part>& parts = out.sections.edit<model::Parts>();
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
        CellReader reader(table, row, fresh);
        describe::visit(reader, *part);
        if (reader.wrong) return *reader.wrong;
    }
    return checked(project, std::move(out), file, book);
}

Result<model::Project> withLoadsCsv(const model::Project& project, const std::string& text, const std::string& file,
                                    const model::RuleBook& book) {
    const auto read = tableOf(text, file, columnsOf<model::Mass>(not_of_loads));
    if (!read) return read.error();
    const Table& table = read.value();
    model::Project out = project;
    std::vector<model::Mass>& loads = out.sections.edit<model::Weights>().loads;
    std::map<std::string, std::size_t> place;
    for (std::size_t i = 0; i < loads.size(); ++i) place.emplace(loads[i].name, i);
    for (const Row& row : table.rows) {
        const std::string name = table.at(row, "name").value_or("");
        if (name.empty()) return table.wrong(row, "name", "it has no name", "name the load");
        const auto [held, fresh] = place.emplace(name, loads.size());
        if (fresh) loads.emplace_back().name = name;
        CellReader reader(table, row, fresh);
        describe::visit(reader, loads[held->second]);
        if (reader.wrong) return *reader.wrong;
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
