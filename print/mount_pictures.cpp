#include "print/mount_pictures.h"

#include "discipline/check_words.h"
#include "model/owner_place.h"
#include "mounts/mounts.h"
#include "mounts/section/mounts.h"
#include "print/clear_words.h"
#include "print/paths.h"
#include "print/words.h"

#include <QFontMetricsF>
#include <QObject>
#include <QPainter>

#include <algorithm>
#include <cmath>
#include <set>

namespace gabarit::print {
namespace {

using Eigen::Vector3d;

constexpr double most_arrow_px = 76, least_arrow_px = 6, head_px = 7, mount_px = 5;
constexpr double spot_px = 2, chosen_spot_px = 4;
constexpr double mm_per_m = 1000;

void arrow(QPainter& painter, const QPointF& from, const QPointF& to) {
    const QPointF by = to - from;
    const double length = std::hypot(by.x(), by.y());
    if (length < 1) return;
    const QPointF along = by / length, aside(-along.y(), along.x());
    painter.drawLine(from, to);
    QPainterPath head(to);
    head.lineTo(to - along * head_px + aside * head_px * 0.45);
    head.lineTo(to - along * head_px - aside * head_px * 0.45);
    head.closeSubpath();
    painter.fillPath(head, painter.pen().color());
}

} // namespace

std::vector<const placed::PlacedBody*> drawingOrder(const placed::Scene& scene, const shape::Viewpoint& view) {
    std::vector<const placed::PlacedBody*> order;
    for (const placed::PlacedBody& body : scene.bodies)
        if (body.solid() && body.body.category != "ground") order.push_back(&body);
    const auto nearness = [&view](const placed::PlacedBody* body) {
        return (body->pose_vehicle_body * body->made->collider->bounds().center()).dot(view.towards_viewer());
    };
    std::stable_sort(order.begin(), order.end(), [&](const placed::PlacedBody* a, const placed::PlacedBody* b) {
        return a->in_donor != b->in_donor ? b->in_donor : nearness(a) < nearness(b);
    });
    return order;
}

std::vector<MountOutline> mountOutlines(const study::Reports& reports, shape::Elevation elevation) {
    const shape::Viewpoint view = shape::viewpoint(elevation);
    std::set<std::string> own;
    if (const auto* mounts = reports.project->sections.get<model::Mounts>())
        for (const model::Mount& mount : mounts->mounts)
            for (const mounts::Which which : {mounts::Which::Bracket, mounts::Which::Tower})
                if (const model::Bracket* bracket = mounts::bracketOf(mount, which))
                    for (const std::string& id : bracket->bodies)
                        own.insert((which == mounts::Which::Bracket ? mount.pad.owner
                                    : mount.stand                   ? mount.stand->owner
                                                                    : std::string(model::vehicle_owner)) +
                                   "/" + id);
    std::vector<MountOutline> out;
    for (const placed::PlacedBody* body : drawingOrder(*reports.scene, view)) {
        MountOutline outline;
        outline.path = pathOf(shape::silhouette(body->made->collider->mesh(), body->pose_vehicle_body, view));
        outline.in_donor = body->in_donor;
        outline.landmark = model::drawnQuietly(body->body.category);
        outline.bracket = own.count(body->ref.text()) > 0;
        out.push_back(std::move(outline));
    }
    // Metal that was made is what is looked at: over everything.
    std::stable_partition(out.begin(), out.end(), [](const MountOutline& o) { return !o.bracket; });
    return out;
}

double exaggeration(const mounts::MountsReport& report, const mounts::Move& move, double mm) {
    double most = 0;
    for (const mounts::MountReport& m : report.mounts)
        most = std::max(most, move.at(m.at_mm, report.unit.body.centre_mm).norm());
    return most > 1e-9 ? mm / most : 0;
}

mounts::Move modeMove(const mounts::MountsReport& report, const mounts::Mode& mode, double mm, double phase) {
    mounts::Move move{mode.shape.head<3>() * mm_per_m, mode.shape.tail<3>()};
    const double by = exaggeration(report, move, mm) * std::sin(2 * M_PI * phase);
    move.by_mm *= by;
    move.turn_rad *= by;
    return move;
}

std::vector<MountSpot> mountSpots(const model::Project& project, const std::string& chosen) {
    std::vector<MountSpot> out;
    const auto* mounts = project.sections.get<model::Mounts>();
    if (!mounts) return out;
    for (const model::HoleRow& row : mounts->rows)
        for (int i = 0; i < static_cast<int>(row.count); ++i)
            out.push_back({row.at_mm + row.step_mm * i, false, chosen == "row:" + row.id});
    for (const model::OldSeat& seat : mounts->seats)
        if (const auto place = model::ownerPlace(project, seat.face.owner, seat.face.point, seat.face.at_mm, ""))
            out.push_back({place.value().vehicle_mm(), true, chosen == "seat:" + seat.id});
    return out;
}

void paintMounts(QPainter& painter, const QRectF& box, const MountDrawing& drawing, const PictureTones& tones,
                 const quantity::Shown& shown) {
    const shape::Viewpoint view = shape::viewpoint(drawing.elevation);
    painter.save();
    painter.setClipRect(box);
    QTransform to;
    to.translate(box.center().x(), box.center().y());
    to.scale(drawing.px_per_mm, -drawing.px_per_mm);
    to.translate(-drawing.centre_mm.dot(view.right), -drawing.centre_mm.dot(view.up));
    const auto at = [&](const Vector3d& p) { return to.map(QPointF(p.dot(view.right), p.dot(view.up))); };
    QTransform unit = to;
    if (drawing.moved && drawing.report) {
        const Vector3d c = drawing.report->unit.body.centre_mm;
        const QPointF middle(c.dot(view.right), c.dot(view.up));
        QTransform move;
        move.translate(drawing.moved->by_mm.dot(view.right), drawing.moved->by_mm.dot(view.up));
        move.translate(middle.x(), middle.y());
        move.rotateRadians(drawing.moved->turn_rad.dot(view.towards_viewer()));
        move.translate(-middle.x(), -middle.y());
        unit = move * to;
    }
    if (drawing.outlines)
        for (const MountOutline& outline : *drawing.outlines) {
            const QPainterPath path = (outline.in_donor ? unit : to).map(outline.path);
            QColor fill = outline.bracket ? tones.in_hand : outline.in_donor ? tones.shaft : tones.far_end;
            QColor edge = fill;
            fill.setAlpha(outline.bracket ? 150 : outline.in_donor ? 70 : 28);
            edge.setAlpha(outline.in_donor || outline.bracket ? 220 : 150);
            painter.setPen(QPen(edge, outline.bracket ? 1.4 : 1, outline.landmark ? Qt::DashLine : Qt::SolidLine));
            painter.setBrush(outline.landmark ? QBrush(Qt::NoBrush) : QBrush(fill));
            painter.drawPath(path);
        }
    if (!drawing.report) return painter.restore();
    const mounts::MountsReport& report = *drawing.report;
    // Centre of gravity: a ring with a cross.
    if (report.usable) {
        const QPointF c = at(report.unit.body.centre_mm);
        painter.setPen(QPen(tones.ink, 1.4));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(c, 6, 6);
        painter.drawLine(c - QPointF(9, 0), c + QPointF(9, 0));
        painter.drawLine(c - QPointF(0, 9), c + QPointF(0, 9));
    }
    // Metal that is planned and not made yet: its arm's middle, and the faces it is to meet.
    for (const mounts::BracketReport& b : report.brackets) {
        if (!b.made || b.off_mm) continue;
        QPolygonF arm;
        const QTransform& its = b.which == mounts::Which::Bracket ? unit : to; // a bracket goes with the unit
        for (const Vector3d& own : b.made->path_mm) {
            const Vector3d p = b.made->ends.pose_vehicle_owner * own;
            arm << its.map(QPointF(p.dot(view.right), p.dot(view.up)));
        }
        QColor tone = tones.in_hand;
        tone.setAlpha(170);
        painter.setPen(QPen(tone, std::max(3.0, 30 * drawing.px_per_mm), Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(arm);
        // Its face: a stroke across, and which way its marked side lies.
        const Vector3d face = b.made->ends.pose_vehicle_owner * b.made->ends.face_mm;
        const Eigen::Matrix3d axes = b.made->ends.pose_vehicle_owner.linear() * b.made->ends.face_axes;
        painter.setPen(QPen(tones.ink, 1.4));
        arrow(painter, at(face), at(face + axes.col(0) * 24 / drawing.px_per_mm));
    }
    for (const mounts::FrameReport& f : report.frames) {
        QColor tone = tones.in_hand;
        tone.setAlpha(150);
        painter.setPen(QPen(tone, std::max(3.0, 34 * drawing.px_per_mm), Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
        painter.setBrush(Qt::NoBrush);
        if (!f.made)
            for (const auto& member : f.members_mm) {
                QPolygonF line;
                for (const Vector3d& corner : member) line << at(corner);
                painter.drawPolyline(line);
            }
        // Its seats: a wedge each.
        painter.setPen(QPen(tones.ink, 1.4));
        painter.setBrush(tones.ground);
        for (const mounts::SeatLoad& seat : f.seats) {
            const QPointF s = at(seat.at_mm);
            painter.drawPolygon(QPolygonF() << s << s + QPointF(6, 9) << s + QPointF(-6, 9));
        }
    }
    for (const MountSpot& spot : drawing.spots) {
        const QPointF s = at(spot.at_mm);
        const double r = spot.chosen ? chosen_spot_px : spot_px;
        painter.setPen(QPen(spot.chosen ? tones.in_hand : tones.ink, spot.chosen ? 2 : 1));
        painter.setBrush(spot.chosen ? QBrush(tones.in_hand) : QBrush(tones.ground));
        if (spot.seat)
            painter.drawPolygon(QPolygonF() << s << s + QPointF(r, 1.5 * r) << s + QPointF(-r, 1.5 * r));
        else
            painter.drawEllipse(s, r, r);
    }
    double most_n = 0;
    if (drawing.load)
        for (const Vector3d& f : drawing.load->on_unit_n) most_n = std::max(most_n, f.norm());
    struct Label {
        QPointF by;
        QString text;
        QColor tone;
        bool bold;
    };
    std::vector<Label> labels;
    ClearWords clear(box);
    for (std::size_t i = 0; i < report.mounts.size(); ++i) {
        const mounts::MountReport& m = report.mounts[i];
        const bool chosen = m.id == drawing.chosen;
        const QPointF c = at(m.at_mm);
        // Its axis, and a block across it.
        const Vector3d axial = m.axes.col(2);
        const QPointF up(axial.dot(view.right), -axial.dot(view.up));
        const double seen = std::hypot(up.x(), up.y());
        painter.setPen(QPen(chosen ? tones.in_hand : tones.ink, chosen ? 2.4 : 1.6));
        QColor ground = tones.ground;
        painter.setBrush(ground);
        if (seen > 0.2) {
            const QPointF along = up / seen, aside(-along.y(), along.x());
            QPolygonF block;
            const double half = chosen ? mount_px * 1.6 : mount_px * 1.3;
            block << c + along * mount_px + aside * half << c + along * mount_px - aside * half
                  << c - along * mount_px - aside * half << c - along * mount_px + aside * half;
            painter.drawPolygon(block);
        } else {
            painter.drawEllipse(c, mount_px, mount_px);
        }
        clear.take({c.x() - mount_px * 1.8, c.y() - mount_px * 1.8, mount_px * 3.6, mount_px * 3.6});
        QString text = drawing.names ? words(m.name) : QString();
        if (drawing.load && i < drawing.load->on_unit_n.size()) {
            const Vector3d on_stand = -drawing.load->on_unit_n[i];
            const QPointF by(on_stand.dot(view.right), -on_stand.dot(view.up));
            const double size = std::hypot(by.x(), by.y());
            const bool apart = i < drawing.load->pulled.size() && drawing.load->pulled[i];
            const QColor tone = apart ? tones.trouble : tones.in_hand;
            if (most_n > 0 && size / most_n * most_arrow_px > least_arrow_px) {
                painter.setPen(QPen(tone, 2.2));
                arrow(painter, c, c + by / most_n * most_arrow_px);
            }
            text += (text.isEmpty() ? QString() : QStringLiteral("  ")) +
                    words(discipline::forceText(on_stand.norm(), shown)) +
                    (apart ? QObject::tr(", pulled apart") : QString());
        }
        if (!text.isEmpty()) labels.push_back({c, text, chosen ? tones.in_hand : tones.ink, chosen});
    }
    // Words last, beside what they speak of and clear of one another.
    for (const Label& label : labels) {
        QFont font = painter.font();
        font.setBold(label.bold);
        painter.setFont(font);
        const QFontMetricsF own(font, painter.device());
        const double wide = own.horizontalAdvance(label.text) + 6, tall = own.height();
        std::vector<QRectF> places;
        for (const double down : {0.0, -1.0, 1.0, -2.0, 2.0, -3.0, 3.0, -4.0, 4.0, -5.0, 5.0})
            for (const double left : {10.0, -10.0 - wide})
                places.emplace_back(label.by.x() + left, label.by.y() - tall / 2 + down * tall, wide, tall);
        const QRectF best = clear.place(std::move(places));
        QColor ground = tones.ground;
        ground.setAlpha(225);
        painter.fillRect(best, ground);
        painter.setPen(label.tone);
        painter.drawText(best, Qt::AlignHCenter | Qt::AlignVCenter, label.text);
        font.setBold(false);
        painter.setFont(font);
    }
    painter.restore();
}

} // namespace gabarit::print
