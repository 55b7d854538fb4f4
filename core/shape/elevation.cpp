#include "shape/elevation.h"

namespace gabarit::shape {

Viewpoint viewpoint(Elevation elevation) {
    using Eigen::Vector3d;
    switch (elevation) {
    case Elevation::Side: return {Vector3d::UnitX(), Vector3d::UnitZ()};
    case Elevation::Plan: return {Vector3d::UnitX(), Vector3d::UnitY()};
    case Elevation::Front: return {-Vector3d::UnitY(), Vector3d::UnitZ()};
    }
    return {Vector3d::UnitX(), Vector3d::UnitZ()};
}

} // namespace gabarit::shape
