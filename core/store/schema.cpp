#include "store/schema.h"

#include "describe/outline.h"
#include "quantity/number.h"
#include "store/json_io.h"

namespace gabarit::store {
namespace {

using describe::Kind;
using describe::Line;
using describe::Member;
using describe::Outline;
using describe::Vector;

Json jsonNumber(double value) {
    if (value == static_cast<double>(static_cast<long long>(value))) return static_cast<long long>(value);
    return value;
}

void addRange(Json& out, const Member& m) {
    if (m.low) out[m.above ? "exclusiveMinimum" : "minimum"] = jsonNumber(*m.low);
    if (m.high) out["maximum"] = jsonNumber(*m.high);
}

Json wordsOf(const describe::Words& words) {
    Json out = Json::array();
    for (const char* word : words) out.push_back(word);
    return out;
}

Json numbers(std::size_t count, const Json& item) {
    return {{"type", "array"}, {"items", item}, {"minItems", count}, {"maxItems", count}};
}

/// Three numbers (or two) as the member means them.
Json vectorOf(const Member& m, std::size_t count) {
    Json item{{"type", "number"}};
    switch (m.vector.value_or(Vector::Figures)) {
    case Vector::Place:
    case Vector::Shift: addRange(item, Member("").offset()); break;
    case Vector::Size: addRange(item, Member("").solid()); break;
    case Vector::Extent: addRange(item, Member("").length()); break;
    case Vector::Direction:
    case Vector::Figures: break;
    }
    return numbers(count, item);
}

void addCount(Json& out, const Member& m) {
    if (m.least > 0) out["minItems"] = m.least;
    if (m.most != describe::longest_list) out["maxItems"] = m.most;
}

Json objectOf(const std::vector<Line>& lines, const model::RuleBook& book);

Json textOf(const Member& m, const model::RuleBook& book) {
    Json out{{"type", "string"}};
    if (m.is_id) return out["minLength"] = 1, out["pattern"] = "^[^/]+$", out;
    if (m.filled) out["minLength"] = 1;
    if (m.words) return {{"enum", wordsOf(*m.words)}};
    if (std::string(m.from) == "categories") {
        Json all = Json::array();
        for (const model::Category& category : book.categories) all.push_back(category.id);
        return {{"enum", all}};
    }
    if (std::string(m.from) == "schools") {
        Json all = Json::array();
        for (const model::School& school : book.schools) all.push_back(school.id);
        return {{"enum", all}};
    }
    const bool path = m.target == describe::Target::BodyPath || m.target == describe::Target::ChoicePath;
    if (path && m.required) out["pattern"] = "^[^/]+/[^/]+$";
    return out;
}

Json valueOf(const Line& line, const model::RuleBook& book) {
    const Member& m = line.member;
    Json out;
    switch (line.kind) {
    case Kind::Text: out = textOf(m, book); break;
    case Kind::Number:
        out["type"] = m.whole ? "integer" : "number";
        addRange(out, m);
        break;
    case Kind::Flag: out["type"] = "boolean"; break;
    case Kind::Point: out = vectorOf(m, 3); break;
    case Kind::Points3:
    case Kind::Points2:
        out = {{"type", "array"}, {"items", vectorOf(m, line.kind == Kind::Points3 ? 3 : 2)}};
        addCount(out, m);
        break;
    case Kind::Texts:
        out = {{"type", "array"}, {"items", m.words ? Json{{"enum", wordsOf(*m.words)}} : Json{{"type", "string"}}}};
        addCount(out, m);
        break;
    case Kind::Figures:
        out["type"] = "object";
        out["additionalProperties"] = {{"type", "number"}};
        addRange(out["additionalProperties"], m);
        break;
    case Kind::Choice: out["enum"] = wordsOf(*line.words); break;
    case Kind::Object: out["$ref"] = "#/$defs/" + line.of; break;
    case Kind::List:
        out = {{"type", "array"}, {"items", {{"$ref", "#/$defs/" + line.of}}}};
        addCount(out, m);
        break;
    case Kind::Forms: break;
    }
    if (*m.means) out["description"] = m.means;
    return out;
}

/// Adds the members of an object's lines; forms become alternatives of it.
void fill(Json& out, const std::vector<Line>& lines, const model::RuleBook& book) {
    Json required = Json::array();
    for (const Line& line : lines) {
        if (line.kind == Kind::Forms) {
            Json all = Json::array();
            for (const describe::Form& form : line.forms) {
                Json one = objectOf(form.lines, book);
                Json with{{"type", "object"}, {"properties", Json::object()}};
                with["properties"][line.member.key] = {{"const", form.word}};
                for (const auto& item : one["properties"].items()) with["properties"][item.key()] = item.value();
                with["required"] = Json::array({line.member.key});
                if (one.contains("required"))
                    for (const Json& key : one["required"]) with["required"].push_back(key);
                all.push_back(std::move(with));
            }
            out["oneOf"] = std::move(all);
            continue;
        }
        out["properties"][line.member.key] = valueOf(line, book);
        const bool listed = line.kind == Kind::List || line.kind == Kind::Texts;
        if (line.member.required || (listed && line.member.least > 0)) required.push_back(line.member.key);
    }
    if (!required.empty()) out["required"] = std::move(required);
}

Json objectOf(const std::vector<Line>& lines, const model::RuleBook& book) {
    Json out{{"type", "object"}};
    fill(out, lines, book);
    return out;
}

std::string schemaOf(const Outline& outline, const std::string& root, const char* title, const char* format,
                     const model::RuleBook& book) {
    Json out{{"$schema", "https://json-schema.org/draft/2020-12/schema"},
             {"title", title},
             {"description", "Members not named here are allowed and kept. Units stand in the names."},
             {"type", "object"}};
    out["properties"]["format"] = {{"const", format}};
    out["properties"]["version"] = {{"type", "integer"}, {"minimum", 1}};
    fill(out, outline.types.at(root), book);
    out["required"].insert(out["required"].begin(), {"format", "version"});
    for (const std::string& name : outline.order)
        if (name != root) out["$defs"][name] = objectOf(outline.types.at(name), book);
    return out.dump(1) + "\n";
}

std::string plainNumber(double value) { return quantity::briefNumber(value, 6); }

/// What may stand there, in a few words.
std::string valueWords(const Line& line) {
    const Member& m = line.member;
    std::string out;
    const auto listed = [](const describe::Words& words) {
        std::string all;
        for (const char* word : words) all += (all.empty() ? "`" : ", `") + std::string(word) + "`";
        return all;
    };
    const std::string unit = describe::unitOf(m.key);
    switch (line.kind) {
    case Kind::Text:
        out = m.words   ? listed(*m.words)
              : m.is_id ? std::string("id")
              : *m.from ? "one of the " + std::string(m.from)
                        : std::string("text");
        break;
    case Kind::Number:
        out = m.whole ? "whole number" : unit.empty() ? "number" : unit;
        if (m.low && m.high && *m.high < describe::heaviest_kg)
            out += " " + plainNumber(*m.low) + " … " + plainNumber(*m.high);
        else if (m.above || (m.low && *m.low == describe::thinnest_mm))
            out += " > 0";
        else if (m.low && *m.low >= 0)
            out += " ≥ " + plainNumber(*m.low);
        break;
    case Kind::Flag: out = "true, false"; break;
    case Kind::Point: out = m.vector == Vector::Size ? "[x, y, z], each > 0" : "[x, y, z]"; break;
    case Kind::Points3: out = "list of [x, y, z]"; break;
    case Kind::Points2: out = "list of [x, y]"; break;
    case Kind::Texts: out = m.words ? "list of " + listed(*m.words) : "list of texts"; break;
    case Kind::Figures: out = "figures by name"; break;
    case Kind::Choice: out = listed(*line.words); break;
    case Kind::Object: out = "[" + line.of + "](#" + line.of + ")"; break;
    case Kind::List: out = "list of [" + line.of + "](#" + line.of + ")"; break;
    case Kind::Forms: out = "see below"; break;
    }
    if (m.usual && line.kind == Kind::Choice)
        out += "; left out: `" + std::string((*line.words)[static_cast<std::size_t>(*m.usual)]) + "`";
    else if (m.usual && *m.usual != 0)
        out += "; left out: " + plainNumber(*m.usual);
    return out;
}

std::string tableOf(const std::vector<Line>& lines) {
    std::string out = "| member | holds | |\n|---|---|---|\n";
    for (const Line& line : lines) {
        if (line.kind == Kind::Forms) {
            for (const describe::Form& form : line.forms) {
                out += "| **`" + std::string(line.member.key) + "`: `" + form.word + "`** | | |\n";
                for (const Line& one : form.lines)
                    out += "| `" + std::string(one.member.key) + "`" + (one.member.required ? " *" : "") + " | " +
                           valueWords(one) + " | " + one.member.means + " |\n";
            }
            continue;
        }
        out += "| `" + std::string(line.member.key) + "`" + (line.member.required ? " *" : "") + " | " +
               valueWords(line) + " | " + line.member.means + " |\n";
    }
    return out;
}

} // namespace

std::string projectSchema(const model::RuleBook& book) {
    return schemaOf(describe::outlineOf<model::Project>("project"), "project", "Gabarit project", project_format, book);
}

std::string donorSchema(const model::RuleBook& book) {
    Outline outline = describe::outlineOf<model::Donor>("donor");
    return schemaOf(outline, "donor", "Gabarit donor", donor_format, book);
}

std::map<std::string, std::string> memberTables() {
    const Outline outline = describe::outlineOf<model::Project>("project");
    std::map<std::string, std::string> out;
    for (const auto& [name, lines] : outline.types) out[name] = tableOf(lines);
    return out;
}

std::string withMemberTables(const std::string& page) {
    static const std::string begin = "<!-- members: ", close = " -->\n", end = "<!-- end of members -->";
    const auto tables = memberTables();
    // Structures that stand on another page: the disciplines' own have theirs in docs/disciplines.
    const bool whole = page.find(begin + "project" + close) != std::string::npos;
    const auto linked = [&](std::string table) {
        for (const auto& [name, its] : tables) {
            if (page.find(begin + name + close) != std::string::npos) continue;
            const std::string here = "](#" + name + ")";
            const std::string there = whole ? "](disciplines/" + name + ".md)" : "](../format.md#" + name + ")";
            for (std::size_t link = table.find(here); link != std::string::npos; link = table.find(here, link + 1))
                table.replace(link, here.size(), there);
        }
        return table;
    };
    std::string out;
    std::size_t at = 0;
    for (;;) {
        const std::size_t found = page.find(begin, at);
        const std::size_t named = found == std::string::npos ? found : page.find(close, found);
        const std::size_t until = named == std::string::npos ? named : page.find(end, named);
        if (until == std::string::npos) return out + page.substr(at);
        out += page.substr(at, named + close.size() - at);
        const std::string names = page.substr(found + begin.size(), named - found - begin.size());
        const auto table = tables.find(names);
        out += table == tables.end() ? "There is no structure \"" + names + "\".\n" : linked(table->second);
        at = until;
    }
}

} // namespace gabarit::store
