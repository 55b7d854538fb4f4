// Setters of a form that change one thing in the session's project.
#pragma once

#include "session/session.h"

#include <functional>

namespace gabarit::app {

/// The item with this id; null when it is not there.
template <class Item>
Item* byId(std::vector<Item>* items, const std::string& id) {
    if (items)
        for (Item& item : *items)
            if (item.id == id) return &item;
    return nullptr;
}

/// Makes setters that change what `find` finds in a copy of the project, as one step that undo names. A setter says
/// false when the thing is no longer there or the change is refused.
template <class Find>
class Changer {
public:
    Changer(Session& session, Find find) : session_(session), find_(std::move(find)) {}

    /// For a value of any kind.
    template <class Change>
    auto setter(const QString& undo, Change change) const {
        return [&session = session_, find = find_, undo, change](const auto& value) {
            model::Project changed = *session.project();
            auto* item = find(changed);
            if (!item) return false;
            change(*item, value);
            return session.edit(undo, std::move(changed));
        };
    }
    /// For a value of one kind.
    template <class Value, class Change>
    std::function<bool(Value)> set(const QString& undo, Change change) const {
        return setter(undo, change);
    }

private:
    Session& session_;
    Find find_;
};
template <class Find>
Changer(Session&, Find) -> Changer<Find>;

} // namespace gabarit::app
