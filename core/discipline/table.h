// Tables for a terminal.
#pragma once

#include <algorithm>
#include <string>
#include <vector>

namespace gabarit::discipline {

/// Columns as wide as their widest cell; numbers to the right.
class Table {
public:
    explicit Table(std::vector<std::string> head, std::vector<bool> right) : right_(std::move(right)) {
        rows_.push_back(std::move(head));
    }
    /// A cell is a line: a line feed in a name begins no row of its own.
    void row(std::vector<std::string> cells) {
        for (std::string& cell : cells) std::replace(cell.begin(), cell.end(), '\n', ' ');
        rows_.push_back(std::move(cells));
    }
    std::string text() const {
        std::vector<std::size_t> width(right_.size(), 0);
        for (const auto& row : rows_)
            for (std::size_t i = 0; i < row.size(); ++i) width[i] = std::max(width[i], letters(row[i]));
        std::string out;
        for (const auto& row : rows_) {
            std::string line;
            for (std::size_t i = 0; i < row.size(); ++i) {
                const std::string pad(width[i] - letters(row[i]), ' ');
                line += (i ? "  " : "") + (right_[i] ? pad + row[i] : row[i] + pad);
            }
            while (!line.empty() && line.back() == ' ') line.pop_back();
            out += line + "\n";
        }
        return out;
    }

private:
    /// Letters, not bytes, of UTF-8.
    static std::size_t letters(const std::string& s) {
        return static_cast<std::size_t>(
            std::count_if(s.begin(), s.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
    }
    std::vector<bool> right_;
    std::vector<std::vector<std::string>> rows_;
};

inline const char* const not_asked = "not asked: the file has no such section\n";

} // namespace gabarit::discipline
