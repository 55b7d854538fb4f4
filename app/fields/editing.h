// Fields of one structure of the project: each changes one member as one named step.
#pragma once

#include "forms/entry_form.h"
#include "forms/text.h"
#include "session/session.h"

#include <QObject>

#include <algorithm>

namespace gabarit::app {

using Known = std::optional<double>;
using quantity::Dimension;

/// Field names are unique in a form: "from" and "down" make "from_down".
inline QString fieldName(const char* prefix, const char* own) {
    return *prefix ? QString::fromLatin1(prefix) + QLatin1Char('_') + QString::fromLatin1(own)
                   : QString::fromLatin1(own);
}

template <class List>
auto* byId(List& list, const std::string& id) {
    const auto found = std::find_if(list.begin(), list.end(), [&](const auto& item) { return item.id == id; });
    return found == list.end() ? nullptr : &*found;
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
        return Editing<U>(
            session_,
            [find = find_, part](model::Project& p) -> U* {
                T* item = find(p);
                return item ? part(*item) : nullptr;
            },
            what_);
    }
    /// The same, with what follows from each change in the same step.
    Editing also(std::function<void(model::Project&)> follow) const {
        Editing out = *this;
        out.also_ = std::move(follow);
        return out;
    }
    Session& session() const { return session_; }

private:
    Session& session_;
    std::function<T*(model::Project&)> find_;
    QString what_;
    std::function<void(model::Project&)> also_;
};

/// Fields of one structure.
template <class T>
class FieldsOf {
public:
    FieldsOf(std::vector<Field>& out, const Editing<T>& edit, const T& now, const char* prefix = "")
        : out_(out), edit_(edit), now_(now), prefix_(prefix) {}

    void words(const char* own, const QString& label, std::string T::*member) {
        out_.push_back(fields::words(fieldName(prefix_, own), label, now_.*member,
                                     edit_.set([member](T& item, const std::string& v) { item.*member = v; })));
    }
    void length(const char* own, const QString& label, double T::*member) {
        out_.push_back(fields::quantity(fieldName(prefix_, own), label, Dimension::Length, now_.*member,
                                        edit_.set([member](T& item, double v) { item.*member = v; })));
    }
    void length(const char* own, const QString& label, Known T::*member) {
        known(own, label, Dimension::Length, member);
    }
    void angle(const char* own, const QString& label, double T::*member) {
        out_.push_back(fields::quantity(fieldName(prefix_, own), label, Dimension::Angle, now_.*member,
                                        edit_.set([member](T& item, double v) { item.*member = v; })));
    }
    void known(const char* own, const QString& label, Dimension dimension, Known T::*member) {
        out_.push_back(fields::known(fieldName(prefix_, own), label, dimension, now_.*member,
                                     edit_.set([member](T& item, const Known& v) { item.*member = v; })));
    }
    void number(const char* own, const QString& label, Known T::*member) {
        out_.push_back(fields::number(fieldName(prefix_, own), label, now_.*member,
                                      edit_.set([member](T& item, const Known& v) { item.*member = v; })));
    }
    void flag(const char* own, const QString& label, bool T::*member) {
        out_.push_back(fields::flag(fieldName(prefix_, own), label, now_.*member,
                                    edit_.set([member](T& item, bool v) { item.*member = v; })));
    }
    template <class E>
    void choice(const char* own, const QString& label, E T::*member, std::vector<std::pair<QString, QString>> words) {
        const std::string current = words[static_cast<std::size_t>(now_.*member)].first.toStdString();
        std::vector<QString> ids;
        for (const auto& word : words) ids.push_back(word.first);
        out_.push_back(fields::choice(fieldName(prefix_, own), label, std::move(words), current,
                                      edit_.set([member, ids](T& item, const std::string& v) {
                                          for (std::size_t i = 0; i < ids.size(); ++i)
                                              if (ids[i] == q(v)) item.*member = static_cast<E>(i);
                                      })));
    }
    void place(const char* own, const QString& label, Eigen::Vector3d T::*member) {
        out_.push_back(fields::table(fieldName(prefix_, own), label,
                                     {QObject::tr("x"), QObject::tr("y"), QObject::tr("z")},
                                     Rows{{(now_.*member).x(), (now_.*member).y(), (now_.*member).z()}}, 1,
                                     edit_.set([member](T& item, const Rows& rows) {
                                         if (!rows.empty()) item.*member = {rows[0][0], rows[0][1], rows[0][2]};
                                     })));
        out_.back().most_rows = 1;
    }
    void place(const char* own, const QString& label, std::optional<Eigen::Vector3d> T::*member) {
        const auto& now = now_.*member;
        out_.push_back(fields::table(
            fieldName(prefix_, own), label, {QObject::tr("x"), QObject::tr("y"), QObject::tr("z")},
            now ? Rows{{now->x(), now->y(), now->z()}} : Rows{}, 0, edit_.set([member](T& item, const Rows& rows) {
                (item.*member).reset();
                if (!rows.empty()) item.*member = Eigen::Vector3d(rows[0][0], rows[0][1], rows[0][2]);
            })));
        out_.back().most_rows = 1;
    }
    /// A direction: bare numbers.
    void direction(const char* own, const QString& label, Eigen::Vector3d T::*member) {
        place(own, label, member);
        out_.back().dimension.reset();
    }

private:
    std::vector<Field>& out_;
    const Editing<T>& edit_;
    const T& now_;
    const char* prefix_;
};

} // namespace gabarit::app
