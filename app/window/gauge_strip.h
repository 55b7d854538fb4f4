// The strip that answers "does it fit?": go/no-go gauges, always in sight.
#pragma once

#include "study/study.h"

#include <QAbstractButton>

class QHBoxLayout;

namespace gabarit::app {

class Session;

/// One gauge: name, value, pointer on a scale with the limit in its middle, verdict in words and by shape.
class GaugeButton : public QAbstractButton {
    Q_OBJECT
public:
    explicit GaugeButton(QWidget* parent = nullptr);
    void show(const study::Gauge& gauge);
    const study::Gauge& gauge() const { return gauge_; }
    QSize sizeHint() const override { return {200, 110}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    study::Gauge gauge_;
};

class GaugeStrip : public QWidget {
    Q_OBJECT
public:
    explicit GaugeStrip(Session& session, QWidget* parent = nullptr);
    /// By the gauge's id ("tightest", "bonnet", "ground", "front", "rear", "cost"); null when it is not shown.
    const GaugeButton* button(const std::string& id) const;

signals:
    void picked(const gabarit::study::Gauge& gauge);

private:
    void refresh();
    Session& session_;
    QHBoxLayout* row_;
    std::vector<GaugeButton*> buttons_;
};

} // namespace gabarit::app
