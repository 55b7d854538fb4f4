// What stands on each axle, before and after.
#pragma once

#include "model/project.h"
#include "model/verdict.h"
#include "weights/section/weights.h"

namespace gabarit::weights {

/// One line of the sheet: positive mass is put on, negative taken off.
struct WeightLine {
    /// What it is of: "part:id", "load:place in the list", "mass:place in the donor's list", "body:owner/id",
    /// of what only moved "moved:owner/id".
    std::string item;
    std::string name;
    double mass_kg = 0;
    double accuracy_kg = 0;                 ///< by how the mass is known
    Eigen::Vector3d at_vehicle_mm{0, 0, 0}; ///< of what only moved: how far
    std::optional<double> front_kg;         ///< its share of the front axle; missing without a wheelbase
    std::optional<double> rear_kg;
};

/// Centre of gravity, vehicle frame: what is known of it.
struct Centre {
    std::optional<double> x_mm; ///< behind the front axle
    std::optional<double> y_mm; ///< to the vehicle's right of its centreline; needs each wheel's load and the tracks
    std::optional<double> z_mm; ///< above the datum; needs the height of the bare vehicle's
};

struct AxleLoad {
    std::optional<double> before_kg;
    std::optional<double> change_kg; ///< missing without a wheelbase
    std::optional<double> load_kg;   ///< missing when the bare load is not given
    std::optional<double> limit_kg;
    /// Of the load now: the bare load's and each line's share added up in quadrature (JCGM 100: they are independent).
    std::optional<double> accuracy_kg;
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason; ///< why it is unknown
};

struct AxleLoadReport {
    AxleLoad front;
    AxleLoad rear;
    std::string limit_source;
    std::vector<WeightLine> lines;
    std::vector<std::string> left_out; ///< what has no mass or place: the sums do not hold it
    /// Taken out of the vehicle without a mass: they still count as if they were there.
    std::vector<std::string> still_counted;
    Centre centre_before, centre;
    /// On each wheel, where each was weighed: every line by levers between the wheels. Springs and anti-roll bars share
    /// it otherwise, and a diagonal stays as it was.
    model::CornerLoads corners_before, corners;
    model::Verdict verdict = model::Verdict::Unknown;
};

/// Static moments about the front axle: a mass m at x puts m·x/wheelbase on the rear axle and the rest on the front.
/// Counts the bare vehicle, parts off and on, the active donor's masses at its pose, loads, moved bodies that have a
/// mass (a donor's body is part of its donor's masses: only its move counts), and bodies of the vehicle that an option
/// takes out or puts in: those of the first option came with the bare vehicle; and bodies of the vehicle that were
/// taken out or added. A body that a counted part stands for is the part's. Needs project.weights. Anything without
/// mass or place makes both axles unknown unless already over the limit; a load below zero is no-go, whatever the
/// limit, with the line that weighs most in it. A bare axle load that is not given is the sum of its wheels'.
AxleLoadReport axleLoads(const model::Project& project, const model::RuleBook& book);

} // namespace gabarit::weights
