// Two placements side by side: figures, differences, and what came into the way or went out of it.
#pragma once

#include "study/study.h"

namespace gabarit::make {

/// One figure of both. `difference` is now less pinned, in words; empty when one of them is not known.
struct ComparedFigure {
    std::string name;
    std::string pinned;
    std::string now;
    std::string difference;
    /// Whether now is better (+1), worse (−1), or neither can be said (0).
    int better = 0;
    bool became_no_go = false; ///< it is no-go now and was not, or there are more that are
};

struct Comparison {
    std::vector<ComparedFigure> figures;
    std::vector<std::string> came; ///< titles of findings that are there now and were not
    std::vector<std::string> went; ///< the other way round
};

/// Both reports must be complete; a discipline that only one of them has is left out.
Comparison compared(const study::Reports& pinned, const study::Reports& now, quantity::Shown shown);

} // namespace gabarit::make
