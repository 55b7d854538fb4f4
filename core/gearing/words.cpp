#include "gearing/words.h"

#include "discipline/check_words.h"

namespace gabarit::gearing {

using discipline::forceText;
using discipline::forceUnit;
using discipline::shownForce;
using quantity::fixed;
using quantity::Shown;

double shownPull(double force_n_per_kg, const Shown& shown) {
    return shown.mass == quantity::MassUnit::Pounds ? shownForce(force_n_per_kg, shown) * quantity::kg_per_pound
                                                    : force_n_per_kg;
}
const char* pullUnit(const Shown& shown) { return shown.mass == quantity::MassUnit::Pounds ? "lbf/lb" : "N/kg"; }

std::string pullWords(const GearReport& gear, const Shown& shown) {
    return "pulls " + (gear.force_n ? fixed(shownForce(*gear.force_n, shown), 0) : std::string("–")) + ' ' +
           forceUnit(shown) + ", " +
           (gear.force_n_per_kg ? fixed(shownPull(*gear.force_n_per_kg, shown), 2) : std::string("–")) + ' ' +
           pullUnit(shown);
}

std::string speedoWords(const GearingReport& gearing, const Shown& shown) {
    const double at_kmh = shown.speed == quantity::SpeedUnit::MilesPerHour ? 60 * quantity::km_per_mile : 100;
    return "At " + quantity::speedText(at_kmh, shown) + " shown it goes " +
           quantity::speedText(gearing.speedo_true_kmh.value_or(0) * at_kmh / 100, shown, 1);
}

} // namespace gabarit::gearing
