// Fields made from a structure's description: each member that has a label is a field, its unit, words and help from
// there.
#pragma once

#include "fields/editing.h"

#include "describe/visitor.h"

#include <Eigen/Core>

#include <variant>

namespace gabarit::app {

/// What a field gives: words (of a choice: its word in the file), a number, a flag, a place.
using FieldValue = std::variant<std::string, std::optional<double>, bool, std::optional<Eigen::Vector3d>>;

/// Adds the fields of what `show` describes. `put` is given the member's path ("speedo.tyre") and what was typed; it
/// says false when that was refused.
void describedFields(std::vector<Field>& out, const model::Project& project,
                     const std::function<void(describe::Visitor&)>& show,
                     const std::function<bool(const std::string& path, const FieldValue& value)>& put);

/// Puts a value into a member, by its path, and makes the objects that lead there. A path that is not there changes
/// nothing.
void putMember(const std::function<void(describe::Visitor&)>& describe, const std::string& path,
               const FieldValue& value);

/// The fields of one structure of the session's project.
template <class T>
void describedFields(std::vector<Field>& out, const Editing<T>& edit, const T& now) {
    describedFields(
        out, *edit.session().project(), [&now](describe::Visitor& v) { describe::show(v, now); },
        [edit](const std::string& path, const FieldValue& value) {
            return edit.set([path](T& item, const FieldValue& typed) {
                putMember([&item](describe::Visitor& v) { describe::visit(v, item); }, path, typed);
            })(value);
        });
}

/// Of a section that is a discipline's own; those of an empty one when it is not there, and then it is made.
template <class T>
void sectionFields(std::vector<Field>& out, Session& session, const QString& what) {
    const T* its = session.project()->sections.get<T>();
    describedFields(out,
                    Editing<T>(
                        session, [](model::Project& p) { return &p.sections.edit<T>(); }, what),
                    its ? *its : T{});
}

} // namespace gabarit::app
