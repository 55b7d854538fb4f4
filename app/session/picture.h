// Outlines of every body in the three elevations, ready to be painted. Made on the worker thread.
#pragma once

#include "placed/scene.h"
#include "quantity/recent_cache.h"
#include "session/lookout.h"
#include "study/study.h"

#include <QPainterPath>

#include <memory>
#include <string>
#include <vector>

namespace gabarit::app {

struct PictureBody {
    model::BodyRef ref;
    std::string name;
    std::string category;
    bool in_donor = false;
    bool movable = false;
    Eigen::AlignedBox3d bounds_vehicle_mm;
    /// Drawing coordinates of the elevation (right, up), mm. By Elevation.
    std::array<QPainterPath, 3> outline;
    std::array<QPainterPath, 3> cut;   ///< faces opened by a slice
    std::array<std::size_t, 3> mark{}; ///< the same for the same outline and cut
    std::array<QPointF, 3> at;         ///< where its origin is drawn
    std::array<std::size_t, 3> form{}; ///< the same for the same outline and cut, wherever it is drawn
};

struct PictureOverlap {
    std::string finding;
    std::array<QPainterPath, 3> outline; ///< of what the two bodies have in common
};

struct Picture {
    std::shared_ptr<const model::Project> project;
    std::vector<PictureBody> bodies;
    /// For each elevation the bodies' indices, farthest from the viewer first.
    std::array<std::vector<std::size_t>, 3> order;
    Eigen::AlignedBox3d donor_bounds_vehicle_mm;
};

using Slices = std::array<std::optional<double>, 3>;

/// Keeps outlines between pictures. Used by one thread at a time.
class PictureMaker {
public:
    std::shared_ptr<const Picture> make(std::shared_ptr<const model::Project> project, const placed::Scene& scene,
                                        const Slices& slices);
    /// What overlapping pairs have in common, as outlines; pairs whose solids give no answer are left out.
    std::vector<PictureOverlap> overlaps(const study::Reports& reports, const StopToken& stop);

private:
    struct Drawn {
        QPointF at; ///< where its body's origin was drawn
        QPainterPath outline;
        QPainterPath cut;
    };
    RecentCache<Drawn> drawn_;
};

} // namespace gabarit::app
