#include "print/pdf_file.h"

#include "store/safe_file.h"

#include <QBuffer>

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
    return store::writeWhole(path, bytes.toStdString(), store::Former::Dropped);
}

} // namespace gabarit::print
