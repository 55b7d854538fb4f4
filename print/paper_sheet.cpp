#include "print/paper_sheet.h"

#include <QBuffer>
#include <QSaveFile>

namespace gabarit::print {

Result<void> writePaper(const std::string& path, const std::string& title,
                        const std::function<void(QPdfWriter& writer)>& draw) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setResolution(units_per_inch);
        writer.setPageLayout(QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Portrait, QMarginsF(0, 0, 0, 0)));
        writer.setTitle(words(title));
        writer.setCreator(QStringLiteral("Gabarit"));
        draw(writer);
    }
    QSaveFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size() || !file.commit())
        return Error{"it cannot be written (" + file.errorString().toStdString() + ")", path,
                     "save into a folder that you may write to"};
    return {};
}

} // namespace gabarit::print
