// Why a figure is what it is: a sum from what was found to what is wanted, each line with its source.
#pragma once

#include <string>
#include <vector>

namespace gabarit::discipline {

/// One line of the sum. Amounts are all of one unit; they are drawn to scale.
struct WhyLine {
    enum class Kind {
        Is,     ///< what the sum begins with
        Takes,  ///< is added; below zero it takes away
        Doubt,  ///< may be so much less or more; above zero
        Left,   ///< what the lines above come to
        Wanted, ///< what it is held against
    };
    Kind kind = Kind::Is;
    std::string words;  ///< "Movement"
    std::string value;  ///< "−2.9 mm"
    std::string source; ///< "engine 3 mm down, rocked 0.5°"; may be empty
    double amount = 0;
};

struct Why {
    std::vector<WhyLine> lines;
    std::string so;   ///< what follows, in a sentence: "Short by 22 mm: no-go."
    std::string most; ///< what would change it most, in a sentence; may be empty
};

} // namespace gabarit::discipline
