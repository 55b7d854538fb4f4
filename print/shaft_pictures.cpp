#include "print/shaft_pictures.h"

#include "print/clear_words.h"
#include "print/words.h"

#include <QFontMetricsF>
#include <QObject>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <functional>

namespace gabarit::print {
namespace {

using Eigen::Vector3d;
using quantity::Shown;

/// A chart's frame with round figures on both axes.
class Axes {
public:
    Axes(QPainter& painter, const QRectF& box, const PictureTones& tones)
        : painter_(painter), tones_(tones), box_(box), clear_(box) {
        const QFontMetricsF metrics(painter.font(), painter.device());
        row_ = metrics.height();
        frame_ =
            box.adjusted(metrics.horizontalAdvance(QStringLiteral("0000.0")) + 6, row_ * 1.6, -row_ * 0.6, -row_ * 2.6);
        clear_.take(QRectF(box.left(), frame_.bottom(), box.width(), box.bottom() - frame_.bottom())); // the figures'
    }
    void scale(double x0, double x1, double y0, double y1) {
        x0_ = x0;
        x1_ = x1 > x0 ? x1 : x0 + 1;
        const double air = std::max((y1 - y0) * 0.08, 1e-6);
        y0_ = y0 - (y0 == 0 ? 0 : air);
        y1_ = y1 + air;
    }
    QPointF at(double x, double y) const {
        return {frame_.left() + (x - x0_) / (x1_ - x0_) * frame_.width(),
                frame_.bottom() - (y - y0_) / (y1_ - y0_) * frame_.height()};
    }
    const QRectF& frame() const { return frame_; }
    double row() const { return row_; }

    void draw(const QString& title, const QString& x_name, const std::function<QString(double)>& x_words,
              const std::function<QString(double)>& y_words) {
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        painter_.setPen(tones_.ink);
        // From the frame's left edge on, or farther left where it would leave the sheet.
        const double wide = metrics.horizontalAdvance(title);
        const double from = std::max(box_.left(), std::min(frame_.left(), frame_.right() - wide));
        painter_.drawText(QPointF(from, frame_.top() - row_ * 0.6), title);
        clear_.take(QRectF(from, frame_.top() - row_ * 1.6, wide, row_ * 1.3));
        constexpr int most_figures = 6;
        constexpr double between_px = 14;
        const double widest =
            std::max({metrics.horizontalAdvance(x_words(x0_)), metrics.horizontalAdvance(x_words(x1_)),
                      metrics.horizontalAdvance(x_words((x0_ + x1_) / 2))});
        const int figures = std::clamp(static_cast<int>(frame_.width() / (widest + between_px)), 1, most_figures);
        for (const double x : roundFigures(x0_, x1_, figures)) {
            painter_.setPen(QPen(tones_.rule, 1));
            painter_.drawLine(at(x, y0_), at(x, y1_));
            painter_.setPen(tones_.second_ink);
            const double half = metrics.horizontalAdvance(x_words(x)) / 2 + 1;
            const double middle = std::clamp(at(x, y0_).x(), box_.left() + half, box_.right() - half);
            painter_.drawText(QRectF(middle - half, frame_.bottom() + 2, 2 * half, row_), Qt::AlignHCenter, x_words(x));
        }
        for (const double y : roundFigures(y0_, y1_, 5)) {
            painter_.setPen(QPen(tones_.rule, 1));
            painter_.drawLine(at(x0_, y), at(x1_, y));
            painter_.setPen(tones_.second_ink);
            painter_.drawText(QRectF(frame_.left() - 84, at(x0_, y).y() - row_ / 2, 78, row_),
                              Qt::AlignRight | Qt::AlignVCenter, y_words(y));
        }
        painter_.setPen(tones_.second_ink);
        painter_.drawText(QRectF(frame_.left(), frame_.bottom() + row_ + 2, frame_.width(), row_), Qt::AlignHCenter,
                          x_name);
        painter_.setPen(QPen(tones_.second_ink, 1.2));
        painter_.drawLine(frame_.bottomLeft(), frame_.bottomRight());
        painter_.drawLine(frame_.bottomLeft(), frame_.topLeft());
    }
    void limit(double y, const QString& name) {
        if (y < y0_ || y > y1_) return;
        painter_.setPen(QPen(tones_.trouble, 1.4, Qt::DashLine));
        painter_.drawLine(at(x0_, y), at(x1_, y));
        painter_.setPen(tones_.trouble);
        const double wide = QFontMetricsF(painter_.font(), painter_.device()).horizontalAdvance(name) + 2;
        const QPointF from = at(x0_, y) + QPointF(4, 0);
        painter_.drawText(
            clear_.place({{from.x(), from.y() - row_ - 1, wide, row_}, {from.x(), from.y() + 1, wide, row_}}),
            Qt::AlignLeft | Qt::AlignVCenter, name);
    }
    /// Where words stand already.
    ClearWords& clear() { return clear_; }

private:
    QPainter& painter_;
    const PictureTones& tones_;
    QRectF box_, frame_;
    ClearWords clear_;
    double row_ = 12;
    double x0_ = 0, x1_ = 1, y0_ = 0, y1_ = 1;
};

/// Lines are told apart by their dashes as well as by their tone.
QPen penOf(std::size_t i, const PictureTones& tones) {
    const QColor colours[] = {tones.shaft, tones.in_hand, tones.far_end, tones.ink};
    const Qt::PenStyle styles[] = {Qt::SolidLine, Qt::DashLine, Qt::DashDotLine, Qt::DotLine};
    return {colours[i % 4], 2.2, styles[i % 4]};
}

/// Names at the right ends of curves, above or below them, none over other words.
void nameCurves(QPainter& painter, ClearWords& clear, std::vector<std::pair<QPointF, QString>> names, double row,
                const QRectF& frame, const PictureTones& tones) {
    std::sort(names.begin(), names.end(), [](const auto& a, const auto& b) { return a.first.y() < b.first.y(); });
    painter.setPen(tones.ink);
    for (const auto& [at, name] : names) {
        const double wide = QFontMetricsF(painter.font(), painter.device()).horizontalAdvance(name) + 2;
        std::vector<QRectF> places;
        for (const double rows : {-1.3, 0.3, -2.3, 1.3, -3.3, 2.3, -4.3, 3.3})
            places.emplace_back(frame.right() - 6 - wide, at.y() + rows * row, wide, row);
        painter.drawText(clear.place(std::move(places)), Qt::AlignRight | Qt::AlignVCenter, name);
    }
}

struct View {
    QString name;
    Vector3d up; ///< the picture's upward direction
};

void paintView(QPainter& painter, const QRectF& sheet, const QRectF& box, const driveline::LineReport& line,
               const View& view, const Vector3d& onward, double scale, double exaggeration, double first, double middle,
               const PictureTones& tones, bool side) {
    const auto at = [&](const Vector3d& p) {
        return QPointF(box.left() + (p.dot(onward) - first) * scale,
                       box.center().y() - (p.dot(view.up) - middle) * scale * exaggeration);
    };
    const QFontMetricsF metrics(painter.font(), painter.device());
    const double row = metrics.height();
    painter.setPen(tones.second_ink);
    const auto& joints = line.ride.joints_mm;
    const QRectF named(sheet.left() + 10, box.bottom() - 3 - row, metrics.horizontalAdvance(view.name), row);
    painter.drawText(QPointF(named.left(), box.bottom() - 3), view.name);
    ClearWords clear(QRectF(sheet.left(), box.top(), sheet.width(), box.height()));
    clear.take(named);
    constexpr double joint_px = 9;
    for (const Vector3d& joint : joints)
        clear.take(QRectF(at(joint) - QPointF(joint_px, joint_px), QSizeF(2 * joint_px, 2 * joint_px)));
    const auto& axes = line.ride.chain.axes;
    constexpr double stub = 46;
    const auto direction = [&](const Vector3d& axis) {
        const QPointF d(axis.dot(onward), -axis.dot(view.up) * exaggeration);
        return d / std::hypot(d.x(), d.y());
    };
    // The axis the shaft would keep if the joint did not bend.
    painter.setPen(QPen(tones.rule, 1.2, Qt::DashLine));
    for (std::size_t i = 0; i < joints.size(); ++i)
        painter.drawLine(at(joints[i]), at(joints[i]) + direction(axes[i]) * stub * 1.6);
    painter.setPen(QPen(tones.far_end, 7, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(at(joints.front()), at(joints.front()) - direction(axes.front()) * stub);
    painter.drawLine(at(joints.back()), at(joints.back()) + direction(axes.back()) * stub);
    painter.setPen(QPen(tones.shaft, 5, Qt::SolidLine, Qt::FlatCap));
    for (std::size_t i = 0; i + 1 < joints.size(); ++i) painter.drawLine(at(joints[i]), at(joints[i + 1]));
    for (std::size_t i = 0; i < joints.size(); ++i) {
        painter.setPen(QPen(tones.ink, 1.6));
        painter.setBrush(tones.ground);
        if (line.joints[i].kind == model::JointKind::Cardan) {
            painter.drawEllipse(at(joints[i]), 7, 7);
            painter.drawLine(at(joints[i]) - QPointF(5, 5), at(joints[i]) + QPointF(5, 5));
            painter.drawLine(at(joints[i]) - QPointF(5, -5), at(joints[i]) + QPointF(5, -5));
        } else if (line.joints[i].kind == model::JointKind::FlexibleDisc) {
            painter.drawRect(QRectF(at(joints[i]) - QPointF(4, 11), QSizeF(8, 22)));
        } else {
            painter.drawEllipse(at(joints[i]), 9, 9);
            painter.drawEllipse(at(joints[i]), 3, 3);
        }
        const double part = side ? line.joints[i].side_deg : line.joints[i].plan_deg;
        const QString text = words(quantity::angleText(std::abs(part), 2));
        const double width = metrics.horizontalAdvance(text);
        constexpr double off_px = 14; // clear of the joint
        const QPointF its = at(joints[i]);
        const double above = its.y() - off_px - row, below = its.y() + off_px;
        std::vector<QRectF> places;
        for (const double x : {its.x() - width / 2, its.x() - width, its.x()})
            for (const double y : {above, below, above - row, below + row}) places.emplace_back(x, y, width, row);
        for (const double x : {its.x() + off_px, its.x() - off_px - width}) places.emplace_back(x, above, width, row);
        painter.setPen(tones.ink);
        painter.drawText(clear.place(std::move(places)), Qt::AlignHCenter | Qt::AlignVCenter, text);
    }
    painter.setBrush(Qt::NoBrush);
}

} // namespace

double paintChain(QPainter& painter, const QRectF& box, const driveline::LineReport& line, const PictureTones& tones) {
    const auto& joints = line.ride.joints_mm;
    const Vector3d span = joints.back() - joints.front();
    const bool lengthways = std::abs(span.x()) >= std::abs(span.y());
    const Vector3d onward = lengthways ? Vector3d(Vector3d::UnitX()) : Vector3d(Vector3d::UnitY());
    // Seen from above the vehicle's right lies below; of a line across it the rear does.
    const Vector3d aside = lengthways ? Vector3d(-Vector3d::UnitY()) : Vector3d(-Vector3d::UnitX());
    double low = 1e300, high = -1e300;
    for (const Vector3d& p : joints) {
        low = std::min(low, p.dot(onward));
        high = std::max(high, p.dot(onward));
    }
    constexpr double ends = 70; // for the flanges' stubs
    const double half = (box.height() - 30) / 2;
    const auto spread = [&](const Vector3d& up) {
        double a = 1e300, b = -1e300;
        for (const Vector3d& p : joints) a = std::min(a, p.dot(up)), b = std::max(b, p.dot(up));
        return std::make_pair(a, b);
    };
    const auto [z0, z1] = spread(Vector3d::UnitZ());
    const auto [y0, y1] = spread(aside);
    const double most = std::max({z1 - z0, y1 - y0, 1.0});
    const double words_high = 3.5 * QFontMetricsF(painter.font(), painter.device()).height(); // above and below it
    const double scale =
        std::min((box.width() - 2 * ends) / std::max(high - low, 1.0), std::max(half - words_high, half * 0.5) / most);
    // As much as fits both views, one figure for both; never less than the truth.
    const double room = half * 0.42 / scale;
    double exaggeration = 1;
    for (const double e : {1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0})
        if (most * e <= room * 2) exaggeration = e;
    const double spare = box.width() - 2 * ends - (high - low) * scale; // of a steep line, drawn smaller
    const QRectF side(box.left() + ends + spare / 2, box.top(), box.width() - 2 * ends - spare, half);
    const QRectF plan = side.translated(0, half + 4);
    const QString from = lengthways ? QObject::tr("Side view, front to the left") : QObject::tr("Seen from behind");
    paintView(painter, box, side, line, {from, Vector3d::UnitZ()}, onward, scale, exaggeration, low, (z0 + z1) / 2,
              tones, true);
    paintView(painter, box, plan, line,
              {lengthways ? QObject::tr("Plan, front to the left") : QObject::tr("Plan, the rear below"), aside},
              onward, scale, exaggeration, low, (y0 + y1) / 2, tones, false);
    painter.setPen(tones.second_ink);
    painter.drawText(QRectF(box.left(), box.bottom() - 22, box.width(), 22), Qt::AlignCenter,
                     exaggeration > 1
                         ? QObject::tr("Drawn %1 times too steep so that the bends are seen; the figures are true.")
                               .arg(exaggeration)
                         : QObject::tr("Drawn as it is."));
    return exaggeration;
}

std::vector<double> roundFigures(double low, double high, int about) {
    const double raw = (high - low) / about, base = std::pow(10, std::floor(std::log10(raw)));
    double step = base * 10;
    for (const double nice : {1.0, 2.0, 5.0})
        if (nice * base >= raw) {
            step = nice * base;
            break;
        }
    std::vector<double> out;
    for (double t = std::ceil(low / step - 1e-9) * step; t <= high + step * 1e-9; t += step)
        out.push_back(std::abs(t) < step * 1e-9 ? 0 : t);
    return out;
}

void paintAngles(QPainter& painter, const QRectF& box, const driveline::LineReport& line, const PictureTones& tones,
                 Shown shown) {
    if (line.curve.size() < 2) {
        painter.setPen(tones.second_ink);
        painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap, QObject::tr("No travel is given for its far end."));
        return;
    }
    Axes axes(painter, box, tones);
    double most = 1;
    for (const auto& p : line.curve)
        for (const double angle : p.angle_deg) most = std::max(most, angle);
    axes.scale(line.curve.front().state.travel_mm, line.curve.back().state.travel_mm, 0, most * 1.1);
    axes.draw(
        QObject::tr("Joint angles over the travel"), QObject::tr("droop – bump"),
        [&](double mm) { return words(quantity::lengthText(mm, shown, 0)); },
        [](double deg) { return words(quantity::angleText(deg, deg < 10 ? 1 : 0)); });
    std::vector<std::pair<QPointF, QString>> names;
    for (std::size_t j = 0; j < line.joints.size(); ++j) {
        QPolygonF curve;
        for (const auto& p : line.curve) curve << axes.at(p.state.travel_mm, p.angle_deg[j]);
        painter.setPen(penOf(j, tones));
        painter.drawPolyline(curve);
        axes.limit(line.joints[j].max_deg,
                   QObject::tr("at most %1").arg(words(quantity::angleText(line.joints[j].max_deg, 0))));
        names.emplace_back(curve.back(), words(line.joints[j].name));
    }
    nameCurves(painter, axes.clear(), std::move(names), axes.row(), axes.frame(), tones);
}

void paintSlip(QPainter& painter, const QRectF& box, const driveline::LineReport& line, std::size_t index,
               const PictureTones& tones, Shown shown) {
    if (index >= line.slips.size() || line.curve.size() < 2) {
        painter.setPen(tones.second_ink);
        painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap, QObject::tr("No travel is given for its far end."));
        return;
    }
    const driveline::SlipReport& slip = line.slips[index];
    Axes axes(painter, box, tones);
    double low = slip.shortest_mm, high = slip.longest_mm;
    std::vector<std::pair<double, QString>> limits;
    if (slip.reserve_mm) limits.emplace_back(slip.shortest_mm - *slip.reserve_mm, QObject::tr("bottoms"));
    if (slip.engaged_mm) limits.emplace_back(slip.longest_mm + *slip.engaged_mm, QObject::tr("comes apart"));
    for (const auto& limit : limits) {
        low = std::min(low, limit.first);
        high = std::max(high, limit.first);
    }
    const double room = (high - low) * 0.14; // for the words at the ends
    axes.scale(line.curve.front().state.travel_mm, line.curve.back().state.travel_mm, low - room, high + room);
    axes.draw(
        QObject::tr("%1: %2 to %3")
            .arg(words(slip.name), words(quantity::lengthTextDown(slip.shortest_mm, shown)),
                 words(quantity::lengthTextUp(slip.longest_mm, shown, 1))),
        QObject::tr("droop – bump"), [&](double mm) { return words(quantity::lengthText(mm, shown, 0)); },
        [&](double mm) { return words(quantity::lengthNumber(mm, shown, 0)); });
    for (const auto& [mm, name] : limits) axes.limit(mm, name);
    QPolygonF curve;
    for (const auto& p : line.curve) curve << axes.at(p.state.travel_mm, p.length_mm[slip.shaft]);
    painter.setPen(penOf(0, tones));
    painter.drawPolyline(curve);
    // Wound up they lie off the curve.
    painter.setPen(QPen(tones.ink, 1.4));
    painter.setBrush(tones.ground);
    painter.drawEllipse(axes.at(slip.shortest_at.travel_mm, slip.shortest_mm), 4, 4);
    painter.drawEllipse(axes.at(slip.longest_at.travel_mm, slip.longest_mm), 4, 4);
    painter.setBrush(Qt::NoBrush);
}

void paintDial(QPainter& painter, const QRectF& box, const driveline::CouplingTryReport& reading,
               const model::CouplingTry& taken, const PictureTones& tones, Shown shown) {
    const QFontMetricsF metrics(painter.font(), painter.device());
    const double row = metrics.height();
    const QPointF centre = box.center() - QPointF(0, row * 0.5);
    const double radius = std::min(box.width(), box.height() - row * 2) / 2 - row * 2;
    const auto at = [&](double clock_deg, double r) {
        const double rad = clock_deg * M_PI / 180;
        return centre + QPointF(std::sin(rad) * r, -std::cos(rad) * r);
    };
    painter.setPen(tones.second_ink);
    painter.drawText(QRectF(box.left(), box.top(), box.width(), row), Qt::AlignHCenter,
                     QObject::tr("Seen from behind"));
    for (int hour = 1; hour <= 12; ++hour) {
        painter.setPen(QPen(tones.rule, 1));
        painter.drawLine(at(hour * 30, radius * 0.3), at(hour * 30, radius));
        painter.setPen(tones.second_ink);
        const QPointF p = at(hour * 30, radius + row * 0.85);
        painter.drawText(QRectF(p.x() - 20, p.y() - row / 2, 40, row), Qt::AlignCenter, QString::number(hour));
    }
    painter.setPen(QPen(tones.second_ink, 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(centre, radius, radius);
    painter.drawEllipse(centre, radius * 0.3, radius * 0.3);
    if (!reading.face.enough) {
        painter.setPen(tones.ink);
        painter.drawText(QRectF(centre.x() - radius, centre.y() - row * 2, radius * 2, row * 4),
                         Qt::AlignCenter | Qt::TextWordWrap, words(reading.face.reason));
        return;
    }
    // Readings less what turns with the shaft: what is left should lie on the fitted ring.
    double most = 0.02;
    std::vector<std::pair<double, double>> points; // clock, off the mean
    std::size_t k = 0;
    for (const model::CouplingReading& r : taken.readings) {
        if (r.rim) continue;
        const double psi = (r.clock_deg - r.turn_deg) * M_PI / 180;
        const double off = r.mm - reading.face.mean_mm - reading.face.turning_mm[0] * std::cos(psi) -
                           reading.face.turning_mm[1] * std::sin(psi);
        points.emplace_back(r.clock_deg, off);
        if (!(k < reading.face.outlier.size() && reading.face.outlier[k])) most = std::max(most, std::abs(off));
        ++k;
    }
    most = std::max(most, reading.face.standing_mm.norm());
    const double middle = radius * 0.64, reach = radius * 0.3 / most;
    painter.setPen(QPen(tones.rule, 1.4, Qt::DashLine));
    painter.drawEllipse(centre, middle, middle);
    QPolygonF ring;
    for (int deg = 0; deg <= 360; deg += 4) {
        const double phi = deg * M_PI / 180;
        ring << at(deg, middle + reach * (reading.face.standing_mm[0] * std::cos(phi) +
                                          reading.face.standing_mm[1] * std::sin(phi)));
    }
    painter.setPen(QPen(tones.shaft, 2.4));
    painter.drawPolyline(ring);
    for (std::size_t i = 0; i < points.size(); ++i) {
        const bool wrong = i < reading.face.outlier.size() && reading.face.outlier[i];
        const double off = std::clamp(points[i].second, -most * 1.15, most * 1.15);
        const QPointF p = at(points[i].first, middle + reach * off);
        painter.setPen(QPen(wrong ? tones.trouble : tones.ink, 1.4));
        if (wrong) {
            painter.drawLine(p - QPointF(5, 5), p + QPointF(5, 5));
            painter.drawLine(p - QPointF(5, -5), p + QPointF(5, -5));
        } else {
            painter.drawEllipse(p, 2.5, 2.5);
        }
    }
    const auto mark = [&](double clock_deg, double text_at, const QString& text, const QColor& tone) {
        painter.setPen(QPen(tone, 2.4));
        painter.drawLine(at(clock_deg, radius * 0.86), at(clock_deg, radius * 1.0));
        const QPointF p = at(clock_deg, text_at);
        painter.setPen(tone);
        painter.drawText(QRectF(p.x() - radius * 0.4, p.y() - row / 2, radius * 0.8, row), Qt::AlignCenter, text);
    };
    if (reading.tilt_deg) {
        mark(reading.open_clock_deg, radius * 0.5, QObject::tr("open"), tones.in_hand);
        mark(reading.open_clock_deg + 180, radius * 0.7, QObject::tr("tight"), tones.ink);
    }
    painter.setPen(tones.ink);
    QString below = reading.tilt_deg ? QObject::tr("%1 ± %2, widest open at %3")
                                           .arg(words(quantity::angleText(*reading.tilt_deg, 2)),
                                                words(quantity::angleText(reading.tilt_accuracy_deg, 2)),
                                                words(driveline::clockWords(reading.open_clock_deg)))
                                     : QString();
    if (!reading.face.separated) below += QObject::tr(" (skew and runout together)");
    if (reading.offset_mm)
        below += QObject::tr("\ncentre %1 off towards %2")
                     .arg(words(quantity::lengthText(*reading.offset_mm, shown, 2)),
                          words(driveline::clockWords(reading.offset_clock_deg)));
    painter.drawText(QRectF(box.left(), box.bottom() - row * 2.2, box.width(), row * 2.2), Qt::AlignCenter, below);
}

void paintReading(QPainter& painter, const QRectF& box, const model::AngleReading& taken,
                  const driveline::AngleReport& reading, const PictureTones& tones) {
    const double row = QFontMetricsF(painter.font(), painter.device()).height();
    struct Ray {
        double falls_deg; ///< against level
        QString name;
        QPen pen;
    };
    const auto deg = [](double v) { return words(quantity::angleText(v, 2)); };
    std::vector<Ray> rays{
        {0, QObject::tr("level"), QPen(tones.second_ink, 1.2, Qt::DashLine)},
        {taken.reading_deg, QObject::tr("gauge %1").arg(deg(taken.reading_deg)), QPen(tones.ink, 2.4)}};
    if (taken.slope_deg) {
        rays.push_back({*taken.slope_deg, QObject::tr("the vehicle %1").arg(deg(*taken.slope_deg)),
                        QPen(tones.far_end, 2, Qt::DashDotLine)});
        if (reading.planned_deg)
            rays.push_back({*taken.slope_deg + *reading.planned_deg,
                            QObject::tr("in the project %1 to the vehicle").arg(deg(*reading.planned_deg)),
                            QPen(tones.shaft, 2.4, Qt::DotLine)});
    }
    double most = 1;
    for (const Ray& ray : rays) most = std::max(most, std::abs(ray.falls_deg));
    constexpr double seen_deg = 20;
    const double exaggeration = most < seen_deg / 2 ? std::floor(seen_deg / most) : 1;
    const QPointF pivot(box.left() + 12, box.center().y());
    const double reach = box.width() * 0.58;
    std::vector<std::pair<QPointF, QString>> names;
    for (const Ray& ray : rays) {
        const double falls = std::clamp(ray.falls_deg * exaggeration, -80.0, 80.0) * M_PI / 180;
        const QPointF end = pivot + QPointF(std::cos(falls), std::sin(falls)) * reach;
        painter.setPen(ray.pen);
        painter.drawLine(pivot, end);
        names.emplace_back(QPointF(end.x(), end.y() + row / 2 + 4), ray.name);
    }
    ClearWords clear(box);
    clear.take(QRectF(box.left(), box.top(), box.width(), row));
    nameCurves(painter, clear, std::move(names), row, box, tones);
    painter.setPen(tones.second_ink);
    painter.drawText(QRectF(box.left(), box.top(), box.width(), row), Qt::AlignLeft,
                     QObject::tr("Front to the left (of a line across: its inner end)"));
    painter.drawText(QRectF(box.left(), box.bottom() - row, box.width(), row), Qt::AlignLeft,
                     exaggeration > 1 ? QObject::tr("Drawn %1 times too steep; the figures are true.").arg(exaggeration)
                                      : QObject::tr("Drawn as it is."));
}

void paintGearing(QPainter& painter, const QRectF& box, const gearing::GearingReport& gearing,
                  const model::Gearing& given, const PictureTones& tones, Shown shown) {
    const auto speed = [&shown](double kmh) { return quantity::shownSpeed(kmh, shown); };
    Axes axes(painter, box, tones);
    double top = 0;
    for (const auto& gear : gearing.gears)
        if (gear.top_kmh && !gear.reverse) top = std::max(top, *gear.top_kmh);
    if (top <= 0 || !given.max_rpm) {
        painter.setPen(tones.second_ink);
        QString text = QObject::tr("Speed against revs needs gears, final drive, tyre and the engine's highest speed.");
        painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap, text);
        return;
    }
    axes.scale(0, *given.max_rpm, 0, speed(top));
    axes.draw(
        QObject::tr("Road speed, %1").arg(QLatin1String(quantity::speedUnit(shown))), QObject::tr("engine, rpm"),
        [](double rpm) { return QString::number(rpm); }, [](double value) { return QString::number(value); });
    std::vector<std::pair<QPointF, QString>> names;
    for (const auto& gear : gearing.gears) {
        if (!gear.top_kmh || gear.reverse) continue;
        painter.setPen(
            QPen(gear.low_range ? tones.in_hand : tones.shaft, 2, gear.low_range ? Qt::DashLine : Qt::SolidLine));
        painter.drawLine(axes.at(0, 0), axes.at(*given.max_rpm, speed(*gear.top_kmh)));
        names.emplace_back(axes.at(*given.max_rpm, speed(*gear.top_kmh)),
                           words(gear.name + (gear.low_range ? " low" : "")));
    }
    if (given.cruise_kmh) axes.limit(speed(*given.cruise_kmh), QObject::tr("cruise"));
    nameCurves(painter, axes.clear(), std::move(names), axes.row(), axes.frame(), tones);
}

} // namespace gabarit::print
