// How names stand in sentences.
#pragma once

#include "quantity/number.h"

#include <string>

namespace gabarit::discipline {

/// "Front crossmember" inside a sentence: "front crossmember"; names in capitals ("ABS block") stay.
inline std::string inSentence(const std::string& name) {
    std::string out = name;
    if (out.size() >= 2 && quantity::isLower(out[1])) out[0] = quantity::lower(out[0]);
    return out;
}

inline std::string upperFirst(std::string text) {
    if (!text.empty()) text[0] = quantity::upper(text[0]);
    return text;
}

} // namespace gabarit::discipline
