// Reading and writing of described structures as JSON. Internal to the room: the only headers that know the JSON
// library.
#pragma once

#include "model/describe.h"

#include <nlohmann/json.hpp>

#include <set>

namespace gabarit::store {

using Json = nlohmann::ordered_json;

inline const char* const project_format = "gabarit-project";
inline const char* const donor_format = "gabarit-donor";

/// Parses text that came from `file`; errors name line and column. Nesting deeper than 64 is refused.
Result<Json> parseJson(const std::string& text, const std::string& file);

/// Deterministic text: two spaces, what fits in 110 columns stays on one line.
std::string prettyText(const Json& json);

/// Takes members out of a JSON object. The first thing wrong is kept; after it all reading is a no-op.
class ReadIo : public describe::Visitor {
public:
    ReadIo(const Json& object, std::string path, std::optional<Error>& error);

    bool fills() const override { return true; }
    void refuse(const std::string& key, const std::string& what, const std::string& mend) override;

    void onText(const describe::Member& m, std::string& value) override;
    void onNumber(const describe::Member& m, double& value) override;
    void onOptional(const describe::Member& m, std::optional<double>& value) override;
    void onFlag(const describe::Member& m, bool& value) override;
    void onPoint(const describe::Member& m, Eigen::Vector3d& value) override;
    void onOptional(const describe::Member& m, std::optional<Eigen::Vector3d>& value) override;
    void onPoints(const describe::Member& m, std::vector<Eigen::Vector3d>& value) override;
    void onPoints(const describe::Member& m, std::vector<Eigen::Vector2d>& value) override;
    void onTexts(const describe::Member& m, std::vector<std::string>& value) override;
    void onFigures(const describe::Member& m, std::map<std::string, double>& value) override;
    void onChoice(const describe::Member& m, const describe::Words& words, int& place) override;
    void onObject(const describe::Member& m, describe::Object& value) override;
    void onList(const describe::Member& m, describe::List& value) override;
    void onForms(const describe::Member& m, const describe::Words& words, describe::Forms& value) override;
    /// Takes what is unknown here, and in the objects below that keep no extras of their own: see describe::Extras.
    void onExtras(describe::Extras& extras) override;

private:
    const Json* member(const describe::Member& m);
    void keepStrays(ReadIo& inner, const std::string& key);
    std::string at(const std::string& key) const { return path_.empty() ? key : path_ + "." + key; }
    void tidyText(const describe::Member& m, std::string& text);
    bool readNumber(const Json& json, const std::string& key, double& value);
    template <class V>
    bool readVector(const Json& json, const std::string& key, V& value);
    template <class V>
    void readVectors(const describe::Member& m, std::vector<V>& value);
    /// The place of the word that stands there; −1: it is none of them.
    int wordAt(const Json& json, const describe::Member& m, const describe::Words& words);

    const Json& object_;
    std::string path_;
    std::optional<Error>& error_;
    std::set<std::string> known_;
    describe::Extras strays_; ///< of the objects below, by JSON pointer from here
    bool extras_taken_ = false;
};

/// Puts members into a JSON object, in the order they are described; what is as it is when left out is left out.
class WriteIo : public describe::Visitor {
public:
    Json take() { return std::move(object_); }
    void raw(const char* key, Json value) { object_[key] = std::move(value); }

    void onText(const describe::Member& m, std::string& value) override;
    void onNumber(const describe::Member& m, double& value) override;
    void onOptional(const describe::Member& m, std::optional<double>& value) override;
    void onFlag(const describe::Member& m, bool& value) override;
    void onPoint(const describe::Member& m, Eigen::Vector3d& value) override;
    void onOptional(const describe::Member& m, std::optional<Eigen::Vector3d>& value) override;
    void onPoints(const describe::Member& m, std::vector<Eigen::Vector3d>& value) override;
    void onPoints(const describe::Member& m, std::vector<Eigen::Vector2d>& value) override;
    void onTexts(const describe::Member& m, std::vector<std::string>& value) override;
    void onFigures(const describe::Member& m, std::map<std::string, double>& value) override;
    void onChoice(const describe::Member& m, const describe::Words& words, int& place) override;
    void onObject(const describe::Member& m, describe::Object& value) override;
    void onList(const describe::Member& m, describe::List& value) override;
    void onForms(const describe::Member& m, const describe::Words& words, describe::Forms& value) override;
    void onExtras(describe::Extras& extras) override;

private:
    Json object_ = Json::object();
};

} // namespace gabarit::store
