// Values that cannot be: out of their member's range, ids that are empty or twice, words and lists that do not fit.
#pragma once

#include "describe/visitor.h"
#include "quantity/result.h"

#include <functional>
#include <set>

namespace gabarit::describe {

/// Whether a list of the rule book ("categories", "schools") holds an id.
using InBook = std::function<bool(const std::string& list, const std::string& id)>;

/// Whether what a member's text names is there.
using IsThere = std::function<bool(const Member& member, const std::string& text)>;

/// Looks at a value's members one by one. Places read "driveline, line "rear shaft", from". What speaks of several
/// members together is not its matter.
class Checker : public Visitor {
public:
    Checker(std::vector<Error>& found, const InBook& in_book, const IsThere& is_there, std::string where)
        : found_(found), in_book_(in_book), is_there_(is_there), where_(std::move(where)) {}

    void onText(const Member& m, std::string& value) override;
    void onNumber(const Member& m, double& value) override;
    void onOptional(const Member& m, std::optional<double>& value) override;
    void onFlag(const Member&, bool&) override {}
    void onPoint(const Member& m, Eigen::Vector3d& value) override;
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override;
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override;
    void onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) override;
    void onTexts(const Member& m, std::vector<std::string>& value) override;
    void onFigures(const Member& m, std::map<std::string, double>& value) override;
    void onChoice(const Member&, const Words&, int&) override {}
    void onObject(const Member& m, Object& value) override;
    void onList(const Member& m, List& value) override;
    void onForms(const Member&, const Words&, Forms& value) override { value.describe(*this); }

private:
    void say(std::string what, std::string mend);
    void count(const Member& m, std::size_t size);
    void vector(const Member& m, const Eigen::Vector3d& value);
    void id(const std::string& value);
    void there(const Member& m, const std::string& value);

    std::vector<Error>& found_;
    const InBook& in_book_;
    const IsThere& is_there_;
    std::string where_;
    std::set<std::string>* ids_ = nullptr; ///< of the list that it is an entry of
    std::set<std::string> own_ids_;        ///< of its lists that share them
};

/// What an entry of a list is called: its name, else its id, else its first text.
std::string nameOf(List& list, std::size_t index);

} // namespace gabarit::describe
