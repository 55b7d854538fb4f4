// Of everything that stands still: how much more room than is wanted there is at a point.
#pragma once

#include "field/surface.h"

#include <atomic>
#include <mutex>

namespace gabarit::field {

/// A body that stands still, and how far the thing that moves has to stay away from it.
struct Obstacle {
    std::shared_ptr<const Surface> surface;
    Eigen::Isometry3d pose_vehicle_body = Eigen::Isometry3d::Identity();
    double wanted_mm = 0; ///< ≥ 0
};

struct WantedOptions {
    double grain_mm = 5;                 ///< between the nodes, > 0
    double range_mm = 200;               ///< room beyond it is told as that
    std::size_t most_bytes = 400u << 20; ///< the grain is doubled until what can be asked for fits
};

/// The smallest of (distance − wanted) over the obstacles: below zero something is too near. Filled where it is asked,
/// by whichever thread asks first; then read by all.
///
/// It changes by no more than the way between two points. A brick's middle bounds it over the brick; where that does
/// not tell, a grid of exact values is made, whose interpolation is off by no more than the mean way to its corners;
/// and where that does not tell, the surfaces are asked: nothing that it answers is more room than there is.
class Wanted {
public:
    /// `region_vehicle_mm`: where it will be asked; elsewhere the surfaces are asked.
    Wanted(std::vector<Obstacle> obstacles, const Eigen::AlignedBox3d& region_vehicle_mm,
           const WantedOptions& options = {});
    ~Wanted();
    Wanted(const Wanted&) = delete;
    Wanted& operator=(const Wanted&) = delete;

    /// Never more than there is, and no less than `enough_mm` where there is as much. `within_mm`: everything that near
    /// the point is asked about: then it is no more than there is anywhere there.
    double roomWithin_mm(const Eigen::Vector3d& point_vehicle_mm, double within_mm, double enough_mm) const;

    struct Room {
        double room_mm = 0;            ///< exact, up to the range
        int obstacle = -1;             ///< which; −1: none within the range
        Eigen::Vector3d away{0, 0, 0}; ///< of length 1, along which the room grows; zero when there is none
    };
    /// The exact room and what takes it; nothing when there is at least `enough_mm`. `at_least_mm`: known to be there.
    std::optional<Room> exact(const Eigen::Vector3d& point_vehicle_mm, double enough_mm,
                              double at_least_mm = -std::numeric_limits<double>::infinity()) const;

    double grain_mm() const { return grain_mm_; }
    const std::vector<Obstacle>& obstacles() const { return obstacles_; }
    /// What it holds now.
    std::size_t bytes() const;
    int bricks() const { return made_.load(std::memory_order_relaxed); }

private:
    struct Brick;
    struct Placed;
    double middleOf(std::size_t brick, const Eigen::Vector3d& middle) const;
    const Brick& brickAt(std::size_t index) const;
    struct Between {
        double at_least, at_most;
    };
    double exactRoom(const Eigen::Vector3d& point, Between known, const std::vector<int>* of = nullptr) const;
    std::optional<std::size_t> indexOf(const Eigen::Vector3d& in_bricks) const;

    std::vector<Obstacle> obstacles_;
    std::vector<Placed> placed_;
    double grain_mm_, range_mm_;
    Eigen::Vector3d origin_;
    Eigen::Vector3i count_;
    mutable std::vector<std::atomic<float>> middles_;
    mutable std::vector<std::atomic<const Brick*>> bricks_;
    mutable std::atomic<int> made_{0};
};

} // namespace gabarit::field
