#include "store/json_io.h"

#include "quantity/plain_text.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace gabarit::store {
namespace {

constexpr int deepest_nesting = 64;     // our own files need eight
constexpr std::size_t line_width = 110; // what a reader's window shows

struct TooDeep {};
struct Twice {
    std::string key;
};

std::string lineAndColumn(const std::string& text, std::size_t byte) {
    std::size_t line = 1, column = 1;
    for (std::size_t i = 0; i + 1 < byte && i < text.size(); ++i) {
        if (text[i] == '\n')
            ++line, column = 1;
        else
            ++column;
    }
    return "line " + std::to_string(line) + ", column " + std::to_string(column);
}

void append(std::string& out, const Json& json, std::size_t indent) {
    const std::string flat = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    if (!json.is_structured() || json.empty()) {
        out += flat;
        return;
    }
    if (indent + flat.size() <= line_width && indent > 2) {
        // Room to breathe after commas and colons, outside of strings.
        bool quoted = false;
        for (std::size_t i = 0; i < flat.size(); ++i) {
            out += flat[i];
            if (flat[i] == '"' && (i == 0 || flat[i - 1] != '\\')) quoted = !quoted;
            if (!quoted && (flat[i] == ',' || flat[i] == ':')) out += ' ';
        }
        return;
    }
    const std::string pad(indent + 2, ' ');
    out += json.is_array() ? "[\n" : "{\n";
    bool first = true;
    for (const auto& item : json.items()) {
        if (!first) out += ",\n";
        first = false;
        out += pad;
        if (json.is_object()) out += Json(item.key()).dump() + ": ";
        append(out, item.value(), indent + 2);
    }
    out += '\n' + std::string(indent, ' ') + (json.is_array() ? "]" : "}");
}

/// A member's name as one step of a JSON pointer (RFC 6901).
std::string escaped(const std::string& name) {
    std::string out;
    for (const char c : name) out += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
    return out;
}

std::string unescaped(const std::string& step) {
    std::string out;
    for (std::size_t i = 0; i < step.size(); ++i) {
        if (step[i] == '~' && i + 1 < step.size()) {
            out += step[++i] == '1' ? '/' : '~';
            continue;
        }
        out += step[i];
    }
    return out;
}

void putIfNew(Json& object, const std::string& name, Json value) {
    if (!object.contains(name)) object[name] = std::move(value);
}

/// Puts a value where a pointer leads; objects that were left out as empty are made again, list entries that are gone
/// take what was unknown in them along.
void putAt(Json& root, const std::string& pointer, Json value) {
    Json* at = &root;
    std::size_t from = 1;
    for (;;) {
        const std::size_t slash = pointer.find('/', from);
        const std::string step = unescaped(pointer.substr(from, slash - from));
        if (slash == std::string::npos) {
            if (at->is_object()) putIfNew(*at, step, std::move(value));
            return;
        }
        if (at->is_array()) {
            const std::size_t index = std::strtoul(step.c_str(), nullptr, 10);
            if (index >= at->size()) return;
            at = &(*at)[index];
        } else if (at->is_object()) {
            at = &(*at)[step];
            if (at->is_null()) *at = Json::object();
        } else {
            return;
        }
        from = slash + 1;
    }
}

} // namespace

Result<Json> parseJson(const std::string& text, const std::string& file) {
    if (text.find_first_not_of(" \t\r\n") == std::string::npos)
        return Error{"the file is empty", file, "open its .bak, or start a new project"};
    if (const auto strange = quantity::notUtf8At(text))
        return Error{"its letters are not UTF-8 (an older encoding, such as Latin-1, or no text at all)",
                     file + ", " + lineAndColumn(text, *strange + 1), "save it as UTF-8, or open its .bak"};
    try {
        std::vector<std::set<std::string>> seen; // of the objects that are open
        return Json::parse(text, [&seen](int depth, Json::parse_event_t event, Json& parsed) {
            if (depth > deepest_nesting) throw TooDeep{};
            if (event == Json::parse_event_t::object_start) seen.emplace_back();
            if (event == Json::parse_event_t::object_end) seen.pop_back();
            if (event == Json::parse_event_t::key && !seen.back().insert(parsed.get_ref<const std::string&>()).second)
                throw Twice{parsed.get<std::string>()};
            return true;
        });
    } catch (const Json::parse_error& e) {
        return Error{"this is not JSON, or it is cut off", file + ", " + lineAndColumn(text, e.byte),
                     "mend the text there, or open its .bak"};
    } catch (const Json::exception& e) {
        return Error{"a number is too large to be one", file, "check the digits of its numbers"};
    } catch (const Twice& twice) {
        return Error{"\"" + twice.key + "\" stands there twice in one object", file,
                     "take one of the two out: which was meant is not known"};
    } catch (const TooDeep&) {
        return Error{"it is nested more than " + std::to_string(deepest_nesting) + " deep", file,
                     "this is not a project of ours"};
    }
}

std::string prettyText(const Json& json) {
    std::string out;
    append(out, json, 0);
    out += '\n';
    return out;
}

void ReadIo::fail(const std::string& key, const std::string& what, const std::string& mend) {
    if (error_) return;
    const std::string where = key.empty() ? path_ : at(key);
    error_ = Error{what, where.empty() ? "the outermost level" : where, mend};
}

const Json* ReadIo::member(const char* key, bool required) {
    if (error_) return nullptr;
    known_.insert(key);
    const auto found = object_.find(key);
    if (found != object_.end()) return &*found;
    if (required) fail(key, "it is missing", "add it; docs/format.md shows how");
    return nullptr;
}

bool ReadIo::readNumber(const Json& json, const std::string& key, double& value) {
    if (!json.is_number()) {
        fail(key, "a number is expected", "write a plain number in the unit of the name, without quotes");
        return false;
    }
    value = json.get<double>();
    return true;
}

void ReadIo::tidyText(const std::string& key, std::string& text) {
    text = quantity::lines(text);
    if (key != "note") std::replace(text.begin(), text.end(), '\n', ' '); // a name begins no line of its own
    if (const auto control = quantity::controlIn(text))
        fail(key, "it holds a control character (" + *control + ")", "take it out");
}

void ReadIo::text(const char* key, std::string& value, bool required) {
    const Json* found = member(key, required);
    if (!found) return;
    if (!found->is_string()) return fail(key, "a text is expected", "put it in quotes");
    value = found->get<std::string>();
    tidyText(key, value);
}

void ReadIo::number(const char* key, double& value, bool required) {
    if (const Json* found = member(key, required)) readNumber(*found, key, value);
}

void ReadIo::number(const char* key, std::optional<double>& value) {
    const Json* found = member(key, false);
    double plain = 0;
    if (found && readNumber(*found, key, plain)) value = plain;
}

void ReadIo::flag(const char* key, bool& value) {
    const Json* found = member(key, false);
    if (!found) return;
    if (!found->is_boolean()) return fail(key, "true or false is expected", "write true or false, without quotes");
    value = found->get<bool>();
}

template <class V>
bool ReadIo::readVector(const Json& json, const std::string& key, V& value) {
    const auto size = static_cast<std::size_t>(value.size());
    if (!json.is_array() || json.size() != size) {
        fail(key, size == 3 ? "three numbers [x, y, z] are expected" : "two numbers are expected",
             "see docs/format.md");
        return false;
    }
    for (std::size_t i = 0; i < size; ++i)
        if (!readNumber(json[i], key + "[" + std::to_string(i) + "]", value[static_cast<int>(i)])) return false;
    return true;
}

template <class V>
void ReadIo::readVectors(const char* key, std::vector<V>& value) {
    const Json* found = member(key, true);
    if (!found) return;
    if (!found->is_array()) return fail(key, "a list of points is expected", "see docs/format.md");
    value.clear();
    for (std::size_t i = 0; i < found->size(); ++i) {
        V v = V::Zero();
        if (!readVector((*found)[i], std::string(key) + "[" + std::to_string(i) + "]", v)) return;
        value.push_back(v);
    }
}

void ReadIo::point(const char* key, Eigen::Vector3d& value, bool required) {
    if (const Json* found = member(key, required)) readVector(*found, key, value);
}

void ReadIo::point(const char* key, std::optional<Eigen::Vector3d>& value) {
    const Json* found = member(key, false);
    Eigen::Vector3d plain = Eigen::Vector3d::Zero();
    if (found && readVector(*found, key, plain)) value = plain;
}

void ReadIo::points(const char* key, std::vector<Eigen::Vector3d>& value) { readVectors(key, value); }
void ReadIo::points(const char* key, std::vector<Eigen::Vector2d>& value) { readVectors(key, value); }

void ReadIo::texts(const char* key, std::vector<std::string>& value) {
    const Json* found = member(key, false);
    if (!found) return;
    value.clear();
    if (!found->is_array()) return fail(key, "a list of texts is expected", "put them in [ … ]");
    for (const Json& item : *found) {
        if (!item.is_string()) return fail(key, "a list of texts is expected", "put each in quotes");
        value.push_back(item.get<std::string>());
        tidyText(key, value.back());
    }
}

void ReadIo::figures(const char* key, std::map<std::string, double>& value) {
    const Json* found = member(key, false);
    if (!found) return;
    if (!found->is_object()) return fail(key, "named figures { … } are expected", "see docs/format.md");
    for (const auto& item : found->items()) {
        double figure = 0;
        if (!readNumber(item.value(), std::string(key) + "." + item.key(), figure)) return;
        value[item.key()] = figure;
    }
}

void ReadIo::extras(model::Extras& extras) {
    if (error_) return;
    extras_taken_ = true;
    extras = std::move(strays_);
    for (const auto& item : object_.items())
        if (!known_.count(item.key())) {
            // A name that would look like a pointer is stored as the pointer to itself.
            const std::string& name = item.key();
            extras[!name.empty() && name.front() == '/' ? "/" + escaped(name) : name] =
                item.value().dump(-1, ' ', false, Json::error_handler_t::replace);
        }
}

void ReadIo::keepStrays(ReadIo& inner, const std::string& key) {
    if (error_ || inner.extras_taken_) return;
    for (const auto& [pointer, text] : inner.strays_) strays_["/" + key + pointer] = text;
    for (const auto& item : inner.object_.items())
        if (!inner.known_.count(item.key()))
            strays_["/" + key + "/" + escaped(item.key())] =
                item.value().dump(-1, ' ', false, Json::error_handler_t::replace);
}

void WriteIo::extras(const model::Extras& extras) {
    for (const auto& [key, text] : extras) {
        Json value = Json::parse(text, nullptr, false);
        if (value.is_discarded()) continue;
        if (key.empty() || key.front() != '/')
            putIfNew(object_, key, std::move(value));
        else
            putAt(object_, key, std::move(value));
    }
}

Json WriteIo::tidy(double value) {
    constexpr double grain = 1e9, largest_whole = 1e6;
    if (!std::isfinite(value) || std::abs(value) > largest_whole) return value;
    const double rounded = std::round(value * grain) / grain;
    if (rounded == std::round(rounded)) return static_cast<long long>(rounded);
    return rounded;
}

} // namespace gabarit::store
