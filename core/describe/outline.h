// A structure's members as a list: what schema, docs and forms are made from.
#pragma once

#include "describe/visitor.h"

#include <map>
#include <memory>

namespace gabarit::describe {

enum class Kind { Text, Number, Flag, Point, Points3, Points2, Texts, Figures, Choice, Object, List, Forms };

struct Line;
/// One of the forms that something can have.
struct Form {
    std::string word;
    std::vector<Line> lines;
};
struct Line {
    Kind kind;
    Member member;
    bool optional = false;        ///< of an object: it may be absent as a whole
    const Words* words = nullptr; ///< of a choice
    std::string of;               ///< of an object or list: the structure's name
    std::vector<Form> forms;
};

/// The structures that can be met from one, by name.
struct Outline {
    std::map<std::string, std::vector<Line>> types;
    std::vector<std::string> order; ///< as they are met
};

/// Writes a structure's lines down, and those of the structures below it.
class Outliner : public Visitor {
public:
    Outliner(Outline& outline, std::string name) : outline_(outline), name_(std::move(name)) {}

    /// The structure's name; what it said itself, if it did.
    const std::string& name() const { return name_; }
    std::vector<Line> take() { return std::move(lines_); }

    bool fills() const override { return true; }
    void type(const char* its_name) override { name_ = its_name; }
    void onText(const Member& m, std::string&) override { add(Kind::Text, m); }
    void onNumber(const Member& m, double&) override { add(Kind::Number, m); }
    void onOptional(const Member& m, std::optional<double>&) override { add(Kind::Number, m); }
    void onFlag(const Member& m, bool&) override { add(Kind::Flag, m); }
    void onPoint(const Member& m, Eigen::Vector3d&) override { add(Kind::Point, m); }
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>&) override { add(Kind::Point, m); }
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>&) override { add(Kind::Points3, m); }
    void onPoints(const Member& m, std::vector<Eigen::Vector2d>&) override { add(Kind::Points2, m); }
    void onTexts(const Member& m, std::vector<std::string>&) override { add(Kind::Texts, m); }
    void onFigures(const Member& m, std::map<std::string, double>&) override { add(Kind::Figures, m); }
    void onChoice(const Member& m, const Words& words, int&) override { add(Kind::Choice, m).words = &words; }
    void onObject(const Member& m, Object& value) override;
    void onList(const Member& m, List& value) override;
    void onForms(const Member& m, const Words& words, Forms& value) override;

private:
    Line& add(Kind kind, const Member& m);
    /// Keeps what an inner one wrote under its name.
    std::string keep(Outliner& inner);

    Outline& outline_;
    std::string name_;
    std::vector<Line> lines_;
};

/// The outline of a structure and all below it; the structure itself stands under `name`, last.
template <class T>
Outline outlineOf(const std::string& name) {
    Outline out;
    T fresh{};
    Outliner outliner(out, name);
    visit(static_cast<Visitor&>(outliner), fresh);
    out.order.push_back(name);
    out.types[name] = outliner.take();
    return out;
}

} // namespace gabarit::describe
