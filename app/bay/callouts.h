// Labels with a leader to their place, laid out so that none covers another.
#pragma once

#include <QFontMetricsF>
#include <QRectF>
#include <QString>

#include <functional>
#include <vector>

namespace gabarit::app {

struct Callout {
    QString text;
    QPointF anchor; ///< px
    QRectF box;     ///< filled by layOut; empty when there was no room
    QString brief;  ///< stands instead where the text would hide what is drawn; empty: nothing does
    bool operator==(const Callout& other) const {
        return text == other.text && anchor == other.anchor && box == other.box;
    }
};

/// Finds a box for each callout inside `area`: near its anchor, clear of the boxes before it and of `keep_clear`, and
/// beside rather than over what `covered` (0 … 1) says is drawn under a box; what could only stand over it says less.
/// Texts wider than `widest_px` are broken.
void layOut(std::vector<Callout>& callouts, const QRectF& area, const std::vector<QRectF>& keep_clear,
            const QFontMetricsF& metrics, double widest_px, const std::function<double(const QRectF&)>& covered);

/// The point of the box's edge that the leader starts from.
QPointF leaderStart(const Callout& callout);

} // namespace gabarit::app
