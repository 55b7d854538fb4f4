// What a description is good for besides files: names that are followed, what is gone, the datum, and marks of content.
#pragma once

#include "describe/visitor.h"

#include <functional>

namespace gabarit::describe {

/// One text that names something.
struct Reference {
    const Member& member; ///< what it names, and whose
    std::string& text;
};

/// Calls with every text that names something, in lists of texts too. What is emptied in such a list goes.
class References : public Walker {
public:
    explicit References(std::function<void(Reference)> each) : each_(std::move(each)) {}
    void onText(const Member& m, std::string& value) override;
    void onTexts(const Member& m, std::vector<std::string>& value) override;

private:
    std::function<void(Reference)> each_;
};

/// Takes out what was named and is gone: texts are emptied, or the entry goes that they stand in (Gone).
class Forgetter : public Walker {
public:
    /// `gone`: whether this text names it.
    explicit Forgetter(std::function<bool(const Member&, const std::string&)> gone) : gone_(std::move(gone)) {}
    void onText(const Member& m, std::string& value) override;
    void onTexts(const Member& m, std::vector<std::string>& value) override;
    void onObject(const Member& m, Object& value) override;
    void onList(const Member& m, List& value) override;

private:
    std::function<bool(const Member&, const std::string&)> gone_;
    bool entry_goes_ = false;
};

/// Moves every place and height that is in the frame of `of` by `by_mm`.
class Shifter : public Walker {
public:
    Shifter(std::string of, const Eigen::Vector3d& by_mm) : of_(std::move(of)), by_mm_(by_mm) {}
    void onNumber(const Member& m, double& value) override;
    void onPoint(const Member& m, Eigen::Vector3d& value) override;
    using Walker::onPoints; // points in a plane of their own stay
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override;

private:
    bool moves(const Member& m) const { return m.owner == of_; }
    std::string of_;
    Eigen::Vector3d by_mm_;
};

/// Makes it its own mirror image in the plane y = 0 of the frame that it is described in.
class Mirrorer : public Walker {
public:
    void onNumber(const Member& m, double& value) override;
    void onPoint(const Member& m, Eigen::Vector3d& value) override;
    using Walker::onPoints; // points in a plane of their own stay
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override;
};

/// A mark of all that is described: equal for equal content (to the last bit of each number), another one otherwise (64
/// bits, FNV-1a).
class Marker : public Visitor {
public:
    std::uint64_t mark() const { return hash_; }

    void onText(const Member& m, std::string& value) override;
    void onNumber(const Member& m, double& value) override;
    void onOptional(const Member& m, std::optional<double>& value) override;
    void onFlag(const Member& m, bool& value) override;
    void onPoint(const Member& m, Eigen::Vector3d& value) override;
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override;
    void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) override;
    void onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) override;
    void onTexts(const Member& m, std::vector<std::string>& value) override;
    void onFigures(const Member& m, std::map<std::string, double>& value) override;
    void onChoice(const Member& m, const Words& words, int& place) override;
    void onObject(const Member& m, Object& value) override;
    void onList(const Member& m, List& value) override;
    void onForms(const Member& m, const Words& words, Forms& value) override;
    void onExtras(Extras& value) override;

private:
    void eat(const void* bytes, std::size_t size);
    void eat(const std::string& text);
    void eat(std::size_t number) { eat(&number, sizeof number); }
    void eat(double number);
    std::uint64_t hash_ = 1469598103934665603ull;
};

template <class T>
std::uint64_t markOf(const T& value) {
    Marker marker;
    show(static_cast<Visitor&>(marker), value);
    return marker.mark();
}

} // namespace gabarit::describe
