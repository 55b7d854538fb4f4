#include "model/datum.h"

#include "describe/walks.h"
#include "model/describe.h"
#include "model/tape.h"

#include <algorithm>

namespace gabarit::model {

Project withDatumMoved(const Project& project, double above_mm, const std::string& kind, const std::string& name) {
    Project out = project;
    if (out.vehicle) {
        out.vehicle->datum.kind = kind;
        out.vehicle->datum.name = name;
    }
    describe::Shifter lower(vehicle_owner, {0, 0, -above_mm});
    describe(lower, out);
    return withTapeApplied(out);
}

std::vector<SidePair> sidePairs(const std::vector<HardPoint>& points) {
    std::vector<SidePair> out;
    std::vector<std::string> roles;
    for (const HardPoint& point : points)
        if (!point.role.empty() && std::find(roles.begin(), roles.end(), point.role) == roles.end())
            roles.push_back(point.role);
    for (const std::string& role : roles) {
        const HardPoint *left = nullptr, *right = nullptr;
        int count = 0;
        for (const HardPoint& point : points) {
            if (point.role != role) continue;
            ++count;
            if (point.at_mm.y() < 0) left = &point;
            if (point.at_mm.y() > 0) right = &point;
        }
        if (count != 2 || !left || !right) continue;
        SidePair pair{role, left->name, right->name, 0, 0, 0, std::nullopt};
        pair.height_mm = left->at_mm.z() - right->at_mm.z();
        pair.fore_aft_mm = left->at_mm.x() - right->at_mm.x();
        pair.offset_mm = (left->at_mm.y() + right->at_mm.y()) / 2;
        if (left->accuracy_mm && right->accuracy_mm) pair.accuracy_mm = *left->accuracy_mm + *right->accuracy_mm;
        out.push_back(std::move(pair));
    }
    return out;
}

std::vector<SeatPair> seatPairs(const Project& project) {
    std::vector<SeatPair> out;
    const std::optional<Donor> donor = hangingDonor(project);
    const Placement* placement = activePlacement(project);
    if (!donor || !placement || !project.vehicle) return out;
    if (placement->orientation.value_or(donor->orientation) != Orientation::Lengthways) return out;
    const std::vector<SidePair> seats = sidePairs(project.vehicle->hard_points);
    for (const SidePair& brackets : sidePairs(donor->reference_points)) {
        const char* const wanted = brackets.role == "front_mount"     ? "engine_seat"
                                   : brackets.role == "gearbox_mount" ? "gearbox_seat"
                                                                      : "";
        const auto seat = std::find_if(seats.begin(), seats.end(), [&](const SidePair& s) { return s.role == wanted; });
        if (seat == seats.end()) continue;
        SeatPair pair{brackets, *seat, 0, 0, 0, std::nullopt};
        pair.height_mm = brackets.height_mm - seat->height_mm;
        pair.fore_aft_mm = brackets.fore_aft_mm - seat->fore_aft_mm;
        pair.offset_mm = seat->offset_mm - brackets.offset_mm;
        if (brackets.accuracy_mm && seat->accuracy_mm) pair.accuracy_mm = *brackets.accuracy_mm + *seat->accuracy_mm;
        out.push_back(std::move(pair));
    }
    return out;
}

} // namespace gabarit::model
