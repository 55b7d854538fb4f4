// Sections of a project that are a discipline's own: plugged in by it, known to nobody here.
#pragma once

#include "describe/visitor.h"
#include "model/id.h"
#include "model/refusals.h"

#include <atomic>
#include <map>
#include <memory>
#include <string>
#include <typeindex>
#include <vector>

namespace gabarit::model {

/// What a project holds of them, by their types. Copies of a project share each until one of them changes it: a change
/// is made in a copy while another project has it too. So what `get` gives stays as it is only while it is not edited
/// in the same project.
class Sections {
public:
    /// Null when it is not there: not asked.
    template <class T>
    const T* get() const {
        const auto found = held_.find(typeid(T));
        return found == held_.end() ? nullptr : static_cast<const T*>(found->second.get());
    }
    /// This project's own, to be changed; an empty one when there was none.
    template <class T>
    T& edit() {
        std::shared_ptr<void>& held = held_[typeid(T)];
        if (!held)
            held = std::make_shared<T>();
        else if (held.use_count() > 1)
            held = std::make_shared<T>(*static_cast<const T*>(held.get()));
        else
            std::atomic_thread_fence(std::memory_order_acquire); // whoever had it too has read it by now
        return *static_cast<T*>(held.get());
    }
    /// The same; null, not an empty one, when it is not there.
    template <class T>
    T* own() {
        return get<T>() ? &edit<T>() : nullptr;
    }
    template <class T>
    void drop() {
        held_.erase(typeid(T));
    }
    /// The same section as another project has, or none.
    void take(std::type_index type, const Sections& from);

private:
    std::map<std::type_index, std::shared_ptr<void>> held_;
};

/// A kind of section: its member in the file and the type that holds it.
struct SectionKind {
    const char* key;   ///< in the file, and what a discipline's card says that it reads
    const char* means; ///< for schema and docs
    const char* entry; ///< of a list: what one of its entries is called
    int order;         ///< in the file, behind what is the model's
    std::type_index type;
    /// As an object or a list that may not be there. `looks`: it is looked at and must not be copied.
    void (*describe)(describe::Visitor& visitor, const SectionKind& kind, Sections& sections, bool looks);
    /// What is wrong with several of its members together; nothing when it is not there.
    void (*refuse)(const Sections& sections, Refusals& found);
    /// A body is taken out that it may say to be somewhere at: `at_mm` is where its middle was, its owner's frame;
    /// nothing when its owner goes too. What names it is emptied afterwards for all. Null: nothing to be done.
    void (*bodyGoes)(Sections& sections, const BodyRef& body, const std::optional<Eigen::Vector3d>& at_mm) = nullptr;
};

/// All kinds in their order. Not this room's: the build gathers them from the disciplines (core/sections).
const std::vector<SectionKind>& sectionKinds();

namespace detail {

/// Goes through a section, or its entry, in place when it is only looked at.
template <class T>
T& reached(Sections& sections, bool looks) {
    return looks ? const_cast<T&>(*sections.get<T>()) : sections.edit<T>();
}

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
    void describe(describe::Visitor& visitor) override { describe::visit(visitor, reached<T>(sections_, looks_)); }
    void describeNew(describe::Visitor& visitor) override {
        T fresh{};
        describe::visit(visitor, fresh);
    }

private:
    Sections& sections_;
    bool looks_;
};

template <class Entry>
class SectionList : public describe::List {
public:
    using T = std::vector<Entry>;
    SectionList(Sections& sections, bool looks) : sections_(sections), looks_(looks) {}
    bool optional() const override { return true; }
    bool here() const override { return sections_.get<T>() != nullptr; }
    void make() override {
        sections_.drop<T>();
        sections_.edit<T>();
    }
    std::size_t size() const override { return here() ? sections_.get<T>()->size() : 0; }
    void add() override { sections_.edit<T>().emplace_back(); }
    void drop(std::size_t index) override {
        T& all = sections_.edit<T>();
        all.erase(all.begin() + static_cast<std::ptrdiff_t>(index));
    }
    void describe(describe::Visitor& visitor, std::size_t index) override {
        describe::visit(visitor, reached<T>(sections_, looks_)[index]);
    }
    void describeNew(describe::Visitor& visitor) override {
        Entry fresh{};
        describe::visit(visitor, fresh);
    }

private:
    Sections& sections_;
    bool looks_;
};

template <class T, void (*Refuse)(const T&, Refusals&)>
void refuseIn(const Sections& sections, Refusals& found) {
    if constexpr (Refuse != nullptr)
        if (const T* its = sections.get<T>()) Refuse(*its, found);
}

} // namespace detail

/// The kind whose type is T, which has a `describe(Visitor&, T&)` of its own, and may have rules over several members.
template <class T, void (*Refuse)(const T&, Refusals&) = nullptr>
SectionKind sectionKind(const char* key, const char* means, int order) {
    return {key,
            means,
            "",
            order,
            typeid(T),
            [](describe::Visitor& visitor, const SectionKind& kind, Sections& sections, bool looks) {
                detail::SectionObject<T> object(sections, looks);
                visitor.onObject(describe::Member(kind.key, kind.means), object);
            },
            detail::refuseIn<T, Refuse>,
            nullptr};
}

/// A section that is a list of entries: sections are told apart by their types, so no other may be one of them too.
template <class Entry>
SectionKind sectionList(const char* key, const char* means, int order, const char* entry) {
    return {key,
            means,
            entry,
            order,
            typeid(std::vector<Entry>),
            [](describe::Visitor& visitor, const SectionKind& kind, Sections& sections, bool looks) {
                detail::SectionList<Entry> list(sections, looks);
                visitor.onList(describe::Member(kind.key, kind.means).each(kind.entry), list);
            },
            [](const Sections&, Refusals&) {},
            nullptr};
}

} // namespace gabarit::model
