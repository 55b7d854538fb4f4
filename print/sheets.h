// All sheets there are: the window's File menu and `gabarit-cli print` are made from this list.
#pragma once

#include "quantity/quantity.h"
#include "study/study.h"

#include <string>
#include <vector>

namespace gabarit::print {

struct SheetOptions {
    quantity::Shown shown;
    std::string date;         ///< as it is to be printed
    std::string paper = "a4"; ///< of what may be printed on several: "a4", "letter" or "roll"
};

struct Sheet {
    std::string id;      ///< as on the command line: "jig"
    std::string what;    ///< for its help: "what the mounts' jig is set up by"
    std::string menu;    ///< "Print the &jig sheet…"
    std::string dialog;  ///< "Print the jig sheet to a PDF"
    std::string saved;   ///< "The jig sheet was saved as %1."
    bool folder = false; ///< several files in a folder, else one PDF
    /// Each file is whole or untouched. Needs a QGuiApplication. Errors: nothing of it in the project, cannot write.
    Result<void> (*write)(const study::Reports& reports, const model::RuleBook& book, const SheetOptions& options,
                          const std::string& path);
};

const std::vector<Sheet>& sheets();
/// Null when there is none of that id.
const Sheet* sheetOf(const std::string& id);

} // namespace gabarit::print
