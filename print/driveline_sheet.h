// The driveline on paper: a page for each line, coupling and for the gearing.
#pragma once

#include "study/study.h"

namespace gabarit::print {

struct DrivelineSheetOptions {
    quantity::Shown shown;
    std::string date; ///< as it is to be printed
};

/// Writes the sheets as one PDF (A4, upright); the file is whole or untouched. Needs a QGuiApplication. Errors: no
/// driveline and no gearing, cannot write.
Result<void> writeDrivelineSheet(const study::Reports& reports, const DrivelineSheetOptions& options,
                                 const std::string& path);

} // namespace gabarit::print
