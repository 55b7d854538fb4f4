// What is not seen need not be kept up to date: it is when it is shown.
#pragma once

#include <QEvent>
#include <QWidget>

#include <functional>

namespace gabarit::app {

/// Belongs to a widget; ask() brings it up to date, now when it is seen, else as it is shown.
class WhenSeen : public QObject {
public:
    WhenSeen(QWidget* of, std::function<void()> refresh) : QObject(of), of_(of), refresh_(std::move(refresh)) {
        of->installEventFilter(this);
    }
    void ask() {
        stale_ = !of_->isVisible();
        if (!stale_) refresh_();
    }
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::Show && stale_) {
            stale_ = false;
            refresh_();
        }
        return QObject::eventFilter(watched, event);
    }

private:
    QWidget* of_;
    std::function<void()> refresh_;
    bool stale_ = false;
};

} // namespace gabarit::app
