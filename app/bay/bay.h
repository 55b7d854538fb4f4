// The three linked elevations.
#pragma once

#include "bay/elevation_view.h"

class QGridLayout;

namespace gabarit::app {

class Bay : public QWidget {
    Q_OBJECT
public:
    /// `survey`: bodies are picked and reshaped there, not nudged.
    Bay(Session& session, Lookout& lookout, QWidget* parent = nullptr, bool survey = false);

    ElevationView* view(Elevation elevation) const { return views_[static_cast<std::size_t>(elevation)]; }
    /// Puts a widget into the free corner beside the plan.
    void setCorner(QWidget* corner);
    /// In a small window the side view has the whole width, and the corner is not shown: a stage has it elsewhere.
    void setNarrow(bool narrow);
    /// Shows the donor and what is round it; the whole vehicle when there is no donor.
    void fitAll();
    /// A small side view of the whole vehicle, without words.
    QPixmap portrait(const QSize& size);
    /// The same of a part of the vehicle, mm; an empty one: round the unit.
    QPixmap portrait(const QSize& size, Eigen::AlignedBox3d box_vehicle_mm);
    /// What portrait() shows of its own accord.
    Eigen::AlignedBox3d portraitBox() const;
    /// Brings a vehicle point to the middle, near enough to see a gap, but no nearer than that these bodies, as far as
    /// they are close to it, and something known round them are in sight.
    void leadTo(const Eigen::Vector3d& point_vehicle_mm, const std::vector<model::BodyRef>& bodies = {});
    /// As it was looked at before leadTo(), unless it was looked at otherwise since.
    void lookBack();

protected:
    void resizeEvent(QResizeEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    struct Look {
        double scale;
        Eigen::Vector3d centre_mm;
        bool operator==(const Look& other) const { return scale == other.scale && centre_mm == other.centre_mm; }
    };
    /// Pixels per mm at which a box of these sizes, vehicle axes, fits every elevation.
    double scaleFor(const Eigen::Vector3d& sizes_mm) const;

    Session& session_;
    Lookout& lookout_;
    Look led_from_{};
    std::optional<Look> led_to_;
    QGridLayout* grid_;
    std::array<ElevationView*, 3> views_;
    QWidget* corner_ = nullptr;
};

} // namespace gabarit::app
