// Drawings of the mounts on an elevation: what each carries, how the unit moves and shakes. For the window and for
// paper alike.
#pragma once

#include "mounts/mounts.h"
#include "placed/scene.h"
#include "print/shaft_pictures.h"
#include "shape/elevation.h"

#include <QPainterPath>

namespace gabarit::print {

struct MountOutline {
    QPainterPath path; ///< drawing coordinates (right, up), mm
    bool in_donor = false;
    bool landmark = false; ///< drawn as a dashed line only
    bool bracket = false;  ///< of a mount: in the tone of what is in hand
};
/// The scene's bodies, farthest from the viewer first.
/// Its solid bodies but the ground in the order they are drawn: the vehicle's, then the donor's, farthest from the
/// viewer first.
std::vector<const placed::PlacedBody*> drawingOrder(const placed::Scene& scene, const shape::Viewpoint& view);
std::vector<MountOutline> mountOutlines(const study::Reports& reports, shape::Elevation elevation);

/// A hole of a row, or an old seat.
struct MountSpot {
    Eigen::Vector3d at_mm{0, 0, 0}; ///< vehicle frame
    bool seat = false;
    bool chosen = false; ///< drawn larger and filled
};
/// All holes of the project's rows and its old seats; `chosen`: "row:ID" or "seat:ID".
std::vector<MountSpot> mountSpots(const model::Project& project, const std::string& chosen);

struct MountDrawing {
    const mounts::MountsReport* report = nullptr;
    shape::Elevation elevation = shape::Elevation::Side;
    const std::vector<MountOutline>* outlines = nullptr;
    Eigen::Vector3d centre_mm{0, 0, 0}; ///< in the middle of the box
    double px_per_mm = 0.2;
    const mounts::LoadCase* load = nullptr; ///< its forces are drawn; null: none
    /// The unit drawn moved so; already made larger. As seen in the plane through its middle.
    std::optional<mounts::Move> moved;
    std::string chosen; ///< a mount's id: drawn stronger
    std::vector<MountSpot> spots;
    bool names = true;
};
void paintMounts(QPainter& painter, const QRectF& box, const MountDrawing& drawing, const PictureTones& tones,
                 const quantity::Shown& shown);

/// How much larger a move is drawn so that its mounts move by `mm` at most; 0 for one that does not move them.
double exaggeration(const mounts::MountsReport& report, const mounts::Move& move, double mm);
/// A mode's shape as a move, in mm at the mounts after exaggeration, and at a phase of its swing (0…1).
mounts::Move modeMove(const mounts::MountsReport& report, const mounts::Mode& mode, double mm, double phase);

} // namespace gabarit::print
