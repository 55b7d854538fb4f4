#include "print/paths.h"

namespace gabarit::print {

QPainterPath pathOf(const shape::Outline& outline) {
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    for (const auto& ring : outline.rings) {
        QPolygonF polygon;
        polygon.reserve(static_cast<int>(ring.size()) + 1);
        for (const Eigen::Vector2d& p : ring) polygon << QPointF(p.x(), p.y());
        if (!polygon.isEmpty()) polygon << polygon.front();
        path.addPolygon(polygon);
        path.closeSubpath();
    }
    return path;
}

} // namespace gabarit::print
