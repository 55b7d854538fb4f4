// The surface of a body that moves, as points under spheres.
#pragma once

#include "field/wanted.h"

#include <atomic>
#include <cstdint>

namespace gabarit::field {

/// Read-only once built; shared between threads. In the body's frame, mm.
class Cloud {
public:
    /// Every point of the surface lies within `spread_mm` of one of the cloud's on the same face or edge, > 0.
    Cloud(std::shared_ptr<const Surface> surface, double spread_mm);

    std::size_t size() const { return points_.size(); }
    double spread_mm() const { return spread_mm_; }
    const Surface& surface() const { return *surface_; }

    struct Worst {
        double room_mm = 0; ///< of the points; exact below what was enough
        Wanted::Room at;
        Eigen::Vector3d point_body_mm{0, 0, 0};
    };
    /// The point with the least room at a pose; nothing when all have `enough_mm`. What is held wholly inside the body
    /// counts as deep as it lies there.
    std::optional<Worst> worst(const Wanted& wanted, const Eigen::Isometry3d& pose_vehicle_body,
                               double enough_mm) const;
    /// Its room alone, or `enough_mm` where that is less: quicker from one pose to the next.
    double leastRoom_mm(const Wanted& wanted, const Eigen::Isometry3d& pose_vehicle_body, double enough_mm) const;
    /// The worst point of each region of the surface that has less than `enough_mm` somewhere, and what is swallowed;
    /// worst first. An obstacle that is never the worst of a region is not among them. `slack_share`: of what a region
    /// lacks, so much may be missed.
    std::vector<Worst> worstOfRegions(const Wanted& wanted, const Eigen::Isometry3d& pose_vehicle_body,
                                      double enough_mm, double slack_share = 0) const;

private:
    struct Node {
        Eigen::Vector3d centre;
        double radius_mm;
        std::int32_t first; ///< of a leaf its first point, else its first child; the other one is the next
        std::int32_t count; ///< points of a leaf; 0: not a leaf
    };
    struct Search;
    template <class Take>
    void swallowed(const Wanted& wanted, const Eigen::Isometry3d& pose_vehicle_body, Take take) const;
    void build(std::size_t node, int first, int last);

    std::shared_ptr<const Surface> surface_;
    double spread_mm_;
    std::vector<Eigen::Vector3d> points_;
    std::vector<Node> nodes_;
    std::vector<std::size_t> regions_;             ///< nodes that together hold all
    mutable std::atomic<std::size_t> worst_at_{0}; ///< the point that had the least room at the last pose
};

/// What the points of a cloud may miss: where the surface itself has `wanted_mm` from a body, its nearest point of the
/// cloud has no more than √(wanted² + spread²), since the way to it leaves at a right angle to face or edge (it is
/// nearest there). Wanted of points, this is what the surface then has.
double wantedOfPoints_mm(double wanted_mm, double spread_mm);

} // namespace gabarit::field
