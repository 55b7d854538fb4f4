// Templates 1:1 on paper: tiles with register marks, bars to check the printer by, and the list of what to cut.
#pragma once

#include "print/template_files.h"
#include "study/study.h"

#include <QSizeF>

namespace gabarit::print {

struct TemplateOptions {
    std::string paper = "a4"; ///< "a4", "letter" or "roll"
    quantity::Shown shown;
    std::string date; ///< as it is to be printed
};

/// How one pattern is spread over pages. Lengths in mm.
struct Tiling {
    QSizeF page_mm;  ///< paper
    QSizeF field_mm; ///< of the drawing on each page
    double overlap_mm = 0;
    int across = 1, down = 1;

    /// Where a page's field begins in the pattern, from its left and upper edge.
    double left(int column) const { return column * (field_mm.width() - overlap_mm); }
    double top(int row) const { return row * (field_mm.height() - overlap_mm); }
};
/// Of a drawing of that size. `paper` as in TemplateOptions; a roll's pages are as long as what is drawn.
Tiling tilingFor(const QSizeF& drawing_mm, const std::string& paper, const model::RuleBook& book);

/// Into a folder, which is made if it is not there: one PDF ("templates-a4.pdf") with the list of what to cut and every
/// pattern 1:1, and each pattern as SVG and DXF. Each file is whole or untouched. Needs a QGuiApplication. Errors: no
/// relief, nothing to cut, cannot write.
Result<void> writeTemplates(const study::Reports& reports, const model::RuleBook& book, const TemplateOptions& options,
                            const std::string& folder);

} // namespace gabarit::print
