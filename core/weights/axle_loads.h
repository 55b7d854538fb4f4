// What stands on each axle, before and after.
#pragma once

#include "model/project.h"
#include "model/verdict.h"

namespace gabarit::weights {

/// One line of the sheet: positive mass is put on, negative taken off.
struct WeightLine {
    /// What it is of: "part:id", "load:place in the list", "mass:place in the donor's list", "body:owner/id".
    std::string item;
    std::string name;
    double mass_kg = 0;
    Eigen::Vector3d at_vehicle_mm{0, 0, 0};
    std::optional<double> front_kg; ///< its share of the front axle; missing without a wheelbase
    std::optional<double> rear_kg;
};

struct AxleLoad {
    std::optional<double> before_kg;
    std::optional<double> change_kg; ///< missing without a wheelbase
    std::optional<double> load_kg;   ///< missing when the bare load is not given
    std::optional<double> limit_kg;
    std::optional<double> accuracy_kg;
    model::Verdict verdict = model::Verdict::Unknown;
    std::string reason; ///< why it is unknown
};

struct AxleLoadReport {
    AxleLoad front;
    AxleLoad rear;
    std::string limit_source;
    std::vector<WeightLine> lines;
    std::vector<std::string> left_out;            ///< what has no mass or place: the sums do not hold it
    std::optional<double> centre_of_gravity_x_mm; ///< behind the front axle, from both loads
    model::Verdict verdict = model::Verdict::Unknown;
};

/// Static moments about the front axle: a mass m at x puts m·x/wheelbase on the rear axle and the rest on the front.
/// Counts the bare vehicle, parts off and on, the active donor's masses at its pose, loads, moved bodies that have a
/// mass (a donor's body is part of its donor's masses: only its move counts), and bodies of the vehicle that an option
/// takes out or puts in: those of the first option came with the bare vehicle. A body that a counted part stands for is
/// the part's. Needs project.weights. Anything without mass or place makes both axles unknown unless already over the
/// limit; a load below zero is no-go, whatever the limit, with the line that weighs most in it.
AxleLoadReport axleLoads(const model::Project& project);

} // namespace gabarit::weights
