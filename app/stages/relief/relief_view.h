// The drawings of what is chosen: a pocket lengthwise and across with what is left along it, or a part in the flat.
#pragma once

#include "print/relief_pictures.h"
#include "relief/relief.h"
#include "relief/section/relief.h"

#include <QWidget>

class QComboBox;

namespace gabarit::app {

class ReliefView : public QWidget {
    Q_OBJECT
public:
    explicit ReliefView(QWidget* parent = nullptr);

    /// `key` as in relief_fields.h.
    void show(std::shared_ptr<const study::Reports> reports, const QString& key, quantity::Shown shown);
    /// The place across which it is drawn, from the middle of its mouth; nothing: where it is weakest.
    void setStation(std::optional<double> along_mm);
    /// Where the lengthwise drawing is, and what of it a place of the widget is: for dragging, and for tests.
    QRectF lengthwiseBox() const;
    QPointF toWidget(const QPointF& lengthwise_mm) const;

signals:
    /// An edge of the free room was dragged: the pocket as it is now wanted.
    void dragged(const model::Pocket& pocket);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    enum class Edge { None, Bottom, Low, High };
    const relief::PocketReport* report() const;
    const model::Pocket* pocket() const;
    QRectF acrossBox() const;
    QRectF sharesBox() const;
    Edge edgeAt(const QPointF& place) const;
    void placeAlong();

    std::shared_ptr<const study::Reports> reports_;
    QString key_;
    quantity::Shown shown_;
    print::PocketPicture picture_;
    std::optional<double> station_mm_;
    QComboBox* along_; ///< what is drawn along the pocket
    Edge edge_ = Edge::None;
    std::optional<model::Pocket> wanted_; ///< while it is dragged
};

} // namespace gabarit::app
