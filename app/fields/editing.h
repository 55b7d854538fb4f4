// Fields of one structure of the project: each changes one member as one named step.
#pragma once

#include "forms/entry_form.h"
#include "forms/text.h"
#include "session/session.h"

#include <QObject>

#include <algorithm>
#include <memory>

namespace gabarit::app {

using Known = std::optional<double>;

/// What is wrong in a form is told by the window too, and gone when it is mended; what the session refuses stands at
/// the field.
inline void joinForm(EntryForm& form, Session& session) {
    // Only the form's own notice goes when it is mended: another's (a full disk) stays.
    const auto own = std::make_shared<QString>(), last = std::make_shared<QString>();
    QObject::connect(&session, &Session::notice, &form, [last](const QString& words, bool) { *last = words; });
    QObject::connect(&form, &EntryForm::wrong, &session, [&session, own](const QString& words) {
        *own = words;
        emit session.notice(words, true);
    });
    QObject::connect(&form, &EntryForm::mended, &session, [&session, own, last] {
        if (!own->isEmpty() && *own == *last) emit session.notice(QString(), false);
    });
    QObject::connect(&session, &Session::notice, &form, &EntryForm::hear);
}
using quantity::Dimension;

/// Words with the sides of this vehicle, or of the thing by itself (model::sided).
inline QString sided(const model::Project& project, const std::string& owner, const QString& words) {
    return q(model::sided(project, words.toStdString(), owner));
}

template <class List>
auto* byId(List& list, const std::string& id) {
    const auto found = std::find_if(list.begin(), list.end(), [&](const auto& item) { return item.id == id; });
    return found == list.end() ? nullptr : &*found;
}

template <class Item>
Item* byId(std::vector<Item>* list, const std::string& id) {
    return list ? byId(*list, id) : nullptr;
}

/// Makes setters that change one thing of the project as one named step. `find` gives that thing in a project, or null.
template <class T>
class Editing {
public:
    Editing(Session& session, std::function<T*(model::Project&)> find, QString what)
        : session_(session), find_(std::move(find)), what_(std::move(what)) {}

    template <class Change>
    auto set(Change change) const {
        return [&session = session_, find = find_, what = what_, also = also_, change](const auto& value) {
            model::Project changed = *session.project();
            T* item = find(changed);
            if (!item) return false;
            change(*item, value);
            if (also) also(changed);
            return session.edit(QObject::tr("change %1").arg(what), std::move(changed));
        };
    }
    /// A part of it.
    template <class U>
    Editing<U> of(std::function<U*(T&)> part) const {
        Editing<U> out(
            session_,
            [find = find_, part](model::Project& p) -> U* {
                T* item = find(p);
                return item ? part(*item) : nullptr;
            },
            what_);
        out.also_ = also_;
        return out;
    }
    /// The same, its steps called after what of it changes.
    Editing named(const QString& member) const {
        Editing out = *this;
        out.what_ = QObject::tr("%1: %2").arg(what_, member);
        return out;
    }
    /// The same, with what follows from each change in the same step.
    Editing also(std::function<void(model::Project&)> follow) const {
        Editing out = *this;
        out.also_ = std::move(follow);
        return out;
    }
    Session& session() const { return session_; }

private:
    template <class>
    friend class Editing;

    Session& session_;
    std::function<T*(model::Project&)> find_;
    QString what_;
    std::function<void(model::Project&)> also_;
};

/// Of the thing of this id in a list of a section ("mounts").
template <class Section, class T>
Editing<T> editingOf(Session& session, std::vector<T> Section::*list, const std::string& id, const QString& what) {
    return Editing<T>(
        session,
        [list, id](model::Project& p) {
            auto* its = p.sections.own<Section>();
            return its ? byId(its->*list, id) : nullptr;
        },
        what);
}

} // namespace gabarit::app
