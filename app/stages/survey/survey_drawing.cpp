#include "stages/survey/survey_drawing.h"

#include "forms/tones.h"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <map>

namespace gabarit::app {
namespace {

enum class Ink { Chassis, Donor, Line, Dashed, Round };

/// One outline in the drawing's own units, down is down; data/survey places them in millimetres.
struct Stroke {
    Ink ink;
    std::vector<QPointF> points;    ///< Round: centre and a point of its rim
    const char* question = nullptr; ///< only drawn where that is asked
};
using Sketch = std::vector<Stroke>;

/// A thing's name, quietly, at its place; left out where an arrow's words stand.
struct Name {
    const char* drawing;
    QPointF at;
    const char* words;
    const char* question = nullptr;
};
const Name names[] = {{"bay_side", {27.5, 10}, QT_TRANSLATE_NOOP("QObject", "axle")},
                      {"bay_side", {68, 22.5}, QT_TRANSLATE_NOOP("QObject", "firewall")},
                      {"bay_side", {54, 37}, QT_TRANSLATE_NOOP("QObject", "rail")},
                      {"bay_side", {19, 27}, QT_TRANSLATE_NOOP("QObject", "radiator")},
                      {"bay_side", {43, 35.4}, QT_TRANSLATE_NOOP("QObject", "steering box"), "steering"},
                      {"bay_side", {55, 22}, QT_TRANSLATE_NOOP("QObject", "booster"), "booster"},
                      {"bay_plan", {54, 22}, QT_TRANSLATE_NOOP("QObject", "rail")},
                      {"bay_plan", {70, 15}, QT_TRANSLATE_NOOP("QObject", "firewall")},
                      {"bay_plan", {76, 30}, QT_TRANSLATE_NOOP("QObject", "tunnel")},
                      {"bay_plan", {19, 28}, QT_TRANSLATE_NOOP("QObject", "radiator")},
                      {"bay_plan", {30, 6.5}, QT_TRANSLATE_NOOP("QObject", "wheel")},
                      {"bay_front", {50, 29.5}, QT_TRANSLATE_NOOP("QObject", "tunnel")},
                      {"bay_front", {14.5, 48}, QT_TRANSLATE_NOOP("QObject", "wheel")},
                      {"bay_front", {85.5, 48}, QT_TRANSLATE_NOOP("QObject", "wheel")}};

std::vector<QPointF> box(double x1, double y1, double x2, double y2) {
    return {{x1, y1}, {x2, y1}, {x2, y2}, {x1, y2}, {x1, y1}};
}

const std::map<QString, Sketch>& sketches() {
    static const std::map<QString, Sketch> all{
        // The bay from the vehicle's left, front to the left.
        {QStringLiteral("bay_side"),
         {{Ink::Line, {{2, 56}, {98, 56}}},
          {Ink::Chassis, {{8, 21}, {12, 17}, {62, 12}, {62, 15}, {12, 19}, {8, 22.5}, {8, 21}}},
          {Ink::Chassis, box(12, 17, 15, 34)},
          {Ink::Chassis, {{62, 12}, {63.5, 12}, {63.5, 28}, {98, 31}, {98, 31.9}, {62, 29.5}, {62, 12}}},
          {Ink::Chassis, box(6, 34, 98, 40)},
          {Ink::Chassis, box(25, 41, 35, 45)},
          {Ink::Chassis, box(38, 33.2, 48, 37.5), "steering"},
          {Ink::Chassis, box(49, 18.5, 61, 27), "booster"},
          {Ink::Round, {{30, 46}, {30, 56}}},
          {Ink::Dashed, {{30, 8}, {30, 58}}}}},
        // The bay from above, front to the left.
        {QStringLiteral("bay_plan"),
         {{Ink::Chassis, box(6, 20, 98, 24)},
          {Ink::Chassis, box(6, 36, 98, 40)},
          {Ink::Chassis, box(25, 24, 35, 36)},
          {Ink::Chassis,
           {{62, 8}, {63.5, 8}, {63.5, 25}, {98, 25}, {98, 35}, {63.5, 35}, {63.5, 52}, {62, 52}, {62, 8}}},
          {Ink::Chassis, box(12, 14, 15, 46)},
          {Ink::Chassis, box(38, 42.5, 48, 46.5), "steering"},
          {Ink::Chassis, box(49, 47, 61, 50.5), "booster"},
          {Ink::Line, {{12, 8}, {16, 8}, {19, 13}, {41, 13}, {44, 8}, {62, 8}}},
          {Ink::Line, {{12, 52}, {16, 52}, {19, 47.5}, {41, 47.5}, {44, 52}, {62, 52}}},
          {Ink::Line, box(21, 3, 39, 10)},
          {Ink::Line, box(21, 50, 39, 57)},
          {Ink::Dashed, {{2, 30}, {98, 30}}},
          {Ink::Dashed, {{30, 3}, {30, 57}}}}},
        // Across the bay, seen from the front.
        {QStringLiteral("bay_front"),
         {{Ink::Line, {{8, 56}, {92, 56}}},
          {Ink::Chassis, {{14, 16}, {50, 11}, {86, 16}, {86, 17.5}, {50, 12.8}, {14, 17.5}, {14, 16}}},
          {Ink::Chassis, box(20.5, 17.5, 22, 34)},
          {Ink::Chassis, box(78, 17.5, 79.5, 34)},
          {Ink::Chassis, box(30, 34, 35, 42)},
          {Ink::Chassis, box(65, 34, 70, 42)},
          {Ink::Chassis, box(35, 39, 65, 43)},
          {Ink::Line, {{40, 34}, {40, 25}, {60, 25}, {60, 34}}},
          {Ink::Line, box(10, 38, 19, 56)},
          {Ink::Line, box(81, 38, 90, 56)},
          {Ink::Dashed, {{50, 6}, {50, 58}}}}},
        // Engine and gearbox from the left, pulley to the left.
        {QStringLiteral("engine_side"),
         {{Ink::Donor,
           {{30, 18}, {33, 18}, {33, 9}, {37, 8}, {54, 8}, {56, 12}, {56, 18}, {58, 18}, {58, 38}, {30, 38}, {30, 18}}},
          {Ink::Donor, box(25, 26.5, 30, 36.8)},
          {Ink::Donor, {{32, 38}, {58, 38}, {58, 41}, {46, 41}, {46, 48}, {32, 48}, {32, 38}}},
          {Ink::Donor, {{58, 17}, {66, 22}, {66, 40}, {58, 43}, {58, 17}}},
          {Ink::Donor, {{66, 22}, {88, 26}, {88, 37.5}, {66, 40}, {66, 22}}},
          {Ink::Line, {{78, 40}, {82, 40}, {83, 42}, {77, 42}, {78, 40}}},
          {Ink::Dashed, {{20, 32}, {94, 32}}},
          {Ink::Dashed, {{58, 4}, {58, 58}}}}},
        // The engine from the front.
        {QStringLiteral("engine_front"),
         {{Ink::Donor, {{36, 18}, {43, 9}, {57, 9}, {64, 18}, {64, 38}, {36, 38}, {36, 18}}},
          {Ink::Donor, box(30, 12, 37, 21)},
          {Ink::Donor, box(63, 14, 70, 24)},
          {Ink::Donor, {{42, 38}, {58, 38}, {58, 48}, {42, 48}, {42, 38}}},
          {Ink::Line, box(34, 34, 38, 40)},
          {Ink::Line, box(62, 34, 66, 40)},
          {Ink::Round, {{50, 32}, {50, 27.5}}},
          {Ink::Dashed, {{20, 32}, {80, 32}}},
          {Ink::Dashed, {{50, 4}, {50, 58}}}}},
        // Bellhousing and gearbox from behind.
        {QStringLiteral("gearbox_rear"),
         {{Ink::Round, {{50, 30}, {50, 14}}},
          {Ink::Donor, box(40, 22, 60, 40)},
          {Ink::Dashed, {{20, 30}, {80, 30}}},
          {Ink::Dashed, {{50, 4}, {50, 58}}}}}};
    return all;
}

/// The tape: a bar where it hooks, a head where it is read.
void drawArrow(QPainter& painter, const QPointF& from, const QPointF& to, bool active) {
    const QPointF along = to - from;
    const double length = std::hypot(along.x(), along.y());
    if (length < 1) return;
    const QPointF unit = along / length, across(-unit.y(), unit.x());
    const QColor tone = active ? tones().in_hand : tones().ink;
    painter.setPen(QPen(tones().paper, active ? 7 : 5)); // it also runs over dark bodies
    painter.drawLine(from, to);
    painter.setPen(QPen(tone, active ? 3 : 1.4));
    painter.setBrush(Qt::NoBrush);
    painter.drawLine(from, to);
    // The hook bends back over the edge that it holds on.
    const double hook = active ? 8 : 6;
    painter.drawPolyline(
        QPolygonF{from + across * hook, from - across * hook, from - across * hook + unit * hook * 0.6});
    painter.setBrush(tone);
    const double head = active ? 11 : 8;
    painter.drawPolygon(QPolygonF{to, to - unit * head + across * head * 0.4, to - unit * head - across * head * 0.4});
}

/// The words at an arrow; left out where others stand already.
void drawWords(QPainter& painter, const QPointF& from, const QPointF& to, const QString& words, bool active,
               std::vector<QRectF>& taken, const QRectF& within) {
    const QPointF along = to - from;
    const double length = std::hypot(along.x(), along.y());
    if (words.isEmpty() || length < 1) return;
    const QPointF unit = along / length;
    QFont font = painter.font();
    font.setBold(active);
    painter.setFont(font);
    const QFontMetricsF metrics(font);
    const QSizeF size(metrics.horizontalAdvance(words) + (active ? 16 : 8), metrics.height() + (active ? 8 : 2));
    QRectF plate(QPointF(0, 0), size);
    plate.moveCenter((from + to) / 2);
    if (std::abs(unit.y()) > 0.7)
        plate.moveLeft((from.x() + to.x()) / 2 + 8); // beside an upright one
    else
        plate.moveBottom((from.y() + to.y()) / 2 - 5); // above a level one
    plate.moveLeft(std::max(within.left(), std::min(plate.left(), within.right() - plate.width())));
    plate.moveTop(std::max(within.top(), std::min(plate.top(), within.bottom() - plate.height())));
    for (const QRectF& other : taken)
        if (!active && other.intersects(plate)) return;
    taken.push_back(plate);
    painter.setPen(Qt::NoPen);
    painter.setBrush(active ? tones().hand_fill : tones().paper);
    painter.drawRoundedRect(plate, active ? 4 : 0, active ? 4 : 0);
    painter.setPen(active ? tones().paper : tones().ink);
    painter.drawText(plate, Qt::AlignCenter, words);
}

/// All that a sketch covers, mm.
QRectF extent_mm(const Sketch& sketch, const model::SurveyProportion& proportion) {
    QRectF all;
    for (const Stroke& stroke : sketch)
        for (const QPointF& p : stroke.points) {
            const Eigen::Vector2d mm = proportion.at_mm({p.x(), p.y()});
            const QRectF spot(mm.x() - 1, mm.y() - 1, 2, 2);
            all = all.isNull() ? spot : all.united(spot);
        }
    return all;
}

/// What of it is shown: all, or nearer where the arrow is short.
QRectF seenPart(const QRectF& whole, const QRectF& arrow) {
    constexpr double beside = 0.16, nearest = 0.55, air = 0.03;
    const QRectF all =
        whole.adjusted(-air * whole.width(), -air * whole.height(), air * whole.width(), air * whole.height());
    if (arrow.isNull()) return all;
    const double margin = beside * whole.width();
    QRectF seen = arrow.adjusted(-margin, -margin, margin, margin);
    const QPointF middle = seen.center();
    seen.setWidth(std::max(seen.width(), nearest * all.width()));
    seen.setHeight(std::max(seen.height(), nearest * all.height()));
    seen.moveCenter(middle);
    seen.moveLeft(std::max(all.left(), std::min(seen.left(), all.right() - seen.width())));
    seen.moveTop(std::max(all.top(), std::min(seen.top(), all.bottom() - seen.height())));
    return seen.width() > 0.85 * all.width() ? all : seen;
}

} // namespace

SurveyDrawing::SurveyDrawing(QWidget* parent) : QWidget(parent) {
    setMinimumSize(360, 240);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

QStringList SurveyDrawing::known() {
    QStringList names;
    for (const auto& sketch : sketches()) names << sketch.first;
    return names;
}

void SurveyDrawing::show(const QString& drawing, const model::SurveyProportion& proportion,
                         std::vector<SurveyArrow> arrows, const QString& question, const QString& title,
                         const QString& hook) {
    drawing_ = drawing;
    proportion_ = proportion;
    arrows_ = std::move(arrows);
    question_ = question;
    setAccessibleName(tr("Drawing: %1").arg(title));
    setAccessibleDescription(hook);
    update();
}

void SurveyDrawing::setActive(const QString& entry) {
    for (SurveyArrow& arrow : arrows_) arrow.active = arrow.entry == entry;
    update();
}

void SurveyDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), tones().paper);
    const auto sketch = sketches().find(drawing_);
    if (sketch == sketches().end() || !proportion_) return;
    painter.setRenderHint(QPainter::Antialiasing);
    const auto mm = [&](const QPointF& p) {
        const Eigen::Vector2d at = proportion_->at_mm({p.x(), p.y()});
        return QPointF(at.x(), at.y());
    };
    QRectF near;
    for (const SurveyArrow& arrow : arrows_)
        if (arrow.active || !near_) {
            const QRectF box = QRectF(mm(arrow.from), mm(arrow.to)).normalized().adjusted(-1, -1, 1, 1);
            near = near.isNull() ? box : near.united(box);
        }
    const QRectF seen = seenPart(extent_mm(sketch->second, *proportion_), near);
    const double scale = std::min(width() / seen.width(), height() / seen.height());
    const QPointF middle = QRectF(rect()).center();
    const auto at = [&](const QPointF& p) { return middle + (mm(p) - seen.center()) * scale; };
    for (const Stroke& stroke : sketch->second) {
        if (stroke.question && question_ != QLatin1String(stroke.question)) continue;
        QPolygonF line;
        for (const QPointF& p : stroke.points) line << at(p);
        painter.setBrush(Qt::NoBrush);
        switch (stroke.ink) {
        case Ink::Chassis:
            painter.setPen(QPen(tones().chassis_edge, 1.2));
            painter.setBrush(tones().chassis);
            painter.drawPolygon(line);
            break;
        case Ink::Donor:
            painter.setPen(QPen(tones().donor_edge, 1.2));
            painter.setBrush(tones().donor);
            painter.drawPolygon(line);
            break;
        case Ink::Round: {
            painter.setPen(QPen(tones().chassis_edge, 1.6));
            const double radius = std::hypot(line[1].x() - line[0].x(), line[1].y() - line[0].y());
            painter.drawEllipse(line[0], radius, radius);
            break;
        }
        case Ink::Line:
            painter.setPen(QPen(tones().chassis_edge, 1.6));
            painter.drawPolyline(line);
            break;
        case Ink::Dashed:
            painter.setPen(QPen(tones().rule, 1.2, Qt::DashLine));
            painter.drawPolyline(line);
            break;
        }
    }
    painter.setPen(tones().second_ink);
    for (const Name& name : names) {
        if (drawing_ != QLatin1String(name.drawing) || (name.question && question_ != QLatin1String(name.question)))
            continue;
        const QString words = QObject::tr(name.words);
        QRectF plate(QPointF(0, 0), QSizeF(painter.fontMetrics().size(0, words)));
        plate.moveCenter(at(name.at));
        if (QRectF(rect()).contains(plate)) painter.drawText(plate, Qt::AlignCenter, words);
    }
    // The one in hand is drawn over the others, and its words come first.
    std::vector<SurveyArrow> arrows = arrows_;
    std::stable_sort(arrows.begin(), arrows.end(),
                     [](const SurveyArrow& a, const SurveyArrow& b) { return a.active < b.active; });
    for (const SurveyArrow& arrow : arrows) drawArrow(painter, at(arrow.from), at(arrow.to), arrow.active);
    std::vector<QRectF> taken;
    for (auto arrow = arrows.rbegin(); arrow != arrows.rend(); ++arrow)
        drawWords(painter, at(arrow->from), at(arrow->to), arrow->words, arrow->active, taken,
                  QRectF(rect()).adjusted(2, 2, -2, -2));
}

} // namespace gabarit::app

#include "moc_survey_drawing.cpp"
