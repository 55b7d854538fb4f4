// Reading and writing of one described structure: each member's name, kind and place stands once, in codec.cpp.
// Internal to the room: the only headers that know the JSON library.
#pragma once

#include "model/project.h"

#include <nlohmann/json.hpp>

#include <initializer_list>
#include <set>
#include <utility>

namespace gabarit::store {

using Json = nlohmann::ordered_json;

template <class E>
using Words = std::initializer_list<std::pair<const char*, E>>;

/// Parses text that came from `file`; errors name line and column. Nesting deeper than 64 is refused.
Result<Json> parseJson(const std::string& text, const std::string& file);

/// Deterministic text: two spaces, what fits in 110 columns stays on one line.
std::string prettyText(const Json& json);

/// Of objects in one list: many times what a swap has.
constexpr std::size_t longest_list = 20000;

/// Takes members out of a JSON object. The first thing wrong is kept; after it all reading is a no-op.
class ReadIo {
public:
    static constexpr bool reading = true;

    ReadIo(const Json& object, std::string path, std::optional<Error>& error)
        : object_(object), path_(std::move(path)), error_(error) {
        if (!object_.is_object()) fail("", "an object { … } is expected here", "see docs/format.md");
    }

    void text(const char* key, std::string& value, bool required = false);
    void number(const char* key, double& value, bool required = false);
    void number(const char* key, std::optional<double>& value);
    void flag(const char* key, bool& value);
    void point(const char* key, Eigen::Vector3d& value, bool required = false);
    void point(const char* key, std::optional<Eigen::Vector3d>& value);
    void points(const char* key, std::vector<Eigen::Vector3d>& value);
    void points(const char* key, std::vector<Eigen::Vector2d>& value);
    void texts(const char* key, std::vector<std::string>& value);
    void figures(const char* key, std::map<std::string, double>& value);

    template <class E>
    void choice(const char* key, E& value, Words<E> words, bool required = false) {
        const Json* found = member(key, required);
        if (!found) return;
        std::string listed;
        for (const auto& word : words) {
            if (found->is_string() && found->template get_ref<const std::string&>() == word.first) {
                value = word.second;
                return;
            }
            listed += (listed.empty() ? "" : ", ") + std::string(word.first);
        }
        fail(key, "the word there is not one of those allowed", "use one of: " + listed);
    }
    template <class E>
    void choice(const char* key, std::optional<E>& value, Words<E> words) {
        if (!has(key)) return;
        E plain{};
        choice(key, plain, words);
        value = plain;
    }
    template <class T, class Describe>
    void object(const char* key, T& value, Describe describe, bool required = false) {
        const Json* found = member(key, required);
        if (!found) return;
        ReadIo inner(*found, at(key), error_);
        describe(inner, value);
        keepStrays(inner, key);
    }
    template <class T, class Describe>
    void object(const char* key, std::optional<T>& value, Describe describe) {
        if (!has(key)) return;
        T plain{};
        object(key, plain, describe);
        value = std::move(plain);
    }
    template <class T, class Describe>
    void list(const char* key, std::vector<T>& value, Describe describe) {
        const Json* found = member(key, false);
        if (!found) return;
        if (!found->is_array()) return fail(key, "a list [ … ] is expected", "see docs/format.md");
        if (found->size() > longest_list)
            return fail(key, "it holds more than " + std::to_string(longest_list) + " entries",
                        "is it the right file?");
        value.clear();
        for (std::size_t i = 0; i < found->size() && !error_; ++i) {
            ReadIo inner((*found)[i], at(key) + "[" + std::to_string(i) + "]", error_);
            T item{};
            describe(inner, item);
            keepStrays(inner, std::string(key) + "/" + std::to_string(i));
            value.push_back(std::move(item));
        }
    }
    template <class T, class Describe>
    void list(const char* key, std::optional<std::vector<T>>& value, Describe describe) {
        if (!has(key)) return;
        value.emplace();
        list(key, *value, describe);
    }
    /// Takes what is unknown here, and in the objects below that keep no extras of their own: see model::Extras.
    void extras(model::Extras& extras);

    bool has(const char* key) const { return !error_ && object_.contains(key); }
    void fail(const std::string& key, const std::string& what, const std::string& mend);

private:
    const Json* member(const char* key, bool required);
    void keepStrays(ReadIo& inner, const std::string& key);
    std::string at(const std::string& key) const { return path_.empty() ? key : path_ + "." + key; }
    void tidyText(const std::string& key, std::string& text);
    bool readNumber(const Json& json, const std::string& key, double& value);
    template <class V>
    bool readVector(const Json& json, const std::string& key, V& value);
    template <class V>
    void readVectors(const char* key, std::vector<V>& value);

    const Json& object_;
    std::string path_;
    std::optional<Error>& error_;
    std::set<std::string> known_;
    model::Extras strays_; ///< of the objects below, by JSON pointer from here
    bool extras_taken_ = false;
};

/// Puts members into a JSON object, in the order they are described; defaults are left out.
class WriteIo {
public:
    static constexpr bool reading = false;

    Json take() { return std::move(object_); }

    void text(const char* key, const std::string& value, bool required = false) {
        if (required || !value.empty()) object_[key] = value;
    }
    void number(const char* key, double value, bool required = false) {
        if (required || value != 0) object_[key] = tidy(value);
    }
    void number(const char* key, const std::optional<double>& value) {
        if (value) object_[key] = tidy(*value);
    }
    void flag(const char* key, bool value) {
        if (value) object_[key] = true;
    }
    void point(const char* key, const Eigen::Vector3d& value, bool required = false) {
        if (required || !value.isZero(0)) object_[key] = vector(value);
    }
    void point(const char* key, const std::optional<Eigen::Vector3d>& value) {
        if (value) object_[key] = vector(*value);
    }
    template <class V>
    void points(const char* key, const std::vector<V>& value) {
        Json all = Json::array();
        for (const V& v : value) all.push_back(vector(v));
        object_[key] = std::move(all);
    }
    void texts(const char* key, const std::vector<std::string>& value) {
        if (!value.empty()) object_[key] = value;
    }
    void figures(const char* key, const std::map<std::string, double>& value) {
        if (!value.empty()) object_[key] = value;
    }
    template <class E>
    void choice(const char* key, E value, Words<E> words, bool = false) {
        for (const auto& word : words)
            if (word.second == value) object_[key] = word.first;
    }
    template <class E>
    void choice(const char* key, const std::optional<E>& value, Words<E> words) {
        if (value) choice(key, *value, words);
    }
    template <class T, class Describe>
    void object(const char* key, T& value, Describe describe, bool required = false) {
        WriteIo inner;
        describe(inner, value);
        Json made = inner.take();
        if (required || !made.empty()) object_[key] = std::move(made);
    }
    template <class T, class Describe>
    void object(const char* key, std::optional<T>& value, Describe describe) {
        if (value) object(key, *value, describe, true);
    }
    template <class T, class Describe>
    void list(const char* key, std::vector<T>& value, Describe describe) {
        if (!value.empty()) writeList(key, value, describe);
    }
    template <class T, class Describe>
    void list(const char* key, std::optional<std::vector<T>>& value, Describe describe) {
        if (value) writeList(key, *value, describe);
    }
    void extras(const model::Extras& extras);
    void raw(const char* key, Json value) { object_[key] = std::move(value); }

private:
    template <class T, class Describe>
    void writeList(const char* key, std::vector<T>& value, Describe describe) {
        Json all = Json::array();
        for (T& item : value) {
            WriteIo inner;
            describe(inner, item);
            all.push_back(inner.take());
        }
        object_[key] = std::move(all);
    }
    /// Arithmetic dust (1e-12 mm) would make every save differ: nine digits after the point are kept,
    /// and none where there are none.
    static Json tidy(double value);
    template <class V>
    static Json vector(const V& v) {
        Json out = Json::array();
        for (int i = 0; i < v.size(); ++i) out.push_back(tidy(v[i]));
        return out;
    }

    Json object_ = Json::object();
};

/// The described structures. Instantiated for ReadIo and WriteIo.
template <class Io>
void describeProject(Io& io, model::Project& project);
template <class Io>
void describeDonor(Io& io, model::Donor& donor);
template <class Io>
void describeRuleBook(Io& io, model::RuleBook& book);
/// Figures, tubes, sheets and isolators of a further table, added to the book.
template <class Io>
void describeMoreRules(Io& io, model::RuleBook& book);
template <class Io>
void describeDriveline(Io& io, model::Driveline& driveline);
template <class Io>
void describeGearing(Io& io, model::Gearing& gearing);
template <class Io>
void describeMounts(Io& io, model::Mounts& mounts);
template <class Io>
void describeRelief(Io& io, model::Relief& relief);
template <class Io>
void describeHold(Io& io, model::HoldSigned& hold);
template <class Io>
void describeIsolator(Io& io, model::Isolator& isolator);
template <class Io>
void describeProvenance(Io& io, model::Provenance& measured);

} // namespace gabarit::store
