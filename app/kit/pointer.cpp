#include "kit/pointer.h"

#include "bay/bay.h"
#include "forms/text.h"
#include "model/tape.h"
#include "session/session.h"

#include <QKeyEvent>

namespace gabarit::app {
namespace {
QString pointWords(Field::Points what) {
    return what == Field::Points::Bodies ? Pointer::tr("Click the body in the drawing; Esc leaves it.")
                                         : Pointer::tr("Click the point, a cross in the drawing; Esc leaves it.");
}
} // namespace

Pointer::Pointer(Session& session, Lookout& lookout, EntryForm& form, QWidget* page)
    : QObject(page), session_(session), lookout_(lookout), form_(form), page_(page) {
    form.letPoint();
    page->installEventFilter(this);
    connect(&form, &EntryForm::pointing, this, [this](Field::Points what) {
        lookout_.setPointing(what == Field::Points::Bodies   ? Lookout::Pointing::Bodies
                             : what == Field::Points::Places ? Lookout::Pointing::Places
                                                             : Lookout::Pointing::Nothing);
        emit pointing(what != Field::Points::Nothing);
        if (what != Field::Points::Nothing)
            emit session_.notice(pointWords(what), false);
        else if (last_notice_ == pointWords(Field::Points::Bodies) ||
                 last_notice_ == pointWords(Field::Points::Places)) // another's (a full disk) stays
            emit session_.notice(QString(), false);
    });
    connect(&session, &Session::notice, this, [this](const QString& words, bool) { last_notice_ = words; });
    connect(&lookout, &Lookout::pointedAt, this, [this](const std::string& owner, const std::string& id) {
        if (!page_->isVisible() || form_.pointed(q(owner), q(id))) return;
        emit session_.notice(
            tr("%1 is none of those that can be chosen here: click another, or Esc.").arg(nameOf(owner, id)), false);
    });
}

bool Pointer::eventFilter(QObject* page, QEvent* event) {
    const auto type = event->type();
    // Escape is a key of the window's, but not while something is to be pointed at.
    const bool key = type == QEvent::ShortcutOverride || type == QEvent::KeyPress;
    const bool leaves = type == QEvent::Hide || (key && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape);
    if (page != page_ || !leaves || lookout_.pointing() == Lookout::Pointing::Nothing)
        return QObject::eventFilter(page, event);
    if (type != QEvent::ShortcutOverride) form_.endPointing();
    if (!key) return QObject::eventFilter(page, event);
    event->accept();
    return true;
}

QString Pointer::nameOf(const std::string& owner, const std::string& id) const {
    const model::Project& project = *session_.project();
    if (const model::Body* body = model::findBody(project, {owner, {id}})) return q(body->name);
    if (const auto* points = model::pointsOf(project, owner))
        for (const model::HardPoint& point : *points)
            if (point.id.text == id) return q(point.name);
    return q(id);
}

PointedDrawing::PointedDrawing(Session& session, EntryForm& form, QWidget* page, QWidget* picture)
    : QStackedWidget(page), session_(session) {
    addWidget(picture);
    pointer_ = new Pointer(session, lookout_, form, page);
    connect(pointer_, &Pointer::pointing, this, &PointedDrawing::showBay);
}

/// They look at the lookout, which goes with this.
PointedDrawing::~PointedDrawing() {
    delete pointer_;
    delete bay_;
}

void PointedDrawing::showBay(bool on) {
    if (on == !bay_.isNull()) return;
    if (!on) { // perhaps within its own click
        removeWidget(bay_);
        bay_->hide();
        bay_->deleteLater();
        bay_.clear();
        return;
    }
    constexpr bool as_surveyed = true; // every body can be picked, and every point stands in it
    bay_ = new Bay(session_, lookout_, this, as_surveyed);
    addWidget(bay_);
    lookout_.wantFit(true);
    setCurrentWidget(bay_);
}

} // namespace gabarit::app

#include "moc_pointer.cpp"
