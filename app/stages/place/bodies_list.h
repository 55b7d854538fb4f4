// All bodies: which are shown, seen through or hidden, and which one is in hand.
#pragma once

#include "session/lookout.h"

#include <QWidget>

class QLineEdit;
class QListWidget;
class QPushButton;

namespace gabarit::app {

class Session;

class BodiesList : public QWidget {
    Q_OBJECT
public:
    BodiesList(Session& session, Lookout& lookout, QWidget* parent = nullptr);
    QListWidget* list() const { return list_; }

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refill();
    void relabel();
    void setSight(Sight sight);
    std::vector<model::BodyRef> chosen() const;
    Session& session_;
    Lookout& lookout_;
    QLineEdit* search_;
    QListWidget* list_;
    QPushButton* take_;
};

} // namespace gabarit::app
