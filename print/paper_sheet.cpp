#include "print/paper_sheet.h"

namespace gabarit::print {

Result<void> writePaper(const std::string& path, const std::string& title,
                        const std::function<void(QPdfWriter& writer)>& draw) {
    return writePdf(path, title, units_per_inch,
                    QPageLayout(QPageSize(QPageSize::A4), QPageLayout::Portrait, QMarginsF()), draw);
}

} // namespace gabarit::print
