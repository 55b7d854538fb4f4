// A line that a figure is typed into: the click that brings the keyboard there selects all of it.
#pragma once

#include <QFocusEvent>
#include <QLineEdit>

namespace gabarit::app {

class FieldLine : public QLineEdit {
public:
    using QLineEdit::QLineEdit;

protected:
    void focusInEvent(QFocusEvent* event) override {
        QLineEdit::focusInEvent(event);
        clicked_ = event->reason() == Qt::MouseFocusReason;
    }
    void mouseReleaseEvent(QMouseEvent* event) override {
        QLineEdit::mouseReleaseEvent(event);
        if (clicked_ && !hasSelectedText()) selectAll(); // what was dragged over stays as it is
        clicked_ = false;
    }

private:
    bool clicked_ = false;
};

} // namespace gabarit::app
