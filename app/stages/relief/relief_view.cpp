#include "stages/relief/relief_view.h"

#include "fields/editing.h"
#include "forms/elided_combo.h"
#include "forms/tones.h"
#include "relief/relief.h"
#include "relief/section/relief.h"
#include "store/rule_book.h"

#include <QComboBox>
#include <QMouseEvent>
#include <QPainter>

#include <cmath>

namespace gabarit::app {
namespace {

constexpr double list_px = 16; // that the list is higher than a title
constexpr double gap_px = 8, grip_px = 9, wide_share = 0.62, tall_share = 0.62, least_mm = 1;

/// What the book wants of it, as a share of what it was.
std::optional<double> wantedAlong(print::Along what, const model::RuleBook& book) {
    using print::Along;
    switch (what) {
    case Along::LeastModulus:
    case Along::Top:
    case Along::Bottom:
    case Along::Left:
    case Along::Right: return book.figure("section_wanted_share");
    case Along::Upright:
    case Along::Sideways: return book.figure("stiffness_wanted_share");
    case Along::Torsion: return book.figure("torsion_wanted_share");
    case Along::Area:
    case Along::Product:
    case Along::Shift: return std::nullopt;
    }
    return std::nullopt;
}

} // namespace

ReliefView::ReliefView(QWidget* parent) : QWidget(parent), along_(new ElidedCombo(this)) {
    setMinimumHeight(260);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setAccessibleName(tr("Drawing of what is chosen"));
    setMouseTracking(true);
    along_->setObjectName(QStringLiteral("relief_along"));
    along_->setAccessibleName(tr("What is drawn along the pocket"));
    for (int i = 0; i < print::along_count; ++i) along_->addItem(print::words(static_cast<print::Along>(i)), i);
    along_->hide();
    connect(along_, &QComboBox::currentIndexChanged, this, [this] { update(); });
}

void ReliefView::placeAlong() {
    const QSize size = along_->sizeHint();
    const QRectF box = sharesBox();
    along_->setGeometry(static_cast<int>(box.right()) - size.width() - 2, static_cast<int>(box.top()) + 1, size.width(),
                        size.height());
    along_->setVisible(report() && report()->made && report()->stations.size() > 1);
}

void ReliefView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    placeAlong();
}

const relief::PocketReport* ReliefView::report() const {
    if (!reports_ || !reports_->of<relief::ReliefReport>() || !key_.startsWith(QLatin1String("pocket:")))
        return nullptr;
    return byId(reports_->of<relief::ReliefReport>()->pockets, key_.mid(7).toStdString());
}
const model::Pocket* ReliefView::pocket() const {
    if (!report()) return nullptr;
    const auto* relief = reports_->project->sections.get<model::Relief>();
    return relief ? byId(relief->pockets, report()->id) : nullptr;
}

void ReliefView::show(std::shared_ptr<const study::Reports> reports, const QString& key, quantity::Shown shown) {
    if (reports != reports_ || key != key_) {
        if (key != key_) station_mm_.reset();
        reports_ = std::move(reports);
        key_ = key;
        wanted_.reset();
        edge_ = Edge::None;
        picture_ = report() && report()->made ? print::pocketPicture(*reports_, *report(), station_mm_)
                                              : print::PocketPicture();
    }
    shown_ = shown;
    placeAlong();
    update();
}

void ReliefView::setStation(std::optional<double> along_mm) {
    station_mm_ = along_mm;
    if (report() && report()->made) picture_ = print::pocketPicture(*reports_, *report(), station_mm_);
    update();
}

QRectF ReliefView::lengthwiseBox() const {
    return {2, 2, (width() - 4) * wide_share - gap_px / 2, (height() - 4) * tall_share - gap_px / 2};
}
QRectF ReliefView::acrossBox() const {
    const QRectF left = lengthwiseBox();
    return {left.right() + gap_px, 2, width() - 2 - left.right() - gap_px, left.height()};
}
QRectF ReliefView::sharesBox() const {
    const QRectF top = lengthwiseBox();
    return {2, top.bottom() + gap_px, width() - 4.0, height() - 2 - top.bottom() - gap_px};
}
QPointF ReliefView::toWidget(const QPointF& at_mm) const {
    return print::lengthwiseTransform(lengthwiseBox(), picture_).map(at_mm);
}

void ReliefView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Tones& t = tones();
    painter.fillRect(rect(), t.paper);
    const print::PictureTones palette{t.ink,          t.second_ink, t.rule,    t.donor,
                                      t.chassis_edge, t.trouble,    t.in_hand, t.paper};
    const auto say = [&](const QString& text) {
        painter.setPen(t.second_ink);
        painter.drawText(QRectF(rect()).adjusted(40, 10, -40, -10), Qt::AlignCenter | Qt::TextWordWrap, text);
    };
    if (!reports_ || !reports_->of<relief::ReliefReport>() || key_.isEmpty())
        return say(
            tr("Nothing is cut yet. \"New\" begins with a pocket for what is in the way, a tube cut to fit, or a "
               "plate with a hole pattern."));
    if (const relief::PocketReport* its = report()) {
        if (!its->reason.empty()) return say(tr("It cannot be made: %1.").arg(q(its->reason)));
        const model::Pocket& now = wanted_ ? *wanted_ : *pocket();
        print::paintLengthwise(painter, lengthwiseBox(), picture_, now, palette, shown_);
        print::paintAcross(painter, acrossBox(), picture_, palette, shown_);
        const model::RuleBook book = model::applied(store::defaultRuleBook(), reports_->project->rules);
        const auto along = static_cast<print::Along>(along_->currentData().toInt());
        const QRectF below = sharesBox().adjusted(0, list_px, 0, 0); // the list stands at its corner
        print::paintAlong(painter, below, *its, picture_.station_mm, along, wantedAlong(along, book), palette, shown_);
        painter.setPen(t.rule);
        painter.setBrush(Qt::NoBrush);
        for (const QRectF& box : {lengthwiseBox(), acrossBox(), sharesBox()}) painter.drawRect(box);
        return;
    }
    const std::string id = key_.section(QLatin1Char(':'), 1).toStdString();
    const QRectF all = QRectF(rect()).adjusted(2, 2, -2, -2);
    if (key_.startsWith(QLatin1String("tube:"))) {
        const relief::TubeReport* tube = byId(reports_->of<relief::ReliefReport>()->tubes, id);
        if (!tube) return;
        if (!tube->made) return say(tr("It cannot be made: %1.").arg(q(tube->reason)));
        const QRectF upper(all.left(), all.top(), all.width(), all.height() / 2 - gap_px / 2);
        print::paintPattern(painter, upper, tube->made->first_wrap, palette, shown_);
        print::paintPattern(painter, upper.translated(0, upper.height() + gap_px), tube->made->second_wrap, palette,
                            shown_);
    } else if (key_.startsWith(QLatin1String("plate:"))) {
        const relief::PlateReport* plate = byId(reports_->of<relief::ReliefReport>()->plates, id);
        if (!plate) return;
        if (!plate->made) return say(tr("It cannot be made: %1.").arg(q(plate->reason)));
        print::paintPattern(painter, all, plate->made->pattern, palette, shown_);
    } else {
        say(tr("A hole or seam that cuts stay away from. One that a pocket takes away comes again in its plate."));
    }
}

ReliefView::Edge ReliefView::edgeAt(const QPointF& place) const {
    if (!pocket() || !report()->made || !lengthwiseBox().contains(place)) return Edge::None;
    const QRectF room = print::roomOf(*pocket());
    const QPointF low = toWidget({room.left(), room.top()}), high = toWidget({room.right(), 0});
    const bool within = place.y() > high.y() - grip_px && place.y() < low.y() + grip_px;
    if (pocket()->form != model::PocketForm::HalfRound && within) {
        if (std::abs(place.x() - low.x()) < grip_px) return Edge::Low;
        if (std::abs(place.x() - high.x()) < grip_px) return Edge::High;
    }
    if (std::abs(place.y() - low.y()) < grip_px && place.x() > low.x() && place.x() < high.x()) return Edge::Bottom;
    return Edge::None;
}

void ReliefView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || !report() || !report()->made) return;
    const QRectF shares = sharesBox();
    if (shares.contains(event->position()) && report()->stations.size() > 1) { // a place along it
        const double from = report()->stations.front().along_mm, to = report()->stations.back().along_mm;
        const double share = (event->position().x() - shares.left() - 46) / (shares.width() - 54);
        return setStation(from + std::clamp(share, 0.0, 1.0) * (to - from));
    }
    edge_ = edgeAt(event->position());
}

void ReliefView::mouseMoveEvent(QMouseEvent* event) {
    if (edge_ == Edge::None) {
        const Edge over = edgeAt(event->position());
        setCursor(over == Edge::Bottom ? Qt::SizeVerCursor : over == Edge::None ? Qt::ArrowCursor : Qt::SizeHorCursor);
        return;
    }
    const QPointF at = print::lengthwiseTransform(lengthwiseBox(), picture_).inverted().map(event->position());
    model::Pocket next = *pocket();
    if (edge_ == Edge::Bottom) {
        next.depth_mm = std::max(least_mm, std::round(-at.y()));
    } else {
        const double half = next.length_mm / 2, end = edge_ == Edge::Low ? -half : half;
        const double by = std::round(at.x() - end);
        const double length = next.length_mm + (edge_ == Edge::Low ? -by : by);
        if (length < least_mm) return;
        next.length_mm = length;
        next.at_mm += shape::pocketPose(next).linear().col(0) * by / 2;
    }
    wanted_ = next;
    update();
}

void ReliefView::mouseReleaseEvent(QMouseEvent*) {
    const bool had = edge_ != Edge::None && wanted_;
    edge_ = Edge::None;
    if (had) emit dragged(*wanted_);
}

} // namespace gabarit::app

#include "moc_relief_view.cpp"
