// How things move: freedoms between two ends, and the pose that a chain of motions gives a body.
#pragma once

#include "quantity/result.h"

#include <Eigen/Geometry>

#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace gabarit::kinematics {

/// One number that something moves by: mm of travel, degrees of turning. 0 is at rest, and lies within its ends.
struct Freedom {
    std::string id;
    double low = 0;
    double high = 0;
    std::string low_words;  ///< "full droop"
    std::string high_words; ///< "full bump"
};

/// A value for each freedom, in their order.
using State = std::vector<double>;
/// All at rest.
State atRest(const std::vector<Freedom>& freedoms);

/// An arm or leaf in the side view: `moving_mm` keeps its distance from `fixed_mm` in the x-z plane.
struct Link {
    Eigen::Vector3d fixed_mm{0, 0, 0};
    Eigen::Vector3d moving_mm{0, 0, 0};
};

/// A leaf spring as a link, after the three-link equivalent of SAE HS-788: the seat moves on a circle of three quarters
/// of the length from the fixed eye to the axle, about the point a quarter of it away from the eye.
Link leafLink(const Eigen::Vector3d& fixed_eye_mm, const Eigen::Vector3d& seat_mm);

/// A rigid axle: its centre rises by `travel`, it rolls about the vehicle's x axis through its centre by `roll`
/// (degrees, positive: its right end rises). Without links it goes straight up; one link leads it on an arc and keeps
/// it upright (leaf springs); two links turn it with the travel (link arms: the pinion tips as they swing).
struct AxleMotion {
    std::size_t travel = 0;
    std::optional<std::size_t> roll;
    Eigen::Vector3d centre_mm{0, 0, 0};
    std::vector<Link> links; ///< none, one or two
};

/// An arm that swings about the axis through two points, so that its tip rises by `travel`.
struct SwingMotion {
    std::size_t travel = 0;
    Eigen::Vector3d axis_a_mm{0, 0, 0};
    Eigen::Vector3d axis_b_mm{0, 0, 0};
    Eigen::Vector3d tip_mm{0, 0, 0};
};

/// What hangs on the tip of such an arm and keeps its attitude: knuckle, wheel.
struct CarriedMotion {
    SwingMotion by;
};

/// Straight: so many mm for each unit of the freedom.
struct SlideMotion {
    std::size_t freedom = 0;
    Eigen::Vector3d per_unit_mm{0, 0, 0};
};

/// About an axis: so many degrees for each unit of the freedom, right-handed from a to b.
struct TurnMotion {
    std::size_t freedom = 0;
    Eigen::Vector3d axis_a_mm{0, 0, 0};
    Eigen::Vector3d axis_b_mm{0, 0, 0};
    double per_unit_deg = 1;
    std::optional<double> per_unit_below_deg{}; ///< below rest, where that is another (locks left and right)
    double degrees(double value) const {
        return value * (value < 0 ? per_unit_below_deg.value_or(per_unit_deg) : per_unit_deg);
    }
};

using Motion = std::variant<AxleMotion, SwingMotion, CarriedMotion, SlideMotion, TurnMotion>;
/// The first is the outermost: a wheel's chain is what carries its knuckle, then its own steering.
using Chain = std::vector<Motion>;

/// Holds several freedoms together: Σ lean·s + weight·|s| ≤ most, by their order. Bump stops under a rolled axle, the
/// stops of a mount that is pressed and turned. Rest is always allowed.
struct Stop {
    std::vector<double> lean;
    std::vector<double> weight; ///< none below zero
    double most = 0;
};
/// Whether any state within `half` of `middle` is allowed.
bool anyAllowed(const std::vector<Stop>& stops, const State& middle, const State& half);
bool allowed(const std::vector<Stop>& stops, const State& state);

/// Errors: a freedom that is not there or does not hold 0, an axis without direction, an arm or link that does not
/// reach an end of the travel.
Result<void> check(const Chain& chain, const std::vector<Freedom>& freedoms);

/// How a body is moved from where it is at rest, vehicle frame. For a chain that check() found sound, within its ends.
Eigen::Isometry3d movedFromRest(const Chain& chain, const State& state);

/// How fast, at most, any point of a box (vehicle frame, at rest) goes with each freedom: mm per unit, in the freedoms'
/// order. Holds over their whole range: |p(s) − p(t)| ≤ Σ speed · |s − t|. Rotations by the farthest corner's radius,
/// swelled by what the motions inside of it displace; of two links the speed is taken at 64 places and the largest step
/// between neighbours is added.
std::vector<double> fastest(const Chain& chain, const std::vector<Freedom>& freedoms,
                            const Eigen::AlignedBox3d& box_at_rest_mm);

/// The same along one direction (a unit vector), for states within `half` of `middle`: |n·(p(s) − p(middle))| ≤
/// Σ speed · |s − middle|. Turning and sliding by what they do at the middle, and how much that can change on the way;
/// travel along arcs as in `fastest`, whose result is `full`. Never more than that.
std::vector<double> fastestAlong(const Chain& chain, const std::vector<Freedom>& freedoms,
                                 const Eigen::AlignedBox3d& box_at_rest_mm, const std::vector<double>& full,
                                 const Eigen::Vector3d& direction, const State& middle, const State& half);

} // namespace gabarit::kinematics
