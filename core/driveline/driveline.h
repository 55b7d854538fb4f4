// The driveline of a project: its lines, couplings, interfaces and the bellhousing's stack, judged together.
#pragma once

#include "driveline/coupling.h"
#include "driveline/mating.h"
#include "driveline/section/driveline.h"
#include "driveline/shaft_lines.h"

namespace gabarit::driveline {

/// A reading of the angle gauge with the vehicle's slope taken off, against the flange as the project has it.
struct AngleReport {
    std::string id;
    std::string place;
    std::optional<double>
        angle_deg; ///< in the vehicle, falling to the rear (outward) above zero; unknown without slope
    std::optional<double> planned_deg; ///< of the flange it speaks of, as a gauge laid along its axis reads it now
    std::optional<double> apart_deg;   ///< measured less planned
    bool on_unit = false;              ///< its flange hangs with the unit
};

struct DrivelineReport {
    std::vector<LineReport> lines;
    std::vector<CouplingReport> couplings;
    std::vector<InterfaceReport> interfaces;
    std::vector<Check> bell;
    std::vector<AngleReport> angles;
    std::vector<std::string> missing; ///< what the donor that hangs lacks, or whose is not said: unknown; in sentences
    model::Verdict verdict = model::Verdict::Unknown;
};

/// Nothing when the project has no driveline, or an empty one.
std::optional<DrivelineReport> driveline(const model::Project& project, const model::RuleBook& book,
                                         const LineOptions& options = {});

/// The speed of a line's shafts at the engine's highest speed in its longest forward gear, rpm, by the project's
/// gearing: n / (gear · transfer), behind the final drive for half-shafts too.
std::optional<double> topSpeed_rpm(const model::Project& project, const model::ShaftLine& line);

} // namespace gabarit::driveline
