#include "weights/hoist.h"

#include "parts/parts.h"
#include "quantity/quantity.h"

#include <cmath>

namespace gabarit::weights {

using Eigen::Vector3d;

std::optional<HoistReport> hoist(const model::Project& project) {
    const std::optional<model::Donor> donor = model::hangingDonor(project);
    const model::Placement* placement = model::activePlacement(project);
    if (!donor || !placement) return std::nullopt;
    HoistReport report;
    model::Donor hanging = *donor;
    for (const model::Part& part : model::partsOf(project)) {
        const bool fitted = part.state == model::PartState::TestFitted || part.state == model::PartState::Fitted;
        if (!model::ridesOnDonor(part) || part.on_car != model::OnCar::On || !fitted || !model::isTaken(project, part))
            continue;
        const auto at = model::placeVehicle_mm(project, part);
        if (!at) {
            report.reason = "where \"" + part.name + "\" sits is not given";
            return report;
        }
        model::Mass mass;
        mass.name = part.name;
        mass.mass_kg = part.mass_kg;
        mass.at_mm = model::poseVehicleDonor(*placement, *donor).inverse() * *at;
        hanging.masses.push_back(std::move(mass));
    }
    for (const model::Mass& mass : hanging.masses) report.hangs.push_back(mass.name);
    const auto centre = model::centreOfMass(hanging);
    if (!centre) {
        report.reason = centre.error().what;
        return report;
    }
    report.mass_kg = centre.value().mass_kg;
    report.centre_donor_mm = centre.value().at_mm;
    report.centre_vehicle_mm = model::poseVehicleDonor(*placement, *donor) * centre.value().at_mm;
    report.slings_donor_mm = model::meanPoint(*donor, "sling");
    if (!report.slings_donor_mm) {
        report.reason = "no sling eyes are marked (points with the role sling)";
        return report;
    }
    const Vector3d offset = *report.centre_donor_mm - *report.slings_donor_mm;
    report.offset_donor_mm = offset;
    if (offset.z() < 0) report.tail_down_deg = std::atan2(offset.x(), -offset.z()) * quantity::deg_per_rad;
    if (offset.z() >= 0) {
        report.verdict = model::Verdict::NoGo;
        report.reason = "the slings sit below the centre of gravity: it would turn over";
        return report;
    }
    report.verdict = model::Verdict::Go;
    return report;
}

} // namespace gabarit::weights
