// What a form's field names is clicked in the drawing.
#pragma once

#include "forms/entry_form.h"
#include "session/lookout.h"

#include <QPointer>
#include <QStackedWidget>

namespace gabarit::app {

class Session;

/// Between a form, a drawing's lookout and the window's line of notices. While something is to be pointed at, Escape on
/// the page leaves it, and so does leaving the page.
class Pointer : public QObject {
    Q_OBJECT
public:
    Pointer(Session& session, Lookout& lookout, EntryForm& form, QWidget* page);

signals:
    /// Something is to be pointed at; false: not any more.
    void pointing(bool on);

protected:
    bool eventFilter(QObject* page, QEvent* event) override;

private:
    QString nameOf(const std::string& owner, const std::string& id) const;

    Session& session_;
    Lookout& lookout_;
    EntryForm& form_;
    QWidget* page_;
    QString last_notice_;
};

/// A picture in whose place the bay stands while something is to be pointed at.
class PointedDrawing : public QStackedWidget {
    Q_OBJECT
public:
    PointedDrawing(Session& session, EntryForm& form, QWidget* page, QWidget* picture);
    ~PointedDrawing() override;

private:
    void showBay(bool on);

    Session& session_;
    Lookout lookout_;
    QPointer<Pointer> pointer_;
    QPointer<QWidget> bay_; ///< made when it is wanted, so that it draws nothing else
};

} // namespace gabarit::app
