// All disciplines, in an order in which each comes after those that offer what it needs.
#pragma once

#include "discipline/discipline.h"
#include "quantity/result.h"

namespace gabarit::discipline {

class Board {
public:
    /// Errors: two of one id, something offered by two, needed and offered by none, needed in a circle, or a section
    /// that is none.
    static Result<Board> of(std::vector<const Discipline*> disciplines);

    std::size_t size() const { return all_.size(); }
    /// In the order of what they say.
    const Discipline& operator[](std::size_t i) const { return *all_[i]; }
    /// Those whose offers it needs.
    const std::vector<std::size_t>& before(std::size_t i) const { return before_[i]; }
    /// How many stand behind it in the longest row that waits for it.
    int behind(std::size_t i) const { return behind_[i]; }

private:
    std::vector<const Discipline*> all_;
    std::vector<std::vector<std::size_t>> before_;
    std::vector<int> behind_;
};

} // namespace gabarit::discipline
