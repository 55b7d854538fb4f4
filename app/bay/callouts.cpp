#include "bay/callouts.h"

#include <QLineF>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {
constexpr double margin_px = 6;
constexpr double longest_px = 300;
constexpr double step_px = 12; // of places along the edge of the sheet
constexpr double padding_x_px = 7, padding_y_px = 3;
} // namespace

namespace {

bool crosses(const QLineF& line, const QRectF& box) {
    if (box.contains(line.p1()) || box.contains(line.p2())) return true;
    const QPointF corners[] = {box.topLeft(), box.topRight(), box.bottomRight(), box.bottomLeft()};
    for (int i = 0; i < 4; ++i)
        if (line.intersects(QLineF(corners[i], corners[(i + 1) % 4]), nullptr) == QLineF::BoundedIntersection)
            return true;
    return false;
}

/// Breaks a text at the space nearest to its middle.
QString broken(const QString& text) {
    const qsizetype middle = text.size() / 2;
    qsizetype best = -1;
    for (qsizetype i = text.indexOf(QLatin1Char(' ')); i >= 0; i = text.indexOf(QLatin1Char(' '), i + 1))
        if (best < 0 || std::abs(i - middle) < std::abs(best - middle)) best = i;
    return best < 0 ? text : text.left(best) + QLatin1Char('\n') + text.mid(best + 1);
}

} // namespace

void layOut(std::vector<Callout>& callouts, const QRectF& area, const std::vector<QRectF>& keep_clear,
            const QFontMetricsF& metrics, double widest_px, const std::function<double(const QRectF&)>& covered) {
    constexpr double covering_costs_px = 600; // a leader may be that much longer to keep the unit free
    constexpr double crossing_costs_px = 200;
    static const std::vector<QPointF> rays = [] {
        std::vector<QPointF> out;
        for (int k = 0; k < 16; ++k) out.emplace_back(std::cos((k + 0.5) * M_PI / 8), -std::sin((k + 0.5) * M_PI / 8));
        return out;
    }();
    std::vector<QRectF> taken = keep_clear;
    for (const Callout& callout : callouts) taken.emplace_back(callout.anchor - QPointF(5, 5), QSizeF(10, 10));
    const auto place = [&](Callout& callout) {
        callout.box = QRectF();
        if (metrics.horizontalAdvance(callout.text) > widest_px) callout.text = broken(callout.text);
        const QSizeF text = metrics.size(0, callout.text);
        const QSizeF size(text.width() + 2 * padding_x_px, text.height() + 2 * padding_y_px);
        double best = 1e18;
        const auto consider = [&](const QRectF& box, double reach) {
            if (reach >= best || !area.contains(box)) return;
            const bool crowded = std::any_of(taken.begin(), taken.end(), [&box](const QRectF& other) {
                return other.adjusted(-margin_px, -margin_px, margin_px, margin_px).intersects(box);
            });
            if (crowded) return;
            // No leader goes through a box, and none over another's if that can be.
            const QLineF leader(leaderStart({callout.text, callout.anchor, box, {}}), callout.anchor);
            bool through = false;
            int crossings = 0;
            for (const Callout& other : callouts) {
                if (other.box.isEmpty()) continue;
                const QLineF its(leaderStart(other), other.anchor);
                through = through || crosses(leader, other.box) || crosses(its, box);
                crossings += leader.intersects(its, nullptr) == QLineF::BoundedIntersection;
            }
            if (through) return;
            const double cost = reach + covering_costs_px * covered(box) + crossing_costs_px * crossings;
            if (cost >= best) return;
            best = cost;
            callout.box = box;
        };
        for (double reach = 26; reach <= longest_px && reach < best; reach += 18)
            for (const QPointF& ray : rays) {
                // The box hangs on the ray by its near edge.
                const QPointF tip = callout.anchor + ray * reach;
                consider(
                    QRectF(QPointF(ray.x() >= 0 ? tip.x() : tip.x() - size.width(), tip.y() - size.height() / 2), size),
                    reach);
            }
        // Along the edges of the sheet, where the unit seldom reaches.
        const auto atEdge = [&](double x, double y) {
            const QRectF box(QPointF(x, y), size);
            consider(box, QLineF(leaderStart({callout.text, callout.anchor, box, {}}), callout.anchor).length());
        };
        for (double x = area.left(); x + size.width() <= area.right(); x += step_px)
            for (const double y : {area.top(), area.bottom() - size.height()}) atEdge(x, y);
        for (double y = area.top(); y + size.height() <= area.bottom(); y += step_px)
            for (const double x : {area.left(), area.right() - size.width()}) atEdge(x, y);
    };
    constexpr double hides = 0.3, far_px = 150;
    const auto tooFar = [](const Callout& callout) {
        return QLineF(leaderStart(callout), callout.anchor).length() > far_px;
    };
    for (Callout& callout : callouts) {
        place(callout);
        if (!callout.brief.isEmpty() && (callout.box.isEmpty() || covered(callout.box) > hides || tooFar(callout))) {
            callout.text = callout.brief;
            place(callout);
        }
        if (!callout.box.isEmpty()) taken.push_back(callout.box);
    }
}

QPointF leaderStart(const Callout& callout) {
    const QRectF& b = callout.box;
    const double x = callout.anchor.x() < b.left()    ? b.left()
                     : callout.anchor.x() > b.right() ? b.right()
                                                      : callout.anchor.x();
    const double y = x == b.left() || x == b.right() ? b.center().y()
                     : callout.anchor.y() < b.top()  ? b.top()
                                                     : b.bottom();
    return {x, y};
}

} // namespace gabarit::app
