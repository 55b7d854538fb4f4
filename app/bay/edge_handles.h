// The edges of a body that can be dragged in an elevation: the faces of its extents that are seen edge-on there.
#pragma once

#include "model/project.h"
#include "shape/elevation.h"

#include <QPointF>

#include <vector>

namespace gabarit::app {

struct EdgeHandle {
    model::Axis axis = model::Axis::X; ///< of the body's own frame
    bool high = true;
    Eigen::Vector3d at_vehicle_mm{0, 0, 0};    ///< the face's middle
    Eigen::Vector3d along_vehicle_mm{1, 0, 0}; ///< unit, along the axis
    /// From the face's middle to its rim, along the other axis that lies best in the drawing.
    Eigen::Vector3d across_vehicle_mm{0, 0, 0};
};

/// Turn and place of a body's own frame in the vehicle's; nothing when its owner does not hang in the bay.
std::optional<Eigen::Isometry3d> poseVehicleBody(const model::Project& project, const model::BodyRef& ref);

/// Of the axes that lie near enough in the drawing's plane; none for a body whose owner does not hang in the bay.
std::vector<EdgeHandle> edgeHandles(const model::Project& project, const model::BodyRef& ref,
                                    const shape::Viewpoint& view);

} // namespace gabarit::app
