// Figures held against limits, as people read them: words, findings, gauges.
#pragma once

#include "discipline/finding.h"
#include "discipline/why.h"

namespace gabarit::discipline {

/// "2.6°", "32.0 mm", "210 rad/s²", "71 %", "not known".
std::string valueWords(const model::Check& check, const quantity::Shown& shown);
/// "0.50° to 3.00°", "at least 20.0 mm", "300 rad/s², at most 500 rad/s²": what is wanted; empty when nothing is.
std::string limitWords(const model::Check& check, const quantity::Shown& shown);
/// "1200 N" or "270 lbf" (with pounds); its number, its unit.
std::string forceText(double force_n, const quantity::Shown& shown);
double shownForce(double force_n, const quantity::Shown& shown);
const char* forceUnit(const quantity::Shown& shown);

Finding checkFinding(const model::Check& check, const char* discipline, const quantity::Shown& shown);
/// Of a null check: not known.
Gauge checkGauge(const char* discipline, const char* id, const char* name, const model::Check* check,
                 const std::string& subject, const quantity::Shown& shown);
/// A gauge's pointer: the limit at one half, `span` on either side of it filling the scale.
double pointerAt(double margin, double span);
/// A check as a row shows it.
Held heldOf(const model::Check& check, const quantity::Shown& shown);
/// A check's figure alone, as of one that is go.
Finding goodFinding(const model::Check& check, const char* discipline, const quantity::Shown& shown);
/// The value, its accuracy and what is wanted, as far as they are known.
Why whyOf(const model::Check& check, const quantity::Shown& shown);
/// How much of a check's room is used, so that the tightest of those alike is shown.
double tightness(const model::Check& check);

} // namespace gabarit::discipline
