// From where and how the drawing is looked at. Not part of the project: never saved, never undone.
#pragma once

#include "model/id.h"
#include "shape/elevation.h"

#include <QObject>

#include <array>
#include <map>
#include <optional>

namespace gabarit::app {

using shape::Elevation;
using shape::elevations;
using shape::viewpoint;

enum class Sight { Shown, SeeThrough, Hidden };

class Lookout : public QObject {
    Q_OBJECT
public:
    /// Pixels per millimetre, the same in all elevations.
    double scale() const { return scale_; }
    /// The vehicle point in the middle of every elevation.
    Eigen::Vector3d centre_mm() const { return centre_mm_; }
    void setCentre(const Eigen::Vector3d& centre_vehicle_mm);
    void setScale(double pixels_per_mm);
    /// Scales by `factor` and keeps `still_vehicle_mm` where it is on the screen.
    void zoomAbout(double factor, const Eigen::Vector3d& still_vehicle_mm);

    Sight sight(const model::BodyRef& ref) const;
    void setSight(const model::BodyRef& ref, Sight sight);
    void clearSights();

    /// Where an elevation is sliced, along its direction towards the viewer, mm; nothing: not sliced.
    std::optional<double> slice(Elevation elevation) const { return slices_[static_cast<std::size_t>(elevation)]; }
    void setSlice(Elevation elevation, std::optional<double> level_mm);

    /// The finding that is pointed at, by id; empty for none.
    const std::string& selected() const { return selected_; }
    void select(const std::string& finding);

    /// Wanted when another project came: the first drawing that is in sight fits it and says so.
    bool fitWanted() const { return fit_wanted_; }
    void wantFit(bool wanted) { fit_wanted_ = wanted; }

    /// The body that a survey drawing offers to reshape; nothing for none.
    const std::optional<model::BodyRef>& edited() const { return edited_; }
    void setEdited(std::optional<model::BodyRef> body);

    /// Everything is drawn again, as after a change of colours.
    void redraw() { emit changed(); }

    /// What the next click in a drawing names, instead of what it does else.
    enum class Pointing { Nothing, Bodies, Places };
    Pointing pointing() const { return pointing_; }
    void setPointing(Pointing what);
    /// A body, or a point of an owner, was pointed at.
    void pointAt(const std::string& owner, const std::string& id) { emit pointedAt(owner, id); }

    bool taping() const { return taping_; }
    void setTaping(bool on);

    /// How far one nudge goes.
    double moveStep_mm() const { return move_step_mm_; }
    double turnStep_deg() const { return turn_step_deg_; }
    void setMoveStep(double step_mm) { move_step_mm_ = step_mm; }
    void setTurnStep(double step_deg) { turn_step_deg_ = step_deg; }

signals:
    void changed();       ///< repaint
    void slicesChanged(); ///< outlines must be made anew
    void selectedChanged();
    void pointedAt(const std::string& owner, const std::string& id);

private:
    double scale_ = 0.35;
    Eigen::Vector3d centre_mm_{400, 0, 600};
    std::map<model::BodyRef, Sight> sights_;
    std::array<std::optional<double>, 3> slices_;
    std::string selected_;
    std::optional<model::BodyRef> edited_;
    bool fit_wanted_ = true;
    bool taping_ = false;
    Pointing pointing_ = Pointing::Nothing;
    double move_step_mm_ = 5;
    double turn_step_deg_ = 0.1;
};

} // namespace gabarit::app
