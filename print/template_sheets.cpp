#include "print/template_sheets.h"

#include "make/cut_list.h"
#include "mounts/mounts.h"
#include "print/paper_sheet.h"
#include "relief/relief.h"

#include <QDir>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <map>

namespace gabarit::print {
namespace {

using Eigen::Vector2d;
using relief::FlatPattern;

constexpr double head_mm = 36; // of words above a field
constexpr double foot_mm = 20; // of bars and the map below it
constexpr double letter_mm = 3;
constexpr double thin_mm = 0.18;
constexpr double cross_mm = 4;
constexpr double bar_mm = 100, bar_in = 4, mm_per_in = 25.4;
constexpr int resolution = 1200;
const QSizeF a4(210, 297), us_letter(215.9, 279.4);

FlatPattern quarterTurned(FlatPattern p) {
    const auto turn = [](Vector2d& v) { v = Vector2d(-v.y(), v.x()); };
    for (Vector2d& v : p.cut_mm) turn(v);
    for (relief::FlatHole& hole : p.holes) turn(hole.at_mm);
    for (relief::BendLine& bend : p.bends) turn(bend.from_mm), turn(bend.to_mm);
    for (relief::MarkLine& mark : p.marks) turn(mark.from_mm), turn(mark.to_mm);
    return p;
}

class TemplatePages {
public:
    TemplatePages(QPdfWriter& writer, const study::Reports& reports, const model::RuleBook& book,
                  const TemplateOptions& options)
        : writer_(writer), reports_(reports), book_(book),
          options_(options), head_{reports.project->name, options.date}, margin_(book.figure("tile_margin_mm")) {}

    void list() {
        const QSizeF sheet = options_.paper == "letter" ? us_letter : a4;
        page(sheet);
        double y = margin_ + 6;
        say(margin_, y, 5, QObject::tr("What to cut"), true);
        say(margin_, y += 6, letter_mm, words(head_.project + ", " + head_.date));
        y += 8;
        const double columns[] = {margin_, margin_ + 88, margin_ + 132, margin_ + 152};
        const auto row = [&](const QStringList& cells, bool bold) {
            if (y > sheet.height() - margin_ - 30) page(sheet), y = margin_ + 6;
            for (int i = 0; i < cells.size(); ++i) say(columns[i], y, letter_mm, cells[i], bold);
            y += 5.2;
        };
        row({QObject::tr("part"), QObject::tr("material"), QObject::tr("make"), QObject::tr("size")}, true);
        for (const FlatPattern& p : reports_.of<relief::ReliefReport>()
                                        ? reports_.of<relief::ReliefReport>()->patterns()
                                        : std::vector<FlatPattern>()) {
            if (p.member) continue;
            const Eigen::AlignedBox2d box = p.bounds();
            row({words(p.name), words(p.material), QString::number(p.count),
                 words(length(box.max().x() - box.min().x()) + " × " + length(box.max().y() - box.min().y()) + " × " +
                       length(p.thickness_mm))},
                false);
        }
        const make::CutList tubes = make::cutList(reports_, book_);
        if (!tubes.bars.empty() || !tubes.longer_than.empty()) {
            y += 5;
            row({QObject::tr("tubes from bars"), QObject::tr("tube"), QString(), QObject::tr("left of the bar")}, true);
            for (const relief::Bar& bar : tubes.bars) {
                const std::string size = length(bar.diameter_mm) +
                                         (bar.height_mm > 0 ? " × " + length(bar.height_mm) : "") + " × " +
                                         length(bar.wall_mm);
                for (std::size_t i = 0; i < bar.pieces.size(); ++i) // a row each: many come from one bar
                    row({words(bar.pieces[i].first + ": " + length(bar.pieces[i].second)),
                         i == 0 ? words(size) : QString(), QString(), i == 0 ? words(length(bar.left_mm)) : QString()},
                        false);
            }
            for (const std::string& piece : tubes.longer_than) row({words(piece + ": longer than a bar")}, false);
            row({QObject::tr("Arms and members along their middle: add what a cope or mitre takes.")}, false);
        }
        y += 6;
        std::vector<const char*> abouts;
        if (reports_.of<relief::ReliefReport>()) abouts = {"relief/cut", "relief/work"};
        if (reports_.of<mounts::MountsReport>()) abouts.push_back("mounts/weld");
        for (const char* about : abouts) {
            const QString text = words(model::cautionAbout(book_, about));
            y += paragraph(margin_, y, sheet.width() - 2 * margin_, text) + 3;
        }
    }

    void pattern(const FlatPattern& as_it_is) {
        const auto spread = [&](const FlatPattern& p) {
            const Eigen::AlignedBox2d box = p.bounds();
            return tilingFor(
                QSizeF(box.max().x() - box.min().x() + 2 * air_mm, box.max().y() - box.min().y() + 2 * air_mm),
                options_.paper, book_);
        };
        // A quarter turn where that takes fewer pages.
        const FlatPattern turned = quarterTurned(as_it_is);
        const Tiling flat = spread(as_it_is), upright = spread(turned);
        const bool turn = upright.across * upright.down < flat.across * flat.down;
        const FlatPattern& p = turn ? turned : as_it_is;
        const Tiling& tiling = turn ? upright : flat;
        for (int row = 0; row < tiling.down; ++row)
            for (int column = 0; column < tiling.across; ++column) tile(p, tiling, row, column);
    }

private:
    static constexpr double air_mm = 5; // round a drawing

    std::string length(double mm) const { return quantity::lengthText(mm, options_.shown); }

    void page(const QSizeF& sheet) {
        writer_.setPageLayout(QPageLayout(QPageSize(sheet, QPageSize::Millimeter, QString(), QPageSize::ExactMatch),
                                          QPageLayout::Portrait, QMarginsF()));
        if (painter_.isActive())
            writer_.newPage();
        else
            painter_.begin(&writer_);
        painter_.resetTransform();
        painter_.setClipping(false);
        const double scale = resolution / mm_per_in;
        painter_.scale(scale, scale); // from here on in millimetres
    }
    void pen(const QColor& colour, double width = thin_mm, Qt::PenStyle style = Qt::SolidLine) {
        painter_.setPen(QPen(colour, width, style, Qt::FlatCap, Qt::MiterJoin));
    }
    QFont fontOf(bool bold) {
        QFont font(QStringLiteral("Lato"));
        font.setPixelSize(100); // drawn a hundred high and scaled: whole pixels are too coarse for millimetres
        font.setBold(bold);
        font.setLetterSpacing(QFont::AbsoluteSpacing, 0.02);
        return font;
    }
    void say(double x, double y, double high_mm, const QString& text, bool bold = false) {
        painter_.save();
        painter_.translate(x, y);
        painter_.scale(high_mm / 100, high_mm / 100);
        painter_.setFont(fontOf(bold));
        painter_.setPen(Qt::black);
        painter_.drawText(QPointF(0, 0), text);
        painter_.restore();
    }
    double paragraph(double x, double y, double wide, const QString& text) {
        painter_.save();
        painter_.translate(x, y);
        painter_.scale(letter_mm / 100, letter_mm / 100);
        painter_.setFont(fontOf(true));
        painter_.setPen(Qt::black);
        QRectF drawn;
        painter_.drawText(QRectF(0, 0, wide * 100 / letter_mm, 1e5), Qt::TextWordWrap, text, &drawn);
        painter_.restore();
        return drawn.height() * letter_mm / 100;
    }
    void bars(double x, double y) {
        const auto bar = [&](double top, double mm, const QString& name) {
            pen(Qt::black);
            painter_.drawLine(QPointF(x, top), QPointF(x + mm, top));
            for (const double end : {0.0, mm})
                painter_.drawLine(QPointF(x + end, top - 1.5), QPointF(x + end, top + 1.5));
            say(x + mm + 2, top + 1, letter_mm, name);
        };
        bar(y, bar_mm, QObject::tr("100 mm: measure it on the print"));
        bar(y + 6, bar_in * mm_per_in, QObject::tr("4 in"));
    }

    void tile(const FlatPattern& p, const Tiling& tiling, int row, int column) {
        page(tiling.page_mm);
        const bool many = tiling.across * tiling.down > 1;
        const auto nameOf = [](int r, int c) {
            return QString(QLatin1Char(static_cast<char>('A' + r % 26))) + QString::number(c + 1);
        };
        const QString name = nameOf(row, column);
        double y = margin_ + 4;
        const auto head = headWords(p, head_, options_.shown);
        say(margin_, y, 4, words(head.front()), true);
        for (std::size_t i = 1; i < head.size(); ++i) {
            // Two columns where there are many notes.
            const std::size_t rows = 6, k = i - 1;
            say(margin_ + (k < rows ? 0 : tiling.field_mm.width() / 2),
                margin_ + 9 + static_cast<double>(k % rows) * 4.2, letter_mm, words(head[i]));
        }
        const QPointF origin(margin_, margin_ + head_mm);
        const QRectF field(origin, tiling.field_mm);
        const double left = tiling.left(column), top = tiling.top(row);
        const Eigen::AlignedBox2d box = p.bounds();
        const auto at = [&](const Vector2d& q) {
            return QPointF(origin.x() + q.x() - box.min().x() + air_mm - left,
                           origin.y() + box.max().y() - q.y() + air_mm - top);
        };
        painter_.save();
        painter_.setClipRect(field);
        pen(Qt::black, 0.3, p.member ? Qt::DashLine : Qt::SolidLine);
        QPolygonF outline;
        for (const Vector2d& q : p.cut_mm) outline << at(q);
        painter_.setBrush(Qt::NoBrush);
        painter_.drawPolygon(outline);
        for (const relief::FlatHole& hole : p.holes) {
            const QPointF middle = at(hole.at_mm);
            pen(Qt::black, 0.3);
            painter_.drawEllipse(middle, hole.diameter_mm / 2, hole.diameter_mm / 2);
            pen(Qt::black);
            painter_.drawLine(middle - QPointF(hole.diameter_mm, 0), middle + QPointF(hole.diameter_mm, 0));
            painter_.drawLine(middle - QPointF(0, hole.diameter_mm), middle + QPointF(0, hole.diameter_mm));
            say(middle.x() + hole.diameter_mm / 2 + 1, middle.y() - 1, letter_mm,
                words(hole.name + " " + length(hole.diameter_mm)));
        }
        for (const relief::BendLine& bend : p.bends) {
            pen(paper.shaft, 0.25, Qt::DashDotLine);
            painter_.drawLine(at(bend.from_mm), at(bend.to_mm));
            pen(paper.shaft, thin_mm, Qt::DotLine); // where the bend begins and ends
            for (const double side : {-0.5, 0.5}) {
                const Vector2d along = (bend.to_mm - bend.from_mm).normalized();
                const Vector2d off = Vector2d(-along.y(), along.x()) * bend.width_mm * side;
                painter_.drawLine(at(bend.from_mm + off), at(bend.to_mm + off));
            }
            const QPointF place = at((bend.from_mm + bend.to_mm) / 2);
            painter_.save();
            painter_.translate(place);
            if (std::abs(bend.to_mm.y() - bend.from_mm.y()) > std::abs(bend.to_mm.x() - bend.from_mm.x()))
                painter_.rotate(-90);
            say(-14, -1, letter_mm,
                words("up " + quantity::fixed(bend.angle_deg, 1) + "°, inside " + length(bend.inside_mm)));
            painter_.restore();
        }
        for (const relief::MarkLine& mark : p.marks) {
            pen(paper.second_ink);
            painter_.drawLine(at(mark.from_mm), at(mark.to_mm));
            if (!mark.words.empty()) {
                const QPointF place = at(mark.from_mm);
                say(place.x() + 1, place.y() - 1, letter_mm, words(mark.words));
            }
        }
        painter_.restore();
        pen(paper.rule);
        painter_.drawRect(field);
        if (many) {
            // The same cross on all pages that share a corner of the grid: laid over one another they make one.
            for (int r = 0; r <= tiling.down; ++r)
                for (int c = 0; c <= tiling.across; ++c) {
                    const QPointF node(origin.x() + tiling.left(c) + tiling.overlap_mm / 2 - left,
                                       origin.y() + tiling.top(r) + tiling.overlap_mm / 2 - top);
                    if (!field.contains(node)) continue;
                    pen(Qt::black);
                    painter_.drawLine(node - QPointF(cross_mm, 0), node + QPointF(cross_mm, 0));
                    painter_.drawLine(node - QPointF(0, cross_mm), node + QPointF(0, cross_mm));
                    painter_.drawEllipse(node, cross_mm / 2, cross_mm / 2);
                }
            // A map of the pages, this one filled.
            const double cell = std::min(5.0, 14.0 / std::max(tiling.down, 1));
            const QPointF corner(tiling.page_mm.width() - margin_ - cell * tiling.across, field.bottom() + 3);
            for (int r = 0; r < tiling.down; ++r)
                for (int c = 0; c < tiling.across; ++c) {
                    const QRectF spot(corner.x() + c * cell, corner.y() + r * cell, cell, cell);
                    pen(Qt::black);
                    painter_.setBrush(r == row && c == column ? QBrush(paper.second_ink) : QBrush(Qt::NoBrush));
                    painter_.drawRect(spot);
                }
            painter_.setBrush(Qt::NoBrush);
            say(corner.x() - 36, field.bottom() + 13, letter_mm,
                QObject::tr("page %1 of %2 × %3").arg(name).arg(tiling.down).arg(tiling.across));
        }
        bars(margin_ + 1, field.bottom() + 6);
    }

    QPdfWriter& writer_;
    QPainter painter_;
    const study::Reports& reports_;
    const model::RuleBook& book_;
    const TemplateOptions& options_;
    TemplateHead head_;
    double margin_;
};

} // namespace

Tiling tilingFor(const QSizeF& drawing, const std::string& sheet, const model::RuleBook& book) {
    const double white_mm = book.figure("tile_margin_mm");
    Tiling out;
    out.overlap_mm = book.figure("tile_overlap_mm");
    out.page_mm = sheet == "letter" ? us_letter : a4;
    if (sheet == "roll")
        out.page_mm = QSizeF(book.figure("roll_width_mm"),
                             std::max(a4.height(), drawing.height() + 2 * white_mm + head_mm + foot_mm));
    out.field_mm = QSizeF(out.page_mm.width() - 2 * white_mm, out.page_mm.height() - 2 * white_mm - head_mm - foot_mm);
    const auto count = [&](double size, double field) {
        return std::max(1, static_cast<int>(std::ceil((size - out.overlap_mm) / (field - out.overlap_mm) - 1e-9)));
    };
    out.across = count(drawing.width(), out.field_mm.width());
    out.down = count(drawing.height(), out.field_mm.height());
    return out;
}

Result<void> writeTemplates(const study::Reports& reports, const model::RuleBook& given, const TemplateOptions& options,
                            const std::string& folder) {
    const model::RuleBook book = model::applied(given, reports.project->rules);
    const std::vector<FlatPattern> patterns = reports.of<relief::ReliefReport>()
                                                  ? reports.of<relief::ReliefReport>()->patterns()
                                                  : std::vector<FlatPattern>(); // brackets and frames have tubes too
    if (patterns.empty() && make::cutList(reports, book).bars.empty())
        return Error{"there is nothing to cut", reports.project->name,
                     "make a pocket, a tube, a plate, a bracket or a frame that can be made first"};
    if (!QDir().mkpath(QString::fromStdString(folder)))
        return Error{"the folder cannot be made", folder, "name a folder that you may write to"};
    const std::string pdf = folder + "/templates-" + options.paper + ".pdf";
    const auto written = writePdf(pdf, reports.project->name + ": templates", resolution,
                                  QPageLayout(QPageSize(a4, QPageSize::Millimeter), QPageLayout::Portrait, QMarginsF()),
                                  [&](QPdfWriter& writer) {
                                      TemplatePages pages(writer, reports, book, options);
                                      pages.list();
                                      for (const FlatPattern& p : patterns) pages.pattern(p);
                                  });
    if (!written) return written;
    std::map<std::string, int> used;
    for (const FlatPattern& p : patterns) {
        std::string name = fileName(p.name);
        if (const int before = used[name]++; before > 0) name += "-" + std::to_string(before + 1);
        const TemplateHead head{reports.project->name, options.date};
        if (auto done = writeSvg(p, head, folder + "/" + name + ".svg"); !done) return done;
        if (auto done = writeDxf(p, head, folder + "/" + name + ".dxf"); !done) return done;
    }
    return {};
}

} // namespace gabarit::print
