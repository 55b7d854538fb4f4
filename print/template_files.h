// A flat pattern as a file for a cutter: layers cut, bend and mark, in millimetres.
#pragma once

#include "quantity/quantity.h"
#include "relief/flat.h"

#include <string>

namespace gabarit::print {

/// What stands on every sheet beside the part's own words.
struct TemplateHead {
    std::string project;
    std::string date;
};

/// Scalable drawing, 1 user unit = 1 mm; groups "cut", "bend" and "mark". The file is whole or untouched.
Result<void> writeSvg(const relief::FlatPattern& pattern, const TemplateHead& head, const std::string& path);
/// Drawing exchange format (release 2000, millimetres); layers CUT, BEND and MARK, the words on MARK. The file is whole
/// or untouched.
Result<void> writeDxf(const relief::FlatPattern& pattern, const TemplateHead& head, const std::string& path);

/// What a sheet says about its part, a line each: name, material and thickness, how many, which side is up, notes,
/// project and date.
std::vector<std::string> headWords(const relief::FlatPattern& pattern, const TemplateHead& head,
                                   const quantity::Shown& shown);
/// "front-crossmember-pocket-cheek": a file's name from a part's.
std::string fileName(const std::string& name);

} // namespace gabarit::print
