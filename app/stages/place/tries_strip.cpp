#include "stages/place/tries_strip.h"

#include "forms/tones.h"
#include "session/after_painting.h"
#include "session/session.h"
#include "session/tries.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>
#include <QWheelEvent>

#include <algorithm>

namespace gabarit::app {
namespace {

constexpr QSize shot_px(104, 66), picture_px(104, 40);

} // namespace

/// One try: its drawing, how many gaps are no-go there, and the step that led there.
class Shot : public QPushButton {
public:
    Shot(const QPixmap& picture, const QString& words, const QString& count, model::Verdict verdict, bool now,
         QWidget* parent)
        : QPushButton(parent), picture_(picture), words_(words), count_(count), verdict_(verdict), now_(now) {
        setFixedSize(shot_px);
        setAccessibleName(now ? QObject::tr("%1, %2: it hangs there now").arg(words, count)
                              : QObject::tr("Back to: %1, %2").arg(words, count));
        setToolTip(accessibleName());
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.fillRect(rect(), tones().paper);
        painter.drawPixmap(QRect(QPoint(0, 0), picture_px), picture_);
        const QFontMetrics room = painter.fontMetrics();
        const int count_px = room.horizontalAdvance(count_) + 20;
        const QRect plate(width() - count_px - 3, 3, count_px, room.height());
        painter.fillRect(plate, tones().paper);
        if (verdict_ != model::Verdict::Unknown)
            paintMark(painter, QPointF(plate.left() + 8, plate.center().y() + 0.5), 4.5, verdict_);
        painter.setPen(verdict_ == model::Verdict::Unknown ? tones().second_ink : tones().ink);
        painter.drawText(plate.adjusted(0, 0, -3, 0), Qt::AlignRight | Qt::AlignVCenter, count_);
        QFont font = painter.font();
        font.setBold(now_);
        painter.setFont(font);
        painter.setPen(tones().ink);
        const QRect words = rect().adjusted(5, picture_px.height(), -5, -2);
        painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(words_, Qt::ElideMiddle, words.width()));
        painter.setPen(QPen(now_ ? tones().in_hand : tones().rule, now_ ? 3 : 1));
        painter.drawRect(now_ ? rect().adjusted(1, 1, -2, -2) : rect().adjusted(0, 0, -1, -1));
        if (!now_) paintFocus(painter, *this);
    }

private:
    QPixmap picture_;
    QString words_, count_;
    model::Verdict verdict_;
    bool now_;
};

TriesStrip::TriesStrip(Session& session, Tries& tries, std::function<QPixmap(const QSize&)> portrait, QWidget* parent)
    : QWidget(parent), session_(session), tries_(tries), portrait_(std::move(portrait)), area_(new QScrollArea(this)),
      row_(nullptr), title_(new QLabel(tr("Tries"), this)), undo_(new QPushButton(tr("Undo"), this)) {
    const auto make = [this](QPushButton* made, const char* name, const QString& tip) {
        made->setObjectName(QLatin1String(name));
        made->setToolTip(tip);
        made->setMinimumHeight(target_px - 4);
        return made;
    };
    auto* heads = new QHBoxLayout;
    heads->setSpacing(4);
    QFont bold = title_->font();
    bold.setBold(true);
    title_->setFont(bold);
    heads->addWidget(title_);
    heads->addStretch(1);
    heads->addWidget(make(undo_, "undo", {}));
    auto* pin = make(new QPushButton(tr("Pin"), this), "pin", tr("Keeps how it hangs now, to be compared with"));
    auto* own = make(new QPushButton(tr("Own placement"), this), "own",
                     tr("Makes a placement of its own of how it hangs now; the one it was stays as it is"));
    heads->addWidget(pin);
    heads->addWidget(own);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 6, 8, 8);
    column->setSpacing(6);
    column->addLayout(heads);
    area_->setWidgetResizable(true);
    area_->setFixedHeight(shot_px.height());
    area_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area_->setFocusPolicy(Qt::NoFocus);
    area_->viewport()->installEventFilter(this);
    column->addWidget(area_);
    connect(undo_, &QPushButton::clicked, &session_.history(), &QUndoStack::undo);
    connect(pin, &QPushButton::clicked, this, [this] { session_.setPin(true); });
    connect(own, &QPushButton::clicked, this, &TriesStrip::ownWanted);
    connect(&session_.history(), &QUndoStack::indexChanged, this, &TriesStrip::refreshUndo);
    connect(&session_, &Session::projectReplaced, this, [this] { drawn_.clear(); });
    // The drawing of a try can wait until its figures are seen.
    connect(&tries_, &Tries::changed, this, [this] { afterPainting(this, [this] { refresh(); }); });
    refresh();
    refreshUndo();
}

QPushButton* TriesStrip::shot(int id) const { return findChild<QPushButton*>(QStringLiteral("try_%1").arg(id)); }
QPushButton* TriesStrip::button(const QString& name) const { return findChild<QPushButton*>(name); }

void TriesStrip::refreshUndo() {
    const QString words = session_.history().undoText();
    undo_->setEnabled(session_.history().canUndo());
    undo_->setToolTip(words.isEmpty() ? tr("Nothing to undo") : tr("Undoes: %1").arg(words));
    undo_->setAccessibleName(undo_->toolTip());
}

void TriesStrip::refresh() {
    const Try* now = tries_.now();
    if (now && !drawn_.count(now->id)) drawn_[now->id] = portrait_(picture_px * 2);
    auto* inner = new QWidget;
    row_ = new QHBoxLayout(inner);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(6);
    QWidget* current = nullptr;
    // The newest and the one that hangs; older ones are found by undo.
    constexpr std::size_t most_shown = 40;
    const std::vector<Try>& all = tries_.all();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Try& each = all[i];
        if (i + most_shown < all.size() && !(now && each.id == now->id)) {
            drawn_.erase(each.id);
            continue;
        }
        const bool is_now = now && each.id == now->id, holds = tries_.holds(each);
        const auto verdict = !holds            ? model::Verdict::Unknown
                             : each.no_go == 0 ? model::Verdict::Go
                                               : model::Verdict::NoGo;
        auto* shot =
            new Shot(drawn_[each.id], each.words, holds ? QString::number(each.no_go) : tr("was %1").arg(each.no_go),
                     verdict, is_now, inner);
        shot->setObjectName(QStringLiteral("try_%1").arg(each.id));
        if (!holds) shot->setToolTip(tr("%1 no-go gaps then; something else was changed since").arg(each.no_go));
        connect(shot, &QPushButton::clicked, this, [this, id = each.id] { tries_.goTo(id); });
        row_->addWidget(shot);
        if (is_now) current = shot;
    }
    if (tries_.all().size() < 2) {
        auto* hint = new QLabel(tr("Each place you try is kept here: click one to go back."), inner);
        hint->setWordWrap(true);
        hint->setForegroundRole(QPalette::PlaceholderText);
        row_->addWidget(hint, 1);
    }
    row_->addStretch(0);
    area_->setWidget(inner); // the one before goes
    inner->show();
    if (current) afterPainting(inner, [this, current] { area_->ensureWidgetVisible(current, 6, 0); });
}

/// The wheel goes along the strip.
bool TriesStrip::eventFilter(QObject* watched, QEvent* event) {
    if (watched == area_->viewport() && event->type() == QEvent::Wheel) {
        const auto* wheel = static_cast<QWheelEvent*>(event);
        area_->horizontalScrollBar()->setValue(area_->horizontalScrollBar()->value() - wheel->angleDelta().y());
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace gabarit::app

#include "moc_tries_strip.cpp"
