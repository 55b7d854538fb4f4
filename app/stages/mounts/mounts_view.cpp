#include "stages/mounts/mounts_view.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "mounts/mounts.h"
#include "placed/scene.h"

#include <QPainter>
#include <QTimer>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

constexpr int frame_ms = 40;
constexpr double seconds_a_swing = 1.6; // whatever its frequency: slow enough to follow
constexpr double mode_mm = 110;         // a mode's mounts are drawn to move so far
constexpr double case_mm = 45;          // and those of a load while driving
constexpr double air_mm = 90, gap_px = 8, title_px = 20;

} // namespace

MountsView::MountsView(QWidget* parent) : QWidget(parent), swing_(new QTimer(this)) {
    setMinimumHeight(260);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setAccessibleName(tr("Elevations with the mounts"));
    swing_->setInterval(frame_ms);
    connect(swing_, &QTimer::timeout, this, [this] {
        phase_ = std::fmod(phase_ + frame_ms / 1000.0 / seconds_a_swing, 1.0);
        update();
    });
}

void MountsView::show(std::shared_ptr<const study::Reports> reports, const QString& what, const QString& chosen,
                      quantity::Shown shown) {
    if (reports != reports_) {
        reports_ = std::move(reports);
        for (const shape::Elevation elevation : shape::elevations)
            outlines_[static_cast<std::size_t>(elevation)] =
                reports_ ? print::mountOutlines(*reports_, elevation) : std::vector<print::MountOutline>();
    }
    if (what != what_) phase_ = 0.25;
    what_ = what;
    chosen_ = chosen;
    shown_ = shown;
    note_.clear();
    const mounts::MountsReport* report =
        reports_ && reports_->of<mounts::MountsReport>() ? &*reports_->of<mounts::MountsReport>() : nullptr;
    if (report && report->usable) {
        if (what_.startsWith(QLatin1String("mode:")) && report->modes) {
            const auto index = static_cast<std::size_t>(what_.mid(5).toInt() - 1);
            if (index < report->modes->size()) {
                const mounts::Mode& mode = (*report->modes)[index];
                note_ = tr("Shaking in %1 at %2 Hz, drawn far larger than it is and slowed down; how much it shakes is "
                           "not reckoned")
                            .arg(QLatin1String(mounts::word(mode.of)), QString::number(mode.frequency_hz, 'f', 1));
            }
        }
        for (const mounts::LoadCase& load : report->cases) {
            if (what_ != QStringLiteral("case:") + q(load.id)) continue;
            note_ = tr("%1: %2").arg(q(load.name), q(load.reason.empty() ? load.how : load.reason));
            const double by = print::exaggeration(*report, load.from_rest, case_mm);
            if (load.kind == mounts::CaseKind::Driving && by > 1)
                note_ += tr(". The unit is drawn moved %1 times as far as it goes").arg(qRound(by));
            note_ += tr(". Arrows: what the unit does to each stand");
        }
    }
    if (report && !report->usable)
        note_ = tr("Drawn where they are. No loads and no shaking yet: %1").arg(q(report->reason));
    if (!what_.startsWith(QLatin1String("mode:"))) play(false);
    update();
}

void MountsView::play(bool on) {
    if (on && what_.startsWith(QLatin1String("mode:")))
        swing_->start();
    else
        swing_->stop();
    if (!on) phase_ = 0.25;
    update();
}
bool MountsView::playing() const { return swing_->isActive(); }

void MountsView::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    swing_->stop();
}

void MountsView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), tones().paper);
    const Tones& t = tones();
    const print::PictureTones palette{t.ink,          t.second_ink, t.rule,    t.donor,
                                      t.chassis_edge, t.trouble,    t.in_hand, t.paper};
    const QRectF all = QRectF(rect()).adjusted(2, 2, -2, -2);
    const mounts::MountsReport* report =
        reports_ && reports_->of<mounts::MountsReport>() ? &*reports_->of<mounts::MountsReport>() : nullptr;
    if (!report || (!report->usable && report->mounts.empty())) {
        painter.setPen(t.second_ink);
        painter.drawText(all, Qt::AlignCenter | Qt::TextWordWrap,
                         report
                             ? q(report->reason)
                             : tr("No mounts are given yet. \"New\" begins with one: its pad on the unit, its stand on "
                                  "the vehicle, and the rubber between them."));
        return;
    }
    // What all three have to hold: unit, mounts, and some air.
    Eigen::AlignedBox3d around;
    for (const placed::PlacedBody& body : reports_->scene->bodies)
        if (body.in_donor && body.solid())
            around.extend(shape::moved(body.made->collider->bounds(), body.pose_vehicle_body));
    for (const mounts::MountReport& m : report->mounts) around.extend(m.at_mm);
    if (report->usable) around.extend(report->unit.body.centre_mm);
    const Eigen::Vector3d size = around.sizes() + Eigen::Vector3d::Constant(2 * air_mm);
    // Side and front above, the plan below the side view.
    const double scale = std::min((all.width() - gap_px) / (size.x() + size.y()),
                                  (all.height() - gap_px - 2 * title_px) / (size.z() + size.y()));
    const double left_px = std::max(size.x() * scale, (all.width() - gap_px) * size.x() / (size.x() + size.y()));
    const double top_px = (all.height() - gap_px) * size.z() / (size.z() + size.y());
    const QRectF side(all.left(), all.top(), left_px, top_px);
    const QRectF front(side.right() + gap_px, all.top(), all.right() - side.right() - gap_px, top_px);
    const QRectF plan(all.left(), side.bottom() + gap_px, left_px, all.bottom() - side.bottom() - gap_px);
    const QRectF words(front.left(), plan.top(), front.width(), plan.height());
    const auto draw = [&](shape::Elevation elevation, const QRectF& box, const QString& title, bool names) {
        print::MountDrawing drawing;
        drawing.report = report;
        drawing.elevation = elevation;
        drawing.outlines = &outlines_[static_cast<std::size_t>(elevation)];
        drawing.centre_mm = around.center();
        drawing.px_per_mm = scale;
        drawing.chosen = chosen_.startsWith(QLatin1String("mount:")) ? chosen_.mid(6).toStdString() : std::string();
        drawing.spots = print::mountSpots(*reports_->project, chosen_.toStdString());
        drawing.names = names;
        for (const mounts::LoadCase& load : report->cases)
            if (what_ == QStringLiteral("case:") + q(load.id)) {
                drawing.load = &load;
                if (load.kind == mounts::CaseKind::Driving) {
                    const double by = print::exaggeration(*report, load.from_rest, case_mm);
                    drawing.moved = mounts::Move{load.from_rest.by_mm * by, load.from_rest.turn_rad * by};
                }
            }
        if (what_.startsWith(QLatin1String("mode:")) && report->modes) {
            const auto index = static_cast<std::size_t>(what_.mid(5).toInt() - 1);
            if (index < report->modes->size())
                drawing.moved = print::modeMove(*report, (*report->modes)[index], mode_mm, phase_);
        }
        print::paintMounts(painter, box.adjusted(1, title_px, -1, -1), drawing, palette, shown_);
        painter.setPen(t.second_ink);
        painter.drawText(QRectF(box.left() + 6, box.top(), box.width() - 12, title_px),
                         Qt::AlignLeft | Qt::AlignVCenter, title);
        painter.setPen(QPen(t.rule, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(box);
    };
    draw(shape::Elevation::Side, side, tr("Side, front to the left"), true);
    draw(shape::Elevation::Front, front, tr("Front"), false);
    draw(shape::Elevation::Plan, plan, tr("From above"), false);
    painter.setPen(note_.contains(tr("larger")) || note_.contains(tr("times")) ? t.in_hand : t.ink);
    painter.drawText(words.adjusted(6, 2, -4, -2), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                     note_.isEmpty() ? tr("Choose a load or a way of shaking above.") : note_ + QLatin1Char('.'));
}

} // namespace gabarit::app

#include "moc_mounts_view.cpp"
