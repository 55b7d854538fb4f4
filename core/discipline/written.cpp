// Checks of any discipline, as JSON and as a table.
#include "discipline/written.h"

#include "discipline/check_words.h"

namespace gabarit::discipline {
namespace {

using model::Check;
using model::Unit;

const char* unitWord(Unit unit) {
    switch (unit) {
    case Unit::Degrees: return "deg";
    case Unit::Millimetres: return "mm";
    case Unit::RadPerS2: return "rad/s2";
    case Unit::Rpm: return "rpm";
    case Unit::Share: return "share";
    case Unit::Hertz: return "Hz";
    case Unit::Newtons: return "N";
    case Unit::NewtonMetres: return "Nm";
    case Unit::Count: return "count";
    case Unit::Factor: return "times";
    case Unit::Kilograms: break;
    }
    return "kg";
}

Json checkJson(const Check& check) {
    return {{"id", check.id},
            {"what", check.what},
            {"unit", unitWord(check.unit)},
            {"value", number(check.value)},
            {"good_least", number(check.good_least)},
            {"good_most", number(check.good_most)},
            {"least", number(check.least)},
            {"most", number(check.most)},
            {"accuracy", number(check.accuracy)},
            {"soft", check.soft},
            {"verdict", model::word(check.verdict)},
            {"rule", check.rule},
            {"at", check.at},
            {"reason", check.reason}};
}

} // namespace

Json checksJson(const std::vector<Check>& checks) {
    Json out = Json::array();
    for (const Check& check : checks) out.push_back(checkJson(check));
    return out;
}

std::string checksText(const std::vector<Check>& checks, const quantity::Shown& shown) {
    Table table({"verdict", "value", "wanted", "what", "when"}, {false, true, false, false, false});
    for (const model::Check& check : checks) {
        std::string when = check.at == "ride height" ? "" : check.at;
        if (!check.reason.empty()) when += (when.empty() ? "" : "; ") + check.reason;
        table.row({model::word(check.verdict), valueWords(check, shown), limitWords(check, shown), check.what, when});
    }
    return table.text();
}

std::vector<Printed> Discipline::prints() const {
    if (card().what.empty()) return {};
    return {{card().id, card().what,
             [](const Report& report, const Telling&, Json& into) {
                 if (report.verdict)
                     into = {{"verdict", model::word(*report.verdict)}, {"checks", checksJson(report.checks)}};
             },
             [](const Report& report, const Telling& telling) {
                 return report.verdict ? checksText(report.checks, telling.shown) : std::string();
             }}};
}

} // namespace gabarit::discipline
