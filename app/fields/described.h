// Fields made from a structure's description: each member that has a label is a field, its unit, words and help from
// there. What a description cannot say is put between them by hand.
#pragma once

#include "fields/editing.h"

#include "model/describe.h"

#include <Eigen/Core>

#include <variant>

namespace gabarit::app {

/// What a field gives: words (of a choice: its word in the file), a number, a flag, a place, a table's rows.
using FieldValue = std::variant<std::string, std::optional<double>, bool, std::optional<Eigen::Vector3d>, Rows>;

/// What was typed is put where `path` says ("speedo.tyre", "options.1.name", of one coordinate "at_mm.0"); `label` is
/// what stands before the field. False: it was refused.
using PutValue = std::function<bool(const std::string& path, const FieldValue& value, const QString& label)>;

/// Adds the fields of what `show` describes. A field's name is its path, with underlines; `prefix` begins it.
void describedFields(std::vector<Field>& out, const model::Project& project,
                     const std::function<void(describe::Visitor&)>& show, const PutValue& put,
                     const QString& prefix = {});

/// Puts a value into a member, by its path, and makes the objects that lead there. A path that is not there changes
/// nothing.
void putMember(const std::function<void(describe::Visitor&)>& describe, const std::string& path,
               const FieldValue& value);

/// The fields of one structure of the session's project; `owner`: the vehicle or a donor's id, where it is an owner's.
template <class T>
void describedFields(std::vector<Field>& out, const Editing<T>& edit, const T& now, const QString& prefix = {},
                     const std::string& owner = {}) {
    describedFields(
        out, *edit.session().project(),
        [&now, owner](describe::Visitor& v) {
            const describe::Owned its(v, owner);
            describe::show(v, now);
        },
        [edit, owner](const std::string& path, const FieldValue& value, const QString& label) {
            return edit.named(label).set([path, owner](T& item, const FieldValue& typed) {
                putMember(
                    [&item, owner](describe::Visitor& v) {
                        const describe::Owned its(v, owner);
                        describe::visit(v, item);
                    },
                    path, typed);
            })(value);
        },
        prefix);
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

/// The entries of the list at a path of the project ("mounts/rows"), then those that the rule book ships under the
/// list's name (categories, isolators, sheets), as a choice.
Choices among(const model::Project& project, const std::string& path);

// What stands between the fields of a description. A name that is not there is a programming error and throws.
Field& fieldNamed(std::vector<Field>& fields, const QString& name);
bool hasField(const std::vector<Field>& fields, const QString& name);
void putAfter(std::vector<Field>& fields, const QString& name, Field field);
/// Takes it out where it is there.
void dropField(std::vector<Field>& fields, const QString& name);
/// Words that are to be chosen.
void chosenFrom(std::vector<Field>& fields, const QString& name, Choices choices);

} // namespace gabarit::app
