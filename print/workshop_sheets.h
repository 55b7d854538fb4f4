// Sheets for the bench: where it hangs off the floor, what is in the way, what to buy, the shaft to order.
#pragma once

#include "model/rules.h"
#include "study/study.h"

namespace gabarit::print {

struct WorkshopSheetOptions {
    quantity::Shown shown;
    std::string date; ///< as it is to be printed
};

// Each writes a PDF of A4 pages; the file is whole or untouched. Needs a QGuiApplication. Errors: nothing of it in the
// project, cannot write.
Result<void> writeHangingSheet(const study::Reports& reports, const model::RuleBook& book,
                               const WorkshopSheetOptions& options, const std::string& path);
Result<void> writeInTheWaySheet(const study::Reports& reports, const WorkshopSheetOptions& options,
                                const std::string& path);
Result<void> writeShoppingSheet(const study::Reports& reports, const WorkshopSheetOptions& options,
                                const std::string& path);
Result<void> writeShaftOrder(const study::Reports& reports, const WorkshopSheetOptions& options,
                             const std::string& path);

} // namespace gabarit::print
