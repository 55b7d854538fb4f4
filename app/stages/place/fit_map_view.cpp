#include "stages/place/fit_map_view.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "make/fit_map_search.h"
#include "make/free_words.h"

#include <QImage>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

constexpr int most_numbers = 8;

QColor mixed(const QColor& a, const QColor& b, double share) {
    const auto mix = [share](int x, int y) { return static_cast<int>(std::lround(x + (y - x) * share)); };
    return {mix(a.red(), b.red()), mix(a.green(), b.green()), mix(a.blue(), b.blue())};
}

/// Good in the go tone, the more to spare the fuller; short in the no-go tone, the more the fuller.
QColor toneAt(const fit::MapPoint& point) {
    constexpr double full_mm = 30, least_share = 0.25, most_share = 0.8;
    const double size = std::min(1.0, std::abs(point.short_mm) / full_mm);
    const double share = least_share + (most_share - least_share) * size;
    return mixed(tones().paper, toneOf(point.short_mm <= 0 ? model::Verdict::Go : model::Verdict::NoGo), share);
}

} // namespace

FitMapView::FitMapView(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Map of where it fits: arrows go over it, Return hangs the unit there"));
    setCursor(Qt::CrossCursor);
}

QSize FitMapView::sizeHint() const {
    constexpr int usual_px = 260;
    return {usual_px, heightForWidth(usual_px)};
}

int FitMapView::heightForWidth(int width) const {
    constexpr double shape = 0.82;
    return static_cast<int>(width * shape);
}

void FitMapView::setMap(fit::FitMap map, const model::Project& project, const quantity::Shown& shown) {
    map_ = std::move(map);
    project_ = project;
    shown_ = shown;
    std::vector<std::pair<int, std::size_t>> counts(map_.pairs.size());
    for (std::size_t i = 0; i < counts.size(); ++i) counts[i].second = i;
    for (const fit::MapPoint& point : map_.points)
        if (point.told && point.short_mm > 0 && point.binding >= 0)
            ++counts[static_cast<std::size_t>(point.binding)].first;
    std::stable_sort(counts.begin(), counts.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    numbers_.assign(map_.pairs.size(), 0);
    for (std::size_t i = 0; i < counts.size() && i < most_numbers && counts[i].first > 0; ++i)
        numbers_[counts[i].second] = static_cast<int>(i) + 1;
    update();
}

void FitMapView::setHangs(double across, double up) {
    hangs_across_ = across;
    hangs_up_ = up;
    update();
}

void FitMapView::clear() {
    map_ = {};
    numbers_.clear();
    at_.reset();
    hangs_across_ = hangs_up_ = 0;
    update();
}

QRectF FitMapView::field() const {
    const int line = fontMetrics().height();
    int left = 6;
    for (const double value : {map_.up.low, map_.up.high})
        left = std::max(left, fontMetrics().horizontalAdvance(figure(map_.up, value)) + 6);
    return QRectF(rect()).adjusted(left, 2, -2, -2 * line - 4);
}

QPointF FitMapView::placeOf(int column, int row) const {
    const QRectF its = field();
    return {its.left() + (column + 0.5) * its.width() / map_.columns,
            its.bottom() - (row + 0.5) * its.height() / map_.rows};
}

const fit::MapPoint* FitMapView::toldNear(int column, int row) const {
    for (int around = 0; around <= 8; ++around) {
        const fit::MapPoint* best = nullptr;
        int least = 0;
        for (int r = std::max(0, row - around); r <= std::min(map_.rows - 1, row + around); ++r)
            for (int c = std::max(0, column - around); c <= std::min(map_.columns - 1, column + around); ++c) {
                const int away = (r - row) * (r - row) + (c - column) * (c - column);
                if (!map_.at(c, r).told || (best && away >= least)) continue;
                best = &map_.at(c, r);
                least = away;
            }
        if (best) return best;
    }
    return nullptr;
}

void FitMapView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!hasMap()) return;
    const QRectF its = field();
    painter.fillRect(its, tones().panel);
    paintCells(painter, its);
    paintBorder(painter, its);
    paintNumbers(painter);
    paintAxes(painter, its);
    // Where it hangs: a ring with a cross.
    const auto along = [](const fit::MapAxis& axis, double value) {
        return std::clamp((value - axis.low) / (axis.high - axis.low), 0.0, 1.0);
    };
    const QPointF first = placeOf(0, 0), last = placeOf(map_.columns - 1, map_.rows - 1);
    const QPointF here(first.x() + along(map_.across, hangs_across_) * (last.x() - first.x()),
                       first.y() + along(map_.up, hangs_up_) * (last.y() - first.y()));
    constexpr double ring_px = 5, cross_px = 9;
    painter.setBrush(Qt::NoBrush);
    for (const auto& [colour, width] : {std::pair(tones().paper, 4.0), std::pair(tones().ink, 1.6)}) {
        painter.setPen(QPen(colour, width));
        painter.drawEllipse(here, ring_px, ring_px);
        painter.drawLine(here - QPointF(cross_px, 0), here + QPointF(cross_px, 0));
        painter.drawLine(here - QPointF(0, cross_px), here + QPointF(0, cross_px));
    }
    if (at_) {
        painter.setPen(QPen(tones().in_hand, 2));
        painter.drawEllipse(placeOf(at_->first, at_->second), ring_px, ring_px);
    }
    if (hasFocus()) paintFocus(painter, *this);
}

void FitMapView::paintCells(QPainter& painter, const QRectF& its) const {
    const double width = its.width() / map_.columns, height = its.height() / map_.rows;
    for (int row = 0; row < map_.rows; ++row)
        for (int column = 0; column < map_.columns; ++column) {
            const fit::MapPoint* point = toldNear(column, row);
            if (!point) continue;
            const QRectF cell(its.left() + column * width, its.bottom() - (row + 1) * height, width, height);
            painter.fillRect(cell.adjusted(0, 0, 0.6, 0.6), toneAt(*point)); // no seams
            if (point->short_mm > 0 || !point->besides || *point->besides || (column + row) % 2) continue;
            painter.setPen(QPen(tones().second_ink, 1));
            painter.drawLine(cell.bottomLeft(), cell.topRight());
        }
}

/// Between what is good and what is not.
void FitMapView::paintBorder(QPainter& painter, const QRectF& its) const {
    const double width = its.width() / map_.columns, height = its.height() / map_.rows;
    const auto good = [this](int column, int row) {
        const fit::MapPoint* point = toldNear(column, row);
        return point && point->short_mm <= 0;
    };
    painter.setPen(QPen(tones().ink, 1.6));
    for (int row = 0; row < map_.rows; ++row)
        for (int column = 0; column < map_.columns; ++column) {
            const double x = its.left() + (column + 1) * width, y = its.bottom() - (row + 1) * height;
            if (column + 1 < map_.columns && good(column, row) != good(column + 1, row))
                painter.drawLine(QPointF(x, y), QPointF(x, y + height));
            if (row + 1 < map_.rows && good(column, row) != good(column, row + 1))
                painter.drawLine(QPointF(x - width, y), QPointF(x, y));
        }
}

/// The number of what binds, in the middle of where it does.
void FitMapView::paintNumbers(QPainter& painter) const {
    QFont bold = font();
    bold.setBold(true);
    painter.setFont(bold);
    const QFontMetricsF metrics(bold);
    for (std::size_t pair = 0; pair < numbers_.size(); ++pair) {
        if (numbers_[pair] == 0) continue;
        QPointF middle;
        std::vector<QPointF> places;
        for (int row = 0; row < map_.rows; ++row)
            for (int column = 0; column < map_.columns; ++column) {
                const fit::MapPoint& point = map_.at(column, row);
                if (!point.told || point.short_mm <= 0 || point.binding != static_cast<int>(pair)) continue;
                places.push_back(placeOf(column, row));
                middle += places.back();
            }
        if (places.empty()) continue;
        middle /= static_cast<double>(places.size());
        QPointF at = *std::min_element(places.begin(), places.end(), [&middle](const QPointF& a, const QPointF& b) {
            return QPointF::dotProduct(a - middle, a - middle) < QPointF::dotProduct(b - middle, b - middle);
        });
        const double round_px = metrics.height() * 0.5;
        const QRectF inner = field().adjusted(round_px, round_px, -round_px, -round_px);
        at = {std::clamp(at.x(), inner.left(), inner.right()), std::clamp(at.y(), inner.top(), inner.bottom())};
        const QString words = QString::number(numbers_[pair]);
        QRectF box = metrics.boundingRect(words);
        box.moveCenter(at);
        painter.setPen(Qt::NoPen);
        painter.setBrush(tones().paper);
        painter.drawEllipse(at, round_px, round_px);
        painter.setPen(tones().ink);
        painter.drawText(box, Qt::AlignCenter, words);
    }
    painter.setFont(font());
}

QString FitMapView::figure(const fit::MapAxis& axis, double value) const {
    return q(fit::isTurn(static_cast<std::size_t>(axis.of)) ? quantity::angleText(value, 0)
                                                            : quantity::lengthText(value, shown_, 0));
}

void FitMapView::paintAxes(QPainter& painter, const QRectF& its) const {
    const int line = fontMetrics().height();
    painter.setPen(QPen(tones().rule, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(its);
    painter.setPen(tones().ink);
    const auto left = [&](double y, const QString& words) {
        painter.drawText(QRectF(0, y - line / 2.0, its.left() - 4, line), Qt::AlignRight | Qt::AlignVCenter, words);
    };
    left(its.top() + line / 2.0, figure(map_.up, map_.up.high));
    left(its.center().y(), figure(map_.up, (map_.up.low + map_.up.high) / 2));
    left(its.bottom() - line / 2.0, figure(map_.up, map_.up.low));
    const double below = its.bottom() + 2;
    painter.drawText(QRectF(its.left(), below, its.width() / 2, line), Qt::AlignLeft,
                     figure(map_.across, map_.across.low));
    painter.drawText(QRectF(its.left(), below, its.width(), line), Qt::AlignHCenter,
                     figure(map_.across, (map_.across.low + map_.across.high) / 2));
    painter.drawText(QRectF(its.center().x(), below, its.width() / 2, line), Qt::AlignRight,
                     figure(map_.across, map_.across.high));
    painter.setPen(tones().second_ink);
    painter.drawText(
        QRectF(0, below + line, width(), line), Qt::AlignHCenter,
        tr("%1 across, %2 upwards")
            .arg(QLatin1String(make::freedomName(map_.across.of)), QLatin1String(make::freedomName(map_.up.of))));
}

QString FitMapView::legend() const {
    QStringList out;
    for (int number = 1; number <= most_numbers; ++number)
        for (std::size_t i = 0; i < numbers_.size(); ++i)
            if (numbers_[i] == number)
                out << tr("%1  %2 to %3")
                           .arg(QString::number(number), q(map_.pairs[i].name_a), q(map_.pairs[i].name_b));
    return out.join(QLatin1Char('\n'));
}

QString FitMapView::wordsOf(int column, int row) const {
    fit::Shift by{};
    by[static_cast<std::size_t>(map_.across.of)] = map_.acrossOf(column);
    by[static_cast<std::size_t>(map_.up.of)] = map_.upOf(row);
    return q(make::shiftWords(project_, by, shown_) + ": " + make::pointWords(map_, map_.at(column, row), shown_));
}

void FitMapView::setAt(std::optional<std::pair<int, int>> at) {
    if (at == at_) return;
    at_ = at;
    update();
    emit pointed();
}

void FitMapView::pointAt(const QPointF& place) {
    const QRectF its = field();
    if (!hasMap() || !its.contains(place)) return setAt(std::nullopt);
    setAt(std::pair(
        std::clamp(static_cast<int>((place.x() - its.left()) / its.width() * map_.columns), 0, map_.columns - 1),
        std::clamp(static_cast<int>((its.bottom() - place.y()) / its.height() * map_.rows), 0, map_.rows - 1)));
}

void FitMapView::mouseMoveEvent(QMouseEvent* event) { pointAt(event->position()); }
void FitMapView::mousePressEvent(QMouseEvent* event) {
    pointAt(event->position());
    if (at_ && event->button() == Qt::LeftButton) emit chosen(at_->first, at_->second);
}
void FitMapView::leaveEvent(QEvent*) {
    if (!hasFocus()) setAt(std::nullopt);
}

void FitMapView::keyPressEvent(QKeyEvent* event) {
    if (!hasMap()) return QWidget::keyPressEvent(event);
    auto [column, row] = at_.value_or(map_.nearest(hangs_across_, hangs_up_));
    switch (event->key()) {
    case Qt::Key_Left: --column; break;
    case Qt::Key_Right: ++column; break;
    case Qt::Key_Up: ++row; break;
    case Qt::Key_Down: --row; break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (at_) emit chosen(column, row);
        return;
    default: return QWidget::keyPressEvent(event);
    }
    setAt(std::pair(std::clamp(column, 0, map_.columns - 1), std::clamp(row, 0, map_.rows - 1)));
}

} // namespace gabarit::app

#include "moc_fit_map_view.cpp"
