#include "kit/table_files.h"

#include "session/session.h"
#include "store/safe_file.h"

namespace gabarit::app {
namespace {
constexpr std::size_t largest_table = 16u << 20; // a spreadsheet of a hundred thousand rows
}

bool readTableFile(Session& session, const QString& path, const QString& undo,
                   const std::function<Result<model::Project>(const std::string&, const std::string&)>& work) {
    const auto text = store::readWhole(path.toStdString(), largest_table);
    const auto changed = text ? work(text.value(), path.toStdString()) : Result<model::Project>(text.error());
    if (!changed) {
        emit session.notice(
            QObject::tr("Nothing was taken from the table. %1").arg(QString::fromStdString(changed.error().line())),
            true);
        return false;
    }
    return session.edit(undo, changed.value());
}

bool writeTableFile(Session& session, const QString& path, const std::string& text) {
    const QString file = path.endsWith(QLatin1String(".csv")) ? path : path + QStringLiteral(".csv");
    const auto written = store::writeWhole(file.toStdString(), text);
    emit session.notice(
        written ? QObject::tr("The table was saved as %1.").arg(file)
                : QObject::tr("The table was not saved. %1").arg(QString::fromStdString(written.error().line())),
        !written);
    return written.ok();
}

} // namespace gabarit::app
