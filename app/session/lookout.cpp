#include "session/lookout.h"

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr double smallest_scale = 0.02; // the whole vehicle is a thumbnail
constexpr double largest_scale = 40;    // a millimetre is a thumb wide
} // namespace

void Lookout::setCentre(const Eigen::Vector3d& centre_vehicle_mm) {
    centre_mm_ = centre_vehicle_mm;
    emit changed();
}

void Lookout::setScale(double pixels_per_mm) {
    scale_ = std::clamp(pixels_per_mm, smallest_scale, largest_scale);
    emit changed();
}

void Lookout::zoomAbout(double factor, const Eigen::Vector3d& still) {
    const double before = scale_;
    scale_ = std::clamp(scale_ * factor, smallest_scale, largest_scale);
    centre_mm_ = still + (centre_mm_ - still) * (before / scale_);
    emit changed();
}

Sight Lookout::sight(const model::BodyRef& ref) const {
    const auto found = sights_.find(ref);
    return found == sights_.end() ? Sight::Shown : found->second;
}

void Lookout::setSight(const model::BodyRef& ref, Sight sight) {
    sights_[ref] = sight;
    emit changed();
}

void Lookout::clearSights() {
    sights_.clear();
    emit changed();
}

void Lookout::setSlice(Elevation elevation, std::optional<double> level_mm) {
    slices_[static_cast<std::size_t>(elevation)] = level_mm;
    emit slicesChanged();
    emit changed();
}

void Lookout::select(const std::string& finding) {
    selected_ = finding;
    emit selectedChanged();
    emit changed();
}

void Lookout::setPointing(Pointing what) {
    pointing_ = what;
    emit changed();
}

void Lookout::setTaping(bool on) {
    taping_ = on;
    emit changed();
}

void Lookout::setEdited(std::optional<model::BodyRef> body) {
    if (body == edited_) return;
    edited_ = std::move(body);
    emit changed();
}

} // namespace gabarit::app

#include "moc_lookout.cpp"
