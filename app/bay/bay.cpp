#include "bay/bay.h"

#include "session/session.h"

#include <QGridLayout>

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr double air_round_donor_mm = 140; // what stands next to it is what it will touch
constexpr int least_drawing_px = 200;      // on a small screen it is scrolled to, not squeezed
constexpr int least_narrow_px = 140;
constexpr double gap_scale = 0.9; // px per mm at which a 10 mm gap can be seen
constexpr double close_mm = 450;  // of a body: what tells which it is
} // namespace

Bay::Bay(Session& session, Lookout& lookout, QWidget* parent, bool survey)
    : QWidget(parent), session_(session), lookout_(lookout), grid_(new QGridLayout(this)) {
    for (const Elevation elevation : elevations)
        views_[static_cast<std::size_t>(elevation)] = new ElevationView(elevation, session, lookout, this, survey);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(1);
    grid_->addWidget(view(Elevation::Side), 0, 0);
    grid_->addWidget(view(Elevation::Front), 0, 1);
    grid_->addWidget(view(Elevation::Plan), 1, 0);
    grid_->setColumnStretch(0, 67);
    grid_->setColumnStretch(1, 33);
    for (const int row : {0, 1}) grid_->setRowMinimumHeight(row, least_drawing_px);
    grid_->setRowStretch(0, 56);
    grid_->setRowStretch(1, 44);
    connect(&session_, &Session::projectReplaced, this, [this] { lookout_.wantFit(true); });
    connect(&session_, &Session::pictureChanged, this, [this] {
        if (lookout_.fitWanted() && isVisible()) fitAll();
    });
}

void Bay::setCorner(QWidget* corner) {
    corner_ = corner;
    grid_->addWidget(corner, 1, 1);
}

void Bay::setNarrow(bool narrow) {
    for (const Elevation elevation : elevations) grid_->removeWidget(view(elevation));
    if (corner_ && corner_->parentWidget() == this) grid_->removeWidget(corner_);
    grid_->addWidget(view(Elevation::Side), 0, 0, 1, narrow ? 2 : 1);
    grid_->addWidget(view(Elevation::Plan), 1, 0);
    grid_->addWidget(view(Elevation::Front), narrow ? 1 : 0, 1);
    if (corner_ && corner_->parentWidget() == this) {
        if (!narrow) grid_->addWidget(corner_, 1, 1);
        corner_->setVisible(!narrow);
    }
    for (const int row : {0, 1}) grid_->setRowMinimumHeight(row, narrow ? least_narrow_px : least_drawing_px);
    lookout_.wantFit(true);
}

void Bay::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (lookout_.fitWanted() && isVisible()) fitAll();
}

void Bay::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (lookout_.fitWanted()) fitAll();
}

void Bay::fitAll() {
    const auto picture = session_.picture();
    if (!picture) return;
    Eigen::AlignedBox3d box = picture->donor_bounds_vehicle_mm;
    if (box.isEmpty())
        for (const PictureBody& body : picture->bodies)
            if (body.category != "ground") box.extend(body.bounds_vehicle_mm);
    if (box.isEmpty()) return;
    lookout_.wantFit(false);
    box.min().array() -= air_round_donor_mm;
    box.max().array() += air_round_donor_mm;
    lookout_.setScale(scaleFor(box.sizes()));
    lookout_.setCentre(box.center());
}

QPixmap Bay::portrait(const QSize& size) {
    const auto picture = session_.picture();
    Eigen::AlignedBox3d all;
    if (picture)
        for (const PictureBody& body : picture->bodies)
            if (body.category != "ground") all.extend(body.bounds_vehicle_mm);
    if (!all.isEmpty()) {
        constexpr double air_mm = 120;
        all.min().array() -= air_mm;
        all.max().array() += air_mm;
    }
    return portrait(size, all);
}

Eigen::AlignedBox3d Bay::portraitBox() const {
    const auto picture = session_.picture();
    if (!picture) return {};
    Eigen::AlignedBox3d box = picture->donor_bounds_vehicle_mm;
    if (box.isEmpty())
        for (const PictureBody& body : picture->bodies)
            if (body.category != "ground") box.extend(body.bounds_vehicle_mm);
    if (box.isEmpty()) return {};
    constexpr double air_mm = 350; // wide enough to tell the vehicle
    box.min().array() -= air_mm;
    box.max().array() += air_mm;
    return box;
}

QPixmap Bay::portrait(const QSize& size, Eigen::AlignedBox3d box) {
    if (box.isEmpty()) box = portraitBox();
    if (box.isEmpty()) return {};
    Lookout lookout;
    ElevationView view(Elevation::Side, session_, lookout, nullptr, false);
    view.setBare(true);
    view.resize(size);
    lookout.setScale(std::min(size.width() / box.sizes().x(), size.height() / box.sizes().z()));
    lookout.setCentre(box.center());
    return view.grab();
}

double Bay::scaleFor(const Eigen::Vector3d& sizes_mm) const {
    const QSize side = view(Elevation::Side)->size(), plan = view(Elevation::Plan)->size(),
                front = view(Elevation::Front)->size();
    return std::min({std::min(side.width(), plan.width()) / sizes_mm.x(),
                     std::min(side.height(), front.height()) / sizes_mm.z(), plan.height() / sizes_mm.y()});
}

void Bay::leadTo(const Eigen::Vector3d& point_vehicle_mm, const std::vector<model::BodyRef>& bodies) {
    const Look now{lookout_.scale(), lookout_.centre_mm()};
    if (!led_to_ || !(*led_to_ == now)) led_from_ = now;
    // A rail goes on and on: what of it is close is enough.
    const Eigen::Vector3d near = Eigen::Vector3d::Constant(close_mm);
    Eigen::Vector3d half = Eigen::Vector3d::Zero();
    if (const auto picture = session_.picture())
        for (const PictureBody& body : picture->bodies) {
            if (std::find(bodies.begin(), bodies.end(), body.ref) == bodies.end()) continue;
            const Eigen::AlignedBox3d box = body.bounds_vehicle_mm.intersection(
                Eigen::AlignedBox3d(point_vehicle_mm - near, point_vehicle_mm + near));
            if (box.isEmpty()) continue;
            half = half.cwiseMax((box.max() - point_vehicle_mm).cwiseAbs())
                       .cwiseMax((box.min() - point_vehicle_mm).cwiseAbs());
        }
    half.array() += air_round_donor_mm;
    const double fits = isVisible() ? scaleFor(2 * half) : gap_scale; // not laid out yet: nothing is known of its size
    lookout_.setScale(std::min(gap_scale, fits));
    lookout_.setCentre(point_vehicle_mm);
    led_to_ = Look{lookout_.scale(), lookout_.centre_mm()};
}

void Bay::lookBack() {
    if (led_to_ && *led_to_ == Look{lookout_.scale(), lookout_.centre_mm()}) {
        lookout_.setScale(led_from_.scale);
        lookout_.setCentre(led_from_.centre_mm);
    }
    led_to_.reset();
}

} // namespace gabarit::app

#include "moc_bay.cpp"
