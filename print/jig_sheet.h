// What a jig is set up by, on paper: a drawing for each side with its points numbered, and where each is.
#pragma once

#include "study/study.h"

namespace gabarit::print {

struct JigSheetOptions {
    quantity::Shown shown;
    std::string date; ///< as it is to be printed
};

/// Writes the jig sheet as one PDF (A4, upright); the file is whole or untouched. Needs a QGuiApplication. Errors: no
/// mounts, cannot write.
Result<void> writeJigSheet(const study::Reports& reports, const model::RuleBook& book, const JigSheetOptions& options,
                           const std::string& path);

} // namespace gabarit::print
