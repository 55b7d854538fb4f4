// The driveline's pictures, of whatever is chosen.
#pragma once

#include "driveline/driveline.h"
#include "study/study.h"

#include <QWidget>

namespace gabarit::app {

/// The report of a line or a coupling by its key ("line:ID"); null when it has none.
const driveline::LineReport* lineOf(const study::Reports& reports, const QString& key);
const driveline::CouplingReport* couplingOf(const study::Reports& reports, const QString& key);

/// Draws the chosen thing: a line's chain and curves, a coupling's dial, the gearing's chart.
class ShaftView : public QWidget {
    Q_OBJECT
public:
    explicit ShaftView(QWidget* parent = nullptr);
    void show(const QString& key, std::shared_ptr<const study::Reports> reports, quantity::Shown shown);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString key_;
    std::shared_ptr<const study::Reports> reports_;
    quantity::Shown shown_;
};

} // namespace gabarit::app
