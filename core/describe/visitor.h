// One description of each structure, many uses: `describe(visitor, value)` names the members of a value one by one, in
// the order of the file, and a visitor does with them what it is for.
#pragma once

#include "describe/extras.h"
#include "describe/member.h"

#include <Eigen/Core>

#include <utility>
#include <variant>

namespace gabarit::describe {

class Visitor;

/// An object inside of another.
class Object {
public:
    virtual ~Object() = default;
    virtual bool optional() const = 0;
    virtual bool here() const = 0;
    virtual void make() = 0;
    /// Takes away one that may not be there.
    virtual void drop() = 0;
    /// Describes it; it must be here.
    virtual void describe(Visitor& visitor) = 0;
    /// Describes one as it is when nothing was said.
    virtual void describeNew(Visitor& visitor) = 0;
};

/// A list of objects.
class List {
public:
    virtual ~List() = default;
    virtual bool optional() const = 0;
    virtual bool here() const = 0;
    /// An empty one.
    virtual void make() = 0;
    virtual std::size_t size() const = 0;
    virtual void add() = 0;
    virtual void drop(std::size_t index) = 0;
    virtual void describe(Visitor& visitor, std::size_t index) = 0;
    /// Describes an entry as it is when nothing was said.
    virtual void describeNew(Visitor& visitor) = 0;
};

/// Something that has one of several forms, each with members of its own.
class Forms {
public:
    virtual ~Forms() = default;
    virtual std::size_t now() const = 0;
    virtual void become(std::size_t form) = 0;
    virtual void describe(Visitor& visitor) = 0;
};

/// A value of an enum as a person says it.
template <class E>
std::string said(E value) {
    return words(E{})[static_cast<std::size_t>(value)].said();
}

/// A value of an enum as it stands in a file.
template <class E>
const char* inFile(E value) {
    return words(E{})[static_cast<std::size_t>(value)].file;
}

/// Goes through the members of a value.
class Visitor {
public:
    virtual ~Visitor() = default;

    /// Whether it fills the value in, or asks what there could be: members may not be there yet.
    virtual bool fills() const { return false; }
    /// What the structure is called in schema and docs; said first, if at all.
    virtual void type(const char* /*name*/) {}

    void text(const Member& m, std::string& value) { onText(m, value); }
    void number(const Member& m, double& value) { onNumber(m, value); }
    void number(const Member& m, std::optional<double>& value) { onOptional(m, value); }
    /// A whole number within the member's range.
    void number(const Member& m, int& value);
    void flag(const Member& m, bool& value) { onFlag(m, value); }
    void point(const Member& m, Eigen::Vector3d& value) { onPoint(m, value); }
    void point(const Member& m, std::optional<Eigen::Vector3d>& value) { onOptional(m, value); }
    void points(const Member& m, std::vector<Eigen::Vector3d>& value) { onPoints(m, value); }
    void points(const Member& m, std::vector<Eigen::Vector2d>& value) { onPoints(m, value); }
    void texts(const Member& m, std::vector<std::string>& value) { onTexts(m, value); }
    void figures(const Member& m, std::map<std::string, double>& value) { onFigures(m, value); }

    /// One of an enum's values, whose words `words(E)` gives in their order.
    template <class E>
    void choice(const Member& m, E& value) {
        int place = static_cast<int>(value);
        onChoice(m, words(E{}), place);
        if (place >= 0 && place != static_cast<int>(value)) value = static_cast<E>(place);
    }
    template <class E>
    void choice(const Member& m, std::optional<E>& value) {
        const int was = value ? static_cast<int>(*value) : -1;
        int place = was;
        onChoice(m, words(E{}), place);
        if (place == was) return;
        if (place < 0)
            value.reset();
        else
            value = static_cast<E>(place);
    }
    /// An object that its own `describe` describes.
    template <class T>
    void object(const Member& m, T& value);
    template <class T>
    void list(const Member& m, T& value);
    /// A list whose entries `each(visitor, entry)` describes.
    template <class T, class Each>
    void list(const Member& m, std::vector<T>& value, Each each);
    /// One of several forms: the member is the word that tells which, beside the members of that form.
    template <class... T>
    void forms(const Member& m, const Words& its_words, std::variant<T...>& value);

    void extras(Extras& value) { onExtras(value); }
    /// What was taken in cannot be.
    virtual void refuse(const std::string& /*key*/, const std::string& /*what*/, const std::string& /*mend*/) {}

    /// Whether what is described is only looked at and stays as it is: see show().
    bool looks() const { return looks_; }
    /// Whose structure is described: "vehicle" or a donor's id; empty outside of both.
    const std::string& owner() const { return owner_; }

    virtual void onText(const Member& m, std::string& value) = 0;
    virtual void onNumber(const Member& m, double& value) = 0;
    virtual void onOptional(const Member& m, std::optional<double>& value) = 0;
    virtual void onFlag(const Member& m, bool& value) = 0;
    virtual void onPoint(const Member& m, Eigen::Vector3d& value) = 0;
    virtual void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) = 0;
    virtual void onPoints(const Member& m, std::vector<Eigen::Vector3d>& value) = 0;
    virtual void onPoints(const Member& m, std::vector<Eigen::Vector2d>& value) = 0;
    virtual void onTexts(const Member& m, std::vector<std::string>& value) = 0;
    virtual void onFigures(const Member& m, std::map<std::string, double>& value) = 0;
    /// `place` of the word, −1: none.
    virtual void onChoice(const Member& m, const Words& its_words, int& place) = 0;
    virtual void onObject(const Member& m, Object& value) = 0;
    virtual void onList(const Member& m, List& value) = 0;
    virtual void onForms(const Member& m, const Words& its_words, Forms& value) = 0;
    virtual void onExtras(Extras& /*value*/) {}

protected:
    std::string owner_;

private:
    friend class Owned;
    friend class Looking;
    bool looks_ = false;
};

/// While it lives, the visitor only looks.
class Looking {
public:
    explicit Looking(Visitor& visitor) : visitor_(visitor), before_(std::exchange(visitor.looks_, true)) {}
    ~Looking() { visitor_.looks_ = before_; }
    Looking(const Looking&) = delete;
    Looking& operator=(const Looking&) = delete;

private:
    Visitor& visitor_;
    bool before_;
};

/// While it lives, what is described is an owner's.
class Owned {
public:
    Owned(Visitor& visitor, std::string owner) : visitor_(visitor), before_(std::move(owner)) { swap(); }
    ~Owned() { swap(); }
    Owned(const Owned&) = delete;
    Owned& operator=(const Owned&) = delete;

private:
    void swap() { std::swap(visitor_.owner_, before_); }
    Visitor& visitor_;
    std::string before_;
};

/// Goes everywhere and does nothing: for visitors that are about few kinds of members.
class Walker : public Visitor {
public:
    void onText(const Member&, std::string&) override {}
    void onNumber(const Member&, double&) override {}
    void onOptional(const Member& m, std::optional<double>& value) override {
        if (value) onNumber(m, *value);
    }
    void onFlag(const Member&, bool&) override {}
    void onPoint(const Member&, Eigen::Vector3d&) override {}
    void onOptional(const Member& m, std::optional<Eigen::Vector3d>& value) override {
        if (value) onPoint(m, *value);
    }
    void onPoints(const Member&, std::vector<Eigen::Vector3d>&) override {}
    void onPoints(const Member&, std::vector<Eigen::Vector2d>&) override {}
    void onTexts(const Member&, std::vector<std::string>&) override {}
    void onFigures(const Member&, std::map<std::string, double>&) override {}
    void onChoice(const Member&, const Words&, int&) override {}
    void onObject(const Member&, Object& value) override {
        if (value.here()) value.describe(*this);
    }
    void onList(const Member&, List& value) override {
        for (std::size_t i = 0; i < value.size(); ++i) value.describe(*this, i);
    }
    void onForms(const Member&, const Words&, Forms& value) override { value.describe(*this); }
};

namespace detail {

struct Nothing {};
/// Stands for the name, which is a namespace outside: the structures' own are found by their arguments.
void describe(Visitor&, Nothing&);

template <class T>
class PlainObject : public Object {
public:
    explicit PlainObject(T& value) : value_(value) {}
    bool optional() const override { return false; }
    bool here() const override { return true; }
    void make() override {}
    void drop() override {}
    void describe(Visitor& visitor) override;
    void describeNew(Visitor& visitor) override { describe(visitor); }

private:
    T& value_;
};

template <class T>
class OptionalObject : public Object {
public:
    explicit OptionalObject(std::optional<T>& value) : value_(value) {}
    bool optional() const override { return true; }
    bool here() const override { return value_.has_value(); }
    void make() override { value_.emplace(); }
    void drop() override { value_.reset(); }
    void describe(Visitor& visitor) override;
    void describeNew(Visitor& visitor) override;

private:
    std::optional<T>& value_;
};

struct ByItself {
    template <class T>
    void operator()(Visitor& visitor, T& value) const {
        describe(visitor, value);
    }
};

template <class T, class Each>
class PlainList : public List {
public:
    PlainList(std::vector<T>& value, Each each) : value_(value), each_(std::move(each)) {}
    bool optional() const override { return false; }
    bool here() const override { return true; }
    void make() override { value_.clear(); }
    std::size_t size() const override { return value_.size(); }
    void add() override { value_.emplace_back(); }
    void drop(std::size_t index) override { value_.erase(value_.begin() + static_cast<std::ptrdiff_t>(index)); }
    void describe(Visitor& visitor, std::size_t index) override { each_(visitor, value_[index]); }
    void describeNew(Visitor& visitor) override {
        T fresh{};
        each_(visitor, fresh);
    }

private:
    std::vector<T>& value_;
    Each each_;
};

template <class T>
class OptionalList : public List {
public:
    explicit OptionalList(std::optional<std::vector<T>>& value) : value_(value) {}
    bool optional() const override { return true; }
    bool here() const override { return value_.has_value(); }
    void make() override { value_.emplace(); }
    std::size_t size() const override { return value_ ? value_->size() : 0; }
    void add() override { value_->emplace_back(); }
    void drop(std::size_t index) override { value_->erase(value_->begin() + static_cast<std::ptrdiff_t>(index)); }
    void describe(Visitor& visitor, std::size_t index) override { ByItself()(visitor, (*value_)[index]); }
    void describeNew(Visitor& visitor) override {
        T fresh{};
        ByItself()(visitor, fresh);
    }

private:
    std::optional<std::vector<T>>& value_;
};

template <class Variant, std::size_t... I>
void becomeOne(Variant& value, std::size_t form, std::index_sequence<I...>) {
    ((form == I ? (void)value.template emplace<I>() : (void)0), ...);
}

template <class... T>
class VariantForms : public Forms {
public:
    explicit VariantForms(std::variant<T...>& value) : value_(value) {}
    std::size_t now() const override { return value_.index(); }
    void become(std::size_t form) override { becomeOne(value_, form, std::index_sequence_for<T...>()); }
    void describe(Visitor& visitor) override {
        std::visit([&visitor](auto& one) { ByItself()(visitor, one); }, value_);
    }

private:
    std::variant<T...>& value_;
};

template <class T>
void PlainObject<T>::describe(Visitor& visitor) {
    ByItself()(visitor, value_);
}
template <class T>
void OptionalObject<T>::describe(Visitor& visitor) {
    ByItself()(visitor, *value_);
}

template <class T>
void OptionalObject<T>::describeNew(Visitor& visitor) {
    T fresh{};
    ByItself()(visitor, fresh);
}

template <class T>
PlainObject<T> objectOf(T& value) {
    return PlainObject<T>(value);
}
template <class T>
OptionalObject<T> objectOf(std::optional<T>& value) {
    return OptionalObject<T>(value);
}
template <class T>
PlainList<T, ByItself> listOf(std::vector<T>& value) {
    return PlainList<T, ByItself>(value, {});
}
template <class T>
OptionalList<T> listOf(std::optional<std::vector<T>>& value) {
    return OptionalList<T>(value);
}

} // namespace detail

/// Goes through a value's members as its own `describe` names them: for where that name is this namespace's.
template <class T>
void visit(Visitor& visitor, T& value) {
    detail::ByItself()(visitor, value);
}

template <class T>
void Visitor::object(const Member& m, T& value) {
    auto shown = detail::objectOf(value);
    onObject(m, shown);
}
template <class T>
void Visitor::list(const Member& m, T& value) {
    auto shown = detail::listOf(value);
    onList(m, shown);
}
template <class T, class Each>
void Visitor::list(const Member& m, std::vector<T>& value, Each each) {
    detail::PlainList<T, Each> shown(value, std::move(each));
    onList(m, shown);
}
/// Shows a value to a visitor that changes nothing.
template <class T>
void show(Visitor& visitor, const T& value) {
    const Looking looking(visitor);
    detail::ByItself()(visitor, const_cast<T&>(value));
}

template <class... T>
void Visitor::forms(const Member& m, const Words& its_words, std::variant<T...>& value) {
    detail::VariantForms<T...> shown(value);
    onForms(m, its_words, shown);
}

} // namespace gabarit::describe
