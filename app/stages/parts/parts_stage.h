// The parts list and the money.
#pragma once

#include <QWidget>

class QLabel;
class QTableWidget;

namespace gabarit::app {

class Session;

class PartsStage : public QWidget {
    Q_OBJECT
public:
    explicit PartsStage(Session& session, QWidget* parent = nullptr);

private:
    void refresh();
    Session& session_;
    QLabel* summary_;
    QTableWidget* table_;
};

} // namespace gabarit::app
