// A PDF, whole or not at all.
#pragma once

#include "quantity/result.h"

#include <QPdfWriter>

#include <functional>
#include <string>

namespace gabarit::print {

/// Draws pages and writes them as one PDF; the file is whole or untouched. Error: it cannot be written.
Result<void> writePdf(const std::string& path, const std::string& title, int resolution, const QPageLayout& layout,
                      const std::function<void(QPdfWriter& writer)>& draw);

} // namespace gabarit::print
