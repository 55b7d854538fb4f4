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
    bool waits = false;  // `last` is not in it yet
    bool narrow = false; // there is a sleeve: told from its first direction, between two sides
    double first_rad = 0, low_rad = 0, high_rad = 0;
    double farthest_px = 0; // how far the line has come
    const auto keep = [&](const QPointF& point) {
        kept = point;
        narrow = false;
        farthest_px = 0;
        waits = false;
    };
    // Narrows the sleeve by a point; false when it is not in it, or lies behind the farthest.
    const auto take = [&](const QPointF& point) {
        const QPointF there = point - kept;
        const double length = std::hypot(there.x(), there.y());
        if (length < farthest_px - unseen_px) return false;
        farthest_px = std::max(farthest_px, length);
        if (length <= unseen_px) return true;
        const double rad = std::atan2(there.y(), there.x()), half = std::asin(unseen_px / length);
        if (!narrow) {
            narrow = true;
            first_rad = rad;
            low_rad = -half, high_rad = half;
            return true;
        }
        const double off = std::remainder(rad - first_rad, 2 * M_PI);
        if (off < low_rad || off > high_rad) return false;
        low_rad = std::max(low_rad, off - half);
        high_rad = std::min(high_rad, off + half);
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
