// Outlines with no more points than a drawing shows.
#pragma once

#include <QPainterPath>
#include <QTransform>

#include <algorithm>
#include <cmath>

namespace gabarit::app {

/// A path of straight lines, mapped by `to`, without points that the line drawn in their place passes by less than
/// `unseen_px`. Each point left out narrows the sleeve of directions that the next may lie in, so that it is true of
/// all of them (Zhao and Saalfeld, Linear-time sleeve-fitting polyline simplification, 1997). Round bodies have
/// thousands of points, and their edges are what painting costs.
inline QPainterPath thinned(const QPainterPath& path, const QTransform& to, double unseen_px = 0.1) {
    QPainterPath out;
    out.setFillRule(path.fillRule());
    QPointF kept, last;
    bool waits = false;      // `last` is not in it yet
    bool narrow = false;     // there is a sleeve, between two sides
    QPointF right, left;     // its sides, from `kept`, of any length
    double farthest_px2 = 0; // how far the line has come, squared
    const auto keep = [&](const QPointF& point) {
        kept = point;
        narrow = false;
        farthest_px2 = 0;
        waits = false;
    };
    const auto turn = [](const QPointF& from, const QPointF& towards) { // above zero: to the left
        return from.x() * towards.y() - from.y() * towards.x();
    };
    const double unseen_px2 = unseen_px * unseen_px;
    // Narrows the sleeve by a point; false when it is not in it, or lies behind the farthest.
    const auto take = [&](const QPointF& point) {
        const QPointF there = point - kept;
        const double length_px2 = QPointF::dotProduct(there, there);
        if (length_px2 < farthest_px2) {
            const double back_px = std::sqrt(farthest_px2) - std::sqrt(length_px2);
            if (back_px > unseen_px) return false;
        } else {
            farthest_px2 = length_px2;
        }
        if (length_px2 <= unseen_px2) return true;
        if (narrow && (turn(right, there) < 0 || turn(there, left) < 0)) return false;
        // The tangents from `kept` to the circle that the line must meet.
        const double along = std::sqrt(length_px2 - unseen_px2);
        const QPointF its_right(there.x() * along + there.y() * unseen_px, there.y() * along - there.x() * unseen_px);
        const QPointF its_left(there.x() * along - there.y() * unseen_px, there.y() * along + there.x() * unseen_px);
        if (!narrow || turn(right, its_right) > 0) right = its_right;
        if (!narrow || turn(left, its_left) < 0) left = its_left;
        narrow = true;
        return true;
    };
    for (int i = 0; i < path.elementCount(); ++i) {
        const QPainterPath::Element& element = path.elementAt(i);
        const QPointF point = to.map(QPointF(element));
        if (element.isMoveTo()) {
            if (waits) out.lineTo(last);
            out.moveTo(point);
            keep(point);
            continue;
        }
        if (!take(point)) {
            out.lineTo(last);
            keep(last);
            take(point);
        }
        last = point;
        waits = true;
    }
    if (waits) out.lineTo(last);
    return out;
}

} // namespace gabarit::app
