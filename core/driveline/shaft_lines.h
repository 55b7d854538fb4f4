// Judges a line of shafts: angles, shake, slip, plunge, critical speed; and what would put it right.
#pragma once

#include "driveline/check.h"
#include "driveline/line_geometry.h"
#include "driveline/section/driveline.h"
#include "quantity/once.h"

namespace gabarit::driveline {

using TubeSize = model::TubeStock;

/// Bending critical speed of a tube between pinned ends, rpm: 30·π/L²·√(EI/ρA), Euler–Bernoulli beam; I and A of a
/// ring, of a solid bar when the wall is the radius or more.
double criticalSpeed_rpm(double length_mm, const TubeSize& tube, double e_gpa, double density_kg_per_m3);

struct JointReport {
    std::string name;
    model::JointKind kind = model::JointKind::Cardan;
    double angle_deg = 0;  ///< at ride height, between the two axes in space
    double side_deg = 0;   ///< its part in the side view, along the run
    double plan_deg = 0;   ///< its part in plan
    double travel_deg = 0; ///< the largest over the travel
    LineState travel_at;
    double max_deg = 0;
    std::string max_source;
};

struct SlipReport {
    std::size_t shaft = 0;
    std::string name;
    bool plunging = false; ///< a constant velocity joint that plunges
    double ride_mm = 0;    ///< between joint centres
    double shortest_mm = 0;
    LineState shortest_at;
    double longest_mm = 0;
    LineState longest_at;
    std::optional<double> reserve_mm; ///< left to close at the shortest
    std::optional<double> engaged_mm; ///< splines at the longest; of a plunging joint: left before it comes apart
    /// The lengths a shaft to be made must have: closed no longer than this, and so much spline.
    double order_closed_mm = 0;
    std::optional<double> order_spline_mm;
    /// How far the unit's flange may go along the run (below zero: back) with the shaft kept: from, to. Nothing when it
    /// is not known, from above to when no place suits it.
    std::optional<double> move_least_mm, move_most_mm;
    std::optional<double> moved_mm; ///< the least of those moves; 0 when it suits as it stands
    std::optional<double> lift_mm;  ///< half-shaft: how far the unit's flange may be raised before it comes apart…
    std::optional<double> drop_mm;  ///< …or lowered; or the joint is at its most
};

struct CriticalReport {
    std::size_t shaft = 0;
    std::string name;
    double length_mm = 0; ///< the longest over the travel
    double critical_rpm = 0;
    std::optional<TubeSize> suggested; ///< the smallest tube that may run so fast
    bool two_piece = false;            ///< none of them may
};

/// What would make the crosses cancel, or bring them within their running limits.
struct Cure {
    enum class Kind { Phase, PinionNose, UnitTail, UnitHeight } kind = Kind::Phase;
    std::size_t shaft = 0;      ///< of a phase
    double amount_deg = 0;      ///< a phase: to set; a nose: up above zero; a tail: up above zero
    double mount_mm = 0;        ///< a tail: at the gearbox mount; a height: of the whole unit; up above zero
    double residual_deg = 0;    ///< equivalent angle that is left
    double worst_joint_deg = 0; ///< the largest running angle then
    double least_joint_deg = 0;
};

struct CurvePoint {
    LineState state;
    Eigen::Vector3d to_mm{0, 0, 0}; ///< the last joint: with a pinion behind it its path, vehicle frame
    double to_falls_deg = 0;        ///< the far flange's axis against level, as flangeFalls_deg
    std::vector<double> length_mm;  ///< of each shaft
    std::vector<double> angle_deg;  ///< of each joint
};

/// The last shaft over a turn of the first. `input_deg`: right-handed about the axis as the line runs, from where the
/// first joint's driving pin lies level.
struct TurnPoint {
    double input_deg = 0;
    double ahead_deg = 0; ///< output angle less input angle
    double ratio = 1;     ///< output speed over input speed
};

struct LineReport {
    std::string id;
    std::string name;
    bool usable = false;
    std::string reason;            ///< why not
    Eigen::Vector3d runs{1, 0, 0}; ///< along the vehicle, as it goes from the unit
    LineAt ride;
    std::vector<JointReport> joints;
    std::optional<double> speed_rpm; ///< that the accelerations are told at
    std::string speed_source;
    TurnReport turn; ///< at ride height, for 1 rad/s
    /// Of each shaft between two joints: the rear joint's plane against the front joint's, clockwise seen from behind
    /// (of a line that runs sideways the outer one against the inner one, seen from the wheel); a phase of as much
    /// cancels.
    std::vector<std::optional<double>> plane_twist_deg;
    std::vector<TurnPoint> over_a_turn; ///< of the last shaft, at ride height
    std::vector<SlipReport> slips;
    std::vector<CriticalReport> critical;
    std::vector<Cure> cures;
    std::vector<CurvePoint> curve; ///< droop to bump, not wound up
    std::string path_reason; ///< what of its far end's movement is not given: its angles over the travel are not known
    std::vector<Check> checks;
    model::Verdict verdict = model::Verdict::Unknown;

    GABARIT_ONCE_DECLARED(LineReport);
};

struct LineOptions {
    int travel_states = 65; ///< along the travel; times three for the wind-up
    bool cures = true;
};

/// Its place is made up, not surveyed: it counts as so much less sure, and that is said.
bool isAssumed(const model::FlangePlace& flange);

/// `top_rpm`: the shaft's speed at top speed by the gearing, if that is known.
LineReport judgeLine(const model::Project& project, const model::ShaftLine& line, const model::RuleBook& book,
                     std::optional<double> top_rpm, const LineOptions& options = {});

/// "full bump, nose up 2.0°", "60 % of the droop", "ride height".
std::string stateWords(const LineState& state, double droop_mm, double bump_mm);

} // namespace gabarit::driveline
