#include "stages/survey/survey_drawing.h"

#include "forms/tones.h"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <map>

namespace gabarit::app {
namespace {

enum class Ink { Chassis, Donor, Line, Dashed, Round };

/// One outline in the drawing's own units: 100 wide, 62 high, down is down.
struct Stroke {
    Ink ink;
    std::vector<QPointF> points; ///< Round: centre and a point of its rim
};
using Sketch = std::vector<Stroke>;

constexpr double sketch_width = 100, sketch_height = 62;

std::vector<QPointF> box(double x1, double y1, double x2, double y2) {
    return {{x1, y1}, {x2, y1}, {x2, y2}, {x1, y2}, {x1, y1}};
}

const std::map<QString, Sketch>& sketches() {
    static const std::map<QString, Sketch> all{
        // The bay from the vehicle's left, front to the left.
        {QStringLiteral("bay_side"),
         {{Ink::Line, {{2, 56}, {98, 56}}},
          {Ink::Chassis, {{8, 21}, {14, 17}, {62, 12}, {62, 14}, {14, 19}, {9, 22.5}, {8, 21}}},
          {Ink::Chassis, box(12, 21, 15, 33)},
          {Ink::Chassis, {{62, 12}, {63.5, 12}, {63.5, 27}, {98, 31}, {98, 32.5}, {62, 28.5}, {62, 12}}},
          {Ink::Chassis, box(6, 34, 98, 40)},
          {Ink::Chassis, box(25, 41, 35, 45)},
          {Ink::Round, {{30, 46}, {30, 36.5}}},
          {Ink::Dashed, {{30, 8}, {30, 58}}}}},
        // The bay from above, front to the left.
        {QStringLiteral("bay_plan"),
         {{Ink::Chassis, box(6, 20, 98, 24)},
          {Ink::Chassis, box(6, 36, 98, 40)},
          {Ink::Chassis, box(25, 24, 35, 36)},
          {Ink::Chassis,
           {{62, 8}, {63.5, 8}, {63.5, 25}, {98, 25}, {98, 35}, {63.5, 35}, {63.5, 52}, {62, 52}, {62, 8}}},
          {Ink::Chassis, box(12, 14, 15, 46)},
          {Ink::Line, {{10, 8}, {16, 8}, {19, 13}, {41, 13}, {44, 8}, {62, 8}}},
          {Ink::Line, {{10, 52}, {16, 52}, {19, 47}, {41, 47}, {44, 52}, {62, 52}}},
          {Ink::Line, box(21, 3, 39, 10)},
          {Ink::Line, box(21, 50, 39, 57)},
          {Ink::Dashed, {{2, 30}, {98, 30}}},
          {Ink::Dashed, {{30, 2}, {30, 60}}}}},
        // Across the bay, seen from the front.
        {QStringLiteral("bay_front"),
         {{Ink::Line, {{8, 56}, {92, 56}}},
          {Ink::Chassis, {{14, 16}, {50, 11}, {86, 16}, {86, 17.5}, {50, 12.8}, {14, 17.5}, {14, 16}}},
          {Ink::Chassis, box(20.5, 16, 22, 34)},
          {Ink::Chassis, box(78, 16, 79.5, 34)},
          {Ink::Chassis, box(30, 34, 35, 42)},
          {Ink::Chassis, box(65, 34, 70, 42)},
          {Ink::Chassis, box(35, 39, 65, 43)},
          {Ink::Chassis,
           {{40, 36}, {40, 25}, {60, 25}, {60, 36}, {58.5, 36}, {58.5, 26.5}, {41.5, 26.5}, {41.5, 36}, {40, 36}}},
          {Ink::Line, box(10, 38, 19, 56)},
          {Ink::Line, box(81, 38, 90, 56)},
          {Ink::Dashed, {{50, 6}, {50, 58}}}}},
        // Engine and gearbox from the left, pulley to the left.
        {QStringLiteral("engine_side"),
         {{Ink::Donor,
           {{30, 18}, {33, 18}, {33, 9}, {37, 8}, {54, 8}, {56, 12}, {56, 18}, {58, 18}, {58, 38}, {30, 38}, {30, 18}}},
          {Ink::Donor, box(25, 26, 30, 37)},
          {Ink::Donor, {{31, 38}, {58, 38}, {58, 41}, {46, 42}, {46, 48}, {32, 48}, {31, 38}}},
          {Ink::Donor, {{58, 17}, {66, 22}, {66, 41}, {58, 43}, {58, 17}}},
          {Ink::Donor, {{66, 22}, {80, 24}, {88, 27}, {88, 38}, {80, 40}, {66, 40}, {66, 22}}},
          {Ink::Line, box(40, 33, 47, 37)},
          {Ink::Line, {{78, 40}, {82, 40}, {83, 42}, {77, 42}, {78, 40}}},
          {Ink::Dashed, {{20, 32}, {94, 32}}},
          {Ink::Dashed, {{58, 4}, {58, 58}}}}},
        // The engine from the front.
        {QStringLiteral("engine_front"),
         {{Ink::Donor, {{38, 18}, {42, 9}, {58, 9}, {62, 18}, {64, 38}, {36, 38}, {38, 18}}},
          {Ink::Donor, box(30, 12, 37, 21)},
          {Ink::Donor, box(63, 14, 70, 24)},
          {Ink::Donor, {{40, 38}, {60, 38}, {58, 48}, {42, 48}, {40, 38}}},
          {Ink::Line, box(34, 34, 38, 40)},
          {Ink::Line, box(62, 34, 66, 40)},
          {Ink::Round, {{50, 32}, {50, 27.5}}},
          {Ink::Dashed, {{20, 32}, {80, 32}}},
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
               std::vector<QRectF>& taken) {
    const QPointF along = to - from;
    const double length = std::hypot(along.x(), along.y());
    if (words.isEmpty() || length < 1) return;
    const QPointF unit = along / length;
    QFont font = painter.font();
    font.setBold(active);
    painter.setFont(font);
    const QFontMetricsF metrics(font);
    const QSizeF size(metrics.horizontalAdvance(words) + 8, metrics.height() + 2);
    QRectF plate(QPointF(0, 0), size);
    plate.moveCenter((from + to) / 2);
    if (std::abs(unit.y()) > 0.7)
        plate.moveLeft((from.x() + to.x()) / 2 + 8); // beside an upright one
    else
        plate.moveBottom((from.y() + to.y()) / 2 - 5); // above a level one
    for (const QRectF& other : taken)
        if (!active && other.intersects(plate)) return;
    taken.push_back(plate);
    painter.setPen(Qt::NoPen);
    painter.setBrush(tones().paper);
    painter.drawRect(plate);
    painter.setPen(active ? tones().ink : tones().second_ink);
    painter.drawText(plate, Qt::AlignCenter, words);
}

/// What of the sketch is shown: all of it, or nearer where the arrows are short and close together.
QRectF seenPart(const model::SurveyQuestion& question) {
    constexpr double margin = 14, least_width = 56;
    QRectF seen;
    for (const model::SurveyEntryRule& entry : question.entries)
        for (const Eigen::Vector2d& p : entry.arrow) {
            const QRectF spot(p.x() - margin, p.y() - margin, 2 * margin, 2 * margin);
            seen = seen.isNull() ? spot : seen.united(spot);
        }
    const QRectF whole(0, 0, sketch_width, sketch_height);
    if (seen.isNull()) return whole;
    const QPointF middle = seen.center();
    seen.setWidth(std::max(seen.width(), least_width));
    seen.setHeight(std::max(seen.height(), least_width * sketch_height / sketch_width));
    seen.moveCenter(middle);
    seen.moveLeft(std::max(0.0, std::min(seen.left(), sketch_width - seen.width())));
    seen.moveTop(std::max(0.0, std::min(seen.top(), sketch_height - seen.height())));
    return seen.width() > 0.85 * sketch_width ? whole : seen;
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

void SurveyDrawing::showQuestion(const model::SurveyQuestion& question, const QStringList& words) {
    if (question_ != &question) active_ = 0;
    question_ = &question;
    words_ = words;
    setAccessibleName(tr("Drawing: %1").arg(QString::fromStdString(question.title)));
    setAccessibleDescription(QString::fromStdString(question.hook));
    update();
}

void SurveyDrawing::setActive(int entry) {
    active_ = entry;
    update();
}

void SurveyDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), tones().paper);
    if (!question_) return;
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF seen = seenPart(*question_);
    const double scale = std::min(width() / seen.width(), height() / seen.height());
    const QPointF middle = QRectF(rect()).center();
    const auto at = [&](const QPointF& p) { return middle + (p - seen.center()) * scale; };
    const auto sketch = sketches().find(QString::fromStdString(question_->drawing));
    if (sketch == sketches().end()) return;
    for (const Stroke& stroke : sketch->second) {
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
    // The one in hand is drawn over the others, and its words come first.
    struct Arrow {
        QPointF from, to;
        QString words;
        bool active;
    };
    std::vector<Arrow> arrows;
    for (std::size_t i = 0; i < question_->entries.size(); ++i) {
        const auto& arrow = question_->entries[i].arrow;
        const int entry = static_cast<int>(i);
        if (arrow.size() == 2)
            arrows.push_back({at({arrow[0].x(), arrow[0].y()}), at({arrow[1].x(), arrow[1].y()}), words_.value(entry),
                              entry == active_});
    }
    std::stable_sort(arrows.begin(), arrows.end(), [](const Arrow& a, const Arrow& b) { return a.active < b.active; });
    for (const Arrow& arrow : arrows) drawArrow(painter, arrow.from, arrow.to, arrow.active);
    std::vector<QRectF> taken;
    for (auto arrow = arrows.rbegin(); arrow != arrows.rend(); ++arrow)
        drawWords(painter, arrow->from, arrow->to, arrow->words, arrow->active, taken);
}

} // namespace gabarit::app

#include "moc_survey_drawing.cpp"
