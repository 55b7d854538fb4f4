// The crossmember under a gearbox mount: where along its rows of holes it goes, and what it still lacks there.
#pragma once

#include "model/project.h"

namespace gabarit::mounts {

struct MountsReport;

struct PassageReport {
    std::string name;
    double gap_mm = 0; ///< between the bar and the room that is to stay free
};

struct CrossmemberReport {
    std::string id;
    std::string name;
    std::string reason;                                  ///< why nothing can be said; empty: it can
    Eigen::Vector3d wanted_mm{0, 0, 0};                  ///< where its mount's isolator stands, vehicle frame
    int left_hole = 0, right_hole = 0;                   ///< from 1: the nearest ones
    Eigen::Vector3d left_mm{0, 0, 0}, right_mm{0, 0, 0}; ///< those holes, vehicle frame
    Eigen::Vector3d seat_mm{0, 0, 0};                    ///< its seat, moved along its slots as near as it goes
    double slid_mm = 0;                                  ///< along the slots, rearward positive
    double slot_mm = 0;                                  ///< it can slide so far each way
    std::optional<double> accuracy_mm;                   ///< of its rows of holes; nothing: one has none
    double slot_left_mm = 0;                             ///< of that; negative: it does not reach
    double off_along_mm = 0, off_across_mm = 0;          ///< that the seat then lacks, vehicle axes
    double drop_mm = 0; ///< the isolator stands so much lower than the seat; negative: higher
    bool reaches = false;
    /// Of one made for it, from the middle between the two holes to its seat.
    Eigen::Vector3d own_seat_mm{0, 0, 0};
    std::optional<double> bottom_mm;        ///< its lowest, above the datum
    std::optional<double> others_bottom_mm; ///< of unit and frame round it
    std::string lowest_other;
    std::vector<PassageReport> passages;
};

/// Adds the crossmembers and their checks to a report that has its mounts.
void judgeCrossmembers(const model::Project& project, const model::RuleBook& book, MountsReport& report);

} // namespace gabarit::mounts
