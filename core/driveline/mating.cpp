#include "driveline/mating.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>

namespace gabarit::driveline {
namespace {

using model::InterfaceKind;
using model::InterfaceSide;
using model::Sized;
using model::Verdict;

std::string number(double value) { return quantity::fixed(value, value == std::floor(value) ? 0 : 2); }

class Comparing {
public:
    Comparing(const model::Interface& interface, InterfaceReport& report) : of_(interface), report_(report) {}

    void same(const char* what, std::optional<double> InterfaceSide::*member, double within, const char* unit) {
        const auto &a = of_.a.*member, &b = of_.b.*member;
        if (!a || !b) return missing(what, !a, !b);
        if (std::abs(*a - *b) > within + 1e-9)
            differ(std::string(what) + ": " + number(*a) + unit + " at the " + side(of_.a, "first") + ", " +
                   number(*b) + unit + " at the " + side(of_.b, "second") + ".");
    }
    /// Where a length is given on either side: no more than the shorter one holds, and that must be `least` diameters.
    void longEnough(double least) {
        const auto &a = of_.a.length_mm, &b = of_.b.length_mm;
        if (!a && !b) return;
        if (!a || !b) return missing("Length", !a, !b);
        const auto diameter = of_.a.diameter_mm ? of_.a.diameter_mm : of_.b.diameter_mm;
        if (!diameter) return; // said already
        const double engaged = std::min(*a, *b);
        if (engaged < least * *diameter - 1e-9)
            differ("Length: " + number(engaged) + " mm are engaged, " + number(least * *diameter) + " mm wanted.");
    }
    /// The hole takes what goes through it, with no more play than `play`.
    void fits(const char* what, double play) {
        const auto &a = of_.a.diameter_mm, &b = of_.b.diameter_mm;
        if (!a || !b) return missing(what, !a, !b);
        if (*a < *b - 1e-9)
            differ("The " + side(of_.a, "bore") + " is " + number(*b - *a) + " mm too small for the " +
                   side(of_.b, "spigot") + ".");
        else if (*a - *b > play + 1e-9)
            differ("The " + side(of_.b, "spigot") + " has " + number(*a - *b) + " mm of play in the " +
                   side(of_.a, "bore") + ": it does not centre.");
    }
    void missing(const char* what, bool a, bool b) {
        unknown_ = true;
        report_.reasons.push_back(std::string(what) + " not known of the " +
                                  (a && b ? side(of_.a, "first") + " and the " + side(of_.b, "second")
                                   : a    ? side(of_.a, "first")
                                          : side(of_.b, "second")) +
                                  ".");
    }
    void differ(std::string reason) {
        differs_ = true;
        report_.reasons.insert(report_.reasons.begin(), std::move(reason));
    }
    void finish() {
        if (differs_ && of_.adapter.empty())
            report_.mating = Mating::DoesNot, report_.verdict = Verdict::NoGo;
        else if (differs_)
            report_.mating = Mating::Adapter, report_.verdict = Verdict::Close;
        else if (unknown_)
            report_.mating = Mating::Unknown, report_.verdict = Verdict::Unknown;
        else
            report_.mating = Mating::Mates, report_.verdict = Verdict::Go;
        if (report_.mating == Mating::Adapter) report_.reasons.push_back("Joined by: " + of_.adapter + ".");
    }

private:
    static std::string side(const InterfaceSide& side, const char* otherwise) {
        return side.name.empty() ? std::string(otherwise) + " side" : side.name;
    }
    const model::Interface& of_;
    InterfaceReport& report_;
    bool differs_ = false, unknown_ = false;
};

/// A place along the shaft as a sum of measured lengths.
struct Sum {
    double mm = 0;
    double tolerance_mm = 0;
    std::vector<std::string> missing;
    std::vector<std::string> untold; ///< whose tolerance is not given: nothing is measured exactly

    Sum plus(const Sized& by, const char* name, double sign = 1) const {
        Sum out = *this;
        if (by.mm)
            out.mm += sign * *by.mm;
        else
            out.missing.push_back(name);
        out.tolerance_mm += by.tolerance_mm;
        if (by.mm && by.tolerance_mm <= 0 && *by.mm != 0) out.untold.push_back(name); // no plate is no length
        return out;
    }
    Sum minus(const Sum& by) const {
        Sum out = *this;
        out.mm -= by.mm;
        out.tolerance_mm += by.tolerance_mm;
        out.missing.insert(out.missing.end(), by.missing.begin(), by.missing.end());
        out.untold.insert(out.untold.end(), by.untold.begin(), by.untold.end());
        return out;
    }
};

class Stack {
public:
    Stack(const model::BellStack& stack, const model::RuleBook& book) : s_(stack), book_(book) {}

    std::vector<Check> checks() {
        const Sum none;
        const Sum crank = none.plus(s_.crank_flange, "the crank flange behind the block");
        const Sum friction = crank.plus(length(s_.flywheel), "the flywheel's thickness");
        const Sum fingers = friction.plus(length(s_.clutch), "the clutch's height");
        const Sum gearbox =
            none.plus(s_.adapter_plate, "the adapter plate").plus(length(s_.bell_depth), "the bellhousing's depth");
        // What one figure of a group asks for needs all of them.
        const auto asked = [](std::initializer_list<const Sized*> group) {
            return std::any_of(group.begin(), group.end(), [](const Sized* each) { return each->mm.has_value(); });
        };
        if (asked({&s_.shaft_tip, &s_.pilot_mouth, &s_.pilot_bottom, &s_.shaft_shoulder})) pilot(crank, gearbox);
        if (asked({&s_.spline_from, &s_.spline_to, &s_.hub_from, &s_.hub_to})) splines(friction, gearbox);
        if (asked({&s_.release_at_rest, &s_.release_travel, &s_.finger_travel})) release(fingers, gearbox);
        if (asked({&s_.starter_face, &s_.starter_rest, &s_.starter_out, &s_.ring_from, &s_.ring_width})) starter(crank);
        if (s_.overhung_kg) {
            Check& c = add("overhung", "Adapter hung on the crank", Unit::Kilograms, "overhung_most_kg");
            c.value = s_.overhung_kg;
            c.good_most = book_.figure("overhung_most_kg");
            judge(c);
        }
        return std::move(out_);
    }

private:
    /// What is a thickness, a depth or a travel is above zero or not known; a place may be zero.
    static Sized length(const Sized& sized) { return sized.mm && *sized.mm > 0 ? sized : Sized{}; }
    Check& add(const char* id, const char* what, Unit unit, const char* rule) {
        Check c;
        c.id = std::string("bellhousing/") + id;
        c.what = what;
        c.unit = unit;
        c.rule = ruleOf(book_, rule);
        out_.push_back(std::move(c));
        return out_.back();
    }
    /// A length that must lie within what the book says.
    Check& held(const char* id, const char* what, const Sum& sum, const char* rule) {
        Check& c = add(id, what, Unit::Millimetres, rule);
        c.good_least = book_.figure(rule);
        settle(c, sum, sum.mm);
        return c;
    }
    static std::string listed(const std::vector<std::string>& names) {
        std::string out;
        for (const std::string& name : names)
            if (out.find(name) == std::string::npos) out += (out.empty() ? "" : ", ") + name;
        return out;
    }
    /// `by`: what one unit of the value is in mm.
    static void settle(Check& c, const Sum& sum, double value, double by_mm = 1) {
        c.accuracy = sum.tolerance_mm / by_mm;
        if (sum.missing.empty())
            c.value = value;
        else
            c.reason = "not given: " + listed(sum.missing);
        judge(c);
        if (sum.untold.empty() || c.verdict != model::Verdict::Go) return;
        c.verdict = model::Verdict::Unknown;
        c.reason = "the tolerance is not given of: " + listed(sum.untold);
    }

    void pilot(const Sum& crank, const Sum& gearbox) {
        const Sum tip = gearbox.plus(s_.shaft_tip, "the input shaft's tip", -1);
        const Sum depth = crank.plus(s_.pilot_mouth, "the pilot bearing's mouth").minus(tip);
        Check& in = held("pilot", "Input shaft in its pilot bearing", depth, "pilot_least_mm");
        if (in.value && *in.value <= 0) in.reason = "the tip does not reach it: a longer pilot, or a thinner plate";
        held("pilot-bottom", "Before the tip bottoms in the crank",
             Sum{}.plus(length(s_.pilot_bottom), "the pilot hole's depth").minus(depth), "pilot_clear_mm");
        held("pilot-shoulder", "Before the tip's shoulder meets the pilot",
             Sum{}.plus(length(s_.shaft_shoulder), "the tip's length").minus(depth), "pilot_clear_mm");
    }
    void splines(const Sum& friction, const Sum& gearbox) {
        const Sum from = gearbox.plus(s_.spline_from, "where the splines begin", -1);
        const Sum to = gearbox.plus(s_.spline_to, "where the splines end", -1);
        const Sum hub_from = friction.plus(s_.hub_from, "where the disc's hub begins");
        const Sum hub_to = friction.plus(s_.hub_to, "where the disc's hub ends");
        const double hub = hub_to.mm - hub_from.mm;
        const double overlap = std::min(to.mm, hub_to.mm) - std::max(from.mm, hub_from.mm);
        Check& c = add("splines", "Disc's hub on the splines", Unit::Share, "hub_on_splines_least");
        c.good_least = book_.figure("hub_on_splines_wanted");
        c.least = book_.figure("hub_on_splines_least");
        Sum all = to.minus(hub_from);
        for (const auto& [more, own] : {std::pair(&from, &s_.spline_from), std::pair(&hub_to, &s_.hub_to)}) {
            all.missing.insert(all.missing.end(), more->missing.begin(), more->missing.end());
            all.untold.insert(all.untold.end(), more->untold.begin(), more->untold.end());
            all.tolerance_mm += own->tolerance_mm; // what both hang on is counted already
        }
        settle(c, all, hub > 0 ? overlap / hub : 0, hub > 0 ? hub : 1);
    }
    void release(const Sum& fingers, const Sum& gearbox) {
        const Sum face = gearbox.plus(s_.release_at_rest, "the release bearing's face", -1);
        const Sum play = face.minus(fingers);
        Check& c = held("release-play", "Release bearing pushed back: from the fingers", play, "release_play_least_mm");
        if (c.value && *c.value < 0) c.reason = "it presses on them: the clutch would slip";
        const Sum left = Sum{}
                             .plus(length(s_.release_travel), "the release bearing's travel")
                             .minus(play)
                             .plus(length(s_.finger_travel), "how far the fingers must go", -1);
        held("release-travel", "Release travel left when the clutch is free", left, "release_travel_left_mm");
    }
    void starter(const Sum& crank) {
        const Sum front = crank.plus(s_.ring_from, "the ring gear behind the crank flange");
        const Sum rear = front.plus(length(s_.ring_width), "the ring gear's width");
        const Sum face = Sum{}.plus(s_.starter_face, "the starter's face behind the block");
        const double way = s_.starter_from_behind ? -1 : 1;
        const Sum rest = face.plus(s_.starter_rest, "the starter's pinion at rest", way);
        const Sum out = face.plus(s_.starter_out, "the starter's pinion thrown out", way);
        const Sum clear = s_.starter_from_behind ? rest.minus(rear) : front.minus(rest);
        const Sum mesh = s_.starter_from_behind ? rear.minus(out) : out.minus(front);
        held("starter-rest", "Starter's pinion at rest, from the ring gear", clear, "starter_clear_mm");
        Check& c = add("starter-mesh", "Starter's pinion on the ring gear's width", Unit::Share, "starter_mesh_least");
        c.good_least = book_.figure("starter_mesh_least");
        Sum all = mesh;
        all.missing.insert(all.missing.end(), rear.missing.begin(), rear.missing.end());
        all.untold.insert(all.untold.end(), rear.untold.begin(), rear.untold.end());
        all.tolerance_mm += s_.ring_width.tolerance_mm;
        const double width = s_.ring_width.mm.value_or(1);
        settle(c, all, width > 0 ? std::min(mesh.mm, width) / width : 0, width > 0 ? width : 1);
    }

    const model::BellStack& s_;
    const model::RuleBook& book_;
    std::vector<Check> out_;
};

} // namespace

const char* word(Mating mating) {
    switch (mating) {
    case Mating::Mates: return "mates";
    case Mating::Adapter: return "with an adapter";
    case Mating::DoesNot: return "does not";
    case Mating::Unknown: break;
    }
    return "not known";
}

InterfaceReport judgeInterface(const model::Interface& interface, const model::RuleBook& book) {
    InterfaceReport report;
    report.id = interface.id;
    report.name = interface.name;
    Comparing compare(interface, report);
    const double size = book.figure("same_size_mm");
    switch (interface.kind) {
    case InterfaceKind::Spline:
        compare.same("Teeth", &InterfaceSide::count, 0, "");
        compare.same("Major diameter", &InterfaceSide::diameter_mm, size, " mm");
        compare.longEnough(book.figure("engaged_least_diameters"));
        break;
    case InterfaceKind::Flange:
        compare.same("Bolts", &InterfaceSide::count, 0, "");
        compare.same("Bolt circle", &InterfaceSide::diameter_mm, size, " mm");
        compare.same("Spigot", &InterfaceSide::pilot_mm, size, " mm");
        compare.same("Bolt size", &InterfaceSide::bolt_mm, size, " mm");
        break;
    case InterfaceKind::Joint:
        compare.same("Cap", &InterfaceSide::diameter_mm, size, " mm");
        compare.same("Over the caps", &InterfaceSide::span_mm, size, " mm");
        break;
    case InterfaceKind::Bore: compare.fits("Diameter", size); break;
    }
    compare.finish();
    return report;
}

std::vector<Check> judgeBell(const model::BellStack& stack, const model::RuleBook& book) {
    return Stack(stack, book).checks();
}

} // namespace gabarit::driveline
