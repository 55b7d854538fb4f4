// What hangs on the hoist: its mass, where it balances, and how it will tilt.
#pragma once

#include "model/project.h"
#include "model/verdict.h"

namespace gabarit::weights {

struct HoistReport {
    std::vector<std::string> hangs; ///< names of what is counted
    std::optional<double> mass_kg;  ///< missing when a mass is
    std::optional<Eigen::Vector3d> centre_donor_mm;
    std::optional<Eigen::Vector3d> centre_vehicle_mm;
    std::optional<Eigen::Vector3d> slings_donor_mm; ///< middle of the points with the role sling
    /// Centre of gravity less the slings' middle, donor frame: x' rearward, y' right.
    std::optional<Eigen::Vector3d> offset_donor_mm;
    std::optional<double> tail_down_deg; ///< how it tilts when it hangs free: positive, the tail goes down
    /// No-go when it would turn over, unknown when something is missing: the tilt itself is the rigger's to choose.
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason;
};

/// The active donor's masses and the parts that ride on it and are at least test-fitted. Nothing without a donor.
/// Rigid, on slings of equal length that meet over the middle of the eyes: what swings and stretches is left out.
std::optional<HoistReport> hoist(const model::Project& project);

} // namespace gabarit::weights
