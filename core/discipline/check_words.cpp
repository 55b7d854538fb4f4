#include "discipline/check_words.h"

#include "discipline/wording.h"

#include <algorithm>
#include <cmath>

namespace gabarit::discipline {
namespace {

using model::Check;
using model::Unit;
using model::Verdict;
using quantity::fixed;
using quantity::Shown;

std::string text(Unit unit, double value, const Shown& shown) {
    switch (unit) {
    case Unit::Degrees: return quantity::angleText(value, 2);
    case Unit::Millimetres: return quantity::lengthText(value, shown);
    case Unit::RadPerS2: return fixed(value, 0) + " rad/s²";
    case Unit::Rpm: return fixed(value, 0) + " rpm";
    case Unit::Share: return fixed(value * 100, 0) + " %";
    case Unit::Hertz: return fixed(value, 1) + " Hz";
    case Unit::Newtons: return forceText(value, shown);
    case Unit::NewtonMetres: return quantity::torqueText(value, shown);
    case Unit::Count: return fixed(value, 0);
    case Unit::Factor: return fixed(value, 1) + "×";
    case Unit::Kilograms: break;
    }
    return quantity::massText(value, shown, 1);
}

const char* stateWord(Verdict verdict) {
    switch (verdict) {
    case Verdict::Close: return "close";
    case Verdict::Unknown: return "not known";
    case Verdict::NoGo: return "not good";
    case Verdict::Go: break;
    }
    return "good";
}

/// What the figure is of, where that alone does not tell it.
std::string whatOf(const Check& check) {
    return check.of.empty() || check.what.find(check.of) != std::string::npos
               ? check.what
               : check.of + ", " + inSentence(check.what);
}

} // namespace

std::string valueWords(const Check& check, const Shown& shown) {
    return check.value ? text(check.unit, *check.value, shown) : "not known";
}

std::string limitWords(const Check& check, const Shown& shown) {
    const auto say = [&](double v) { return text(check.unit, v, shown); };
    const auto &low = check.good_least, &high = check.good_most;
    if (check.soft && high) return "within " + say(*high);
    if (low && high) return say(*low) + " to " + say(*high);
    if (low) {
        if (check.least && *check.least < *low - 1e-9) return say(*low) + ", at least " + say(*check.least);
        return "at least " + say(*low);
    }
    if (high) {
        if (check.most && *check.most > *high + 1e-9) return say(*high) + ", at most " + say(*check.most);
        return "at most " + say(*high);
    }
    return {};
}

std::string forceText(double force_n, const Shown& shown) {
    return fixed(shownForce(force_n, shown), 0) + ' ' + forceUnit(shown);
}
double shownForce(double force_n, const Shown& shown) {
    return shown.mass == quantity::MassUnit::Pounds ? force_n / quantity::newton_per_pound_force : force_n;
}
const char* forceUnit(const Shown& shown) { return shown.mass == quantity::MassUnit::Pounds ? "lbf" : "N"; }

Finding checkFinding(const Check& check, const char* discipline, const Shown& shown) {
    Finding f = goodFinding(check, discipline, shown);
    f.title = check.value ? check.what + ": " + valueWords(check, shown) : check.what + ": " + stateWord(check.verdict);
    const std::string limit = limitWords(check, shown);
    if (!limit.empty()) f.detail = "Wanted " + limit;
    if (!check.at.empty() && check.at != "ride height") f.detail += (f.detail.empty() ? "At " : ", at ") + check.at;
    if (!check.reason.empty()) f.detail += (f.detail.empty() ? "" : "; ") + check.reason;
    if (!check.of.empty() && f.title.find(check.of) == std::string::npos)
        f.title = check.of + ", " + inSentence(f.title);
    f.caution = check.caution;
    if (check.help) f.help = check.help(shown);
    if (check.label)
        f.label = check.label(shown);
    else if (check.place_vehicle_mm)
        f.label = inSentence(check.what) + (check.value ? " " + valueWords(check, shown) : " ?");
    return f;
}

Gauge checkGauge(const char* discipline, const char* id, const char* name, const Check* check,
                 const std::string& subject, const Shown& shown) {
    Gauge gauge;
    gauge.id = id;
    gauge.name = name;
    if (!check) {
        gauge.value = "not known";
        gauge.subject = "nothing to measure yet";
        return gauge;
    }
    gauge.verdict = check->verdict;
    gauge.value = valueWords(*check, shown);
    gauge.limit = limitWords(*check, shown);
    if (!gauge.limit.empty()) gauge.limit = "wanted " + gauge.limit;
    gauge.subject = subject;
    gauge.figure = check->value;
    if (check->verdict != Verdict::Go) gauge.finding = std::string(discipline) + ":" + check->id;
    if (const auto margin = heldOf(*check, shown).margin) gauge.pointer = pointerAt(*margin, 1);
    return gauge;
}

Held heldOf(const Check& check, const Shown& shown) {
    Held held;
    held.value = valueWords(check, shown);
    held.wanted = limitWords(check, shown);
    if (!check.value) return held;
    // The nearer of two limits; each on a scale of its own size. A limit of nothing has the good one's.
    const auto take = [&](double left, double scale) {
        if (scale <= 0) return;
        const double margin = left / scale;
        if (held.margin && *held.margin <= margin) return;
        held.margin = margin;
        held.doubt = check.accuracy.value_or(0) / scale;
    };
    const auto least = check.least ? check.least : check.good_least;
    const auto most = check.most ? check.most : check.good_most;
    if (most) take(*most - *check.value, *most > 0 ? *most : check.good_most.value_or(0));
    if (least) take(*check.value - *least, 2 * (*least > 0 ? *least : check.good_least.value_or(0)));
    return held;
}

Finding goodFinding(const Check& check, const char* discipline, const Shown& shown) {
    Finding f;
    f.id = std::string(discipline) + ":" + check.id;
    f.discipline = discipline;
    f.verdict = check.verdict;
    f.what = whatOf(check);
    f.held = heldOf(check, shown);
    f.rule = check.rule;
    f.place_vehicle_mm = check.place_vehicle_mm;
    return f;
}

Why whyOf(const Check& check, const Shown& shown) {
    Why why;
    if (!check.value) {
        why.so = upperFirst(check.reason.empty() ? "it is not known" : check.reason) + ".";
        return why;
    }
    const auto say = [&](double v) { return text(check.unit, v, shown); };
    const double value = *check.value;
    why.lines.push_back({WhyLine::Kind::Is, check.what, say(value), check.at, value});
    if (check.accuracy && *check.accuracy > 0)
        why.lines.push_back(
            {WhyLine::Kind::Doubt, "Doubt", "±" + say(*check.accuracy), "of what was measured", *check.accuracy});
    const auto least = check.least ? check.least : check.good_least;
    const auto most = check.most ? check.most : check.good_most;
    // The limit that decides: the one that is passed, else the nearer one.
    const bool by_most = most && (!least || value > *most || (value >= *least && *most - value <= value - *least));
    const auto limit = by_most ? most : least;
    if (limit) {
        const double left = by_most ? *limit - value : value - *limit;
        why.lines.push_back({WhyLine::Kind::Wanted, by_most ? "At most" : "At least", say(*limit), check.rule, *limit});
        why.so = left < 0 ? say(-left) + (by_most ? " too much" : " too little") : say(left) + " to spare";
        if (check.accuracy && left >= 0 && left < *check.accuracy) why.so += ", less than the doubt";
        why.so += std::string(": ") + model::word(check.verdict) + ".";
    }
    const auto good = by_most ? check.good_most : check.good_least;
    if (limit && good && std::abs(*good - *limit) > 1e-9)
        why.so += " Good is " + std::string(by_most ? "at most " : "at least ") + say(*good) + ".";
    if (!check.reason.empty()) why.so += (why.so.empty() ? "" : " ") + upperFirst(check.reason) + ".";
    if (check.help) why.most = check.help(shown);
    return why;
}

double pointerAt(double margin, double span) { return std::clamp(0.5 + 0.5 * margin / span, 0.02, 0.98); }

double tightness(const Check& check) {
    if (!check.value) return 2;
    const auto most = check.most ? check.most : check.good_most;
    const auto least = check.least ? check.least : check.good_least;
    if (most && *most > 0) return *check.value / *most;
    if (least && *least > 0) return 1 - (*check.value - *least) / (2 * *least);
    return 0;
}

} // namespace gabarit::discipline
