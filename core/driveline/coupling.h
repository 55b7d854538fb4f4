// A flexible disc's two flanges from readings round the clock: skew told from runout, and the moves that null it.
#pragma once

#include "driveline/check.h"
#include "driveline/section/driveline.h"
#include "model/project.h"

#include <Eigen/Core>

namespace gabarit::driveline {

/// A reading at clock place φ with the shaft turned by α, both clockwise from behind.
struct ClockSample {
    double clock_deg = 0;
    double turn_deg = 0;
    double mm = 0;
    double sigma_mm = 0.05; ///< standard deviation it is weighed by
};

/// Least squares of g = mean + a·cos φ + b·sin φ + c·cos(φ−α) + d·sin(φ−α). What stays in space (a, b) is skew, what
/// turns with the shaft (c, d) its flange's own runout.
struct HarmonicFit {
    bool enough = false;    ///< a and b, or their sums with c and d, are known
    bool separated = false; ///< skew is told from runout; else `standing` holds their sum
    std::string reason;     ///< what is missing
    double mean_mm = 0;
    Eigen::Vector2d standing_mm{0, 0};                        ///< a, b: opens towards the top, towards the right
    Eigen::Vector2d turning_mm{0, 0};                         ///< c, d
    Eigen::Matrix2d covariance_mm2 = Eigen::Matrix2d::Zero(); ///< of a and b
    double sigma_mm = 0;             ///< of one reading, as they scatter; as given when there are too few
    std::vector<double> residual_mm; ///< of each reading, those left out too
    std::vector<bool> outlier;       ///< does not fit the curve; left out of it
    /// The place and turn at which a further reading would make a and b best known, of every 30° and quarter turn.
    double next_clock_deg = 0, next_turn_deg = 0;
};

/// Outliers by the studentised residual of each reading against the fit without it, above `outlier_t` and above
/// `least_outlier_mm` (what an instrument shows); taken out one at a time, a fifth of the readings at most.
HarmonicFit fitHarmonic(const std::vector<ClockSample>& samples, double outlier_t, double least_outlier_mm);

/// How the unit's mounts move: up and to the vehicle's right above zero, mm.
struct MountMove {
    double gearbox_up_mm = 0, gearbox_right_mm = 0;
    double front_up_mm = 0, front_right_mm = 0;
};

struct CouplingTryReport {
    std::string id;
    std::string name;
    HarmonicFit face;
    HarmonicFit rim;
    bool usable = false;
    std::optional<double> tilt_deg;  ///< of the faces; the sum with runout when not separated
    double open_clock_deg = 0;       ///< where they stand widest open
    double tilt_accuracy_deg = 0;    ///< 95 %
    double runout_mm = 0;            ///< of the faces, half of the whole swing
    std::optional<double> offset_mm; ///< of the unit's flange from the shaft's
    double offset_clock_deg = 0;     ///< towards where
    double offset_accuracy_mm = 0;   ///< 95 %
    /// Squares the faces with the gearbox mount alone; what offset that leaves, clock place of it.
    std::optional<MountMove> gearbox_alone;
    std::optional<double> offset_left_mm;
    std::optional<MountMove> both; ///< nulls faces and rim; needs rim readings
};

struct CouplingReport {
    std::string id;
    std::string name;
    std::string line;
    std::vector<CouplingTryReport> tries;
    std::vector<Check> checks; ///< of the last try
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason;
    double to_gearbox_mount_mm = 0, to_front_mounts_mm = 0; ///< 0: not known
};

CouplingReport judgeCoupling(const model::Project& project, const model::CouplingCheck& coupling,
                             const model::RuleBook& book);

/// The active placement with its mounts moved so. Error when nothing hangs or the distances are not known.
Result<model::Placement> placementMoved(const model::Project& project, const CouplingReport& coupling,
                                        const MountMove& move);

/// "3 o'clock": of a clock place in degrees, to the half hour.
std::string clockWords(double clock_deg);

} // namespace gabarit::driveline
