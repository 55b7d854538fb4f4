// How far the engine can still go, and what binds first.
#pragma once

#include "study/study.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QWidget;

namespace gabarit::app {

class Session;

class RoomBlock : public QWidget {
    Q_OBJECT
public:
    explicit RoomBlock(Session& session, QWidget* parent = nullptr);
    QString text() const;
    /// Only its line with how far the search has come; the figures are in its tip.
    void setBrief(bool brief);

private:
    void refresh();
    void tellSearch();
    Session& session_;
    QLabel* title_;
    QLabel* lines_;
    bool brief_ = false;
};

} // namespace gabarit::app
