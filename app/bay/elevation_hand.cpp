// The hand on an elevation: picking, panning, dragging, reshaping.
#include "bay/edge_handles.h"
#include "bay/elevation_view.h"
#include "fit/fit_report.h"
#include "fit/words.h"
#include "forms/tones.h"
#include "model/reshape.h"
#include "session/session.h"

#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

using Eigen::Vector3d;

constexpr double snap_px = 10;
constexpr double handle_px = 14;

} // namespace

QPointF ElevationView::snapped(const QPointF& point_px) const {
    const auto picture = session_.picture();
    if (!picture) return point_px;
    const QTransform to = drawing();
    QPointF best = point_px;
    double nearest = snap_px;
    for (const PictureBody& body : picture->bodies) {
        if (lookout_.sight(body.ref) == Sight::Hidden || body.category == "ground") continue;
        const QPainterPath& path = body.outline[index()];
        for (int i = 0; i < path.elementCount(); ++i) {
            const QPointF corner = to.map(QPointF(path.elementAt(i)));
            const double distance = std::hypot(corner.x() - point_px.x(), corner.y() - point_px.y());
            if (distance < nearest) nearest = distance, best = corner;
        }
    }
    return best;
}

const PictureBody* ElevationView::surveyedAt(const QPointF& point_px) const {
    const auto picture = session_.picture();
    if (!picture) return nullptr;
    const QPointF at = drawing().inverted().map(point_px);
    const PictureBody* best = nullptr;
    double least = 0;
    for (const PictureBody& body : picture->bodies) {
        if (lookout_.sight(body.ref) == Sight::Hidden || !body.outline[index()].contains(at)) continue;
        // The smallest under the point: what stands behind a large panel can still be picked.
        const QRectF box = body.outline[index()].boundingRect();
        const double area = box.width() * box.height();
        if (!best || area < least) best = &body, least = area;
    }
    return best;
}

QPointF ElevationView::handlePoint(const EdgeHandle& handle) const {
    // The middle of what is seen of the edge: the ends of a long rail lie outside the sheet.
    const QPointF from = toScreen(handle.at_vehicle_mm - handle.across_vehicle_mm),
                  by = toScreen(handle.at_vehicle_mm + handle.across_vehicle_mm) - from;
    double low = 0, high = 1;
    const auto clip = [&](double start, double length, double room) {
        if (std::abs(length) < 1e-9) return;
        const double a = -start / length, b = (room - start) / length;
        low = std::max(low, std::min(a, b));
        high = std::min(high, std::max(a, b));
    };
    clip(from.x(), by.x(), width());
    clip(from.y(), by.y(), height());
    return low < high ? from + by * (low + high) / 2 : toScreen(handle.at_vehicle_mm);
}

std::optional<EdgeHandle> ElevationView::handleAt(const QPointF& point_px) const {
    if (!survey_ || !session_.hasProject() || !lookout_.edited()) return std::nullopt;
    for (const EdgeHandle& handle : edgeHandles(*session_.project(), *lookout_.edited(), view_)) {
        const QPointF off = handlePoint(handle) - point_px;
        if (std::hypot(off.x(), off.y()) <= handle_px) return handle;
    }
    return std::nullopt;
}

void ElevationView::paintHandles(QPainter& painter) {
    if (!session_.hasProject()) return;
    // Hard points as small crosses: what mounts, flanges and the tape hang on.
    painter.setPen(QPen(tones().ink, 1.4));
    const auto cross = [&](const Vector3d& at_vehicle_mm) {
        const QPointF at = toScreen(at_vehicle_mm);
        painter.drawLine(at - QPointF(5, 0), at + QPointF(5, 0));
        painter.drawLine(at - QPointF(0, 5), at + QPointF(0, 5));
    };
    forEachPoint([&](const std::string&, const model::HardPoint&, const Vector3d& at_mm) { cross(at_mm); });
    paintNotes(painter);
    if (!lookout_.edited()) return;
    painter.setPen(QPen(tones().in_hand, 2));
    painter.setBrush(tones().paper);
    for (const EdgeHandle& handle : edgeHandles(*session_.project(), *lookout_.edited(), view_)) {
        // A short bar along the edge, square to the way it is dragged.
        const QPointF at = handlePoint(handle);
        QPointF along(handle.along_vehicle_mm.dot(view_.right), -handle.along_vehicle_mm.dot(view_.up));
        along /= std::hypot(along.x(), along.y());
        const QPointF across(-along.y(), along.x());
        painter.drawPolygon(QPolygonF({at + across * 9 + along * 4, at - across * 9 + along * 4,
                                       at - across * 9 - along * 4, at + across * 9 - along * 4}));
    }
}

/// Free volumes as dashed frames, what was found broken as an open mark; each by its name.
void ElevationView::paintNotes(QPainter& painter) {
    const model::Project& project = *session_.project();
    std::vector<QRectF> named;
    // Never cut at the drawing's edge: it stands as near as it goes; of what is out of sight nothing is said.
    const auto name = [&](QPointF at, const std::string& words) {
        const QFontMetricsF metrics(painter.font());
        const double room = width() - 8.0;
        const QString text = metrics.elidedText(QString::fromStdString(words), Qt::ElideMiddle, room);
        const double wide = metrics.horizontalAdvance(text);
        at.setX(std::max(4.0, std::min(at.x(), width() - wide - 4)));
        at.setY(std::max(metrics.ascent() + 2, std::min(at.y(), height() - metrics.descent() - 2)));
        const auto plateAt = [&] { return QRectF(at.x() - 2, at.y() - metrics.ascent(), wide + 4, metrics.height()); };
        // Where another name stands, it goes above that one.
        for (bool free = false; !free;) {
            free = true;
            for (const QRectF& other : named)
                if (other.intersects(plateAt()) && other.top() - metrics.descent() - 1 > metrics.ascent()) {
                    at.setY(other.top() - metrics.descent() - 1);
                    free = false;
                }
        }
        named.push_back(plateAt());
        QColor plate = tones().paper;
        plate.setAlpha(220);
        painter.fillRect(
            QRectF(at.x() - 2, at.y() - metrics.ascent(), metrics.horizontalAdvance(text) + 4, metrics.height()),
            plate);
        painter.setPen(tones().ink);
        painter.drawText(at, text);
    };
    painter.setBrush(Qt::NoBrush);
    if (project.vehicle)
        for (const model::FreeVolume& volume : project.vehicle->free_volumes) {
            const QRectF frame =
                QRectF(toScreen(volume.at_mm - volume.size_mm / 2), toScreen(volume.at_mm + volume.size_mm / 2))
                    .normalized();
            painter.setPen(QPen(tones().in_hand, 1.6, Qt::DashLine));
            painter.drawRect(frame);
            if (!frame.intersects(QRectF(rect()))) continue;
            name(frame.bottomLeft() + QPointF(0, 15), volume.name);
        }
    const model::Placement* placement = model::activePlacement(project);
    const model::Donor* donor = model::activeDonor(project);
    for (const model::Condition& condition : project.conditions) {
        const bool ours = condition.owner == model::vehicle_owner;
        if (condition.mended || (!ours && !(placement && donor && donor->id.text == condition.owner))) continue;
        const QPointF at =
            toScreen(ours ? condition.at_mm : Vector3d(model::poseVehicleDonor(*placement, *donor) * condition.at_mm));
        paintMark(painter, at, 7, model::Verdict::Unknown);
        if (QRectF(rect()).contains(at)) name(at + QPointF(11, 5), condition.name);
    }
}

void ElevationView::pressSurvey() {
    const PictureBody* body = surveyedAt(press_px_);
    if (const auto handle = handleAt(press_px_)) {
        hold_ = Hold::Edge;
        handle_ = *handle;
    } else if (body && lookout_.edited() && *lookout_.edited() == body->ref) {
        hold_ = Hold::Body;
    } else {
        hold_ = Hold::Pan;
        if (body) emit bodyPicked(body->ref);
        return;
    }
    reshaped_ = *model::findBody(*session_.project(), *lookout_.edited());
    pose_reshaped_ = *poseVehicleBody(*session_.project(), *lookout_.edited());
    press_vehicle_mm_ = toVehicle(press_px_);
    dragged_mm_.setZero();
    ++drag_count_;
}

void ElevationView::dragSurvey(const QPointF& point_px) {
    // In whole steps, as on the jack.
    const double step = lookout_.moveStep_mm();
    const auto whole = [step](double mm) { return std::round(mm / step) * step; };
    const Vector3d wish = toVehicle(point_px) - press_vehicle_mm_;
    model::Project changed = *session_.project();
    model::Body* body = model::findBody(changed, *lookout_.edited());
    if (!body) return;
    QString name;
    if (hold_ == Hold::Edge) {
        const Vector3d along = handle_.along_vehicle_mm;
        const Vector3d seen = along - view_.towards_viewer() * along.dot(view_.towards_viewer());
        const double by_mm = whole(wish.dot(seen) / seen.squaredNorm());
        if (std::abs(by_mm - dragged_mm_.x()) < 1e-9) return;
        const auto moved = model::withFaceMoved(reshaped_, handle_.axis, handle_.high, by_mm);
        if (!moved) return; // dragged through the other face: it waits for the hand to come back
        dragged_mm_.x() = by_mm;
        *body = moved.value();
        name = tr("drag an edge of the %1").arg(QString::fromStdString(body->name).toLower());
    } else {
        const Vector3d total = view_.right * whole(wish.dot(view_.right)) + view_.up * whole(wish.dot(view_.up));
        if ((total - dragged_mm_).norm() < 1e-9) return;
        dragged_mm_ = total;
        *body = reshaped_;
        const Eigen::Matrix3d ownerFromVehicle =
            reshaped_.poseOwnerBody().linear() * pose_reshaped_.linear().transpose();
        body->position_mm += ownerFromVehicle * total;
        name = tr("put the %1 elsewhere").arg(QString::fromStdString(body->name).toLower());
    }
    session_.edit(name, std::move(changed), QStringLiteral("reshape %1 %2").arg(quintptr(this)).arg(drag_count_));
}

void ElevationView::paintPinned(QPainter& painter) {
    if (!session_.pin()) return;
    painter.save();
    painter.setTransform(drawing(), true);
    QPen pen(tones().in_hand, 1.6, Qt::DashDotLine);
    pen.setCosmetic(true);
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    QPainterPath all;
    for (const PictureBody& body : session_.pin()->picture->bodies)
        if (body.in_donor && lookout_.sight(body.ref) != Sight::Hidden) all = all.united(body.outline[index()]);
    painter.drawPath(all);
    painter.restore();
}

void ElevationView::paintTool(QPainter& painter) {
    const auto reports = session_.reports();
    if (!reports || lookout_.selected().empty()) return;
    for (const fit::ToolAccess& access : reports->with<fit::FitReport>().access) {
        if (fit::accessFindingId(access) != lookout_.selected() || access.diameter_mm <= 0) continue;
        const QPointF from = toScreen(access.from_mm), to = toScreen(access.to_mm);
        const double half = access.diameter_mm / 2 * lookout_.scale();
        QPointF along = to - from;
        const double length = std::hypot(along.x(), along.y());
        painter.setPen(QPen(toneOf(access.verdict), 2, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        if (length < half) { // seen end-on
            painter.drawEllipse(from, half, half);
            continue;
        }
        along /= length;
        const QPointF across = QPointF(-along.y(), along.x()) * half;
        painter.drawPolygon(QPolygonF({from + across, to + across, to - across, from - across}));
    }
}

void ElevationView::mousePressEvent(QMouseEvent* event) {
    press_px_ = event->position();
    if (event->button() == Qt::MiddleButton || event->button() == Qt::RightButton) {
        hold_ = Hold::Pan;
        setCursor(Qt::ClosedHandCursor);
        return;
    }
    if (event->button() != Qt::LeftButton) return;
    if (lookout_.pointing() != Lookout::Pointing::Nothing) return pointAt(press_px_);
    if (lookout_.taping()) {
        if (tape_mm_.size() == 2) tape_mm_.clear();
        tape_mm_.push_back(toVehicle(snapped(press_px_)));
        update();
        return;
    }
    if (survey_) return pressSurvey();
    for (const auto& box : callout_boxes_)
        if (box.first.contains(press_px_)) {
            lookout_.select(box.second);
            return;
        }
    const PictureBody* body = bodyAt(press_px_);
    if (!body || (!body->in_donor && !body->movable)) { // paper, or what stays where it is: the sheet is dragged
        if (!body) lookout_.select({});
        hold_ = Hold::Pan;
        return;
    }
    if (body->in_donor && !(session_.inHand() && *session_.inHand() == body->ref))
        session_.takeInHand(std::nullopt);
    else if (!body->in_donor)
        session_.takeInHand(body->ref);
    hold_ = Hold::Drag;
    press_vehicle_mm_ = toVehicle(press_px_);
    dragged_mm_.setZero();
    ++drag_count_;
}

/// The body under the point, or the nearest of the points that are drawn as crosses.
void ElevationView::pointAt(const QPointF& point_px) {
    if (lookout_.pointing() == Lookout::Pointing::Bodies) {
        if (const PictureBody* body = survey_ ? surveyedAt(point_px) : bodyAt(point_px))
            lookout_.pointAt(body->ref.owner, body->ref.body.text);
        return;
    }
    constexpr double reach_px = 18;
    double nearest_px = reach_px;
    std::pair<std::string, std::string> best;
    forEachPoint([&](const std::string& owner, const model::HardPoint& point, const Vector3d& at_vehicle_mm) {
        const QPointF off = toScreen(at_vehicle_mm) - point_px;
        if (const double away_px = std::hypot(off.x(), off.y()); away_px < nearest_px) {
            nearest_px = away_px;
            best = {owner, point.id.text};
        }
    });
    if (nearest_px < reach_px) lookout_.pointAt(best.first, best.second);
}

void ElevationView::forEachPoint(
    const std::function<void(const std::string&, const model::HardPoint&, const Vector3d&)>& visit) const {
    const model::Project& project = *session_.project();
    if (project.vehicle)
        for (const model::HardPoint& point : project.vehicle->hard_points)
            visit(model::vehicle_owner, point, point.at_mm);
    const model::Placement* placement = model::activePlacement(project);
    if (const auto donor = model::hangingDonor(project); donor && placement)
        for (const model::HardPoint& point : donor->reference_points)
            visit(donor->id.text, point, model::poseVehicleDonor(*placement, *donor) * point.at_mm);
}

void ElevationView::mouseMoveEvent(QMouseEvent* event) {
    if (hold_ == Hold::Pan) {
        const Vector3d from = toVehicle(press_px_), to = toVehicle(event->position());
        press_px_ = event->position();
        lookout_.setCentre(lookout_.centre_mm() + from - to);
        return;
    }
    if (hold_ == Hold::Drag) {
        // In whole steps, so that what is read off can be set on the jack.
        const double step = lookout_.moveStep_mm();
        const Vector3d wish = toVehicle(event->position()) - press_vehicle_mm_;
        const auto whole = [step](double mm) { return std::round(mm / step) * step; };
        const Vector3d total = view_.right * whole(wish.dot(view_.right)) + view_.up * whole(wish.dot(view_.up));
        const Vector3d more = total - dragged_mm_;
        if (more.norm() < 1e-9) return;
        dragged_mm_ = total;
        session_.nudge(more, QStringLiteral("drag %1 %2").arg(quintptr(this)).arg(drag_count_));
        return;
    }
    if (hold_ == Hold::Edge || hold_ == Hold::Body) return dragSurvey(event->position());
    const PictureBody* body = survey_ ? surveyedAt(event->position()) : bodyAt(event->position());
    QString name = body ? QString::fromStdString(body->name) : QString();
    if (!survey_ && body && !body->in_donor && body->movable) name += tr(" (may be moved)");
    const bool crossed = lookout_.taping() || lookout_.pointing() != Lookout::Pointing::Nothing;
    setCursor(crossed                                     ? Qt::CrossCursor
              : survey_ && handleAt(event->position())    ? Qt::PointingHandCursor
              : survey_                                   ? Qt::ArrowCursor
              : body && (body->in_donor || body->movable) ? Qt::SizeAllCursor
                                                          : Qt::ArrowCursor);
    if (name == hovered_) return;
    hovered_ = name;
    update();
}

void ElevationView::mouseReleaseEvent(QMouseEvent*) {
    hold_ = Hold::Nothing;
    unsetCursor();
}

void ElevationView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && !lookout_.taping()) lookout_.zoomAbout(1.6, toVehicle(event->position()));
}

void ElevationView::wheelEvent(QWheelEvent* event) {
    const double notches = event->angleDelta().y() / 120.0;
    if (notches != 0) lookout_.zoomAbout(std::pow(1.18, notches), toVehicle(event->position()));
    event->accept();
}

void ElevationView::leaveEvent(QEvent*) {
    hovered_.clear();
    update();
}

} // namespace gabarit::app
