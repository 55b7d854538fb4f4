// Reports as tables for a terminal.
#pragma once

#include "study/study.h"

#include <string>

namespace gabarit::cli {

/// Worst first, a line a finding, then what helps; each caution once at the end; the totals.
std::string checkText(const study::Reports& reports, quantity::Shown shown);
/// The same with each finding's rule, help and caution in whole sentences beside it.
/// The sum behind the figure of one finding, by its number.
std::string whyText(const study::Reports& reports, int number, quantity::Shown shown);
std::string checkLongText(const study::Reports& reports, quantity::Shown shown);
/// Of one discipline that prints by itself.
std::string printedText(const study::Reports& reports, const std::string& discipline,
                        const discipline::Printed& printed, quantity::Shown shown);
std::string clearanceText(const study::Reports& reports, quantity::Shown shown);
std::string fitText(const study::Reports& reports, quantity::Shown shown);
std::string surveyText(const study::Reports& reports, quantity::Shown shown);
std::string reliefText(const study::Reports& reports, quantity::Shown shown);

} // namespace gabarit::cli
