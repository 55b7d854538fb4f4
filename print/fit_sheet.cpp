#include "print/fit_sheet.h"

#include "fit/fit_report.h"
#include "fit/words.h"
#include "make/hanging.h"
#include "placed/scene.h"
#include "print/mount_pictures.h"
#include "print/paths.h"
#include "print/pdf_file.h"
#include "print/words.h"

#include <QFontMetricsF>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gabarit::print {
namespace {

using Eigen::Vector3d;
using model::Verdict;
using shape::Elevation;

constexpr double page_width_mm = 297, page_height_mm = 210, margin_mm = 10;
constexpr int dots_per_inch = 1200;
constexpr double air_round_donor_mm = 140;
constexpr int usual_scales[] = {1, 2, 4, 5, 8, 10, 12, 15, 16, 20, 25, 30, 40, 50, 75, 100, 200, 500};

/// The page in millimetres; text sizes in points.
class Page {
public:
    explicit Page(QPainter& painter, double dots_per_mm) : painter_(painter), dots_(dots_per_mm) {}

    QPainter& painter() { return painter_; }
    double dots(double mm) const { return mm * dots_; }
    QPointF dots(const QPointF& mm) const { return mm * dots_; }
    QRectF dots(const QRectF& mm) const { return {mm.topLeft() * dots_, mm.size() * dots_}; }
    void font(double points, bool bold = false) {
        QFont font(QStringLiteral("Lato"));
        font.setPointSizeF(points);
        font.setBold(bold);
        font.setLetterSpacing(QFont::AbsoluteSpacing, 0.02); // no ligatures: the sheet's words can be searched for
        painter_.setFont(font);
    }
    void pen(double width_mm, const QColor& colour, Qt::PenStyle style = Qt::SolidLine) {
        painter_.setPen(QPen(colour, dots(width_mm), style));
    }
    /// Writes wrapped text into a column; returns the height it took, mm.
    double text(const QRectF& box_mm, const QString& text, int flags = Qt::AlignLeft | Qt::AlignTop) {
        QRectF took;
        painter_.drawText(dots(box_mm), flags | Qt::TextWordWrap, text, &took);
        return took.height() / dots_;
    }
    double height(double width_mm, const QString& text) const {
        return QFontMetricsF(painter_.font(), painter_.device())
                   .boundingRect(QRectF(0, 0, dots(width_mm), 1e6), Qt::TextWordWrap, text)
                   .height() /
               dots_;
    }

private:
    QPainter& painter_;
    double dots_;
};

const QColor ink(0x24, 0x21, 0x1D), second_ink(0x5C, 0x55, 0x4A), chassis(0xEC, 0xE7, 0xDD),
    chassis_edge(0x8A, 0x7F, 0x6E), donor_fill(0x9F, 0xBC, 0xBE), donor_edge(0x16, 0x36, 0x3A),
    trouble(0xB8, 0x37, 0x1B);

/// Donor and what is round it; the whole vehicle when there is no donor.
Eigen::AlignedBox3d subjectOf(const study::Reports& reports) {
    Eigen::AlignedBox3d donor, all;
    for (const placed::PlacedBody& body : reports.scene->bodies) {
        if (!body.solid() || body.body.category == "ground") continue;
        const auto box = shape::moved(body.made->collider->bounds(), body.pose_vehicle_body);
        all.extend(box);
        if (body.in_donor) donor.extend(box);
    }
    return donor.isEmpty() ? all : donor;
}

void drawElevation(Page& page, const study::Reports& reports, const FitSheetLayout& layout, Elevation elevation,
                   const QString& title) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    QPainter& painter = page.painter();
    const QRectF frame = layout.frame_mm[static_cast<std::size_t>(elevation)];
    const shape::Viewpoint view = shape::viewpoint(elevation);
    painter.save();
    painter.setClipRect(page.dots(frame));
    QTransform toPage;
    const QPointF middle = page.dots(frame.center());
    const double perMm = page.dots(1.0 / layout.scale);
    toPage.translate(middle.x(), middle.y());
    toPage.scale(perMm, -perMm);
    toPage.translate(-layout.centre_vehicle_mm.dot(view.right), -layout.centre_vehicle_mm.dot(view.up));
    for (const placed::PlacedBody* body : drawingOrder(*reports.scene, view)) {
        const bool landmark = model::drawnQuietly(body->body.category);
        const QPainterPath path =
            toPage.map(pathOf(shape::silhouette(body->made->collider->mesh(), body->pose_vehicle_body, view)));
        page.pen(body->in_donor ? 0.2 : 0.12, body->in_donor ? donor_edge : chassis_edge,
                 landmark ? Qt::DashLine : Qt::SolidLine);
        painter.setBrush(landmark ? QBrush(Qt::NoBrush) : QBrush(body->in_donor ? donor_fill : chassis));
        painter.drawPath(path);
    }
    if (fitted.clearance)
        for (const fit::PairGap& pair : fitted.clearance->pairs) {
            if (!pair.overlap()) continue;
            const placed::PlacedBody *a = reports.scene->find(pair.a), *b = reports.scene->find(pair.b);
            const auto solid_a = a ? a->made->solid() : std::nullopt, solid_b = b ? b->made->solid() : std::nullopt;
            if (!solid_a || !solid_b) continue;
            const auto shared = shape::commonMesh(*solid_a, a->pose_vehicle_body, *solid_b, b->pose_vehicle_body);
            if (!shared || shared.value().triangles.empty()) continue;
            const QPainterPath path =
                toPage.map(pathOf(shape::silhouette(shared.value(), Eigen::Isometry3d::Identity(), view)));
            painter.save();
            painter.setClipPath(path, Qt::IntersectClip);
            painter.fillPath(path, Qt::white);
            page.pen(0.2, trouble);
            const QRectF box = path.boundingRect();
            for (double c = box.left() + box.top(); c <= box.right() + box.bottom(); c += page.dots(0.9))
                painter.drawLine(QPointF(c - box.bottom(), box.bottom()), QPointF(c - box.top(), box.top()));
            painter.restore();
            page.pen(0.25, trouble);
            painter.setBrush(Qt::NoBrush);
            painter.drawPath(path);
        }
    // Numbers of the list, at their places; where two would cover each other the later one steps aside.
    page.font(8, true);
    std::vector<QPointF> taken;
    for (const study::Finding& finding : reports.findings) {
        if (!finding.place_vehicle_mm) continue;
        const QPointF place = layout.onPage_mm(elevation, *finding.place_vehicle_mm);
        if (!frame.adjusted(2, 2, -2, -2).contains(place)) continue;
        constexpr double radius_mm = 2.1;
        QPointF at = place;
        for (int step = 0; step < 24; ++step) {
            const bool covered = std::any_of(taken.begin(), taken.end(), [&at](const QPointF& other) {
                return std::hypot(at.x() - other.x(), at.y() - other.y()) < 2 * radius_mm;
            });
            if (!covered) break;
            const double turn = step * 0.7853981634;
            at = place + QPointF(std::cos(turn), std::sin(turn)) * (2.2 * radius_mm * (1 + step / 8));
        }
        taken.push_back(at);
        page.pen(0.3, trouble);
        painter.drawLine(page.dots(place), page.dots(at));
        painter.setBrush(Qt::white);
        painter.drawEllipse(page.dots(at), page.dots(radius_mm), page.dots(radius_mm));
        painter.setPen(ink);
        painter.drawText(page.dots(QRectF(at - QPointF(4, 4), QSizeF(8, 8))), Qt::AlignCenter,
                         QString::number(finding.number));
    }
    painter.restore();
    page.pen(0.1, chassis_edge);
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(page.dots(frame));
    page.font(8);
    painter.setPen(second_ink);
    QRectF label(frame.topLeft() + QPointF(1.5, 1), QSizeF(60, 4));
    painter.fillRect(
        page.dots(QRectF(
            label.topLeft(),
            QSizeF(QFontMetricsF(painter.font(), painter.device()).horizontalAdvance(title) / page.dots(1.0) + 1, 4))),
        Qt::white);
    page.text(label, title);
}

void drawScaleBar(Page& page, const FitSheetLayout& layout, const QPointF& at_mm) {
    // A bar that can be held against a tape: a check on the printer's own scaling.
    constexpr double bar_mm = 50;
    QPainter& painter = page.painter();
    page.pen(0.3, ink);
    painter.drawLine(page.dots(at_mm), page.dots(at_mm + QPointF(bar_mm, 0)));
    for (const double x : {0.0, bar_mm})
        painter.drawLine(page.dots(at_mm + QPointF(x, -1.2)), page.dots(at_mm + QPointF(x, 1.2)));
    page.font(8);
    page.text(QRectF(at_mm + QPointF(bar_mm + 2, -2), QSizeF(75, 5)),
              QObject::tr("1 : %1. The bar is 50 mm on paper.").arg(layout.scale));
}

QString headline(const study::Reports& reports) {
    const model::Placement* placement = model::activePlacement(*reports.project);
    return words(reports.project->name) + (placement ? QStringLiteral(", ") + words(placement->name) : QString());
}

constexpr double foot_mm = page_height_mm - margin_mm - 14; // above it the caution

/// Writes findings from `from` on into a column; returns the first that found no room.
std::size_t drawFindings(Page& page, const study::Reports& reports, std::size_t from, double left, double width,
                         double y) {
    for (std::size_t i = from; i < reports.findings.size(); ++i) {
        const study::Finding& finding = reports.findings[i];
        const QString title = QStringLiteral("%1  %2").arg(finding.number).arg(words(finding.title));
        QString detail = words(finding.detail) + QStringLiteral(". ") + words(finding.help);
        if (!finding.caution.empty()) detail += QStringLiteral(" ") + words(finding.caution);
        page.font(9, true);
        const double title_high = page.height(width, title);
        page.font(8);
        const double need = title_high + page.height(width - 4, detail) + 1.2;
        if (y + need > foot_mm) return i;
        page.painter().setPen(ink);
        page.font(9, true);
        page.text(QRectF(left, y, width, title_high + 1), title);
        page.font(8);
        page.text(QRectF(left + 4, y + title_high, width - 4, need), detail);
        y += need;
    }
    return reports.findings.size();
}

void drawCaution(Page& page, double left, double width) {
    page.font(8);
    page.painter().setPen(second_ink);
    page.text(
        QRectF(left, page_height_mm - margin_mm - 12, width, 12),
        QObject::tr("Estimates from what was measured; they approve nothing. Local code, the component's maker, "
                    "inspection and a licensed engineer decide. Nobody under a hanging load; stands, not jacks."));
}

/// Where it hangs, as a tape and a plumb bob read it.
double drawHanging(Page& page, const study::Reports& reports, const FitSheetOptions& options, double left, double width,
                   double y) {
    const make::Hanging hanging = make::hanging(*reports.project, *reports.scene);
    if (hanging.lines.empty()) return y;
    const auto length = [&](double mm) {
        return words(quantity::lengthText(mm, options.shown, 0)).section(QStringLiteral(" ("), 0, 0);
    };
    page.font(10, true);
    y += page.text(QRectF(left, y, width, 6), QObject::tr("How it hangs")) + 0.5;
    page.font(8);
    QString tilt;
    const auto turn = [&](double deg, const std::string& more, const std::string& less) {
        constexpr double level_deg = 0.005;
        if (std::abs(deg) >= level_deg)
            tilt += QStringLiteral(", %1 %2").arg(words(deg > 0 ? more : less),
                                                  words(quantity::angleText(std::abs(deg), 2)));
    };
    turn(hanging.angles.pitch_deg, "tail down", "tail up");
    turn(hanging.angles.yaw_deg, std::string("tail ") + model::sideWord(*reports.project, true),
         std::string("tail ") + model::sideWord(*reports.project, false));
    turn(hanging.angles.roll_deg, std::string("leaning ") + model::sideWord(*reports.project, false),
         std::string("leaning ") + model::sideWord(*reports.project, true));
    for (const make::HangingLine& line : hanging.lines) {
        constexpr double middle_mm = 0.5;
        QString text = words(line.name) +
                       QObject::tr(": %1 %2, %3 %4 the axle, ")
                           .arg(length(line.off_floor_mm.value_or(line.height_mm)),
                                line.off_floor_mm ? QObject::tr("off the floor") : QObject::tr("above the datum"),
                                length(std::abs(line.behind_axle_mm)),
                                line.behind_axle_mm < 0 ? QObject::tr("ahead of") : QObject::tr("behind"));
        text += std::abs(line.aside_mm) < middle_mm
                    ? QObject::tr("in the middle")
                    : length(std::abs(line.aside_mm)) + QLatin1Char(' ') +
                          QLatin1String(model::sideWord(*reports.project, line.aside_mm > 0));
        if (&line == &hanging.lines.front()) text += tilt;
        y += page.text(QRectF(left, y, width, 20), text + QLatin1Char('.')) + 0.6;
    }
    return y + 1.5;
}

/// Page one's words; returns the first finding that found no room.
std::size_t drawWords(Page& page, const study::Reports& reports, const FitSheetOptions& options,
                      const FitSheetLayout& layout) {
    const fit::FitReport& fitted = reports.with<fit::FitReport>();
    QPainter& painter = page.painter();
    painter.setPen(ink);
    page.font(15, true);
    page.text(QRectF(margin_mm, margin_mm, 200, 8), headline(reports));
    page.font(9);
    page.text(QRectF(margin_mm, margin_mm + 7.5, 260, 5),
              QObject::tr("%1. Gaps at rest and in movement, rules of the %2. All that was asked: %3.")
                  .arg(words(options.date), words(fitted.clearance ? fitted.clearance->school : "certifier"),
                       words(study::totalWords(reports))));

    const double left = 203, width = page_width_mm - margin_mm - left;
    double y = 25;
    page.font(9);
    for (const study::Gauge& gauge : reports.gauges) {
        page.font(9, true);
        page.text(QRectF(left, y, width, 5), words(gauge.name));
        page.font(9);
        y += std::max(4.8, 0.6 + page.text(QRectF(left + 26, y, width - 26, 15),
                                           QStringLiteral("%1 (%2, %3)")
                                               .arg(words(gauge.value), QLatin1String(model::word(gauge.verdict)),
                                                    words(gauge.limit))));
    }
    y += 2;
    y = drawHanging(page, reports, options, left, width, y);
    page.font(11, true);
    y += page.text(QRectF(left, y, width, 6), QObject::tr("What is in the way")) + 1;
    if (reports.findings.empty()) {
        page.font(9);
        y += page.text(QRectF(left, y, width, 20),
                       QObject::tr("Nothing at rest or in the movement that was given. What flexes, heat soak and "
                                   "the way in are still to be checked."));
    }
    const std::size_t rest = drawFindings(page, reports, 0, left, width, y);
    if (rest < reports.findings.size()) {
        page.font(8);
        painter.setPen(second_ink);
        page.text(
            QRectF(left, foot_mm - 1, width, 5),
            QObject::tr("%1 to %2: page 2").arg(reports.findings[rest].number).arg(reports.findings.back().number));
        painter.setPen(ink);
    }

    const QRectF front = layout.frame_mm[static_cast<std::size_t>(Elevation::Front)];
    const QRectF plan = layout.frame_mm[static_cast<std::size_t>(Elevation::Plan)];
    if (fitted.room && layout.scale > 0) {
        double line = plan.top() + 1;
        page.font(10, true);
        line += page.text(QRectF(front.left() + 2, line, front.width() - 2, 5), QObject::tr("Room to move")) + 0.5;
        page.font(8);
        std::vector<fit::Room> rooms = fitted.room->rooms;
        const std::size_t gearbox = rooms.size(); // from here on: the gearbox alone
        for (const auto& room : {fitted.room->gearbox_up, fitted.room->gearbox_down})
            if (room) rooms.push_back(*room);
        for (std::size_t i = 0; i < rooms.size(); ++i) {
            const fit::Room& room = rooms[i];
            QString text = words(fit::roomWords(*reports.project, room, options.shown));
            if (!room.beyond)
                text += QStringLiteral(": ") + words(room.name_a).toLower() + QStringLiteral(", ") +
                        words(room.name_b).toLower();
            if (i >= gearbox) text = QObject::tr("gearbox ") + text;
            line += page.text(QRectF(front.left() + 2, line, front.width() - 2, 12), text) + 0.4;
        }
    }
    drawCaution(page, left, width);
    return rest;
}

/// What found no room on the first page, in columns.
void drawMore(QPdfWriter& writer, Page& page, const study::Reports& reports, std::size_t from) {
    constexpr int columns = 3;
    constexpr double between_mm = 8, top_mm = margin_mm + 14;
    const double width = (page_width_mm - 2 * margin_mm - (columns - 1) * between_mm) / columns;
    int number = 2;
    while (from < reports.findings.size()) {
        writer.newPage();
        page.painter().setPen(ink);
        page.font(13, true);
        page.text(QRectF(margin_mm, margin_mm, 260, 8),
                  QObject::tr("%1, page %2: what is in the way").arg(headline(reports)).arg(number++));
        const std::size_t before = from;
        for (int column = 0; column < columns; ++column)
            from = drawFindings(page, reports, from, margin_mm + column * (width + between_mm), width, top_mm);
        drawCaution(page, margin_mm, page_width_mm - 2 * margin_mm);
        if (from == before) return; // longer than a column: nothing would ever hold it
    }
}

} // namespace

QPointF FitSheetLayout::onPage_mm(Elevation elevation, const Vector3d& point) const {
    const shape::Viewpoint view = shape::viewpoint(elevation);
    const Vector3d off = point - centre_vehicle_mm;
    return frame_mm[static_cast<std::size_t>(elevation)].center() +
           QPointF(off.dot(view.right), -off.dot(view.up)) / scale;
}

FitSheetLayout fitSheetLayout(const study::Reports& reports) {
    FitSheetLayout layout;
    const Eigen::AlignedBox3d subject = subjectOf(reports);
    if (subject.isEmpty()) return layout;
    constexpr double top = 25, side_width = 128, front_width = 58, side_height = 88, plan_height = 74, space = 2;
    const auto index = [](Elevation e) { return static_cast<std::size_t>(e); };
    layout.frame_mm[index(Elevation::Side)] = QRectF(margin_mm, top, side_width, side_height);
    layout.frame_mm[index(Elevation::Front)] = QRectF(margin_mm + side_width + space, top, front_width, side_height);
    layout.frame_mm[index(Elevation::Plan)] = QRectF(margin_mm, top + side_height + space, side_width, plan_height);
    layout.centre_vehicle_mm = subject.center();
    const Vector3d size = subject.sizes() + Vector3d::Constant(2 * air_round_donor_mm);
    const double wanted =
        std::max({size.x() / side_width, size.z() / side_height, size.y() / plan_height, size.y() / front_width});
    layout.scale = usual_scales[std::size(usual_scales) - 1];
    for (const int scale : usual_scales)
        if (scale >= wanted) {
            layout.scale = scale;
            break;
        }
    return layout;
}

Result<void> writeFitSheet(const study::Reports& reports, const FitSheetOptions& options, const std::string& path) {
    const FitSheetLayout layout = fitSheetLayout(reports);
    if (layout.scale == 0)
        return Error{"there is nothing to draw", reports.project->name, "survey the bay and hang a donor first"};
    return writePdf(path, headline(reports).toStdString(), dots_per_inch,
                    QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Landscape, QMarginsF()),
                    [&](QPdfWriter& writer) {
                        QPainter painter(&writer);
                        Page page(painter, writer.logicalDpiX() / 25.4);
                        const bool fromDriver =
                            reports.project->vehicle && reports.project->vehicle->drive_side == model::DriveSide::Left;
                        drawElevation(page, reports, layout, Elevation::Side,
                                      fromDriver ? QObject::tr("From the driver's side")
                                                 : QObject::tr("From the passenger's side"));
                        drawElevation(page, reports, layout, Elevation::Front, QObject::tr("From the front"));
                        drawElevation(page, reports, layout, Elevation::Plan, QObject::tr("From above"));
                        const std::size_t rest = drawWords(page, reports, options, layout);
                        painter.setPen(ink);
                        drawScaleBar(page, layout, QPointF(margin_mm, page_height_mm - margin_mm - 2));
                        drawMore(writer, page, reports, rest);
                    });
}

} // namespace gabarit::print
