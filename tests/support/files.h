// Projects read, written and read again, and what is wrong with them.
#pragma once

#include "store/project_file.h"
#include "store/rule_book.h"

#include <QStringList>

namespace gabarit::tests {

inline model::Project demo(const std::string& name) {
    return store::readProject(GABARIT_SOURCE_DIR "/data/demo/" + name + ".gabarit", store::defaultRuleBook())
        .value()
        .project;
}
inline model::Project again(const model::Project& project) {
    return store::projectFromText(store::projectText(project), "text", store::defaultRuleBook()).value().project;
}
inline QString wrong(const model::Project& project) {
    QStringList out;
    for (const Error& error : model::validate(project, store::defaultRuleBook()))
        out << QString::fromStdString(error.line());
    return out.join(QLatin1Char('\n'));
}

} // namespace gabarit::tests
