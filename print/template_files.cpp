#include "print/template_files.h"

#include "quantity/number.h"
#include "quantity/quantity.h"
#include "store/safe_file.h"

#include <dxflib/dl_dxf.h>

#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QXmlStreamWriter>

#include <cctype>
#include <memory>

namespace gabarit::print {
namespace {

using Eigen::Vector2d;
using relief::FlatPattern;

constexpr double border_mm = 10;
constexpr double file_letter_mm = 4;
constexpr double line_mm = 0.2;
constexpr int black = 7, red = 1, blue = 5;
const char* const layers[] = {"CUT", "BEND", "MARK"};

Error cannotWrite(const std::string& path, const QString& why) {
    return Error{"it cannot be written (" + why.toStdString() + ")", path, "save into a folder that you may write to"};
}

Result<void> save(const QByteArray& bytes, const std::string& path) {
    return store::writeWhole(path, bytes.toStdString(), store::Former::Dropped);
}

QString number(double v) { return QString::number(v, 'f', 4); }

} // namespace

std::vector<std::string> headWords(const FlatPattern& pattern, const TemplateHead& head, const quantity::Shown& shown) {
    std::vector<std::string> out{pattern.name};
    std::string stuff = pattern.material.empty() ? "" : pattern.material + ", ";
    if (pattern.thickness_mm > 0) stuff += quantity::lengthText(pattern.thickness_mm, shown) + " thick, ";
    out.push_back(stuff + "make " + std::to_string(pattern.count));
    out.push_back("side up: " + pattern.up);
    for (const std::string& note : pattern.notes) out.push_back(note);
    out.push_back(head.project + ", " + head.date);
    return out;
}

std::string fileName(const std::string& name) {
    std::string out;
    for (const char c : name) {
        if (quantity::isLetter(c) || quantity::isDigit(c))
            out += quantity::lower(c);
        else if (!out.empty() && out.back() != '-')
            out += '-';
    }
    while (!out.empty() && out.back() == '-') out.pop_back();
    return out.empty() ? "part" : out;
}

Result<void> writeSvg(const FlatPattern& pattern, const TemplateHead& head, const std::string& path) {
    const Eigen::AlignedBox2d box = pattern.bounds();
    const auto words = headWords(pattern, head, quantity::Shown::Millimetres);
    const double wide = box.max().x() - box.min().x(), high = box.max().y() - box.min().y();
    const double below = static_cast<double>(words.size() + 1) * file_letter_mm * 1.4;
    // y runs down in this format: a pattern is drawn as it is seen, its y upwards.
    const auto x = [&](double v) { return number(v - box.min().x()); };
    const auto y = [&](double v) { return number(box.max().y() - v); };
    QByteArray bytes;
    QXmlStreamWriter xml(&bytes);
    xml.setAutoFormatting(true);
    xml.writeStartDocument();
    xml.writeStartElement(QStringLiteral("svg"));
    xml.writeDefaultNamespace(QStringLiteral("http://www.w3.org/2000/svg"));
    const double width = wide + 2 * border_mm, height = high + below + 2 * border_mm;
    xml.writeAttribute(QStringLiteral("width"), number(width) + QStringLiteral("mm"));
    xml.writeAttribute(QStringLiteral("height"), number(height) + QStringLiteral("mm"));
    xml.writeAttribute(QStringLiteral("viewBox"),
                       QStringLiteral("%1 %1 %2 %3").arg(number(-border_mm), number(width), number(height)));
    const auto group = [&](const char* id, const char* colour) {
        xml.writeStartElement(QStringLiteral("g"));
        xml.writeAttribute(QStringLiteral("id"), QLatin1String(id));
        xml.writeAttribute(QStringLiteral("fill"), QStringLiteral("none"));
        xml.writeAttribute(QStringLiteral("stroke"), QLatin1String(colour));
        xml.writeAttribute(QStringLiteral("stroke-width"), number(line_mm));
    };
    const auto line = [&](const Vector2d& a, const Vector2d& b) {
        xml.writeStartElement(QStringLiteral("line"));
        xml.writeAttribute(QStringLiteral("x1"), x(a.x()));
        xml.writeAttribute(QStringLiteral("y1"), y(a.y()));
        xml.writeAttribute(QStringLiteral("x2"), x(b.x()));
        xml.writeAttribute(QStringLiteral("y2"), y(b.y()));
        xml.writeEndElement();
    };
    const auto say = [&](double at_x, double at_y, const std::string& text) {
        xml.writeStartElement(QStringLiteral("text"));
        xml.writeAttribute(QStringLiteral("x"), number(at_x));
        xml.writeAttribute(QStringLiteral("y"), number(at_y));
        xml.writeAttribute(QStringLiteral("font-size"), number(file_letter_mm));
        xml.writeAttribute(QStringLiteral("font-family"), QStringLiteral("sans-serif"));
        xml.writeAttribute(QStringLiteral("fill"), QStringLiteral("black"));
        xml.writeAttribute(QStringLiteral("stroke"), QStringLiteral("none"));
        xml.writeCharacters(QString::fromStdString(text));
        xml.writeEndElement();
    };
    group("cut", "black");
    xml.writeStartElement(QStringLiteral("path"));
    QString d;
    for (const Vector2d& p : pattern.cut_mm)
        d += (d.isEmpty() ? QStringLiteral("M") : QStringLiteral("L")) + x(p.x()) + QLatin1Char(',') + y(p.y()) +
             QLatin1Char(' ');
    xml.writeAttribute(QStringLiteral("d"), d + QLatin1Char('Z'));
    xml.writeEndElement();
    for (const relief::FlatHole& hole : pattern.holes) {
        xml.writeStartElement(QStringLiteral("circle"));
        xml.writeAttribute(QStringLiteral("cx"), x(hole.at_mm.x()));
        xml.writeAttribute(QStringLiteral("cy"), y(hole.at_mm.y()));
        xml.writeAttribute(QStringLiteral("r"), number(hole.diameter_mm / 2));
        xml.writeEndElement();
    }
    xml.writeEndElement();
    group("bend", "blue");
    for (const relief::BendLine& bend : pattern.bends) line(bend.from_mm, bend.to_mm);
    xml.writeEndElement();
    group("mark", "red");
    for (const relief::MarkLine& mark : pattern.marks) line(mark.from_mm, mark.to_mm);
    for (std::size_t i = 0; i < words.size(); ++i)
        say(0, high + static_cast<double>(i + 1) * file_letter_mm * 1.4, words[i]);
    xml.writeEndElement();
    xml.writeEndElement();
    xml.writeEndDocument();
    return save(bytes, path);
}

Result<void> writeDxf(const FlatPattern& pattern, const TemplateHead& head, const std::string& path) {
    // The library writes files by name only: beside, then whole into place.
    QTemporaryDir folder;
    if (!folder.isValid()) return cannotWrite(path, folder.errorString());
    const std::string beside = folder.filePath(QStringLiteral("part.dxf")).toStdString();
    {
        DL_Dxf dxf;
        const std::unique_ptr<DL_WriterA> out(dxf.out(beside.c_str(), DL_Codes::AC1015));
        if (!out) return cannotWrite(path, QStringLiteral("no room for a temporary file"));
        DL_WriterA& w = *out;
        dxf.writeHeader(w);
        w.dxfString(9, "$INSUNITS"); // millimetres
        w.dxfInt(70, 4);
        w.sectionEnd();
        w.sectionTables();
        dxf.writeVPort(w);
        w.tableLinetypes(3);
        dxf.writeLinetype(w, DL_LinetypeData("BYBLOCK", "BYBLOCK", 0, 0, 0.0));
        dxf.writeLinetype(w, DL_LinetypeData("BYLAYER", "BYLAYER", 0, 0, 0.0));
        dxf.writeLinetype(w, DL_LinetypeData("CONTINUOUS", "Continuous", 0, 0, 0.0));
        w.tableEnd();
        w.tableLayers(4);
        const auto layer = [&](const char* name, int colour) {
            dxf.writeLayer(w, DL_LayerData(name, 0), DL_Attributes("", colour, 25, "CONTINUOUS", 1.0));
        };
        layer("0", black);
        layer(layers[0], black);
        layer(layers[1], blue);
        layer(layers[2], red);
        w.tableEnd();
        w.tableStyle(1);
        dxf.writeStyle(w, DL_StyleData("standard", 0, 2.5, 1.0, 0.0, 0, 2.5, "txt", ""));
        w.tableEnd();
        dxf.writeView(w);
        dxf.writeUcs(w);
        w.tableAppid(1);
        dxf.writeAppid(w, "ACAD");
        w.tableEnd();
        dxf.writeDimStyle(w, 2.5, 1.0, 0.6, 0.6, 2.5);
        dxf.writeBlockRecord(w);
        w.tableEnd();
        w.sectionEnd();
        w.sectionBlocks();
        for (const char* name : {"*Model_Space", "*Paper_Space", "*Paper_Space0"}) {
            dxf.writeBlock(w, DL_BlockData(name, 0, 0.0, 0.0, 0.0));
            dxf.writeEndBlock(w, name);
        }
        w.sectionEnd();
        w.sectionEntities();
        const auto on = [](int which) { return DL_Attributes(layers[which], 256, -1, "BYLAYER", 1.0); };
        const int closed = 1;
        dxf.writePolyline(w, DL_PolylineData(static_cast<int>(pattern.cut_mm.size()), 0, 0, closed), on(0));
        for (const Vector2d& p : pattern.cut_mm) dxf.writeVertex(w, DL_VertexData(p.x(), p.y()));
        dxf.writePolylineEnd(w);
        for (const relief::FlatHole& hole : pattern.holes)
            dxf.writeCircle(w, DL_CircleData(hole.at_mm.x(), hole.at_mm.y(), 0, hole.diameter_mm / 2), on(0));
        const auto line = [&](const Vector2d& a, const Vector2d& b, int which) {
            dxf.writeLine(w, DL_LineData(a.x(), a.y(), 0, b.x(), b.y(), 0), on(which));
        };
        for (const relief::BendLine& bend : pattern.bends) line(bend.from_mm, bend.to_mm, 1);
        for (const relief::MarkLine& mark : pattern.marks) line(mark.from_mm, mark.to_mm, 2);
        const Eigen::AlignedBox2d box = pattern.bounds();
        double y = box.min().y() - 2 * file_letter_mm;
        for (const std::string& text : headWords(pattern, head, quantity::Shown::Millimetres)) {
            const QByteArray plain = QString::fromStdString(text).toLatin1(); // what that release's readers know
            dxf.writeText(w,
                          DL_TextData(box.min().x(), y, 0, box.min().x(), y, 0, file_letter_mm, 1.0, 0, 0, 0,
                                      plain.toStdString(), "standard", 0.0),
                          on(2));
            y -= 1.5 * file_letter_mm;
        }
        w.sectionEnd();
        dxf.writeObjects(w);
        dxf.writeObjectsEnd(w);
        w.dxfEOF();
        w.close();
    }
    QFile written(QString::fromStdString(beside));
    if (!written.open(QIODevice::ReadOnly)) return cannotWrite(path, written.errorString());
    return save(written.readAll(), path);
}

} // namespace gabarit::print
