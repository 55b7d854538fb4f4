// One page for the wall: where the donor stands, what is in the way, what room is left.
#pragma once

#include "shape/elevation.h"
#include "study/study.h"

#include <QRectF>

#include <array>

namespace gabarit::print {

struct FitSheetOptions {
    quantity::Shown shown;
    std::string date; ///< as it is to be printed
};

/// Where the drawings stand on the page (A4, landscape; mm from its upper left corner) and at what scale.
struct FitSheetLayout {
    int scale = 0; ///< 1 : scale, one of the usual ones; 0 when there is nothing to draw
    Eigen::Vector3d centre_vehicle_mm{0, 0, 0};
    std::array<QRectF, 3>
        frame_mm; ///< by shape::Elevation; side and plan share their left and right, side and front their height

    /// A vehicle point on the page.
    QPointF onPage_mm(shape::Elevation elevation, const Eigen::Vector3d& point_vehicle_mm) const;
};

/// The largest scale at which the donor and what is close round it fit.
FitSheetLayout fitSheetLayout(const study::Reports& reports);

/// Writes the sheet as PDF; the file is whole or untouched. Needs a QGuiApplication. Errors: no vehicle, cannot write.
Result<void> writeFitSheet(const study::Reports& reports, const FitSheetOptions& options, const std::string& path);

} // namespace gabarit::print
