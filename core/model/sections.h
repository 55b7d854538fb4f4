// Sections of a project that are a discipline's own: plugged in by it, known to nobody else.
#pragma once

#include "describe/visitor.h"

#include <map>
#include <memory>
#include <string>
#include <typeindex>
#include <vector>

namespace gabarit::model {

/// What a project holds of them, by their types. Each is shared by the copies of a project and never changed in place:
/// a change makes a section of its own.
class Sections {
public:
    /// Null when it is not there: not asked.
    template <class T>
    const T* get() const {
        const auto found = held_.find(typeid(T));
        return found == held_.end() ? nullptr : static_cast<const T*>(found->second.get());
    }
    /// One of this project's own, to be changed now; an empty one when there was none.
    template <class T>
    T& edit() {
        const T* now = get<T>();
        auto own = now ? std::make_shared<T>(*now) : std::make_shared<T>();
        held_[typeid(T)] = own;
        return *own;
    }
    template <class T>
    void drop() {
        held_.erase(typeid(T));
    }
    /// The same section as another project has, or none.
    void take(std::type_index type, const Sections& from);

private:
    std::map<std::type_index, std::shared_ptr<const void>> held_;
};

/// A kind of section: its member in the file and the type that holds it.
struct SectionKind {
    const char* key;   ///< in the file, and what a discipline's card says that it reads
    const char* means; ///< for schema and docs
    int order;         ///< in the file: below 100 before the weights, from 100 after the relief
    std::type_index type;
    /// As an object that may not be there. `looks`: it is looked at and must not be copied.
    void (*describe)(describe::Visitor& visitor, const SectionKind& kind, Sections& sections, bool looks);
};

/// All kinds in their order. Not this room's: the build gathers them from the disciplines (core/sections).
const std::vector<SectionKind>& sectionKinds();

namespace detail {

template <class T>
class SectionObject : public describe::Object {
public:
    SectionObject(Sections& sections, bool looks) : sections_(sections), looks_(looks) {}
    bool optional() const override { return true; }
    bool here() const override { return sections_.get<T>() != nullptr; }
    void make() override {
        sections_.drop<T>();
        sections_.edit<T>();
    }
    void drop() override { sections_.drop<T>(); }
    void describe(describe::Visitor& visitor) override {
        if (looks_)
            describe::visit(visitor, const_cast<T&>(*sections_.get<T>()));
        else
            describe::visit(visitor, sections_.edit<T>());
    }
    void describeNew(describe::Visitor& visitor) override {
        T fresh{};
        describe::visit(visitor, fresh);
    }

private:
    Sections& sections_;
    bool looks_;
};

} // namespace detail

/// The kind whose type is T, which has a `describe(Visitor&, T&)` of its own.
template <class T>
SectionKind sectionKind(const char* key, const char* means, int order) {
    return {key, means, order, typeid(T),
            [](describe::Visitor& visitor, const SectionKind& kind, Sections& sections, bool looks) {
                detail::SectionObject<T> object(sections, looks);
                visitor.onObject(describe::Member(kind.key, kind.means), object);
            }};
}

} // namespace gabarit::model
