// What a report holds, in words: the page docs/reports.md, as the program was built with it.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace gabarit::cli {

/// The reports that the page speaks of.
std::vector<std::string> reportsWithHelp();
/// A report's part of the page for a terminal: without its marks, its tables as names with their meaning below. Nothing
/// when there is none.
std::optional<std::string> reportHelp(const std::string& report);

} // namespace gabarit::cli
