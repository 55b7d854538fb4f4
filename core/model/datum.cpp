#include "model/datum.h"

#include "model/tape.h"

#include <algorithm>

namespace gabarit::model {

Project withDatumMoved(const Project& project, double above_mm, const std::string& kind, const std::string& name) {
    Project out = project;
    const auto lower = [above_mm](auto& items, auto member) {
        for (auto& item : items) (item.*member).z() -= above_mm;
    };
    if (out.vehicle) {
        Vehicle& vehicle = *out.vehicle;
        vehicle.datum.kind = kind;
        vehicle.datum.name = name;
        lower(vehicle.bodies, &Body::position_mm);
        lower(vehicle.hard_points, &HardPoint::at_mm);
        lower(vehicle.serviced, &ServicedBolt::at_mm);
        lower(vehicle.free_volumes, &FreeVolume::at_mm);
        // Readings of heights follow too, but those from a hook: the hook moves with its place.
        const auto lowerReadings = [above_mm](Tape& tape) {
            if (!tape.hook.empty()) return;
            for (Reading& reading : tape.readings)
                if (const TapeSlot* slot = tapeSlot(tape, reading); slot && slot->axis == 2) reading.mm -= above_mm;
        };
        for (Body& body : vehicle.bodies) lowerReadings(body.tape);
        for (HardPoint& point : vehicle.hard_points) lowerReadings(point.tape);
        for (OutgoingDimension& dimension : vehicle.outgoing)
            if (dimension.along == Axis::Z && dimension.from.empty()) dimension.mm -= above_mm;
    }
    for (Condition& condition : out.conditions)
        if (condition.owner == vehicle_owner) condition.at_mm.z() -= above_mm;
    lower(out.placements, &Placement::position_mm);
    if (out.weights) lower(out.weights->loads, &Mass::at_mm);
    if (out.parts)
        for (Part& part : *out.parts)
            if (part.at_mm && !part.rides_on_donor) part.at_mm->z() -= above_mm;
    if (out.driveline)
        for (ShaftLine& line : out.driveline->lines) {
            for (FlangePlace* flange : {&line.from, &line.to})
                if (flange->owner == vehicle_owner && flange->point.empty()) flange->at_mm.z() -= above_mm;
            for (CentreBearing& bearing : line.bearings)
                if (bearing.point.empty()) bearing.at_mm.z() -= above_mm;
            EndPath& path = line.path;
            if ((path.kind == PathKind::Axle || path.kind == PathKind::Arm) && path.motion.empty())
                for (Eigen::Vector3d* at : {&path.centre_mm, &path.axis_a_mm, &path.axis_b_mm}) at->z() -= above_mm;
            for (PathLink& link : path.links) link.fixed_mm.z() -= above_mm, link.moving_mm.z() -= above_mm;
        }
    if (out.mounts)
        for (Mount& mount : out.mounts->mounts) {
            const auto lowerFace = [above_mm](MountFace& face) {
                if (face.owner == vehicle_owner && face.point.empty()) face.at_mm.z() -= above_mm;
            };
            lowerFace(mount.pad);
            if (mount.stand) lowerFace(*mount.stand);
            if (mount.centre_mm) mount.centre_mm->z() -= above_mm;
            if (mount.tower)
                for (Eigen::Vector3d& via : mount.tower->via_mm) via.z() -= above_mm;
            if (mount.bracket && mount.pad.owner == vehicle_owner)
                for (Eigen::Vector3d& via : mount.bracket->via_mm) via.z() -= above_mm;
        }
    if (out.mounts) {
        lower(out.mounts->rows, &HoleRow::at_mm);
        for (Crossmember& crossmember : out.mounts->crossmembers)
            for (Passage& passage : crossmember.passages) passage.at_mm.y() -= above_mm;
        for (OldSeat& seat : out.mounts->seats)
            if (seat.face.owner == vehicle_owner && seat.face.point.empty()) seat.face.at_mm.z() -= above_mm;
        for (SeatFrame& frame : out.mounts->frames)
            for (auto& member : frame.members_mm)
                for (Eigen::Vector3d& corner : member) corner.z() -= above_mm;
    }
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
