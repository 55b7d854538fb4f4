// A map of where it fits: good and not by colour, what binds by number, the border between, and where it hangs.
#pragma once

#include "fit/fit_map.h"
#include "model/project.h"
#include "quantity/quantity.h"

#include <QWidget>

#include <optional>

namespace gabarit::app {

class FitMapView : public QWidget {
    Q_OBJECT
public:
    explicit FitMapView(QWidget* parent = nullptr);
    /// `hangs`: where the unit hangs now, along both axes.
    void setMap(fit::FitMap map, const model::Project& project, const quantity::Shown& shown);
    void setHangs(double across, double up);
    void clear();
    bool hasMap() const { return !map_.points.empty(); }
    const fit::FitMap& map() const { return map_; }
    /// The point that is pointed at, by mouse or arrows.
    std::optional<std::pair<int, int>> pointedAt() const { return at_; }
    /// Where a point is drawn.
    QPointF placeOf(int column, int row) const;
    /// The pairs that bind most of the map, by their numbers on it.
    QString legend() const;
    /// "12.0 mm rearward, 8.0 mm up: 4.0 mm short, …".
    QString wordsOf(int column, int row) const;

    QSize sizeHint() const override;
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;

signals:
    void pointed();
    /// Clicked, or Return.
    void chosen(int column, int row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QRectF field() const;
    /// The nearest point that was looked at; null while none was.
    const fit::MapPoint* toldNear(int column, int row) const;
    void pointAt(const QPointF& place);
    void setAt(std::optional<std::pair<int, int>> at);
    void paintCells(QPainter& painter, const QRectF& field) const;
    void paintBorder(QPainter& painter, const QRectF& field) const;
    void paintNumbers(QPainter& painter) const;
    void paintAxes(QPainter& painter, const QRectF& field) const;
    QString figure(const fit::MapAxis& axis, double value) const;

    fit::FitMap map_;
    model::Project project_;
    quantity::Shown shown_ = quantity::Shown::Millimetres;
    std::vector<int> numbers_; ///< of each pair of the map; 0: it has none
    double hangs_across_ = 0, hangs_up_ = 0;
    std::optional<std::pair<int, int>> at_;
};

} // namespace gabarit::app
