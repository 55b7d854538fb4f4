#include "print/relief_pictures.h"

#include "placed/scene.h"
#include "print/paths.h"
#include "print/words.h"
#include "relief/section/relief.h"
#include "shape/outline.h"

#include <QFontMetricsF>
#include <QObject>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gabarit::print {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

constexpr double air_mm = 45, across_air_mm = 25;
constexpr double title_px = 18, foot_px = 16, side_px = 46;
constexpr double dash_px = 4;
constexpr double unchanged_share = 1e-6;

shape::Outline shifted(shape::Outline outline, const Vector2d& by) {
    for (auto& ring : outline.rings)
        for (Vector2d& p : ring) p -= by;
    return outline;
}

/// Fits a field (mm, up positive) into a box.
QTransform fitted(const QRectF& box, const QRectF& field) {
    const double scale = std::min(box.width() / field.width(), box.height() / field.height());
    QTransform t;
    t.translate(box.center().x(), box.center().y());
    t.scale(scale, -scale);
    t.translate(-field.center().x(), -field.center().y());
    return t;
}

void title(QPainter& painter, const QRectF& box, const QString& text, const PictureTones& tones) {
    const double wide = std::min(QFontMetricsF(painter.font()).horizontalAdvance(text) + 6, box.width() - 4);
    painter.fillRect(QRectF(box.left() + 1, box.top() + 1, wide, title_px), tones.ground);
    painter.setPen(tones.second_ink);
    painter.drawText(QRectF(box.left() + 4, box.top(), box.width() - 8, title_px), Qt::AlignLeft | Qt::AlignVCenter,
                     text);
}

/// A length between two places of the drawing, with its figure.
void dimension(QPainter& painter, const QPointF& a, const QPointF& b, const QString& text, const PictureTones& tones) {
    painter.setPen(QPen(tones.ink, 1));
    painter.drawLine(a, b);
    const bool flat = std::abs(b.x() - a.x()) > std::abs(b.y() - a.y());
    const QPointF tick = flat ? QPointF(0, 4) : QPointF(4, 0);
    for (const QPointF& end : {a, b}) painter.drawLine(end - tick, end + tick);
    const QFontMetricsF metrics(painter.font());
    const double wide = metrics.horizontalAdvance(text) + 4;
    const QPointF middle = (a + b) / 2;
    const QRectF label = flat ? QRectF(middle.x() - wide / 2, middle.y() - metrics.height() - 2, wide, metrics.height())
                              : QRectF(middle.x() + 6, middle.y() - metrics.height() / 2, wide, metrics.height());
    painter.fillRect(label, tones.ground);
    painter.drawText(label, Qt::AlignCenter, text);
}

} // namespace

double leastModulus(const relief::Section& now, const relief::Section& was) {
    double least = 1e9;
    for (const auto& [a, b] : {std::pair(now.top_mm3, was.top_mm3), std::pair(now.bottom_mm3, was.bottom_mm3),
                               std::pair(now.left_mm3, was.left_mm3), std::pair(now.right_mm3, was.right_mm3)})
        if (b > 0) least = std::min(least, a / b);
    return least;
}

QRectF roomOf(const model::Pocket& pocket) {
    return QRectF(-pocket.length_mm / 2, -pocket.depth_mm, pocket.length_mm, pocket.depth_mm);
}

PocketPicture pocketPicture(const study::Reports& reports, const relief::PocketReport& report,
                            std::optional<double> station_mm) {
    PocketPicture out;
    if (!report.made) return out;
    const model::Pocket* pocket = nullptr;
    for (const model::Pocket& p : reports.project->sections.get<model::Relief>()->pockets)
        if (p.id == report.id) pocket = &p;
    const model::Body* body =
        pocket ? model::findBody(*reports.project, {model::vehicle_owner, pocket->body}) : nullptr;
    if (!body) return out;
    const Eigen::Isometry3d pose = report.pose_vehicle_body * report.made->pose_body;
    const Vector3d along = pose.linear().col(0), across = pose.linear().col(1), out_of = -pose.linear().col(2);
    const shape::Viewpoint length{along, out_of}, cross{across, out_of};
    const auto meshOf = [](const shape::Solid& solid) {
        auto meshed = shape::makeMesh(solid);
        return meshed ? std::move(meshed.value().mesh) : shape::Mesh();
    };
    const auto whole = shape::makeSolid(body->shape);
    const shape::Mesh before = whole ? meshOf(whole.value()) : shape::Mesh(), closed = meshOf(report.made->closed);
    const Vector3d mouth = pose.translation();
    const auto cut = [&](const shape::Mesh& mesh, const shape::Viewpoint& view, double off_mm) {
        const Vector2d origin(mouth.dot(view.right), mouth.dot(view.up));
        return pathOf(shifted(
            shape::cutFace(mesh, report.pose_vehicle_body, view, mouth.dot(view.towards_viewer()) + off_mm), origin));
    };
    constexpr double beside_mm = 0.013; // never in the plane of a face
    out.before = cut(before, length, beside_mm);
    out.closed = cut(closed, length, beside_mm);
    const double level = mouth.dot(length.towards_viewer());
    for (const model::BodyRef& ref : pocket->intruders)
        if (const placed::PlacedBody* its = reports.scene->find(ref); its && its->solid()) {
            const Vector2d origin(mouth.dot(length.right), mouth.dot(length.up));
            auto outline = shape::cutFace(its->made->collider->mesh(), its->pose_vehicle_body, length, level);
            if (outline.empty())
                outline = shape::silhouette(its->made->collider->mesh(), its->pose_vehicle_body, length);
            out.intruders.addPath(pathOf(shifted(std::move(outline), origin)));
        }
    out.station_mm = station_mm.value_or(report.strength.along_mm);
    const double sense = cross.towards_viewer().dot(along) > 0 ? 1 : -1;
    out.across_before = cut(before, cross, sense * (out.station_mm + beside_mm));
    out.across_closed = cut(closed, cross, sense * (out.station_mm + beside_mm));
    const QRectF tall = out.across_before.boundingRect().united(out.across_closed.boundingRect());
    out.across_field = tall.adjusted(-across_air_mm, -across_air_mm, across_air_mm, across_air_mm);
    double half = pocket->length_mm / 2;
    for (const Vector2d& p : report.made->cut_outline_mm) half = std::max(half, std::abs(p.x()));
    const double bottom = shape::isSheet(body->shape) ? -pocket->depth_mm : tall.top();
    out.field = QRectF(QPointF(-half - air_mm, bottom - across_air_mm), QPointF(half + air_mm, air_mm));
    return out;
}

QTransform lengthwiseTransform(const QRectF& box, const PocketPicture& picture) {
    return fitted(box.adjusted(6, title_px, -6, -6), picture.field);
}

void paintLengthwise(QPainter& painter, const QRectF& box, const PocketPicture& picture, const model::Pocket& pocket,
                     const PictureTones& tones, const quantity::Shown& shown) {
    painter.save();
    painter.setClipRect(box);
    const QTransform to = lengthwiseTransform(box, picture);
    QColor unit = tones.shaft;
    unit.setAlpha(110);
    painter.setPen(QPen(tones.shaft, 1.2));
    painter.setBrush(unit);
    painter.drawPath(to.map(picture.intruders));
    painter.setPen(QPen(tones.ink, 1));
    painter.setBrush(tones.rule);
    painter.drawPath(to.map(picture.closed));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(tones.second_ink, 1, Qt::DashLine));
    painter.drawPath(to.map(picture.before));
    const QRectF room = roomOf(pocket);
    const auto at = [&](double x, double y) { return to.map(QPointF(x, y)); };
    painter.setPen(QPen(tones.in_hand, 1.6));
    if (pocket.form != model::PocketForm::HalfRound)
        painter.drawLine(at(room.left(), room.top()), at(room.right(), room.top()));
    const QPointF up(0, 14);
    dimension(painter, at(room.left(), 0) - up, at(room.right(), 0) - up,
              words(quantity::lengthText(pocket.length_mm, shown)), tones);
    dimension(painter, at(0, 0), at(0, room.top()), words(quantity::lengthText(pocket.depth_mm, shown)), tones);
    title(painter, box, QObject::tr("Cut lengthwise through its middle"), tones);
    painter.restore();
}

void paintAcross(QPainter& painter, const QRectF& box, const PocketPicture& picture, const PictureTones& tones,
                 const quantity::Shown& shown) {
    painter.save();
    painter.setClipRect(box);
    const QTransform to = fitted(box.adjusted(6, title_px, -6, -6), picture.across_field);
    painter.setPen(QPen(tones.ink, 1));
    painter.setBrush(tones.rule);
    painter.drawPath(to.map(picture.across_closed));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(tones.second_ink, 1, Qt::DashLine));
    painter.drawPath(to.map(picture.across_before));
    title(painter, box,
          picture.station_mm == 0
              ? QObject::tr("Across its middle")
              : QObject::tr("Across, %1 off").arg(words(quantity::lengthText(picture.station_mm, shown))),
          tones);
    painter.restore();
}

QString words(Along what) {
    switch (what) {
    case Along::LeastModulus: return QObject::tr("least section modulus");
    case Along::Area: return QObject::tr("area");
    case Along::Upright: return QObject::tr("second moment, up and down");
    case Along::Sideways: return QObject::tr("second moment, sideways");
    case Along::Top: return QObject::tr("modulus at the top");
    case Along::Bottom: return QObject::tr("modulus at the bottom");
    case Along::Left: return QObject::tr("modulus at the left");
    case Along::Right: return QObject::tr("modulus at the right");
    case Along::Torsion: return QObject::tr("resistance to twisting");
    case Along::Product: return QObject::tr("product of inertia");
    case Along::Shift: return QObject::tr("neutral axis, moved by");
    }
    return {};
}

double valueAlong(Along what, const relief::Section& now, const relief::Section& was) {
    const auto share = [](double a, double b) { return b > 0 ? a / b : 0; };
    switch (what) {
    case Along::LeastModulus: return leastModulus(now, was);
    case Along::Area: return share(now.area_mm2, was.area_mm2);
    case Along::Upright: return share(now.upright_mm4, was.upright_mm4);
    case Along::Sideways: return share(now.sideways_mm4, was.sideways_mm4);
    case Along::Top: return share(now.top_mm3, was.top_mm3);
    case Along::Bottom: return share(now.bottom_mm3, was.bottom_mm3);
    case Along::Left: return share(now.left_mm3, was.left_mm3);
    case Along::Right: return share(now.right_mm3, was.right_mm3);
    case Along::Torsion: return share(now.torsion_mm4, was.torsion_mm4);
    case Along::Product: return share(std::abs(now.product_mm4), std::sqrt(was.upright_mm4 * was.sideways_mm4));
    case Along::Shift: return (now.centre_mm - was.centre_mm).norm();
    }
    return 0;
}

void paintAlong(QPainter& painter, const QRectF& box, const relief::PocketReport& report, double station_mm, Along what,
                std::optional<double> wanted_share, const PictureTones& tones, const quantity::Shown& shown) {
    if (report.stations.size() < 2) return;
    painter.save();
    const QRectF field = box.adjusted(side_px, title_px + 2, -8, -foot_px);
    const bool length = what == Along::Shift, grows = length || what == Along::Product; // bad as it gets larger
    double most = grows ? 0 : std::max(1.2, wanted_share.value_or(0));
    for (const relief::Station& s : report.stations)
        for (const relief::Section* now : {&s.cut, &s.closed})
            if (grows || now == &s.closed) most = std::max(most, valueAlong(what, *now, s.before));
    if (!grows) most = std::min(most, 2.0);
    if (length) most = std::max(1.0, most * 1.1);
    if (what == Along::Product) most = std::max(0.1, most * 1.1);
    const double from = report.stations.front().along_mm, to = report.stations.back().along_mm;
    const auto at = [&](double along, double value) {
        return QPointF(field.left() + (along - from) / (to - from) * field.width(),
                       field.bottom() - std::min(value, most) / most * field.height());
    };
    for (const double value :
         grows ? std::vector<double>{0, most / 2, most} : std::vector<double>{0.0, 0.5, 1.0, 1.5, 2.0}) {
        if (value > most + 1e-9) continue;
        painter.setPen(QPen(tones.rule, 1));
        painter.drawLine(at(from, value), at(to, value));
        painter.setPen(tones.second_ink);
        painter.drawText(QRectF(box.left(), at(from, value).y() - 8, side_px - 4, 16),
                         Qt::AlignRight | Qt::AlignVCenter,
                         length ? words(quantity::lengthText(value, shown))
                                : QString::number(value * 100, 'f', 0) + QStringLiteral(" %"));
    }
    if (wanted_share) {
        painter.setPen(QPen(tones.in_hand, 1.2, Qt::DashLine));
        painter.drawLine(at(from, *wanted_share), at(to, *wanted_share));
    }
    QPolygonF cut, closed;
    const relief::Station* worst = nullptr;
    double worst_value = 0;
    for (const relief::Station& s : report.stations) {
        const double value = valueAlong(what, s.closed, s.before);
        cut << at(s.along_mm, valueAlong(what, s.cut, s.before));
        closed << at(s.along_mm, value);
        if (!worst || (grows ? value > worst_value : value < worst_value)) worst = &s, worst_value = value;
    }
    painter.setPen(QPen(tones.second_ink, 1.2, Qt::DotLine));
    painter.drawPolyline(cut);
    painter.setPen(QPen(tones.ink, 2));
    painter.drawPolyline(closed);
    if (grows ? worst_value > unchanged_share : worst_value < 1 - unchanged_share) {
        painter.setPen(QPen(tones.trouble, 1.5));
        painter.setBrush(tones.ground);
        painter.drawEllipse(at(worst->along_mm, worst_value), dash_px, dash_px);
    }
    painter.setPen(QPen(tones.shaft, 1));
    painter.drawLine(at(station_mm, 0), at(station_mm, most));
    const QString told = length                   ? QObject::tr("Along it: closed; dotted while cut")
                         : what == Along::Product ? QObject::tr("Of the second moments: closed; dotted while cut")
                                                  : QObject::tr("Of what it was: closed; dotted while cut");
    title(painter, box, told, tones);
    painter.restore();
}

void paintPattern(QPainter& painter, const QRectF& box, const relief::FlatPattern& pattern, const PictureTones& tones,
                  const quantity::Shown& shown) {
    const Eigen::AlignedBox2d bounds = pattern.bounds();
    if (bounds.isEmpty()) return;
    painter.save();
    painter.setClipRect(box);
    const QRectF field(QPointF(bounds.min().x(), bounds.min().y()), QPointF(bounds.max().x(), bounds.max().y()));
    const double air = 0.08 * std::max(field.width(), field.height());
    const QTransform to = fitted(box.adjusted(6, title_px, -6, -6), field.adjusted(-air, -air, air, air));
    const auto at = [&](const Vector2d& p) { return to.map(QPointF(p.x(), p.y())); };
    QPolygonF outline;
    for (const Vector2d& p : pattern.cut_mm) outline << at(p);
    painter.setPen(QPen(tones.ink, 1.5, pattern.member ? Qt::DashLine : Qt::SolidLine));
    painter.setBrush(pattern.member ? QBrush(Qt::NoBrush) : QBrush(tones.rule));
    painter.drawPolygon(outline);
    painter.setBrush(tones.ground);
    for (const relief::FlatHole& hole : pattern.holes) {
        const double r = hole.diameter_mm / 2 * to.m11();
        painter.setPen(QPen(tones.ink, 1));
        painter.drawEllipse(at(hole.at_mm), r, r);
    }
    for (const relief::BendLine& bend : pattern.bends) {
        painter.setPen(QPen(tones.shaft, 1.4, Qt::DashDotLine));
        painter.drawLine(at(bend.from_mm), at(bend.to_mm));
    }
    for (const relief::MarkLine& mark : pattern.marks) {
        painter.setPen(QPen(tones.second_ink, 1));
        painter.drawLine(at(mark.from_mm), at(mark.to_mm));
    }
    const Vector2d size = bounds.max() - bounds.min();
    title(painter, box,
          words(pattern.name + ", " + quantity::lengthText(size.x(), shown) + " × " +
                quantity::lengthText(size.y(), shown)),
          tones);
    painter.restore();
}

} // namespace gabarit::print
