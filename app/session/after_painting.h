// Work that can wait until the window shows what was changed.
#pragma once

#include <QCoreApplication>
#include <QEvent>
#include <QObject>

#include <functional>
#include <utility>

namespace gabarit::app {

/// Calls `work` on the thread of `context`, unless it is gone by then, once all that was asked of it before is done:
/// calls, layouts and painting, which are posted with a higher priority (a timer of no time is called before those).
/// On the thread of `context`.
inline void afterPainting(QObject* context, std::function<void()> work) {
    class Later : public QObject {
    public:
        Later(QObject* parent, std::function<void()> work) : QObject(parent), work_(std::move(work)) {}

    protected:
        bool event(QEvent* event) override {
            if (event->type() != QEvent::User) return QObject::event(event);
            deleteLater();
            work_();
            return true;
        }

    private:
        std::function<void()> work_;
    };
    QCoreApplication::postEvent(new Later(context, std::move(work)), new QEvent(QEvent::User),
                                Qt::LowEventPriority - 1);
}

} // namespace gabarit::app
