#include "store/json_io.h"

#include "quantity/plain_text.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace gabarit::store {

using describe::Member;
using describe::Words;

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

/// Arithmetic dust (1e-12 mm) would make every save differ: nine digits after the point are kept, and none where there
/// are none.
Json tidy(double value) {
    constexpr double grain = 1e9, largest_whole = 1e6;
    if (!std::isfinite(value) || std::abs(value) > largest_whole) return value;
    const double rounded = std::round(value * grain) / grain;
    if (rounded == std::round(rounded)) return static_cast<long long>(rounded);
    return rounded;
}

template <class V>
Json jsonOf(const V& v) {
    Json out = Json::array();
    for (int i = 0; i < v.size(); ++i) out.push_back(tidy(v[i]));
    return out;
}

template <class V>
void putAll(Json& object, const Member& m, const std::vector<V>& value) {
    if (value.empty() && !m.required) return;
    Json all = Json::array();
    for (const V& v : value) all.push_back(jsonOf(v));
    object[m.key] = std::move(all);
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

ReadIo::ReadIo(const Json& object, std::string path, std::optional<Error>& error)
    : object_(object), path_(std::move(path)), error_(error) {
    if (!object_.is_object()) refuse("", "an object { … } is expected here", "see docs/format.md");
}

void ReadIo::refuse(const std::string& key, const std::string& what, const std::string& mend) {
    if (error_) return;
    const std::string where = key.empty() ? path_ : at(key);
    error_ = Error{what, where.empty() ? "the outermost level" : where, mend};
}

const Json* ReadIo::member(const Member& m) {
    if (error_) return nullptr;
    known_.insert(m.key);
    const auto found = object_.find(m.key);
    if (found != object_.end()) return &*found;
    if (m.required) refuse(m.key, "it is missing", "add it; docs/format.md shows how");
    return nullptr;
}

bool ReadIo::readNumber(const Json& json, const std::string& key, double& value) {
    if (!json.is_number()) {
        refuse(key, "a number is expected", "write a plain number in the unit of the name, without quotes");
        return false;
    }
    value = json.get<double>();
    return true;
}

void ReadIo::tidyText(const Member& m, std::string& text) {
    text = quantity::lines(text);
    if (!m.lines) std::replace(text.begin(), text.end(), '\n', ' '); // a name begins no line of its own
    if (const auto control = quantity::controlIn(text))
        refuse(m.key, "it holds a control character (" + *control + ")", "take it out");
}

void ReadIo::onText(const Member& m, std::string& value) {
    const Json* found = member(m);
    if (!found) return;
    if (!found->is_string()) return refuse(m.key, "a text is expected", "put it in quotes");
    value = found->get<std::string>();
    tidyText(m, value);
}

void ReadIo::onNumber(const Member& m, double& value) {
    if (const Json* found = member(m)) readNumber(*found, m.key, value);
}

void ReadIo::onOptional(const Member& m, std::optional<double>& value) {
    const Json* found = member(m);
    double plain = 0;
    if (found && readNumber(*found, m.key, plain)) value = plain;
}

void ReadIo::onFlag(const Member& m, bool& value) {
    const Json* found = member(m);
    if (!found) return;
    if (!found->is_boolean()) return refuse(m.key, "true or false is expected", "write true or false, without quotes");
    value = found->get<bool>();
}

template <class V>
bool ReadIo::readVector(const Json& json, const std::string& key, V& value) {
    const auto size = static_cast<std::size_t>(value.size());
    if (!json.is_array() || json.size() != size) {
        refuse(key, size == 3 ? "three numbers [x, y, z] are expected" : "two numbers are expected",
               "see docs/format.md");
        return false;
    }
    for (std::size_t i = 0; i < size; ++i)
        if (!readNumber(json[i], key + "[" + std::to_string(i) + "]", value[static_cast<int>(i)])) return false;
    return true;
}

template <class V>
void ReadIo::readVectors(const Member& m, std::vector<V>& value) {
    const Json* found = member(m);
    if (!found) return;
    if (!found->is_array()) return refuse(m.key, "a list of points is expected", "see docs/format.md");
    value.clear();
    for (std::size_t i = 0; i < found->size(); ++i) {
        V v = V::Zero();
        if (!readVector((*found)[i], std::string(m.key) + "[" + std::to_string(i) + "]", v)) return;
        value.push_back(v);
    }
}

void ReadIo::onPoint(const Member& m, Eigen::Vector3d& value) {
    if (const Json* found = member(m)) readVector(*found, m.key, value);
}

void ReadIo::onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) {
    const Json* found = member(m);
    Eigen::Vector3d plain = Eigen::Vector3d::Zero();
    if (found && readVector(*found, m.key, plain)) value = plain;
}

void ReadIo::onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) { readVectors(m, value); }
void ReadIo::onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) { readVectors(m, value); }

void ReadIo::onTexts(const Member& m, std::vector<std::string>& value) {
    const Json* found = member(m);
    if (!found) return;
    value.clear();
    if (!found->is_array()) return refuse(m.key, "a list of texts is expected", "put them in [ … ]");
    for (const Json& item : *found) {
        if (!item.is_string()) return refuse(m.key, "a list of texts is expected", "put each in quotes");
        value.push_back(item.get<std::string>());
        tidyText(m, value.back());
    }
}

void ReadIo::onFigures(const Member& m, std::map<std::string, double>& value) {
    const Json* found = member(m);
    if (!found) return;
    if (!found->is_object()) return refuse(m.key, "named figures { … } are expected", "see docs/format.md");
    for (const auto& item : found->items()) {
        double figure = 0;
        if (!readNumber(item.value(), std::string(m.key) + "." + item.key(), figure)) return;
        value[item.key()] = figure;
    }
}

int ReadIo::wordAt(const Json& json, const Member& m, const Words& words) {
    std::string listed;
    for (std::size_t i = 0; i < words.size(); ++i) {
        if (json.is_string() && json.get_ref<const std::string&>() == words[i].file) return static_cast<int>(i);
        listed += (listed.empty() ? "" : ", ") + std::string(words[i]);
    }
    refuse(m.key, "the word there is not one of those allowed", "use one of: " + listed);
    return -1;
}

void ReadIo::onChoice(const Member& m, const Words& words, int& place) {
    const Json* found = member(m);
    if (!found) return;
    const int there = wordAt(*found, m, words);
    if (there >= 0) place = there;
}

void ReadIo::onObject(const Member& m, describe::Object& value) {
    const Json* found = member(m);
    if (!found) return;
    value.make();
    ReadIo inner(*found, at(m.key), error_);
    const describe::Owned as_here(inner, owner());
    value.describe(inner);
    keepStrays(inner, m.key);
}

void ReadIo::onList(const Member& m, describe::List& value) {
    const Json* found = member(m);
    if (!found) return;
    if (!found->is_array()) return refuse(m.key, "a list [ … ] is expected", "see docs/format.md");
    if (found->size() > describe::longest_list)
        return refuse(m.key, "it holds more than " + std::to_string(describe::longest_list) + " entries",
                      "is it the right file?");
    value.make();
    for (std::size_t i = 0; i < found->size() && !error_; ++i) {
        ReadIo inner((*found)[i], at(m.key) + "[" + std::to_string(i) + "]", error_);
        const describe::Owned as_here(inner, owner());
        value.add();
        value.describe(inner, i);
        keepStrays(inner, std::string(m.key) + "/" + std::to_string(i));
    }
}

void ReadIo::onForms(const Member& m, const Words& words, describe::Forms& value) {
    const Json* found = member(m);
    if (!found) return;
    const int form = wordAt(*found, m, words);
    if (form < 0) return;
    value.become(static_cast<std::size_t>(form));
    value.describe(*this);
}

void ReadIo::onExtras(describe::Extras& extras) {
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

void WriteIo::onText(const Member& m, std::string& value) {
    if (m.required || (!value.empty() && value != m.usual_text)) object_[m.key] = value;
}

void WriteIo::onNumber(const Member& m, double& value) {
    if (m.required || value != m.usual.value_or(0)) object_[m.key] = tidy(value);
}

void WriteIo::onOptional(const Member& m, std::optional<double>& value) {
    if (value) object_[m.key] = tidy(*value);
}

void WriteIo::onFlag(const Member& m, bool& value) {
    if (value) object_[m.key] = true;
}

void WriteIo::onPoint(const Member& m, Eigen::Vector3d& value) {
    if (m.required || value != Eigen::Vector3d(m.usual_vector)) object_[m.key] = jsonOf(value);
}

void WriteIo::onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) {
    if (value) object_[m.key] = jsonOf(*value);
}

void WriteIo::onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) { putAll(object_, m, value); }
void WriteIo::onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) { putAll(object_, m, value); }

void WriteIo::onTexts(const Member& m, std::vector<std::string>& value) {
    if (!value.empty()) object_[m.key] = value;
}

void WriteIo::onFigures(const Member& m, std::map<std::string, double>& value) {
    if (!value.empty()) object_[m.key] = value;
}

void WriteIo::onChoice(const Member& m, const Words& words, int& place) {
    if (place >= 0 && !(m.usual && place == *m.usual)) object_[m.key] = words[static_cast<std::size_t>(place)].file;
}

void WriteIo::onObject(const Member& m, describe::Object& value) {
    if (!value.here()) return;
    WriteIo inner;
    const describe::Owned as_here(inner, owner());
    value.describe(inner);
    Json made = inner.take();
    if (m.required || value.optional() || !made.empty()) object_[m.key] = std::move(made);
}

void WriteIo::onList(const Member& m, describe::List& value) {
    if (!value.here() || (value.size() == 0 && !value.optional())) return;
    Json all = Json::array();
    for (std::size_t i = 0; i < value.size(); ++i) {
        WriteIo inner;
        const describe::Owned as_here(inner, owner());
        value.describe(inner, i);
        all.push_back(inner.take());
    }
    object_[m.key] = std::move(all);
}

void WriteIo::onForms(const Member& m, const Words& words, describe::Forms& value) {
    object_[m.key] = words[value.now()].file;
    value.describe(*this);
}

void WriteIo::onExtras(describe::Extras& extras) {
    for (const auto& [key, text] : extras) {
        Json value = Json::parse(text, nullptr, false);
        if (value.is_discarded()) continue;
        if (key.empty() || key.front() != '/')
            putIfNew(object_, key, std::move(value));
        else
            putAt(object_, key, std::move(value));
    }
}

} // namespace gabarit::store
