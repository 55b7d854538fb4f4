#include "print/sheets.h"

#include "print/driveline_sheet.h"
#include "print/fit_sheet.h"
#include "print/jig_sheet.h"
#include "print/template_sheets.h"
#include "print/workshop_sheets.h"

namespace gabarit::print {

const std::vector<Sheet>& sheets() {
    using Reports = study::Reports;
    using Book = model::RuleBook;
    static const std::vector<Sheet> all{
        {"fit", "one page to scale", "&Print the fit sheet…", "Print the fit sheet to a PDF",
         "The fit sheet was saved as %1.", false,
         [](const Reports& reports, const Book&, const SheetOptions& options, const std::string& path) {
             return writeFitSheet(reports, {options.shown, options.date}, path);
         }},
        {"hanging", "heights off the floor, to check with tape and plumb bob", "Print the &hanging heights…",
         "Print the hanging heights to a PDF", "The hanging heights were saved as %1.", false,
         [](const Reports& reports, const Book& book, const SheetOptions& options, const std::string& path) {
             return writeHangingSheet(reports, book, {options.shown, options.date}, path);
         }},
        {"in-the-way", "what is in the way, to tick off", "Print what is in the &way…",
         "Print what is in the way to a PDF", "What is in the way was saved as %1.", false,
         [](const Reports& reports, const Book&, const SheetOptions& options, const std::string& path) {
             return writeInTheWaySheet(reports, {options.shown, options.date}, path);
         }},
        {"shopping", "what is still to be got, to tick off", "Print the sho&pping list…",
         "Print the shopping list to a PDF", "The shopping list was saved as %1.", false,
         [](const Reports& reports, const Book&, const SheetOptions& options, const std::string& path) {
             return writeShoppingSheet(reports, {options.shown, options.date}, path);
         }},
        {"shaft-order", "a form for each shaft that is to be made", "Print the shaft &order…",
         "Print the shaft order to a PDF", "The shaft order was saved as %1.", false,
         [](const Reports& reports, const Book&, const SheetOptions& options, const std::string& path) {
             return writeShaftOrder(reports, {options.shown, options.date}, path);
         }},
        {"driveline", "a page a line", "Print the dri&veline…", "Print the driveline to a PDF",
         "The driveline was saved as %1.", false,
         [](const Reports& reports, const Book&, const SheetOptions& options, const std::string& path) {
             return writeDrivelineSheet(reports, {options.shown, options.date}, path);
         }},
        {"jig", "what the mounts' jig is set up by", "Print the &jig sheet…", "Print the jig sheet to a PDF",
         "The jig sheet was saved as %1.", false,
         [](const Reports& reports, const Book& book, const SheetOptions& options, const std::string& path) {
             return writeJigSheet(reports, book, {options.shown, options.date}, path);
         }},
        {"templates", "1:1, as PDF, SVG and DXF, into the folder --out", "Print the &templates 1:1…",
         "A folder for the templates", "The templates were saved in %1. Measure the bar of 100 mm on the first print.",
         true, [](const Reports& reports, const Book& book, const SheetOptions& options, const std::string& path) {
             return writeTemplates(reports, book, {options.paper, options.shown, options.date}, path);
         }}};
    return all;
}

const Sheet* sheetOf(const std::string& id) {
    for (const Sheet& sheet : sheets())
        if (sheet.id == id) return &sheet;
    return nullptr;
}

} // namespace gabarit::print
