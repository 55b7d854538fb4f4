// A swap with left for right.
#pragma once

#include "driveline/section/driveline.h"
#include "model/project.h"
#include "model/reshape.h"
#include "mounts/section/mounts.h"
#include "parts/parts.h"
#include "relief/section/relief.h"
#include "weights/section/weights.h"

#include <utility>

namespace gabarit::tests {

inline Eigen::Vector3d across(const Eigen::Vector3d& v) { return {v.x(), -v.y(), v.z()}; }

/// The mirror image in the middle plane of the vehicle, donors in their own, under the same ids and names: bodies,
/// points, bolts, what moves, pockets, where donors hang, loads and what stands on the wheels. The driveline and the
/// mounts go: what turns in them turns the other way then, and nothing of the file says so.
inline model::Project mirrored(model::Project p) {
    using namespace model;
    const auto angles = [](Angles& a) { a.yaw_deg = -a.yaw_deg, a.roll_deg = -a.roll_deg; };
    const auto bodies = [](std::vector<Body>& list) {
        for (Body& body : list) body = model::mirrored(body);
    };
    const auto points = [](std::vector<HardPoint>& list) {
        for (HardPoint& point : list) point.at_mm = across(point.at_mm);
    };
    const auto bolts = [](std::vector<ServicedBolt>& list) {
        for (ServicedBolt& bolt : list) bolt.at_mm = across(bolt.at_mm), bolt.along = across(bolt.along);
    };
    const auto masses = [](std::vector<Mass>& list) {
        for (Mass& mass : list) mass.at_mm = across(mass.at_mm);
    };
    const auto motions = [](std::vector<MotionSpec>& list) {
        for (MotionSpec& motion : list) {
            std::swap(motion.left_deg, motion.right_deg);
            motion.slide_mm = -across(motion.slide_mm); // to the other lock
        }
    };
    const auto turned = [](Orientation& o) {
        if (o == Orientation::TransverseLeft)
            o = Orientation::TransverseRight;
        else if (o == Orientation::TransverseRight)
            o = Orientation::TransverseLeft;
    };
    if (p.vehicle) {
        Vehicle& v = *p.vehicle;
        v.drive_side = v.drive_side == DriveSide::Left ? DriveSide::Right : DriveSide::Left;
        bodies(v.bodies), points(v.hard_points), bolts(v.serviced), motions(v.motions);
        for (FreeVolume& volume : v.free_volumes) volume.at_mm = across(volume.at_mm);
    }
    for (Donor& donor : p.donors) {
        bodies(donor.bodies), points(donor.reference_points), bolts(donor.serviced), motions(donor.motions);
        masses(donor.masses);
        turned(donor.orientation);
    }
    for (Placement& placement : p.placements) {
        placement.position_mm = across(placement.position_mm);
        angles(placement.angles);
        if (placement.orientation) turned(*placement.orientation);
    }
    if (p.sections.get<model::Weights>()) {
        masses(p.sections.edit<model::Weights>().loads);
        std::swap(p.sections.edit<model::Weights>().corners.front_left_kg,
                  p.sections.edit<model::Weights>().corners.front_right_kg);
        std::swap(p.sections.edit<model::Weights>().corners.rear_left_kg,
                  p.sections.edit<model::Weights>().corners.rear_right_kg);
    }
    if (p.sections.get<model::Parts>())
        for (Part& part : p.sections.edit<model::Parts>())
            if (part.at_mm) part.at_mm = across(*part.at_mm);
    if (p.sections.get<model::Relief>())
        for (Pocket& pocket : p.sections.edit<model::Relief>().pockets) {
            pocket.at_mm = across(pocket.at_mm);
            pocket.along = across(pocket.along);
            pocket.into = across(pocket.into);
        }
    p.sections.drop<model::Driveline>();
    p.sections.drop<model::Mounts>();
    return p;
}

} // namespace gabarit::tests
