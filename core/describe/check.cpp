#include "describe/check.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace gabarit::describe {
namespace {

/// A direction shorter than this has none.
constexpr double no_length = 1e-9;

class Namer : public Walker {
public:
    void onText(const Member& m, std::string& value) override {
        if (std::strcmp(m.key, "name") == 0) name = value;
        if (first.empty()) first = value;
    }
    void onObject(const Member&, Object&) override {}
    void onList(const Member&, List&) override {}
    std::string name, first;
};

std::string listed(const Words& words) {
    std::string out;
    for (const char* word : words) out += (out.empty() ? "" : ", ") + std::string(word);
    return out;
}

bool isOneOf(const Words& words, const std::string& value) {
    return std::any_of(words.begin(), words.end(), [&value](const Word& word) { return value == word.file; });
}

struct Called {
    const char* what;
    const char* mend;
};
/// What a text names, and how to name one that is there.
Called called(Target target) {
    switch (target) {
    case Target::Body: return {"body", "name one of its owner's bodies"};
    case Target::BodyPath: return {"body", "write owner/body-id of one that is there"};
    case Target::Point: return {"point", "name one of its owner's points"};
    case Target::Owner: return {"owner", "write vehicle or a donor's id"};
    case Target::Donor: return {"donor", "name one of the donors"};
    case Target::Placement: return {"placement", "name one of the placements"};
    case Target::ChoicePath: return {"choice", "write vehicle/choice-id or donor-id/choice-id"};
    case Target::OptionPath: return {"option", "write owner/choice-id/option-id of one that is there"};
    case Target::Option: return {"option", "write one of its owner's choices and options"};
    case Target::Part: return {"part", "name one in the list of parts"};
    case Target::FreeVolume: return {"free volume", "name one of the vehicle's free volumes"};
    case Target::None:
    case Target::ItemPath: break;
    }
    return {"thing", "name one that is there"};
}

std::string join(const std::string& where, const std::string& what) {
    return where.empty() ? what : where + ", " + what;
}

} // namespace

std::string nameOf(List& list, std::size_t index) {
    Namer namer;
    list.describe(namer, index);
    return namer.name.empty() ? namer.first : namer.name;
}

void Checker::say(std::string what, std::string mend) {
    found_.push_back(Error{std::move(what), where_, std::move(mend)});
}

void Checker::id(const std::string& value) {
    if (value.empty())
        say("its id is empty", "give it an id");
    else if (value.find('/') != std::string::npos)
        say("its id \"" + value + "\" holds a slash", "take the slash out");
    else if (ids_ && !ids_->insert(value).second)
        say("the id \"" + value + "\" is used twice", "give one of them another id");
}

void Checker::there(const Member& m, const std::string& value) {
    if (!m.there || value.empty() || !is_there_ || is_there_(m, value)) return;
    const auto [what, mend] = called(m.target);
    found_.push_back(Error{std::string("there is no ") + what + " \"" + value + "\", named by \"" + m.key + "\"",
                           where_.empty() ? m.key : where_,
                           m.required ? mend : mend + std::string(", or leave it out")});
}

void Checker::onText(const Member& m, std::string& value) {
    const std::string key = m.key;
    if (m.is_id) return id(value);
    if (value.empty()) {
        if (m.filled) say(key == "name" ? "it has no name" : "no " + key + " is given", "give it");
        return;
    }
    if (m.words && !isOneOf(*m.words, value))
        say("its " + key + " \"" + value + "\" is not known", "use one of: " + listed(*m.words));
    there(m, value);
    if (*m.from && in_book_ && !in_book_(m.from, value))
        say("the " + key + " \"" + value + "\" is not known", "use one of docs/format.md's list");
    if (key == "picture") {
        const auto has = [&value](const char* part) { return value.find(part) != std::string::npos; };
        const bool leaves = value[0] == '/' || value == ".." || value.rfind("../", 0) == 0 || has("/../") ||
                            (value.size() > 2 && value.compare(value.size() - 3, 3, "/..") == 0) || has("\\");
        if (leaves)
            say("its picture lies outside the project's folder", "put it beside the project and name it from there");
    }
}

void Checker::onNumber(const Member& m, double& value) {
    if (!m.low && !m.high) {
        if (!std::isfinite(value)) say(std::string(m.key) + " is not a number", "check it");
        return;
    }
    if (const auto wrong = outOfRange(m, value)) say(*wrong, rangeMend(m));
}

void Checker::onOptional(const Member& m, std::optional<double>& value) {
    if (!value) return;
    if (const auto wrong = outOfRange(m, *value); wrong && (m.low || m.high))
        say(*wrong, rangeMend(m) + ", or leave it out");
    else if (!std::isfinite(*value))
        say(std::string(m.key) + " is not a number", "check it");
}

void Checker::vector(const Member& m, const Eigen::Vector3d& v) {
    const std::string key = m.key;
    const bool lengths = v.allFinite() && v.cwiseAbs().maxCoeff() <= longest_mm;
    switch (m.vector.value_or(Vector::Figures)) {
    case Vector::Place:
    case Vector::Shift:
        if (!lengths) say("a coordinate of " + key + " is not a length below 1 km", "check its digits and unit (mm)");
        break;
    case Vector::Direction:
        if (!v.allFinite() || v.norm() < no_length) say(key + " has no direction", "give it any length above zero");
        break;
    case Vector::Size:
        if (!lengths || v.minCoeff() < thinnest_mm) say("a size is not above zero", "give three sizes in mm");
        break;
    case Vector::Extent:
        if (!lengths || v.minCoeff() < 0) say(key + " is below zero", "give its extent along x, y and z in mm");
        break;
    case Vector::Figures:
        if (!v.allFinite()) say(key + " is not three numbers", "check them");
        break;
    }
}

void Checker::onPoint(const Member& m, Eigen::Vector3d& value) { vector(m, value); }

void Checker::onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) {
    if (value) vector(m, *value);
}

void Checker::onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) {
    count(m, value.size());
    for (const Eigen::Vector3d& v : value) vector(m, v);
}

void Checker::onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) {
    count(m, value.size());
    for (const Eigen::Vector2d& v : value) vector(m, {v.x(), v.y(), 0});
}

void Checker::onTexts(const Member& m, std::vector<std::string>& value) {
    count(m, value.size());
    for (const std::string& text : value) there(m, text);
    if (!m.words) return;
    for (const std::string& text : value)
        if (!isOneOf(*m.words, text)) say("\"" + text + "\" is not one of those allowed", "use " + listed(*m.words));
}

void Checker::onFigures(const Member& m, std::map<std::string, double>& value) {
    for (const auto& [name, figure] : value)
        if (const auto wrong = outOfRange(m, figure)) say(*wrong, rangeMend(m));
}

void Checker::count(const Member& m, std::size_t size) {
    const std::string key = m.key;
    if (size > m.most)
        say("there are more than " + std::to_string(m.most) + " " + key,
            "leave out what is not needed, or take several as one");
    if (size < m.least)
        say(m.least == 1 ? "there are no " + key : "there are fewer than " + std::to_string(m.least) + " " + key,
            "give at least " + std::to_string(m.least));
}

void Checker::onObject(const Member& m, Object& value) {
    if (!value.here()) return;
    Checker inner(found_, in_book_, is_there_, join(where_, m.key));
    const Owned as_here(inner, owner());
    value.describe(inner);
}

void Checker::onList(const Member& m, List& value) {
    if (!value.here()) return;
    count(m, value.size());
    if (value.size() > m.most) return;
    std::set<std::string> ids;
    for (std::size_t i = 0; i < value.size(); ++i) {
        std::string name = nameOf(value, i);
        name = name.empty() ? " " + std::to_string(i + 1) : " \"" + name + "\"";
        Checker inner(found_, in_book_, is_there_, join(where_, (*m.entry ? m.entry : m.key) + name));
        const Owned as_here(inner, owner());
        inner.ids_ = m.one_book ? &own_ids_ : &ids;
        value.describe(inner, i);
    }
}

} // namespace gabarit::describe
