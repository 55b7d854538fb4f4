// The weight sheet: what stands on each axle, and why.
#pragma once

#include <QWidget>

class QLabel;
class QTableWidget;

namespace gabarit::app {

class Session;

class WeightsStage : public QWidget {
    Q_OBJECT
public:
    explicit WeightsStage(Session& session, QWidget* parent = nullptr);

private:
    void refresh();
    Session& session_;
    QLabel* summary_;
    QTableWidget* table_;
    QLabel* caution_;
};

} // namespace gabarit::app
