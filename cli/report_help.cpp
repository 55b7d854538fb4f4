#include "report_help.h"

#include <algorithm>
#include <cstring>

namespace gabarit::embedded {
extern const char* const reports_page;
}

namespace gabarit::cli {
namespace {

constexpr std::size_t columns = 96;
const char* const heading = "\n## ";

std::size_t shownLength(const std::string& text) {
    return static_cast<std::size_t>(
        std::count_if(text.begin(), text.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
}

std::string withoutMarks(std::string text) {
    text.erase(std::remove(text.begin(), text.end(), '`'), text.end());
    for (std::size_t at = text.find("**"); at != std::string::npos; at = text.find("**")) text.erase(at, 2);
    const std::size_t first = text.find_first_not_of(' ');
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(' ') - first + 1);
}

std::string wrapped(const std::string& text, const std::string& indent) {
    std::string out, line;
    std::size_t at = 0;
    while (at < text.size()) {
        std::size_t end = text.find(' ', at);
        if (end == std::string::npos) end = text.size();
        const std::string word = text.substr(at, end - at);
        if (!line.empty() && indent.size() + shownLength(line) + 1 + shownLength(word) > columns) {
            out += indent + line + "\n";
            line.clear();
        }
        line += (line.empty() ? "" : " ") + word;
        at = end + 1;
    }
    return line.empty() ? out : out + indent + line + "\n";
}

/// The cells of a table's line.
std::vector<std::string> cellsOf(const std::string& line) {
    std::vector<std::string> out;
    for (std::size_t at = 1, end; (end = line.find('|', at)) != std::string::npos; at = end + 1)
        out.push_back(withoutMarks(line.substr(at, end - at)));
    return out;
}

} // namespace

std::vector<std::string> reportsWithHelp() {
    std::vector<std::string> out;
    const std::string page = embedded::reports_page;
    for (std::size_t at = page.find(heading); at != std::string::npos; at = page.find(heading, at + 1)) {
        const std::size_t from = at + std::strlen(heading);
        const std::string name = page.substr(from, page.find('\n', from) - from);
        if (std::all_of(name.begin(), name.end(), [](char c) { return (c >= 'a' && c <= 'z') || c == '-'; }))
            out.push_back(name);
    }
    return out;
}

std::optional<std::string> reportHelp(const std::string& report) {
    const std::string page = embedded::reports_page;
    const std::string title = heading + report + "\n";
    const std::size_t found = page.find(title);
    if (report.empty() || found == std::string::npos) return std::nullopt;
    const std::size_t from = found + title.size();
    const std::string part = page.substr(from, page.find(heading, from) - from);
    std::string out;
    bool head = false; // the line before was a table's first
    for (std::size_t at = 0; at < part.size();) {
        std::size_t end = part.find('\n', at);
        if (end == std::string::npos) end = part.size();
        const std::string line = part.substr(at, end - at);
        at = end + 1;
        if (line.empty()) {
            out += "\n";
            head = false;
        } else if (line[0] != '|') {
            out += wrapped(withoutMarks(line), line.rfind("- ", 0) == 0 ? "  " : "");
            head = false;
        } else if (line.rfind("|---", 0) == 0 || (!head && (head = true))) {
            continue; // its head and the rule below say nothing that a terminal needs
        } else if (const auto cells = cellsOf(line); !cells.empty()) {
            out += wrapped(cells.front(), "  ");
            for (std::size_t i = 1; i < cells.size(); ++i) out += wrapped(cells[i], "      ");
        }
    }
    return out;
}

} // namespace gabarit::cli
