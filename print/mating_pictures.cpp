#include "print/mating_pictures.h"

#include "print/words.h"

#include <QFontMetricsF>
#include <QObject>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace gabarit::print {
namespace {

using model::InterfaceKind;
using model::InterfaceSide;
using quantity::Shown;

constexpr int most_drawn = 96; // teeth or bolts beyond it would run together
constexpr double tooth_share = 0.06;

using Known = std::optional<double>;
/// A sum that is known when all of it is.
Known sum(const Known& a, const Known& b, double sign = 1) { return a && b ? Known(*a + sign * *b) : std::nullopt; }

class Lanes {
public:
    void begin(const QString& name) { out_.push_back({name, {}}); }
    void bar(const QString& name, const Known& a, const Known& b, bool on_crank) {
        if (a && b) out_.back().bars.push_back({name, std::min(*a, *b), std::max(*a, *b), on_crank});
    }
    std::vector<StackLane> taken() {
        out_.erase(std::remove_if(out_.begin(), out_.end(), [](const StackLane& lane) { return lane.bars.empty(); }),
                   out_.end());
        return std::move(out_);
    }

private:
    std::vector<StackLane> out_;
};

double outsideOf(const model::Interface& interface, const InterfaceSide& side) {
    const double across = side.diameter_mm.value_or(0);
    if (interface.kind == InterfaceKind::Flange) return across + 2.5 * side.bolt_mm.value_or(0);
    if (interface.kind == InterfaceKind::Joint) return std::max(across, side.span_mm.value_or(0));
    return across;
}

void paintSide(QPainter& painter, const QPointF& centre, double scale, InterfaceKind kind, const InterfaceSide& side,
               const PictureTones& tones, const QColor& tone) {
    const auto circle = [&](double diameter_mm) {
        painter.drawEllipse(centre, diameter_mm * scale / 2, diameter_mm * scale / 2);
    };
    const double across = side.diameter_mm.value_or(0);
    const int count = side.count ? static_cast<int>(std::lround(std::clamp(*side.count, 0.0, 1e4))) : 0;
    painter.setPen(QPen(tone, 2));
    painter.setBrush(Qt::NoBrush);
    switch (kind) {
    case InterfaceKind::Flange:
        circle(across + 2.5 * side.bolt_mm.value_or(0));
        if (side.pilot_mm) circle(*side.pilot_mm);
        painter.setPen(QPen(tones.second_ink, 1, Qt::DashLine));
        circle(across);
        painter.setPen(QPen(tone, 2));
        for (int i = 0; i < count && count <= most_drawn; ++i) {
            const double phi = 2 * M_PI * i / count;
            const double r = across * scale / 2, bolt = side.bolt_mm.value_or(6) * scale / 2;
            painter.drawEllipse(centre + QPointF(std::sin(phi) * r, -std::cos(phi) * r), bolt, bolt);
        }
        break;
    case InterfaceKind::Spline: {
        if (count < 3 || count > most_drawn) return circle(across);
        QPolygonF ring;
        const double outer = across * scale / 2, inner = outer * (1 - 2 * tooth_share);
        for (int i = 0; i < count * 4; ++i) {
            const double phi = 2 * M_PI * (i - 0.5) / (count * 4), r = i % 4 < 2 ? outer : inner;
            ring << centre + QPointF(std::sin(phi) * r, -std::cos(phi) * r);
        }
        painter.drawPolygon(ring);
        break;
    }
    case InterfaceKind::Joint: {
        const double span = side.span_mm.value_or(across) * scale, cap = across * scale;
        painter.drawRect(QRectF(centre.x() - span / 2, centre.y() - cap / 2, span, cap));
        painter.drawRect(QRectF(centre.x() - cap / 2, centre.y() - span / 2, cap, span));
        break;
    }
    case InterfaceKind::Bore: circle(across); break;
    }
}

QString figuresOf(const model::Interface& interface, const InterfaceSide& side, const Shown& shown) {
    const auto length = [&](const QString& what, const Known& mm) {
        return QObject::tr("%1 %2").arg(what, mm ? words(quantity::lengthText(*mm, shown)) : QObject::tr("not known"));
    };
    const auto count = [&](const QString& what) {
        return QObject::tr("%1 %2").arg(what, side.count ? QString::number(*side.count) : QObject::tr("not known"));
    };
    QStringList out;
    switch (interface.kind) {
    case InterfaceKind::Flange:
        out << count(QObject::tr("bolts")) << length(QObject::tr("bolt circle"), side.diameter_mm)
            << length(QObject::tr("spigot"), side.pilot_mm) << length(QObject::tr("bolt size"), side.bolt_mm);
        break;
    case InterfaceKind::Spline:
        out << count(QObject::tr("teeth")) << length(QObject::tr("major diameter"), side.diameter_mm);
        if (side.length_mm) out << length(QObject::tr("length"), side.length_mm);
        break;
    case InterfaceKind::Joint:
        out << length(QObject::tr("cap"), side.diameter_mm) << length(QObject::tr("over the caps"), side.span_mm);
        break;
    case InterfaceKind::Bore: out << length(QObject::tr("diameter"), side.diameter_mm); break;
    }
    return out.join(QStringLiteral(", "));
}

} // namespace

std::vector<StackLane> stackLanes(const model::BellStack& s) {
    const Known face = 0.0, crank = s.crank_flange.mm, friction = sum(crank, s.flywheel.mm),
                fingers = sum(friction, s.clutch.mm), gearbox = sum(s.adapter_plate.mm, s.bell_depth.mm);
    Lanes lanes;
    lanes.begin(QObject::tr("Housing"));
    if (s.adapter_plate.mm && *s.adapter_plate.mm > 0)
        lanes.bar(QObject::tr("adapter plate"), face, s.adapter_plate.mm, false);
    lanes.bar(QObject::tr("bellhousing"), s.adapter_plate.mm, gearbox, false);
    lanes.begin(QObject::tr("On the crank"));
    lanes.bar(QObject::tr("flange"), face, crank, true);
    lanes.bar(QObject::tr("flywheel"), crank, friction, true);
    lanes.bar(QObject::tr("clutch, to its fingers"), friction, fingers, true);
    lanes.begin(QObject::tr("Release"));
    lanes.bar(QObject::tr("fingers' way"), sum(fingers, s.finger_travel.mm, -1), fingers, true);
    const Known rest = sum(gearbox, s.release_at_rest.mm, -1);
    lanes.bar(QObject::tr("bearing's way"), sum(rest, s.release_travel.mm, -1), rest, false);
    lanes.begin(QObject::tr("Disc's hub"));
    lanes.bar(QObject::tr("hub"), sum(friction, s.hub_from.mm), sum(friction, s.hub_to.mm), true);
    lanes.bar(QObject::tr("splines"), sum(gearbox, s.spline_from.mm, -1), sum(gearbox, s.spline_to.mm, -1), false);
    lanes.begin(QObject::tr("Pilot"));
    const Known mouth = sum(crank, s.pilot_mouth.mm), tip = sum(gearbox, s.shaft_tip.mm, -1);
    lanes.bar(QObject::tr("hole"), sum(mouth, s.pilot_bottom.mm, -1), mouth, true);
    lanes.bar(QObject::tr("input shaft's tip"), tip, sum(tip, s.shaft_shoulder.mm), false);
    lanes.begin(QObject::tr("Starter"));
    const Known ring = sum(crank, s.ring_from.mm);
    lanes.bar(QObject::tr("ring gear"), ring, sum(ring, s.ring_width.mm), true);
    const double way = s.starter_from_behind ? -1 : 1;
    lanes.bar(QObject::tr("pinion's way"), sum(s.starter_face.mm, s.starter_rest.mm, way),
              sum(s.starter_face.mm, s.starter_out.mm, way), false);
    return lanes.taken();
}

void paintStack(QPainter& painter, const QRectF& box, const model::BellStack& stack, const PictureTones& tones,
                Shown shown) {
    const std::vector<StackLane> lanes = stackLanes(stack);
    const QFontMetricsF metrics(painter.font(), painter.device());
    const double row = metrics.height();
    if (lanes.empty()) {
        painter.setPen(tones.second_ink);
        painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap,
                         QObject::tr("Measure from the block's rear face rearward, and from the gearbox's front face "
                                     "forward: each pair is drawn as soon as both its lengths are given."));
        return;
    }
    double low = 0, high = 0;
    for (const StackLane& lane : lanes)
        for (const StackBar& bar : lane.bars) {
            low = std::min(low, bar.from_mm);
            high = std::max(high, bar.to_mm);
        }
    high = std::max(high, low + 1);
    double names = 0;
    for (const StackLane& lane : lanes) names = std::max(names, metrics.horizontalAdvance(lane.name));
    const QRectF field = box.adjusted(names + 16, row * 1.7, -16, -row * 2.6);
    const auto x = [&](double mm) { return field.left() + (mm - low) / (high - low) * field.width(); };
    painter.setPen(tones.ink);
    painter.drawText(QRectF(box.left(), box.top(), box.width(), row * 1.4), Qt::AlignLeft | Qt::AlignVCenter,
                     QObject::tr("Along the crank from the block's rear face in %1, rear to the right; across it is "
                                 "not drawn")
                         .arg(QLatin1String(quantity::lengthUnit(shown))));
    painter.setPen(QPen(tones.rule, 1));
    const auto ticks = roundFigures(low, high, 8);
    for (const double mm : ticks) painter.drawLine(QPointF(x(mm), field.top()), QPointF(x(mm), field.bottom()));
    painter.setPen(tones.second_ink);
    for (const double mm : ticks)
        painter.drawText(QRectF(x(mm) - 40, field.bottom() + 2, 80, row), Qt::AlignHCenter,
                         words(quantity::lengthNumber(mm, shown, 0)));
    const double lane_height = field.height() / static_cast<double>(lanes.size());
    const double bar_height = std::min(lane_height * 0.4, row * 1.5);
    for (std::size_t i = 0; i < lanes.size(); ++i) {
        const double top = field.top() + lane_height * static_cast<double>(i);
        painter.setPen(tones.ink);
        painter.drawText(QRectF(box.left(), top, names + 8, lane_height), Qt::AlignLeft | Qt::AlignVCenter,
                         lanes[i].name);
        const double middle = top + lane_height / 2;
        for (const StackBar& bar : lanes[i].bars) {
            const bool alone = std::all_of(lanes[i].bars.begin(), lanes[i].bars.end(),
                                           [&](const StackBar& other) { return other.on_crank == bar.on_crank; });
            const double y = alone ? middle - bar_height / 2 : bar.on_crank ? middle - bar_height - 1 : middle + 1;
            const QRectF rect(x(bar.from_mm), y, std::max(2.0, x(bar.to_mm) - x(bar.from_mm)), bar_height);
            QColor fill = bar.on_crank ? tones.far_end : tones.shaft;
            painter.setPen(QPen(fill, 1.6));
            fill.setAlpha(60);
            painter.setBrush(fill);
            painter.drawRect(rect);
            painter.setBrush(Qt::NoBrush);
            painter.setPen(tones.ink);
            const double wide = metrics.horizontalAdvance(bar.name) + 8;
            if (wide <= rect.width())
                painter.drawText(rect, Qt::AlignCenter, bar.name);
            else if (rect.right() + wide < box.right() && !alone)
                painter.drawText(QRectF(rect.right() + 5, y, wide, bar_height), Qt::AlignLeft | Qt::AlignVCenter,
                                 bar.name);
            else if (!alone)
                painter.drawText(QRectF(rect.left() - wide, y, wide - 5, bar_height), Qt::AlignRight | Qt::AlignVCenter,
                                 bar.name);
            else
                painter.drawText(QRectF(rect.center().x() - wide / 2, rect.bottom(), wide, row), Qt::AlignCenter,
                                 bar.name);
        }
    }
    const auto key = [&](double left, const QColor& tone, const QString& text) {
        QColor fill = tone;
        fill.setAlpha(60);
        const QRectF swatch(left, box.bottom() - row, row, row * 0.7);
        painter.setPen(QPen(tone, 1.6));
        painter.setBrush(fill);
        painter.drawRect(swatch);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(tones.second_ink);
        painter.drawText(QRectF(swatch.right() + 6, swatch.top() - row * 0.15, box.width() / 2 - row, row),
                         Qt::AlignLeft | Qt::AlignVCenter, text);
    };
    key(field.left(), tones.far_end, QObject::tr("stands with the crank"));
    key(field.center().x(), tones.shaft, QObject::tr("stands with block or gearbox"));
}

void paintInterface(QPainter& painter, const QRectF& box, const model::Interface& interface, const PictureTones& tones,
                    Shown shown) {
    const QFontMetricsF metrics(painter.font(), painter.device());
    const double row = metrics.height();
    const double most = std::max(outsideOf(interface, interface.a), outsideOf(interface, interface.b));
    const double half = box.width() / 2, room = std::min(half - 24, box.height() - row * 4.5);
    const double scale = most > 0 && room > 0 ? room / most : 0;
    const std::pair<const InterfaceSide*, QColor> sides[] = {{&interface.a, tones.shaft},
                                                             {&interface.b, tones.far_end}};
    double left = box.left();
    for (const auto& [side, tone] : sides) {
        const QRectF own(left, box.top(), half, box.height());
        left += half;
        painter.setPen(tones.ink);
        painter.drawText(QRectF(own.left() + 6, own.top(), own.width() - 12, row), Qt::AlignHCenter,
                         side->name.empty() ? QObject::tr("not named") : words(side->name));
        const QPointF centre(own.center().x(), own.top() + row * 1.4 + room / 2);
        if (side->diameter_mm && scale > 0) paintSide(painter, centre, scale, interface.kind, *side, tones, tone);
        painter.setPen(tones.second_ink);
        painter.drawText(QRectF(own.left() + 6, own.bottom() - row * 2.6, own.width() - 12, row * 2.6),
                         Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, figuresOf(interface, *side, shown));
    }
}

} // namespace gabarit::print
