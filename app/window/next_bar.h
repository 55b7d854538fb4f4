// The one thing to do now, in a line with one button.
#pragma once

#include "kit/stage.h"

#include <QFrame>

class QLabel;
class QPushButton;

namespace gabarit::app {

class NextBar : public QFrame {
    Q_OBJECT
public:
    explicit NextBar(QWidget* parent = nullptr);
    /// It keeps its height, with or without words: the drawing below does not jump.
    void show(const NextStep& step);
    const QString& words() const { return said_; }
    QPushButton* button() const { return button_; }
    /// Does it; nothing happens while there is nothing to do.
    void go();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void fit();
    QString said_;
    QLabel* words_;
    QPushButton* button_;
    std::function<void()> act_;
};

} // namespace gabarit::app
