// A frame that spans seats the vehicle has: what each seat carries, what its members bear, what it touches.
#pragma once

#include "model/project.h"

namespace gabarit::mounts {

struct MountsReport;

struct SeatLoad {
    std::string seat;
    std::string name;
    Eigen::Vector3d at_mm{0, 0, 0};
    double rest_n = 0;   ///< pressed onto the seat at rest, along its out
    double most_n = 0;   ///< of any strength case, its whole force
    double pulled_n = 0; ///< most that it is pulled off the seat
    std::string most_case, pulled_case;
};

struct FrameReport {
    std::string id;
    std::string name;
    std::string reason;              ///< why nothing can be said; empty: it can
    std::vector<std::string> mounts; ///< that stand on it
    std::vector<SeatLoad> seats;
    std::vector<std::vector<Eigen::Vector3d>> members_mm; ///< vehicle frame
    bool made = false;                                    ///< its tubes are bodies
    double width_mm = 0, height_mm = 0, wall_mm = 0;      ///< of its rectangular tube
    double length_mm = 0;                                 ///< of all members
    double mass_kg = 0;
    std::optional<double> factor; ///< yield over bending of the member that bears most
    std::string worst_case;
};

/// A rigid frame on seats that give alike: the seats' forces are those of equal springs under the mounts' forces. Each
/// member is looked at as a beam carried at its two ends, the mount's force at its nearest place. Left out: weight of
/// the frame, its joints, twisting.
void judgeFrames(const model::Project& project, const model::RuleBook& book, MountsReport& report);

} // namespace gabarit::mounts
