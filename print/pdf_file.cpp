#include "print/pdf_file.h"

#include <QBuffer>
#include <QSaveFile>

namespace gabarit::print {

Result<void> writePdf(const std::string& path, const std::string& title, int resolution, const QPageLayout& layout,
                      const std::function<void(QPdfWriter& writer)>& draw) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setResolution(resolution);
        writer.setPageLayout(layout);
        writer.setTitle(QString::fromStdString(title));
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
