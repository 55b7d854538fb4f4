// Tubes to saw for everything that is made: supports, brackets, towers and frames.
#pragma once

#include "relief/relief.h"
#include "study/study.h"

namespace gabarit::make {

struct CutList {
    std::vector<relief::Bar> bars;        ///< sawn from bars, one size after the other
    std::vector<std::string> longer_than; ///< pieces that no bar gives
};
/// Tubes with their long points, arms of brackets and towers along their middle, members of frames from corner to
/// corner: these two want what a cope or a mitre takes added. What cannot be made is left out.
CutList cutList(const study::Reports& reports, const model::RuleBook& book);

} // namespace gabarit::make
